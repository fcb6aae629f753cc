"""Other eyes, against an independent library."""

from __future__ import annotations

import numpy as np
import pytest
from coloraide import Color

from mellow_finch.colour.contrast import contrast_ratio
from mellow_finch.colour.rgb import Rgba
from mellow_finch.colour.vision import VISIONS, simulate, simulate_colour, simulate_pixels

RANDOM = np.random.default_rng(11).random((1500, 3))


@pytest.mark.parametrize("vision", ["protan", "deutan", "tritan"])
def test_dichromacies_agree_with_the_oracle(vision):
    expected = [
        Color("srgb", c.tolist()).filter(vision, method="machado", amount=1, space="srgb-linear").convert("srgb").clip()
        for c in RANDOM
    ]
    assert np.abs(simulate(RANDOM, vision) - np.array([c.coords() for c in expected])).max() < 1e-6


def test_greyscale_keeps_every_contrast():
    grey = simulate(RANDOM, "grey")
    assert np.ptp(grey, axis=1).max() < 1e-12
    before, after = contrast_ratio(RANDOM[:700], RANDOM[700:1400]), contrast_ratio(grey[:700], grey[700:1400])
    assert np.abs(before - after).max() < 1e-9


@pytest.mark.parametrize("vision", VISIONS)
def test_pixels_by_table_are_within_a_level(vision):
    pixels = np.random.default_rng(2).integers(0, 256, (40, 50, 3)).astype(np.uint8)
    exact = np.rint(simulate(pixels / 255, vision) * 255)
    light = exact > 8
    assert np.abs(simulate_pixels(pixels, vision) - exact)[light].max() <= 1
    assert simulate_pixels(pixels, "normal") is pixels


def test_greys_stay_and_alpha_is_kept():
    for vision in VISIONS:
        for level in (0, 90, 255):
            seen = simulate_colour(Rgba(level, level, level, 0.4), vision)
            assert max(abs(c - level) for c in seen[:3]) <= 1 and seen.a == 0.4
