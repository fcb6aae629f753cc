"""A browser: its own bars as a theme colours them, and a page whose form fields a guard keeps readable."""

from __future__ import annotations

from PyQt6.QtCore import QRectF
from PyQt6.QtGui import QColor

from ..brush import CENTER, Brush

_PAPER, _INK = QColor(255, 255, 255), QColor(34, 34, 34)  # what a page sets for itself


def draw_browser(b: Brush) -> None:
    """Draw the browser's window with what the component in view says."""
    x, y, w, h = 240.0, 84.0, 960.0, 470.0
    b.shadow(x, y, w, h, 10, 16)
    if b.has("frame"):
        _bars(b, x, y, w, h)
    else:
        _page_with_fields(b, x, y, w, h)


def _bars(b: Brush, x: float, y: float, w: float, h: float) -> None:
    b.top(x, y, w, 44, "frame", 10)
    b.box(x + 16, y + 8, 220, 36, "browser tab:open", 6, edge=False)
    b.text(x + 32, y + 8, 190, 36, "Tides at Reedholm", "browser tab:open", 14)
    b.text(x + 262, y + 8, 190, 36, "Ring ledger", "frame", 14)
    b.text(x + 460, y + 8, 190, 36, "idle window", "frame:idle", 13)
    b.box(x, y + 44, w, 46, "browser bar", edge=False)
    b.text(x + 18, y + 44, 80, 46, "‹   ›   ↻", "browser bar", 18)
    b.box(x + 116, y + 51, w - 240, 32, "browser field", 16)
    b.text(x + 136, y + 51, 300, 32, "reedholm.example/tides", "browser field", 14)
    b.box(x + 330, y + 55, 90, 24, "browser field:selected", 3, edge=False)
    b.text(x + 338, y + 55, 80, 24, "autumn", "browser field:selected", 14)
    b.box(x, y + 90, w, h - 90, "new page", edge=False)
    b.text(x + 260, y + 112, 400, 34, "A new page", "new page", 20, True)
    for i, name in enumerate(("Tides", "Ledger", "Ferry", "Weather")):
        b.box(x + 260 + i * 150, y + 160, 134, 90, "new page card", 8)
        b.text(x + 260 + i * 150, y + 160, 134, 90, name, "new page card", 15, False, CENTER)
    b.box(x, y + 90, 220, h - 90, "sidebar", edge=False)
    for i, name in enumerate(("Marsh", "Nets", "Visitors")):
        if i == 1:
            b.box(x + 8, y + 104 + i * 38, 204, 34, "sidebar:selected", 5, edge=False)
        b.text(x + 22, y + 104 + i * 38, 180, 34, name, "sidebar:selected" if i == 1 else "sidebar", 14)
    mx, my = x + w - 250, y + 96
    b.shadow(mx, my, 230, 150, 8)
    b.box(mx, my, 230, 150, "menu", 8)
    for i, name in enumerate(("New window", "Bookmarks", "Settings")):
        part = "menu item:hover" if i == 1 else "menu"
        if i == 1:
            b.box(mx + 6, my + 8 + i * 44, 218, 40, part, 5, edge=False)
        b.text(mx + 20, my + 8 + i * 44, 180, 40, name, part, 14)


def _page_with_fields(b: Brush, x: float, y: float, w: float, h: float) -> None:
    b.painter.fillRect(QRectF(x, y, w, h), _PAPER)
    words = "This page sets its own ground and text, and leaves its fields to the browser."
    b.text(x + 40, y + 30, 600, 40, "Report a ring", "page field", 26, True, colour=_INK)
    b.text(
        x + 40,
        y + 72,
        700,
        30,
        "This page sets its own ground and text, and leaves its fields to the browser.",
        "page field",
        16,
        colour=_INK,
    )
    rows = (
        ("Ring", "RH 40217", "page field"),
        ("Where", "hide or net", "page field:hint"),
        ("Species", "Bearded reedling", "page list"),
    )
    for i, (name, words, part) in enumerate(rows):
        ry = y + 124 + i * 66
        b.text(x + 40, ry, 140, 40, name, "page field", 16, colour=_INK)
        b.box(x + 180, ry, 420, 40, part if part != "page field:hint" else "page field", 4)
        b.text(x + 194, ry, 380, 40, words, part, 16)
    b.box(x + 180, y + 330, 150, 42, "page button", 5)
    b.text(x + 180, y + 330, 150, 42, "Send", "page button", 16, False, CENTER)
    b.box(x + 380, y + 334, 190, 34, "page selection", 2, edge=False)
    b.text(x + 390, y + 334, 180, 34, "marked on the page", "page selection", 16)
