"""What is painted and laid out along a line runs the other way in Arabic; code, colours and ratios do not."""

from __future__ import annotations

import json
import os
import subprocess
import sys
from pathlib import Path

import pytest

import mellow_finch

SCRIPT = """
import json, sys
from PyQt6.QtCore import QEvent, QRectF, Qt
from PyQt6.QtGui import QColor, QImage, QKeyEvent, QPainter
from mellow_finch.language import as_ratio, in_its_direction, isolated
from mellow_finch.ui.app import make_app
app, style = make_app(["x"])
from mellow_finch.ui.dress.changes import DiffText
from mellow_finch.ui.kit.icons import SHAPES, draw_icon
from mellow_finch.ui.kit.parts import ElidedLabel, label, placed
from mellow_finch.ui.kit.plain_slider import PlainSlider
from mellow_finch.ui.kit.slider import ColourSlider
from mellow_finch.ui.window.header import ToneSwitch

def painted(name):
    image = QImage(48, 48, QImage.Format.Format_ARGB32)
    image.fill(Qt.GlobalColor.transparent)
    p = QPainter(image)
    draw_icon(p, name, QRectF(0, 0, 48, 48), QColor(0, 0, 0))
    p.end()
    return image

def ink(image, columns):
    return sum(image.pixelColor(x, y).alpha() for x in columns for y in range(12, 28))

colour = ColourSlider(style, "x", 0.0, 1.0, 0.01)
colour.resize(220, 38)
moved = []
colour.moved.connect(moved.append)
colour.now = 0.5
colour.keyPressEvent(QKeyEvent(QEvent.Type.KeyPress, Qt.Key.Key_Left, Qt.KeyboardModifier.NoModifier))
plain = PlainSlider(style, "x", 0, 1)
switch = ToneSwitch("")
undo = painted("undo")
print(json.dumps({
    "low_is_where_a_line_begins": colour.value_at(20) > colour.value_at(200),
    "left_goes_on": bool(moved) and moved[0] > 0.5,
    "undo_points_right": ink(undo, range(30, 44)) > ink(undo, range(4, 18)),
    "ticks": placed(QRectF(0, 0, 10, 10), QRectF(0, 0, 100, 10)).x(),
    "halves": [half.property("half") for half in switch.halves.values()],
    "ratio": as_ratio(8.45), "colour": isolated("#5b412d"),
    "mixed": label("ANSI 4: \\u0623\\u0632\\u0631\\u0642").text()[:1], "plain": label("reedbed.jpg").text(),
    "words_right": bool(label("x").alignment() & Qt.AlignmentFlag.AlignRight),
    "code": DiffText(style).layoutDirection() == Qt.LayoutDirection.LeftToRight,
    "plain_is_turned": plain.slider.layoutDirection() == Qt.LayoutDirection.RightToLeft,
}))
"""


@pytest.mark.some(2)
@pytest.mark.parametrize("code", ["ar", "de"])
def test_lines_run_as_the_language_does(code, tmp_path):
    env = {**os.environ, "LANGUAGE": code, "LANG": "C.UTF-8", "HOME": str(tmp_path), "QT_QPA_PLATFORM": "offscreen"}
    env["PYTHONPATH"] = str(Path(mellow_finch.__file__).parents[1])
    env.pop("LC_ALL", None)
    done = subprocess.run([sys.executable, "-c", SCRIPT], env=env, capture_output=True, text=True, timeout=60)
    assert done.returncode == 0, done.stderr[-2000:]
    turned = code == "ar"
    assert json.loads(done.stdout.splitlines()[-1]) == {
        "low_is_where_a_line_begins": turned,
        "left_goes_on": turned,
        "undo_points_right": turned,
        "ticks": 90 if turned else 0,
        "halves": ["right", "left"] if turned else ["left", "right"],
        "ratio": "\u20668.45 : 1\u2069" if turned else "8,45 : 1",
        "colour": "\u2066#5b412d\u2069" if turned else "#5b412d",
        "mixed": "\u200f" if turned else "A",
        "plain": "reedbed.jpg",
        "words_right": turned,
        "code": True,
        "plain_is_turned": turned,
    }
