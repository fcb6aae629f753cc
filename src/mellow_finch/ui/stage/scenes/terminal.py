"""The terminal, with what programs print in it."""

from __future__ import annotations

from collections.abc import Iterable
from typing import NamedTuple

from PyQt6.QtCore import QRectF
from PyQt6.QtGui import QColor, QFontMetricsF

from ..brush import CENTER, LEFT, RIGHT, Brush
from .windows import title_bar

_BOX = (36.0, 562.0, 622.0, 340.0)
_LINE = 20.0
_PLAIN = "terminal"
_SIZE = 15
_REVERSED = "reversed"  # no part: text and ground changed about


class Words(NamedTuple):
    """Words of a line: the part of the terminal that draws them, and how.

    ground: the part whose colour lies behind them, where it is not the terminal's; dim: half way to the ground.
    """

    words: str
    part: str = _PLAIN
    bold: bool = False
    underline: bool = False
    dim: bool = False
    ground: str = ""


Line = tuple[Words, ...]


def _c(number: int) -> str:
    return f"colour {number}"


def _prompt(command: str) -> Line:
    return Words("hide", _c(2)), Words(" ~/counts ", _c(4)), Words("> ", _c(5)), Words(command)


def _code(*rows: str) -> tuple[Line, ...]:
    """Return lines of code: of each row, words after a digit of hexadecimal between bars are in that colour."""
    return tuple(
        tuple(
            Words(text, _c(int(mark, 16)) if mark != "-" else _PLAIN)
            for mark, text in zip(cut[1::2], cut[2::2], strict=True)
        )
        for cut in (row.split("|") for row in rows)
    )


_FILES = (
    _prompt("ls --long"),
    *(
        (Words("drwxr-xr-x " if kind == "d" else "-rw-r--r-- ", _c(8)), Words(f"{size:>6} "), Words(f"{when} ", _c(6)),
         Words(name, _c(colour) if colour else _PLAIN, bold=kind in "dx"))
        for kind, size, when, name, colour in (
            ("d", "4.0K", "24 Nov", "nets/", 4),
            ("d", "4.0K", "24 Nov", "rings/", 12),
            ("x", "2.1K", "23 Nov", "count.py", 2),
            ("f", "812K", "24 Nov", "dawn.png", 13),
            ("f", "3.9M", "20 Nov", "reedling.flac", 14),
            ("f", " 96K", "12 Oct", "old.zip", 1),
            ("f", "1.2K", "24 Nov", "tide.log", 0),
            ("f", "   9", "24 Nov", "latest -> tide.log", 6),
        )
    ),
    _prompt("grep --count tern *.log"),
    (Words("tide.log", _c(5)), Words(":", _c(6)), Words("14")),
    (Words("nets.log", _c(5)), Words(":", _c(6)), Words("3")),
)  # fmt: skip
_DIFF = (
    _prompt("git diff"),
    (Words("diff --git a/count.py b/count.py", bold=True),),
    (Words("@@ -12,6 +12,7 @@", _c(6)), Words(" def count(net):")),
    (Words("     rows = read(net)"),),
    (Words('-    return len(rows)', _c(1)),),
    (Words('+    seen = {row.ring for row in rows}', _c(2)),),
    (Words('+    return len(seen)', _c(2)),),
    (Words("     # one ring counts once"),),
    _prompt("git status --short"),
    (Words(" M", _c(1)), Words(" count.py")),
    (Words("A ", _c(2)), Words(" nets/four.txt")),
    (Words("??", _c(1)), Words(" notes.txt")),
    _prompt("git log --oneline --graph"),
    (Words("* ", _c(1)), Words("7c21a0e ", _c(3)), Words("(", _c(3)), Words("HEAD", _c(14), bold=True),
     Words(" -> ", _c(3)), Words("main", _c(10), bold=True), Words(")", _c(3)), Words(" Count rings once")),
)  # fmt: skip
_EDITOR = (
    *_code(
        "|8| 1 |8|# one line for every net",
        "|8| 2 |5|import |-|datetime",
        "|8| 3 |5|from |-|rings |5|import |-|read",
        "|8| 4 ",
        "|8| 5 |5|def |4|count|-|(net: |3|int|-|, day=|1|None|-|):",
        '|8| 6 |-|    |2|"""Count the birds of a net."""',
        '|8| 7 |-|    rows = |4|read|-|(|2|f"nets/|6|{net}|2|.log"|-|)',
        "|8| 8 |-|    |5|if not |-|rows:",
        '|8| 9 |-|        |5|raise |3|ValueError|-|(|2|"no rows"|-|)',
        "|8|10 |-|    seen = {row.ring |5|for |-|row |5|in |-|rows}",
        "|8|11 |-|    |5|return |4|len|-|(seen) * |1|2",
        "|8|12 |9|    cuont(net)   |8|# unknown name",
    ),
    (Words("  count.py  ", _c(0), bold=True, ground=_c(4)), Words("  12:10  ", _c(15), ground=_c(8))),
)


def _bar(name: str, share: float, words: str) -> Line:
    full = round(28 * share)
    parts = ((0, 14, 2), (14, 22, 3), (22, 28, 1))
    filled = tuple(Words("|" * max(0, min(full, end) - start), _c(colour)) for start, end, colour in parts)
    return (Words(f"{name:>4} ", _c(6)), Words("[", bold=True), *filled, Words(" " * (28 - full)),
            Words(f"{words:>7}", _c(8)), Words("]", bold=True))  # fmt: skip


_MONITOR = (
    _bar("1", 0.32, "32.0%"),
    _bar("2", 0.71, "71.4%"),
    _bar("Mem", 0.55, "4.3G/8G"),
    _bar("Swp", 0.04, "90M/2G"),
    (Words("Tasks: ", _c(6)), Words("61", _c(2), bold=True), Words(", ", _c(6)), Words("204", _c(2)),
     Words(" thr; ", _c(6)), Words("2", _c(2), bold=True), Words(" running", _c(6))),
    (),
    (Words("  PID USER      CPU%  MEM%  Command            ", _c(0), ground=_c(2)),),
    (Words(" 1204 warden    64.0   3.1  camera --net 3     ", _c(0), ground=_c(6)),),
    (Words(" 1311 warden    12.5   1.0  "), Words("count.py", _c(2))),
    (Words(" 1420 maren      4.1   0.8  "), Words("tide", _c(2)), Words(" --follow", _c(8))),
    (Words(" 1502 root       0.7   0.2  ", _c(8)), Words("/usr/bin/station", _c(8))),
    (),
    (Words("F1"), Words("Help  ", _c(0), ground=_c(6)), Words("F3"), Words("Search", _c(0), ground=_c(6)),
     Words("F9"), Words("End   ", _c(0), ground=_c(6)), Words("F10"), Words("Quit  ", _c(0), ground=_c(6))),
)  # fmt: skip
_STYLES = (
    (Words("plain  "), Words("bold  ", bold=True), Words("dim  ", dim=True), Words("underlined", underline=True),
     Words("  "), Words(" reversed ", _REVERSED)),
    *(
        (*(Words(f"{n:>3} ", _c(n), bold=bold) for n in range(start, start + 8)),
         Words("  " + ("bold" if bold else "plain"), _c(8)))
        for start in (0, 8) for bold in (False, True)
    ),
    tuple(Words(f" {n} ", _c(15 if n in (0, 1, 4, 5) else 0), ground=_c(n)) for n in range(8)),
    (Words("debug ", _c(8)), Words("info ", _c(6)), Words("notice ", _c(4)), Words("warning ", _c(3)),
     Words("error ", _c(1)), Words(" critical ", _c(15), bold=True, ground=_c(1))),
    (Words("https://reedholm.example/tide", _c(12), underline=True),),
)  # fmt: skip
_SESSION = (
    _prompt("ls"),
    (Words("nets/  ", _c(4)), Words("rings/  ", _c(12)), Words("count.py  ", _c(2)), Words("dawn.png  ", _c(13)),
     Words("latest@  ", _c(14)), Words("tide.log  "), Words("old.zip", _c(1))),
    _prompt("git diff tide.log"),
    (Words("@@ -12,2 +12,2 @@", _c(6)),),
    (Words("-14:40  high  4.9 m", _c(1)),),
    (Words("+14:52  high  5.1 m", _c(2)),),
    _prompt("tail -4 nets.log"),
    *(
        (Words(f"{when} ", _c(8)), Words(f"{level} ", part), Words(words, _PLAIN if part != _c(9) else _c(15)))
        for when, level, part, words in (
            ("07:38", "note ", _c(6), "net 1 opened by Maren"),
            ("07:40", "done ", _c(10), "37 birds, 9 species"),
            ("07:41", "check", _c(3), "two rings read twice"),
            ("07:42", "fault", _c(9), "net 3: no light sensor"),
        )
    ),
)  # fmt: skip
# What can be printed in the terminal, by the name that a view asks for it by.
PRINTED: dict[str, tuple[Line, ...]] = {
    "session": _SESSION, "files": _FILES, "diff": _DIFF, "editor": _EDITOR, "monitor": _MONITOR, "styles": _STYLES,
}  # fmt: skip


class _Page:
    """Where the next words of the terminal go."""

    def __init__(self, b: Brush, x: float, y: float) -> None:
        self._b, self._x = b, x
        self.x, self.y = x, y
        b.painter.setFont(b.font(_SIZE, mono=True))
        self.cell = QFontMetricsF(b.font(_SIZE, mono=True)).horizontalAdvance("M")

    def line(self, words: Iterable[Words]) -> None:
        """Print a line."""
        for word in words:
            self.put(word)
        self.x, self.y = self._x, self.y + _LINE

    def put(self, word: Words) -> None:
        """Print words."""
        b, wide = self._b, self.cell * len(word.words)
        box = QRectF(self.x, self.y, wide, _LINE)
        self.x += wide
        if not word.words.strip() and not word.ground:
            return
        if word.ground:
            b.painter.fillRect(box, b.text_of(word.ground))
            b.note(box, word.ground, "text")
        part, colour = word.part, None
        if part == _REVERSED:
            part, colour = _PLAIN, QColor(b.fill_of(_PLAIN).rgb())
            b.painter.fillRect(box, b.text_of(_PLAIN))
        elif word.dim:
            colour = _between(b.text_of(part), b.fill_of(_PLAIN))
        b.text(
            box.x(), box.y(), wide + 4, _LINE, word.words, part, _SIZE, word.bold, LEFT, True, colour, word.underline
        )


def _between(first: QColor, second: QColor) -> QColor:
    return QColor(*((a + b) // 2 for a, b in zip(first.getRgb()[:3], second.getRgb()[:3], strict=True)))


def terminal(b: Brush, printed: str = "session") -> None:
    """Draw a terminal with what a component says, in the borders that windows have; printed: what stands in it."""
    owner = b.owner
    x, y, w, h = _BOX
    b.shadow(x, y, w, h, 8)
    title_bar(b, x, y, w, "warden@hide: ~/counts")
    b.of(owner)
    b.box(x, y + 32, w, h - 32, _PLAIN, edge=False)
    page = _Page(b, x + 14, y + 42)
    for line in PRINTED[printed]:
        page.line(line)
    if printed == "styles":
        _ramps(b, page)
    if printed == "session":
        _sixteen(b, page)
    if printed in ("session", "styles"):
        _typed(b, page)


def _sixteen(b: Brush, page: _Page) -> None:
    """Draw the sixteen colours as two rows."""
    for number in range(16):
        box = QRectF(page.x + number % 8 * 34, page.y + 6 + number // 8 * 18, 30, 14)
        b.painter.fillRect(box, b.text_of(_c(number)))
        b.note(box, _c(number), "text")
    page.y += 46


def _ramps(b: Brush, page: _Page) -> None:
    """Draw colours of the 256 that no look changes, and a run of 24-bit ones."""
    levels = (0, 95, 135, 175, 215, 255)
    for i in range(36):
        colour = QColor(levels[i // 6], levels[i % 6], levels[5 - i // 6])
        b.painter.fillRect(QRectF(page.x + i * 16, page.y + 3, 16, 14), colour)
    for i in range(144):
        colour = QColor.fromHsvF(i / 144, 0.55, 0.85)
        b.painter.fillRect(QRectF(page.x + i * 4, page.y + 21, 4, 14), colour)
    page.y += 2 * _LINE


def _typed(b: Brush, page: _Page) -> None:
    """Draw a prompt with marked text and the cursor."""
    marked, cursor = b.first("marked text", _PLAIN), b.first("cursor", _PLAIN)
    for word in _prompt(""):
        page.put(word)
    width = page.cell * 8
    b.box(page.x, page.y, width, _LINE, marked, edge=False)
    page.put(Words("./report", marked))
    page.x += page.cell
    b.box(page.x, page.y + 1, page.cell, _LINE - 2, cursor, edge=False)
    b.text(page.x, page.y, page.cell + 2, _LINE, "-", cursor, _SIZE, mono=True)


def terminal_extras(b: Brush) -> None:
    """Draw what only some terminals have: tabs, links, a field to search in, letters to jump by, a badge."""
    x, y, w, h = _BOX
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
