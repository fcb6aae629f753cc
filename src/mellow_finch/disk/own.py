"""Where the program keeps its own things; the desktop's base directories are followed.

A base directory that is not absolute is ignored, as its specification says.
"""

from __future__ import annotations

import os
from pathlib import Path

APP = "mellow-finch"
_USUAL = {
    "XDG_CONFIG_HOME": ".config",
    "XDG_DATA_HOME": ".local/share",
    "XDG_STATE_HOME": ".local/state",
    "XDG_CACHE_HOME": ".cache",
}


def base_folder(name: str) -> Path:
    """Return a base directory by its variable; raises RuntimeError where the system knows no home."""
    told = os.environ.get(name, "").strip()
    return Path(told) if Path(told).is_absolute() else Path.home() / _USUAL[name]


def state_folder() -> Path:
    """Return the folder for what has to be kept: histories by home, places of pictures."""
    return base_folder("XDG_STATE_HOME") / APP


def config_folder() -> Path:
    """Return the folder for what a person sets."""
    return base_folder("XDG_CONFIG_HOME") / APP


def data_folder() -> Path:
    """Return the folder for what a person keeps: the Shelf, the demo home."""
    return base_folder("XDG_DATA_HOME") / APP


def cache_folder() -> Path:
    """Return the folder for what can be made again."""
    return base_folder("XDG_CACHE_HOME") / APP
