"""One change of a home at a time: a lock that ends with the process that holds it, and says who that is."""

from __future__ import annotations

import fcntl
import os
import time
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path

from ..errors import WearError, file_errors
from ..language import tr

WAIT_S = 3.0
_POLL_S = 0.05


@contextmanager
def locked(path: Path, who: str, wait_s: float = WAIT_S) -> Iterator[None]:
    """Hold the lock at a path; raises WearError when another one holds it still after a while.

    who: what is said to others meanwhile, such as "The window".
    """
    with file_errors(path, "open"):
        flags = os.O_RDWR | os.O_CREAT | os.O_NOFOLLOW | os.O_CLOEXEC | os.O_NONBLOCK
        handle = os.open(path, flags, 0o600)
    try:
        until = time.monotonic() + wait_s
        while True:
            try:
                fcntl.flock(handle, fcntl.LOCK_EX | fcntl.LOCK_NB)
                break
            except OSError as error:
                if time.monotonic() > until:
                    words = tr("{words} is changing this home folder now.").format(
                        words=holder(path) or tr("Another Mellow Finch")
                    )
                    raise WearError(words, tr("Try again when it has finished.")) from error
                time.sleep(_POLL_S)
        try:
            os.ftruncate(handle, 0)
            os.pwrite(
                handle, tr("{who} (process {number})").format(who=who, number=os.getpid()).encode("utf-8", "replace"), 0
            )
        except OSError:
            pass  # on a full disk the lock holds all the same, without a name
        yield
    finally:
        os.close(handle)


def holder(path: Path) -> str:
    """Return who holds the lock at a path now, empty when nobody does."""
    try:
        handle = os.open(path, os.O_RDONLY | os.O_NOFOLLOW | os.O_CLOEXEC | os.O_NONBLOCK)
    except OSError:
        return ""
    try:
        try:
            fcntl.flock(handle, fcntl.LOCK_SH | fcntl.LOCK_NB)
        except OSError:
            return os.read(handle, 200).decode("utf-8", "replace").strip() or tr("Another Mellow Finch")
        return ""
    finally:
        os.close(handle)
