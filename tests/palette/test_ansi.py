"""The terminal's colours as a set: told apart, named, readable, and as far apart for dichromats as can be had."""

from __future__ import annotations

from itertools import combinations

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from mellow_finch.colour.contrast import ratio
from mellow_finch.colour.difference import colour_difference
from mellow_finch.colour.gamut import oklch_to_rgba, rgba_to_oklch
from mellow_finch.colour.rgb import Rgba
from mellow_finch.colour.vision import simulate_colour
from mellow_finch.palette import ansi
from mellow_finch.palette.ansi import ANSI_HUES, APART, ROWS, ansi_set, nearest_pair
from mellow_finch.palette.recipe import TONES, Recipe
from mellow_finch.palette.temper import Temper
from mellow_finch.palette.wanted import wanted_palette

BASE = {tone: dict(wanted_palette(Recipe(Rgba(190, 110, 60), 60, 0.02), tone)) for tone in TONES}


def smallest(colours, row, vision):
    seen = [simulate_colour(colours[f"ansi_{i}"], vision) for i in row]
    return min(colour_difference(a, b) for a, b in combinations(seen, 2))


@settings(max_examples=25)
@given(
    st.sampled_from(TONES), st.floats(0, 0.12), st.floats(0, 360), st.floats(0, 0.04), st.sampled_from([4.5, 7.0]),
    st.floats(0.09, 0.15),
)  # fmt: skip
def test_a_set_is_readable_named_and_told_apart(tone, rise, hue, tint, need, chroma):
    terminal = oklch_to_rgba(0.15 + rise if tone == "dark" else 1 - rise / 2, tint, hue)
    start = {f"ansi_{i}": oklch_to_rgba(0.7, chroma, 0) for row in ROWS for i in row}
    found = ansi_set(start, terminal, need)
    assert len(found) == 12
    for row in ROWS:
        assert smallest(found, row, "normal") >= APART
        for i in row:
            colour = found[f"ansi_{i}"]
            own_hue = rgba_to_oklch(colour)[2]
            assert abs((own_hue - ANSI_HUES[(i - 1) % 8 + 1] + 180) % 360 - 180) < 14
            assert ratio(colour, terminal) >= need


@pytest.mark.long
@pytest.mark.parametrize("tone", ["dark", pytest.param("light", marks=pytest.mark.long)])
def test_no_random_set_is_farther_apart_for_dichromats(tone):
    """Of many random sets under the same rules, none beats ours by more than the grid's own coarseness."""
    own = BASE[tone]
    chroma = np.mean([rgba_to_oklch(own[f"ansi_{i}"])[1] for i in range(1, 7)])
    ours = min(smallest(own, ROWS[0], v) for v in ("deutan", "protan"))
    rng = np.random.default_rng(4)
    spans = ansi._LIGHT_ON_DARK if tone == "dark" else ansi._DARK_ON_LIGHT
    best = 0.0
    for _ in range(400):
        row = {}
        for i in range(1, 7):
            while True:
                lightness, turn = rng.uniform(*spans[i]), rng.uniform(-1, 1) * ansi._ROOM_DEG[i]
                colour = oklch_to_rgba(lightness, chroma, ANSI_HUES[i] + turn)
                if ratio(colour, own["terminal"]) >= 4.5 or lightness in spans[i]:
                    break
            row[f"ansi_{i}"] = colour
        if smallest(row, ROWS[0], "normal") >= APART:
            best = max(best, min(smallest(row, ROWS[0], v) for v in ("deutan", "protan")))
    assert ours >= best - 0.5


def test_choosing_agrees_with_brute_force_on_small_domains():
    rng = np.random.default_rng(9)
    domains = [[Rgba(*rng.integers(0, 256, 3).tolist()) for _ in range(4)] for _ in range(4)]
    found = ansi._choose(domains)

    def score(row):
        if min(colour_difference(a, b) for a, b in combinations(row, 2)) < APART + ansi._MARGIN:
            return -1.0
        return min(
            colour_difference(simulate_colour(a, v), simulate_colour(b, v))
            for v in ("deutan", "protan") for a, b in combinations(row, 2)
        )  # fmt: skip

    best = max(score(row) for row in np.stack(np.meshgrid(*[range(4)] * 4), -1).reshape(-1, 4).tolist()
               for row in [[domains[i][j] for i, j in enumerate(row)]])  # fmt: skip
    assert found is not None and score(found) == pytest.approx(best)


def test_held_colours_stay_and_bright_ones_lie_farther_from_the_ground():
    own = BASE["dark"]
    held = {"ansi_1": Rgba(255, 90, 90), "ansi_12": Rgba(120, 170, 255)}
    found = ansi_set({**own, **held}, own["terminal"], held=held)
    assert all(found[role] == colour for role, colour in held.items())
    for i in range(2, 7):
        if i != 4:
            assert rgba_to_oklch(found[f"ansi_{i + 8}"])[0] >= rgba_to_oklch(found[f"ansi_{i}"])[0] - 1e-3


def test_where_nothing_can_be_had_nothing_is_given():
    own = BASE["dark"]
    assert ansi_set(own, Rgba(118, 118, 118), need=7.0) == {}
    same = {f"ansi_{i}": Rgba(200, 200, 200) for i in range(1, 7)}
    found = ansi_set({**own, **same}, own["terminal"], held=same)
    assert not set(found) & set(same) or len(found) == 6


def test_the_nearest_two_are_named():
    own = dict(BASE["dark"])
    own["ansi_3"] = own["ansi_2"]
    assert nearest_pair(own) == (0.0, "ansi_2", "ansi_3")


@given(st.floats(0, 360), st.floats(0, 0.06), st.floats(0, 360), st.sampled_from([4.5, 7.0]))
def test_black_is_read_on_every_colour_of_a_dark_terminal(hue, tint, accent, need):
    """Programs of the terminal write black on green and on cyan: headings, chosen rows."""
    recipe = Recipe(oklch_to_rgba(0.65, 0.12, accent), hue, tint)
    found = wanted_palette(recipe, "dark", Temper(text_need=need))
    for i in range(1, 8):
        assert ratio(found["ansi_0"], found[f"ansi_{i}"]) >= need
