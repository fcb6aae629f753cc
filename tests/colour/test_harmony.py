"""Harmonies against another library's."""

from __future__ import annotations

import pytest
from coloraide import Color
from hypothesis import given
from hypothesis import strategies as st

from mellow_finch.colour.gamut import rgba_to_oklch
from mellow_finch.colour.harmony import HARMONIES, harmony
from mellow_finch.colour.rgb import Rgba

THEIRS = {
    "complementary": "complement", "analogous": "analogous", "split complementary": "split",
    "triadic": "triad", "square": "square",
}  # fmt: skip
colours = st.builds(Rgba, *(st.integers(0, 255) for _ in range(3)), st.just(1.0))


@pytest.mark.parametrize("name", HARMONIES)
@given(colours)
def test_hues_are_those_of_another_library(name, colour):
    _, chroma, hue = rgba_to_oklch(colour)
    if chroma < 0.02:
        return
    theirs = Color(colour.hex).convert("oklch").harmony(THEIRS[name], space="oklch")
    wanted = {round(c["hue"] % 360, 3) for c in theirs}
    ours = [(hue + turn) % 360 for turn in HARMONIES[name]]
    for own in ours:
        assert min(min(abs(own - w), 360 - abs(own - w)) for w in wanted) < 0.05
    assert len(harmony(colour, name)) == len(ours)


@given(colours)
def test_lightness_and_hue_stay_and_chroma_never_grows(colour):
    lightness, chroma, hue = rgba_to_oklch(colour)
    for name, turns in HARMONIES.items():
        found = harmony(colour, name)
        assert len(found) == (len(turns) if chroma > 0 else 0)
        for turn, made in zip(turns, found, strict=False):
            level, colourful, turned = rgba_to_oklch(made)
            assert level == pytest.approx(lightness, abs=0.006) and colourful <= chroma + 0.006
            if colourful > 0.05:
                assert abs((turned - hue - turn + 180) % 360 - 180) < 4
