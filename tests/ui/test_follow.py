"""Following in the window: rules are shown and kept, it is started, paused, stopped, and what it did is there."""

from __future__ import annotations

from datetime import time
from pathlib import Path

import pytest

from mellow_finch.follow import service
from mellow_finch.follow.follower import own_follower
from mellow_finch.follow.rules import Rules, load_rules, rules_file, save_rules
from mellow_finch.look.gather import look_of_pictures
from mellow_finch.shelf.shelf import Shelf
from mellow_finch.ui.follow import dialog as shown


@pytest.fixture
def following(opened, settle, home, monkeypatch):
    """The dialog, on a shelf of two looks; what it would start is written down, a made-up process follows."""
    shelf = Shelf()
    for name in ("frost-on-sedge", "lighthouse-fog"):
        shelf.keep(look_of_pictures([home / "Pictures" / f"{name}.jpg"], "dark"))
    told = []
    runs = {"pid": 0}

    def install(folder, by_unit):
        told.append(("install", by_unit))
        runs["pid"] = 4
        return "Following."

    def remove(folder):
        told.append(("remove",))
        runs["pid"] = 0

    monkeypatch.setattr(shown, "install", install)
    monkeypatch.setattr(shown, "remove", remove)
    monkeypatch.setattr(shown, "has_units", lambda: True)
    monkeypatch.setattr(shown, "running", lambda _folder: runs["pid"])
    monkeypatch.setattr(shown, "nudge", lambda _folder: told.append(("nudge",)))
    opened.actions_by_id["follow"].trigger()
    settle(opened)
    dialog = opened.shelving.following
    yield dialog, told, lambda: settle(opened)
    dialog.close()


def test_rules_are_taken_and_it_starts(following):
    dialog, told, settled = following
    assert dialog.state.text() == "Not following" and not dialog.pause_button.isEnabled()
    dialog.day.setCurrentIndex(dialog.day.findData("clock"))
    assert dialog.times.isVisible() and not dialog.place.isVisible()
    dialog.light_at.setTime(dialog.light_at.time().fromString("06:30", "HH:mm"))
    dialog.picture.setChecked(False)
    dialog.start_button.click()
    settled()
    assert told == [("install", True)] and dialog.state.text() == "Following"
    rules = load_rules()
    assert (rules.day, rules.light_at, rules.picture, rules.paused) == ("clock", time(6, 30), False, False)


def test_the_sun_needs_a_place_and_looks_in_turn_are_ticked(following):
    from PyQt6.QtCore import Qt

    dialog, _, _ = following
    dialog.day.setCurrentIndex(dialog.day.findData("sun"))
    assert dialog.place.isVisible() and not dialog.times.isVisible()
    dialog.latitude.setValue(53.6)
    dialog.longitude.setValue(8.2)
    dialog.turn.item(1).setCheckState(Qt.CheckState.Checked)
    rules = dialog.rules()
    assert rules.place == (53.6, 8.2) and rules.turn == (dialog.turn.item(1).data(Qt.ItemDataRole.UserRole),)


def test_the_night_has_a_look_of_its_own_and_the_day_a_line(following):
    dialog, _, _ = following
    assert not dialog.night.isVisible() and not dialog.line.isVisible() and dialog.kept.isChecked()
    dialog.day.setCurrentIndex(dialog.day.findData("clock"))
    assert dialog.night.isVisible() and dialog.line.isVisible()
    assert dialog.line.accessibleName() == "Light from 07:00 to 19:00"
    plain = dialog.line.grab().toImage()
    dialog.light_at.setTime(dialog.light_at.time().fromString("09:00", "HH:mm"))
    assert dialog.line.accessibleName() == "Light from 09:00 to 19:00" and dialog.line.grab().toImage() != plain
    dialog.night.setCurrentIndex(2)
    dialog.kept.setChecked(False)
    rules = dialog.rules()
    assert rules.night == dialog.night.itemData(2) and not rules.kept and rules.light_at == time(9)


def test_it_is_paused_goes_on_and_is_stopped(following):
    dialog, told, settled = following
    dialog.start_button.click()
    settled()
    dialog.pause_button.click()
    assert load_rules().paused and dialog.state.text() == "Paused" and dialog.pause_button.text() == "Continue"
    dialog.pause_button.click()
    assert not load_rules().paused and told[-1] == ("nudge",) and dialog.state.text() == "Following"
    dialog.stop_button.click()
    settled()
    assert told[-1] == ("remove",) and dialog.state.text() == "Not following"


def test_what_stopped_it_and_what_it_did_are_said(following, home):
    dialog, _, settled = following
    dialog.start_button.click()
    settled()
    follower = own_follower(home)
    follower.folder.mkdir(parents=True, exist_ok=True)
    (follower.folder / "state.json").write_text('{"stopped": "“kitty.conf” was changed by hand."}')
    (follower.folder / "log.txt").write_text("2026-11-27 12:00:00  Nothing has changed.\n")
    dialog.refresh()
    assert dialog.state.text() == "Stopped" and "changed by hand" in dialog.why.text()
    assert dialog.log.toPlainText().endswith("Nothing has changed.")
    dialog.pause_button.click()
    assert follower.stopped() == "" and dialog.state.text() == "Following"


@pytest.mark.long
def test_rules_that_cannot_be_read_are_said_and_not_written_over(opened, settle, qtbot):
    rules_file().parent.mkdir(parents=True, exist_ok=True)
    rules_file().write_text("day = 'dusk'")
    opened.actions_by_id["follow"].trigger()
    settle(opened)
    dialog = opened.shelving.following
    assert "“dusk” is not one of" in dialog.trouble.text() and dialog.trouble.isVisible()
    assert rules_file().read_text() == "day = 'dusk'"
    dialog.close()
    save_rules(Rules())


def test_a_nudge_wakes_the_one_that_waits(tmp_path):
    import os
    import signal
    import threading

    from mellow_finch.follow.waiting import Waiter

    waiter = Waiter()
    threading.Timer(0.1, lambda: os.kill(os.getpid(), signal.SIGUSR1)).start()
    assert waiter.wait(30.0)
    waiter.close()
    service.nudge(Path(tmp_path))  # nobody follows: nothing happens
