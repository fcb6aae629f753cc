"""A picture of the real screen in a look's colours: flat surfaces of colours that the files name are carried over."""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterable

import numpy as np
from numpy.typing import NDArray

from ..colour.rgb import Rgba
from .colour_map import Anchor, map_of, packed, unpacked

Pixels = NDArray[np.uint8]
_ALIKE = 5  # of 255, how far a channel may lie from the colour that a file names
_AROUND = 9  # pixels of the window that is looked at
_SHARE = 0.4  # of it that has to be of such colours, for what lies between to be the edge of a letter
_MOST_AT_ONCE = 20_000


def recoloured_screen(pixels: Pixels, pairs: Iterable[tuple[Rgba, Rgba]]) -> tuple[Pixels, float]:
    """Return a picture of the screen with its surfaces and words in new colours, and the share of it that changed.

    Pictures on it stay as they are: only where most of what is around is of the old colours are pixels carried over.

    Args:
        pixels: (height, width, 3), 8-bit sRGB.
        pairs: an old colour and what becomes of it, of every surface and text; of an old colour that becomes several,
            the commonest new one counts.
    """
    becomes: dict[Rgba, Counter[Rgba]] = {}
    for old, new in pairs:
        becomes.setdefault(old.opaque, Counter())[new.opaque] += 1
    if not becomes:
        return pixels.copy(), 0.0
    distinct, where, counts = np.unique(packed(pixels.reshape(-1, 3)), return_inverse=True, return_counts=True)
    named = np.array([c[:3] for c in becomes], dtype=np.int16)
    nearest, near = _nearest(unpacked(distinct).astype(np.int16), named)
    weights = np.bincount(nearest[near], weights=counts[near], minlength=len(named))
    anchors = [
        Anchor(old, new.most_common(1)[0][0], float(weight), firm=True)
        for (old, new), weight in zip(becomes.items(), weights, strict=True)
        if weight
    ]
    if not anchors:
        return pixels.copy(), 0.0
    shape = pixels.shape[:2]
    known = near[where].reshape(shape)
    flat = known | (_share_around(known) >= _SHARE)
    fresh = map_of(anchors).carry_pixels(pixels[flat])
    out = pixels.copy()
    out[flat] = fresh
    return out, float(flat.mean())


def _share_around(known: NDArray[np.bool_]) -> NDArray[np.float64]:
    """Return for every pixel the share of the window about it that is known; the edge counts as what lies beside it."""
    half = _AROUND // 2
    sums = np.pad(known.astype(np.int32), ((half + 1, half), (half + 1, half)), mode="edge").cumsum(0).cumsum(1)
    n = _AROUND
    share: NDArray[np.float64] = (sums[n:, n:] - sums[:-n, n:] - sums[n:, :-n] + sums[:-n, :-n]) / (n * n)
    return share


def _nearest(colours: NDArray[np.int16], named: NDArray[np.int16]) -> tuple[NDArray[np.int64], NDArray[np.bool_]]:
    """Return for each colour the number of the named one that is nearest, and whether it passes for that."""
    numbers, close = [], []
    for start in range(0, len(colours), _MOST_AT_ONCE):
        away = np.abs(colours[start : start + _MOST_AT_ONCE, None, :] - named[None, :, :]).max(axis=2)
        numbers.append(away.argmin(axis=1))
        close.append(away.min(axis=1) <= _ALIKE)
    return np.concatenate(numbers), np.concatenate(close)
