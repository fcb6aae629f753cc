"""A home as it was before any look that it wears now."""

from __future__ import annotations

import os
from dataclasses import dataclass
from pathlib import Path

from ..components.files import Files
from ..disk.facts import read_plain
from ..errors import FileAccessError
from .history import History
from .journal import FileRow, Snapshot
from .targets import digest


@dataclass(frozen=True)
class OriginalFiles:
    """The person's own files, so that recolouring always starts from them; one that they edited since counts as it is.

    Where the kept bytes are damaged, the file counts as it is too.
    """

    below: Files
    history: History

    def __call__(self, path: str) -> bytes | None:
        """Return the original bytes of a file."""
        now = self.below(path)
        if now is None:
            return None
        chain = unbroken(self.history.worn_rows(path))
        if not chain or digest(now) != chain[-1][1].after:
            return now
        first, row = chain[0]
        if not row.before:
            return None
        kept = self.history.blob(first, row)
        if kept is not None and row.link:
            kept = _linked(Path(row.target), kept)
        return now if kept is None else kept

    def find(self, pattern: str) -> list[str]:
        """Return the matches that were there before."""
        rows = self.history.worn_rows
        return [p for p in self.below.find(pattern) if not rows(p) or self(p) is not None]

    def place(self, folder: str) -> str:
        """Return where a folder really lies."""
        return self.below.place(folder)

    def fresh(self, path: str) -> bool:
        """Tell whether a file was just made."""
        return self.below.fresh(path)


def unbroken(chain: list[tuple[Snapshot, FileRow]]) -> list[tuple[Snapshot, FileRow]]:
    """Return the newest rows of a file between which nobody but us has changed it, oldest first.

    A row that found something else than the one before it had left found an edit of the person's.
    """
    start = len(chain) - 1
    while start > 0 and not chain[start][1].link and chain[start][1].before == chain[start - 1][1].after:
        start -= 1
    return chain[max(0, start) :]


def _linked(place: Path, text: bytes) -> bytes | None:
    """Return what a link led to that gave way to a file; text: the link's."""
    try:
        return read_plain(place.parent / os.fsdecode(text))
    except FileAccessError:
        return None
