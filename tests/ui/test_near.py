"""The stage from near, the pair at hand under it, finding anything, and what the window remembers."""

from __future__ import annotations

import json
from pathlib import Path

import pytest
from PyQt6.QtCore import QMimeData, QPoint, QPointF, QRect, QRectF, QSize, Qt
from PyQt6.QtGui import QDragEnterEvent, QDropEvent, QImage, QWheelEvent
from PyQt6.QtWidgets import QApplication

from mellow_finch.colour.difference import oklab_distance
from mellow_finch.colour.rgb import Rgba
from mellow_finch.components.catalogue import COMPONENT_BY_ID
from mellow_finch.components.decisions import Owner
from mellow_finch.look.edits import with_role
from mellow_finch.palette.roles import ROLES
from mellow_finch.proof.place import find_source
from mellow_finch.ui.help.guide import Guide
from mellow_finch.ui.kit.drag import ROLE_MIME
from mellow_finch.ui.stage.scene import HEIGHT, WIDTH
from mellow_finch.ui.window.actions import ACTIONS
from mellow_finch.ui.window.dialogs import Dialogs
from mellow_finch.ui.window.finder import Finder, everything, ranked
from mellow_finch.ui.window.memory import Memory
from mellow_finch.ui.window.parts import OpenWindow as Window
from mellow_finch.ui.window.steps.rows import STEPS


@pytest.fixture
def tuned(shared, settle):
    shared.show_step("tune")
    settle(shared)
    return shared


def wheel(stage, notches, at, keys=Qt.KeyboardModifier.ControlModifier):
    event = QWheelEvent(
        at, QPointF(stage.mapToGlobal(at.toPoint())), QPoint(), QPoint(0, 120 * notches), Qt.MouseButton.NoButton, keys,
        Qt.ScrollPhase.NoScrollPhase, False,
    )  # fmt: skip
    QApplication.sendEvent(stage, event)


def test_the_desktop_fills_more_than_half_of_the_window(tuned):
    frame = tuned.stage.frame()
    assert frame.width() * frame.height() >= 0.52 * 1280 * 800
    tuned.resize(1920, 1080)
    QApplication.processEvents()
    assert tuned.centre.width() * tuned.centre.height() >= 0.6 * 1920 * 1080
    assert 320 <= tuned.side.width() <= 520


def test_what_is_under_the_pointer_stays_there_while_one_comes_nearer(tuned):
    for notches in (1, 4, 9, 40):
        stage = tuned.stage
        at = QPointF(430, 300)
        spot = stage.viewport.unit_at(at)
        for _ in range(notches):
            wheel(stage, 1, at)
        assert stage.near > stage.viewport.whole_scale and stage.near <= 8
        assert (stage.viewport.unit_at(at) - spot).manhattanLength() < 0.5
        view = stage.viewport.view
        assert QRectF(-0.01, -0.01, WIDTH + 0.02, HEIGHT + 0.02).contains(view)
        for _ in range(notches + 1):
            wheel(stage, -1, at)
        assert stage.near == 0 and stage.viewport.view == QRectF(0, 0, WIDTH, HEIGHT)


def test_keys_come_near_and_back(qtbot, tuned):
    stage = tuned.stage
    stage.setFocus()
    qtbot.keyClick(stage, Qt.Key.Key_Plus)
    first = stage.near
    qtbot.keyClick(stage, Qt.Key.Key_Plus)
    assert stage.near > first > 0
    qtbot.keyClick(stage, Qt.Key.Key_Minus)
    assert stage.near == pytest.approx(first)
    qtbot.keyClick(stage, Qt.Key.Key_1)
    assert stage.near == pytest.approx(1 / stage.devicePixelRatioF())
    qtbot.keyClick(stage, Qt.Key.Key_0)
    assert stage.near == 0
    qtbot.keyClick(stage, Qt.Key.Key_Plus)
    qtbot.keyClick(stage, Qt.Key.Key_Escape)
    assert stage.near == 0


def test_a_click_from_near_selects_what_a_click_on_the_whole_does(qtbot, tuned):
    for component, part in (("gtk-3", "menu item:hover"), ("terminal", "cursor"), ("widget", "heading")):
        stage = tuned.stage
        part = part if part in COMPONENT_BY_ID[component].by_key else next(iter(COMPONENT_BY_ID[component].by_key))
        stage.whole()
        whole = stage.point_of(component, part)
        if whole is None:
            part = next(a.part for a in stage.areas if a.component == component)
            whole = stage.point_of(component, part)
        expected = stage.area_at(whole)
        stage.zoom(5, whole)
        assert stage.area_at(stage.point_of(component, part)) == expected
        picked = []
        stage.picked.connect(picked.append)
        qtbot.mouseClick(stage, Qt.MouseButton.LeftButton, pos=stage.point_of(component, part).toPoint())
        assert picked == [expected]


def test_it_is_drawn_anew_rather_than_scaled_up(qtbot, opened):
    """From near, far fewer colours lie between text and surface than in an enlarged picture of the whole."""
    stage = opened.stage
    opened.show_step("tune")
    area = next(a for a in stage.areas if (a.component, a.part) == ("gtk-3", "menu item:hover") and a.what == "text")

    def there() -> QRect:
        frame, view = stage.frame(), stage.viewport.view
        scale = frame.width() / view.width()
        corner = frame.topLeft() + (area.rect.topLeft() - view.topLeft()) * scale
        return QRectF(corner, area.rect.size() * scale).toRect()

    def between(image: QImage) -> float:
        rows = [image.pixelColor(x, y).lightness() for x in range(image.width()) for y in range(image.height())]
        low, high = min(rows), max(rows)
        assert high - low > 60
        return sum(low + 0.25 * (high - low) < v < high - 0.25 * (high - low) for v in rows) / len(rows)

    whole = stage.grab(there()).toImage()
    stage.zoom(5, QPointF(there().center()))
    swift = stage.grab(there()).toImage()  # while the zoom goes on
    qtbot.waitUntil(lambda: not stage._crisp.isActive())
    near = stage.grab(there()).toImage()
    assert between(near) < 0.5 * between(swift)
    assert between(near) < 0.5 * between(
        whole.scaled(near.size(), transformMode=Qt.TransformationMode.SmoothTransformation)
    )


def test_a_double_click_looks_at_the_window_under_the_pointer_and_the_middle_button_moves(qtbot, tuned):
    stage = tuned.stage
    at = stage.point_of("terminal", stage.areas[[a.component for a in stage.areas].index("terminal")].part)
    qtbot.mouseDClick(stage, Qt.MouseButton.LeftButton, pos=at.toPoint())
    assert stage.near > 1 and stage.viewport.view.contains(QPointF(200, 650))
    before = stage.viewport.view
    qtbot.mousePress(stage, Qt.MouseButton.MiddleButton, pos=QPoint(300, 300))
    qtbot.mouseMove(stage, QPoint(250, 330))
    qtbot.mouseRelease(stage, Qt.MouseButton.MiddleButton, pos=QPoint(250, 330))
    moved = stage.viewport.view.topLeft() - before.topLeft()
    assert moved.x() == pytest.approx(50 / stage.near, abs=0.1)
    wheel(stage, 1, QPointF(300, 300), Qt.KeyboardModifier.NoModifier)
    assert stage.viewport.view.y() < before.y()


def test_curtain_compare_and_eyes_work_from_near(qtbot, tuned, settle):
    stage = tuned.stage
    stage.zoom(3, QPointF(400, 300))
    plain = stage.grab().toImage()
    stage.set_compare(True)
    before = stage.grab().toImage()
    assert before != plain
    stage.set_compare(False)
    stage.set_curtain(0.5)
    half = stage.grab().toImage()
    assert half.copy(0, 100, 300, 300) == before.copy(0, 100, 300, 300)
    assert half.copy(620, 100, 300, 300) == plain.copy(620, 100, 300, 300)
    stage.set_curtain(None)
    stage.set_vision("grey")
    assert all(
        c.red() == c.green() == c.blue()
        for c in (stage.grab().toImage().pixelColor(x, 333) for x in range(10, 900, 50))
    )


# Selected pair


def test_the_pair_at_hand_says_what_it_is_and_where_it_stands(qtbot, tuned, settle):
    strip, document = tuned.strip, tuned.document
    document.select("menu_hover", "gtk-3", "menu item:hover")
    settle(tuned)
    assert strip.isVisible() and "menu item" in strip.title.text()
    assert "Menu text, hovered on Menu, hovered" in strip.roles.text() and "needs 4.5" in strip.ratio.text()
    assert "gtk.css, line" in strip.place.text()
    path, line = strip.place.toolTip().split("\n")[0].removeprefix("~/").split(", line ")
    text = next(f.data for f in document.dressed.files["gtk-3"] if f.path == path).decode().splitlines()
    assert strip.finding.text.hex in text[int(line) - 1]


def test_what_is_pointed_at_takes_its_place_for_as_long(qtbot, tuned, settle):
    strip = tuned.strip
    tuned.document.select("menu_hover", "gtk-3", "menu item:hover")
    strip.point("terminal", next(iter(COMPONENT_BY_ID["terminal"].by_key)), "text")
    assert strip.title.text().startswith(COMPONENT_BY_ID["terminal"].title)
    strip.point("", "", "")
    assert "menu item" in strip.title.text()


def test_it_locks_changes_mends_and_shows_the_file(qtbot, tuned, settle):
    strip, document = tuned.strip, tuned.document
    document.select("menu_text", "gtk-3", "menu item")
    qtbot.mouseClick(strip.lock, Qt.MouseButton.LeftButton)
    assert strip.role in document.look.locks and strip.lock.text() == "Unlock"
    qtbot.mouseClick(strip.lock, Qt.MouseButton.LeftButton)
    document.follow(False)
    document.edit("Spoil", lambda look: with_role(look, "menu_text", Rgba(60, 60, 60)))
    settle(tuned)
    assert strip.mend.isVisible() and "✗" in strip.ratio.text()
    qtbot.mouseClick(strip.mend, Qt.MouseButton.LeftButton)
    settle(tuned)
    assert not strip.mend.isVisible() and "✓" in strip.ratio.text()
    qtbot.mouseClick(strip.file, Qt.MouseButton.LeftButton)
    settle(tuned)
    assert tuned.step == "dress" and tuned.dress.view == "changes"
    tuned.strip.change_asked.emit("accent")
    assert tuned.step == "tune" and document.role == "accent"


@pytest.mark.long
def test_places_are_those_where_the_colour_really_stands(look, home, files):
    from mellow_finch.look.dressed import dress

    dressed = dress(look, files, frozenset(COMPONENT_BY_ID))
    told = 0
    for component, paints in dressed.paints.items():
        for key, paint in list(paints.items())[::4]:  # looking up every one takes long
            part = COMPONENT_BY_ID[component].by_key.get(key)
            place = find_source(dressed, component, part) if part is not None and paint.text is not None else None
            if place is None or not place.line:
                continue
            told += 1
            data = next(f.data for f in dressed.files[component] if f.path == place.path).decode()
            assert 1 <= place.line <= data.count("\n") + 1
    assert told > 100


# Finding


def test_everything_is_found_by_its_name(qtbot, opened, settle):
    rows = everything(opened)
    kinds = {r.kind for r in rows}
    assert kinds >= {"Action", "Role", "Component", "Scheme", *(row.title for row in STEPS)}
    enabled = {row.title.rstrip("…") for row in ACTIONS if opened.actions_by_id[row.id].isEnabled()} - {"Find anything"}
    assert enabled <= {r.words for r in rows}
    for words, name in (
        ("colour picker", "Eyedropper"),
        ("use this theme", "Use a theme"),
        ("dark mode", "Dark or light"),
    ):
        assert name in [r.words for r in ranked(rows, words)], words
    here = next(r for r in ranked(rows, "whole look at once") if r.kind == "Tune")
    here.run()
    assert opened.step == "tune" and opened.tune.page == "whole"
    next(r for r in rows if r.words == "Apply this look").run()
    settle(opened)
    assert opened.step == "wear" and opened.wear.wear_button.isEnabled() and not opened.wear._known.status.worn
    for role in ROLES:
        assert role.title in [r.words for r in ranked(rows, role.title)]
    assert ranked(rows, "no such thing at all") == []
    file = next(r for r in ranked(rows, ".config/kitty/kitty.conf") if r.kind == "File")
    file.run()
    settle(opened)
    assert (
        opened.step == "dress"
        and opened.dress.view == "changes"
        and "kitty" in "/".join(c.name for c in opened.dress.changes())
    )
    page = next(r for r in ranked(rows, "questions") if r.kind == "Guide")
    page.run()
    guide = opened.findChild(Guide)
    assert guide.isVisible() and guide.list.currentItem().text() == page.words
    guide.close()
    opened.shelving.keep(opened.document.look)
    settle(opened)
    kept = next(r for r in ranked(everything(opened), opened.document.look.name) if r.kind == "Saved look")
    kept.run()
    settle(opened)
    assert opened.step == "tune" and opened.document.look.name == kept.words
    assert ranked(rows, "menu hov")[0].words == "Menu, hovered"
    finder = Finder(opened)
    qtbot.addWidget(finder)
    qtbot.keyClicks(finder.line, "menu hov")
    qtbot.keyClick(finder.line, Qt.Key.Key_Return)
    settle(opened)
    assert opened.step == "tune" and opened.document.role == "menu_hover"
    again = Finder(opened)
    qtbot.addWidget(again)
    qtbot.keyClicks(again.line, "zzzz")
    assert again.shown == [] and "Nothing" in again.list.item(0).text()


# Remembering


@pytest.fixture
def memory(tmp_path, monkeypatch):
    monkeypatch.setattr(Dialogs, "about_to_close", lambda *_: "close")  # what waits for an answer would wait for good
    return Memory(tmp_path / "window.ini", tmp_path / "state")


def made(qtbot, style, home, memory):
    window = Window(style, home, memory)
    qtbot.addWidget(window)
    window.show()
    return window


@pytest.mark.long
def test_size_side_step_and_recent_pictures_are_remembered(qtbot, opened, home, memory, settle):
    window = made(qtbot, opened.appearance, home, memory)
    window.open_path(str(home / "Pictures" / "reedbed-at-dawn.jpg"))
    settle(window)
    window.resize(1200, 720)
    window.show_step("proof")
    assert window.close()
    kept = Memory(Path(memory._settings.fileName()))
    assert kept.size(QSize(4000, 4000)) == QSize(1200, 720) and kept.size(QSize(900, 700)) == QSize(900, 700)
    assert kept.step() == "proof" and [p.name for p in kept.recent()] == ["reedbed-at-dawn.jpg"]


@pytest.mark.long
def test_a_session_that_was_killed_is_offered_again_with_its_steps(qtbot, opened, home, memory, settle):
    window = made(qtbot, opened.appearance, home, memory)
    window.open_path(str(home / "Pictures" / "reedbed-at-dawn.jpg"))
    settle(window)
    window.document.edit("Spoil", lambda look: with_role(look, "accent", Rgba(90, 160, 220)))
    window.document.edit("Spoil more", lambda look: with_role(look, "link", Rgba(120, 190, 240)))
    window.document.stack.undo()
    window.show_step("proof")
    assert window.session_bar.keeping.isActive() and window.session_bar.keeping.interval() <= 5000
    window.session_bar.keep()
    settle(window)
    states = window.document.states()
    window.jobs.shut_down()  # killed: nothing else is written
    again = made(qtbot, opened.appearance, home, memory)
    again.session_bar.offer()
    assert again.session_bar.isVisible() and "2 steps" in again.session_bar.words.text()
    qtbot.mouseClick(again.session_bar.take_up, Qt.MouseButton.LeftButton)
    settle(again)
    assert [s.look for s in again.document.states()] == [s.look for s in states]
    assert again.step == "proof" and again.document.look == states[1].look and again.document.stack.canRedo()
    again.document.stack.setClean()
    assert again.close() and memory.session() is None


@pytest.mark.parametrize(
    "spoilt",
    ["", "{", "[]", '{"kind": "mellow-finch session"}', '{"kind": "mellow-finch session", "states": [], "at": 0}'],
)
def test_a_session_that_cannot_be_read_is_passed_over(memory, spoilt):
    memory._file.parent.mkdir(parents=True)
    memory._file.write_text(spoilt)
    assert memory.session() is None


@pytest.mark.long
def test_a_disk_that_takes_nothing_is_no_fault(qtbot, opened, home, monkeypatch, settle):
    monkeypatch.setattr(Dialogs, "about_to_close", lambda *_: "close")
    window = made(qtbot, opened.appearance, home, Memory(Path("/dev/null/x/window.ini"), Path("/dev/null/x")))
    window.open_path(str(home / "Pictures" / "reedbed-at-dawn.jpg"))
    settle(window)
    window.session_bar.keep()
    settle(window)
    assert window.recent() == [] or window.recent()[0].name == "reedbed-at-dawn.jpg"
    assert window.memory.session() is None and window.close()


@pytest.mark.long
def test_a_session_holds_no_path_of_the_picture(qtbot, opened, home, memory, settle):
    window = made(qtbot, opened.appearance, home, memory)
    window.open_path(str(home / "Pictures" / "reedbed-at-dawn.jpg"))
    settle(window)
    window.session_bar.keep()
    settle(window)
    assert str(home) not in memory._file.read_text() and json.loads(memory._file.read_text())["states"]
    window.document.stack.setClean()
    window.close()


@pytest.mark.long
@pytest.mark.parametrize(("answer", "closes"), [("stay", False), ("close", True)])
def test_closing_with_unsaved_changes_asks(qtbot, opened, home, memory, settle, monkeypatch, answer, closes):
    window = made(qtbot, opened.appearance, home, memory)
    window.open_path(str(home / "Pictures" / "reedbed-at-dawn.jpg"))
    settle(window)
    window.document.edit("Change", lambda look: with_role(look, "accent", Rgba(90, 160, 220)))
    asked = []
    monkeypatch.setattr(window.dialogs, "about_to_close", lambda name: asked.append(name) or answer)
    assert window.close() is closes and asked == [window.document.look.name]
    window.document.stack.setClean()
    window.close()


# Worst places


def test_proof_marks_the_worst_places_and_a_mark_chooses_its_row(qtbot, tuned, settle):
    document, stage = tuned.document, tuned.stage
    document.follow(False)
    document.edit("Spoil", lambda look: with_role(look, "menu_text", Rgba(90, 70, 90)))
    settle(tuned)
    assert not stage.badges()
    tuned.show_step("proof")
    settle(tuned)
    marked = {(a.component, a.part): fails for a, fails in stage.badges()}
    assert marked.get(("gtk-3", "menu item")) is True
    short = {(f.component, f.part.key) for f in document.findings if f.shortfall < 1.1 and not f.file}
    failing = {(f.component, f.part.key) for f in document.findings if not f.passes and not f.file}
    there = {(a.component, a.part) for a in stage.areas}
    assert there & failing <= set(marked) <= there & short and len(set(marked) - failing) <= 12
    area = next(a for a, _ in stage.badges() if (a.component, a.part) == ("gtk-3", "menu item"))
    scale = stage.frame().width() / stage.viewport.view.width()
    corner = stage.frame().topLeft() + (area.rect.topRight() - stage.viewport.view.topLeft()) * scale + QPointF(2, -1)
    qtbot.mouseClick(stage, Qt.MouseButton.LeftButton, pos=corner.toPoint())
    settle(tuned)
    row = tuned.proof.current()
    assert tuned.step == "proof" and (row.component, row.part.key) == ("gtk-3", "menu item")
    plain = stage.grab().toImage()
    tuned.show_step("tune")
    settle(tuned)
    assert not stage.badges() and stage.grab().toImage() != plain


def test_what_only_has_a_number_is_called_by_its_place(qtbot, tuned, settle):
    document = tuned.document
    document.follow(False)
    document.edit("Spoil", lambda look: with_role(look, "widget_accent", Rgba(60, 50, 50)))
    tuned.show_step("proof")
    settle(tuned)
    rows = [tuned.proof.list.item(i) for i in range(tuned.proof.list.count())]
    assert not any(item.text().startswith(("Rule ", "Widget text colour ", "Drawn colour ")) for item in rows)
    placed = [item.toolTip() for item in rows if ", line " in item.toolTip()]
    assert placed
    for told in placed:
        words, where, *_measures = told.split("\n")
        name, line = where.split(", line ")
        texts = [
            f.data.decode()
            for files in document.dressed.files.values()
            for f in files
            if f.path.rpartition("/")[2] == name
        ]
        assert any(
            words.split()[-1] in text.splitlines()[int(line) - 1] for text in texts if text.count("\n") >= int(line) - 1
        ), told


def drop(widget, at, role):
    data = QMimeData()
    data.setData(ROLE_MIME, role.encode())
    buttons, none = Qt.MouseButton.LeftButton, Qt.KeyboardModifier.NoModifier
    enter = QDragEnterEvent(at.toPoint(), Qt.DropAction.CopyAction, data, buttons, none)
    QApplication.sendEvent(widget, enter)
    event = QDropEvent(at, Qt.DropAction.CopyAction, data, buttons, none)
    QApplication.sendEvent(widget, event)
    return enter.isAccepted(), event.isAccepted()


@pytest.mark.long
def test_a_role_dropped_on_the_stage_is_given_to_what_lies_there(tuned, settle):
    for component, part in (("shell", "panel"), ("gtk-3", "switch:on"), ("terminal", "terminal")):
        document, stage = tuned.document, tuned.stage
        stage.grab()
        before = document.dressed.paints[component][part].fill
        at = stage.point_of(component, part)
        area = next(a for a in reversed(stage.areas) if a.rect.contains(stage.viewport.unit_at(at)))
        assert drop(stage, at, "error") == (True, True)
        settle(tuned)
        decisions = document.look.decisions
        given = [o for o, own in decisions.items() if "error" in {**own.groups, **own.roles}.values()]
        assert set(given) <= {Owner.component(area.component)} and bool(given) == (component == "shell")
        paints = document.dressed.paints[area.component][area.part]
        error = document.look.colours["error"]
        assert min(oklab_distance(error, c) for c in (paints.fill, paints.text) if c) < 0.12
        document.stack.undo()
        assert document.dressed.paints[component][part].fill == before


@pytest.mark.long
def test_what_is_no_role_is_not_taken_by_the_stage(tuned):
    tuned.stage.grab()
    at = tuned.stage.point_of("shell", "panel")
    look = tuned.document.look
    drop(tuned.stage, at, "no such role")
    assert tuned.document.look == look
