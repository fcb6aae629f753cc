"""Colours on the clipboard: copied from a role wherever it is shown, pasted into one, locks held."""

from __future__ import annotations

import json

import pytest
import tinycss2
from PyQt6.QtCore import QMimeData, QPoint, Qt
from PyQt6.QtGui import QColor, QContextMenuEvent, QGuiApplication
from PyQt6.QtWidgets import QMenu

from mellow_finch.colour.rgb import parse_hex
from mellow_finch.look.edits import with_lock


@pytest.fixture
def board(qapp):
    clipboard = QGuiApplication.clipboard()
    clipboard.clear()
    yield clipboard
    clipboard.clear()


def asked(window, at: QPoint) -> None:
    event = QContextMenuEvent(QContextMenuEvent.Reason.Mouse, at, window.mapToGlobal(at))
    QGuiApplication.sendEvent(window, event)


@pytest.fixture
def menus(monkeypatch):
    """Return the menus that were opened, in order: without a screen none can take the keyboard."""
    found: list[QMenu] = []
    monkeypatch.setattr(QMenu, "popup", lambda menu, at: found.append(menu))
    return found


def entry(menu, words: str):
    return next(a for a in menu.actions() if a.text().startswith(words))


def test_the_keys_copy_and_paste_the_selected_role(shared, board, qtbot):
    look = shared.document.look
    shared.document.select("accent")
    shared.actions_by_id["copy_colour"].trigger()
    assert board.text() == look.colours["accent"].hex and look.colours["accent"].hex in shared.footer.text()
    board.setText("rgb(40, 120, 90)")
    shared.actions_by_id["paste_colour"].trigger()
    assert shared.document.look.colours["accent"] == parse_hex("#28785a")
    assert shared.document.stack.undoText() == "Paste a colour"
    shared.document.stack.undo()
    assert shared.document.look == look


@pytest.mark.parametrize("words", ["", "the tide table", "#12", "x" * 5000])
def test_what_is_no_colour_is_said_and_changes_nothing(shared, board, words):
    board.setText(words)
    look = shared.document.look
    shared.actions_by_id["paste_colour"].trigger()
    assert shared.document.look == look and "no colour on the clipboard" in shared.notice.text()
    shared.say_trouble("")


def test_a_colour_from_another_program_is_taken(shared, board):
    data = QMimeData()
    data.setColorData(QColor(200, 40, 60))
    board.setMimeData(data)
    shared.document.select("accent")
    shared.actions_by_id["paste_colour"].trigger()
    assert shared.document.look.colours["accent"] == parse_hex("#c8283c")
    shared.document.stack.undo()


def test_a_locked_role_takes_nothing(shared, board, menus):
    shared.document.select("accent")
    shared.document.edit("Lock", lambda look: with_lock(look, "accent", True))
    look = shared.document.look
    board.setText("#28785a")
    shared.actions_by_id["paste_colour"].trigger()
    assert shared.document.look == look and "locked" in shared.notice.text()
    menu = shared.bench.role_menu.show_for("accent", QPoint(0, 0), shared)
    assert not entry(menu, "Paste #28785a").isEnabled() and entry(menu, "Unlock").isEnabled()
    shared.document.stack.undo()
    shared.say_trouble("")


def test_the_ribbon_and_the_stage_have_a_menu_each(shared, board, settle, menus):
    shared.show_step("tune")
    settle(shared)
    role, rect = shared.plumage.chips()[6]
    asked(shared.plumage, rect.center().toPoint())
    menu = menus[-1]
    assert shared.document.role == role
    entry(menu, "Copy #").trigger()
    assert board.text() == shared.document.look.colours[role].hex
    entry(menu, "Copy --").trigger()
    sheet = tinycss2.parse_declaration_list(board.text(), skip_whitespace=True)
    assert sheet[0].name == f"--{role.replace('_', '-')}"
    entry(menu, "Lock").trigger()
    assert role in shared.document.look.locks
    shared.document.stack.undo()
    area = next(a for a in shared.stage.areas if a.component == "gtk-3" and a.part == "window")
    spot = shared.stage.frame().topLeft()
    at = next(
        QPoint(x, y)
        for y in range(round(spot.y()), shared.stage.height(), 6)
        for x in range(round(spot.x()), shared.stage.width(), 6)
        if shared.stage.area_at(QPoint(x, y).toPointF()) is not None
    )
    assert area is not None
    asked(shared.stage, at)
    menu = menus[-1]
    assert menu.parent() is shared.stage
    assert entry(menu, "Show where it is written").isEnabled()
    entry(menu, "Change…").trigger()
    chooser = shared.bench.choosing.chooser
    assert chooser is not None and chooser.isVisible() and shared.rect().contains(chooser.geometry())
    chooser.close_with(False)
    assert shared.bench.choosing.chooser is None


def test_the_palette_is_copied_whole(shared, board):
    look = shared.document.look
    shared.actions_by_id["copy_palette"].trigger()
    lines = board.text().splitlines()
    assert len(lines) >= 70 and f"{look.colours['accent'].hex}  Accent" in lines
    shared.bench.role_menu.copy_palette("css")
    assert look.colours["accent"].hex in board.text() and "--" in board.text()
    shared.bench.role_menu.copy_palette("tokens")
    assert json.loads(board.text())
    shared.bench.role_menu.copy_palette("gpl")
    assert board.text().startswith("GIMP Palette")


def test_a_field_keeps_its_own_keys(shared, board, qtbot):
    shared.show_step("tune")
    shared.tune.show_page("role")
    field = shared.tune.role.hex
    field.setFocus()
    field.setText("#abcdef")
    field.selectAll()
    qtbot.keyClick(field, Qt.Key.Key_C, Qt.KeyboardModifier.ControlModifier)
    assert board.text() == "#abcdef"
