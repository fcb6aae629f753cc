"""What is drawn over the desktop on the stage: rings, badges, labels and the curtain, to be seen on any colours."""

from __future__ import annotations

from PyQt6.QtCore import QPointF, QRectF, Qt
from PyQt6.QtGui import QColor, QFont, QPainter, QPen

from ..kit.style import FAMILY

_DARK, _LIGHT = QColor(20, 22, 22), QColor(245, 247, 246)
_FAILS, _NEARLY = QColor(176, 38, 30), QColor(122, 88, 0)


def draw_ring(painter: QPainter, rect: QRectF, width: float) -> None:
    """Draw a ring that shows on anything: white within black."""
    painter.setBrush(Qt.BrushStyle.NoBrush)
    for extra, colour in ((width * 2.2, QColor(0, 0, 0, 210)), (width, QColor(255, 255, 255, 240))):
        pen = QPen(colour, extra)
        pen.setJoinStyle(Qt.PenJoinStyle.RoundJoin)
        painter.setPen(pen)
        painter.drawRoundedRect(rect.adjusted(-3, -3, 3, 3), 4, 4)


def draw_badge(painter: QPainter, at: QPointF, fails: bool, unit: float) -> None:
    """Draw a cross in a disc where a pair fails, a bar in a triangle where it nearly does; unit: of one pixel."""
    painter.setPen(QPen(QColor(255, 255, 255), 1.4 * unit))
    r = 7 * unit
    if fails:
        painter.setBrush(_FAILS)
        painter.drawEllipse(at, r, r)
        d = 2.8 * unit
        painter.drawLine(at + QPointF(-d, -d), at + QPointF(d, d))
        painter.drawLine(at + QPointF(-d, d), at + QPointF(d, -d))
    else:
        painter.setBrush(_NEARLY)
        painter.drawPolygon(at + QPointF(0, -r), at + QPointF(r, r * 0.8), at + QPointF(-r, r * 0.8))
        painter.drawLine(at + QPointF(0, -2.4 * unit), at + QPointF(0, 2.2 * unit))


def draw_label(painter: QPainter, x: float, y: float, words: str, right: bool = False) -> None:
    """Draw words on a dark ground, their left edge at x, or their right one."""
    font = QFont(FAMILY)
    font.setPixelSize(13)
    font.setBold(True)
    painter.setFont(font)
    width = painter.fontMetrics().horizontalAdvance(words) + 22
    rect = QRectF(x - width if right else x, y, width, 26)
    painter.setPen(Qt.PenStyle.NoPen)
    painter.setBrush(_DARK)
    painter.drawRoundedRect(rect, 13, 13)
    painter.setPen(_LIGHT)
    painter.drawText(rect, Qt.AlignmentFlag.AlignCenter, words)


def draw_curtain(painter: QPainter, x: float, high: float, before: str, after: str) -> None:
    """Draw the curtain's edge with its handle, and what hangs on either side."""
    painter.setPen(QPen(QColor(0, 0, 0, 200), 4))
    painter.drawLine(QPointF(x, 0), QPointF(x, high))
    painter.setPen(QPen(QColor(255, 255, 255), 2))
    painter.drawLine(QPointF(x, 0), QPointF(x, high))
    painter.setBrush(_DARK)
    painter.drawEllipse(QPointF(x, high / 2), 13, 13)
    for side in (-1, 1):
        painter.drawLine(QPointF(x + side * 3, high / 2 - 4), QPointF(x + side * 7, high / 2))
        painter.drawLine(QPointF(x + side * 7, high / 2), QPointF(x + side * 3, high / 2 + 4))
    top = high * 0.06  # under the panel, over the windows' title bars
    draw_label(painter, x - 10, top, before, right=True)
    draw_label(painter, x + 10, top, after)
