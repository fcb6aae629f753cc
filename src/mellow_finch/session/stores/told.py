"""Settings that a program keeps in a file of its own and takes through a command of its own."""

from __future__ import annotations

import re
from pathlib import Path

from ...disk.facts import read_plain
from ...errors import FileAccessError
from ..base import ABSENT, SettingValue
from ..commands import ask
from ..desktop import ToldPlace
from ..processes import own_processes
from .keyfile import KeyFiles


class ToldProgram:
    """Read from the file in which the program keeps it, or its answer; written by the program's own command."""

    def __init__(self, home: Path, place: ToldPlace) -> None:
        self._home, self._files, self._place = home, KeyFiles(home), place

    def read(self, schema: str, key: str) -> SettingValue:
        """Return what the program keeps; absent where it does not run, or has kept nothing yet that could be read."""
        place = self._place
        if place.program and not own_processes((place.program,)):
            return ABSENT
        if not place.pattern:
            found = self._files.read(schema, key)
            if found.state == "set" and place.kind_key:
                return found._replace(kind=self._files.read(schema, place.kind_key).value)
            return found
        try:
            if place.asks:
                text = ask(place.asks).out
            else:
                text = (read_plain(self._home / place.file) or b"").decode("utf-8", "replace")
        except FileAccessError:
            return ABSENT
        told = re.search(place.pattern, text)
        return SettingValue("set", told["value"], told["kind"]) if told else ABSENT

    def write(self, _schema: str, _key: str, value: str, kind: str) -> None:
        """Tell the program."""
        for words in (self._place.first, self._place.command):
            if words:
                ask([word.replace("{value}", value).replace("{kind}", kind) for word in words])

    def reset(self, _schema: str, _key: str, _kind: str) -> None:
        """Tell the program what it shows when nothing was set, where it can be told that."""
        if self._place.reset:
            ask(self._place.reset)

    def keys(self, schema: str, pattern: str) -> list[str]:
        """Return the keys that match."""
        return self._files.keys(schema, pattern)

    def file(self, schema: str) -> Path | None:
        """Return the file in which the program keeps it."""
        return self._home / self._place.file if self._place.file else self._files.file(schema)

    def reread(self, _schema: str) -> None:
        """Do nothing: the program was told already."""
