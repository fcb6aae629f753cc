"""Settings by schema, through the desktop's own commands."""

from __future__ import annotations

import ast
import fnmatch
import os
import shutil
from pathlib import Path

from ..base import ABSENT, UNSET, SettingValue
from ..commands import ask


def quoted(text: str) -> str:
    """Return a text as the settings command reads it back as the same text."""
    return "'" + text.replace("\\", "\\\\").replace("'", "\\'").replace("\n", "\\n") + "'"


def unquoted(raw: str) -> str:
    """Return the plain text of what the settings command prints; other types than text stay as printed."""
    if raw[:1] in ("'", '"'):
        try:
            return str(ast.literal_eval(raw))
        except (ValueError, SyntaxError):
            return raw
    return raw


class GSettings:
    """Reads and writes with `gsettings` where it is installed; otherwise every setting counts as absent.

    A schema that can lie at several paths is named with the one that is meant: "schema:/its/path/".
    """

    def __init__(self) -> None:
        self._there = shutil.which("gsettings") is not None
        self._dconf = shutil.which("dconf") is not None
        self._paths: dict[str, str] | None = None

    def _run(self, *words: str, memory: bool = False) -> str | None:
        """Return what the command prints, None when it fails; memory: asked of an empty store, for the default."""
        if not self._there:
            return None
        answer = ask(["gsettings", *words], extra={"GSETTINGS_BACKEND": "memory"} if memory else None)
        return answer.out.strip() if answer.ok else None

    def _path(self, schema: str) -> str:
        """Return where a schema's keys lie in the store, empty when that cannot be found out."""
        if ":" in schema:
            return schema.partition(":")[2]
        if self._paths is None:
            rows = (self._run("list-schemas", "--print-paths") or "").splitlines()
            self._paths = {name: path for name, _, path in (row.partition(" ") for row in rows)}
        return self._paths.get(schema, "").strip()

    def read(self, schema: str, key: str) -> SettingValue:
        """Return what a setting is; without `dconf` one that has its default counts as not set."""
        raw = self._run("get", schema, key)
        if raw is None:
            return ABSENT
        path = self._path(schema)
        if self._dconf and path and os.environ.get("GSETTINGS_BACKEND", "dconf") == "dconf":
            stored = ask(["dconf", "read", path + key])
            return (
                UNSET if not stored.ok or not stored.out.strip() else SettingValue("set", unquoted(stored.out.strip()))
            )
        if raw == self._run("get", schema, key, memory=True):
            return UNSET
        return SettingValue("set", unquoted(raw))

    def write(self, schema: str, key: str, value: str, _kind: str) -> None:
        """Set a setting that exists; a value that it has already is not written again."""
        raw = self._run("get", schema, key)
        if raw is None or self.read(schema, key).has(value):
            return
        self._run("set", schema, key, quoted(value) if raw[:1] in ("'", '"') else value)

    def reset(self, schema: str, key: str, _kind: str) -> None:
        """Let a setting be not set."""
        self._run("reset", schema, key)

    def keys(self, schema: str, pattern: str) -> list[str]:
        """Return the keys of a schema that match."""
        return sorted(fnmatch.filter((self._run("list-keys", schema) or "").split(), pattern))

    def file(self, _schema: str) -> Path | None:
        """Return that they stand in no file of the person's own."""
        return None

    def reread(self, _schema: str) -> None:
        """Do nothing."""
