"""Drawings that a look is drawn into: the elements of an SVG-drawn Qt style, the backgrounds of a desktop theme."""

from __future__ import annotations

from collections.abc import Mapping

from ...colour.rgb import Rgba
from .palette import ComponentPalette

_HEAD = '<svg xmlns="http://www.w3.org/2000/svg" width="{w}" height="{h}" viewBox="0 0 {w} {h}">\n'

# Element, and by state: the role that fills it and the role of its edge.
STYLE_ELEMENTS: tuple[tuple[str, Mapping[str, tuple[str, str]]], ...] = (
    (
        "button",
        {
            "normal": ("control", "outline"),
            "focused": ("control_hover", "focus"),
            "pressed": ("control_pressed", "outline"),
            "toggled": ("selection", "selection"),
            "disabled": ("window", "divider"),
        },
    ),
    (
        "lineedit",
        {"normal": ("view", "outline"), "focused": ("view", "focus"), "disabled": ("window", "divider")},
    ),
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
    ("menu", {"normal": ("menu", "outline")}),
    ("menuitem", {"focused": ("menu_hover", "menu_hover"), "pressed": ("menu_hover", "menu_hover")}),
    ("menubaritem", {"focused": ("menu_hover", "menu_hover"), "pressed": ("menu_hover", "menu_hover")}),
    ("toolbar", {"normal": ("header", "header")}),
    ("header", {"normal": ("sidebar", "divider"), "focused": ("control_hover", "divider")}),
    ("tooltip", {"normal": ("tooltip", "tooltip")}),
    ("progress", {"normal": ("view", "outline")}),
    ("progress-pattern", {"normal": ("accent", "accent"), "disabled": ("outline", "outline")}),
    ("scrollbarslider", {"normal": ("outline", "outline"), "focused": ("accent", "accent")}),
    ("slider", {"normal": ("view", "outline"), "toggled": ("accent", "accent")}),
    ("slidercursor", {"normal": ("control", "outline"), "focused": ("control_hover", "focus")}),
    ("checkbox", {"normal": ("view", "outline"), "focused": ("view", "focus"), "checked-normal": ("accent", "accent")}),
    ("radio", {"normal": ("view", "outline"), "focused": ("view", "focus"), "checked-normal": ("accent", "accent")}),
    ("group", {"normal": ("card", "divider")}),
    ("dialog", {"normal": ("window", "window")}),
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


def style_drawing(colours: Mapping[str, Rgba]) -> str:
    """Return the drawing of a Qt style: each element by state with its interior and the eight pieces of its frame."""
    rows: list[str] = []
    y = 0
    for element, states in STYLE_ELEMENTS:
        for i, (state, (fill, edge)) in enumerate(states.items()):
            rows += _element(f"{element}-{state}", i * (_SIZE + _GAP), y, colours[fill], colours[edge])
        y += _SIZE + _GAP
    return _HEAD.format(w=8 * (_SIZE + _GAP), h=y) + "\n".join(rows) + "\n</svg>\n"


def _element(name: str, x: float, y: float, fill: Rgba, edge: Rgba) -> list[str]:
    rows = [_rect(name, x + 2, y + 2, _SIZE - 4, _SIZE - 4, fill)]
    rows += [_rect(f"{name}-{piece}", x + dx, y + dy, w, h, edge) for piece, dx, dy, w, h in _PIECES]
    return rows


def _rect(name: str, x: float, y: float, w: float, h: float, colour: Rgba) -> str:
    return f'<rect id="{name}" x="{x}" y="{y}" width="{w}" height="{h}" fill="{colour.opaque.hex}"/>'


# Drawing, the class that colours it, the role behind that class, and the radius of its corners.
_DESKTOP = (
    ("widgets/panel-background.svg", "Background", "panel", 0),
    ("widgets/background.svg", "Background", "panel", 8),
    ("widgets/tooltip.svg", "Background", "tooltip", 4),
    ("dialogs/background.svg", "Background", "menu", 8),
    ("widgets/viewitem.svg", "Highlight", "menu_hover", 4),
)
_CORNER = 8
_MIDDLE = 16


def desktop_drawings(worn: ComponentPalette) -> dict[str, str]:
    """Return {name: drawing} of a desktop theme: frames of nine pieces whose class follows the colour scheme.

    What is written in the class's rule is what other renderers show.
    """
    return {name: _frame(class_, worn.drawn(role), radius) for name, class_, role, radius in _DESKTOP}


def _frame(class_: str, colour: Rgba, radius: int) -> str:
    full = 2 * _CORNER + _MIDDLE
    rule = f".ColorScheme-{class_} {{ color:{colour.opaque.hex}; }}"
    style = f'<style type="text/css" id="current-color-scheme">{rule}</style>'
    paint = f'class="ColorScheme-{class_}" fill="currentColor"' + (
        f' fill-opacity="{colour.a:.2f}"' if colour.a < 1 else ""
    )
    far = _CORNER + _MIDDLE
    rows = [
        f'<rect id="{name}" x="{x}" y="{y}" width="{w}" height="{h}" {paint}/>'
        for name, x, y, w, h in (
            ("center", _CORNER, _CORNER, _MIDDLE, _MIDDLE),
            ("top", _CORNER, 0, _MIDDLE, _CORNER),
            ("bottom", _CORNER, far, _MIDDLE, _CORNER),
            ("left", 0, _CORNER, _CORNER, _MIDDLE),
            ("right", far, _CORNER, _CORNER, _MIDDLE),
        )
    ]
    for name, x, y in (("topleft", 0, 0), ("topright", full, 0), ("bottomleft", 0, full), ("bottomright", full, full)):
        rows.append(_corner(name, x, y, 1 if x == 0 else -1, 1 if y == 0 else -1, radius, paint))
    return _HEAD.format(w=full, h=full) + style + "\n" + "\n".join(rows) + "\n</svg>\n"


def _corner(name: str, x: int, y: int, right: int, down: int, radius: int, paint: str) -> str:
    """Return one corner of a frame, its outer point (x, y) rounded; right and down are 1 or -1, away from it."""
    path = (
        f"M {x + right * radius} {y} Q {x} {y} {x} {y + down * radius} "
        f"L {x} {y + down * _CORNER} L {x + right * _CORNER} {y + down * _CORNER} L {x + right * _CORNER} {y} Z"
    )
    return f'<path id="{name}" d="{path}" {paint}/>'
