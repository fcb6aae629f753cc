"""What is read off a picture of a program: surfaces and texts, held against what was drawn."""

from __future__ import annotations

import json
from pathlib import Path

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from PIL import Image, ImageDraw
from PyQt6.QtGui import QColor, QFont, QImage, QPainter

from mellow_finch.colour.contrast import ratio
from mellow_finch.colour.requirement import MARK, TEXT
from mellow_finch.colour.rgb import Rgba, parse_hex
from mellow_finch.proof.rehearsal.measured import measure_picture
from mellow_finch.proof.rehearsal.things import things_in, widened
from mellow_finch.ui.kit.style import load_fonts

COLOURS = st.tuples(*[st.integers(0, 255)] * 3).map(lambda c: Rgba(*c))


@given(st.integers(1, 24), st.integers(1, 30), st.integers(0, 2**32 - 1), st.sampled_from([0.15, 0.35, 0.6]))
def test_things_are_those_of_a_flood_fill(high, wide, seed, share):
    mask = np.random.default_rng(seed).random((high, wide)) < share
    left = {(int(y), int(x)) for y, x in np.argwhere(mask)}
    expected = set()
    while left:
        todo, whole = [left.pop()], set()
        while todo:
            y, x = todo.pop()
            whole.add((y, x))
            near = {(y + dy, x + dx) for dy in (-1, 0, 1) for dx in (-1, 0, 1)} & left
            left -= near
            todo += near
        expected.add(frozenset(whole))
    found = {
        frozenset((t.rows.start + int(y), t.columns.start + int(x)) for y, x in np.argwhere(t.own))
        for t in things_in(mask)
    }
    assert found == expected


def test_a_widened_mask_reaches_so_far_to_both_sides():
    mask = np.zeros((3, 9), bool)
    mask[1, 4] = True
    assert np.argwhere(widened(mask, 2)).tolist() == [[1, x] for x in (2, 3, 4, 5, 6)]


def written(ink: Rgba, ground: Rgba, pixels: int, hinted: bool, words: str) -> np.ndarray:
    """Return a picture of words as the toolkit draws them, smoothed."""
    image = QImage(340, 60, QImage.Format.Format_RGB888)
    image.fill(QColor(ground.hex))
    painter = QPainter(image)
    font = QFont("Atkinson Hyperlegible")
    font.setPixelSize(pixels)
    font.setHintingPreference(
        QFont.HintingPreference.PreferFullHinting if hinted else QFont.HintingPreference.PreferNoHinting
    )
    painter.setFont(font)
    painter.setPen(QColor(ink.hex))
    painter.drawText(20, 36, words)
    painter.end()
    bits = image.constBits()
    bits.setsize(image.sizeInBytes())
    rows = np.frombuffer(bits, np.uint8).reshape(60, image.bytesPerLine())
    return rows[:, : 3 * 340].reshape(60, 340, 3).copy()


@given(COLOURS, COLOURS, st.sampled_from([12, 13, 14, 16, 20]), st.booleans())
def test_the_ratio_of_a_text_is_the_one_it_was_written_with(qapp, ink, ground, pixels, hinted):
    load_fonts()
    wanted = ratio(ink, ground)
    if wanted < 1.3:
        return
    found = measure_picture(written(ink, ground, pixels, hinted, "Reedlings seen at 7:40 in nets"))
    assert found.surfaces[0].colour == ground
    assert found.texts, (ink.hex, ground.hex)
    for text in found.texts:
        assert text.ground == ground
        assert abs(text.ratio - wanted) <= 0.1, (text.ink.hex, ink.hex)


def drawn(*steps) -> np.ndarray:
    image = Image.new("RGB", (400, 200), "#202428")
    pen = ImageDraw.Draw(image)
    pen.fontmode = "1"  # unsmoothed, as programs are in a rehearsal
    for name, place, more in steps:
        getattr(pen, name)(place, **more)
    return np.asarray(image)


def text(place, words, fill):
    return "text", place, {"text": words, "fill": fill}


def inks(pixels) -> dict[tuple[str, str], object]:
    return {(t.ink.hex, t.ground.hex): t for t in measure_picture(pixels).texts}


def test_two_colours_of_one_line_are_two_texts_and_a_selected_row_has_its_own_ground():
    found = inks(
        drawn(
            ("rectangle", (0, 60, 399, 90), {"fill": "#884422"}),
            text((10, 20), "def", "#ff88aa"),
            text((34, 20), "count", "#88aaff"),
            text((10, 68), "Water rail", "#ffffff"),
        )
    )
    assert set(found) == {("#ff88aa", "#202428"), ("#88aaff", "#202428"), ("#ffffff", "#884422")}


def test_frames_rules_and_edges_are_no_texts():
    found = inks(
        drawn(
            ("rectangle", (20, 20, 220, 52), {"outline": "#30343a"}),
            ("line", ((10, 80), (390, 80)), {"fill": "#2a2e33"}),
            ("rectangle", (0, 120, 399, 199), {"fill": "#24282c"}),
            text((30, 30), "in the frame", "#e0e0e0"),
        )
    )
    assert set(found) == {("#e0e0e0", "#202428")}


def test_a_mark_alone_needs_less_than_a_text():
    marks = measure_picture(drawn(("ellipse", (50, 50, 64, 64), {"outline": "#767676", "width": 2}))).texts
    assert [(t.mark, t.need) for t in marks] == [(True, MARK)]


def test_a_picture_of_many_colours_is_no_text():
    noise = np.random.default_rng(7).integers(0, 255, (40, 40, 3), dtype=np.uint8)
    pixels = drawn()
    pixels = pixels.copy()
    pixels[50:90, 50:90] = noise
    assert measure_picture(pixels).texts == ()


@pytest.mark.parametrize("size", [(1, 1), (3, 3), (2, 400), (400, 2)])
def test_any_picture_can_be_measured(size):
    assert measure_picture(np.zeros((*size, 3), np.uint8)).texts == ()


def test_a_text_hardly_there_is_told_as_such():
    found = inks(drawn(text((10, 20), "Shut the flap in an east wind", "#3a3e43")))
    (one,) = found.values()
    assert one.ratio == pytest.approx(ratio(parse_hex("#3a3e43"), parse_hex("#202428"))) and one.ratio < 1.6


def test_a_person_and_the_measure_agree_on_a_hundred_places():
    """Pieces of real programs' pictures, each read by a person: what it says, and whether that is clear."""
    data = Path(__file__).parents[1] / "data"
    places = json.loads((data / "places.json").read_text())
    with Image.open(data / "places.png") as image:
        whole = np.asarray(image.convert("RGB"))
    wrong, strict = [], []
    for place in places:
        left, top, wide, high = place["at"]
        texts = measure_picture(whole[top : top + high, left : left + wide]).texts
        inside = [t for t in texts if any(x < wide * 0.7 and x + w > wide * 0.3 and h >= 5 for x, _, w, h in t.boxes)]
        clear = bool(inside) and min(t.ratio for t in inside) >= TEXT.level
        if clear and not place["clear"]:
            wrong.append(place["reads"])
        elif place["clear"] and not clear:
            strict.append(place["reads"])
    assert len(places) == 100 and not wrong and len(strict) <= 5, (wrong, strict)
