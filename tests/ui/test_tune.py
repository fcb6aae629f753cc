"""Tune driven as a person drives it: sliders that know, the whole look, the terminal, glass, eyes, steps taken."""

from __future__ import annotations

import os
from dataclasses import replace

import numpy as np
import pytest
from PyQt6.QtCore import QEvent, QPoint, QRectF, Qt
from PyQt6.QtGui import QHelpEvent
from PyQt6.QtWidgets import QApplication, QInputDialog, QToolTip

from mellow_finch.colour.contrast import ratio
from mellow_finch.colour.gamut import rgba_to_oklch
from mellow_finch.colour.rgb import Rgba
from mellow_finch.colour.vision import simulate_pixels
from mellow_finch.look.edits import with_role
from mellow_finch.palette.apart import confusions
from mellow_finch.palette.roles import role_title
from mellow_finch.palette.temper import CONTROLS
from mellow_finch.palette.veil import KINDS
from mellow_finch.ui.stage.scene import TERMINAL


@pytest.fixture
def tuned(shared):
    shared.show_step("tune")
    return shared


def place(slider, value: float) -> QPoint:
    box = slider._box()
    return QPoint(
        round(box.x() + (value - slider.low) / (slider.high - slider.low) * box.width()), int(box.center().y())
    )


def test_a_drag_reads_the_files_once_and_the_next_sees_what_changed(tuned, monkeypatch):
    document, gesture = tuned.document, tuned.tune.role._gesture
    sheet = next(p for p in document.home.rglob("gnome-shell.css"))
    read: list[str] = []
    below = type(document.files)
    plain = below.__call__
    monkeypatch.setattr(below, "__call__", lambda self, path: (read.append(path), plain(self, path))[1])
    gesture.begin()
    gesture.edit("Accent colour", lambda look: with_role(look, "accent", Rgba(150, 90, 60)))
    assert document.dressed.files["shell"] and read
    read.clear()
    gesture.edit("Accent colour", lambda look: with_role(look, "accent", Rgba(154, 90, 60)))
    assert document.dressed.files["shell"] and not read
    text, state = sheet.read_text(), sheet.stat()
    sheet.write_text(text + "\n/* seen */\n")
    gesture.edit("Accent colour", lambda look: with_role(look, "accent", Rgba(140, 90, 60)))
    assert not document.dressed.files["shell"][0].data.endswith(b"/* seen */\n")
    gesture.begin()
    gesture.edit("Accent colour", lambda look: with_role(look, "accent", Rgba(130, 90, 60)))
    assert document.dressed.files["shell"][0].data.endswith(b"/* seen */\n")
    sheet.write_text(text)
    os.utime(sheet, ns=(state.st_atime_ns, state.st_mtime_ns))


def test_a_drag_stops_where_a_pair_would_fail_and_ctrl_passes(qtbot, tuned):
    tuned.document.select("menu_text")
    slider = tuned.tune.role.sliders[0]
    edge = float(slider.values[np.flatnonzero(slider._limits.good)[0]])
    assert 0.3 < edge < 0.8
    before = tuned.document.look
    qtbot.mousePress(slider, Qt.MouseButton.LeftButton, pos=place(slider, slider.now))
    qtbot.mousePress(slider, Qt.MouseButton.LeftButton, pos=place(slider, 0.2))
    stopped = tuned.document.look
    assert rgba_to_oklch(stopped.colours["menu_text"])[0] == pytest.approx(edge, abs=0.012)
    assert stopped.colours["menu"] == before.colours["menu"]
    assert ratio(stopped.colours["menu_text"], stopped.colours["menu"]) >= 4.5
    qtbot.mousePress(slider, Qt.MouseButton.LeftButton, Qt.KeyboardModifier.ControlModifier, place(slider, 0.2))
    passed = tuned.document.look
    assert rgba_to_oklch(passed.colours["menu_text"])[0] < edge - 0.1
    assert passed.colours["menu"] != before.colours["menu"] and not passed.failing()


def test_keys_stop_at_the_edge_too(qtbot, tuned):
    tuned.document.select("menu_text")
    slider = tuned.tune.role.sliders[0]
    for _ in range(8):
        qtbot.keyClick(slider, Qt.Key.Key_Left, Qt.KeyboardModifier.ShiftModifier)
    look = tuned.document.look
    assert look.colours["menu_text"] != tuned.document.states()[0].look.colours["menu_text"]
    assert look.colours["menu"] == tuned.document.states()[0].look.colours["menu"]
    qtbot.keyClick(slider, Qt.Key.Key_Left, Qt.KeyboardModifier.ShiftModifier | Qt.KeyboardModifier.ControlModifier)
    assert tuned.document.look.colours["menu"] != look.colours["menu"]


def test_hovering_a_bad_stretch_names_the_limit(qtbot, tuned):
    tuned.document.select("menu_text")
    slider = tuned.tune.role.sliders[0]
    assert slider.reason_at(0.1) == "Menu text on Menu drops below 4.5 here" and slider.reason_at(0.95) == ""
    at = place(slider, 0.1)
    QApplication.sendEvent(slider, QHelpEvent(QEvent.Type.ToolTip, at, slider.mapToGlobal(at)))
    qtbot.waitUntil(lambda: "on Menu drops below 4.5" in QToolTip.text())
    assert "readable up to" in slider.accessibleDescription()
    marked = slider.grab().toImage()
    tuned.document.select("shadow")
    assert slider._limits.good.all() and slider.grab().toImage() != marked


def test_one_sentence_says_what_stops_a_role(tuned):
    tuned.document.select("menu_text")
    assert "It cannot be darker than" in tuned.tune.role.why.text() and "on Menu" in tuned.tune.role.why.text()
    tuned.document.select("divider")
    assert "No limit" in tuned.tune.role.why.text()


def test_colours_are_typed_in_every_spelling(qtbot, tuned):
    for text in ("#5a9bd0", "rgb(90 155 208)", "hsl(207 56% 58%)", "oklch(0.67 0.106 247)", "steelblue"):
        tuned.document.select("link")
        field = tuned.tune.role.hex
        field.setText(text)
        qtbot.keyClick(field, Qt.Key.Key_Return)
        colour = tuned.document.look.colours["link"]
        assert abs(rgba_to_oklch(colour)[2] - 247) < 8 and field.text() == colour.hex


@pytest.mark.long
def test_the_accent_leads_its_family_unless_told_otherwise(tuned):
    tuned.document.select("accent")
    page = tuned.tune.role
    assert page.family.isVisible()
    first = tuned.document.look
    page.take(Rgba(80, 150, 200))
    led = tuned.document.look
    assert (
        led.colours["selection"] != first.colours["selection"]
        and led.palettes["light"]["link"] != first.palettes["light"]["link"]
    )
    tuned.actions_by_id["undo"].trigger()
    page.family.click()
    page.take(Rgba(80, 150, 200))
    page.family.click()
    assert tuned.document.look.colours["selection"] == first.colours["selection"]
    tuned.document.select("menu")
    assert not page.family.isVisible()


def test_dark_and_light_go_together_or_apart(tuned):
    tuned.document.select("card")
    page = tuned.tune.role
    first = tuned.document.look
    assert page.linked.isChecked()
    page.take(Rgba(40, 52, 80))
    assert tuned.document.look.palettes["light"]["card"] != first.palettes["light"]["card"]
    tuned.actions_by_id["undo"].trigger()
    page.linked.click()
    page.take(Rgba(40, 52, 80))
    assert tuned.document.look.palettes["light"] == first.palettes["light"] and not tuned.document.look.linked


def test_a_pair_leads_to_its_partner(qtbot, tuned):
    tuned.document.select("menu_text")
    tuned.tune.role.pairs[0].swatch.click()
    assert tuned.document.role == "menu" and tuned.tune.role.chooser.currentData() == "menu"


@pytest.mark.long
def test_each_whole_look_control_is_one_step_and_stays_readable(tuned):
    for control in CONTROLS:
        tuned.tune.show_page("whole")
        before, count = tuned.document.look, tuned.document.stack.count()
        slider = tuned.tune.whole.sliders[control.id].slider
        slider.setSliderDown(True)
        for step in (120, 150, 190):
            slider.setValue(step)
        slider.setSliderDown(False)
        look = tuned.document.look
        assert tuned.document.stack.count() == count + 1 and look != before
        assert getattr(look.temper, control.id) == pytest.approx(control.low + (control.high - control.low) * 0.95)
        assert not look.failing("dark") and not look.failing("light")
        assert all(f.passes for f in tuned.document.findings)
        tuned.tune.whole.reset.click()
        assert tuned.document.look.palettes == before.palettes


def test_asking_for_seven_to_one_reaches_every_file(tuned):
    tuned.tune.show_page("whole")
    tuned.tune.whole.needs[7.0].click()
    look = tuned.document.look
    assert look.temper.text_need == 7.0 and not look.failing()
    texts = [f for f in tuned.document.findings if f.need.level == 7.0]
    assert len(texts) > 100 and all(f.ratio >= 7 for f in texts) and all(f.passes for f in tuned.document.findings)


def test_the_terminal_is_looked_at_from_near_and_solved_as_a_set(qtbot, tuned):
    tuned.tune.show_page("terminal")
    assert tuned.stage._close == QRectF(*TERMINAL)
    tuned.stage.repaint()
    at = tuned.stage.point_of("terminal", "colour 1")
    assert at is not None and tuned.stage.area_at(at).component == "terminal"
    assert tuned.stage.point_of("gtk-3", "menu item") is None
    page = tuned.tune.terminal
    page.swatches["ansi_1"].click()
    assert tuned.document.role == "ansi_1" and "red" in page.chosen.text() and page.swatches["ansi_1"]._lit
    spoilt = replace(tuned.document.look, mend_as_you_go=False)
    tuned.document.edit("Spoil", lambda _: with_role(spoilt, "ansi_1", spoilt.colours["ansi_3"]))
    assert "0.0" in page.near["normal"][2].text()
    tuned.document.follow(True)
    page.solve.click()
    assert float(page.near["normal"][2].text().split(": ")[1].split("\n")[0]) >= 10
    tuned.tune.show_page("role")
    assert tuned.stage._close is None


def test_glass_is_written_shown_judged_and_taken_back(tuned):
    tuned.tune.show_page("glass")
    page = tuned.tune.glass
    before = tuned.document.look
    plain = tuned.stage.grab().toImage()
    for kind in KINDS:
        page.checks[kind.id].click()
    look = tuned.document.look
    assert look.opacity == {k.id: 0.85 for k in KINDS} and all(f.passes for f in tuned.document.findings)
    view = tuned.document.dressed.view
    assert b"@define-color mf_window_drawn rgba(" in view(".config/gtk-4.0/gtk.css")
    assert b"URxvt*background: [85]#" in view(".Xresources")
    paints = tuned.document.dressed.paints
    assert paints["gtk-3"]["menu"].fill.a == pytest.approx(0.85, abs=0.01)
    assert paints["terminal"]["terminal"].fill.a == pytest.approx(0.85)
    assert paints["shell"]["panel"].fill.a == pytest.approx(0.85, abs=0.01)
    glass = tuned.stage.grab().toImage()
    assert glass != plain
    page.blur.click()
    soft = tuned.stage.grab().toImage()
    assert tuned.document.look.blur and soft != glass
    page.flat.click()
    assert tuned.stage.grab().toImage() != soft and tuned.stage._note == "No compositor"
    page.flat.click()
    for kind in KINDS:
        page.checks[kind.id].click()
    page.blur.click()
    assert tuned.document.look.palettes != {} and tuned.document.look.opacity == before.opacity


def test_the_least_opacity_is_marked_and_kept_to(tuned):
    tuned.tune.show_page("glass")
    page = tuned.tune.glass
    page.checks["windows"].click()
    slider = page.sliders["windows"]
    least = slider.slider.least
    assert 0.2 < least < 0.85 and "Readable from 59%, with blur from 54%" in page.notes["windows"].text()
    count = tuned.document.stack.count()
    slider.slider.setSliderDown(True)
    slider.slider.setValue(20)
    slider.slider.setValue(10)
    slider.slider.setSliderDown(False)
    look = tuned.document.look
    assert tuned.document.stack.count() == count + 1 and look.opacity["windows"] == pytest.approx(0.05)
    assert look.drawn_opacity()["windows"] >= least and all(f.passes for f in tuned.document.findings)
    assert "Drawn at" in page.notes["windows"].text()
    tuned.document.follow(False)
    page._gesture.begin()
    page._move(KINDS[0], 0.02)
    assert not all(f.passes for f in tuned.document.findings) and "unreadable" in page.notes["windows"].text()


def test_the_stage_is_seen_with_other_eyes(tuned):
    for vision in ("protan", "deutan", "tritan", "grey"):
        tuned.document.select("window_text")
        tuned.stage.mark("", "")
        plain = tuned.stage.grab().toImage()
        tuned.tune.show_page("eyes")
        tuned.tune.eyes.buttons[vision].click()
        seen = tuned.stage.grab().toImage()
        assert tuned.stage._note.startswith("Simulated: ")
        tuned.stage.set_note("")
        seen = tuned.stage.grab().toImage()
        frame = tuned.stage.frame()
        for share in ((0.1, 0.3), (0.5, 0.62), (0.33, 0.97), (0.86, 0.1)):
            x, y = int(frame.x() + frame.width() * share[0]), int(frame.y() + frame.height() * share[1])
            before, after = plain.pixelColor(x, y), seen.pixelColor(x, y)
            expected = simulate_pixels(np.array([[before.red(), before.green(), before.blue()]], np.uint8), vision)[0]
            assert np.abs(expected.astype(int) - [after.red(), after.green(), after.blue()]).max() <= 1
        tuned.tune.eyes.buttons["normal"].click()
        assert tuned.stage.grab().toImage() == plain


def test_colours_told_apart_by_hue_alone_are_named(tuned):
    tuned.tune.show_page("eyes")
    page = tuned.tune.eyes
    assert "Deutan: " in page.note.text()
    page.choose("deutan")
    labels = [page.list.itemAt(i).layout().itemAt(5).widget().text() for i in range(page.list.count())]
    mixed = confusions(tuned.document.look.colours, "deutan")
    assert mixed and labels[0].startswith(f"{role_title(mixed[0].first)} / {role_title(mixed[0].second)}")
    assert not any(words.startswith("Success / Error") for words in labels)
    page.list.itemAt(0).layout().itemAt(0).widget().click()
    assert tuned.document.role in (mixed[0].first, mixed[0].second)


@pytest.mark.long
def test_steps_are_listed_gone_to_and_compared(tuned, settle, qtbot, monkeypatch):
    for role, colour in (("window", Rgba(50, 40, 60)), ("menu", Rgba(60, 30, 40))):
        tuned.document.select(role)
        tuned.tune.role.take(colour)
    newest = tuned.document.look
    tuned.actions_by_id["steps"].trigger()
    panel = tuned.steps
    assert tuned.side.currentWidget() is panel and panel.list.count() == 3
    panel.grab()
    settle(tuned)
    assert all(panel.image_of(s.look) is not None for s in tuned.document.states())
    assert panel.list.item(0).data(Qt.ItemDataRole.UserRole).words == "Change Menu"
    plain = tuned.stage.grab().toImage()
    panel.list.clearSelection()
    panel.list.item(1).setSelected(True)
    panel.compare_button.click()
    assert (
        tuned.stage.curtain == 0.5 and tuned.stage.before_words == "Change Window" and tuned.stage.after_words == "Now"
    )
    panel.list.item(2).setSelected(True)
    assert panel.compare_button.text() == "Compare the two" and not panel.go_button.isEnabled()
    panel.compare_button.click()
    assert (tuned.stage.before_words, tuned.stage.after_words) == ("Start", "Change Window")
    assert tuned.document.look == newest and tuned.stage.grab().toImage() != plain
    tuned.actions_by_id["curtain"].trigger()
    assert tuned.document.beside == (None, None) and tuned.stage.curtain is None
    panel.list.clearSelection()
    panel.list.item(2).setSelected(True)
    panel.go_button.click()
    assert tuned.document.look == tuned.document.states()[0].look and tuned.document.stack.canRedo()
    tuned.actions_by_id["redo"].trigger()
    tuned.actions_by_id["redo"].trigger()
    assert tuned.document.look == newest
    panel.list.clearSelection()
    panel.list.item(1).setSelected(True)
    monkeypatch.setattr(QInputDialog, "getText", lambda *_, **__: ("Evening", True))
    panel.keep_button.click()
    assert [v.name for v in tuned.document.look.variants] == ["Evening"] and panel.variants.count() == 1
    panel.variants.setCurrentRow(0)
    panel.beside_button.click()
    assert tuned.stage.before_words == "Evening"
    panel.use_button.click()
    assert tuned.document.look.colours["menu"] != newest.colours["menu"]
    panel.variants.setCurrentRow(0)
    panel.drop_button.click()
    assert tuned.document.look.variants == ()
    tuned.actions_by_id["steps"].trigger()
    assert tuned.side.currentWidget() is tuned.tune


def test_tabs_are_walked_by_keys_and_named(qtbot, tuned):
    tab = tuned.tune.tabs["role"]
    tab.setFocus()
    qtbot.keyClick(tab, Qt.Key.Key_Right)
    assert tuned.tune.page == "whole" and tuned.tune.tabs["whole"].isChecked()
    qtbot.keyClick(tuned.tune.tabs["whole"], Qt.Key.Key_Left)
    qtbot.keyClick(tuned.tune.tabs["role"], Qt.Key.Key_Left)
    assert tuned.tune.page == "eyes"
    assert all(t.accessibleName() for t in (*tuned.tune.tabs.values(), *tuned.gather.tabs.values()))


def test_without_a_compositor_glass_says_so_and_the_stage_is_opaque(tuned, settle):
    from mellow_finch.session.simulated import MADE_UP, SimulatedSession

    page = tuned.tune.glass
    assert not page.flat.isChecked()
    tuned.wearing.session = SimulatedSession(MADE_UP["no compositor"])
    tuned.wearing.look_again()
    settle(tuned)
    tuned.tune.show_page("glass")
    assert page.none.isVisible() and page.flat.isChecked() and tuned.stage._seen.flat
    tuned.wearing.session = SimulatedSession(MADE_UP["dark first"])
    tuned.wearing.look_again()
    settle(tuned)
    assert not page.none.isVisible() and not tuned.stage._seen.flat


def test_a_locked_colour_holds_and_says_why(shared, settle):
    window, page = shared, shared.tune.role
    window.show_step("tune")
    colour = window.document.look.colours["accent"]
    window.document.select("accent")
    page.lock.click()
    settle(window)
    assert not page.hex.isEnabled() and not any(s.isEnabled() for s in (*page.sliders, *page.numbers))
    assert page.why.text() == "Locked. Unlock it to change it."
    page.take(Rgba(20, 200, 90))  # off the picture, pasted, or dropped
    settle(window)
    assert window.document.look.colours["accent"] == colour
    assert window.notice.text() == "“Accent colour” is locked. Unlock it to change its colour."
    page.lock.click()
    settle(window)
    assert page.hex.isEnabled() and "Locked" not in page.why.text()
    page.take(Rgba(20, 200, 90))
    assert window.document.look.colours["accent"] != colour


def test_a_compositor_can_be_asked_for_where_none_runs(tuned):
    tuned.tune.show_page("glass")
    page = tuned.tune.glass
    assert not page.start.isVisibleTo(page)
    page.say_compositor(False)
    assert page.start.isVisibleTo(page) and page.none.isVisibleTo(page) and page.flat.isChecked()
    page.start.click()
    assert tuned.document.look.companions["compositor"] == "on" and not page.flat.isChecked()
    tuned.document.stack.undo()
    assert "compositor" not in tuned.document.look.companions and not page.start.isChecked() and page.flat.isChecked()
    page.start.click()
    page.start.click()
    assert "compositor" not in tuned.document.look.companions and page.flat.isChecked()
    page.say_compositor(True)
    assert not page.start.isVisibleTo(page) and not page.flat.isChecked()
    while tuned.document.stack.canUndo():
        tuned.document.stack.undo()


def test_a_blur_that_nothing_draws_is_said_where_it_is_ticked(tuned):
    tuned.tune.show_page("glass")
    page = tuned.tune.glass
    page.say_compositor(True, False)
    assert not page.sharp.isVisibleTo(page)
    page.blur.click()
    assert tuned.document.look.blur and page.sharp.isVisibleTo(page)
    for runs, blurs in ((True, True), (True, None), (False, False)):  # opaque surfaces show nothing of it
        page.say_compositor(runs, blurs)
        assert not page.sharp.isVisibleTo(page)
    page.say_compositor(True, None)
    for sharp in (True, False):
        tuned.staging.show_sharp(sharp)
        assert tuned.staging.seen(tuned.document.look).blur is not sharp
    tuned.document.stack.undo()


def test_a_surface_that_is_set_separately_starts_where_the_one_it_is_like_stands(tuned):
    tuned.tune.show_page("glass")
    page = tuned.tune.glass
    before = tuned.document.look
    page.checks["panel"].click()
    page.sliders["panel"].began.emit()
    page.sliders["panel"].moved.emit(0.7)
    dock = tuned.document.dressed.paints["plank"]["dock"].fill.a
    assert dock == pytest.approx(0.7, abs=0.01) and page.checks["dock"].text() == "Dock separately from Panel"
    page.checks["dock"].click()
    assert tuned.document.look.opacity["dock"] == pytest.approx(tuned.document.look.opacity["panel"])
    page.sliders["dock"].began.emit()
    page.sliders["dock"].moved.emit(0.95)
    paints = tuned.document.dressed.paints
    assert paints["plank"]["dock"].fill.a == pytest.approx(0.95, abs=0.01)
    assert paints["shell"]["panel"].fill.a == pytest.approx(0.7, abs=0.01)
    page.checks["dock"].click()
    assert "dock" not in tuned.document.look.opacity
    while tuned.document.look.opacity != before.opacity:
        tuned.document.stack.undo()
