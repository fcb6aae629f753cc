"""Swatches: shares, places, small vivid areas, determinism."""

from __future__ import annotations

from pathlib import Path

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from hypothesis.extra.numpy import arrays
from PIL import Image

from mellow_finch.colour.difference import colour_difference
from mellow_finch.colour.rgb import Rgba
from mellow_finch.picture.backdrop import backdrop_of
from mellow_finch.picture.gather import gather_loaded
from mellow_finch.picture.histogram import histogram
from mellow_finch.picture.load import LoadedPicture, load_picture
from mellow_finch.picture.quantize import nearest_centres, quantize
from mellow_finch.picture.swatches import label_swatches, swatches_of


def picture(pixels: np.ndarray, weights: np.ndarray | None = None) -> LoadedPicture:
    return LoadedPicture(Path("made.png"), pixels.shape[1], pixels.shape[0], pixels.astype(np.uint8), weights)


@given(arrays(np.uint8, st.tuples(st.integers(1, 12), st.integers(1, 12), st.just(3))), st.integers(1, 12))
def test_shares_add_up_and_places_lie_inside(pixels, count):
    found = swatches_of(picture(pixels), count)
    assert 1 <= len(found) <= count + max(1, count // 3)
    assert sum(s.share for s in found) == pytest.approx(1, abs=1e-6)
    assert [s.share for s in found] == sorted((s.share for s in found), reverse=True)
    assert all(0 <= v <= 1 for s in found for v in s.at)


def test_two_halves():
    pixels = np.zeros((40, 80, 3))
    pixels[:, 40:] = (200, 30, 30)
    left, right = sorted(swatches_of(picture(pixels), 8), key=lambda s: s.at[0])
    assert left.colour == Rgba(0, 0, 0) and right.colour == Rgba(200, 30, 30)
    assert left.share == right.share == pytest.approx(0.5)
    assert left.at[0] < 0.5 < right.at[0]


@pytest.mark.parametrize("seed", range(10))
def test_small_vivid_patch_gets_a_swatch(seed):
    rng = np.random.default_rng(seed)
    base = rng.integers(60, 190, 3)
    y, x = np.mgrid[0:300, 0:480]
    pixels = (
        base + 30 * np.sin(x / 60 + seed)[..., None] + 20 * np.cos(y / 40)[..., None] + rng.normal(0, 5, (300, 480, 3))
    )
    vivid = np.array([(255, 30, 40), (20, 230, 60), (250, 220, 0), (0, 90, 255), (255, 0, 200)][seed % 5])
    side = round((0.002 * 300 * 480) ** 0.5)
    top, left = int(rng.integers(0, 300 - side)), int(rng.integers(0, 480 - side))
    pixels[top : top + side, left : left + side] = vivid
    found = swatches_of(picture(np.clip(pixels, 0, 255)), 8)
    nearest = min(found, key=lambda s: colour_difference(s.colour, Rgba(*vivid.tolist())))
    assert colour_difference(nearest.colour, Rgba(*vivid.tolist())) < 6
    assert abs(nearest.at[0] * 480 - left - side / 2) < 40 and abs(nearest.at[1] * 300 - top - side / 2) < 40


def test_same_picture_same_swatches_and_a_resized_one_nearly(pictures, tmp_path):
    first, again = swatches_of(load_picture(pictures[0])), swatches_of(load_picture(pictures[0]))
    assert first == again
    smaller = tmp_path / "small.jpg"
    Image.open(pictures[0]).resize((1200, 750)).save(smaller, quality=80)
    for swatch in swatches_of(load_picture(smaller))[:4]:
        assert min(colour_difference(swatch.colour, s.colour) for s in first) < 6


def test_labels_point_at_their_swatches(pictures):
    loaded = load_picture(pictures[2])
    swatches, labels = label_swatches(loaded)
    for i, swatch in enumerate(swatches):
        assert (labels == i).mean() == pytest.approx(swatch.share, abs=0.005)
        mean = loaded.pixels[labels == i].mean(0)
        assert np.abs(mean - swatch.colour[:3]).max() < 12


def test_histogram_bins_hold_exact_means():
    rng = np.random.default_rng(3)
    pixels = rng.integers(0, 256, (50, 60, 3)).astype(np.uint8)
    hist = histogram(pixels)
    for i in (0, 17, len(hist.share) - 1):
        members = pixels[hist.index == i]
        assert np.abs(members.mean(0) / 255 - hist.srgb[i]).max() < 1e-9
        assert hist.share[i] == pytest.approx(len(members) / 3000)


def test_quantize_finds_separate_clouds_and_keeps_fixed_centres():
    rng = np.random.default_rng(5)
    middles = np.array([[20.0, 0, 0], [60, 40, 10], [80, -30, 50]])
    points = np.concatenate([m + rng.normal(0, 1, (50, 3)) for m in middles])
    centres, labels = quantize(points, np.ones(150), 3)
    assert sorted(nearest_centres(middles, centres)) == [0, 1, 2]
    assert len(set(labels[:50])) == 1
    fixed = np.array([[50.0, 50, 50]])
    assert (quantize(points, np.ones(150), 2, fixed)[0][0] == fixed[0]).all()


def test_weights_leave_out_translucent_places():
    pixels = np.zeros((20, 20, 3))
    pixels[:, 10:] = (250, 10, 10)
    weights = np.ones((20, 20))
    weights[:, 10:] = 0
    assert [s.colour for s in swatches_of(picture(pixels, weights))] == [Rgba(0, 0, 0)]


def test_backdrop_holds_the_extremes():
    pixels = np.full((100, 160, 3), 120.0)
    pixels[10:20, 10:20] = 255
    pixels[60:70, 60:70] = 0
    found = backdrop_of(picture(pixels))
    assert found.lightest == Rgba(255, 255, 255) and found.darkest == Rgba(0, 0, 0)


def test_several_pictures_weigh_the_same(pictures):
    both = gather_loaded([load_picture(p) for p in pictures[:2]], 10)
    assert sum(s.share for s in both) == pytest.approx(1, abs=1e-6)
    one = gather_loaded([load_picture(pictures[0])], 8)
    assert one == swatches_of(load_picture(pictures[0]), 8)
