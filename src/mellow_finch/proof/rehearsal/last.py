"""What the last rehearsal of a look found, for those who show or tell it later."""

from __future__ import annotations

import hashlib
from collections.abc import Iterable
from contextlib import suppress
from datetime import datetime

import msgspec

from ...disk.facts import must_read
from ...disk.own import cache_folder
from ...disk.write import save
from ...errors import FileAccessError
from ...look.model import Look
from .conductor import Rehearsed
from .verdict import State

_MOST = 40  # looks of which the last one is kept


class TriedProgram(msgspec.Struct, frozen=True):
    """One program as it was tried: the component it belongs to, its version where it tells, how it stood."""

    program: str
    version: str
    component: str
    state: State


class LastRehearsal(msgspec.Struct, frozen=True):
    """When a look was rehearsed (ISO 8601, local time), and what came of each program that is installed."""

    look: str
    when: str
    programs: tuple[TriedProgram, ...]

    def count(self, state: State) -> int:
        """Return how many programs stood so."""
        return sum(row.state == state for row in self.programs)


def _digest(look: Look) -> str:
    """Return what tells a half of a look by its colours."""
    rows = (f"{role} {colour.hex}" for role, colour in sorted(look.colours.items()))
    return hashlib.sha256("\n".join((look.tone, *rows)).encode()).hexdigest()[:32]


def _all() -> dict[str, LastRehearsal]:
    with suppress(FileAccessError, msgspec.MsgspecError):
        return msgspec.json.decode(must_read(cache_folder() / "rehearsed.json"), type=dict[str, LastRehearsal])
    return {}


def note_rehearsal(look: Look, rows: Iterable[Rehearsed]) -> None:
    """Keep what a rehearsal found; where it cannot be kept, that is no harm."""
    found = tuple(TriedProgram(r.program, r.version, r.component.id, r.state) for r in rows if r.state != "absent")
    if not found:
        return
    kept = {**_all(), _digest(look): LastRehearsal(look.name, datetime.now().isoformat(timespec="minutes"), found)}
    newest = sorted(kept.items(), key=lambda row: row[1].when)[-_MOST:]
    with suppress(FileAccessError, OSError):
        save(cache_folder() / "rehearsed.json", msgspec.json.encode(dict(newest)), sync=False)


def last_rehearsal(look: Look) -> LastRehearsal | None:
    """Return what the last rehearsal of this half of a look found, None where it was not tried as it is now."""
    return _all().get(_digest(look))


def newest_rehearsal() -> LastRehearsal | None:
    """Return the last rehearsal of any look."""
    return max(_all().values(), key=lambda row: row.when, default=None)
