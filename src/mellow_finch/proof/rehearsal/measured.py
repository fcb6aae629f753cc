"""What a picture of a program shows, told from its pixels alone: its surfaces, and every text on its ground.

A surface is what is of one colour over blocks of some pixels. A text is a small thing between: its ground is the
commonest colour around it, its inks are the ends of its strokes, however these were smoothed.
"""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Sequence
from typing import NamedTuple

import numpy as np
from numpy.typing import NDArray

from ...colour.contrast import ratio
from ...colour.requirement import MARK, TEXT, Requirement
from ...colour.rgb import Rgba
from ...colour.spaces import srgb_to_oklab
from .things import Mask, things_in, widened

Pixels = NDArray[np.uint8]
Box = tuple[int, int, int, int]  # left, top, width, height in pixels

_BLOCK = 4  # pixels that a surface is wide and tall at least: more than strokes of letters
_GAP = 2  # pixels between letters of a word
_AROUND = 2  # pixels around a word that tell its ground
_OF_ONE = 0.8  # share of these that have to be of one colour
_LOW, _TALL, _LONG = 5, 48, 700  # a text's height, at least and at most, and its width
_FEWEST = 8  # pixels of ink
_APART = 0.06  # distance in OKLab from which a colour is no smoothing of another
_BETWEEN = 10  # levels that a smoothed pixel may lie beside what it is mixed of
_SHARE = 0.1  # of a word's pixels that a further ink has
_MOST_INKS = 4
_STRANGE = 0.3  # share of pixels that no ink explains, from which it is a picture
_MARK = 1.6  # proportion of width and height up to which a thing is a mark rather than a word
_NOWHERE = -1  # the number of a pixel that does not count
_SHORT = 20  # pixels up to which one thing of its colour alone is a mark
_THIN = 6  # pixels that a thing alone is wide at least
_MOST_WORDS = 6000
_SMOOTHED = 4  # colours from which a word's strokes are smoothed
_LINE = 4  # of its height that the next word of a line is away at most
_MOST_SURFACES, _MOST_COLOURS = 60, 400
_SPECK, _RULE = 6, 150  # pixels of a colour that is more than a speck, and of one that is a line
_HOLLOW, _DRAWN = (
    0.55,
    0.85,
)  # of two of its sides that a frame fills with nothing inside, of all four with a text inside
_EMPTY = 0.03  # share of drawn pixels up to which there is nothing inside
_FLAT = 3  # pixels of height up to which what has a colour of its own among others is no word
_SQUARE = 11  # pixels from which a square part of several colours is a picture rather than a letter


class FlatSurface(NamedTuple):
    """A colour that areas are filled with. share: of the picture, 0 to 1; box: around all of it."""

    colour: Rgba
    share: float
    box: Box


class TextPlace(NamedTuple):
    """Texts of one colour on one ground.

    boxes: where, the largest first; mark: whether they look like marks; asked: the ratio that the look asks of texts.
    """

    ink: Rgba
    ground: Rgba
    boxes: tuple[Box, ...]
    mark: bool = False
    asked: float = TEXT.level

    @property
    def ratio(self) -> float:
        """Return the contrast ratio, 1 to 21."""
        return ratio(self.ink, self.ground)

    @property
    def need(self) -> Requirement:
        """Return what it needs."""
        return MARK if self.mark else TEXT.raised(self.asked)


class Measured(NamedTuple):
    """What a picture shows: its surfaces, largest first, its texts, the least readable first, and its colours.

    colours: the commonest that are more than a speck; lines: those of them that could be a line.
    """

    surfaces: tuple[FlatSurface, ...]
    texts: tuple[TextPlace, ...]
    colours: tuple[Rgba, ...] = ()
    lines: tuple[Rgba, ...] = ()


def measure_picture(pixels: Pixels, painted: Mask | None = None) -> Measured:
    """Return what a picture of shape (height, width, 3) shows. painted: which pixels count, all without it. Pure."""
    codes = pixels.astype(np.int32) @ np.array([65536, 256, 1], np.int32)
    counts = np.ones(codes.shape, bool) if painted is None else painted
    codes = np.where(counts, codes, _NOWHERE)
    flat = _flat(codes) & counts
    own = codes[counts]
    surfaces = _surfaces(codes, flat, max(1, own.size))
    return Measured(surfaces, _texts(codes, flat, ~flat & counts), _colours(own, _SPECK), _colours(own, _RULE))


def _colours(codes: NDArray[np.int32], least: int) -> tuple[Rgba, ...]:
    found, counts = np.unique(codes, return_counts=True)
    order = np.argsort(-counts, kind="stable")[:_MOST_COLOURS]
    return tuple(colour_of(int(found[i])) for i in order if counts[i] >= least)


def colour_of(code: int) -> Rgba:
    """Return the colour of a number 0xrrggbb."""
    return Rgba(code >> 16 & 255, code >> 8 & 255, code & 255)


def _flat(codes: NDArray[np.int32]) -> NDArray[np.bool_]:
    """Return which pixels are in a block of one colour."""
    high, wide = codes.shape
    out = np.zeros(codes.shape, bool)
    if high < _BLOCK or wide < _BLOCK:
        return out
    corner = codes[: high - _BLOCK + 1, : wide - _BLOCK + 1]
    same = np.ones(corner.shape, bool)
    shifts = [(dy, dx) for dy in range(_BLOCK) for dx in range(_BLOCK)]
    for dy, dx in shifts[1:]:
        same &= codes[dy : dy + corner.shape[0], dx : dx + corner.shape[1]] == corner
    for dy, dx in shifts:
        out[dy : dy + corner.shape[0], dx : dx + corner.shape[1]] |= same
    return out


def _surfaces(codes: NDArray[np.int32], flat: Mask, size: int) -> tuple[FlatSurface, ...]:
    found, counts = np.unique(codes[flat], return_counts=True)
    order = np.argsort(-counts, kind="stable")[:_MOST_SURFACES]
    rows = []
    for i in order:
        ys, xs = np.nonzero(flat & (codes == found[i]))
        left, top = int(xs.min()), int(ys.min())
        box = (left, top, int(xs.max()) - left + 1, int(ys.max()) - top + 1)
        rows.append(FlatSurface(colour_of(int(found[i])), int(counts[i]) / size, box))
    return tuple(rows)


def _box(box: Sequence[slice]) -> Box:
    rows, columns = box
    return columns.start, rows.start, columns.stop - columns.start, rows.stop - rows.start


def _texts(codes: NDArray[np.int32], flat: Mask, rough: Mask) -> tuple[TextPlace, ...]:
    # Before words are joined, rules and frames are left out: they would join all that they touch.
    for thing in things_in(rough):
        if _is_frame(_box(thing.span)):
            rough[thing.span] &= ~thing.own
        elif (band := _frame_of(thing.own)) is not None:
            rough[thing.span] &= ~(thing.own & band)
    words_found: list[_Word] = []
    for thing in things_in(widened(rough, _GAP))[:_MOST_WORDS]:
        span = thing.span
        left, top, wide, high = _box(span)
        box = (left + _GAP, top, wide - 2 * _GAP, high)
        if not (_LOW <= box[3] <= _TALL and 2 <= box[2] <= _LONG):
            continue
        own = thing.own & rough[span]
        ground = _ground(codes, flat, span)
        if ground is None:
            continue
        colours = codes[span][own]
        colours = colours[(colours != ground) & (colours != _NOWHERE)]
        inks = _inks(colours, ground) if len(colours) >= _FEWEST else []
        beside = _beside(codes, flat, span, ground)
        for ink in inks:
            where = _box_of(codes[span], own, ink, box) if len(inks) > 1 else box
            if ink in beside or (len(inks) > 1 and min(where[2:]) >= _SQUARE and _is_square(where)):
                continue  # the edge of another surface, or a drawing
            if len(inks) > 1 and where[3] < _FLAT:
                continue  # a line under or beside the words
            words_found.append(_Word(ink, ground, where, len(np.unique(colours)) >= _SMOOTHED))
    found: dict[tuple[int, int], list[Box]] = defaultdict(list)
    for word in words_found:
        if word.box[2] >= _THIN or not _is_alone(word, words_found):
            found[_whole_ink(word, words_found), word.ground].append(word.box)
    rows_ = [
        TextPlace(
            colour_of(ink),
            colour_of(ground),
            tuple(sorted(boxes, key=lambda b: -b[2] * b[3])),
            _are_marks(boxes),
        )
        for (ink, ground), boxes in found.items()
    ]
    return tuple(sorted(rows_, key=lambda t: t.need.shortfall(t.ratio)))


class _Word(NamedTuple):
    ink: int
    ground: int
    box: Box
    smoothed: bool


def _is_beside(box: Box, other: Box) -> bool:
    """Tell whether two boxes are words of one line."""
    x, y, wide, high = box
    ox, oy, owide, ohigh = other
    apart = max(x - (ox + owide), ox - (x + wide))
    level = min(y + high, oy + ohigh) - max(y, oy)
    return apart <= _LINE * max(high, ohigh) and level * 2 >= min(high, ohigh)


def _is_alone(word: _Word, words: Sequence[_Word]) -> bool:
    """Tell whether no word of the same line is written alike."""
    near = (o for o in words if o is not word and o.ground == word.ground and _is_beside(word.box, o.box))
    return not any(o.ink == word.ink or (o.smoothed and _is_between(word.ink, word.ground, o.ink)) for o in near)


def _whole_ink(word: _Word, words: Sequence[_Word]) -> int:
    """Return a word's ink: that of the words beside it, where its own strokes are too thin to show it whole."""
    if not word.smoothed:
        return word.ink
    best, length = word.ink, _length(word.ink, word.ground)
    for other in words:
        if other.ground != word.ground or not other.smoothed or not _is_beside(word.box, other.box):
            continue
        if _length(other.ink, word.ground) > length and _is_between(word.ink, word.ground, other.ink):
            best, length = other.ink, _length(other.ink, word.ground)
    return best


def _channels(code: int) -> tuple[int, int, int]:
    return code >> 16 & 255, code >> 8 & 255, code & 255


def _length(ink: int, ground: int) -> int:
    return sum(abs(a - b) for a, b in zip(_channels(ink), _channels(ground), strict=True))


def _is_between(ink: int, ground: int, end: int) -> bool:
    """Tell whether a colour is a mixture of two: on the line between them."""
    start, stop, at = (np.array(_channels(c), float) for c in (ground, end, ink))
    way = stop - start
    share = float(np.clip((at - start) @ way / max(1.0, float(way @ way)), 0, 1))
    return bool(np.abs(at - start - share * way).max() <= _BETWEEN * 2)


def _is_frame(box: Box) -> bool:
    """Tell whether a thing is a rule or a frame rather than a word."""
    return box[3] > _TALL or (box[2] > _TALL and box[3] <= _LOW - 2) or box[2] > _LONG


def _frame_of(pixels: Mask) -> Mask | None:
    """Return the band along the sides of a thing that is a frame, drawn there; what is inside may be text."""
    high, wide = pixels.shape
    if high < 2 * _LOW or wide < 2 * _LOW:
        return None
    near = max(2, min(high, wide) // 6)
    sides = (pixels[:near].any(0), pixels[-near:].any(0), pixels[:, :near].any(1), pixels[:, -near:].any(1))
    drawn = [float(side.mean()) for side in sides]
    band = np.ones(pixels.shape, bool)
    band[near + 1 : -near - 1, near + 1 : -near - 1] = False
    inside = pixels[~band]
    empty = inside.size == 0 or float(inside.mean()) < _EMPTY
    return band if min(drawn) >= _DRAWN or (sum(d >= _HOLLOW for d in drawn) >= 2 and empty) else None


def _is_square(box: Box) -> bool:
    return 1 / _MARK <= box[2] / box[3] <= _MARK


def _are_marks(boxes: Sequence[Box]) -> bool:
    """Tell whether things are marks rather than words: none is wider than tall, or it is one small thing alone."""
    small = len(boxes) == 1 and boxes[0][2] < _SHORT
    return small or all(box[2] <= _MARK * box[3] for box in boxes)


def _beside(
    codes: NDArray[np.int32], flat: NDArray[np.bool_], span: tuple[slice, slice], ground: int
) -> frozenset[int]:
    """Return the colours of other surfaces that touch a thing."""
    rows = slice(max(0, span[0].start - _AROUND), span[0].stop + _AROUND)
    columns = slice(max(0, span[1].start - _AROUND), span[1].stop + _AROUND)
    here = codes[rows, columns][flat[rows, columns]]
    return frozenset(np.unique(here[here != ground]).tolist())


def _box_of(codes: NDArray[np.int32], own: NDArray[np.bool_], ink: int, box: Box) -> Box:
    """Return the box around the pixels of one ink in a thing."""
    rows, columns = np.nonzero(own & (codes == ink))
    if not rows.size:
        return box
    left, top = int(columns.min()), int(rows.min())
    return box[0] - _GAP + left, box[1] + top, int(columns.max()) - left + 1, int(rows.max()) - top + 1


def _ground(codes: NDArray[np.int32], flat: NDArray[np.bool_], span: tuple[slice, slice]) -> int | None:
    """Return the colour around a thing, None where there are several."""
    rows = slice(max(0, span[0].start - _AROUND), span[0].stop + _AROUND)
    columns = slice(max(0, span[1].start - _AROUND), span[1].stop + _AROUND)
    here = codes[rows, columns][flat[rows, columns]]
    if here.size < _FEWEST:
        return None
    colours, counts = np.unique(here, return_counts=True)
    most = int(counts.argmax())
    return int(colours[most]) if counts[most] >= _OF_ONE * here.size else None


def _inks(colours: NDArray[np.int32], ground: int) -> list[int]:
    """Return the colours that a thing is drawn with on a ground, none where it is a picture rather than a text."""
    known, counts = np.unique(colours, return_counts=True)
    spread = np.stack([known >> 16 & 255, known >> 8 & 255, known & 255], axis=1)
    base = np.array([ground >> 16 & 255, ground >> 8 & 255, ground & 255])
    lab = srgb_to_oklab(spread / 255.0)
    away = np.linalg.norm(lab - srgb_to_oklab(base / 255.0), axis=1)
    left = np.ones(len(known), bool)
    inks: list[int] = []
    total = int(counts.sum())
    while left.any() and len(inks) < _MOST_INKS:
        mine = np.flatnonzero(left)
        rest = int(counts[mine].sum())
        if inks and rest < _SHARE * total:
            break
        order = mine[np.argsort(-away[mine], kind="stable")]
        first = order[min(int(np.searchsorted(np.cumsum(counts[order]), max(2, 0.02 * rest))), len(order) - 1)]
        # Each channel by itself: what is smoothed by thirds of pixels reaches its end in one of them at a time.
        toward = np.sign(spread[first] - base)
        near = mine[((np.sign(spread[mine] - base) * toward) >= 0).all(axis=1)]
        ends = [_end(spread[near, i], counts[near], int(toward[i]), int(base[i])) for i in range(3)]
        ink = np.array(ends)
        low, high = np.minimum(base, ink) - _BETWEEN, np.maximum(base, ink) + _BETWEEN
        inside = ((spread >= low) & (spread <= high)).all(axis=1) & left
        if not inside.any():
            break
        if counts[inside].sum() >= _FEWEST / 2 and away[first] > 0.02:
            inks.append(int(ink[0]) << 16 | int(ink[1]) << 8 | int(ink[2]))
        left &= ~inside
    return inks if int(counts[left].sum()) <= _STRANGE * total else []


def _end(values: NDArray[np.int32], counts: NDArray[np.int64], toward: int, base: int) -> int:
    """Return the end of one channel's values, away from the ground's, that some pixels reach."""
    if toward == 0:
        return base
    order = np.argsort(-values * toward, kind="stable")
    reached = np.searchsorted(np.cumsum(counts[order]), max(2, 0.02 * float(counts.sum())))
    return int(values[order[min(int(reached), len(order) - 1)]])
