"""Where the picture lies on the screen, and what is behind panel, menus and widgets because of it."""

from __future__ import annotations

from pathlib import Path

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from mellow_finch.colour.rgb import Rgba
from mellow_finch.picture.backdrop import PLAIN, Backdrop, backdrop_of, joined, on_screen
from mellow_finch.picture.load import LoadedPicture
from mellow_finch.picture.placement import MODES, PLACES, Placement, boxes, size_word

SIZES = st.integers(1, 6000)


def picture(pixels: np.ndarray, scale: int = 1) -> LoadedPicture:
    height, width = pixels.shape[:2]
    return LoadedPicture(Path("made.png"), width * scale, height * scale, pixels.astype(np.uint8))


@given(SIZES, SIZES, st.sampled_from([m.id for m in MODES]), st.integers(64, 4000), st.integers(64, 4000))
def test_boxes_do_what_their_mode_says(width, height, mode, screen_w, screen_h):
    rows = boxes(width, height, Placement(mode, screen_w, screen_h))
    x, y, w, h = rows[0]
    if mode in ("fill", "fit", "centre"):
        assert w / h == pytest.approx(width / height)
        assert x + w / 2 == pytest.approx(screen_w / 2) and y + h / 2 == pytest.approx(screen_h / 2)
    if mode == "fill":
        assert w >= screen_w - 1e-6 and h >= screen_h - 1e-6 and min(w - screen_w, h - screen_h) < 1e-6
    if mode == "fit":
        assert w <= screen_w + 1e-6 and h <= screen_h + 1e-6 and min(screen_w - w, screen_h - h) < 1e-6
    if mode == "stretch":
        assert (x, y, w, h) == (0, 0, screen_w, screen_h)
    if mode in ("tile", "centre"):
        assert (w, h) == (width, height)
    if mode == "tile" and width > 40 and height > 40:
        assert max(b[0] + b[2] for b in rows) >= screen_w and max(b[1] + b[3] for b in rows) >= screen_h


def test_a_screen_shows_what_the_mode_leaves():
    pixels = np.zeros((100, 100, 3))
    pixels[:, :50] = (250, 0, 0)
    pixels[:, 50:] = (0, 0, 250)
    wide = Placement("fit", 400, 100)
    shown = on_screen(pixels.astype(np.uint8), 100, 100, wide)
    assert (
        tuple(shown[40, 5]) == (0, 0, 0)
        and tuple(shown[40, 150]) == (250, 0, 0)
        and tuple(shown[40, 170]) == (0, 0, 250)
    )
    tiled = on_screen(pixels.astype(np.uint8), 100, 100, Placement("tile", 400, 100))
    assert [tuple(tiled[10, x]) for x in (20, 60, 100, 140)] == [(250, 0, 0), (0, 0, 250)] * 2
    huge = on_screen(pixels.astype(np.uint8), 4000, 4000, Placement("centre", 400, 100))
    assert {tuple(c) for c in huge.reshape(-1, 3)} >= {(250, 0, 0), (0, 0, 250)}


def test_each_place_has_the_extremes_of_what_lies_there():
    pixels = np.full((200, 320, 3), 120.0)
    pixels[:10] = 250  # under the panel
    pixels[100:, 270:] = 10  # under the widget
    drop = backdrop_of(picture(pixels), Placement("fill", 320, 200))
    assert drop.lightest.r > 230 and drop.darkest.r < 20
    assert min(c.r for c in drop.at("panel")) > 200
    assert all(c.r == 120 for c in drop.at("dock"))
    assert min(c.r for c in drop.at("widget")) < 20 < 110 < max(c.r for c in drop.at("widget"))
    assert set(dict(drop.places)) == set(PLACES) and drop.at("nowhere") == drop.at("everywhere")


def test_placement_decides_what_is_behind_the_panel():
    pixels = np.full((300, 100, 3), 40.0)
    pixels[:60] = 240  # a bright top that filling a wide screen cuts off
    fill, fit = (backdrop_of(picture(pixels, 10), Placement(mode, 1600, 1000)) for mode in ("fill", "stretch"))
    assert max(c.r for c in fill.at("panel")) < 60 and min(c.r for c in fit.at("panel")) > 200


def test_blur_softens_the_extremes():
    rng = np.random.default_rng(1)
    pixels = (rng.integers(0, 2, (100, 160, 1)) * 255).repeat(2, 0).repeat(2, 1).repeat(3, 2)
    drop = backdrop_of(picture(pixels))
    sharp, soft = drop.at("everywhere"), drop.at("everywhere", True)
    assert max(c.r for c in soft) - min(c.r for c in soft) < 0.7 * (max(c.r for c in sharp) - min(c.r for c in sharp))


def test_several_pictures_give_the_outer_extremes():
    dark, light = (backdrop_of(picture(np.full((50, 80, 3), v))) for v in (20, 230))
    both = joined([dark, light])
    assert both.darkest == Rgba(20, 20, 20) and both.lightest == Rgba(230, 230, 230)
    assert {c.r for c in both.at("panel")} == {20, 230} and joined([dark]) is dark
    assert PLAIN.at("panel") == (Rgba(0, 0, 0), Rgba(255, 255, 255))
    assert isinstance(hash(both), int) and isinstance(both, Backdrop)


def test_a_word_when_the_picture_is_too_small():
    assert "enlarged 1.5 times" in size_word(1280, 800, Placement("fill", 1920, 1200))
    assert size_word(1920, 1200, Placement("fill", 1920, 1200)) == ""
    assert size_word(800, 600, Placement("tile")) == "" and size_word(800, 600, Placement("centre")) == ""
    assert Placement("fit", 1280, 800).words == "Fit on 1280 × 800"


def test_tiny_and_odd_pictures_do_no_harm():
    for shape in ((1, 1), (1, 900), (900, 1), (3, 7)):
        for mode in MODES:
            drop = backdrop_of(picture(np.full((*shape, 3), 77)), Placement(mode.id, 1366, 768))
            assert drop.at("panel")
