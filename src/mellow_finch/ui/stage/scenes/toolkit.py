"""A window of the other toolkit: fields, lists, buttons, marks and a menu, in every state that its files name."""

from __future__ import annotations

from PyQt6.QtCore import QRectF

from ..brush import CENTER, Brush
from .windows import title_bar


def draw_toolkit(b: Brush) -> None:
    """Draw the window with what the component in view says."""
    x, y, w, h = 692.0, 484.0, 564.0, 404.0
    owner = b.owner
    b.shadow(x, y, w, h, 8)
    title_bar(b, x, y, w, "Counts")
    b.of(owner)
    b.box(x, y + 32, w, h - 32, "window", edge=False)
    bar = b.first("header bar", "window")
    b.box(x, y + 32, w, 36, bar, edge=False)
    for i, name in enumerate(("File", "Edit", "Nets")):
        b.text(x + 14 + i * 60, y + 32, 60, 36, name, bar, 14)
    _fields(b, x + 18, y + 84)
    _list(b, x + 250, y + 84)
    _buttons(b, x + 18, y + h - 54)
    if b.has("menu"):
        _menu(b, x + 104, y + 66)
    if b.has("tooltip"):
        b.box(x + 340, y + h - 92, 190, 28, "tooltip", 4)
        b.text(x + 340, y + h - 92, 190, 28, "bittern.csv, 3 kB, Lars", "tooltip", 13, False, CENTER)


def _fields(b: Brush, x: float, y: float) -> None:
    rows = (
        ("RH 40217", b.first("field", "view")),
        ("wing 62", b.first("field:focus", "field", "view")),
        ("not now", b.first("view:disabled", "view")),
        ("a hint", b.first("view:hint", "view")),
    )
    for i, (words, part) in enumerate(rows):
        box = part if not part.endswith(("hint", "disabled")) else b.first("field", "view")
        b.box(x, y + i * 42, 206, 32, box, 4)
        b.text(x + 10, y + i * 42, 180, 32, words, part, 14)
    top = y + 4 * 42
    for i, name in enumerate(("Adult", "Ring read")):
        part = b.first("check:checked", "check", "window") if i else b.first("check", "window")
        b.box(x + i * 104, top + 6, 16, 16, part, 4)
        if i and b.has("check:checked"):
            b.tick(x + i * 104, top + 6, 16, b.text_of(part))
        b.text(x + i * 104 + 24, top, 90, 28, name, "window", 14)
    b.text(x, top + 30, 200, 26, "cannot be used", b.first("window:disabled", "window"), 14)


def _list(b: Brush, x: float, y: float) -> None:
    w = 296.0
    b.box(x, y, w, 216, "view", 2)
    rows = (
        ("bearded-reedling.csv", "view"),
        ("bittern.csv", b.first("view:alternate", "view")),
        ("lapwing.csv", "selection"),
        ("redshank.csv", b.first("selection:idle", "selection")),
        ("see the ring ledger", b.first("link", "view")),
        ("read before", b.first("link:visited", "view")),
        ("old-counts", b.first("view:alternate", "view")),
    )
    for i, (words, part) in enumerate(rows):
        ry = y + 2 + i * 30.5
        if part.startswith(("selection", "view:alt")):
            b.box(x + 2, ry, w - 4, 30, part, edge=False)
        else:
            b.note(QRectF(x + 2, ry, w - 4, 30), part)
        b.text(x + 14, ry, w - 30, 30, words, part, 14, underline=part.startswith("link"))
    if b.has("progress"):
        b.box(x, y + 226, w, 10, b.first("progress:text", "view"), 5)
        b.box(x, y + 226, w * 0.4, 10, "progress", 5, edge=False)
    if b.has("scroll bar"):
        b.box(x + w - 9, y + 8, 6, 70, "scroll bar", 3, edge=False)


def _buttons(b: Brush, x: float, y: float) -> None:
    at = x
    for words, part in (
        ("Rest", "button"),
        ("Hover", "button:hover"),
        ("Press", "button:pressed"),
        ("Later", "button:disabled"),
        ("Save", "button:main"),
    ):
        if b.has(part):
            b.box(at, y, 84, 34, part, 5)
            b.text(at, y, 84, 34, words, part, 14, False, CENTER)
            at += 92


def _menu(b: Brush, x: float, y: float) -> None:
    b.shadow(x, y, 150, 112, 4)
    b.box(x, y, 150, 112, "menu", 3)
    for i, (words, part) in enumerate(
        (("Copy ring", "menu"), ("Rename…", "menu item:hover"), ("Merge", b.first("menu item:disabled", "menu")))
    ):
        if "hover" in part:
            b.box(x + 2, y + 5 + i * 34, 146, 32, part, edge=False)
        b.text(x + 14, y + 5 + i * 34, 120, 32, words, part, 14)
