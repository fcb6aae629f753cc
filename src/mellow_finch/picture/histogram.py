"""Pixels to a weighted set of colours: a 32x32x32 histogram with exact bin means."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from ..colour.spaces import Array, srgb_to_lab
from .load import Pixels

BINS = 32


@dataclass(frozen=True, eq=False)
class Histogram:
    """The filled bins of a picture.

    srgb, lab: (n, 3) mean colour of each bin; share: (n,) sums to 1;
    index: (height, width) which bin each pixel fell into.
    """

    srgb: Array
    lab: Array
    share: Array
    index: NDArray[np.int32]


def histogram(pixels: Pixels, weights: Array | None = None) -> Histogram:
    """Count (height, width, 3) sRGB pixels into bins; weights (height, width) default to 1."""
    flat = pixels.reshape(-1, 3)
    key = flat >> 3
    code = key[:, 0].astype(np.int32) << 10
    code |= key[:, 1].astype(np.int32) << 5
    code |= key[:, 2]
    size = BINS**3
    w = None if weights is None else weights.reshape(-1)
    count = np.bincount(code, weights=w, minlength=size).astype(np.float64)
    filled = np.flatnonzero(count > 0)
    sums = [
        np.bincount(code, weights=flat[:, i] if w is None else flat[:, i] * w, minlength=size)[filled] for i in range(3)
    ]
    srgb = np.stack(sums, axis=1) / count[filled, None] / 255
    lookup = np.zeros(size, dtype=np.int32)
    lookup[filled] = np.arange(len(filled), dtype=np.int32)
    index = lookup[code].reshape(pixels.shape[:2])
    return Histogram(srgb, srgb_to_lab(srgb), count[filled] / count.sum(), index)
