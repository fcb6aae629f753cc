"""Reading one colour literal, and spelling another colour in the same style."""

from __future__ import annotations

import re
from functools import lru_cache

from PIL import ImageColor

from ..colour.rgb import Rgba, from_unit, parse_hex
from .numbers import number, share

# The names of CSS, which X11 shares but for a few greys; Pillow's table is the CSS one.
NAMES: dict[str, Rgba] = {
    name: Rgba(*ImageColor.getrgb(name)[:3]) for name in ImageColor.colormap if name.isalpha()
} | {"transparent": Rgba(0, 0, 0, 0.0)}

_NUMBER = re.compile(r"[-+]?(?:\d++(?:\.\d*+)?|\.\d++)(?:[eE][-+]?\d+)?%?")
_TRIPLE = re.compile(r"\d{1,3}\s*,\s*\d{1,3}\s*,\s*\d{1,3}(?:\s*,\s*\d{1,3})?\Z")
_DIGITS = re.compile(r"(0[xX]|#)?([0-9a-fA-F]+)\Z")


@lru_cache(maxsize=16384)
def read_literal(spelling: str) -> Rgba | None:
    """Return the colour of a CSS-like spelling (hex, rgb(), rgba(), hsl(), hsla(), a name), or None."""
    low = spelling.lower()
    if low in NAMES:
        return NAMES[low]
    if low.startswith(("rgb", "hsl")):
        return _function(low)
    try:
        return parse_hex(low.removeprefix("0x"))
    except ValueError:
        return None


def _function(text: str) -> Rgba | None:
    numbers: list[str] = _NUMBER.findall(text.partition("(")[2])
    if len(numbers) not in (3, 4):
        return None
    alpha = share(numbers[3]) if len(numbers) == 4 else 1.0
    if text.startswith("hsl"):
        hue, sat, light = number(numbers[0].rstrip("%")) / 360, *(share(n, 100.0) for n in numbers[1:3])
        return _from_hsl(hue % 1, min(1, max(0, sat)), min(1, max(0, light)), min(1, max(0, alpha)))
    r, g, b = (share(n, 255.0) for n in numbers[:3])
    return from_unit(r, g, b, min(1, max(0, alpha)))


def _from_hsl(hue: float, sat: float, light: float, alpha: float) -> Rgba:
    import colorsys

    return from_unit(*colorsys.hls_to_rgb(hue, light, sat), alpha)


@lru_cache(maxsize=65536)
def respell(spelling: str, colour: Rgba) -> str:
    """Return the colour in the style of an old spelling: hex case and length, prefix, function form, number form.

    The old spelling itself comes back when it means this colour already. A name becomes hexadecimal; a three-digit
    form becomes six digits where it must; a form without alpha gains one only when the colour needs it.
    """
    old = read_literal(spelling)
    if old is not None and old[:3] == colour[:3] and abs(old.a - colour.a) < 1e-9:
        return spelling
    low = spelling.lower()
    if _TRIPLE.match(spelling):
        return _put(spelling, list(_NUMBER.finditer(spelling))[:3], [str(v) for v in colour[:3]])
    if low.startswith("hsl"):
        return _respell_hsl(spelling, colour)
    if low.startswith("rgb"):
        return _respell_rgb(spelling, colour)
    found = _DIGITS.match(spelling)
    if found is None or low in NAMES:
        return colour.hex if colour.a >= 1 else f"rgba({colour.r}, {colour.g}, {colour.b}, {_short(colour.a)})"
    prefix, digits = found.group(1) or "", found.group(2)
    if colour.a < 1 and len(digits) in (3, 6) and prefix == "#":
        return f"rgba({colour.r}, {colour.g}, {colour.b}, {_short(colour.a)})"
    full = colour.hex[1:]
    if len(digits) in (4, 8) and len(full) == 6:
        full += "ff"
    if (
        len(digits) in (3, 4)
        and len(full) == 2 * len(digits)
        and all(full[i] == full[i + 1] for i in range(0, len(full), 2))
    ):
        full = full[::2]
    if any(c.isupper() for c in digits):
        full = full.upper()
    return prefix + full


def _short(value: float) -> str:
    return f"{value:.3f}".rstrip("0").rstrip(".")


def _respell_rgb(spelling: str, colour: Rgba) -> str:
    numbers = list(_NUMBER.finditer(spelling))
    fresh = [
        f"{_short(value / 255 * 100)}%" if n.group().endswith("%") else str(value)
        for n, value in zip(numbers[:3], colour[:3], strict=True)
    ]
    out = _put(spelling, numbers[:3], fresh)
    if len(numbers) == 4:
        old = read_literal(spelling)
        if old is not None and abs(old.a - colour.a) < 1e-9:
            return out
        percent = numbers[3].group().endswith("%")
        alpha = f"{_short(colour.a * 100)}%" if percent else _short(colour.a)
        last = list(_NUMBER.finditer(out))[3]
        return out[: last.start()] + alpha + out[last.end() :]
    if colour.a < 1:
        head, _, tail = out.partition("(")
        return f"{head if head.endswith(('a', 'A')) else head + 'a'}({tail[:-1].rstrip()}, {_short(colour.a)})"
    return out


def _respell_hsl(spelling: str, colour: Rgba) -> str:
    import colorsys

    hue, light, sat = colorsys.rgb_to_hls(*colour.unit)
    numbers = list(_NUMBER.finditer(spelling))
    fresh = [_short(hue * 360), f"{_short(sat * 100)}%", f"{_short(light * 100)}%"]
    if len(numbers) == 4:
        percent = numbers[3].group().endswith("%")
        fresh.append(f"{_short(colour.a * 100)}%" if percent else _short(colour.a))
    return _put(spelling, numbers[: len(fresh)], fresh)


def _put(text: str, places: list[re.Match[str]], fresh: list[str]) -> str:
    for place, value in reversed(list(zip(places, fresh, strict=True))):
        text = text[: place.start()] + value + text[place.end() :]
    return text
