"""Guessing what a colour of somebody's file is for, from where it stands. Rules as data, the first match wins."""

from __future__ import annotations

import re
from dataclasses import dataclass
from functools import lru_cache
from typing import Literal, NamedTuple

from ..language import tr
from ..palette.roles import ROLE_BY_ID, ROLE_IDS
from ..syntax.spans import ColourSpan
from .names import LIBRARY_NAMES, PUBLIC_NAMES

Use = Literal["surface", "text", "line", "shadow"]


class Guess(NamedTuple):
    """The role a place most likely has, and why."""

    role: str
    reason: str


@dataclass(frozen=True, slots=True)
class Context:
    """Selectors or tables with some words belong to one kind of surface; active is that surface when picked out."""

    words: re.Pattern[str]
    says: str
    surface: str
    text: str
    active: str = "selection"
    active_text: str = "selection_text"


def _context(words: str, says: str, surface: str, active: str = "selection") -> Context:
    return Context(re.compile(words, re.IGNORECASE), says, surface, f"{surface}_text", active, f"{active}_text")


CONTEXTS: tuple[Context, ...] = (
    _context(r"tooltip|dash-label|window-caption|hint", tr("tooltips and captions"), "tooltip"),
    _context(r"notification|message|banner|osd|toast", tr("notifications"), "notice", "menu_hover"),
    _context(r"entry|search|text-?field|input", tr("text fields"), "view"),
    _context(r"panel|dash|dock|taskbar|top-?bar|applet|tray|workspace", tr("the panel"), "panel", "panel_active"),
    _context(r"button|toggle|slider|switch|check-?box|radio", tr("controls"), "control"),
    _context(r"popup|menu|quick|calendar|datemenu|popover|switcher", tr("menus"), "menu", "menu_hover"),
    _context(
        r"overview|app-|icon-grid|stage|desklet|own_window|widget|conky", tr("the desktop"), "panel", "panel_active"
    ),
    _context(r"dialog|modal|prompt|login|lock", tr("dialogs"), "window"),
    _context(r"", tr("windows"), "window"),
)
_STATUS = (
    ("error", r"error|critical|urgent|destructive|danger|fail"),
    ("warning", r"warn|caution"),
    ("success", r"success|\bok\b|good"),
)
_STATUS_WORDS = tuple((status, re.compile(words, re.IGNORECASE)) for status, words in _STATUS)
_ACTIVE = re.compile(r":(hover|active|focus|checked|selected)|selected|active|current|today", re.IGNORECASE)
_DISABLED = re.compile(r":(insensitive|disabled)|other-month|inactive", re.IGNORECASE)
_SURFACE_KEY = re.compile(
    r"background|fill|gradient|own_window|trough|(^|[-_])bg([-_]|$)|barlevel|handle-color", re.IGNORECASE
)
# Variables that are called after a ground: "$bg", "--base-2".
_GROUND_NAME = re.compile(
    r"(?:\$|--)(?:bg|back|background|base|surface|panel|bar)(?![a-z])(?!.*(?:fg|text))", re.IGNORECASE
)
_LINE_KEY = re.compile(r"border|outline|separator|divider|line", re.IGNORECASE)
_ACCENTED_TEXT = re.compile(r"^colou?r[1-9]$|accent|link|graph", re.IGNORECASE)
VIVID = 0.065  # OKLCH chroma from which a colour counts as coloured rather than as a tinted grey


_TOOLKIT_NAMES = {**PUBLIC_NAMES, **LIBRARY_NAMES}
STATES: tuple[tuple[str, re.Pattern[str]], ...] = tuple(
    (name, re.compile(words, re.IGNORECASE))
    for name, words in (
        ("disabled", r":(insensitive|disabled)|INSENSITIVE|disabled"),
        ("pressed", r":active|pressed|\[ACTIVE\]"),
        ("hover", r":(hover|prelight)|PRELIGHT|hover"),
        ("chosen", r":(checked|selected)|selected|SELECTED"),
        ("idle", r":backdrop|unfocused|inactive"),
        ("focus", r":focus|focus"),
    )
)


@lru_cache(maxsize=16384)
def use_at(key: str) -> Use:
    """Return what a property or key paints."""
    key = key.rpartition(" ")[2]
    if "shadow" in key:
        return "shadow"
    if _GROUND_NAME.match(key):
        return "surface"
    if _LINE_KEY.search(key):
        return "line"
    return "surface" if _SURFACE_KEY.search(key) else "text"


def use_of(span: ColourSpan) -> Use:
    """Return what the property or key of a literal paints."""
    return use_at(span.key)


@lru_cache(maxsize=16384)
def state_of(where: str) -> str:
    """Return the state that a selector speaks of, empty when it is at rest."""
    return next((name for name, words in STATES if words.search(where)), "")


class _NamedPlace(NamedTuple):
    """What a selector and a key tell, whatever colour stands there."""

    context: Context
    status: str
    picked: bool
    disabled: bool
    named: str


@lru_cache(maxsize=32768)
def _place(where: str, key: str) -> _NamedPlace:
    place = f"{where} {key}"
    status = next((name for name, words in _STATUS_WORDS if words.search(place)), "")
    context = next(c for c in CONTEXTS if c.words.search(place))
    name = key.removeprefix("@define-color ").lstrip("$-").replace("-", "_")
    named = _TOOLKIT_NAMES.get(name, "").removesuffix("_drawn")
    return _NamedPlace(
        context, status, bool(_ACTIVE.search(where)), bool(_DISABLED.search(where)), named if named in ROLE_IDS else ""
    )


def guess_role(span: ColourSpan, chroma: float, light: bool) -> Guess:
    """Return the likeliest role of one literal; light tells whether it lies nearer white than black."""
    use = use_of(span)
    context, status, picked, disabled, named = _place(span.where, span.key)
    if named and span.colour.a >= 1:
        return Guess(named, tr("a name that toolkits look up"))
    if status and chroma >= VIVID:
        role = status if use == "surface" else f"{status}_ink"
        return Guess(role, tr("its name says: {status}").format(status=ROLE_BY_ID[status].title))
    if chroma >= VIVID:
        return Guess("accent", tr("coloured where the rest is grey"))
    if use == "shadow":
        return Guess("shadow", tr("a shadow"))
    if use == "line":
        return Guess(
            "outline" if context.surface in ("view", "control") else "divider",
            tr("line colour: {says}").format(says=context.says),
        )
    if use == "surface":
        if span.colour.a < 0.4:
            tint = light == (span.colour.a > 0)
            role = context.text if tint else "shadow"
            return Guess(role, tr("a translucent tint: {says}").format(says=context.says))
        return Guess(context.active if picked else context.surface, tr("fill colour: {says}").format(says=context.says))
    if disabled:
        return Guess("disabled_text", tr("colour of disabled text: {says}").format(says=context.says))
    if _ACCENTED_TEXT.search(span.key) and context.surface == "panel" and not span.where.strip().startswith("#"):
        return Guess(context.text, tr("text colour: {says}").format(says=context.says))
    return Guess(context.active_text if picked else context.text, tr("text colour: {says}").format(says=context.says))
