"""Trying a look on from the command line: put on, counted down, and back unless it is kept."""

from __future__ import annotations

import select
import sys
import time
from collections.abc import Callable
from pathlib import Path
from typing import TYPE_CHECKING

from ..language import plural, tr
from .parts import say

if TYPE_CHECKING:
    from ..session.base import DesktopSession
    from ..wear.history import History
    from ..wear.journal import Snapshot


def try_on(
    put: Callable[[], Snapshot | None], home: Path, history: History, session: DesktopSession, seconds: int
) -> Snapshot | None:
    """Put a look on for some seconds; return it when it was kept, None when it is gone again.

    put: puts it on. It goes back too when this program is killed or the session ends.
    """
    from ..wear.trial import begin, count_down, give_back, keep

    watcher = begin(history, home)
    kept = False
    try:
        snapshot = put()
        if snapshot is not None:
            count_down(history, seconds)
            say(
                plural(
                    "The look is applied for {count} second. Press Enter to keep it.",
                    "The look is applied for {count} seconds. Press Enter to keep it.",
                    seconds,
                )
            )
            kept = _answered(seconds) and keep(history)
    finally:
        if not kept:
            give_back(history, session)
        watcher.let_go()
    say(tr("The look stays applied.") if kept else tr("All files and settings are restored."))
    return snapshot if kept else None


def _answered(seconds: float) -> bool:
    """Wait for Enter; False when nobody can be asked, or nobody answers in time."""
    until = time.monotonic() + seconds
    asked = sys.stdin is not None and sys.stdin.isatty()
    while (left := until - time.monotonic()) > 0:
        if not asked:
            time.sleep(left)
        elif select.select([sys.stdin], [], [], left)[0]:
            return bool(sys.stdin.readline())
    return False
