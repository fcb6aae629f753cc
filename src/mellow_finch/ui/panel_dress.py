"""Dress: every component, what it gets, and for files that exist already their colours old beside new."""

from __future__ import annotations

from dataclasses import replace

from PyQt6.QtCore import QRectF, QSize, Qt
from PyQt6.QtGui import QColor, QFont, QPainter, QPaintEvent, QPen, QSyntaxHighlighter, QTextCharFormat
from PyQt6.QtWidgets import QHeaderView, QPlainTextEdit, QSizePolicy, QTreeWidget, QTreeWidgetItem, QWidget

from ..colour.rgb import Rgba
from ..components.catalogue import COMPONENTS
from ..components.model import Component, OutFile, text_of
from ..palette.roles import ROLE_BY_ID
from ..recolour.groups import Group
from ..recolour.rewrite import subject_of
from ..syntax.catalogue import Format, format_of
from .document import Document
from .parts import Panel, label
from .style import MONO, Style, qcolor

_MOST_GROUPS = 10
_EFFECTS = {"at once": "shows at once", "reload": "shows after a reload", "restart": "shows after a restart"}


def _format(file: OutFile) -> Format | None:
    """Return the format of a file that is written."""
    return format_of(file.path, file.data[:4096].decode("utf-8", "replace"))


class GroupRow(QWidget):
    """One colour of a file: old beside new, the role it goes to, and in how many places it stands."""

    def __init__(self, style: Style, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self._style = style
        self._old, self._new, self._words, self._note = Rgba(0, 0, 0), Rgba(0, 0, 0), "", ""
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)

    def sizeHint(self) -> QSize:
        """Return a row's size."""
        return QSize(300, 30)

    def show_group(self, group: Group, new: Rgba) -> None:
        """Show one group."""
        self._old, self._new = group.anchor, new
        self._words = f"{group.anchor.hex} → {ROLE_BY_ID[group.role].title}"
        self._note = f"{group.places} place{'s' * (group.places != 1)}"
        self.setToolTip(f"{len(group.shades)} shades; {group.reason}")
        self.setAccessibleName(f"{self._words}, {self._note}")
        self.update()

    def paintEvent(self, event: QPaintEvent | None) -> None:
        """Paint the row."""
        p = QPainter(self)
        p.setRenderHint(QPainter.RenderHint.Antialiasing)
        p.setPen(QPen(self._style.c("edge"), 1))
        for i, colour in enumerate((self._old, self._new)):
            p.setBrush(qcolor(colour))
            p.drawRoundedRect(QRectF(1 + i * 30, 4, 28, 21), 4, 4)
        p.setPen(self._style.c("text"))
        p.drawText(QRectF(66, 0, self.width() - 66, 30), Qt.AlignmentFlag.AlignVCenter, self._words)
        p.setPen(self._style.c("quiet"))
        p.drawText(
            QRectF(0, 0, self.width() - 2, 30), Qt.AlignmentFlag.AlignVCenter | Qt.AlignmentFlag.AlignRight, self._note
        )


class DiffColours(QSyntaxHighlighter):
    """Marks added and removed lines of a diff, by weight and sign as well as by colour."""

    def __init__(self, edit: QPlainTextEdit, style: Style) -> None:
        super().__init__(edit.document())
        self._style = style

    def highlightBlock(self, text: str | None) -> None:
        """Mark one line."""
        form = QTextCharFormat()
        if text and text[0] in "+-":
            form.setForeground(QColor(self._style.c("good" if text[0] == "+" else "bad")))
            self.setFormat(0, len(text), form)
        elif text and text.startswith("@@"):
            form.setForeground(QColor(self._style.c("quiet")))
            self.setFormat(0, len(text), form)


class DressPanel(Panel):
    """Lists the components; the chosen one is shown in full."""

    def __init__(self, document: Document, style: Style, parent: QWidget | None = None) -> None:
        super().__init__("Dress", "Untick what should stay as it is.", parent)
        self._document, self._style = document, style
        self._filling = False
        self.tree = QTreeWidget()
        self.tree.setAccessibleName("Components")
        self.tree.setHeaderLabels(["Component", "Files", "Readable"])
        self.tree.setRootIsDecorated(False)
        self.tree.setFixedHeight(206)
        self.tree.setUniformRowHeights(True)
        for i, component in enumerate(COMPONENTS):
            item = QTreeWidgetItem([component.title, "", ""])
            item.setData(0, Qt.ItemDataRole.UserRole, component.id)
            item.setFlags(item.flags() | Qt.ItemFlag.ItemIsUserCheckable)
            item.setCheckState(0, Qt.CheckState.Checked)
            self.tree.addTopLevelItem(item)
            if i == 4:
                self.tree.setCurrentItem(item)
        head = self.tree.header()
        if head is not None:
            head.setStretchLastSection(False)
            head.setSectionResizeMode(0, QHeaderView.ResizeMode.Stretch)
            for column in (1, 2):
                head.setSectionResizeMode(column, QHeaderView.ResizeMode.ResizeToContents)
        self.tree.itemChanged.connect(self._ticked)
        self.tree.currentItemChanged.connect(lambda *_: self.refresh())
        self.column.addWidget(self.tree)
        self.reads = label("")
        self.effect = label("", "quiet")
        self.column.addWidget(self.reads)
        self.column.addWidget(self.effect)
        self.groups_title = label("", "section")
        self.column.addWidget(self.groups_title)
        self.groups = [GroupRow(style) for _ in range(_MOST_GROUPS)]
        for row in self.groups:
            self.column.addWidget(row)
        self.diff_title = label("", "section")
        self.column.addWidget(self.diff_title)
        self.diff = QPlainTextEdit()
        self.diff.setReadOnly(True)
        self.diff.setAccessibleName("The changes in the file")
        self.diff.setMinimumHeight(220)
        self.diff.setLineWrapMode(QPlainTextEdit.LineWrapMode.NoWrap)
        font = QFont(MONO)
        font.setPointSizeF(9)
        self.diff.setFont(font)
        self._colours = DiffColours(self.diff, style)
        self.column.addWidget(self.diff)
        self.files_title = label("What is written", "section")
        self.column.addWidget(self.files_title)
        self.files = label("", "quiet")
        self.column.addWidget(self.files)
        self.column.addStretch(1)
        document.selected.connect(self._selected)

    def current(self) -> Component:
        """Return the chosen component."""
        item = self.tree.currentItem()
        chosen = item.data(0, Qt.ItemDataRole.UserRole) if item is not None else COMPONENTS[0].id
        return next(c for c in COMPONENTS if c.id == chosen)

    def _selected(self, _role: str, component: str, _part: str) -> None:
        for i in range(self.tree.topLevelItemCount()):
            item = self.tree.topLevelItem(i)
            if item is not None and item.data(0, Qt.ItemDataRole.UserRole) == component:
                self.tree.setCurrentItem(item)

    def _ticked(self, item: QTreeWidgetItem, _column: int) -> None:
        look = self._document.look
        if self._filling or look is None:
            return
        name = str(item.data(0, Qt.ItemDataRole.UserRole))
        leave = item.checkState(0) == Qt.CheckState.Unchecked
        out = look.left_out | {name} if leave else look.left_out - {name}
        self._document.edit(
            f"{'Leave out' if leave else 'Dress'} {item.text(0)}", lambda now: replace(now, left_out=out)
        )

    def refresh(self) -> None:
        """Show what the look gives every component."""
        look, dressed = self._document.look, self._document.dressed
        if look is None or dressed is None:
            return
        self._filling = True
        short: dict[str, int] = {}
        for f in self._document.findings:
            short[f.component] = short.get(f.component, 0) + (not f.passes)
        for i, component in enumerate(COMPONENTS):
            item = self.tree.topLevelItem(i)
            if item is None:
                continue
            files = dressed.files.get(component.id, ())
            item.setCheckState(0, Qt.CheckState.Unchecked if component.id in look.left_out else Qt.CheckState.Checked)
            item.setText(1, str(len(files)) if files else "–")
            left = short.get(component.id, 0)
            state = (
                "all"
                if files and not left
                else f"{left} short"
                if files
                else "left out"
                if component.id in look.left_out
                else "none here"
            )
            item.setText(2, state)
        self._filling = False
        self._show(self.current())

    def _show(self, component: Component) -> None:
        dressed = self._document.dressed
        assert dressed is not None
        files = dressed.files.get(component.id, ())
        self.reads.setText(component.reads + ".")
        self.effect.setText(f"It {_EFFECTS[component.effect]}. {component.restart}")
        self.files.setText(
            "\n".join(f"~/{f.path}" for f in files)
            or f"Nothing: this home has no {component.needs_file or 'use for it'}."
        )
        self._show_groups(component)
        self._show_diff(component)

    def _show_groups(self, component: Component) -> None:
        dressed = self._document.dressed
        assert dressed is not None
        files = dressed.files.get(component.id, ())
        form = _format(files[0]) if files and component.rewrites else None
        groups: tuple[Group, ...] = ()
        if form is not None:
            groups = subject_of(text_of(self._document.files, files[0].path), form.scan).groups
            places = sum(g.places for g in groups)
            self.groups_title.setText(f"{len(groups)} groups of colours in {places} places")
        self.groups_title.setVisible(bool(groups))
        for group, row in zip(groups, self.groups, strict=False):
            row.show_group(group, dressed.look.colours[group.role])
        for i, row in enumerate(self.groups):
            row.setVisible(i < len(groups))

    def _show_diff(self, component: Component) -> None:
        dressed = self._document.dressed
        assert dressed is not None
        files = dressed.files.get(component.id, ())
        changed = next((f for f in files if self._document.files(f.path) is not None), None)
        self.diff.setVisible(changed is not None)
        self.diff_title.setVisible(changed is not None)
        if changed is None:
            return
        import difflib  # not on the way to the first paint

        old = text_of(self._document.files, changed.path).splitlines()
        new = changed.data.decode("utf-8", "replace").splitlines()
        lines = [
            line for line in difflib.unified_diff(old, new, lineterm="", n=1) if not line.startswith(("---", "+++"))
        ]
        count = sum(line.startswith("+") for line in lines)
        self.diff_title.setText(f"{changed.path.rpartition('/')[2]}: {count} lines change")
        text = "\n".join(lines)
        if self.diff.toPlainText() != text:
            self.diff.setPlainText(text)
