"""Gather driven as a person drives it: several images, schemes, palettes, themes, matching, placement."""

from __future__ import annotations

from itertools import combinations
from pathlib import Path

import pytest
from PyQt6.QtCore import QMimeData, QPoint, QPointF, Qt, QUrl
from PyQt6.QtGui import QDropEvent, QImage
from PyQt6.QtWidgets import QFileDialog

from mellow_finch.colour.blend import over
from mellow_finch.colour.contrast import ratio
from mellow_finch.colour.rgb import Rgba, parse_hex
from mellow_finch.look.model import Origin
from mellow_finch.look.ready import READY
from mellow_finch.picture.backdrop import backdrop_of
from mellow_finch.picture.placement import Placement, Showing
from mellow_finch.ui.gather.contact_sheet import ContactSheet
from mellow_finch.ui.window.moves import next_picture


@pytest.fixture
def several(opened, home, settle):
    opened.opening.open_paths(
        [str(home / "Pictures" / f"{n}.jpg") for n in ("dusk-murmuration", "frost-on-sedge", "lighthouse-fog")]
    )
    settle(opened)
    return opened


def drop(widget, *paths) -> None:
    data = QMimeData()
    data.setUrls([QUrl.fromLocalFile(str(p)) for p in paths])
    widget.dropEvent(
        QDropEvent(
            QPointF(50, 50), Qt.DropAction.CopyAction, data, Qt.MouseButton.LeftButton, Qt.KeyboardModifier.NoModifier
        )
    )


@pytest.mark.long
@pytest.mark.parametrize("readings", [True])
def test_several_pictures_are_shown_with_their_fits_worst_first(several):
    page = several.gather.picture
    assert len(several.document.look.pictures) == 3 and several.centre.currentWidget() is several.desk.sheet
    values = [row.bar._value for _, row in page.rows]
    assert len(values) == 3 and values == sorted(values) and page.members.isVisible()
    assert "little in common" in page.member_word.text()
    assert several.opening.readings[0].id == "quiet" and page.cards[0].isChecked()
    assert several.track.buttons["gather"].left == "3 images"
    assert several.desk.sheet.grab().toImage() != QImage()


@pytest.mark.long
def test_a_picture_is_left_out_weighed_and_comes_back(several, settle, qtbot):
    page = several.gather.picture
    before = several.document.look
    index, row = page.rows[0]
    row.used.click()
    settle(several)
    look = several.document.look
    assert look.pictures[index].weight == 0 and look.recipe != before.recipe and look.name == before.name
    heavy = next(r for i, r in several.gather.picture.rows if i != index)
    heavy.weight.setCurrentIndex(3)
    heavy.weight.activated.emit(3)
    settle(several)
    assert sorted(m.weight for m in several.document.look.pictures) == [0, 1, 4]
    for _ in range(2):
        several.actions_by_id["undo"].trigger()
        settle(several)
    assert several.document.look == before
    assert [r.value() for _, r in sorted(several.gather.picture.rows, key=lambda x: x[0])] == [1, 1, 1]
    several.opening.set_weights([0, 0, 0])
    assert "At least one" in several.notice.text() and several.document.look == before


@pytest.mark.long
def test_pictures_are_added_one_by_one_and_dropped_together(opened, home, settle):
    opened.opening.add_paths([str(home / "Pictures" / "mudflat-in-rain.jpg")])
    settle(opened)
    assert len(opened.document.look.pictures) == 2
    opened.opening.add_paths([str(home / "Pictures" / "mudflat-in-rain.jpg")])
    assert not opened.jobs.running("picture")
    drop(opened.desk.sheet, home / "Pictures" / "frost-on-sedge.jpg", home / "Pictures" / "lighthouse-fog.jpg")
    settle(opened)
    assert [Path(m.path).stem for m in opened.document.look.pictures] == ["frost-on-sedge", "lighthouse-fog"]


@pytest.mark.long
def test_a_folder_of_pictures_is_a_slideshow_and_a_theme_can_be_a_start(opened, home, settle, tmp_path):
    drop(opened.picture, home / "Pictures")
    settle(opened)
    assert len(opened.document.look.pictures) == 5
    opened.opening.open_theme(home / ".local/share/themes/Saltpan")
    settle(opened)
    assert opened.document.look.origin == Origin("theme", "Saltpan") and len(opened.document.look.pictures) == 5
    drop(opened.picture, tmp_path / "nothing")
    settle(opened)
    assert "no such file" in opened.notice.text()


def test_what_a_look_took_from_a_theme_is_listed_and_can_be_another_colour_of_it(opened, home, settle):
    taken = opened.gather.schemes.taken
    assert taken.isHidden() and not taken.rows
    opened.opening.open_theme(home / ".local/share/themes/Saltpan")
    settle(opened)
    look = opened.document.look
    assert not taken.isHidden() and {"window", "accent", "menu"} <= taken.rows.keys()
    assert taken.rows["menu"][1].text() == "GTK 3 programs, menu" and taken.rows["link"][0].isHidden()
    taken.more.click()
    assert not taken.rows["link"][0].isHidden() and taken.more.isHidden()
    role = next(r for r in taken.rows if len(taken.menu_of(r).actions()) > 3)
    first, other, *_ = taken.menu_of(role).actions()
    assert taken.menu_of(role).defaultAction().text() == first.text()
    assert first.text().startswith(look.colours[role].hex)
    other.trigger()
    assert opened.document.look.colours[role].hex == other.text().split("\t")[0] != look.colours[role].hex
    assert taken.menu_of(role).defaultAction().text() == other.text()
    opened.document.stack.undo()
    assert opened.document.look == look and not taken.isHidden()
    opened.opening.open_scheme("redshank")
    assert taken.isHidden()


def test_reading_pictures_can_be_stopped(opened, home, settle):
    look = opened.document.look
    opened.opening.open_path(str(home / "Pictures" / "dusk-murmuration.jpg"))
    assert opened.gather.picture.stop.isVisible()
    opened.gather.picture.stop.click()
    settle(opened)
    assert opened.document.look is look and not opened.gather.picture.busy.isVisible()


def test_pointing_at_the_picture_tells_its_swatch(opened, qtbot):
    frame, labels = opened.picture.frame(), opened.picture._gathered.labels
    at = QPoint(int(frame.x() + frame.width() * 0.3), int(frame.y() + frame.height() * 0.2))
    expected = int(labels[int(labels.shape[0] * 0.2), int(labels.shape[1] * 0.3)])
    qtbot.mouseMove(opened.picture, at + QPoint(2, 2))
    qtbot.mouseMove(opened.picture, at)
    opened.desk.swatch_pointed(expected)
    lit = [i for i, b in enumerate(opened.gather.picture.swatches) if b._lit]
    assert lit == [expected] and opened.footer.text().startswith("Swatch #")


def test_a_scheme_is_taken_with_the_picture_still_behind(opened, settle):
    for scheme in READY[:3]:
        opened.gather.show_page("schemes")
        source = opened.document.look.source
        opened.gather.schemes.cards[scheme.id].click()
        settle(opened)
        look = opened.document.look
        assert look.origin == Origin("scheme", scheme.title) and look.source == source and not look.failing()
        assert opened.gather.schemes.cards[scheme.id].isChecked() and opened.gather.under.text() == look.origin.title
        assert opened.track.buttons["gather"].left == "a scheme"
        opened.actions_by_id["undo"].trigger()
        assert not opened.gather.schemes.cards[scheme.id].isChecked()


def test_a_scheme_without_any_picture(window, settle):
    settle(window)
    window.opening.open_scheme("heron")
    assert window.document.look.name == "Heron" and window.centre.currentWidget() is window.picture
    assert window.picture._bands and window.actions_by_id["save_look"].isEnabled()
    window.show_step("tune")
    assert window.step == "tune" and not window.document.look.failing()


def test_a_torn_palette_gives_what_it_can_and_lists_the_rest(opened, tmp_path, settle):
    path = tmp_path / "room.gpl"
    path.write_text(
        "GIMP Palette\nName: Ringing room\n24 30 34 background\n210 120 60 accent\n10 20\n90 140 150 teal\n"
    )
    drop(opened.picture, path)
    settle(opened)
    page = opened.gather.schemes
    assert opened.document.look.name == "Ringing room" and opened.document.look.colours["accent"] == Rgba(210, 120, 60)
    assert opened.gather.page == "schemes" and page.problem_list.isVisible()
    assert page.problem_list.text().startswith("Line 5: “10 20”") and "1 line " in page.problem_title.text()
    assert "3 colours from room.gpl, 2 of them recognised" in opened.footer.text()
    (tmp_path / "odd.gpl").write_text("nothing")
    before = opened.document.look
    opened.opening.open_palette(tmp_path / "odd.gpl")
    assert "does not begin with" in opened.notice.text() and opened.document.look is before


def test_palettes_are_imported_and_exported_by_dialog(opened, tmp_path, monkeypatch, settle):
    look = opened.document.look
    target = tmp_path / "marsh.gpl"
    monkeypatch.setattr(
        QFileDialog, "getSaveFileName", lambda *_: (str(target), "Design tokens (JSON) (*.tokens.json)")
    )
    opened.actions_by_id["export_palette"].trigger()
    made = tmp_path / "marsh.tokens.json"
    assert made.exists() and "was exported as marsh.tokens.json" in opened.footer.text()
    monkeypatch.setattr(QFileDialog, "getOpenFileName", lambda *_: (str(made), ""))
    opened.actions_by_id["import_palette"].trigger()
    settle(opened)
    assert dict(opened.document.look.colours) == dict(look.colours)
    opened.dialogs.export_palette(Path("/dev/null/x.gpl"))
    assert "Could not write" in opened.notice.text()
    opened.dialogs.export_palette(tmp_path / "x.unknown")
    assert "does not tell the palette format" in opened.notice.text()


@pytest.mark.long
def test_a_terminals_file_is_taken_as_it_is_or_readable_and_is_recoloured_in_dress(
    opened, home, tmp_path, monkeypatch, settle
):
    rows = "".join(f"color{i} #{40 + 6 * i:02x}{50 + 5 * i:02x}{60 + 4 * i:02x}\n" for i in range(16))
    path = tmp_path / "kitty.conf"
    path.write_text(f"background #101418\nforeground #d8dcd4\n{rows}")
    asked = []

    def answer(keep):
        return lambda name, moved, given: asked.append((name, moved, given)) or keep

    monkeypatch.setattr(opened.opening, "keeps_given", answer(False))
    opened.open_path(str(path))
    settle(opened)
    look = opened.document.look
    assert look.origin == Origin("palette", "kitty") and not look.failing()
    assert asked[0][0] == "kitty.conf" and 0 < asked[0][1] < 16 == asked[0][2]
    monkeypatch.setattr(opened.opening, "keeps_given", answer(True))
    opened.open_path(str(path))
    settle(opened)
    assert opened.document.look.colours["ansi_0"] == parse_hex("#28323c") and opened.document.look.failing()
    opened.opening.open_paths([str(path)], recolour=True)
    settle(opened)
    assert opened.step == "dress" and str(path) in opened.themes.known


@pytest.mark.long
def test_a_theme_and_what_is_worn_are_starts(opened, home, monkeypatch, settle):
    monkeypatch.setattr(QFileDialog, "getExistingDirectory", lambda *_: str(home / ".local/share/themes/Saltpan"))
    opened.gather.schemes.buttons["theme"].click()
    settle(opened)
    opened.dressing.here.other.click()
    settle(opened)
    assert opened.document.look.origin == Origin("theme", "Saltpan") and "insufficient contrast" in opened.footer.text()
    assert opened.track.buttons["proof"].urgent and opened.track.buttons["gather"].left == "a theme"
    opened.gather.schemes.buttons["worn"].click()
    settle(opened)
    assert opened.document.look.name == "Current desktop"
    monkeypatch.setattr(QFileDialog, "getExistingDirectory", lambda *_: str(home / "Pictures"))
    opened.dialogs.theme()
    settle(opened)
    assert "contains no readable theme" in opened.notice.text()


def test_how_the_picture_lies_decides_what_is_behind(opened, settle):
    page = opened.gather.picture
    before = opened.document.look
    page.size_box.setCurrentText("3840 × 2160")
    page.mode.setCurrentIndex(page.mode.findData("centre"))
    page.mode.activated.emit(page.mode.currentIndex())
    look = opened.document.look
    assert look.placement == Placement("centre", 3840, 2160) and look.backdrop != before.backdrop
    assert look.backdrop.at("panel") == (Rgba(0, 0, 0),) and not page.size_note.isVisible()
    page.mode.setCurrentIndex(page.mode.findData("fill"))
    page.mode.activated.emit(0)
    assert "smaller than the screen" in page.size_note.text() and page.size_note.isVisible()
    opened.show_step("tune")
    fill = opened.stage.grab().toImage()
    opened.opening.place(Placement("tile", 3840, 2160))
    assert opened.stage.grab().toImage() != fill
    for _ in range(3):
        opened.actions_by_id["undo"].trigger()
    assert opened.document.look == before


@pytest.mark.long
def test_pictures_of_a_folder_are_ranked_in_the_background(opened, home, monkeypatch, settle):
    opened.gather.show_page("match")
    page = opened.gather.match
    seen = []
    opened.matching.rank_progress.connect(lambda done, total: seen.append((done, total)))
    monkeypatch.setattr(QFileDialog, "getExistingDirectory", lambda *_: str(home / "Pictures"))
    page.folder_button.click()
    assert page.stop.isVisible() and page.progress.isVisible()
    settle(opened)
    assert page.list.count() == 5 and not page.stop.isVisible()
    fits = [page.list.item(i).data(Qt.ItemDataRole.UserRole).fit for i in range(5)]
    assert fits == sorted(fits, reverse=True) and (0, 5) in seen
    assert page.list.item(0).data(Qt.ItemDataRole.UserRole).path.stem == "reedbed-at-dawn"
    page.list.itemActivated.emit(page.list.item(1))
    settle(opened)
    assert opened.document.look.source.endswith(page.list.item(1).data(Qt.ItemDataRole.UserRole).path.name)


def test_ranking_can_be_stopped(opened, home, settle):
    opened.gather.show_page("match")
    opened.matching.rank_folder(home / "Pictures")
    opened.gather.match.stop.click()
    settle(opened)
    assert not opened.gather.match.stop.isVisible() and opened.gather.match.list.count() < 5


@pytest.mark.long
def test_a_picture_is_toned_and_saved_beside_the_original(opened, home, tmp_path, monkeypatch, settle, qtbot):
    opened.gather.show_page("match")
    page = opened.gather.match
    assert not page.save_button.isEnabled()
    plain = opened.picture.grab().toImage()
    opened.opening.open_scheme("kingfisher")
    page.strength.slider.setValue(160)
    settle(opened)
    assert opened.picture.grab().toImage() != plain and page.save_button.isEnabled()
    original = (home / "Pictures" / "reedbed-at-dawn.jpg").read_bytes()
    target = tmp_path / "toned.jpg"
    monkeypatch.setattr(QFileDialog, "getSaveFileName", lambda *_: (str(target), ""))
    page.save_button.click()
    settle(opened)
    assert target.exists() and QImage(str(target)).width() == 1920 and "Saved as toned.jpg" in opened.footer.text()
    monkeypatch.setattr(QFileDialog, "getSaveFileName", lambda *_: (opened.document.look.source, ""))
    page.save_button.click()
    settle(opened)
    assert "would overwrite the original" in opened.notice.text()
    assert (home / "Pictures" / "reedbed-at-dawn.jpg").read_bytes() == original
    page.strength.slider.setValue(0)
    assert opened.picture._toned is None


@pytest.mark.long
def test_a_set_is_saved_and_comes_back_with_its_pictures(several, tmp_path, settle):
    path = tmp_path / "set.finchlook"
    several.dialogs.save_look(path)
    look = several.document.look
    several.opening.open_scheme("heron")
    several.opening.known.clear()
    several.opening.opened = None
    several.opening.open_path(str(path))
    settle(several)
    assert several.document.look == look and len(several.opening.opened.pictures) == 3
    assert several.centre.currentWidget() is several.desk.sheet


def test_the_screens_eyedropper_says_when_it_cannot(opened, monkeypatch, settle, tmp_path):
    monkeypatch.setenv("DBUS_SESSION_BUS_ADDRESS", f"unix:path={tmp_path}/none")
    opened.actions_by_id["screen_dropper"].trigger()
    settle(opened)
    assert "no session bus" in opened.notice.text() and "Pick it from the image" in opened.notice.text()
    opened.picker.taken.emit(Rgba(1, 2, 3))
    assert opened.document.look.pins == (Rgba(1, 2, 3),)
    assert opened.bench.picking.name_colour(opened.document.look.colours["accent"]) == "is Accent colour"


@pytest.mark.long
def test_a_first_start_offers_what_the_desktop_has(window, home, settle):
    from mellow_finch.session.simulated import MADE_UP, SimulatedSession

    session = SimulatedSession(MADE_UP["dark first"])
    picture = home / "Pictures" / "frost-on-sedge.jpg"
    session.settings["org.gnome.desktop.background", "picture-uri"] = picture.as_uri()
    session.settings["org.gnome.desktop.interface", "color-scheme"] = "prefer-light"
    settle(window)
    page = window.gather.picture
    assert not page.now.isVisible()  # the made-up desktop's picture is nowhere
    window.desk.look_at_desktop(session)
    settle(window)
    assert page.now.isVisible() and "GNOME, light" in page.now_words.text() and picture.name in page.now_words.text()
    page.now_start.click()
    settle(window)
    assert window.document.look.tone == "light" and window.document.look.source == str(picture)
    assert not page.now.isVisible()


@pytest.mark.long
def test_the_start_offers_pictures_with_their_colours_and_schemes(qtbot, window, home, settle):
    start = window.desk.start
    qtbot.waitUntil(lambda: str(home / "Pictures/dusk-murmuration.jpg") in start.tiles, timeout=30000)
    settle(window)
    assert window.centre.currentWidget() is start and not window.document.look
    pictures = {path for path in start.tiles if path.startswith("/")}
    assert {Path(p).name for p in pictures} >= {"reedbed-at-dawn.jpg", "frost-on-sedge.jpg"}
    assert len(start.tiles) > len(pictures) and all(t.accessibleName() for t in start.tiles.values())
    tile = start.tiles[str(home / "Pictures/frost-on-sedge.jpg")]
    qtbot.mouseClick(tile, Qt.MouseButton.LeftButton)
    settle(window)
    assert window.document.look.name == "Frost on sedge" and window.centre.currentWidget() is window.picture


@pytest.mark.parametrize("count", [2, 5, 6, 7, 13, 24])
def test_names_and_matches_stand_beside_each_other_however_many_images(opened, count):
    """Under each image of a sheet there is room for its match and something of its name; nothing overlaps."""
    picture = opened.opening.opened.pictures[0]
    many = opened.opening.opened.__class__((picture,) * count, picture.alone)
    sheet = ContactSheet(opened.appearance)
    sheet.resize(880, 550)
    sheet._opened = many
    cells = sheet._cells()
    assert len(cells) == count and not any(a.intersects(b) for a, b in combinations(cells, 2))
    assert all(cell.width() >= 80 and cell.height() - sheet._under() >= 40 for cell in cells)
    assert all(sheet.rect().toRectF().contains(cell) for cell in cells)


def test_a_slideshow_is_chosen_and_its_pictures_are_seen_the_worst_under_the_panel_first(several):
    window = several
    row = window.gather.picture.showing
    assert row.isVisibleTo(window) and not row.minutes.isVisibleTo(window)
    row.kind.setCurrentIndex(2)
    row.kind.activated.emit(2)
    assert window.document.look.showing == Showing("slideshow", 30) and row.minutes.isVisibleTo(window)
    row.minutes.setValue(12)
    row.minutes.editingFinished.emit()
    look = window.document.look
    assert look.showing == Showing("slideshow", 12)

    def worst(path):
        under = backdrop_of(window.opening.known[path].small, look.placement).at("panel", look.blur)
        panel = look.colours["panel"]._replace(a=look.drawn_opacity().get("panel", 1.0))
        return min(ratio(look.colours["panel_text"], over(panel, colour)) for colour in under)

    seen = []
    for _ in range(4):
        next_picture(window)
        seen.append(window.opening.turned_to)
        assert window.staging.picture() is window.opening.known[seen[-1]].image
    assert set(seen) == set(look.shown_pictures) and seen[3] == seen[0]
    assert [worst(p) for p in seen[:3]] == sorted(worst(p) for p in seen[:3])
    window.document.stack.undo()
    window.document.stack.undo()
    assert window.document.look.showing == Showing()
    assert window.staging.picture() is window.opening.known[look.source].image


def test_one_picture_has_no_such_choice(opened):
    window = opened
    window.show_step("gather")
    assert not window.gather.picture.showing.isVisibleTo(window)
    said = []
    window.opening.said.connect(said.append)
    next_picture(window)
    assert said == ["The desktop shows only one image of this look."]
