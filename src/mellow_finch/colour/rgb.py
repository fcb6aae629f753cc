"""One 8-bit sRGB colour as a value, and its hexadecimal spelling. No conversions."""

from __future__ import annotations

import re
from typing import NamedTuple

from ..language import tr

_HEX = re.compile(r"#?([0-9a-fA-F]{3,8})\Z")


class Rgba(NamedTuple):
    """An sRGB colour: r, g, b are whole numbers 0..255, a is 0..1 and not premultiplied."""

    r: int
    g: int
    b: int
    a: float = 1.0

    @property
    def hex(self) -> str:
        """Return "#rrggbb", or "#rrggbbaa" when not opaque."""
        text = f"#{self.r:02x}{self.g:02x}{self.b:02x}"
        return text if self.a >= 1 else text + f"{round(self.a * 255):02x}"

    @property
    def opaque(self) -> Rgba:
        """Return the same colour at full opacity."""
        return Rgba(self.r, self.g, self.b)

    @property
    def unit(self) -> tuple[float, float, float]:
        """Return r, g, b as floats in 0..1."""
        return self.r / 255, self.g / 255, self.b / 255


def parse_hex(text: str) -> Rgba:
    """Read #rgb, #rgba, #rrggbb or #rrggbbaa, the # being optional.

    Raises ValueError for anything else.
    """
    found = _HEX.match(text.strip())
    digits = found.group(1) if found else ""
    if len(digits) in (3, 4):
        digits = "".join(d * 2 for d in digits)
    if len(digits) not in (6, 8):
        raise ValueError(tr("“{text}” is not a colour such as #4f8a8b").format(text=text))
    values = bytes.fromhex(digits)
    return Rgba(values[0], values[1], values[2], values[3] / 255 if len(values) == 4 else 1.0)


def from_unit(r: float, g: float, b: float, a: float = 1.0) -> Rgba:
    """Return the nearest 8-bit colour of sRGB floats in 0..1; values outside are clamped."""
    return Rgba(_to_byte(r), _to_byte(g), _to_byte(b), a)


def _to_byte(value: float) -> int:
    return round((0.0 if not value > 0.0 else 1.0 if value >= 1.0 else value) * 255)  # what is no number is 0
