"""From the colours of a picture to a whole palette, dark and light, in which every pair passes."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from functools import lru_cache

from ..colour.gamut import oklch_to_rgba, rgba_to_oklch
from ..colour.rgb import Rgba
from ..picture.swatches import Swatch
from .recipe import MOST_TINT, Recipe, Tone
from .solve import solve
from .temper import Temper
from .wanted import wanted_palette

GREY_CHROMA = 0.012  # below this a picture counts as grey and gives grey surfaces


def surface_tint(swatches: Sequence[Swatch]) -> tuple[float, float]:
    """Return the hue (degrees) and chroma of a picture's large areas; a grey picture gives chroma 0."""
    total = sum(s.share for s in swatches) or 1.0
    mean = sum(s.share * s.oklch[1] for s in swatches) / total
    if mean < GREY_CHROMA or not swatches:
        return 0.0, 0.0
    lead = max(swatches, key=lambda s: s.share * min(s.oklch[1], 0.12))
    return lead.oklch[2], min(MOST_TINT, 0.25 * mean + 0.006)


def accent_candidates(swatches: Sequence[Swatch], least: int = 3) -> tuple[Rgba, ...]:
    """Return at least three colours to take as accent, the most telling first.

    Telling is much chroma, enough area or one clear small area, and a hue apart from the surfaces. Pictures with
    hardly any colour lend their faint hues, strengthened; greys get quiet hues of our own.
    """
    hue, tint = surface_tint(swatches)

    def telling(s: Swatch) -> float:
        lightness, chroma, own_hue = s.oklch
        apart = abs((own_hue - hue + 180) % 360 - 180) / 180 if tint else 0.5
        area = min(1.0, float((s.share / 0.06) ** 0.4))
        usable = 1 - abs(lightness - 0.62)
        return min(chroma, 0.22) / 0.22 * (0.55 + 0.45 * area) * (0.75 + 0.25 * apart) * usable

    found: list[Rgba] = []

    def take(colour: Rgba) -> None:
        own = rgba_to_oklch(colour)
        for other in found:
            theirs = rgba_to_oklch(other)
            if abs((own[2] - theirs[2] + 180) % 360 - 180) < 28 and abs(own[1] - theirs[1]) < 0.1:
                return
        found.append(colour)

    for swatch in sorted((s for s in swatches if s.oklch[1] >= 0.04), key=telling, reverse=True):
        take(swatch.colour)
    for swatch in sorted((s for s in swatches if 0.008 <= s.oklch[1] < 0.04), key=telling, reverse=True):
        if len(found) < least:
            take(oklch_to_rgba(0.66, 0.085, swatch.oklch[2]))
    start = rgba_to_oklch(found[0])[2] if found else 235.0
    for turn in (0.0, 150.0, 210.0, 60.0, 300.0):
        if len(found) < least:
            take(oklch_to_rgba(0.66, 0.075, start + turn))
    return tuple(found)


def derive(
    recipe: Recipe, tone: Tone, held: Mapping[str, Rgba] | None = None, temper: Temper | None = None
) -> dict[str, Rgba]:
    """Return a palette of every role in which every pair passes.

    held: roles with the colours that they must have. Raises ImpossibleLocksError when those leave no solution.
    """
    temper = temper or Temper()
    if not held:
        return dict(_derived(recipe, tone, temper))
    colours = {**wanted_palette(recipe, tone, temper), **held}
    return solve(colours, tuple(held), text_need=temper.text_need)


@lru_cache(maxsize=64)
def _derived(recipe: Recipe, tone: Tone, temper: Temper) -> Mapping[str, Rgba]:
    """Return a palette with nothing held, remembered: people go back and forth between a few."""
    return solve(wanted_palette(recipe, tone, temper), (), text_need=temper.text_need)
