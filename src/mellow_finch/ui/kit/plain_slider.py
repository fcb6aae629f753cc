"""A slider for a figure: its title and value above, one gesture a drag, and a mark for the least that reads."""

from __future__ import annotations

from PyQt6.QtCore import QPointF, Qt, pyqtSignal
from PyQt6.QtGui import QPainter, QPaintEvent, QPen, QPolygonF
from PyQt6.QtWidgets import QGridLayout, QWidget

from ...language import spelled
from .fields import Slider
from .parts import label, mirrored
from .style import Style

_STEPS = 200


class _Marked(Slider):
    """A slider with a mark for the least value that still reads, told by a wedge and a line up to it."""

    def __init__(self, style: Style) -> None:
        super().__init__()
        self._style = style
        self.least: float | None = None  # 0..1 of the range

    def paintEvent(self, event: QPaintEvent | None) -> None:
        """Paint the slider, then the mark."""
        super().paintEvent(event)
        if self.least is None:
            return
        p = QPainter(self)
        p.setRenderHint(QPainter.RenderHint.Antialiasing)
        mirrored(p, self.width())
        x = 7 + self.least * (self.width() - 14)
        y = self.height() / 2
        p.setPen(QPen(self._style.c("bad"), 3))
        p.drawLine(QPointF(2, y + 11), QPointF(x, y + 11))
        p.setPen(Qt.PenStyle.NoPen)
        p.setBrush(self._style.c("bad"))
        p.drawPolygon(QPolygonF([QPointF(x, y + 4), QPointF(x + 4, y + 11), QPointF(x - 4, y + 11)]))


class PlainSlider(QWidget):
    """Emits moved with the value; began before the first of a gesture."""

    began = pyqtSignal()
    moved = pyqtSignal(float)

    def __init__(self, style: Style, title: str, low: float, high: float, tip: str = "") -> None:
        super().__init__()
        self.low, self.high = low, high
        self._telling = True
        grid = QGridLayout(self)
        grid.setContentsMargins(0, 0, 0, 0)
        grid.setVerticalSpacing(0)
        self.title = label(title, wrap=False)
        self.figure = label("", "quiet", wrap=False)
        self.slider = _Marked(style)
        self.slider.setRange(0, _STEPS)
        self.slider.setPageStep(_STEPS // 10)
        self.slider.setAccessibleName(title)
        self.slider.setAccessibleDescription(tip)
        self.slider.setMinimumHeight(26)
        self.setToolTip(tip)
        grid.addWidget(self.title, 0, 0)
        grid.addWidget(self.figure, 0, 1, Qt.AlignmentFlag.AlignRight)
        grid.addWidget(self.slider, 1, 0, 1, 2)
        self.slider.sliderPressed.connect(self.began)
        self.slider.valueChanged.connect(self._changed)

    def _changed(self, step: int) -> None:
        value = self.low + (self.high - self.low) * step / _STEPS
        self.figure.setText(self._words(value))
        if self._telling:
            if not self.slider.isSliderDown():
                self.began.emit()  # a key or a click on the groove is a gesture of its own
            self.moved.emit(value)

    def _words(self, value: float) -> str:
        return spelled(f"{value:+.2f}" if self.low < 0 else f"{value:.0%}")

    def value(self) -> float:
        """Return the value shown."""
        return self.low + (self.high - self.low) * self.slider.value() / _STEPS

    def show_value(self, value: float) -> None:
        """Show a value without telling anybody."""
        self._telling = False
        self.slider.setValue(round((value - self.low) / (self.high - self.low) * _STEPS))
        self.figure.setText(self._words(value))
        self._telling = True

    def show_least(self, least: float | None) -> None:
        """Mark the least value that still reads, nothing when None."""
        share = None if least is None else (least - self.low) / (self.high - self.low)
        if share != self.slider.least:
            self.slider.least = share
            self.slider.update()
