"""The stage as a widget: pointing at parts, picking them, giving them roles, comparing, and coming near."""

from __future__ import annotations

from PyQt6.QtCore import QPoint, QPointF, Qt, pyqtSignal
from PyQt6.QtGui import (
    QContextMenuEvent,
    QDragEnterEvent,
    QDragMoveEvent,
    QDropEvent,
    QKeyEvent,
    QMouseEvent,
    QWheelEvent,
)
from PyQt6.QtWidgets import QWidget

from ..kit.drag import carries_colour, dropped_choice
from ..kit.style import Style
from .brush import Area
from .canvas import Canvas
from .scene import close_of

_WHEEL, _KEY = 1.2, 1.4  # how much nearer a notch of the wheel and a key bring one


class Stage(Canvas):
    """What the hand does on the stage."""

    pointed = pyqtSignal(object)  # Area under the pointer, or None
    picked = pyqtSignal(object)  # Area that was clicked
    menu_asked = pyqtSignal(object, QPoint)  # Area, and where on the screen
    given = pyqtSignal(object, str)  # Area, and the role that was dropped on it

    def __init__(self, style: Style, parent: QWidget | None = None) -> None:
        super().__init__(style, parent)
        self._dragging = False
        self._held: QPointF | None = None  # where the pointer took hold of the desktop, to move it
        self.setAcceptDrops(True)
        self.setMouseTracking(True)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)

    def _near_curtain(self, x: float) -> bool:
        frame = self.frame()
        return self.curtain is not None and abs(frame.x() + self.curtain * frame.width() - x) < 12

    def wheelEvent(self, event: QWheelEvent | None) -> None:
        """Come nearer with Ctrl; near, move over the desktop."""
        if event is None:
            return
        turned = event.angleDelta()
        if event.modifiers() & Qt.KeyboardModifier.ControlModifier:
            self.zoom(_WHEEL ** (turned.y() / 120), event.position())
        elif self._near is not None:
            sideways = bool(event.modifiers() & Qt.KeyboardModifier.ShiftModifier)
            self._move(QPointF(turned.y(), 0) if sideways else QPointF(turned.x(), turned.y()))
        else:
            event.ignore()
            return
        event.accept()

    def mouseDoubleClickEvent(self, event: QMouseEvent | None) -> None:
        """Look at the window or widget under the pointer from near."""
        area = self.area_at(event.position()) if event is not None else None
        if area is not None:
            self.look_at(close_of(area.component))

    def contextMenuEvent(self, event: QContextMenuEvent | None) -> None:
        """Ask for the menu of what is under the pointer, or of what the keys have come to."""
        if event is None:
            return
        by_keys = event.reason() == QContextMenuEvent.Reason.Keyboard
        area = self._hint if by_keys else self.area_at(QPointF(event.pos()))
        if area is not None:
            self.menu_asked.emit(area, event.globalPos())

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        """Take hold of the curtain or, with the middle button, of the desktop; or select what is under the pointer."""
        if event is not None and event.button() == Qt.MouseButton.MiddleButton and self._near is not None:
            self._held = event.position()
            self.setCursor(Qt.CursorShape.ClosedHandCursor)
            return
        if event is None or event.button() != Qt.MouseButton.LeftButton:
            return
        if self._near_curtain(event.position().x()):
            self._dragging = True
            return
        area = self.area_at(event.position())
        if area is not None:
            self.picked.emit(area)

    def mouseMoveEvent(self, event: QMouseEvent | None) -> None:
        """Draw the curtain, or tell what is under the pointer."""
        if event is None:
            return
        if self._held is not None:
            self._move(event.position() - self._held)
            self._held = event.position()
            return
        if self._dragging:
            frame = self.frame()
            self.set_curtain(min(1.0, max(0.0, (event.position().x() - frame.x()) / frame.width())))
            return
        near = self._near_curtain(event.position().x())
        self.setCursor(Qt.CursorShape.SplitHCursor if near else Qt.CursorShape.PointingHandCursor)
        self._point_at(self.area_at(event.position()))

    def _point_at(self, area: Area | None) -> None:
        if area != self._hint:
            self._hint = area
            self.pointed.emit(area)
            self.update()

    def mouseReleaseEvent(self, event: QMouseEvent | None) -> None:
        """Let go of the curtain or of the desktop."""
        self._dragging = False
        self._held = None

    def dragEnterEvent(self, event: QDragEnterEvent | None) -> None:
        """Take roles off the plumage."""
        if event is not None and carries_colour(event):
            event.acceptProposedAction()

    def dragMoveEvent(self, event: QDragMoveEvent | None) -> None:
        """Show what a role would be given to."""
        if event is None:
            return
        self._point_at(self.area_at(event.position()))
        if self._hint is not None:
            event.acceptProposedAction()
        else:
            event.ignore()

    def dropEvent(self, event: QDropEvent | None) -> None:
        """Give what is under the pointer the role that was dropped on it."""
        area = self.area_at(event.position()) if event is not None else None
        role = dropped_choice(event)
        if event is not None and area is not None and role:
            event.acceptProposedAction()
            self.given.emit(area, role)

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        """Walk over the parts with the arrow keys, select with Return, move the curtain with Shift."""
        if event is None:
            return
        key = event.key()
        step = {Qt.Key.Key_Left: -1, Qt.Key.Key_Right: 1}.get(Qt.Key(key), 0)
        if step and self.curtain is not None and event.modifiers() & Qt.KeyboardModifier.ShiftModifier:
            self.set_curtain(min(1.0, max(0.0, self.curtain + step * 0.05)))
        elif step and self.areas:
            at = self.areas.index(self._hint) if self._hint in self.areas else -1 if step > 0 else 0
            self._hint = self.areas[(at + step) % len(self.areas)]
            if self._near is not None and not self.viewport.view.contains(self._hint.rect.center()):
                self._come_near((self._hint.rect.center(), self._near[1]))
            self.pointed.emit(self._hint)
            self.update()
        elif key in (Qt.Key.Key_Plus, Qt.Key.Key_Equal):
            self.zoom(_KEY)
        elif key == Qt.Key.Key_Minus:
            self.zoom(1 / _KEY)
        elif key == Qt.Key.Key_0:
            self.whole()
        elif key == Qt.Key.Key_1:
            self.true_size()
        elif key == Qt.Key.Key_Escape and self._near is not None:
            self.whole()
        elif key in (Qt.Key.Key_Return, Qt.Key.Key_Enter, Qt.Key.Key_Space) and self._hint is not None:
            self.picked.emit(self._hint)
        else:
            super().keyPressEvent(event)
