"""Applying a look a home, finishing what was interrupted, and undoing it, the exact old bytes back.

A applying is journalled: the old bytes and the journal reach the disk first, then every new file waits whole under a
temporary name beside its place (so that room for all of them is taken), then they change places one by one, then
settings and open terminals follow. Until the files change places nothing has happened; from there on an interruption
can be finished or undone.
"""

from __future__ import annotations

import secrets
from collections.abc import Collection, Iterable, Sequence
from dataclasses import replace
from datetime import datetime
from pathlib import Path
from typing import NamedTuple

from ..disk.facts import no_room
from ..disk.write import missing_folders
from ..errors import Cancelled, FileAccessError, FinchError, WearError
from ..language import parted, plural, sentences, tr
from ..progress import Progress, Silent
from ..session.base import DesktopSession, NotifyResult
from ..session.terminals import RESET
from .after import changing
from .applied import KEPT
from .edits import edits_lost
from .history import History
from .journal import IN_FORCE, FileRow, FolderRow, RestRow, Row, SettingRow, Snapshot, StoreRow, TerminalRow, WayRow
from .plan import Plan, stale_paths
from .room import check_room
from .targets import NOTHING, check_home, digest, look_there, read_there
from .walk import Walker, can_go_back, can_go_on, standing


class Done(NamedTuple):
    """What came of a change: the snapshot, and a sentence for each thing that was left as it is."""

    snapshot: Snapshot
    left: tuple[str, ...] = ()


def put_on(
    plan: Plan,
    history: History,
    session: DesktopSession,
    progress: Progress | None = None,
    heard: dict[str, NotifyResult] | None = None,
    overwrite: Collection[str] = (),
    leave: Collection[str] = (),
) -> Snapshot | None:
    """Put a planned look on; None comes back when nothing had to change.

    heard: is given what came of telling running programs, by component; overwrite: files whose edits since an earlier
    look may be lost; leave: files that stay as they are.
    When it cannot be done or progress stops it, everything is as it was. Raises WearError when an interrupted change
    waits, when files have changed since the plan was made, when edits would be lost that were not decided about, or
    when another one changes the home.
    """
    progress = progress or Silent()
    check_home(plan.home)
    with changing(history):
        if history.pending() is not None:
            raise WearError(tr("An earlier change was interrupted."), tr("“finish” completes it, “undo” undoes it."))
        stale = stale_paths(plan, history)
        if stale:
            raise WearError(
                plural(
                    "{files} has changed since the list was made, so nothing was written.",
                    "{files} have changed since the list was made, so nothing was written.",
                    len(stale),
                    files=_listed(stale),
                ),
                tr("Check the list again."),
            )
        plan = replace(plan, writes=tuple(w for w in plan.writes if w.path not in leave))
        lost = [found for found in edits_lost(plan, history) if found.path not in overwrite]
        if lost:
            raise WearError(
                tr("This look would overwrite your own edits in {files}, so nothing was written.").format(
                    files=_listed([found.words() for found in lost], quoted=True)
                ),
                sentences(_OVERWRITES, _LEAVES),
                tuple(found.path for found in lost),
            )
        rows = _rows(plan, history, session)
        if not any(isinstance(row, FileRow | SettingRow) for row in rows):
            return None
        now = datetime.now()
        snapshot = Snapshot(
            history.new_id(f"{now:%Y%m%d-%H%M%S}"),
            plan.look,
            now.isoformat(timespec="seconds"),
            rows,
            secrets.token_hex(4),
            plan.made_of,
        )
        snapshot = _prepared(snapshot, plan, history, progress)
        return _placed(snapshot, history, session, progress, heard)


def _rows(plan: Plan, history: History, session: DesktopSession) -> tuple[Row, ...]:
    """Return the rows of a plan; staged names are given when the files are staged."""
    folders = dict.fromkeys(str(f) for w in plan.writes for f in missing_folders(w.target.place))
    rows: list[Row] = [FolderRow(f) for f in folders]
    for i, write in enumerate(plan.writes):
        there = write.target.there
        rows.append(
            FileRow(
                path=write.path,
                target=str(write.target.place),
                components=write.components,
                before=there.digest,
                after=digest(write.data),
                link=there.kind == "link",
                facts=there.facts,
                blob=f"old-{i}" if there.kind else "",
                in_place=write.target.in_place,
                size=there.size,
                fresh=len(write.data),
            )
        )
    settings = settings_to_change(plan, session)
    rows += settings
    rows += _stores_of(settings, session)
    if plan.rest_s:
        rows.append(RestRow(plan.rest_s))
    rows += [WayRow(component, way) for component, way in plan.ways]
    if plan.sequences:
        rows.append(TerminalRow(_terminals_now(history), plan.sequences))
    return tuple(rows)


def _stores_of(settings: Iterable[SettingRow], session: DesktopSession) -> list[StoreRow]:
    """Return the files in which settings stand, those that are there, each once."""
    rows: dict[str, StoreRow] = {}
    for setting in settings:
        path = session.file(setting.store, setting.schema)
        there = look_there(path.resolve()) if path is not None else NOTHING
        if path is not None and there.kind == "file":
            target = str(path.resolve())
            blob = f"store-{len(rows)}"
            rows.setdefault(target, StoreRow(target, setting.store, setting.schema, there.digest, there.facts, blob))
    return list(rows.values())


def settings_to_change(plan: Plan, session: DesktopSession) -> tuple[SettingRow, ...]:
    """Return the settings of a plan that the desktop has and that are something else now."""
    rows = [(setting, session.read(setting)) for setting in plan.settings]
    return tuple(
        SettingRow(
            setting.schema,
            setting.key,
            before,
            setting.value,
            setting.store,
            setting.kind,
            *plan.told.get(setting, ("", "")),
        )
        for setting, before in rows
        if before.state != "absent" and not before.has(setting.value)
    )


def _terminals_now(history: History) -> str:
    """Return the sequences that give open terminals back what they show now."""
    worn = [s for s in history.snapshots() if s.status == "worn"]
    rows = [row for s in worn for row in s.rows if isinstance(row, TerminalRow)]
    return rows[-1].after if rows else RESET


def _prepared(snapshot: Snapshot, plan: Plan, history: History, progress: Progress) -> Snapshot:
    """Return the snapshot with all new files waiting beside their places; leaves nothing when that cannot be."""
    names = iter(f".finch-{snapshot.token}-{secrets.token_hex(4)}" for _ in plan.writes)
    rows = tuple(replace(row, staged=next(names)) if isinstance(row, FileRow) else row for row in snapshot.rows)
    snapshot = replace(snapshot, rows=rows)
    disk = history.disk
    try:
        blobs: dict[str, bytes] = {}
        for row in snapshot.files:
            if row.blob:
                there, blobs[row.blob] = read_there(Path(row.target))
                if there.digest != row.before:
                    raise WearError(
                        tr("“{path}” is changing right now, so nothing was written.").format(path=row.path),
                        tr("Try again."),
                    )
        for store in snapshot.stores:
            there, blobs[store.blob] = read_there(Path(store.target))
            if there.digest != store.before:
                raise WearError(
                    tr("“{path}” is changing right now, so nothing was written.").format(path=store.target),
                    tr("Try again."),
                )
        if plan.applied:
            blobs[KEPT] = plan.applied
        history.add(snapshot, blobs, {w.path: w.data for w in plan.writes})
        for folder in snapshot.folders:
            disk.make_folder(Path(folder.path))
        for i, (row, write) in enumerate(zip(snapshot.files, plan.writes, strict=True)):
            progress.report(i, 2 * len(plan.writes), row.path)
            disk.stage(Path(row.target), write.data, row.facts, row.staged)
        check_room(snapshot.files, history, worn=False)
        return history.mark(snapshot, "writing")
    except (Exception, KeyboardInterrupt) as error:
        history.unstage(snapshot)
        history.forget(snapshot.id)
        if (said := _in_words(error)) is not None:
            raise said from error
        raise


def _in_words(error: BaseException) -> FinchError | None:
    """Return what is said when everything is as it was; None for what speaks for itself."""
    if isinstance(error, FileAccessError):
        if no_room(error):
            return WearError(
                tr("There is not enough space on the disk for the new files and the backups. Nothing was changed."),
                tr("Free some space, then try again."),
            )
        return WearError(sentences(str(error), tr("Nothing was changed.")), error.hint)
    if isinstance(error, Cancelled):
        return Cancelled(tr("Stopped; everything is restored."))
    return None


def _placed(
    snapshot: Snapshot,
    history: History,
    session: DesktopSession,
    progress: Progress,
    heard: dict[str, NotifyResult] | None,
) -> Snapshot:
    """Return the snapshot worn; when that cannot be or is stopped, everything is taken back."""
    total = len(snapshot.files)

    class Second(Silent):
        def report(self, done: int, _total: int, note: str) -> None:
            progress.report(total + done, 2 * total, note)

    try:
        walker = Walker(snapshot, history, session, Second(), interrupted=False)
        walker.forward()
        if heard is not None:
            heard |= walker.told
        return history.mark(snapshot, "worn")
    except (Exception, KeyboardInterrupt) as error:
        Walker(snapshot, history, session, Silent()).back()
        if any(standing(row, snapshot, history) in ("new", "torn") for row in snapshot.files):
            raise WearError(
                tr("{error} Not everything could be restored.").format(error=error), tr("Undo it when that is fixed.")
            ) from error
        history.mark(snapshot, "undone")
        if (said := _in_words(error)) is not None:
            raise said from error
        raise


def _listed(paths: Sequence[str], quoted: bool = False) -> str:
    names = parted(p if quoted else f"“{p}”" for p in paths[:3])
    return (
        names
        if len(paths) <= 3
        else plural("{names} and {count} more", "{names} and {count} more", len(paths) - 3, names=names)
    )


def edited_since(snapshot: Snapshot, history: History) -> tuple[str, ...]:
    """Return the files that are neither as the look left them nor as they were before: the person's own edits."""
    return tuple(row.path for row in snapshot.files if standing(row, snapshot, history) == "edited")


_OVERWRITES = tr("--overwrite PATH overwrites it.")
_LEAVES = tr("--leave PATH (or --leave-all) keeps it as it is and continues with the others.")


def _blocking(edited: Sequence[str], damaged: Sequence[str], what: str) -> None:
    """Raise WearError when there are files about which a person has to decide. what: the sentence of it."""
    if not edited and not damaged:
        return
    words, hints = [], []
    if edited:
        words.append(tr("Changed since: {files}.").format(files=_listed(edited)))
        hints.append(_OVERWRITES)
    if damaged:
        words.append(tr("The backup is damaged or missing: {files}.").format(files=_listed(damaged)))
    hints.append(_LEAVES)
    raise WearError(sentences(*words, what), sentences(*hints), tuple(edited), tuple(damaged))


def _finish(
    snapshot: Snapshot, history: History, session: DesktopSession, overwrite: Collection[str], leave: Collection[str],
    progress: Progress,
) -> Done:  # fmt: skip
    if snapshot.status == "undoing":
        return _take_off(snapshot, history, session, overwrite, leave, progress)
    if snapshot.status != "writing":
        raise WearError(tr("There is nothing to complete."))
    rows = [(row, standing(row, snapshot, history)) for row in snapshot.files if row.path not in leave]
    edited = [row.path for row, now in rows if now == "edited" and row.path not in overwrite]
    lost = [row.path for row, now in rows if now != "new" and row.path not in edited and not can_go_on(row)]
    _blocking(edited, lost, tr("Nothing was completed."))
    walker = Walker(snapshot, history, session, progress)
    walker.forward(leave, overwrite)
    return Done(history.mark(snapshot, "worn"), tuple(walker.left))


def finish(
    history: History,
    session: DesktopSession,
    overwrite: Iterable[str] = (),
    leave: Iterable[str] = (),
    progress: Progress | None = None,
) -> Done:
    """Finish a change that was interrupted, applying or taking off, files, settings and open terminals.

    overwrite: files whose edits since may be lost; leave: files that stay as they are. Raises WearError, changing
    nothing, when there is nothing to finish or other files have to be decided about.
    """
    with changing(history):
        pending = history.pending()
        if pending is None:
            raise WearError(tr("Nothing was interrupted here, so there is nothing to complete."))
        return _finish(pending, history, session, set(overwrite), set(leave), progress or Silent())


def undo_last(
    history: History,
    session: DesktopSession,
    overwrite: Iterable[str] = (),
    leave: Iterable[str] = (),
    progress: Progress | None = None,
) -> Done:
    """Take off the look that was applied last, interrupted or not: files, settings and open terminals as they were.

    overwrite: files whose edits since may be lost; leave: files that stay as they are. Raises WearError, changing
    nothing, when no look is worn or other files have to be decided about.
    """
    with changing(history):
        snapshot = history.last_worn()
        if snapshot is None:
            raise WearError(tr("No look is applied here, so there is nothing to undo."))
        return _take_off(snapshot, history, session, set(overwrite), set(leave), progress or Silent())


def _take_off(
    snapshot: Snapshot, history: History, session: DesktopSession, overwrite: Collection[str], leave: Collection[str],
    progress: Progress,
) -> Done:  # fmt: skip
    rows = [(row, standing(row, snapshot, history)) for row in snapshot.files if row.path not in leave]
    edited = [row.path for row, now in rows if now == "edited" and row.path not in overwrite]
    damaged = [
        row.path
        for row, now in rows
        if now != "old" and row.path not in edited and not can_go_back(row, snapshot, history)
    ]
    _blocking(edited, damaged, tr("Nothing was undone."))
    check_room([row for row, now in rows if now != "old"], history, worn=True)
    interrupted = snapshot.status != "worn"
    if snapshot.status != "undoing":
        snapshot = history.mark(snapshot, "undoing")
    walker = Walker(snapshot, history, session, progress, interrupted)
    walker.back(leave, overwrite)
    stuck = [row.path for row, _ in rows if standing(row, snapshot, history) != "old"]
    if stuck:
        why = next(iter(walker.left), tr("a program keeps changing it."))
        raise WearError(
            tr("{listed} could not be restored: {left}").format(listed=_listed(stuck), left=why),
            tr("The rest is restored. Fix that and undo once more, or keep it with --leave PATH."),
            damaged=tuple(stuck),
        )
    return Done(history.mark(snapshot, "undone"), tuple(walker.left))


def go_back_to(
    snapshot_id: str,
    history: History,
    session: DesktopSession,
    overwrite: Iterable[str] = (),
    leave: Iterable[str] = (),
    progress: Progress | None = None,
) -> tuple[int, tuple[str, ...]]:
    """Undo every look that was applied since, and including, one snapshot; return how many, and what was left."""
    overwrite, leave = set(overwrite), set(leave)
    left: list[str] = []
    count = 0
    with changing(history):
        ids = [s.id for s in history.snapshots() if s.status in IN_FORCE]
        if snapshot_id not in ids:
            raise WearError(tr("That look is no longer applied."))
        while True:
            snapshot = history.last_worn()
            assert snapshot is not None
            done = _take_off(snapshot, history, session, overwrite, leave, progress or Silent())
            left += done.left
            count += 1
            if snapshot.id == snapshot_id:
                return count, tuple(dict.fromkeys(left))


def undecided_files(snapshot: Snapshot, history: History) -> tuple[str, ...]:
    """Return the files of a snapshot that a person has to decide about: edited since, or their bytes lost."""
    on = snapshot.status == "writing"
    return tuple(
        row.path
        for row in snapshot.files
        if (now := standing(row, snapshot, history)) == "edited"
        or (now != "old" and not can_go_back(row, snapshot, history))
        or (on and now != "new" and not can_go_on(row))
    )
