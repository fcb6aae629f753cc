"""Where a home keeps its settings and its data, when its desktop was told to keep them elsewhere in it."""

from __future__ import annotations

import os
from collections.abc import Mapping
from pathlib import Path

from ..components.files import FolderFiles

_USUAL = {".config": "XDG_CONFIG_HOME", ".local/share": "XDG_DATA_HOME"}


def moved_folders(home: Path, environ: Mapping[str, str] = os.environ) -> dict[str, str]:
    """Return where, from the home, the folders lie that the base directory specification lets a person move.

    Only for the person's own home, whose environment this is, and only places inside it; a value that is empty or
    not absolute counts as unset, as the specification says.
    """
    root = home.resolve()
    if root != Path.home().resolve():
        return {}
    out: dict[str, str] = {}
    for usual, name in _USUAL.items():
        place = Path(environ.get(name, ""))
        if place.is_absolute() and place.resolve().is_relative_to(root) and place.resolve() != (root / usual).resolve():
            out[usual] = place.resolve().relative_to(root).as_posix()
    return out


def home_files(home: Path) -> FolderFiles:
    """Return the files of a home by their usual paths, wherever its folders lie."""
    return FolderFiles(home, moved_folders(home))
