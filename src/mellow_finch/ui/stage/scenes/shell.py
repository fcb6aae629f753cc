"""What a shell draws: its panel, menu, notification and dock."""

from __future__ import annotations

from PyQt6.QtCore import QPointF, QRectF, Qt
from PyQt6.QtGui import QPainterPath, QPen

from ..brush import CENTER, RIGHT, WIDTH, Brush


def panel(b: Brush) -> None:
    """Draw the panel."""
    b.box(0, 0, WIDTH, 34, "panel", edge=False)
    b.box(6, 4, 112, 26, "panel button:open", 6, edge=False)
    b.text(6, 4, 112, 26, "Reedholm", "panel button:open", 14, True, CENTER)
    for i, name in enumerate(("Places", "Ringing log")):
        b.text(132 + i * 76, 4, 100, 26, name, "panel button", 14)
    b.text(700, 0, 200, 34, "Tue 24 Nov  07:42", "clock", 14, True, CENTER)
    b.note(QRectF(1440, 0, 160, 34), "panel", "text")
    ink = b.text_of("panel")
    x = 1460.0
    for i in range(4):
        b.line(x + i * 5, 23, x + i * 5, 19 - i * 3, ink, 3)
    b.painter.setPen(QPen(ink, 1.6))
    b.painter.setBrush(Qt.BrushStyle.NoBrush)
    b.painter.drawRoundedRect(QRectF(1502, 11, 24, 12), 3, 3)
    b.painter.fillRect(QRectF(1505, 14, 13, 6), ink)
    b.line(1529, 15, 1529, 19, ink, 2)
    path = QPainterPath(QPointF(1546, 15))
    path.lineTo(1551, 15)
    path.lineTo(1557, 10)
    path.lineTo(1557, 24)
    path.lineTo(1551, 19)
    path.lineTo(1546, 19)
    path.closeSubpath()
    b.painter.fillPath(path, ink)
    b.painter.setPen(QPen(ink, 1.8))
    b.painter.drawArc(QRectF(1555, 11, 10, 12), -60 * 16, 120 * 16)


def shell_menu(b: Brush) -> None:
    """Draw the menu that the panel opens."""
    x, y, w = 1318.0, 42.0, 268.0
    b.shadow(x, y, w, 318, 12)
    b.box(x, y, w, 318, "menu", 12)
    for i, (name, on) in enumerate((("Hide Wi-Fi", True), ("Quiet", False))):
        part = "quick toggle:on" if on else "quick toggle"
        b.box(x + 12 + i * 124, y + 12, 118, 40, part, 20)
        b.text(x + 12 + i * 124, y + 12, 118, 40, name, part, 14, True, CENTER)
    b.box(x + 14, y + 70, w - 28, 5, "slider", 2.5, edge=False)
    ink = b.text_of("slider")
    b.painter.setPen(Qt.PenStyle.NoPen)
    b.painter.setBrush(ink)
    b.painter.drawRoundedRect(QRectF(x + 14, y + 70, 150, 5), 2.5, 2.5)
    b.dot(x + 164, y + 72.5, 8, ink)
    rows = (
        ("Tide table", "menu item", ""),
        ("Nest cameras", "menu item:hover", ""),
        ("Ringing permits", "menu item", ""),
        ("Ferry at low water", "menu item:disabled", ""),
    )
    top = y + 92
    for i, (name, part, _) in enumerate(rows):
        if part == "menu item:hover":
            b.box(x + 8, top + i * 31, w - 16, 29, part, 6, edge=False)
        else:
            b.note(QRectF(x + 8, top + i * 31, w - 16, 29), part)
        b.text(x + 20, top + i * 31, w - 40, 29, name, part, 14)
    b.painter.fillRect(QRectF(x + 20, top + 130, w - 40, 1), b.fill_of("menu separator"))
    for i, day in enumerate(("M", "T", "W", "T", "F", "S", "S")):
        b.text(x + 18 + i * 33, top + 136, 33, 20, day, "calendar heading", 12, False, CENTER)
    for i in range(14):
        row, column = divmod(i, 7)
        number = 23 + i if i < 8 else i - 7
        cx, cy = x + 18 + column * 33, top + 156 + row * 30
        part = "today" if i == 1 else "calendar day:hover" if i == 4 else "other month" if i >= 8 else "calendar day"
        if i in (1, 4):
            b.box(cx + 4, cy + 1, 26, 26, part, 13, edge=False)
        b.text(cx, cy, 33, 28, str(number), part, 13, i == 1, CENTER)


def notification(b: Brush) -> None:
    """Draw a notification with its buttons."""
    x, y, w, h = 1262.0, 776.0, 324.0, 118.0
    b.shadow(x, y, w, h, 12)
    b.box(x, y, w, h, "notification", 12)
    b.text(x + 16, y + 10, 200, 22, "Net 3 is full", "notification", 15, True)
    b.text(x + w - 90, y + 10, 76, 22, "07:41", "notification time", 13, False, RIGHT)
    b.text(x + 16, y + 32, w - 32, 22, "Seven bearded reedlings, two with rings", "notification text", 14)
    for i, (name, part) in enumerate((("Going", "notification button"), ("Send Maren", "notification button:hover"))):
        b.box(x + 14 + i * 150, y + 70, 142, 34, part, 7)
        b.text(x + 14 + i * 150, y + 70, 142, 34, name, part, 14, False, CENTER)


def dock(b: Brush) -> None:
    """Draw the dock."""
    x, y, w, h = 560.0, 920.0, 480.0, 68.0
    b.box(x, y, w, h, "dock", 20)
    ink = b.text_of("dock")
    for i in range(7):
        cx, cy = x + 44 + i * 65, y + 31
        b.painter.setPen(QPen(ink, 2.4, Qt.PenStyle.SolidLine, Qt.PenCapStyle.RoundCap, Qt.PenJoinStyle.RoundJoin))
        b.painter.setBrush(Qt.BrushStyle.NoBrush)
        dock_icon(b, i, cx, cy)
        if i in (0, 1, 2, 4):
            b.dot(cx, y + h - 7, 2.4, b.fill_of("panel button:open"))
    b.note(QRectF(x + 14, y + 8, w - 28, h - 16), "dock", "text")
    b.box(x + 195, y - 36, 88, 28, "dock label", 7)
    b.text(x + 195, y - 36, 88, 28, "Tide table", "dock label", 13, False, CENTER)


def dock_icon(b: Brush, kind: int, x: float, y: float) -> None:
    """Draw one of the seven icons of the dock with the pen that is set."""
    p = b.painter
    box = QRectF(x - 15, y - 14, 30, 28)
    if kind == 0:
        p.drawRoundedRect(box, 4, 4)
        b.line(x - 9, y - 4, x - 3, y + 1, p.pen().color(), 2.4)
        b.line(x - 9, y + 6, x - 3, y + 1, p.pen().color(), 2.4)
        b.line(x + 1, y + 7, x + 9, y + 7, p.pen().color(), 2.4)
    elif kind == 1:
        p.drawRoundedRect(box.adjusted(4, 0, -4, 0), 3, 3)
        for i in range(3):
            b.line(x - 6, y - 6 + i * 6, x + 6, y - 6 + i * 6, p.pen().color(), 2)
    elif kind == 2:
        path = QPainterPath(QPointF(x - 15, y - 9))
        path.lineTo(x - 4, y - 9)
        path.lineTo(x, y - 4)
        path.lineTo(x + 15, y - 4)
        path.lineTo(x + 15, y + 13)
        path.lineTo(x - 15, y + 13)
        path.closeSubpath()
        p.drawPath(path)
    elif kind == 3:
        path = QPainterPath(QPointF(x - 15, y + 3))
        path.cubicTo(x - 8, y - 8, x - 6, y + 12, x, y + 2)
        path.cubicTo(x + 6, y - 8, x + 8, y + 12, x + 15, y + 1)
        p.drawPath(path)
        path.translate(0, -8)
        p.drawPath(path)
    elif kind == 4:
        p.drawEllipse(QPointF(x, y), 14, 14)
        b.line(x, y, x, y - 8, p.pen().color(), 2.4)
        b.line(x, y, x + 6, y + 3, p.pen().color(), 2.4)
    elif kind == 5:
        p.drawRoundedRect(box.adjusted(-1, 4, 1, 0), 5, 5)
        p.drawEllipse(QPointF(x, y + 2), 6, 6)
    else:
        path = QPainterPath(QPointF(x - 14, y + 8))
        path.cubicTo(x - 4, y + 10, x + 2, y + 6, x + 4, y - 2)
        path.cubicTo(x + 5, y - 9, x + 12, y - 10, x + 13, y - 4)
        path.lineTo(x + 17, y - 3)
        path.lineTo(x + 12, y - 1)
        path.cubicTo(x + 12, y + 8, x + 2, y + 14, x - 14, y + 8)
        p.drawPath(path)
