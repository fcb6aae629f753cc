"""Every role of a palette: its name, its title and one sentence saying where it shows. Data only."""

from __future__ import annotations

from dataclasses import dataclass

from ..language import tr


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


# The sixteen colours of terminals by their number.
ANSI_NAMES: tuple[str, ...] = (
    tr("black"),
    tr("red"),
    tr("green"),
    tr("yellow"),
    tr("blue"),
    tr("magenta"),
    tr("cyan"),
    tr("white"),
    tr("bright black"),
    tr("bright red"),
    tr("bright green"),
    tr("bright yellow"),
    tr("bright blue"),
    tr("bright magenta"),
    tr("bright cyan"),
    tr("bright white"),
)
ROLES: tuple[Role, ...] = (
    *_rows(
        tr("Windows"),
        ("window", tr("Window"), "surface", tr("The body of every window and dialog.")),
        ("window_text", tr("Window text"), "text", tr("Labels and icons on window bodies.")),
        ("view", tr("View"), "surface", tr("Lists, text fields, documents and editors.")),
        ("view_text", tr("View text"), "text", tr("Text in lists, fields and documents.")),
        ("sidebar", tr("Sidebar"), "surface", tr("Side lists for places and sections.")),
        ("sidebar_text", tr("Sidebar text"), "text", tr("Entries of side lists.")),
        ("card", tr("Card"), "surface", tr("Raised boxes and grouped rows.")),
        ("card_text", tr("Card text"), "text", tr("Text on raised boxes.")),
    ),
    *_rows(
        tr("Header bars"),
        ("header", tr("Header"), "surface", tr("Title and header bars that programs draw themselves.")),
        ("header_text", tr("Header text"), "text", tr("Titles and icons on header bars.")),
        ("header_idle", tr("Header, idle"), "surface", tr("Header bars of windows without focus.")),
        ("header_idle_text", tr("Header text, idle"), "text", tr("Titles of windows without focus.")),
        (
            "border",
            tr("Decoration"),
            "surface",
            tr("Window decorations: title bars and frames drawn by the window manager."),
        ),
        ("border_text", tr("Decoration text"), "text", tr("Titles and buttons on window decorations.")),
        ("border_idle", tr("Decoration, idle"), "surface", tr("The same on windows without focus.")),
        (
            "border_idle_text",
            tr("Decoration text, idle"),
            "text",
            tr("Titles on the decorations of windows without focus."),
        ),
    ),
    *_rows(
        tr("Menus"),
        ("menu", tr("Menu"), "surface", tr("Menus, popovers and drop-down lists.")),
        ("menu_text", tr("Menu text"), "text", tr("Menu entries at rest.")),
        ("menu_hover", tr("Menu, hovered"), "surface", tr("The menu entry under the pointer.")),
        ("menu_hover_text", tr("Menu text, hovered"), "text", tr("Text on the entry under the pointer.")),
    ),
    *_rows(
        tr("Shell"),
        ("panel", tr("Panel"), "surface", tr("The shell's panel, the dock and bars.")),
        ("panel_text", tr("Panel text"), "text", tr("Clock, labels and icons on the panel.")),
        ("panel_active", tr("Panel, active"), "surface", tr("The open or running item on the panel.")),
        ("panel_active_text", tr("Panel text, active"), "text", tr("The label of the open item on the panel.")),
        ("tooltip", tr("Tooltip"), "surface", tr("Tooltips.")),
        ("tooltip_text", tr("Tooltip text"), "text", tr("Text of tooltips.")),
        ("notice", tr("Notification"), "surface", tr("Notifications and on-screen displays.")),
        ("notice_text", tr("Notification text"), "text", tr("Text of notifications.")),
    ),
    *_rows(
        tr("Controls"),
        ("control", tr("Control"), "surface", tr("Buttons at rest.")),
        ("control_hover", tr("Control, hovered"), "surface", tr("The button under the pointer.")),
        ("control_pressed", tr("Control, pressed"), "surface", tr("A button held down.")),
        ("control_text", tr("Control text"), "text", tr("Labels of buttons in every state.")),
        ("disabled_text", tr("Disabled text"), "text", tr("Anything that is disabled.")),
        ("outline", tr("Outline"), "mark", tr("Edges of fields, check and radio marks, switches and sliders.")),
        ("focus", tr("Focus mark"), "mark", tr("The ring around the control with the keyboard focus.")),
        ("divider", tr("Divider"), "quiet", tr("Lines between areas that carry no meaning.")),
        ("shadow", tr("Shadow"), "quiet", tr("Shadows under windows and menus.")),
    ),
    *_rows(
        tr("Accent colour and selection"),
        ("accent", tr("Accent colour"), "surface", tr("The main button, switches, progress and checked marks.")),
        ("accent_text", tr("Text on accent colour"), "text", tr("Text and marks on the accent colour.")),
        ("selection", tr("Selection"), "surface", tr("Selected text and rows.")),
        ("selection_text", tr("Selection text"), "text", tr("Text on selected rows.")),
        ("selection_idle", tr("Selection, idle"), "surface", tr("Selected rows in a window without focus.")),
        ("selection_idle_text", tr("Selection text, idle"), "text", tr("Text on them.")),
        ("link", tr("Link"), "text", tr("Links in text.")),
        ("link_visited", tr("Visited link"), "text", tr("Links that were followed before.")),
    ),
    *_rows(
        tr("Status"),
        *(
            row
            for name, title, means in (
                ("success", tr("Success"), tr("went well")),
                ("warning", tr("Warning"), tr("needs attention")),
                ("error", tr("Error"), tr("failed or destroys something")),
            )
            for row in (
                (name, title, "surface", tr("Filled areas that tell what {means}.").format(means=means)),
                (
                    f"{name}_text",
                    tr("{title} text").format(title=title),
                    "text",
                    tr("Text and marks on the {name} fill.").format(name=name),
                ),
                (
                    f"{name}_ink",
                    tr("{title}-coloured text").format(title=title),
                    "text",
                    tr("Words on windows and views that tell what {means}.").format(means=means),
                ),
            )
        ),
    ),
    *_rows(
        tr("Terminal"),
        ("terminal", tr("Terminal"), "surface", tr("The background of terminals.")),
        ("terminal_text", tr("Terminal text"), "text", tr("Plain text in terminals.")),
        ("cursor", tr("Text cursor"), "mark", tr("The terminal's text cursor.")),
        ("cursor_text", tr("Text in cursor"), "text", tr("The letter in the text cursor.")),
        ("terminal_selection", tr("Terminal selection"), "surface", tr("Marked text in terminals.")),
        ("terminal_selection_text", tr("Terminal selection text"), "text", tr("Letters of marked text.")),
        *(
            (
                f"ansi_{i}",
                tr("ANSI {i}, {name}").format(i=i, name=name),
                "text",
                tr("Terminal output in {name}.").format(name=name),
            )
            for i, name in enumerate(ANSI_NAMES)
        ),
    ),
    *_rows(
        tr("Desktop widgets"),
        ("widget_text", tr("Widget text"), "text", tr("Text of widgets drawn on the wallpaper.")),
        ("widget_accent", tr("Widget accent"), "text", tr("Highlighted figures and graphs of widgets.")),
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
