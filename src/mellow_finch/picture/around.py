"""The pictures that somebody may want to start from: those of the home, newest first, and those of the system."""

from __future__ import annotations

import os
import re
from collections.abc import Iterator
from pathlib import Path

from ..disk.facts import read_plain
from ..errors import FinchError
from .load import SUFFIXES

_SYSTEM = ("/usr/share/backgrounds", "/usr/share/wallpapers")
_OWN = ("Pictures", "Wallpapers", "wallpapers", ".local/share/backgrounds", ".config/wallpapers")
_PICTURES = re.compile(r'(?m)^XDG_PICTURES_DIR="(?:\$HOME/)?([^"\n]*)"')
_MOST_SEEN = 2000  # entries that are looked at in each folder
_MOST_DEPTH = 3
_LEAST_BYTES = 20_000  # smaller files are signs rather than pictures


def pictures_around(home: Path, most: int = 24, system: bool = True) -> list[Path]:
    """Return up to so many pictures: the newest of the home's folders of pictures, then those of the system.

    Only names and sizes are looked at, and not without end; what cannot be looked into is passed over.
    """
    found: dict[Path, None] = {}
    for folders in (tuple(home / name for name in _named(home)), tuple(map(Path, _SYSTEM)) if system else ()):
        rows = [row for folder in folders for row in _pictures_below(folder, _MOST_DEPTH)]
        for _, path in sorted(rows, key=lambda row: (-row[0], row[1])):
            found.setdefault(path)
    return list(found)[:most]


def folder_of_pictures(home: Path) -> Path:
    """Return the folder in which the home keeps its pictures, or the home where it has none."""
    return next((home / name for name in _named(home)[:2] if (home / name).is_dir()), home)


def _named(home: Path) -> list[str]:
    """Return the folders of pictures of a home, the one that its settings name first."""
    try:
        text = (read_plain(home / ".config/user-dirs.dirs", 100_000) or b"").decode("utf-8", "replace")
    except FinchError:
        text = ""
    said = _PICTURES.search(text)
    return list(dict.fromkeys([*([said.group(1)] if said and said.group(1) else ()), *_OWN]))


def _pictures_below(folder: Path, depth: int) -> Iterator[tuple[float, Path]]:
    """Yield the pictures of a folder and of those in it, with their times."""
    try:
        with os.scandir(folder) as entries:
            rows = [entry for _, entry in zip(range(_MOST_SEEN), entries, strict=False)]
    except OSError:
        return
    for entry in sorted(rows, key=lambda e: e.name):
        if entry.name.startswith("."):
            continue
        try:
            if entry.is_dir(follow_symlinks=False):
                if depth > 1:
                    yield from _pictures_below(Path(entry.path), depth - 1)
            elif Path(entry.name).suffix.lower() in SUFFIXES and entry.is_file():
                info = entry.stat()
                if info.st_size >= _LEAST_BYTES:
                    yield info.st_mtime, Path(entry.path)
        except OSError:
            continue
