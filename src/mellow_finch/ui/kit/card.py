"""A card in a list: a small picture, what it is in bold, and a quiet line under that."""

from __future__ import annotations

from PyQt6.QtCore import QRectF, Qt
from PyQt6.QtGui import QColor, QFont, QImage, QPainter, QPen

from .style import FAMILY, Style


def draw_card(
    painter: QPainter, style: Style, frame: QRectF, image: QImage | None, ground: QColor, words: tuple[str, str, QColor]
) -> QRectF:
    """Draw a card and return where its second line stands.

    frame: of the picture; ground: what is there until it comes; words: what it is, the line under that, and its colour.
    """
    title, under, ink = words
    painter.fillRect(frame, ground)
    if image is not None and not image.isNull():
        painter.drawImage(frame, image)
    painter.setPen(QPen(style.c("edge"), 1))
    painter.setBrush(Qt.BrushStyle.NoBrush)
    painter.drawRect(frame)
    font = QFont(FAMILY)
    font.setPointSizeF(11)
    font.setBold(True)
    painter.setFont(font)
    painter.setPen(style.c("text"))
    line = QRectF(frame.x(), frame.bottom() + 6, frame.width(), 20)
    short = painter.fontMetrics().elidedText(title, Qt.TextElideMode.ElideRight, int(line.width()))
    painter.drawText(line, Qt.AlignmentFlag.AlignVCenter, short)
    font.setBold(False)
    font.setPointSizeF(9.5)
    painter.setFont(font)
    painter.setPen(ink)
    second = line.translated(0, 20)
    painter.drawText(second, Qt.AlignmentFlag.AlignVCenter, under)
    return second
