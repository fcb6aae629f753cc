"""The one map: exact at anchors, monotone, neutral, identical when nothing changes, smooth."""

from __future__ import annotations

import numpy as np
import pytest
from coloraide import Color
from hypothesis import assume, given
from hypothesis import strategies as st

from mellow_finch.colour.gamut import rgba_to_oklch
from mellow_finch.colour.rgb import Rgba, parse_hex
from mellow_finch.colour.spaces import srgb_to_oklab
from mellow_finch.recolour.colour_map import Anchor, is_vivid, map_of

COLOURS = st.tuples(*[st.integers(0, 255)] * 3).map(lambda t: Rgba(*t))
GREYS = st.integers(0, 255).map(lambda v: Rgba(v, v, v))
ANCHORS = st.lists(st.tuples(COLOURS, COLOURS, st.floats(0.1, 9)), max_size=8)
RAMP = np.repeat(np.arange(256)[:, None], 3, axis=1) / 255


def chart(reverses=False):
    rows = [("#f5f5f5", "#f1e9dd", 9), ("#ffffff", "#fbf6ee", 8), ("#2b2b2b", "#33291f", 7), ("#3584e4", "#8a5a2b", 6)]
    rows += [("#e01b24", "#b3403a", 3), ("#33d17a", "#4a8a57", 2)]
    if reverses:
        rows = [
            ("#f5f5f5", "#2a2622", 9),
            ("#ffffff", "#211d19", 8),
            ("#2b2b2b", "#e9e2d8", 7),
            ("#3584e4", "#d8a24a", 6),
        ]
    return map_of([Anchor(parse_hex(a), parse_hex(b), w) for a, b, w in rows], reverses)


@given(ANCHORS, st.booleans())
def test_exact_at_every_anchor_it_keeps(rows, reverses):
    made = map_of([Anchor(a, b, w) for a, b, w in rows], reverses)
    carried = made.carry_all([a.source for a in made.anchors])
    assert all(carried[a.source] == a.target for a in made.anchors)
    assert len({a.source for a in made.anchors}) == len(made.anchors)


@given(COLOURS, COLOURS)
def test_what_a_person_chose_holds(source, target):
    made = map_of([*chart().anchors, Anchor(source, target, firm=True)])
    assert made.carry_all([source])[source] == target


@given(st.lists(st.tuples(GREYS, GREYS, st.floats(0.1, 9)), max_size=8), st.booleans())
def test_neutrals_keep_their_order_or_turn_it_round(rows, reverses):
    made = map_of([Anchor(a, b, w) for a, b, w in rows], reverses)
    light = srgb_to_oklab(made.carry(RAMP))[:, 0]
    steps = np.diff(light) * (-1 if reverses and made.anchors else 1)
    assert steps.min() >= -2e-3


@pytest.mark.parametrize("reverses", [False, True])
def test_neutral_stays_neutral(reverses):
    made = chart(reverses)
    most = max(rgba_to_oklch(a.target)[1] for a in made.anchors if not is_vivid(a.source))
    lab = srgb_to_oklab(made.carry(RAMP))
    assert np.hypot(lab[:, 1], lab[:, 2]).max() <= most + 1e-3


@given(st.lists(COLOURS, min_size=1, max_size=8), st.lists(COLOURS, min_size=1, max_size=20))
def test_identity_when_source_equals_target(anchors, colours):
    made = map_of([Anchor(c, c) for c in anchors])
    assert made.carry_all(colours) == {c: c for c in colours}


@pytest.mark.parametrize("reverses", [False, True])
@pytest.mark.parametrize(
    "ends", [("#000000", "#ffffff"), ("#0a2a5c", "#cfe0fa"), ("#3584e4", "#e01b24"), ("#808080", "#3584e4")]
)
def test_a_ramp_has_no_bands(ends, reverses):
    start, end = (np.array(parse_hex(c).unit) for c in ends)
    ramp = start + (end - start) * np.linspace(0, 1, 1024)[:, None]
    before, after = srgb_to_oklab(ramp), srgb_to_oklab(chart(reverses).carry(ramp))
    moves = np.linalg.norm(np.diff(after, axis=0), axis=1)
    whole = np.linalg.norm(np.diff(before, axis=0), axis=1)
    assert (moves <= 6 * whole + 0.004).all()
    eight = np.rint(chart(reverses).carry(ramp) * 255)
    assert len(np.unique(eight, axis=0)) > 60


def test_alpha_is_kept():
    assert chart().carry_all([Rgba(53, 132, 228, 0.4)])[Rgba(53, 132, 228, 0.4)].a == 0.4


@pytest.mark.parametrize("name", ["#e01b24", "#d64545", "#33d17a", "#2ec27e"])
def test_status_colours_keep_their_hue_names(name):
    new = chart().carry_all([parse_hex(name)])[parse_hex(name)]
    old_hue, hue = (Color(c).convert("oklch")["hue"] for c in (name, new.hex))
    assert abs((hue - old_hue + 180) % 360 - 180) < 25


def test_hover_and_pressed_still_tell_apart():
    made = chart(True)
    for rest, hover in (("#3584e4", "#4a90e8"), ("#f5f5f5", "#e6e6e6"), ("#e01b24", "#c01c28")):
        new = made.carry_all([parse_hex(rest), parse_hex(hover)])
        a, b = (Color(c.hex).convert("oklab").coords() for c in new.values())
        assert np.linalg.norm(np.array(a) - np.array(b)) >= 0.02


@given(st.lists(COLOURS, min_size=1, max_size=30))
def test_pixels_and_colours_go_the_same_way(colours):
    made = chart(True)
    pixels = made.carry_pixels(np.array([c[:3] for c in colours], dtype=np.uint8))
    carried = made.carry_all(colours)
    assert [tuple(p) for p in pixels.tolist()] == [carried[c][:3] for c in colours]


@given(COLOURS)
def test_far_hues_keep_their_own(colour):
    _, chroma, hue = rgba_to_oklch(colour)
    assume(chroma > 0.12 and 0.4 < rgba_to_oklch(colour)[0] < 0.75)
    made = map_of([Anchor(parse_hex("#3584e4"), parse_hex("#8a5a2b"))])
    assume(abs((hue - rgba_to_oklch(parse_hex("#3584e4"))[2] + 180) % 360 - 180) > 76)
    new = rgba_to_oklch(made.carry_all([colour])[colour])
    assert abs((new[2] - hue + 180) % 360 - 180) < 6


def test_a_large_picture_comes_out_as_its_pieces_do():
    """Many pixels are counted where few are sorted: to the same colours."""
    chart = map_of([Anchor(Rgba(40, 40, 44), Rgba(30, 22, 20)), Anchor(Rgba(53, 132, 228), Rgba(200, 90, 60), 3)])
    pixels = np.random.default_rng(7).integers(0, 256, (240_000, 3)).astype(np.uint8)
    pieces = np.concatenate([chart.carry_pixels(pixels[i : i + 60_000]) for i in range(0, len(pixels), 60_000)])
    assert np.array_equal(chart.carry_pixels(pixels), pieces)
