"""An editor with the program that counts birds in it: every kind of word, the caret's line, selection and matches."""

from __future__ import annotations

from PyQt6.QtCore import QRectF
from PyQt6.QtGui import QFontMetricsF

from ..brush import CENTER, Brush
from .windows import title_bar

# Each line: words and the part that draws them, separated by bars; a line that starts with ">" is the caret's.
_CODE = """
# Counts of the autumn, one line a net~comment
from~keyword| marsh ~document|import~keyword| Net~type|, tide~document

@every_dawn~preprocessor
def ~keyword|count~function|(net: ~document|Net~type|) -> ~document|int~type|:~document
    ~document|if ~keyword|net.level > ~document|0.75~number|:~document
>|        name = ~document:current line|"bearded reedling"~string:current line|  # rings read twice~comment:current line
        ~document|return ~keyword|net.birds~selection| + ~document|7~number
    it = ~document|at~function|(~bracket|net~search match|, ~document|True~constant|, ~document|"tide"~string|)~bracket
    see ~document|https://reedholm.example/tides~link
    ~document|retrun~fault| found or ~document|tide~caution

+ net 3: 7 bearded reedlings~added
~ net 4: checked at noon~changed
- net 5: no count~removed
"""


def _lines() -> list[list[tuple[str, str]]]:
    """Return the words of every line with the part that draws them."""
    lines = _CODE.strip("\n").split("\n")
    return [
        [(w, p) for w, _, p in (piece.rpartition("~") for piece in line.split("|") if piece != ">")] for line in lines
    ]


def draw_editor(b: Brush) -> None:
    """Draw the editor's window."""
    x, y, w = 300.0, 84.0, 900.0
    owner = b.owner
    left = _TREE if b.has("tree") else 0.0
    tabs = _TABS if b.has("tree") and b.has("editor tab") else 0.0
    below = _BELOW if b.has("tree") and b.has("editor panel") else 0.0
    h = 470.0 + tabs
    b.shadow(x - left, y, w + left, h + below, 8, 16)
    title_bar(b, x - left, y, w + left, "Reedholm" if b.has("editor tab") else "count.py - Reedholm")
    b.of(owner)
    if b.has("tree"):
        _tree(b, x - _TREE, y + 32, h - 32 + below)
    if tabs:
        _tabs(b, x, y + 32, w)
    if below:
        b.box(x, y + h, w, below, "editor panel", edge=False)
        b.text(x + 16, y + h + 8, 500, 24, "> python count.py", "editor panel", 14, mono=True)
        b.text(x + 16, y + h + 32, 500, 24, "37 birds, 9 species", "editor panel", 14, mono=True)
    status = 26.0 if b.has("status line") else 0.0
    b.box(x, y + 32 + tabs, w, h - 32 - tabs, "document", edge=False)
    size, line = 16.0, 27.0
    cell = QFontMetricsF(b.font(size, mono=True)).horizontalAdvance("M")
    gutter = 58.0
    if b.has("rule"):
        b.painter.fillRect(QRectF(x + w - 190, y + 32 + tabs, 1, h - 32 - tabs - status), b.fill_of("rule"))
    for number, words in enumerate(_lines(), 1):
        top = y + 40 + tabs + (number - 1) * line
        current = any(part.endswith("current line") for _, part in words)
        if current:
            b.box(x, top, w, line, "document:current line", edge=False)
        part = b.first("line number:now", "line number") if current else "line number"
        if b.has(part):
            b.text(x + 6, top, gutter - 22, line, str(number), part, 14, mono=True, align=1.0)
        at = x + gutter
        for text, part in words:
            known = b.first(part, part.partition(":")[0], "document")
            wide = cell * len(text)
            if known in ("selection", "search match", "bracket", "added", "changed", "removed"):
                b.box(at, top + 2, wide, line - 4, known, 2, edge=False)
            b.text(at, top, wide + 4, line, text, known, size, mono=True)
            at += wide
        if current:
            caret = b.edge_of("caret") or b.text_of("document")
            b.painter.fillRect(QRectF(at, top + 3, 2, line - 6), caret)
            b.note(QRectF(at - 2, top, 6, line), "caret", "text")
    if status:
        b.box(x, y + h - status, w, status, "status line", edge=False)
        b.text(x + 14, y + h - status, 400, status, "count.py  line 7", "status line", 14, mono=True)
    if b.has("tree"):
        _minimap(b, x + w - 96, y + 44 + tabs)
    if b.has("menu"):
        _completion(b, x + gutter + cell * 14, y + 40 + tabs + 7 * line)


_TREE = 190.0  # how wide the tree of files is
_TABS, _BELOW = 30.0, 74.0  # how high tabs are, and the panel under the text


def _minimap(b: Brush, x: float, y: float) -> None:
    """Draw the whole text small, each word in its own colour."""
    for number, words in enumerate(_lines()):
        at = x
        for text, part in words:
            known = b.first(part, part.partition(":")[0], "document")
            stripped = len(text) - len(text.lstrip())
            b.painter.fillRect(
                QRectF(at + stripped * 1.4, y + number * 5, len(text.strip()) * 1.4, 2.4), b.text_of(known)
            )
            at += len(text) * 1.4


def _tree(b: Brush, x: float, y: float, h: float) -> None:
    """Draw the tree of files of editors that have one."""
    b.box(x, y, _TREE, h, "tree", edge=False)
    rows = (("counts", "tree"), ("  count.py", "tree:chosen"), ("  nets.py", "tree:hover"), ("  tide.log", "tree"))
    for i, (name, part) in enumerate(rows):
        known = b.first(part, "tree")
        if known != "tree":
            b.box(x, y + 10 + i * 30, _TREE, 30, known, edge=False)
        b.text(x + 16, y + 10 + i * 30, 170, 30, name, known, 14)
    if b.has("editor button"):
        b.box(x + 16, y + h - 52, 158, 34, "editor button", 5, edge=False)
        b.text(x + 16, y + h - 52, 158, 34, "New note", "editor button", 14, False, CENTER)


def _tabs(b: Brush, x: float, y: float, w: float) -> None:
    """Draw the tabs over the text."""
    b.box(x, y, w, _TABS, "editor tab", edge=False)
    for i, (name, part) in enumerate((("count.py", "editor tab:open"), ("nets.py", "editor tab"))):
        known = b.first(part, "editor tab")
        b.box(x + i * 130, y, 128, _TABS, known, edge=False)
        b.text(x + i * 130, y, 128, _TABS, name, known, 13, False, CENTER)


def _completion(b: Brush, x: float, y: float) -> None:
    for i, (name, part) in enumerate((("net.birds", "menu item:hover"), ("net.level", "menu"), ("net.name", "menu"))):
        b.box(x + 330, y + i * 26, 170, 26, part, edge=False)
        b.text(x + 342, y + i * 26, 150, 26, name, part, 14, mono=True)
