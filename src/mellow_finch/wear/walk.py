"""Taking the rows of a journal forward and back, each step repeatable, whatever happened in between."""

from __future__ import annotations

import os
import time
from collections.abc import Callable, Collection, Sequence
from pathlib import Path
from typing import Literal

from ..components.catalogue import COMPONENT_BY_ID
from ..disk.facts import Facts, give_facts, no_room
from ..disk.write import missing_folders, stays_same_file
from ..errors import FileAccessError, WearError
from ..language import tr
from ..progress import Progress
from ..session.base import DesktopSession, NotifyResult, ReloadMethod
from ..session.desktop import desktops
from .history import History
from .journal import FileRow, RestRow, SettingRow, Snapshot, StoreRow, TerminalRow, WayRow
from .targets import look_there, read_there

_REACTS_S = 0.5  # in which a program that watches a file may have changed it once more
Standing = Literal["old", "new", "torn", "edited"]


def known_ways() -> frozenset[ReloadMethod]:
    """Return every way that a component or a desktop names: what a journal holds beside these is never run."""
    return frozenset(
        (*(w for c in COMPONENT_BY_ID.values() for w in c.follow), *(w for d in desktops() for _, w in d.tell))
    )


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

    def __init__(
        self,
        snapshot: Snapshot,
        history: History,
        session: DesktopSession,
        progress: Progress,
        interrupted: bool = True,
    ) -> None:
        """Walk a snapshot; interrupted: whether an earlier walk may have got only part of the way."""
        self._snapshot, self._history, self._session, self._progress = snapshot, history, session, progress
        self._interrupted = interrupted
        self._disk = history.disk
        self._done: set[str] = set()  # files that are put back
        self.left: list[str] = []
        self.told: dict[str, NotifyResult] = {}  # what came of telling each component's program

    def forward(self, skip: Collection[str] = (), overwrite: Collection[str] = ()) -> None:
        """Put every row on; files to skip are left as they are, edits of those to overwrite are given up.

        Raises FileAccessError where the disk refuses, WearError where a file changes at this very moment.
        """
        files = self._snapshot.files
        places: dict[Path, None] = {}
        for i, row in enumerate(files):
            self._progress.report(i, len(files), row.path)
            if row.path in skip:
                self.left.append(tr("“{path}” stays as it is.").format(path=row.path))
                self._disk.remove(Path(row.target).with_name(row.staged))
            else:
                self._put(row, overwrite)
                places[Path(row.target).parent] = None
        for folder in places:
            self._disk.sync(folder)
        self._set(self._snapshot.settings)
        for other in self._snapshot.rows:
            if isinstance(other, TerminalRow):
                self._session.broadcast(other.after)
        self._tell()
        stores = self._snapshot.stores
        if stores:
            self._history.note_stores(self._snapshot, {s.target: look_there(Path(s.target)).digest for s in stores})

    def _tell(self) -> None:
        """Tell running programs of their files, in either direction."""
        known = known_ways()
        for row in self._snapshot.rows:
            if isinstance(row, WayRow) and row.way in known:
                self.told[row.component] = self._session.tell(row.way)

    def _put(self, row: FileRow, overwrite: Collection[str]) -> None:
        target = Path(row.target)
        staged = target.with_name(row.staged)
        now = standing(row, self._snapshot, self._history)
        if now == "edited" and row.path not in overwrite:
            raise WearError(
                tr("“{path}” is changing right now, so nothing was written.").format(path=row.path), tr("Try again.")
            )
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

    def _set(self, rows: Sequence[SettingRow]) -> None:
        """Set settings in order, then once more those that the desktop moved while others were set."""
        chosen = self._ours(rows, "meanwhile")
        for _ in range(2):
            for row in chosen:
                now = self._session.read(row.setting)
                if now.state != "absent" and not now.has(row.setting.value):
                    self._session.write(row.setting)

    def _ours(self, rows: Sequence[SettingRow], when: str) -> list[SettingRow]:
        """Return the settings that are as they were or as the look has them; what a person changed is said and left.

        Within an interrupted change another value counts as the desktop's doing once a setting of ours has moved:
        desktops rewrite settings when others change.
        """
        found: list[SettingRow] = []
        moved = False
        for row in rows:
            now = self._session.read(row.old)
            if row.before.state == "absent" or now.state == "absent":
                continue
            new = row.after is None or now.has(row.after)
            if now.is_as(row.before) or new or (moved and self._interrupted):
                found.append(row)
            else:
                self.left.append(
                    tr("“{words}” was changed {when} and stays as it is.").format(words=row.title or row.key, when=when)
                )
            moved = moved or (new and not now.is_as(row.before))
        return found

    def back(self, skip: Collection[str] = (), overwrite: Collection[str] = ()) -> None:
        """Take every row back, newest first; files to skip, and edited ones not to overwrite, are left as they are.

        One that cannot be put back is said in `left`, and the others go on; where the disk is full, what had no room
        is tried once more after the new files are gone.
        """
        rows = self._snapshot.rows
        for row in reversed(rows):
            if isinstance(row, TerminalRow):
                self._session.broadcast(row.before)
        left = self._history.stores_left(self._snapshot)
        stores, begun = self._snapshot.stores, self._history.unsetting(self._snapshot) if self._interrupted else ()
        ours = {s.target for s in stores if left.get(s.target) == look_there(Path(s.target)).digest}
        if ours:
            self._history.note_unsetting(self._snapshot, ours)
        self._unset(self._snapshot.settings)
        for store in stores:  # one that was being set back says what it said before by now, in other words perhaps
            if store.target in ours or (store.target in begun and self._is_as_before(store)):
                self._put_back(store)
        self._back_files(skip, overwrite)
        for folder in reversed(self._snapshot.folders):
            self._disk.remove_folder(Path(folder.path))
        self._tell()
        self._once_more(skip, overwrite)

    def _is_as_before(self, store: StoreRow) -> bool:
        """Tell whether every setting of ours in a store is what it was before the look."""
        rows = [r for r in self._snapshot.settings if (r.store, r.schema) == (store.store, store.schema)]
        return all(self._session.read(row.old).is_as(row.before) for row in rows if row.before.state != "absent")

    def _put_back(self, store: StoreRow) -> None:
        """Give a file of settings that nobody but us has changed its old bytes back, and let who reads it know."""
        target, data = Path(store.target), self._history.blob(self._snapshot, store)
        if data is None or look_there(target).digest == store.before:
            return
        try:
            if look_there(target).kind == "file" and stays_same_file(target.stat()):
                self._disk.overwrite(target, data)
            else:
                self._disk.write(target, data, store.facts)
        except FileAccessError as error:
            self.left.append(str(error))
            return
        self._session.reread(store.store, store.schema)

    def _back_files(self, skip: Collection[str], overwrite: Collection[str]) -> None:
        """Take the files back: first those that were there before, which choose what others hold; then new ones go.

        A desktop that is still told to show a theme takes another one when its folder goes, so it is given time to see
        that it is to show the old one.
        """
        files = self._snapshot.files[::-1]
        order = [*(f for f in files if f.before), *(f for f in files if not f.before)]
        rest = sum(row.seconds for row in self._snapshot.rows if isinstance(row, RestRow))
        again: list[FileRow] = []
        for i, file in enumerate(order):
            self._progress.report(i, len(files), file.path)
            if rest and not file.before:
                time.sleep(rest)
                rest = 0.0
            if file.path in skip:
                self.left.append(tr("“{path}” stays as it is.").format(path=file.path))
                self._disk.remove(Path(file.target).with_name(file.staged))
                continue
            if self._try(file, overwrite, again.append):
                self._done.add(file.path)
        for file in again:
            if self._try(file, overwrite, None):
                self._done.add(file.path)

    def _once_more(self, skip: Collection[str], overwrite: Collection[str]) -> None:
        """Put back once more what a desktop has changed since we put it back, a moment ago.

        Only for a desktop that is known to do so: elsewhere such a change may be the person's.
        """
        if not any(isinstance(row, RestRow) for row in self._snapshot.rows):
            return
        time.sleep(_REACTS_S)
        moved = [f for f in self._snapshot.files if f.path in self._done and f.path not in skip]
        moved = [f for f in moved if standing(f, self._snapshot, self._history) != "old"]
        for file in moved:
            self._try(file, {*overwrite, file.path}, None)

    def _try(
        self, row: FileRow, overwrite: Collection[str], later: Callable[[FileRow], None] | None
    ) -> bool:  # fmt: skip
        """Put one file back; return whether it is as it was."""
        try:
            return self._restore(row, overwrite)
        except FileAccessError as error:
            if later is not None and no_room(error):
                later(row)
            else:
                self.left.append(str(error))
            return False

    def _restore(self, row: FileRow, overwrite: Collection[str]) -> bool:
        target = Path(row.target)
        if row.staged:
            self._disk.remove(target.with_name(row.staged))
        now = standing(row, self._snapshot, self._history)
        if now == "old":
            return True
        if now == "edited" and row.path not in overwrite:
            self.left.append(tr("“{path}” was changed since and stays as it is.").format(path=row.path))
            return False
        if not row.before:
            self._disk.remove(target)
            return True
        data = self._history.blob(self._snapshot, row)
        if data is None:
            raise FileAccessError(tr("The backup of “{path}” is damaged or missing.").format(path=row.path), target)
        for folder in missing_folders(target):
            self._disk.make_folder(folder)
        if row.link:
            self._disk.link(target, os.fsdecode(data), row.staged)
        elif row.in_place and look_there(target).kind == "file":
            self._overwrite(row, data)
        else:
            self._replace(row, data)
        return True

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

    def _unset(self, rows: Sequence[SettingRow]) -> None:
        """Put settings back, the last first, then once more those that the desktop moved meanwhile."""
        chosen = self._ours(rows, "since")
        for _ in range(2):
            for row in reversed(chosen):
                if self._session.read(row.old) == row.before:
                    continue
                if row.before.state == "set":
                    self._session.write(row.old)
                else:
                    self._session.reset(row.old, row.before.kind)
