"""The window goes first: the pieces of work in other threads wait while the window's thread has something to do.

They share one interpreter. Without this a key or a click would wait for its turn among all that is worked out.
"""

from __future__ import annotations

import os
import threading
import time
from contextlib import suppress

from PyQt6.QtCore import QObject

from ...progress import between_pieces

_MOST_S = 0.03  # that a piece waits at a time, so that work goes on in a window that is never at rest
_PIECE_S = 0.003  # how long a piece is at least: until then whoever asks goes on at once
_LOOK_S = 0.001  # between two looks at the window's thread
_BLIND = 60  # waits in vain after which a kernel is taken for one that does not tell where a thread sleeps
_since = threading.local()


class WindowFirst(QObject):
    """Lets work wait while the thread that made this has something to do.

    The kernel is asked: a window's thread rests when it sleeps in a poll. The signals of the event loop would tell it
    too late: with the dispatcher that most systems have, "awake" comes when all that woke it is done.
    """

    def __init__(self, parent: QObject) -> None:
        super().__init__(parent)
        self._own = threading.get_ident()
        self._in_vain, self._told = 0, False
        with suppress(OSError):
            self._sleeps_in = os.open(f"/proc/self/task/{threading.get_native_id()}/wchan", os.O_RDONLY | os.O_CLOEXEC)
            between_pieces(self._wait)

    def end(self) -> None:
        """Let work go on as it likes."""
        between_pieces(self._wait, False)

    def rests(self) -> bool:
        """Tell whether the window's thread has nothing to do; asked from another one."""
        rests = b"poll" in os.pread(self._sleeps_in, 64, 0)
        self._told |= rests
        return rests

    def _wait(self) -> None:
        began = time.monotonic()
        if threading.get_ident() == self._own or began - getattr(_since, "piece", 0.0) < _PIECE_S:
            return
        while not self.rests() and time.monotonic() - began < _MOST_S:
            time.sleep(_LOOK_S)
        self._in_vain += not self._told
        if self._in_vain > _BLIND:
            self.end()
        _since.piece = time.monotonic()
