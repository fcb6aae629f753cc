"""The roll call as a wide table: what follows, what was told, what needs the person, and what will not follow."""

from __future__ import annotations

from collections.abc import Mapping

from PyQt6.QtCore import Qt, pyqtSignal
from PyQt6.QtGui import QBrush
from PyQt6.QtWidgets import QHBoxLayout, QHeaderView, QPushButton, QTreeWidget, QTreeWidgetItem, QWidget

from ...language import parted, sentences, titled, tr
from ...session.base import Outsider
from ...wear.rollcall import TITLES, Call, State, counted
from ..kit.clipboard import copy
from ..kit.parts import label, plain_column
from ..kit.style import Style
from ..model.known import Known

_COLUMNS = (tr("Component"), tr("Status"), tr("Why"))
_CALL = Qt.ItemDataRole.UserRole
# How each state is marked and coloured.
_MARKS: Mapping[State, tuple[str, str]] = {
    "follows": ("✓", "good"),
    "told": ("✓", "good"),
    "later": ("○", "quiet"),
    "restart": ("↻", "text"),
    "needs you": ("!", "bad"),
    "differs": ("≠", "bad"),
}


class CallsView(QWidget):
    """Shows the roll call; says what is to be started again."""

    restart_asked = pyqtSignal(str)  # a component
    again_asked = pyqtSignal()

    def __init__(self, style: Style, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self._style = style
        column = plain_column(self, 6)
        column.setContentsMargins(10, 8, 10, 8)
        self.words = label("", "section")
        column.addWidget(self.words)
        self.tree = QTreeWidget()
        self.tree.setAccessibleName(tr("What follows the look, and what does not"))
        self.tree.setColumnCount(len(_COLUMNS))
        self.tree.setHeaderLabels(list(_COLUMNS))
        self.tree.setRootIsDecorated(False)
        self.tree.setUniformRowHeights(True)
        self.tree.setTextElideMode(Qt.TextElideMode.ElideRight)
        header = self.tree.header()
        if header is not None:
            header.setStretchLastSection(True)
            header.setSectionResizeMode(0, QHeaderView.ResizeMode.Interactive)
        self.tree.setColumnWidth(0, 220)
        self.tree.setColumnWidth(1, 190)
        self.tree.currentItemChanged.connect(lambda *_: self._update())
        column.addWidget(self.tree, 1)
        self.why = label("", "quiet")
        self.why.setMinimumHeight(40)
        column.addWidget(self.why)
        row = QHBoxLayout()
        self.restart = QPushButton(tr("Restart"))
        self.restart.setToolTip(
            tr("Restart this panel, bar or notification service; never a program that may hold unsaved work")
        )
        self.restart.clicked.connect(lambda: self.restart_asked.emit(self._component()))
        self.copy = QPushButton(tr("Copy"))
        self.copy.setToolTip(tr("Copy the sentence, including its command"))
        self.copy.clicked.connect(self._copy)
        self.again = QPushButton(tr("Rescan"))
        self.again.setToolTip(tr("Read settings and running programs again"))
        self.again.clicked.connect(self.again_asked)
        for button in (self.restart, self.copy):
            row.addWidget(button)
        row.addStretch(1)
        row.addWidget(self.again)
        column.addLayout(row)
        self._shown: tuple[tuple[Call, ...], tuple[Outsider, ...]] | None = None
        self._update()

    def show_known(self, known: Known) -> None:
        """Show what every component answers, and then what will not follow."""
        if (known.calls, known.outside) == self._shown:
            return
        self._shown = known.calls, known.outside
        chosen = self._component()
        self.tree.clear()
        for call in known.calls:
            mark, colour = _MARKS[call.state]
            item = self._add(call.title, f"{mark}  {TITLES[call.state]}", call.words, colour)
            item.setData(0, _CALL, call)
            if call.component == chosen:
                self.tree.setCurrentItem(item)
        for row in known.outside:
            words = titled(parted(row.names), sentences(row.why, row.cure))
            self._add(row.title, tr("✗  Will not follow"), words, "quiet")
        self.words.setText(counted(known.calls) or tr("Nothing is applied yet"))
        self._update()

    def _add(self, title: str, state: str, words: str, colour: str) -> QTreeWidgetItem:
        item = QTreeWidgetItem([title, state, words])
        item.setForeground(1, QBrush(self._style.c(colour)))
        item.setToolTip(2, words)
        self.tree.addTopLevelItem(item)
        return item

    def _component(self) -> str:
        item = self.tree.currentItem()
        call: Call | None = item.data(0, _CALL) if item is not None else None
        return call.component if call is not None else ""

    def _update(self) -> None:
        item = self.tree.currentItem()
        call: Call | None = item.data(0, _CALL) if item is not None else None
        self.restart.setEnabled(call is not None and call.restarts)
        self.copy.setEnabled(item is not None)
        self.why.setText(item.text(2) if item is not None else tr("Select a row to read all of it."))

    def _copy(self) -> None:
        item = self.tree.currentItem()
        if item is not None:
            copy(item.text(2))
