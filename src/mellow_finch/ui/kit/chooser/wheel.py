"""The wheel of the colour chooser: hues around, chroma outwards, at one lightness; what cannot be had is left out."""

from __future__ import annotations

import math
from collections.abc import Callable

import numpy as np
from numpy.typing import NDArray
from PyQt6.QtCore import QPointF, QRectF, QSize, Qt, pyqtSignal
from PyQt6.QtGui import QColor, QImage, QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QPen, QPolygonF

from ....colour.gamut import in_gamut, max_chroma
from ....colour.spaces import Array, oklab_to_srgb, oklch_to_oklab
from ....language import decimal, tr
from ..parts import BufferedWidget
from ..style import Style

_LEAST_RIM = 0.03  # chroma at the rim where lightness leaves room for next to none
_HUES = np.arange(0.0, 360.0, 2.0)
_GRID = 2  # px of the wheel that one reckoned point stands for
_STRIPE = 6  # px from one stripe over unreadable colours to the next
_STEPS = {
    Qt.Key.Key_Left: (2.0, 0.0), Qt.Key.Key_Right: (-2.0, 0.0), Qt.Key.Key_Up: (0.0, 0.004),
    Qt.Key.Key_Down: (0.0, -0.004),
}  # fmt: skip

# Tells for (n, 3) OKLCH which of them would be readable.
Readable = Callable[[Array], NDArray[np.bool_]]


class ColourWheel(BufferedWidget):
    """Chooses hue and chroma by pointer or arrow keys; the rim is the largest chroma that the lightness allows.

    The gamut's edge is a line; inside it, stripes lie over colours with which a pair could not be read.
    """

    moved = pyqtSignal(float, float)  # chroma and hue
    ended = pyqtSignal()

    def __init__(self, style: Style) -> None:
        super().__init__()
        self._style = style
        self._lightness, self._chroma, self._hue = 0.5, 0.1, 200.0
        self._rim = 0.2
        self._edge: Array = np.zeros(len(_HUES))
        self._readable: Readable | None = None
        self._image: QImage | None = None
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setAccessibleName(tr("Hue and chroma"))
        self.setToolTip(tr("Hue goes around, chroma outwards. Striped colours would be unreadable."))
        self.setCursor(Qt.CursorShape.CrossCursor)

    def sizeHint(self) -> QSize:
        """Return a square size."""
        return QSize(248, 248)

    def minimumSizeHint(self) -> QSize:
        """Return the same."""
        return self.sizeHint()

    def judge_by(self, readable: Readable | None) -> None:
        """Stripe what would be unreadable by another judgement; None stripes nothing."""
        self._readable = readable
        self._image = None
        self.update()

    def show_colour(self, lightness: float, chroma: float, hue: float) -> None:
        """Show a colour in OKLCH; another lightness has another wheel."""
        if lightness != self._lightness or self._image is None:
            self._lightness = lightness
            self._edge = max_chroma(np.array(lightness), _HUES)
            self._rim = max(_LEAST_RIM, float(self._edge.max()))
            self._image = None
        self._chroma, self._hue = chroma, hue
        words = tr("hue {hue}, chroma {chroma}")
        self.setAccessibleDescription(words.format(hue=decimal(hue, 0), chroma=decimal(chroma, 3)))
        self.update()

    def _box(self) -> QRectF:
        side = min(self.width(), self.height()) - 8.0
        return QRectF((self.width() - side) / 2, (self.height() - side) / 2, side, side)

    def place_of(self, chroma: float, hue: float) -> QPointF:
        """Return where a chroma and a hue lie in the widget."""
        box, angle = self._box(), math.radians(hue)
        r = min(1.0, chroma / self._rim) * box.width() / 2
        return QPointF(box.center().x() + r * math.cos(angle), box.center().y() - r * math.sin(angle))

    def _go(self, at: QPointF) -> None:
        box = self._box()
        x, y = at.x() - box.center().x(), box.center().y() - at.y()
        hue = math.degrees(math.atan2(y, x)) % 360
        self._move(math.hypot(x, y) / (box.width() / 2) * self._rim, hue)

    def _move(self, chroma: float, hue: float) -> None:
        most = float(max_chroma(np.array(self._lightness), np.array(hue)))
        self.moved.emit(min(max(0.0, chroma), most), hue)

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        """Begin a drag."""
        if event is not None and event.button() == Qt.MouseButton.LeftButton:
            self._go(event.position())

    def mouseMoveEvent(self, event: QMouseEvent | None) -> None:
        """Drag."""
        if event is not None and event.buttons() & Qt.MouseButton.LeftButton:
            self._go(event.position())

    def mouseReleaseEvent(self, event: QMouseEvent | None) -> None:
        """End a drag."""
        self.ended.emit()

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        """Turn the hue, or move in or out; farther with Shift."""
        step = _STEPS.get(Qt.Key(event.key())) if event is not None else None
        if event is None or step is None:
            super().keyPressEvent(event)
            return
        far = 5 if event.modifiers() & Qt.KeyboardModifier.ShiftModifier else 1
        self._move(self._chroma + step[1] * far, (self._hue + step[0] * far) % 360)
        self.ended.emit()

    def _paint_wheel(self, side: int) -> QImage:
        """Return the wheel's colours, what the gamut does not hold left out, what cannot be read striped."""
        points = max(8, side // _GRID)
        y, x = np.mgrid[0:points, 0:points] / (points - 1) * 2 - 1
        radius = np.hypot(x, y)
        lch = np.stack(
            [np.full_like(x, self._lightness), radius * self._rim, np.degrees(np.arctan2(-y, x)) % 360], axis=-1
        )
        inside = in_gamut(lch) & (radius <= 1)
        rgb = np.clip(oklab_to_srgb(oklch_to_oklab(lch)), 0, 1)
        full = np.concatenate([rgb, inside[..., None].astype(float)], axis=-1)
        image = _image_of(full).scaled(
            side, side, Qt.AspectRatioMode.IgnoreAspectRatio, Qt.TransformationMode.SmoothTransformation
        )
        if self._readable is not None:
            bad = np.zeros(inside.shape, dtype=bool)
            bad[inside] = ~self._readable(lch[inside])
            if bad.any():
                p = QPainter(image)
                p.drawImage(0, 0, self._stripes(bad, side))
                p.end()
        return image

    def _stripes(self, bad: NDArray[np.bool_], side: int) -> QImage:
        at = np.minimum(np.arange(side) * bad.shape[0] // side, bad.shape[0] - 1)
        y, x = np.mgrid[0:side, 0:side]
        ink = bad[at][:, at] & ((x + y) % _STRIPE < _STRIPE / 3)
        shade = 0.0 if self._lightness > 0.55 else 1.0
        return _image_of(np.stack([np.full(ink.shape, shade)] * 3 + [ink * 0.62], axis=-1))

    def paintEvent(self, event: QPaintEvent | None) -> None:
        """Paint the wheel, the gamut's edge and the colour there is."""
        p = QPainter(self)
        p.setRenderHints(QPainter.RenderHint.Antialiasing | QPainter.RenderHint.SmoothPixmapTransform)
        box = self._box()
        side = max(16, round(box.width() * self.devicePixelRatioF()))
        if self._image is None or self._image.width() != side:
            self._image = self._paint_wheel(side)
        p.setPen(QPen(self._style.c("accent" if self.hasFocus() else "line"), 2 if self.hasFocus() else 1))
        p.setBrush(self._style.c("sunken"))
        p.drawEllipse(box)
        p.drawImage(box, self._image)
        p.setPen(QPen(self._style.c("edge"), 1.2))
        p.setBrush(Qt.BrushStyle.NoBrush)
        p.drawPolygon(QPolygonF([self.place_of(float(c), float(h)) for c, h in zip(self._edge, _HUES, strict=True)]))
        at = self.place_of(self._chroma, self._hue)
        for colour, width in ((QColor(0, 0, 0), 4.0), (QColor(255, 255, 255), 2.0)):
            p.setPen(QPen(colour, width))
            p.drawEllipse(at, 7, 7)


def _image_of(rgba: Array) -> QImage:
    """Return (height, width, 4) floats 0..1, alpha not multiplied in, as Qt has them."""
    data = np.rint(rgba * 255).astype(np.uint8)
    height, width = data.shape[:2]
    return QImage(data.tobytes(), width, height, width * 4, QImage.Format.Format_RGBA8888).copy()
