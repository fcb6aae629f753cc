"""Every component there is. Most are data files in `definitions`; a few have writers of their own, one row each."""

from __future__ import annotations

from .define import definitions
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


def _in_order() -> tuple[Component, ...]:
    rows = [c for c in (GTK4, GTK3, KDE, TERMINAL, *definitions()) if c.kind in KINDS]
    return tuple(sorted(rows, key=lambda c: KINDS.index(c.kind)))


COMPONENTS: tuple[Component, ...] = _in_order()
COMPONENT_BY_ID: dict[str, Component] = {c.id: c for c in COMPONENTS}
