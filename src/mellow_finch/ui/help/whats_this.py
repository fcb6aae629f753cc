"""What is this? Whatever a control says of itself in its tip, or to assistive programs, is shown when it is asked."""

from __future__ import annotations

from PyQt6.QtCore import QEvent, QObject
from PyQt6.QtGui import QHelpEvent
from PyQt6.QtWidgets import QAbstractButton, QApplication, QWhatsThis, QWidget


def words_of(widget: QWidget | None) -> str:
    """Return what a widget, or the nearest one around it, says of itself."""
    while widget is not None:
        words = widget.toolTip() or widget.accessibleDescription() or widget.accessibleName()
        if not words and isinstance(widget, QAbstractButton):
            words = widget.text()
        if words:
            name = widget.accessibleName()
            return f"{name}\n{words}" if name and name not in words else words
        if widget.isWindow():
            return ""
        widget = widget.parentWidget()
    return ""


class WhatsThis(QObject):
    """Answers for every control of the program, as long as the question is open; no event passes it otherwise."""

    def ask(self) -> None:
        """Let the next click ask."""
        app = QApplication.instance()
        if app is not None:
            app.installEventFilter(self)
            QWhatsThis.enterWhatsThisMode()

    def eventFilter(self, watched: QObject | None, event: QEvent | None) -> bool:
        """Answer the two questions that the toolkit asks, until it has no more."""
        if isinstance(watched, QWidget) and isinstance(event, QHelpEvent):
            if event.type() == QEvent.Type.QueryWhatsThis:
                event.setAccepted(bool(words_of(watched)))
                return True
            if event.type() == QEvent.Type.WhatsThis:
                QWhatsThis.showText(event.globalPos(), words_of(watched), watched)
                return True
        if event is not None and event.type() == QEvent.Type.LeaveWhatsThisMode:
            app = QApplication.instance()
            if app is not None:
                app.removeEventFilter(self)
        return False
