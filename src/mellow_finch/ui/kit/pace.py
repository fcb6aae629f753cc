"""The window goes first: the pieces of work in other threads wait while the window's thread has something to do.

They share one interpreter. Without this a key or a click would wait for its turn among all that is worked out.
"""

from __future__ import annotations

import threading

from PyQt6.QtCore import QAbstractEventDispatcher, QObject

from ...progress import between_pieces

_MOST_S = 0.03  # that a piece waits at a time, so that work goes on in a window that is never at rest


class WindowFirst(QObject):
    """Lets work wait from when the event loop wakes until it has nothing left to do."""

    def __init__(self, parent: QObject) -> None:
        super().__init__(parent)
        self._rests = threading.Event()
        self._rests.set()
        self._own = threading.get_ident()
        loop = QAbstractEventDispatcher.instance()
        if loop is not None:
            loop.awake.connect(self._rests.clear)
            loop.aboutToBlock.connect(self._rests.set)
            between_pieces(self._wait)

    def end(self) -> None:
        """Let work go on as it likes."""
        between_pieces(self._wait, False)
        self._rests.set()

    def _wait(self) -> None:
        if threading.get_ident() != self._own:
            self._rests.wait(_MOST_S)
