"""The guide in a window: its pages on the left, the page with its pictures on the right, words to find above."""

from __future__ import annotations

from pathlib import Path

from PyQt6.QtCore import QSize, Qt, QUrl
from PyQt6.QtGui import QDesktopServices, QFont, QTextCursor, QTextDocument
from PyQt6.QtWidgets import (
    QDialog,
    QHBoxLayout,
    QLineEdit,
    QListWidget,
    QPushButton,
    QTextBrowser,
    QVBoxLayout,
    QWidget,
)

from ...language import right_to_left, tr
from ..kit.parts import label
from ..kit.style import FAMILY, Style
from .pages import page_named, pages, picture

_WIDE = 640  # of pictures, in pixels


class _Text(QTextBrowser):
    """Shows a page; its pictures are those beside it, never wider than the text."""

    def __init__(self) -> None:
        super().__init__()
        self.setOpenLinks(False)

    def loadResource(self, kind: int, name: QUrl) -> object:
        """Return a picture of the guide, made as wide as the text at most."""
        from PyQt6.QtGui import QImage

        if kind == QTextDocument.ResourceType.ImageResource.value:
            image = QImage(str(picture(Path(name.path()).name)))
            wide = min(_WIDE, max(240, self.viewport().width() - 40))  # type: ignore[union-attr]
            if image.width() > wide:
                image = image.scaledToWidth(wide, Qt.TransformationMode.SmoothTransformation)
            return image
        return None


def _mirrored(markdown: str) -> str:
    """Return a page whose tables have their first column on the right, where the toolkit's own tables never have it."""
    rows = (
        "|".join(reversed(line.split("|"))) if line.startswith("|") and line.endswith("|") else line
        for line in markdown.splitlines()
    )
    return "\n".join(rows)


class Guide(QDialog):
    """Not modal: it can stay beside the work."""

    def __init__(self, style: Style, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.setWindowTitle(tr("Guide"))
        self.resize(QSize(980, 720))
        row = QHBoxLayout(self)
        row.setContentsMargins(14, 14, 14, 14)
        row.setSpacing(12)
        left = QVBoxLayout()
        self.field = QLineEdit()
        self.field.setPlaceholderText(tr("Search the guide"))
        self.field.setAccessibleName(tr("Search the guide"))
        self.field.textChanged.connect(self._narrow)
        self.field.returnPressed.connect(self._next)
        self.list = QListWidget()
        self.list.setAccessibleName(tr("Pages of the guide"))
        self.list.setFixedWidth(250)
        self.list.setWordWrap(True)
        self.list.addItems([page.title for page in pages()])
        self.list.currentRowChanged.connect(self._show_row)
        left.addWidget(self.field)
        left.addWidget(self.list, 1)
        self.none = label(tr("No page contains these words."), "quiet")
        self.none.hide()
        left.addWidget(self.none)
        done = QPushButton(tr("Done"))
        done.setProperty("main", True)
        done.clicked.connect(self.close)
        left.addWidget(done)
        row.addLayout(left)
        self.text = _Text()
        self.text.setAccessibleName(tr("Page"))
        font = QFont(FAMILY)
        font.setPointSizeF(11.5)
        self.text.document().setDefaultFont(font)  # type: ignore[union-attr]
        self.text.document().setDocumentMargin(20)  # type: ignore[union-attr]
        self.text.setStyleSheet(f"QTextBrowser {{ background: {style.colours['raised'].hex}; }}")
        self.text.anchorClicked.connect(self._go)
        row.addWidget(self.text, 1)
        self.list.setCurrentRow(0)

    def show_page(self, name: str) -> None:
        """Show a page by its name."""
        page = page_named(name)
        self.list.setCurrentRow(pages().index(page))
        self._show_row(self.list.currentRow())
        self.show()
        self.raise_()
        self.activateWindow()

    def _show_row(self, row: int) -> None:
        if 0 <= row < len(pages()):
            words = pages()[row].text
            self.text.setMarkdown(_mirrored(words) if right_to_left() else words)
            if self.field.text():
                self.text.find(self.field.text())

    def _narrow(self, words: str) -> None:
        wanted = words.lower().split()
        found = [all(word in page.text.lower() for word in wanted) for page in pages()]
        for i, good in enumerate(found):
            self.list.item(i).setHidden(not good)  # type: ignore[union-attr]
        self.none.setVisible(not any(found))
        if any(found) and not found[max(0, self.list.currentRow())]:
            self.list.setCurrentRow(found.index(True))
        elif wanted:
            self.text.moveCursor(QTextCursor.MoveOperation.Start)
            self.text.find(words)

    def _next(self) -> None:
        if self.field.text() and not self.text.find(self.field.text()):
            self.text.moveCursor(QTextCursor.MoveOperation.Start)
            self.text.find(self.field.text())

    def _go(self, url: QUrl) -> None:
        """Follow a link: to another page here, to the web in the person's browser."""
        if url.scheme() in ("http", "https"):
            QDesktopServices.openUrl(url)
        else:
            self.show_page(Path(url.path()).stem)
