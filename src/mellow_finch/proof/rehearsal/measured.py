"""What a picture of a program shows, told from its pixels alone: its surfaces, and every text on its ground.

A surface is what is of one colour over blocks of some pixels. A text is a small thing between: its ground is the
commonest colour around it, its inks are the ends of its strokes, however these were smoothed.
"""

from __future__ import annotations

from collections import Counter, defaultdict
from collections.abc import Sequence
from typing import NamedTuple

import numpy as np
from numpy.typing import NDArray
from scipy import ndimage

from ...colour.contrast import ratio
from ...colour.requirement import MARK, TEXT, Requirement
from ...colour.rgb import Rgba
from ...colour.spaces import srgb_to_oklab

Pixels = NDArray[np.uint8]
Box = tuple[int, int, int, int]  # left, top, width, height in pixels

_BLOCK = 4  # pixels that a surface is wide and tall at least: more than strokes of letters
_GAP = 3  # pixels between letters of a word
_AROUND = 2  # pixels around a word that tell its ground
_OF_ONE = 0.8  # share of these that have to be of one colour
_LOW, _TALL, _LONG = 5, 48, 700  # a text's height, at least and at most, and its width
_FEWEST = 8  # pixels of ink
_APART = 0.06  # distance in OKLab from which a colour is no smoothing of another
_BETWEEN = 10  # levels that a smoothed pixel may lie beside what it is mixed of
_SHARE = 0.1  # of a word's pixels that a further ink has
_MOST_INKS = 4
_STRANGE = 0.3  # share of pixels that no ink explains, from which it is a picture
_MARK = (0.75, 1.34, 13)  # proportions and least size of what is a mark rather than a word
_MOST_WORDS = 6000


class Surface(NamedTuple):
    """A colour that areas are filled with. share: of the picture, 0 to 1; box: around all of it."""

    colour: Rgba
    share: float
    box: Box


class TextPlace(NamedTuple):
    """Texts of one colour on one ground. boxes: where, the largest first; mark: whether they look like marks."""

    ink: Rgba
    ground: Rgba
    boxes: tuple[Box, ...]
    mark: bool = False

    @property
    def ratio(self) -> float:
        """Return the contrast ratio, 1 to 21."""
        return ratio(self.ink, self.ground)

    @property
    def need(self) -> Requirement:
        """Return what it needs."""
        return MARK if self.mark else TEXT


class Measured(NamedTuple):
    """What a picture shows: its surfaces, largest first, and its texts, the least readable first."""

    surfaces: tuple[Surface, ...]
    texts: tuple[TextPlace, ...]


def measure_picture(pixels: Pixels) -> Measured:
    """Return what a picture of shape (height, width, 3) shows. Pure."""
    codes = pixels.astype(np.int32) @ np.array([65536, 256, 1], np.int32)
    flat = _flat(codes)
    return Measured(_surfaces(codes, flat), _texts(pixels, codes, flat))


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


def _surfaces(codes: NDArray[np.int32], flat: NDArray[np.bool_]) -> tuple[Surface, ...]:
    found, where, counts = np.unique(codes[flat], return_inverse=True, return_counts=True)
    labels = np.zeros(codes.shape, np.int32)
    labels[flat] = where.ravel() + 1
    boxes = ndimage.find_objects(labels, len(found))
    rows = [
        Surface(colour_of(int(code)), int(count) / codes.size, _box(box))
        for code, count, box in zip(found, counts, boxes, strict=True)
        if box is not None
    ]
    return tuple(sorted(rows, key=lambda s: -s.share))


def _box(box: Sequence[slice]) -> Box:
    rows, columns = box
    return columns.start, rows.start, columns.stop - columns.start, rows.stop - rows.start


def _texts(pixels: Pixels, codes: NDArray[np.int32], flat: NDArray[np.bool_]) -> tuple[TextPlace, ...]:
    reach = np.ones((1, 2 * _GAP + 1), bool)
    # Before words are joined, rules and frames are left out: they would join all that they touch.
    thin, count = ndimage.label(~flat, np.ones((3, 3), bool))
    spans = ndimage.find_objects(thin, count)
    long = [i for i, s in enumerate(spans, 1) if s is not None and _is_frame(_box(s))]
    rough = ~flat & ~np.isin(thin, long) if long else ~flat
    words, count = ndimage.label(ndimage.binary_dilation(rough, reach) if rough.any() else rough)
    found: dict[tuple[int, int, bool], list[Box]] = defaultdict(list)
    for number, span in enumerate(ndimage.find_objects(words, count)[:_MOST_WORDS], 1):
        rows, columns = span
        box = (columns.start + _GAP, rows.start, columns.stop - columns.start - 2 * _GAP, rows.stop - rows.start)
        if not (_LOW <= box[3] <= _TALL and 2 <= box[2] <= _LONG):
            continue
        own = (words[span] == number) & rough[span]
        ground = _ground(codes, flat, span)
        if ground is None:
            continue
        colours = codes[span][own]
        colours = colours[colours != ground]
        for ink in _inks(colours, ground) if len(colours) >= _FEWEST else ():
            found[ink, ground, _is_mark(box)].append(box)
    rows_ = [
        TextPlace(colour_of(ink), colour_of(ground), tuple(sorted(boxes, key=lambda b: -b[2] * b[3])), mark)
        for (ink, ground, mark), boxes in found.items()
    ]
    return tuple(sorted(rows_, key=lambda t: t.need.shortfall(t.ratio)))


def _is_frame(box: Box) -> bool:
    """Tell whether a thing is a rule or a frame rather than a word."""
    return box[3] > _TALL or (box[2] > _TALL and box[3] <= _LOW - 2) or box[2] > _LONG


def _is_mark(box: Box) -> bool:
    low, high, least = _MARK
    return min(box[2:]) >= least and low <= box[2] / box[3] <= high


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


def commonest(pixels: Pixels, most: int = 8) -> list[tuple[Rgba, int]]:
    """Return the commonest colours of a picture with how many pixels each has."""
    codes = pixels.astype(np.int32) @ np.array([65536, 256, 1], np.int32)
    return [(colour_of(int(code)), n) for code, n in Counter(codes.ravel().tolist()).most_common(most)]
