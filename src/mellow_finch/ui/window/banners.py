"""What the window tells unasked: it lies over the top of the centre, so that nothing moves under a pointer."""

from __future__ import annotations

from collections.abc import Iterable

from PyQt6.QtCore import QEvent, QObject, QPoint, Qt
from PyQt6.QtWidgets import QFrame, QHBoxLayout, QToolButton, QVBoxLayout, QWidget

from ...language import tr
from ..kit.parts import label

_AWAY, _WIDEST = 10, 760  # px from the edges of what it lies over, and of its width
_EDGE = 1
_TELLING = (QEvent.Type.ShowToParent, QEvent.Type.HideToParent)
_LAID = (QEvent.Type.Resize, QEvent.Type.Move)


class Notice(QWidget):
    """A sentence about what went wrong, until it is dismissed or something else is done."""

    def __init__(self) -> None:
        super().__init__()
        row = QHBoxLayout(self)
        row.setContentsMargins(14, 6, 8, 6)
        self.words = label("", "bad")
        self.dismiss = QToolButton()
        self.dismiss.setText("×")
        self.dismiss.setProperty("bare", True)
        self.dismiss.setStyleSheet("font-size: 14pt;")
        self.dismiss.setFixedSize(30, 28)
        self.dismiss.setToolTip(tr("Dismiss"))
        self.dismiss.setAccessibleName(tr("Dismiss"))
        self.dismiss.clicked.connect(self.words.hide)
        row.addWidget(self.words, 1)
        row.addWidget(self.dismiss, 0, Qt.AlignmentFlag.AlignTop)
        self.words.installEventFilter(self)
        self.words.hide()
        self.hide()

    def eventFilter(self, watched: QObject | None, event: QEvent | None) -> bool:
        """Come and go with the words."""
        if watched is self.words and event is not None and event.type() in _TELLING:
            self.setVisible(not self.words.isHidden())
        return False


class Banners(QFrame):
    """Shown as long as any of its rows is; as wide as they need, over the middle of a widget's top."""

    def __init__(self, parent: QWidget, over: QWidget, rows: Iterable[QWidget]) -> None:
        super().__init__(parent)
        self.setObjectName("popover")
        self._over, self._rows = over, tuple(rows)
        column = QVBoxLayout(self)
        column.setContentsMargins(1, 1, 1, 1)
        column.setSpacing(0)
        for row in self._rows:
            column.addWidget(row)
            row.installEventFilter(self)
        over.installEventFilter(self)
        self.hide()

    def event(self, event: QEvent | None) -> bool:
        """Take another size when a row has other words."""
        done = super().event(event)
        if event is not None and event.type() == QEvent.Type.LayoutRequest:
            self._fit()
        return done

    def eventFilter(self, watched: QObject | None, event: QEvent | None) -> bool:
        """Follow the rows and what it lies over."""
        kind = event.type() if event is not None else QEvent.Type.None_
        if kind in _TELLING if watched is not self._over else kind in _LAID:
            self._fit()
        return False

    def _fit(self) -> None:
        told = any(not row.isHidden() for row in self._rows)
        layout, parent = self.layout(), self.parentWidget()
        if told and layout is not None and parent is not None:
            wide = min(max(self.sizeHint().width(), _WIDEST), self._over.width() - 2 * _AWAY)
            high = layout.heightForWidth(wide) if layout.hasHeightForWidth() else layout.sizeHint().height()
            high += 2 * _EDGE  # which the style sheet draws inside of it
            at = self._over.mapTo(parent, QPoint((self._over.width() - wide) // 2, _AWAY))
            self.setGeometry(at.x(), at.y(), wide, high)
            self.raise_()
        self.setVisible(told)
