"""The preferences: each choice does what it says, at once and the next time."""

from __future__ import annotations

import os

import pytest
from PyQt6.QtCore import QSize, Qt
from PyQt6.QtWidgets import QApplication

from mellow_finch.ui import app
from mellow_finch.ui.window.dialogs import Dialogs
from mellow_finch.ui.window.memory import Memory
from mellow_finch.ui.window.parts import OpenWindow as Window
from mellow_finch.ui.window.preferences import Preferences
from mellow_finch.ui.window.settings import PREFERENCE_BY_NAME, PREFERENCES
from mellow_finch.wear.places import cache_folder


@pytest.fixture
def remembering(qtbot, style, home, tmp_path, monkeypatch):
    monkeypatch.setattr(Dialogs, "about_to_close", lambda *_: "close")

    def make():
        window = Window(style, home, Memory(tmp_path / "window.ini", tmp_path / "state"))
        qtbot.addWidget(window)
        window.show()
        return window

    yield make
    if not style.dark:
        style.use(QApplication.instance(), True)


def choose(page, id_, value):
    box = page.boxes[id_]
    box.setCurrentIndex(box.findData(value))
    box.activated.emit(box.currentIndex())


@pytest.mark.long
def test_choices_hold_now_and_the_next_time(qtbot, remembering, home, settle):
    window = remembering()
    window.actions_by_id["preferences"].trigger()
    page = window.findChild(Preferences)
    assert set(page.boxes) == {s.name for s in PREFERENCES}
    choose(page, "appearance", "light")
    assert not window.appearance.dark
    choose(page, "text_need", 7.0)
    choose(page, "asks", True)
    page.accept()
    window.open_path(str(home / "Pictures" / "frost-on-sedge.jpg"))
    settle(window)
    assert window.document.look.temper.text_need == 7 and not window.document.look.failing()
    asked = []
    window.wear.may_wear = lambda count: bool(asked.append(count))
    window.show_step("wear")
    settle(window)
    qtbot.mouseClick(window.wear.wear_button, Qt.MouseButton.LeftButton)
    settle(window)
    assert asked == [len(window.wear._known.plan.writes)] and window.wear.wear_button.isEnabled()
    again = remembering()
    assert again.bench.settings.asks and again.opening.usual_need == 7
    again.actions_by_id["preferences"].trigger()
    assert [b.currentData() for b in again.findChild(Preferences).boxes.values()] == [
        "light",
        "desktop",
        1.0,
        7.0,
        True,
        True,
        True,
        True,
    ]


@pytest.mark.long
def test_what_is_kept_of_pictures_is_counted_and_forgotten(qtbot, remembering, home, settle):
    window = remembering()
    window.open_path(str(home / "Pictures" / "frost-on-sedge.jpg"))
    settle(window)
    window.matching.rank_folder(home / "Pictures")
    settle(window)
    page = Preferences(window.memory)
    qtbot.addWidget(page)
    assert page.cache.text().startswith("5 images") and page.clear.isEnabled()
    qtbot.mouseClick(page.clear, Qt.MouseButton.LeftButton)
    assert page.cache.text().startswith("0 images") and not list(cache_folder().iterdir())


def test_sizes_that_do_not_fit_the_screen_are_not_offered(qtbot, tmp_path, monkeypatch):
    """Twice as large on a small screen would push the menu off it; what was chosen on a larger one is passed over."""
    memory = Memory(tmp_path / "window.ini", tmp_path / "state")
    for screen, largest in ((QSize(1280, 800), 1.25), (QSize(1920, 1200), 1.5), (QSize(3840, 2160), 2.0)):
        memory.keep_screen(screen)
        box = Preferences(memory).boxes["size"]
        offered = [box.itemData(i) for i in range(box.count())]
        assert max(offered) == largest and 1.0 in offered
    memory.choose(PREFERENCE_BY_NAME["size"], 2.0)
    monkeypatch.setattr(app, "Memory", lambda: memory)
    monkeypatch.delenv("QT_SCALE_FACTOR", raising=False)
    app.large_type()
    assert os.environ.pop("QT_SCALE_FACTOR") == "2"
    memory.keep_screen(QSize(1280, 800))
    app.large_type()
    assert "QT_SCALE_FACTOR" not in os.environ


def test_the_usual_size_is_one_key_away(remembering):
    window = remembering()
    window.memory.choose(PREFERENCE_BY_NAME["size"], 2.0)
    window.actions_by_id["usual_size"].trigger()
    assert window.memory.settings().size == 1.0 and "default size" in window.footer.text()


def test_the_window_fits_a_small_screen_and_its_header_says_more_where_there_is_room(shared):
    assert shared.minimumSizeHint().width() <= 820 and shared.minimumSizeHint().height() <= 640
    for wide, tools, words in ((820, False, False), (1024, False, False), (1280, True, False), (1600, True, True)):
        shared.resize(wide, 800)
        QApplication.processEvents()
        header = shared.header
        assert header.width() == wide and header.curtain.isVisibleTo(header) == tools
        assert (header.undo.text() == "Undo") == words and header.undo.isVisibleTo(header) == (wide >= 1000)
        assert all(button.has_icon for button in shared.track.buttons.values()) or wide < 1000
        for button in shared.track.buttons.values():  # no title is cut, with its icon or without
            assert button.width() >= button.minimumSizeHint().width() and button.roomy() >= button.has_icon
        right = max(w.geometry().right() for w in (header.undo, header.finder, header.more))
        assert right <= wide and header.more.isVisible()
    shared.resize(1280, 800)
