"""A slider whose track shows the colours that it would give."""

from __future__ import annotations

from collections.abc import Callable

import numpy as np
from PyQt6.QtCore import QPointF, QRectF, QSize, Qt, pyqtSignal
from PyQt6.QtGui import QColor, QImage, QKeyEvent, QMouseEvent, QPainter, QPainterPath, QPaintEvent, QPen
from PyQt6.QtWidgets import QSizePolicy, QWidget

from ..colour.gamut import fit_chroma, in_gamut
from ..colour.spaces import Array, oklab_to_srgb, oklch_to_oklab
from .style import Style

_SAMPLES = 128


class ColourSlider(QWidget):
    """One axis of OKLCH. `path` gives (n, 3) OKLCH for (n,) values of the axis; stretches outside sRGB are hatched."""

    moved = pyqtSignal(float)
    pressed = pyqtSignal()
    released = pyqtSignal()

    def __init__(
        self, style: Style, name: str, low: float, high: float, step: float, parent: QWidget | None = None
    ) -> None:
        super().__init__(parent)
        self._style, self.low, self.high, self.step = style, low, high, step
        self.value = low
        self._track: QImage | None = None
        self._outside: Array = np.zeros(_SAMPLES)
        self.setAccessibleName(name)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)

    def sizeHint(self) -> QSize:
        """Return a slider's size."""
        return QSize(180, 34)

    def set(self, value: float, path: Callable[[Array], Array]) -> None:
        """Show a value and the colours along the axis."""
        self.value = value
        lch = path(np.linspace(self.low, self.high, _SAMPLES))
        self._outside = (~in_gamut(lch)).astype(float)
        rgb = np.clip(oklab_to_srgb(oklch_to_oklab(fit_chroma(lch))), 0, 1)
        data = np.rint(rgb * 255).astype(np.uint8)
        self._track = QImage(data.tobytes(), _SAMPLES, 1, _SAMPLES * 3, QImage.Format.Format_RGB888).copy()
        self.update()

    def place(self, value: float) -> None:
        """Show another value on the same track."""
        self.value = value
        self.update()

    def _box(self) -> QRectF:
        return QRectF(10, 7, self.width() - 20, self.height() - 14)

    def paintEvent(self, event: QPaintEvent | None) -> None:
        """Paint track and handle."""
        p = QPainter(self)
        p.setRenderHints(QPainter.RenderHint.Antialiasing | QPainter.RenderHint.SmoothPixmapTransform)
        box = self._box()
        clip = QPainterPath()
        clip.addRoundedRect(box, 5, 5)
        if self._track is not None:
            p.save()
            p.setClipPath(clip)
            p.drawImage(box, self._track)
            self._hatch(p, box)
            p.restore()
        p.setPen(QPen(self._style.c("edge"), 1))
        p.setBrush(Qt.BrushStyle.NoBrush)
        p.drawPath(clip)
        x = box.x() + (self.value - self.low) / (self.high - self.low) * box.width()
        handle = QRectF(x - 6, 2, 12, self.height() - 4)
        p.setPen(QPen(self._style.c("accent" if self.hasFocus() else "text"), 2.4))
        p.setBrush(self._style.c("raised"))
        p.drawRoundedRect(handle, 5, 5)

    def _hatch(self, p: QPainter, box: QRectF) -> None:
        """Strike through the stretches that sRGB does not reach."""
        width = box.width() / _SAMPLES
        p.setPen(QPen(QColor(0, 0, 0, 150), 1.2))
        for i in np.flatnonzero(self._outside):
            x = box.x() + float(i) * width
            if int(x) % 6 < width:
                p.drawLine(QPointF(x, box.bottom()), QPointF(x + 6, box.top()))

    def _go(self, value: float) -> None:
        self.moved.emit(min(self.high, max(self.low, value)))

    def _value_at(self, x: float) -> float:
        box = self._box()
        return self.low + (x - box.x()) / box.width() * (self.high - self.low)

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        """Begin a drag."""
        if event is not None and event.button() == Qt.MouseButton.LeftButton:
            self.pressed.emit()
            self._go(self._value_at(event.position().x()))

    def mouseMoveEvent(self, event: QMouseEvent | None) -> None:
        """Drag."""
        if event is not None and event.buttons() & Qt.MouseButton.LeftButton:
            self._go(self._value_at(event.position().x()))

    def mouseReleaseEvent(self, event: QMouseEvent | None) -> None:
        """End a drag."""
        self.released.emit()

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        """Move by a step, by ten with Shift."""
        if event is None:
            return
        sign = {Qt.Key.Key_Left: -1, Qt.Key.Key_Down: -1, Qt.Key.Key_Right: 1, Qt.Key.Key_Up: 1}.get(
            Qt.Key(event.key()), 0
        )
        if not sign:
            super().keyPressEvent(event)
            return
        far = 10 if event.modifiers() & Qt.KeyboardModifier.ShiftModifier else 1
        self.pressed.emit()
        self._go(self.value + sign * self.step * far)
        self.released.emit()
