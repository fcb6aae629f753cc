"""What will be written, as a wide tree: by component, with what happens to each file and setting, and when it shows."""

from __future__ import annotations

from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import QHeaderView, QTreeWidget, QTreeWidgetItem, QWidget

from ...components.catalogue import COMPONENT_BY_ID
from ...components.model import Component
from ...language import counted_files, isolated, listed, plural, tr
from ...wear.journal import crowds
from ..kit.effects import EFFECTS
from ..kit.parts import label, plain_column
from ..model.wearing import Known

_SETTINGS = tr("Settings of the desktop")
_COLUMNS = (tr("What"), tr("What happens"), tr("When it shows"))


class PlanView(QWidget):
    """Shows a plan; asks nothing."""

    def __init__(self, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        column = plain_column(self, 6)
        column.setContentsMargins(10, 8, 10, 8)
        self.words = label("", "section")
        column.addWidget(self.words)
        self.tree = QTreeWidget()
        self.tree.setAccessibleName(tr("What will be written, by component"))
        self.tree.setColumnCount(len(_COLUMNS))
        self.tree.setHeaderLabels(list(_COLUMNS))
        self.tree.setUniformRowHeights(True)
        self.tree.setTextElideMode(Qt.TextElideMode.ElideRight)
        header = self.tree.header()
        if header is not None:
            header.setStretchLastSection(False)
            header.setSectionResizeMode(0, QHeaderView.ResizeMode.Stretch)
        self.tree.setColumnWidth(1, 150)
        self.tree.setColumnWidth(2, 330)
        column.addWidget(self.tree, 1)
        self._shown: Known | None = None

    def show_known(self, known: Known) -> None:
        """Show the plan of what is known, or why there is none."""
        if known is self._shown:
            return
        self._shown = known
        closed = {i.text(0) for i in self._heads() if not i.isExpanded()}
        self.tree.clear()
        plan = known.plan
        if plan is None:
            self.words.setText(known.problem or known.sentence())
            return
        by: dict[str, list[tuple[str, str, str]]] = {_SETTINGS: []} if known.settings else {}
        for write in plan.writes:
            first = COMPONENT_BY_ID.get(write.components[0]) if write.components else None
            others = [COMPONENT_BY_ID[c].title for c in write.components[1:] if c in COMPONENT_BY_ID]
            also = tr(", with {names}").format(names=listed(others)) if others else ""
            head = first.title if first is not None else tr("Files")
            happens = tr("new file") if write.action == "create" else tr("changed")
            by.setdefault(head, []).append((isolated(f"~/{write.path}"), happens + also, ""))
        many = crowds(known.settings)
        for row in (row for row in known.settings if row.title not in many):
            by[_SETTINGS].append(
                (
                    tr(row.title or row.key),
                    tr("becomes {rpartition}").format(rpartition=(row.after or "").rpartition("/")[2]),
                    isolated(f"{row.schema} {row.key}"),
                )
            )
        for title, number in many.items():
            by[_SETTINGS].append((tr(title), plural("{count} change", "{count} changes", number), ""))
        for edit in known.edits:
            words_of_edit = tr("⚠ Your own edits would be overwritten: {file}").format(file=edit.words())
            item = QTreeWidgetItem([words_of_edit])
            item.setToolTip(0, "\n".join(edit.lines[:20]))
            self.tree.addTopLevelItem(item)
            item.setFirstColumnSpanned(True)
        for sign in known.unseen:
            item = QTreeWidgetItem([f"⚠ {sign.title}: {sign.what}. {sign.cure}"])
            item.setToolTip(0, f"{sign.what}\n{sign.cure}")
            self.tree.addTopLevelItem(item)
            item.setFirstColumnSpanned(True)
        shows = {c.title: _shows(c, known) for c in COMPONENT_BY_ID.values()}
        for title, rows in by.items():
            count = counted_files(len(rows)) if title in shows else f"{len(rows)}"
            head_item = QTreeWidgetItem([title, count, shows.get(title, "")])
            head_item.setToolTip(2, shows.get(title, ""))
            font = head_item.font(0)
            font.setBold(True)
            head_item.setFont(0, font)
            for words in rows:
                item = QTreeWidgetItem(list(words))
                for i, told in enumerate(words):
                    item.setToolTip(i, told)
                head_item.addChild(item)
            self.tree.addTopLevelItem(head_item)
            head_item.setExpanded(title not in closed)
        self.words.setText(
            tr("{files} and {settings} for {parts}").format(
                files=counted_files(len(plan.writes)),
                settings=plural("{count} setting", "{count} settings", len(known.settings)),
                parts=plural("{count} part of the desktop", "{count} parts of the desktop", len(by)),
            )
            if by
            else tr("✓ Every file is right")
        )

    def _heads(self) -> list[QTreeWidgetItem]:
        rows = (self.tree.topLevelItem(i) for i in range(self.tree.topLevelItemCount()))
        return [row for row in rows if row is not None]


def _shows(component: Component, known: Known) -> str:
    """Return when a component's files show, as things are just now."""
    if any(row.component == component.id for row in known.settings) and component.effect != "restart":
        return tr("At once: the desktop is set to it")
    if any(way.program in known.running for way in component.follow):
        return tr("At once: it is told to read them")
    if component.follow:
        return tr("When it starts; it does not run just now")
    return component.restart or EFFECTS[component.effect]
