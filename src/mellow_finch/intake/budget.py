"""How much may come out of one thing that came from outside, counted down while it is read and handed on within it."""

from __future__ import annotations

import copy
import posixpath
import re
import time

from ..errors import UnsafeArchiveError
from ..language import plural, tr
from ..progress import Progress, Silent

MOST_FILES = 120_000  # folders and what is passed over included
MOST_BYTES = 200_000_000  # of everything, unpacked
MOST_FILE = 40_000_000  # of one file
MOST_SECONDS = 60.0
_MOST_NAME, _MOST_DEPTH = 1_024, 40
_RATIO = 400  # unpacked to packed, beyond which an archive is a trap
_SMALL = 20_000_000  # bytes up to which that ratio does not matter
_FEW, _PACKED_EACH = 20_000, 30  # beyond so many files each has to bring so many packed bytes
_OFTEN = 256


class Budget:
    """Entries, bytes, depth and time of one archive or folder, for all that is inside of it too.

    name: what it is called to the person; packed: its own size in bytes, 0 where nothing is packed. Everything raises
    UnsafeArchiveError when too much was taken, and Cancelled when the person stopped the work.
    """

    def __init__(self, name: str, packed: int = 0, progress: Progress | None = None) -> None:
        self.name = name
        self._packed, self._progress = packed, progress or Silent()
        self._entries, self._bytes = 0, 0
        self._until = time.monotonic() + MOST_SECONDS

    def anew(self) -> Budget:
        """Return what is left of it now, with new time: for reading the same thing once more."""
        fresh = copy.copy(self)
        fresh._until = time.monotonic() + MOST_SECONDS
        return fresh

    def entry(self, raw: str) -> str:
        """Return the path of one more entry from the root; refuses one that leads out."""
        clean = raw.replace("\\", "/")
        self._entries += 1
        few = self._packed and self._entries > _FEW and self._entries * _PACKED_EACH > self._packed
        if self._entries > MOST_FILES or few:
            count = MOST_FILES if not few else _FEW
            raise UnsafeArchiveError(
                plural(
                    "“{name}” contains more than {count} file, too many for a theme.",
                    "“{name}” contains more than {count} files, too many for a theme.",
                    count,
                    name=self.name,
                )
            )
        if self._entries % _OFTEN == 0:
            self.in_time()
        if len(clean) > _MOST_NAME or clean.count("/") > _MOST_DEPTH:
            raise UnsafeArchiveError(
                tr("“{name}” contains a path that is too long or too deep for a theme.").format(name=self.name)
            )
        if clean.startswith("/") or re.match(r"[A-Za-z]:", clean) or ".." in clean.split("/") or "\0" in clean:
            raise UnsafeArchiveError(
                tr("“{name}” contains the path “{raw}”, which leads out of its folder; nothing was unpacked.").format(
                    name=self.name, raw=raw
                )
            )
        return posixpath.normpath(clean)

    def take(self, size: int) -> None:
        """Take the bytes of one more file into account."""
        self._bytes += size
        if size > MOST_FILE or self._bytes > MOST_BYTES:
            raise UnsafeArchiveError(
                tr("“{name}” unpacks to more than the size allowed for a theme.").format(name=self.name)
            )
        if self._packed and self._bytes > _SMALL and self._bytes > _RATIO * self._packed:
            raise UnsafeArchiveError(
                tr("“{name}” unpacks to {ratio} times its size; refused.").format(name=self.name, ratio=_RATIO)
            )

    def in_time(self) -> None:
        """Refuse what takes longer than any theme."""
        self._progress.report(0, 1, tr("Opening {name}").format(name=self.name))
        if time.monotonic() > self._until:
            raise UnsafeArchiveError(
                tr("“{name}” takes too long to read; nothing was imported.").format(name=self.name)
            )

    def link(self, name: str, target: str) -> None:
        """Refuse a link that leads out."""
        end = posixpath.normpath(posixpath.join(posixpath.dirname(name), target))
        back = re.sub(r"^(?:\.\.?/)+", "", target + "/")  # going up is only safe before anything else
        if target.startswith("/") or end.startswith("..") or ".." in back.split("/") or "\0" in target:
            raise UnsafeArchiveError(
                tr("“{archive}” contains a link from “{link}” out of its folder; nothing was unpacked.").format(
                    archive=self.name, link=name
                )
            )
