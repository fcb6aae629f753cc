"""A box over the window beside what it is about. It is a part of the window, so every desktop shows it in its place."""

from __future__ import annotations

from PyQt6 import sip
from PyQt6.QtCore import QEvent, QObject, QPoint, QRect, Qt, pyqtSignal
from PyQt6.QtGui import QKeyEvent, QMouseEvent
from PyQt6.QtWidgets import QApplication, QFrame, QWidget

_GAP = 6  # px from what it belongs to, and from the window's edges


class Popover(QFrame):
    """Closes when something else in its window is pressed. Escape gives up what was done in it; all else keeps it."""

    closed = pyqtSignal(bool)  # whether what was done in it is kept

    def __init__(self, window: QWidget) -> None:
        super().__init__(window)
        self.setObjectName("popover")
        self.setFrameShape(QFrame.Shape.StyledPanel)
        self.setAutoFillBackground(True)
        self._back: QWidget | None = None
        self._open = False
        self.hide()

    def open_at(self, beside: QRect) -> None:
        """Show it beside a rectangle of the window, where there is room for all of it."""
        self._back = self._focused()
        self._open = True
        self.adjustSize()
        room = self.parentWidget()
        assert room is not None
        self.move(_placed(self.rect(), beside, room.rect()))
        self.show()
        self.raise_()
        app = QApplication.instance()
        if app is not None:
            app.installEventFilter(self)

    def close_with(self, kept: bool) -> None:
        """Close it; what had the focus has it again."""
        if not self._open:
            return
        self._open = False
        app = QApplication.instance()
        if app is not None:
            app.removeEventFilter(self)
        focused = self._focused()
        inside = focused is None or self.isAncestorOf(focused)
        self.hide()
        back = self._back  # gone where its page was made again meanwhile
        if inside and back is not None and not sip.isdeleted(back) and back.isVisible():
            back.setFocus(Qt.FocusReason.PopupFocusReason)
        self.closed.emit(kept)
        self.deleteLater()

    def _focused(self) -> QWidget | None:
        """Return what has the focus in the window, whether or not the window is in front."""
        window = self.window()
        return window.focusWidget() if window is not None else None

    def eventFilter(self, watched: QObject | None, event: QEvent | None) -> bool:
        """Close it where its window is pressed outside of it."""
        if (
            isinstance(event, QMouseEvent)
            and event.type() == QEvent.Type.MouseButtonPress
            and isinstance(watched, QWidget)
            and watched.window() is self.window()
            and watched is not self
            and not self.isAncestorOf(watched)
        ):
            self.close_with(True)
        return False

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        """Keep by Enter, give up by Escape."""
        key = event.key() if event is not None else 0
        if key == Qt.Key.Key_Escape:
            self.close_with(False)
        elif key in (Qt.Key.Key_Return, Qt.Key.Key_Enter):
            self.close_with(True)

    def focusNextPrevChild(self, next: bool) -> bool:
        """Keep the focus inside, going around."""
        inside = [w for w in self.findChildren(QWidget) if w.focusPolicy() & Qt.FocusPolicy.TabFocus and w.isVisible()]
        inside = [w for w in inside if w.isEnabled()]
        now = self._focused()
        if not inside:
            return True
        at = inside.index(now) + (1 if next else -1) if now in inside else 0
        reason = Qt.FocusReason.TabFocusReason if next else Qt.FocusReason.BacktabFocusReason
        inside[at % len(inside)].setFocus(reason)
        return True


def _placed(box: QRect, beside: QRect, room: QRect) -> QPoint:
    """Return where a box goes: under, else over, else at the side of a rectangle that it must not cover."""
    high, wide = box.height(), box.width()
    x = min(max(beside.left(), room.left() + _GAP), room.right() - wide - _GAP)
    if beside.bottom() + _GAP + high <= room.bottom() - _GAP:
        return QPoint(x, beside.bottom() + _GAP)
    if beside.top() - _GAP - high >= room.top() + _GAP:
        return QPoint(x, beside.top() - _GAP - high)
    y = min(max(beside.center().y() - high // 2, room.top() + _GAP), room.bottom() - high - _GAP)
    if beside.left() - _GAP - wide >= room.left() + _GAP:
        return QPoint(beside.left() - _GAP - wide, y)
    if beside.right() + _GAP + wide <= room.right() - _GAP:
        return QPoint(beside.right() + _GAP, y)
    return QPoint(x, y)
