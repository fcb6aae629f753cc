"""What one applying changes, as rows of a journal: folders, files, settings and open terminals, in order.

Rows are only data here; `walk` takes them forward and back.
"""

from __future__ import annotations

import json
from collections import Counter
from collections.abc import Iterable, Mapping
from dataclasses import dataclass, field, replace
from typing import Any, Literal

from ..disk.facts import Facts
from ..session.base import DesktopSetting, ReloadMethod, SettingValue
from .targets import facts_as_json, facts_from_json

VERSION = 2
_LONGEST_REST_S = 10.0
Status = Literal["preparing", "writing", "worn", "undoing", "undone"]
UNDER_WAY: tuple[Status, ...] = ("writing", "undoing")
IN_FORCE: tuple[Status, ...] = ("writing", "worn", "undoing")


@dataclass(frozen=True, slots=True)
class FolderRow:
    """A folder that was not there before, as a whole path."""

    path: str


@dataclass(frozen=True, slots=True, kw_only=True)
class FileRow:
    """One file.

    path: from the home folder; target: where the bytes really lie; components: all that have a part in it; before,
    after: SHA-256 of the bytes, before empty when there was nothing; link: whether what was there was a symbolic link,
    of whose text before is the digest; facts: of the old file; blob: the old bytes' name in the snapshot; staged: the
    temporary name beside the target under which the new bytes wait; in_place: whether the file is written into rather
    than replaced; size: of the old bytes; fresh: of the new ones.
    """

    path: str
    target: str
    components: tuple[str, ...]
    before: str
    after: str
    link: bool = False
    facts: Facts | None = None
    blob: str = ""
    staged: str = ""
    in_place: bool = False
    size: int = 0
    fresh: int = 0


@dataclass(frozen=True, slots=True)
class SettingRow:
    """One setting of the desktop: what it was, "not set" included, and what it becomes, None when that is not known.

    title: what it sets, for people; component: the one whose files it chooses, empty for none.
    """

    schema: str
    key: str
    before: SettingValue
    after: str | None
    store: str = "gsettings"
    kind: str = ""
    title: str = ""
    component: str = ""

    @property
    def setting(self) -> DesktopSetting:
        """Return the setting as it is to become."""
        return DesktopSetting(self.schema, self.key, self.after or "", self.store, self.kind)

    @property
    def old(self) -> DesktopSetting:
        """Return the setting as it was."""
        return DesktopSetting(self.schema, self.key, self.before.value, self.store, self.before.kind)


@dataclass(frozen=True, slots=True)
class StoreRow:
    """A file of the person's own in which settings stand, as it was before they were set.

    target: where it really lies; store, schema: what the settings are called by; before: SHA-256 of its bytes; facts:
    of it; blob: the name of its bytes in the snapshot. One that was not there has no row.
    """

    target: str
    store: str
    schema: str
    before: str
    facts: Facts | None
    blob: str


_MOST_ALIKE = 8


def crowds(rows: Iterable[SettingRow]) -> dict[str, int]:
    """Return the titles that so many settings share that they are told by their number, with that number."""
    return {title: n for title, n in Counter(row.title for row in rows).items() if title and n > _MOST_ALIKE}


@dataclass(frozen=True, slots=True)
class TerminalRow:
    """The colours of open terminals: the sequences that give the old ones back, and those that give the new ones."""

    before: str
    after: str


@dataclass(frozen=True, slots=True)
class WayRow:
    """One way in which a component's running program is told, the same forward and back, after all files."""

    component: str
    way: ReloadMethod


@dataclass(frozen=True, slots=True)
class RestRow:
    """How long the desktop needs, once its settings are back, before files may go (seconds)."""

    seconds: float


Row = FolderRow | FileRow | SettingRow | StoreRow | TerminalRow | WayRow | RestRow


@dataclass(frozen=True, slots=True)
class Snapshot:
    """All that is needed to finish or to undo one applying.

    id: also its folder's name; token: what its temporary names carry; made_of: a digest of all that the look writes,
    changed or right already.
    """

    id: str
    look: str
    when: str
    rows: tuple[Row, ...]
    token: str = ""
    made_of: str = ""
    status: Status = "preparing"
    by_path: Mapping[str, FileRow] = field(init=False, repr=False, compare=False)

    def __post_init__(self) -> None:
        object.__setattr__(self, "by_path", {row.path: row for row in self.files})

    @property
    def files(self) -> tuple[FileRow, ...]:
        """Return the files alone."""
        return tuple(row for row in self.rows if isinstance(row, FileRow))

    @property
    def settings(self) -> tuple[SettingRow, ...]:
        """Return the settings alone."""
        return tuple(row for row in self.rows if isinstance(row, SettingRow))

    @property
    def stores(self) -> tuple[StoreRow, ...]:
        """Return the files of settings alone."""
        return tuple(row for row in self.rows if isinstance(row, StoreRow))

    @property
    def folders(self) -> tuple[FolderRow, ...]:
        """Return the folders alone."""
        return tuple(row for row in self.rows if isinstance(row, FolderRow))

    def with_status(self, status: Status) -> Snapshot:
        """Return the same with another status."""
        return replace(self, status=status)


def _row_as_json(row: Row) -> dict[str, Any]:
    if isinstance(row, FolderRow):
        return {"folder": row.path}
    if isinstance(row, SettingRow):
        plain = [row.schema, row.key, row.before.state, row.before.value, row.after]
        return {"setting": plain, "more": [row.store, row.kind, row.before.kind, row.title, row.component]}
    if isinstance(row, StoreRow):
        kept = [row.store, row.schema, row.before, row.blob]
        return {"kept": row.target, "store": kept, "facts": facts_as_json(row.facts)}
    if isinstance(row, WayRow):
        return {"told": row.component, "way": [row.way.how, row.way.program, row.way.words, row.way.check]}
    if isinstance(row, RestRow):
        return {"rest": row.seconds}
    if isinstance(row, TerminalRow):
        return {"terminals": [row.before, row.after]}
    facts = facts_as_json(row.facts)
    names = [n for n in FileRow.__slots__ if n not in ("path", "facts")]
    return {"file": row.path, "facts": facts, **{n: getattr(row, n) for n in names}}


def _row_from_json(data: Mapping[str, Any]) -> Row:
    if "folder" in data:
        return FolderRow(str(data["folder"]))
    if "setting" in data:
        schema, key, state, value = (str(v) for v in data["setting"][:4])
        after = data["setting"][4]
        store, kind, old_kind, title, owner = (str(v) for v in data.get("more", ("gsettings", "", "", "", "")))
        before = SettingValue.checked(state, value, old_kind)
        return SettingRow(schema, key, before, None if after is None else str(after), store, kind, title, owner)
    if "kept" in data:
        store, schema, before_, blob = (str(v) for v in data["store"])
        return StoreRow(str(data["kept"]), store, schema, before_, facts_from_json(data["facts"]), _plain_name(blob))
    if "told" in data:
        how, program, words, check = data["way"]
        way = ReloadMethod(str(how), str(program), tuple(str(w) for w in words), tuple(str(w) for w in check))
        return WayRow(str(data["told"]), way)
    if "rest" in data:
        return RestRow(min(_LONGEST_REST_S, max(0.0, float(data["rest"]))))
    if "terminals" in data:
        old, new = (str(v) for v in data["terminals"])
        return TerminalRow(old, new)
    return FileRow(
        path=str(data["file"]),
        target=str(data["target"]),
        components=tuple(str(c) for c in data["components"]),
        before=str(data["before"]),
        after=str(data["after"]),
        link=bool(data["link"]),
        facts=facts_from_json(data["facts"]),
        blob=_plain_name(data["blob"]),
        staged=_plain_name(data["staged"]),
        in_place=bool(data["in_place"]),
        size=int(data["size"]),
        fresh=int(data["fresh"]),
    )


def _plain_name(name: object) -> str:
    text = str(name)
    if "/" in text or text in (".", ".."):
        raise ValueError(f"“{text}” is no file name")
    return text


def manifest_text(snapshot: Snapshot) -> str:
    """Return a snapshot as its manifest; its status is not in it, since that changes and the manifest does not."""
    data = {
        "version": VERSION,
        "id": snapshot.id,
        "look": snapshot.look,
        "when": snapshot.when,
        "token": snapshot.token,
        "made_of": snapshot.made_of,
        "rows": [_row_as_json(row) for row in snapshot.rows],
    }
    return json.dumps(data, indent=1)


def snapshot_from(text: str, id_: str, status: Status | None) -> Snapshot:
    """Return the snapshot that a manifest describes; id_: its folder's name.

    Raises ValueError, KeyError, TypeError or AttributeError when it is damaged.
    """
    data: dict[str, Any] = json.loads(text)
    if "version" not in data:
        return _first_version(data, id_, status)
    if data["version"] != VERSION or status is None:
        raise ValueError("of another version, or without a status")
    rows = tuple(_row_from_json(row) for row in data["rows"])
    look, when, token, made_of = (str(data[k]) for k in ("look", "when", "token", "made_of"))
    return Snapshot(id_, look, when, rows, _plain_name(token), made_of, status)


def _first_version(data: Mapping[str, Any], id_: str, status: Status | None) -> Snapshot:
    """Return what the program's first version kept, whose status stood in the manifest until it was marked anew."""
    if data["status"] not in ("writing", "worn", "undoing", "undone"):
        raise ValueError("without a status")
    folders = [FolderRow(str(f)) for f in data["folders"]]
    files = [
        FileRow(
            path=str(row["path"]),
            target=str(row["target"]),
            components=(str(row["component"]),),
            before=str(row["before"]),
            after=str(row["after"]),
            facts=Facts(int(row["mode"])),
            blob=_plain_name(row["blob"]) if row["before"] else "",
        )
        for row in data["entries"]
    ]
    kept = [SettingRow(str(s), str(k), SettingValue("set", str(v)), None) for s, k, v in data["settings"] if v]
    return Snapshot(
        id_, str(data["look"]), str(data["when"]), (*folders, *files, *kept), "", "", status or data["status"]
    )
