"""One part of a theme brought without the folder around it, as it lies inside a theme: told by content, put back."""

from __future__ import annotations

import re
from collections.abc import Callable, Mapping
from dataclasses import replace
from pathlib import Path

from ...intake.archives import ArchiveEntry

# The folder that a part lies in, the file that it is told by, and what one of its files has to say.
_PARTS: tuple[tuple[str, str, str], ...] = (
    ("gnome-shell", r"gnome-shell\.css", ""),
    ("cinnamon", r"cinnamon\.css", ""),
    ("gtk-2.0", r"gtkrc", ""),
    ("gtk-4.0", r"gtk(?:-dark)?\.css", r"\bwindowcontrols\b|popover\s*>\s*contents|\bcolumnview\b|\bwindow\.csd\b"),
    ("gtk-3.0", r"gtk(?:-dark)?\.css", ""),
    ("metacity-1", r"metacity-theme-\d\.xml", ""),
    ("xfwm4", r"themerc", r"(?m)^\s*(?:active_text_color|title_|button_layout|show_app_icon|frame_border)"),
    ("openbox-3", r"themerc", r"(?m)^\s*(?:window\.|menu\.|\*\.)"),
    ("plank", r"dock\.theme", ""),
)
_WHOLE = re.compile(r"(?:^|/)(?:gtk-[234]\.\d+|gnome-shell|cinnamon|xfwm4|metacity-1|openbox-3|plank)/")
_SAYS_ITSELF = re.compile(r"gtk-[34]\.\d+|gnome-shell|cinnamon|xfwm4|metacity-1|openbox-3|plank|gtk-2\.0")
_HEAD = 60_000  # bytes of a file that are looked at


def part_of(name: str, entries: Mapping[str, ArchiveEntry], data: Callable[[str], bytes]) -> str:
    """Return the folder of a theme that files are the inside of, such as "gtk-3.0"; empty when they are none.

    name: of the folder or archive that they came in, which is believed where it names a part.
    """
    if any(_WHOLE.search(path) for path in entries):
        return ""
    for part, mark, says in _PARTS:
        file = next((path for path in entries if re.fullmatch(mark, path)), None)
        if file is None:
            continue
        if _SAYS_ITSELF.fullmatch(name):
            if name.partition("-")[0] == part.partition("-")[0] and (not name.startswith("gtk") or name[4] == part[4]):
                return name
            continue
        beside = (path for path in entries if "/" not in path and path.endswith((".css", "themerc")))
        if not says or any(re.search(says, _text(data, path)) for path in [file, *beside]):
            return part
    return ""


def _text(data: Callable[[str], bytes], path: str) -> str:
    return data(path)[:_HEAD].decode("latin-1")


def theme_around(folder: Path) -> str:
    """Return the name of the theme that the folder of a part lies in, empty where it lies in none."""
    above = folder.parent
    if not _SAYS_ITSELF.fullmatch(folder.name):
        return ""
    beside = (above / part for part, _, _ in _PARTS if part != folder.name)
    is_theme = above.parent.name in ("themes", ".themes") or (above / "index.theme").is_file()
    return above.name if is_theme or (any(path.is_dir() for path in beside) and above.name[:1] != ".") else ""


def put_into(part: str, entries: Mapping[str, ArchiveEntry]) -> dict[str, ArchiveEntry]:
    """Return files as they lie in a theme, within the folder of their part."""
    return {f"{part}/{path}": replace(entry, path=f"{part}/{path}") for path, entry in entries.items()}
