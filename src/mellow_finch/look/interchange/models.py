"""Colour models of binary palette files that are not sRGB, brought to 8-bit sRGB."""

from __future__ import annotations

import colorsys
import math

import numpy as np

from ...colour.rgb import Rgba, from_unit
from ...colour.spaces import linear_to_srgb

# CIE XYZ under D50 to linear sRGB, adapted by Bradford's transform: CSS Color Module Level 4, sample code, both
# matrices multiplied.
_D50_TO_RGB = np.array(
    [
        [3.1341359569958707, -1.6173863321612538, -0.4906619460083532],
        [-0.9787955029557446, 1.9162543773959884, 0.0334427364467489],
        [0.0719553798842330, -0.2289767598200886, 1.4053860585245820],
    ]
)
_WHITE_D50 = np.array([0.3457 / 0.3585, 1.0, (1.0 - 0.3457 - 0.3585) / 0.3585])


def _sound(*values: float) -> bool:
    return all(math.isfinite(v) for v in values)


def rgb(r: float, g: float, b: float) -> Rgba | None:
    """Return sRGB floats in 0..1 as a colour, None when one is no number."""
    return from_unit(r, g, b) if _sound(r, g, b) else None


def grey(value: float) -> Rgba | None:
    """Return a grey of 0 (black) .. 1."""
    return rgb(value, value, value)


def cmyk(c: float, m: float, y: float, k: float) -> Rgba | None:
    """Return inks of 0..1 by the plain formula, since such files carry no profile."""
    return rgb((1 - c) * (1 - k), (1 - m) * (1 - k), (1 - y) * (1 - k)) if _sound(c, m, y, k) else None


def hsb(h: float, s: float, v: float) -> Rgba | None:
    """Return hue, saturation and brightness of 0..1."""
    if not _sound(h, s, v):
        return None
    return rgb(*colorsys.hsv_to_rgb(h % 1, min(1, max(0, s)), min(1, max(0, v))))


def lab(lightness: float, a: float, b: float) -> Rgba | None:
    """Return CIE Lab under D50: L 0..100 (CIE 15:2004, equations 8.3 to 8.9, inverted)."""
    if not _sound(lightness, a, b) or max(abs(a), abs(b)) > 1000:
        return None
    fy = (min(100.0, max(0.0, lightness)) + 16) / 116
    f = np.array([fy + a / 500, fy, fy - b / 200])
    xyz = np.where(f**3 > 216 / 24389, f**3, (116 * f - 16) / (24389 / 27)) * _WHITE_D50
    r, g, b_ = linear_to_srgb(_D50_TO_RGB @ xyz).tolist()
    return rgb(r, g, b_)
