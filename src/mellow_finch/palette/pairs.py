"""Which roles are drawn on which, and the contrast each pair needs. Data only.

Text needs 4.5:1 (WCAG 2.2, 1.4.3), marks 3:1 (1.4.11); disabled text has a floor of our own, WCAG having none.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from functools import lru_cache

from ..colour.contrast import ratio
from ..colour.rgb import Rgba

TEXT_NEED = 4.5
MARK_NEED = 3.0
DISABLED_NEED = 2.5


@dataclass(frozen=True, slots=True)
class Pair:
    """A role drawn on another and the contrast ratio it needs."""

    text: str
    surface: str
    need: float


@dataclass(frozen=True, slots=True)
class JudgedPair:
    """A pair with the ratio that it has."""

    pair: Pair
    ratio: float

    @property
    def passes(self) -> bool:
        """Tell whether the ratio reaches the need."""
        return self.ratio >= self.pair.need


def _on(text: str, surfaces: str, need: float = TEXT_NEED) -> tuple[Pair, ...]:
    return tuple(Pair(text, surface, need) for surface in surfaces.split())


PAIRS: tuple[Pair, ...] = (
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
    *_on("disabled_text", "window view control", DISABLED_NEED),
    *_on("accent", "window view", MARK_NEED),
    *_on("accent_text", "accent"),
    *_on("selection_text", "selection"),
    *_on("selection_idle_text", "selection_idle"),
    *_on("link", "window view card"),
    *_on("link_visited", "window view card"),
    *_on("tooltip_text", "tooltip"),
    *_on("notice_text", "notice"),
    *_on("outline", "window view card menu", MARK_NEED),
    *_on("focus", "window view control header", MARK_NEED),
    *(p for s in ("success", "warning", "error") for p in (*_on(f"{s}_text", s), *_on(f"{s}_ink", "window view"))),
    *_on("terminal_text", "terminal"),
    *_on("cursor", "terminal", MARK_NEED),
    *_on("cursor_text", "cursor"),
    *_on("terminal_selection_text", "terminal_selection"),
    *(Pair(f"ansi_{i}", "terminal", MARK_NEED if i == 8 else TEXT_NEED) for i in (*range(1, 10), *range(10, 16))),
    # Widgets stand on a backing of the panel's colour, itself judged over the picture by the proof.
    *_on("widget_text", "panel"),
    *_on("widget_accent", "panel"),
)

PAIRS_OF_TEXT: dict[str, tuple[Pair, ...]] = {}
PAIRS_ON_SURFACE: dict[str, tuple[Pair, ...]] = {}
for _pair in PAIRS:
    PAIRS_OF_TEXT[_pair.text] = (*PAIRS_OF_TEXT.get(_pair.text, ()), _pair)
    PAIRS_ON_SURFACE[_pair.surface] = (*PAIRS_ON_SURFACE.get(_pair.surface, ()), _pair)


@lru_cache(maxsize=8)
def pairs_for(text_need: float) -> tuple[Pair, ...]:
    """Return the table with the need of every text pair raised, for a look that asks for more than 4.5."""
    if text_need <= TEXT_NEED:
        return PAIRS
    return tuple(Pair(p.text, p.surface, text_need) if p.need == TEXT_NEED else p for p in PAIRS)


def judge(colours: Mapping[str, Rgba], pairs: tuple[Pair, ...] = PAIRS) -> tuple[JudgedPair, ...]:
    """Return every pair with its ratio, in the order of the table."""
    return tuple(JudgedPair(p, ratio(colours[p.text], colours[p.surface])) for p in pairs)


def failing(colours: Mapping[str, Rgba], pairs: tuple[Pair, ...] = PAIRS) -> tuple[JudgedPair, ...]:
    """Return the pairs that fall short, worst shortfall first."""
    return tuple(sorted((j for j in judge(colours, pairs) if not j.passes), key=lambda j: j.ratio / j.pair.need))
