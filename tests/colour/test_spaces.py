"""Colour spaces against an independent library, and round trips."""

from __future__ import annotations

import numpy as np
import pytest
from coloraide import Color
from hypothesis import given
from hypothesis import strategies as st

from mellow_finch.colour import gamut, spaces
from mellow_finch.colour.difference import colour_difference, delta_e_2000, oklab_distance
from mellow_finch.colour.gamut import fit_chroma, in_gamut, max_chroma, oklch_to_rgba, rgba_to_oklch
from mellow_finch.colour.rgb import Rgba

RANDOM = np.random.default_rng(7).random((3000, 3))
BYTE = st.integers(0, 255)


@pytest.mark.parametrize("name, ours", [("oklab", spaces.srgb_to_oklab), ("lab-d65", spaces.srgb_to_lab)])
def test_agrees_with_the_oracle(name, ours):
    expected = np.array([Color("srgb", c.tolist()).convert(name).coords() for c in RANDOM])
    assert np.abs(ours(RANDOM) - expected).max() < 1e-9


def test_oklch_agrees_with_the_oracle():
    expected = np.array([Color("srgb", c.tolist()).convert("oklch").coords() for c in RANDOM])
    assert np.abs(spaces.srgb_to_oklch(RANDOM) - expected).max() < 1e-6


@pytest.mark.parametrize(
    "there, back",
    [
        (spaces.srgb_to_linear, spaces.linear_to_srgb),
        (spaces.srgb_to_oklab, spaces.oklab_to_srgb),
        (spaces.srgb_to_lab, spaces.lab_to_srgb),
        (spaces.oklab_to_oklch, spaces.oklch_to_oklab),
    ],
)
def test_round_trips(there, back):
    assert np.abs(back(there(RANDOM)) - RANDOM).max() < 1e-9


def test_published_values_of_white_and_red():
    assert spaces.srgb_to_oklab(np.ones(3)) == pytest.approx([1, 0, 0], abs=1e-6)
    assert spaces.srgb_to_oklab(np.array([1.0, 0, 0])) == pytest.approx([0.6280, 0.2249, 0.1258], abs=2e-4)


def test_ciede2000_agrees_with_the_oracle():
    labs = spaces.srgb_to_lab(RANDOM)
    for a, b in zip(labs[:1500], labs[1500:], strict=True):
        expected = Color("lab-d65", a.tolist()).delta_e(Color("lab-d65", b.tolist()), method="2000", space="lab-d65")
        assert float(delta_e_2000(a, b)) == pytest.approx(expected, abs=1e-9)


@pytest.mark.parametrize(
    "first, second, expected",
    [  # from the supplementary test data of Sharma, Wu and Dalal (2005)
        ((50, 2.6772, -79.7751), (50, 0, -82.7485), 2.0425),
        ((50, -1.0, 2.0), (50, 0, 0), 2.3669),
        ((50, 2.49, -0.001), (50, -2.49, 0.0009), 7.1792),
        ((2.0776, 0.0795, -1.135), (0.9033, -0.0636, -0.5514), 0.9082),
    ],
)
def test_ciede2000_published_pairs(first, second, expected):
    assert float(delta_e_2000(np.array(first), np.array(second))) == pytest.approx(expected, abs=5e-5)


@given(BYTE, BYTE, BYTE)
def test_eight_bit_colours_survive_oklch(r, g, b):
    colour = Rgba(r, g, b)
    assert oklch_to_rgba(*rgba_to_oklch(colour)) == colour


@given(st.floats(0, 1), st.floats(0, 0.5), st.floats(0, 360))
def test_fitting_keeps_lightness_and_hue_and_lands_inside(lightness, chroma, hue):
    lch = np.array([lightness, chroma, hue])
    fitted = fit_chroma(lch)
    assert bool(in_gamut(fitted))
    assert fitted[0] == lightness and fitted[2] == hue and fitted[1] <= chroma


@pytest.mark.parametrize("hue", range(0, 360, 30))
def test_largest_chroma_is_on_the_edge(hue):
    edge = float(max_chroma(np.array(0.6), np.array(float(hue))))
    assert bool(in_gamut(np.array([0.6, edge, hue])))
    assert not bool(in_gamut(np.array([0.6, edge + 0.002, hue])))


def test_differences_of_equal_colours_are_nothing():
    red = Rgba(200, 30, 40)
    assert colour_difference(red, red) == 0 and oklab_distance(red, red) == 0
    assert oklab_distance(Rgba(0, 0, 0), Rgba(255, 255, 255)) == pytest.approx(1, abs=1e-6)


@given(st.floats(0, 1), st.floats(0, 0.4), st.floats(0, 360))
def test_single_colours_agree_with_arrays(lightness, chroma, hue):
    from mellow_finch.colour.single import colour_of

    single, array = colour_of(lightness, chroma, hue), oklch_to_rgba(lightness, chroma, hue)
    assert max(abs(a - b) for a, b in zip(single[:3], array[:3], strict=True)) <= 1


@given(st.floats(-0.2, 1.2), st.floats(0, 0.5), st.floats(-400, 800))
def test_one_colour_is_as_it_is_among_many(lightness, chroma, hue):
    many = gamut.oklch_to_srgb(np.array([[lightness, chroma, hue]]))[0]
    assert np.abs(np.array(gamut.one_oklch_to_srgb(lightness, chroma, hue)) - many).max() < 1e-9


@given(BYTE, BYTE, BYTE)
def test_one_byte_colour_is_as_it_is_among_many(r, g, b):
    colour = Rgba(r, g, b)
    assert gamut.rgba_to_oklab(colour) == pytest.approx(spaces.srgb_to_oklab(np.array(colour.unit)).tolist(), abs=1e-12)
