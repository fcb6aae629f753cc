"""The drawings of a window decoration that KWin takes as SVG: a frame of nine pieces by state, and a file a button."""

from __future__ import annotations

from collections.abc import Mapping

from ...colour.rgb import Rgba
from .drawings import SVG_HEAD, nine_pieces

_CORNER = 12
_APART = 48  # from one frame to the next
_BUTTON = 22

# State of the frame: the role that fills it, and whether its upper corners are rounded.
FRAMES: Mapping[str, tuple[str, bool]] = {
    "decoration": ("border", True),
    "decoration-inactive": ("border_idle", True),
    "decoration-maximized": ("border", False),
    "decoration-maximized-inactive": ("border_idle", False),
}
# State of a button: what lies under its sign, empty for the frame, and the role of the sign.
BUTTON_STATES: Mapping[str, tuple[str, str]] = {
    "active": ("", "border_text"),
    "inactive": ("", "border_idle_text"),
    "hover": ("control_hover", "control_text"),
    "hover-inactive": ("control_hover", "control_text"),
    "pressed": ("control_pressed", "control_text"),
    "pressed-inactive": ("control_pressed", "control_text"),
    "deactivated": ("", "border_disabled"),
    "deactivated-inactive": ("", "border_disabled"),
}
_CLOSE: Mapping[str, tuple[str, str]] = {"hover": ("error", "error_text"), "hover-inactive": ("error", "error_text")}
SIGNS: Mapping[str, str] = {
    "close": "M7.5 7.5 14.5 14.5M14.5 7.5 7.5 14.5",
    "maximize": "M7.5 7.5H14.5V14.5H7.5Z",
    "restore": "M7 10H12V15H7ZM10 10V7H15V12H12",
    "minimize": "M7 14.5H15",
    "alldesktops": "M11 8A3 3 0 1 1 10.9 8Z",
    "keepabove": "M7 12.5 11 8.5 15 12.5",
    "keepbelow": "M7 9.5 11 13.5 15 9.5",
    "shade": "M7 8H15M9 14 11 12 13 14",
    "help": "M9 9A2 2 0 1 1 11 11V12.5M11 14.9V15.1",
    "appmenu": "M7 8H15M7 11H15M7 14H15",
}


def frame_drawing(colours: Mapping[str, Rgba], radius: int) -> str:
    """Return the frame in its states; radius: of its upper corners, in pixels."""
    rows: list[str] = []
    for i, (name, (role, rounded)) in enumerate(FRAMES.items()):
        radii = (min(radius, _CORNER) if rounded else 0, 0)
        paint = f'fill="{colours[role].opaque.hex}"'
        rows += nine_pieces(paint, radii, i * _APART, _CORNER, f"{name}-")
    return SVG_HEAD.format(w=len(FRAMES) * _APART, h=_APART) + "\n".join(rows) + "\n</svg>\n"


def button_drawing(name: str, colours: Mapping[str, Rgba]) -> str:
    """Return a button in its states: a sign, on a round ground where it is pointed at or pressed."""
    rows = []
    states = {**BUTTON_STATES, **(_CLOSE if name == "close" else {})}
    for i, (state, (ground, ink)) in enumerate(states.items()):
        fill = f'fill="{colours[ground].opaque.hex}"' if ground else 'fill="#000000" fill-opacity="0"'
        rows.append(
            f'<g id="{state}-center" transform="translate({i * (_BUTTON + 4)} 0)">'
            f'<rect width="{_BUTTON}" height="{_BUTTON}" fill="#000000" fill-opacity="0"/>'
            f'<circle cx="11" cy="11" r="10" {fill}/>'
            f'<path d="{SIGNS[name]}" fill="none" stroke="{colours[ink].opaque.hex}" stroke-width="1.6" '
            f'stroke-linecap="round" stroke-linejoin="round"/></g>'
        )
    return SVG_HEAD.format(w=len(states) * (_BUTTON + 4), h=_BUTTON) + "\n".join(rows) + "\n</svg>\n"


def decoration(colours: Mapping[str, Rgba], radius: int) -> dict[str, str]:
    """Return {name: drawing} of a decoration: its frame, and every button."""
    return {"decoration.svg": frame_drawing(colours, radius)} | {
        f"{name}.svg": button_drawing(name, colours) for name in SIGNS
    }
