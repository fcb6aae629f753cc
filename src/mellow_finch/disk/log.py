"""The log: what went wrong in the window, in a file that stays small; for fault reports, and for nobody else."""

from __future__ import annotations

import logging
from logging.handlers import RotatingFileHandler
from pathlib import Path

from .facts import read_plain
from .own import state_folder

NAME = "mellow_finch"
_MOST_BYTES = 200_000
_KEPT = 2  # older files beside the one that is written


def log_file() -> Path:
    """Return where the log lies."""
    return state_folder() / "log.txt"


def start_log(path: Path | None = None) -> None:
    """Write what is logged from now on into the file, turned over when it grows.

    A disk that refuses loses only that.
    """
    logger = logging.getLogger(NAME)
    if any(isinstance(known, RotatingFileHandler) for known in logger.handlers):
        return
    path = path or log_file()
    try:
        path.parent.mkdir(mode=0o700, parents=True, exist_ok=True)
        handler = RotatingFileHandler(path, maxBytes=_MOST_BYTES, backupCount=_KEPT, encoding="utf-8", delay=True)
    except OSError:
        return
    handler.setFormatter(logging.Formatter("%(asctime)s %(levelname)s %(message)s"))
    logger.addHandler(handler)
    logger.setLevel(logging.INFO)
    logger.propagate = False


def log_tail(lines: int = 200, path: Path | None = None) -> list[str]:
    """Return the last lines of the log; none where there is no log."""
    try:
        text = (read_plain(path or log_file()) or b"").decode("utf-8", "replace")
    except Exception:  # a log that cannot be read must not keep a report from being made
        return []
    return text.splitlines()[-lines:]
