"""The window driven as a person drives it: actions by id, clicks, keys, signals waited for."""

from __future__ import annotations

import os
import subprocess
import sys
import threading
from dataclasses import replace
from pathlib import Path

import pytest
from PyQt6.QtCore import QEvent, QMimeData, QPoint, QPointF, Qt, QUrl
from PyQt6.QtGui import QDropEvent, QImage, QPainter
from PyQt6.QtWidgets import QAbstractButton, QApplication, QLineEdit, QToolTip
from tools.rigs.homes import whole_home

import mellow_finch
from mellow_finch.colour.contrast import ratio
from mellow_finch.colour.gamut import rgba_to_oklch
from mellow_finch.colour.rgb import Rgba, parse_hex
from mellow_finch.components.catalogue import COMPONENT_BY_ID, COMPONENTS
from mellow_finch.components.model import Paint
from mellow_finch.look.carry import save_look
from mellow_finch.look.dressed import dress
from mellow_finch.look.edits import with_role
from mellow_finch.look.file import look_to_json
from mellow_finch.look.theme_edits import with_brought
from mellow_finch.palette.roles import ROLE_IDS
from mellow_finch.ui.kit.icons import SHAPES
from mellow_finch.ui.kit.jobs import JobProgress
from mellow_finch.ui.kit.parts import label
from mellow_finch.ui.kit.style import OWN_PAIRS, PlainTips, tokens
from mellow_finch.ui.stage.lay import PLAINLY, ViewOptions, draw_stage
from mellow_finch.ui.stage.scene import HEIGHT, WIDTH
from mellow_finch.ui.window.actions import ACTIONS
from mellow_finch.ui.window.parts import OpenWindow as Window
from mellow_finch.ui.window.steps.rows import STEPS
from tests.every import every
from tests.ui.conftest import rested


def act(window, name: str) -> None:
    window.actions_by_id[name].trigger()
    rested(window)


def test_starts_with_what_to_do_next(qtbot, window, settle):
    settle(window)
    assert window.gather.picture.own_row.count() == 5
    assert window.track.buttons["gather"].left == "no image yet"
    window.show_step("proof")
    assert window.step == "gather" and "Choose an image or a scheme first" in window.notice.text()
    assert not window.actions_by_id["save_look"].isEnabled()


@pytest.mark.parametrize("readings", [True])
def test_opening_a_picture_dresses_the_desktop(qtbot, opened):
    assert opened.document.look.name == "Reedbed at dawn" and len(opened.gather.picture.cards) >= 3
    assert len(opened.gather.picture.swatches) >= 6
    assert (
        opened.track.buttons["dress"].left == f"{len(opened.document.dressed.components)} included"
        and opened.track.buttons["proof"].left == "all readable"
    )
    images = {bytes(image.constBits().asarray(image.sizeInBytes())) for _, image in opened.desk.cards}
    assert len(images) == len(opened.desk.cards)


def test_a_bad_picture_leaves_everything_as_it_is(qtbot, opened, tmp_path, settle):
    look = opened.document.look
    bad = tmp_path / "torn.png"
    bad.write_bytes(b"\x89PNG\r\n\x1a\n" + b"x" * 50)
    opened.open_path(str(bad))
    settle(opened)
    assert "“torn.png”" in opened.notice.text() and opened.notice.isVisible()
    assert opened.document.look is look and opened.picture._gathered is not None


@pytest.mark.long
def test_dropping_a_picture_opens_it(qtbot, window, home, settle):
    data = QMimeData()
    data.setUrls([QUrl.fromLocalFile(str(home / "Pictures" / "frost-on-sedge.jpg"))])
    event = QDropEvent(
        QPointF(50, 50), Qt.DropAction.CopyAction, data, Qt.MouseButton.LeftButton, Qt.KeyboardModifier.NoModifier
    )
    window.picture.dropEvent(event)
    settle(window)
    assert window.document.look.name == "Frost on sedge"


@pytest.mark.long
@pytest.mark.parametrize("readings", [True])
def test_eyedropper_pins_what_is_under_it_and_the_pin_leads(qtbot, opened, settle):
    act(opened, "dropper")
    assert opened.picture.dropper
    frame = opened.picture.frame()
    at = QPoint(int(frame.x() + frame.width() * 0.66), int(frame.y() + frame.height() * 0.5))
    expected = opened.picture.colour_at(QPointF(at))
    qtbot.mouseClick(opened.picture, Qt.MouseButton.LeftButton, pos=at)
    settle(opened)
    assert opened.document.look.pins == (expected,) and len(opened.gather.picture.pins) == 1
    assert opened.opening.readings[0].recipe.accent == expected
    qtbot.keyClick(opened.picture, Qt.Key.Key_Right)
    qtbot.keyClick(opened.picture, Qt.Key.Key_Return)
    act(opened, "undo")
    settle(opened)
    act(opened, "undo")
    assert opened.document.look.pins == ()


@pytest.mark.long
@pytest.mark.parametrize("readings", [True])
def test_choosing_a_reading_and_undoing_it(qtbot, opened):
    first = opened.document.look
    qtbot.mouseClick(opened.gather.picture.cards[2], Qt.MouseButton.LeftButton)
    assert opened.document.look.recipe == opened.opening.readings[2].recipe != first.recipe
    assert opened.gather.picture.cards[2].isChecked() and not opened.gather.picture.cards[0].isChecked()
    act(opened, "undo")
    assert opened.document.look == first and opened.gather.picture.cards[0].isChecked()
    act(opened, "redo")
    assert opened.document.look.recipe == opened.opening.readings[2].recipe


def test_pointing_at_a_swatch_lights_its_area(qtbot, opened):
    QApplication.sendEvent(opened.gather.picture.swatches[1], QEvent(QEvent.Type.Enter))
    assert opened.picture._lit == 1 and opened.picture._veil is not None
    QApplication.sendEvent(opened.gather.picture.swatches[1], QEvent(QEvent.Type.Leave))
    assert opened.picture._lit == -1
    qtbot.mouseMove(opened.picture, opened.picture.rect().center())
    opened.desk.swatch_pointed(0)
    assert "Swatch #" in opened.footer.text()


def test_clicking_the_stage_selects_role_and_component(qtbot, opened):
    act(opened, "step_proof")
    opened.stage.repaint()
    at = opened.stage.point_of("gtk-3", "main button")
    qtbot.mouseClick(opened.stage, Qt.MouseButton.LeftButton, pos=at.toPoint() + QPoint(-15, -5))
    assert opened.document.role == "accent" and opened.document.component == "gtk-3"
    assert opened.step == "proof" and opened.proof.current().part.key == "main button"
    assert opened.stage._marked == ("gtk-3", "main button")
    qtbot.mouseClick(opened.strip.change, Qt.MouseButton.LeftButton)
    assert opened.step == "tune" and opened.tune.role.chooser.currentData() == "accent"


def test_pointing_tells_what_it_is_in_words(qtbot, opened):
    act(opened, "step_tune")
    opened.stage.repaint()
    opened.staging._pointed(
        next(a for a in opened.stage.areas if a.part == "menu item:hover" and a.component == "gtk-3")
    )
    words = opened.footer.text()
    assert (
        "GTK 3 programs" in words and "menu item, hover" in words and ": 1, needs 4.5" in words and "gtk.css" in words
    ) or "~/" in words


@pytest.mark.long
def test_a_drag_is_one_step_and_keeps_everything_readable(qtbot, opened):
    act(opened, "step_tune")
    opened.document.select("accent")
    count, old = opened.document.stack.count(), opened.document.look
    slider = opened.tune.role.sliders[0]
    y = slider.height() // 2
    qtbot.mousePress(slider, Qt.MouseButton.LeftButton, pos=QPoint(60, y))
    for x in range(70, 130, 10):
        qtbot.mouseMove(slider, QPoint(x, y))
        opened.tune.role._move(0, slider.value_at(x))
    qtbot.mouseRelease(slider, Qt.MouseButton.LeftButton)
    assert opened.document.stack.count() == count + 1
    assert opened.document.look.colours["accent"] != old.colours["accent"] and not opened.document.look.failing()
    assert all(f.passes for f in opened.document.findings)
    act(opened, "undo")
    assert opened.document.look == old


def test_dragging_back_leaves_no_step(qtbot, opened):
    act(opened, "step_tune")
    opened.document.select("window")
    count = opened.document.stack.count()
    start = opened.tune.role._lch[0]
    opened.tune.role._gesture.begin()
    opened.tune.role._move(0, start + 0.05)
    opened.tune.role._move(0, start)
    assert opened.document.stack.count() == count


def test_hex_keys_and_numbers(qtbot, opened):
    act(opened, "step_tune")
    opened.document.select("link")
    opened.tune.role.hex.setText("#7fb0ff")
    qtbot.keyClick(opened.tune.role.hex, Qt.Key.Key_Return)
    assert opened.document.look.colours["link"] == Rgba(0x7F, 0xB0, 0xFF)
    opened.tune.role.hex.setText("bluish")
    qtbot.keyClick(opened.tune.role.hex, Qt.Key.Key_Return)
    assert "is not a colour" in opened.notice.text() and opened.tune.role.hex.text() == "#7fb0ff"
    qtbot.keyClick(opened.tune.role.sliders[0], Qt.Key.Key_Right)
    assert rgba_to_oklch(opened.document.look.colours["link"])[0] > rgba_to_oklch(Rgba(0x7F, 0xB0, 0xFF))[0]
    opened.tune.role.numbers[2].setValue(20)
    opened.tune.role._typed(2)
    assert abs(rgba_to_oklch(opened.document.look.colours["link"])[2] - 20) < 3


def test_lock_holds_and_trouble_is_said(qtbot, opened):
    opened.document.select("menu")
    act(opened, "lock")
    assert "menu" in opened.document.look.locks and opened.track.buttons["tune"].left == "1 locked"
    opened.document.select("menu_text")
    act(opened, "lock")
    before = opened.document.look
    opened.document.edit("Spoil it", lambda look: with_role(look, "outline", Rgba(30, 30, 30)))
    opened.document.edit(
        "Spoil it",
        lambda look: with_role(replace(look, locks=look.locks | {"window"}), "window_text", look.colours["window"]),
    )
    assert "locked" in opened.notice.text() or opened.document.look.failing() == ()
    assert opened.document.look.colours["menu"] == before.colours["menu"]


def test_tone_switch(qtbot, opened, settle):
    act(opened, "tone")
    settle(opened)
    assert opened.document.look.tone == "light" and opened.header.tone.tone == "light"
    assert all(f.passes for f in opened.document.findings)


def test_plumage_selects_by_click_and_keys(qtbot, opened):
    chips = dict(opened.plumage.chips())
    assert list(chips) == list(ROLE_IDS)
    assert chips["window"].width() > chips["cursor_text"].width() > 4
    qtbot.mouseClick(opened.plumage, Qt.MouseButton.LeftButton, pos=chips["menu_hover"].center().toPoint())
    assert opened.document.role == "menu_hover"
    qtbot.keyClick(opened.plumage, Qt.Key.Key_Right)
    assert opened.document.role == "menu_hover_text"


def test_proof_lists_worst_first_and_mends(qtbot, opened):
    free = replace(opened.document.look, mend_as_you_go=False)
    opened.document.edit("Go freely", lambda _: with_role(free, "menu_text", free.colours["menu"]))
    act(opened, "step_proof")
    left = opened.track.buttons["proof"].left
    assert left.endswith("to fix") and opened.track.buttons["proof"].urgent
    ratios = [
        opened.proof.list.item(i).data(Qt.ItemDataRole.UserRole).shortfall for i in range(opened.proof.list.count())
    ]
    assert ratios == sorted(ratios) and ratios[0] < 1
    shell = next(
        i
        for i in range(opened.proof.list.count())
        if opened.proof.list.item(i).data(Qt.ItemDataRole.UserRole).component == "shell"
    )
    opened.proof.list.setCurrentRow(shell)
    key = opened.proof.current().key
    qtbot.mouseClick(opened.proof.one, Qt.MouseButton.LeftButton)
    assert next(f for f in opened.document.findings if f.key == key).passes
    qtbot.mouseClick(opened.proof.all, Qt.MouseButton.LeftButton)
    rested(opened)
    assert all(f.passes for f in opened.document.findings) and opened.track.buttons["proof"].left == "all readable"
    act(opened, "undo")
    act(opened, "undo")
    assert opened.track.buttons["proof"].left == left


@pytest.mark.long
def test_dress_shows_groups_and_can_leave_out(qtbot, opened):
    act(opened, "step_dress")
    opened.document.select("", "shell", "panel")
    assert opened.dress.current().id == "shell" and "groups of colours at" in opened.dress.component.groups_title.text()
    assert opened.dress.groups.rows[0].accessibleName().startswith("#ff2fa0, Accent colour, 1")
    opened.dress.show_view("changes")
    assert "lines change" in opened.changes.count.text() and "+" in opened.changes.text.toPlainText()
    opened.dress.show_view("stage")
    count = len(opened.document.dressed.components)
    opened.dress.list.row("kde").setCheckState(0, Qt.CheckState.Unchecked)
    assert opened.document.look.left_out == {"kde"}
    rested(opened)
    assert opened.track.buttons["dress"].left == f"{count - 1} included"
    act(opened, "undo")
    assert opened.document.look.left_out == frozenset()


def everything(home):
    return {p: p.read_bytes() for p in home.rglob("*") if p.is_file()}


def test_wear_and_go_back_in_the_window(qtbot, opened, home, settle):
    before = everything(home)
    act(opened, "step_wear")
    settle(opened)
    assert opened.wear.plan.tree.topLevelItemCount() > 12 and "new files" in opened.wear.count.text()
    assert opened.track.buttons["wear"].left == "not applied"
    qtbot.mouseClick(opened.wear.wear_button, Qt.MouseButton.LeftButton)
    settle(opened)
    assert "files written" in opened.wear.said.text() and opened.track.buttons["wear"].left == "5 to do"
    assert "Every file is up to date" in opened.wear.count.text() and not opened.wear.wear_button.isEnabled()
    mine = home / ".Xresources"
    ours = mine.read_bytes()
    mine.write_text("mine now")
    settle(opened)
    qtbot.mouseClick(opened.wear.back, Qt.MouseButton.LeftButton)
    settle(opened)
    assert "Changed since" in opened.wear.said.text() and mine.read_text() == "mine now"
    assert opened.wear.leave.isVisible() and opened.wear.give_up.isVisible()
    qtbot.mouseClick(opened.wear.give_up, Qt.MouseButton.LeftButton)
    settle(opened)
    assert everything(home) == before and ours and not opened.wear.give_up.isVisible()
    assert opened.track.buttons["wear"].left == "not applied"


@pytest.mark.long
def test_worn_is_told_by_what_lies_in_the_files(qtbot, opened, home, settle):
    act(opened, "step_wear")
    settle(opened)
    opened.wear.wear()
    settle(opened)
    opened.document.edit("Change it", lambda look: with_role(look, "accent", Rgba(30, 120, 90)))
    settle(opened)
    words = opened.track.buttons["wear"].left
    assert words.split()[0].isdigit() and words.endswith(" changed")
    assert opened.wear.state.text().startswith("This look is applied; ")
    opened.document.stack.undo()
    settle(opened)
    assert opened.track.buttons["wear"].left == "5 to do"
    opened.document.edit("Name it Ebb", lambda look: replace(look, name="Ebb"))
    settle(opened)
    assert opened.track.buttons["wear"].left == "another is applied"
    assert "Another look is applied: “Reedbed at dawn”" in opened.wear.state.text()


def test_the_plan_is_made_anew_when_a_file_changes(qtbot, opened, home, settle):
    act(opened, "step_wear")
    settle(opened)
    conf = home / ".config/conky/conky.conf"
    conf.write_text(conf.read_text() + "-- a line of mine\n")
    qtbot.waitUntil(lambda: b"a line of mine" in (written(opened, ".config/conky/conky.conf") or b""), timeout=10000)
    opened.wear.wear()
    settle(opened)
    assert "files written" in opened.wear.said.text() and "a line of mine" in conf.read_text()


def written(window, path):
    plan = window.wear._known.plan
    return next((w.data for w in plan.writes if w.path == path), None) if plan is not None else None


def test_wearing_can_be_stopped_and_nothing_is_half_done(qtbot, opened, home, settle, monkeypatch):
    before = everything(home)
    clicked, plain = threading.Event(), JobProgress.report

    def report(self, done, total, note=""):
        plain(self, done, total, note)
        if total and done > 2:  # the work does not run away from the hand on the button
            clicked.wait(20)

    act(opened, "step_wear")
    settle(opened)
    seen = []

    def stop(done, total, _note):
        if total and done > 2 and not seen:
            seen.append(done)
            opened.wear.stop.click()
            clicked.set()

    opened.wearing.progressed.connect(stop)
    monkeypatch.setattr(JobProgress, "report", report)
    qtbot.mouseClick(opened.wear.wear_button, Qt.MouseButton.LeftButton)
    settle(opened)
    assert seen and "Stopped; everything is restored." in opened.wear.said.text()
    assert everything(home) == before and opened.wear.wear_button.isEnabled()


@pytest.mark.long
def test_damaged_backups_are_named_and_the_others_put_back(qtbot, opened, home, settle):
    from mellow_finch.wear.history import History
    from mellow_finch.wear.places import history_folder

    act(opened, "step_wear")
    settle(opened)
    before = everything(home)
    opened.wear.wear()
    settle(opened)
    history = History(history_folder(home))
    snapshot = history.last_worn()
    row = next(r for r in snapshot.files if r.path == ".Xresources")
    history.blob_path(snapshot, row).write_bytes(b"rotten")
    opened.wear.go_back()
    settle(opened)
    assert (
        "backup is damaged or missing: “.Xresources”" in opened.wear.said.text() and not opened.wear.give_up.isVisible()
    )
    qtbot.mouseClick(opened.wear.leave, Qt.MouseButton.LeftButton)
    settle(opened)
    after = everything(home)
    assert {p for p in before if after.get(p) != before[p]} == {home / ".Xresources"} and set(after) == set(before)


@pytest.mark.long
@pytest.mark.parametrize("way", ["finish_button", "revert_button"])
def test_an_interrupted_change_is_offered_at_the_next_start(qtbot, opened, home, settle, way):
    from mellow_finch.disk.write import Disk
    from mellow_finch.session.simulated import SimulatedSession
    from mellow_finch.wear.history import History
    from mellow_finch.wear.places import history_folder
    from mellow_finch.wear.plan import make_plan
    from mellow_finch.wear.wear import put_on

    class Killed(BaseException):
        pass

    before = everything(home)
    under_way = []

    def kill(name):
        if name == "marked state-writing" or (under_way and name.startswith("rename to")):
            under_way.append(name)
        if len(under_way) == 30:
            raise Killed

    plan = make_plan(opened.document.dressed, home)
    with pytest.raises(Killed):
        put_on(plan, History(history_folder(home), Disk(kill)), SimulatedSession())
    again = Window(opened.appearance, home)
    qtbot.addWidget(again)
    again.show()
    settle(again)
    assert "was interrupted" in again.notice.text() and again.track.buttons["wear"].left == "interrupted"
    again.show_step("wear")
    settle(again)
    assert again.step == "wear" and getattr(again.wear, way).isVisible()
    qtbot.mouseClick(getattr(again.wear, way), Qt.MouseButton.LeftButton)
    settle(again)
    if way == "finish_button":
        assert all((home / w.path).read_bytes() == w.data for w in plan.writes)
        again.wear.go_back()
        settle(again)
    assert everything(home) == before
    again.close()


def test_compare_and_curtain(qtbot, opened):
    act(opened, "step_tune")
    after = opened.stage.grab().toImage()
    qtbot.mousePress(opened.header.compare, Qt.MouseButton.LeftButton)
    before = opened.stage.grab().toImage()
    qtbot.mouseRelease(opened.header.compare, Qt.MouseButton.LeftButton)
    assert before != after and opened.stage.grab().toImage() == after
    act(opened, "curtain")
    half = opened.stage.grab().toImage()
    assert half not in (before, after)
    frame = opened.stage.frame()
    middle = QPoint(int(frame.center().x()), int(frame.center().y()))
    qtbot.mousePress(opened.stage, Qt.MouseButton.LeftButton, pos=middle)
    qtbot.mouseMove(opened.stage, middle - QPoint(100, 0))
    qtbot.mouseRelease(opened.stage, Qt.MouseButton.LeftButton)
    opened.stage.set_curtain(0.3)
    act(opened, "curtain")
    assert opened.stage.curtain is None


def test_looks_are_saved_and_opened(qtbot, opened, tmp_path):
    path = tmp_path / "marsh.finchlook"
    opened.dialogs.save_look(path)
    saved = opened.document.look
    opened.document.edit("Change", lambda look: with_role(look, "accent", Rgba(90, 160, 220)))
    opened.opening.open_look(path)
    assert opened.document.look == saved
    act(opened, "undo")
    assert opened.document.look.colours["accent"] == Rgba(90, 160, 220)
    path.write_text("{}")
    opened.opening.open_look(path)
    assert "is not a look" in opened.notice.text()
    opened.dialogs.save_look(Path("/dev/null/at/all.finchlook"))
    assert "Could not write" in opened.notice.text()


@pytest.mark.long
def test_a_saved_look_brings_its_picture_back(qtbot, window, look, tmp_path, settle):
    path = tmp_path / "kept.finchlook"
    save_look(look, path)
    window.open_path(str(path))
    settle(window)
    assert window.document.look == look and window.picture._gathered is not None
    assert not window.gather.picture.named.isVisible()


def test_pictures_and_themes_that_a_look_from_elsewhere_names_wait_for_leave(qtbot, window, look, tmp_path, settle):
    path = tmp_path / "came" / "kept.finchlook"
    path.parent.mkdir()
    path.write_text(look_to_json(replace(look, brought=("/usr",))))
    window.open_path(str(path))
    settle(window)
    page = window.gather.picture
    assert window.document.look.source == look.source and window.picture._gathered is None
    assert page.named.isVisible() and look.source in page.named_words.text()
    assert "a theme that is not loaded" in window.footer.text()
    page.named_read.click()
    settle(window)
    assert window.picture._gathered.path == Path(look.source) and not page.named.isVisible()


def test_tips_and_labels_show_names_as_they_are(qtbot, window):
    QApplication.instance().setStyle(PlainTips("Fusion"))
    QToolTip.showText(QPoint(10, 10), "<img src='x'><b>reeds</b>", window)
    tips = [w for w in QApplication.topLevelWidgets() if w.inherits("QTipLabel")]
    assert tips and all(t.textFormat() == Qt.TextFormat.PlainText for t in tips)
    QToolTip.hideText()
    QApplication.instance().setStyle("Fusion")
    made = label("a\x1b[31m\u202eb\udcff")
    assert made.text() == "a\\x1b[31m\\u202eb\\udcff"
    made.setText("\u2066~/.config/a\u2069")  # ours, around what reads the other way
    assert made.text() == "\u2066~/.config/a\u2069" and label("\u2066a").text() == "\\u2066a"


def test_a_fault_while_painting_ends_neither_the_program_nor_the_work(tmp_path):
    """The toolkit ends a program whose painter is still at work when a widget has been painted."""
    script = tmp_path / "x.py"
    script.write_text(
        "import sys\n"
        "from PyQt6.QtCore import QTimer\n"
        "from PyQt6.QtGui import QPainter\n"
        "from PyQt6.QtWidgets import QApplication, QMessageBox, QWidget\n"
        "from mellow_finch.ui import app as ours\n"
        "class Faulty(QWidget):\n"
        "    def paintEvent(self, event):\n"
        "        p = QPainter(self)\n"
        "        p.drawLine(0, 0, 9, 9)\n"
        "        raise UnicodeError('reeds')\n"
        "made, style = ours.make_app(['x'])\n"
        "sys.excepthook = ours._hook\n"
        "w = Faulty()\n"
        "w.show()\n"
        "for i in range(5):\n"
        "    w.repaint(); made.processEvents()\n"
        "boxes = [b for b in made.topLevelWidgets() if isinstance(b, QMessageBox) and b.isVisible()]\n"
        "assert len(boxes) == 1 and 'internal error' in boxes[0].text(), boxes\n"
        "boxes[0].done(0); made.processEvents()\n"
        "print('alive')\n"
    )
    source = str(Path(mellow_finch.__file__).parents[1])
    done = subprocess.run(
        [sys.executable, str(script)],
        capture_output=True,
        text=True,
        timeout=60,
        env={**os.environ, "PYTHONPATH": source},
    )
    assert done.stdout == "alive\n" and done.returncode == 0, done.stderr


def stage_image(paints, seen=PLAINLY) -> tuple[QImage, list]:
    image = QImage(WIDTH, HEIGHT, QImage.Format.Format_RGB32)
    painter = QPainter(image)
    areas = draw_stage(painter, None, paints, Qt.GlobalColor.black, seen=seen)
    painter.end()
    return image, areas


def marked(paints, broken):
    """Return the paints with one component's in loud colours."""
    return {**paints, broken: {k: Paint(Rgba(255, 0, 255), Rgba(0, 255, 0)) for k in paints[broken]}}


@pytest.fixture(scope="module")
def all_paints(looks, tmp_path_factory):
    """Return what every component says in a home that has all of them."""
    files = whole_home(tmp_path_factory.mktemp("whole"))
    return dict(dress(looks[0], files, frozenset(COMPONENT_BY_ID)).paints)


@pytest.mark.long
@every("shown", list({c.scene + c.kind: c.id for c in COMPONENTS}.values()))
def test_the_stage_shows_the_component_in_view_from_its_files(qtbot, shown, all_paints):
    """It stands in the place of its kind, is noted as what it is, and its files alone say its colours."""
    paints = all_paints
    good, areas = stage_image(paints, ViewOptions(shown=shown))
    own = {a.part for a in areas if a.component == shown}
    assert own and own <= set(COMPONENT_BY_ID[shown].by_key)
    said = [k for k in paints[shown] if not COMPONENT_BY_ID[shown].by_key[k].state]
    assert len(own & set(said)) >= min(len(said), 4) / 2, sorted(set(said) - own)
    assert stage_image(marked(paints, shown), ViewOptions(shown=shown))[0] != good
    other = next(c.id for c in COMPONENTS if c.scene not in (COMPONENT_BY_ID[shown].scene, "gtk-3", "lock"))
    if not any(a.component == other for a in areas):
        good, _ = stage_image(paints, ViewOptions(shown=shown))  # words are laid out by now, and drawn alike
        assert stage_image(marked(paints, other), ViewOptions(shown=shown))[0] == good


def test_the_stage_is_painted_from_the_files(qtbot, window, look, files):
    """Break one component's reading and its areas change, and only its."""
    paints = dict(dress(look, files, frozenset(COMPONENT_BY_ID)).paints)
    good, areas = stage_image(paints)
    usual = {a.component for a in areas}
    assert usual == {"gtk-4", "gtk-3", "kde", "terminal", "shell", "widget"}
    for broken in usual:
        assert stage_image(marked(paints, broken))[0] != good, broken
    fill = paints["kde"]["view"].fill
    place = next(
        a.rect for a in areas if (a.component, a.part) == ("kde", "view") and a.what == "fill" and a.rect.height() > 100
    )
    drawn = good.pixelColor(int(place.left() + 30), int(place.bottom() - 12))
    assert (drawn.red(), drawn.green(), drawn.blue()) == fill[:3]


def test_the_stage_is_crisp_at_twice_the_pixels(qtbot, opened):
    act(opened, "step_tune")
    image = QImage(opened.stage.size() * 2, QImage.Format.Format_RGB32)
    image.setDevicePixelRatio(2)
    opened.stage.render(image)
    small = opened.stage.grab().toImage()
    assert image.width() == 2 * small.width()
    doubled = small.convertToFormat(QImage.Format.Format_RGB32).scaled(image.width(), image.height())
    different = sum(
        image.pixel(x, y) != doubled.pixel(x, y)
        for x in range(200, image.width() - 200, 37)
        for y in range(300, 900, 23)
    )
    assert different > 50


@pytest.mark.parametrize("dark", [True, False])
@pytest.mark.parametrize("strong", [False, True])
def test_the_window_is_readable_by_its_own_rules(dark, strong):
    own = tokens(dark, strong)
    for text, surface, need in OWN_PAIRS:
        need = {4.5: 7.0, 3.0: 4.5}.get(need, need) if strong else need
        assert ratio(own[text], own[surface]) >= need, (text, surface)
    for name in ("window", "raised", "sunken", "hover", "pressed", "text", "quiet", "line", "edge"):
        assert rgba_to_oklch(own[name])[1] <= 0.02


@pytest.mark.long
def test_appearance_switch_and_help(qtbot, opened):
    dark = opened.appearance.dark
    act(opened, "appearance")
    assert opened.appearance.dark is not dark
    act(opened, "appearance")
    for name in ("shortcuts", "about"):
        act(opened, name)
    for box in QApplication.topLevelWidgets():
        if box.metaObject().className() == "QMessageBox":
            assert "Mellow Finch" in box.text() or "Ctrl+O" in box.text()
            box.close()


def test_actions_are_whole_and_shortcuts_differ(window):
    assert {s.id for s in ACTIONS} == set(window.actions_by_id)
    shortcuts = [s.shortcut for s in ACTIONS if s.shortcut]
    assert len(shortcuts) == len(set(shortcuts))
    assert [s.id for s in ACTIONS if s.id.startswith("step_")] == [f"step_{s.id}" for s in STEPS]
    assert all(s.tip for s in ACTIONS) and set(SHAPES) >= {s.id for s in STEPS}


def test_everything_has_a_name_for_those_who_listen(qtbot, opened):
    for step in STEPS:
        opened.show_step(step.id)
        for button in opened.findChildren(QAbstractButton):
            if button.isVisible() and button.objectName() != "qt_toolbar_ext_button":
                assert button.text() or button.accessibleName() or button.toolTip(), button
        for field in opened.findChildren(QLineEdit):
            if field.isVisible() and field.parent() is opened.tune.role:
                assert field.accessibleName()


def test_keys_walk_over_the_stage(qtbot, opened):
    act(opened, "step_tune")
    opened.stage.repaint()
    qtbot.keyClick(opened.stage, Qt.Key.Key_Right)
    hint = opened.stage._hint
    assert hint is not None
    qtbot.keyClick(opened.stage, Qt.Key.Key_Return)
    assert opened.document.component == hint.component


def test_what_is_told_unasked_moves_nothing_and_can_be_dismissed(shared, settle):
    """It lies over the centre: what a person aims at stays where it is."""
    shared.show_step("tune")
    settle(shared)
    places = [w.mapTo(shared, w.rect().topLeft()) for w in (shared.stage, shared.tune.role.hex, shared.plumage)]
    banners = shared.frame.banners
    assert not banners.isVisible()
    shared.say_trouble("“reedbed.jpg” could not be read. " * 8)
    shared.session_bar.show()
    settle(shared)
    assert banners.isVisible() and shared.notice.isVisible()
    assert [w.mapTo(shared, w.rect().topLeft()) for w in (shared.stage, shared.tune.role.hex, shared.plumage)] == places
    assert shared.centre.geometry().width() >= banners.width() and banners.height() > 60
    needed = shared.notice.heightForWidth(shared.notice.width())
    assert shared.notice.height() >= needed
    shared.session_bar.hide()
    shared.notice.parentWidget().dismiss.click()
    settle(shared)
    assert not banners.isVisible() and not shared.notice.isVisible()
    shared.say_trouble("Once more.")
    assert banners.isVisible() and shared.notice.text() == "Once more."
    shared.say_trouble("")
    assert not banners.isVisible()


def test_the_footer_tells_the_colour_that_is_now(shared):
    shared.document.select("accent")
    shared.document.edit("Accent colour", lambda look: with_role(look, "accent", parse_hex("#4f8a8b")))
    assert "#4f8a8b" in shared.footer.text()
    shared.say("Something else.")
    shared.document.stack.undo()
    assert shared.footer.text() == "Something else."


def test_nothing_of_colours_is_loaded_before_the_first_paint(tmp_path):
    """What paints first needs no arrays, components or looks: they would keep a person waiting."""
    code = "\n".join(
        (
            "import os, pathlib, sys",
            "from mellow_finch.ui import app as start",
            "import mellow_finch.ui.window.window as w",
            "class Watched(w.Window):",
            "    def paintEvent(self, event):",
            "        super().paintEvent(event)",
            "        heavy = ('numpy', 'scipy', 'PIL', 'mellow_finch.components.catalogue', 'mellow_finch.look.model')",
            "        print([name for name in heavy if name in sys.modules], flush=True)",
            "        os._exit(0)",
            "start.Window = Watched",
            "start.run(pathlib.Path(sys.argv[1]))",
        )
    )
    asked = [sys.executable, "-c", code, str(tmp_path)]
    source = str(Path(mellow_finch.__file__).parents[1])
    environment = {**os.environ, "PYTHONPATH": source, "HOME": str(tmp_path), "QT_QPA_PLATFORM": "offscreen"}
    done = subprocess.run(asked, env=environment, capture_output=True, text=True)
    assert done.stdout.strip() == "[]", done.stderr


def test_what_a_change_does_not_touch_is_not_written_anew(shared, monkeypatch):
    """A look that has a theme more has the same files: nothing is dressed again, nothing judged again."""
    document = shared.document
    files, findings = document.dressed.files, document.findings
    monkeypatch.setattr(document, "dress", lambda *_, **__: pytest.fail("dressed again"))
    document.edit("Import", lambda look: with_brought(look, "/nowhere/Turnstone"))
    assert document.dressed.files is files and document.findings is findings
    assert document.dressed.look is document.look
    monkeypatch.undo()
    document.edit("Accent", lambda look: with_role(look, "accent", Rgba(10, 120, 90)))
    assert document.dressed.files is not files
