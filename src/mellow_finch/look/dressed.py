"""A look dressed on a home: the files of every component, and what they say when they are read back."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from functools import cached_property

from ..components.catalogue import COMPONENTS
from ..components.model import Component, Files, OutFile, Paints, layered
from .model import Look


@dataclass(frozen=True, eq=False)
class Dressed:
    """What comes of a look on a home.

    files: by component id; a component that has nothing to rewrite, or is left out, has none.
    """

    look: Look
    home: Files
    files: Mapping[str, tuple[OutFile, ...]]

    @cached_property
    def view(self) -> Files:
        """Return the home as it would be."""
        return layered(self.home, [file for files in self.files.values() for file in files])

    @cached_property
    def paints(self) -> Mapping[str, Paints]:
        """Return what each component's files say, read back from their text."""
        return {c.id: c.read(self.view) for c in COMPONENTS if self.files.get(c.id)}

    @property
    def components(self) -> tuple[Component, ...]:
        """Return the components that are dressed."""
        return tuple(c for c in COMPONENTS if self.files.get(c.id))


def dress(look: Look, home: Files, only: frozenset[str] | None = None) -> Dressed:
    """Return the look dressed on a home; only: component ids, all when None. Reads, writes nothing."""
    scheme = look.scheme()
    wanted = [c for c in COMPONENTS if c.id not in look.left_out and (only is None or c.id in only)]
    return Dressed(look, home, {c.id: c.write(scheme, home) for c in wanted})


def as_it_is(home: Files) -> Mapping[str, Paints]:
    """Return what the files of a home say now, by component."""
    return {c.id: c.read(home) for c in COMPONENTS}
