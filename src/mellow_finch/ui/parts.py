"""Small things that every panel is made of."""

from __future__ import annotations

from PyQt6.QtCore import QRectF, QSize, Qt, pyqtSignal
from PyQt6.QtGui import QPainter, QPaintEvent, QPen
from PyQt6.QtWidgets import QAbstractButton, QFrame, QLabel, QScrollArea, QSizePolicy, QVBoxLayout, QWidget

from ..colour.rgb import Rgba
from .style import Style, qcolor


def label(words: str = "", kind: str = "", wrap: bool = True) -> QLabel:
    """Return a label; kind is one of the style's: title, section, quiet, bad, good."""
    made = QLabel(words)
    made.setProperty("kind", kind)
    made.setWordWrap(wrap)
    made.setTextFormat(Qt.TextFormat.PlainText)
    return made


def set_kind(made: QLabel, kind: str) -> None:
    """Give a label another kind."""
    if made.property("kind") != kind:
        made.setProperty("kind", kind)
        style = made.style()
        if style is not None:
            style.unpolish(made)
            style.polish(made)


class Panel(QWidget):
    """The right-hand side of one step: a title, a line under it, and a column of things that scrolls."""

    def __init__(self, title: str, under: str, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        outer = QVBoxLayout(self)
        outer.setContentsMargins(16, 14, 4, 12)
        outer.setSpacing(8)
        outer.addWidget(label(title, "title"))
        self.under = label(under, "quiet")
        outer.addWidget(self.under)
        inside = QWidget()
        self.column = QVBoxLayout(inside)
        self.column.setContentsMargins(0, 0, 10, 0)
        self.column.setSpacing(8)
        area = QScrollArea()
        area.setWidgetResizable(True)
        area.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        area.setFrameShape(QFrame.Shape.NoFrame)
        area.setWidget(inside)
        area.viewport().setAutoFillBackground(False)  # type: ignore[union-attr]
        inside.setAutoFillBackground(False)
        area.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        outer.addWidget(area, 1)
        self.foot = QVBoxLayout()
        self.foot.setContentsMargins(0, 0, 12, 0)
        outer.addLayout(self.foot)


class SwatchButton(QAbstractButton):
    """A colour that can be clicked, with an outline that shows on any surround."""

    hovered = pyqtSignal(bool)

    def __init__(
        self, style: Style, colour: Rgba, name: str, size: QSize | None = None, parent: QWidget | None = None
    ) -> None:
        super().__init__(parent)
        self._style, self.colour = style, colour
        self._size = size or QSize(30, 30)
        self.setAccessibleName(name)
        self.setToolTip(name)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setSizePolicy(QSizePolicy.Policy.Fixed, QSizePolicy.Policy.Fixed)

    def sizeHint(self) -> QSize:
        """Return the size it was made with."""
        return self._size

    def set_colour(self, colour: Rgba) -> None:
        """Show another colour."""
        if colour != self.colour:
            self.colour = colour
            self.update()

    def paintEvent(self, event: QPaintEvent | None) -> None:
        """Paint the swatch."""
        p = QPainter(self)
        p.setRenderHint(QPainter.RenderHint.Antialiasing)
        strong = self.hasFocus() or self.isChecked() or self.underMouse()
        p.setPen(QPen(self._style.c("text" if strong else "edge"), 2 if strong else 1))
        p.setBrush(qcolor(self.colour))
        p.drawRoundedRect(QRectF(self.rect()).adjusted(1.5, 1.5, -1.5, -1.5), 5, 5)
