"""Ticks that are pixels: readable on their box, everything else as it was."""

from __future__ import annotations

import io

import numpy as np
from hypothesis import given
from hypothesis import strategies as st
from PIL import Image

from mellow_finch.colour.contrast import ratio
from mellow_finch.colour.rgb import Rgba
from mellow_finch.recolour.ticks import with_clear_tick

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
