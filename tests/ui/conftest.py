"""A window on the demo home, and one with a picture open."""

from __future__ import annotations

import time

import pytest
from PyQt6.QtWidgets import QApplication

from mellow_finch.demo.build import build_demo_home
from mellow_finch.ui.kit.style import Style, load_fonts
from mellow_finch.ui.window.parts import OpenWindow as Window
from mellow_finch.ui.window.tally import COUNTING


def rested(window) -> None:
    """Let everything that follows a change after the stage has been painted happen."""
    while window._complete and (
        window.tally._resting.isActive() or window.staging.behind or window.jobs.running(COUNTING)
    ):
        QApplication.processEvents()
        time.sleep(0.002)  # so that the work itself has room


@pytest.fixture
def style(qapp):
    """Return the dark appearance, in force."""
    load_fonts()
    made = Style()
    made.use(qapp, True)
    return made


def new_window(home):
    """Return a window on a home, shown."""
    load_fonts()
    style = Style()
    style.use(QApplication.instance(), True)
    made = Window(style, home)
    made.dressing.asks_toolkit = lambda: False  # it takes its time; who tests it turns it on
    made.resize(1280, 800)
    made.show()
    return made


@pytest.fixture
def window(qtbot, home):
    made = new_window(home)
    qtbot.addWidget(made)
    yield made
    made.close()


@pytest.fixture(scope="module")
def standing(qapp, tmp_path_factory):
    """Return a window for the tests of a module, and the look that each begins with."""
    home = build_demo_home(tmp_path_factory.mktemp("standing") / "demo" / "home")
    made = new_window(home)
    made.opening.offer_readings = lambda: None
    made.open_path(str(home / "Pictures" / "reedbed-at-dawn.jpg"))
    while made.jobs._running:
        QApplication.processEvents()
        rested(made)
    yield made, made.document.look
    made.document.stack.setClean()
    made.close()


def lying(home):
    """Return what lies in a home, and when each file was written last."""
    return {p: (p.lstat().st_mtime_ns, p.lstat().st_size) for p in home.rglob("*")}


@pytest.fixture
def shared(qtbot, standing, settle):
    """Return the module's window as it was at first: for tests that leave its home alone, which is looked at after."""
    made, look = standing
    document, chooser = made.document, made.bench.choosing.chooser
    if chooser is not None:
        chooser.close_with(False)
    document.follow(True)
    document.in_view = ""
    if document.look != look:
        document.show(look)
    document.stack.clear()
    document.select("accent")
    made.say_trouble("")
    made.resize(1280, 800)
    made.stage.whole()
    made.stage.set_curtain(None)
    made.stage.mark("", "")
    made.tune.role.family.setChecked(True)
    made.tune.eyes.buttons["normal"].click()
    made.tune.glass.flat.setChecked(False)
    made.tune.show_page("role")
    made.stage.set_note("")
    made.show_step("gather")
    settle(made)
    before = lying(document.home)
    yield made
    assert lying(document.home) == before, "the home of a shared window was changed"


@pytest.fixture
def settle(qtbot):
    """Return a function that waits until a window's jobs have ended."""

    def wait(window) -> None:
        rested(window)
        while window.jobs._running:
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
