"""Which roles are drawn on which, and what contrast each pair needs. Data only."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from functools import lru_cache

from ..colour.requirement import DISABLED, MARK, TEXT, Requirement, measure
from ..colour.rgb import Rgba
from ..palette.roles import ROLES


@dataclass(frozen=True, slots=True)
class RolePair:
    """A role drawn on another and the contrast that it needs."""

    text: str
    surface: str
    need: Requirement


@dataclass(frozen=True, slots=True)
class JudgedPair:
    """A pair with the ratio that it has."""

    pair: RolePair
    ratio: float

    @property
    def passes(self) -> bool:
        """Tell whether the ratio reaches the need."""
        return self.pair.need.met(self.ratio)

    @property
    def shortfall(self) -> float:
        """Return ratio by need: below 1 it fails, the smaller the worse."""
        return self.pair.need.shortfall(self.ratio)


def _on(text: str, surfaces: str, need: Requirement = TEXT) -> tuple[RolePair, ...]:
    return tuple(RolePair(text, surface, need) for surface in surfaces.split())


PAIRS: tuple[RolePair, ...] = (
    *_on("window_text", "window"),
    *_on("view_text", "view"),
    *_on("header_text", "header"),
    *_on("header_idle_text", "header_idle"),
    *_on("border_text", "border"),
    *_on("border_idle_text", "border_idle"),
    *_on("sidebar_text", "sidebar"),
    *_on("card_text", "card"),
    *_on("menu_text", "menu"),
    *_on("menu_hover_text", "menu_hover"),
    *_on("panel_text", "panel"),
    *_on("panel_active_text", "panel_active"),
    *_on("control_text", "control control_hover control_pressed"),
    *_on("disabled_text", "window view control", DISABLED),
    *_on("accent", "window view", MARK),
    *_on("accent_text", "accent"),
    *_on("selection_text", "selection"),
    *_on("selection_idle_text", "selection_idle"),
    *_on("link", "window view card"),
    *_on("link_visited", "window view card"),
    *_on("tooltip_text", "tooltip"),
    *_on("notice_text", "notice"),
    *_on("outline", "window view card menu", MARK),
    *_on("focus", "window view control header", MARK),
    *(p for s in ("success", "warning", "error") for p in (*_on(f"{s}_text", s), *_on(f"{s}_ink", "window view"))),
    *_on("terminal_text", "terminal"),
    *_on("cursor", "terminal", MARK),
    *_on("cursor_text", "cursor"),
    *_on("terminal_selection_text", "terminal_selection"),
    *(RolePair(f"ansi_{i}", "terminal", MARK if i == 8 else TEXT) for i in (*range(1, 10), *range(10, 16))),
    # Widgets stand on a backing of the panel's colour, itself judged over the picture by the proof.
    *_on("widget_text", "panel"),
    *_on("widget_accent", "panel"),
)

if _unpaired := {role.id for role in ROLES if role.kind == "text"} - {pair.text for pair in PAIRS} - {"ansi_0"}:
    raise NotImplementedError(f"palette/pairs.py does not say what {', '.join(sorted(_unpaired))} is drawn on")

PAIRS_OF_TEXT: dict[str, tuple[RolePair, ...]] = {}
PAIRS_ON_SURFACE: dict[str, tuple[RolePair, ...]] = {}
for _pair in PAIRS:
    PAIRS_OF_TEXT[_pair.text] = (*PAIRS_OF_TEXT.get(_pair.text, ()), _pair)
    PAIRS_ON_SURFACE[_pair.surface] = (*PAIRS_ON_SURFACE.get(_pair.surface, ()), _pair)


@lru_cache(maxsize=8)
def pairs_for(text_need: float) -> tuple[RolePair, ...]:
    """Return the table with the need of every text pair raised, for a look that asks for more than 4.5."""
    if text_need <= TEXT.level:
        return PAIRS
    return tuple(RolePair(p.text, p.surface, p.need.raised(text_need)) for p in PAIRS)


def judge(colours: Mapping[str, Rgba], pairs: tuple[RolePair, ...] = PAIRS) -> tuple[JudgedPair, ...]:
    """Return every pair with its ratio, in the order of the table."""
    return tuple(JudgedPair(p, measure(colours[p.text], colours[p.surface])) for p in pairs)


def failing(colours: Mapping[str, Rgba], pairs: tuple[RolePair, ...] = PAIRS) -> tuple[JudgedPair, ...]:
    """Return the pairs that have insufficient contrast, worst shortfall first."""
    return tuple(sorted((j for j in judge(colours, pairs) if not j.passes), key=lambda j: j.shortfall))
