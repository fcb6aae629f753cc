"""Programs that are to run, as settings: started when one is asked for, ended again when it is taken back."""

from __future__ import annotations

import shutil
import time
from pathlib import Path

from .. import processes, x11
from ..base import ABSENT, UNSET, SettingValue
from ..commands import start

RUNS = "runs"
_STARTS_S = 2.0


class Compositors:
    """Compositors of X11 by their executable. Absent where one is not installed, or another one composites already."""

    def read(self, schema: str, _key: str) -> SettingValue:
        """Return whether a compositor runs."""
        if processes.own_processes({schema}):
            return SettingValue("set", RUNS)
        return ABSENT if shutil.which(schema) is None or x11.compositor() is not False else UNSET

    def write(self, schema: str, key: str, _value: str, _kind: str) -> None:
        """Start a compositor where none runs, and wait until it composites."""
        if self.read(schema, key) != UNSET:
            return
        start([schema])
        until = time.monotonic() + _STARTS_S
        while x11.compositor() is False and time.monotonic() < until:
            time.sleep(0.05)

    def reset(self, schema: str, _key: str, _kind: str) -> None:
        """End a compositor."""
        processes.end(processes.own_processes({schema}).get(schema, ()))

    def keys(self, _schema: str, _pattern: str) -> list[str]:
        """Return nothing: they are named one by one."""
        return []

    def file(self, _schema: str) -> Path | None:
        """Return that it stands in no file."""
        return None

    def reread(self, _schema: str) -> None:
        """Do nothing."""
