"""Colours as people type and paste them: every CSS-like spelling, oklch() and names, told in words when unreadable."""

from __future__ import annotations

import re

from ..colour.gamut import oklch_to_rgba
from ..colour.rgb import Rgba
from ..colour.spaces import oklab_to_oklch
from ..language import tr
from .literals import NAMES, read_literal
from .numbers import number

_OK = re.compile(r"ok(lch|lab)\(\s*([^()]*?)\s*\)\Z")
_PART = re.compile(r"([-+]?(?:\d++(?:\.\d*+)?|\.\d++))(%|deg|turn|rad)?\Z")
_WHOLE = re.compile(r"(rgb|hsl)a?\([\s\d.,%+/\-a-z]*\)\Z")
_HUE = {None: 1.0, "deg": 1.0, "turn": 360.0, "rad": 57.29577951308232}


def read_typed(text: str) -> Rgba:
    """Return the colour of #rgb, #rrggbb, rgb(), hsl(), oklch(), oklab() or a CSS name; its alpha is dropped.

    Colours outside sRGB lose chroma until they fit. Raises ValueError with a sentence for anything else.
    """
    low = " ".join(text.strip().rstrip(";").lower().split())
    found = _OK.match(low)
    if found:
        colour = _ok(found.group(1), found.group(2))
    elif "(" in low and not _WHOLE.match(low):
        colour = None
    else:
        colour = read_literal(low) if low not in NAMES else None
    name = low.replace(" ", "")
    if colour is None and name != "transparent":
        colour = NAMES.get(name)
    if colour is None:
        raise ValueError(
            tr("“{text}” is not a colour such as #4f8a8b, rgb(79 138 139), oklch(0.6 0.06 200) or teal").format(
                text=text.strip()
            )
        )
    return colour.opaque


def _ok(kind: str, inside: str) -> Rgba | None:
    words = inside.partition("/")[0].replace(",", " ").split()
    parts = [_PART.match(word) if word != "none" else None for word in words]
    if len(words) != 3 or any(part is None and word != "none" for part, word in zip(parts, words, strict=True)):
        return None
    values = [number(p.group(1)) if p is not None else 0.0 for p in parts]
    units = [p.group(2) if p is not None else None for p in parts]
    lightness = values[0] / 100 if units[0] == "%" else values[0]
    if kind == "lab":
        import numpy as np

        a, b = (v * 0.4 / 100 if u == "%" else v for v, u in zip(values[1:], units[1:], strict=True))
        lightness, chroma, hue = oklab_to_oklch(np.array([lightness, a, b])).tolist()
    else:
        chroma = values[1] * 0.4 / 100 if units[1] == "%" else values[1]
        hue = values[2] * _HUE.get(units[2], 1.0)
    return oklch_to_rgba(min(1.0, max(0.0, lightness)), max(0.0, chroma), hue)


def spellings(colour: Rgba) -> tuple[str, ...]:
    """Return the ways in which a colour is offered for copying: hexadecimal, rgb(), hsl() and oklch()."""
    import colorsys

    from ..colour.gamut import rgba_to_oklch

    hue, light, sat = colorsys.rgb_to_hls(*colour.unit)
    lightness, chroma, own_hue = rgba_to_oklch(colour)
    return (
        colour.opaque.hex,
        f"rgb({colour.r} {colour.g} {colour.b})",
        f"hsl({hue * 360:.1f} {sat:.1%} {light:.1%})",
        f"oklch({lightness:.4f} {chroma:.4f} {own_hue:.2f})",
    )
