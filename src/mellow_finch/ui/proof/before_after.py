"""A program's picture as large as there is room: before at one side of a line, with the look at the other."""

from __future__ import annotations

from collections.abc import Sequence

from PyQt6.QtCore import QPointF, QRectF, QSize, Qt, pyqtSignal
from PyQt6.QtGui import QColor, QFont, QImage, QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QPen
from PyQt6.QtWidgets import QSizePolicy, QWidget

from ...language import tr
from ..kit.parts import sideways
from ..kit.style import FAMILY, Style

_STEP = 0.05
_GRIP = 11.0
_MARGIN = 4.0


class BeforeAfter(QWidget):
    """Shows two pictures of one size with a line between that is dragged, and marks places on the second."""

    place_chosen = pyqtSignal(int)  # the number of the place that was clicked

    def __init__(self, style: Style, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self._style = style
        self._before, self._after = QImage(), QImage()
        self._places: Sequence[tuple[int, int, int, int]] = ()
        self._chosen = -1
        self.at = 0.0  # where the line is, a share of the width; 0 shows the picture with the look alone
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Expanding)
        self.setMinimumSize(320, 220)
        self.setAccessibleName(tr("Before, and with the look"))

    def sizeHint(self) -> QSize:
        """Return a size that fills the centre."""
        return QSize(760, 500)

    def show_pair(self, before: QImage, after: QImage, places: Sequence[tuple[int, int, int, int]]) -> None:
        """Show other pictures. places: boxes in pixels of the second."""
        self._before, self._after, self._places, self._chosen = before, after, places, -1
        self.at = 0.0 if before.isNull() else self.at or 0.35
        self.update()

    def choose(self, number: int) -> None:
        """Mark one place more strongly."""
        self._chosen = number
        self.update()

    def _frame(self) -> QRectF:
        """Return where the pictures are drawn."""
        room = QRectF(self.rect()).adjusted(_MARGIN, _MARGIN, -_MARGIN, -_MARGIN)
        size = self._after.size()
        if size.isEmpty():
            return room
        scale = min(room.width() / size.width(), room.height() / size.height(), 2.0)
        wide, high = size.width() * scale, size.height() * scale
        return QRectF(room.center().x() - wide / 2, room.center().y() - high / 2, wide, high)

    def paintEvent(self, event: QPaintEvent | None) -> None:
        """Paint both, the line and the places."""
        p = QPainter(self)
        p.setRenderHints(QPainter.RenderHint.SmoothPixmapTransform | QPainter.RenderHint.Antialiasing)
        s, frame = self._style, self._frame()
        if self._after.isNull():
            return
        p.drawImage(frame, self._after)
        scale = frame.width() / self._after.width()
        self._paint_places(p, frame, scale)
        if not self._before.isNull():
            x = frame.x() + frame.width() * self.at
            p.save()
            p.setClipRect(QRectF(frame.x(), frame.y(), x - frame.x(), frame.height()))
            p.drawImage(frame, self._before)
            p.restore()
            p.setPen(QPen(QColor(0, 0, 0, 170), 4))
            p.drawLine(QPointF(x, frame.y()), QPointF(x, frame.bottom()))
            p.setPen(QPen(QColor(255, 255, 255), 2))
            p.drawLine(QPointF(x, frame.y()), QPointF(x, frame.bottom()))
            p.setBrush(s.c("accent"))
            p.drawEllipse(QPointF(x, frame.center().y()), _GRIP, _GRIP)
            if self.at > 0.16:
                self._say(p, tr("Before"), frame.left() + 8, frame)
            if self.at < 0.8:
                self._say(p, tr("With the look"), -frame.right() + 8, frame)
        p.setPen(QPen(s.c("accent" if self.hasFocus() else "edge"), 2 if self.hasFocus() else 1))
        p.setBrush(Qt.BrushStyle.NoBrush)
        p.drawRect(frame)

    def _paint_places(self, p: QPainter, frame: QRectF, scale: float) -> None:
        p.setBrush(Qt.BrushStyle.NoBrush)
        for number, (x, y, wide, high) in enumerate(self._places):
            box = QRectF(frame.x() + x * scale, frame.y() + y * scale, wide * scale, high * scale)
            box = box.adjusted(-4, -4, 4, 4)
            strong = number == self._chosen
            p.setPen(QPen(QColor(255, 255, 255), 5 if strong else 4))
            p.drawRoundedRect(box, 5, 5)
            p.setPen(QPen(QColor(200, 20, 40), 3 if strong else 2))
            p.drawRoundedRect(box, 5, 5)

    def _say(self, p: QPainter, words: str, x: float, frame: QRectF) -> None:
        """Write a word at the lower edge; x below zero: so far from the right."""
        font = QFont(FAMILY)
        font.setPointSizeF(10)
        p.setFont(font)
        wide = p.fontMetrics().horizontalAdvance(words) + 16
        left = x if x >= 0 else -x - wide
        box = QRectF(left, frame.bottom() - 32, wide, 24)
        p.setPen(Qt.PenStyle.NoPen)
        p.setBrush(QColor(0, 0, 0, 190))
        p.drawRoundedRect(box, 5, 5)
        p.setPen(QColor(255, 255, 255))
        p.drawText(box, Qt.AlignmentFlag.AlignCenter, words)

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        """Take the line, or choose a place."""
        if event is None or self._after.isNull():
            return
        spot, frame = event.position(), self._frame()
        scale = frame.width() / self._after.width()
        for number, (x, y, wide, high) in enumerate(self._places):
            box = QRectF(frame.x() + x * scale - 4, frame.y() + y * scale - 4, wide * scale + 8, high * scale + 8)
            if box.contains(spot):
                self.place_chosen.emit(number)
                return
        self._move(spot.x())

    def mouseMoveEvent(self, event: QMouseEvent | None) -> None:
        """Drag the line."""
        if event is not None and event.buttons() & Qt.MouseButton.LeftButton:
            self._move(event.position().x())

    def _move(self, x: float) -> None:
        frame = self._frame()
        if not self._before.isNull() and frame.width() > 0:
            self.at = min(1.0, max(0.0, (x - frame.x()) / frame.width()))
            self.update()

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        """Move the line by the arrow keys."""
        step = sideways(event)
        if step and not self._before.isNull():
            self.at = min(1.0, max(0.0, self.at + step * _STEP))
            self.update()
            return
        super().keyPressEvent(event)
