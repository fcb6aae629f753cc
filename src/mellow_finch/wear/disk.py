"""Writing so that an interruption at any moment leaves the old file or the new one, never half of one."""

from __future__ import annotations

import os
from collections.abc import Callable
from pathlib import Path

from ..errors import file_errors

Step = Callable[[str], None]


def no_step(_name: str) -> None:
    """Do nothing before a step; tests put a failure here."""


def save(path: Path, data: bytes) -> None:
    """Write a file where its folder may not be there yet; raises FileAccessError."""
    with file_errors(path, "write"):
        path.parent.mkdir(parents=True, exist_ok=True)
    Disk().write(path, data)


class Disk:
    """The few things that are done to a disk, each announced to `before` so that a test can interrupt there."""

    def __init__(self, before: Step = no_step) -> None:
        self._before = before

    def write(self, path: Path, data: bytes, mode: int | None = None, temp: str = "", sync: bool = True) -> None:
        """Replace a file atomically: a temporary file beside it, synced, given the mode, renamed over it.

        sync: left out for the many files of a copy, which can be written again.
        """
        with file_errors(path, "write"):
            fresh = path.with_name(temp or f".{path.name}.finch-new")
            self._before(f"create {fresh.name}")
            handle = os.open(fresh, os.O_WRONLY | os.O_CREAT | os.O_TRUNC, 0o600)
            try:
                self._before(f"fill {fresh.name}")
                view = memoryview(data)
                while view:
                    view = view[os.write(handle, view) :]
                os.fchmod(handle, 0o644 if mode is None else mode)
                if sync:
                    os.fsync(handle)
            finally:
                os.close(handle)
            self._before(f"rename to {path.name}")
            fresh.replace(path)
            if sync:
                self._sync(path.parent)
            self._before(f"renamed {path.name}")

    def remove(self, path: Path) -> None:
        """Remove a file; one that is not there is no fault."""
        with file_errors(path, "remove"):
            self._before(f"remove {path.name}")
            path.unlink(missing_ok=True)

    def make_folder(self, path: Path) -> None:
        """Make one folder; one that is there is no fault."""
        with file_errors(path, "make the folder"):
            self._before(f"make {path.name}")
            path.mkdir(exist_ok=True)

    def remove_folder(self, path: Path) -> None:
        """Remove a folder if it is empty; otherwise leave it."""
        self._before(f"remove folder {path.name}")
        try:
            path.rmdir()
        except OSError:
            return

    @staticmethod
    def _sync(folder: Path) -> None:
        handle = os.open(folder, os.O_RDONLY)
        try:
            os.fsync(handle)
        finally:
            os.close(handle)


def missing_folders(path: Path) -> list[Path]:
    """Return the folders above a path that do not exist, outermost first."""
    found: list[Path] = []
    folder = path.parent
    while not folder.exists():
        found.append(folder)
        folder = folder.parent
    return found[::-1]
