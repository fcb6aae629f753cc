"""The changes of a file as a unified diff, the colours of every line as swatches in the gutter."""

from __future__ import annotations

import difflib
from collections.abc import Callable, Mapping, Sequence
from typing import NamedTuple

from PyQt6.QtCore import QRect, QRectF, QSize, Qt
from PyQt6.QtGui import QFont, QPainter, QPaintEvent, QPen, QResizeEvent, QSyntaxHighlighter, QTextCharFormat
from PyQt6.QtWidgets import QComboBox, QHBoxLayout, QPlainTextEdit, QVBoxLayout, QWidget

from ...colour.rgb import Rgba
from ...language import plural, tr
from ...syntax.spans import ColourSpan
from ..kit.parts import Choice, label
from ..kit.style import MONO, Style, qcolor

_GUTTER = 62
_MOST_LINES = 6000  # lines of a diff that are shown
_MOST_SWATCHES = 3
Scan = Callable[[str], Sequence[ColourSpan]]


class Change(NamedTuple):
    """A file before and after, and the scanner that finds its colours; before is empty for a new file."""

    name: str
    before: str
    after: str
    scan: Scan | None


class DiffLine(NamedTuple):
    """A line of a diff and the colours in it."""

    text: str
    colours: tuple[Rgba, ...] = ()


def diff_lines(change: Change) -> tuple[list[DiffLine], int]:
    """Return the lines of a unified diff with the colours of each, and how many lines change."""
    old, new = change.before.splitlines(), change.after.splitlines()
    colours = [_line_colours(text, change.scan) for text in (change.before, change.after)]
    out: list[DiffLine] = []
    count = 0
    # A recoloured file keeps its lines: those that differ are found at their places.
    if len(old) <= len(new) and _same_lines(old, new):
        groups = _paired(old, new)
    else:
        groups = difflib.SequenceMatcher(None, old, new, autojunk=False).get_grouped_opcodes(1)  # type: ignore[assignment]
    for group in groups:
        first, last = group[0], group[-1]
        out.append(DiffLine(f"@@ line {first[3] + 1} to {last[4]} @@"))
        for tag, i1, i2, j1, j2 in group:
            if tag == "equal":
                out += [DiffLine(f" {old[i]}", colours[0].get(i, ())) for i in range(i1, i2)]
                continue
            out += [DiffLine(f"-{old[i]}", colours[0].get(i, ())) for i in range(i1, i2)]
            out += [DiffLine(f"+{new[j]}", colours[1].get(j, ())) for j in range(j1, j2)]
            count += max(i2 - i1, j2 - j1)
        if len(out) > _MOST_LINES:
            out.append(DiffLine(tr("… more below")))
            break
    return out, count


_Op = tuple[str, int, int, int, int]


def _same_lines(old: Sequence[str], new: Sequence[str]) -> bool:
    """Tell whether lines only changed where they stand, or were added at the end."""
    return sum(a == b for a, b in zip(old, new, strict=False)) * 3 >= len(old) or len(old) == len(new)


def _paired(old: Sequence[str], new: Sequence[str]) -> list[list[_Op]]:
    changed = [i for i in range(len(old)) if old[i] != new[i]]
    rows: list[list[_Op]] = []
    for i in changed:
        if rows and rows[-1][-1][2] >= i - 1:
            start = rows[-1].pop()
            if start[0] == "equal" and start[2] < i:
                rows[-1].append(("equal", start[1], i, start[1], i))
            elif start[0] == "equal":
                rows[-1].append(("equal", start[1], min(start[2], i), start[1], min(start[2], i)))
            else:
                rows[-1].append(start)
        else:
            rows.append([("equal", max(0, i - 1), i, max(0, i - 1), i)])
        rows[-1].append(("replace", i, i + 1, i, i + 1))
        end = min(i + 2, len(old))
        rows[-1].append(("equal", i + 1, end, i + 1, end))
    if len(new) > len(old):
        rows.append([("insert", len(old), len(old), len(old), len(new))])
    return [[op for op in row if op[0] != "equal" or op[1] < op[2]] for row in rows]


def _line_colours(text: str, scan: Scan | None) -> Mapping[int, tuple[Rgba, ...]]:
    if scan is None:
        return {}
    found: dict[int, tuple[Rgba, ...]] = {}
    line, at = 0, 0
    for span in scan(text):
        line += text.count("\n", at, span.start)
        at = span.start
        found[line] = (*found.get(line, ()), span.colour)
    return found


class _Colours(QSyntaxHighlighter):
    """Marks added and removed lines, by their sign as well as by colour."""

    def __init__(self, edit: QPlainTextEdit, style: Style) -> None:
        super().__init__(edit.document())
        self._style = style

    def highlightBlock(self, text: str | None) -> None:
        """Mark one line."""
        form = QTextCharFormat()
        kind = {"+": "good", "-": "bad", "@": "quiet"}.get((text or " ")[0])
        if kind and text:
            form.setForeground(self._style.c(kind))
            self.setFormat(0, len(text), form)


class _Gutter(QWidget):
    """The strip beside the text in which each line's colours lie."""

    def __init__(self, edit: DiffText) -> None:
        super().__init__(edit)
        self._edit = edit

    def sizeHint(self) -> QSize:
        """Return the strip's width."""
        return QSize(_GUTTER, 0)

    def paintEvent(self, event: QPaintEvent | None) -> None:
        """Paint the swatches of the lines in sight."""
        self._edit.paint_gutter(QPainter(self))


class DiffText(QPlainTextEdit):
    """The text of a diff with its gutter."""

    def __init__(self, style: Style) -> None:
        super().__init__()
        self._style = style
        self._lines: Sequence[DiffLine] = ()
        self.setReadOnly(True)
        self.setLineWrapMode(QPlainTextEdit.LineWrapMode.NoWrap)
        self.setLayoutDirection(Qt.LayoutDirection.LeftToRight)  # code, whatever the language around it
        self.setAccessibleName(tr("The changes in the file"))
        font = QFont(MONO)
        font.setPointSizeF(10)
        self.setFont(font)
        self._gutter = _Gutter(self)
        self._colours = _Colours(self, style)
        self.setViewportMargins(_GUTTER, 0, 0, 0)
        self.updateRequest.connect(self._scrolled)

    def _scrolled(self, rect: QRect, dy: int) -> None:
        if dy:
            self._gutter.scroll(0, dy)
        else:
            self._gutter.update(0, rect.y(), _GUTTER, rect.height())

    def show_lines(self, lines: Sequence[DiffLine]) -> None:
        """Show the lines of a diff."""
        text = "\n".join(line.text for line in lines)
        self._lines = lines
        if self.toPlainText() != text:
            self.setPlainText(text)
        self._gutter.update()

    def resizeEvent(self, event: QResizeEvent | None) -> None:
        """Keep the gutter as high as the text."""
        super().resizeEvent(event)
        area = self.contentsRect()
        self._gutter.setGeometry(QRect(area.left(), area.top(), _GUTTER, area.height()))

    def paint_gutter(self, p: QPainter) -> None:
        """Paint each line's colours beside it."""
        p.fillRect(self._gutter.rect(), self._style.c("sunken"))
        p.setRenderHint(QPainter.RenderHint.Antialiasing)
        block = self.firstVisibleBlock()
        top = self.blockBoundingGeometry(block).translated(self.contentOffset()).top()
        while block.isValid() and top < self._gutter.height():
            high = self.blockBoundingRect(block).height()
            number = block.blockNumber()
            if number < len(self._lines) and self._lines[number].text[:1] in "+-":
                for i, colour in enumerate(self._lines[number].colours[:_MOST_SWATCHES]):
                    p.setPen(QPen(self._style.c("edge"), 1))
                    p.setBrush(qcolor(colour.opaque))
                    p.drawRoundedRect(QRectF(5 + i * 18, top + 2, 15, high - 4), 3, 3)
            top += high
            block = block.next()


class ChangesView(QWidget):
    """Lets a file be chosen and shows its changes."""

    def __init__(self, style: Style) -> None:
        super().__init__()
        self.setObjectName("changes")
        column = QVBoxLayout(self)
        column.setContentsMargins(14, 12, 14, 12)
        row = QHBoxLayout()
        self.files = Choice()
        self.files.setAccessibleName(tr("File"))
        self.files.setSizeAdjustPolicy(QComboBox.SizeAdjustPolicy.AdjustToMinimumContentsLengthWithIcon)
        self.files.setMinimumContentsLength(30)
        self.files.currentIndexChanged.connect(lambda _: self._show())
        row.addWidget(self.files, 1)
        self.count = label("", "quiet", wrap=False)
        row.addWidget(self.count)
        column.addLayout(row)
        self.text = DiffText(style)
        column.addWidget(self.text, 1)
        self.empty = label("", "quiet")
        self.empty.setAlignment(Qt.AlignmentFlag.AlignCenter)
        column.addWidget(self.empty, 1)
        self._changes: Sequence[Change] = ()

    def show_changes(self, changes: Sequence[Change], none: str = tr("No file changes.")) -> None:
        """Show what changes in some files; none is said where nothing does."""
        same = [c.name for c in changes] == [c.name for c in self._changes]
        self._changes = changes
        if not same:
            self.files.blockSignals(True)
            self.files.clear()
            self.files.addItems([c.name for c in changes])
            self.files.blockSignals(False)
        for widget, wanted in ((self.files, bool(changes)), (self.count, bool(changes)), (self.text, bool(changes))):
            widget.setVisible(wanted)
        self.empty.setText(none)
        self.empty.setVisible(not changes)
        self._show()

    def _show(self) -> None:
        at = self.files.currentIndex()
        if 0 <= at < len(self._changes):
            lines, count = diff_lines(self._changes[at])
            self.count.setText(plural("{count} line changes", "{count} lines change", count))
            self.text.show_lines(lines)
