"""The sRGB gamut seen from OKLCH: the largest chroma at a lightness and hue, and fitting without clipping."""

from __future__ import annotations

import math
from functools import lru_cache

import numpy as np
from numpy.typing import NDArray

from .rgb import Rgba, from_unit
from .spaces import (
    LMS_TO_OKLAB,
    LMS_TO_RGB,
    OKLAB_TO_LMS,
    RGB_TO_LMS,
    Array,
    oklab_to_linear,
    oklab_to_srgb,
    oklch_to_oklab,
    srgb_to_linear,
)

_SLACK = 1e-6
_STEPS = 15


def in_gamut(lch: Array) -> NDArray[np.bool_]:
    """Tell for (..., 3) OKLCH whether sRGB holds the colour."""
    linear = oklab_to_linear(oklch_to_oklab(lch))
    return np.asarray(np.all((linear >= -_SLACK) & (linear <= 1 + _SLACK), axis=-1))


def fit_chroma(lch: Array) -> Array:
    """Return (..., 3) OKLCH with chroma lowered, lightness and hue kept, until sRGB holds the colour."""
    lch = np.array(lch, dtype=np.float64)
    lch[..., 0] = np.clip(lch[..., 0], 0, 1)
    outside = ~in_gamut(lch)
    if not np.any(outside):
        return lch
    lightness, chroma, hue = lch[outside].T
    angle = np.radians(hue)
    # Cone responses before cubing are linear in chroma: lightness plus chroma times a slope that the hue gives.
    slope = OKLAB_TO_LMS[:, 1:] @ np.stack([np.cos(angle), np.sin(angle)])
    base = OKLAB_TO_LMS[:, :1] * lightness
    low, step = np.zeros(len(chroma)), chroma
    for _ in range(_STEPS):
        step = step / 2
        cones = base + (low + step) * slope
        linear = LMS_TO_RGB @ (cones * cones * cones)
        low = low + step * (np.abs(linear - 0.5).max(axis=0) <= 0.5 + _SLACK)
    lch[outside, 1] = low
    return lch


def oklch_to_srgb(lch: Array) -> Array:
    """Convert (..., 3) OKLCH to sRGB floats 0..1, chroma lowered where sRGB does not hold the colour."""
    return np.clip(oklab_to_srgb(oklch_to_oklab(fit_chroma(lch))), 0, 1)


def max_chroma(lightness: Array, hue_deg: Array) -> Array:
    """Return the largest OKLCH chroma that sRGB holds at each lightness (0..1) and hue."""
    lightness, hue_deg = np.broadcast_arrays(lightness, hue_deg)
    lch = np.stack([lightness, np.full(lightness.shape, 0.4), hue_deg], axis=-1)
    return np.asarray(fit_chroma(lch)[..., 1])


def oklch_to_rgba(lightness: float, chroma: float, hue_deg: float) -> Rgba:
    """Return the 8-bit colour of an OKLCH triple, its chroma lowered where sRGB does not reach."""
    return _oklch_to_rgba(round(lightness, 5), round(max(chroma, 0), 5), round(hue_deg % 360, 3))


@lru_cache(maxsize=65536)
def _oklch_to_rgba(lightness: float, chroma: float, hue_deg: float) -> Rgba:
    return from_unit(*one_oklch_to_srgb(lightness, chroma, hue_deg))


_Three = tuple[float, float, float]
_CONES: tuple[_Three, ...] = tuple((a, b, c) for a, b, c in OKLAB_TO_LMS.tolist())
_LINEAR: tuple[_Three, ...] = tuple((a, b, c) for a, b, c in LMS_TO_RGB.tolist())


def one_oklch_to_srgb(lightness: float, chroma: float, hue_deg: float) -> _Three:
    """Return one OKLCH colour as sRGB floats 0..1: oklch_to_srgb without the price of small arrays."""
    lightness = min(1.0, max(0.0, lightness))
    angle = math.radians(hue_deg)
    across, up = math.cos(angle), math.sin(angle)
    slopes = [b * across + c * up for _, b, c in _CONES]
    bases = [a * lightness for a, _, _ in _CONES]

    def linear(c: float) -> _Three:
        x, y, z = ((base + c * slope) ** 3 for base, slope in zip(bases, slopes, strict=True))
        (a0, b0, c0), (a1, b1, c1), (a2, b2, c2) = _LINEAR
        return a0 * x + b0 * y + c0 * z, a1 * x + b1 * y + c1 * z, a2 * x + b2 * y + c2 * z

    def holds(found: _Three) -> bool:
        return min(found) >= -_SLACK and max(found) <= 1 + _SLACK

    found = linear(chroma)
    if not holds(found):
        low, step = 0.0, chroma
        for _ in range(_STEPS):
            step /= 2
            if holds(linear(low + step)):
                low += step
        found = linear(low)
    r, g, b = (min(1.0, max(0.0, _curved(v))) for v in found)
    return r, g, b


def _curved(linear: float) -> float:
    """Apply the sRGB transfer curve to one value (IEC 61966-2-1)."""
    return 12.92 * linear if linear <= 0.0031308 else 1.055 * linear ** (1 / 2.4) - 0.055


def oklch_to_rgbas(lch: Array) -> list[Rgba]:
    """Return the 8-bit colours of (n, 3) OKLCH; the many-at-once form of oklch_to_rgba."""
    if not len(lch):
        return []
    return [Rgba(r, g, b) for r, g, b in np.rint(oklch_to_srgb(lch) * 255).astype(int).tolist()]


@lru_cache(maxsize=65536)
def rgba_to_oklch(colour: Rgba) -> tuple[float, float, float]:
    """Return L (0..1), C and h (degrees) of an 8-bit colour, its alpha ignored; greys have C and h 0."""
    lightness, a, b = rgba_to_oklab(colour)
    chroma = math.hypot(a, b)
    return (lightness, chroma, math.degrees(math.atan2(b, a)) % 360) if chroma > 1e-4 else (lightness, 0.0, 0.0)


_TO_CONES: tuple[_Three, ...] = tuple((a, b, c) for a, b, c in RGB_TO_LMS.tolist())
_TO_LAB: tuple[_Three, ...] = tuple((a, b, c) for a, b, c in LMS_TO_OKLAB.tolist())


@lru_cache(maxsize=65536)
def oklab_to_rgba(lightness: float, a: float, b: float) -> Rgba:
    """Return the opaque colour at a place of OKLab, chroma taken away where it lies outside of sRGB."""
    return oklch_to_rgba(lightness, math.hypot(a, b), math.degrees(math.atan2(b, a)))


def rgba_to_oklab(colour: Rgba) -> _Three:
    """Return OKLab (L 0..1) of an 8-bit colour, its alpha ignored."""
    r, g, b = (_LINEAR_OF[v] for v in colour[:3])
    x, y, z = ((p * r + q * g + s * b) ** (1 / 3) for p, q, s in _TO_CONES)
    lightness, across, up = (p * x + q * y + s * z for p, q, s in _TO_LAB)
    return lightness, across, up


_LINEAR_OF: tuple[float, ...] = tuple(srgb_to_linear(np.arange(256) / 255).tolist())
