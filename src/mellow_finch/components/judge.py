"""Pairs as they stand in files: every part's text on what is really under it, and edges against their surroundings."""

from __future__ import annotations

from collections.abc import Iterable
from itertools import product
from typing import NamedTuple

from ..colour.blend import over
from ..colour.requirement import TEXT, Requirement, measure
from ..colour.rgb import Rgba
from ..picture.backdrop import Backdrop
from .model import Paint, Paints, Part, Scheme

_MOST_STACKS = 64


class DrawnPair(NamedTuple):
    """A pair as a file has it: text (or edge) composited on its surface at the worst place."""

    part: Part
    what: str  # "text" or "edge"
    text: Rgba
    surface: Rgba
    ratio: float
    need: Requirement

    @property
    def passes(self) -> bool:
        """Tell whether the ratio reaches the need."""
        return self.need.met(self.ratio)

    @property
    def shortfall(self) -> float:
        """Return ratio by need: below 1 it fails, the smaller the worse."""
        return self.need.shortfall(self.ratio)


class Behind(NamedTuple):
    """What everything is judged over: the picture, whether it is blurred, and the ratio that text has to reach."""

    backdrop: Backdrop
    blur: bool = False
    text_need: float = TEXT.level

    @classmethod
    def of(cls, scheme: Scheme) -> Behind:
        """Return what a scheme is judged over."""
        return cls(scheme.backdrop, scheme.blur, scheme.text_need)

    def need(self, part: Part) -> Requirement:
        """Return what the text of a part needs."""
        return part.need.raised(self.text_need)


def surfaces_under(layers: Iterable[tuple[Rgba, ...]], behind: Behind, place: str = "everywhere") -> tuple[Rgba, ...]:
    """Return every opaque colour that a stack of layers can give.

    layers: candidates of each layer, outermost first. Where the stack lets something through, the extremes of the
    picture at that place of the screen show.
    """
    stack = [layer for layer in layers if layer]
    first = len(stack) - 1
    while first >= 0 and any(c.a < 1 for c in stack[first]):
        first -= 1
    bottoms = stack[first] if first >= 0 else behind.backdrop.at(place, behind.blur)
    stack = stack[first + 1 :]
    if not stack:
        return bottoms if len(bottoms) == 1 else tuple(dict.fromkeys(c.opaque for c in bottoms))
    found: dict[Rgba, None] = {}
    for row in list(product(bottoms, *stack))[:_MOST_STACKS]:
        below = row[0].opaque
        for layer in row[1:]:
            below = over(layer, below)
        found[below] = None
    return tuple(found)


def judge_part(part: Part, paint: Paint, behind: Behind) -> list[DrawnPair]:
    """Return the pairs of one part; a part of which the file says nothing has none."""
    pairs: list[DrawnPair] = []
    if part.need and paint.text is not None:
        pairs.append(
            _worst(part, "text", paint.text, surfaces_under(paint.layers, behind, part.place), behind.need(part))
        )
    if part.edge_need and (paint.edge or paint.fill) is not None:
        around = surfaces_under(paint.below, behind, part.place)
        candidates = [c for c in (paint.edge, paint.fill) if c is not None]
        best = max((_worst(part, "edge", c, around, part.edge_need) for c in candidates), key=lambda p: p.ratio)
        pairs.append(best)
    return pairs


def _worst(part: Part, what: str, colour: Rgba, surfaces: tuple[Rgba, ...], need: Requirement) -> DrawnPair:
    rows = [(over(colour, s) if colour.a < 1 else colour, s) for s in surfaces]
    text, surface = min(rows, key=lambda row: measure(row[0], row[1]))
    return DrawnPair(part, what, text, surface, measure(text, surface), need)


def judge_parts(parts: Iterable[Part], paints: Paints, behind: Behind) -> list[DrawnPair]:
    """Return every pair of a component, in the order of its parts."""
    return [p for part in parts if part.key in paints for p in judge_part(part, paints[part.key], behind)]
