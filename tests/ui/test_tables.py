"""What is worked through stands in the centre: groups of colours, and the plan of Wear."""

from __future__ import annotations

from dataclasses import replace
from pathlib import Path

import pytest
from PyQt6.QtCore import QMimeData, QPointF, Qt
from PyQt6.QtGui import QDropEvent

from mellow_finch.colour.rgb import parse_hex
from mellow_finch.components.catalogue import COMPONENT_BY_ID, COMPONENTS
from mellow_finch.components.decisions import Owner, Slot
from mellow_finch.recolour.groups import KEEP
from mellow_finch.session.base import SettingValue
from mellow_finch.ui.kit.drag import ROLE_MIME
from mellow_finch.ui.model.known import Known
from mellow_finch.ui.wear.plan_view import plan_rows
from mellow_finch.wear.journal import SettingRow
from mellow_finch.wear.plan import Plan, Write
from mellow_finch.wear.targets import NOTHING, Target


@pytest.fixture
def dressed(opened, settle):
    opened.show_step("dress")
    opened.dress.choose("shell")
    opened.dress.show_view("groups")
    settle(opened)
    return opened


def given(document, key):
    """Return what was chosen for a row of the shell's groups."""
    slot = Slot(*key)
    return getattr(document.look.decided(Owner.component("shell")), slot.kind).get(slot.key)


def items(tree):
    return [tree.topLevelItem(i) for i in range(tree.topLevelItemCount())]


def test_groups_stand_in_the_centre_wide_and_many_in_sight(dressed):
    table = dressed.dressing.views["groups"]
    assert dressed.centre.currentWidget() is table and table.tree.topLevelItemCount() > 40
    view = table.tree.viewport().rect()
    assert sum(view.contains(table.tree.visualItemRect(i)) for i in items(table.tree)) >= 12
    places = [int(i.text(3)) for i in items(table.tree)]
    assert places == sorted(places, reverse=True)
    table.tree.sortByColumn(3, Qt.SortOrder.AscendingOrder)
    assert [int(i.text(3)) for i in items(table.tree)] == sorted(places)
    table.tree.sortByColumn(2, Qt.SortOrder.AscendingOrder)
    roles = [i.text(2) for i in items(table.tree)]
    assert roles == sorted(roles)


def test_they_are_narrowed_by_typing(qtbot, dressed):
    table = dressed.dressing.views["groups"]
    qtbot.keyClicks(table.field, "#ff2fa0 accent")
    shown = [i for i in items(table.tree) if not i.isHidden()]
    assert shown and all("#ff2fa0" in i.text(0) and "Accent colour" in i.text(2) for i in shown)
    assert table.words.text().startswith(f"{len(shown)} of ")


@pytest.mark.long
def test_several_are_mapped_at_once_as_one_step(qtbot, dressed, settle):
    table, document = dressed.dressing.views["groups"], dressed.document
    for item in items(table.tree)[:3]:
        item.setSelected(True)
    keys = table.tree.keys()
    before, steps = document.look, document.stack.count()
    link = next(a for m in table.menu().actions() if m.menu() for a in m.menu().actions() if a.text() == "Link")
    link.trigger()
    settle(dressed)
    assert document.stack.count() == steps + 1
    assert {given(document, key) for key in keys} == {"link"}
    assert {i.text(2) for i in items(table.tree) if i.data(0, Qt.ItemDataRole.UserRole) in keys} == {"Link"}
    assert table.tree.keys() and set(table.tree.keys()) == set(keys)
    next(a for a in table.menu().actions() if a.text().startswith("Keep as")).trigger()
    assert {given(document, key) for key in keys} == {KEEP}
    document.stack.undo()
    document.stack.undo()
    assert document.look == before


@pytest.mark.long
def test_one_colour_alone_can_be_swapped_for_another(qtbot, dressed, settle):
    table, document = dressed.dressing.views["groups"], dressed.document
    items(table.tree)[0].setSelected(True)
    (key,) = table.tree.keys()
    everything = {i.data(0, Qt.ItemDataRole.UserRole) for i in items(table.tree)}

    def choose(words):
        next(a for a in table.menu().actions() if a.text() == words).trigger()
        settle(dressed)

    choose("Change only this")
    assert {key for key in everything if given(document, key) == KEEP} == everything - {key}
    choose("A separate colour …")
    chooser = dressed.bench.choosing.chooser
    chooser.set_colour(parse_hex("#3c8f6a"))
    chooser.use.click()
    settle(dressed)
    assert given(document, key) == "#3c8f6a"
    row = next(i for i in items(table.tree) if i.data(0, Qt.ItemDataRole.UserRole) == key)
    assert row.text(2) == "a separate colour, #3c8f6a" and "#3c8f6a" in row.text(1)


@pytest.mark.long
def test_a_role_dropped_on_a_row_maps_it(qtbot, dressed, settle):
    table, document = dressed.dressing.views["groups"], dressed.document
    item = items(table.tree)[2]
    data = QMimeData()
    data.setData(ROLE_MIME, b"link_visited")
    event = QDropEvent(
        QPointF(table.tree.visualItemRect(item).center()), Qt.DropAction.CopyAction, data, Qt.MouseButton.LeftButton,
        Qt.KeyboardModifier.NoModifier,
    )  # fmt: skip
    key = item.data(0, Qt.ItemDataRole.UserRole)
    table.tree.dropEvent(event)
    settle(dressed)
    assert given(document, key) == "link_visited"


def test_the_plan_is_a_tree_by_component_with_every_file(qtbot, opened, settle):
    opened.show_step("wear")
    settle(opened)
    plan = opened.wear.plan
    assert opened.centre.currentWidget() is plan and not opened.strip.isVisible()
    shown = {
        child.text(0)
        for head in items(plan.tree)
        for child in (head.child(i) for i in range(head.childCount()))
        if child.text(0).startswith("~/")
    }
    known = opened.wear._known
    assert shown == {f"~/{w.path}" for w in known.plan.writes}
    titles = {c.title for c in COMPONENT_BY_ID.values()}
    told = [h.text(0) for h in items(plan.tree)]
    assert len(told) == len(set(told))
    assert set(told) <= titles | {s.title or s.key for s in known.settings} | {"Files"}
    assert not any(h.isExpanded() for h in items(plan.tree)), "keys and files stand below, and open"
    view = plan.tree.viewport().rect()
    assert sum(view.contains(plan.tree.visualItemRect(h)) for h in items(plan.tree)) >= 12
    opened.wear.show_view("stage")
    assert opened.centre.currentWidget() is opened.stage and opened.strip.isVisible()


def test_a_plan_speaks_of_parts_of_the_desktop_not_of_keys():
    """Several screens and keys are one row, in words; what a person has to see to stands first."""
    desk = "/backdrop/screen0/monitor{}/workspace0/last-image"
    settings = [
        SettingRow("xfce4-desktop", desk.format(name), SettingValue("set", "/old.jpg"), "/h/dune%20at%20dawn.jpg", "xfconf",
                   "string", "Image")
        for name in ("HDMI-1", "eDP-1")
    ]  # fmt: skip
    settings.append(
        SettingRow("org.a", "color-scheme", SettingValue("set", "'default'"), "prefer-dark", title="Programs")
    )
    write = Write("x.conf", Target("x.conf", Path("/h/x.conf"), NOTHING), ("kitty",), "create", b"")
    laid = next(c for c in COMPONENTS if c.exported)
    exported = replace(write, path="y.conf", components=(laid.id,))
    plan = Plan("Fog", Path("/h"), (write, exported), (), (), 0)
    rows = plan_rows(Known("Fog", None, plan, tuple(settings)))
    assert rows[0].what == laid.title and rows[0].asks == 0
    by = {row.what: row for row in rows}
    assert by["Image"].happens == "dune at dawn.jpg on HDMI-1 and eDP-1" and len(by["Image"].lines) == 2
    assert by["Programs"].happens == "dark" and by["kitty"].happens == "1 new file"
    assert not any("xfce4-desktop" in word for row in rows for word in (row.what, row.happens, row.shows))


# The roll call


def test_three_actions_from_a_picture_to_a_desktop_that_follows(window, home, settle):
    """A picture dropped, the step, the button."""
    session = window.wearing.session
    was = dict(session.settings)
    window.open_path(str(home / "Pictures" / "reedbed-at-dawn.jpg"))  # 1: what a drop does
    settle(window)
    window.track.buttons["wear"].click()  # 2
    settle(window)
    window.wear.wear_button.click()  # 3
    settle(window)
    assert session.settings["xsettings", "/Net/ThemeName"] == "Reedbed-at-dawn"
    assert {way.program for way in session.told} == {"openbox", "kitty", "waybar"}
    assert window.centre.currentWidget() is window.wear.calls and "follow" in window.wear.calls.words.text()
    window.wear.go_back()
    settle(window)
    assert dict(session.settings) == was


@pytest.mark.long
def test_the_roll_call_starts_again_what_may_be_and_copies_what_is_to_be_done(window, home, settle):
    from PyQt6.QtGui import QGuiApplication

    window.open_path(str(home / "Pictures" / "reedbed-at-dawn.jpg"))
    settle(window)
    window.show_step("wear")
    settle(window)
    window.wear.wear()
    settle(window)
    calls = window.wear.calls
    rows = [calls.tree.topLevelItem(i) for i in range(calls.tree.topLevelItemCount())]
    titles = [row.text(0) for row in rows]
    assert titles[-1] == "Sandboxed programs (Flatpak)" and rows[-1].text(1).endswith("Will not follow")
    assert not calls.restart.isEnabled()
    calls.tree.setCurrentItem(rows[titles.index("GTK 4 programs")])
    assert not calls.restart.isEnabled() and "restart them" in calls.why.text()
    calls.tree.setCurrentItem(rows[titles.index("Dunst")])
    assert calls.restart.isEnabled()
    calls.restart.click()
    settle(window)
    assert window.wearing.session.restarted == ["dunst"] and "was restarted" in window.wear.said.text()
    calls.tree.setCurrentItem(rows[-1] if calls.tree.indexOfTopLevelItem(rows[-1]) >= 0 else calls.tree.topLevelItem(0))
    calls.copy.click()
    assert "flatpak override" in QGuiApplication.clipboard().text()
