"""What comes over everything: launchers, notifications, and the screen that is locked."""

from __future__ import annotations

from PyQt6.QtCore import QPointF, QRectF, Qt
from PyQt6.QtGui import QPen

from ..brush import CENTER, HEIGHT, RIGHT, WIDTH, Brush


def draw_launcher(b: Brush) -> None:
    """Draw a launcher in the middle of the screen."""
    x, y, w, h = 520.0, 210.0, 560.0, 450.0
    b.shadow(x, y, w, h, 10, 16)
    b.box(x, y, w, h, "launcher", 10, edge=False)
    if b.has("launcher edge"):
        b.rim(QRectF(x, y, w, h), b.fill_of("launcher edge"), 10, 1.5)
        b.note(QRectF(x, y, w, 4), "launcher edge")
    field = b.first("launcher field", "launcher")
    b.box(x + 16, y + 16, w - 32, 44, field, 6, edge=field != "launcher")
    b.text(x + 32, y + 16, 200, 44, "ti", field, 17)
    if b.has("launcher field:hint"):
        b.text(x + 60, y + 16, 300, 44, "type to filter", "launcher field:hint", 17)
    rows = (
        ("Tide table", ("launcher entry:selected", "launcher")),
        ("Time of sunrise", ("launcher entry", "launcher")),
        ("Titmice this autumn", ("launcher entry:open", "launcher entry", "launcher")),
        ("Nets with time left", ("launcher entry:urgent", "launcher entry", "launcher")),
        ("Lost and found, static", ("launcher entry", "launcher")),
        ("Ticket for the hide", ("launcher entry:open, selected", "launcher entry", "launcher")),
    )
    pitch = b.room(54, 42, 60)
    high = pitch - 6
    for i, (name, parts) in enumerate(rows):
        part, ry = b.first(*parts), y + 74 + i * pitch
        if "selected" in part:
            b.box(x + 16, ry, w - 32, high, part, 6, edge=False)
        else:
            b.note(QRectF(x + 16, ry, w - 32, high), part)
        b.text(x + 34, ry, w - 120, high, name, part, 17)
        match = "launcher match:selected" if i == 0 else "launcher match"
        if b.has(match) and name.startswith("Ti"):
            b.text(x + 34, ry, 60, high, "Ti", match, 17, True)
    if b.has("launcher message"):
        b.box(x + 16, y + h - 44, w - 32, 32, "launcher message", 5, edge=False)
        b.text(x + 28, y + h - 44, w - 60, 32, "six of forty", "launcher message", 13)


def draw_notices(b: Brush) -> None:
    """Draw notifications of every urgency, one below the other, or the list that keeps them."""
    x, w = 1262.0, 324.0
    y = 470.0
    if b.has("notice list"):
        b.box(x - 14, y - 50, w + 28, 470, "notice list", 10)
        b.text(x, y - 46, 200, 34, "Notifications", "notice list", 16, True)
    for part, title, words in (
        ("notice:quiet", "Tide", "High water at 14:52"),
        ("notice", "Net 3 is full", "Seven bearded reedlings"),
        ("notice:urgent", "Net 3", "No light sensor answers"),
    ):
        if b.has(part):
            y += _notice(b, y, part, title, words) + 14


def usual_notice(b: Brush) -> None:
    """Draw one notification, as they come."""
    part = b.first("notice", "notice:quiet", "notice:urgent")
    _notice(b, 776.0, part, "Net 3 is full", "Seven bearded reedlings")


def _notice(b: Brush, y: float, part: str, title: str, words: str) -> float:
    """Draw a notification and return how high it is."""
    x, w = 1262.0, 324.0
    buttons = part == "notice" and b.has("notice button")
    side = b.room(16, 8, 22)
    h = (124.0 if buttons else 96.0) + b.room(0, -10, 8)
    b.shadow(x, y, w, h, 8)
    b.box(x, y, w, h, part, 8, edge=False)
    edge = b.edge_of(part) or (b.fill_of("notice edge") if b.has("notice edge") else None)
    if edge is not None:
        b.rim(QRectF(x, y, w, h), edge, 8)
        if part == "notice":
            b.note(QRectF(x, y, w, 4), "notice edge")
    b.text(x + side, y + b.room(12, 6, 16), 220, 24, title, part, 15, True)
    b.text(x + w - side - 76, y + b.room(12, 6, 16), 76, 24, "07:41", part, 13, False, RIGHT)
    b.text(x + side, y + b.room(38, 30, 44), w - 2 * side, 24, words, part, 14)
    if part == "notice" and b.has("notice progress"):
        b.box(x + 16, y + 70, 180, 8, "notice progress", 4, edge=False)
    if buttons:
        for i, (name, own) in enumerate((("Going", "notice button"), ("Send Maren", "notice button:hover"))):
            b.box(x + 14 + i * 150, y + 78, 142, 34, own, 7)
            b.text(x + 14 + i * 150, y + 78, 142, 34, name, own, 14, False, CENTER)
    return h


def draw_lock(b: Brush) -> None:
    """Draw the screen that is locked, or the one at which one logs in."""
    b.box(0, 0, WIDTH, HEIGHT, "lock", edge=False)
    if b.has("lock bar"):
        b.box(0, 0, WIDTH, 34, "lock bar", edge=False)
        b.text(16, 0, 300, 34, "ringing-room", "lock bar", 14)
        b.text(WIDTH - 220, 0, 200, 34, "Tue 24 Nov  07:42", "lock bar", 14, True, RIGHT)
    else:
        b.text(0, 190, WIDTH, 90, "07:42", "lock", 72, True, CENTER)
    if b.has("lock ring"):
        _rings(b)
    else:
        _form(b)


def _rings(b: Brush) -> None:
    states = (
        ("ready", "lock inside"),
        ("checking", "lock inside:checking"),
        ("wrong", "lock inside:wrong"),
        ("cleared", "lock inside:cleared"),
        ("capitals", "lock inside:capitals"),
    )
    for i, (words, part) in enumerate(states):
        big = i == 0
        cx, cy, radius = (WIDTH / 2, 480.0, 110.0) if big else (WIDTH / 2 - 360 + (i - 1) * 240, 770.0, 80.0)
        edge = b.edge_of("lock ring") if big else b.fill_of(part)
        b.painter.setPen(QPen(edge or b.text_of("lock"), 14))
        b.painter.setBrush(b.fill_of(part))
        b.painter.drawEllipse(QPointF(cx, cy), radius, radius)
        b.note(QRectF(cx - radius + 20, cy - radius + 20, 2 * radius - 40, 2 * radius - 40), part)
        if big:
            b.note(QRectF(cx - radius - 8, cy - 20, 16, 40), "lock ring", "text")
            if b.has("lock ring:key"):
                b.painter.setPen(QPen(b.fill_of("lock ring:key"), 14))
                b.painter.setBrush(Qt.BrushStyle.NoBrush)
                b.painter.drawArc(QRectF(cx - radius, cy - radius, 2 * radius, 2 * radius), 30 * 16, 50 * 16)
                b.note(QRectF(cx + radius * 0.4, cy - radius, 40, 40), "lock ring:key")
        b.text(cx - radius, cy - 16, 2 * radius, 32, words, part, 22 if big else 17, False, CENTER)


def _form(b: Brush) -> None:
    w, x, y = 380.0, WIDTH / 2 - 190, 360.0
    if b.has("lock inside"):
        b.shadow(x - 40, y - 40, w + 80, 330, 12)
        b.box(x - 40, y - 40, w + 80, 330, "lock inside", 12)
    title = b.first("lock inside", "lock")
    b.text(x, y - 20, w, 36, "Maren", title, 22, True, CENTER)
    b.box(x, y + 36, w, 46, "lock field", 6)
    dots = b.text_of("lock field")
    for i in range(6):
        b.dot(x + 24 + i * 16, y + 59, 4.5, dots)
    b.note(QRectF(x + 18, y + 50, 100, 18), "lock field", "text")
    if b.has("lock inside:wrong"):
        b.box(x, y + 92, w, 40, "lock inside:wrong", 6, edge=False)
        b.text(x, y + 92, w, 40, "That did not work", "lock inside:wrong", 15, False, CENTER)
    top = y + 146
    if b.has("lock main button"):
        b.box(x, top, w, 44, "lock main button", 6, edge=False)
        b.text(x, top, w, 44, "Log in", "lock main button", 16, True, CENTER)
        top += 54
    for i, (name, part) in enumerate((("Session", "lock button"), ("Restart", "lock button:hover"))):
        if b.has(part):
            b.box(x + i * (w / 2 + 4), top, w / 2 - 4, 40, part, 6)
            b.text(x + i * (w / 2 + 4), top, w / 2 - 4, 40, name, part, 15, False, CENTER)
