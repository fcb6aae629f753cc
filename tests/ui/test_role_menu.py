"""Colours on the clipboard: copied from a role wherever it is shown, pasted into one, locks held."""

from __future__ import annotations

import json

import pytest
import tinycss2
from PyQt6.QtCore import QMimeData, QPoint, Qt
from PyQt6.QtGui import QColor, QContextMenuEvent, QDragEnterEvent, QDropEvent, QGuiApplication
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
    assert entry(menu, "Show where it is used").isEnabled()
    entry(menu, "Change…").trigger()
    chooser = shared.bench.choosing.chooser
    assert chooser is not None and chooser.isVisible() and shared.rect().contains(chooser.geometry())
    chooser.close_with(False)
    assert shared.bench.choosing.chooser is None


def test_the_palette_is_copied_whole(shared, board):
    look = shared.document.look
    shared.actions_by_id["copy_palette"].trigger()
    lines = board.text().splitlines()
    assert len(lines) >= 70 and f"{look.colours['accent'].hex}  Accent colour" in lines
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


def dropped_on(widget, data: QMimeData, at: QPoint) -> None:
    for kind in (QDragEnterEvent, QDropEvent):
        where = at.toPointF() if kind is QDropEvent else at
        event = kind(where, Qt.DropAction.CopyAction, data, Qt.MouseButton.LeftButton, Qt.KeyboardModifier.NoModifier)
        QGuiApplication.sendEvent(widget, event)


def foreign(words: str = "", colour: QColor | None = None) -> QMimeData:
    data = QMimeData()
    if words:
        data.setText(words)
    if colour is not None:
        data.setColorData(colour)
    return data


def test_colours_are_dragged_out_as_text_and_colour_and_in_from_other_programs(shared, settle):
    """What a swatch carries is what other programs take, and theirs is taken on the ribbon and on the stage."""
    look = shared.document.look
    out = shared.gather.picture.swatches[0].carried()
    assert out.text() == shared.gather.picture.swatches[0].colour.hex and out.hasColor()
    role, rect = shared.plumage.chips()[20]
    dropped_on(shared.plumage, foreign("rgb(40 120 90)"), rect.center().toPoint())
    assert shared.document.role == role and shared.document.look.colours[role] == parse_hex("#28785a")
    other, place = shared.plumage.chips()[24]
    dropped_on(shared.plumage, foreign(colour=QColor("#c8283c")), place.center().toPoint())
    assert shared.document.look.colours[other] == parse_hex("#c8283c")
    shared.document.stack.undo()
    shared.document.stack.undo()
    assert shared.document.look == look
    dropped_on(shared.plumage, foreign("the tide table"), rect.center().toPoint())
    assert shared.document.look == look
    shared.show_step("tune")
    settle(shared)
    spot = shared.stage.frame().topLeft()
    at = next(
        QPoint(x, y)
        for y in range(round(spot.y()), shared.stage.height(), 6)
        for x in range(round(spot.x()), shared.stage.width(), 6)
        if (area := shared.stage.area_at(QPoint(x, y).toPointF())) is not None and area.component == "gtk-3"
    )
    dropped_on(shared.stage, foreign("#28785a"), at)
    settle(shared)
    fresh = shared.document.look
    assert fresh != look and (parse_hex("#28785a") in fresh.colours.values() or "#28785a" in str(fresh.decisions))
    shared.document.stack.undo()


def test_a_swatch_of_nobody_has_a_menu_that_copies(shared, board, menus):
    swatch = shared.gather.picture.swatches[0]
    asked(swatch, QPoint(4, 4))
    entry(menus[-1], "Copy #").trigger()
    assert board.text() == swatch.colour.hex
