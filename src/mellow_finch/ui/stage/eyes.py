"""How the stage can be seen: with which eyes, in words."""

from __future__ import annotations

from ...colour.vision import Vision

TITLES: dict[Vision, tuple[str, str]] = {
    "normal": ("As most eyes see it", "Nothing is changed"),
    "protan": ("Protan", "Without long-wave cones: reds look dark, red and green alike"),
    "deutan": ("Deutan", "Without middle-wave cones: red and green look alike"),
    "tritan": ("Tritan", "Without short-wave cones: blue and green, yellow and pink look alike"),
    "grey": ("Greyscale", "Without any colour, as on paper"),
}
