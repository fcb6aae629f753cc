"""How one role of a look stands with all that is drawn on it, and that it is drawn on."""

from __future__ import annotations

from ..colour.contrast import ratio
from ..colour.spaces import Array
from ..palette.limits import Limits, Over, lightness_limits, limits
from ..palette.pairs import JudgedPair
from ..palette.veil import faces
from .model import Look


def over_of(look: Look) -> Over:
    """Return what a look's translucent surfaces are judged over."""
    return Over(look.drawn_opacity(), look.backdrop, look.blur)


def pairs_of_role(look: Look, role: str) -> list[JudgedPair]:
    """Return every pair that a role stands in with the least ratio over what lies behind, the closest first."""
    opacity = look.drawn_opacity()
    rows = []
    for pair in look.pairs:
        if role in (pair.text, pair.surface):
            drawn = faces(look.colours, pair.surface, opacity, look.backdrop, look.blur)
            rows.append(JudgedPair(pair, min(ratio(look.colours[pair.text], face) for face in drawn)))
    return sorted(rows, key=lambda row: row.shortfall)


def role_limits(look: Look, role: str, lch: Array) -> Limits:
    """Return how the pairs of a role fare if it took each of (n, 3) OKLCH colours, the rest of the look as it is."""
    return limits(look.colours, role, lch, look.pairs, over_of(look))


def lightness_of_role(look: Look, role: str) -> tuple[str, str]:
    """Return one sentence each that says how light and how dark a role of a look can be, and what stops it."""
    return lightness_limits(look.colours, role, look.locks, look.pairs, over_of(look))
