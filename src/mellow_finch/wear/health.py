"""What a program that misbehaves can be helped by: what runs here, what is installed, how the history stands, the log.

A report is plain text that can be sent: the home is written as "~", the person's and the machine's name as "…".
"""

from __future__ import annotations

import getpass
import os
import platform
import re
import shutil
import socket
import sys
from contextlib import suppress
from dataclasses import dataclass
from importlib import metadata
from pathlib import Path

from .. import __version__
from ..disk.facts import read_plain
from ..disk.log import log_tail
from ..errors import FinchError
from ..language import code
from .history import History

_LIBRARIES = ("PyQt6", "PyQt6-Qt6", "numpy", "pillow", "tinycss2", "cssselect2", "click", "tomlkit", "jeepney", "py7zr")
_ENVIRONMENT = (
    "XDG_CURRENT_DESKTOP",
    "XDG_SESSION_TYPE",
    "DESKTOP_SESSION",
    "QT_QPA_PLATFORMTHEME",
    "QT_STYLE_OVERRIDE",
    "GTK_THEME",
    "XDG_CONFIG_HOME",
    "XDG_DATA_HOME",
    "LANG",
    "LANGUAGE",
)


@dataclass(frozen=True, slots=True)
class HistorySummary:
    """How the history of a home stands: snapshots that are worn, undone, interrupted and damaged, and its bytes."""

    worn: int
    undone: int
    interrupted: int
    damaged: int
    size: int

    @property
    def good(self) -> bool:
        """Tell whether nothing waits for a person."""
        return not self.interrupted and not self.damaged


def standing_of(history: History) -> HistorySummary:
    """Return how a history stands; changes nothing."""
    found = history.snapshots()
    states = [s.status for s in found]
    return HistorySummary(
        states.count("worn"),
        states.count("undone"),
        sum(s in ("writing", "undoing") for s in states),
        len(history.broken()),
        _size(history.folder),
    )


def _size(folder: Path) -> int:
    total = 0
    for path in folder.rglob("*"):
        with suppress(OSError):
            total += path.lstat().st_size
    return total


def system_lines() -> list[str]:
    """Return what the program runs on, a line each."""
    out = [f"Mellow Finch {__version__}", f"Python {platform.python_version()}, {platform.machine()}", _system()]
    for name in _LIBRARIES:
        with suppress(metadata.PackageNotFoundError):
            out.append(f"{name} {metadata.version(name)}")
    out.append(f"language: {code()}")
    out += [f"{name}={os.environ[name]}" for name in _ENVIRONMENT if os.environ.get(name)]
    return out


def _system() -> str:
    try:
        told = (read_plain(Path("/etc/os-release")) or b"").decode("utf-8", "replace")
    except FinchError:
        return platform.platform()
    found = re.search(r'(?m)^PRETTY_NAME="?([^"\n]*)', told)
    return f"{found.group(1) if found else 'Linux'}, Linux {platform.release()}"


def room_on_disk(path: Path) -> int:
    """Return how many bytes are free on the disk of a folder that need not be there yet; 0 where nobody can tell."""
    there = next((p for p in (path, *path.parents) if p.exists()), Path("/"))
    with suppress(OSError):
        return shutil.disk_usage(there).free
    return 0


def without_private_names(text: str, home: Path | None = None) -> str:
    """Return a text without private paths: homes as "~", other people's homes, the person and the machine as "…"."""
    homes = {str(home)} if home is not None else set()
    with suppress(RuntimeError):
        homes.add(str(Path.home()))
    for folder in sorted((h for h in homes if len(h) > 1), key=len, reverse=True):
        text = text.replace(folder, "~")
    text = re.sub(r"/(home|Users)/[^/\s\"'”:]+", "~", text)
    names = []
    with suppress(Exception):
        names.append(getpass.getuser())
    with suppress(OSError):
        names.append(socket.gethostname())
    for name in names:
        if len(name) > 2 and name not in ("root", "localhost"):
            text = re.sub(rf"(?<!\w){re.escape(name)}(?!\w)", "…", text)
    return text


def fault_report(home: Path, history: History, more: list[str]) -> str:
    """Return all of it as one text that can be sent. more: what the desktop and the components say."""
    standing = standing_of(history)
    parts = {
        "System": system_lines(),
        "Desktop": more,
        "History": [
            f"worn {standing.worn}, taken off {standing.undone}, interrupted {standing.interrupted}, "
            f"damaged {standing.damaged}, {standing.size / 1e6:.1f} MB",
            *(f"{p}: {room_on_disk(p) / 1e9:.1f} GB free" for p in (home, history.folder)),
        ],
        "Log": log_tail() or ["empty"],
        "Command": [" ".join(Path(word).name for word in sys.argv)],
    }
    text = "\n\n".join(f"{title}\n" + "\n".join(f"  {line}" for line in lines) for title, lines in parts.items())
    return without_private_names(text, home) + "\n"
