"""Building the demo home of Reedholm from the files that ship with the program."""

from __future__ import annotations

import shutil
from importlib.resources import as_file, files
from pathlib import Path

from ..errors import file_errors
from .turnstone import NAME, turnstone_archive

PICTURES = (
    "reedbed-at-dawn.jpg",
    "dusk-murmuration.jpg",
    "mudflat-in-rain.jpg",
    "frost-on-sedge.jpg",
    "lighthouse-fog.jpg",
)


# Programs that the made-up desktop has: empty scripts, never run, which tell that they are installed.
PROGRAMS = ("kitty", "foot", "rofi", "dunst", "i3", "openbox", "conky", "vim", "gedit", "xfce4-panel", "tilix")


def _install_programs(folder: Path) -> None:
    own = folder / ".local" / "bin"
    own.mkdir(parents=True, exist_ok=True)
    for name in PROGRAMS:
        path = own / name
        path.write_text("#!/bin/sh\n", encoding="ascii")
        path.chmod(0o755)


def build_demo_home(folder: Path, fresh: bool = False) -> Path:
    """Return the demo home in a folder, made when it is not there or is to be fresh."""
    if fresh and folder.exists():
        shutil.rmtree(folder)
    if not folder.exists():
        with file_errors(folder, "make"), as_file(files("mellow_finch.demo")) as source:
            folder.parent.mkdir(parents=True, exist_ok=True)
            building = folder.with_name(folder.name + ".building")
            shutil.rmtree(building, ignore_errors=True)
            shutil.copytree(source / "home", building)
            shutil.copytree(source / "pictures", building / "Pictures")
            _install_programs(building)
            building.rename(folder)
    archive = folder / "Downloads" / f"{NAME}.tar.gz"
    if not archive.exists():
        with file_errors(archive, "make"):
            archive.parent.mkdir(exist_ok=True)
            archive.write_bytes(turnstone_archive())
    return folder


def demo_archive(home: Path) -> Path:
    """Return the archive of a theme that lies among the downloads of a demo home."""
    return home / "Downloads" / f"{NAME}.tar.gz"


def demo_pictures(home: Path) -> list[Path]:
    """Return the pictures of a demo home, in the order in which they are shown."""
    return [p for p in (home / "Pictures" / name for name in PICTURES) if p.is_file()]
