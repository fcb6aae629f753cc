"""The file of the stand-alone X settings daemon: lines of a name and a value, read again at a signal."""

from __future__ import annotations

import fnmatch
import os
import re
import signal
from contextlib import suppress
from pathlib import Path

from ...disk.facts import read_plain
from ...disk.write import save
from ...errors import FileAccessError
from ..base import ABSENT, UNSET, SettingValue
from ..processes import own_processes

FILE = ".config/xsettingsd/xsettingsd.conf"
_PROGRAM = "xsettingsd"
_LINE = re.compile(r"^(?P<name>[A-Za-z][\w/]*)[ \t]+(?P<value>\"(?:[^\"\\\n]|\\.)*\"|-?\d+)[ \t]*$", re.MULTILINE)


class Xsettingsd:
    """Absent where the daemon does not run: a second one would end the desktop's own."""

    def __init__(self, home: Path) -> None:
        self._place = home / FILE

    def _text(self) -> str | None:
        if not own_processes((_PROGRAM,)):
            return None
        try:
            return (read_plain(self._place) or b"").decode("utf-8", "surrogateescape")
        except FileAccessError:
            return None

    def read(self, _schema: str, key: str) -> SettingValue:
        """Return what a name is; text without its quotes."""
        text = self._text()
        if text is None:
            return ABSENT
        found = next((m["value"] for m in _LINE.finditer(text) if m["name"] == key), None)
        return (
            UNSET
            if found is None
            else SettingValue("set", re.sub(r"\\(.)", r"\1", found[1:-1]) if found[0] == '"' else found)
        )

    def write(self, _schema: str, key: str, value: str, kind: str) -> None:
        """Set a name and let the daemon read its file again."""
        escaped = value.replace("\\", "\\\\").replace('"', '\\"').replace("\n", " ")
        self._put(key, f"{key} {value if kind == 'i' else chr(34) + escaped + chr(34)}\n")

    def reset(self, _schema: str, key: str, _kind: str) -> None:
        """Take a name out; programs that run keep the last value until they are started again."""
        self._put(key, "")

    def _put(self, key: str, line: str) -> None:
        """Put a line in the place of the last one of a name, else at the end; others of that name go."""
        text = self._text()
        if text is None:
            return
        rows = text.splitlines(keepends=True)
        found = [i for i, row in enumerate(rows) if (m := _LINE.match(row)) and m["name"] == key]
        if found:
            rows = [line if i == found[-1] else row for i, row in enumerate(rows) if i == found[-1] or i not in found]
        elif line:
            rows = [*rows[:-1], *(row if row.endswith("\n") else f"{row}\n" for row in rows[-1:]), line]
        save(self._place, "".join(rows).encode("utf-8", "surrogateescape"))
        self.reread("")

    def file(self, _schema: str) -> Path | None:
        """Return the daemon's file."""
        return self._place

    def reread(self, _schema: str) -> None:
        """Let the daemon read its file again."""
        for pid in own_processes((_PROGRAM,)).get(_PROGRAM, ()):
            with suppress(ProcessLookupError):
                os.kill(pid, signal.SIGHUP)

    def keys(self, _schema: str, pattern: str) -> list[str]:
        """Return the names that match."""
        return sorted(n for m in _LINE.finditer(self._text() or "") if fnmatch.fnmatchcase(n := m["name"], pattern))
