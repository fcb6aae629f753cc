"""The colours of a picture spread over the plane of OKLab's a and b: what it tells of colour, steady against handling.

Clusters jump when a picture is cropped or saved anew; sums over a plane, smoothed, move as little as the picture does.
"""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from typing import NamedTuple

import numpy as np

from ..colour.spaces import Array, srgb_to_oklab
from .histogram import histogram
from .load import LoadedPicture
from .swatches import Swatch

_REACH = 0.34  # OKLab a and b up to which the plane goes; sRGB lies within
_STEP = 0.01  # the side of a cell
_SIDE = 2 * round(_REACH / _STEP) + 1


class Smoothed(NamedTuple):
    """Arrays of one value a cell: the share of the picture near it (0..1), and the mean L, a and b of what is there."""

    share: Array
    light: Array
    a: Array
    b: Array


@dataclass(frozen=True, eq=False)
class Spread:
    """Sums over the cells of the plane: (4, side, side) of share, and of share times L, a and b."""

    sums: Array

    @property
    def total(self) -> float:
        """Return the sum of all shares."""
        return float(self.sums[0].sum())

    def smoothed(self, sigma: float) -> Smoothed:
        """Return what lies around each cell, weighed by a Gaussian of a width in OKLab that is 1 at its middle."""
        at = np.arange(_SIDE) * _STEP
        kernel = np.exp(-((at[:, None] - at[None, :]) ** 2) / (2 * sigma**2))
        share, *rest = (kernel @ layer @ kernel for layer in self.sums)
        light, a, b = (layer / np.maximum(share, 1e-300) for layer in rest)
        return Smoothed(share / max(self.total, 1e-300), light, a, b)


def spread_of(srgb: Array, share: Array) -> Spread:
    """Return the spread of (n, 3) sRGB floats 0..1 with (n,) shares."""
    lab = srgb_to_oklab(np.asarray(srgb, dtype=np.float64).reshape(-1, 3))
    cells = np.clip(np.rint((lab[:, 1:] + _REACH) / _STEP), 0, _SIDE - 1).astype(np.int64)
    at = cells[:, 0] * _SIDE + cells[:, 1]
    rows = (share, *(share * lab[:, i] for i in range(3)))
    return Spread(np.stack([np.bincount(at, row, _SIDE**2).reshape(_SIDE, _SIDE) for row in rows]))


def spread_of_picture(picture: LoadedPicture) -> Spread:
    """Return the spread of a picture's pixels."""
    found = histogram(picture.pixels, picture.weights)
    return spread_of(found.srgb, found.share)


def spread_of_swatches(swatches: Sequence[Swatch]) -> Spread:
    """Return the spread of single colours with their shares."""
    return spread_of(np.array([s.colour.unit for s in swatches]).reshape(-1, 3), np.array([s.share for s in swatches]))


def blended(rows: Iterable[tuple[Spread, float]]) -> Spread:
    """Return what several spreads come to together, each with a weight."""
    return Spread(np.sum([spread.sums * weight for spread, weight in rows], axis=0))
