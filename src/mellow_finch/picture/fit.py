"""How well a picture goes with a palette, and how much several pictures have in common. All in OKLab."""

from __future__ import annotations

from collections.abc import Mapping, Sequence

import numpy as np

from ..colour.rgb import Rgba
from ..colour.spaces import Array, srgb_to_oklab
from .swatches import Swatch

# What of a palette a picture is held against, and how much each counts.
FAMILY: tuple[tuple[str, float], ...] = (
    ("window", 0.22),
    ("panel", 0.14),
    ("header", 0.10),
    ("accent", 0.34),
    ("selection", 0.12),
    ("link", 0.08),
)
_LARGE = 0.06  # share of the area from which a colour of the picture counts in full
_HALF = 0.055  # mean distance at which a fit is half of what it could be
_SCARCE = 0.015  # a colour that is hardly there counts as this far off
_SAME = np.array([0.7, 2.0, 2.0])  # in telling pictures apart, a turn of hue counts more than light and shade
_NEAR = 0.1  # distance, so weighted, within which colours of two pictures count as the same
QUIET = 0.3  # common share below which several pictures have little in common


def fit(swatches: Sequence[Swatch], colours: Mapping[str, Rgba]) -> float:
    """Return how well a picture's colours go with a palette's, 0..100, 100 when each finds its like.

    Both ways: every leading colour of the palette should occur in the picture, small areas counting less, and every
    large area of the picture should have its like in the palette. Hue and chroma alone count, since a dark look may
    well lie on a light picture.
    """
    if not swatches:
        return 0.0
    theirs = _plane([s.colour for s in swatches])
    shares = np.array([s.share for s in swatches])
    shares = shares / shares.sum()
    own = _plane([colours[name] for name, _ in FAMILY])
    weights = np.array([weight for _, weight in FAMILY])
    distance = np.linalg.norm(own[:, None, :] - theirs[None, :, :], axis=2)
    scarce = _SCARCE * (1 - np.minimum(1.0, shares / _LARGE) ** 0.5)
    there = float(weights @ (distance + scarce).min(axis=1))
    back = float(shares @ distance.min(axis=0))
    return float(100 * 2 ** -((0.7 * there + 0.3 * back) / _HALF))


def _plane(colours: Sequence[Rgba]) -> Array:
    return np.asarray(srgb_to_oklab(np.array([c.unit for c in colours]))[:, 1:])


def in_common(members: Sequence[Sequence[Swatch]]) -> float:
    """Return which share of their areas several pictures have in common, 0..1; 1 for a single picture.

    Of two pictures: the area that finds its like in the other one, each colour only as far as the other has it too.
    Of more: the mean over all pairs.
    """
    if len(members) < 2:
        return 1.0
    shares = [
        _shared(first, second) for i, first in enumerate(members) for second in members[i + 1 :] if first and second
    ]
    return float(np.mean(shares)) if shares else 0.0


def _shared(first: Sequence[Swatch], second: Sequence[Swatch]) -> float:
    a, b = (srgb_to_oklab(np.array([s.colour.unit for s in row])) * _SAME for row in (first, second))
    left, right = (np.array([s.share for s in row]) for row in (first, second))
    left, right = left / left.sum(), right / right.sum()
    distance = np.linalg.norm(a[:, None, :] - b[None, :, :], axis=2)
    total = 0.0
    # Nearest colours first: each area is given away once.
    for flat in np.argsort(distance, axis=None, kind="stable"):
        i, j = divmod(int(flat), len(right))
        if distance[i, j] > _NEAR:
            break
        taken = min(left[i], right[j])
        left[i], right[j] = left[i] - taken, right[j] - taken
        total += float(taken)
    return total
