"""The whole-look controls: each does what it says, and nothing else."""

from __future__ import annotations

from dataclasses import replace

import pytest
from hypothesis import given
from hypothesis import strategies as st

from mellow_finch.colour.blend import mixed_in_oklab
from mellow_finch.colour.gamut import rgba_to_oklch
from mellow_finch.colour.rgb import Rgba
from mellow_finch.palette.derive import derive
from mellow_finch.palette.pairs import failing, pairs_for
from mellow_finch.palette.recipe import TONES, Recipe
from mellow_finch.palette.temper import ACCENTED, CONTROLS, Temper, temper_from
from mellow_finch.palette.wanted import wanted_palette

RECIPE = Recipe(Rgba(40, 140, 190), 230.0, 0.02)
TEMPERS = st.builds(
    Temper, **{c.id: st.floats(c.low, c.high) for c in CONTROLS}, text_need=st.sampled_from([4.5, 7.0])
)  # fmt: skip


def lch(temper: Temper, role: str, tone="dark"):
    return rgba_to_oklch(wanted_palette(RECIPE, tone, temper)[role])


@given(TEMPERS, st.sampled_from(TONES), st.sampled_from([0.0, 0.02, 0.04]))
def test_any_temper_is_readable_after_derivation(temper, tone, tint):
    palette = derive(replace(RECIPE, tint=tint), tone, temper=temper)
    assert not failing(palette, pairs_for(temper.text_need))


@pytest.mark.parametrize("tone", TONES)
def test_warmth_turns_surfaces_toward_amber_and_back(tone):
    warm, cold = (wanted_palette(RECIPE, tone, Temper(warmth=w))["window"] for w in (1.0, -1.0))
    assert warm.r - warm.b > cold.r - cold.b
    assert wanted_palette(RECIPE, tone, Temper(warmth=1.0))["accent"] == RECIPE.accent


def test_colourfulness_goes_from_grey_to_the_most_even_for_a_grey_picture():
    assert lch(Temper(colourfulness=0), "panel")[1] < 0.003 < lch(Temper(), "panel")[1]
    assert lch(Temper(colourfulness=2), "control")[1] > 2 * lch(Temper(), "control")[1]
    grey = replace(RECIPE, tint=0.0)
    full = rgba_to_oklch(wanted_palette(grey, "dark", Temper(colourfulness=2))["control"])
    assert full[1] > 0.04 and abs(full[2] - RECIPE.accent_oklch[2]) < 12


def test_depth_and_spread_move_levels():
    assert lch(Temper(depth=1), "window")[0] < lch(Temper(), "window")[0] < lch(Temper(depth=-1), "window")[0]
    assert lch(Temper(depth=1), "window", "light")[0] >= lch(Temper(depth=-1), "window", "light")[0]
    near, far = (lch(Temper(spread=s), "control")[0] - lch(Temper(spread=s), "view")[0] for s in (0.4, 2.0))
    assert far > 4 * near > 0


def test_strength_scales_the_family_of_the_accent():
    faint, strong = (wanted_palette(RECIPE, "dark", Temper(strength=s)) for s in (0.2, 1.0))
    for role in ("accent", "selection", "link", "focus"):
        assert rgba_to_oklch(faint[role])[1] < 0.5 * rgba_to_oklch(strong[role])[1]
    assert faint["window"] == strong["window"]


@pytest.mark.parametrize("name", ACCENTED)
@pytest.mark.parametrize("tone", TONES)
def test_a_surface_takes_the_accent_and_its_text_follows(name, tone):
    plain = wanted_palette(RECIPE, tone)
    full = derive(RECIPE, tone, temper=Temper(**{name: 1.0}))
    assert full[name] == plain["accent"] or rgba_to_oklch(full[name])[1] > 0.6 * RECIPE.accent_oklch[1]
    untouched = {"window", "view", "card"} | (set(ACCENTED) - {name})
    assert all(full[role] == plain[role] for role in untouched)
    if name == "menu":
        assert abs(rgba_to_oklch(full["menu_hover"])[0] - rgba_to_oklch(full["menu"])[0]) > 0.05


def test_saved_tempers_are_kept_within_their_ranges():
    assert temper_from({"warmth": 9, "spread": -3, "novel": 1}) == Temper(warmth=1.0, spread=0.4)
    with pytest.raises(ValueError, match="could not convert"):
        temper_from({"warmth": "hot"})
    assert {c.id for c in CONTROLS} | {"text_need"} == set(Temper.__slots__)


def test_mixing_ends_at_both_ends():
    a, b = Rgba(20, 40, 60), Rgba(200, 120, 90)
    assert mixed_in_oklab(a, b, 0) == a and mixed_in_oklab(a, b, 1) == b
