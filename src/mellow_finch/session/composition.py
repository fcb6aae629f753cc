"""What is on a person's desktop: which panel, menu, dock, notifications, terminal, widget, window decorations."""

from __future__ import annotations

import re
from collections.abc import Collection, Iterator, Mapping
from dataclasses import dataclass

from ..components.catalogue import COMPONENT_BY_ID
from ..components.files import Files, text_of
from ..components.model import Component
from ..components.read.presence import Presence
from ..components.read.values import first_of
from .bar_items import BarItems, items_of
from .desktop import Desktop

BOTTOM = "bottom"
_NO_TERMINALS = ("prompt", "console")  # drawn as one, and no window of a desktop
GTK = "gtk-3"  # whose sheet paints the panels of desktops that are built on it


@dataclass(frozen=True, slots=True)
class Composition:
    """The components that draw what stands on a desktop, by their ids; empty for what is not there.

    low: whether the panel lies at the lower edge; dock: what draws a dock, or a second panel below; items: what stands
    on the panel and in which order, None where that is not known.
    """

    panel: str = "shell"
    low: bool = False
    dock: str = "shell"
    notices: str = "shell"
    terminal: str = "terminal"
    widget: str = "widget"
    borders: str = "kde"
    items: BarItems | None = None


WHOLE = Composition()  # a desktop that has everything


def composition_of(
    desktop: Desktop | None, presence: Mapping[str, Presence], running: Collection[str], home: Files
) -> Composition:
    """Return what stands on the desktop that runs.

    What runs comes first, then what the desktop starts of itself, then what the home has set up.

    Args:
        desktop: the one that runs, None for none that is known.
        presence: which components the home has.
        running: executables that run as the person's own.
        home: the person's own files.
    """
    own = desktop or Desktop(id="", title="")

    def standing(scene: str, without: Collection[str] = ()) -> Iterator[str]:
        """Yield the components of a kind that run, first those that the home has set up."""
        found = [c for c in COMPONENT_BY_ID.values() if c.scene == scene and c.id not in without]
        runs = [c for c in found if running_of(c) & set(running)]
        yield from (c.id for c in sorted(runs, key=lambda c: not first_of(home, c.signs)))

    def usual(id_: str) -> str:
        return id_ if id_ and presence[id_].here else ""

    def set_up(scene: str) -> Iterator[str]:
        found = (c for c in COMPONENT_BY_ID.values() if c.scene == scene and c.id not in _NO_TERMINALS)
        yield from (c.id for c in found if presence[c.id].here and first_of(home, c.signs))

    borders = next(standing("borders"), own.borders or "kde")
    bar = next(standing("bar", without=("panel-strip",)), "")
    panel = own.shell or bar or (borders if _has_bar(borders, running) else "")
    edge = _edge_of(panel, own, home)
    terminal = usual(own.terminal) or next(set_up("terminal"), "") or usual_resources(home)
    return Composition(
        panel=panel,
        low=edge == BOTTOM,
        dock=next(standing("dock"), own.shell if own.dock and panel == own.shell and edge != BOTTOM else ""),
        notices=next(standing("notice"), usual(own.notices)),
        terminal=next(standing("terminal", without=_NO_TERMINALS), terminal),
        widget=next(standing("widget"), ""),
        borders=borders,
        items=_items_of(panel, own, home),
    )


def usual_resources(home: Files) -> str:
    """Return the component of terminals that are set by X resources, where the home has such."""
    return "terminal" if home(".Xresources") is not None else ""


def programs_told_by() -> frozenset[str]:
    """Return every executable by which it is told what stands on a desktop."""
    return frozenset({*_BARS, *(p for c in COMPONENT_BY_ID.values() for p in running_of(c))})


def running_of(component: Component) -> frozenset[str]:
    """Return the executables that show that a component stands on the desktop."""
    return frozenset((*component.programs, *component.restarts[:1]))


_BARS = ("i3bar", "swaybar", "awesome", "qtile")  # of window managers, which draw them by their own configuration


def _has_bar(borders: str, running: Collection[str]) -> bool:
    """Tell whether a window manager's own bar is up."""
    return "bar" in COMPONENT_BY_ID[borders].by_key and bool(set(_BARS) & set(running))


def _items_of(panel: str, desktop: Desktop, home: Files) -> BarItems | None:
    """Return what stands on a panel, as far as its configuration tells."""
    if panel == desktop.shell and desktop.edge and desktop.items:
        return items_of(desktop.items, desktop.edge[:1], home)
    known = COMPONENT_BY_ID.get(panel)
    return items_of(known.items, known.signs, home) if known is not None else None


def _edge_of(panel: str, desktop: Desktop, home: Files) -> str:
    """Return at which edge a panel lies, as far as its configuration tells."""
    if panel == desktop.shell and desktop.edge:
        paths, low, high = desktop.edge
        return _told(home, (paths,), low, high) or desktop.panel
    known = COMPONENT_BY_ID.get(panel)
    if known is None:
        return desktop.panel
    if known.edge is None:
        return known.layout or "top"
    low, high, usual = known.edge
    return _told(home, known.signs, low, high) or usual


def _told(home: Files, paths: Collection[str], low: str, high: str) -> str:
    """Return the edge that is named first in the first file that names one: where the first panel lies."""
    for pattern in paths:
        for path in home.find(pattern) if "*" in pattern else [pattern]:
            text = text_of(home, path)
            found = {edge: re.search(words, text, re.MULTILINE) for edge, words in ((BOTTOM, low), ("top", high))}
            starts = {edge: match.start() for edge, match in found.items() if match is not None}
            if starts:
                return min(starts, key=starts.__getitem__)
    return ""
