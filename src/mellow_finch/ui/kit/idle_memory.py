"""Memory that work has left behind goes back to the system: large pieces at once, the rest when the window rests."""

from __future__ import annotations

import ctypes

from PyQt6.QtCore import QTimer

from .jobs import JobProgress, Jobs

_REST_MS = 20_000
_KEY = "idle memory"
_ARENA_MAX, _MMAP_THRESHOLD = -8, -3  # what the GNU C library's mallopt(3) calls them
_ARENAS, _LARGE = 2, 1_000_000  # arenas, bytes


def hold_little() -> None:
    """Let the C library keep few arenas, and give large pieces back as soon as they are free.

    By itself it keeps an arena for every thread, and after the first large picture it puts all others into them, where
    they leave holes: some 90 MB after a hundred openings.
    """
    mallopt = getattr(ctypes.CDLL(None), "mallopt", None)
    if mallopt is not None:
        mallopt(_ARENA_MAX, _ARENAS)
        mallopt(_MMAP_THRESHOLD, _LARGE)


class IdleMemory(QTimer):
    """Waits until no job has begun or ended for a moment; does nothing where the C library keeps all it has."""

    def __init__(self, jobs: Jobs) -> None:
        super().__init__(jobs)
        self._jobs = jobs
        self.setSingleShot(True)
        self.setInterval(_REST_MS)
        self.timeout.connect(self.give_back)
        jobs.changed.connect(self._again)

    def _again(self) -> None:
        if not self._jobs.running(_KEY):
            self.start()

    def give_back(self) -> None:
        """Let the C library give back what is free, off the window's thread."""
        trim = getattr(ctypes.CDLL(None), "malloc_trim", None)
        if trim is None or self._jobs.keys:
            return

        def work(_progress: JobProgress) -> None:
            trim(0)

        self._jobs.start(_KEY, work, lambda _: self.stop())
