"""Every component there is. Most are data files in `definitions`; a few have writers of their own, one row each.

A person's own come and go while the program runs: `read_anew` changes both collections in their place.
"""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import replace
from fnmatch import fnmatchcase
from typing import NamedTuple

from .define.definition import definitions
from .define.guarded import file_of, own_components, set_aside
from .define.kinds import KINDS
from .define.own import own_texts
from .model import Component
from .write.gtk import GTK3, GTK4
from .write.kde import KDE
from .write.terminal import TERMINAL


class OwnRow(NamedTuple):
    """A file of the folder of own definitions: the component that it defines, if any, and why it is not used."""

    file: str
    component: Component | None
    why: str


COMPONENTS: list[Component] = []
COMPONENT_BY_ID: dict[str, Component] = {}


def shipped_components() -> tuple[Component, ...]:
    """Return the components that come with the program; each sees what earlier ones made of the files it changes."""
    return _seeing((GTK4, GTK3, KDE, TERMINAL, *definitions()))


def _seeing(rows: Iterable[Component]) -> tuple[Component, ...]:
    """Return components of which each comes after those before it that may write the same files."""
    out: list[Component] = []
    for row in rows:
        shared = (c.id for c in out if c.id not in row.after and shares_files(row, c))
        out.append(replace(row, after=(*row.after, *shared)))
    return tuple(out)


def read_anew() -> None:
    """Read a person's own definitions anew."""
    shipped = shipped_components()
    rows = _seeing((*shipped, *own_components({c.id for c in shipped})))
    COMPONENTS[:] = sorted(rows, key=lambda c: KINDS.index(c.kind))
    found = {c.id: c for c in COMPONENTS}
    COMPONENT_BY_ID.update(found)
    for gone in set(COMPONENT_BY_ID) - set(found):
        del COMPONENT_BY_ID[gone]


def shares_files(one: Component, other: Component) -> bool:
    """Tell whether two components may write the same file."""
    return any(fnmatchcase(a, b) or fnmatchcase(b, a) for a in one.places for b in other.places)


def own_rows() -> tuple[OwnRow, ...]:
    """Return every definition of a person's own, in the order of their files, those that do not work too."""
    aside = {row.file: row.why for row in set_aside()}
    used = {file_of(c.id): c for c in COMPONENTS if file_of(c.id)}
    return tuple(OwnRow(file, used.get(file), aside.get(file, "")) for file, _ in own_texts())


read_anew()
