"""The one colour chooser: what it offers, what follows it live, and that it is one step or none."""

from __future__ import annotations

import numpy as np
import pytest
from PyQt6 import sip
from PyQt6.QtCore import QPointF, QRect, Qt
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QLineEdit

from mellow_finch.colour.contrast import ratio
from mellow_finch.colour.gamut import max_chroma, oklch_to_rgba, rgba_to_oklch
from mellow_finch.colour.rgb import parse_hex
from mellow_finch.look.edits import with_lock, with_role, with_role_reset, with_swapped
from mellow_finch.look.role_pairs import pairs_of_role
from mellow_finch.palette.roles import ROLES
from mellow_finch.ui.kit.chooser.wheel import ColourWheel
from mellow_finch.ui.kit.drag import ROLE_MIME
from mellow_finch.ui.kit.popover import _placed
from mellow_finch.ui.window.memory import Memory


@pytest.fixture
def tuning(shared, settle):
    shared.show_step("tune")
    settle(shared)
    yield shared
    chooser = shared.bench.choosing.chooser
    if chooser is not None:
        chooser.close_with(False)


def chooser_of(window, role: str = "accent"):
    window.document.select(role)
    window.tune.role.swatch.click()
    return window.bench.choosing.chooser


def colours_in(grid) -> list[str]:
    return [grid.item(i).toolTip()[-7:] for i in range(grid.count())]


def test_it_offers_the_image_the_roles_and_harmonies_and_lies_inside_the_window(tuning):
    look, chooser = tuning.document.look, chooser_of(tuning)
    assert tuning.rect().contains(chooser.geometry()) and chooser.isVisible()
    assert colours_in(chooser.grids["roles"]) == [look.colours[r.id].hex for r in ROLES]
    image = tuning.opening.known[look.source].swatches
    assert colours_in(chooser.grids["image"]) == [s.colour.hex for s in image]
    assert chooser.grids["harmonies"].count() == 9
    assert chooser.old.colour == chooser.new.colour == look.colours["accent"]
    assert tuning.focusWidget() is chooser.field and chooser.field.selectedText() == look.colours["accent"].hex


def test_everything_in_it_is_one_step_and_escape_leaves_none(tuning, qtbot):
    document = tuning.document
    before = document.look
    chooser = chooser_of(tuning)
    for words in ("rgb(40, 120, 90)", "oklch(0.7 0.12 150)"):
        chooser.field.clear()
        QTest.keyClicks(chooser.field, words)
    assert document.look.colours["accent"] == chooser.colour == oklch_to_rgba(0.7, 0.12, 150)
    QTest.keyClick(chooser.wheel, Qt.Key.Key_Left, Qt.KeyboardModifier.ShiftModifier)
    QTest.mouseClick(chooser.wheel, Qt.MouseButton.LeftButton, pos=chooser.wheel.rect().center())
    chooser.sliders[0].moved.emit(0.72)
    QTest.keyClick(chooser, Qt.Key.Key_Escape)
    assert document.look == before and document.stack.count() == 0
    chooser = chooser_of(tuning)
    chooser.set_colour(parse_hex("#28785a"))
    chooser.set_colour(parse_hex("#4f8a8b"))
    QTest.keyClick(chooser.field, Qt.Key.Key_Return)
    assert tuning.bench.choosing.chooser is None
    assert document.stack.count() == 1 and document.look.colours["accent"] == parse_hex("#4f8a8b")
    document.stack.undo()
    assert document.look == before
    document.stack.clear()


def test_words_that_are_no_colour_yet_change_nothing(tuning):
    before = tuning.document.look
    chooser = chooser_of(tuning)
    for words in ("#12", "oklch(0.7", "the tide", ""):
        chooser.field.setText(words)
        chooser.field.textEdited.emit(words)
        assert chooser.field.property("kind") == "bad" and tuning.document.look == before
    chooser.field.setText("teal")
    chooser.field.textEdited.emit("teal")
    assert chooser.field.property("kind") == "" and chooser.colour == parse_hex("#008080")


def test_the_ratio_is_that_of_the_closest_pair_now(tuning):
    document = tuning.document
    document.follow(False)
    chooser = chooser_of(tuning, "window_text")
    window = document.look.colours["window"]
    chooser.set_colour(window)
    assert "needs 4.5" in chooser.ratio.text() and chooser.ratio.property("kind") == "bad"
    lightest = parse_hex("#ffffff")
    chooser.set_colour(lightest)
    worst = pairs_of_role(document.look, "window_text")[0]
    assert f"{worst.ratio:.2f} : 1" in chooser.ratio.text()
    assert worst.ratio == pytest.approx(min(
        ratio(document.look.colours[p.pair.text], document.look.colours[p.pair.surface])
        for p in pairs_of_role(document.look, "window_text")
    ), abs=0.01)  # fmt: skip


def test_it_closes_when_something_else_is_pressed_or_changes_the_look(tuning, settle):
    chooser = chooser_of(tuning)
    chooser.set_colour(parse_hex("#28785a"))
    QTest.mouseClick(tuning.header, Qt.MouseButton.LeftButton, pos=tuning.header.rect().center())
    assert tuning.bench.choosing.chooser is None
    assert tuning.document.look.colours["accent"] == parse_hex("#28785a")
    chooser = chooser_of(tuning)
    tuning.document.stack.undo()
    assert tuning.bench.choosing.chooser is None and not chooser.isVisible()


def test_it_closes_where_what_had_the_focus_is_gone(tuning):
    """A page that is made anew while it is open takes its old parts with it."""
    gone = QLineEdit(tuning)
    gone.show()
    gone.setFocus()
    chooser = chooser_of(tuning)
    sip.delete(gone)
    chooser.close_with(False)
    assert tuning.bench.choosing.chooser is None


def test_a_locked_role_is_not_chosen_and_says_why(tuning):
    tuning.document.edit("Lock", lambda look: with_lock(look, "accent", True))
    assert chooser_of(tuning) is None
    assert "locked" in tuning.notice.text()
    tuning.say_trouble("")


def test_favourites_and_recent_ones_are_kept_for_the_next_time(tuning, tmp_path):
    kept = Memory(tmp_path / "window.ini", tmp_path)
    tuning.bench.choosing.kept = kept
    chooser = chooser_of(tuning)
    chooser.set_colour(parse_hex("#28785a"))
    chooser.favourite.click()
    assert "Remove" in chooser.favourite.text() and colours_in(chooser.grids["favourites"]) == ["#28785a"]
    chooser.use.click()
    again = Memory(tmp_path / "window.ini", tmp_path)
    assert [c.hex for c in again.colours("favourites")] == [c.hex for c in again.colours("recent")] == ["#28785a"]
    tuning.bench.choosing.kept = again
    chooser = chooser_of(tuning, "link")
    assert colours_in(chooser.grids["recent"]) == ["#28785a"]
    chooser.grids["favourites"].setCurrentRow(0)
    QTest.keyClick(chooser.grids["favourites"], Qt.Key.Key_Space)
    assert tuning.document.look.colours["link"] == parse_hex("#28785a")
    chooser.favourite.click()
    assert not again.colours("favourites") and chooser.grids["favourites"].isHidden()
    chooser.close_with(False)


def test_kept_colours_that_are_spoilt_are_left_out(tmp_path):
    (tmp_path / "window.ini").write_text("[colours]\nrecent=#28785a, teal, x\nfavourites=#123456\n")
    kept = Memory(tmp_path / "window.ini", tmp_path)
    assert [c.hex for c in kept.colours("recent")] == ["#28785a"]
    assert [c.hex for c in kept.colours("favourites")] == ["#123456"]


def test_a_colour_of_the_screen_comes_into_it(tuning, monkeypatch):
    picker = tuning.bench.picking.picker
    monkeypatch.setattr(picker, "pick", lambda: picker.taken.emit(parse_hex("#4f8a8b")))
    chooser = chooser_of(tuning)
    chooser.pick.click()
    assert chooser.isVisible() and chooser.colour == parse_hex("#4f8a8b")
    assert tuning.document.look.colours["accent"] == parse_hex("#4f8a8b")


def test_the_keyboard_goes_around_inside(tuning, qtbot):
    chooser = chooser_of(tuning)
    seen = []
    for _ in range(20):
        seen.append(tuning.focusWidget())
        QTest.keyClick(seen[-1], Qt.Key.Key_Tab)
        if tuning.focusWidget() is seen[0]:
            break
    assert chooser.wheel in seen and chooser.use in seen and all(chooser.isAncestorOf(w) for w in seen)
    assert all(w.accessibleName() or w.text() for w in seen)


@pytest.mark.parametrize(("lightness", "hue"), [(0.7, 30.0), (0.3, 250.0), (0.95, 110.0)])
def test_a_place_of_the_wheel_is_its_colour_and_never_outside_the_gamut(shared, lightness, hue):
    wheel, got = ColourWheel(shared.appearance), []
    wheel.resize(248, 248)
    wheel.moved.connect(lambda chroma, turned: got.append((chroma, turned)))
    wheel.show_colour(lightness, 0.05, hue)
    most = float(max_chroma(np.array(lightness), np.array(hue)))
    QTest.mouseClick(wheel, Qt.MouseButton.LeftButton, pos=wheel.place_of(most * 0.6, hue).toPoint())
    assert got[-1] == (pytest.approx(most * 0.6, abs=0.004), pytest.approx(hue, abs=2.5))
    edge = wheel.place_of(9.0, hue)
    QTest.mouseClick(wheel, Qt.MouseButton.LeftButton, pos=edge.toPoint())
    assert got[-1][0] <= float(max_chroma(np.array(lightness), np.array(got[-1][1]))) + 1e-9
    middle = wheel.place_of(most * 0.6, hue)
    shown = wheel.grab().toImage().pixelColor((middle + QPointF(0, 14)).toPoint())
    offset = middle + QPointF(0, 14) - wheel.place_of(0, 0)
    assert shown.alpha() == 255 and offset is not None


def test_unreadable_places_of_the_wheel_are_striped(shared):
    wheel = ColourWheel(shared.appearance)
    wheel.resize(248, 248)
    wheel.show_colour(0.6, 0.1, 30.0)
    plain = wheel.grab().toImage()
    wheel.judge_by(lambda lch: lch[:, 2] < 180)
    striped = wheel.grab().toImage()
    above, below = (QRect(60, y, 128, 40) for y in (50, 158))  # hues up to 180 lie above the middle
    assert plain.copy(above) == striped.copy(above) and plain.copy(below) != striped.copy(below)


@pytest.mark.parametrize(
    ("beside", "where"),
    [(QRect(10, 10, 30, 20), "under"), (QRect(10, 560, 30, 20), "over"), (QRect(700, 200, 90, 300), "left"), (QRect(5, 200, 90, 300), "right")],
)  # fmt: skip
def test_a_box_lies_beside_what_it_is_about_and_inside(beside, where):
    room, box = QRect(0, 0, 800, 600), QRect(0, 0, 300, 350)
    at = _placed(box, beside, room)
    placed = QRect(at, box.size())
    assert room.contains(placed) and not placed.intersects(beside)
    assert {
        "under": placed.top() > beside.bottom(), "over": placed.bottom() < beside.top(),
        "left": placed.right() < beside.left(), "right": placed.left() > beside.right(),
    }[where]  # fmt: skip


# The terminal's page


def terminal_page(window):
    window.tune.show_page("terminal")
    return window.tune.terminal


def test_a_terminal_colour_is_changed_in_place_by_mouse_and_keys(tuning, settle):
    page = terminal_page(tuning)
    page.printed["styles"].click()
    settle(tuning)
    swatch = page.swatches["ansi_2"]
    QTest.mouseDClick(swatch, Qt.MouseButton.LeftButton)
    chooser = tuning.bench.choosing.chooser
    assert chooser.isVisible() and tuning.document.role == "ansi_2"
    chooser.close_with(False)
    QTest.keyClick(page.swatches["cursor"], Qt.Key.Key_Return)
    tuning.bench.choosing.chooser.set_colour(parse_hex("#d0b060"))
    tuning.bench.choosing.chooser.close_with(True)
    assert tuning.document.look.colours["cursor"] == parse_hex("#d0b060") == page.swatches["cursor"].colour


def test_one_dragged_onto_another_swaps_the_two(tuning):
    page, look = terminal_page(tuning), tuning.document.look
    data = page.swatches["ansi_1"].carried()
    assert bytes(data.data(ROLE_MIME)) == b"ansi_1" and data.text() == look.colours["ansi_1"].hex
    page.swatches["ansi_5"].dropped.emit("ansi_1")
    fresh = tuning.document.look
    assert (fresh.colours["ansi_1"], fresh.colours["ansi_5"]) == (look.colours["ansi_5"], look.colours["ansi_1"])
    assert tuning.document.stack.count() == 1 and not fresh.failing()


def test_one_is_locked_and_reset(tuning):
    page, look = terminal_page(tuning), tuning.document.look
    page.swatches["ansi_3"].click()
    assert not page.reset.isEnabled()
    tuning.document.edit("x", lambda now: with_role(now, "ansi_3", parse_hex("#e8d060")))
    assert page.reset.isEnabled()
    page.reset.click()
    assert tuning.document.look.colours["ansi_3"] == look.colours["ansi_3"]
    page.lock.click()
    assert "ansi_3" in tuning.document.look.locks and not page.change.isEnabled()
    page.lock.click()
    assert page.change.isEnabled()


def test_what_is_printed_shows_on_the_stage(tuning, settle):
    page, shown = terminal_page(tuning), {}
    for name, tab in page.printed.items():
        tab.click()
        settle(tuning)
        parts = {area.part for area in tuning.stage.areas if area.component == "terminal"}
        shown[name] = (tuning.stage.grab().toImage(), parts)
    pictures = [picture for picture, _ in shown.values()]
    assert all(a != b for i, a in enumerate(pictures) for b in pictures[i + 1 :])
    assert {f"colour {i}" for i in range(16)} <= shown["styles"][1]
    page.printed["session"].click()


def test_swapping_and_resetting_keep_what_is_locked_and_readable(looks):
    for look in looks:
        swapped = with_swapped(look, "ansi_1", "ansi_4")
        assert not swapped.failing()
        assert swapped.colours["ansi_1"] == look.colours["ansi_4"]
        changed = with_role(look, "ansi_4", parse_hex("#88aaff" if look.tone == "dark" else "#20408f"))
        back = with_role_reset(changed, "ansi_4")
        assert back.colours["ansi_4"] == look.colours["ansi_4"] and not back.failing()
        assert rgba_to_oklch(back.palettes["light"]["ansi_4"]) == rgba_to_oklch(look.palettes["light"]["ansi_4"])
