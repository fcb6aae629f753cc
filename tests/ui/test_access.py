"""The window for those who do not point: names of all that takes the focus, and texts that are large enough."""

from __future__ import annotations

import os
import subprocess
import sys
from pathlib import Path

import pytest
from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import (
    QAbstractButton,
    QAbstractSlider,
    QAbstractSpinBox,
    QApplication,
    QComboBox,
    QLabel,
    QLineEdit,
    QPushButton,
    QScrollBar,
    QToolButton,
    QWidget,
)

import mellow_finch
from mellow_finch.ui.window.steps.rows import STEPS

PAGES = {
    "gather": ("picture", "schemes", "match"),
    "tune": ("role", "whole", "terminal", "glass", "eyes"),
    "dress": (), "proof": (), "wear": (),
}  # fmt: skip
CUT = """
import sys, tempfile
from pathlib import Path
from PyQt6.QtWidgets import QAbstractButton, QAbstractSpinBox, QApplication, QLabel, QPushButton, QToolButton
from mellow_finch.demo.build import build_demo_home
from mellow_finch.ui.app import make_app
from mellow_finch.ui.shots import wait
from mellow_finch.ui.window.parts import OpenWindow as Window
app, style = make_app(["x"])
home = build_demo_home(Path(tempfile.mkdtemp()) / "demo" / "home")
w = Window(style, home)
w.resize(1280, 800); w.show(); wait(w)
w.open_path(str(home / "Pictures" / "reedbed-at-dawn.jpg")); wait(w)
assert w.devicePixelRatioF() == float(sys.argv[1]), w.devicePixelRatioF()
for step in ("gather", "tune", "dress", "proof", "wear"):
    w.show_step(step); wait(w)
    for one in w.findChildren(QLabel) + w.findChildren(QPushButton) + w.findChildren(QToolButton):
        if one.isVisible() and one.text() and not (isinstance(one, QLabel) and (one.wordWrap() or one.toolTip())):
            words = max(one.text().splitlines(), key=len)
            room = one.contentsRect().width()
            if one.fontMetrics().horizontalAdvance(words) > room + 1 and one.sizePolicy().horizontalPolicy().name != "Ignored":
                print("cut:", step, type(one).__name__, words, room)
print("looked")
"""


def everywhere(window, settle):
    """Yield after going to each page of each step."""
    for step in STEPS:
        window.show_step(step.id)
        panel = window.step_by_id[step.id].panel
        for page in PAGES[step.id] or ("",):
            if page:
                panel.show_page(page)
            settle(window)
            yield f"{step.id} {page}"


def spoken(one: QWidget) -> str:
    """Return what a screen reader is told of a control: its accessible name, or the words on it."""
    words = getattr(one, "text", None)
    own = words() if isinstance(one, (QAbstractButton, QLabel)) and words is not None else ""
    return (one.accessibleName() or own).strip()


def test_all_that_takes_the_focus_has_a_name(qtbot, opened, settle):
    nameless = set()
    seen = 0
    for where in everywhere(opened, settle):
        for one in opened.findChildren(QWidget):
            if not one.isVisible() or one.focusPolicy() & Qt.FocusPolicy.TabFocus != Qt.FocusPolicy.TabFocus:
                continue
            seen += 1
            if not spoken(one) and not isinstance(one.parent(), QAbstractSpinBox):  # its field is told with the box
                nameless.add(f"{where}: {type(one).__name__} {one.objectName()} in {type(one.parent()).__name__}")
    assert seen > 100 and not nameless, "\n".join(sorted(nameless))


def test_every_control_is_reached_by_tab(qtbot, opened, settle):
    for step in STEPS:
        opened.show_step(step.id)
        settle(opened)
        wanted = {
            one
            for one in opened.findChildren(QWidget)
            if one.isVisible()
            and one.isEnabled()
            and one.focusPolicy() & Qt.FocusPolicy.TabFocus == Qt.FocusPolicy.TabFocus
        }
        reached, at = set(), opened.track.buttons["gather"]
        for _ in range(3000):
            at = at.nextInFocusChain()
            reached.add(at)
        assert wanted <= reached, [type(one).__name__ for one in wanted - reached]


def test_texts_of_our_own_have_at_least_twelve_pixels(qtbot, opened, settle):
    small = set()
    for where in everywhere(opened, settle):
        for kind in (QLabel, QPushButton, QToolButton):
            for one in opened.findChildren(kind):
                if one.isVisible() and one.text() and one.fontInfo().pixelSize() < 12:
                    small.add(f"{where}: {one.text()[:30]} {one.fontInfo().pixelSize()}")
    assert not small, "\n".join(sorted(small))


@pytest.mark.long
@pytest.mark.parametrize("scale", ["1", "1.5", "2"])
def test_no_text_is_cut_at_any_scale(tmp_path, scale):
    script = tmp_path / "x.py"
    script.write_text(CUT)
    source = str(Path(mellow_finch.__file__).parents[1])
    environment = {**os.environ, "PYTHONPATH": source, "QT_QPA_PLATFORM": "offscreen", "QT_SCALE_FACTOR": scale}
    done = subprocess.run(
        [sys.executable, str(script), scale], capture_output=True, text=True, timeout=120, env=environment
    )
    assert done.stdout == "looked\n", done.stdout + done.stderr[-2000:]


def test_the_focus_can_be_seen(qtbot, opened, settle):
    """A control looks otherwise when it has the focus."""
    opened.show_step("tune")
    settle(opened)
    QApplication.setActiveWindow(opened)
    for one in (
        opened.header.name,
        opened.track.buttons["proof"],
        opened.tune.role.chooser,
        opened.strip.change,
        opened.plumage,
    ):
        opened.stage.setFocus()
        QApplication.processEvents()
        without = one.grab().toImage()
        one.setFocus()
        QApplication.processEvents()
        if one.hasFocus():
            assert one.grab().toImage() != without, type(one).__name__


def test_what_is_clicked_is_at_least_24_pixels(qtbot, opened, settle):
    """WCAG 2.2, 2.5.8."""

    def small():
        return {
            f"{type(one).__name__} “{spoken(one)}” {one.width()} × {one.height()}"
            for one in opened.findChildren(QWidget)
            if isinstance(one, QAbstractButton | QAbstractSlider | QComboBox | QLineEdit)
            and not isinstance(one, QScrollBar)
            and not isinstance(one.parent(), QAbstractSpinBox | QComboBox)
            and one.isVisible()
            and (one.width() < 24 or one.height() < 24)
        }

    for where in everywhere(opened, settle):
        qtbot.waitUntil(lambda where=where: not small() or bool(print(where, small())))
        assert not small(), where
