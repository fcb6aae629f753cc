"""The list of Dress: every component by kind with a small true picture, those of this home first, and the themes.

The themes are those that were imported. What is typed narrows it.
"""

from __future__ import annotations

from collections.abc import Callable, Sequence
from pathlib import Path

from PyQt6.QtCore import Qt, pyqtSignal
from PyQt6.QtGui import QPixmap
from PyQt6.QtWidgets import QLineEdit, QTreeWidget, QTreeWidgetItem, QWidget

from ...components.catalogue import COMPONENTS
from ...components.define.kinds import KINDS
from ...components.model import Component
from ...components.read.presence import Presence
from ...language import comma_separated, plural, tr, with_note
from ..kit.parts import plain_column
from ..kit.style import Style
from .component_rows import ID, PLACE, ComponentRows, ComponentState, ListPlace

ELSEWHERE = tr("Not found in this home folder")
INSTALLED = tr("Installed, not set up here")
_FOLDED = (INSTALLED, ELSEWHERE)
BROUGHT = tr("Imported")
WHOLE = tr("Whole look")


class ComponentList(QWidget):
    """A field to type into, and the rows. Knows no look: it is told what each row says."""

    chosen = pyqtSignal(str)  # a component's id or a theme's path
    ticked = pyqtSignal(str, bool)
    all_ticked = pyqtSignal(object, bool)  # ids of all that are installed and not set up
    opened = pyqtSignal()  # the chosen row, to be shown in full
    place_opened = pyqtSignal(str)  # the id of a page for all components

    def __init__(
        self,
        style: Style,
        picture_of: Callable[[str], QPixmap | None],
        places: Sequence[ListPlace] = (),
        parent: QWidget | None = None,
    ) -> None:
        super().__init__(parent)
        self._style = style
        self.places = {place.id: place for place in places}
        self._filling = False
        self.all_at_hand = False  # whether the pointer is on the tick for all
        self._last = ""
        self.standings: dict[str, ComponentState] = {}
        column = plain_column(self, 6)
        self.field = QLineEdit()
        self.field.setPlaceholderText(tr("Filter: terminal, decorations, rofi …"))
        self.field.setAccessibleName(tr("Filter the list of components"))
        self.field.setClearButtonEnabled(True)
        self.field.textChanged.connect(self._narrow)
        self.tree = QTreeWidget()
        self.tree.setAccessibleName(tr("Components and themes"))
        self.tree.setHeaderHidden(True)
        self.tree.setRootIsDecorated(False)
        self.tree.setIndentation(0)
        self.tree.setMouseTracking(True)
        self.tree.setVerticalScrollMode(QTreeWidget.ScrollMode.ScrollPerPixel)
        self.tree.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.tree.setVerticalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOn)
        self.tree.setItemDelegate(ComponentRows(self, style, picture_of))
        self.tree.setMinimumHeight(200)
        self.tree.currentItemChanged.connect(self._current_changed)
        self.tree.itemClicked.connect(self._clicked)
        self.tree.itemActivated.connect(self.lead_on)
        self.tree.itemChanged.connect(self._changed)
        column.addWidget(self.field)
        column.addWidget(self.tree, 1)
        self._rows: dict[str, QTreeWidgetItem] = {}
        self._heads: dict[str, QTreeWidgetItem] = {}

    # Filling

    def fill(self, presence: dict[str, Presence], brought: Sequence[str]) -> None:
        """Show the components of a home first, by kind, then the others; and the themes that were brought.

        What is merely installed has one tick for all of it.
        """
        before = self.current()
        self._filling = True
        self.tree.clear()
        self._rows, self._heads = {}, {}
        for place in self.places.values():
            row = self._row_under(WHOLE, place.title, place.tip)
            row.setData(0, PLACE, place.id)
            row.setData(0, Qt.ItemDataRole.AccessibleDescriptionRole, place.tip)
        self._add_brought(brought)
        for kind in KINDS:
            for component in (c for c in COMPONENTS if c.kind == kind and _here(c, presence)):
                self._add(kind, component.id, component.title, presence[component.id].why, True)
        others = [c for c in COMPONENTS if not _here(c, presence)]
        for component in sorted(others, key=lambda c: not presence[c.id].installed):
            found = presence[component.id]
            self._add(INSTALLED if found.installed else ELSEWHERE, component.id, component.title, found.why, True)
        for name, head in self._heads.items():
            head.setText(0, with_note(tr(name), str(head.childCount())) if name in _FOLDED else tr(name))
            head.setExpanded(name not in _FOLDED)
        if INSTALLED in self._heads:
            self._heads[INSTALLED].setFlags(Qt.ItemFlag.ItemIsEnabled | Qt.ItemFlag.ItemIsUserCheckable)
            self._heads[INSTALLED].setCheckState(0, Qt.CheckState.Unchecked)
            self._heads[INSTALLED].setToolTip(0, tr("Tick to include all of them"))
        self._filling = False
        self._narrow(self.field.text())
        self.choose(before if before in self._rows else next(iter(self._rows), ""))

    def show_brought(self, brought: Sequence[str]) -> None:
        """Show other themes that were brought; all other rows stay."""
        before, head = self.current(), self._heads.pop(BROUGHT, None)
        self._filling = True
        if head is not None:
            self._rows = {key: row for key, row in self._rows.items() if row.parent() is not head}
            self.tree.takeTopLevelItem(self.tree.indexOfTopLevelItem(head))
        self._add_brought(brought)
        self._filling = False
        self._narrow(self.field.text())
        self.choose(before if before in self._rows else next(iter(self._rows), ""))

    def _add_brought(self, brought: Sequence[str]) -> None:
        for path in brought:
            self._add(BROUGHT, path, Path(path).name, path, False)
        if brought:
            self._heads[BROUGHT].setText(0, tr(BROUGHT))
            self._heads[BROUGHT].setExpanded(True)

    def _row_under(self, head: str, title: str, tip: str) -> QTreeWidgetItem:
        if head not in self._heads:
            top = QTreeWidgetItem([head])
            top.setFlags(Qt.ItemFlag.ItemIsEnabled)
            self._heads[head] = top
            last = self.tree.topLevelItemCount()
            self.tree.insertTopLevelItem(min(last, 1) if head == BROUGHT else last, top)
        row = QTreeWidgetItem(self._heads[head], [title])
        row.setToolTip(0, tip)
        row.setFlags(Qt.ItemFlag.ItemIsEnabled | Qt.ItemFlag.ItemIsSelectable)
        return row

    def _add(self, head: str, key: str, title: str, tip: str, tickable: bool) -> None:
        row = self._row_under(head, title, tip)
        row.setData(0, ID, key)
        if tickable:
            row.setFlags(row.flags() | Qt.ItemFlag.ItemIsUserCheckable)
            row.setCheckState(0, Qt.CheckState.Unchecked)
        self._rows[key] = row

    def show_standings(self, standings: dict[str, ComponentState]) -> None:
        """Say in every row what becomes of its component."""
        self._filling = True
        self.standings = standings
        for key, standing in standings.items():
            row = self._rows.get(key)
            if row is not None:
                row.setToolTip(0, standing.tip)
                told = comma_separated((standing.words, self.note_of(standing)[0]))
                row.setData(0, Qt.ItemDataRole.AccessibleDescriptionRole, told)
            if row is not None and row.flags() & Qt.ItemFlag.ItemIsUserCheckable:
                row.setCheckState(0, Qt.CheckState.Checked if standing.dressed else Qt.CheckState.Unchecked)
        if INSTALLED in self._heads:
            all_ = all(standings[key].dressed for key in self._ids_under(INSTALLED) if key in standings)
            self._heads[INSTALLED].setCheckState(0, Qt.CheckState.Checked if all_ else Qt.CheckState.Unchecked)
        self._filling = False
        self.update_rows()

    def _ids_under(self, name: str) -> list[str]:
        head = self._heads[name]
        return [key for key, row in self._rows.items() if row.parent() is head]

    def update_rows(self) -> None:
        """Paint the rows anew."""
        port = self.tree.viewport()
        if port is not None:
            port.update()

    def visible_ids(self) -> list[str]:
        """Return the keys of the rows that are in sight, from the top."""
        port = self.tree.viewport()
        if port is None:
            return []
        area = port.rect()
        rows = [(self.tree.visualItemRect(row), key) for key, row in self._rows.items()]
        return [key for rect, key in sorted(rows, key=lambda r: r[0].y()) if rect.height() and rect.intersects(area)]

    @staticmethod
    def note_of(standing: ComponentState) -> tuple[str, str]:
        """Return how many pairs have insufficient contrast, in words, and the colour of these."""
        if standing.short is None or not standing.dressed:
            return "", "quiet"
        return (
            (plural("{count} insufficient", "{count} insufficient", standing.short), "bad")
            if standing.short
            else ("✓", "good")
        )

    # Choosing

    def current(self) -> str:
        """Return the key of the chosen row, of the last one while a head has the keyboard; empty when there is none."""
        item = self.tree.currentItem()
        key = str(item.data(0, ID) or "") if item is not None else ""
        return key or (self._last if self._last in self._rows else "")

    def row(self, key: str) -> QTreeWidgetItem | None:
        """Return the row of a component or theme."""
        return self._rows.get(key)

    def choose(self, key: str) -> None:
        """Choose a row; one that is folded away or narrowed out is brought to sight."""
        row = self._rows.get(key)
        if row is None:
            return
        if row.isHidden():
            self.field.clear()
        head = row.parent()
        if head is not None:
            head.setExpanded(True)
        self.tree.setCurrentItem(row)
        there = self._rows.get(key)  # made again where the choice has changed what is listed
        if there is not None:
            self.tree.scrollToItem(there)

    def _current_changed(self, item: QTreeWidgetItem | None) -> None:
        if item is not None and not self._filling and item.data(0, ID):
            self._last = str(item.data(0, ID))
            self.chosen.emit(self._last)

    def lead_on(self, item: QTreeWidgetItem) -> None:
        """Go to the page that a row leads to."""
        if item.data(0, PLACE):
            self.place_opened.emit(str(item.data(0, PLACE)))
        elif item.data(0, ID):
            self.opened.emit()

    def _clicked(self, item: QTreeWidgetItem) -> None:
        if item.data(0, PLACE):
            self.lead_on(item)
        elif not item.data(0, ID) and not self.all_at_hand:
            item.setExpanded(not item.isExpanded())

    def _changed(self, item: QTreeWidgetItem) -> None:
        checked = item.checkState(0) == Qt.CheckState.Checked
        if not self._filling and item.data(0, ID):
            self.ticked.emit(str(item.data(0, ID)), checked)
        elif not self._filling and item is self._heads.get(INSTALLED):
            self.all_ticked.emit(frozenset(self._ids_under(INSTALLED)), checked)

    def _narrow(self, words: str) -> None:
        """Hide the rows that do not have every word in title, kind, readers or files' names."""
        wanted = words.lower().split()
        found = {
            c.id: f"{c.title} {tr(c.kind)} {c.reads} {' '.join((*c.programs, *c.covers))}".lower() for c in COMPONENTS
        }
        for key, row in self._rows.items():
            text = found.get(key, key.lower())
            row.setHidden(not all(word in text for word in wanted))
        if wanted:
            self.tree.scrollToTop()
        for name, head in self._heads.items():
            shown = [head.child(i) for i in range(head.childCount())]
            for row in (row for row in shown if row is not None and row.data(0, PLACE)):
                row.setHidden(not all(word in f"{row.text(0)} {row.toolTip(0)}".lower() for word in wanted))
            head.setHidden(all(row is None or row.isHidden() for row in shown))
            if wanted:
                head.setExpanded(True)
            elif name in _FOLDED:
                current = self.tree.currentItem()
                head.setExpanded(current is not None and current.parent() is head)


def _here(component: Component, presence: dict[str, Presence]) -> bool:
    return presence[component.id].here
