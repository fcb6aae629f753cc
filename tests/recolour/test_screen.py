"""A picture of the screen: surfaces and words that files name change as the files do, pictures stay."""

from __future__ import annotations

import numpy as np

from mellow_finch.colour.rgb import parse_hex
from mellow_finch.recolour.screen import SurfaceChange, recoloured_screen

GROUND, INK, PANEL, ACCENT = map(parse_hex, ("#f6f5f4", "#2e3436", "#303030", "#3584e4"))
CHANGES = [
    SurfaceChange(GROUND, parse_hex("#261d19"), INK, parse_hex("#e8e3e1")),
    SurfaceChange(PANEL, parse_hex("#180f09")),
    SurfaceChange(ACCENT, parse_hex("#c19069"), GROUND, parse_hex("#15100e")),
]


def screen():
    """Return a screen: a panel, a window with a word in it and a button, and a picture behind."""
    rng = np.random.default_rng(7)
    pixels = rng.integers(0, 256, (200, 320, 3)).astype(np.uint8)
    pixels[:20] = (0x30, 0x30, 0x30)
    pixels[50:150, 60:240] = (0xF6, 0xF5, 0xF4)
    pixels[80:84, 80:140] = (0x2E, 0x34, 0x36)
    pixels[84, 80:140] = (0x92, 0x95, 0x95)  # between word and ground
    pixels[120:140, 160:220] = (0x35, 0x84, 0xE4)
    pixels[129:131, 170:210] = (0xF6, 0xF5, 0xF4)  # words of the ground's own colour on a button
    return pixels


def test_surfaces_and_words_become_what_the_files_say():
    before = screen()
    after, share = recoloured_screen(before, CHANGES)
    for (y, x), new in (
        ((10, 100), "#180f09"),
        ((60, 70), "#261d19"),
        ((82, 100), "#e8e3e1"),
        ((124, 190), "#c19069"),
        ((130, 190), "#15100e"),
    ):
        assert tuple(after[y, x]) == parse_hex(new)[:3]
    edge = after[84, 100].astype(int)
    assert 38 < edge[0] < 232, "what lies between word and ground lies between the new ones"
    assert 0.3 < share < 0.6 and before.shape == after.shape


def test_a_picture_behind_stays_and_nothing_known_changes_nothing():
    before = screen()
    after, _ = recoloured_screen(before, CHANGES)
    far = (slice(160, 195), slice(5, 315))
    assert (after[far] == before[far]).all(axis=2).mean() > 0.99
    same, share = recoloured_screen(before, [])
    assert share == 0 and (same == before).all()
    same, share = recoloured_screen(before[160:195], CHANGES)
    assert share < 0.01


def test_of_several_new_colours_the_commonest_counts():
    pixels = np.full((20, 20, 3), 0x30, np.uint8)
    old, one, other = parse_hex("#303030"), parse_hex("#180f09"), parse_hex("#ffffff")
    after, share = recoloured_screen(
        pixels, [SurfaceChange(old, other), SurfaceChange(old, one), SurfaceChange(old, one)]
    )
    assert share == 1 and tuple(after[5, 5]) == one[:3]
