"""Every component there is, in the order in which people see them. One row each."""

from __future__ import annotations

from .gtk import GTK3, GTK4
from .kde import KDE
from .model import Component
from .shell import SHELL
from .terminal import TERMINAL
from .widget import WIDGET

COMPONENTS: tuple[Component, ...] = (GTK4, GTK3, KDE, TERMINAL, SHELL, WIDGET)
COMPONENT_BY_ID: dict[str, Component] = {c.id: c for c in COMPONENTS}
