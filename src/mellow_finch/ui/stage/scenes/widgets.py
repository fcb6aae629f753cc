"""Widgets on the picture."""

from __future__ import annotations

from PyQt6.QtCore import QPointF, QRectF, Qt
from PyQt6.QtGui import QPainterPath, QPen

from ..brush import CENTER, RIGHT, Brush


def widget(b: Brush) -> None:
    """Draw the widget of tide and counts."""
    first, second = b.first("widget colour 1", "widget"), b.first("widget text colour 1", "widget")
    third = b.first("widget text colour 3", "widget text colour 2", "widget")
    graph = b.first("widget text colour 5", "widget text colour 1", "widget")
    x, y, w, h = 1318.0, 396.0, 268.0, 318.0
    b.box(x, y, w, h, "widget", 6, edge=False)
    b.text(x + 18, y + 14, w - 36, 22, "REEDHOLM", b.first("widget colour 0", first), 16, True, mono=False)
    b.text(x + 18, y + 36, w - 36, 20, "Tuesday 24 November", "widget", 13)
    b.emblem(x + w - 18 - 44, y + 12, 44)
    b.line(x + 18, y + 64, x + w - 18, y + 64, b.text_of(second))
    rows = (
        ("High water", "14:52", first),
        ("Wind", "SW 4", b.first("widget colour 2", first)),
        ("Ringed today", "37", b.first("widget text colour 2", second)),
        ("Link", "up", b.first("widget colour 3", first)),
    )
    for i, (name, value, part) in enumerate(rows):
        b.text(x + 18, y + 76 + i * 28, 130, 24, name, third if name == "Link" else "widget", 14)
        b.text(x + 120, y + 76 + i * 28, w - 138, 24, value, part, 14, True, RIGHT)
    tide = QPainterPath(QPointF(x + 18, y + 286))
    heights = (10, 22, 40, 58, 72, 78, 72, 58, 38, 22, 12, 16, 30, 48)
    step = (w - 36) / (len(heights) - 1)
    for i, v in enumerate(heights):
        tide.lineTo(x + 18 + i * step, y + 286 - v)
    tide.lineTo(x + w - 18, y + 286)
    b.painter.setPen(QPen(b.text_of(graph), 2))
    b.painter.setBrush(Qt.BrushStyle.NoBrush)
    b.painter.drawPath(tide)
    b.note(QRectF(x + 18, y + 200, w - 36, 90), graph, "text")
    b.text(x + 18, y + 290, w - 36, 20, "tide, metres above datum", third, 12)


def drawing(b: Brush) -> None:
    """Draw what a drawing script draws: a ring for each of its colours, straight on the picture."""
    x, y = 1452.0, 540.0
    pen = QPen()
    pen.setCapStyle(Qt.PenCapStyle.RoundCap)
    b.painter.setBrush(Qt.BrushStyle.NoBrush)
    parts = [f"drawn colour {i}" for i in range(1, 13) if b.has(f"drawn colour {i}")]
    for i, part in enumerate(parts):
        radius = 118.0 - i * 13
        if radius < 12:
            break
        pen.setColor(b.text_of(part))
        pen.setWidthF(8)
        b.painter.setPen(pen)
        box = QRectF(x - radius, y - radius, 2 * radius, 2 * radius)
        b.painter.drawArc(box, 90 * 16, -(310 - i * 36) * 16)
        b.note(QRectF(x - 6, y - radius - 5, 12, 10), part, "text")
    if parts:
        b.text(x - 60, y - 14, 120, 28, "14:52", parts[0], 22, True, CENTER)


def rules(b: Brush) -> None:
    """Draw what a sheet of rules says: a row for each rule that states text and ground."""
    x, y, w = 1318.0, 396.0, 268.0
    words = ("High water 14:52", "Wind SW 4", "Ringed today 37", "Net 3 is full", "Ferry at low water", "Link is up")
    for i in range(1, 9):
        part = f"rule {i}"
        if b.has(part):
            b.box(x, y + (i - 1) * 40, w, 36, part, 6, edge=False)
            b.text(x + 14, y + (i - 1) * 40, w - 28, 36, words[(i - 1) % len(words)], part, 15)
