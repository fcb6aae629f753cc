"""Programs with colours of their own: in the terminal, for documents and pictures, for chats, and the office."""

from __future__ import annotations

from itertools import pairwise

from PyQt6.QtCore import QPointF, QRectF, Qt
from PyQt6.QtGui import QColor, QFontMetricsF, QPen

from ....components.catalogue import COMPONENT_BY_ID
from ..brush import CENTER, RIGHT, Brush
from .windows import title_bar

_FRAME = (280.0, 92.0, 940.0, 560.0)  # where such a window lies
_LINE = 26.0
_OWN_ROWS = 12  # of the places of a component of the person's own, in each of two columns
# What a listing shows, and the part that draws it.
_LISTED = (
    ("nets/", "folder"),
    ("rings/", "folder"),
    ("count.py*", "program"),
    ("dawn.png", "image"),
    ("latest -> today", "link to"),
    ("old-counts.zip", "archive"),
    ("reedling.flac", "sound"),
    ("tide.log", "document"),
    ("camera", "device"),
    ("lost -> nowhere", "broken"),
)
# What stands beside it: words and the parts that draw them, the first that the program has.
_SAID: tuple[tuple[tuple[str, str], ...], ...] = (
    (("Counts of the autumn", "heading"),),
    (("# one line a net", "remark"),),
    (("for", "keyword"), (" net ", "document"), ("in", "keyword"), (" 1 2 3", "number")),
    (("  count", "command"), (" --tide", "argument"), (' "low water"', "quoted")),
    (("  cuont", "fault"), (" 7", "number"), ("   count --all", "hint")),
    (("- 14:40  high  4.9 m", "removed"),),
    (("+ 14:52  high  5.1 m", "added"),),
    (("~ 15:10  checked", "changed"),),
    (("  7 reedlings ", "line:removed"), ("in net 3", "words:removed")),
    (("  8 reedlings ", "line:added"), ("in net 3", "words:added")),
    (("  every net is up", "good"),),
    (("  two rings read twice", "caution"),),
    (("  found: ", "screen:dim"), ("tide", "match"), ("  ", "document"), ("low", "found")),
)


def _window(b: Brush, title: str) -> QRectF:
    """Draw an empty window with its title bar; return what is inside."""
    owner = b.owner
    x, y, w, h = _FRAME
    b.shadow(x, y, w, h, 8, 16)
    title_bar(b, x, y, w, title)
    b.of(owner)
    return QRectF(x, y + 32, w, h - 32)


def draw_tool(b: Brush) -> None:
    """Draw a program that fills the terminal: a listing, what it says, its bars, menus and meters."""
    room = _window(b, "warden@hide: ~/counts")
    owner = b.owner
    b.of("terminal").box(room.x(), room.y(), room.width(), room.height(), "terminal", edge=False)
    b.of(owner)
    if b.has("screen"):
        b.box(room.x(), room.y(), room.width(), room.height(), "screen", edge=False)
    x, y = room.x() + 16, room.y() + 10
    if b.has("tool menu"):
        y = _tool_menu(b, room)
    half = 400.0
    if b.has("frame"):
        b.painter.fillRect(QRectF(room.x() + half, y, 1, room.bottom() - y - 40), b.fill_of("frame"))
        b.note(QRectF(room.x() + half - 3, y, 7, room.bottom() - y - 40), "frame")
    chosen = 3
    for i, (name, part) in enumerate(_LISTED):
        top = y + i * _LINE
        if i == chosen and b.has("row:chosen"):
            b.box(x - 8, top, half - 20, _LINE, "row:chosen", edge=False)
            part = "row:chosen"
        elif i == chosen + 2 and b.has("row:marked"):
            part = "row:marked"
        _words(b, x, top, name, part, "document", "screen")
    for i, line in enumerate(_SAID):
        at = room.x() + half + 18
        for words, part in line:
            at = _words(b, at, y + i * _LINE, words, part, "document", "screen")
    _meters(b, room.x() + half + 18, y + len(_SAID) * _LINE + 8)
    _tool_bar(b, room)


def _cell(b: Brush) -> float:
    return QFontMetricsF(b.font(16, mono=True)).horizontalAdvance("M")


def _words(b: Brush, x: float, y: float, words: str, *parts: str) -> float:
    """Draw words in the first part that the program has, else as the terminal draws them; return where they end."""
    wide = _cell(b) * len(words)
    part = next((p for p in parts if b.has(p)), "")
    if not part:
        owner = b.owner
        b.of("terminal").text(x, y, wide + 4, _LINE, words, "terminal", 16, mono=True)
        b.of(owner)
        return x + wide
    if part.startswith(("line:", "words:", "found")):
        b.box(x, y + 1, wide, _LINE - 2, part, edge=False)
    b.text(x, y, wide + 4, _LINE, words, part, 16, mono=True)
    return x + wide


def _tool_menu(b: Brush, room: QRectF) -> float:
    """Draw a row of menus with one open; return where what is below begins."""
    b.box(room.x(), room.y(), room.width(), _LINE, "tool menu", edge=False)
    at = room.x() + 16
    for i, name in enumerate(("Left", "File", "Command", "Options", "Right")):
        wide = _cell(b) * (len(name) + 2)
        part = "tool menu:hover" if i == 1 and b.has("tool menu:hover") else "tool menu"
        if part != "tool menu":
            b.box(at, room.y(), wide, _LINE, part, edge=False)
        b.text(at, room.y(), wide, _LINE, name, part, 16, False, CENTER, mono=True)
        if i == 2 and b.has("tool menu:hot"):
            b.text(at + _cell(b), room.y(), 20, _LINE, name[0], "tool menu:hot", 16, mono=True)
        at += wide + 10
    return room.y() + _LINE + 8


def _meters(b: Brush, x: float, y: float) -> None:
    """Draw three bars of a meter, each at its height."""
    for i, (part, share) in enumerate((("meter:low", 0.35), ("meter:middle", 0.65), ("meter:high", 0.95))):
        colour = b.edge_of(part) if b.has(part) else None
        if colour is not None:
            box = QRectF(x, y + i * 22, 360 * share, 14)
            b.painter.fillRect(box, colour)
            b.note(box, part, "edge")


def _tool_bar(b: Brush, room: QRectF) -> None:
    """Draw what stands at the foot: a line that is typed in, a message, and the bar with its open tab."""
    top = room.bottom() - _LINE
    if b.has("tool field"):
        b.box(room.x(), top - _LINE - 4, room.width(), _LINE, "tool field", edge=False)
        b.text(room.x() + 16, top - _LINE - 4, 400, _LINE, "/tide", "tool field", 16, mono=True)
    at = room.right() - 16
    for part, words in (("tool message:error", "net 3: no sensor"), ("tool message:warning", "2 calls")):
        if b.has(part):
            wide = _cell(b) * (len(words) + 2)
            at -= wide + 8
            b.box(at, top - 2 * _LINE - 10, wide, _LINE, part, edge=False)
            b.text(at, top - 2 * _LINE - 10, wide, _LINE, words, part, 16, False, CENTER, mono=True)
    if not b.has("tool bar"):
        return
    b.box(room.x(), top, room.width(), _LINE, "tool bar", edge=False)
    at = room.x()
    for name, part in (("1 counts", "tool bar:open"), ("2 nets", "tool bar:quiet"), ("3 tides", "tool bar")):
        wide = _cell(b) * (len(name) + 2)
        known = part if b.has(part) else "tool bar"
        b.box(at, top, wide, _LINE, known, edge=False)
        b.text(at, top, wide, _LINE, name, known, 16, False, CENTER, mono=True)
        at += wide
    b.text(room.x(), top, room.width() - 16, _LINE, "14:52", "tool bar", 16, False, RIGHT, mono=True)


def draw_viewer(b: Brush) -> None:
    """Draw a viewer: its bar, a page with what was found on it, a list, messages, and words on the picture."""
    room = _window(b, "Ringing manual - Reedholm")
    b.box(room.x(), room.y(), room.width(), room.height(), b.first("viewer", "page", "on screen"), edge=False)
    top = room.y()
    if b.has("viewer bar"):
        b.box(room.x(), top, room.width(), 34, "viewer bar", edge=False)
        for i, (name, part) in enumerate((("Manual", "viewer bar:open"), ("Tides", "viewer bar"))):
            known = b.first(part, "viewer bar")
            b.box(room.x() + 10 + i * 130, top + 3, 122, 28, known, 4, edge=False)
            b.text(room.x() + 10 + i * 130, top + 3, 122, 28, name, known, 14, False, CENTER)
        top += 34
    if b.has("viewer field"):
        b.box(room.x() + 300, room.y() + 4, 320, 27, "viewer field", 4)
        b.text(room.x() + 312, room.y() + 4, 300, 27, "reedholm.example/rings", "viewer field", 14)
    if b.has("page"):
        _page(b, QRectF(room.x() + 60, top + 24, 470, room.bottom() - top - 44))
    if b.has("viewer list"):
        _list(b, room.right() - 340, top + 30)
    for i, (part, words) in enumerate(
        (
            ("viewer message", "Page 7 of 31"),
            ("viewer message:warning", "The file has changed since"),
            ("viewer message:error", "No such page: 72"),
        )
    ):
        if b.has(part):
            b.box(room.right() - 340, room.bottom() - 124 + i * 38, 320, 32, part, 5, edge=False)
            b.text(room.right() - 326, room.bottom() - 124 + i * 38, 300, 32, words, part, 14)
    if b.has("viewer hint"):
        b.box(room.x() + 84, top + 76, 26, 20, "viewer hint", 3, edge=False)
        b.text(room.x() + 84, top + 76, 26, 20, "ae", "viewer hint", 13, True, CENTER)
    if b.has("on screen"):
        _on_screen(b, room.x() + 40, room.bottom() - 176)


def _page(b: Brush, page: QRectF) -> None:
    b.box(page.x(), page.y(), page.width(), page.height(), "page", 2, edge=False)
    b.text(page.x() + 40, page.y() + 24, 380, 30, "How a ring is read", "page", 21, True)
    lines = (
        "Hold the bird so that the ring lies on",
        "your finger. Read it twice, aloud, and",
        "write it down before the next one.",
        "",
        "A reedling takes ring size B; a wren",
        "takes AA. What cannot be read is not",
        "guessed: the bird goes back unringed.",
    )
    for i, words in enumerate(lines):
        b.text(page.x() + 40, page.y() + 68 + i * 27, 400, 27, words, "page", 17)
    for part, x, y, w in (("found", 40, 122, 88), ("found:now", 168, 176, 92)):
        colour = b.edge_of(part) if b.has(part) else None
        if colour is not None:
            box = QRectF(page.x() + x, page.y() + y, w, 25)
            b.painter.setPen(QPen(colour, 2))
            b.painter.setBrush(Qt.BrushStyle.NoBrush)
            b.painter.drawRect(box)
            b.note(box, part, "edge")
    if b.has("page:chosen"):
        b.box(page.x() + 40, page.y() + 266, 300, 28, "page:chosen", 2, edge=False)
        b.text(page.x() + 48, page.y() + 266, 290, 28, "Chapter 3: nets at dawn", "page:chosen", 16)
    if b.has("play"):
        b.text(page.x() + 40, page.y() + 304, 380, 28, "> Reed bunting, song at five", "play", 16, True)
        b.text(page.x() + 40, page.y() + 332, 380, 28, "Bittern, booming", b.first("play:idle", "page"), 16)
        b.box(page.x() + 40, page.y() + 370, 240, 8, b.first("play bar", "play"), 4, edge=False)


def _list(b: Brush, x: float, y: float) -> None:
    rows = (
        ("Chapters", "viewer list:group"),
        ("1  Before dawn", "viewer list"),
        ("2  Rings and sizes", "viewer list:chosen"),
        ("3  Nets", "viewer list"),
        ("4  What the wind does", "viewer list"),
    )
    b.box(x, y, 320, 5 * 32 + 8, "viewer list", 6, edge=False)
    for i, (words, part) in enumerate(rows):
        known = b.first(part, "viewer list")
        if known != "viewer list":
            b.box(x + 4, y + 4 + i * 32, 312, 32, known, 4, edge=False)
        b.text(x + 16, y + 4 + i * 32, 290, 32, words, known, 15, known.endswith("group"))
    if b.has("viewer match"):
        b.text(x + 214, y + 4 + 3 * 32, 96, 32, "net", "viewer match", 15, True)


def _on_screen(b: Brush, x: float, y: float) -> None:
    rows = (
        ("frame  16.6 ms", "on screen"),
        ("heron  41 %", "on screen:good"),
        ("disk   12 MB/s", "on screen:caution"),
        ("lens   hot", "on screen:fault"),
    )
    b.box(x, y, 250, 4 * 28 + 16, "on screen", 4, edge=False)
    for i, (words, part) in enumerate(rows):
        b.text(x + 14, y + 8 + i * 28, 226, 28, words, b.first(part, "on screen"), 17, mono=True)
    mark = b.text_of("on screen:mark") if b.has("on screen:mark") else None
    if mark is not None:
        for i, high in enumerate((4, 9, 6, 12, 7, 10)):
            b.painter.fillRect(QRectF(x + 186 + i * 9, y + 26 - high, 6, high), mark)
        b.note(QRectF(x + 184, y + 12, 56, 16), "on screen:mark", "text")


def draw_chat(b: Brush) -> None:
    """Draw a chat: who there is to talk to, what was said, by others and by oneself, and a line to type in."""
    room = _window(b, "Reedholm wardens")
    left = 290.0
    b.box(room.x(), room.y(), left, room.height(), b.first("chat list", "chat"), edge=False)
    b.box(room.x() + left, room.y(), room.width() - left, room.height(), "chat", edge=False)
    rows = (
        ("Maren", "net 2 is up", "chat list"),
        ("Hide 2", "37 birds so far", "chat list:chosen"),
        ("Lars", "on the ferry", "chat list:hover"),
        ("Visitors", "open from ten", "chat list"),
    )
    for i, (name, words, part) in enumerate(rows):
        known, top = b.first(part, "chat list", "chat"), room.y() + 10 + i * 62
        if known == part and part != "chat list":
            b.box(room.x() + 6, top, left - 12, 56, known, 6, edge=False)
        b.text(room.x() + 22, top + 4, 180, 26, name, known, 16, True)
        under = known if known == part and part != "chat list" else b.first("chat list:dim", known)
        b.text(room.x() + 22, top + 28, 220, 24, words, under, 14)
    for part, words, top in (("unread", "4", 20.0), ("mention", "1", 206.0)):
        if b.has(part):
            b.box(room.x() + left - 48, room.y() + top, 28, 24, part, 12, edge=False)
            b.text(room.x() + left - 48, room.y() + top, 28, 24, words, part, 13, True, CENTER)
    if b.has("chat head"):
        b.box(room.x() + left, room.y(), room.width() - left, 44, "chat head", edge=False)
        b.text(room.x() + left + 20, room.y(), 300, 44, "Hide 2", "chat head", 16, True)
    _said(b, room.x() + left + 24, room.y() + 62)
    field = b.first("chat field", "chat")
    b.box(room.x() + left + 20, room.bottom() - 54, room.width() - left - 150, 40, field, 8, edge=False)
    b.text(room.x() + left + 36, room.bottom() - 54, 300, 40, "Write to hide 2", field, 15)
    if b.has("chat button"):
        b.box(room.right() - 116, room.bottom() - 54, 96, 40, "chat button", 8, edge=False)
        b.text(room.right() - 116, room.bottom() - 54, 96, 40, "Send", "chat button", 15, True, CENTER)
    if b.has("chat menu"):
        for i, (words, part) in enumerate(
            (("Reply", "chat menu:hover"), ("Pin it", "chat menu"), ("Mute", "chat menu"))
        ):
            known = b.first(part, "chat menu")
            b.box(room.right() - 190, room.y() + 236 + i * 32, 150, 32, known, edge=False)
            b.text(room.right() - 176, room.y() + 236 + i * 32, 130, 32, words, known, 14)


def _said(b: Brush, x: float, y: float) -> None:
    other, own = b.first("message", "chat"), b.first("message:own", "message", "chat")
    b.box(x, y, 380, 82, other, 10, edge=False)
    b.text(x + 16, y + 6, 200, 24, "Maren", b.first("message:name", other), 14, True)
    b.text(x + 16, y + 28, 350, 24, "Seven reedlings in net 3, all ringed.", other, 15)
    b.text(x + 16, y + 54, 348, 22, "07:41", b.first("message:dim", other), 13, False, RIGHT)
    b.box(x + 90, y + 100, 380, 62, own, 10, edge=False)
    b.text(x + 106, y + 106, 350, 26, "Good. The tide turns at two.", own, 15)
    b.text(x + 106, y + 134, 348, 22, "07:43", b.first("message:own, dim", own), 13, False, RIGHT)
    b.text(x, y + 184, 300, 24, "Lars has joined", b.first("chat:dim", "chat"), 14)
    if b.has("chat link"):
        b.text(x, y + 212, 400, 24, "https://reedholm.example/tides", "chat link", 15, underline=True)


def draw_office(b: Brush) -> None:
    """Draw a document beside a table, or a palette where there is no more than that."""
    room = _window(b, "Autumn count - Reedholm")
    if not b.has("sheet of paper"):
        _swatches(b, room)
        return
    b.box(room.x(), room.y(), room.width(), room.height(), b.first("paper around", "sheet of paper"), edge=False)
    page = QRectF(room.x() + 40, room.y() + 26, 420, room.height() - 26)
    b.box(page.x(), page.y(), page.width(), page.height(), "sheet of paper", edge=False)
    edge = b.edge_of("paper edge")
    if edge is not None:
        b.painter.setPen(QPen(edge, 1))
        b.painter.setBrush(Qt.BrushStyle.NoBrush)
        b.painter.drawRect(page.adjusted(32, 32, -32, 0))
    b.text(page.x() + 44, page.y() + 48, 330, 34, "The autumn count", "sheet of paper", 24, True)
    for i, words in enumerate(
        (
            "Two hundred and fourteen birds were",
            "ringed in nine mornings, more than in",
            "any autunm since the hide was built.",
        )
    ):
        b.text(page.x() + 44, page.y() + 98 + i * 28, 340, 28, words, "sheet of paper", 17)
    spelling = b.edge_of("spelling")
    if spelling is not None:
        wide = QFontMetricsF(b.font(17)).horizontalAdvance("any ")
        points = [QPointF(page.x() + 44 + wide + i * 4, page.y() + 180 + (i % 2) * 3) for i in range(16)]
        b.painter.setPen(QPen(spelling, 1.5))
        for a, z in pairwise(points):
            b.painter.drawLine(a, z)
        b.note(QRectF(points[0].x(), points[0].y() - 3, 60, 10), "spelling", "edge")
    b.text(page.x() + 44, page.y() + 206, 300, 28, "The table of nets", "paper link", 17, underline=True)
    b.text(page.x() + 44, page.y() + 236, 300, 28, "Tides of October", "paper link:visited", 17, underline=True)
    _table(b, room.x() + 490, room.y() + 26)


def _table(b: Brush, x: float, y: float) -> None:
    cells = (
        ("Net", "Birds", "Share"),
        ("1", "37", "=B2/B6"),
        ("2", "64", "=B3/B6"),
        ("3", "71", "=B4/B6"),
        ("4", "42", "#REF!"),
        ("All", "214", "=SUM"),
    )
    wide, high = 134.0, 34.0
    b.box(x, y, wide * 3, high * len(cells), "sheet of paper", edge=False)
    for r, row in enumerate(cells):
        for c, words in enumerate(row):
            part = (
                "sheet of paper"
                if r == 0 or c == 0
                else "cell fault"
                if words.startswith("#")
                else "cell formula"
                if words.startswith("=")
                else "cell value"
            )
            b.text(x + c * wide + 10, y + r * high, wide - 20, high, words, part, 16, r == 0, RIGHT if c else 0.0)
    for i in range(len(cells) + 1):
        b.painter.fillRect(QRectF(x, y + i * high, wide * 3, 1), b.fill_of("grid"))
    for i in range(4):
        b.painter.fillRect(QRectF(x + i * wide, y, 1, high * len(cells)), b.fill_of("grid"))
    b.note(QRectF(x, y, wide * 3, 3), "grid")
    if b.has("cell note"):
        b.box(x + 60, y + high * len(cells) + 24, 260, 62, "cell note", 4, edge=False)
        b.text(x + 74, y + high * len(cells) + 24, 240, 34, "Lars: net 4 was torn", "cell note", 15)


def _swatches(b: Brush, room: QRectF) -> None:
    """Draw a palette as squares on a plain ground of the toolkit's."""
    owner = b.owner
    b.of("gtk-3").box(room.x(), room.y(), room.width(), room.height(), "window", edge=False)
    b.text(room.x() + 40, room.y() + 24, 400, 34, "Palette of the look", "window", 20, True)
    b.of(owner)
    for i in range(8):
        b.box(room.x() + 40 + i % 4 * 200, room.y() + 84 + i // 4 * 180, 184, 160, f"swatch:{i + 1}", 6)


def draw_own(b: Brush) -> None:
    """Draw what a component of the person's own says: every place of its file, in the colours that stand there."""
    owner = b.owner
    known = COMPONENT_BY_ID.get(owner)
    if known is None:
        return
    room = _window(b, known.title)
    b.of("gtk-3").box(room.x(), room.y(), room.width(), room.height(), "window", edge=False)
    b.of(owner)
    parts = known.parts[: _OWN_ROWS * 2]
    high = min(58.0, (room.height() - 28) / max(1, min(len(parts), _OWN_ROWS)))
    size = min(16.0, high * 0.5)
    for i, part in enumerate(parts):
        column, row = divmod(i, _OWN_ROWS)
        x, y = room.x() + 20 + column * 456, room.y() + 14 + row * high
        wide = 444.0 if len(parts) > _OWN_ROWS else 900.0
        sample = wide if part.text else 110.0
        rim = QColor(b.of("gtk-3").text_of("window"))
        rim.setAlphaF(0.25)
        place = (part.text or part.fill).replace("/", ", ")
        if not part.text:
            b.text(x + 126, y, wide - 130, high, place, "window", size)
        box = b.of(owner).box(x, y + 3, sample, high - 6, part.key, 5, edge=False)
        b.painter.setPen(QPen(rim, 1))
        b.painter.setBrush(Qt.BrushStyle.NoBrush)
        b.painter.drawRoundedRect(box, 5, 5)
        if part.text:
            b.text(x + 14, y, wide - 28, high, f"{place}: 37 birds, all ringed", part.key, size)
