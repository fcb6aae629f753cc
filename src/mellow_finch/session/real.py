"""The person's own desktop, through its settings command and their own terminals."""

from __future__ import annotations

import ast
import os
import shutil
import stat
import subprocess
from pathlib import Path

from .base import ABSENT, UNSET, Reading, Setting

_LIMIT_S = 5


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


class RealSession:
    """Reads and writes settings with `gsettings` where it is installed; otherwise every setting counts as absent."""

    def __init__(self) -> None:
        self._command = shutil.which("gsettings")
        self._dconf = shutil.which("dconf")
        self._paths: dict[str, str] | None = None

    @staticmethod
    def _run(command: str, *words: str, memory: bool = False) -> str | None:
        """Return what a command prints, None when it fails; memory: asked of an empty store, for the default."""
        environment = {**os.environ, "GSETTINGS_BACKEND": "memory"} if memory else None
        try:
            done = subprocess.run(
                [command, *words], capture_output=True, text=True, timeout=_LIMIT_S, check=False, env=environment
            )
        except (OSError, subprocess.TimeoutExpired, UnicodeError):
            return None
        return done.stdout.strip() if done.returncode == 0 else None

    def _path(self, schema: str) -> str:
        """Return where a schema's keys lie in the store, empty when that cannot be found out."""
        if self._paths is None and self._command is not None:
            rows = (self._run(self._command, "list-schemas", "--print-paths") or "").splitlines()
            self._paths = {name: path for name, _, path in (row.partition(" ") for row in rows)}
        return (self._paths or {}).get(schema, "").strip()

    def _raw(self, setting: Setting) -> str | None:
        return self._run(self._command, "get", setting.schema, setting.key) if self._command else None

    def read(self, setting: Setting) -> Reading:
        """Return what a setting is; without `dconf` one that has its default counts as not set."""
        raw = self._raw(setting)
        if raw is None or self._command is None:
            return ABSENT
        path = self._path(setting.schema)
        if self._dconf is not None and path and os.environ.get("GSETTINGS_BACKEND", "dconf") == "dconf":
            stored = self._run(self._dconf, "read", path + setting.key)
            return UNSET if not stored else Reading("set", unquoted(stored))
        if raw == self._run(self._command, "get", setting.schema, setting.key, memory=True):
            return UNSET
        return Reading("set", unquoted(raw))

    def write(self, setting: Setting) -> None:
        """Set a setting that exists; a value that it has already is not written again."""
        raw = self._raw(setting)
        if raw is None or self._command is None or self.read(setting) == Reading("set", setting.value):
            return
        text = quoted(setting.value) if raw[:1] in ("'", '"') else setting.value
        self._run(self._command, "set", setting.schema, setting.key, text)

    def reset(self, setting: Setting) -> None:
        """Let a setting be not set."""
        if self._command is not None:
            self._run(self._command, "reset", setting.schema, setting.key)

    def broadcast(self, sequences: str) -> int:
        """Write to the person's own pseudo-terminals, never waiting for one."""
        count = 0
        for path in sorted(Path("/dev/pts").glob("[0-9]*")):
            try:
                info = path.stat()
                if info.st_uid != os.getuid() or not stat.S_ISCHR(info.st_mode):
                    continue
                handle = os.open(path, os.O_WRONLY | os.O_NONBLOCK | os.O_NOCTTY)
            except OSError:
                continue
            try:
                os.write(handle, sequences.encode("ascii"))
                count += 1
            except OSError:
                continue
            finally:
                os.close(handle)
        return count


def session_for(home: Path) -> RealSession | None:
    """Return the real desktop when this is the person's own home, else None."""
    return RealSession() if home.resolve() == Path.home().resolve() else None
