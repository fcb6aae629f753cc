"""The drawings of a desktop theme: frames of nine pieces, whose colours follow its colour scheme."""

from __future__ import annotations

from ...colour.rgb import Rgba
from .palette import ComponentPalette

SVG_HEAD = '<svg xmlns="http://www.w3.org/2000/svg" width="{w}" height="{h}" viewBox="0 0 {w} {h}">\n'

# Drawing, the class that colours it, empty for a colour of its own, the role behind it, and the radius of its corners.
_DESKTOP = (
    ("widgets/panel-background.svg", "Background", "panel", 0),
    ("widgets/background.svg", "Background", "desk_widget", 8),
    ("widgets/tooltip.svg", "Background", "tooltip", 4),
    ("dialogs/background.svg", "Background", "popup", 8),
    ("widgets/viewitem.svg", "", "popup_hover", 4),
)
_FLAT = ("opaque", "solid")  # where the same drawings lie for a desktop without compositor, and for panels made opaque
_CORNER = 8
_MIDDLE = 16


def desktop_drawings(worn: ComponentPalette) -> dict[str, str]:
    """Return {name: drawing} of a desktop theme: frames of nine pieces, most of whose class follows the colour scheme.

    What is written in the class's rule is what other renderers show.
    """
    found = {name: _frame(class_, worn.drawn(role), radius) for name, class_, role, radius in _DESKTOP}
    see_through = [row for row in _DESKTOP if worn.drawn(row[2]).a < 1]
    found |= {
        f"{place}/{name}": _frame(class_, worn.colours[role], radius)
        for place in _FLAT
        for name, class_, role, radius in see_through
    }
    return found


def _frame(class_: str, colour: Rgba, radius: int) -> str:
    full = 2 * _CORNER + _MIDDLE
    rule = f".ColorScheme-{class_} {{ color:{colour.opaque.hex}; }}" if class_ else ""
    style = f'<style type="text/css" id="current-color-scheme">{rule}</style>'
    paint = f'class="ColorScheme-{class_}" fill="currentColor"' if class_ else f'fill="{colour.opaque.hex}"'
    paint += f' fill-opacity="{colour.a:.2f}"' if colour.a < 1 else ""
    rows = nine_pieces(paint, (radius, radius))
    return SVG_HEAD.format(w=full, h=full) + style + "\n" + "\n".join(rows) + "\n</svg>\n"


def nine_pieces(paint: str, radii: tuple[int, int], left: int = 0, side: int = _CORNER, before: str = "") -> list[str]:
    """Return the elements of a frame that is stretched in its middle.

    paint: the attributes that fill them; radii: of the upper and of the lower corners; left: where the frame begins;
    side: of a corner's square; before: what the names begin with.
    """
    far, full = side + _MIDDLE, 2 * side + _MIDDLE
    rows = [
        f'<rect id="{before}{name}" x="{left + x}" y="{y}" width="{w}" height="{h}" {paint}/>'
        for name, x, y, w, h in (
            ("center", side, side, _MIDDLE, _MIDDLE),
            ("top", side, 0, _MIDDLE, side),
            ("bottom", side, far, _MIDDLE, side),
            ("left", 0, side, side, _MIDDLE),
            ("right", far, side, side, _MIDDLE),
        )
    ]
    for name, x, y in (("topleft", 0, 0), ("topright", full, 0), ("bottomleft", 0, full), ("bottomright", full, full)):
        right, down = 1 if x == 0 else -1, 1 if y == 0 else -1
        rows.append(_corner(f"{before}{name}", left + x, y, right, down, radii[y > 0], paint, side))
    return rows


def _corner(name: str, x: int, y: int, right: int, down: int, radius: int, paint: str, side: int) -> str:
    """Return one corner of a frame, its outer point (x, y) rounded; right and down are 1 or -1, away from it."""
    path = (
        f"M {x + right * radius} {y} Q {x} {y} {x} {y + down * radius} "
        f"L {x} {y + down * side} L {x + right * side} {y + down * side} L {x + right * side} {y} Z"
    )
    return f'<path id="{name}" d="{path}" {paint}/>'
