"""The colours of a picture: swatches with share and place, small vivid areas included."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from ..colour.gamut import rgba_to_oklch
from ..colour.rgb import Rgba, from_unit
from ..colour.spaces import Array, lab_to_srgb
from .histogram import Histogram, histogram
from .load import LoadedPicture
from .quantize import quantize, squared_distances

VIVID_SHARE = 0.0012  # the smallest vivid area that gets a swatch of its own; 0.2 % must never be missed
_VIVID_CHROMA = 28.0  # CIE Lab chroma from which a small area counts as vivid
_STANDS_OUT = 22.0  # Lab distance from every common colour that makes an area one of its own
_SAME = 16.0  # Lab radius gathered into one vivid area
_GRID = 24  # cells along the longer side when looking for where a colour lies


@dataclass(frozen=True)
class Swatch:
    """A colour of a picture: share of its area 0..1, where most of it lies (0..1 across and down)."""

    colour: Rgba
    share: float
    at: tuple[float, float]
    vivid: bool = False

    @property
    def oklch(self) -> tuple[float, float, float]:
        """Return L, C and h (degrees)."""
        return rgba_to_oklch(self.colour)


def swatches_of(picture: LoadedPicture, count: int = 8) -> tuple[Swatch, ...]:
    """Return up to count swatches of a picture, largest share first; flat pictures give fewer.

    Colours that stand out in small vivid areas (from about 0.15 % of the picture) take up to a third of the places.
    """
    return label_swatches(picture, count)[0]


def label_swatches(picture: LoadedPicture, count: int = 8) -> tuple[tuple[Swatch, ...], NDArray[np.int16]]:
    """Return the swatches and for each pixel of picture.pixels the index of its swatch, -1 where none."""
    hist = histogram(picture.pixels, picture.weights)
    centres, labels = quantize(hist.lab, hist.share, count)
    vivid = _vivid_areas(hist, centres, max(1, count // 3))
    if len(vivid):
        centres, labels = quantize(hist.lab, hist.share, max(1, count - len(vivid)), vivid)
    shares = np.bincount(labels, weights=hist.share, minlength=len(centres))
    means = (
        np.stack(
            [np.bincount(labels, weights=hist.share * hist.lab[:, i], minlength=len(centres)) for i in range(3)], axis=1
        )
        / np.maximum(shares, 1e-300)[:, None]
    )
    keep = np.flatnonzero(shares > 0)
    order = keep[np.lexsort((keep, -shares[keep]))]
    colours = np.clip(lab_to_srgb(means[order]), 0, 1)
    rank = np.full(len(centres), -1, dtype=np.int16)
    rank[order] = np.arange(len(order), dtype=np.int16)
    label_image = rank[labels][hist.index]
    places = _places(label_image[::2, ::2], len(order))
    result: dict[Rgba, Swatch] = {}
    for i, which in enumerate(order):
        colour = from_unit(*colours[i].tolist())
        if colour not in result:
            result[colour] = Swatch(colour, float(shares[which]), places[i], bool(which < len(vivid)))
    return tuple(result.values()), label_image


def _vivid_areas(hist: Histogram, common: Array, most: int) -> Array:
    """Return (m, 3) Lab means of vivid colours that no common colour stands for."""
    distance = np.sqrt(squared_distances(hist.lab, common).min(axis=1))
    chroma = np.hypot(hist.lab[:, 1], hist.lab[:, 2])
    free = (distance > _STANDS_OUT) & (chroma > _VIVID_CHROMA)
    found: list[Array] = []
    while len(found) < most and free.any():
        candidates = np.flatnonzero(free)
        weight = hist.share[candidates] * distance[candidates]
        centre = hist.lab[candidates[int(np.argmax(weight))]]
        near = candidates[((hist.lab[candidates] - centre) ** 2).sum(1) < _SAME**2]
        share = hist.share[near]
        free[near] = False
        if share.sum() >= VIVID_SHARE:
            mean = (hist.lab[near] * share[:, None]).sum(0) / share.sum()
            found.append(mean)
            free &= ((hist.lab - mean) ** 2).sum(1) > _STANDS_OUT**2
    return np.array(found).reshape(-1, 3)


def _places(labels: NDArray[np.int16], count: int) -> list[tuple[float, float]]:
    """Return for each label the centre of the grid cell in which most of it lies."""
    height, width = labels.shape
    step = max(1, max(height, width) // _GRID)
    rows, columns = np.arange(height) // step, np.arange(width) // step
    cells_down, cells_across = int(rows[-1]) + 1, int(columns[-1]) + 1
    cell = (rows[:, None] * cells_across + columns[None, :]).ravel()
    flat = labels.ravel().astype(np.int64)
    seen = flat >= 0
    size = cells_down * cells_across
    table = np.bincount(flat[seen] * size + cell[seen], minlength=count * size).reshape(count, size)
    best = table.argmax(axis=1)
    return [
        (
            min(1.0, ((int(b) % cells_across) * step + step / 2) / width),
            min(1.0, ((int(b) // cells_across) * step + step / 2) / height),
        )
        for b in best
    ]
