"""Desktops as data: where each keeps what a look sets, in which order, and what it is told by."""

from __future__ import annotations

import tomllib
from collections.abc import Collection, Mapping
from dataclasses import dataclass, field
from functools import cache
from importlib.resources import files
from pathlib import Path
from string import Formatter
from typing import Any

from ..look.companions import COMPANION_BY_ID
from .base import Session, Setting

_PACKAGE = "mellow_finch.session"


@dataclass(frozen=True, slots=True, kw_only=True)
class Row:
    """One setting that a desktop has.

    title: what it sets, for people; component: the one whose files it chooses, empty for the picture; writes: a file
    that the look has to write for it, {theme} for its folder; every: whether the key is a pattern of which each that
    exists is set; only_set: whether it is passed over where it is not set; with_picture: whether it only
    goes with a picture; the value takes words of the wish in braces.
    """

    title: str
    store: str
    schema: str
    key: str
    value: str
    kind: str = ""
    component: str = ""
    writes: str = ""
    every: bool = False
    only_set: bool = False
    with_picture: bool = False


@dataclass(frozen=True, slots=True, kw_only=True)
class ToldPlace:
    """A store of settings that a program keeps in a file and takes by a command.

    program: the executable that has to run, empty where none does; command: the words that set a value, with {value}
    and {kind}; first: words that go before them; reset: those that take one back which was not set before; kind_key:
    the key beside it that says the kind; file, pattern: where a file that is no key file says value and kind.
    """

    id: str
    command: tuple[str, ...]
    program: str = ""
    first: tuple[str, ...] = ()
    reset: tuple[str, ...] = ()
    kind_key: str = ""
    file: str = ""
    pattern: str = ""


@dataclass(frozen=True, slots=True, kw_only=True)
class Desktop:
    """One desktop.

    names: what XDG_CURRENT_DESKTOP calls it; programs: executables that tell of it, any of them; stores: places of
    its own; placement: its words for how a picture lies; buttons: its words for title-bar buttons left or right; panel,
    dock: its usual shape; settle_s: how long it needs after a change of theme before the old theme's folder may go;
    tried: versions.
    """

    id: str
    title: str
    names: tuple[str, ...] = ()
    programs: tuple[str, ...] = ()
    rows: tuple[Row, ...] = ()
    placement: Mapping[str, str] = field(default_factory=dict)
    stores: tuple[ToldPlace, ...] = ()
    buttons: Mapping[str, str] = field(default_factory=dict)
    panel: str = "top"
    dock: bool = False
    settle_s: float = 0.0
    tried: str = "not tried"


def _told_place(row: dict[str, Any]) -> ToldPlace:
    plain: dict[str, Any] = {name: tuple(v) if isinstance(v, list) else v for name, v in row.items()}
    return ToldPlace(**plain)


def desktop_from(text: str) -> Desktop:
    """Return the desktop that a data file describes; raises ValueError, KeyError or TypeError when it is wrong."""
    data: dict[str, Any] = tomllib.loads(text)
    rows = tuple(Row(**row) for row in data.get("set", ()))
    stores = tuple(_told_place(row) for row in data.get("store", ()))
    return Desktop(
        id=data["id"],
        title=data["title"],
        names=tuple(data.get("names", ())),
        programs=tuple(data.get("programs", ())),
        rows=rows,
        placement=dict(data.get("placement", {})),
        buttons=dict(data.get("buttons", {})),
        stores=stores,
        panel=data.get("panel", "top"),
        dock=bool(data.get("dock", False)),
        settle_s=float(data.get("settle_s", 0.0)),
        tried=data.get("tried", "not tried"),
    )


@cache
def desktops() -> tuple[Desktop, ...]:
    """Return every desktop there is data for, in the order of their files' names."""
    found = sorted((e for e in files(_PACKAGE).joinpath("desktops").iterdir() if e.name.endswith(".toml")), key=_name)
    return tuple(desktop_from(e.read_text(encoding="utf-8")) for e in found)


def _name(entry: Any) -> str:
    return str(entry.name)


def desktop_named(id_: str) -> Desktop | None:
    """Return a desktop by its id."""
    return next((d for d in desktops() if d.id == id_), None)


def told_apart(environ: Mapping[str, str], running: Collection[str]) -> Desktop | None:
    """Return which desktop runs: what its environment calls it, or else the first whose programs run."""
    called = [name for name in environ.get("XDG_CURRENT_DESKTOP", "").split(":") if name]
    by_name = next((d for name in called for d in desktops() if name in d.names), None)
    return by_name or next((d for d in desktops() if set(d.programs) & set(running)), None)


@dataclass(frozen=True, slots=True)
class Wish:
    """What a look wants of a desktop: its theme's folder, light or dark, the picture with how it lies, companions."""

    theme: str
    tone: str
    picture: str = ""
    mode: str = "fill"
    companions: Mapping[str, str] = field(default_factory=dict)

    def words(self, desktop: Desktop | None) -> dict[str, str]:
        """Return what stands for the names in braces."""
        return {
            "theme": self.theme,
            "folder": self.theme,
            "tone": self.tone,
            "dark": "true" if self.tone == "dark" else "false",
            "picture": self.picture,
            "uri": Path(self.picture).as_uri() if Path(self.picture).is_absolute() else "",
            "mode": desktop.placement.get(self.mode, "") if desktop is not None and self.picture else "",
            **dict.fromkeys(COMPANION_BY_ID, ""),
            **self.companions,
            "buttons": desktop.buttons.get(self.companions.get("buttons", ""), "") if desktop is not None else "",
        }


def settings_for(
    desktop: Desktop, wish: Wish, written: Collection[str], session: Session, without: Collection[str] = ()
) -> list[tuple[Setting, Row]]:
    """Return the settings that a look wants of a desktop, in order, each with its row.

    written: the paths that the look writes; without: components that are not dressed. A row without a picture, a word
    for how it lies, or the file that it needs is passed over.
    """
    words = wish.words(desktop)
    paths = frozenset(written)
    out: list[tuple[Setting, Row]] = []
    for row in desktop.rows:
        wanted = {name for _, name, _, _ in Formatter().parse(row.value + row.kind) if name}
        wanted |= {"picture"} if row.with_picture else set()
        if not all(words[name] for name in wanted) or row.component in without:
            continue
        if row.writes and row.writes.format(**words) not in paths:
            continue
        for key in session.keys(row.store, row.schema, row.key) if row.every else [row.key]:
            setting = Setting(row.schema, key, row.value.format(**words), row.store, row.kind.format(**words))
            if not row.only_set or session.read(setting).state == "set":
                out.append((setting, row))
    return out
