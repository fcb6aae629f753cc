"""What is worked through stands in the centre: groups of colours, and the plan of Wear."""

from __future__ import annotations

import pytest
from PyQt6.QtCore import QMimeData, QPointF, Qt
from PyQt6.QtGui import QDropEvent

from mellow_finch.components.catalogue import COMPONENT_BY_ID
from mellow_finch.recolour.groups import KEEP
from mellow_finch.ui.kit.drag import ROLE_MIME


@pytest.fixture
def dressed(opened, settle):
    opened.show_step("dress")
    opened.dress.choose("shell")
    opened.dress.show_view("groups")
    settle(opened)
    return opened


def items(tree):
    return [tree.topLevelItem(i) for i in range(tree.topLevelItemCount())]


def test_groups_stand_in_the_centre_wide_and_many_in_sight(dressed):
    table = dressed.dressing.groups
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
    table = dressed.dressing.groups
    qtbot.keyClicks(table.field, "#ff2fa0 accent")
    shown = [i for i in items(table.tree) if not i.isHidden()]
    assert shown and all("#ff2fa0" in i.text(0) and "Accent" in i.text(2) for i in shown)
    assert table.words.text().startswith(f"{len(shown)} of ")


def test_several_are_mapped_at_once_as_one_step(qtbot, dressed, settle):
    table, document = dressed.dressing.groups, dressed.document
    for item in items(table.tree)[:3]:
        item.setSelected(True)
    keys = table.tree.keys()
    before, steps = document.look, document.stack.count()
    link = next(a for m in table.menu().actions() if m.menu() for a in m.menu().actions() if a.text() == "Link")
    link.trigger()
    settle(dressed)
    assert document.stack.count() == steps + 1
    assert {document.look.regrouped[f"shell/{key}"] for key in keys} == {"link"}
    assert {i.text(2) for i in items(table.tree) if i.data(0, Qt.ItemDataRole.UserRole) in keys} == {"Link"}
    assert table.tree.keys() and set(table.tree.keys()) == set(keys)
    next(a for a in table.menu().actions() if a.text().startswith("Leave")).trigger()
    assert {document.look.regrouped[f"shell/{key}"] for key in keys} == {KEEP}
    document.stack.undo()
    document.stack.undo()
    assert document.look == before


def test_a_role_dropped_on_a_row_maps_it(qtbot, dressed, settle):
    table, document = dressed.dressing.groups, dressed.document
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
    assert document.look.regrouped[f"shell/{key}"] == "link_visited"


def test_the_plan_is_a_tree_by_component_with_every_file(qtbot, opened, settle):
    opened.show_step("wear")
    settle(opened)
    plan = opened.wear.plan
    assert opened.centre.currentWidget() is plan and not opened.strip.isVisible()
    shown = {
        child.text(0)
        for head in items(plan.tree)
        for child in (head.child(i) for i in range(head.childCount()))
        if head.text(0) != "Settings of the desktop"
    }
    known = opened.wear._known
    assert shown == {f"~/{w.path}" for w in known.plan.writes}
    titles = {c.title for c in COMPONENT_BY_ID.values()}
    assert {h.text(0) for h in items(plan.tree)} <= titles | {"Settings of the desktop", "Files"}
    view = plan.tree.viewport().rect()
    rows = [i for h in items(plan.tree) for i in (h, *(h.child(n) for n in range(h.childCount())))]
    assert sum(view.contains(plan.tree.visualItemRect(i)) for i in rows) >= 12
    opened.wear.show_view("stage")
    assert opened.centre.currentWidget() is opened.stage and opened.strip.isVisible()
