"""The colours of one component: the look's roles, shades of its own, and what a person asked for, all of it readable.

A look's palette is solved for the pairs that every desktop has. A component may draw more: a word in the editor's
string colour on the line of the caret, say. Such texts are shades, solved here on everything they are drawn on.
"""

from __future__ import annotations

from collections import ChainMap
from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass
from functools import lru_cache
from types import MappingProxyType
from typing import NamedTuple

from ...colour.blend import mixed_in_srgb
from ...colour.requirement import Requirement
from ...colour.rgb import Rgba
from ...errors import ImpossibleLocksError
from ...palette.fit import fit
from ...palette.pairs import RolePair
from ...palette.solve import solve
from ...palette.veil import KIND_BY_ID, KIND_OF_ROLE, SurfaceKind, as_drawn, faces, opacity_of
from ...recolour.groups import KEEP
from ..model import Paints, Part, Scheme

_WHITE, _BLACK = Rgba(255, 255, 255), Rgba(0, 0, 0)
_FIXED = {"white": _WHITE, "black": _BLACK}
_STEPS = (1.0, 0.5, 0.0)  # how much of its tint a surface keeps while its texts have no solution
_OPACITY_STEP = 0.12


@dataclass(frozen=True, slots=True)
class Shade:
    """A colour of a component's own: a role's, moved toward another's, or white or black, by a share of 0..1.

    veiled: whether it is drawn as translucent as the role that it comes from.
    """

    of: str
    toward: str = ""
    by: float = 0.0
    veiled: bool = False


class ComponentPalette(NamedTuple):
    """The colours of every role and shade as a component is written, and its surfaces' opacity by kind.

    kinds: the kind of surface by role or shade, where it is another than the role's of itself.
    """

    colours: Mapping[str, Rgba]
    opacity: Mapping[str, float]
    kinds: Mapping[str, SurfaceKind] = MappingProxyType({})

    def drawn(self, role: str) -> Rgba:
        """Return a surface's colour with its opacity."""
        return as_drawn(self.colours, role, self.opacity, self.kinds.get(role))


def component_colours(
    owner: str,
    shades: Mapping[str, Shade],
    parts: tuple[Part, ...],
    scheme: Scheme,
    before: Paints | None = None,
    kinds: Mapping[str, SurfaceKind] = MappingProxyType({}),
) -> ComponentPalette:
    """Return every role and every shade by name, as one component is to be written.

    owner: its id; before: what the files of the home say now, for roles that a person wants kept as they are there;
    kinds: the kind of surface by role or shade, where it is another than the role's of itself.
    Texts move by the smallest change until they read on all that the parts draw them on; where no colour does, the
    component's own surfaces give up their tint, then translucent ones become less so, and at last surfaces move too.
    With the scheme's mend off, only shades move.
    """
    asked = _asked(scheme.decided(owner).roles, scheme, parts, before or {})
    veiled = {name: KIND_OF_ROLE[s.of] for name, s in shades.items() if s.veiled and s.of in KIND_OF_ROLE}
    kinds = {**veiled, **kinds}
    work = _ShadeFit(shades, parts, scheme, asked, dict(scheme.opacity), kinds)
    while True:
        for keep in _STEPS:
            colours, stuck = work.fitted(keep)
            if not stuck:
                return ComponentPalette(colours, work.opacity, kinds)
        if not work.less_see_through(stuck):
            break
    return ComponentPalette(work.solved(colours), work.opacity, kinds)


def roles_before(parts: Iterable[Part], paints: Paints) -> dict[str, Rgba]:
    """Return what each role and shade is in files as they are now, where they say it; of several parts the first."""
    out: dict[str, Rgba] = {}
    for part in parts:
        paint = paints.get(part.key)
        if paint is None:
            continue
        for role, colour in ((part.text_role, paint.text), (part.fill_role, paint.fill), (part.edge_role, paint.edge)):
            if role and colour is not None:
                out.setdefault(role, colour.opaque)
    return out


def _asked(chosen: Mapping[str, str], scheme: Scheme, parts: Iterable[Part], before: Paints) -> dict[str, Rgba]:
    """Return the colours that a person gave roles of a component: other roles', or those of the file as it is."""
    there = roles_before(parts, before)
    found = {role: there.get(role) if choice == KEEP else scheme.colours.get(choice) for role, choice in chosen.items()}
    return {role: colour for role, colour in found.items() if colour is not None}


class _Drawn(NamedTuple):
    """What a text or an edge is drawn on: a fill, the need there, where, and the kind of surface if not the fill's."""

    fill: str
    need: Requirement
    place: str
    surface: str = ""


@lru_cache(maxsize=1024)  # more than there are components
def _drawn_on(parts: tuple[Part, ...]) -> dict[str, tuple[_Drawn, ...]]:
    """Return for each text or edge what it is drawn on."""
    out: dict[str, dict[_Drawn, None]] = {}
    for part in parts:
        if part.text_role and part.need and part.fill_role:
            out.setdefault(part.text_role, {})[_Drawn(part.fill_role, part.need, part.place, part.surface)] = None
        if part.edge_role and part.edge_need:
            around = part.around_role or part.fill_role
            out.setdefault(part.edge_role, {})[_Drawn(around, part.edge_need, part.place)] = None
    return {name: tuple(rows) for name, rows in out.items()}


class _Over(ChainMap[str, Rgba]):
    """Colours over those of a look, which are asked for only where there is none here."""

    def __getitem__(self, role: str) -> Rgba:
        own, below = self.maps  # asked for some ten thousand times while a look is written
        return own[role] if role in own else below[role]


@dataclass
class _ShadeFit:
    shades: Mapping[str, Shade]
    parts: tuple[Part, ...]
    scheme: Scheme
    asked: Mapping[str, Rgba]
    opacity: dict[str, float]
    kinds: Mapping[str, SurfaceKind]

    def __post_init__(self) -> None:
        self.drawn_on = _drawn_on(self.parts)

    def fitted(self, keep: float) -> tuple[_Over, list[str]]:
        """Return the colours, surfaces of the component's own keeping a share of their tint, and the texts left.

        Roles that neither parts nor files name are never asked for, so that it can be told what a file depends on.
        """
        surfaces = {row.fill for rows in self.drawn_on.values() for row in rows}
        colours = _Over(dict(self.asked), self.scheme.colours)  # type: ignore[arg-type]
        for name, shade in self.shades.items():
            if name not in self.asked:
                toward = _FIXED.get(shade.toward) or colours[shade.toward or shade.of]
                colours[name] = mixed_in_srgb(
                    colours[shade.of], toward, shade.by * keep if name in surfaces else shade.by
                )
        stuck: list[str] = []
        for name in self.drawn_on:
            if name not in self.shades and not self.scheme.mend:
                continue
            better = fit(colours[name], self.rows(name, colours))
            if better is None:
                stuck.append(name)
            else:
                colours[name] = better
        return colours, stuck

    def solved(self, colours: Mapping[str, Rgba]) -> dict[str, Rgba]:
        """Return the colours with texts and surfaces moved, by the smallest change in all, until every pair passes."""
        pairs = tuple(
            RolePair(text, row.fill, row.need.raised(self.scheme.text_need))
            for text, rows in self.drawn_on.items()
            for row in rows
        )
        try:
            return solve(colours, pairs=pairs)
        except ImpossibleLocksError:
            return dict(colours)

    def rows(self, text: str, colours: Mapping[str, Rgba]) -> tuple[tuple[Rgba, float], ...]:
        """Return everything that a text or an edge of this name is drawn on, with the need it has there."""
        rows: list[tuple[Rgba, float]] = []
        for row in self.drawn_on[text]:
            need = row.need.raised(self.scheme.text_need).level
            rows += [(surface, need) for surface in self._faces(row, colours)]
        return tuple(rows)

    def _faces(self, row: _Drawn, colours: Mapping[str, Rgba]) -> tuple[Rgba, ...]:
        kind = self._kind(row)
        if kind is None or opacity_of(kind, self.opacity) >= 1:
            return (colours[row.fill],)
        where = row.place if row.place != "everywhere" else kind.place
        return faces(colours, row.fill, self.opacity, self.scheme.backdrop, self.scheme.blur, kind, where)

    def _kind(self, row: _Drawn) -> SurfaceKind | None:
        return KIND_BY_ID.get(row.surface) or self.kinds.get(row.fill) or KIND_OF_ROLE.get(row.fill)

    def less_see_through(self, stuck: Sequence[str]) -> bool:
        """Let the surfaces that some texts stand on show less of what is behind; tell whether any could."""
        kinds = {self._kind(row) for text in stuck for row in self.drawn_on[text]}
        open_ = [k for k in kinds if opacity_of(k, self.opacity) < 1]
        for kind in filter(None, open_):
            self.opacity[kind.id] = min(1.0, round(opacity_of(kind, self.opacity) + _OPACITY_STEP, 2))
        return bool(open_)
