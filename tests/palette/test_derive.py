"""Derivation: readable for any picture at all, near to the picture, deterministic."""

from __future__ import annotations

from itertools import combinations, pairwise
from pathlib import Path

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from mellow_finch.colour.difference import colour_difference, oklab_distance
from mellow_finch.colour.gamut import oklch_to_rgba, rgba_to_oklch
from mellow_finch.colour.rgb import Rgba
from mellow_finch.palette.ansi import ANSI_HUES
from mellow_finch.palette.derive import accent_candidates, derive, surface_tint
from mellow_finch.palette.pairs import PAIRS, failing
from mellow_finch.palette.readings import readings_of
from mellow_finch.palette.recipe import TONES, Recipe
from mellow_finch.palette.roles import ROLE_IDS, ROLES
from mellow_finch.picture.load import LoadedPicture
from mellow_finch.picture.spread import blended, spread_of, spread_of_picture, spread_of_swatches
from mellow_finch.picture.swatches import Swatch, swatches_of

RECIPES = st.builds(
    Recipe,
    accent=st.tuples(*[st.integers(0, 255)] * 3).map(lambda t: Rgba(*t)),
    hue_deg=st.floats(0, 360),
    tint=st.floats(0, 0.04),
)


def pixels_of(kind: str) -> np.ndarray:
    rng = np.random.default_rng(1)
    noise = rng.integers(0, 256, (60, 90, 3))
    return {
        "black": np.zeros((60, 90, 3)), "white": np.full((60, 90, 3), 255), "grey": np.full((60, 90, 3), 128),
        "one flat colour": np.broadcast_to((30, 90, 160), (60, 90, 3)), "neon": np.where(noise > 127, 255, 0),
        "noise": noise, "grey noise": np.repeat(noise[..., :1], 3, axis=2), "near black": noise // 32,
        "yellow": np.broadcast_to((255, 255, 0), (60, 90, 3)), "one pixel": np.array([[[200, 10, 90]]]),
    }[kind]  # fmt: skip


@given(RECIPES)
def test_every_pair_passes_for_any_recipe(recipe):
    for tone in TONES:
        palette = derive(recipe, tone)
        assert set(palette) == set(ROLE_IDS)
        assert not failing(palette)


@pytest.mark.parametrize(
    "kind",
    ["black", "white", "grey", "one flat colour", "neon", "noise", "grey noise", "near black", "yellow", "one pixel"],
)
def test_every_pair_passes_for_any_picture(kind):
    pixels = pixels_of(kind).astype(np.uint8)
    swatches = swatches_of(LoadedPicture(Path("made.png"), pixels.shape[1], pixels.shape[0], pixels))
    readings = readings_of(spread_of_swatches(swatches))
    assert len(readings) >= 3 and len({r.id for r in readings}) == len(readings)
    for reading in readings:
        for tone in TONES:
            assert not failing(derive(reading.recipe, tone))


@given(RECIPES, st.sampled_from(TONES))
def test_terminal_colours_are_told_apart_and_keep_their_hues(recipe, tone):
    palette = derive(recipe, tone)
    for row in (range(1, 7), range(9, 15)):
        for a, b in combinations(row, 2):
            assert colour_difference(palette[f"ansi_{a}"], palette[f"ansi_{b}"]) >= 10
    for i, hue in ANSI_HUES.items():
        own = rgba_to_oklch(palette[f"ansi_{i}"])[2]
        assert abs((own - hue + 180) % 360 - 180) < 14


@given(st.floats(0.55, 0.75), st.floats(0.05, 0.2), st.floats(0, 360))
def test_an_accent_that_can_be_read_is_kept(lightness, chroma, hue):
    accent = oklch_to_rgba(lightness, chroma, hue)
    palette = derive(Recipe(accent, 200, 0.02), "dark")
    assert oklab_distance(palette["accent"], accent) < 0.06


def test_dark_and_light_windows_lie_where_they_should():
    for tint in (0.0, 0.02, 0.04):
        dark, light = (rgba_to_oklch(derive(Recipe(Rgba(180, 90, 60), 250, tint), t)["window"]) for t in TONES)
        assert 0.20 <= dark[0] <= 0.27 and 0.94 <= light[0] <= 0.98
        assert dark[1] <= 0.045 and light[1] <= 0.045


def test_surfaces_are_told_apart():
    palette = derive(Recipe(Rgba(180, 90, 60), 250, 0.02), "dark")
    levels = sorted(rgba_to_oklch(palette[s])[0] for s in ("panel", "view", "window", "header", "control"))
    assert all(0.015 < b - a < 0.06 for a, b in pairwise(levels))


def test_grey_pictures_give_grey_surfaces():
    grey = [Swatch(Rgba(v, v, v), 0.25, (0.5, 0.5)) for v in (20, 90, 160, 240)]
    assert surface_tint(spread_of_swatches(grey)) == (0.0, 0.0)
    palette = derive(readings_of(spread_of_swatches(grey))[0].recipe, "dark")
    assert rgba_to_oklch(palette["window"])[1] < 0.002


def test_there_are_always_three_accents_apart():
    for swatches in ([], [Swatch(Rgba(128, 128, 128), 1.0, (0.5, 0.5))]):
        found = accent_candidates(spread_of_swatches(swatches))
        assert len(found) >= 3
        assert min(colour_difference(a, b) for a, b in combinations(found, 2)) > 8


def test_a_vivid_small_area_can_lead():
    swatches = [
        Swatch(Rgba(110, 115, 112), 0.6, (0, 0)), Swatch(Rgba(140, 146, 148), 0.397, (0, 0)),
        Swatch(Rgba(210, 50, 40), 0.003, (0, 0), True),
    ]  # fmt: skip
    assert accent_candidates(spread_of_swatches(swatches))[0] == Rgba(210, 50, 40)


def test_dark_colours_lend_their_hues():
    swatches = [Swatch(Rgba(8, 9, 10), 0.7, (0, 0)), Swatch(Rgba(10, 26, 4), 0.3, (0, 0))]
    first = rgba_to_oklch(accent_candidates(spread_of_swatches(swatches))[0])
    assert first[0] > 0.5 and abs(first[2] - rgba_to_oklch(Rgba(10, 26, 4))[2]) < 8


def test_two_hues_that_are_even_tint_the_surfaces_less_than_one():
    def tint(share):
        rows = [Swatch(Rgba(70, 110, 170), 1 - share, (0, 0)), Swatch(Rgba(150, 110, 40), share, (0, 0))]
        return surface_tint(spread_of_swatches(rows))[1]

    assert tint(0.5) < 0.8 * tint(0.1) and tint(0.5) == pytest.approx(tint(0.52), rel=0.1)


@settings(max_examples=25)
@given(st.integers(0, 2**32 - 1))
def test_a_picture_that_is_cropped_or_noisy_gives_nearly_the_same_accent_and_tint(seed):
    """Patches of clearly different sizes, cropped a little and with the noise that saving adds."""
    rng = np.random.default_rng(seed)
    colours = rng.integers(30, 226, (4, 3))
    edges = (0, 60, 84, 94, 100)
    pixels = np.zeros((100, 100, 3))
    for (left, right), colour in zip(pairwise(edges), colours, strict=True):
        pixels[:, left:right] = colour
    noisy = np.clip(pixels + rng.normal(0, 2.0, pixels.shape), 0, 255)

    def told(values):
        picture = LoadedPicture(Path("made.png"), values.shape[1], values.shape[0], values.astype(np.uint8))
        spread = spread_of_picture(picture)
        return accent_candidates(spread), surface_tint(spread)

    (first, (hue, tint)), (again, (hue2, tint2)) = told(pixels), told(noisy[1:, 1:-1])
    assert min(colour_difference(again[0], c) for c in first[:2]) < 6  # a tie may turn, and then to the next one
    if tint > 0.02:
        apart = 2 * min(tint, tint2) * np.sin(np.radians(abs((hue - hue2 + 180) % 360 - 180) / 2))
        assert apart < 0.01 or abs(tint - tint2) < 0.012


def test_spreads_add_up_by_their_weights():
    red, blue = (spread_of(np.array([[c]]), np.array([1.0])) for c in ((0.8, 0.2, 0.2), (0.2, 0.2, 0.8)))
    both = blended([(red, 3.0), (blue, 1.0)])
    assert both.total == pytest.approx(4.0)
    share = both.smoothed(0.01).share
    assert sorted(share[share > 0.2].round(6).tolist())[-1] == pytest.approx(0.75, abs=1e-3)
    assert {accent_candidates(red)[0], accent_candidates(blue)[0]} <= set(accent_candidates(both))


def test_pins_lead():
    pin = Rgba(10, 200, 150)
    swatches = [Swatch(Rgba(200, 60, 40), 1.0, (0, 0))]
    assert readings_of(spread_of_swatches(swatches), (pin,))[0].recipe.accent == pin


def test_same_recipe_same_palette():
    recipe = Recipe(Rgba(90, 140, 60), 120, 0.03)
    assert derive(recipe, "light") == derive(recipe, "light")


def test_every_role_says_where_it_shows():
    assert len(ROLE_IDS) == len(set(ROLE_IDS)) == 78
    for role in ROLES:
        assert (
            role.shows.endswith(".") and role.title[0].isupper() and role.kind in ("surface", "text", "mark", "quiet")
        )
    assert {p.text for p in PAIRS} | {p.surface for p in PAIRS} <= set(ROLE_IDS)
    unpaired = set(ROLE_IDS) - {p.text for p in PAIRS} - {p.surface for p in PAIRS}
    assert unpaired == {"divider", "shadow", "ansi_0"}


@given(st.floats(0, 360), st.floats(0.35, 0.85), st.floats(0.0, 0.2), st.floats(0, 360), st.sampled_from(TONES))
def test_status_colours_are_told_apart_by_eyes_that_take_red_and_green_for_one(hue, light, chroma, ground, tone):
    """By coloraide's simulation and difference, not by ours."""
    from coloraide import Color

    palette = derive(Recipe(oklch_to_rgba(light, chroma, hue), ground, 0.02), tone)
    for ending in ("", "_ink"):
        seen = [Color(palette[f"{name}{ending}"].hex) for name in ("success", "warning", "error")]
        for kind in ("deutan", "protan"):
            rows = [c.filter(kind, method="machado") for c in seen]
            assert min(a.delta_e(b, method="2000") for i, a in enumerate(rows) for b in rows[:i]) >= 9.5
