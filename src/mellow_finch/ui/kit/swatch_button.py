"""A colour that can be clicked, copied and dragged."""

from __future__ import annotations

from PyQt6.QtCore import QMimeData, QPoint, QPointF, QRectF, QSize, Qt, pyqtSignal
from PyQt6.QtGui import QAction, QContextMenuEvent, QMouseEvent, QPainter, QPaintEvent, QPen
from PyQt6.QtWidgets import QAbstractButton, QMenu, QSizePolicy, QWidget

from ...colour.rgb import Rgba
from ...language import tr
from ...syntax.typed import spellings
from .clipboard import copy
from .drag import begins_drag, colour_data, drag
from .style import Style, qcolor


def add_copies(menu: QMenu, colour: Rgba, *more: str) -> None:
    """Add an entry to a menu for every spelling of a colour, and for more words, that copies it."""
    for words in (*spellings(colour), *more):
        action = QAction(tr("Copy {words}").format(words=words), menu)
        action.triggered.connect(lambda _=False, words=words: copy(words))
        menu.addAction(action)


def copy_menu(parent: QWidget, colour: Rgba) -> QMenu:
    """Return a menu that copies a colour."""
    menu = QMenu(parent)
    add_copies(menu, colour)
    return menu


class SwatchButton(QAbstractButton):
    """A colour that can be clicked, with an outline that shows on any surround."""

    hovered = pyqtSignal(bool)
    menu_asked = pyqtSignal(QPoint)  # where on the screen

    def __init__(
        self, style: Style, colour: Rgba, name: str, size: QSize | None = None, parent: QWidget | None = None
    ) -> None:
        super().__init__(parent)
        self._style, self.colour = style, colour
        self._size = size or QSize(30, 30)
        self._lit = False
        self._held: QPointF | None = None  # where the pointer took hold of it
        self.setAccessibleName(name)
        self.setToolTip(name)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setSizePolicy(QSizePolicy.Policy.Fixed, QSizePolicy.Policy.Fixed)

    def sizeHint(self) -> QSize:
        """Return the size it was made with."""
        return self._size

    def minimumSizeHint(self) -> QSize:
        """Return a size that can still be hit."""
        return self._size.boundedTo(QSize(24, 24))

    def set_colour(self, colour: Rgba) -> None:
        """Show another colour."""
        if colour != self.colour:
            self.colour = colour
            self.update()

    def contextMenuEvent(self, event: QContextMenuEvent | None) -> None:
        """Ask for its menu; where nobody has one, offer the colour in every spelling."""
        if event is None:
            return
        if self.receivers(self.menu_asked):
            self.menu_asked.emit(event.globalPos())
        else:
            menu = copy_menu(self, self.colour)
            menu.aboutToHide.connect(menu.deleteLater)
            menu.popup(event.globalPos())

    def carried(self) -> QMimeData:
        """Return what is dragged off it."""
        return colour_data(self.colour)

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        """Take hold of it."""
        self._held = event.position() if event is not None and event.button() == Qt.MouseButton.LeftButton else None
        super().mousePressEvent(event)

    def mouseMoveEvent(self, event: QMouseEvent | None) -> None:
        """Drag its colour off."""
        if begins_drag(event, self._held):
            self._held = None
            self.setDown(False)
            drag(self, self.carried(), self.colour)
        else:
            super().mouseMoveEvent(event)

    def set_lit(self, on: bool) -> None:
        """Mark the swatch as the one that is pointed at elsewhere."""
        if on != self._lit:
            self._lit = on
            self.update()

    def paintEvent(self, event: QPaintEvent | None) -> None:
        """Paint the swatch."""
        p = QPainter(self)
        p.setRenderHint(QPainter.RenderHint.Antialiasing)
        strong = self._lit or self.hasFocus() or self.isChecked() or self.underMouse()
        width = 3 if self._lit else 2 if strong else 1
        p.setPen(QPen(self._style.c("text" if strong else "edge"), width))
        p.setBrush(qcolor(self.colour))
        p.drawRoundedRect(QRectF(self.rect()).adjusted(1.5, 1.5, -1.5, -1.5), 5, 5)
