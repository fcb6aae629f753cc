"""A theme that has been read, as values: its texts, its families of colours, its sheets."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from dataclasses import dataclass, field
from functools import cache

from ...colour.rgb import Rgba
from ...components.catalogue import COMPONENT_BY_ID
from ...components.model import Part
from ...components.write.gtk_parts import GTK4_PARTS
from ...recolour.groups import Group
from ...syntax.catalogue import Format
from ...syntax.spans import ColourSpan
from ..sheets.places import all_parts, nested_parts
from .imports import Joined
from .kinds import FoundTheme
from .opened import Bundle

INSIDE = "!"  # between a resource bundle's path and that of a file in it


@dataclass(frozen=True, slots=True)
class ThemeText:
    """A text of a known format: its literals and the role that the format gives each, empty where it gives none."""

    path: str
    format: Format
    text: str
    spans: tuple[ColourSpan, ...]
    sure: tuple[str, ...]
    packed: bool = False  # whether it lies gzipped on disk


def roots_of(found: Iterable[FoundTheme]) -> tuple[str, ...]:
    """Return the folders of what a bundle holds that lie in no other, in order; one alone is no choice."""
    rows = dict.fromkeys(f.root for f in found if f.root and not f.kind.single)
    return tuple(r for r in rows if not any(r != other and r.startswith(other) for other in rows))


@dataclass(frozen=True, slots=True)
class Family:
    """Texts of one lightness, whose colours are carried by one map.

    starts: the number of each text's first literal among spans; leading: (colour, role) that are known from what the
    sheets paint.
    """

    light: bool
    paths: tuple[str, ...]
    starts: Mapping[str, int]
    spans: tuple[ColourSpan, ...]
    groups: tuple[Group, ...]
    leading: tuple[tuple[Rgba, str], ...] = ()

    @property
    def id(self) -> str:
        """Return what the keys of its groups begin with."""
        return "light" if self.light else "dark"


@dataclass(frozen=True, eq=False)
class Theme:
    """A theme that has been read.

    texts: by path, drawings among them; families: the one with the most literals first; pictures and pointers: paths;
    drawings: paths of SVG texts that are pictures; sheets: what is judged, by entry; offers: all that the bundle
    holds; left: the folders of those that a person leaves where they are.
    """

    bundle: Bundle
    found: tuple[FoundTheme, ...]
    texts: Mapping[str, ThemeText]
    families: tuple[Family, ...]
    pictures: tuple[str, ...]
    pointers: tuple[str, ...]
    drawings: tuple[str, ...]
    sheets: Mapping[str, Joined]
    resources: Mapping[str, Mapping[str, bytes]]
    family_of: Mapping[str, int]
    splits: frozenset[str] = frozenset()
    problems: tuple[str, ...] = field(default=())
    offers: tuple[FoundTheme, ...] = ()
    left: frozenset[str] = frozenset()

    @property
    def lead(self) -> FoundTheme | None:
        """Return the thing in it that gives the whole its name: a theme before icons, those before anything else."""
        return min(
            self.found, key=lambda f: (f.kind.single, "themes/" not in f.kind.place, not f.kind.derived), default=None
        )

    def data(self, path: str) -> bytes:
        """Return a file's bytes, of one inside a resource bundle too."""
        outer, _, inner = path.partition(INSIDE)
        return self.resources[outer][inner] if inner else self.bundle.data(path)


@cache
def parts_for(component: str) -> tuple[Part, ...]:
    """Return the places by which a component's sheet is judged: as the toolkit builds them, then others of our sheets.

    A theme may be worn in the place of ours, so it is judged by all that ours would be.
    """
    rows = built_by_toolkit(component)
    known = {p.key for p in rows}
    return (*rows, *(p for p in COMPONENT_BY_ID[component].parts if p.key not in known))


def built_by_toolkit(component: str) -> tuple[Part, ...]:
    """Return the places of a component as its toolkit builds them."""
    if component == "gtk-4":
        return (*(p for p in GTK4_PARTS if p.id != "tooltip"), *nested_parts(4))  # whose words lie deeper
    return COMPONENT_BY_ID[component].parts if component.startswith("shell") else all_parts()
