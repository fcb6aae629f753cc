"""Starting with the session: a systemd user unit, or an autostart entry where there is no such manager."""

from __future__ import annotations

import os
import shutil
import signal
import sys
from contextlib import suppress
from pathlib import Path

from ..disk.facts import read_plain
from ..disk.own import base_folder, state_folder
from ..disk.write import save
from ..errors import FinchError
from ..itself import MODULES, launcher
from ..language import tr
from ..session.commands import ask, start
from ..session.processes import runs_as

UNIT = "mellow-finch-follow.service"
_ENTRY = "mellow-finch-follow.desktop"


def follow_folder() -> Path:
    """Return where the follower keeps its state and its log."""
    return state_folder() / "follow"


def command() -> list[str]:
    """Return the command that follows; where nothing is installed, the one that finds this very program again."""
    found = launcher() or shutil.which("mellow-finch")
    if found:
        return [found, "follow", "run"]
    own = f"PYTHONPATH={MODULES}"
    return ["/usr/bin/env", own, sys.executable, "-m", "mellow_finch.cli", "follow", "run"]


def _config() -> Path:
    return base_folder("XDG_CONFIG_HOME")


def unit_file() -> Path:
    """Return where the unit lies."""
    return _config() / "systemd" / "user" / UNIT


def entry_file() -> Path:
    """Return where the autostart entry lies."""
    return _config() / "autostart" / _ENTRY


def _quoted(words: list[str]) -> str:
    return " ".join(f'"{word}"' if " " in word else word for word in words)


def install(folder: Path, by_unit: bool) -> str:
    """Let the follower start with the session, and start it now; return how, in a sentence. Raises FileAccessError."""
    words = _quoted(command())
    if by_unit:
        text = (
            "[Unit]\nDescription=Mellow Finch follows the wallpaper and the time of day\n"
            "PartOf=graphical-session.target\n"
            f"\n[Service]\nExecStart={words}\nRestart=on-failure\n\n[Install]\nWantedBy=graphical-session.target\n"
        )
        _put(unit_file(), text)
        for step in (["daemon-reload"], ["enable", "--now", UNIT]):
            ask(["systemctl", "--user", *step])
        return tr("Following is on, as a unit of your session.")
    text = f"[Desktop Entry]\nType=Application\nName=Mellow Finch follows\nExec={words}\nNoDisplay=true\n"
    _put(entry_file(), text)
    if not running(folder):
        start(command())
    return tr("Following is on, and starts with your session.")


def _put(path: Path, text: str) -> None:
    path.parent.mkdir(parents=True, exist_ok=True)
    save(path, text.encode("utf-8"))


def remove(folder: Path) -> None:
    """End the follower, and take away what started it, without a trace."""
    if unit_file().exists():
        ask(["systemctl", "--user", "disable", "--now", UNIT])
        unit_file().unlink(missing_ok=True)
        ask(["systemctl", "--user", "daemon-reload"])
    entry_file().unlink(missing_ok=True)
    pid = running(folder)
    if pid:
        with suppress(ProcessLookupError):
            os.kill(pid, signal.SIGTERM)
    (folder / "pid").unlink(missing_ok=True)


def has_units() -> bool:
    """Tell whether a manager of user units runs."""
    return ask(["systemctl", "--user", "is-system-running"]).out.strip() in ("running", "degraded", "starting")


def note(folder: Path) -> None:
    """Write down which process follows."""
    folder.mkdir(parents=True, exist_ok=True)
    save(folder / "pid", str(os.getpid()).encode("ascii"), sync=False)


def nudge(folder: Path) -> None:
    """Let the follower look around now, as the rules have changed."""
    pid = running(folder)
    if pid:
        with suppress(ProcessLookupError):  # it has just ended
            os.kill(pid, signal.SIGUSR1)


def running(folder: Path) -> int:
    """Return the process that follows, 0 where none does."""
    try:
        pid = int(read_plain(folder / "pid", 40) or b"0")
    except (ValueError, FinchError):
        return 0
    return pid if pid and runs_as(pid, "follow") else 0
