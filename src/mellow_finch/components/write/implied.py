"""Pairs that nobody named: the words of a person's own rules for modules and widgets, on what the same rules fill."""

from __future__ import annotations

import re
from collections.abc import Callable, Iterator, Mapping, Sequence
from itertools import product

from ...colour.blend import over
from ...colour.difference import colour_difference
from ...colour.gamut import oklch_to_rgba, rgba_to_oklch
from ...colour.requirement import measure
from ...colour.rgb import Rgba
from ...palette.fit import fit
from ...recolour.colour_map import is_vivid
from ...recolour.guess import use_of
from ...recolour.rewrite import RecolourSubject
from ...syntax.spans import ColourSpan
from ..judge import Behind, surfaces_under
from ..model import Paints, Part

_STEM = re.compile(r"background|foreground|colou?r|(?:^|[-_.$])(?:bg|fg)(?=$|[-_])", re.IGNORECASE)
_TINT = 0.4  # opacity under which a fill tints rather than covers
_APART = 11.0  # CIEDE2000 between words that are distinguished by hue
_WERE_APART = 10.0
_VARIABLE = re.compile(r"^(?:\$|--|@define-color)")
_NAMED_IN = re.compile(r"colou?rs?|palette|theme|variables|\*|:root", re.IGNORECASE)


def place_of_pair(span: ColourSpan) -> tuple[str, str]:
    """Return what the ground and the words of one thing have in common: the rule, and the rest of the key."""
    return span.where, _STEM.sub("", span.key).strip("-_ ")


def with_words_readable(
    subject: RecolourSubject,
    colours: Sequence[Rgba],
    parts: Sequence[Part],
    behind: Behind,
    known: Mapping[str, tuple[int | None, int | None, int | None]],
    read: Callable[[str], Paints],
    written: str,
    alpha: bool,
) -> list[Rgba]:
    """Return the colours with those words moved that stand on a ground that no part names.

    Args:
        colours: of every span, after all that parts name can be read.
        known: by part, the spans that it draws, which are left as they are.
        written: the text in these colours.
        alpha: whether the syntax can spell translucency.
    """
    out = list(colours)
    ground = next((p for p in parts if p.on_picture or any(q.under == p.id for q in parts)), None)
    paints = read(written)
    if ground is None or ground.key not in paints:
        return out
    faces = surfaces_under(paints[ground.key].layers, behind, ground.place)
    need = behind.need(ground).level
    judged = {at for row in known.values() for at in row}
    for i, fills in _words(subject.spans, colours):
        if i in judged or _is_variable(subject.spans[i]):
            continue
        under = [over(fill, face) if fill.a < 1 else fill for fill in fills for face in faces] or list(faces)
        better = fit(out[i], [(face, need) for face in dict.fromkeys(under)], alpha)
        out[i] = better if better is not None else out[i]
    return _told_apart(subject, out, [(face, need) for face in faces])


def _told_apart(subject: RecolourSubject, colours: list[Rgba], faces: Sequence[tuple[Rgba, float]]) -> list[Rgba]:
    """Return the colours with words moved in hue that came too near to others which they were distinguished from.

    faces: the ground that they all stand on, with the need there.
    """
    out = list(colours)
    taken: list[tuple[Rgba, Rgba]] = []  # what they were, and are now
    for group in sorted(subject.groups, key=lambda g: g.role != "accent"):
        own = [i for i in group.spans if use_of(subject.spans[i]) == "text" and is_vivid(subject.spans[i].colour)]
        for i in own[:1]:
            was, now = subject.spans[i].colour.opaque, out[i]
            others = [new for old, new in taken if colour_difference(old, was) >= _WERE_APART]
            if any(colour_difference(new, now) < _APART for new in others):
                better = next((c for c in _near_in_hue(now) if _free(c, others, faces)), now)
                for j in own:
                    out[j] = better._replace(a=out[j].a) if out[j] == now else out[j]
            taken.append((was, out[i]))
    return out


def _near_in_hue(colour: Rgba) -> Iterator[Rgba]:
    """Yield colours of other hues and more chroma, the nearest first."""
    light, chroma, hue = rgba_to_oklch(colour.opaque)
    for turn in range(8, 73, 8):
        for side, more in product((1, -1), (1.0, 1.4)):
            yield oklch_to_rgba(light, max(chroma, 0.06) * more, hue + side * turn)


def _free(colour: Rgba, others: Sequence[Rgba], faces: Sequence[tuple[Rgba, float]]) -> bool:
    return all(colour_difference(colour, other) >= _APART for other in others) and all(
        measure(colour, face) >= need for face, need in faces
    )


def _is_variable(span: ColourSpan) -> bool:
    """Tell whether a literal only has a name, so that what it is for is told elsewhere."""
    return bool(_VARIABLE.match(span.key) or _NAMED_IN.fullmatch(span.where))


def _words(spans: Sequence[ColourSpan], colours: Sequence[Rgba]) -> Iterator[tuple[int, list[Rgba]]]:
    """Yield every span that writes, with what the same rule fills."""
    fills: dict[tuple[str, str], list[Rgba]] = {}
    for span, colour in zip(spans, colours, strict=True):
        if use_of(span) == "surface" and colour.a >= _TINT:
            fills.setdefault(place_of_pair(span), []).append(colour)
    for i, span in enumerate(spans):
        if use_of(span) == "text" and colours[i].a > 0:
            yield i, fills.get(place_of_pair(span), [])
