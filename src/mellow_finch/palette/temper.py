"""The whole-look controls as one value: what they are, in which range, and what each does, as rows."""

from __future__ import annotations

from dataclasses import dataclass, fields
from typing import Any

from ..colour.requirement import TEXT
from ..language import tr, tr_in


@dataclass(frozen=True, slots=True)
class Temper:
    """How a look is tempered as a whole; the defaults leave it as it was derived.

    warmth: -1 cold .. 1 warm, an offset of the surfaces in OKLab; colourfulness: 0 grey .. 1 as read .. 2 the most;
    depth: -1 .. 1, surfaces toward the middle or away from the text; spread: 0.4 .. 2, how far surfaces lie apart
    in lightness; strength: 0 .. 2, the chroma of the accent and its family; panel, header, border, menu: 0 .. 1,
    how much of the accent those surfaces take; text_need: the contrast ratio that text has to reach, 4.5 or 7.
    """

    warmth: float = 0.0
    colourfulness: float = 1.0
    depth: float = 0.0
    spread: float = 1.0
    strength: float = 1.0
    panel: float = 0.0
    header: float = 0.0
    border: float = 0.0
    menu: float = 0.0
    text_need: float = TEXT.level

    @property
    def accented(self) -> dict[str, float]:
        """Return the surfaces that can take the accent, with how much of it they take."""
        return {name: getattr(self, name) for name in ACCENTED}


ACCENTED = ("panel", "header", "border", "menu")


@dataclass(frozen=True, slots=True)
class Control:
    """One whole-look control: the field it sets, its title, its range, and the words at both ends.

    short: its title under a heading that says the rest.
    """

    id: str
    title: str
    low: float
    high: float
    ends: tuple[str, str]
    tip: str
    short: str = ""


CONTROLS: tuple[Control, ...] = (
    Control(
        "warmth",
        tr("Warmth"),
        -1,
        1,
        (tr_in("an end of a slider", "cold"), tr_in("an end of a slider", "warm")),
        tr("Moves surfaces toward blue or toward amber"),
    ),
    Control(
        "colourfulness",
        tr("Colourfulness"),
        0,
        2,
        (tr_in("an end of a slider", "grey"), tr_in("an end of a slider", "most")),
        tr("How much colour the surfaces take"),
    ),
    Control(
        "depth",
        tr("Depth"),
        -1,
        1,
        (tr_in("an end of a slider", "soft"), tr_in("an end of a slider", "deep")),
        tr("Moves surfaces nearer to the text, or farther from it"),
    ),
    Control(
        "spread",
        tr("Level spacing"),
        0.4,
        2,
        (tr_in("an end of a slider", "flat"), tr_in("an end of a slider", "stepped")),
        tr("How much windows, views, cards and bars differ in lightness"),
    ),
    Control(
        "strength",
        tr("Accent vividness"),
        0,
        2,
        (tr_in("an end of a slider", "faint"), tr_in("an end of a slider", "strong")),
        tr("How vivid the accent colour and its followers are"),
        tr("Vividness"),
    ),
    Control(
        "panel",
        tr("Accent colour on panel"),
        0,
        1,
        (tr_in("an end of a slider", "none"), tr_in("an end of a slider", "full")),
        tr("How much of the accent colour the panel and dock take"),
        tr("Panel"),
    ),
    Control(
        "header",
        tr("Accent colour on header bars"),
        0,
        1,
        (tr_in("an end of a slider", "none"), tr_in("an end of a slider", "full")),
        tr("How much of the accent colour header bars take"),
        tr("Header bars"),
    ),
    Control(
        "border",
        tr("Accent colour on decorations"),
        0,
        1,
        (tr_in("an end of a slider", "none"), tr_in("an end of a slider", "full")),
        tr("The same for window decorations"),
        tr("Decorations"),
    ),
    Control(
        "menu",
        tr("Accent colour on menus"),
        0,
        1,
        (tr_in("an end of a slider", "none"), tr_in("an end of a slider", "full")),
        tr("How much of the accent colour menus take"),
        tr("Menus"),
    ),
)


def temper_from(values: dict[str, Any]) -> Temper:
    """Return a temper from saved values, each kept within its range; unknown keys are passed over.

    Raises TypeError or ValueError for what is no number.
    """
    ranges = {c.id: (c.low, c.high) for c in CONTROLS} | {"text_need": (TEXT.level, 21.0)}
    known = {f.name for f in fields(Temper)}
    return Temper(**{k: float(min(ranges[k][1], max(ranges[k][0], float(v)))) for k, v in values.items() if k in known})
