"""Every role of a palette: its name, its title and one sentence saying where it shows. Data only."""

from __future__ import annotations

from dataclasses import dataclass


@dataclass(frozen=True, slots=True)
class Role:
    """A named place for a colour. kind: surface, text, mark (outline, focus), or quiet (carries no meaning)."""

    id: str
    title: str
    group: str
    kind: str
    shows: str


def _rows(group: str, *rows: tuple[str, str, str, str]) -> tuple[Role, ...]:
    return tuple(Role(id_, title, group, kind, shows) for id_, title, kind, shows in rows)


ROLES: tuple[Role, ...] = (
    *_rows(
        "Windows",
        ("window", "Window", "surface", "The body of every window and dialog."),
        ("window_text", "Window text", "text", "Labels and icons on window bodies."),
        ("view", "View", "surface", "Lists, text fields, documents and editors."),
        ("view_text", "View text", "text", "What is written in lists, fields and documents."),
        ("sidebar", "Sidebar", "surface", "Side lists for places and sections."),
        ("sidebar_text", "Sidebar text", "text", "Entries of side lists."),
        ("card", "Card", "surface", "Raised boxes and grouped rows."),
        ("card_text", "Card text", "text", "What is written on raised boxes."),
    ),
    *_rows(
        "Header bars",
        ("header", "Header", "surface", "Title and header bars that programs draw themselves."),
        ("header_text", "Header text", "text", "Titles and icons on header bars."),
        ("header_idle", "Header, idle", "surface", "Header bars of windows without focus."),
        ("header_idle_text", "Header text, idle", "text", "Titles of windows without focus."),
        ("border", "Border", "surface", "Title bars and borders drawn by the window manager."),
        ("border_text", "Border text", "text", "Titles and buttons on such borders."),
        ("border_idle", "Border, idle", "surface", "The same on windows without focus."),
        ("border_idle_text", "Border text, idle", "text", "Titles on the borders of windows without focus."),
    ),
    *_rows(
        "Menus",
        ("menu", "Menu", "surface", "Menus, popovers and drop-down lists."),
        ("menu_text", "Menu text", "text", "Menu entries at rest."),
        ("menu_hover", "Menu, hovered", "surface", "The menu entry under the pointer."),
        ("menu_hover_text", "Menu text, hovered", "text", "What is written on the entry under the pointer."),
    ),
    *_rows(
        "Shell",
        ("panel", "Panel", "surface", "The shell's panel, the dock and bars."),
        ("panel_text", "Panel text", "text", "Clock, labels and icons on the panel."),
        ("panel_active", "Panel, active", "surface", "The open or running item on the panel."),
        ("panel_active_text", "Panel text, active", "text", "The label of the open item on the panel."),
        ("tooltip", "Tooltip", "surface", "Tooltips."),
        ("tooltip_text", "Tooltip text", "text", "What tooltips say."),
        ("notice", "Notice", "surface", "Notifications and on-screen displays."),
        ("notice_text", "Notice text", "text", "What notifications say."),
    ),
    *_rows(
        "Controls",
        ("control", "Control", "surface", "Buttons at rest."),
        ("control_hover", "Control, hovered", "surface", "The button under the pointer."),
        ("control_pressed", "Control, pressed", "surface", "A button held down."),
        ("control_text", "Control text", "text", "Labels of buttons in every state."),
        ("disabled_text", "Disabled text", "text", "Whatever cannot be used now."),
        ("outline", "Outline", "mark", "Edges of fields, check and radio marks, switches and sliders."),
        ("focus", "Focus mark", "mark", "The ring around what the keyboard acts on."),
        ("divider", "Divider", "quiet", "Lines between areas that carry no meaning."),
        ("shadow", "Shadow", "quiet", "Shadows under windows and menus."),
    ),
    *_rows(
        "Accent and selection",
        ("accent", "Accent", "surface", "The main button, switches, progress and checked marks."),
        ("accent_text", "Accent text", "text", "What stands on the accent."),
        ("selection", "Selection", "surface", "Selected text and rows."),
        ("selection_text", "Selection text", "text", "What is written on selected rows."),
        ("selection_idle", "Selection, idle", "surface", "Selected rows in a window without focus."),
        ("selection_idle_text", "Selection text, idle", "text", "What is written on them."),
        ("link", "Link", "text", "Links in text."),
        ("link_visited", "Visited link", "text", "Links that were followed before."),
    ),
    *_rows(
        "Status",
        *(
            row
            for name, title, means in (
                ("success", "Success", "went well"),
                ("warning", "Warning", "needs attention"),
                ("error", "Error", "failed or destroys something"),
            )
            for row in (
                (name, title, "surface", f"Filled areas that tell what {means}."),
                (f"{name}_text", f"{title} text", "text", f"What stands on the {name} fill."),
                (f"{name}_ink", f"{title} ink", "text", f"Words on windows and views that tell what {means}."),
            )
        ),
    ),
    *_rows(
        "Terminal",
        ("terminal", "Terminal", "surface", "The background of terminals."),
        ("terminal_text", "Terminal text", "text", "Plain text in terminals."),
        ("cursor", "Cursor", "mark", "The terminal's cursor block."),
        ("cursor_text", "Cursor text", "text", "The letter under the cursor."),
        ("terminal_selection", "Terminal selection", "surface", "Marked text in terminals."),
        ("terminal_selection_text", "Terminal selection text", "text", "Letters of marked text."),
        *(
            (f"ansi_{i}", f"ANSI {i}, {name}", "text", f"What programs print in {name}.")
            for i, name in enumerate(
                (
                    "black",
                    "red",
                    "green",
                    "yellow",
                    "blue",
                    "magenta",
                    "cyan",
                    "white",
                    "bright black",
                    "bright red",
                    "bright green",
                    "bright yellow",
                    "bright blue",
                    "bright magenta",
                    "bright cyan",
                    "bright white",
                )
            )
        ),
    ),
    *_rows(
        "Desktop widgets",
        ("widget_text", "Widget text", "text", "Text of widgets drawn on the picture."),
        ("widget_accent", "Widget accent", "text", "Highlighted figures and graphs of widgets."),
    ),
)

ROLE_BY_ID: dict[str, Role] = {role.id: role for role in ROLES}


def role_title(name: str) -> str:
    """Return a role's title; a shade of a component's own is called by its name."""
    role = ROLE_BY_ID.get(name)
    return role.title if role is not None else name.replace("_", " ").capitalize()


ROLE_IDS: tuple[str, ...] = tuple(ROLE_BY_ID)
# Roles that move along with another one for as long as they have its colour: borders look like header bars.
FOLLOWS: dict[str, str] = {
    "border": "header",
    "border_text": "header_text",
    "border_idle": "header_idle",
    "border_idle_text": "header_idle_text",
}
