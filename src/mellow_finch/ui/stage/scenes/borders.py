"""Windows as a window manager frames them: focused, idle and urgent, its menu and its pop-ups."""

from __future__ import annotations

from PyQt6.QtCore import QRectF

from ....components.catalogue import COMPONENT_BY_ID
from ..brush import CENTER, Brush
from .bars import border_bar
from .windows import files, title_bar


def draw_framed_windows(b: Brush) -> None:
    """Draw two windows whose insides a toolkit draws, in the borders of the component in view."""
    owner = b.owner
    if not b.says:  # nothing is known of them
        files(b.of("kde"))
        return
    gaps = b.asked("gaps") if "gaps" in COMPONENT_BY_ID[owner].shape else ""
    w, h = 520.0, 250.0
    places = ((692.0, 484.0), (760.0, 640.0))
    if gaps:  # side by side, as those lay windows that leave gaps between them
        room, gap = QRectF(700, 480, 600, 420), float(gaps)
        w, h = (room.width() - 3 * gap) / 2, room.height() - 2 * gap
        places = ((room.x() + gap, room.y() + gap), (room.x() + 2 * gap + w, room.y() + gap))
    for (x, y), words, state in zip(places, ("Counts - Files", "Net 4 - Files"), ("", "idle"), strict=True):
        b.of(owner)
        b.shadow(x, y, w, h, 8)
        frame = b.first(f"border frame:{state}" if state else "border frame", "border")
        rim = 2.0 if b.edge_width == 1 else b.edge_width
        b.box(x - rim, y + 20, w + 2 * rim, h - 20 + rim, frame, 4, edge=False)
        if b.has("border mark") and not state:  # what tells the window in use apart
            b.box(x - rim - 3, y - 3, w + 2 * rim + 6, h + rim + 6, "border mark", 6, edge=False)
        title_bar(b, x, y, w, words, state)
        b.of("kde")
        b.box(x, y + 32, w, h - 32, "view", edge=False)
        for i, name in enumerate(("bearded-reedling.csv", "bittern.csv", "lapwing.csv", "redshank.csv")):
            part = "selection" if i == 1 and not state else "view"
            if part == "selection":
                b.box(x + 2, y + 36 + i * 32, w - 4, 30, part, 3, edge=False)
            b.text(x + 18, y + 36 + i * 32, 300, 30, name, part, 14)
        b.of(owner)
    _button_states(b, places[0][0] + w - 190, places[0][1])


def _button_states(b: Brush, x: float, y: float) -> None:
    """Show how the buttons look under the pointer, beside the ones at rest."""
    for i, part in enumerate(("border button:hover", "border button:pressed", "border close button:hover")):
        if b.has(part):
            b.box(x + i * 30, y + 4, 26, 24, part, 3, edge=False)
            b.text(x + i * 30, y + 4, 26, 24, ["▢", "▢", "✕"][i], part, 14, False, CENTER)


def draw_border_menu(b: Brush) -> None:
    """Draw the window manager's own menu, the display for switching windows, and its bar where it has one."""
    if b.has("border menu"):
        _menu(b, 1010.0, 560.0)
    if b.has("border display"):
        b.shadow(500, 380, 420, 96, 6)
        b.box(500, 380, 420, 96, "border display", 6)
        b.text(518, 386, 300, 30, "Ringing log", "border display", 15)
        b.box(510, 420, 400, 44, "border display:chosen", 4, edge=False)
        b.text(524, 420, 300, 44, "Counts - Files", "border display:chosen", 15, True)
    if b.has("border:urgent"):
        top = 436 if b.asked("gaps") else 500
        b.box(1228, top, 60, 32, "border:urgent", edge=False)
        b.text(1228, top, 60, 32, "net 3", "border:urgent", 14, True, CENTER)
    if b.has("bar"):
        border_bar(b)


def _menu(b: Brush, x: float, y: float) -> None:
    b.shadow(x, y, 220, 214, 6)
    b.box(x, y, 220, 214, "border menu", 4)
    if b.has("border menu title"):
        b.box(x, y, 220, 32, "border menu title", edge=False)
        b.text(x, y, 220, 32, "Reedholm", "border menu title", 15, True, CENTER)
    for i, (name, part) in enumerate(
        (
            ("Ringing log", "border menu"),
            ("Counts", "border menu item:hover"),
            ("Terminal", "border menu"),
            ("Visitors' screen", "border menu item:disabled"),
            ("Leave the hide", "border menu"),
        )
    ):
        ry = y + 38 + i * 34
        if "hover" in part:
            b.box(x + 2, ry, 216, 32, part, edge=False)
        else:
            b.note(QRectF(x + 2, ry, 216, 32), part)
        b.text(x + 16, ry, 180, 32, name, part, 15)
    if b.has("border menu:bullet"):
        b.text(x + 190, y + 38, 20, 34, "▸", "border menu:bullet", 15)
