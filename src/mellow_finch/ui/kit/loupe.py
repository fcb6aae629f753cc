"""The loupe of the eyedroppers: pixels enlarged around a point, the middle one framed, and its colour in words."""

from __future__ import annotations

from PyQt6.QtCore import QPointF, QRectF, QSizeF, Qt
from PyQt6.QtGui import QColor, QFont, QImage, QPainter, QPainterPath, QPen

from ...colour.rgb import Rgba
from ...language import isolated
from .style import FAMILY, MONO, qcolor

PIXELS = 11
_SIZE = 132.0


def paint_loupe(
    p: QPainter, at: QPointF, room: QSizeF, image: QImage, x: int, y: int, colour: Rgba, words: str = ""
) -> None:
    """Paint a loupe beside a point of a widget; x, y: the pixel of the image that is looked at; words: a line more."""
    half = PIXELS // 2
    foot = 52.0 if words else 30.0
    width = max(_SIZE, 190.0) if words else _SIZE
    left = at.x() + 24 if at.x() + 24 + width < room.width() else at.x() - 24 - width
    top = at.y() - _SIZE - foot - 14 if at.y() - _SIZE - foot - 14 > 0 else at.y() + 24
    box = QRectF(left, top, width, _SIZE)
    p.setPen(QPen(QColor(0, 0, 0), 5))
    p.setBrush(QColor(0, 0, 0))
    p.drawRoundedRect(box.adjusted(0, 0, 0, foot), 10, 10)
    clip = QPainterPath()
    clip.addRoundedRect(box, 8, 8)
    cell = _SIZE / PIXELS
    across = int(width / cell) // 2
    p.save()
    p.setClipPath(clip)
    p.setRenderHint(QPainter.RenderHint.SmoothPixmapTransform, False)
    p.drawImage(
        QRectF(box.center().x() - (across + 0.5) * cell, box.y(), (2 * across + 1) * cell, _SIZE),
        image,
        QRectF(x - across, y - half, 2 * across + 1, PIXELS),
    )
    p.restore()
    middle = QRectF(box.center().x() - cell / 2, box.y() + half * cell, cell, cell)
    p.setBrush(Qt.BrushStyle.NoBrush)
    p.setPen(QPen(QColor(0, 0, 0), 3))
    p.drawRect(middle)
    p.setPen(QPen(QColor(255, 255, 255), 1.4))
    p.drawRect(middle)
    font = QFont(MONO)
    font.setPixelSize(17)
    p.setFont(font)
    p.fillRect(QRectF(box.x() + 8, box.bottom() + 6, 18, 18), qcolor(colour))
    p.setPen(QPen(QColor(255, 255, 255), 1))
    p.drawRect(QRectF(box.x() + 8, box.bottom() + 6, 18, 18))
    beside = Qt.AlignmentFlag.AlignAbsolute | Qt.AlignmentFlag.AlignLeft | Qt.AlignmentFlag.AlignVCenter
    p.drawText(QRectF(box.x() + 34, box.bottom(), width - 34, 30), beside, isolated(colour.opaque.hex))
    if words:
        font = QFont(FAMILY)
        font.setPixelSize(13)
        p.setFont(font)
        p.drawText(
            QRectF(box.x() + 8, box.bottom() + 28, width - 16, 20),
            Qt.AlignmentFlag.AlignLeft | Qt.AlignmentFlag.AlignVCenter,
            p.fontMetrics().elidedText(words, Qt.TextElideMode.ElideRight, int(width - 16)),
        )
