"""What a home wears now, told by what lies in its files."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from pathlib import Path

from ..language import plural, tr
from .history import History
from .journal import UNDER_WAY, FileRow, Snapshot
from .lock import holder
from .walk import standing


@dataclass(frozen=True, slots=True)
class HomeStatus:
    """What a home wears.

    worn: the look that was applied last and not undone; changed: the files that are not as the looks left them;
    pending: a change that was interrupted; broken: damaged snapshots, kept apart; busy: who changes the home now.
    """

    worn: Snapshot | None
    changed: tuple[str, ...]
    pending: Snapshot | None
    broken: tuple[Path, ...]
    busy: str

    def words(self) -> str:
        """Return what is worn in a few words."""
        if self.pending is not None:
            words = (
                tr("Applying “{look}” was interrupted.")
                if self.pending.status == "writing"
                else tr("Undoing “{look}” was interrupted.")
            )
            return words.format(look=self.pending.look)
        if self.worn is None:
            return tr("No look is applied.")
        if not self.changed:
            return tr("“{look}” is applied.").format(look=self.worn.look)
        return plural(
            "“{look}” is applied; {count} file was changed since.",
            "“{look}” is applied; {count} files were changed since.",
            len(self.changed),
            look=self.worn.look,
        )


def status_of(history: History) -> HomeStatus:
    """Return what a home wears now. Changes nothing."""
    snapshots = history.snapshots()
    pending = next((s for s in snapshots if s.status in UNDER_WAY), None)
    worn = [s for s in snapshots if s.status == "worn"]
    changed = _changed(worn, history)
    busy = holder(history.lock_path)
    return HomeStatus(worn[-1] if worn else None, changed, pending if not busy else None, history.broken(), busy)


def changed_files(history: History) -> tuple[str, ...]:
    """Return the files that are not as the looks left them, over all looks that are worn."""
    return _changed([s for s in history.snapshots() if s.status == "worn"], history)


def _changed(worn: Sequence[Snapshot], history: History) -> tuple[str, ...]:
    return tuple(row.path for s, row in _last_rows(worn) if standing(row, s, history) != "new")


def _last_rows(worn: Sequence[Snapshot]) -> list[tuple[Snapshot, FileRow]]:
    """Return of every file the row that was written last."""
    last = {row.target: (s, row) for s in worn for row in s.files}
    return list(last.values())
