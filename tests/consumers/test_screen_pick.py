"""The eyedropper for the screen in a real X session: it takes a colour off another program's window."""

from __future__ import annotations

import os
import shutil
import subprocess
import sys
from pathlib import Path

import pytest

ROOT = Path(__file__).resolve().parents[2]
OTHER = """
from PyQt6.QtCore import Qt
from PyQt6.QtGui import QColor, QPainter
from PyQt6.QtWidgets import QApplication, QWidget

class Other(QWidget):
    def paintEvent(self, event):
        p = QPainter(self)
        p.fillRect(self.rect(), QColor("#1b6f5c"))
        p.fillRect(200, 0, 200, 300, QColor("#d8531f"))
        print("painted", flush=True)

app = QApplication([])
w = Other(None, Qt.WindowType.FramelessWindowHint)
w.setGeometry(300, 200, 400, 300)
w.show()
app.exec()
"""
PICK = """
import subprocess, sys
from pathlib import Path
from PyQt6.QtCore import QPoint, QPointF, Qt
from PyQt6.QtTest import QTest
from mellow_finch.demo.build import build_demo_home
from mellow_finch.ui.app import make_app
from mellow_finch.ui.window.parts import OpenWindow as Window

other = subprocess.Popen([sys.executable, "-c", sys.argv[2]], stdout=subprocess.PIPE, text=True)
assert other.stdout.readline().strip() == "painted"
app, style = make_app(["pick"])
app.setQuitOnLastWindowClosed(True)
window = Window(style, build_demo_home(Path(sys.argv[1]) / "demo" / "home"))
window.show()
window.open_path(str(window.document.home / "Pictures" / "reedbed-at-dawn.jpg"))

def until(what):
    for _ in range(800):
        QTest.qWait(25)
        if what():
            return
    raise SystemExit("waited in vain")

until(lambda: window.document.look is not None and not window.jobs._running)
window.actions_by_id["screen_dropper"].trigger()
until(lambda: bool(window.picker.stills))
still = window.picker.stills[0]
print("aside", not window.isVisible(), still.isVisible())
QTest.mouseMove(still, QPoint(400, 300))
print("left", still.colour_at(QPointF(400, 300)).hex, still._name_of(still.colour_at(QPointF(400, 300))))
still.look_at(QPointF(400, 300))
for _ in range(13):
    QTest.keyClick(still, Qt.Key.Key_Right, Qt.KeyboardModifier.ShiftModifier)
image = still.grab().toImage()
print("loupe", image.pixelColor(735, 240).name() == "#000000")
QTest.keyClick(still, Qt.Key.Key_Return)
until(lambda: not window.picker.stills and not window.jobs._running)
print("pinned", [c.hex for c in window.document.look.pins], window.isVisible())
window.show_step("tune")
window.document.select("link")
window.tune.role.screen_button.click()
until(lambda: bool(window.picker.stills))
QTest.mouseClick(window.picker.stills[0], Qt.MouseButton.LeftButton, pos=QPoint(600, 400))
until(lambda: not window.picker.stills)
print("role", window.document.look.colours["link"].hex, window.isVisible())
window.bench.picking.pick()
until(lambda: bool(window.picker.stills))
QTest.keyClick(window.picker.stills[0], Qt.Key.Key_Escape)
until(lambda: not window.picker.stills)
print("called off", window.document.look.colours["link"].hex, window.isVisible())
other.kill()
window.close()
"""


@pytest.mark.long
@pytest.mark.real_window
def test_a_colour_is_taken_off_another_programs_window(tmp_path):
    if shutil.which("xvfb-run") is None:
        pytest.skip("NO XVFB: install xvfb xauth to read a real screen")
    environment = {k: v for k, v in os.environ.items() if k not in ("QT_QPA_PLATFORM", "DISPLAY", "WAYLAND_DISPLAY")}
    environment |= {"PYTHONPATH": str(ROOT / "src"), "QT_QPA_PLATFORM": "xcb"}
    done = subprocess.run(
        ["xvfb-run", "-a", "-s", "-screen 0 1400x900x24", sys.executable, "-c", PICK, str(tmp_path), OTHER],
        capture_output=True, text=True, timeout=180, env=environment,
    )  # fmt: skip
    said = dict(line.split(" ", 1) for line in done.stdout.splitlines() if " " in line)
    assert done.returncode == 0, done.stdout + done.stderr[-2000:]
    assert said["aside"] == "True True" and said["loupe"] == "True"
    assert said["left"].startswith("#1b6f5c near ")
    assert said["pinned"] == "['#d8531f'] True"
    assert said["role"] == "#d8531f True" and done.stdout.splitlines()[-1] == "called off #d8531f True"
