"""A window on the demo home, and one with a picture open."""

from __future__ import annotations

import time

import pytest
from PyQt6.QtWidgets import QApplication

from mellow_finch.ui.kit.style import Style, load_fonts
from mellow_finch.ui.window.parts import OpenWindow as Window
from mellow_finch.ui.window.tally import COUNTING


def rested(window) -> None:
    """Let everything that follows a change after the stage has been painted happen."""
    while window._complete and (
        window.tally._resting.isActive()
        or window.staging.behind
        or window.jobs.running(COUNTING)
        or window.desk.drawing
    ):
        QApplication.processEvents()
        time.sleep(0.002)  # so that the work itself has room


@pytest.fixture
def window(qtbot, home):
    app = QApplication.instance()
    load_fonts()
    style = Style()
    style.use(app, True)
    made = Window(style, home)
    qtbot.addWidget(made)
    made.resize(1280, 800)
    with qtbot.waitExposed(made):
        made.show()
    yield made
    made.close()


@pytest.fixture
def settle(qtbot):
    """Return a function that waits until a window's jobs have ended."""

    def wait(window) -> None:
        rested(window)
        while window.jobs._running or (window._complete and window.desk.drawing):
            qtbot.waitUntil(lambda: not window.jobs._running, timeout=30000)
            rested(window)

    return wait


@pytest.fixture
def readings():
    """Return whether starting points are drawn beside the picture, which takes longer than the picture itself."""
    return False


@pytest.fixture
def opened(window, home, settle, readings, monkeypatch):
    if not readings:
        monkeypatch.setattr(window.opening, "offer_readings", lambda: None)
    window.open_path(str(home / "Pictures" / "reedbed-at-dawn.jpg"))
    settle(window)
    return window
