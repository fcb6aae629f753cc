"""A theme that keeps its own colours, but for those that a person replaces: what that makes of each of its literals."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import replace
from typing import NamedTuple

from ...colour.rgb import Rgba, parse_hex
from ...components.decisions import Decisions
from ...recolour.colour_map import Anchor, ColourMap, is_vivid, map_of
from ...recolour.groups import KEEP
from ..bundle.model import Family, Theme
from ..pictures.drawings import LEAD
from .swap import wanted_colours

_MOST_SHOWN = 12
_FIRM = 1e9


class ThemeColour(NamedTuple):
    """A colour that leads in a theme: in how many places and files it and its shades stand, and the role it plays."""

    colour: Rgba
    places: int
    files: int
    role: str = ""


def leading_colours(theme: Theme, most: int = _MOST_SHOWN) -> tuple[ThemeColour, ...]:
    """Return the colours that lead in a theme, the vivid before the grey, each of these by how often it stands."""
    found: dict[Rgba, ThemeColour] = {}
    for family in theme.families:
        owners = [p for p in family.paths for _ in theme.texts[p].spans]
        for group in family.groups:
            colour = group.anchor.opaque
            files = len({owners[i] for i in group.spans})
            known = found.get(colour, ThemeColour(colour, 0, 0))
            found[colour] = ThemeColour(colour, known.places + group.places, known.files + files, group.role)
    rows = sorted(found.values(), key=lambda row: (not is_vivid(row.colour), -row.places))
    return tuple(rows[:most])


def swapped_colours(theme: Theme, decided: Decisions) -> dict[Rgba, Rgba]:
    """Return every colour of a theme that is replaced, shades included, with the new one."""
    pairs = {parse_hex(old): parse_hex(new) for old, new in decided.swaps.items()}
    return {old: new for old, (new, _) in wanted_colours(theme, pairs, with_shades=True).items()}


def kept_decisions(theme: Theme, decided: Decisions) -> Decisions:
    """Return what was decided of a theme as choices by group: each stays, but for those whose colour is replaced."""
    wanted = swapped_colours(theme, decided)
    groups = {LEAD: KEEP}
    for family in theme.families:
        for group in family.groups:
            new = wanted.get(group.anchor.opaque)
            groups[group.key] = new.opaque.hex if new is not None else KEEP
    return replace(decided, groups=groups, roles={})


def kept_literals(theme: Theme, wanted: Mapping[Rgba, Rgba]) -> dict[str, list[Rgba]]:
    """Return the colour of every literal of every text; a literal keeps its own opacity."""

    def fresh(colour: Rgba) -> Rgba:
        new = wanted.get(colour.opaque) if colour.a > 0 else None
        return colour if new is None else new._replace(a=colour.a * new.a)

    return {path: [fresh(span.colour) for span in text.spans] for path, text in theme.texts.items()}


def kept_chart(family: Family, wanted: Mapping[Rgba, Rgba]) -> ColourMap:
    """Return the map of a family's pictures: what is replaced goes along, everything else stays."""
    anchors = [Anchor(old, new, _FIRM) for old, new in wanted.items()] if wanted else []
    own = (g.anchor.opaque for g in family.groups)
    return map_of([*anchors, *(Anchor(c, c) for c in own if c not in wanted)])
