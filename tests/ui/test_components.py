"""Dress with every kind of component: the list by kind, what this home has first, narrowing, pictures, and its page."""

from __future__ import annotations

import pytest
from PyQt6.QtCore import QPoint, QPointF, Qt
from PyQt6.QtGui import QColor, QFontDatabase, QImage, QMouseEvent

from mellow_finch.components.catalogue import COMPONENT_BY_ID, COMPONENTS, read_anew
from mellow_finch.components.decisions import Decisions, Emblem, Owner, Slot
from mellow_finch.components.define.kinds import KINDS
from mellow_finch.components.define.own import forget, own_texts
from mellow_finch.look.decision_edits import with_companion
from mellow_finch.recolour.groups import KEEP
from mellow_finch.ui.dress.component_list import ELSEWHERE, INSTALLED
from mellow_finch.ui.kit.panels import TabButton
from tests.shelf.test_parcel import GOOD
from tests.ui.conftest import rested


@pytest.fixture
def dressing(shared):
    shared.show_step("dress")
    rested(shared)
    return shared


def heads(list_):
    return [list_.tree.topLevelItem(i).text(0) for i in range(list_.tree.topLevelItemCount())]


def test_what_the_home_has_comes_first_by_kind(dressing):
    list_ = dressing.dress.list
    found = heads(list_)
    assert found[-2].startswith(INSTALLED) and found[-1].startswith(ELSEWHERE)
    assert found[0] == "Whole look" and found[1:-2] == [k for k in KINDS if k in found]
    present = {id_ for id_, p in dressing.document.present.items() if p.here}
    assert {"kitty", "rofi", "openbox", "waybar", "browser-pages"} <= present and "wezterm" not in present
    for component in COMPONENTS:
        row = list_.row(component.id)
        under = row.parent().text(0)
        head = INSTALLED if dressing.document.present[component.id].installed else ELSEWHERE
        assert under == component.kind if component.id in present else under.startswith(head)
        assert (row.checkState(0) == Qt.CheckState.Checked) == (component.id in present)
    assert "kitty" in list_.row("kitty").toolTip(0)


def test_one_tick_dresses_all_that_is_installed_and_not_set_up(qtbot, dressing):
    """Programs that merely lie on the machine are left alone until somebody wants them."""
    list_ = dressing.dress.list
    waiting = {id_ for id_, p in dressing.document.present.items() if p.installed}
    assert waiting and not waiting & set(dressing.document.dressed.files)
    head = list_.row(next(iter(waiting))).parent()
    head.setExpanded(False)
    assert head.checkState(0) == Qt.CheckState.Unchecked
    list_.tree.scrollToItem(head)
    spot = list_.tree.visualItemRect(head)
    tick = QPoint(spot.right() - 16, spot.center().y())
    qtbot.mouseClick(list_.tree.viewport(), Qt.MouseButton.LeftButton, pos=tick)
    assert waiting <= set(dressing.document.dressed.files) and not head.isExpanded()
    dressing.dress.show_standings()
    assert head.checkState(0) == Qt.CheckState.Checked
    qtbot.mouseClick(list_.tree.viewport(), Qt.MouseButton.LeftButton, pos=tick)
    assert not waiting & set(dressing.document.dressed.files)


def test_typing_narrows_and_choosing_widens_again(dressing):
    list_ = dressing.dress.list
    list_.field.setText("rof launch")
    shown = {c.id for c in COMPONENTS if not list_.row(c.id).isHidden()}
    assert shown == {"rofi"}
    list_.field.setText("wezterm")
    assert not list_.row("wezterm").isHidden() and list_.row("wezterm").parent().isExpanded()
    list_.choose("kitty")
    assert list_.field.text() == "" and dressing.dress.current().id == "kitty"


def test_rows_say_what_is_written_and_when_it_shows(dressing):
    standings = dressing.dress.list.standings
    assert standings["kitty"].words == "2 files · after a reload" and standings["kitty"].short == 0
    assert standings["foot"].words.endswith("after a restart") and standings["rofi"].words.endswith("at once")
    assert "~/.config/kitty/mellow-finch.conf" in dressing.dress.list.row("kitty").toolTip(0)
    assert not standings["wezterm"].dressed and standings["browser-theme"].words.endswith("prepared")


def test_pictures_are_true_and_follow_the_look(qtbot, dressing):
    thumbs, list_ = dressing.dress.thumbs, dressing.dress.list
    qtbot.waitUntil(lambda: set(list_.visible_ids()) <= thumbs.fresh, timeout=10000)
    first = next(id_ for id_ in list_.visible_ids() if id_ in COMPONENT_BY_ID)
    before = thumbs.of(first).toImage()
    dressing.actions_by_id["tone"].trigger()
    rested(dressing)
    qtbot.waitUntil(lambda: first in thumbs.fresh and thumbs.of(first).toImage() != before, timeout=10000)
    list_.choose("wezterm")
    rested(dressing)
    qtbot.waitUntil(lambda: thumbs.of("wezterm") is not None, timeout=10000)
    assert not thumbs.of("wezterm").isNull() and thumbs.of(first).toImage() != before


@pytest.mark.long
def test_the_tick_is_clicked_and_is_one_step(qtbot, dressing):
    list_ = dressing.dress.list
    list_.choose("kitty")
    tree, row = list_.tree, list_.row("kitty")
    box = tree.visualItemRect(row)
    at = box.topLeft() + type(box.topLeft())(16, 25)
    qtbot.mouseClick(tree.viewport(), Qt.MouseButton.LeftButton, pos=at)
    assert dressing.document.look.left_out == {"kitty"}
    qtbot.keyClick(tree, Qt.Key.Key_Space)
    assert dressing.document.look.left_out == frozenset()
    dressing.document.stack.undo()
    assert dressing.document.look.left_out == {"kitty"}
    rested(dressing)
    assert row.checkState(0) == Qt.CheckState.Unchecked and list_.standings["kitty"].words == "left out"
    dressing.actions_by_id["undo"].trigger()
    assert dressing.document.look.left_out == frozenset()


def test_a_head_under_the_keyboard_leaves_the_choice(qtbot, dressing):
    list_ = dressing.dress.list
    list_.choose("i3")
    qtbot.keyClick(list_.tree, Qt.Key.Key_Up)
    assert list_.tree.currentItem().text(0) == "Window decorations" and dressing.dress.current().id == "i3"
    qtbot.keyClick(list_.tree, Qt.Key.Key_Left)
    assert not list_.tree.currentItem().isExpanded()
    rested(dressing)
    described = list_.row("kitty").data(0, Qt.ItemDataRole.AccessibleDescriptionRole)
    assert described == "2 files · after a reload, ✓"


def test_one_that_is_not_here_is_shown_as_it_would_be_and_added(dressing):
    list_ = dressing.dress.list
    list_.choose("wezterm")
    rested(dressing)
    document = dressing.document
    assert "wezterm" not in document.dressed.files and document.in_view == "wezterm"
    assert document.right_paints["wezterm"]["terminal"].fill == document.look.colours["terminal"]
    assert (
        "Not included" in dressing.stage._note and "~/.config/wezterm/colors" in dressing.dress.component.files.text()
    )
    list_.row("wezterm").setCheckState(0, Qt.CheckState.Checked)
    rested(dressing)
    assert document.look.added == {"wezterm"} and document.dressed.files["wezterm"] and dressing.stage._note == ""


def test_the_stage_shows_the_kind_that_is_chosen(dressing):
    for id_, part in (("rofi", "launcher"), ("vim", "document"), ("swaylock", "lock"), ("plank", "dock")):
        dressing.dress.choose(id_)
        rested(dressing)
        dressing.stage.grab()
        assert dressing.stage.point_of(id_, part) is not None, id_
    dressing.show_step("tune")
    dressing.stage.grab()
    assert dressing.document.in_view == "" and dressing.stage.point_of("shell", "panel") is not None


def test_a_click_on_the_stage_selects_the_part_of_the_component_in_view(qtbot, dressing):
    dressing.dress.choose("rofi")
    rested(dressing)
    dressing.stage.grab()
    point = dressing.stage.point_of("rofi", "launcher field")
    event = QMouseEvent(
        QMouseEvent.Type.MouseButtonPress, QPointF(point), QPointF(point), Qt.MouseButton.LeftButton,
        Qt.MouseButton.LeftButton, Qt.KeyboardModifier.NoModifier,
    )  # fmt: skip
    dressing.stage.mousePressEvent(event)
    assert dressing.dress.current().id == "rofi" and dressing.document.component == "rofi"
    assert dressing.document.role in ("view", "view_text")


def test_this_panel_in_the_accent_by_its_row(dressing):
    dressing.dress.choose("plank")
    row = next(r for r in dressing.dress.groups.rows if r.row.key == Slot("roles", "panel"))
    assert row.row.words == "Panel" and not row.row.may_split
    row.asked.emit(row.row.key, "accent")
    look = dressing.document.look
    assert look.decisions == {Owner.component("plank"): Decisions(roles={"panel": "accent"})}
    assert dressing.document.dressed.paints["plank"]["dock"].fill == look.colours["accent"]
    row = next(r for r in dressing.dress.groups.rows if r.row.key == Slot("roles", "panel"))
    assert row.row.chosen and row.row.new == look.colours["accent"]
    row.asked.emit(row.row.key, KEEP)
    before = dressing.document.before["plank"]["dock"].fill.opaque
    assert dressing.document.dressed.paints["plank"]["dock"].fill.opaque == before
    dressing.document.stack.undo()
    dressing.document.stack.undo()
    assert dressing.document.look.decisions == {}


def test_the_strips_height_is_one_step_a_drag(dressing):
    dressing.dress.choose("panel-strip")
    slider = dressing.dress.component.sliders["height"]
    assert slider.figure.text() == "24 px"
    steps = dressing.document.stack.count()
    slider.began.emit()
    for value in (30.0, 36.0, 41.7):
        slider.moved.emit(value)
    assert dressing.document.look.decisions == {Owner.component("panel-strip"): Decisions(knobs={"height": 42.0})}
    assert dressing.document.stack.count() == steps + 1
    dressing.document.stack.undo()
    assert dressing.document.look.decisions == {}


def test_variants_are_laid_beside(dressing):
    dressing.dress.choose("widget")
    dressing.dress.list.tree.itemActivated.emit(dressing.dress.list.row("widget"), 0)  # by Return or a double click
    page = dressing.dress.component
    assert page.beside.isVisible() and not page.beside.isChecked()
    page.beside.click()
    assert dressing.document.look.decisions == {Owner.component("widget"): Decisions(beside=True)}
    assert "conky-Reedbed-at-dawn.conf" in page.files.text()
    dressing.dress.choose("shell")
    assert not page.beside.isVisible()


@pytest.mark.long
def test_every_page_can_be_opened(dressing):
    for component in COMPONENTS:
        dressing.dress.choose(component.id)
        page = dressing.dress.component
        assert page.title.text() == component.title and page.files.text()
        assert "‹" not in page.effect.text() + page.reads.text()
        dressing.dress.show_view("changes")
        dressing.dress.show_view("stage")
    rested(dressing)


def test_a_finding_of_a_component_is_shown_in_proof(dressing):
    finding = next(f for f in dressing.document.findings if f.component == "dunst")
    dressing.show_step("proof")
    dressing.document.select(finding.part.text_role, "dunst", finding.part.key)
    dressing.stage.grab()
    assert dressing.document.in_view == "dunst" and dressing.stage.point_of("dunst", finding.part.key) is not None


def test_companions_are_off_until_asked_and_one_step_each(dressing, settle, monkeypatch, tmp_path):
    from mellow_finch.theme.bundle import installed
    from mellow_finch.ui.dress import companions_page

    monkeypatch.setattr(companions_page, "places", lambda _home: (tmp_path,))
    folder = tmp_path / "reed"
    folder.mkdir()
    (folder / "index.theme").write_text("[Icon Theme]\nName=Reed\nDirectories=48\n")
    assert installed.icon_themes((tmp_path,))[0].title == "Reed"
    page = dressing.dress.companions
    dressing.dress.show_page("companions")
    settle(dressing)
    assert dressing.document.look.companions == {} and page.boxes["icons"].currentText() == "As it is"
    box = page.boxes["icons"]
    assert [box.itemText(i) for i in range(box.count())] == ["As it is", "Reed"]
    box.setCurrentIndex(1)
    box.activated.emit(1)
    assert dressing.document.look.companions == {"icons": "reed"}
    page.boxes["buttons"].setCurrentIndex(1)
    page.boxes["buttons"].activated.emit(1)
    assert dressing.document.look.companions == {"icons": "reed", "buttons": "left"}
    dressing.document.stack.undo()
    settle(dressing)
    assert page.boxes["buttons"].currentText() == "As it is" and box.currentText() == "Reed"


@pytest.mark.long
def test_components_of_every_new_scene_are_drawn_in_their_colours_one_after_the_other(opened, settle):
    """Each that comes into sight is drawn with what its files say, whichever was in sight before."""
    from mellow_finch.look.decision_edits import with_dressed

    look = opened.document.look
    for id_, parts in {
        "mc": ("screen", "row:chosen"),
        "zathura": ("page", "viewer bar"),
        "telegram": ("message:own", "chat list"),
        "office": ("sheet of paper", "paper around"),
        "code-editor": ("document", "tree"),
    }.items():
        opened.document.edit("Add", lambda now, id_=id_: with_dressed(now, id_, True, False))
        opened.show_component(id_)
        settle(opened)
        image = opened.stage.grab().toImage()
        seen = {image.pixelColor(x, y).name() for x in range(0, image.width(), 2) for y in range(0, image.height(), 2)}
        paints = opened.document.dressed.paints[id_]
        assert {paints[part].fill.opaque.hex for part in parts} <= seen, id_
    assert opened.document.look.palettes == look.palettes


@pytest.mark.long
def test_rounded_corners_show_on_the_stage_and_can_be_undone(opened, settle):
    opened.show_step("tune")
    settle(opened)
    plain = opened.stage.grab().toImage()
    opened.document.edit("Rounded corners", lambda look: with_companion(look, "radius", "0"))
    settle(opened)
    square = opened.stage.grab().toImage()
    opened.document.edit("Rounded corners", lambda look: with_companion(look, "radius", "20"))
    settle(opened)
    assert plain != square != opened.stage.grab().toImage()
    opened.actions_by_id["undo"].trigger()
    opened.actions_by_id["undo"].trigger()
    settle(opened)
    assert opened.stage.grab().toImage() == plain


@pytest.mark.long
def test_the_stage_has_the_shape_and_the_fonts_that_were_asked_for(opened, settle):
    opened.show_step("dress")
    family = next(f for f in QFontDatabase.families() if "DejaVu" in f)

    def seen(**asked):
        for id_, value in asked.items():
            opened.document.edit(
                id_,
                lambda look, id_=id_, value=value: with_companion(
                    look, id_.rpartition("_of_")[2], value, id_.rpartition("_of_")[0]
                ),
            )
        settle(opened)
        return opened.stage.grab().toImage()

    for id_, changes in {
        "rofi": {"edge": "8", "density": "tight", "radius": "20", "font": f"{family} 13"},
        "i3": {"gaps": "40", "edge": "0"},
        "foot": {"fixed_font": f"{family} 9"},
    }.items():
        opened.show_component(id_)
        for name, value in changes.items():
            before = seen()
            assert seen(**{name: value}) != before, (id_, name)
    opened.show_component("i3")
    before = seen()
    assert seen(rofi_of_edge="2") == before
    assert seen(i3_of_edge="2") != before
    assert seen(fixed_font="") == seen(fixed_font="No such family 20")


@pytest.mark.long
def test_shape_is_for_all_or_for_one(dressing, settle):
    page = dressing.dress.shape
    dressing.show_component("rofi")
    dressing.dress.show_page("shape")
    settle(dressing)

    def choose(box, value):
        box.setCurrentIndex(box.findData(value))
        box.activated.emit(box.currentIndex())
        settle(dressing)

    choose(page.boxes["radius"], "12")
    choose(page.of_whom, "rofi")
    assert page.boxes["radius"].isVisible() and not page.boxes["gaps"].isVisible()
    assert page.boxes["radius"].currentText() == "As all: 12 pixels"
    choose(page.boxes["radius"], "2")
    assert dressing.document.look.companions == {"radius": "12"}
    assert dressing.document.look.decisions == {Owner.component("rofi"): Decisions(companions={"radius": "2"})}
    (theme,) = [f for f in dressing.document.dressed.files["rofi"] if f.path.endswith(".rasi") and b"radius" in f.data]
    assert b"border-radius: 2px" in theme.data
    assert page.of_whom.currentText() == "Rofi, set separately"
    choose(page.boxes["radius"], "")
    assert dressing.document.look.companions == {"radius": "12"} and not dressing.document.look.decisions


@pytest.mark.long
def test_a_picture_of_a_widget_is_another_or_in_a_colour(opened, settle):
    folder = opened.document.home / ".config/conky"
    for name, colour in (("logo.png", "#e6e6e6"), ("net.png", "#e65a1e")):
        image = QImage(16, 16, QImage.Format.Format_ARGB32)
        image.fill(QColor(colour))
        assert image.save(str(folder / name))
    text = (folder / "conky.conf").read_text()
    (folder / "conky.conf").write_text(
        text.replace("conky.text = [[", "conky.text = [[\n${image ~/.config/conky/logo.png}")
    )
    opened.document.read_anew()
    opened.show_step("dress")
    opened.show_component("widget")
    settle(opened)
    page = opened.dress.component

    def choose(box, value):
        box.setCurrentIndex(box.findData(value))
        box.activated.emit(box.currentIndex())
        settle(opened)

    def on_stage():
        image = opened.stage.grab().toImage()
        rows, columns = range(0, image.height(), 2), range(image.width() // 2, image.width(), 2)
        return {image.pixelColor(i, j).name() for j in rows for i in columns}

    assert not opened.dress.pictures() and "#e65a1e" not in on_stage()
    choose(page.emblems.roles["logo.png"], "accent")
    assert opened.document.look.decisions == {
        Owner.component("widget"): Decisions(emblems={"logo.png": Emblem(role="accent")})
    }
    (row,) = opened.dress.pictures()
    fresh = QImage.fromData(row.new())
    assert row.old() == (folder / "logo.png").read_bytes() and fresh.pixelColor(3, 3).name() != "#e6e6e6"
    choose(page.emblems.files["logo.png"], str(folder / "net.png"))
    choose(page.emblems.roles["logo.png"], "")
    assert QImage.fromData(opened.dress.pictures()[0].new()).pixelColor(3, 3).name() == "#e65a1e"
    assert "#e65a1e" in on_stage()
    page.take_picture("logo.png", folder / "logo.png")
    settle(opened)
    assert page.emblems.files["logo.png"].currentText() == "logo.png"
    for _ in range(4):
        opened.actions_by_id["undo"].trigger()
    settle(opened)
    assert opened.document.look.decisions == {} and not opened.dress.pictures()


@pytest.fixture
def only_shipped():
    """Leave no component of one's own to the tests that follow."""
    yield
    for name, _ in own_texts():
        forget(name.removesuffix(".toml"))
    read_anew()


@pytest.mark.long
def test_a_program_of_ones_own_becomes_a_component(opened, settle, only_shipped):
    home = opened.document.home
    file = home / ".config/tides.ini"
    file.write_text('[colors]\nbackground = "#ff2fa0"\nforeground = "#4d5559"\n')
    opened.dialogs.make_own(home, file)
    dialog = opened.dialogs.own
    assert dialog.name.text() == "Tides" and dialog.table.rowCount() == 2
    dialog.boxes[0].setCurrentIndex(dialog.boxes[0].findData("terminal"))
    dialog.name.setText("")
    dialog.keep_button.click()
    assert "cannot be a name" in dialog.trouble.text() and dialog.isVisible()
    dialog.name.setText("Tides")
    dialog.keep_button.click()
    assert not dialog.isVisible() and "one of your components" in opened.footer.text()
    (row,) = own_texts()
    assert row[0] == "own-tides.toml" and "/terminal" in row[1]
    settle(opened)
    page, look = opened.dress.component, opened.document.look
    assert opened.dress.current().id == "own-tides" and page.own_box.isVisible()
    (made,) = opened.document.dressed.files["own-tides"]
    assert look.colours["terminal"].hex in made.data.decode()
    assert any(a.component == "own-tides" for a in opened.stage.areas)
    before = opened.stage.grab().toImage()
    page.roles_asked.emit("own-tides")
    dialog = opened.dialogs.own
    assert dialog.name.text() == "Tides" and dialog.boxes[0].currentData() == "terminal"
    dialog.boxes[0].setCurrentIndex(dialog.boxes[0].findData("error"))
    dialog.name.setText("Low tides")
    dialog.keep_button.click()
    settle(opened)
    assert [name for name, _ in own_texts()] == ["own-low-tides.toml"] and opened.dress.current().id == "own-low-tides"
    assert opened.stage.grab().toImage() != before
    page.forget_asked.emit("own-low-tides")
    settle(opened)
    assert not own_texts() and "own-low-tides" not in opened.document.dressed.files and file.exists()
    opened.dialogs.make_own(home, home / ".config/none.ini")
    assert opened.notice.text()


@pytest.mark.long
def test_own_components_are_listed_with_what_is_wrong_and_deleted(opened, qtbot, tmp_path, monkeypatch):
    monkeypatch.setattr("mellow_finch.components.define.own.own_folder", lambda: tmp_path)
    good = GOOD.replace("PATH", ".config/tides/tides.ini")
    (tmp_path / "own-tides.toml").write_text(good)
    (tmp_path / "broken.toml").write_text(good.replace("/window", "/heron"))
    read_anew()
    try:
        opened.dress.own_list_asked.emit()
        shown = opened.dialogs.owned
        rows = [shown.tree.topLevelItem(i) for i in range(shown.tree.topLevelItemCount())]
        assert [(r.text(0), r.text(2)) for r in rows] == [("broken.toml", "Left out"), ("Tides", "Used")]
        assert "there is no role “heron”" in rows[0].child(0).text(0) and ".config/tides/tides.ini" in rows[1].text(1)
        qtbot.mouseClick(shown.delete, Qt.MouseButton.LeftButton)
        assert not (tmp_path / "broken.toml").exists() and shown.tree.topLevelItemCount() == 1
        qtbot.mouseClick(shown.delete, Qt.MouseButton.LeftButton)
        assert (
            not list(tmp_path.glob("*.toml")) and not shown.delete.isEnabled() and "no components" in shown.words.text()
        )
        assert "own-tides" not in COMPONENT_BY_ID
        shown.accept()
    finally:
        monkeypatch.undo()
        read_anew()


def test_pages_are_places_of_the_list_with_a_way_back(qtbot, dressing):
    """A row leads to its page by its arrow, Enter or a double click; pages for all components are rows above them."""
    panel, tree = dressing.dress, dressing.dress.list.tree
    panel.show_page("all")
    assert not panel.findChildren(TabButton) and not panel.above.isVisible()
    panel.list.choose("kitty")
    box = tree.visualItemRect(panel.list.row("kitty"))
    qtbot.mouseClick(tree.viewport(), Qt.MouseButton.LeftButton, pos=box.center())
    assert panel.page == "all"
    qtbot.mouseClick(tree.viewport(), Qt.MouseButton.LeftButton, pos=QPoint(box.right() - 12, box.center().y()))
    assert panel.page == "one" and panel.component.title.text() == "kitty" and panel.back.isVisible()
    panel.back.click()
    assert panel.page == "all" and panel.list.current() == "kitty"
    whole = tree.topLevelItem(0)
    tree.scrollToTop()
    qtbot.mouseClick(tree.viewport(), Qt.MouseButton.LeftButton, pos=tree.visualItemRect(whole.child(0)).center())
    assert panel.page == "shape" and panel.page_title.text() == "Shape"
    qtbot.keyClick(panel, Qt.Key.Key_Left, Qt.KeyboardModifier.AltModifier)
    assert panel.page == "all"
    panel.list.field.setText("corners")
    assert not whole.isHidden() and not whole.child(0).isHidden() and whole.child(1).isHidden()
    panel.list.field.setText("")
