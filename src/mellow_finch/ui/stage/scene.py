"""What stands on the stage: a desktop that somebody at Reedholm lives in, 1600 by 1000 units, lowest thing first.

Every colour comes through the brush from what a component's files say; nothing here names a colour of a palette.
"""

from __future__ import annotations

from PyQt6.QtCore import QPointF, QRectF, Qt
from PyQt6.QtGui import QFontMetricsF, QPainterPath, QPen

from .brush import CENTER, RIGHT, Brush

WIDTH, HEIGHT = 1600, 1000
TERMINAL = (26.0, 552.0, 642.0, 360.0)  # where the terminal stands, with a little room around it


def draw_scene(b: Brush) -> None:
    """Draw everything but the picture."""
    _widget(b.of("widget"))
    _terminal(b)
    _gtk4_window(b.of("gtk-4"))
    _files(b.of("kde"))
    _gtk3_window(b.of("gtk-3"))
    _panel(b.of("shell"))
    _shell_menu(b.of("shell"))
    _notification(b.of("shell"))
    _dock(b.of("shell"))


def _panel(b: Brush) -> None:
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


def _shell_menu(b: Brush) -> None:
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


def _notification(b: Brush) -> None:
    x, y, w, h = 1262.0, 776.0, 324.0, 118.0
    b.shadow(x, y, w, h, 12)
    b.box(x, y, w, h, "notification", 12)
    b.text(x + 16, y + 10, 200, 22, "Net 3 is full", "notification", 15, True)
    b.text(x + w - 90, y + 10, 76, 22, "07:41", "notification time", 13, False, RIGHT)
    b.text(x + 16, y + 32, w - 32, 22, "Seven bearded reedlings, two with rings", "notification text", 14)
    for i, (name, part) in enumerate((("Going", "notification button"), ("Send Maren", "notification button:hover"))):
        b.box(x + 14 + i * 150, y + 70, 142, 34, part, 7)
        b.text(x + 14 + i * 150, y + 70, 142, 34, name, part, 14, False, CENTER)


def _dock(b: Brush) -> None:
    x, y, w, h = 560.0, 920.0, 480.0, 68.0
    b.box(x, y, w, h, "dock", 20)
    ink = b.text_of("dock")
    for i in range(7):
        cx, cy = x + 44 + i * 65, y + 31
        b.painter.setPen(QPen(ink, 2.4, Qt.PenStyle.SolidLine, Qt.PenCapStyle.RoundCap, Qt.PenJoinStyle.RoundJoin))
        b.painter.setBrush(Qt.BrushStyle.NoBrush)
        _dock_icon(b, i, cx, cy)
        if i in (0, 1, 2, 4):
            b.dot(cx, y + h - 7, 2.4, b.fill_of("panel button:open"))
    b.note(QRectF(x + 14, y + 8, w - 28, h - 16), "dock", "text")
    b.box(x + 195, y - 36, 88, 28, "dock label", 7)
    b.text(x + 195, y - 36, 88, 28, "Tide table", "dock label", 13, False, CENTER)


def _dock_icon(b: Brush, kind: int, x: float, y: float) -> None:
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


def _widget(b: Brush) -> None:
    x, y, w, h = 1318.0, 396.0, 268.0, 318.0
    b.box(x, y, w, h, "widget", 6, edge=False)
    b.text(x + 18, y + 14, w - 36, 22, "REEDHOLM", "widget colour 0", 16, True, mono=False)
    b.text(x + 18, y + 36, w - 36, 20, "Tuesday 24 November", "widget", 13)
    b.line(x + 18, y + 64, x + w - 18, y + 64, b.text_of("widget text colour 1"))
    rows = (
        ("High water", "14:52", "widget colour 1"),
        ("Wind", "SW 4", "widget colour 2"),
        ("Ringed today", "37", "widget text colour 2"),
        ("Link", "up", "widget colour 3"),
    )
    for i, (name, value, part) in enumerate(rows):
        b.text(x + 18, y + 76 + i * 28, 130, 24, name, "widget text colour 3" if name == "Link" else "widget", 14)
        b.text(x + 120, y + 76 + i * 28, w - 138, 24, value, part, 14, True, RIGHT)
    tide = QPainterPath(QPointF(x + 18, y + 286))
    heights = (10, 22, 40, 58, 72, 78, 72, 58, 38, 22, 12, 16, 30, 48)
    step = (w - 36) / (len(heights) - 1)
    for i, v in enumerate(heights):
        tide.lineTo(x + 18 + i * step, y + 286 - v)
    tide.lineTo(x + w - 18, y + 286)
    b.painter.setPen(QPen(b.text_of("widget text colour 5"), 2))
    b.painter.setBrush(Qt.BrushStyle.NoBrush)
    b.painter.drawPath(tide)
    b.note(QRectF(x + 18, y + 200, w - 36, 90), "widget text colour 5", "text")
    b.text(x + 18, y + 290, w - 36, 20, "tide, metres above datum", "widget text colour 3", 12)


def _terminal(b: Brush) -> None:
    x, y, w, h = 36.0, 562.0, 622.0, 340.0
    b.shadow(x, y, w, h, 8)
    b.of("kde")
    b.top(x, y, w, 32, "window border", 8)
    b.text(x, y, w, 32, "warden@hide: ~/counts", "window border", 14, True, CENTER)
    _border_buttons(b, x + w - 20, y + 16, "window border")
    b.of("terminal")
    b.box(x, y + 32, w, h - 32, "terminal", edge=False)
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
    b.box(at["x"], at["y"], width, line, "marked text", edge=False)
    put("./report", "marked text")
    put(" ", "terminal")
    b.box(at["x"], at["y"] + 1, cell, line - 2, "cursor", edge=False)
    b.text(at["x"], at["y"], cell + 2, line, "-", "cursor", 15, mono=True)


def _border_buttons(b: Brush, right: float, y: float, part: str) -> None:
    ink = b.text_of(part)
    b.line(right - 5, y - 5, right + 5, y + 5, ink, 1.8)
    b.line(right - 5, y + 5, right + 5, y - 5, ink, 1.8)
    b.painter.setPen(QPen(ink, 1.6))
    b.painter.setBrush(Qt.BrushStyle.NoBrush)
    b.painter.drawRect(QRectF(right - 33, y - 5, 10, 10))
    b.line(right - 60, y + 4, right - 50, y + 4, ink, 1.8)


def _window(b: Brush, x: float, y: float, w: float, h: float, idle: bool, title: str, subtitle: str = "") -> None:
    state = ":idle" if idle else ""
    b.shadow(x, y, w, h, 10, 6 if idle else 14)
    b.box(x, y + 20, w, h - 20, "window", 9, edge=False)
    b.top(x, y, w, 46, f"header bar{state}", 9)
    if subtitle and not idle:
        b.text(x, y + 4, w, 22, title, "header bar", 15, True, CENTER)
        b.text(x, y + 23, w, 18, subtitle, "header subtitle", 12, False, CENTER)
    else:
        b.text(x, y, w, 46, title, f"header bar{state}", 15, True, CENTER)
    _border_buttons(b, x + w - 24, y + 23, f"header bar{state}")


def _button(b: Brush, x: float, y: float, w: float, words: str, part: str) -> None:
    b.box(x, y, w, 32, part, 6)
    b.text(x, y, w, 32, words, part, 14, False, CENTER)


def _check(b: Brush, x: float, y: float, words: str, on: bool, round_: bool, label: str = "window") -> None:
    kind = "radio" if round_ else "check"
    part = f"{kind}:checked" if on else kind
    b.box(x, y + 4, 16, 16, part, 8 if round_ else 4)
    if on and round_:
        b.dot(x + 8, y + 12, 3.6, b.text_of(part))
    elif on:
        b.tick(x, y + 4, 16, b.text_of(part))
    b.text(x + 24, y, 200, 24, words, label, 14)


def _switch(b: Brush, x: float, y: float, on: bool) -> None:
    part = "switch:on" if on else "switch"
    b.box(x, y, 44, 24, part, 12)
    b.dot(x + (32 if on else 12), y + 12, 8.5, b.fill_of("switch knob:on" if on else "switch knob"))
    b.note(QRectF(x + (22 if on else 2), y + 2, 20, 20), "switch knob:on" if on else "switch knob")


def _gtk3_window(b: Brush) -> None:
    x, y, w, h = 36.0, 62.0, 640.0, 478.0
    _window(b, x, y, w, h, False, "Ringing log", "Autumn count, hide 2")
    b.text(x + 14, y, 60, 46, "New", "header button", 14, True)
    tabs_y = y + 46
    b.box(x, tabs_y, w, 34, "tabs", edge=False)
    names = (("Today", "tab:open"), ("Rings", "tab"), ("Nets", "tab:hover"), ("Weather", "tab"))
    for i, (name, part) in enumerate(names):
        b.box(x + i * 100, tabs_y, 100, 34, part, edge=False)
        b.text(x + i * 100, tabs_y, 100, 34, name, part, 14, i == 0, CENTER)
    accent = b.edge_of("tab:open")
    if accent is not None:
        b.painter.fillRect(QRectF(x, tabs_y + 31, 100, 3), accent)
    # Left: the form.
    lx, ly = x + 18, tabs_y + 48
    b.text(lx, ly, 100, 22, "Species", "label, dim", 13)
    b.box(lx, ly + 22, 250, 32, "field:focus", 6)
    b.text(lx + 10, ly + 22, 64, 32, "Bearded", "field:focus", 14)
    b.box(lx + 66, ly + 28, 62, 21, "field selection", 2, edge=False)
    b.text(lx + 69, ly + 22, 62, 32, "reedling", "field selection", 14)
    b.text(lx, ly + 62, 100, 22, "Ring", "label, dim", 13)
    b.box(lx, ly + 84, 118, 32, "field", 6)
    b.text(lx + 10, ly + 84, 100, 32, "RH 40217", "field", 14)
    b.box(lx + 132, ly + 84, 118, 32, "field:error", 6)
    b.text(lx + 142, ly + 84, 100, 32, "wing 6?", "field:error", 14)
    _check(b, lx, ly + 128, "Adult", True, True)
    _check(b, lx + 100, ly + 128, "First year", False, True)
    _check(b, lx, ly + 156, "Ring read twice", True, False)
    _check(b, lx, ly + 184, "Photographed", False, False)
    _switch(b, lx + 190, ly + 156, True)
    _switch(b, lx + 190, ly + 184, False)
    b.box(lx, ly + 226, 250, 7, "slider trough", 3.5)
    b.painter.setPen(Qt.PenStyle.NoPen)
    b.painter.setBrush(b.fill_of("slider fill"))
    b.painter.drawRoundedRect(QRectF(lx, ly + 226, 150, 7), 3.5, 3.5)
    b.note(QRectF(lx, ly + 222, 140, 14), "slider fill")
    b.box(lx + 141, ly + 220, 19, 19, "slider knob", 9.5)
    b.box(lx, ly + 252, 250, 9, "progress trough", 4.5)
    b.painter.setPen(Qt.PenStyle.NoPen)
    b.painter.setBrush(b.fill_of("progress"))
    b.painter.drawRoundedRect(QRectF(lx, ly + 252, 96, 9), 4.5, 4.5)
    b.note(QRectF(lx, ly + 250, 96, 13), "progress")
    b.text(lx, ly + 268, 250, 22, "37 of 96 rings used", "label, dim", 13)
    # Right: the list.
    vx, vy, vw = x + 290, tabs_y + 50, 332.0
    b.box(vx, vy, vw, 192, "list", 6)
    rows = (
        ("Bearded reedling", "7", "list row:selected"),
        ("Reed bunting", "11", "list row"),
        ("Wren", "4", "list row:hover"),
        ("Water rail", "1", "list row"),
        ("Cetti's warbler", "3", "list row:selected, idle"),
        ("Kingfisher", "1", "list row"),
    )
    for i, (name, count, part) in enumerate(rows):
        ry = vy + 2 + i * 31.3
        if part != "list row":
            b.box(vx + 2, ry, vw - 4, 31, part, 4, edge=False)
        else:
            b.note(QRectF(vx + 2, ry, vw - 4, 31), part)
        b.text(vx + 14, ry, 220, 31, name, part, 14)
        b.text(vx + 14, ry, vw - 30, 31, count, part, 14, False, RIGHT)
    b.box(vx + vw - 9, vy + 8, 5, 70, "scroll bar", 2.5, edge=False)
    b.text(vx, vy + 202, 330, 24, "Every ring is looked up in the", "window", 14)
    b.text(vx + 194, vy + 202, 120, 24, "ring ledger", "link", 14, underline=True)
    b.text(vx + 274, vy + 202, 60, 24, "(read)", "link, visited", 14, underline=True)
    b.box(vx, vy + 234, vw, 34, "message:warning", 6)
    b.text(vx + 12, vy + 234, vw - 24, 34, "Two rings have been read twice", "message:warning", 14)
    b.box(vx, vy + 274, vw, 34, "message:error", 6)
    b.text(vx + 12, vy + 274, vw - 24, 34, "Net 3 has no light sensor", "message:error", 14)
    by = y + h - 46
    _button(b, x + 18, by, 84, "Rest", "button")
    _button(b, x + 108, by, 84, "Hover", "button:hover")
    _button(b, x + 198, by, 84, "Press", "button:pressed")
    _button(b, x + 288, by, 84, "Ringed", "button:checked")
    _button(b, x + 378, by, 78, "Later", "button:disabled")
    _button(b, x + 462, by, 80, "Release", "delete button")
    _button(b, x + 548, by, 76, "Save", "main button")
    _context_menu(b, 640, 300)


def _context_menu(b: Brush, x: float, y: float) -> None:
    w = 216.0
    b.shadow(x, y, w, 182, 8)
    b.box(x, y, w, 182, "menu", 8)
    rows = (
        ("Show on the map", "Ctrl+M", "menu item"),
        ("Copy ring", "Ctrl+C", "menu item:hover"),
        ("Rename…", "F2", "menu item"),
        ("Merge counts", "", "menu item:disabled"),
    )
    for i, (name, key, part) in enumerate(rows):
        ry = y + 6 + i * 32 + (9 if i > 2 else 0)
        if part == "menu item:hover":
            b.box(x + 5, ry, w - 10, 30, part, 5, edge=False)
        else:
            b.note(QRectF(x + 5, ry, w - 10, 30), part)
        b.text(x + 18, ry, w - 36, 30, name, part, 14)
        if key:
            b.text(x + 18, ry, w - 34, 30, key, part if "hover" in part else "menu shortcut", 13, False, RIGHT)
    b.painter.fillRect(QRectF(x + 10, y + 106, w - 20, 1), b.fill_of("separator"))
    ry = y + 6 + 4 * 32 + 9
    b.note(QRectF(x + 5, ry, w - 10, 30), "menu item")
    b.text(x + 18, ry, w - 36, 30, "Keep in the ledger", "menu item", 14)
    b.tick(x + w - 34, ry + 7, 16, b.text_of("menu item"))


def _gtk4_window(b: Brush) -> None:
    x, y, w, h = 716.0, 62.0, 560.0, 394.0
    _window(b, x, y, w, h, True, "Hide settings")
    b.box(x, y + 46, 168, h - 46, "sidebar", edge=False)
    for i, name in enumerate(("Nets", "Lamps", "Cameras", "Visitors", "Tides")):
        ry = y + 58 + i * 36
        if i == 2:
            b.box(x + 8, ry, 152, 32, "sidebar row:selected", 6, edge=False)
        b.text(x + 22, ry, 140, 32, name, "sidebar row:selected" if i == 2 else "sidebar", 14)
    cx, cw = x + 188, w - 208
    b.text(cx, y + 58, cw, 24, "Cameras", "window", 16, True)
    b.box(cx, y + 88, cw, 136, "card", 9)
    for i, (name, note, on) in enumerate(
        (("Nest box 4", "two chicks, both ringed", True), ("Mudflat mast", "shares with the visitors' screen", False))
    ):
        ry = y + 96 + i * 66
        b.text(cx + 16, ry, 220, 24, name, "card", 14, True)
        b.text(cx + 16, ry + 22, 240, 22, note, "card", 13)
        _switch(b, cx + cw - 60, ry + 10, on)
    b.painter.fillRect(QRectF(cx, y + 156, cw, 1), b.fill_of("separator"))
    b.text(cx, y + 236, 120, 24, "Shutter", "label, dim", 13)
    b.box(cx, y + 260, cw, 34, "field", 6)
    b.text(cx + 12, y + 260, cw - 24, 34, "at dawn and at dusk", "field", 14)
    b.text(cx, y + 304, 220, 26, "Read about the", "window", 14)
    b.text(cx + 98, y + 304, 160, 26, "lens heaters", "link", 14, underline=True)
    _button(b, cx, y + h - 50, 104, "Discard", "delete button")
    _button(b, cx + 116, y + h - 50, 104, "Try", "button")
    _button(b, cx + cw - 108, y + h - 50, 108, "Apply", "main button")
    tip_x, tip_y = x + 214.0, y + 326.0
    b.box(tip_x + 190, tip_y - 24, 134, 28, "tooltip", 6, edge=False)
    b.text(tip_x + 190, tip_y - 24, 134, 28, "Opens the ledger", "tooltip", 13, False, CENTER)


def _files(b: Brush) -> None:
    x, y, w, h = 692.0, 484.0, 564.0, 390.0
    b.shadow(x, y, w, h, 8)
    b.top(x, y, w, 32, "window border", 8)
    b.text(x, y, w, 32, "Counts - Files", "window border", 14, True, CENTER)
    _border_buttons(b, x + w - 20, y + 16, "window border")
    b.box(x, y + 32, w, 40, "header", edge=False)
    for i, name in enumerate(("Back", "Up")):
        b.box(x + 10 + i * 66, y + 37, 60, 30, "button", 4, edge=False)
        b.text(x + 10 + i * 66, y + 37, 60, 30, name, "button", 14, False, CENTER)
    b.box(x + 150, y + 37, w - 162, 30, "view", 4, edge=False)
    b.painter.setPen(QPen(b.text_of("view focus"), 1.5))
    b.painter.setBrush(Qt.BrushStyle.NoBrush)
    b.painter.drawRoundedRect(QRectF(x + 150.5, y + 37.5, w - 163, 29), 4, 4)
    b.text(x + 162, y + 37, 300, 30, "/ marsh / counts / autumn", "view", 14)
    body = y + 72
    b.box(x, body, 156, h - 72, "window", edge=False)
    for i, name in enumerate(("Home", "Pictures", "Marsh", "Ledger")):
        if i == 2:
            b.box(x + 6, body + 10 + i * 32, 144, 30, "selection", 4, edge=False)
        b.text(x + 18, body + 10 + i * 32, 130, 30, name, "selection" if i == 2 else "window", 14)
    b.text(x + 18, body + 146, 130, 26, "Devices", "window:inactive", 13)
    b.text(x + 18, body + 172, 130, 28, "Nest camera", "window", 14)
    b.text(x + 18, body + 200, 130, 28, "not answering", "window:negative", 13)
    b.box(x + 156, body, w - 156, h - 72 - 34, "view", edge=False)
    b.box(x + 156, body, w - 156, 28, "button", edge=False)
    for offset, name in ((14, "Name"), (196, "Counted"), (294, "State")):
        b.text(x + 156 + offset, body, 120, 28, name, "button", 13, True)
    rows = (
        ("bearded-reedling.csv", "today", "checked", "view:positive"),
        ("bittern.csv", "today", "by ear only", "view:neutral"),
        ("lapwing.csv", "yesterday", "checked", "view:positive"),
        ("redshank.csv", "Sunday", "missing", "view:negative"),
        ("teal.csv", "Saturday", "see ledger", "view:link"),
        ("wigeon.csv", "Saturday", "read", "view:visited"),
        ("old-counts", "last winter", "kept", "view:inactive"),
    )
    for i, (name, when, state, part) in enumerate(rows):
        ry = body + 28 + i * 30.0
        selected = i == 2
        if selected:
            b.box(x + 158, ry, w - 160, 30, "selection", 3, edge=False)
        elif i % 2:
            b.box(x + 156, ry, w - 156, 30, "view alternate", edge=False)
        base = "selection" if selected else "view alternate" if i % 2 else "view"
        last = part.replace("view:", f"{base}:") if not selected else "selection"
        b.text(x + 170, ry, 220, 30, name, base, 14)
        b.text(x + 352, ry, 96, 30, when, f"{base}:inactive", 14)
        b.text(x + 450, ry, 110, 30, state, last, 14, underline=state in ("see ledger", "read"))
    b.box(x + 156, y + h - 34, w - 156, 34, "window", edge=False)
    b.text(x + 170, y + h - 34, 300, 34, "7 files, 214 birds", "window", 13)
    b.box(x + w - 250, y + h - 58, 216, 28, "tooltip", 4, edge=False)
    b.text(x + w - 250, y + h - 58, 216, 28, "bittern.csv, 3 kB, Lars", "tooltip", 13, False, CENTER)
