"""Telling colours and pairs in words."""

from __future__ import annotations

from collections.abc import Mapping

import numpy as np

from ..colour.rgb import Rgba
from ..colour.spaces import srgb_to_oklab
from ..language import decimal, tr
from .pairs import JudgedPair
from .roles import ROLE_BY_ID


def nearest_role(colour: Rgba, colours: Mapping[str, Rgba]) -> tuple[str, float]:
    """Return the role whose colour lies nearest to a colour in OKLab, and the distance; the first of equal ones."""
    names = list(colours)
    labs = srgb_to_oklab(np.array([colour.unit, *(colours[n].unit for n in names)]))
    distances = np.linalg.norm(labs[1:] - labs[0], axis=1)
    best = int(distances.argmin())
    return names[best], float(distances[best])


def pair_words(judged: JudgedPair) -> str:
    """Return which role lies on which with what ratio, and what it needs where that is more."""
    words = (
        tr("{text} on {surface}: {ratio} : 1")
        if judged.passes
        else tr("{text} on {surface}: {ratio} : 1, needs {need:g}")
    )
    text, surface = ROLE_BY_ID[judged.pair.text].title, ROLE_BY_ID[judged.pair.surface].title
    return words.format(text=text, surface=surface, ratio=decimal(judged.ratio, 2), need=judged.pair.need.level)
