"""A slider that knows: its track shows the colours that it would give, and where a pair would become unreadable."""

from __future__ import annotations

from collections.abc import Callable

import numpy as np
from numpy.typing import NDArray
from PyQt6.QtCore import QEvent, QPointF, QRectF, QSize, Qt, pyqtSignal
from PyQt6.QtGui import (
    QColor,
    QHelpEvent,
    QImage,
    QKeyEvent,
    QMouseEvent,
    QPainter,
    QPainterPath,
    QPaintEvent,
    QPen,
    QWheelEvent,
)
from PyQt6.QtWidgets import QSizePolicy, QSlider, QToolTip, QWidget

from ...colour.gamut import fit_chroma, in_gamut
from ...colour.spaces import Array, oklab_to_srgb, oklch_to_oklab
from ...language import decimal, listed, right_to_left, tr
from ...palette.limits import Limits, stopped
from .parts import mirrored, sideways
from .style import Style

SAMPLES = 160
_STRIP = 7.0  # height of the strip under the track that marks where pairs would fail


class ColourSlider(QSlider):
    """One axis of OKLCH.

    Stretches outside sRGB are struck through; stretches where a pair would fail have a strip of crosses under them,
    and hovering says which pair. Dragging stops at the edge of such a stretch; holding Ctrl passes it. To those who
    do not see it, it is told as a slider of so many steps, with the value and how far it may go as its description.
    """

    moved = pyqtSignal(float)
    taken = pyqtSignal()
    let_go = pyqtSignal()

    def __init__(
        self, style: Style, name: str, low: float, high: float, step: float, parent: QWidget | None = None
    ) -> None:
        super().__init__(Qt.Orientation.Horizontal, parent)
        self._style, self.low, self.high, self.step = style, low, high, step
        self.now = low
        self.setRange(0, round((high - low) / step))
        self.valueChanged.connect(self._asked)
        self.values: Array = np.linspace(low, high, SAMPLES)
        self._track: QImage | None = None
        self._outside: NDArray[np.bool_] = np.zeros(SAMPLES, dtype=bool)
        self._limits: Limits | None = None
        self._start = low  # where the gesture began
        self._telling = False  # whether the toolkit is being told the value, and asks for nothing
        self._name = name
        self.setAccessibleName(name)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)
        self.setMouseTracking(True)

    def sizeHint(self) -> QSize:
        """Return a slider's size."""
        return QSize(180, 38)

    def set(self, value: float, path: Callable[[Array], Array], judge: Callable[[Array], Limits] | None = None) -> None:
        """Show a value and the colours along the axis.

        path: gives (n, 3) OKLCH for (n,) values; judge: tells how the role's pairs fare along such colours.
        """
        self.now = value
        lch = path(self.values)
        self._outside = ~in_gamut(lch)
        fitted = fit_chroma(lch)
        data = np.rint(np.clip(oklab_to_srgb(oklch_to_oklab(fitted)), 0, 1) * 255).astype(np.uint8)
        self._track = QImage(data.tobytes(), SAMPLES, 1, SAMPLES * 3, QImage.Format.Format_RGB888).copy()
        self._limits = judge(fitted) if judge is not None else None
        self._describe()
        self.update()

    def place(self, value: float) -> None:
        """Show another value on the same track."""
        self.now = value
        self._describe()
        self.update()

    def _describe(self) -> None:
        good = self._limits.good if self._limits is not None else np.ones(SAMPLES, dtype=bool)
        edges = np.flatnonzero(np.diff(good.astype(int)))
        digits = 0 if self.high > 1 else 3
        words = decimal(self.now, digits)
        if len(edges):
            words = tr("{value}, readable up to {ends}").format(
                value=words, ends=listed([decimal(self.values[i], digits) for i in edges])
            )
        self.setAccessibleDescription(words)
        self._telling = True
        self.setValue(round((self.now - self.low) / self.step))
        self._telling = False

    def _asked(self, steps: int) -> None:
        """Go where a screen reader, or a key that the toolkit knows, asks for."""
        if not self._telling:
            self.begin()
            self._go(self.low + steps * self.step, free=False)
            self.let_go.emit()

    def reason_at(self, value: float) -> str:
        """Return which pair would fail at a value, empty when none would."""
        if self._limits is None:
            return ""
        return self._limits.reason(int(np.abs(self.values - value).argmin()))

    def _box(self) -> QRectF:
        return QRectF(10, 5, self.width() - 20, self.height() - 10 - _STRIP)

    def paintEvent(self, event: QPaintEvent | None) -> None:
        """Paint track, stretches and handle."""
        p = QPainter(self)
        p.setRenderHints(QPainter.RenderHint.Antialiasing | QPainter.RenderHint.SmoothPixmapTransform)
        mirrored(p, self.width())
        box = self._box()
        clip = QPainterPath()
        clip.addRoundedRect(box, 5, 5)
        if self._track is not None:
            p.save()
            p.setClipPath(clip)
            p.drawImage(box, self._track)
            self._strike(p, box)
            p.restore()
        p.setPen(QPen(self._style.c("edge"), 1))
        p.setBrush(Qt.BrushStyle.NoBrush)
        p.drawPath(clip)
        self._cross(p, box)
        x = box.x() + (self.now - self.low) / (self.high - self.low) * box.width()
        handle = QRectF(x - 6, 1, 12, box.height() + 8)
        p.setPen(QPen(self._style.c("accent" if self.hasFocus() else "text"), 2.4))
        p.setBrush(self._style.c("raised"))
        p.drawRoundedRect(handle, 5, 5)

    def _strike(self, p: QPainter, box: QRectF) -> None:
        """Strike through the stretches that sRGB does not reach."""
        width = box.width() / SAMPLES
        p.setPen(QPen(QColor(0, 0, 0, 150), 1.2))
        for i in np.flatnonzero(self._outside):
            x = box.x() + float(i) * width
            if int(x) % 6 < width:
                p.drawLine(QPointF(x, box.bottom()), QPointF(x + 6, box.top()))

    def _cross(self, p: QPainter, box: QRectF) -> None:
        """Draw a strip of crosses under the stretches where a pair would fail, and a stop at each of their ends."""
        if self._limits is None or self._limits.good.all():
            return
        bad = ~self._limits.good
        width = box.width() / SAMPLES
        ends = np.flatnonzero(np.diff(np.concatenate([[0], bad.astype(int), [0]])))
        top, bottom = box.bottom() + 2, box.bottom() + _STRIP
        p.setPen(QPen(self._style.c("bad"), 1.4))
        for start, end in zip(ends[::2].tolist(), ends[1::2].tolist(), strict=True):
            left, right = box.x() + start * width, box.x() + end * width
            x = left + 3
            while x + 4 <= right - 1:
                p.drawLine(QPointF(x, top + 0.5), QPointF(x + 4, bottom - 0.5))
                p.drawLine(QPointF(x, bottom - 0.5), QPointF(x + 4, top + 0.5))
                x += 8
            for stop, is_end in ((left, start > 0), (right, end < SAMPLES)):
                if is_end:
                    p.drawLine(QPointF(stop, box.top()), QPointF(stop, bottom + 1))

    def _go(self, value: float, free: bool) -> None:
        value = min(self.high, max(self.low, value))
        if not free and self._limits is not None:
            value = stopped(self.values, self._limits.good, self._start, value)
        self.moved.emit(value)

    def value_at(self, x: float) -> float:
        """Return the value under a place of the widget; low is where a line begins in the language."""
        box = self._box()
        x = self.width() - x if right_to_left() else x
        return self.low + (x - box.x()) / box.width() * (self.high - self.low)

    def begin(self) -> None:
        """Begin a gesture: its stops are reckoned from the value there is now."""
        self._start = self.now
        self.taken.emit()

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        """Begin a drag."""
        if event is not None and event.button() == Qt.MouseButton.LeftButton:
            self.begin()
            self._go(self.value_at(event.position().x()), _free(event))

    def mouseMoveEvent(self, event: QMouseEvent | None) -> None:
        """Drag."""
        if event is not None and event.buttons() & Qt.MouseButton.LeftButton:
            self._go(self.value_at(event.position().x()), _free(event))

    def mouseReleaseEvent(self, event: QMouseEvent | None) -> None:
        """End a drag."""
        self.let_go.emit()

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        """Move by a step, by ten with Shift; past an edge with Ctrl."""
        if event is None:
            return
        sign = sideways(event) or {Qt.Key.Key_Down: -1, Qt.Key.Key_Up: 1}.get(Qt.Key(event.key()), 0)
        if not sign:
            super().keyPressEvent(event)
            return
        far = 10 if event.modifiers() & Qt.KeyboardModifier.ShiftModifier else 1
        self.begin()
        self._go(self.now + sign * self.step * far, _free(event))
        self.let_go.emit()

    def wheelEvent(self, event: QWheelEvent | None) -> None:
        """Leave the wheel to the page."""
        if event is not None:
            event.ignore()

    def event(self, event: QEvent | None) -> bool:
        """Say which pair would fail where the pointer rests."""
        if isinstance(event, QHelpEvent) and event.type() == QEvent.Type.ToolTip:
            value = self.value_at(event.pos().x())
            words = self.reason_at(value)
            if words:
                words = "\n".join([words, tr("Hold Ctrl to go past it.")])
            elif self._outside[int(np.abs(self.values - value).argmin())]:
                words = tr("Screens cannot show this colour: it would appear less colourful")
            QToolTip.showText(event.globalPos(), words, self)
            return True
        return super().event(event)


def _free(event: QMouseEvent | QKeyEvent) -> bool:
    return bool(event.modifiers() & Qt.KeyboardModifier.ControlModifier)
