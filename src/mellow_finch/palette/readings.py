"""Several readings of the same colours: starting points that differ in accent and in how much colour surfaces take."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from ..colour.gamut import oklch_to_rgba, rgba_to_oklch
from ..colour.rgb import Rgba
from ..language import tr
from ..picture.fit import QUIET
from ..picture.spread import Spread
from .derive import accent_candidates, surface_tint
from .recipe import MOST_TINT, Recipe


@dataclass(frozen=True, slots=True)
class PaletteReading:
    """One way to read a picture: a title for people, and the recipe it stands for."""

    id: str
    title: str
    note: str
    recipe: Recipe


def readings_of(spread: Spread, pins: Sequence[Rgba] = (), in_common: float = 1.0) -> tuple[PaletteReading, ...]:
    """Return at least four readings, the likeliest first; pins come first as accents.

    in_common: which share of their areas several pictures have in common. Where that is little, a quiet reading comes
    first and says why.
    """
    hue, tint = surface_tint(spread)
    candidates = [*pins, *(c for c in accent_candidates(spread) if c not in pins)]
    first, second, third = candidates[:3]
    first_hue = rgba_to_oklch(first)[2]
    full_hue, full_tint = (hue, MOST_TINT) if tint else (first_hue, 0.0)
    quiet: tuple[PaletteReading, ...] = ()
    if in_common < QUIET:
        lightness, chroma, own_hue = rgba_to_oklch(first)
        muted = first if pins else oklch_to_rgba(lightness, min(chroma, 0.07), own_hue)
        why = tr("The images have {in_common:.0%} of their area in common: surfaces near grey suit them all").format(
            in_common=in_common
        )
        quiet = (PaletteReading("quiet", tr("Quiet"), why, Recipe(muted, hue, min(tint * 0.3, 0.006))),)
    return (
        *quiet,
        PaletteReading("settled", tr("Balanced"), tr("Surfaces with a trace of the image"), Recipe(first, hue, tint)),
        PaletteReading(
            "steeped", tr("Colourful"), tr("Surfaces with the most colour"), Recipe(first, full_hue, full_tint)
        ),
        PaletteReading(
            "second",
            tr("Second colour leads"),
            tr("The next most prominent colour leads"),
            Recipe(second, hue, tint * 0.8),
        ),
        PaletteReading("third", tr("Third colour leads"), tr("A quieter colour leads"), Recipe(third, hue, tint)),
        PaletteReading(
            "bare", tr("Bare"), tr("Grey surfaces, all colour in the accent colour"), Recipe(first, hue, 0.0)
        ),
    )
