"""From the colours of a picture to a whole palette, dark and light, in which every pair passes."""

from __future__ import annotations

from collections.abc import Mapping
from functools import lru_cache

import numpy as np

from ..colour.gamut import oklab_to_rgba, oklch_to_rgba, rgba_to_oklch
from ..colour.rgb import Rgba
from ..colour.spaces import Array
from ..picture.spread import Spread
from ..progress import give_way
from .recipe import MOST_TINT, Recipe, Tone
from .solve import solve
from .temper import Temper
from .wanted import wanted_palette

GREY_CHROMA = 0.012  # below this a picture counts as grey and gives grey surfaces
_NEAR = 0.02  # OKLab width within which colours count as one when the telling ones are looked for
_SMALL = (0.0006, 0.0030)  # shares of a picture between which a vivid area comes to count
_DARK = (0.22, 0.38)  # OKLab lightness between which a colour comes to serve as it is
_HUE_WIDTH = 25.0  # degrees within which hues count as one when the surfaces' hue is looked for
_CLEAR = 0.3  # by how much the leading hue has to lead for the surfaces to take it in full
_LEAST_TINT = 0.6  # what they take of it where two hues are even


def surface_tint(spread: Spread) -> tuple[float, float]:
    """Return the hue (degrees) and chroma of a picture's large areas; a grey picture gives chroma 0.

    Where two hues lead alike, the surfaces take less of either.
    """
    own = spread.sums.reshape(4, -1)
    filled = own[0] > 0
    if not filled.any():
        return 0.0, 0.0
    weight, a, b = own[0][filled] / spread.total, own[2][filled] / own[0][filled], own[3][filled] / own[0][filled]
    chroma = np.hypot(a, b)
    mean = float((weight * chroma).sum())
    if mean < GREY_CHROMA:
        return 0.0, 0.0
    hue = np.degrees(np.arctan2(b, a))
    pull = weight * np.minimum(chroma, 0.12)
    angles = np.arange(360.0)
    away = np.abs((angles[:, None] - hue[None, :] + 180) % 360 - 180)
    density = np.exp(-((away / _HUE_WIDTH) ** 2) / 2) @ pull
    lead = int(density.argmax())
    apart = np.abs((angles - lead + 180) % 360 - 180) > 3 * _HUE_WIDTH
    margin = 1 - float(density[apart].max()) / float(density[lead])
    near = pull * np.exp(-((away[lead] / (1.5 * _HUE_WIDTH)) ** 2) / 2)
    turn = np.radians(hue)
    middle = float(np.degrees(np.arctan2((near * np.sin(turn)).sum(), (near * np.cos(turn)).sum()))) % 360
    clear = _LEAST_TINT + (1 - _LEAST_TINT) * min(1.0, margin / _CLEAR)
    return middle, min(MOST_TINT, 0.25 * mean + 0.006) * clear


def accent_candidates(spread: Spread, least: int = 3) -> tuple[Rgba, ...]:
    """Return at least three colours to take as accent, the most telling first.

    Telling is much chroma, enough area or one clear small area, and a hue apart from the surfaces. Pictures with
    hardly any colour, or only very dark ones, lend their hues, strengthened; greys get quiet hues of our own.
    """
    tone_hue, tint = surface_tint(spread)
    share, light, a, b = spread.smoothed(_NEAR)
    chroma, hue = np.hypot(a, b), np.degrees(np.arctan2(b, a)) % 360
    apart = np.abs((hue - tone_hue + 180) % 360 - 180) / 180 if tint else np.full_like(hue, 0.5)
    area = np.minimum(1.0, (share / 0.06) ** 0.4)
    usable = (1 - np.abs(light - 0.62)) ** 1.5 * np.clip((light - _DARK[0]) / (_DARK[1] - _DARK[0]), 0, 1)
    rise = np.clip((share - _SMALL[0]) / (_SMALL[1] - _SMALL[0]), 0, 1)
    telling = np.minimum(chroma, 0.22) / 0.22 * (0.55 + 0.45 * area) * (0.75 + 0.25 * apart) * rise
    found: list[Rgba] = []
    takes: list[tuple[float, float]] = []

    def take(colour: Rgba) -> None:
        _, own_chroma, own_hue = rgba_to_oklch(colour)
        if not any(abs((own_hue - h + 180) % 360 - 180) < 28 and abs(own_chroma - c) < 0.1 for c, h in takes):
            found.append(colour)
            takes.append((own_chroma, own_hue))

    def search(least_chroma: float, most: int, worth: Array, strengthened: bool) -> None:
        score = np.where((chroma >= least_chroma) & (share > 1e-6), worth, 0.0)
        while len(found) < most and score.max() > 0:
            give_way()
            i, j = np.unravel_index(int(score.argmax()), score.shape)
            middle = (float(light[i, j]), float(a[i, j]), float(b[i, j]))
            take(oklch_to_rgba(0.66, 0.085, float(hue[i, j])) if strengthened else _settled(score, light, a, b, middle))
            score[np.hypot(a - middle[1], b - middle[2]) < _NEAR] = 0.0

    search(0.04, 8, telling * usable, False)
    search(0.008, least, telling, True)
    start = rgba_to_oklch(found[0])[2] if found else 235.0
    for turn in (0.0, 150.0, 210.0, 60.0, 300.0):
        if len(found) < least:
            take(oklch_to_rgba(0.66, 0.075, start + turn))
    return tuple(found)


def _settled(score: Array, light: Array, a: Array, b: Array, at: tuple[float, float, float]) -> Rgba:
    """Return the middle of the most telling colours around one of them: on a plateau it does not wander."""
    away = np.hypot(a - at[1], b - at[2])
    weight = (score / score.max()) ** 8 * np.exp(-((away / (1.5 * _NEAR)) ** 2) / 2)
    total = float(weight.sum())
    return oklab_to_rgba(*(float((weight * layer).sum()) / total for layer in (light, a, b)))


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
