"""A look's file as it lies in a folder: no path of this computer stands in it, and what it names is found again.

What lies beside the look, in its folder or below, is named by its way from there. Anything else is named by its file
name and a mark that only this person's own list of places can turn into a path; for others the mark says nothing.
Paths that stand in a look from elsewhere are taken as they are, but are not read before the person says so.
"""

from __future__ import annotations

import hashlib
import hmac
import os
import re
import secrets
from collections.abc import Callable
from dataclasses import replace
from pathlib import Path
from typing import NamedTuple

from ..components.decisions import Decisions, Owner
from ..disk.facts import must_read, read_plain
from ..disk.own import state_folder
from ..disk.write import save
from ..errors import FinchError, file_errors
from .file import MOST_BYTES, look_from_json, look_to_json
from .model import Look, Member

_MARK = re.compile(r"elsewhere:([0-9a-f]{16})/([^/]+)")
_KEY_BYTES = 32
_MOST_PATH = 4096


class Carried(NamedTuple):
    """A look that was read. asks: paths it names that must not be read before the person said so."""

    look: Look
    asks: frozenset[str]


class Places:
    """This person's own list of where things lie that looks were made of; faults of the disk lose only that."""

    def __init__(self, folder: Path | None = None) -> None:
        self._folder = folder or state_folder() / "places"

    def _key(self) -> bytes:
        path = self._folder / "key"
        key = read_plain(path, _KEY_BYTES)
        if key is None or len(key) != _KEY_BYTES:
            key = secrets.token_bytes(_KEY_BYTES)
            self._folder.mkdir(parents=True, exist_ok=True, mode=0o700)
            save(path, key)
        return key

    def keep(self, path: str) -> str:
        """Keep a path, and return the mark by which it is found again."""
        raw = os.fsencode(path)
        try:
            mark = hmac.new(self._key(), raw, hashlib.sha256).hexdigest()[:16]
            if read_plain(self._folder / mark, _MOST_PATH) != raw:
                save(self._folder / mark, raw, sync=False)
        except (FinchError, OSError):
            return "0" * 16
        return mark

    def path_of(self, mark: str) -> str:
        """Return the path of a mark, empty when it is not one of this person's."""
        try:
            return os.fsdecode(read_plain(self._folder / mark, _MOST_PATH) or b"")
        except FinchError:
            return ""


def look_text(look: Look, folder: Path, places: Places | None = None) -> str:
    """Return a look as the text of a file in a folder."""
    places = places or Places()
    inside = folder.resolve()

    def carried(path: str) -> str:
        if not path:
            return ""
        whole = Path(path).absolute()
        try:
            near = whole.resolve().relative_to(inside).as_posix()
        except (ValueError, OSError, RuntimeError):
            near = ""
        if near and near == _spelled(near):
            return near
        return f"elsewhere:{places.keep(str(whole))}/{_spelled(whole.name)}"

    return look_to_json(with_paths(look, carried))


def read_look(path: Path, places: Places | None = None) -> Carried:
    """Read a look from a file. Raises FileAccessError or ParseError."""
    with file_errors(path, "open"):
        text = must_read(path, MOST_BYTES).decode("utf-8")
    return read_look_text(text, path, places)


def read_look_text(text: str, path: Path, places: Places | None = None) -> Carried:
    """Read a look from the text of a file at a path. Raises FileAccessError or ParseError."""
    with file_errors(path, "open"):
        folder = path.resolve().parent
    places = places or Places()
    asks: set[str] = set()

    def settled(text: str) -> str:
        if not text:
            return ""
        mark = _MARK.fullmatch(text)
        if mark:
            own = places.path_of(mark[1])
            if own and _spelled(Path(own).name) == mark[2]:
                return own
            text = mark[2]
        whole = folder / text
        try:
            beside = whole.resolve().is_relative_to(folder)
        except (OSError, RuntimeError, ValueError):
            beside = False
        if not beside:
            asks.add(str(whole))
        return str(whole)

    look = with_paths(look_from_json(text, f"“{path.name}”"), settled)
    return Carried(look, frozenset(asks))


def load_look(path: Path) -> Look:
    """Read a look from a file, for work that reads nothing of what it names. Raises what read_look raises."""
    return read_look(path).look


def save_look(look: Look, path: Path) -> None:
    """Write a look's file. Raises FileAccessError."""
    save(path, look_text(look, path.parent).encode("utf-8"))


def _spelled(name: str) -> str:
    """Return a name as text, whatever bytes it is made of."""
    return name.encode("utf-8", "surrogateescape").decode("utf-8", "replace")


def with_paths(look: Look, swap: Callable[[str], str]) -> Look:
    """Return a look with every path in it swapped."""
    fresh = {path: swap(path) for path in look.brought}

    def owned(owner: Owner) -> Owner:
        return Owner.theme(fresh.get(owner.name, owner.name)) if owner.kind == "theme" else owner

    def shown(own: Decisions) -> Decisions:
        return replace(own, emblems={k: e._replace(file=swap(e.file)) for k, e in own.emblems.items()})

    return replace(
        look,
        source=swap(look.source),
        pictures=tuple(Member(swap(m.path), m.weight) for m in look.pictures),
        brought=tuple(fresh.values()),
        decisions={owned(owner): shown(own) for owner, own in look.decisions.items()},
        variants=tuple(with_paths(one, swap) for one in look.variants),
    )
