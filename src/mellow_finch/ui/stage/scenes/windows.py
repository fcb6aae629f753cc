"""Windows of programs that toolkits draw: a form, settings, and a list of files."""

from __future__ import annotations

from PyQt6.QtCore import QRectF, Qt
from PyQt6.QtGui import QPen

from ..brush import CENTER, RIGHT, Brush


def title_bar(b: Brush, x: float, y: float, w: float, words: str, state: str = "") -> None:
    """Draw the border that the window manager draws over a window; state: "idle" or nothing."""
    owner = b.owner
    if not b.of(b.border).says:  # nothing is known of them: the toolkit's own
        b.of("kde")
    part = {"kde": "window border", "gtk-3": "header bar"}.get(b.owner, "border")
    part = f"{part}:{state}" if state else part
    b.top(x, y, w, 32, part, 8)
    b.text(x, y, w, 32, words, part, 14, True, CENTER)
    border_buttons(b, x + (80 if b.left else w - 20), y + 16, part)
    b.of(owner)


def border_buttons(b: Brush, right: float, y: float, part: str) -> None:
    """Draw the three buttons of a title bar, the last at the right."""
    ink = b.text_of(part)
    b.line(right - 5, y - 5, right + 5, y + 5, ink, 1.8)
    b.line(right - 5, y + 5, right + 5, y - 5, ink, 1.8)
    b.painter.setPen(QPen(ink, 1.6))
    b.painter.setBrush(Qt.BrushStyle.NoBrush)
    b.painter.drawRect(QRectF(right - 33, y - 5, 10, 10))
    b.line(right - 60, y + 4, right - 50, y + 4, ink, 1.8)


def window(b: Brush, x: float, y: float, w: float, h: float, idle: bool, title: str, subtitle: str = "") -> None:
    """Draw a window with a header bar."""
    state = ":idle" if idle else ""
    b.shadow(x, y, w, h, 10, 6 if idle else 14)
    b.box(x, y + 20, w, h - 20, "window", 9, edge=False)
    b.top(x, y, w, 46, f"header bar{state}", 9)
    if subtitle and not idle:
        b.text(x, y + 4, w, 22, title, "header bar", 15, True, CENTER)
        b.text(x, y + 23, w, 18, subtitle, "header subtitle", 12, False, CENTER)
    else:
        b.text(x, y, w, 46, title, f"header bar{state}", 15, True, CENTER)
    border_buttons(b, x + (84 if b.left else w - 24), y + 23, f"header bar{state}")


def button(b: Brush, x: float, y: float, w: float, words: str, part: str) -> None:
    """Draw a button."""
    b.box(x, y, w, 32, part, 6)
    b.text(x, y, w, 32, words, part, 14, False, CENTER)


def check(b: Brush, x: float, y: float, words: str, on: bool, round_: bool, label: str = "window") -> None:
    """Draw a check or radio mark with its label."""
    kind = "radio" if round_ else "check"
    part = f"{kind}:checked" if on else kind
    b.box(x, y + 4, 16, 16, part, 8 if round_ else 4)
    if on and round_:
        b.dot(x + 8, y + 12, 3.6, b.text_of(part))
    elif on:
        b.tick(x, y + 4, 16, b.text_of(part))
    b.text(x + 24, y, 200, 24, words, label, 14)


def switch(b: Brush, x: float, y: float, on: bool) -> None:
    """Draw a switch."""
    part = "switch:on" if on else "switch"
    b.box(x, y, 44, 24, part, 12)
    b.dot(x + (32 if on else 12), y + 12, 8.5, b.fill_of("switch knob:on" if on else "switch knob"))
    b.note(QRectF(x + (22 if on else 2), y + 2, 20, 20), "switch knob:on" if on else "switch knob")


def gtk3_window(b: Brush) -> None:
    """Draw the form in which rings are entered."""
    x, y, w, h = 36.0, 62.0, 640.0, 478.0
    window(b, x, y, w, h, False, "Ringing log", "Autumn count, hide 2")
    b.text(x + (w - 54 if b.left else 14), y, 60, 46, "New", "header button", 14, True)
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
    check(b, lx, ly + 128, "Adult", True, True)
    check(b, lx + 100, ly + 128, "First year", False, True)
    check(b, lx, ly + 156, "Ring read twice", True, False)
    check(b, lx, ly + 184, "Photographed", False, False)
    switch(b, lx + 190, ly + 156, True)
    switch(b, lx + 190, ly + 184, False)
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
    button(b, x + 18, by, 84, "Rest", "button")
    button(b, x + 108, by, 84, "Hover", "button:hover")
    button(b, x + 198, by, 84, "Press", "button:pressed")
    button(b, x + 288, by, 84, "Ringed", "button:checked")
    button(b, x + 378, by, 78, "Later", "button:disabled")
    button(b, x + 462, by, 80, "Release", "delete button")
    button(b, x + 548, by, 76, "Save", "main button")
    context_menu(b, 640, 300)


def context_menu(b: Brush, x: float, y: float) -> None:
    """Draw a menu over it."""
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


def gtk4_window(b: Brush) -> None:
    """Draw the settings of a hide."""
    x, y, w, h = 716.0, 62.0, 560.0, 394.0
    window(b, x, y, w, h, True, "Hide settings")
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
        switch(b, cx + cw - 60, ry + 10, on)
    b.painter.fillRect(QRectF(cx, y + 156, cw, 1), b.fill_of("separator"))
    b.text(cx, y + 236, 120, 24, "Shutter", "label, dim", 13)
    b.box(cx, y + 260, cw, 34, "field", 6)
    b.text(cx + 12, y + 260, cw - 24, 34, "at dawn and at dusk", "field", 14)
    b.text(cx, y + 304, 220, 26, "Read about the", "window", 14)
    b.text(cx + 98, y + 304, 160, 26, "lens heaters", "link", 14, underline=True)
    button(b, cx, y + h - 50, 104, "Discard", "delete button")
    button(b, cx + 116, y + h - 50, 104, "Try", "button")
    button(b, cx + cw - 108, y + h - 50, 108, "Apply", "main button")
    tip_x, tip_y = x + 214.0, y + 326.0
    b.box(tip_x + 190, tip_y - 24, 134, 28, "tooltip", 6, edge=False)
    b.text(tip_x + 190, tip_y - 24, 134, 28, "Opens the ledger", "tooltip", 13, False, CENTER)


def files(b: Brush) -> None:
    """Draw a list of files."""
    x, y, w, h = 692.0, 484.0, 564.0, 390.0
    b.shadow(x, y, w, h, 8)
    title_bar(b, x, y, w, "Counts - Files")
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
