"""Solving: every pair passes, what is held stays, and the change is the smallest there is."""

from __future__ import annotations

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from mellow_finch.colour.blend import over
from mellow_finch.colour.contrast import ratio
from mellow_finch.colour.difference import oklab_distance
from mellow_finch.colour.gamut import oklch_to_rgba, rgba_to_oklch
from mellow_finch.colour.requirement import TEXT
from mellow_finch.colour.rgb import Rgba
from mellow_finch.errors import ImpossibleLocksError
from mellow_finch.palette.derive import derive
from mellow_finch.palette.fit import fit, fit_surface
from mellow_finch.palette.lightness import PATH_STEPS, least_costs, path_of, reaches
from mellow_finch.palette.pairs import PAIRS, RolePair, failing, judge
from mellow_finch.palette.recipe import TONES, Recipe
from mellow_finch.palette.roles import ROLE_BY_ID, ROLE_IDS
from mellow_finch.palette.solve import solve

COLOURS = st.tuples(*[st.integers(0, 255)] * 3).map(lambda t: Rgba(*t))
BASE = {tone: derive(Recipe(Rgba(200, 100, 60), 200, 0.03), tone) for tone in TONES}


@given(COLOURS, COLOURS, st.sampled_from([3.0, 4.5, 7.0]))
def test_two_colours_agree_with_brute_force(text, surface, need):
    pair = RolePair("menu_text", "menu", TEXT._replace(level=need))
    fresh_text, fresh_surface = solve({"menu_text": text, "menu": surface}, pairs=(pair,)).values()
    assert ratio(fresh_text, fresh_surface) >= need
    ours = oklab_distance(text, fresh_text) + oklab_distance(surface, fresh_surface)
    ways = []
    for colour in (text, surface):
        _, chroma, hue = rgba_to_oklch(colour)
        ways.append([colour, *(oklch_to_rgba(level, chroma, hue) for level in np.linspace(0, 1, 41))])
    lums = [[ratio(c, Rgba(0, 0, 0)) * 0.05 for c in way] for way in ways]
    costs = [[oklab_distance(way[0], c) for c in way] for way in ways]
    best = min(
        costs[0][i] + costs[1][j]
        for i in range(42)
        for j in range(42)
        if max(lums[0][i], lums[1][j]) >= need * min(lums[0][i], lums[1][j])
    )
    assert ours <= best + 0.004


@given(COLOURS, st.lists(st.tuples(COLOURS, st.sampled_from([3.0, 4.5])), min_size=1, max_size=3))
def test_one_colour_moves_as_little_as_can_be(colour, surfaces):
    found = fit(colour, surfaces)
    way = path_of(colour)
    good = [i for i in range(PATH_STEPS) if all(ratio(way.at(i), s) >= need for s, need in surfaces)]
    if found is None:
        assert not good
        return
    assert all(ratio(found, s) >= need for s, need in surfaces)
    assert oklab_distance(colour, found) <= min((way.cost[i] for i in good), default=9) + 1e-6


@given(COLOURS, st.sampled_from([0.2, 0.55, 0.9]), st.lists(st.tuples(COLOURS, st.just(4.5)), min_size=1, max_size=2))
def test_a_see_through_colour_is_judged_as_it_is_drawn(colour, alpha, surfaces):
    found = fit(colour._replace(a=alpha), surfaces)
    if found is None:
        assert fit(colour, surfaces) is None
        return
    assert found.a >= alpha and all(ratio(over(found, s), s) >= need for s, need in surfaces)
    kept = fit(colour._replace(a=alpha), surfaces, may_rise=False)
    assert kept is None or (kept == found and kept.a == alpha)


@given(COLOURS, COLOURS, st.sampled_from([0.3, 0.8, 1.0]), st.lists(COLOURS, min_size=1, max_size=2))
def test_a_surface_gives_way_to_its_text(fill, text, alpha, below):
    found = fit_surface(fill._replace(a=alpha), text, below, 4.5, True, alpha)
    assert found.a >= alpha
    assert all(ratio(text, over(found, under)) >= 4.49 for under in below)


def test_what_passes_is_not_touched():
    for tone in TONES:
        assert solve(BASE[tone]) == BASE[tone]


@settings(max_examples=120)
@given(st.sampled_from(TONES), st.sampled_from(ROLE_IDS), COLOURS)
def test_any_role_can_take_any_colour(tone, role, colour):
    solved = solve({**BASE[tone], role: colour}, held=(role,), settle=False)
    assert solved[role] == colour
    assert not failing(solved)


@given(st.sampled_from(TONES), st.lists(st.tuples(st.sampled_from(ROLE_IDS), COLOURS), min_size=2, max_size=5))
def test_locks_hold_or_are_named(tone, locks):
    wanted = {**BASE[tone], **dict(locks)}
    names = {role for role, _ in locks}
    try:
        solved = solve(wanted, names)
    except ImpossibleLocksError as error:
        assert error.roles and set(error.roles) <= names
        assert any(ROLE_BY_ID[r].title in str(error) for r in error.roles)
        return
    assert not failing(solved)
    assert all(solved[r] == wanted[r] for r in names)


def test_locks_that_only_meet_through_a_third_role_are_named():
    """The accent would have to be lighter than the card and darker than its text: neither pair is of two locks."""
    locks = {"card": Rgba(0, 0, 0), "accent_text": Rgba(0, 139, 0)}
    with pytest.raises(ImpossibleLocksError) as caught:
        solve({**BASE["dark"], **locks}, locks)
    assert set(caught.value.roles) == set(locks) and "Card" in str(caught.value)
    for role in locks:
        assert not failing(solve({**BASE["dark"], role: locks[role]}, {role}))


def test_locked_text_on_locked_surface_is_named():
    grey = Rgba(120, 120, 120)
    with pytest.raises(ImpossibleLocksError) as caught:
        solve({**BASE["dark"], "menu": grey, "menu_text": grey}, ("menu", "menu_text"))
    assert set(caught.value.roles) == {"menu", "menu_text"}
    assert caught.value.line().endswith("Unlock or change one of them.")
    assert "Menu text" in str(caught.value) and "are locked" in str(caught.value)


def test_surfaces_move_where_no_text_can_help():
    pairs = (RolePair("link", "window", TEXT), RolePair("link", "view", TEXT))
    colours = {"link": Rgba(128, 128, 128), "window": Rgba(20, 20, 20), "view": Rgba(240, 240, 240)}
    solved = solve(colours, pairs=pairs)
    assert all(j.passes for j in judge(solved, pairs))


def test_seven_to_one_can_be_asked_for():
    for tone in TONES:
        solved = solve(BASE[tone], text_need=7.0)
        assert all(ratio(solved[p.text], solved[p.surface]) >= 7 for p in PAIRS if p.need == TEXT)


@given(COLOURS)
def test_ways_run_from_black_to_white_through_their_colour(colour):
    way = path_of(colour)
    assert way.at(0) == Rgba(0, 0, 0) and way.at(PATH_STEPS - 1) == Rgba(255, 255, 255)
    assert way.cost.min() == 0 and colour in [way.at(int(i)) for i in np.flatnonzero(way.cost == 0)]
    assert np.diff(way.luminance).min() > -0.02


@given(COLOURS, COLOURS, COLOURS, st.sampled_from([1.0, 2.5, 3.0, 4.5, 7.0, 21.0]))
def test_the_least_cost_on_every_surface_agrees_with_trying_all(surface, text, blocked, need):
    under, way, other = path_of(surface), path_of(text), path_of(blocked)
    costs = np.where(reaches(way.luminance, other.luminance[128], 3.0), way.cost, 9.0)
    found = least_costs(under.luminance, way.luminance, costs, need, 9.0)
    tried = np.where(reaches(under.luminance[:, None], way.luminance[None, :], need), costs, 9.0).min(axis=1)
    assert np.array_equal(found, tried)
