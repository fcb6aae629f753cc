"""Dress with themes of one's own: brought by dropping, mapped by hand, written down, put into the home and taken off."""

from __future__ import annotations

from dataclasses import replace
from pathlib import Path

import numpy as np
import pytest
from PyQt6.QtCore import QMimeData, QPointF, Qt, QUrl
from PyQt6.QtGui import QDropEvent
from PyQt6.QtWidgets import QApplication

from mellow_finch.colour.difference import colour_difference
from mellow_finch.colour.gamut import rgba_to_oklch
from mellow_finch.components.decisions import Owner, Slot
from mellow_finch.demo.build import demo_archive
from mellow_finch.look.decision_edits import with_choice
from mellow_finch.look.worn_themes import worn_by
from mellow_finch.proof.toolkit.ask import Settled, Verdict
from mellow_finch.recolour.groups import KEEP
from mellow_finch.recolour.pointers import Pointer, PointerImage, write_pointer
from mellow_finch.shelf.shelf import LOOK
from mellow_finch.syntax.cascade import paint
from mellow_finch.syntax.css import scan_css
from mellow_finch.theme.bundle.foreign import ThisComputer
from mellow_finch.ui.dress import desk
from mellow_finch.ui.dress.changes import Change, diff_lines
from mellow_finch.ui.dress.pictures_beside import image_of_bytes
from mellow_finch.ui.kit.drag import ROLE_MIME
from mellow_finch.ui.window.finder import everything as everything_to_find
from mellow_finch.ui.window.finder import ranked

HERE = ThisComputer(("eth0",), ("DP-1",), "/home/warden", "", frozenset({"dejavu sans"}))


@pytest.fixture
def brought(opened, qtbot, home):
    """Return the window with the demo's archive brought along."""
    window = opened
    window.themes._here = HERE
    path = str(demo_archive(home))
    window.open_path(path)
    qtbot.waitUntil(lambda: window.themes.up_to_date(path), timeout=30000)
    return window, path


def dropped(widget, data):
    event = QDropEvent(
        QPointF(5, 5), Qt.DropAction.CopyAction, data, Qt.MouseButton.LeftButton, Qt.KeyboardModifier.NoModifier
    )
    widget.dropEvent(event)


def test_a_theme_dropped_on_the_window_is_recoloured(opened, qtbot, home):
    window = opened
    path = str(demo_archive(home))
    data = QMimeData()
    data.setUrls([QUrl.fromLocalFile(path)])
    dropped(window, data)
    qtbot.waitUntil(lambda: window.themes.up_to_date(path), timeout=30000)
    assert window.step == "dress" and window.dress.theme_path() == path
    page = window.dress.theme
    assert "Icon theme" in page.holds.text() and "every pair has enough contrast" in page.state.text()
    assert page.groups.rows[0].row.places > 5 and page.wear.isEnabled()


@pytest.mark.long
def test_the_stage_follows_the_theme_and_gives_it_back(brought):
    window, _ = brought
    now = window.document.right_paints["gtk-3"]["window"].fill
    assert now == window.document.look.colours["window"]
    assert window.document.left_paints["gtk-3"]["window"].fill.hex == "#f2f4f8"
    window.show_step("tune")
    assert window.document.themed == ({}, {})


@pytest.mark.long
def test_a_group_is_mapped_by_dropping_a_role(brought, qtbot):
    window, path = brought
    row = next(r for r in window.dress.theme.groups.rows if r.row.old.hex == "#2f6fe0")
    data = QMimeData()
    data.setData(ROLE_MIME, b"error")
    dropped(row, data)
    assert window.document.look.decided(Owner.theme(path)).by_group == {row.row.key.spelling: "error"}
    qtbot.waitUntil(lambda: window.themes.up_to_date(path), timeout=30000)
    fresh = next(r.row for r in window.dress.theme.groups.rows if r.row.key == row.row.key)
    assert fresh.new == window.document.look.colours["error"] and fresh.chosen
    window.document.stack.undo()
    assert window.document.look.decisions == {}


@pytest.mark.long
def test_a_group_is_kept_split_and_put_together_from_its_menu(brought, qtbot):
    window, path = brought
    key = window.dress.theme.groups.rows[0].row.key

    def choose(words):
        row = next(
            r
            for r in window.dress.theme.groups.rows
            if r.row.key.key.startswith(key.key) and r.isVisibleTo(window.dress)
        )
        next(a for a in row.menu().actions() if a.text() == words).trigger()
        qtbot.waitUntil(lambda: window.themes.up_to_date(path), timeout=30000)

    choose("Keep as it is")
    row = window.dress.theme.groups.rows[0].row
    assert row.role == KEEP and row.new == row.old and row.words == "stays as it is"
    choose("As suggested")
    choose("Split")
    assert any(r.row.split for r in window.dress.theme.groups.rows)
    row = next(r for r in window.dress.theme.groups.rows if r.row.split)
    next(a for a in row.menu().actions() if a.text() == "Merge again").trigger()
    assert window.document.look.decisions == {}


def test_groups_of_the_homes_own_files_are_mapped_too(opened):
    window = opened
    window.show_step("dress")
    window.dress.choose("shell")
    row = window.dress.groups.rows[0]
    before = window.document.dressed.files["shell"][0].data
    row.asked.emit(row.row.key, "success")
    assert window.document.dressed.files["shell"][0].data != before
    assert window.dress.groups.rows[0].row.new == window.document.look.colours["success"]
    row.asked.emit(row.row.key, KEEP)
    assert b"#ff2fa0" in window.document.dressed.files["shell"][0].data
    row.split_asked.emit(row.row.key.key, True)
    assert len(window.document.look.decided(Owner.component("shell")).splits) == 1


@pytest.mark.long
def test_words_of_another_machine_are_shown_and_replaced(brought, qtbot):
    window, path = brought
    box = window.dress.theme.words
    assert box.fields["wlp59s0"].text() == "eth0" and "4 names" in box.title.text()
    box.fields["HDMI-A-2"].setText("DP-7")
    box.replace.click()
    assert window.document.look.words["HDMI-A-2"] == "DP-7"
    qtbot.waitUntil(lambda: window.themes.up_to_date(path), timeout=30000)
    fresh = next(e.data for p, e in window.themes.known[path].outcome.outputs.items() if p.endswith("turnstone.conf"))
    assert b"wlp59s0" not in fresh and b"eth0" in fresh and b"DP-7" in fresh
    assert "replaced at" in box.title.text()
    box.leave.click()
    assert window.document.look.words == {}


def test_changes_and_pictures_are_shown_in_the_centre(brought, qtbot):
    window, _ = brought
    window.dress.show_view("changes")
    assert window.centre.currentWidget() is window.changes
    assert "lines change" in window.changes.count.text() and window.changes.text.toPlainText().startswith("@@")
    window.changes.grab()
    window.dress.show_view("pictures")
    assert window.centre.currentWidget() is window.beside and "are redrawn" in window.beside.words.text()
    window.beside.grab()
    window.dress.choose("gtk-3")
    assert "No image changes here" in window.beside.words.text()
    window.dress.show_view("changes")
    assert window.changes.files.count() >= 3


def test_a_copy_is_laid_out_like_a_home(brought, tmp_path):
    window, path = brought
    window.dialogs.write_theme(window.themes, path, tmp_path / "copy")
    name = window.themes.known[path].outcome.name
    assert (tmp_path / "copy/.local/share/themes" / name / "gtk-3.0/gtk.css").is_file()
    assert (tmp_path / "copy/.icons" / name / "cursors/arrow").is_symlink()
    assert "laid out like a home folder" in window.footer.text()


@pytest.mark.long
def test_it_is_put_into_the_home_and_taken_off_again(brought, home, settle):
    window, path = brought

    def everything():
        return {p.relative_to(home): p.read_bytes() for p in home.rglob("*") if p.is_file()}

    before = everything()
    window.dress.theme.wear.click()
    settle(window)
    name = window.themes.known[path].outcome.name
    assert (home / ".local/share/themes" / name / "gtk-3.0/gtk.css").is_file()
    assert "Undo in Wear removes it" in window.footer.text()
    from mellow_finch.wear.history import History
    from mellow_finch.wear.places import history_folder
    from mellow_finch.wear.wear import undo_last

    undo_last(History(history_folder(home)), window.wearing.session)
    assert everything() == before


def test_a_theme_is_put_aside(brought):
    window, path = brought
    window.dress.theme.aside.click()
    assert window.document.look.brought == () and window.dress.theme_path() == ""
    window.document.stack.undo()
    assert window.document.look.brought == (path,)


def test_what_is_no_theme_is_told_in_place(opened, qtbot, tmp_path):
    window = opened
    bad = tmp_path / "bad.zip"
    bad.write_bytes(b"PK\x03\x04 no zip at all")
    window.open_path(str(bad))
    qtbot.waitUntil(lambda: "damaged" in window.notice.text(), timeout=10000)
    assert window.document.look.brought == ()


def test_a_theme_that_is_gone_is_told_once(opened, qtbot, tmp_path):
    from mellow_finch.look.theme_edits import with_brought

    window = opened
    told = []
    window.themes.trouble.connect(told.append)
    path = tmp_path / "gone.zip"
    window.document.edit("Bring", lambda look: with_brought(look, str(path)))
    window.show_step("dress")
    window.dress.choose(str(path))
    page = window.dress.theme
    assert "has not been loaded" in page.state.text() and page.read.isVisible() and not page.wear.isVisible()
    assert told == [] and not window.jobs.running(f"read {path}")  # a look that names something lets nothing be read
    page.read.click()
    qtbot.waitUntil(lambda: bool(told), timeout=10000)
    window.show_step("dress")
    window.dress.choose(str(tmp_path / "gone.zip"))
    window.themes.catch_up()
    assert not window.jobs.running(f"read {path}")
    assert len(told) == 1 and "no such file" in told[0]
    assert window.dress.theme.state.text() == "It can no longer be read."


def test_a_diff_shows_the_colours_of_its_lines():
    old = "a { color: #ff0000; }\nb { margin: 1px; }\nc { color: red; background: #00ff00; }\n"
    new = old.replace("#ff0000", "#112233").replace("#00ff00", "#445566") + "d { color: #778899; }\n"
    lines, count = diff_lines(Change("x.css", old, new, scan_css))
    assert count == 3
    rows = {line.text: [c.hex for c in line.colours] for line in lines}
    assert rows["-a { color: #ff0000; }"] == ["#ff0000"] and rows["+a { color: #112233; }"] == ["#112233"]
    assert rows["+c { color: red; background: #445566; }"] == ["#ff0000", "#445566"]
    assert rows["+d { color: #778899; }"] == ["#778899"] and rows[" b { margin: 1px; }"] == []


@pytest.mark.parametrize(
    "name, data", [("x.svg", b"<svg"), ("x.png", b"no"), ("x", b"Xcur"), ("x.svgz", b"\x1f\x8b\x08")]
)
def test_pictures_that_cannot_be_read_are_left_out(name, data):
    from mellow_finch.errors import UnsafeArchiveError

    try:
        assert image_of_bytes(data, name).isNull()
    except UnsafeArchiveError as error:
        assert "damaged" in str(error)


@pytest.mark.consumer
@pytest.mark.long
def test_the_real_toolkit_is_asked_about_a_theme(opened, settle, tmp_path):
    from mellow_finch.demo.turnstone import turnstone_archive
    from mellow_finch.proof.toolkit.ask import reason_not

    (tmp_path / "Turnstone.tar.gz").write_bytes(turnstone_archive())
    opened.themes.bring(tmp_path / "Turnstone.tar.gz")
    settle(opened)
    page = opened.dress.theme
    opened.show_step("dress")
    settle(opened)
    for _ in range(200):
        if page.toolkit.isEnabled():
            break
        QApplication.processEvents()
        settle(opened)
    page.toolkit.click()
    settle(opened)
    if reason_not():
        assert "our own judgement counts" in page.painted.text()
        return
    assert "all with enough contrast" in page.painted.text() and "Before, " in page.painted.text()
    dialog = opened.dressing.painted
    assert dialog.list.count() > 100 and dialog.curtain.at == 0.5
    left = dialog.curtain.grab().toImage()
    dialog.curtain.draw_to(0.0)
    assert dialog.curtain.grab().toImage() != left
    dialog.close()


@pytest.mark.long
def test_a_theme_of_this_machine_is_brought_along(opened, settle, home):
    for name, sheet in (
        (
            "Saltmarsh",
            "@define-color theme_bg_color #203040;\n@define-color theme_fg_color #d0d8e0;\n@define-color theme_selected_bg_color #e0603a;\nwindow { color: #d0d8e0; background-color: #203040; }\n",
        ),
        ("Mudflat", "window { color: #202020; background-color: #e0e0e0; }\n"),
    ):
        (home / ".themes" / name / "gtk-3.0").mkdir(parents=True)
        (home / ".themes" / name / "gtk-3.0/gtk.css").write_text(sheet)
    (home / ".themes/Nothing").mkdir()
    opened.dress.here_asked.emit()
    settle(opened)
    dialog = opened.dressing.here
    rows = [dialog.list.item(i) for i in range(dialog.list.count())]
    mine = {row.text().partition("\n")[0]: row for row in rows}
    assert {"Saltmarsh", "Mudflat"} <= set(mine) and "Nothing" not in mine and "yours, GTK 3" in mine["Mudflat"].text()
    assert not mine["Saltmarsh"].icon().isNull() and mine["Mudflat"].icon().isNull()
    dialog.list.setCurrentItem(mine["Mudflat"])
    dialog.field.setText("no such theme")
    assert not dialog.bring_button.isEnabled()
    dialog.field.setText("saltm")
    assert mine["Mudflat"].isHidden() and not mine["Saltmarsh"].isHidden()
    assert dialog.list.currentItem() is mine["Saltmarsh"]  # the first hit is chosen
    dialog.bring_button.click()
    settle(opened)
    assert opened.document.look.brought == (str(home / ".themes/Saltmarsh"),)


@pytest.mark.long
def test_the_same_list_stands_behind_starting_from_a_theme(opened, settle, home, monkeypatch):
    opened.actions_by_id["open_theme"].trigger()
    settle(opened)
    dialog = opened.dressing.here
    assert dialog.kind.isHidden() and dialog.bring_button.text() == "Start from it"
    dialog.field.setText("saltpan")
    dialog.bring_button.click()
    settle(opened)
    assert opened.document.look.origin.name == "Saltpan" and opened.document.look.brought == ()
    asked = []
    monkeypatch.setattr(opened.dialogs, "theme_file", lambda: asked.append("file"))
    opened.actions_by_id["use_theme"].trigger()
    settle(opened)
    dialog = opened.dressing.here
    dialog.other.click()
    assert asked == ["file"] and dialog.isHidden()
    for words in ("use this theme", "replace a colour"):
        assert ranked(everything_to_find(opened), words)[0].words == "Use a theme"


def test_icons_and_pointers_of_this_machine_are_ranked_by_the_look(opened, settle, home):
    look = opened.document.look
    for name, colour in (("Sedge", look.colours["accent"].hex), ("Sludge", look.colours["panel"].hex)):
        (home / f".icons/{name}/scalable/places").mkdir(parents=True)
        (home / f".icons/{name}/index.theme").write_text(f"[Icon Theme]\nName={name}\nDirectories=scalable/places\n")
        (home / f".icons/{name}/scalable/places/folder.svg").write_text(
            f'<svg xmlns="http://www.w3.org/2000/svg"><rect fill="{colour}"/></svg>'
        )
    (home / ".icons/Heron/cursors").mkdir(parents=True)
    pixels = np.full((4, 4), 0xFF2E7D6B, dtype=np.uint32)
    pointer = write_pointer(Pointer((PointerImage(24, (1, 1), 0, pixels),)))
    (home / ".icons/Heron/cursors/left_ptr").write_bytes(pointer)
    opened.dress.here_asked.emit()
    settle(opened)
    dialog = opened.dressing.here

    def rows():
        return [dialog.list.item(i) for i in range(dialog.list.count())]

    dialog.kind.setCurrentText("Icons")
    told = {row.text().partition("\n")[0]: row for row in rows()}
    names = list(told)
    assert names.index("Sedge") < names.index("Sludge")
    assert (
        "clearly visible on panel, menu and view" in told["Sedge"].text()
        and "hard to see on Panel" in told["Sludge"].text()
    )
    dialog.kind.setCurrentText("Cursor theme")
    heron = next(row for row in rows() if row.text().startswith("Heron"))
    shown = heron.icon().pixmap(54, 34).toImage()
    assert shown.pixelColor(9, 17).name() == "#2e7d6b" and shown.pixelColor(1, 1).name() == look.colours["panel"].hex
    dialog.list.setCurrentItem(heron)
    dialog.bring_button.click()
    settle(opened)
    assert opened.document.look.brought == (str(home / ".icons/Heron"),)


@pytest.mark.long
def test_a_bar_that_a_theme_means_otherwise_is_shown_and_may_follow(opened, qtbot, tmp_path):
    window = opened
    window.themes._here = HERE
    sheet = tmp_path / "Tern/gtk-3.0/gtk.css"
    sheet.parent.mkdir(parents=True)
    sheet.write_text(
        "window, .background { background-color: #23262b; color: #eeeeee; }\n"
        "headerbar { background-color: #f2f2f0; color: #222222; }\n"
    )
    path = str(tmp_path / "Tern")
    window.open_path(path)
    qtbot.waitUntil(lambda: window.themes.up_to_date(path), timeout=30000)
    box = window.dress.theme.contrast
    assert box.isVisibleTo(window.dress) and list(box.choices) == ["header"]
    box.choices["header"].setCurrentIndex(1)
    box.choices["header"].activated.emit(1)
    assert window.document.look.decided(Owner.theme(path)).parts == {"header": "header"}
    qtbot.waitUntil(lambda: window.themes.up_to_date(path), timeout=30000)
    place = "window.background > headerbar.titlebar"
    drawn = paint(window.themes.known[path].outcome.fresh["gtk-3.0/gtk.css"], [place])[place].fill
    assert colour_difference(drawn, window.document.look.colours["header"]) < 3
    assert box.choices["header"].currentIndex() == 1
    window.document.stack.undo()
    assert window.document.look.decisions == {} and box.choices["header"].currentIndex() == 0


def test_what_the_toolkit_lets_be_mended_takes_the_place_of_the_outcome(brought, qtbot, monkeypatch):
    from mellow_finch.proof.toolkit.ask import Settled, Verdict
    from mellow_finch.ui.dress import desk

    window, path = brought
    first = window.themes.known[path].outcome
    better = replace(first, rules=first.rules + 1)
    verdict = Verdict("3.24", (), ())
    monkeypatch.setattr(desk, "ask_before", lambda *_: verdict)
    monkeypatch.setattr(desk, "mend_by_painting", lambda *_: Settled(better, verdict, 2))
    window.dress.theme.toolkit.click()
    qtbot.waitUntil(lambda: window.themes.known[path].outcome is better, timeout=10000)
    assert "2 more pairs were fixed" in window.dress.theme.painted.text()
    assert not window.themes.take(path, first, first)  # what it was made of is gone
    window.dressing.painted.close()


@pytest.mark.long
def test_of_several_themes_in_a_folder_some_are_ticked(opened, qtbot, tmp_path):
    window = opened
    window.themes._here = HERE
    for name in ("Knot", "Tern"):
        sheet = tmp_path / f"pack/{name}/gtk-3.0/gtk.css"
        sheet.parent.mkdir(parents=True)
        sheet.write_text("window, .background { background-color: #f2f2f0; color: #222222; }\n")
    path = str(tmp_path / "pack")
    window.open_path(path)
    qtbot.waitUntil(lambda: window.themes.up_to_date(path), timeout=30000)
    box = window.dress.theme.several
    assert box.isVisibleTo(window.dress) and [t.text() for t in box.ticks.values()] == ["Knot", "Tern"]
    # Nothing is ticked to begin with but one of those that serve for the same.
    assert window.themes.known[path].theme.left == {"Tern/"}
    assert all("Knot" in p for p in window.themes.known[path].outcome.outputs)
    assert "1 theme of 2" in box.title.text() and not box.ticks["Knot/"].isEnabled()  # one stays
    box.ticks["Tern/"].click()
    qtbot.waitUntil(lambda: window.themes.known[path].theme.left == frozenset(), timeout=30000)
    qtbot.waitUntil(lambda: window.themes.up_to_date(path), timeout=30000)
    assert any("Tern" in p for p in window.themes.known[path].outcome.outputs)
    assert all(t.isChecked() for t in box.ticks.values())
    window.document.stack.undo()
    qtbot.waitUntil(lambda: window.themes.known[path].theme.left == {"Tern/"}, timeout=30000)
    assert [t.isChecked() for t in box.ticks.values()] == [True, False]


def test_ones_own_screen_is_shown_in_the_look(opened, settle, monkeypatch):
    """Its own picture is taken when asked for, and takes the colours that the files in place become."""
    window = opened
    window.show_step("dress")
    window.dress.show_view("screen")
    settle(window)
    view = window.dressing.screen
    assert window.centre.currentWidget() is view and view.fresh is None
    old = window.document.worn_paints("kitty")["terminal"].fill
    still = np.full((80, 120, 3), old[:3], np.uint8)
    monkeypatch.setattr("mellow_finch.ui.dress.desk.photograph", lambda _progress: still)
    view.take.click()
    settle(window)
    new = window.document.dressed.paints["kitty"]["terminal"].fill
    shown = view.fresh.pixelColor(60, 40)
    assert (shown.red(), shown.green(), shown.blue()) == new[:3] != old[:3]
    monkeypatch.setattr("mellow_finch.ui.dress.desk.photograph", lambda _progress: None)
    view.take.click()
    settle(window)
    assert "No screenshot" in view.words.text()


def everything(home):
    return {p.relative_to(home): p.read_bytes() for p in home.rglob("*") if p.is_file() and not p.is_symlink()}


def worn_ready(window, qtbot, path):
    """Wait until the theme is as the look has it."""

    def there():
        own = window.document.look.decided(Owner.theme(path))
        return bool(own.worn) and not window.themes.busy(path) and window.themes.ready(window.document.look)

    qtbot.waitUntil(there, timeout=60000)


def test_six_actions_from_an_archive_to_a_desktop_that_matches_the_theme(opened, qtbot, settle, home):
    """Dropped, as it is, a colour, the other one, the step, the button."""
    window, path = opened, str(demo_archive(home))
    before, was = everything(home), dict(window.wearing.session.settings)
    look = window.document.look
    window.open_path(path)  # 1: what a drop does
    qtbot.waitUntil(lambda: window.themes.up_to_date(path), timeout=30000)
    use = window.dress.theme.use
    assert use.isVisibleTo(window.dress) and use.ticked == {"gtk-3", "openbox", "icons", "pointers"}
    assert not use.own.isChecked() and not use.mapped.isChecked() and use.stop.isHidden()
    window.document.select("menu_text", "gtk-3", "menu")
    use.own.click()  # 2
    worn_ready(window, qtbot, path)
    assert window.document.look.tone == "light" and use.own.isChecked() and not use.stop.isHidden()
    blue = next(b for b in use.swatches if b.accessibleName().startswith("#2f6fe0"))
    assert blue.accessibleName() == "#2f6fe0: 13 occurrences in 5 files"
    menu = use.menu(blue.colour, None)  # 3: what a click on it opens
    offered = [a for a in menu.actions() if not a.isSeparator() and a.isEnabled()]
    assert len(use.offered) >= 4 and offered[0].text() == use.offered[0].hex
    reed = next(i for i, colour in enumerate(use.offered) if max(colour[:3]) - min(colour[:3]) > 60)
    offered[reed].trigger()  # 4
    qtbot.waitUntil(lambda: bool(window.document.look.decided(Owner.theme(path)).swaps), timeout=30000)
    worn_ready(window, qtbot, path)
    hues = [rgba_to_oklch(c)[2] for c in (window.document.look.colours["accent"], use.offered[reed])]
    assert abs(hues[0] - hues[1]) < 10  # as light as it can be told from what it lies on
    assert use.swatches[0].accessibleName().startswith("#2f6fe0 becomes")
    assert "#2f6fe0" not in window.document.themes[path].outcome.fresh["themes/Turnstone/gtk-3.0/gtk.css"]
    assert window.bench.strip.finding.passes  # what is at hand is the theme as it was mended
    window.track.buttons["wear"].click()  # 5
    settle(window)
    rows = [window.wear.plan.tree.topLevelItem(i) for i in range(window.wear.plan.tree.topLevelItemCount())]
    told = {row.text(0): row.text(1) for row in rows}
    assert told["GTK 3 programs"].startswith("theme Turnstone, ") and "theme" in told["Cursor theme"]
    window.wear.wear_button.click()  # 6
    settle(window)
    sheet = home / f".local/share/themes/{look.folder}/gtk-3.0/gtk.css"
    assert "Turnstone" in sheet.read_text() and "#2f6fe0" not in sheet.read_text()
    assert window.wearing.session.settings["xsettings", "/Net/ThemeName"] == look.folder
    assert window.track.buttons["wear"].left in ("applied", "5 to do")
    window.wear.go_back()
    settle(window)
    assert everything(home) == before and dict(window.wearing.session.settings) == was


@pytest.mark.long
def test_a_theme_is_used_in_the_looks_colours_for_what_is_ticked(brought, qtbot, settle):
    window, path = brought
    use, document, palette = window.dress.theme.use, window.document, window.document.look.palettes
    use.ticks["icons"].click()
    assert document.look.decided(Owner.theme(path)).worn == frozenset()  # nothing is used before it is said how
    use.mapped.click()
    worn_ready(window, qtbot, path)
    assert document.look.decided(Owner.theme(path)).worn == {"gtk-3", "openbox", "pointers"}
    assert document.look.palettes == palette and not use.swatches
    assert document.dressed.paints["gtk-3"] == window.themes.known[path].after["gtk-3"]
    asked = window.themes._asked[path]
    use.ticks["openbox"].click()
    assert document.look.decided(Owner.theme(path)).worn == {"gtk-3", "pointers"}
    settle(window)
    assert window.themes._asked[path] == asked  # nothing is recoloured anew for that
    document.edit("x", lambda look: replace(look, tone="light"))
    assert not window.themes.ready(document.look)
    window.wearing.look_again()
    settle(window)
    worn_ready(window, qtbot, path)
    use.stop.click()
    assert document.look.decided(Owner.theme(path)).worn == frozenset() and use.stop.isHidden()
    assert window.document.dress(document.look).paints["gtk-3"] != window.themes.known[path].after["gtk-3"]
    document.stack.undo()
    assert document.look.decided(Owner.theme(path)).worn == {"gtk-3", "pointers"}


@pytest.mark.long
def test_a_kept_look_wears_its_theme_again_at_once(brought, qtbot, settle, tmp_path):
    window, path = brought
    window.dress.theme.use.mapped.click()
    worn_ready(window, qtbot, path)
    kept = window.shelving.desk.shelf.keep(window.document.look)
    window.dress.theme.aside.click()
    settle(window)
    window.opening.open_look(window.shelving.desk.shelf.place(kept.id) / LOOK)
    (there,) = window.document.look.brought
    assert there != path and not window.themes.asks(there)
    worn_ready(window, qtbot, there)
    assert window.document.dressed.paints["gtk-3"] == window.themes.known[there].after["gtk-3"]


@pytest.mark.long
def test_a_component_chooses_its_theme_on_its_own_page(brought, qtbot, settle):
    window, path = brought
    page = window.dress.component
    window.dress.choose("kitty")
    assert page.theme.isHidden()
    window.dress.choose("gtk-3")
    assert [page.theme.itemText(i) for i in range(page.theme.count())] == [
        "Theme: the look's own",
        "Theme: Turnstone",
    ]
    page.theme.setCurrentIndex(1)
    page.theme.activated.emit(1)
    worn_ready(window, qtbot, path)
    settle(window)
    assert worn_by(window.document.look) == {"gtk-3": path}
    assert window.dress.list.standings["gtk-3"].words.endswith(" files of theme Turnstone")
    page.theme.setCurrentIndex(0)
    page.theme.activated.emit(0)
    settle(window)
    assert worn_by(window.document.look) == {} and "theme" not in window.dress.list.standings["gtk-3"].words


@pytest.mark.long
def test_the_toolkit_is_asked_by_itself_about_a_theme_that_is_used(brought, qtbot, settle, monkeypatch):
    window, path = brought
    asked = []

    def painted(theme, scheme, choices, outcome, progress=None):
        asked.append(outcome)
        fresh = replace(outcome, rules=outcome.rules + 1) if len(asked) == 1 else outcome
        return Settled(fresh, Verdict("3.24.38", (), ()), 2)

    monkeypatch.setattr(desk, "mend_by_painting", painted)
    window.dressing.asks_toolkit = lambda: True
    window.dressing._rest.setInterval(1)
    window.themes.changed.emit(path)
    settle(window)
    assert asked == []  # it is not used yet
    window.dress.theme.use.mapped.click()
    worn_ready(window, qtbot, path)
    qtbot.waitUntil(lambda: "drew 0 places" in window.dress.theme.painted.text(), timeout=20000)
    before, after = asked[0], window.themes.known[path].outcome
    assert after.rules == before.rules + 1 and window.document.themes[path].outcome is after
    window.themes.changed.emit(path)
    settle(window)
    assert len(asked) == 1  # once for each outcome


@pytest.mark.long
def test_a_newer_file_of_the_same_name_takes_the_place_of_a_theme(brought, qtbot, tmp_path):
    window, path = brought
    window.dress.theme.use.mapped.click()
    worn_ready(window, qtbot, path)
    window.document.edit("x", lambda look: with_choice(look, Owner.theme(path), [Slot("parts", "header")], "header"))
    own = window.document.look.decided(Owner.theme(path))
    newer = tmp_path / "newer" / Path(path).name
    newer.parent.mkdir()
    newer.write_bytes(Path(path).read_bytes())
    window.open_path(str(newer))
    qtbot.waitUntil(lambda: window.document.look.brought == (str(newer),), timeout=30000)
    assert window.document.look.decided(Owner.theme(str(newer))) == own
    assert Owner.theme(path) not in window.document.look.decisions
    worn_ready(window, qtbot, str(newer))
    # The same file written anew is read anew.
    before = window.themes.known[str(newer)].theme
    newer.write_bytes(newer.read_bytes() + b"\0" * 512)
    window.open_path(str(newer))
    qtbot.waitUntil(lambda: str(newer) in window.themes.known and window.themes.known[str(newer)].theme is not before)
    assert window.document.look.decided(Owner.theme(str(newer))) == own


@pytest.mark.long
def test_colours_in_a_table_look_the_same_when_their_row_is_chosen(brought, settle):
    window, _ = brought
    window.dress.show_view("groups")
    settle(window)
    tree = window.dressing.views["groups"].tree
    row = tree.topLevelItem(0)
    old = window.dress.theme.groups.known[0].old

    def seen():
        QApplication.processEvents()
        area = tree.visualItemRect(row)
        image = tree.viewport().grab(area).toImage()
        colours = {image.pixelColor(x, image.height() // 2).name() for x in range(60)}
        return old.hex in colours

    tree.clearSelection()
    assert seen()
    row.setSelected(True)
    tree.setCurrentItem(row)
    assert seen()
    tree.setEnabled(False)
    assert seen()
    tree.setEnabled(True)
