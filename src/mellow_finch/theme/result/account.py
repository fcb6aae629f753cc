"""What a person decides of a theme, and what recolouring it gives: values without any work in them."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field
from typing import NamedTuple

from ...colour.rgb import Rgba
from ...components.decisions import NOTHING, Decisions
from ...recolour.colour_map import ColourMap


@dataclass(frozen=True, slots=True)
class Choices:
    """What a person decided of a theme.

    decided: of its groups, its parts and what it holds; words: what is written instead of words that belong to another
    machine; name: the new name, empty for one made of the theme's and the look's.
    """

    decided: Decisions = NOTHING
    words: Mapping[str, str] = field(default_factory=dict)
    name: str = ""


class OutEntry(NamedTuple):
    """A file to be written: its bytes, its permissions, and where it points when it is a link."""

    data: bytes
    mode: int = 0o644
    link: str = ""


class RecolouredFile(NamedTuple):
    """One file: where it goes, how many literals it has, how many were replaced."""

    path: str
    literals: int
    replaced: int


class RecolouredGroup(NamedTuple):
    """One group: its key, its colour before and after, its role, and in how many places and files it stands."""

    key: str
    source: Rgba
    target: Rgba
    role: str
    reason: str
    places: int
    files: int

    def as_json(self) -> dict[str, object]:
        """Return the group with the documented keys."""
        return {
            "from": self.source.hex,
            "to": self.target.hex,
            "role": self.role,
            "places": self.places,
            "files": self.files,
        }


class MeasuredFailure(NamedTuple):
    """A place that the real toolkit painted short: its part, what of it, its colour, and that of what lies under it.

    component: that whose sheet was painted; of keys, their format; seen: how much of the colour that a key says is seen
    at the place, 0 to 1.
    """

    part: str
    what: str
    text: Rgba
    surface: Rgba
    ratio: float
    need: float
    component: str = "gtk-3"
    seen: float = 1.0


class RemainingFailure(NamedTuple):
    """A pair that has insufficient contrast in a sheet though everything was tried."""

    sheet: str
    part: str
    ratio: float
    need: float


@dataclass(frozen=True, eq=False)
class Outcome:
    """What recolouring a theme gave.

    outputs: by path from the home folder; files and groups: the account; fresh: by path in the theme, the new text;
    rules: how many were added at the ends of sheets; short: pairs that still fail; notes: sentences for the
    person; charts: the map of each family; pictures: the redrawn ones, by path in the theme;
    inverse: the parts that the theme means otherwise than its windows and than the look has them, dark in a light theme
    that stays light or light in a dark one that stays dark; names: by the folder of each thing in it, its new name;
    fills: by entry and name, what the pictures beside a sheet fill a box with.
    """

    name: str
    outputs: Mapping[str, OutEntry]
    files: tuple[RecolouredFile, ...]
    groups: tuple[RecolouredGroup, ...]
    fresh: Mapping[str, str]
    rules: int
    short: tuple[RemainingFailure, ...]
    notes: tuple[str, ...]
    charts: tuple[ColourMap, ...]
    pictures: Mapping[str, bytes] = field(default_factory=dict)
    inverse: tuple[str, ...] = ()
    names: Mapping[str, str] = field(default_factory=dict)
    fills: Mapping[str, Mapping[str, tuple[Rgba, ...]]] = field(default_factory=dict)

    @property
    def changed(self) -> int:
        """Return how many files differ from the theme's, drawings counted once."""
        texts = sum(f.replaced > 0 for f in self.files)
        return texts + sum(not p.endswith((".svg", ".svgz")) for p in self.pictures)
