"""What stands on the stage: a desktop that somebody at Reedholm lives in, 1600 by 1000 units, lowest thing first.

Every colour comes through the brush from what a component's files say; nothing here names a colour of a palette. A
component that is in view takes the place of its kind: its bar instead of the shell's panel, its terminal instead of the
other, its launcher, editor or lock screen over it all.
"""

from __future__ import annotations

from collections.abc import Callable

from PyQt6.QtCore import QRectF

from ...components.catalogue import COMPONENT_BY_ID
from .bars import draw_bar, draw_dock
from .borders import draw_border_menu, draw_framed_windows
from .browser import draw_browser
from .brush import HEIGHT, WIDTH, Brush
from .editor import draw_editor
from .overlays import draw_launcher, draw_lock, draw_notices
from .shell import dock, notification, panel, shell_menu
from .things import drawing, rules, terminal, terminal_extras, widget
from .toolkit import draw_toolkit
from .windows import files, gtk3_window, gtk4_window

__all__ = ["CLOSE", "HEIGHT", "TERMINAL", "WIDTH", "close_of", "draw_scene"]

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
}


def close_of(component: str) -> QRectF:
    """Return the part of the desktop in which a component is best seen."""
    found = COMPONENT_BY_ID[component]
    x, y, w, h = CLOSE.get(found.scene, (0, 0, WIDTH, HEIGHT))
    if found.layout == "bottom":
        y = HEIGHT - h
    return QRectF(x, y, w, h)


def draw_scene(b: Brush, shown: str = "") -> None:
    """Draw everything but the picture; shown: the id of the component that is in view, empty for none."""
    scene = COMPONENT_BY_ID[shown].scene if shown else ""

    def owner(spot: str, usual: str) -> str:
        return shown if scene == spot else usual

    if scene == "lock":
        draw_lock(b.of(shown))
        return
    _draw_widgets(b, shown, scene)
    b.border = shown if scene == "borders" else "kde"
    terminal(b, owner("terminal", "terminal"))
    if scene == "terminal":
        terminal_extras(b.of(shown))
    if scene not in ("editor", "browser"):
        gtk4_window(b.of(owner("gtk-4", "gtk-4")))
        if scene == "toolkit":
            draw_toolkit(b.of(shown))
        elif scene == "borders":
            draw_framed_windows(b.of(shown))
        else:
            files(b.of("kde"))
        gtk3_window(b.of("gtk-3"))
    _draw_shell(b, shown, scene)
    over = _OVER.get(scene)
    if over is not None:
        over(b.of(shown))


_OVER: dict[str, Callable[[Brush], None]] = {
    "launcher": draw_launcher,
    "editor": draw_editor,
    "browser": draw_browser,
    "borders": draw_border_menu,
}


def _draw_widgets(b: Brush, shown: str, scene: str) -> None:
    if scene == "widget":
        b.of(shown)
        if b.has("drawn colour 1"):
            drawing(b)
        elif b.has("rule 1"):
            rules(b)
        else:
            widget(b)
    else:
        widget(b.of("widget"))


def _draw_shell(b: Brush, shown: str, scene: str) -> None:
    """Draw panel, menu, notifications and dock, or what stands in their place; a low panel leaves no room for some."""
    layout = COMPONENT_BY_ID[shown].layout if scene in ("bar", "shell") else ""
    low = layout == "bottom"
    low_shell, low_bar = low and scene == "shell", low and scene == "bar"
    shell = shown if scene == "shell" else "shell"
    if scene == "bar":
        draw_bar(b.of(shown), layout)
    else:
        with b.shifted(0, HEIGHT - 34 if low_shell else 0):
            panel(b.of(shell))
    if not low_bar:
        with b.shifted(0, 594 if low_shell else 0):
            shell_menu(b.of(shell))
    if scene == "notice":
        draw_notices(b.of(shown))
    elif not low_shell:
        notification(b.of(shell))
    if scene == "dock":
        draw_dock(b.of(shown))
    elif not low:
        dock(b.of(shell))
