"""Work off the window's thread: one small place where threads and the window meet."""

from __future__ import annotations

import threading
from collections.abc import Callable
from typing import Any, NamedTuple

from PyQt6.QtCore import QObject, QThreadPool, pyqtSignal

from ...errors import Cancelled, FinchError, OwnFaultError, line_of
from ...language import tr
from ...progress import between_pieces, give_way
from .per_thread import forget

_TURNS = 3  # pieces' time that a job leaves to the window before it begins
_own = threading.local()  # the progress of the job that a thread runs


def _stop_unwanted() -> None:
    """End the job of this thread if it was cancelled, though it tells nobody how far it is."""
    progress: JobProgress | None = getattr(_own, "progress", None)
    if progress is not None and progress.cancelled.is_set():
        raise Cancelled(tr("Stopped."))


between_pieces(_stop_unwanted)


class _JobSignals(QObject):
    done = pyqtSignal(str, int, object)
    failed = pyqtSignal(str, int, object)
    progressed = pyqtSignal(str, int, int, int, str)
    gave = pyqtSignal(str, int, object)


class JobProgress:
    """Progress that is told to the window, and that ends cancelled work."""

    def __init__(self, told: _JobSignals, key: str, number: int) -> None:
        self._told, self._key, self._number = told, key, number
        self.cancelled = threading.Event()

    def report(self, done: int, total: int, note: str) -> None:
        """Tell the window; raise Cancelled when the work is not wanted any more."""
        if self.cancelled.is_set():
            raise Cancelled(tr("Stopped."))
        give_way()
        self._told.progressed.emit(self._key, self._number, done, total, note)

    def give(self, part: object) -> None:
        """Hand a part of the result to the window before the whole is done."""
        give_way()
        if not self.cancelled.is_set():
            self._told.gave.emit(self._key, self._number, part)


class _Running(NamedTuple):
    """A job under way, and who wants to hear of it."""

    number: int
    progress: JobProgress
    on_done: Callable[[Any], None]
    on_failed: Callable[[Exception], None]
    on_part: Callable[[Any], None] | None


class Jobs(QObject):
    """Starts work by key; the newest job of a key wins and results of older ones are dropped."""

    changed = pyqtSignal()  # a job began or came to its end
    progressed = pyqtSignal(str, int, int, str)
    failed = pyqtSignal(str)  # the sentence of an error that nobody asked for

    def __init__(self, parent: QObject | None = None) -> None:
        super().__init__(parent)
        self._pool = QThreadPool(self)
        self._told = _JobSignals()
        self._told.done.connect(self._on_done)
        self._told.failed.connect(self._on_failed)
        self._told.progressed.connect(self._on_progress)
        self._told.gave.connect(self._on_part)
        self._running: dict[str, _Running] = {}
        self._number = 0
        self._closed = False

    def start(
        self,
        key: str,
        work: Callable[[JobProgress], Any],
        on_done: Callable[[Any], None],
        on_failed: Callable[[Exception], None] | None = None,
        on_part: Callable[[Any], None] | None = None,
    ) -> None:
        """Run work(progress) in a thread, then on_done(result) or on_failed(error) in the window's.

        Without on_failed the sentence of an error, with its hint, goes to whoever listens to `failed`.

        on_part gets what the work gives by progress.give while it runs.
        """
        if self._closed:
            return
        self.cancel(key)
        self._number += 1
        number = self._number
        progress = JobProgress(self._told, key, number)
        self._running[key] = _Running(number, progress, on_done, on_failed or self._say, on_part)

        def run() -> None:
            _own.progress = progress
            try:
                for _ in range(_TURNS):  # what is begun by a change waits until that change was painted
                    give_way()
                result = work(progress)
            except Exception as error:
                self._told.failed.emit(key, number, error)
            else:
                self._told.done.emit(key, number, result)
            finally:
                _own.progress = None
                forget()

        self._pool.start(run)
        self.changed.emit()

    def _say(self, error: Exception) -> None:
        self.failed.emit(line_of(error))

    def cancel(self, key: str) -> None:
        """Stop a job; its result will be dropped."""
        if key in self._running:
            self._running.pop(key).progress.cancelled.set()
            self.changed.emit()

    def stop(self, key: str) -> None:
        """Stop a job, and let it tell on_failed by Cancelled how it ended."""
        if key in self._running:
            self._running[key].progress.cancelled.set()

    @property
    def keys(self) -> tuple[str, ...]:
        """Return the keys of the jobs under way, in the order in which they began."""
        return tuple(self._running)

    def running(self, key: str) -> bool:
        """Tell whether a job of a key is under way."""
        return key in self._running

    def _on_done(self, key: str, number: int, result: object) -> None:
        if key in self._running and self._running[key].number == number:
            row = self._running.pop(key)
            self.changed.emit()
            row.on_done(result)

    def _on_part(self, key: str, number: int, part: object) -> None:
        row = self._running.get(key)
        if row is not None and row.number == number and row.on_part is not None:
            row.on_part(part)

    def _on_failed(self, key: str, number: int, error: Exception) -> None:
        if key not in self._running or self._running[key].number != number:
            return
        row = self._running.pop(key)
        self.changed.emit()
        if isinstance(error, Cancelled) and not row.progress.cancelled.is_set():
            return
        if isinstance(error, FinchError):
            row.on_failed(error)
            return
        try:
            row.on_failed(OwnFaultError(error))  # whoever waits is told, and the window is free again
        finally:
            raise error  # and the fault goes where all of them go: to the log and before the person

    def _on_progress(self, key: str, number: int, done: int, total: int, note: str) -> None:
        if key in self._running and self._running[key].number == number:
            self.progressed.emit(key, done, total, note)

    def shut_down(self) -> None:
        """Cancel everything, wait a little for it to end, and start nothing more."""
        self._closed = True
        for key in list(self._running):
            self.cancel(key)
        self._pool.waitForDone(3000)
