"""Colours to choose from as a grid of small areas: one stop for the keyboard, each told by its name."""

from __future__ import annotations

from collections.abc import Sequence

from PyQt6.QtCore import QSize, Qt, pyqtSignal
from PyQt6.QtGui import QKeyEvent
from PyQt6.QtWidgets import QListView, QListWidget, QListWidgetItem

from ....colour.rgb import Rgba
from ....language import isolated
from ..parts import swatch
from ..style import Style

_CELL = 24  # px, of what is clicked: WCAG 2.2, 2.5.8
_AREA = QSize(20, 20)
_COLOUR = Qt.ItemDataRole.UserRole


class SwatchGrid(QListWidget):
    """Shows named colours in rows; a click, Enter or Space takes one."""

    taken = pyqtSignal(object)  # Rgba

    def __init__(self, style: Style, name: str, across: int) -> None:
        super().__init__()
        self._style, self._across = style, across
        self.setAccessibleName(name)
        self.setProperty("swatches", True)
        self.setViewMode(QListView.ViewMode.IconMode)
        self.setMovement(QListView.Movement.Static)
        self.setResizeMode(QListView.ResizeMode.Fixed)
        self.setSpacing(0)
        self.setGridSize(QSize(_CELL, _CELL))
        self.setIconSize(_AREA)
        self.setUniformItemSizes(True)
        for bar in (self.setHorizontalScrollBarPolicy, self.setVerticalScrollBarPolicy):
            bar(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.itemClicked.connect(self._take)

    def show_colours(self, rows: Sequence[tuple[str, Rgba]]) -> None:
        """Show other colours, each with its name; hidden where there are none."""
        self.clear()
        for name, colour in rows:
            item = QListWidgetItem(swatch(colour, _AREA, self._style.c("edge"), self.devicePixelRatioF()), "")
            words = f"{name}  {isolated(colour.hex)}" if name else colour.hex
            item.setToolTip(words)
            item.setData(Qt.ItemDataRole.AccessibleTextRole, words)
            item.setData(_COLOUR, tuple(colour))
            item.setSizeHint(QSize(_CELL, _CELL))
            self.addItem(item)
        high = -(-len(rows) // self._across)
        self.setFixedSize(self._across * _CELL + 6, max(1, high) * _CELL + 6)
        self.setVisible(bool(rows))

    def _take(self, item: QListWidgetItem) -> None:
        self.taken.emit(Rgba(*item.data(_COLOUR)))

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        """Take the colour at hand by Space or Enter; Enter goes on to what holds the grid."""
        if event is not None and event.key() in (Qt.Key.Key_Space, Qt.Key.Key_Return, Qt.Key.Key_Enter):
            item = self.currentItem()
            if item is not None:
                self._take(item)
            event.setAccepted(event.key() == Qt.Key.Key_Space)
            return
        super().keyPressEvent(event)
