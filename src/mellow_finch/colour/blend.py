"""Compositing of translucent colours, as toolkits do it: in gamma-encoded sRGB."""

from __future__ import annotations

from collections.abc import Iterable

from .rgb import Rgba


def over(top: Rgba, below: Rgba) -> Rgba:
    """Return top drawn over below (Porter and Duff's "over"), r, g, b rounded to 8 bits."""
    alpha = top.a + below.a * (1 - top.a)
    if alpha <= 0:
        return Rgba(0, 0, 0, 0.0)
    share = top.a / alpha
    r, g, b = (round(t * share + u * (1 - share)) for t, u in zip(top[:3], below[:3], strict=True))
    return Rgba(r, g, b, min(1.0, alpha))


def flatten(layers: Iterable[Rgba]) -> Rgba:
    """Return the layers, lowest first, drawn over one another."""
    result = Rgba(0, 0, 0, 0.0)
    for layer in layers:
        result = over(layer, result)
    return result
