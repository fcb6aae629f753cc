"""Lines that a person wrote into files of a look since it was applied, and which of them another look would overwrite.

What a look only recolours keeps its lines; what it writes whole, a region of its own or a key that it sets does not.
"""

from __future__ import annotations

import re
from collections import Counter
from collections.abc import Iterable, Sequence
from typing import NamedTuple

from ..components.files import Files
from ..disk.facts import read_plain
from ..errors import FileAccessError
from ..syntax.literals import NAMES
from ..syntax.region import without_regions
from .history import History
from .journal import FileRow, Snapshot
from .plan import Plan, Write
from .targets import digest

_MOST_TEXT = 8 * 2**20
_COLOUR = re.compile(
    r"#[0-9a-f]{3,12}\b|\b0x[0-9a-f]{6,8}\b|\b(?:rgba?|hsla?|rgb:)\s*[(/0-9a-f][^)\s;\"']*[^;\"'\n]*?\)|"
    r"\brgb:[0-9a-f/]+|\b[0-9a-f]{6}(?:[0-9a-f]{2})?\b|\b\d{1,3}(?:\s*,\s*\d{1,3}){2}(?:\s*,\s*[\d.]+)?|"
    r"\b(?:bright|colou?r|base|light|dark)?-?(?:" + "|".join(sorted(NAMES, key=len, reverse=True)) + r"|default)\b|"
    r"\bcolou?r\d{1,3}\b|\b\d{1,3}\b",
    re.IGNORECASE,
)
_OURS = "written by Mellow Finch"


class LostEdits(NamedTuple):
    """A file with lines of a person's own that a look would overwrite; no lines where it is no text."""

    path: str
    lines: tuple[str, ...]

    def words(self) -> str:
        """Return the file with its first such line."""
        first = self.lines[0][:60].encode("utf-8", "replace").decode("utf-8") if self.lines else ""
        return f"“{self.path}” ({first})" if first else f"“{self.path}”"


def edits_lost(plan: Plan, history: History) -> tuple[LostEdits, ...]:
    """Return the files whose edits applying a plan would overwrite. Changes nothing."""
    rows = history.rows_by_path()
    found = (_lost_in(write, rows.get(write.path, ()), history) for write in plan.writes)
    return tuple(one for one in found if one is not None)


def _lost_in(write: Write, every: Sequence[tuple[Snapshot, FileRow]], history: History) -> LostEdits | None:
    """Return what one write would overwrite; every: what all snapshots keep of its file, oldest first."""
    there = write.target.there
    if there.kind != "file":
        return None
    worn = [row for snapshot, row in every if snapshot.status in ("worn", "writing")]
    if there.digest == (worn[0].before if worn else "") or any(there.digest == row.after for _, row in every):
        return None  # put back by hand to what it was before every look, or as one of ours left it
    # Those that are undone count where the file was left as it was then, not where it was put back.
    rows = [(s, row) for s, row in every if s.status in ("worn", "writing") or there.digest != row.before]
    if not worn and any(there.digest == row.before for _, row in every):
        rows = []
    try:
        now = read_plain(write.target.place, _MOST_TEXT) or b""
    except FileAccessError:
        return LostEdits(write.path, ())
    if not now.strip():
        return None
    if not rows and (_no_text(now, write.data) or (_OURS.encode() not in now and _same_kind(now, write.data))):
        return None  # a first look changes what is its own in a file, and the plan says so; it does not replace it
    theirs = not rows or bool(rows[0][1].before)  # a file that we made has nothing of theirs to be recoloured
    lost = lost_lines(history.written(*rows[-1]) if rows else b"", now, write.data, theirs)
    if lost is None:
        return LostEdits(write.path, ())
    return LostEdits(write.path, lost) if lost else None


def lost_lines(written: bytes | None, now: bytes, fresh: bytes, recolours: bool) -> tuple[str, ...] | None:
    """Return the lines of a person's own that are in a file now and would not be in its fresh one.

    written: what we left in it, empty or None when that is not known, so that all outside of our regions counts as
    theirs; recolours: whether a line of theirs with other colours is still that line. None comes back for what is no
    text.
    """
    if _no_text(now, fresh):
        return None
    theirs, kept = _text(now), _text(fresh)
    base = _text(written) if written is not None else ""
    own = Counter(_lines(theirs if written else without_regions(theirs))) - Counter(_lines(base))
    own = Counter({line: n for line, n in own.items() if _OURS not in line})
    exact = Counter(_lines(kept))
    rest = Counter({line: n - exact[line] for line, n in own.items() if n > exact[line]})
    if recolours and rest:
        about = {_key(line) for line in rest}
        alike = {_shape(line) for line in set(_lines(without_regions(kept))) if _key(line) in about}
        rest = Counter({line: n for line, n in rest.items() if _shape(line) not in alike})
    return tuple(line for line in dict.fromkeys(_lines(theirs)) if rest[line])


def _no_text(*rows: bytes) -> bool:
    return any(b"\0" in data[:4096] for data in rows)


def _same_kind(now: bytes, fresh: bytes) -> bool:
    """Tell whether a fresh file is the old one with some of it changed: a line, or what a line is about, is there."""
    kept, theirs = set(_lines(_text(fresh))), set(_lines(_text(now)))
    return not kept.isdisjoint(theirs) or not {_key(x) for x in kept}.isdisjoint(_key(x) for x in theirs)


def _key(line: str) -> str:
    """Return what a line is about: the word before its value, colours in it left out."""
    return _KEY.split(line, 1)[0]


_KEY = re.compile(r"[\s=:{(#]")


def _text(data: bytes) -> str:
    return data.decode("utf-8", "surrogateescape")


def _lines(text: str) -> Iterable[str]:
    return (bare for line in text.splitlines() if (bare := line.strip()))


def _shape(line: str) -> str:
    """Return a line with every colour in it alike, in whatever spelling."""
    return _COLOUR.sub("·", line)


def signature(files: Files, paths: Iterable[str]) -> str:
    """Return what tells some files of a home, as they are now, from any other state of them."""
    found = {path: files(path) for path in sorted(paths)}
    rows = [f"{path} {'' if data is None else digest(data)}" for path, data in found.items()]
    return digest("\n".join(rows).encode("utf-8", "surrogateescape")) if rows else ""
