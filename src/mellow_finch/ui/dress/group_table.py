"""Groups of colours as a wide table: sorted, narrowed, several mapped at once, roles dropped on them."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from functools import partial

from PyQt6.QtCore import QPoint, QSize, Qt, pyqtSignal
from PyQt6.QtGui import (
    QAction,
    QDragEnterEvent,
    QDragMoveEvent,
    QDropEvent,
    QIcon,
    QKeyEvent,
)
from PyQt6.QtWidgets import QAbstractItemView, QHeaderView, QLineEdit, QMenu, QTreeWidget, QTreeWidgetItem, QWidget

from ...colour.rgb import Rgba
from ...components.decisions import Slot
from ...language import groups_in, isolated, parted, states, tr
from ...palette.roles import ROLE_BY_ID, ROLES
from ...recolour.groups import KEEP
from ..kit.drag import carries_colour, dropped_choice
from ..kit.parts import label, plain_column, swatch
from ..kit.style import Style
from ..model.choosing import AskColour
from .group_list import ColourGroup

_COLUMNS = (tr("Before"), tr("After"), tr("Role"), tr("Occurrences"), tr("Files"), tr("Why"))
_KEY = int(Qt.ItemDataRole.UserRole)
_SWATCH = QSize(34, 18)


class _Item(QTreeWidgetItem):
    """One group; numbers are sorted as numbers."""

    def __lt__(self, other: QTreeWidgetItem) -> bool:
        tree = self.treeWidget()
        column = tree.sortColumn() if tree is not None else 0
        mine, its = self.data(column, _KEY + 1), other.data(column, _KEY + 1)
        return bool(mine < its) if mine is not None and its is not None else self.text(column) < other.text(column)


class _Tree(QTreeWidget):
    """The rows; roles of the ribbon can be dropped on them."""

    dropped = pyqtSignal(object, str)  # keys, role
    menu_asked = pyqtSignal(QPoint)

    def __init__(self) -> None:
        super().__init__()
        self.setAcceptDrops(True)
        self.setContextMenuPolicy(Qt.ContextMenuPolicy.CustomContextMenu)
        self.customContextMenuRequested.connect(self.menu_asked)

    def keys(self) -> list[Slot]:
        """Return the keys of the chosen rows, in the order of the table."""
        rows = sorted(self.selectedItems(), key=self.indexOfTopLevelItem)
        return [Slot(*row.data(0, _KEY)) for row in rows]

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        """Offer what the chosen rows can be."""
        if event is not None and event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Space) and self.selectedItems():
            self.menu_asked.emit(self.visualItemRect(self.selectedItems()[0]).bottomLeft())
        else:
            super().keyPressEvent(event)

    def dragEnterEvent(self, event: QDragEnterEvent | None) -> None:
        """Take roles."""
        if event is not None and carries_colour(event):
            event.acceptProposedAction()

    def dragMoveEvent(self, event: QDragMoveEvent | None) -> None:
        """Take them on rows."""
        if event is not None and self.itemAt(event.position().toPoint()) is not None:
            event.acceptProposedAction()
        elif event is not None:
            event.ignore()

    def dropEvent(self, event: QDropEvent | None) -> None:
        """Give the row, or all chosen ones when it is one of them, the role that was dropped."""
        item = self.itemAt(event.position().toPoint()) if event is not None else None
        role = dropped_choice(event)
        if event is not None and item is not None and role:
            self.dropped.emit(self.keys() if item.isSelected() else [Slot(*item.data(0, _KEY))], role)
            event.acceptProposedAction()


class GroupTable(QWidget):
    """Shows groups; says what is asked of them."""

    asked = pyqtSignal(object, str)  # keys, and a role, "keep", or nothing for the guess
    split_asked = pyqtSignal(str, bool)
    pointed = pyqtSignal(str)  # a role

    def __init__(self, style: Style, ask_colour: AskColour, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self._style, self._ask = style, ask_colour
        self._rows: dict[Slot, ColourGroup] = {}
        column = plain_column(self, 6)
        column.setContentsMargins(10, 8, 10, 8)
        self.field = QLineEdit()
        self.field.setPlaceholderText(tr("Filter by colour, role or reason"))
        self.field.setAccessibleName(tr("Filter the groups of colours"))
        self.field.setClearButtonEnabled(True)
        self.field.textChanged.connect(lambda _: self._narrow())
        column.addWidget(self.field)
        self.words = label("", "quiet")
        column.addWidget(self.words)
        self.tree = _Tree()
        self.tree.setAccessibleName(tr("Groups of colours"))
        self.tree.setColumnCount(len(_COLUMNS))
        self.tree.setHeaderLabels(list(_COLUMNS))
        self.tree.setRootIsDecorated(False)
        self.tree.setUniformRowHeights(True)
        self.tree.setIconSize(_SWATCH)
        self.tree.setSelectionMode(QAbstractItemView.SelectionMode.ExtendedSelection)
        self.tree.setSortingEnabled(True)
        self.tree.sortByColumn(3, Qt.SortOrder.DescendingOrder)
        header = self.tree.header()
        if header is not None:
            header.setSectionResizeMode(5, QHeaderView.ResizeMode.Stretch)
        for i, wide in enumerate((140, 140, 190, 76, 70)):
            self.tree.setColumnWidth(i, max(wide, header.sectionSizeHint(i) if header is not None else 0))
        self.tree.dropped.connect(self.asked)
        self.tree.menu_asked.connect(self._open_menu)
        self.tree.itemSelectionChanged.connect(self._point)
        column.addWidget(self.tree, 1)

    def show_rows(self, rows: Sequence[ColourGroup]) -> None:
        """Show groups; what is chosen stays chosen."""
        if list(self._rows.values()) == list(rows):
            return
        chosen = set(self.tree.keys())
        self._rows = {row.key: row for row in rows}
        self.tree.blockSignals(True)
        self.tree.setSortingEnabled(False)
        self.tree.clear()
        for row in rows:
            why = tr("your choice") if row.chosen else row.reason
            item = _Item(
                [isolated(row.old.hex), isolated(row.new.hex), row.words, str(row.places), str(row.files), why]
            )
            item.setData(0, _KEY, row.key)
            for i, value in ((0, row.old.hex), (3, row.places), (4, row.files)):
                item.setData(i, _KEY + 1, value)
            item.setIcon(0, self._swatch(row.old))
            item.setIcon(1, self._swatch(row.new))
            shades = parted(f"{c.hex}{f' ({states(state)})' if state else ''}" for c, state in row.shades[:8])
            item.setToolTip(0, tr("Its shades: {shades}").format(shades=shades) if shades else "")
            self.tree.addTopLevelItem(item)
            item.setSelected(row.key in chosen)
        self.tree.setSortingEnabled(True)
        self.tree.blockSignals(False)
        self._narrow()

    def _swatch(self, colour: Rgba) -> QIcon:
        return swatch(colour, _SWATCH, self._style.c("edge"), self.devicePixelRatioF())

    def _narrow(self) -> None:
        wanted = self.field.text().lower().split()
        shown = 0
        for i in range(self.tree.topLevelItemCount()):
            item = self.tree.topLevelItem(i)
            if item is not None:
                text = " ".join(item.text(column) for column in range(len(_COLUMNS))).lower()
                item.setHidden(not all(word in text for word in wanted))
                shown += not item.isHidden()
        places = sum(row.places for row in self._rows.values())
        every = groups_in(len(self._rows), places)
        found = every if shown == len(self._rows) else tr("{shown} of {every}").format(shown=shown, every=every)
        self.words.setText(
            tr("{groups}. Drop a role from the ribbon on one, or on several selected.").format(groups=found)
        )

    def _point(self) -> None:
        keys = self.tree.keys()
        row = self._rows.get(keys[0]) if len(keys) == 1 else None
        if row is not None and row.role in ROLE_BY_ID:
            self.pointed.emit(row.role)

    def menu(self) -> QMenu:
        """Return what can be done with the chosen rows."""
        menu = QMenu(self)
        keys = self.tree.keys()
        rows = [self._rows[key] for key in keys]

        def add(words: str, run: Callable[[], object], to: QMenu) -> None:
            action = QAction(words, to)
            action.triggered.connect(lambda _=False: run())
            to.addAction(action)

        add(
            tr("Keep as they are") if len(rows) > 1 else tr("Keep as it is"),
            lambda: self.asked.emit(keys, KEEP),
            menu,
        )
        add(tr("A separate colour …"), lambda: self._ask_colour(keys), menu)
        others = [key for key in self._rows if key not in keys]
        if others:
            add(
                tr("Change only these") if len(rows) > 1 else tr("Change only this"),
                lambda: self._change_only(others),
                menu,
            )
        if any(row.chosen for row in rows):
            add(tr("As suggested"), lambda: self.asked.emit(keys, ""), menu)
        if len(rows) == 1 and rows[0].split:
            add(tr("Merge again"), lambda: self.split_asked.emit(keys[0].key, False), menu)
        elif len(rows) == 1 and rows[0].may_split:
            add(tr("Split"), lambda: self.split_asked.emit(keys[0].key, True), menu)
        menu.addSeparator()
        for group in dict.fromkeys(r.group for r in ROLES):
            inner = menu.addMenu(group)
            for role in (r for r in ROLES if r.group == group):
                if inner is not None:
                    add(role.title, partial(self.asked.emit, keys, role.id), inner)
        return menu

    def _ask_colour(self, keys: list[Slot]) -> None:
        self._ask(self.tree, self._rows[keys[0]].new, lambda colour: self.asked.emit(keys, colour.hex))

    def _change_only(self, others: list[Slot]) -> None:
        self.asked.emit(others, KEEP)

    def _open_menu(self, at: QPoint) -> None:
        view = self.tree.viewport()
        if self.tree.selectedItems() and view is not None:
            menu = self.menu()
            menu.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)
            menu.popup(view.mapToGlobal(at))
