"""Taking the rows of a journal forward and back, each step repeatable, whatever happened in between."""

from __future__ import annotations

import os
from collections.abc import Callable, Collection
from pathlib import Path
from typing import Literal

from ..disk.facts import Facts, give_facts, no_room
from ..disk.write import missing_folders
from ..errors import FileAccessError, WearError
from ..progress import Progress
from ..session.base import Reading, Session, Setting
from .history import History
from .journal import FileRow, SettingRow, Snapshot, TerminalRow
from .targets import look_there, read_there

Standing = Literal["old", "new", "torn", "edited"]


def standing(row: FileRow, snapshot: Snapshot, history: History) -> Standing:
    """Return whose a file is now: as it was before, as the look left it, torn by us, or edited by the person."""
    if row.in_place and history.torn(snapshot, row):
        return "torn"
    there = look_there(Path(row.target))
    if there.kind == "file" and there.digest == row.after:
        return "new"
    before = ("link" if row.link else "file", row.before) if row.before else ("", "")
    return "old" if (there.kind, there.digest) == before else "edited"


def can_go_back(row: FileRow, snapshot: Snapshot, history: History) -> bool:
    """Tell whether the old bytes of a file are there, whole."""
    return not row.before or history.blob(snapshot, row) is not None


def can_go_on(row: FileRow) -> bool:
    """Tell whether the new bytes of a file wait beside it, whole."""
    place = Path(row.target).with_name(row.staged)
    there = look_there(place)
    return bool(row.staged) and there.kind == "file" and there.digest == row.after


class Walker:
    """Takes one snapshot's rows in either direction, collecting a sentence for each that was left as it is."""

    def __init__(self, snapshot: Snapshot, history: History, session: Session, progress: Progress) -> None:
        self._snapshot, self._history, self._session, self._progress = snapshot, history, session, progress
        self._disk = history.disk
        self.left: list[str] = []

    def forward(self, skip: Collection[str] = (), overwrite: Collection[str] = ()) -> None:
        """Put every row on; files to skip are left as they are, edits of those to overwrite are given up.

        Raises FileAccessError where the disk refuses, WearError where a file changes at this very moment.
        """
        files = self._snapshot.files
        places: dict[Path, None] = {}
        for i, row in enumerate(files):
            self._progress.report(i, len(files), row.path)
            if row.path in skip:
                self.left.append(f"“{row.path}” stays as it is.")
                self._disk.remove(Path(row.target).with_name(row.staged))
            else:
                self._put(row, overwrite)
                places[Path(row.target).parent] = None
        for folder in places:
            self._disk.sync(folder)
        for other in self._snapshot.rows:
            if isinstance(other, SettingRow):
                self._set(other)
            elif isinstance(other, TerminalRow):
                self._session.broadcast(other.after)

    def _put(self, row: FileRow, overwrite: Collection[str]) -> None:
        target = Path(row.target)
        staged = target.with_name(row.staged)
        now = standing(row, self._snapshot, self._history)
        if now == "edited" and row.path not in overwrite:
            raise WearError(f"“{row.path}” changes just now, so nothing was written.", "Try again.")
        if now == "new":
            self._disk.remove(staged)
        elif row.in_place:
            self._overwrite(row, read_there(staged)[1])
            self._disk.remove(staged)
        else:
            self._disk.swap(row.staged, target, sync=False)

    def _overwrite(self, row: FileRow, data: bytes) -> None:
        self._history.begin_overwriting(self._snapshot, row)
        self._disk.overwrite(Path(row.target), data)
        self._history.end_overwriting(self._snapshot, row)

    def _set(self, row: SettingRow) -> None:
        setting = Setting(row.schema, row.key, row.after or "")
        now = self._session.read(setting)
        if now == row.before and now.state != "absent":
            self._session.write(setting)
        elif now.state != "absent" and now != Reading("set", setting.value):
            self.left.append(f"“{row.key}” was changed meanwhile, and stays as it is.")

    def back(self, skip: Collection[str] = (), overwrite: Collection[str] = ()) -> None:
        """Take every row back, newest first; files to skip, and edited ones not to overwrite, are left as they are.

        One that cannot be put back is said in `left`, and the others go on; where the disk is full, what had no room
        is tried once more after the new files are gone.
        """
        rows = self._snapshot.rows
        again: list[FileRow] = []
        for row in reversed(rows):
            if isinstance(row, TerminalRow):
                self._session.broadcast(row.before)
            elif isinstance(row, SettingRow):
                self._reset(row)
        files = self._snapshot.files[::-1]
        for i, file in enumerate(files):
            self._progress.report(i, len(files), file.path)
            if file.path in skip:
                self.left.append(f"“{file.path}” stays as it is.")
                self._disk.remove(Path(file.target).with_name(file.staged))
                continue
            self._try(file, overwrite, again.append)
        for file in again:
            self._try(file, overwrite, None)
        for folder in reversed(self._snapshot.folders):
            self._disk.remove_folder(Path(folder.path))

    def _try(
        self, row: FileRow, overwrite: Collection[str], later: Callable[[FileRow], None] | None
    ) -> None:  # fmt: skip
        try:
            self._restore(row, overwrite)
        except FileAccessError as error:
            if later is not None and no_room(error):
                later(row)
            else:
                self.left.append(str(error))

    def _restore(self, row: FileRow, overwrite: Collection[str]) -> None:
        target = Path(row.target)
        if row.staged:
            self._disk.remove(target.with_name(row.staged))
        now = standing(row, self._snapshot, self._history)
        if now == "old":
            return
        if now == "edited" and row.path not in overwrite:
            self.left.append(f"“{row.path}” changed since, and stays as it is.")
            return
        if not row.before:
            self._disk.remove(target)
            return
        data = self._history.blob(self._snapshot, row)
        if data is None:
            raise FileAccessError(f"The kept bytes of “{row.path}” are damaged or missing.", target)
        for folder in missing_folders(target):
            self._disk.make_folder(folder)
        if row.link:
            self._disk.link(target, os.fsdecode(data), row.staged)
        elif row.in_place and look_there(target).kind == "file":
            self._overwrite(row, data)
        else:
            self._replace(row, data)

    def _replace(self, row: FileRow, data: bytes) -> None:
        target, facts = Path(row.target), row.facts or Facts(0o644)
        try:
            self._disk.write(target, data, facts, row.staged)
        except FileAccessError as error:
            blob = self._history.blob_path(self._snapshot, row)
            if not no_room(error) or blob.stat().st_dev != target.parent.stat().st_dev:
                raise
            handle = os.open(blob, os.O_RDONLY | os.O_CLOEXEC)
            try:
                give_facts(handle, facts)
            finally:
                os.close(handle)
            self._disk.move(blob, target)

    def _reset(self, row: SettingRow) -> None:
        setting = Setting(row.schema, row.key, row.before.value)
        now = self._session.read(setting)
        if now == row.before or row.before.state == "absent":
            return
        if row.after is not None and now != Reading("set", row.after):
            if now.state != "absent":
                self.left.append(f"“{row.key}” was changed since, and stays as it is.")
        elif row.before.state == "set":
            self._session.write(setting)
        else:
            self._session.reset(setting)
