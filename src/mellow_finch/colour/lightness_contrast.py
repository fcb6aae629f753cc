"""Lightness contrast: a measure of how far text stands out that goes by what is seen, and knows text from surface.

It is discussed for the next generation of the accessibility guideline, not decided: it is told beside the ratio, and
nothing is judged by it.
"""

from __future__ import annotations

from .rgb import Rgba

# Accessible Perceptual Contrast Algorithm, version 0.0.98G-4g, its published constants (Somers, 2021).
_EXPONENT = 2.4  # of a display's response, plain and not piecewise
_WEIGHTS = (0.2126729, 0.7151522, 0.0721750)
_BLACK, _BLACK_EXPONENT = 0.022, 1.414  # below so much luminance, black is lifted: a dark screen glares too
_DARK_ON_LIGHT = (0.56, 0.57)  # exponents of surface and text
_LIGHT_ON_DARK = (0.65, 0.62)
_SCALE, _OFFSET = 1.14, 0.027
_LEAST_STEP, _LEAST = 0.0005, 0.1  # differences of luminance, and results, that count as none


def _luminance(colour: Rgba) -> float:
    found: float = sum(w * (c / 255) ** _EXPONENT for w, c in zip(_WEIGHTS, colour[:3], strict=True))
    lift: float = (_BLACK - found) ** _BLACK_EXPONENT if found < _BLACK else 0.0
    return found + lift


def lightness_contrast(text: Rgba, surface: Rgba) -> float:
    """Return the lightness contrast Lc of opaque colours, about -108 to 106: below 0 for light text on dark.

    Source: the Accessible Perceptual Contrast Algorithm, "APCA-W3 0.0.98G-4g", as discussed for WCAG 3.
    """
    ink, ground = _luminance(text), _luminance(surface)
    if abs(ground - ink) < _LEAST_STEP:
        return 0.0
    if ground > ink:
        found: float = (ground ** _DARK_ON_LIGHT[0] - ink ** _DARK_ON_LIGHT[1]) * _SCALE
        return 0.0 if found < _LEAST else (found - _OFFSET) * 100
    found = (ground ** _LIGHT_ON_DARK[0] - ink ** _LIGHT_ON_DARK[1]) * _SCALE
    return 0.0 if found > -_LEAST else (found + _OFFSET) * 100
