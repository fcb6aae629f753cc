"""Pictures that a configuration starts a program with, as settings: in place in the file, and the program anew."""

from __future__ import annotations

import time
from fnmatch import fnmatchcase
from pathlib import Path

from ...disk.facts import read_plain
from ...disk.write import save
from ...errors import FileAccessError
from ...syntax.launched import PictureLine, picture_lines, pictures_in, with_picture, words_in
from ..base import ABSENT, UNSET, NotifyResult, SettingValue
from ..commands import start
from ..processes import end, own_processes

_COVERS_S = 0.3  # until a new picture lies over the old one
_TEXT = ("utf-8", "surrogateescape")


def changed(text: str, key: str, path: str, mode: str) -> str:
    """Return a configuration with another picture at the place that a key names, as "swaybg 2" does the second."""
    row, number = _place(key)
    return with_picture(text, row, number, path, mode) if row is not None else text


def _place(key: str) -> tuple[PictureLine | None, int]:
    program, _, number = key.partition(" ")
    return picture_lines().get(program), int(number or 1) - 1


class LaunchedPictures:
    """A schema is a file's path from the home, a key the program's name and which of its places is meant."""

    def __init__(self, home: Path) -> None:
        self._home = home

    def text(self, schema: str) -> str | None:
        """Return a file, None where it is not there or cannot be read."""
        try:
            data = read_plain(self._home / schema)
        except FileAccessError:
            return None
        return None if data is None else data.decode(*_TEXT)

    def read(self, schema: str, key: str) -> SettingValue:
        """Return the picture at a place, its kind being how it lies; absent where there is no such file or program."""
        text, (row, number) = self.text(schema), _place(key)
        if text is None or row is None:
            return ABSENT
        found = pictures_in(text, row, str(self._home))
        return SettingValue("set", *found[number]) if number < len(found) else UNSET

    def write(self, schema: str, key: str, value: str, kind: str) -> None:
        """Put another picture there; raises FileAccessError where the disk refuses."""
        text = self.text(schema)
        if text is not None:
            save(self._home / schema, changed(text, key, value, kind).encode(*_TEXT))

    def reset(self, _schema: str, _key: str, _kind: str) -> None:
        """Do nothing: a place that names no picture is none of ours."""

    def keys(self, schema: str, pattern: str) -> list[str]:
        """Return the places of a file that match."""
        text = self.text(schema) or ""
        counts = {id_: len(pictures_in(text, row, str(self._home))) for id_, row in picture_lines().items()}
        names = [f"{id_} {i + 1}" for id_, count in counts.items() for i in range(count)]
        return [name for name in names if fnmatchcase(name, pattern)]

    def file(self, schema: str) -> Path | None:
        """Return the file of a schema."""
        return self._home / schema

    def reread(self, _schema: str) -> None:
        """Do nothing: the program is told when all is written."""


def again(home: Path, program: str, schema: str = "") -> NotifyResult:
    """Start what draws the picture with what its file says now, and end what drew it before.

    schema: the file that starts it; empty for a program that reads a file of its own.
    """
    before = own_processes((program,)).get(program, ())
    if not before:
        return NotifyResult("not running")
    row = picture_lines().get(program)
    commands = [[program]]
    if schema and row is not None:
        commands = words_in(LaunchedPictures(home).text(schema) or "", row, str(home))
    if not commands:
        return NotifyResult("not running")  # something else started it
    started = [start(words) for words in commands]
    if not all(started):
        return NotifyResult("missing", program)
    time.sleep(_COVERS_S)
    return NotifyResult("told" if end(before) else "refused")
