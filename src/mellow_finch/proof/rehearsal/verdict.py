"""What a rehearsal says of a program: what it was to show, what its picture shows, and what follows from both."""

from __future__ import annotations

from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass
from typing import Literal, NamedTuple

import numpy as np

from ...colour.difference import delta_e_2000
from ...colour.rgb import Rgba
from ...colour.spaces import Array, srgb_to_lab
from ...components.model import Component, Paint, Paints, Part
from ...language import named, plural, states, tr
from .measured import FlatSurface, Measured, TextPlace

State = Literal["unreadable", "other", "own", "failed", "absent", "as_look"]
ORDER: tuple[State, ...] = ("unreadable", "other", "own", "failed", "absent", "as_look")
SAME = 3.0  # CIEDE2000 up to which two colours are one
_OF_GRADIENT = 6.0  # the same for the end of a gradient, which may be painted nowhere
_LARGE = 0.1  # share of what a program shows from which a surface of its own counts
_SEEN = 60  # surfaces that are looked at, the largest first
_MARGIN = 0.98  # of a ratio that is asked: what measuring may be off
_FIRST = 6


class PartSeen(NamedTuple):
    """A part that was to be seen: its text or its fill, the colour it should have, and the nearest that is there."""

    part: Part
    what: Literal["fill", "text"]
    wanted: Rgba
    seen: Rgba | None
    difference: float
    most: float = SAME

    @property
    def right(self) -> bool:
        """Tell whether it is there."""
        return self.difference <= self.most

    @property
    def words(self) -> str:
        """Return what it is, for people."""
        state = f", {states(self.part.state)}" if self.part.state else ""
        what = tr("text") if self.what == "text" else tr("surface")
        return f"{named(self.part.id)}{state}: {what}"


@dataclass(frozen=True, slots=True)
class Shown:
    """What was found out from the picture of one program.

    parts: those that were to be seen; foreign: large surfaces of colours that the look does not have; short: texts that
    cannot be read, the worst first; texts: how many places of text were measured.
    """

    state: State
    parts: tuple[PartSeen, ...] = ()
    foreign: tuple[FlatSurface, ...] = ()
    short: tuple[TextPlace, ...] = ()
    texts: int = 0

    @property
    def words(self) -> str:
        """Return it in a sentence."""
        if self.state == "unreadable":
            worst = self.short[0]
            return plural(
                "{count} text is unreadable, at worst {ratio:.2f} of {need:g}.",
                "{count} texts are unreadable, at worst {ratio:.2f} of {need:g}.",
                len(self.short),
                ratio=worst.ratio,
                need=worst.need.level,
            )
        if self.state == "other":
            missing = [p for p in self.parts if not p.right]
            if missing:
                return tr("{part} is {seen} instead of {wanted}.").format(
                    part=_capital(missing[0].words),
                    seen=missing[0].seen.hex if missing[0].seen else tr("not seen"),
                    wanted=missing[0].wanted.hex,
                )
            if self.foreign:
                words = tr("A large surface is {colour}, which is not in the look.")
                return words.format(colour=self.foreign[0].colour.hex)
        return _state_words(self.state)


def _state_words(state: State) -> str:
    """Return the sentence of a state that needs no figures."""
    return {
        "as_look": tr("It shows the look, and all its text is readable."),
        "own": tr("It keeps its own colours: it does not change with the look."),
        "absent": tr("Not installed here."),
        "failed": tr("It did not start in the hidden session."),
        "other": tr("Other colours than those of the look."),
        "unreadable": tr("Text is unreadable."),
    }[state]


def state_title(state: State) -> str:
    """Return what a state is called."""
    return {
        "as_look": tr("As the look"),
        "own": tr("Keeps its own colours"),
        "absent": tr("Not installed"),
        "failed": tr("Did not start"),
        "other": tr("Other colours"),
        "unreadable": tr("Unreadable"),
    }[state]


def _capital(words: str) -> str:
    return words[:1].upper() + words[1:]


def _labs(colours: Sequence[Rgba]) -> Array:
    return srgb_to_lab(np.array([c[:3] for c in colours], float).reshape(-1, 3) / 255.0)


def _nearest(wanted: Rgba, colours: Sequence[Rgba]) -> tuple[Rgba | None, float]:
    if not colours:
        return None, float("inf")
    away = delta_e_2000(_labs([wanted]), _labs(colours))
    best = int(np.argmin(away))
    return colours[best], float(away[best])


def _opaque(paint: Paint) -> tuple[Rgba, ...]:
    """Return the colours of a fill that nothing shines through, several of a gradient; none where something does."""
    for layer in reversed(paint.layers):
        if layer and all(c.a >= 1 for c in layer):
            return layer
        if any(c.a > 0 for c in layer):
            return ()
    return ()


def judge(
    component: Component,
    paints: Paints,
    roles: Mapping[str, Rgba],
    measured: Measured,
    shows: Iterable[str],
    changed: bool,
    answers: Mapping[str, str] | None = None,
    icons: bool = False,
) -> Shown:
    """Return what a picture says of a component that was worn.

    paints: what its files say; roles: every colour of the look; shows: parts that have to be seen; changed: whether the
    picture changes with the look; answers: what a terminal told of its colours, by role; icons: whether it is filled
    with pictures of others. Pure.
    """
    parts: list[PartSeen] = []
    veiled = False  # whether something is translucent, whose colour in the picture nobody can tell
    for row in shows:
        key, _, only = row.partition("/")
        part, paint = component.by_key[key], paints.get(key)
        if paint is None:
            continue
        fill = _opaque(paint)
        veiled |= not fill and any(0 < c.a < 1 for layer in paint.layers for c in layer)
        if fill and only != "text":
            there = measured.lines if len(fill) == 1 else measured.colours
            worst = max(((c, *_nearest(c, there)) for c in fill), key=lambda row: row[2])
            parts.append(PartSeen(part, "fill", *worst, SAME if len(fill) == 1 else _OF_GRADIENT))
        if paint.text is not None and paint.text.a >= 1 and only != "fill":
            wanted = (paint.text, *_brighter(paint.text, roles))
            told = min(((c, *_nearest(c, measured.colours)) for c in wanted), key=lambda row: row[2])
            parts.append(PartSeen(part, "text", *told))
    parts += _answered(component, paints, answers or {}, measured.colours)
    known = _known(paints, roles)
    foreign = tuple(
        s
        for s in measured.surfaces[:_SEEN]
        if not icons and s.share >= _LARGE and _nearest(s.colour, known)[1] > SAME + 1
    )
    short = tuple(t for t in measured.texts if _is_short(t, component, paints))
    right = (bool(parts) or veiled) and all(p.right for p in parts) and not foreign
    state: State = "as_look" if right and changed else "other"
    if not changed:
        state = "own"
    if any(not t.mark for t in short) and state != "own":
        state = "unreadable"
    return Shown(state, tuple(sorted(parts, key=lambda p: -p.difference)), foreign, short, len(measured.texts))


def _brighter(text: Rgba, roles: Mapping[str, Rgba]) -> list[Rgba]:
    """Return the bright ones of the sixteen that a terminal may write bold text in, for one of the first eight."""
    return [roles[f"ansi_{i + 8}"] for i in range(8) if roles.get(f"ansi_{i}") == text and f"ansi_{i + 8}" in roles]


def _answered(
    component: Component, paints: Paints, answers: Mapping[str, str], painted: Sequence[Rgba]
) -> list[PartSeen]:
    """Return what a terminal answered as parts: its text and ground, and the sixteen."""
    out: list[PartSeen] = []
    for name, told in answers.items():
        key = "terminal" if name in ("text", "ground") else f"colour {name.rpartition('_')[2]}"
        paint, part = paints.get(key), component.by_key.get(key)
        wanted = None if paint is None else paint.fill if name == "ground" else paint.text
        if part is None or wanted is None or not told or wanted.a < 1:
            continue
        # What is painted counts before what is said: some answer from a table that they do not paint by.
        seen, away = _nearest(wanted, painted)
        if away > SAME:
            seen = Rgba(*bytes.fromhex(told[1:7]))
            away = _nearest(wanted, [seen])[1]
        out.append(PartSeen(part, "fill" if name == "ground" else "text", wanted, seen, away))
    return out


def _known(paints: Paints, roles: Mapping[str, Rgba]) -> list[Rgba]:
    found = {c.opaque: None for c in roles.values()}
    for paint in paints.values():
        rows = [paint.fill, paint.text, paint.edge, *(c for layer in paint.layers for c in layer)]
        found |= {c.opaque: None for c in rows if c is not None and c.a > 0}
    return list(found)


def _is_short(text: TextPlace, component: Component, paints: Paints) -> bool:
    """Tell whether a text cannot be read: it fails, and is none that may be quieter by what it is."""
    if text.ratio >= text.need.level * _MARGIN:
        return False
    for part in component.parts:
        paint = paints.get(part.key)
        if paint is None or paint.text is None or part.need.level * _MARGIN > text.ratio:
            continue
        fill = _opaque(paint)
        near_text = _nearest(paint.text, [text.ink])[1] <= SAME
        if near_text and (not fill or _nearest(text.ground, fill)[1] <= SAME):
            return False
    return True


def first_words(parts: Sequence[PartSeen]) -> list[str]:
    """Return the parts that are not as they should be, a line each."""
    return [
        f"{_capital(p.words)}: {p.seen.hex if p.seen else '–'} ≠ {p.wanted.hex} (ΔE {p.difference:.1f})"
        for p in parts
        if not p.right
    ][:_FIRST]
