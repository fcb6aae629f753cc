"""Ticks that are pixels: readable on their box, everything else as it was."""

from __future__ import annotations

import io

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from PIL import Image

from mellow_finch.colour.contrast import ratio
from mellow_finch.colour.rgb import Rgba
from mellow_finch.components.judge import Behind
from mellow_finch.picture.backdrop import PLAIN
from mellow_finch.recolour.ticks import face_of, with_clear_tick
from mellow_finch.syntax.css import scan_css
from mellow_finch.syntax.sheet import Sheet
from mellow_finch.syntax.spans import replace_spans
from mellow_finch.theme.sheets.judged import JudgedSheet
from mellow_finch.theme.sheets.places import nested_part

BEHIND = Rgba(240, 240, 240)
grey = st.tuples(*[st.integers(0, 255)] * 3)


def control(frame, box, tick):
    """Return the PNG of a box with a frame and a dot whose edge is half way between both."""
    pixels = np.zeros((16, 16, 4), dtype=np.uint8)
    pixels[1:15, 1:15] = (*frame, 255)
    pixels[2:14, 2:14] = (*box, 255)
    pixels[5:11, 5:11] = (*((a + b) // 2 for a, b in zip(box, tick, strict=True)), 255)
    pixels[6:10, 6:10] = (*tick, 255)
    out = io.BytesIO()
    Image.fromarray(pixels, "RGBA").save(out, "PNG")
    return out.getvalue()


def seen(data):
    return np.asarray(Image.open(io.BytesIO(data)).convert("RGBA"))


@given(frame=grey, box=grey, tick=grey)
def test_a_tick_can_be_told_from_its_box_or_there_is_none(frame, box, tick):
    data = control(frame, box, tick)
    before, after = seen(data), seen(with_clear_tick(data, "check-checked.png", BEHIND, 3.3))
    assert (before[..., 3] == after[..., 3]).all()  # its outline
    assert (before[:4] == after[:4]).all() and (before[:, :4] == after[:, :4]).all()  # its frame
    was = ratio(Rgba(*tick), Rgba(*box))
    now = ratio(Rgba(*after[7, 7, :3].tolist()), Rgba(*after[4, 4, :3].tolist()))
    if was >= 1.6:
        assert now >= min(3.2, was) and (was < 3.5 or now > 3.2)


def test_what_is_no_control_stays_byte_for_byte():
    plain = control((90, 90, 90), (200, 200, 200), (200, 200, 200))
    assert with_clear_tick(plain, "check.png", BEHIND, 3.3) == plain
    out = io.BytesIO()
    Image.new("RGB", (400, 300), (9, 9, 9)).save(out, "PNG")
    assert with_clear_tick(out.getvalue(), "check-checked.png", BEHIND, 3.3) == out.getvalue()


def test_a_control_that_is_a_picture_is_judged_by_its_pixels():
    """Its frame against what it lies on, its tick against its box; a sheet's own frame counts where it is better."""
    sheet = """window { background-color: #f0f0f0; color: #111111; }
check { -gtk-icon-source: -gtk-scaled(url("assets/check-checked.png"), url("assets/check-checked@2.png")); }
radio { -gtk-icon-source: url("assets/check-checked.png"); border: 1px solid #222222; }
switch { -gtk-icon-source: -gtk-recolor(url("assets/check-checked.png")); }"""
    spans = scan_css(sheet)
    skeleton = replace_spans(sheet, ((span, f"__literal{i}") for i, span in enumerate(spans)))
    at = "window.background > checkbutton"
    rows = (("edge", "check"), ("mark", "check"), ("edge", "radio"), ("mark", "switch"))
    parts = [nested_part(node, "rest", what, f"{at} > {node}") for what, node in rows]
    face = face_of(control((200, 200, 200), (60, 60, 60), (250, 250, 250)), "check-checked.png")
    colours = [span.colour for span in spans]
    judged = JudgedSheet(Sheet(skeleton), parts, colours, Behind(PLAIN), faces={"check-checked.png": face})
    found = {(pair.part.id, pair.what): pair.ratio for pair in judged.with_drawn()}
    assert found["=check, edge", "edge"] == pytest.approx(ratio(Rgba(60, 60, 60), BEHIND), abs=0.01)  # its box is seen
    assert found["=check, mark", "text"] == pytest.approx(ratio(Rgba(250, 250, 250), Rgba(60, 60, 60)), abs=0.01)
    assert found["=radio, edge", "edge"] == pytest.approx(ratio(Rgba(34, 34, 34), BEHIND), abs=0.01)
    assert found["=switch, mark", "text"] == pytest.approx(ratio(Rgba(17, 17, 17), BEHIND), abs=0.01)
