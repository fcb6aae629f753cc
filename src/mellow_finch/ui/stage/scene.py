"""What stands on the stage: a desktop that somebody at Reedholm lives in, 1600 by 1000 units, lowest thing first.

Every colour comes through the brush from what a component's files say; nothing here names a colour of a palette. A
component that is in view takes the place of its kind: its bar instead of the shell's panel, its terminal instead of the
other, its launcher, editor or lock screen over it all.
"""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import replace
from functools import lru_cache, partial
from typing import NamedTuple

from PyQt6.QtCore import QRectF

from ...components.catalogue import COMPONENT_BY_ID
from ...components.model import Paints
from ...components.options import options_of
from ...look.model import Look
from ...session.composition import GTK, WHOLE, Composition
from .brush import HEIGHT, WIDTH, Brush
from .scenes.bars import border_bar, draw_bar, draw_dock, toolkit_launchers, toolkit_menu, toolkit_panel
from .scenes.borders import draw_border_menu, draw_framed_windows
from .scenes.browser import draw_browser
from .scenes.editor import draw_editor
from .scenes.overlays import draw_launcher, draw_lock, draw_notices, usual_notice
from .scenes.programs import draw_chat, draw_office, draw_own, draw_tool, draw_viewer
from .scenes.shell import dock, notification, panel, shell_menu
from .scenes.terminal import terminal, terminal_extras
from .scenes.toolkit import draw_toolkit
from .scenes.widgets import drawing, rules, widget
from .scenes.windows import files, gtk3_window, gtk4_window

__all__ = [
    "AS_USUAL",
    "CLOSE",
    "HEIGHT",
    "TERMINAL",
    "WIDTH",
    "ScenePiece",
    "Shape",
    "border_of",
    "close_of",
    "configure_brush",
    "draw_scene",
    "drawn_of",
    "owners",
    "pieces",
    "shaped",
]

TERMINAL = (26.0, 552.0, 642.0, 360.0)  # where the terminal stands, with a little room around it
# What is looked at for a small picture of a component, by the part of the scene that shows it.
CLOSE: dict[str, tuple[float, float, float, float]] = {
    "gtk-3": (36, 62, 400, 250),
    "gtk-4": (716, 62, 400, 250),
    "kde": (692, 484, 400, 250),
    "toolkit": (692, 484, 400, 250),
    "terminal": (36, 562, 400, 250),
    "shell": (1280, 0, 320, 200),
    "bar": (0, 0, 320, 200),
    "dock": (600, 860, 224, 140),
    "launcher": (520, 210, 560, 350),
    "notice": (1250, 560, 340, 212),
    "borders": (880, 470, 400, 250),
    "editor": (400, 120, 480, 300),
    "widget": (1318, 396, 268, 168),
    "lock": (480, 300, 640, 400),
    "browser": (240, 90, 480, 300),
    "tool": (280, 92, 560, 350),
    "viewer": (280, 92, 560, 350),
    "chat": (280, 92, 560, 350),
    "office": (280, 92, 560, 350),
    "own": (280, 92, 560, 350),
}


def close_of(component: str) -> QRectF:
    """Return the part of the desktop in which a component is best seen."""
    found = COMPONENT_BY_ID[component]
    x, y, w, h = CLOSE.get(found.scene, (0, 0, WIDTH, HEIGHT))
    if found.layout == "bottom":
        y = HEIGHT - h
    return QRectF(x, y, w, h)


class Shape(NamedTuple):
    """What shape a desktop has: what stands on it, and title-bar buttons on the left; asked: what was asked for beyond
    colours, by component, "" for all, in the words of files (see components.options); emblems: by component, a PNG that
    it shows by the look's wish; printed: what stands in the terminal."""

    made: Composition = WHOLE
    left: bool = False
    asked: tuple[tuple[tuple[str, str], str], ...] = ()
    emblems: tuple[tuple[str, bytes], ...] = ()
    printed: str = "session"


AS_USUAL = Shape()


def shaped(shape: Shape, look: Look) -> Shape:
    """Return a desktop's shape with what a look asks for: the side of the buttons, corners, borders, gaps, fonts."""
    rows = {"": look.companions, **{o.name: own.companions for o, own in look.decisions.items() if own.companions}}
    if not any(rows.values()):
        return shape
    asked = sorted(((owner, word), value) for owner, own in rows.items() for word, value in options_of(own).items())
    return shape._replace(left=look.companions.get("buttons") == "left", asked=tuple(asked))


class ScenePiece(NamedTuple):
    """One thing on the stage: the component that it shows, where it draws, in stage units, and how.

    known: whether it is only drawn where its component says something, so that nothing is made up.
    """

    owner: str
    room: tuple[float, float, float, float]
    drawn: Callable[[Brush], None]
    known: bool = False

    def draw(self, b: Brush) -> None:
        """Draw with what the component says."""
        b.of(self.owner)
        if b.says or not self.known:
            self.drawn(b)


_ALL = (0.0, 0.0, float(WIDTH), float(HEIGHT))
_WIDGET = (1310.0, 390.0, 290.0, 340.0)
_TERMINAL = (24.0, 548.0, 648.0, 376.0)
_FORM = (14.0, 44.0, 860.0, 524.0)
_SETTINGS = (698.0, 48.0, 598.0, 428.0)
_FILES = (672.0, 464.0, 606.0, 454.0)
_PANEL = (0.0, 0.0, float(WIDTH), 40.0)
_MENU = (1296.0, 30.0, 304.0, 360.0)
_NOTIFICATION = (1240.0, 758.0, 360.0, 164.0)
_DOCK = (540.0, 874.0, 520.0, 126.0)


def draw_scene(b: Brush, shown: str = "", shape: Shape = AS_USUAL) -> None:
    """Draw everything but the picture; shown: the id of the component that is in view, empty for none."""
    configure_brush(b, shown, shape)
    for piece in pieces(shown, shape):
        piece.draw(b)


def configure_brush(b: Brush, shown: str, shape: Shape) -> None:
    """Tell a brush of the borders and the buttons that windows have, and of the shape that was asked for."""
    b.border, b.left = border_of(shown, shape), shape.left
    b.ask(dict(shape.asked))
    b.emblems = dict(shape.emblems)


def border_of(shown: str, shape: Shape = AS_USUAL) -> str:
    """Return the component whose borders windows have that draw none themselves."""
    return shown if _scene_of(shown) == "borders" else shape.made.borders


def _scene_of(shown: str) -> str:
    """Return where a component is shown, nothing for none or for one that the person has just forgotten."""
    known = COMPONENT_BY_ID.get(shown)
    return known.scene if known is not None else ""


def owners(shown: str = "", shape: Shape = AS_USUAL) -> frozenset[str]:
    """Return the components that the stage shows."""
    return frozenset(piece.owner for piece in pieces(shown, shape)) | {border_of(shown, shape), "kde"}


def drawn_of(paints: Mapping[str, Paints], shown: str = "", shape: Shape = AS_USUAL) -> dict[str, Paints]:
    """Return what the stage draws of what components say: only that is worked out."""
    return {id_: paints[id_] for id_ in sorted(owners(shown, shape)) if id_ in paints}


@lru_cache(maxsize=128)
def pieces(shown: str = "", shape: Shape = AS_USUAL) -> tuple[ScenePiece, ...]:
    """Return what stands on the stage, lowest first; shown: the component that is in view, empty for none."""
    scene = _scene_of(shown)

    def owner(spot: str, usual: str) -> str:
        return shown if scene == spot else usual

    if scene == "lock":
        return (ScenePiece(shown, _ALL, draw_lock),)
    out: list[ScenePiece] = []
    if scene == "widget":
        out.append(ScenePiece(shown, _ALL, _draw_widget))
    elif shape.made.widget:
        out.append(ScenePiece(shape.made.widget, _WIDGET, _draw_widget))
    if owner("terminal", shape.made.terminal) and scene != "editor":
        out.append(
            ScenePiece(owner("terminal", shape.made.terminal), _TERMINAL, partial(terminal, printed=shape.printed))
        )
    if scene == "terminal":
        out.append(ScenePiece(shown, _ALL, terminal_extras))
    if scene not in _LARGE:
        out.append(ScenePiece(owner("gtk-4", "gtk-4"), _SETTINGS, gtk4_window))
        if scene == "toolkit":
            out.append(ScenePiece(shown, _ALL, draw_toolkit))
        elif scene == "borders":
            out.append(ScenePiece(shown, _ALL, draw_framed_windows))
        else:
            out.append(ScenePiece("kde", _FILES, files))
        out.append(ScenePiece("gtk-3", _FORM, gtk3_window))
    out += _shell_pieces(shown, scene, shape)
    over = _OVER.get(scene)
    if over is not None:
        out.append(ScenePiece(shown, _ALL, over))
    return tuple(piece._replace(known=piece.owner not in (shown, *_WINDOWS)) for piece in out)


_WINDOWS = ("gtk-3", "gtk-4", "kde")
_LARGE = ("editor", "browser", "tool", "viewer", "chat", "office", "own")  # a window that covers those of the toolkits
_OVER: dict[str, Callable[[Brush], None]] = {
    "launcher": draw_launcher,
    "editor": draw_editor,
    "browser": draw_browser,
    "borders": draw_border_menu,
    "tool": draw_tool,
    "viewer": draw_viewer,
    "chat": draw_chat,
    "office": draw_office,
    "own": draw_own,
}


def _draw_widget(b: Brush) -> None:
    if b.has("drawn colour 1"):
        drawing(b)
    elif b.has("rule 1"):
        rules(b)
    else:
        widget(b)


def _lower(by: float, draw: Callable[[Brush], None]) -> Callable[[Brush], None]:
    def drawn(b: Brush) -> None:
        with b.shifted(0, by):
            draw(b)

    return drawn


def _shell_pieces(shown: str, scene: str, shape: Shape) -> list[ScenePiece]:
    """Return panel, menu, notifications and dock, or what stands in their place; a low panel leaves less room."""
    made = shape.made
    if scene in ("bar", "shell"):
        low = COMPONENT_BY_ID[shown].layout == "bottom" or (scene == "shell" and made.low)
        notices = shown if scene == "shell" else made.notices
        made = replace(made, panel=shown, low=low, notices=notices, dock="" if low else made.dock, items=None)
    out = _panel_pieces(made)
    if scene == "bar" and not made.low and not shape.made.low:
        out += _panel_pieces(shape.made)[1:]  # the menu of the panel in whose place it stands
    if scene == "notice":
        out.append(ScenePiece(shown, _ALL, draw_notices))
    elif made.notices and not (made.low and made.notices == made.panel):
        draw = notification if _scene_of(made.notices) == "shell" else usual_notice
        out.append(ScenePiece(made.notices, _NOTIFICATION, draw))
    if scene == "dock":
        out.append(ScenePiece(shown, _ALL, draw_dock))
    elif made.dock:
        out.append(_dock_piece(made.dock))
    return out


def _panel_pieces(made: Composition) -> list[ScenePiece]:
    """Return the panel of a desktop, and the menu that belongs to it."""
    id_, scene = made.panel, _scene_of(made.panel)
    if scene == "shell":
        if made.low:
            return [ScenePiece(id_, _ALL, _lower(HEIGHT - 34, panel)), ScenePiece(id_, _ALL, _lower(594, shell_menu))]
        return [ScenePiece(id_, _PANEL, panel), ScenePiece(id_, _MENU, shell_menu)]
    if id_ == GTK:
        panel_ = partial(toolkit_panel, items=made.items)
        drawn = _lower(HEIGHT - 34, panel_) if made.low else panel_
        return [ScenePiece(id_, _ALL if made.low else _PANEL, drawn), ScenePiece(id_, _MENU, toolkit_menu)]
    if scene == "borders":
        return [ScenePiece(id_, _ALL, _lower(HEIGHT - 34, border_bar) if made.low else border_bar)]
    if scene == "bar":
        layout = COMPONENT_BY_ID[id_].layout
        by = 0.0 if made.low == (layout == "bottom") else HEIGHT - 34 if made.low else 40 - HEIGHT
        return [ScenePiece(id_, _ALL, _lower(by, partial(draw_bar, layout=layout, items=made.items)))]
    return []


def _dock_piece(id_: str) -> ScenePiece:
    if id_ == GTK:
        return ScenePiece(id_, _DOCK, toolkit_launchers)
    return ScenePiece(id_, _DOCK, draw_dock if _scene_of(id_) == "dock" else dock)
