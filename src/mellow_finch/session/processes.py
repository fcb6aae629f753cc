"""The person's own running programs, told by their executables."""

from __future__ import annotations

import os
import signal
import time
from collections.abc import Collection, Iterator
from contextlib import suppress
from pathlib import Path

_PROC = Path("/proc")
_ENDS_S = 3.0
_POLL_S = 0.05


def _processes() -> Iterator[tuple[int, Path]]:
    """Yield the number and folder of every process of the person's own but this one."""
    own = os.getuid()
    for folder in _PROC.glob("[0-9]*"):
        with suppress(OSError, ValueError):
            if folder.stat().st_uid == own and int(folder.name) != os.getpid():
                yield int(folder.name), folder


def program_of(folder: Path) -> str:
    """Return what a process runs: the name of its executable, or of its script where an interpreter runs one."""
    try:
        name = Path(os.readlink(folder / "exe").removesuffix(" (deleted)")).name  # noqa: PTH115 - text, not a path
    except OSError:
        return ""
    if name.startswith(("python", "perl", "bash", "sh", "dash")):
        with suppress(OSError):
            words = (folder / "cmdline").read_bytes().split(b"\0")
            script = next((w for w in words[1:] if w and not w.startswith(b"-")), b"")
            return Path(os.fsdecode(script)).name or name
    return name


def own_processes(programs: Collection[str]) -> dict[str, tuple[int, ...]]:
    """Return the numbers of the person's own processes of some executables, by executable, those that run."""
    found: dict[str, list[int]] = {}
    for pid, folder in _processes():
        name = program_of(folder)
        if name in programs:
            found.setdefault(name, []).append(pid)
    return {name: tuple(sorted(pids)) for name, pids in found.items()}


def end(pids: Collection[int]) -> bool:
    """Ask processes to end and wait a little; tell whether all did."""
    for pid in pids:
        with suppress(OSError):
            os.kill(pid, signal.SIGTERM)
    until = time.monotonic() + _ENDS_S
    while time.monotonic() < until:
        if not any(_alive(pid) for pid in pids):
            return True
        time.sleep(_POLL_S)
    return not any(_alive(pid) for pid in pids)


def _alive(pid: int) -> bool:
    try:
        return (_PROC / str(pid) / "stat").read_text().rpartition(")")[2].split()[0] not in ("Z", "X")
    except (OSError, IndexError):
        return False


def running_folders() -> set[Path]:
    """Return the executables of the person's own processes, each once."""
    found: set[Path] = set()
    for _, folder in _processes():
        with suppress(OSError):
            found.add(Path(os.readlink(folder / "exe").removesuffix(" (deleted)")))  # noqa: PTH115 - text, not a path
    return found


def runs_as(pid: int, word: str) -> bool:
    """Tell whether a process of the person's own was started with a word among its arguments."""
    folder = _PROC / str(pid)
    try:
        return folder.stat().st_uid == os.getuid() and word.encode() in (folder / "cmdline").read_bytes().split(b"\0")
    except OSError:
        return False
