"""A day as a line: light from when to when, and where now is."""

from __future__ import annotations

from datetime import datetime, time

from PyQt6.QtCore import QRectF, QSize, Qt
from PyQt6.QtGui import QPainter, QPaintEvent, QPalette
from PyQt6.QtWidgets import QSizePolicy, QWidget

from ...language import tr

_HIGH = 34
_BAR = 12
_DAY = 24 * 60


class DayLine(QWidget):
    """Shows the light part of a day, in words too; hidden where it is not known."""

    def __init__(self) -> None:
        super().__init__()
        self._light: tuple[time, time] | None = None
        self._now = time(12)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)
        self.setFixedHeight(_HIGH)

    def sizeHint(self) -> QSize:
        """Return the usual size."""
        return QSize(260, _HIGH)

    def show_day(self, light: tuple[time, time] | None, now: datetime) -> None:
        """Show from when to when a day is light; None hides the line."""
        self._light, self._now = light, now.time()
        self.setVisible(light is not None)
        if light is not None:
            words = tr("Light from {start} to {end}").format(start=f"{light[0]:%H:%M}", end=f"{light[1]:%H:%M}")
            self.setAccessibleName(words)
            self.setToolTip(words)
        self.update()

    def paintEvent(self, _event: QPaintEvent | None) -> None:
        """Draw the line, its light part, the two times and now."""
        if self._light is None:
            return
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        role, colours = QPalette.ColorRole, self.palette()
        bar = QRectF(0.5, 1.5, self.width() - 1, _BAR)
        painter.setPen(colours.color(role.Mid))
        painter.setBrush(colours.color(role.Base))
        painter.drawRoundedRect(bar, 4, 4)
        start, end = (self._at(moment) for moment in self._light)
        spans = ((start, end),) if start <= end else ((0.0, end), (start, float(self.width())))
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(colours.color(role.Highlight))
        for left, right in spans:
            painter.drawRoundedRect(QRectF(left, 3, max(2.0, right - left), _BAR - 3), 3, 3)
        painter.setPen(colours.color(role.WindowText))
        now = self._at(self._now)
        painter.drawLine(int(now), 0, int(now), _BAR + 3)
        font = painter.font()
        font.setPointSizeF(font.pointSizeF() * 0.85)
        painter.setFont(font)
        painter.setPen(colours.color(role.WindowText))
        for moment, x in zip(self._light, (start, end), strict=True):
            words = f"{moment:%H:%M}"
            wide = painter.fontMetrics().horizontalAdvance(words)
            left = min(max(0.0, x - wide / 2), self.width() - wide)
            painter.drawText(QRectF(left, _BAR + 3, wide + 2, _HIGH - _BAR - 3), Qt.AlignmentFlag.AlignLeft, words)
        painter.end()

    def _at(self, moment: time) -> float:
        """Return where a time lies, from the side that lines are read from."""
        share = (moment.hour * 60 + moment.minute) / _DAY
        return self.width() * (1 - share if self.isRightToLeft() else share)
