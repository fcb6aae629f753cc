"""The X server's resources: what new programs of X read their colours, fonts and pointers from."""

from __future__ import annotations

import fnmatch
import os
import time
from pathlib import Path

from ..base import ABSENT, UNSET, SettingValue
from ..commands import ask

_FRESH_S = 0.25  # how long an answer is believed; there are many names, and each is asked for


class XResources:
    """Reads by query and puts back by loading all, since a single one cannot be taken out otherwise."""

    def __init__(self) -> None:
        self._known: dict[str, str] | None = None
        self._asked = 0.0

    def _all(self) -> dict[str, str] | None:
        if time.monotonic() - self._asked > _FRESH_S:
            answer = ask(["xrdb", "-query"]) if os.environ.get("DISPLAY") else None
            if answer is None or not answer.ok:
                self._known = None
            else:
                rows = (line.partition(":\t") for line in answer.out.splitlines() if ":\t" in line)
                self._known = {name: value for name, _, value in rows}
            self._asked = time.monotonic()
        return self._known

    def read(self, _schema: str, key: str) -> SettingValue:
        """Return what a resource is."""
        found = self._all()
        if found is None:
            return ABSENT
        return SettingValue("set", found[key]) if key in found else UNSET

    def write(self, _schema: str, key: str, value: str, _kind: str) -> None:
        """Set a resource, all others staying."""
        ask(["xrdb", "-nocpp", "-merge", "-"], text=f"{key}:\t{value}\n")
        if self._known is not None:
            self._known[key] = value

    def reset(self, _schema: str, key: str, _kind: str) -> None:
        """Take a resource out."""
        self._asked = 0.0
        found = self._all()
        if found and found.pop(key, None) is not None:
            rows = "".join(f"{name}:\t{value}\n" for name, value in found.items())
            ask(["xrdb", "-nocpp", "-load", "-"], text=rows)

    def keys(self, _schema: str, pattern: str) -> list[str]:
        """Return the resources that match."""
        return sorted(n for n in self._all() or () if fnmatch.fnmatchcase(n, pattern))

    def file(self, _schema: str) -> Path | None:
        """Return that they stand in no file of the person's own."""
        return None

    def reread(self, _schema: str) -> None:
        """Do nothing."""
