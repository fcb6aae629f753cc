"""Trying a look on: it is applied like any other, and goes back by itself unless it is kept.

A marker beside the history is the promise. A process of its own keeps it when the program that began is killed, and
when the session ends; where even that could not, whoever looks at the home next does.
"""

from __future__ import annotations

import os
import select
import signal
import subprocess
import sys
import threading
import time
from collections.abc import Callable
from contextlib import suppress
from pathlib import Path
from types import FrameType
from typing import NoReturn

import msgspec

from ..disk.facts import must_read
from ..disk.write import save
from ..errors import FileAccessError, FinchError, WearError
from ..intake.bounded import busyness
from ..itself import own_module
from ..language import tr
from ..session.base import DesktopSession
from ..session.none import NoDesktop
from ..session.real import session_for
from .edits import edits_lost
from .history import History
from .journal import Snapshot
from .places import history_folder
from .plan import Plan
from .wear import Done, put_on, undecided_files, undo_last

_MARKER, _ENDING = "trial.json", "trial-ending.json"
_PUTTING_ON_S = 3600.0  # in which applying is over, however slow the disk is
_GRACE_S = 3.0  # after which the other process acts where the one that counts did not
_LOOK_S = 0.25
_READY_S = 20.0  # in which the other process stands


class Trial(msgspec.Struct, frozen=True):
    """A look that is being tried. until: when it goes back, seconds since 1970; before: the look in force before it."""

    until: float
    before: str

    def lasting(self, seconds: float) -> Trial:
        """Return it as going back so many seconds from now."""
        return Trial(time.time() + seconds, self.before)


class Watcher:
    """The process that keeps the promise; it lives until the look is kept or gone, and knows when we are."""

    def __init__(self, home: Path) -> None:
        self._process = subprocess.Popen(
            own_module("mellow_finch.wear.trial", str(home)),
            stdin=subprocess.PIPE,
            stdout=subprocess.PIPE,
            stderr=subprocess.DEVNULL,
            cwd="/",
            start_new_session=True,
        )
        assert self._process.stdout is not None
        ready, _, _ = select.select([self._process.stdout], [], [], _READY_S * busyness())
        if not ready or not self._process.stdout.read(1):
            self._process.kill()
            self.let_go()
            raise WearError(tr("Nothing was changed: the program that would undo it did not start."))

    def let_go(self) -> None:
        """Let it see that the trial is over; it ends by itself."""
        for end in (self._process.stdin, self._process.stdout):
            if end is not None:
                end.close()
        threading.Thread(target=self._process.wait, daemon=True).start()


def trial_of(history: History) -> Trial | None:
    """Return the look that is being tried in a home, None where none is."""
    for name in (_MARKER, _ENDING):
        with suppress(FileAccessError, msgspec.MsgspecError):
            return msgspec.json.decode(must_read(history.folder / name), type=Trial)
    return None


def begin(history: History, home: Path) -> Watcher:
    """Promise that what is applied next goes back. Raises FileAccessError, WearError where it cannot be promised."""
    last = history.last_worn()
    with history.locked():  # makes the folder
        _mark(history, Trial(time.time() + _PUTTING_ON_S, last.id if last is not None else ""))
    try:
        return Watcher(home)
    except (OSError, WearError):
        keep(history)
        raise


def count_down(history: History, seconds: float) -> None:
    """Let the time begin, now that the look is on."""
    trial = trial_of(history)
    if trial is not None:
        _mark(history, trial.lasting(seconds + _GRACE_S))


def _mark(history: History, trial: Trial) -> None:
    save(history.folder / _MARKER, msgspec.json.encode(trial))


def keep(history: History) -> bool:
    """Keep the look that is tried; return whether it was not gone already."""
    try:
        (history.folder / _MARKER).unlink()
    except FileNotFoundError:
        return False
    return True


def tried(history: History) -> list[Snapshot]:
    """Return what was applied since the trial began, oldest first; nothing where none is under way."""
    trial = trial_of(history)
    return [] if trial is None else [s for s in history.snapshots() if s.status == "worn" and s.id > trial.before]


def keep_as_one(history: History, session: DesktopSession, make: Callable[[], Plan]) -> bool:
    """Keep what is tried, and tell whether it was not gone already.

    Where several changes came of it they are kept as one: they go back, and the plan of the last is applied.

    make: returns that plan, once they are back. The promise holds until all is done, and is due where that fails. Files
    that were edited meanwhile stay as they are. Raises WearError, FileAccessError.
    """
    rows, trial = tried(history), trial_of(history)
    if trial is not None and len(rows) > 1:
        _mark(history, trial.lasting(_PUTTING_ON_S))
        try:
            _undo_since(trial, history, session)
            plan = make()
            put_on(plan, history, session, leave={found.path for found in edits_lost(plan, history)})
        except BaseException:
            _mark(history, trial.lasting(0.0))
            raise
    return keep(history)


def give_back(history: History, session: DesktopSession) -> Done | None:
    """Take off what was applied since the trial began; None where somebody else does, or it was kept.

    Files that were edited meanwhile stay as they are. Raises WearError, FileAccessError.
    """
    ending = history.folder / _ENDING
    with suppress(FileNotFoundError):
        (history.folder / _MARKER).rename(ending)  # only one of us succeeds
        return _take_off(history, session)
    return None


def _take_off(history: History, session: DesktopSession) -> Done | None:
    trial = trial_of(history)
    done = _undo_since(trial, history, session) if trial is not None else None
    (history.folder / _ENDING).unlink(missing_ok=True)
    return done


def _undo_since(trial: Trial, history: History, session: DesktopSession) -> Done | None:
    """Undo what was applied since a trial began, one after the other; what was edited in each stays as it is."""
    done = None
    while (snapshot := history.last_worn()) is not None and snapshot.id != trial.before:
        done = undo_last(history, session, leave=undecided_files(snapshot, history))
    return done


def settle(history: History, session: DesktopSession) -> Done | None:
    """Give back what is overdue, as nobody did; called by whoever looks at a home."""
    trial = trial_of(history)
    if trial is None or time.time() < trial.until + _GRACE_S:
        return None
    if (history.folder / _ENDING).exists():
        return _take_off(history, session)
    return give_back(history, session)


def watch(home: Path, ends: Callable[[float], bool]) -> None:
    """Wait until a look is kept, or its time or the program that began is over; then give it back.

    ends: waits for so many seconds and tells whether that program, or the session, has ended.
    """
    history = History(history_folder(home))
    while (history.folder / _MARKER).exists():
        trial = trial_of(history)
        if trial is None or ends(_LOOK_S) or time.time() >= trial.until:
            give_back(history, session_for(home) or NoDesktop())
            return


def main() -> None:
    """Watch over a trial; what begins it holds the other end of our input."""

    def end(_signal: int, _frame: FrameType | None) -> NoReturn:
        raise _SessionEndsError

    for name in (signal.SIGTERM, signal.SIGHUP):
        signal.signal(name, end)
    signal.signal(signal.SIGINT, signal.SIG_IGN)
    home = Path(sys.argv[1])
    over = False
    with suppress(OSError):
        os.write(1, b"!")

    def ends(seconds: float) -> bool:
        nonlocal over
        if not over and select.select([0], [], [], seconds)[0]:
            over = not os.read(0, 1)
        return over

    with suppress(FinchError):
        try:
            watch(home, ends)
        except _SessionEndsError:
            for name in (signal.SIGTERM, signal.SIGHUP):
                signal.signal(name, signal.SIG_IGN)
            give_back(History(history_folder(home)), session_for(home) or NoDesktop())


class _SessionEndsError(Exception):
    """The session ends."""


if __name__ == "__main__":
    main()
