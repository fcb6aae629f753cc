"""Which components a home has: by its files, by what runs and is installed there, and by what is worn."""

from __future__ import annotations

import os
from collections.abc import Mapping
from pathlib import Path

from ..components.catalogue import COMPONENTS
from ..components.files import Files
from ..components.read.presence import Presence, presence_of
from ..session.desktop import desktops, told_apart
from ..session.processes import own_processes
from ..session.programs import programs_of
from .history import History


def presence_in(home: Path, files: Files, history: History) -> Mapping[str, Presence]:
    """Return by component whether a home has it, and how that was told.

    files: the person's own, as they were before any look. Programs that run count in the person's own home only.
    """
    has = programs_of(home)
    own = home.resolve() == Path.home().resolve()
    running = own_processes({p for c in COMPONENTS for p in c.programs}) if own else {}
    desktop = told_apart(os.environ, own_processes({p for d in desktops() for p in d.programs})) if own else None
    worn = history.last_worn()
    dressed = frozenset[str]()
    if worn is not None:
        dressed = frozenset((*(c for row in worn.files for c in row.components), *(r.component for r in worn.settings)))
    lazy = {desktop.notices: desktop.title} if desktop is not None else {}  # whose program starts when it is needed
    return {
        c.id: presence_of(c, files, has, running.__contains__, c.id in dressed, lazy.get(c.id, "")) for c in COMPONENTS
    }


def present_here(home: Path, files: Files, history: History) -> frozenset[str]:
    """Return the ids of the components that a look dresses there unless it says otherwise."""
    return frozenset(id_ for id_, found in presence_in(home, files, history).items() if found.here)
