"""Relative luminance and contrast ratio of WCAG 2.2."""

from __future__ import annotations

import numpy as np

from .rgb import Rgba
from .spaces import Array, srgb_to_linear

# WCAG 2.2, definition of "relative luminance".
LUMINANCE_WEIGHTS: Array = np.array([0.2126, 0.7152, 0.0722])
FLARE = 0.05
_R: tuple[float, ...]
_G: tuple[float, ...]
_B: tuple[float, ...]
_R, _G, _B = (tuple((srgb_to_linear(np.arange(256) / 255) * weight).tolist()) for weight in LUMINANCE_WEIGHTS)


def relative_luminance(srgb: Array) -> Array:
    """Return the relative luminance, 0..1, of (..., 3) sRGB floats."""
    return np.asarray(srgb_to_linear(np.clip(srgb, 0, 1)) @ LUMINANCE_WEIGHTS)


def contrast_ratio(text: Array, surface: Array) -> Array:
    """Return the WCAG 2.2 contrast ratio of opaque sRGB colours.

    text, surface: (..., 3) floats in 0..1, broadcast against each other.
    Returns (...,) floats in 1..21; symmetric in its arguments.
    Source: WCAG 2.2, definitions of "contrast ratio" and "relative luminance".
    """
    a, b = relative_luminance(text), relative_luminance(surface)
    return np.asarray((np.maximum(a, b) + FLARE) / (np.minimum(a, b) + FLARE))


def luminance(colour: Rgba) -> float:
    """Return the relative luminance of one opaque 8-bit colour, by table."""
    return _R[colour.r] + _G[colour.g] + _B[colour.b]


def plain_ink(surface: Rgba) -> Rgba:
    """Return black or white, whichever can be read better on an opaque surface."""
    lum = luminance(surface)
    dark, light = lum + FLARE, 1.0 + FLARE
    return Rgba(0, 0, 0) if dark * dark >= light * FLARE else Rgba(255, 255, 255)


def enough(a: float, b: float, need: float) -> bool:
    """Tell whether two relative luminances have at least the contrast ratio needed."""
    return (max(a, b) + FLARE) >= need * (min(a, b) + FLARE)


def ratio(text: Rgba, surface: Rgba) -> float:
    """Return the contrast ratio of two opaque 8-bit colours; the fast form of contrast_ratio."""
    a, b = luminance(text), luminance(surface)
    return (a + FLARE) / (b + FLARE) if a >= b else (b + FLARE) / (a + FLARE)
