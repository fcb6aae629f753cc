"""Homes with files of every kind that components recolour, beside the demo's own, and what tells two states of one apart."""

from __future__ import annotations

import os
import shutil
import stat
from pathlib import Path

from mellow_finch.components.catalogue import COMPONENTS
from mellow_finch.components.files import FolderFiles
from mellow_finch.demo.build import build_demo_home
from mellow_finch.look.dressed import dress, every_component
from mellow_finch.look.model import Look

DATA = Path(__file__).parents[2] / "tests" / "data" / "homes"
USUAL, CLOSER = DATA / "usual", DATA / "closer"
SHRILL = ("#31ff07", "#0a0aff")


class OwnFiles(FolderFiles):
    """The files of a home, on a machine of which nothing is known."""

    def __call__(self, path):
        """Return a file's bytes, None for one of the system."""
        return None if path.startswith("/") else super().__call__(path)

    def find(self, pattern):
        """Return the files that match."""
        return [] if pattern.startswith("/") else super().find(pattern)


def whole_home(folder: Path) -> FolderFiles:
    """Return the demo home with a file of every kind that is recoloured or added to."""
    home = build_demo_home(folder / "whole" / "home")
    shutil.copytree(USUAL, home, dirs_exist_ok=True)
    return OwnFiles(home)


def full_home(folder: Path) -> Path:
    """Return a home that has a file of every kind, and every program of the catalogue on its own path."""
    home = whole_home(folder).root
    for name in sorted({program for component in COMPONENTS for program in component.programs}):
        program = home / ".local/bin" / name
        program.write_text("#!/bin/sh\n")
        program.chmod(0o755)
    return home


def coloured_home(folder: Path, look: Look) -> FolderFiles:
    """Return a home whose every file sets every colour already, in the colours of a look, as lines of the person's own."""
    home = whole_home(folder).root
    for output in dress(look, FolderFiles(home), every_component(look)).outputs:
        target = home / output.path.replace("mellow-finch", "of-my-own")
        target.parent.mkdir(parents=True, exist_ok=True)
        target.write_bytes(output.data.replace(b"mellow-finch", b"of-my-own"))
    return FolderFiles(home)


def closer_home(folder: Path) -> FolderFiles:
    """Return a home with all that people write to win over a theme: closer, later, in other files, in own rules."""
    home = whole_home(folder).root
    shutil.copytree(CLOSER, home, dirs_exist_ok=True)
    return FolderFiles(home)


def state(home: Path) -> dict[str, tuple[object, ...]]:
    """Return everything that tells two homes apart: names, kinds, modes, owners, attributes, bytes, links of both kinds."""
    out: dict[str, tuple[object, ...]] = {}
    names: dict[int, list[str]] = {}
    for folder, folders, files in os.walk(home):
        for name in (*folders, *files):
            path = Path(folder, name)
            info = path.lstat()
            short = str(path.relative_to(home))
            owner = (stat.S_IMODE(info.st_mode), info.st_uid, info.st_gid)
            if stat.S_ISLNK(info.st_mode):
                out[short] = ("link", os.fsencode(os.readlink(path)))  # noqa: PTH115 - a Path would tidy the text up
            elif stat.S_ISDIR(info.st_mode):
                out[short] = ("folder", *owner)
            elif stat.S_ISREG(info.st_mode):
                attributes = [(n, os.getxattr(path, n)) for n in sorted(os.listxattr(path)) if n.startswith("user.")]
                out[short] = ("file", *owner, path.read_bytes(), str(attributes))
                names.setdefault(info.st_ino, []).append(short)
            else:
                out[short] = ("odd", *owner)
    for group in names.values():
        for short in group:
            out[short] = (*out[short], tuple(sorted(group)))
    return out


def bytes_of(entry: tuple[object, ...] | None) -> object:
    """Return the bytes of a file in a state."""
    return entry[4] if entry is not None and entry[0] == "file" else entry
