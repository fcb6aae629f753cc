"""Programs tried with the look, as the window shows them; and a look that is tried for some seconds."""

from __future__ import annotations

import io

import pytest
from PIL import Image
from PyQt6.QtCore import QObject, QPoint, Qt, pyqtSignal

from mellow_finch.colour.rgb import parse_hex
from mellow_finch.components.catalogue import COMPONENT_BY_ID
from mellow_finch.look.edits import with_accent
from mellow_finch.proof.rehearsal.conductor import Rehearsed
from mellow_finch.proof.rehearsal.measured import TextPlace
from mellow_finch.proof.rehearsal.verdict import Shown
from mellow_finch.ui.model.document import Document
from mellow_finch.ui.model.live import LiveTrial
from mellow_finch.ui.model.wearing import follows_at_once
from mellow_finch.ui.proof import programs as programs_module
from mellow_finch.ui.wear.trial_box import TrialBox
from mellow_finch.wear import trial
from mellow_finch.wear.history import History
from mellow_finch.wear.places import history_folder
from mellow_finch.wear.wear import undo_last
from tests.wear.conftest import state


def png(colour: str, size: tuple[int, int] = (960, 640)) -> bytes:
    out = io.BytesIO()
    Image.new("RGB", size, colour).save(out, "PNG")
    return out.getvalue()


@pytest.fixture
def rows(opened):
    look = opened.document.look
    short = TextPlace(look.colours["menu_hover"], look.colours["menu"], ((30, 40, 90, 14),))
    strange = TextPlace(parse_hex("#12ff34"), parse_hex("#13ee33"), ((30, 90, 90, 14),))
    box = (100, 80, 400, 300)

    def of(id_: str, shown: Shown, **more) -> Rehearsed:
        return Rehearsed(id_, COMPONENT_BY_ID[id_], id_, shown, png("#334455"), png("#998877"), box, **more)

    return [
        of("rofi", Shown("as_look", texts=9)),
        of("fuzzel", Shown("unreadable", short=(short, strange), texts=4), where="~/.config/fuzzel/fuzzel.ini:3"),
        of("kitty", Shown("own")),
        Rehearsed("foot", COMPONENT_BY_ID["foot"], "foot", Shown("absent")),
    ]


@pytest.fixture
def tried(opened, rows, monkeypatch, qtbot):
    """Return the Proof panel among programs, all of them tried."""
    monkeypatch.setattr(programs_module, "missing", lambda: "")
    monkeypatch.setattr("mellow_finch.ui.proof.program_page.wall_words", lambda: "Shut off.")

    def held(dressed, home, picture, slow=False, progress=None):
        for number, row in enumerate(rows):
            progress.report(number, len(rows), row.program)
            yield row

    monkeypatch.setattr(programs_module, "rehearse", held)
    panel = opened.step_by_id["proof"].panel
    opened.show_step("proof")
    qtbot.mouseClick(panel.tabs["programs"], Qt.MouseButton.LeftButton)
    qtbot.mouseClick(panel.wall.begin, Qt.MouseButton.LeftButton)
    qtbot.waitUntil(lambda: not panel.programs.running)
    return panel


def test_the_worst_stands_first_and_what_is_absent_is_named(opened, tried):
    wall = tried.wall
    assert opened.centre.currentWidget() is wall and wall.stack.currentIndex() == 0
    shown = [wall.list.item(i).data(Qt.ItemDataRole.UserRole).id for i in range(wall.list.count())]
    assert shown == ["fuzzel", "kitty", "rofi"]
    assert "3 programs tried: 1 as the look, 1 with unreadable text" in wall.words.text()
    assert "foot" in tried.program.absent.text() and tried.program.start.text() == "Try again"
    assert tried.programs.total == 4 and not wall.bar.isVisible()


def test_one_program_is_shown_large_with_its_places_and_the_line_is_moved(opened, tried, qtbot):
    wall, page = tried.wall, tried.program
    wall.list.setCurrentRow(0)
    wall.show_one()
    assert wall.stack.currentWidget() is wall.large and "Fuzzel" in wall.words.text()
    assert page.title.text().endswith("Unreadable") and "fuzzel.ini:3" in page.where.text()
    assert page.list.count() == 2 and page.mend.isVisible()
    at = wall.large.at
    wall.large.setFocus()
    qtbot.keyClick(wall.large, Qt.Key.Key_Right)
    assert wall.large.at > at
    frame = wall.large._frame()
    qtbot.mousePress(
        wall.large, Qt.MouseButton.LeftButton, pos=QPoint(round(frame.right()) - 1, round(frame.bottom()) - 40)
    )
    assert wall.large.at > 0.98
    # A place that is clicked is chosen in the list beside it.
    scale = frame.width() / 960
    spot = QPoint(round(frame.x() + (100 + 35) * scale), round(frame.y() + (80 + 95) * scale))
    qtbot.mousePress(wall.large, Qt.MouseButton.LeftButton, pos=spot)
    assert page.list.currentRow() == 1
    qtbot.keyClick(wall, Qt.Key.Key_Escape)
    assert wall.stack.currentWidget() is wall.list


@pytest.mark.long
def test_what_was_painted_is_mended_and_undone_as_one_step(opened, tried, qtbot, settle):
    tried.wall.list.setCurrentRow(0)
    look = opened.document.look
    tried.program.list.setCurrentRow(0)
    qtbot.mouseClick(tried.program.mend, Qt.MouseButton.LeftButton)
    settle(opened)
    mended = opened.document.look
    assert mended != look and opened.document.stack.undoText().startswith("Fix the contrast in Fuzzel")
    text = TextPlace(mended.colours["menu_hover"], mended.colours["menu"], ())
    assert text.ratio >= 4.5 and tried.programs.stale and tried.program.stale.isVisible()
    opened.document.stack.undo()
    assert opened.document.look == look
    # What no colour of the look paints is said to be the program's own.
    tried.program.list.setCurrentRow(1)
    qtbot.mouseClick(tried.program.mend, Qt.MouseButton.LeftButton)
    assert opened.document.look == look and "sets no colour there" in opened.notice.text()


def test_the_step_tells_of_programs_once_all_pairs_are_read(opened, tried, settle):
    opened.proof.mend_all()
    settle(opened)
    tried.programs.look = opened.document.look  # as after trying again
    assert opened.step_by_id["proof"].status(opened.document.look).words == "1 to fix"


@pytest.mark.long
def test_the_pairs_come_back_with_their_page(opened, tried, qtbot):
    qtbot.mouseClick(tried.tabs["pairs"], Qt.MouseButton.LeftButton)
    assert opened.centre.currentWidget() is opened.stage and opened.proof.list.count() > 3


def test_an_action_of_the_menu_tries_them_and_a_reason_why_not_is_said(opened, monkeypatch, settle):
    monkeypatch.setattr(programs_module, "missing", lambda: "There is no hidden screen here.")
    panel = opened.step_by_id["proof"].panel
    opened.show_step("proof")
    panel.show_page("programs")
    assert "no hidden screen" in panel.wall.empty.text() and not panel.wall.begin.isVisible()
    assert not panel.program.start.isEnabled()
    started: list[bool] = []
    monkeypatch.setattr(panel.programs, "start", lambda slow=False: started.append(slow))
    opened.actions_by_id["try_programs"].trigger()
    assert started == [False] and panel.page == "programs"


def boxes(window) -> list[TrialBox]:
    return [box for box in window.findChildren(TrialBox) if box.isVisible()]


@pytest.mark.some(2)
@pytest.mark.parametrize("answer", ["keep", "undo", "time"])
def test_a_look_is_tried_and_kept_or_goes_back(opened, qtbot, settle, answer):
    opened.show_step("wear")
    settle(opened)
    before = state(opened.document.home)
    qtbot.mouseClick(opened.wear.try_button, Qt.MouseButton.LeftButton)
    qtbot.waitUntil(lambda: bool(boxes(opened)) and not opened.wearing.busy, timeout=30_000)
    (box,) = boxes(opened)
    assert state(opened.document.home) != before and "15" in box.words.text()
    if answer == "time":
        box._left_ms = 50
    else:
        qtbot.mouseClick(box.keep if answer == "keep" else box.back, Qt.MouseButton.LeftButton)
    qtbot.waitUntil(lambda: not boxes(opened) and not opened.wearing.busy, timeout=30_000)
    settle(opened)
    kept = state(opened.document.home) != before
    assert kept == (answer == "keep")
    assert opened.wear.state.text() == ("This look is applied." if kept else "No look is applied.")


@pytest.mark.long
@pytest.mark.parametrize("answer", ["keep", "back"])
def test_the_desktop_follows_while_a_look_is_tried_and_it_is_one_change(opened, qtbot, settle, answer):
    """Each change reaches the files within the trial; kept, it is one thing to undo; else every byte is back."""
    opened.show_step("wear")
    settle(opened)
    home, document = opened.document.home, opened.document
    before, history = state(home), History(history_folder(home))
    qtbot.mouseClick(opened.wear.try_button, Qt.MouseButton.LeftButton)
    qtbot.waitUntil(lambda: bool(boxes(opened)) and not opened.wearing.busy, timeout=30_000)
    (box,) = boxes(opened)
    box.live.click()
    written = home / ".config/kitty/mellow-finch.conf"
    for colour in ("#2f8f5b", "#8f5b2f"):
        document.edit("Accent colour", lambda look, colour=colour: with_accent(look, parse_hex(colour)))
        wanted = document.look.colours["terminal_selection"].hex
        qtbot.waitUntil(lambda wanted=wanted: wanted in written.read_text(), timeout=30_000)
    qtbot.waitUntil(lambda: not opened.wearing.busy and box._left_ms > 15_000, timeout=30_000)
    assert len(trial.tried(history)) >= 2
    restarts = [c for c in opened.document.dressed.components if not follows_at_once(c.id)]
    assert restarts  # what follows only when it is started again has the look that was tried first
    qtbot.mouseClick(box.keep if answer == "keep" else box.back, Qt.MouseButton.LeftButton)
    qtbot.waitUntil(
        lambda: not boxes(opened) and trial.trial_of(history) is None and not opened.wearing.busy, timeout=60_000
    )
    settle(opened)
    worn = [s for s in history.snapshots() if s.status == "worn"]
    if answer == "back":
        assert state(home) == before and not worn
        return
    assert len(worn) == 1
    qtbot.waitUntil(lambda: opened.wear.state.text() == "This look is applied.", timeout=30_000)
    assert document.look.colours["terminal_selection"].hex in written.read_text()
    undo_last(history, opened.wearing.session)
    assert state(home) == before


def test_a_change_that_comes_while_another_is_sent_waits_and_the_end_waits_for_both(qtbot, qapp):
    """What ends a trial is never lost because the desktop is being changed just then."""

    class Desk(QObject):
        done = pyqtSignal()
        busy = False
        sent = 0

        def follow(self, _seconds):
            self.busy, self.sent = True, self.sent + 1

    document, desk, ended = Document(), Desk(), []
    live = LiveTrial(document, desk)
    document.look = "the first"
    live.follow(True)
    assert desk.sent == 1
    document.look = "the second"
    document.changed.emit(None, None)
    with qtbot.waitSignal(live._rest.timeout, timeout=5000):
        pass
    assert desk.sent == 1 and live._rest.isActive()  # it is still busy, and asked again
    live.end(lambda: ended.append(1))
    assert not ended
    desk.busy = False
    desk.done.emit()
    assert ended == [1] and not live.on
    assert desk.sent == 1 and not live._rest.isActive()  # nothing will ask for more
