"""Conversions between sRGB, OKLab, OKLCH and CIE Lab, for arrays of any leading shape."""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

Array = NDArray[np.float64]

# Linear sRGB to CIE XYZ (D65), from the primaries of IEC 61966-2-1 as exact fractions.
RGB_TO_XYZ: Array = np.array(
    [
        [506752 / 1228815, 87881 / 245763, 12673 / 70218],
        [87098 / 409605, 175762 / 245763, 12673 / 175545],
        [7918 / 409605, 87881 / 737289, 1001167 / 1053270],
    ]
)
# XYZ to cone responses and those to OKLab: CSS Color Module Level 4, section "Sample code for color conversions".
XYZ_TO_LMS: Array = np.array(
    [
        [0.8190224379967030, 0.3619062600528904, -0.1288737815209879],
        [0.0329836539323885, 0.9292868615863434, 0.0361446663506424],
        [0.0481771893596242, 0.2642395317527308, 0.6335478284694309],
    ]
)
LMS_TO_OKLAB: Array = np.array(
    [
        [0.2104542683093140, 0.7936177747023054, -0.0040720430116193],
        [1.9779985324311684, -2.4285922420485799, 0.4505937096174110],
        [0.0259040424655478, 0.7827717124575296, -0.8086757549230774],
    ]
)
RGB_TO_LMS: Array = XYZ_TO_LMS @ RGB_TO_XYZ
LMS_TO_RGB: Array = np.asarray(np.linalg.inv(RGB_TO_LMS), dtype=np.float64)
OKLAB_TO_LMS: Array = np.asarray(np.linalg.inv(LMS_TO_OKLAB), dtype=np.float64)
WHITE_D65: Array = RGB_TO_XYZ.sum(axis=1)
_LAB_E = 216 / 24389
_LAB_K = 24389 / 27


def srgb_to_linear(srgb: Array) -> Array:
    """Undo the sRGB transfer curve of (..., 3) floats; odd-symmetric for values below 0 (IEC 61966-2-1)."""
    size = np.abs(srgb)
    return np.where(size <= 0.04045, srgb / 12.92, np.sign(srgb) * ((size + 0.055) / 1.055) ** 2.4)


def linear_to_srgb(linear: Array) -> Array:
    """Apply the sRGB transfer curve to (..., 3) floats; the inverse of srgb_to_linear."""
    size = np.abs(linear)
    curved = np.sign(linear) * (1.055 * size ** (1 / 2.4) - 0.055)
    return np.where(size <= 0.0031308, 12.92 * linear, curved)


def srgb_to_oklab(srgb: Array) -> Array:
    """Convert (..., 3) sRGB floats (0..1) to OKLab: L 0..1, a and b about -0.4..0.4."""
    linear: Array = srgb_to_linear(np.asarray(srgb, dtype=np.float64))
    return np.asarray(np.cbrt(linear @ RGB_TO_LMS.T) @ LMS_TO_OKLAB.T)


def oklab_to_linear(lab: Array) -> Array:
    """Convert (..., 3) OKLab to linear sRGB; out-of-gamut colours give values outside 0..1."""
    cones = np.asarray(lab, dtype=np.float64) @ OKLAB_TO_LMS.T
    return np.asarray((cones * cones * cones) @ LMS_TO_RGB.T)


def oklab_to_srgb(lab: Array) -> Array:
    """Convert (..., 3) OKLab to sRGB floats; out-of-gamut colours give values outside 0..1."""
    return linear_to_srgb(oklab_to_linear(lab))


def oklab_to_oklch(lab: Array) -> Array:
    """Convert (..., 3) OKLab to L, C, h; h in degrees 0..360, 0 where C is 0."""
    lab = np.asarray(lab, dtype=np.float64)
    chroma = np.hypot(lab[..., 1], lab[..., 2])
    hue = np.degrees(np.arctan2(lab[..., 2], lab[..., 1])) % 360
    return np.stack([lab[..., 0], chroma, hue], axis=-1)


def oklch_to_oklab(lch: Array) -> Array:
    """Convert (..., 3) L, C, h (degrees) to OKLab."""
    lch = np.asarray(lch, dtype=np.float64)
    angle = np.radians(lch[..., 2])
    return np.stack([lch[..., 0], lch[..., 1] * np.cos(angle), lch[..., 1] * np.sin(angle)], axis=-1)


def srgb_to_oklch(srgb: Array) -> Array:
    """Convert (..., 3) sRGB floats to OKLCH."""
    return oklab_to_oklch(srgb_to_oklab(srgb))


def srgb_to_lab(srgb: Array) -> Array:
    """Convert (..., 3) sRGB floats to CIE Lab under D65: L 0..100 (CIE 15:2004, equations 8.3 to 8.9)."""
    xyz = srgb_to_linear(np.asarray(srgb, dtype=np.float64)) @ (RGB_TO_XYZ / WHITE_D65[:, None]).T
    f = np.where(xyz > _LAB_E, np.cbrt(xyz), (_LAB_K * xyz + 16) / 116)
    return np.stack([116 * f[..., 1] - 16, 500 * (f[..., 0] - f[..., 1]), 200 * (f[..., 1] - f[..., 2])], axis=-1)


def lab_to_srgb(lab: Array) -> Array:
    """Convert (..., 3) CIE Lab under D65 to sRGB floats, the inverse of srgb_to_lab."""
    lab = np.asarray(lab, dtype=np.float64)
    fy = (lab[..., 0] + 16) / 116
    f = np.stack([fy + lab[..., 1] / 500, fy, fy - lab[..., 2] / 200], axis=-1)
    xyz = np.where(f**3 > _LAB_E, f**3, (116 * f - 16) / _LAB_K) * WHITE_D65
    return linear_to_srgb(xyz @ np.linalg.inv(RGB_TO_XYZ).T)
