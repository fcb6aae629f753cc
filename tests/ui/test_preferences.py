"""The preferences: each choice does what it says, at once and the next time."""

from __future__ import annotations

import pytest
from PyQt6.QtCore import Qt

from mellow_finch.ui.window.dialogs import Dialogs
from mellow_finch.ui.window.memory import Memory
from mellow_finch.ui.window.parts import OpenWindow as Window
from mellow_finch.ui.window.preferences import Preferences
from mellow_finch.ui.window.settings import PREFERENCES
from mellow_finch.wear.places import cache_folder


@pytest.fixture
def remembering(qtbot, opened, home, tmp_path, monkeypatch):
    monkeypatch.setattr(Dialogs, "about_to_close", lambda *_: "close")

    def make():
        window = Window(opened.appearance, home, Memory(tmp_path / "window.ini", tmp_path / "state"))
        qtbot.addWidget(window)
        window.show()
        return window

    yield make
    if not opened.appearance.dark:
        opened.switch_appearance()


def choose(page, id_, value):
    box = page.boxes[id_]
    box.setCurrentIndex(box.findData(value))
    box.activated.emit(box.currentIndex())


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


def test_what_is_kept_of_pictures_is_counted_and_forgotten(qtbot, remembering, home, settle):
    window = remembering()
    window.open_path(str(home / "Pictures" / "frost-on-sedge.jpg"))
    settle(window)
    window.matching.rank_folder(home / "Pictures")
    settle(window)
    page = Preferences(window.memory)
    qtbot.addWidget(page)
    assert page.cache.text().startswith("5 pictures") and page.clear.isEnabled()
    qtbot.mouseClick(page.clear, Qt.MouseButton.LeftButton)
    assert page.cache.text().startswith("0 pictures") and not list(cache_folder().iterdir())
