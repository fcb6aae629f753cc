"""Whether the old files can be given back on a disk that is full."""

from __future__ import annotations

import os
from collections.abc import Iterable
from pathlib import Path

from ..errors import WearError
from .history import History
from .journal import FileRow


def _blocks(size: int, block: int) -> int:
    return -(-size // block) * block


def check_room(rows: Iterable[FileRow], history: History) -> None:
    """Raise WearError when a disk has not the room to give the old bytes of files back.

    Where the history lies on the same disk its own copies are moved into place, which needs none; files that were
    created make room by going.
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
        back = [row for row in group if row.before]
        gone = sum(_blocks(row.fresh, block) for row in group if not row.before)
        peak = max((_blocks(row.size, block) for row in back), default=0)
        growth = sum(max(0, _blocks(row.size, block) - _blocks(row.fresh, block)) for row in back)
        lacking = peak + growth - gone - state.f_bavail * block
        if back and lacking > 0:
            raise WearError(
                f"The disk that “{folder}” lies on has no room for going back, so nothing was changed.",
                f"Make {lacking // 1024 + 1} KB free there, then try again.",
            )
