"""Mending from what a program painted: the smallest change that makes a text in its picture readable."""

from __future__ import annotations

from ...colour.difference import colour_difference
from ...colour.rgb import Rgba
from ...components.model import Paints, Part
from ...look.decision_edits import with_mend
from ...look.edits import with_mended_roles
from ...look.model import Look
from ...palette.pairs import RolePair
from .conductor import Rehearsed
from .measured import TextPlace
from .verdict import SAME

_ALIKE = 1.5  # CIEDE2000 up to which a painted colour is that of a role


def part_of(row: Rehearsed, paints: Paints, text: TextPlace) -> Part | None:
    """Return the part whose text was painted there: the nearest of its colour, and of its ground where that is said."""
    best: tuple[float, Part] | None = None
    for part in row.component.parts:
        paint = paints.get(part.key)
        if paint is None or paint.text is None:
            continue
        away = colour_difference(paint.text.opaque, text.ink)
        ground = next((layer[0] for layer in reversed(paint.layers) if len(layer) == 1 and layer[0].a >= 1), None)
        if ground is not None:
            away = max(away, colour_difference(ground, text.ground))
        if away <= SAME and (best is None or away < best[0]):
            best = away, part
    return None if best is None else best[1]


def _roles_of(look: Look, colour: Rgba, first: tuple[str, ...]) -> list[str]:
    rows = [(colour_difference(c.opaque, colour), role) for role, c in look.colours.items()]
    near = [role for away, role in sorted(rows) if away <= _ALIKE]
    return sorted(near, key=lambda role: role not in first)


def mended_as_painted(look: Look, row: Rehearsed, paints: Paints, text: TextPlace) -> Look | None:
    """Return the look with a text that a program painted made readable, None where no colour of it stands there.

    Files of the person's own are mended in their places, roles by the smallest change that keeps every other pair.
    Raises ImpossibleLocksError, naming the locks in the way.
    """
    part = part_of(row, paints, text)
    if part is not None and row.component.rewrites:
        return with_mend(look, row.component.id, part.key)
    first = (part.text_role, part.fill_role) if part is not None else ()
    inks, grounds = _roles_of(look, text.ink, first), _roles_of(look, text.ground, first)
    pairs = [RolePair(ink, ground, text.need.raised(look.temper.text_need)) for ink in inks for ground in grounds]
    pairs = [pair for pair in pairs if pair.text != pair.surface]
    return with_mended_roles(look, (), pairs[:1]) if pairs else None
