"""Files of keys and values judged by their pairs, and mended: the text of a thing on the ground of the same thing.

What belongs together is told by the keys: fg on bg, text on base, `menu.items.text.color` on `menu.items.bg.color`,
in the same section and the same state; where a thing has no ground of its own, what it lies on has.
"""

from __future__ import annotations

import re
from bisect import bisect
from collections.abc import Collection, Iterable, Iterator, Mapping, Sequence
from functools import lru_cache
from typing import NamedTuple

from ...colour.blend import over
from ...colour.requirement import DISABLED, MARK, TEXT, Requirement, measure
from ...colour.rgb import Rgba
from ...palette.fit import fit
from ...syntax.spans import ColourSpan
from ..bundle.model import ThemeText
from ..result.account import MeasuredFailure, RemainingFailure

_WORD = re.compile(r"[A-Z]+(?![a-z])|[A-Z]?[a-z]+|\d+")
_BRACE = re.compile(r"[{}]")
_NAMED = re.compile(r"([\w-]+)\s*[:=]\s*[\"']?$")  # what stands before a literal within a value
_TEXTS = {"fg": "bg", "text": "base", "foreground": "background"}
_GROUNDS = frozenset({"bg", "base", "background", "fill"})
_NEITHER = frozenset({"border", "shadow", "outline", "separator", "divider", "cursor", "highlight"})
_SAY_NOTHING = frozenset({"color", "colour", "colors", "colours", "to", "image", "normal"})
_STATES = frozenset(
    (
        *("active", "inactive", "prelight", "hover", "hovered", "pressed", "selected", "insensitive"),
        *("disabled", "focus", "focused", "unfocused", "urgent", "critical", "low", "visible"),
    )
)
_OFF = frozenset({"insensitive", "disabled"})
_SOLID = 0.6  # alpha from which a ground covers what lies below
_MORE = 1.02
_TOLD_MORE = 1.2  # what a text gets above its need that was painted short: letters are blurred

# By place, what a text lies on, what it needs there, and how much of it is seen.
Wanted = Mapping[str, Sequence[tuple[Rgba, float, float]]]


class KeyedPair(NamedTuple):
    """The numbers of a text's literal and of those that it lies on, and the ratio that it needs."""

    text: int
    grounds: tuple[int, ...]
    need: Requirement


class _Key(NamedTuple):
    """A key taken apart: its words in order, those of its state, those of the thing, and if text, ground or mark."""

    words: tuple[str, ...]
    states: frozenset[str]
    stem: frozenset[str]
    kind: str


@lru_cache(maxsize=16384)
def _key_of(key: str, sure: str) -> _Key:
    words = tuple(w.lower() for w in _WORD.findall(key))
    there = set(words)
    kind = ""
    if there & _NEITHER:
        pass
    elif there & _GROUNDS:
        kind = "ground"
    elif there & _TEXTS.keys() or sure.endswith("_text"):
        kind = "mark" if "image" in there else "text"
    stem = there - _STATES - _GROUNDS - _TEXTS.keys() - _SAY_NOTHING
    return _Key(words, frozenset(there & _STATES), frozenset(stem), kind)


def _told(text: ThemeText, span: ColourSpan, sure: str) -> str:
    """Return the key of a literal; where a value holds many, the name before it."""
    if _key_of(span.key, sure).kind:
        return span.key
    named = _NAMED.search(text.text, max(0, span.start - 60), span.start)
    return named.group(1) if named else span.key


def pairs_of(text: ThemeText) -> list[KeyedPair]:
    """Return the pairs of a text; a text whose ground cannot be told has none.

    Where the keys do not tell it, the roles do that the format gives them.
    """
    sure = text.sure or [""] * len(text.spans)
    keys = [_key_of(_told(text, span, s), s) for span, s in zip(text.spans, sure, strict=True)]
    starts = _blocks(text.text)
    places = [(span.where, bisect(starts, span.start)) for span in text.spans]
    out: list[KeyedPair] = []
    for i, key in enumerate(keys):
        if key.kind in ("text", "mark"):
            grounds = [(j, k) for j, k in enumerate(keys) if k.kind == "ground" and places[j] == places[i]]
            need = DISABLED if key.states & _OFF else MARK if key.kind == "mark" else TEXT
            under = _under(key, grounds)
            if not under and sure[i].endswith("_text"):  # what the format says of the one and of the other
                surface = sure[i].removesuffix("_text")
                under = tuple(j for j, role in enumerate(sure) if role == surface)
            if under:
                out.append(KeyedPair(i, under, need))
    return out


def _move_told(text: ThemeText, colours: list[Rgba], kept: Collection[int], wanted: Wanted) -> set[int]:
    """Give the texts that were painted short a colour for what they were painted on; return their numbers."""
    moved: set[int] = set()
    for i, span in enumerate(text.spans):
        rows = wanted.get(f"{span.where}/{span.key}", ())
        if not rows or i in kept:
            continue
        for seen in sorted({seen for *_, seen in rows}, reverse=True):
            shown = colours[i]._replace(a=seen)
            here = [(surface, need) for surface, need, part in rows if part == seen]
            ways = (fit(shown, [(s, n * more) for s, n in here], may_rise=False) for more in (_TOLD_MORE, _MORE))
            better = next((colour for colour in ways if colour is not None), None)
            if better is not None:
                colours[i] = better.opaque
                moved.add(i)
    return moved


def _blocks(text: str) -> list[int]:
    """Return where the outermost blocks in braces begin and end: what lies between two of these belongs together."""
    depth, out = 0, []
    for found in _BRACE.finditer(text):
        before, depth = depth, max(0, depth + (1 if found.group() == "{" else -1))
        if (before == 0) != (depth == 0):
            out.append(found.start())
    return out


def _under(key: _Key, grounds: Sequence[tuple[int, _Key]]) -> tuple[int, ...]:
    """Return what a text lies on: the ground of the same thing in the same state, else of what begins alike."""
    partner = next((_TEXTS[word] for word in key.words if word in _TEXTS), "")
    for states in (key.states, key.states - _OFF):
        same = [(j, k) for j, k in grounds if k.states == states]
        own = [(j, k) for j, k in same if k.stem == key.stem]
        best = [(j, k) for j, k in own if partner in k.words] or own
        if not best:
            most = max((_shared(key.words, k.words) for _, k in same), default=0)
            best = [(j, k) for j, k in same if _shared(key.words, k.words) == most > 0]
            best = [(j, k) for j, k in best if "title" in k.words] or best
        if best:
            return tuple(j for j, _ in best)
    return ()


def _shared(first: Sequence[str], second: Sequence[str]) -> int:
    """Return how many words two keys begin with alike."""
    apart = (i for i, (a, b) in enumerate(zip(first, second, strict=False)) if a != b)
    return next(apart, min(len(first), len(second)))


def mend_keyed(
    path: str,
    text: ThemeText,
    colours: list[Rgba],
    kept: Collection[int],
    told: Iterable[MeasuredFailure] = (),
    text_need: float = TEXT.level,
) -> Iterator[RemainingFailure]:
    """Move the colours of texts to the nearest that can be read, in place; yield what still has insufficient contrast.

    kept: the numbers of literals that must not move; told: what the real reader painted short, which counts most;
    text_need: the ratio that texts have to reach.
    """
    wanted: dict[str, list[tuple[Rgba, float, float]]] = {}
    for row in told:
        wanted.setdefault(row.part, []).append((row.surface.opaque, row.need, row.seen))
    moved = _move_told(text, colours, kept, wanted)
    pairs = [(p, p.need.raised(text_need)) for p in pairs_of(text) if p.text not in moved]
    for pair, need in pairs:
        under = _solid(pair, colours)
        if not _reads(pair, need, colours, under) and pair.text not in kept:
            _make_room(pair, need, colours, under, kept)
    for pair, need in pairs:  # what had to give way for one text may be too near to another now
        under = _solid(pair, colours)
        if not _reads(pair, need, colours, under):
            better = fit(colours[pair.text].opaque, [(colours[j].opaque, need.level * _MORE) for j in under])
            if better is not None and pair.text not in kept:
                colours[pair.text] = better._replace(a=1.0)
            else:
                yield RemainingFailure(path, text.spans[pair.text].key, _worst(pair, colours, under), need.level)


def _solid(pair: KeyedPair, colours: Sequence[Rgba]) -> list[int]:
    """Return the grounds of a pair that cover what lies below them."""
    return [j for j in pair.grounds if colours[j].a >= _SOLID]


def _worst(pair: KeyedPair, colours: Sequence[Rgba], under: Sequence[int]) -> float:
    return min(measure(over(colours[pair.text], colours[j].opaque), colours[j].opaque) for j in under)


def _reads(pair: KeyedPair, need: Requirement, colours: Sequence[Rgba], under: Sequence[int]) -> bool:
    return not under or need.met(_worst(pair, colours, under))


def _make_room(
    pair: KeyedPair, need: Requirement, colours: list[Rgba], under: Sequence[int], kept: Collection[int]
) -> None:
    """Give the grounds that no text can be read on a colour on which the one can that is nearest to being read."""
    if fit(colours[pair.text].opaque, [(colours[j].opaque, need.level * _MORE) for j in under]) is not None:
        return
    inks = (Rgba(0, 0, 0), Rgba(255, 255, 255))
    ink = max(inks, key=lambda ink: min(measure(ink, colours[j].opaque) for j in under))
    for j in (j for j in under if j not in kept):
        better = fit(colours[j].opaque, [(ink, need.level * _MORE * _MORE)])
        if better is not None:
            colours[j] = better._replace(a=colours[j].a)
