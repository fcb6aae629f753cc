"""Where the program keeps its own things; the desktop's base directories are followed."""

from __future__ import annotations

from pathlib import Path

import platformdirs

APP = "mellow-finch"


def state_folder() -> Path:
    """Return the folder for what has to be kept: histories by home, places of pictures."""
    return platformdirs.user_state_path(APP)
