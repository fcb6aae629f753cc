"""What a palette is derived from."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

from ..colour.rgb import Rgba

Tone = Literal["dark", "light"]
TONES: tuple[Tone, Tone] = ("dark", "light")
MOST_TINT = 0.04


def opposite(tone: Tone) -> Tone:
    """Return the other tone."""
    return "light" if tone == "dark" else "dark"


@dataclass(frozen=True, slots=True)
class Recipe:
    """What a palette is derived from.

    accent: the colour that the accent starts from; hue_deg: the surfaces' hue; tint: the surfaces' OKLCH chroma
    at its strongest, 0..0.04.
    """

    accent: Rgba
    hue_deg: float
    tint: float

    @property
    def accent_oklch(self) -> tuple[float, float, float]:
        """Return L, C, h of the accent."""
        from ..colour.gamut import rgba_to_oklch  # the window names tones long before it works with colours

        return rgba_to_oklch(self.accent)
