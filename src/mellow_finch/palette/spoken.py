"""Telling colours in words: the role of a look that a colour is nearest to."""

from __future__ import annotations

from collections.abc import Mapping

import numpy as np

from ..colour.rgb import Rgba
from ..colour.spaces import srgb_to_oklab


def nearest_role(colour: Rgba, colours: Mapping[str, Rgba]) -> tuple[str, float]:
    """Return the role whose colour lies nearest to a colour in OKLab, and the distance; the first of equal ones."""
    names = list(colours)
    labs = srgb_to_oklab(np.array([colour.unit, *(colours[n].unit for n in names)]))
    distances = np.linalg.norm(labs[1:] - labs[0], axis=1)
    best = int(distances.argmin())
    return names[best], float(distances[best])
