"""Settings in files of sections with key=value lines, every other line kept."""

from __future__ import annotations

import fnmatch
from contextlib import suppress
from pathlib import Path

from ...disk.facts import read_plain
from ...disk.write import save
from ...errors import FileAccessError
from ...syntax.ini import drop_keys, read_ini, set_keys
from ..base import ABSENT, SettingValue

_NO_FILE, _NO_SECTION = "no file", "no section"


class KeyFiles:
    """A schema is "path from the home#section". A file that programs write themselves is no place for this."""

    def __init__(self, home: Path) -> None:
        self._home = home

    def _text(self, schema: str) -> tuple[Path, str, str | None]:
        path, _, section = schema.partition("#")
        place = self._home / path
        data = read_plain(place)
        return place, section, None if data is None else data.decode("utf-8", "surrogateescape")

    def read(self, schema: str, key: str) -> SettingValue:
        """Return what a key is; kind tells what is not there yet when it is not set, and how many folders."""
        try:
            place, section, text = self._text(schema)
        except FileAccessError:
            return ABSENT
        if text is None:
            missing = sum(not (self._home / folder).exists() for folder in place.relative_to(self._home).parents)
            return SettingValue("unset", "", f"{_NO_FILE} {missing}")
        found = read_ini(text).get(f"{section}/{key}")
        if found is not None:
            return SettingValue("set", found)
        return SettingValue(
            "unset", "", "" if f"[{section}]" in (r.strip() for r in text.splitlines()) else _NO_SECTION
        )

    def write(self, schema: str, key: str, value: str, _kind: str) -> None:
        """Set a key; raises FileAccessError where the disk refuses."""
        place, section, text = self._text(schema)
        place.parent.mkdir(parents=True, exist_ok=True)
        fresh = set_keys(text or "", section, {key: value})
        save(place, fresh.encode("utf-8", "surrogateescape"))

    def reset(self, schema: str, key: str, kind: str) -> None:
        """Take a key out, and its section or its file where these came with it."""
        place, section, text = self._text(schema)
        if text is None:
            return
        fresh = drop_keys(text, section, (key,))
        no_file = kind.startswith(_NO_FILE)
        if no_file or kind == _NO_SECTION:
            fresh = _without_empty(fresh, section)
        if no_file and not fresh.strip():
            place.unlink(missing_ok=True)
            for folder in list(place.parents)[: int(kind.removeprefix(_NO_FILE) or 0)]:
                with suppress(OSError):  # something else lies in it by now
                    folder.rmdir()
        else:
            save(place, fresh.encode("utf-8", "surrogateescape"))

    def keys(self, schema: str, pattern: str) -> list[str]:
        """Return the keys of a section that match."""
        try:
            _, section, text = self._text(schema)
        except FileAccessError:
            return []
        head = f"{section}/"
        own = [k.removeprefix(head) for k in read_ini(text or "") if k.startswith(head)]
        return sorted(fnmatch.filter(own, pattern))

    def file(self, schema: str) -> Path | None:
        """Return the file of a schema."""
        return self._home / schema.partition("#")[0]

    def reread(self, _schema: str) -> None:
        """Do nothing: who reads such a file watches it."""


def _without_empty(text: str, section: str) -> str:
    """Return the text without a section that holds nothing, and without the empty line before it."""
    lines = text.splitlines(keepends=True)
    for i, line in enumerate(lines):
        if line.strip() != f"[{section}]":
            continue
        after = next((n for n in range(i + 1, len(lines)) if lines[n].strip()), len(lines))
        if after == len(lines) or lines[after].lstrip().startswith("["):
            first = i - 1 if i and not lines[i - 1].strip() else i
            return "".join([*lines[:first], *lines[i + 1 :]])
    return text
