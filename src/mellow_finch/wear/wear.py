"""Putting a look on a home and taking it off again, the exact old bytes back."""

from __future__ import annotations

import stat
from collections.abc import Iterable
from dataclasses import dataclass
from datetime import datetime
from pathlib import Path
from typing import Literal

from ..components.catalogue import COMPONENT_BY_ID
from ..components.model import OutFile, moved_path
from ..errors import WearError, file_errors
from ..look.dressed import Dressed
from ..progress import Progress, Silent
from ..session.base import Session, Setting
from ..session.xdg import moved_folders
from .disk import missing_folders
from .history import Entry, History, Snapshot, digest


@dataclass(frozen=True, slots=True)
class Write:
    """One file that will be written: action tells whether it is there already."""

    path: str
    target: Path
    component: str
    action: Literal["create", "change"]
    data: bytes


@dataclass(frozen=True, slots=True)
class Plan:
    """What putting a look on will do, in order; same are files that need no change."""

    look: str
    home: Path
    writes: tuple[Write, ...]
    restart: tuple[str, ...]
    settings: tuple[Setting, ...]
    same: int
    sequences: str = ""


def make_plan(dressed: Dressed, home: Path) -> Plan:
    """Return what would be written where. Writes nothing. Raises FileAccessError when a file cannot be read."""
    writes: list[Write] = []
    same = 0
    for component, files in dressed.files.items():
        for file in files:
            target, action = action_for(home, file)
            if action is None:
                same += 1
            else:
                writes.append(Write(file.path, target, component, action, file.data))
    touched = dict.fromkeys(w.component for w in writes)
    restart = tuple(f"{COMPONENT_BY_ID[c].title}: {COMPONENT_BY_ID[c].restart}" for c in touched)
    sequences = next(
        (f.data.decode("ascii") for f in dressed.files.get("terminal") or () if f.path.endswith(".osc")), ""
    )
    look = dressed.look
    # Light or dark first: desktops rewrite other settings when it changes.
    settings = (
        Setting("org.gnome.desktop.interface", "color-scheme", f"prefer-{look.tone}"),
        Setting("org.gnome.desktop.interface", "gtk-theme", look.folder),
    )
    return Plan(look.name, home, tuple(writes), restart, settings, same, sequences)


def action_for(home: Path, file: OutFile) -> tuple[Path, Literal["create", "change"] | None]:
    """Return where a file really goes, and whether that creates or changes one, None where it is right already.

    Raises WearError for a place outside of the home, FileAccessError when what is there cannot be read.
    """
    target = _target(home, file)
    old = _bytes(target)
    return target, None if old == file.data else "create" if old is None else "change"


def _target(home: Path, file: OutFile) -> Path:
    path = home / moved_path(file.path, moved_folders(home))
    if ".." in Path(file.path).parts or Path(file.path).is_absolute():
        raise WearError(f"“{file.path}” lies outside the home folder, so nothing was written.")
    with file_errors(path, "follow"):
        target = path.resolve()
        if target.is_dir():
            raise WearError(f"“{path}” is a folder where a file is to be written.", "Move it away, then try again.")
    return target


def _bytes(path: Path) -> bytes | None:
    with file_errors(path, "read"):
        return path.read_bytes() if path.exists() else None


def put_on(plan: Plan, history: History, session: Session, progress: Progress | None = None) -> Snapshot | None:
    """Put a planned look on: snapshot first, then every file atomically, then the session's settings.

    Returns the snapshot, None when nothing had to change. Raises WearError when an interrupted change waits, or when a
    file has changed since the plan was made; then nothing is written.
    """
    progress = progress or Silent()
    if history.pending() is not None:
        raise WearError("An earlier change was interrupted.", "Finish or undo it first.")
    if not plan.writes:
        return None
    entries: list[Entry] = []
    blobs: dict[str, bytes] = {}
    folders: dict[str, None] = {}
    for i, write in enumerate(plan.writes):
        old = _bytes(write.target)
        if (old is None) != (write.action == "create"):
            raise WearError(f"“{write.path}” has changed since the list was made.", "Look at the list again.")
        mode = stat.S_IMODE(write.target.stat().st_mode) if old is not None else 0o644
        if old is not None:
            blobs[f"old-{i}"] = old
        folders |= dict.fromkeys(str(f) for f in missing_folders(write.target))
        entries.append(
            Entry(
                write.path,
                str(write.target),
                write.component,
                digest(old) if old is not None else "",
                digest(write.data),
                mode,
                f"old-{i}",
            )
        )
    settings = tuple((s.schema, s.key, session.read(s)) for s in plan.settings)
    now = datetime.now()
    number = len(list(history.folder.iterdir())) if history.folder.is_dir() else 0
    snapshot = Snapshot(
        f"{number:05d}-{now:%Y%m%d-%H%M%S}",
        plan.look,
        now.isoformat(timespec="seconds"),
        "writing",
        tuple(entries),
        tuple(folders),
        settings,
    )
    history.add(snapshot, blobs, {f"new-{i}": w.data for i, w in enumerate(plan.writes)})
    snapshot = _write_all(snapshot, history, progress)
    for setting in plan.settings:
        session.write(setting)
    if plan.sequences:
        session.broadcast(plan.sequences)
    return snapshot


def _temp(snapshot: Snapshot, entry: Entry) -> str:
    return f".{Path(entry.target).name}.finch-{snapshot.id}"


def _write_all(snapshot: Snapshot, history: History, progress: Progress) -> Snapshot:
    disk = history.disk
    for folder in snapshot.folders:
        disk.make_folder(Path(folder))
    for i, entry in enumerate(snapshot.entries):
        progress.report(i, len(snapshot.entries), entry.path)
        data = history.blob(snapshot, f"new-{i}")
        disk.write(Path(entry.target), data, entry.mode, _temp(snapshot, entry))
    return history.mark(snapshot, "worn")


def finish(snapshot: Snapshot, history: History, progress: Progress | None = None) -> Snapshot:
    """Finish a putting on that was interrupted."""
    if snapshot.status != "writing":
        raise WearError("There is nothing to finish.")
    return _write_all(snapshot, history, progress or Silent())


def edited_since(snapshot: Snapshot) -> tuple[str, ...]:
    """Return the files that are neither as the look left them nor as they were before: the person's own edits."""
    found = []
    for entry in snapshot.entries:
        data = _bytes(Path(entry.target))
        now = digest(data) if data is not None else ""
        if now not in (entry.after, entry.before):
            found.append(entry.path)
    return tuple(found)


def take_off(snapshot: Snapshot, history: History, session: Session, overwrite: Iterable[str] = ()) -> Snapshot:
    """Undo a snapshot: every file gets its exact old bytes and mode back, what was not there goes.

    overwrite: paths whose edits since may be lost. Raises WearError, changing nothing, when other files were edited.
    """
    edited = [p for p in edited_since(snapshot) if p not in set(overwrite)]
    if edited:
        raise WearError(
            f"{_listed(edited)} changed since the look was put on, so nothing was undone.",
            "Allow it to be overwritten, or keep it.",
        )
    snapshot = history.mark(snapshot, "undoing")
    disk = history.disk
    for entry in reversed(snapshot.entries):
        target = Path(entry.target)
        disk.remove(target.with_name(_temp(snapshot, entry)))
        if entry.before:
            if digest(_bytes(target) or b"") != entry.before or stat.S_IMODE(target.stat().st_mode) != entry.mode:
                disk.write(target, history.blob(snapshot, entry.blob), entry.mode, _temp(snapshot, entry))
        else:
            disk.remove(target)
    for folder in reversed(snapshot.folders):
        disk.remove_folder(Path(folder))
    for schema, key, value in snapshot.settings:
        if value:
            session.write(Setting(schema, key, value))
    return history.mark(snapshot, "undone")


def _listed(paths: list[str]) -> str:
    names = ", ".join(f"“{p}”" for p in paths[:3])
    return names if len(paths) <= 3 else f"{names} and {len(paths) - 3} more"


def undo_last(history: History, session: Session, overwrite: Iterable[str] = ()) -> Snapshot:
    """Undo the newest look that is worn. Raises WearError when none is."""
    snapshot = history.last_worn()
    if snapshot is None:
        raise WearError("No look is worn here, so there is nothing to undo.")
    return take_off(snapshot, history, session, overwrite)


def go_back_to(snapshot_id: str, history: History, session: Session, overwrite: Iterable[str] = ()) -> int:
    """Undo every look that was put on since, and including, one snapshot; return how many were undone."""
    ids = [s.id for s in history.snapshots() if s.status in ("worn", "writing", "undoing")]
    if snapshot_id not in ids:
        raise WearError("That look is not worn any more.")
    count = 0
    while True:
        done = undo_last(history, session, overwrite)
        count += 1
        if done.id == snapshot_id:
            return count
