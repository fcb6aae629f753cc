"""What follows a change of what is applied: its files for scripts, a signal, and the person's own programs."""

from __future__ import annotations

import logging
import os
import stat
from collections.abc import Iterator
from contextlib import contextmanager, suppress
from pathlib import Path

from ..disk.log import NAME, start_log
from ..disk.own import config_folder
from ..intake.bounded import BoundsError, run_bounded
from ..session.bus import BusError, emit
from .applied import AppliedLook, applied_now, is_own, tell_current, variables
from .history import History

FOLDER = "after.d"
_CPU_S, _IDLE_S = 10.0, 10.0
_MOST_WORDS = 2000  # letters of a program's output that are logged
_PATH, _INTERFACE, _MEMBER = "/org/mellowfinch/MellowFinch", "org.mellowfinch.MellowFinch.Look", "Changed"


def as_root() -> bool:
    """Tell whether the program runs as root."""
    return os.geteuid() == 0


def programs_after(history: History) -> tuple[Path, ...]:
    """Return the person's own programs that run after a change, in the order of their names.

    None for another home than their own, and none for root. A file that others may write is left out, as are hidden
    ones and copies that editors keep.
    """
    if as_root() or not is_own(history):
        return ()
    folder = config_folder() / FOLDER
    with suppress(OSError):
        found = sorted(p for p in folder.iterdir() if not p.name.startswith(".") and not p.name.endswith("~"))
        return tuple(p for p in found if _may_run(p))
    return ()


def _may_run(path: Path) -> bool:
    try:
        state = path.stat()
    except OSError:
        return False
    ours = state.st_uid in (0, os.geteuid()) and not state.st_mode & (stat.S_IWGRP | stat.S_IWOTH)
    return stat.S_ISREG(state.st_mode) and ours and bool(state.st_mode & 0o111)


@contextmanager
def changing(history: History) -> Iterator[None]:
    """Hold the home for one change; when it ends well and another look is in force, let what follows follow."""
    before = applied_now(history)[0]
    with history.locked():
        yield
    now, look = applied_now(history)
    if (now.id if now is not None else "") != (before.id if before is not None else ""):
        earlier = "" if before is None else before.id
        _follow(history, look, "applied" if now is not None and now.id > earlier else "undone")


def _follow(history: History, look: AppliedLook | None, event: str) -> None:
    tell_current(history, look)
    if not is_own(history):
        return
    with suppress(BusError, OSError):
        emit(_PATH, _INTERFACE, _MEMBER, "ss", (event, look.name if look is not None else ""))
    told = {"FINCH_EVENT": event} | (variables(look) if look is not None else {})
    for path in programs_after(history):
        _run(path, told)


def _run(path: Path, told: dict[str, str]) -> None:
    """Run one of the person's programs, and log how it ended and what it said."""
    start_log()
    log = logging.getLogger(NAME)
    try:
        done = run_bounded([str(path)], _CPU_S, _IDLE_S, environment={**os.environ, **told}, folder=path.parent)
    except BoundsError:
        log.warning("%s/%s took too long and was ended", FOLDER, path.name)
        return
    except (OSError, ValueError) as error:
        log.warning("%s/%s could not be started: %s", FOLDER, path.name, error)
        return
    words = (done.stdout + done.stderr).strip()[-_MOST_WORDS:]
    level = logging.INFO if done.returncode == 0 else logging.WARNING
    log.log(level, "%s/%s ended with %d%s", FOLDER, path.name, done.returncode, f": {words}" if words else "")
