"""Whether what draws the screen blurs behind translucent surfaces, as far as it and its own file tell."""

from __future__ import annotations

import re
from collections.abc import Collection
from pathlib import Path
from typing import NamedTuple

from ..disk.facts import read_plain
from ..errors import FileAccessError

USUAL = "picom"  # the compositor that a look starts where none runs
_MOST = 1 << 20


class Blurring(NamedTuple):
    """One program that draws the screen: whether it blurs always, or where a file of it says so, or never."""

    program: str
    always: bool = False
    files: tuple[str, ...] = ()
    pattern: str = r"(?!)"


PROGRAMS = (
    Blurring("kwin_wayland", always=True),  # a look switches it on
    Blurring("kwin_x11", always=True),
    Blurring("Hyprland", always=True),
    Blurring(
        USUAL,
        files=(".config/picom/picom.conf", ".config/picom.conf"),
        pattern=r'^[ \t]*(?:blur-)?method[ \t]*[=:][ \t]*"?(?:dual_kawase|gaussian|box|kernel)\b',
    ),
    Blurring("wayfire", files=(".config/wayfire.ini",), pattern=r"^[ \t]*plugins[ \t]*=(?:[^\n]*\\\n)*[^\n]*\bblur\b"),
    Blurring("sway", files=(".config/sway/config",), pattern=r"^[ \t]*blur[ \t]+enable\b"),
    *(Blurring(name) for name in ("xfwm4", "marco", "cinnamon", "budgie-wm", "labwc")),
)


def blurs(running: Collection[str], home: Path) -> bool | None:
    """Tell whether one of the programs that run blurs, None where none is known.

    running: executables; home: where their files lie.
    """
    found = [row for row in PROGRAMS if row.program in running]
    return any(row.always or _says(row, home) for row in found) if found else None


def _says(row: Blurring, home: Path) -> bool:
    for path in row.files:
        try:
            data = read_plain(home / path, _MOST)
        except FileAccessError:
            continue
        if data is not None:  # the first that is there is read
            return re.search(row.pattern, data.decode("utf-8", "replace"), re.MULTILINE) is not None
    return False
