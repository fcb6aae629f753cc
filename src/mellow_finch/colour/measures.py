"""The measures of contrast that are told of a pair, one row each; the first is the one by which all is judged."""

from __future__ import annotations

from collections.abc import Callable
from typing import NamedTuple

from ..language import decimal, tr
from .lightness_contrast import lightness_contrast
from .requirement import measure
from .rgb import Rgba


class Measure(NamedTuple):
    """A measure: its id, what its column is called, a plain line about it, and itself, of opaque text and surface."""

    id: str
    title: str
    tip: str
    of: Callable[[Rgba, Rgba], float]
    spelled: Callable[[float], str]


MEASURES: tuple[Measure, ...] = (
    Measure(
        "ratio",
        tr("Ratio"),
        tr("Contrast ratio of WCAG 2.2, 1 to 21; the required contrast is measured by it"),
        measure,
        lambda found: decimal(found, 2),
    ),
    Measure(
        "lightness",
        tr("Lc"),
        tr("Lightness contrast, discussed for WCAG 3: 0 to about 106; shown for information only"),
        lightness_contrast,
        lambda found: decimal(abs(found), 0),
    ),
)
FURTHER = MEASURES[1:]  # told beside the one that counts
