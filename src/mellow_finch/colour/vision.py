"""How colours look to other eyes: the three dichromacies, and without any colour at all."""

from __future__ import annotations

from functools import lru_cache
from typing import Literal

import numpy as np
from numpy.typing import NDArray

from .contrast import LUMINANCE_WEIGHTS
from .rgb import Rgba, from_unit
from .spaces import Array, linear_to_srgb, srgb_to_linear

Vision = Literal["normal", "protan", "deutan", "tritan", "grey"]
VISIONS: tuple[Vision, ...] = ("normal", "protan", "deutan", "tritan", "grey")

# Machado, Oliveira, Fernandes, "A Physiologically-based Model for Simulation of Color Vision Deficiency" (2009),
# table of matrices for severity 1.0; they act on linear sRGB.
MACHADO: dict[Vision, Array] = {
    "protan": np.array(
        [[0.152286, 1.052583, -0.204868], [0.114503, 0.786281, 0.099216], [-0.003882, -0.048116, 1.051998]]
    ),
    "deutan": np.array(
        [[0.367322, 0.860646, -0.227968], [0.280085, 0.672501, 0.047413], [-0.011820, 0.042940, 0.968881]]
    ),
    "tritan": np.array(
        [[1.255528, -0.076749, -0.178779], [-0.078411, 0.930809, 0.147602], [0.004733, 0.691367, 0.303900]]
    ),
    "grey": np.tile(LUMINANCE_WEIGHTS, (3, 1)),  # every channel becomes the relative luminance
}
_LEVELS = 4096


def simulate(srgb: Array, vision: Vision) -> Array:
    """Return (..., 3) sRGB floats as they look to a kind of vision; values stay in 0..1, "normal" changes nothing.

    Greyscale keeps the relative luminance of WCAG 2.2, so that contrast ratios are the same as before.
    """
    srgb = np.asarray(srgb, dtype=np.float64)
    if vision == "normal":
        return srgb
    return np.clip(linear_to_srgb(np.clip(srgb_to_linear(srgb) @ MACHADO[vision].T, 0, 1)), 0, 1)


def simulate_colour(colour: Rgba, vision: Vision) -> Rgba:
    """Return one 8-bit colour as it looks, its alpha kept."""
    if vision == "normal":
        return colour
    r, g, b = simulate(np.array(colour.unit), vision).tolist()
    return from_unit(r, g, b, colour.a)


@lru_cache(maxsize=1)
def _tables() -> tuple[NDArray[np.float32], NDArray[np.uint8]]:
    linear = srgb_to_linear(np.arange(256) / 255).astype(np.float32)
    encoded = np.rint(linear_to_srgb(np.linspace(0, 1, _LEVELS)) * 255).astype(np.uint8)
    return linear, encoded


def simulate_pixels(pixels: NDArray[np.uint8], vision: Vision) -> NDArray[np.uint8]:
    """Return (..., 3) 8-bit sRGB pixels as they look; by tables, at most one level from simulate except near black."""
    if vision == "normal":
        return pixels
    linear, encoded = _tables()
    seen = linear[pixels] @ MACHADO[vision].T.astype(np.float32)
    return encoded[(np.clip(seen, 0, 1) * (_LEVELS - 1) + 0.5).astype(np.uint16)]
