"""The hue and chroma field: a picture's colours by hue around and by chroma outwards, larger dots for larger shares."""

from __future__ import annotations

import math

import numpy as np
from PyQt6.QtCore import QPointF, QRectF, QSize, Qt
from PyQt6.QtGui import QColor, QImage, QPainter, QPaintEvent, QPen
from PyQt6.QtWidgets import QWidget

from ...colour.gamut import oklch_to_srgb, rgba_to_oklch
from ...colour.rgb import Rgba
from ...language import tr
from ...picture.swatches import Swatch
from ..kit.parts import BufferedWidget
from ..kit.style import Style, qcolor

_MOST_CHROMA = 0.22


class HueField(BufferedWidget):
    """Draws dots on a wheel; nothing can be changed on it."""

    def __init__(self, style: Style, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self._style = style
        self._swatches: tuple[Swatch, ...] = ()
        self._accent: Rgba | None = None
        self._wheel: QImage | None = None
        self.setMinimumHeight(168)
        self.setAccessibleName(tr("Hue and chroma of the image's colours"))
        self.setToolTip(tr("Hue goes around, chroma outwards; the ring is the accent colour"))

    def sizeHint(self) -> QSize:
        """Return a square size."""
        return QSize(300, 168)

    def show_colours(self, swatches: tuple[Swatch, ...], accent: Rgba | None) -> None:
        """Show other colours."""
        self._swatches, self._accent = swatches, accent
        self.update()

    def forget_wheel(self) -> None:
        """Draw the wheel anew: the window's appearance has changed."""
        self._wheel = None
        self.update()

    def _make_wheel(self, size: int) -> QImage:
        y, x = np.mgrid[0:size, 0:size] / (size - 1) * 2 - 1
        radius = np.hypot(x, y)
        hue = np.degrees(np.arctan2(-y, x)) % 360
        lightness = 0.42 if self._style.dark else 0.86
        lch = np.stack([np.full_like(x, lightness), np.minimum(radius, 1) * _MOST_CHROMA * 0.6, hue], axis=-1)
        rgb = oklch_to_srgb(lch)
        alpha = np.clip((1 - radius) * size / 2, 0, 1)[..., None]
        data = np.rint(np.concatenate([rgb, alpha], axis=-1) * 255).astype(np.uint8)
        return QImage(data.tobytes(), size, size, size * 4, QImage.Format.Format_RGBA8888).copy()

    def paintEvent(self, event: QPaintEvent | None) -> None:
        """Paint wheel and dots."""
        p = QPainter(self)
        p.setRenderHint(QPainter.RenderHint.Antialiasing)
        side = min(self.width(), self.height()) - 8.0
        box = QRectF((self.width() - side) / 2, 4, side, side)
        size = max(16, round(side * self.devicePixelRatioF()))
        if self._wheel is None or self._wheel.width() != size:
            self._wheel = self._make_wheel(size)
        p.drawImage(box, self._wheel)
        p.setPen(QPen(self._style.c("edge"), 1))
        p.setBrush(Qt.BrushStyle.NoBrush)
        p.drawEllipse(box)

        def at(colour: Rgba) -> QPointF:
            _, chroma, hue = rgba_to_oklch(colour)
            r = min(1.0, chroma / _MOST_CHROMA) * side / 2
            angle = math.radians(hue)
            return QPointF(box.center().x() + r * math.cos(angle), box.center().y() - r * math.sin(angle))

        for swatch in sorted(self._swatches, key=lambda s: -s.share):
            radius = 4 + 15 * math.sqrt(min(1.0, swatch.share))
            p.setPen(QPen(QColor(0, 0, 0, 180), 2.6))
            p.setBrush(qcolor(swatch.colour))
            p.drawEllipse(at(swatch.colour), radius, radius)
            p.setPen(QPen(QColor(255, 255, 255), 1.2))
            p.drawEllipse(at(swatch.colour), radius, radius)
        if self._accent is not None:
            p.setBrush(Qt.BrushStyle.NoBrush)
            p.setPen(QPen(QColor(0, 0, 0), 4))
            p.drawEllipse(at(self._accent), 12, 12)
            p.setPen(QPen(QColor(255, 255, 255), 2))
            p.drawEllipse(at(self._accent), 12, 12)
