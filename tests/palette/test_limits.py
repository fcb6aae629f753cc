"""Where a colour can go: against ratios worked out one by one, and in words."""

from __future__ import annotations

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from mellow_finch.colour.blend import over
from mellow_finch.colour.contrast import ratio
from mellow_finch.colour.gamut import oklch_to_rgba, rgba_to_oklch
from mellow_finch.colour.rgb import Rgba
from mellow_finch.palette.apart import APART, confusions
from mellow_finch.palette.derive import derive
from mellow_finch.palette.limits import Over, lightness_limits, limits, stopped
from mellow_finch.palette.pairs import PAIRS, pairs_for
from mellow_finch.palette.recipe import TONES, Recipe
from mellow_finch.palette.roles import ROLE_IDS
from mellow_finch.palette.spoken import nearest_role
from mellow_finch.palette.veil import KIND_BY_ID, KINDS, as_drawn, least_opacity, opacity_of, veiled
from mellow_finch.picture.backdrop import Backdrop, Extremes

PALETTES = {tone: derive(Recipe(Rgba(186, 120, 70), 60, 0.02), tone) for tone in TONES}
BUSY = Backdrop(
    Rgba(10, 14, 30), Rgba(255, 244, 220), Rgba(120, 110, 100),
    (("everywhere", Extremes((Rgba(10, 14, 30), Rgba(255, 244, 220)), (Rgba(90, 90, 96), Rgba(170, 160, 150)))),),
)  # fmt: skip


@settings(max_examples=60)
@given(st.sampled_from(TONES), st.sampled_from(ROLE_IDS), st.integers(0, 2), st.booleans())
def test_stretches_agree_with_ratios_one_by_one(tone, role, axis, glass):
    palette = PALETTES[tone]
    veil = Over({"windows": 0.8, "menus": 0.7}, BUSY) if glass else Over({})
    own = list(rgba_to_oklch(palette[role]))
    values = np.linspace(0, (1.0, 0.3, 360.0)[axis], 40)
    lch = np.tile(own, (40, 1))
    lch[:, axis] = values
    found = limits(palette, role, lch, PAIRS, veil)
    for i in range(40):
        colour = oklch_to_rgba(*lch[i].tolist())
        good = True
        for pair in PAIRS:
            if role not in (pair.text, pair.surface):
                continue
            text, surface = (colour if r == role else palette[r] for r in (pair.text, pair.surface))
            alpha = {"window": veil.opacity.get("windows", 1.0), "menu": veil.opacity.get("menus", 1.0)}.get(
                pair.surface, 1.0
            )
            faces = (
                [surface, *(over(surface._replace(a=alpha), g) for g in BUSY.at("everywhere"))]
                if alpha < 1
                else [surface]
            )
            margin = min(ratio(text, f) for f in faces) / pair.need.level
            if abs(margin - 1) < 0.012:
                break  # too near to the edge for two roundings to agree
            good &= margin >= 1
        else:
            assert bool(found.good[i]) is good
            assert bool(found.reason(i)) is not good


def test_a_drag_stops_at_the_edge_and_goes_on_from_a_bad_place():
    values = np.linspace(0, 1, 11)
    good = np.array([True] * 6 + [False] * 3 + [True] * 2)
    assert stopped(values, good, 0.2, 0.95) == pytest.approx(0.5)
    assert stopped(values, good, 0.2, 0.4) == 0.4
    assert stopped(values, good, 1.0, 0.0) == pytest.approx(0.9)
    assert stopped(values, good, 0.7, 0.1) == 0.1
    assert stopped(values, ~good, 0.7, 0.0) == pytest.approx(0.6)


def test_why_not_lighter_is_answered_in_one_sentence():
    palette = PALETTES["dark"]
    lighter, darker = lightness_limits(palette, "menu", {"menu_text"})
    assert lighter.startswith("It cannot be lighter than 0.") and lighter.count(". ") <= 1
    assert "on it would drop below" in lighter and darker == "It can be darkened down to black."
    text_lighter, text_darker = lightness_limits(palette, "menu_text")
    assert text_lighter.endswith("to white.") and "its contrast on Menu would drop below 4.5" in text_darker
    assert "Hold Ctrl" in text_darker
    assert "“Menu” is locked" in lightness_limits(palette, "menu_text", {"menu"})[1]
    level = float(text_darker.split("than ")[1].split(":")[0])
    own = rgba_to_oklch(palette["menu_text"])
    assert (
        ratio(oklch_to_rgba(level, *own[1:]), palette["menu"])
        >= 4.5
        > ratio(oklch_to_rgba(level - 0.01, *own[1:]), palette["menu"])
    )
    bad = {**palette, "menu_text": palette["menu"]}
    assert "already insufficient" in lightness_limits(bad, "menu_text")[0]
    assert lightness_limits(palette, "shadow") == (
        "It can be lightened up to white.",
        "It can be darkened down to black.",
    )


@settings(max_examples=20)
@given(
    st.sampled_from(TONES),
    st.sampled_from([k.id for k in KINDS]),
    st.floats(0, 1),
    st.booleans(),
    st.sampled_from([4.5, 7.0]),
)
def test_texts_read_over_the_picture_and_the_least_opacity_is_the_least(tone, kind, asked, blur, need):
    palette = derive(Recipe(Rgba(40, 140, 190), 230, 0.02), tone)
    pairs = tuple(p for p in pairs_for(need) if ratio(palette[p.text], palette[p.surface]) >= p.need.level)
    fresh, drawn = veiled(palette, {kind: asked}, BUSY, blur, pairs=pairs)
    least = least_opacity(palette, kind, {}, BUSY, blur, pairs=pairs)
    effective = drawn.get(kind, 1.0)
    assert effective >= asked - 0.0051 and effective >= least
    assert effective == pytest.approx(max(asked, least), abs=0.0101)
    roles = next(k.roles for k in KINDS if k.id == kind)
    for role in roles:
        assert fresh[role] == palette[role]
        for ground in BUSY.at("everywhere", blur):
            face = over(fresh[role]._replace(a=effective), ground)
            for pair in pairs:
                if pair.surface == role:
                    assert ratio(fresh[pair.text], face) >= pair.need.level
    assert all(ratio(fresh[p.text], fresh[p.surface]) >= p.need.level for p in pairs)


def test_a_locked_text_makes_its_surface_less_see_through():
    palette = PALETTES["dark"]
    free = veiled(palette, {"menus": 0.5}, BUSY)[1]["menus"]
    held = veiled(palette, {"menus": 0.5}, BUSY, held=("menu_text", "outline", "disabled_text"))
    assert held[1].get("menus", 1.0) > free and held[0]["menu_text"] == palette["menu_text"]
    assert veiled(palette, {"menus": 1.0}, BUSY) == (palette, {})


def test_blur_and_a_calm_picture_allow_more():
    palette = PALETTES["dark"]
    sharp, soft = (least_opacity(palette, "windows", {}, BUSY, blur) for blur in (False, True))
    assert soft < sharp <= 1


def test_confusions_are_told_by_ordinary_eyes_and_by_no_others():
    palette = PALETTES["dark"]
    for vision in ("protan", "deutan", "tritan", "grey"):
        rows = confusions(palette, vision)
        assert all(r.normal >= APART > r.seen for r in rows)
        assert [r.seen for r in rows] == sorted(r.seen for r in rows)
    alike = {**palette, "success": Rgba(70, 141, 87), "error": Rgba(178, 95, 89)}
    assert any({r.first, r.second} == {"success", "error"} for r in confusions(alike, "deutan"))
    assert not any({r.first, r.second} == {"success", "error"} for r in confusions(palette, "deutan"))
    assert confusions(palette, "normal") == ()


@given(st.tuples(*[st.integers(0, 255)] * 3).map(lambda t: Rgba(*t)))
def test_the_nearest_role_is_the_nearest(colour):
    from mellow_finch.colour.difference import oklab_distance

    role, distance = nearest_role(colour, PALETTES["light"])
    assert distance == pytest.approx(min(oklab_distance(colour, c) for c in PALETTES["light"].values()))
    assert oklab_distance(colour, PALETTES["light"][role]) == pytest.approx(distance)


def test_a_kind_that_is_like_another_has_its_opacity_until_it_gets_one_of_its_own():
    palette, dock = PALETTES["dark"], KIND_BY_ID["dock"]
    assert opacity_of(dock, {}) == 1 and opacity_of(dock, {"panel": 0.7}) == 0.7
    assert opacity_of(dock, {"panel": 0.7, "dock": 0.9}) == 0.9 and opacity_of(None, {"panel": 0.7}) == 1
    assert as_drawn(palette, "panel", {"panel": 0.7, "dock": 0.9}, dock).a == 0.9
    plain, drawn = veiled(palette, {"panel": 0.95, "dock": 0.0}, BUSY)
    alone, _ = veiled(palette, {"panel": 0.95}, BUSY)
    assert plain == alone and drawn["dock"] == least_opacity(palette, "dock", {}, BUSY) > 0
    assert veiled(palette, {"panel": 0.9, "dock": 1.0}, BUSY)[1]["dock"] == 1
