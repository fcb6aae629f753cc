"""Roles whose meaning hangs on telling them from one another, and which eyes cannot."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from itertools import combinations

import numpy as np

from ..colour.difference import delta_e_2000
from ..colour.rgb import Rgba
from ..colour.spaces import srgb_to_lab
from ..colour.vision import Vision, simulate
from .ansi import APART, ROWS

# Each row holds roles that stand for different things in the same place.
MEANINGS: tuple[tuple[str, ...], ...] = (
    ("success", "warning", "error"),
    ("success_ink", "warning_ink", "error_ink", "view_text"),
    ("link", "link_visited"),
    ("view", "selection"),
    ("menu", "menu_hover"),
    ("panel", "panel_active"),
    ("control", "accent", "error"),
    *(tuple(f"ansi_{i}" for i in row) for row in ROWS),
)


@dataclass(frozen=True, slots=True)
class Confusion:
    """Two roles that ordinary eyes tell apart and others do not: by hue alone. Distances are CIEDE2000."""

    first: str
    second: str
    normal: float
    seen: float


def confusions(colours: Mapping[str, Rgba], vision: Vision) -> tuple[Confusion, ...]:
    """Return the pairs of roles that a kind of vision cannot tell apart though ordinary eyes can, nearest first."""
    pairs = list(dict.fromkeys(pair for row in MEANINGS for pair in combinations(row, 2)))
    first, second = (np.array([colours[pair[i]].unit for pair in pairs]) for i in (0, 1))
    normal = delta_e_2000(srgb_to_lab(first), srgb_to_lab(second))
    seen = delta_e_2000(srgb_to_lab(simulate(first, vision)), srgb_to_lab(simulate(second, vision)))
    rows = [
        Confusion(a, b, float(n), float(s))
        for (a, b), n, s in zip(pairs, normal, seen, strict=True)
        if n >= APART and s < APART
    ]
    return tuple(sorted(rows, key=lambda c: c.seen))
