"""The X server's resources: what new programs of X read their colours, fonts and pointers from."""

from __future__ import annotations

import fnmatch
import os

from ..base import ABSENT, UNSET, Reading
from ..commands import ask


class XResources:
    """Reads by query and puts back by loading all, since a single one cannot be taken out otherwise."""

    def _all(self) -> dict[str, str] | None:
        answer = ask(["xrdb", "-query"]) if os.environ.get("DISPLAY") else None
        if answer is None or not answer.ok:
            return None
        rows = (line.partition(":\t") for line in answer.out.splitlines() if ":\t" in line)
        return {name: value for name, _, value in rows}

    def read(self, _schema: str, key: str) -> Reading:
        """Return what a resource is."""
        found = self._all()
        if found is None:
            return ABSENT
        return Reading("set", found[key]) if key in found else UNSET

    def write(self, _schema: str, key: str, value: str, _kind: str) -> None:
        """Set a resource, all others staying."""
        ask(["xrdb", "-merge", "-"], text=f"{key}:\t{value}\n")

    def reset(self, _schema: str, key: str, _kind: str) -> None:
        """Take a resource out."""
        found = self._all()
        if found and found.pop(key, None) is not None:
            ask(["xrdb", "-load", "-"], text="".join(f"{name}:\t{value}\n" for name, value in found.items()))

    def keys(self, _schema: str, pattern: str) -> list[str]:
        """Return the resources that match."""
        return sorted(n for n in self._all() or () if fnmatch.fnmatchcase(n, pattern))
