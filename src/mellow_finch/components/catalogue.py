"""Every component there is. Most are data files in `definitions`; a few have writers of their own, one row each.

A person's own come and go while the program runs: `read_anew` changes both collections in their place.
"""

from __future__ import annotations

from dataclasses import replace
from fnmatch import fnmatchcase
from typing import NamedTuple

from .define import definitions
from .gtk import GTK3, GTK4
from .kde import KDE
from .kinds import KINDS
from .made import file_of, own_components, set_aside
from .model import Component
from .own import own_texts
from .terminal import TERMINAL


class OwnRow(NamedTuple):
    """A file of the folder of own definitions: the component that it defines, if any, and why it is not used."""

    file: str
    component: Component | None
    why: str


COMPONENTS: list[Component] = []
COMPONENT_BY_ID: dict[str, Component] = {}


def shipped_components() -> tuple[Component, ...]:
    """Return the components that come with the program."""
    return (GTK4, GTK3, KDE, TERMINAL, *definitions())


def read_anew() -> None:
    """Read a person's own definitions anew; each sees what the others made of the files that it changes."""
    rows = list(shipped_components())
    for own in own_components({c.id for c in rows}):
        shared = tuple(c.id for c in rows if shares_files(own, c))
        rows.append(replace(own, after=(*own.after, *shared)))
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
