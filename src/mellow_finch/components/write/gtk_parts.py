"""The places of the toolkit's sheets that the stage and the proof look at, in both of its current generations."""

from __future__ import annotations

from dataclasses import replace

from ...colour.requirement import DISABLED, MARK, NONE, TEXT, Requirement
from ..model import Part

WINDOW = "window.background.csd"  # with a title bar of its own: the only kind that can be translucent
PANEL = "window.background.panel.xfce4-panel"


def _part(
    id_: str, at: str, roles: str, state: str = "", need: Requirement = TEXT, edge_need: Requirement = NONE
) -> Part:
    text_role, fill_role = roles.split("/")
    place = f"{WINDOW} > {at}" if at else WINDOW
    return Part(id=id_, state=state, at=place, text_role=text_role, fill_role=fill_role, need=need, edge_need=edge_need)


def _panel_part(id_: str, at: str, roles: str, state: str = "") -> Part:
    text_role, fill_role = roles.split("/")
    under = "panel" if id_ != "panel" else ""
    part = Part(id=id_, state=state, at=f"{PANEL}{at}", text_role=text_role, fill_role=fill_role, under=under)
    return replace(part, on_picture=not under, place="panel")


# Desktops that are built on GTK 3 have it paint their panels.
_PANEL = (
    _panel_part("panel", "", "panel_text/panel"),
    _panel_part("panel button", " > box > button.flat", "panel_text/panel"),
    _panel_part("panel button", " > box > button.flat:checked", "panel_active_text/panel_active", "open"),
)


def _parts(version: str) -> tuple[Part, ...]:
    """Return the places that the stage and the proof look at; both generations share most of them."""
    old = version == "3.0"
    menu = "menu" if old else "popover.background.menu > contents"
    item = f"{menu} > menuitem" if old else f"{menu} > modelbutton.flat"
    row = "list > row.activatable"
    entry = "entry" if old else "entry > text"
    edge = "entry"
    rows = [
        _part("window", "", "window_text/window"),
        _part("label, dim", "box > label.dim-label", "window_text/window"),
        _part("link", "box > label > link", "link/window"),
        _part("link, visited", "box > label > link:visited", "link_visited/window"),
        _part("view", "textview.view > text", "view_text/view"),
        _part("list", "list", "view_text/view"),
        _part("list row", row, "view_text/view"),
        _part("list row", f"{row}:hover", "card_text/card", "hover"),
        _part("list row", f"{row}:selected", "selection_text/selection", "selected"),
        _part("list row", f"{row}:selected:backdrop", "selection_idle_text/selection_idle", "selected, idle"),
        _part("header bar", "headerbar.titlebar", "header_text/header"),
        _part("header bar", "headerbar.titlebar:backdrop", "header_idle_text/header_idle", "idle"),
        _part("header subtitle", "headerbar.titlebar > box > label.subtitle", "header_text/header"),
        _part("header button", "headerbar.titlebar > button.flat", "header_text/header"),
        _part("sidebar", "box.sidebar", "sidebar_text/sidebar"),
        _part("sidebar row", "box.sidebar > list > row:selected", "selection_text/selection", "selected"),
        _part("card", "frame.card", "card_text/card"),
        _part("field", edge, "view_text/view", edge_need=MARK),
        _part("field", f"{edge}:focus", "view_text/view", "focus", edge_need=MARK),
        _part("field", f"{edge}:disabled", "disabled_text/window", "disabled", need=DISABLED),
        _part("field", f"{edge}.error", "error_ink/view", "error", edge_need=MARK),
        _part("field selection", f"{entry} > selection", "selection_text/selection"),
        _part("button", "button.text-button", "control_text/control"),
        _part("button", "button.text-button:hover", "control_text/control_hover", "hover"),
        _part("button", "button.text-button:active", "control_text/control_pressed", "pressed"),
        _part("button", "button.text-button:checked", "selection_text/selection", "checked"),
        _part("button", "button.text-button:disabled", "disabled_text/window", "disabled", need=DISABLED),
        _part("main button", "button.text-button.suggested-action", "accent_text/accent"),
        _part("main button", "button.text-button.suggested-action:hover", "accent_text/accent", "hover"),
        _part("main button", "button.text-button.suggested-action:active", "accent_text/accent", "pressed"),
        _part("delete button", "button.text-button.destructive-action", "error_text/error"),
        _part("delete button", "button.text-button.destructive-action:hover", "error_text/error", "hover"),
        _part("check", "checkbutton > check", "view_text/view", edge_need=MARK, need=NONE),
        _part("check", "checkbutton > check:checked", "accent_text/accent", "checked", edge_need=MARK),
        _part("check", "checkbutton > check:disabled", "disabled_text/window", "disabled", need=NONE),
        _part(
            "radio", f"{'radiobutton' if old else 'checkbutton'} > radio", "view_text/view", edge_need=MARK, need=NONE
        ),
        _part(
            "radio",
            f"{'radiobutton' if old else 'checkbutton'} > radio:checked",
            "accent_text/accent",
            "checked",
            edge_need=MARK,
            need=NONE,
        ),
        _part("switch", "switch", "outline/view", edge_need=MARK, need=NONE),
        _part("switch", "switch:checked", "accent_text/accent", "on", edge_need=MARK, need=NONE),
        _part("switch knob", "switch > slider", "outline/outline", need=NONE),
        _part("switch knob", "switch:checked > slider", "accent_text/accent_text", "on", need=NONE),
        _part("slider trough", "scale > trough", "outline/view", edge_need=MARK, need=NONE),
        _part("slider fill", "scale > trough > highlight", "accent/accent", need=NONE),
        _part("slider knob", "scale > trough > slider", "outline/control", edge_need=MARK, need=NONE),
        _part("progress trough", "progressbar > trough", "outline/view", edge_need=MARK, need=NONE),
        _part("progress", "progressbar > trough > progress", "accent/accent", need=NONE),
        _part("tabs", "notebook > header", "sidebar_text/sidebar"),
        _part("tab", "notebook > header > tabs > tab", "sidebar_text/sidebar"),
        _part("tab", "notebook > header > tabs > tab:hover", "control_text/control_hover", "hover"),
        _part("tab", "notebook > header > tabs > tab:checked", "window_text/window", "open"),
        _part("menu", menu, "menu_text/menu"),
        _part("menu item", item, "menu_text/menu"),
        _part("menu item", f"{item}:hover", "menu_hover_text/menu_hover", "hover"),
        _part("menu item", f"{item}:disabled", "disabled_text/menu", "disabled", need=DISABLED),
        _part("menu shortcut", f"{item} > accelerator", "menu_text/menu"),
        _part("menu bar", "menubar", "header_text/header"),
        _part("message", "infobar", "card_text/card"),
        _part("message", "infobar.warning", "warning_text/warning", "warning"),
        _part("message", "infobar.error", "error_text/error", "error"),
        _part("separator", "separator", "divider/divider", need=NONE),
        _part(
            "scroll bar",
            "scrollbar > range > trough > slider" if not old else "scrollbar > contents > trough > slider",
            "outline/outline",
            need=NONE,
        ),
    ]
    tooltip = Part(id="tooltip", at="tooltip.background", text_role="tooltip_text", fill_role="tooltip")
    return (*rows, *(_PANEL if old else ()), tooltip)


GTK3_PARTS, GTK4_PARTS = _parts("3.0"), _parts("4.0")
