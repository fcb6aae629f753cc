"""Bars and docks of their own: panels at the upper or lower edge, and docks that float."""

from __future__ import annotations

from typing import NamedTuple

from PyQt6.QtCore import QRectF, Qt
from PyQt6.QtGui import QPen

from ....session.bar_items import BarItems
from ..brush import CENTER, HEIGHT, RIGHT, WIDTH, Brush
from .shell import dock_icon


def draw_bar(b: Brush, layout: str, items: BarItems | None = None) -> None:
    """Draw the bar of the component that is in view.

    layout: "bottom" for one at the lower edge with tasks on it; items: what stands on it, None for what usually does.
    """
    if layout == "bottom":
        _lower_bar(b, items)
    else:
        _upper_bar(b, items)


class _Modules(NamedTuple):
    """What is drawn of a bar's modules: by what each is called and the parts that it may have, first to last."""

    item: tuple[str, ...] = ("bar item", "bar")
    open: tuple[str, ...] = ("bar item:open", "bar item", "bar")
    quiet: tuple[str, ...] = ("bar item:quiet", "bar item", "bar")
    urgent: tuple[str, ...] = ("bar item:urgent", "bar item", "bar")
    warning: tuple[str, ...] = ("bar item:warning", "bar item", "bar")
    good: tuple[str, ...] = ("bar item:good", "bar item", "bar")

    def of(self, kind: str) -> tuple[tuple[str, tuple[str, ...], float], ...]:
        """Return the words of a kind of module, the parts that they may be drawn as, and their widths."""
        rows: dict[str, tuple[tuple[str, tuple[str, ...], float], ...]] = {
            "workspaces": (("1", self.open, 34), ("2", self.quiet, 34), ("3", self.urgent, 34), ("4", self.quiet, 34)),
            "tasks": (("Ringing log", self.open, 150), ("Counts - Files", self.item, 150)),
            "title": (("Ringing log, autumn count", self.item, 250),),
            "menu": (("Reedholm", self.item, 96),),
            "launchers": (("log", self.item, 44), ("nets", self.item, 48)),
            "tray": (("net", self.item, 40), ("mail", self.item, 44)),
            "clock": (("07:42", self.item, 64),),
            "battery": (("charged", self.good, 78),),
            "light": (("lamp 20 %", self.warning, 88),),
            "sound": (("40 %", self.item, 56),),
            "network": (("hide-net", self.item, 78),),
            "processor": (("9 %", self.item, 50),),
            "memory": (("2.1 GB", self.item, 68),),
            "warmth": (("12 °C", self.item, 60),),
            "room": (("61 GB", self.item, 66),),
            "music": (("Dusk chorus", self.item, 112),),
        }
        return rows.get(kind) or ((kind, self.item, 16.0 + 8 * len(kind)),)


_PLAIN = _Modules()
_BUTTON = ("panel button", "panel")
_OF_PANEL = _Modules(_BUTTON, ("panel button:open", *_BUTTON), _BUTTON, _BUTTON, _BUTTON, _BUTTON)
_BETWEEN = 4.0  # units between two modules


def arranged(b: Brush, y: float, h: float, items: BarItems, modules: _Modules = _PLAIN) -> None:
    """Draw modules where a bar has them: from the left, in the middle, and to the right edge."""
    sides = [[row for kind in side for row in modules.of(kind)] for side in items]
    wide = [sum(w + _BETWEEN for _, _, w in side) for side in sides]
    for side, x in zip(sides, (8.0, (WIDTH - wide[1]) / 2, WIDTH - 8 - wide[2]), strict=True):
        for words, parts, w in side:
            x = _item(b, x, y, w, h, words, *parts)


def _item(b: Brush, x: float, y: float, w: float, h: float, words: str, *parts: str) -> float:
    """Draw an item with the first part that there is; return where the next one starts."""
    part = b.first(*parts)
    b.box(x, y, w, h, part, 4, edge=False)
    b.text(x, y, w, h, words, part, 14, False, CENTER)
    return x + w + 4


def _upper_bar(b: Brush, items: BarItems | None) -> None:
    h = 34.0
    b.box(0, 0, WIDTH, h, "bar", edge=b.has("bar line"))
    if items is not None:
        arranged(b, 4, h - 8, items)
        _edges_of_bar(b, h)
        return
    x = 8.0
    for name, parts in (
        ("1 reeds", ("bar item:open", "bar item", "bar")),
        ("2 nets", ("bar item:quiet", "bar item", "bar")),
        ("3 log", ("bar item:hover", "bar item", "bar")),
        ("4 tide", ("bar item:urgent", "bar item", "bar")),
    ):
        x = _item(b, x, 4, 74, h - 8, name, *parts)
    b.text(620, 0, 360, h, "Ringing log, autumn count", b.first("bar item", "bar"), 14, False, CENTER)
    right = WIDTH - 8.0
    modules: tuple[tuple[str, tuple[str, ...], float], ...] = (
        ("07:42", ("bar item", "bar"), 64.0),
        ("9 %", ("bar item:urgent", "bar item", "bar"), 56.0),
        ("lamp 20 %", ("bar item:warning", "bar item", "bar"), 88.0),
        ("charged", ("bar item:good", "bar item", "bar"), 78.0),
        ("hide-net", ("bar item", "bar"), 78.0),
    )
    for name, ways, w in modules:
        right -= w + 4
        _item(b, right, 4, w, h - 8, name, *ways)
    _edges_of_bar(b, h)
    if b.has("bar tooltip"):
        b.box(WIDTH - 230, h + 8, 190, 30, "bar tooltip", 5)
        b.text(WIDTH - 230, h + 8, 190, 30, "42 minutes are left", "bar tooltip", 13, False, CENTER)


def _edges_of_bar(b: Brush, h: float) -> None:
    for state, y in (("upper edge", 0.0), ("lower edge", h - 5)):
        if b.has(f"bar:{state}"):
            b.note(QRectF(0, y, WIDTH, 5), f"bar:{state}")


def toolkit_panel(b: Brush, items: BarItems | None = None) -> None:
    """Draw a panel that is a window of the toolkit: its menu, the windows that are open, signs and the time."""
    h = 34.0
    b.box(0, 0, WIDTH, h, "panel", edge=False)
    if items is not None:
        arranged(b, 3, h - 6, items, _OF_PANEL)
        return
    b.text(14, 0, 120, h, "Applications", "panel button", 14, True)
    for i, (name, part) in enumerate((("Ringing log", "panel button:open"), ("Counts - Files", "panel button"))):
        if part != "panel button":
            b.box(150 + i * 170, 3, 160, h - 6, part, 4, edge=False)
        b.text(162 + i * 170, 3, 140, h - 6, name, part, 14)
    b.text(WIDTH - 170, 0, 150, h, "Tue 24 Nov  07:42", "panel", 14, True, RIGHT)
    ink = b.text_of("panel")
    for i in range(4):
        b.line(WIDTH - 220 + i * 5, 23, WIDTH - 220 + i * 5, 19 - i * 3, ink, 3)
    b.note(QRectF(WIDTH - 230, 0, 60, h), "panel", "text")


def toolkit_launchers(b: Brush) -> None:
    """Draw a second panel of the toolkit's at the lower edge, with programs to start."""
    w, h = 336.0, 48.0
    x, y = (WIDTH - w) / 2, HEIGHT - h
    b.box(x, y, w, h, "panel", edge=False)
    b.painter.setPen(QPen(b.text_of("panel"), 2.2, Qt.PenStyle.SolidLine, Qt.PenCapStyle.RoundCap))
    b.painter.setBrush(Qt.BrushStyle.NoBrush)
    for i in range(6):
        dock_icon(b, i, x + 38 + i * 52, y + h / 2)
    b.note(QRectF(x + 10, y + 8, w - 20, h - 16), "panel", "text")


def toolkit_menu(b: Brush) -> None:
    """Draw the menu that the desktop opens under the pointer, as the toolkit paints it."""
    x, y, w = 1360.0, 58.0, 216.0
    b.shadow(x, y, w, 178, 6)
    b.box(x, y, w, 178, "menu", 4)
    rows = ("Tide table", "Nest cameras", "Ringing permits", "Ferry at low water", "Leave the hide")
    for i, name in enumerate(rows):
        part = "menu item:hover" if i == 1 else "menu item:disabled" if i == 3 else "menu item"
        if i == 1:
            b.box(x + 4, y + 6 + i * 33, w - 8, 32, part, 3, edge=False)
        b.text(x + 18, y + 6 + i * 33, w - 36, 32, name, part, 14)


def border_bar(b: Brush) -> None:
    """Draw the bar that a window manager draws itself: places of work on the left, words of a program on the right."""
    b.box(0, 0, WIDTH, 34, "bar", edge=False)
    rows = (("1", "bar item:open"), ("2", "bar item:quiet"), ("3", "bar item:urgent"), ("4", "bar item:quiet"))
    for i, (name, part) in enumerate(rows):
        b.box(8 + i * 38, 3, 34, 28, part, edge=False)
        b.text(8 + i * 38, 3, 34, 28, name, part, 14, True, CENTER)
    b.text(WIDTH - 420, 0, 400, 34, "tide 14:52 | hide-net | 07:42", "bar", 14, False, RIGHT)


def _lower_bar(b: Brush, items: BarItems | None) -> None:
    h = 40.0
    y = HEIGHT - h
    b.box(0, y, WIDTH, h, b.first("bar drawing", "bar"), edge=False)
    b.note(QRectF(0, y, WIDTH, h), "bar")
    if items is not None:
        arranged(b, y + 5, h - 10, items)
    else:
        _tasks(b, y, h)
    if b.has("bar tooltip"):
        b.box(180, y - 38, 200, 30, "bar tooltip", 5)
        b.text(180, y - 38, 200, 30, "seven files, 214 birds", "bar tooltip", 13, False, CENTER)
    if b.has("menu"):
        _pop_up(b, WIDTH - 300, y - 250)


def _tasks(b: Brush, y: float, h: float) -> None:
    x = 10.0
    for name, parts in (
        ("Ringing log", ("bar item:open", "bar")),
        ("Counts - Files", ("bar item", "bar")),
        ("Hide settings", ("bar item:quiet", "bar item", "bar")),
        ("Net 3 is full", ("bar item:urgent", "bar item", "bar")),
    ):
        x = _item(b, x, y + 5, 150, h - 10, name, *parts)
    b.text(WIDTH - 170, y, 150, h, "Tue 24 Nov  07:42", "bar", 14, True, RIGHT)


def _pop_up(b: Brush, x: float, y: float) -> None:
    b.shadow(x, y, 280, 238, 8)
    b.box(x, y, 280, 238, b.first("menu drawing", "menu"), 8, edge=False)
    b.note(QRectF(x, y, 280, 238), "menu")
    for i, name in enumerate(("Tide table", "Nest cameras", "Ringing permits", "Ferry at low water", "Leave the hide")):
        ry = y + 10 + i * 44
        part = "menu item:hover" if i == 1 else "menu"
        if i == 1:
            b.box(x + 8, ry, 264, 40, b.first("menu drawing:hover", part), 4, edge=False)
        b.text(x + 22, ry, 240, 40, name, part, 15)


def draw_dock(b: Brush) -> None:
    """Draw a dock that floats over the picture, its icons as the icon theme has them."""
    x, y, w, h = 560.0, 920.0, 480.0, 66.0
    b.box(x, y, w, h, "dock", 8, edge=False)
    if b.has("dock:deep"):
        b.note(QRectF(x, y + h / 2, w, h / 2), "dock:deep")
    for part, inset in (("dock edge", 0.5), ("dock light", 1.5)):
        if b.has(part):
            b.painter.setPen(QPen(b.fill_of(part), 1))
            b.painter.setBrush(Qt.BrushStyle.NoBrush)
            b.painter.drawRoundedRect(QRectF(x, y, w, h).adjusted(inset, inset, -inset, -inset), 8, 8)
            b.note(QRectF(x, y if inset < 1 else y + 3, w, 3), part)
    for i in range(7):
        cx, cy = x + 44 + i * 65, y + 33
        b.painter.setPen(QPen(b.plain_icon, 2.4, Qt.PenStyle.SolidLine, Qt.PenCapStyle.RoundCap))
        b.painter.setBrush(Qt.BrushStyle.NoBrush)
        dock_icon(b, i, cx, cy)
    if b.has("dock badge"):
        b.dot(x + 44 + 65 + 16, y + 16, 9, b.fill_of("dock badge"))
        b.note(QRectF(x + 116, y + 7, 18, 18), "dock badge")
