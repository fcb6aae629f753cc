"""The accents that GNOME and the programs on it offer by name, and which of them is nearest to a look's."""

from __future__ import annotations

from collections.abc import Mapping

from ..colour.gamut import rgba_to_oklch
from ..colour.rgb import Rgba, parse_hex

# As GNOME's platform library draws them, from 1.6 on.
ACCENTS: Mapping[str, Rgba] = {
    "blue": parse_hex("#3584e4"),
    "teal": parse_hex("#2190a4"),
    "green": parse_hex("#3a944a"),
    "yellow": parse_hex("#c88800"),
    "orange": parse_hex("#ed5b00"),
    "red": parse_hex("#e62d42"),
    "pink": parse_hex("#d56199"),
    "purple": parse_hex("#9141ac"),
    "slate": parse_hex("#6f8396"),
}
_GREY = "slate"
_HARDLY_ANY_CHROMA = 0.04  # OKLCH; the grey one has 0.037


def nearest_accent(colour: Rgba) -> str:
    """Return the name whose OKLCH hue is nearest to a colour's; the grey one for what has hardly any."""
    _, chroma, hue = rgba_to_oklch(colour)
    if chroma < _HARDLY_ANY_CHROMA:
        return _GREY
    hues = {name: rgba_to_oklch(c)[2] for name, c in ACCENTS.items() if name != _GREY}
    return min(hues, key=lambda name: abs((hues[name] - hue + 180) % 360 - 180))
