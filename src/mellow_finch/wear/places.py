"""Where the program keeps its own things: histories by home, the demo home, saved looks."""

from __future__ import annotations

import hashlib
from pathlib import Path

from ..disk import own
from ..errors import WearError
from ..language import isolated, tr


def history_folder(home: Path) -> Path:
    """Return the folder for the history of a home, outside of any other home than the person's own."""
    name = hashlib.sha256(str(home.resolve()).encode("utf-8", "surrogateescape")).hexdigest()[:16]
    return own.state_folder() / "history" / name


def own_home() -> Path:
    """Return the home of whoever runs this; raises WearError when the system does not know one."""
    try:
        return Path.home()
    except RuntimeError as error:
        raise WearError(tr("Your home folder could not be found."), tr("Name it with --home.")) from error


def home_title(home: Path) -> str:
    """Return what a home folder is called."""
    if home.parent.name == "demo":
        return tr("Demo home folder")
    return tr("Your own home folder") if home.resolve() == own_home().resolve() else isolated(str(home))


def demo_folder() -> Path:
    """Return where the demo home is built."""
    return own.data_folder() / "demo" / "home"


def cache_folder() -> Path:
    """Return where colours and thumbnails of pictures are kept; losing it loses nothing."""
    return own.cache_folder() / "pictures"


def window_file() -> Path:
    """Return the file in which the window keeps its size and the person's settings."""
    return own.config_folder() / "window.ini"
