"""The drawing of a Qt style: each element by state with its interior and frame, and the signs drawn on them."""

from __future__ import annotations

from collections.abc import Iterator, Mapping

from ...colour.rgb import Rgba
from .drawings import SVG_HEAD

# Element, and by state: the role that fills it and the role of its edge. What is missing here is drawn by the style as
# in its own theme, in colours of its own.
_BUTTON = {
    "normal": ("control", "outline"),
    "focused": ("control_hover", "focus"),
    "pressed": ("control_pressed", "outline"),
    "toggled": ("selection", "selection"),
    "disabled": ("window", "divider"),
}
_TICKED = {"checked-normal": ("accent", "accent"), "checked-focused": ("accent", "focus")}
_TICKED |= {f"tristate{state.removeprefix('checked')}": roles for state, roles in _TICKED.items()}
_BOX = {"normal": ("view", "outline"), "focused": ("view", "focus"), **_TICKED}
_HOVERED = dict.fromkeys(("focused", "pressed", "toggled"), ("menu_hover", "menu_hover"))
_GRIP = {"normal": ("outline", "outline"), "focused": ("accent", "accent"), "pressed": ("accent", "accent")}
STYLE_ELEMENTS: tuple[tuple[str, Mapping[str, tuple[str, str]]], ...] = (
    ("button", _BUTTON),
    ("spin", {state: _BUTTON[state] for state in ("normal", "focused", "pressed", "disabled")}),
    ("lineedit", {"normal": ("view", "outline"), "focused": ("view", "focus"), "disabled": ("window", "divider")}),
    (
        "itemview",
        {
            "focused": ("control_hover", "control_hover"),
            "pressed": ("selection", "selection"),
            "toggled": ("selection", "selection"),
            "toggled-inactive": ("selection_idle", "selection_idle"),
        },
    ),
    (
        "tab",
        {
            "normal": ("sidebar", "divider"),
            "focused": ("control_hover", "divider"),
            "toggled": ("window", "accent"),
        },
    ),
    ("tabframe", {"normal": ("window", "divider")}),
    ("common", {"normal": ("window", "divider")}),
    ("focus", {"": ("window", "focus")}),
    ("menu", {"normal": ("menu", "outline")}),
    ("menuitem", _HOVERED),
    ("menubaritem", _HOVERED),
    ("toolbar", {"normal": ("header", "header")}),
    ("dock", {"normal": ("header", "header")}),
    ("titlebar", {"normal": ("header", "header"), "focused": ("header", "header")}),
    ("header", {"normal": ("sidebar", "divider"), "focused": ("control_hover", "divider")}),
    ("header-separator", {"": ("divider", "divider")}),
    ("tooltip", {"normal": ("tooltip", "tooltip")}),
    ("progress", {"normal": ("view", "outline")}),
    ("progress-pattern", {"normal": ("accent", "accent"), "disabled": ("outline", "outline")}),
    ("scrollbarslider", _GRIP),
    ("grip", _GRIP),
    ("slider", {"normal": ("view", "outline"), "toggled": ("accent", "accent")}),
    ("slider-tick", {"normal": ("outline", "outline")}),
    (
        "slidercursor",
        {
            "normal": ("control", "outline"),
            "focused": ("control_hover", "focus"),
            "pressed": ("control_pressed", "focus"),
            "disabled": ("window", "divider"),
        },
    ),
    ("checkbox", _BOX),
    ("radio", _BOX),
    ("group", {"normal": ("card", "divider")}),
    ("dialog", {"normal": ("window", "window")}),
    ("button-default-indicator", {"": ("accent", "accent")}),
)
_SIZE, _GAP = 16, 8
_PIECES = (
    ("topleft", 0, 0, 2, 2),
    ("top", 2, 0, _SIZE - 4, 2),
    ("topright", _SIZE - 2, 0, 2, 2),
    ("left", 0, 2, 2, _SIZE - 4),
    ("right", _SIZE - 2, 2, 2, _SIZE - 4),
    ("bottomleft", 0, _SIZE - 2, 2, 2),
    ("bottom", 2, _SIZE - 2, _SIZE - 4, 2),
    ("bottomright", _SIZE - 2, _SIZE - 2, 2, 2),
)
# Strokes in a square of sixteen: arrows lie on everything, the others on title bars and tabs.
_ARROWS = {
    "down": "M3 5.5 8 10.5 13 5.5",
    "up": "M3 10.5 8 5.5 13 10.5",
    "left": "M10.5 3 5.5 8 10.5 13",
    "right": "M5.5 3 10.5 8 5.5 13",
    "plus": "M8 3V13M3 8H13",
    "minus": "M3 8H13",
}
_ARROW_STATES = {"normal": "arrow", "focused": "arrow_hover", "pressed": "arrow_hover", "disabled": "arrow_off"}
_SIGNS = {
    "mdi-close": "M4 4 12 12M12 4 4 12",
    "mdi-maximize": "M4 4H12V12H4Z",
    "mdi-minimize": "M4 11H12",
    "mdi-restore": "M4 7H9V12H4ZM7 7V4H12V9H9",
    "mdi-shade": "M4 5H12",
    "mdi-menu": "M3 5H13M3 8H13M3 11H13",
    "tab-close": "M5 5 11 11M11 5 5 11",
}
_SIGN_STATES = ("normal", "focused", "pressed", "disabled")
_HANDLES = {
    "menuitem-tearoff-normal": "M1 8H15",
    "menuitem-tearoff-focused": "M1 8H15",
    "toolbar-handle": "M6 3V13M10 3V13",
    "sizegrip-normal": "M13 5 5 13M13 9 9 13",
    "splitter-grip-normal": "M7 8H9",
    "splitter-grip-focused": "M6 8H10",
    "splitter-grip-pressed": "M6 8H10",
}
_TICK = "M4.5 8.5 7 11 11.5 5.5"
_HALF = "M4.5 8H11.5"


def style_drawing(colours: Mapping[str, Rgba]) -> str:
    """Return the drawing of a Qt style. colours: every role and shade that the elements name."""
    rows: list[str] = []
    y = 0
    for element, states in STYLE_ELEMENTS:
        for i, (state, (fill, edge)) in enumerate(states.items()):
            x = i * (_SIZE + _GAP)
            name = f"{element}-{state}" if state else element
            rows += _SHAPES.get(element, _framed)(name, x, y, colours, fill, edge)
        y += _SIZE + _GAP
    signs = [
        (f"arrow-{n}-{s}", path, colours[role]) for n, path in _ARROWS.items() for s, role in _ARROW_STATES.items()
    ]
    signs += [(f"{name}-{s}", path, colours["header_text"]) for name, path in _SIGNS.items() for s in _SIGN_STATES]
    signs += [(name, path, colours["outline"]) for name, path in _HANDLES.items()]
    for i, (name, path, ink) in enumerate(signs):
        rows.append(_sign(name, i % 8 * (_SIZE + _GAP), y + i // 8 * (_SIZE + _GAP), path, ink))
    y += (len(signs) // 8 + 1) * (_SIZE + _GAP)
    rows += _dial(y, colours)
    return SVG_HEAD.format(w=8 * (_SIZE + _GAP), h=y + 2 * (_SIZE + _GAP)) + "\n".join(rows) + "\n</svg>\n"


def _framed(name: str, x: float, y: float, colours: Mapping[str, Rgba], fill: str, edge: str) -> Iterator[str]:
    """Yield a square and the eight pieces of its frame."""
    yield _rect(name, x + 2, y + 2, _SIZE - 4, _SIZE - 4, colours[fill])
    for piece, dx, dy, w, h in _PIECES:
        yield _rect(f"{name}-{piece}", x + dx, y + dy, w, h, colours[edge])


def _rect(name: str, x: float, y: float, w: float, h: float, colour: Rgba) -> str:
    return f'<rect id="{name}" x="{x}" y="{y}" width="{w}" height="{h}" fill="{colour.opaque.hex}"/>'


def _sign(name: str, x: float, y: float, path: str, ink: Rgba) -> str:
    """Return strokes in a square that is drawn whole, so that they keep their size."""
    stroke = f'<path d="{path}" fill="none" stroke="{ink.hex}" stroke-width="1.8" stroke-linecap="round"/>'
    return f'<g id="{name}" transform="translate({x} {y})">{_room()}{stroke}</g>'


def _room() -> str:
    return f'<rect width="{_SIZE}" height="{_SIZE}" fill="#000000" fill-opacity="0"/>'


def _ticked(name: str, ink: Rgba) -> str:
    path = _TICK if "checked" in name else _HALF if "tristate" in name else ""
    return f'<path d="{path}" fill="none" stroke="{ink.hex}" stroke-width="2" stroke-linecap="round"/>' if path else ""


def _square(name: str, x: float, y: float, colours: Mapping[str, Rgba], fill: str, edge: str) -> Iterator[str]:
    yield (
        f'<g id="{name}" transform="translate({x} {y})">'
        f'<rect width="{_SIZE}" height="{_SIZE}" rx="3" fill="{colours[edge].hex}"/>'
        f'<rect x="1.5" y="1.5" width="13" height="13" rx="2" fill="{colours[fill].hex}"/>'
        f"{_ticked(name, colours['accent_text'])}</g>"
    )


def _round(name: str, x: float, y: float, colours: Mapping[str, Rgba], fill: str, edge: str) -> Iterator[str]:
    dot = f'<circle cx="8" cy="8" r="3" fill="{colours["accent_text"].hex}"/>' if "checked" in name else ""
    yield (
        f'<g id="{name}" transform="translate({x} {y})"><circle cx="8" cy="8" r="8" fill="{colours[edge].hex}"/>'
        f'<circle cx="8" cy="8" r="6.5" fill="{colours[fill].hex}"/>{dot}</g>'
    )


_SHAPES = {"radio": _round, "checkbox": _square}


def _dial(y: float, colours: Mapping[str, Rgba]) -> Iterator[str]:
    edge, fill, ink = (colours[role].hex for role in ("outline", "control", "control_text"))
    yield (
        f'<g id="dial" transform="translate(0 {y})"><circle cx="16" cy="16" r="16" fill="{edge}"/>'
        f'<circle cx="16" cy="16" r="14.5" fill="{fill}"/></g>'
    )
    yield f'<circle id="dial-handle" cx="52" cy="{y + 4}" r="4" fill="{ink}"/>'
    marks = " ".join(f"M{64 + 4 * i} {y}v3" for i in range(8))
    yield f'<g id="dial-notches"><path d="{marks}" fill="none" stroke="{edge}" stroke-width="1"/></g>'
