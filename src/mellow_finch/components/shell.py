"""A shell's style sheet that exists already, recoloured in place."""

from __future__ import annotations

from ..colour.rgb import Rgba
from ..recolour.rewrite import Subject
from ..syntax.cascade import paint, paint_literals
from ..syntax.css import scan_css
from .gtk import painted
from .model import Component, Files, OutFile, Paint, Part, Scheme, as_bytes, text_of
from .rewriting import recoloured

PLACES = (
    ".local/share/themes/*/gnome-shell/gnome-shell.css",
    ".themes/*/gnome-shell/gnome-shell.css",
    ".local/share/themes/*/cinnamon/cinnamon.css",
    ".themes/*/cinnamon/cinnamon.css",
)


def _part(id_: str, at: str, roles: str, state: str = "", need: float = 4.5, on_picture: bool = False) -> Part:
    text_role, fill_role = roles.split("/")
    places = {_PANEL: "panel", "StBoxLayout.notification-banner": "notice", "StWidget#dash": "dock"}
    return Part(
        id=id_,
        state=state,
        at=f"stage > {at}",
        text_role=text_role,
        fill_role=fill_role,
        need=need,
        on_picture=on_picture,
        place=next((place for start, place in places.items() if at.startswith(start)), "everywhere"),
    )


_PANEL = "StWidget#panel"
_BUTTON = f"{_PANEL} > StButton.panel-button"
_MENU = "StWidget.popup-menu > StBoxLayout.popup-menu-content"
_ITEM = f"{_MENU} > StBoxLayout.popup-menu-item"
PARTS: tuple[Part, ...] = (
    _part("panel", _PANEL, "panel_text/panel", on_picture=True),
    _part("panel button", _BUTTON, "panel_text/panel"),
    _part("panel button", _BUTTON + ":hover", "panel_active_text/panel_active", "hover"),
    _part("panel button", _BUTTON + ":active", "panel_active_text/panel_active", "open"),
    _part("clock", f"{_BUTTON} > StLabel.clock", "panel_text/panel"),
    _part("menu", _MENU, "menu_text/menu", on_picture=True),
    _part("menu item", _ITEM, "menu_text/menu"),
    _part("menu item", _ITEM + ":hover", "menu_hover_text/menu_hover", "hover"),
    _part("menu item", _ITEM + ":active", "menu_hover_text/menu_hover", "pressed"),
    _part("menu item", _ITEM + ":insensitive", "disabled_text/menu", "disabled", 2.5),
    _part("menu section", f"{_MENU} > StBoxLayout.popup-sub-menu", "menu_text/menu"),
    _part("menu separator", f"{_MENU} > StWidget.popup-separator-menu-item", "divider/divider", need=0.0),
    _part("quick toggle", f"{_MENU} > StButton.quick-toggle", "control_text/control"),
    _part("quick toggle", f"{_MENU} > StButton.quick-toggle:checked", "accent_text/accent", "on"),
    _part("slider", f"{_MENU} > StWidget.slider", "accent/control", need=0.0),
    _part("calendar day", f"{_MENU} > StButton.calendar-day-base", "menu_text/menu"),
    _part("calendar day", f"{_MENU} > StButton.calendar-day-base:hover", "menu_hover_text/menu_hover", "hover"),
    _part("today", f"{_MENU} > StButton.calendar-day-base.calendar-today", "accent_text/accent"),
    _part("calendar heading", f"{_MENU} > StLabel.calendar-day-heading", "menu_text/menu"),
    _part(
        "other month", f"{_MENU} > StButton.calendar-day-base.calendar-other-month-day", "disabled_text/menu", need=2.5
    ),
    _part("notification", "StBoxLayout.notification-banner", "notice_text/notice", on_picture=True),
    _part("notification text", "StBoxLayout.notification-banner > StLabel.message-body", "notice_text/notice"),
    _part("notification time", "StBoxLayout.notification-banner > StLabel.event-time", "notice_text/notice"),
    _part(
        "notification button", "StBoxLayout.notification-banner > StButton.notification-button", "control_text/control"
    ),
    _part(
        "notification button",
        "StBoxLayout.notification-banner > StButton.notification-button:hover",
        "control_text/control_hover",
        "hover",
    ),
    _part("on-screen display", "StBoxLayout.osd-window", "notice_text/notice", on_picture=True),
    _part("level bar", "StBoxLayout.osd-window > StWidget.level", "accent/control", need=0.0),
    _part("dialog", "StBoxLayout.modal-dialog", "window_text/window"),
    _part("dialog button", "StBoxLayout.modal-dialog > StButton.modal-dialog-linked-button", "control_text/control"),
    _part(
        "dialog button",
        "StBoxLayout.modal-dialog > StButton.modal-dialog-linked-button:hover",
        "control_text/control_hover",
        "hover",
    ),
    _part(
        "dialog button",
        "StBoxLayout.modal-dialog > StButton.modal-dialog-linked-button:focus",
        "accent_text/accent",
        "focus",
    ),
    _part("search field", "StEntry.search-entry", "view_text/view", on_picture=True),
    _part("search field", "StEntry.search-entry:focus", "view_text/view", "focus"),
    _part("dock", "StWidget#dash > StWidget.dash-background", "panel_text/panel", on_picture=True),
    _part("dock label", "StLabel.dash-label", "tooltip_text/tooltip", on_picture=True),
    _part("window switcher", "StBoxLayout.switcher-list", "menu_text/menu", on_picture=True),
    _part(
        "window switcher",
        "StBoxLayout.switcher-list > StButton.item-box:selected",
        "menu_hover_text/menu_hover",
        "selected",
    ),
    _part("link", f"{_MENU} > StLabel.shell-link", "link/menu"),
)
_AT = [p.at for p in PARTS]


def read_sheet(text: str) -> dict[str, Paint]:
    """Return what a shell style sheet says of every part."""
    found = paint(text, _AT)
    return {p.key: painted(found[p.at]) for p in PARTS}


def read_colours(subject: Subject, colours: list[Rgba]) -> dict[str, Paint]:
    """Return the same as read_sheet of the subject rewritten in these colours, without rewriting it."""
    found = paint_literals(subject.text, colours, _AT)
    return {p.key: painted(found[p.at]) for p in PARTS}


def place_of(get: Files) -> str:
    """Return the path of the style sheet in this home, empty when it has none."""
    return next((path for pattern in PLACES for path in get.find(pattern)), "")


def write_shell(scheme: Scheme, get: Files) -> tuple[OutFile, ...]:
    """Return the style sheet recoloured, nothing when there is none."""
    path = place_of(get)
    if not path:
        return ()
    text = recoloured(text_of(get, path), scan_css, read_sheet, PARTS, scheme, "shell", read_colours=read_colours)
    return (OutFile(path, as_bytes(text)),)


def read_shell(get: Files) -> dict[str, Paint]:
    """Return what the style sheet in place says."""
    path = place_of(get)
    return read_sheet(text_of(get, path)) if path else {}


SHELL = Component(
    id="shell",
    title="Shell stylesheet",
    kind="Shell",
    reads="The shell's panel, menus, dock and notifications",
    effect="reload",
    restart="The shell reads it anew when its theme is switched away and back.",
    parts=PARTS,
    write=write_shell,
    read=read_shell,
    rewrites=True,
    needs_file="a shell stylesheet in a theme folder",
)
