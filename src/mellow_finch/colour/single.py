"""OKLCH of single colours in plain floats: for the window's own colours, without the array library at hand.

The same formulas as in `spaces` and `gamut`, which are for arrays; a test holds the two against each other.
"""

from __future__ import annotations

import math

from .rgb import Rgba, from_unit

# CSS Color Module Level 4, sample code: OKLab to cone responses before cubing, and those to linear sRGB.
_TO_LMS = (
    (1.0, 0.3963377773761749, 0.2158037573099136),
    (1.0, -0.1055613458156586, -0.0638541728258133),
    (1.0, -0.0894841775298119, -1.2914855480194092),
)
_TO_RGB = (
    (4.0767416360759574, -3.3077115392580616, 0.2309699031821044),
    (-1.2684379732850317, 2.6097573492876887, -0.3413193760026573),
    (-0.0041960761386756, -0.7034186179359362, 1.7076146940746117),
)
_SLACK = 1e-6
_STEPS = 24


def _linear(lightness: float, a: float, b: float) -> tuple[float, ...]:
    lms = [(row[0] * lightness + row[1] * a + row[2] * b) ** 3 for row in _TO_LMS]
    return tuple(sum(w * v for w, v in zip(row, lms, strict=True)) for row in _TO_RGB)


def _encoded(value: float) -> float:
    return 12.92 * value if value <= 0.0031308 else 1.055 * value ** (1 / 2.4) - 0.055


def colour_of(lightness: float, chroma: float, hue_deg: float) -> Rgba:
    """Return the 8-bit colour of L (0..1), C and h (degrees), its chroma lowered until sRGB holds it."""
    x, y = math.cos(math.radians(hue_deg)), math.sin(math.radians(hue_deg))

    def fits(c: float) -> bool:
        return all(-_SLACK <= v <= 1 + _SLACK for v in _linear(lightness, c * x, c * y))

    if not fits(chroma):
        low, high = 0.0, chroma
        for _ in range(_STEPS):
            middle = (low + high) / 2
            low, high = (middle, high) if fits(middle) else (low, middle)
        chroma = low
    r, g, b = (_encoded(min(1.0, max(0.0, v))) for v in _linear(lightness, chroma * x, chroma * y))
    return from_unit(r, g, b)
