"""What is known of a home while a look is in the window: what it wears, and what applying the look would do."""

from __future__ import annotations

from collections.abc import Mapping
from pathlib import Path
from types import MappingProxyType
from typing import NamedTuple

from ...language import plural, tr
from ...session.base import Outsider
from ...wear.edits import LostEdits
from ...wear.journal import SettingRow
from ...wear.plan import Plan
from ...wear.rollcall import Call
from ...wear.signs import Unseen
from ...wear.status import HomeStatus


class Known(NamedTuple):
    """What is known of a home: what it wears, and what wearing the look would do; problem: why that cannot be said.

    calls: what every component of the look that is worn answers; outside: programs that will not follow;
    composites: whether a compositor runs, None when that is not known; running: the programs that would be told;
    unseen: fonts and signs that are not here; edits: a person's own that applying the look would overwrite; held: files
    that would be new in the home's top, by the component that the person has to ask for; after: the person's own
    programs that run when it is done; blurs: whether what draws the screen blurs, None when that is not known.
    """

    look: str
    status: HomeStatus
    plan: Plan | None
    settings: tuple[SettingRow, ...]
    problem: str = ""
    calls: tuple[Call, ...] = ()
    outside: tuple[Outsider, ...] = ()
    composites: bool | None = None
    running: frozenset[str] = frozenset()
    unseen: tuple[Unseen, ...] = ()
    edits: tuple[LostEdits, ...] = ()
    held: Mapping[str, tuple[str, ...]] = MappingProxyType({})
    after: tuple[Path, ...] = ()
    blurs: bool | None = None

    @property
    def is_worn(self) -> bool:
        """Tell whether every file is as the look has it."""
        return self.status.worn is not None and self.plan is not None and not self.plan.writes

    @property
    def another(self) -> bool:
        """Tell whether the home wears another look than this one."""
        worn = self.status.worn
        return worn is not None and not self.is_worn and worn.look != self.look

    def words(self) -> str:
        """Return in very few words how the look and the home stand."""
        if self.status.pending is not None:
            return tr("interrupted")
        if self.status.worn is None or self.plan is None:
            return tr("not applied")
        if self.is_worn:
            left = sum(not call.settled for call in self.calls)
            return plural("{count} to do", "{count} to do", left) if left else tr("applied")
        return (
            tr("another is applied")
            if self.another
            else plural("{count} changed", "{count} changed", len(self.plan.writes))
        )

    def sentence(self) -> str:
        """Return how the look and the home stand as one sentence."""
        status = self.status
        if status.pending is not None:
            return status.words()
        if status.broken:
            return tr("The backups of an earlier look are damaged and were set aside: {folder}").format(
                folder=status.broken[0]
            )
        if status.worn is None or self.plan is None:
            return status.words()
        if self.another:
            return tr("Another look is applied: “{look}”.").format(look=status.worn.look)
        if not self.plan.writes:
            return tr("This look is applied.")
        return plural(
            "This look is applied; {count} file was changed since.",
            "This look is applied; {count} files were changed since.",
            len(self.plan.writes),
        )
