"""Colours that go with another by the angle between their hues, lightness and chroma kept where sRGB has room."""

from __future__ import annotations

from collections.abc import Mapping
from types import MappingProxyType

from .gamut import oklch_to_rgba, rgba_to_oklch
from .rgb import Rgba

# Degrees of hue between a colour and those of each harmony, as colour wheels have them.
HARMONIES: Mapping[str, tuple[float, ...]] = MappingProxyType(
    {
        "complementary": (180.0,),
        "analogous": (-30.0, 30.0),
        "split complementary": (150.0, 210.0),
        "triadic": (120.0, 240.0),
        "square": (90.0, 270.0),
    }
)


def harmony(base: Rgba, name: str) -> tuple[Rgba, ...]:
    """Return the colours of a harmony beside a colour, turned in OKLCH; none beside a grey, which has no hue."""
    lightness, chroma, hue = rgba_to_oklch(base)
    if chroma == 0:
        return ()
    return tuple(oklch_to_rgba(lightness, chroma, hue + turn) for turn in HARMONIES[name])
