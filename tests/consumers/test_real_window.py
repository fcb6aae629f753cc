"""The program in a real window on a virtual screen, started as a person starts it."""

from __future__ import annotations

import os
import shutil
import subprocess
import sys
from pathlib import Path

import pytest

ROOT = Path(__file__).resolve().parents[2]
SCRIPT = """
import os, sys, time
from PyQt6.QtCore import QTimer
from PyQt6.QtWidgets import QApplication
from mellow_finch.ui import app as start
import mellow_finch.ui.window.window as w

class Watched(w.Window):
    painted = False
    def paintEvent(self, event):
        super().paintEvent(event)
        if not Watched.painted:
            Watched.painted = True
            print("first paint", "scipy" in sys.modules, flush=True)

start.Window = Watched
def look():
    window = next(t for t in QApplication.topLevelWidgets() if isinstance(t, Watched))
    if window._complete and window.bench.document.home is not None and not window.jobs._running and window.step_by_id["gather"].panel.picture.own_row.count() == 5:
        image = window.screen().grabWindow(window.winId())
        print("shown", window.isVisible(), image.width() >= 1200, window.frame.home.text(), flush=True)
        QApplication.exit(0)
timer = QTimer()
def begin():
    timer.timeout.connect(look)
    timer.start(50)
old = start.make_app
def make(arguments):
    made = old(arguments)
    QTimer.singleShot(0, begin)
    return made
start.make_app = make
from mellow_finch.demo.build import build_demo_home
from mellow_finch.wear.places import demo_folder
sys.exit(start.run(build_demo_home(demo_folder())))
"""


@pytest.mark.real_window
def test_opens_on_the_demo_home_and_paints_before_heavy_imports(tmp_path):
    if shutil.which("xvfb-run") is None:
        pytest.skip("NO XVFB: install xvfb xauth to open a real window")
    environment = {k: v for k, v in os.environ.items() if k not in ("QT_QPA_PLATFORM", "DISPLAY", "WAYLAND_DISPLAY")}
    environment |= {"PYTHONPATH": str(ROOT / "src"), "QT_QPA_PLATFORM": "xcb"}
    done = subprocess.run(
        ["xvfb-run", "-a", "-s", "-screen 0 1400x900x24", sys.executable, "-c", SCRIPT],
        capture_output=True, text=True, timeout=120, env=environment,
    )  # fmt: skip
    assert "first paint False" in done.stdout, done.stderr[-1500:]
    assert "shown True True Demo home" in done.stdout, done.stdout + done.stderr[-1500:]
    assert done.returncode == 0
