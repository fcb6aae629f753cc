"""How the stage can be seen: with which eyes, in words."""

from __future__ import annotations

from ...colour.vision import Vision
from ...language import tr

TITLES: dict[Vision, tuple[str, str]] = {
    "normal": (tr("Typical colour vision"), tr("Shown without simulation")),
    "protan": (tr("Protan"), tr("Without long-wave cones: reds look dark, red and green alike")),
    "deutan": (tr("Deutan"), tr("Without middle-wave cones: red and green look alike")),
    "tritan": (tr("Tritan"), tr("Without short-wave cones: blue and green, yellow and pink look alike")),
    "grey": (tr("Greyscale"), tr("Without any colour, as on paper")),
}
