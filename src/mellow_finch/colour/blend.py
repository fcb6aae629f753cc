"""Compositing of translucent colours, as toolkits do it, in gamma-encoded sRGB; and mixing two colours."""

from __future__ import annotations

from collections.abc import Iterable

from .gamut import oklab_to_rgba, rgba_to_oklab
from .rgb import Rgba


def over(top: Rgba, below: Rgba) -> Rgba:
    """Return top drawn over below (Porter and Duff's "over"), r, g, b rounded to 8 bits."""
    r, g, b, a = top
    if a >= 1:
        return top
    alpha = a + below.a * (1 - a)
    if alpha <= 0:
        return Rgba(0, 0, 0, 0.0)
    share = a / alpha
    rest = 1 - share
    under = (round(r * share + below.r * rest), round(g * share + below.g * rest), round(b * share + below.b * rest))
    return Rgba(*under, min(1.0, alpha))


def mixed_in_srgb(first: Rgba, second: Rgba, share: float) -> Rgba:
    """Return the opaque colour that lies share (0..1) of the way from the first to the second in encoded sRGB."""
    (r, g, b, _), (red, green, blue, _) = first, second
    return Rgba(round(r + (red - r) * share), round(g + (green - g) * share), round(b + (blue - b) * share))


def mixed_in_oklab(first: Rgba, second: Rgba, share: float) -> Rgba:
    """Return the opaque colour that lies share (0..1) of the way from the first to the second in OKLab."""
    ends = zip(rgba_to_oklab(first), rgba_to_oklab(second), strict=True)
    lightness, a, b = (start + (end - start) * share for start, end in ends)
    return oklab_to_rgba(lightness, a, b)


def flatten(layers: Iterable[Rgba]) -> Rgba:
    """Return the layers, lowest first, drawn over one another."""
    result = Rgba(0, 0, 0, 0.0)
    for layer in layers:
        result = over(layer, result)
    return result
