"""Running another program within bounds: of processor time, and of time in which it does nothing.

A slow or busy computer makes a program take longer without doing more; only one that works too much, or that does
nothing at all for long, is ended.
"""

from __future__ import annotations

import os
import subprocess
import tempfile
import time
from collections.abc import Mapping, Sequence
from contextlib import suppress
from pathlib import Path

import psutil

_LOOK_S = 0.2
_GAIN_S = 0.01  # processor time that counts as doing something


class BoundsError(Exception):
    """A program worked too much, or did nothing for too long, and was ended."""


def run_bounded(
    words: Sequence[str],
    cpu_s: float,
    idle_s: float,
    text: str | None = None,
    environment: Mapping[str, str] | None = None,
    folder: Path | None = None,
) -> subprocess.CompletedProcess[str]:
    """Run a program to its end and return what it wrote, bytes that are no text replaced.

    cpu_s: processor seconds of it and all that it starts; idle_s: seconds without any, more on a busy computer; text:
    what it is given to read. Raises BoundsError, OSError when it cannot be started.
    """
    with tempfile.TemporaryFile() as given:  # a pipe stays unfed when the first look at it comes too late
        given.write((text or "").encode("utf-8", "surrogateescape"))
        given.seek(0)
        process = subprocess.Popen(
            list(words),
            stdin=given,
            stdout=subprocess.PIPE,
            stderr=subprocess.PIPE,
            text=True,
            errors="replace",
            env=None if environment is None else dict(environment),
            cwd=folder,
        )
    watched, used, last = _Watched(process.pid), 0.0, time.monotonic()
    while True:
        try:
            out, said = process.communicate(timeout=_LOOK_S)
            return subprocess.CompletedProcess(words, process.returncode, out, said)
        except subprocess.TimeoutExpired:
            now = watched.used()
            if now > used + _GAIN_S:
                used, last = now, time.monotonic()
            if used > cpu_s or time.monotonic() - last > idle_s * busyness():
                watched.end()
                process.communicate()
                raise BoundsError(words[0]) from None


def busyness() -> float:
    """Return how many times longer than usual something may take here: 1 on a computer that has nothing else to do."""
    with suppress(OSError):
        return max(1.0, 1 + os.getloadavg()[0] / (os.cpu_count() or 1))
    return 1.0


class _Watched:
    """A process and all that it started, also what has ended since."""

    def __init__(self, pid: int) -> None:
        self._pid = pid
        self._used: dict[int, float] = {}

    def _processes(self) -> list[psutil.Process]:
        with suppress(psutil.Error):
            first = psutil.Process(self._pid)
            return [first, *first.children(recursive=True)]
        return []

    def used(self) -> float:
        """Return the processor seconds that were used so far."""
        for process in self._processes():
            with suppress(psutil.Error):
                times = process.cpu_times()
                self._used[process.pid] = times.user + times.system
        return sum(self._used.values())

    def end(self) -> None:
        """End all of it at once."""
        for process in self._processes():
            with suppress(psutil.Error):
                process.kill()
