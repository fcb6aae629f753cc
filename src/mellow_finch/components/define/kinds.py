"""The kinds of components, in the order in which they are listed."""

from __future__ import annotations

TOOLKITS = "Toolkits"
KINDS: tuple[str, ...] = (
    TOOLKITS,
    "Window decorations",
    "Shell",
    "Panels and docks",
    "Launchers",
    "Notifications",
    "Terminals",
    "Terminal programs",
    "Editors",
    "Office and images",
    "Viewers and players",
    "Chat and mail",
    "Widgets",
    "Browser",
    "Lock and login",
)
