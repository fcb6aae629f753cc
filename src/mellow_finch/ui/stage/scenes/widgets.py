"""Widgets on the picture, and the terminal."""

from __future__ import annotations

from PyQt6.QtCore import QPointF, QRectF, Qt
from PyQt6.QtGui import QFontMetricsF, QPainterPath, QPen

from ..brush import CENTER, RIGHT, Brush
from .windows import title_bar


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


def terminal(b: Brush) -> None:
    """Draw a terminal with what a component says, in the borders that windows have."""
    owner = b.owner
    x, y, w, h = 36.0, 562.0, 622.0, 340.0
    b.shadow(x, y, w, h, 8)
    title_bar(b, x, y, w, "warden@hide: ~/counts")
    b.of(owner)
    b.box(x, y + 32, w, h - 32, "terminal", edge=False)
    marked, cursor = b.first("marked text", "terminal"), b.first("cursor", "terminal")
    b.painter.setFont(b.font(15, mono=True))
    cell, line = QFontMetricsF(b.font(15, mono=True)).horizontalAdvance("M"), 20.0
    at = {"x": x + 14, "y": y + 42}

    def put(words: str, part: str) -> None:
        width = cell * len(words)
        b.text(at["x"], at["y"], width + 4, line, words, part, 15, False, mono=True)
        at["x"] += width

    def end() -> None:
        at["x"], at["y"] = x + 14, at["y"] + line

    def prompt(command: str) -> None:
        put("hide", "colour 2")
        put(" ~/counts ", "colour 4")
        put("> ", "colour 5")
        put(command, "terminal")
        end()

    prompt("ls")
    for words, part in (
        ("nets/  ", "colour 4"),
        ("rings/  ", "colour 12"),
        ("count.py  ", "colour 2"),
        ("dawn.png  ", "colour 13"),
        ("latest@  ", "colour 14"),
        ("tide.log  ", "terminal"),
        ("old.zip", "colour 1"),
    ):
        put(words, part)
    end()
    prompt("git diff tide.log")
    for words, part in (
        ("@@ -12,2 +12,2 @@", "colour 6"),
        ("-14:40  high  4.9 m", "colour 1"),
        ("+14:52  high  5.1 m", "colour 2"),
    ):
        put(words, part)
        end()
    prompt("tail -4 nets.log")
    for when, level, part, words in (
        ("07:38", "note ", "colour 6", "net 1 opened by Maren"),
        ("07:40", "done ", "colour 10", "37 birds, 9 species"),
        ("07:41", "check", "colour 3", "two rings read twice"),
        ("07:42", "fault", "colour 9", "net 3: no light sensor"),
    ):
        put(f"{when} ", "colour 8")
        put(f"{level} ", part)
        put(words, "terminal" if part != "colour 9" else "colour 15")
        end()
    for row in range(2):
        for i in range(8):
            number = row * 8 + i
            b.painter.fillRect(QRectF(x + 14 + i * 34, at["y"] + 6 + row * 18, 30, 14), b.text_of(f"colour {number}"))
            b.note(QRectF(x + 14 + i * 34, at["y"] + 6 + row * 18, 30, 14), f"colour {number}", "text")
    at["y"] += 46
    put("hide", "colour 2")
    put(" ~/counts ", "colour 4")
    put("> ", "colour 5")
    width = cell * 8
    b.box(at["x"], at["y"], width, line, marked, edge=False)
    put("./report", marked)
    put(" ", "terminal")
    b.box(at["x"], at["y"] + 1, cell, line - 2, cursor, edge=False)
    b.text(at["x"], at["y"], cell + 2, line, "-", cursor, 15, mono=True)


def terminal_extras(b: Brush) -> None:
    """Draw what only some terminals have: tabs, links, a field to search in, letters to jump by, a badge."""
    x, y, w, h = 36.0, 562.0, 622.0, 340.0
    if b.has("tab"):
        top = y + h
        b.box(x, top, w, 26, "tab", edge=False)
        for i, (name, part) in enumerate((("counts", "tab:open"), ("nets", "tab"), ("tides", "tab"))):
            if part == "tab:open":
                b.box(x + i * 96, top, 94, 26, part, edge=False)
            b.text(x + i * 96, top, 94, 26, name, part, 13, False, CENTER)
    if b.has("link"):
        b.text(x + w - 236, y + 104, 226, 20, "https://reedholm.example", "link", 15, mono=True, underline=True)
    for i, (words, part) in enumerate(
        (
            ("tide 3 of 7", b.first("search field", "search match")),
            ("tern 0", b.first("search field:no match", "search match:now")),
            ("a", "letter"),
            ("old prompt", "prompt block"),
            ("bold words", "bold text"),
        )
    ):
        if b.has(part):
            b.box(x + w - 140, y + 148 + i * 30, 126, 26, part, 3, edge=False)
            b.text(x + w - 140, y + 148 + i * 30, 126, 26, words, part, 15, part == "bold text", CENTER, mono=True)
    if b.has("badge"):
        b.text(x + w - 150, y + 40, 136, 40, "hide 2", "badge", 30, True, RIGHT)


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
