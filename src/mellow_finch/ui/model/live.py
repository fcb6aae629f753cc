"""A look that is tried while it is tuned: the running desktop follows each change, until it is kept or goes back."""

from __future__ import annotations

from collections.abc import Callable

from PyQt6.QtCore import QObject, QTimer, pyqtSignal

from ...look.model import Look
from .document import Document
from .wearing import WearDesk

LIVE_S = 60  # after the last change, until all goes back
_LEAST_MS = 500  # from one change of the desktop to the next


class LiveTrial(QObject):
    """Sends the look as it is now to the desktop, at most twice a second; what is asked meanwhile waits for that."""

    sent = pyqtSignal(int)  # the desktop follows, and stays so for so many seconds

    def __init__(self, document: Document, desk: WearDesk) -> None:
        super().__init__()
        self._document, self._desk = document, desk
        self.on = False
        self._sending = False
        self._shown: Look | None = None  # what the desktop was told last
        self._then: Callable[[], object] | None = None
        self._rest = QTimer(self)
        self._rest.setSingleShot(True)
        self._rest.setInterval(_LEAST_MS)
        self._rest.timeout.connect(self._send)
        document.changed.connect(lambda *_: self._changed())
        desk.done.connect(self._ended)

    def follow(self, on: bool) -> None:
        """Let the desktop follow from now on, or stay as it is."""
        self.on, self._shown = on, None
        if on:
            self._send()
        else:
            self._rest.stop()

    def _changed(self) -> None:
        if self.on and not self._rest.isActive():
            self._send()

    def _send(self) -> None:
        look = self._document.look
        if not self.on or look is self._shown:
            return
        if self._desk.busy:
            self._rest.start()
            return
        self._sending, self._shown = True, look
        self._desk.follow(LIVE_S)
        self._rest.start()

    def _ended(self) -> None:
        if self._sending:
            self._sending = False
            if self.on:
                self.sent.emit(LIVE_S)
        if self._then is not None and not self._desk.busy:
            then, self._then = self._then, None
            then()

    def end(self, then: Callable[[], object]) -> None:
        """Follow no more; then: what is done once the desktop is at rest, such as keeping the look."""
        self.follow(False)
        if self._desk.busy:
            self._then = then
        else:
            then()
