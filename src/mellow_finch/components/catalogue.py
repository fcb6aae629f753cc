"""Every component there is. Most are data files in `definitions`; a few have writers of their own, one row each.

A person's own come and go while the program runs: `read_anew` changes both collections in their place.
"""

from __future__ import annotations

from .define import definitions, own_definitions
from .gtk import GTK3, GTK4
from .kde import KDE
from .model import Component
from .terminal import TERMINAL

KINDS: tuple[str, ...] = (
    "Toolkits",
    "Window borders",
    "Shell",
    "Panels and docks",
    "Launchers",
    "Notifications",
    "Terminals",
    "Terminal programs",
    "Editors",
    "Office and pictures",
    "Viewers and players",
    "Chat and mail",
    "Widgets",
    "Browser",
    "Lock and login",
)


COMPONENTS: list[Component] = []
COMPONENT_BY_ID: dict[str, Component] = {}


def read_anew() -> None:
    """Read a person's own definitions anew.

    Those that have the id of another, or a kind that is not known, are left out.
    """
    shipped = (GTK4, GTK3, KDE, TERMINAL, *definitions())
    taken = {c.id for c in shipped}
    rows = [c for c in (*shipped, *(own for own in own_definitions() if own.id not in taken)) if c.kind in KINDS]
    COMPONENTS[:] = sorted(rows, key=lambda c: KINDS.index(c.kind))
    found = {c.id: c for c in COMPONENTS}
    COMPONENT_BY_ID.update(found)
    for gone in set(COMPONENT_BY_ID) - set(found):
        del COMPONENT_BY_ID[gone]


read_anew()
