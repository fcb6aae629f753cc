"""The shelf in the window: kept, found, drawn, compared, dropped and taken back; parcels come in by being opened."""

from __future__ import annotations

import shutil
from base64 import b64decode
from dataclasses import replace
from pathlib import Path

import pytest
from defusedxml import ElementTree
from PyQt6.QtCore import Qt
from PyQt6.QtGui import QImage
from PyQt6.QtWidgets import QApplication, QMessageBox

from mellow_finch.components.catalogue import COMPONENT_BY_ID
from mellow_finch.look.edits import with_tone
from mellow_finch.look.gather import look_of_pictures
from mellow_finch.proof.rehearsal.conductor import Rehearsed
from mellow_finch.proof.rehearsal.last import note_rehearsal
from mellow_finch.proof.rehearsal.verdict import Shown
from mellow_finch.shelf.parcel import receive, send
from mellow_finch.shelf.shelf import Shelf
from mellow_finch.ui.shelf.card import CardSubject, card_svg, seen_of
from mellow_finch.ui.window import shelving
from mellow_finch.ui.window.settings import PREFERENCE_BY_NAME


@pytest.fixture
def wall(opened, settle, home):
    """A window with three looks on its shelf, the wall in view."""
    shelf = Shelf()
    for name, tone, tags in (
        ("reedbed-at-dawn", "dark", ["hide"]),
        ("frost-on-sedge", "light", []),
        ("lighthouse-fog", "dark", []),
    ):
        shelf.keep(look_of_pictures([home / "Pictures" / f"{name}.jpg"], tone), tags)
    opened.actions_by_id["shelf"].trigger()
    settle(opened)
    return opened


def names(window):
    listed = window.shelving.desk.wall.list
    return {listed.item(i).text() for i in range(listed.count())}


def drawn(window, settle):
    desk = window.shelving.desk
    desk.wall.list.viewport().repaint()  # what is in sight asks for its small desktop when it is painted
    for _ in range(400):
        QApplication.processEvents()
        settle(window)
        if desk.rested:
            return


def test_the_empty_shelf_says_what_to_do(opened, settle):
    opened.actions_by_id["shelf"].trigger()
    settle(opened)
    wall = opened.shelving.desk.wall
    assert opened.centre.currentWidget() is wall and not wall.list.isVisible() and "Ctrl+Shift+S" in wall.empty.text()
    opened.actions_by_id["keep"].trigger()
    settle(opened)
    assert names(opened) == {opened.document.look.name} and not wall.empty.isVisible()


@pytest.mark.long
def test_looks_are_found_by_name_tag_tone_and_order(wall, qtbot, settle):
    panel = wall.shelving.desk.panel
    assert names(wall) == {"Reedbed at dawn", "Frost on sedge", "Lighthouse fog"}
    qtbot.keyClicks(panel.field, "hide")
    assert names(wall) == {"Reedbed at dawn"}
    panel.field.clear()
    panel.tone.setCurrentIndex(panel.tone.findData("light"))
    assert names(wall) == {"Frost on sedge"}
    panel.tone.setCurrentIndex(0)
    panel.order.setCurrentIndex(panel.order.findData("name"))
    listed = wall.shelving.desk.wall.list
    assert [listed.item(i).text() for i in range(3)] == sorted(names(wall))
    qtbot.keyClicks(panel.field, "heron")
    assert names(wall) == set() and "No saved look" in wall.shelving.desk.wall.empty.text()


@pytest.mark.long
def test_small_desktops_are_true_and_come_from_the_cache_the_second_time(wall, settle):
    desk = wall.shelving.desk
    drawn(wall, settle)
    kept = next(k for k in desk.looks if k.name == "Frost on sedge")
    image = desk.wall.image_of(kept)
    assert image is not None and len(list(desk._cache.glob("*.png"))) == 3
    look = desk.shelf.load(kept.id).look
    colours = {image.pixelColor(x, y).name() for x in range(0, image.width(), 3) for y in range(0, image.height(), 3)}
    assert look.colours["window"].hex in colours and look.colours["view"].hex in colours
    desk.wall.show_tone("dark")
    drawn(wall, settle)
    dark = desk.wall.image_of(kept)
    colours = {dark.pixelColor(x, y).name() for x in range(0, dark.width(), 3) for y in range(0, dark.height(), 3)}
    assert with_tone(look, "dark").colours["window"].hex in colours
    before = {p: p.stat().st_mtime_ns for p in desk._cache.glob("*.png")}
    desk.wall.forget_images()
    desk.wall.show_tone("")
    drawn(wall, settle)
    assert desk.wall.image_of(kept) is not None
    assert {p: p.stat().st_mtime_ns for p in desk._cache.glob("*.png")} == before


@pytest.mark.long
def test_one_is_gone_on_with_two_are_compared(wall, settle, qtbot):
    desk = wall.shelving.desk
    first = next(k for k in desk.looks if k.name == "Frost on sedge")
    desk.wall.choose([first.id])
    assert desk.panel.buttons["open"].isEnabled() and not desk.panel.buttons["compare"].isEnabled()
    qtbot.mouseClick(desk.panel.buttons["open"], Qt.MouseButton.LeftButton)
    settle(wall)
    assert wall.document.look.name == "Frost on sedge" and wall.step == "tune"
    assert wall.document.look.tone == "light"
    wall.actions_by_id["shelf"].trigger()
    settle(wall)
    desk.wall.choose([k.id for k in desk.looks[:2]])
    desk.do("compare")
    settle(wall)
    assert wall.stage.curtain is not None and None not in wall.document.beside


@pytest.mark.long
def test_dropped_looks_come_back_until_the_window_closes(wall, settle):
    desk = wall.shelving.desk
    desk.wall.choose([k.id for k in desk.looks[:2]])
    desk.do("drop")
    assert len(names(wall)) == 1 and desk.panel.back.isVisible()
    desk.panel.back.click()
    assert len(names(wall)) == 3 and not desk.panel.back.isVisible()
    desk.wall.choose([desk.looks[0].id])
    desk.do("drop")
    desk.close()
    assert not (desk.shelf.folder / ".dropped").exists()


@pytest.mark.long
def test_tags_names_and_copies(wall, settle):
    desk = wall.shelving.desk
    kept = desk.looks[0]
    desk.wall.choose([kept.id])
    desk.panel.tags.setText("mist, evening")
    desk.panel.tags.editingFinished.emit()
    assert desk.shelf.find(kept.id).tags == ("evening", "mist")
    desk.rename(kept, "Evening")
    assert "Evening" in names(wall)
    desk.wall.choose([kept.id])
    desk.do("copy")
    assert "Evening, copy" in names(wall)


@pytest.mark.long
def test_several_are_sent_one_parcel_each_and_a_report_is_saved(wall, settle, tmp_path):
    rows = wall.shelving.desk.looks
    wall.shelving.desk.wall.choose([k.id for k in rows])
    assert wall.shelving.desk.panel.buttons["send"].isEnabled()
    wall.shelving.send(rows, tmp_path)
    settle(wall)
    assert {receive(p).look.name for p in tmp_path.glob("*.zip")} == {k.name for k in rows}
    wall.shelving.save_report(tmp_path / "report.html")
    settle(wall)
    page = (tmp_path / "report.html").read_text()
    assert f"Readability of {wall.document.look.name}" in page and "all with enough contrast" in wall.footer.text()
    wall.shelving.save_report(tmp_path / "report.pdf")
    settle(wall)
    assert (tmp_path / "report.pdf").read_bytes().startswith(b"%PDF")


@pytest.mark.long
def test_a_step_is_kept_on_the_shelf(wall, settle, monkeypatch):
    monkeypatch.setattr(QMessageBox, "question", lambda *_: QMessageBox.StandardButton.Yes)
    name = wall.document.look.name
    wall.document.edit("Switch to light", lambda look: with_tone(look, "light"))
    wall.actions_by_id["steps"].trigger()
    wall.steps.list.clearSelection()
    wall.steps.list.item(1).setSelected(True)
    wall.steps.shelve_button.click()
    settle(wall)
    kept = [k for k in wall.shelving.desk.shelf.looks() if k.name == name]
    assert [k.tone for k in kept][:1] == ["dark"]


@pytest.mark.long
def test_a_card_and_a_sheet_are_saved(wall, settle, tmp_path):
    wall.shelving.save_card(wall.shelving.desk.looks[:1], tmp_path / "card.png")
    settle(wall)
    wall.shelving.save_card(wall.shelving.desk.looks, tmp_path / "sheet.png")
    settle(wall)
    wall.shelving.save_card(wall.shelving.desk.looks[:1], tmp_path / "card.svg")
    settle(wall)
    wall.shelving.save_card(wall.shelving.desk.looks, tmp_path / "page.html")
    settle(wall)
    page = ElementTree.parse(tmp_path / "page.html").getroot()
    assert {e.text for e in page.iter("h2")} == {k.name for k in wall.shelving.desk.looks}
    assert all(QImage.fromData(b64decode(e.get("src").partition(",")[2])).width() == 720 for e in page.iter("img"))
    drawing = ElementTree.parse(tmp_path / "card.svg").getroot()
    assert drawing.get("viewBox") == "0 0 1600 1000" and wall.shelving.desk.looks[0].name in "".join(drawing.itertext())
    card, sheet = QImage(str(tmp_path / "card.png")), QImage(str(tmp_path / "sheet.png"))
    assert (card.width(), card.height()) == (1600, 1000) and sheet.width() == 1600
    look = wall.shelving.desk.shelf.load(wall.shelving.desk.looks[0].id).look
    colours = {card.pixelColor(x, y).name() for x in range(0, 1600, 4) for y in range(0, 1000, 4)}
    assert {look.colours[r].hex for r in ("accent", "window", "error", "terminal", "ansi_4")} <= colours


@pytest.mark.long
def test_a_parcel_that_is_opened_comes_onto_the_shelf(opened, settle, home, tmp_path, monkeypatch):
    picture = Path(shutil.copy(home / "Pictures/dusk-murmuration.jpg", tmp_path / "dusk.jpg"))
    send(look_of_pictures([picture], "dark"), tmp_path / "dusk.zip")
    told = []
    monkeypatch.setattr(opened.shelving, "asks_to_take", lambda received: told.append(received) or True)
    opened.open_path(str(tmp_path / "dusk.zip"))
    settle(opened)
    settle(opened)
    assert names(opened) == {"Dusk"} and "1 image" in told[0].words()
    assert "are here" in opened.shelving.says_of(told[0]) and "Nothing in it is run" in opened.shelving.says_of(told[0])
    monkeypatch.setattr(opened.shelving, "asks_to_take", lambda received: False)
    (tmp_path / "bad.zip").write_bytes((tmp_path / "dusk.zip").read_bytes()[:-40])
    opened.open_path(str(tmp_path / "dusk.zip"))
    settle(opened)
    assert len(Shelf().looks()) == 1


@pytest.mark.long
def test_a_look_that_is_worn_is_kept_once(opened, settle, tmp_path):
    from mellow_finch.ui.window.memory import Memory

    opened.memory = Memory(tmp_path / "window.ini")
    for _ in range(2):
        opened.show_step("wear")
        settle(opened)
        opened.wear.wear()
        settle(opened)
        settle(opened)
        assert [k.name for k in Shelf().looks()] == [opened.document.look.name]
        opened.wear.go_back()
        settle(opened)
    opened.memory.choose(PREFERENCE_BY_NAME["keeps_worn"], False)
    opened.apply_settings()
    opened.document.edit("Light", lambda look: with_tone(look, "light"))
    settle(opened)
    opened.wear.wear()
    settle(opened)
    opened.memory = None  # a window with one asks before it closes
    assert len(Shelf().looks()) == 1


@pytest.mark.long
def test_parcels_that_are_opened_together_are_asked_about_one_after_the_other(opened, settle, tmp_path, monkeypatch):
    paths = []
    for name in ("Ebb", "Flood", "Slack"):
        paths.append(tmp_path / f"{name}.zip")
        send(replace(opened.document.look, name=name), paths[-1])
    asked, kept = [], []
    monkeypatch.setattr(opened.shelving, "asks_to_take", lambda received: asked.append(received.look.name) or True)
    monkeypatch.setattr(opened.shelving, "take_in", lambda received: kept.append(received.look.name))
    for path in paths:
        opened.opening.open_paths([str(path)])
    settle(opened)
    assert sorted(asked) == sorted(kept) == ["Ebb", "Flood", "Slack"]


@pytest.mark.long
def test_the_made_up_home_has_a_shelf_of_its_own_with_seven_looks(opened, home, settle, monkeypatch, tmp_path):
    monkeypatch.setattr(shelving, "demo_folder", lambda: home)
    opened.shelving.show()
    settle(opened)
    assert names(opened) == {
        *("Reedbed at dawn", "Mudflat in rain", "Dusk murmuration", "Frost on sedge", "Lighthouse fog"),
        *("Kingfisher", "Redshank"),
    }
    desk = opened.shelving.desk
    assert {k.tone for k in desk.looks} == {"dark", "light"} and desk.shelf.folder.is_relative_to(home)
    for kept in desk.looks:
        desk.shelf.drop(kept.id)
    opened.shelving.show()
    settle(opened)
    assert names(opened) == set()  # they are laid there once
    (tmp_path / "mine").mkdir()
    opened.use_home(tmp_path / "mine")
    settle(opened)
    assert not desk.shelf.folder.is_relative_to(home)


def test_a_card_tells_which_real_programs_the_look_was_tried_with(qapp, look):
    """In its small print, as text of the drawing; a half that was not tried as it is now tells nothing."""
    component = COMPONENT_BY_ID["kitty"]
    rows = [
        Rehearsed("kitty", component, "kitty", Shown("as_look", texts=9), version="0.41.1"),
        Rehearsed("htop", component, "htop", Shown("unreadable", texts=4), version="3.4"),
    ]

    def words(of) -> str:
        drawing = ElementTree.fromstring(card_svg(CardSubject(of, {}, None, seen_of(of)), "wide"))
        return " ".join("".join(drawing.itertext()).split())

    assert "tried on" not in words(look)
    note_rehearsal(look, rows)
    assert "2 programs tried on" in words(look) and "1 as the look, 1 with unreadable text" in words(look)
    assert "kitty 0.41.1" in words(look) and "tried on" not in words(with_tone(look, "light"))
