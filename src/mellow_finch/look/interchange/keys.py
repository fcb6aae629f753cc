"""Which terminal colour, or colour of a window, a key of a settings file speaks of, in whatever spelling."""

from __future__ import annotations

import re
from collections.abc import Iterable, Sequence
from functools import lru_cache

from .model import role_named

OWN = "x-"  # before a key of ours that no program knows
NAMES = ("black", "red", "green", "yellow", "blue", "magenta", "cyan", "white")
_NUMBER_OF = {name: i for i, name in enumerate(NAMES)} | {"purple": 5, "grey": 7, "gray": 7}
_BRIGHT = {"bright", "brights", "light", "intense", "bold", "hi"}
_PASSED = {"faint", "dim"}  # a third set of eight that no role stands for
_WORD = re.compile(r"[A-Z]?[a-z]+|[A-Z]+(?![a-z])|\d+")
_NUMBERED = {"color", "colour", "ansi", "palette", "col", "regular", "normal", "bright", "brights"}
# Words that say nothing beside what they stand with.
_FILLING = {
    "color", "colour", "colors", "colours", "terminal", "ansi", "theme", "primary", "general", "main", "ui", "palette",
    "dark", "light", "configuration", "profile", "scheme",
}  # fmt: skip
_OTHERS = {
    ("background",): "terminal",
    ("bg",): "terminal",
    ("foreground",): "terminal_text",
    ("fg",): "terminal_text",
    ("text",): "terminal_text",
    ("cursor",): "cursor",
    ("cursor", "background"): "cursor",
    ("cursor", "bg"): "cursor",
    ("cursor", "cursor"): "cursor",
    ("cursor", "text"): "cursor_text",
    ("cursor", "foreground"): "cursor_text",
    ("cursor", "fg"): "cursor_text",
    ("cursor", "accent"): "cursor_text",
    ("selection",): "terminal_selection",
    ("selection", "background"): "terminal_selection",
    ("selection", "bg"): "terminal_selection",
    ("highlight", "background"): "terminal_selection",
    ("selection", "foreground"): "terminal_selection_text",
    ("selection", "fg"): "terminal_selection_text",
    ("selection", "text"): "terminal_selection_text",
    ("selected", "text"): "terminal_selection_text",
    ("highlight", "foreground"): "terminal_selection_text",
}
# Keys of editors' themes, by the whole of them.
_OF_EDITORS = {
    "editor.background": "view",
    "editor.foreground": "view_text",
    "sideBar.background": "sidebar",
    "sideBar.foreground": "sidebar_text",
    "menu.background": "menu",
    "menu.foreground": "menu_text",
    "titleBar.activeBackground": "header",
    "titleBar.activeForeground": "header_text",
    "button.background": "accent",
    "button.foreground": "accent_text",
    "terminalCursor.foreground": "cursor",
    "terminalCursor.background": "cursor_text",
}


@lru_cache(maxsize=4096)
def _words(key: str) -> tuple[str, ...]:
    return tuple(w.lower() for w in _WORD.findall(key))


def role_of_key(path: Sequence[str]) -> str:
    """Return the role that a key speaks of, empty for none; path: the sections that it stands in, then the key."""
    if path[-1].startswith(OWN):
        return role_named(path[-1].removeprefix(OWN))
    key = ".".join(path)
    for name, role in _OF_EDITORS.items():
        if key.endswith(name):
            return role
    words = [w for part in path for w in _words(part)]
    if set(words) & _PASSED:
        return ""
    return _numbered(words) or _other(words) or (role_named(path[-1]) if len(path) == 1 else "")


def _numbered(words: Sequence[str]) -> str:
    """Return which of the sixteen it is."""
    bright = 8 if set(words) & _BRIGHT else 0
    last = words[-1] if words else ""
    for before in ("bright", "light", "bold"):
        if last.startswith(before) and last.removeprefix(before) in _NUMBER_OF:
            last, bright = last.removeprefix(before), 8
    numbers = [w for w in words if w.isdigit()]
    if len(numbers) == 1 and set(words) & _NUMBERED:
        number = int(numbers[0]) + (bright if int(numbers[0]) < 8 else 0)
        return f"ansi_{number}" if number < 16 else ""
    if last in _NUMBER_OF and not set(words) & {"syntax", "tab"}:
        return f"ansi_{_NUMBER_OF[last] + bright}"
    return ""


def _other(words: Sequence[str]) -> str:
    bare = tuple(w for w in words if w not in _FILLING)
    return _OTHERS.get(bare) or _OTHERS.get(tuple(dict.fromkeys(bare))) or ""


def counted_from_one(roles: Iterable[str], keys: Iterable[str]) -> bool:
    """Tell whether a file numbers its sixteen from 1: it has a 16th, and none with 0."""
    numbers = {int(found[-1]) for key in keys if (found := re.findall(r"\d+", key))}
    return 16 in numbers and 0 not in numbers and any(r.startswith("ansi_") for r in roles)
