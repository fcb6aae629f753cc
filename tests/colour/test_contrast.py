"""Contrast, compositing and hexadecimal spellings."""

from __future__ import annotations

import numpy as np
import pytest
from coloraide import Color
from hypothesis import given
from hypothesis import strategies as st

from mellow_finch.colour.blend import flatten, over
from mellow_finch.colour.contrast import contrast_ratio, luminance, ratio, relative_luminance
from mellow_finch.colour.rgb import Rgba, from_unit, parse_hex

COLOURS = st.tuples(*[st.integers(0, 255)] * 3).map(lambda t: Rgba(*t))


@given(COLOURS, COLOURS)
def test_ratio_agrees_with_the_oracle_and_is_symmetric(a, b):
    expected = Color(a.hex).contrast(Color(b.hex), method="wcag21")
    assert ratio(a, b) == pytest.approx(expected, abs=1e-3)
    assert ratio(a, b) == ratio(b, a)
    assert float(contrast_ratio(np.array(a.unit), np.array(b.unit))) == pytest.approx(ratio(a, b), rel=1e-12)


def test_black_on_white_is_21():
    assert ratio(Rgba(0, 0, 0), Rgba(255, 255, 255)) == pytest.approx(21)


@given(COLOURS)
def test_table_and_formula_agree(colour):
    assert luminance(colour) == pytest.approx(float(relative_luminance(np.array(colour.unit))), abs=1e-12)


@given(COLOURS, COLOURS, st.floats(0, 1))
def test_over_is_the_weighted_mean_on_an_opaque_ground(top, below, alpha):
    ours = over(top._replace(a=alpha), below)
    mixed = np.array(top[:3]) * alpha + np.array(below[:3]) * (1 - alpha)
    assert np.abs(np.array(ours[:3]) - mixed).max() <= 0.5001
    assert ours.a == 1


def test_layers_lie_on_one_another():
    assert flatten([Rgba(0, 0, 0), Rgba(255, 255, 255, 0.5)]) == Rgba(128, 128, 128)
    assert flatten([]).a == 0


@pytest.mark.parametrize(
    "text, expected",
    [
        ("#fff", Rgba(255, 255, 255)), ("abc", Rgba(170, 187, 204)), ("#4f8A8b", Rgba(79, 138, 139)),
        ("#00000080", Rgba(0, 0, 0, 128 / 255)), (" #123f ", Rgba(17, 34, 51)),
    ],
)  # fmt: skip
def test_hex_is_read(text, expected):
    assert parse_hex(text) == expected


@pytest.mark.parametrize("text", ["", "#12", "#12345", "#1234567", "red", "#ggg"])
def test_what_is_no_hex_is_refused_in_words(text):
    with pytest.raises(ValueError, match="is not a colour such as"):
        parse_hex(text)


@given(COLOURS)
def test_hex_round_trip(colour):
    assert parse_hex(colour.hex) == colour
    assert from_unit(*colour.unit) == colour


def test_thousands_of_ratios_agree_with_the_oracle():
    rng = np.random.default_rng(5)
    first, second = rng.random((2500, 3)), rng.random((2500, 3))
    expected = [
        Color("srgb", a).contrast(Color("srgb", b), method="wcag21")
        for a, b in zip(first.tolist(), second.tolist(), strict=True)
    ]
    assert np.abs(contrast_ratio(first, second) - np.array(expected)).max() < 1e-3
