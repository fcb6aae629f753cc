"""Whether the old files can be given back on a disk that is full."""

from __future__ import annotations

import os
from collections.abc import Iterable
from pathlib import Path

from ..errors import WearError
from ..language import kilobytes, tr
from .history import History
from .journal import FileRow


def _blocks(size: int, block: int) -> int:
    return -(-size // block) * block


def check_room(rows: Iterable[FileRow], history: History, worn: bool) -> None:
    """Raise WearError when a disk has not the room to give the old bytes of files back.

    worn: whether the rows are in place already, or the old files still lie there and will make room by going. Where the
    history lies on the same disk its own copies are moved into place, which needs none.
    """
    kept = history.folder.stat().st_dev
    by_device: dict[int, tuple[Path, list[FileRow]]] = {}
    for row in rows:
        folder = Path(row.target).parent
        while not folder.exists():
            folder = folder.parent
        device = folder.stat().st_dev
        if device != kept or row.in_place:
            by_device.setdefault(device, (folder, []))[1].append(row)
    for folder, group in by_device.values():
        state = os.statvfs(folder)
        block = state.f_frsize or 4096
        old = [_blocks(row.size, block) for row in group if row.before]
        new = [_blocks(row.fresh, block) for row in group if row.before]
        free = state.f_bavail * block + sum(_blocks(row.fresh, block) for row in group if not row.before)
        free += 0 if worn else sum(old)
        lacking = 0
        for before, after in zip(old, new, strict=True):
            lacking = max(lacking, before - free)
            free += after - before
        if lacking > 0:
            raise WearError(
                tr("The disk of “{folder}” has no space for backups, so nothing was changed.").format(folder=folder),
                tr("Free {size} there, then try again.").format(size=kilobytes(lacking + 1023)),
            )
