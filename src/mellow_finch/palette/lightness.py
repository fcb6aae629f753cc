"""A colour's way from black to white: the steps a colour may take when it has to become readable.

Along the way hue is kept, and chroma is kept as far as sRGB reaches: lightness first, chroma only where it must.
"""

from __future__ import annotations

from dataclasses import dataclass
from functools import lru_cache

import numpy as np
from numpy.typing import NDArray

from ..colour.contrast import FLARE, relative_luminance
from ..colour.gamut import oklch_to_srgb, rgba_to_oklch
from ..colour.rgb import Rgba
from ..colour.spaces import Array, srgb_to_oklab

PATH_STEPS = 257  # about as fine as 8-bit colours are


@dataclass(frozen=True, eq=False)
class LightnessPath:
    """Every colour on the way of one colour.

    rgb: (STEPS, 3) uint8; luminance: (STEPS,) relative luminance of exactly those 8-bit colours;
    cost: (STEPS,) OKLab distance from the colour that the way was made for.
    """

    rgb: NDArray[np.uint8]
    luminance: Array
    cost: Array

    def at(self, step: int) -> Rgba:
        """Return the colour of a step."""
        r, g, b = self.rgb[step].tolist()
        return Rgba(r, g, b)


@lru_cache(maxsize=2048)
def path_of(colour: Rgba) -> LightnessPath:
    """Return the way of an opaque colour; the colour itself is one of its steps."""
    own_lightness, chroma, hue = rgba_to_oklch(colour)
    lightness = np.linspace(0, 1, PATH_STEPS)
    own = int(np.abs(lightness - own_lightness).argmin())
    lch = np.stack([lightness, np.full(PATH_STEPS, chroma), np.full(PATH_STEPS, hue)], axis=-1)
    srgb = oklch_to_srgb(lch)
    rgb = np.rint(srgb * 255).astype(np.uint8)
    rgb[own] = colour[:3]
    exact = rgb / 255
    lab = srgb_to_oklab(exact)
    cost = np.linalg.norm(lab - lab[own], axis=1)
    return LightnessPath(rgb, relative_luminance(exact), cost)


def reaches(luminance: Array, other: Array | float, need: float) -> NDArray[np.bool_]:
    """Tell where two luminances, broadcast against each other, have at least the contrast needed."""
    light, dark = np.maximum(luminance, other), np.minimum(luminance, other)
    return np.asarray(light + FLARE >= need * (dark + FLARE))


def least_costs(surfaces: Array, texts: Array, costs: Array, need: float, far: float) -> Array:
    """Return for each of (n,) surfaces the least of (m,) costs among the texts that have the contrast needed on it.

    surfaces, texts: relative luminances; far: where no text has it. The same as trying all n times m by `reaches`:
    texts that will do are the lightest or the darkest ones, so that the least costs from both ends tell.
    """
    order = texts.argsort()
    rising, sorted_costs = texts[order] + FLARE, costs[order]
    darkest = np.append(far, np.minimum.accumulate(sorted_costs))  # of the first 0, 1 … texts
    lightest = np.append(np.minimum.accumulate(sorted_costs[::-1])[::-1], far)  # of the texts from the 0th, 1st … on
    lit = surfaces + FLARE
    dark_enough = np.searchsorted(need * rising, lit, side="right")
    light_from = np.searchsorted(rising, need * lit, side="left")
    return np.asarray(np.minimum(darkest[dark_enough], lightest[light_from]))
