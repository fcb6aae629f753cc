"""The person's own running programs, told by their executables."""

from __future__ import annotations

import os
from collections.abc import Collection, Iterator
from contextlib import suppress
from pathlib import Path

import psutil

_ENDS_S = 3.0
_INTERPRETERS = ("python", "perl", "bash", "sh", "dash")
_BUS = "DBUS_SESSION_BUS_ADDRESS"
_DELETED = " (deleted)"  # what the kernel puts behind an executable that was replaced since


def _own() -> Iterator[psutil.Process]:
    """Yield every process of the person's own but this one."""
    for process in psutil.process_iter():
        with suppress(psutil.Error):
            if process.uids().real == os.getuid() and process.pid != os.getpid():
                yield process


def program_of(process: psutil.Process) -> str:
    """Return what a process runs: the name of its executable, or of its script where an interpreter runs one."""
    try:
        name = Path(process.exe().removesuffix(_DELETED)).name
        if name.startswith(_INTERPRETERS):
            script = next((word for word in process.cmdline()[1:] if word and not word.startswith("-")), "")
            return Path(script).name or name
    except psutil.Error:
        return ""
    return name


def own_processes(programs: Collection[str]) -> dict[str, tuple[int, ...]]:
    """Return the numbers of this session's own processes of some executables, by executable, those that run."""
    found: dict[str, list[int]] = {}
    for process in _own():
        name = program_of(process)
        if name in programs and not _is_elsewhere(process):
            found.setdefault(name, []).append(process.pid)
    return {name: tuple(sorted(pids)) for name, pids in found.items()}


def _is_elsewhere(process: psutil.Process) -> bool:
    """Tell whether a process is of another session of the person: on another bus, and on none of this one's screens."""
    try:
        theirs = process.environ()
    except psutil.Error:
        return False
    bus, own = ((env.get(_BUS) or "").partition(",")[0] for env in (theirs, os.environ))
    if not bus or not own or bus == own:
        return False
    screens = (("DISPLAY",), ("WAYLAND_DISPLAY", "XDG_RUNTIME_DIR"))
    return not any(
        all(theirs.get(name) and theirs.get(name) == os.environ.get(name) for name in names) for names in screens
    )


def end(pids: Collection[int]) -> bool:
    """Ask processes to end and wait a little; tell whether all did."""
    found = []
    for pid in pids:
        with suppress(psutil.Error):
            process = psutil.Process(pid)
            process.terminate()
            found.append(process)
    _, alive = psutil.wait_procs(found, timeout=_ENDS_S)
    return not any(_runs(process) for process in alive)


def _runs(process: psutil.Process) -> bool:
    with suppress(psutil.Error):
        return bool(process.is_running() and process.status() not in (psutil.STATUS_ZOMBIE, psutil.STATUS_DEAD))
    return False


def running_folders() -> set[Path]:
    """Return the executables of the person's own processes, each once."""
    found: set[Path] = set()
    for process in _own():
        with suppress(psutil.Error):
            if executable := process.exe().removesuffix(_DELETED):
                found.add(Path(executable))
    return found


def runs_as(pid: int, word: str) -> bool:
    """Tell whether a process of the person's own was started with a word among its arguments."""
    try:
        process = psutil.Process(pid)
        return bool(process.uids().real == os.getuid() and word in process.cmdline())
    except (psutil.Error, ValueError):
        return False
