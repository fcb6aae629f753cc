"""Colour differences: CIEDE2000 and the Euclidean distance in OKLab."""

from __future__ import annotations

import math

import numpy as np

from .gamut import rgba_to_oklab
from .rgb import Rgba
from .spaces import Array, srgb_to_lab


def delta_e_2000(lab1: Array, lab2: Array) -> Array:
    """Return CIEDE2000 of (..., 3) CIE Lab colours, kL = kC = kH = 1.

    Source: Sharma, Wu, Dalal, "The CIEDE2000 Color-Difference Formula" (2005), equations 2 to 22.
    """
    lab1, lab2 = np.broadcast_arrays(np.asarray(lab1, float), np.asarray(lab2, float))
    l1, a1, b1 = np.moveaxis(lab1, -1, 0)
    l2, a2, b2 = np.moveaxis(lab2, -1, 0)
    mean_c7 = ((np.hypot(a1, b1) + np.hypot(a2, b2)) / 2) ** 7
    g = 0.5 * (1 - np.sqrt(mean_c7 / (mean_c7 + 25.0**7)))
    a1, a2 = (1 + g) * a1, (1 + g) * a2
    c1, c2 = np.hypot(a1, b1), np.hypot(a2, b2)
    h1 = np.degrees(np.arctan2(b1, a1)) % 360
    h2 = np.degrees(np.arctan2(b2, a2)) % 360
    grey = c1 * c2 == 0
    dh = np.where(grey, 0, (h2 - h1 + 180) % 360 - 180)
    # At exactly opposite hues the paper's sign convention is +180 when h2 > h1.
    dh = np.where((dh == -180) & (h2 > h1), 180, dh)
    far = np.abs(h1 - h2) > 180
    mean_h = np.where(grey, h1 + h2, (h1 + h2) / 2 + np.where(far, np.where(h1 + h2 < 360, 180, -180), 0))
    d_l, d_c = l2 - l1, c2 - c1
    d_h = 2 * np.sqrt(c1 * c2) * np.sin(np.radians(dh) / 2)
    ml, mc = (l1 + l2) / 2, (c1 + c2) / 2
    rad = np.radians
    t = (
        1
        - 0.17 * np.cos(rad(mean_h - 30))
        + 0.24 * np.cos(rad(2 * mean_h))
        + 0.32 * np.cos(rad(3 * mean_h + 6))
        - 0.20 * np.cos(rad(4 * mean_h - 63))
    )
    s_l = 1 + 0.015 * (ml - 50) ** 2 / np.sqrt(20 + (ml - 50) ** 2)
    s_c = 1 + 0.045 * mc
    s_h = 1 + 0.015 * mc * t
    r_c = 2 * np.sqrt(mc**7 / (mc**7 + 25.0**7))
    r_t = -np.sin(rad(60 * np.exp(-(((mean_h - 275) / 25) ** 2)))) * r_c
    x, y, z = d_l / s_l, d_c / s_c, d_h / s_h
    return np.asarray(np.sqrt(np.maximum(x * x + y * y + z * z + r_t * y * z, 0)))


def colour_difference(first: Rgba, second: Rgba) -> float:
    """Return CIEDE2000 of two opaque 8-bit colours."""
    labs = srgb_to_lab(np.array([first.unit, second.unit]))
    return float(delta_e_2000(labs[0], labs[1]))


def oklab_distance(first: Rgba, second: Rgba) -> float:
    """Return the Euclidean distance of two 8-bit colours in OKLab."""
    return math.dist(rgba_to_oklab(first), rgba_to_oklab(second))
