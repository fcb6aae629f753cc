"""A window that fits the screen, and lets what is heavy begin only once it has painted itself."""

from __future__ import annotations

import os
from collections.abc import Callable
from typing import TYPE_CHECKING

from PyQt6.QtCore import QSize, QTimer
from PyQt6.QtGui import QPaintEvent
from PyQt6.QtWidgets import QApplication, QMainWindow

if TYPE_CHECKING:
    from .memory import Memory

_TITLE_BAR = 30  # pixels that a title bar takes from the screen


class FirstPaint(QMainWindow):
    """Paints itself with what there is."""

    memory: Memory | None
    _after_paint: Callable[[], None] | None = None

    def _fit_screen(self) -> None:
        """Take the size there was, as far as the screen has room for it, title bar included."""
        screen = self.screen() or QApplication.primaryScreen()
        room = screen.availableSize() if screen is not None else QSize(1280, 800)
        wanted = QSize(room.width(), room.height() - _TITLE_BAR)
        if self.memory is not None:
            self.memory.keep_screen(room * float(os.environ.get("QT_SCALE_FACTOR", "1") or 1))
        self.resize(self.memory.size(wanted) if self.memory is not None else QSize(1280, 800))

    def after_first_paint(self, run: Callable[[], None]) -> None:
        """Run something once the window has painted itself."""
        self._after_paint = run

    def paintEvent(self, event: QPaintEvent | None) -> None:
        """Paint; the first time, let what waited for that begin."""
        super().paintEvent(event)
        if self._after_paint is not None:
            QTimer.singleShot(0, self._after_paint)
            self._after_paint = None
