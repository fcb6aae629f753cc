"""Which programs can be run on a home's desktop: the person's own PATH, or the folders of programs in another home."""

from __future__ import annotations

import os
import shutil
from collections.abc import Callable
from pathlib import Path

_OWN_FOLDERS = (".local/bin", "bin")


def programs_of(home: Path) -> Callable[[str], bool]:
    """Return what tells whether a program can be run there; nothing is run to find out."""
    path = None if home.resolve() == Path.home().resolve() else os.pathsep.join(str(home / f) for f in _OWN_FOLDERS)

    def has(name: str) -> bool:
        return shutil.which(name, path=path) is not None

    return has
