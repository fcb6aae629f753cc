"""What stands on a bar and in which order, as far as its own configuration tells."""

from __future__ import annotations

import re
from collections.abc import Collection
from typing import NamedTuple

from ..components.bar_patterns import BarPatterns
from ..components.files import Files, text_of

# What a module shows, by what is in its name; the first that fits counts.
_KINDS = (
    ("workspaces", r"workspace|desktop-?switch|pager|virtual-?desktop|tags|^(i3|bspwm)$"),
    ("tasks", r"task|window-?(list|buttons)|icon-?list|^t$"),
    ("title", r"window|title|client"),
    ("menu", r"menu|whisker|applications|^start"),
    ("launchers", r"launch|^l$"),
    ("tray", r"tray|status-?notifier|indicator|systray|^s$"),
    ("clock", r"clock|date|time|^c$"),
    ("battery", r"batter|power|^b$"),
    ("light", r"light|brightness"),
    ("sound", r"volume|pulse|audio|wireplumber|alsa|mixer|sound"),
    ("network", r"network|wlan|wifi|wireless|eth|wired|connman"),
    ("processor", r"cpu|\bload\b|processor"),
    ("memory", r"memory|\bmem|\bram\b|swap"),
    ("warmth", r"temp|thermal|sensor"),
    ("room", r"disk|filesystem|fs\b"),
    ("music", r"mpd|mpris|media|music|player|cmus"),
)
_NOTHING = re.compile(r"separator|^(sep|spacer?|f)$")
_MOST = 24  # modules of a side


class BarItems(NamedTuple):
    """What each side of a bar shows: kinds of modules, or the name of one that is of no known kind."""

    left: tuple[str, ...] = ()
    middle: tuple[str, ...] = ()
    right: tuple[str, ...] = ()


def kind_of(name: str) -> str:
    """Return what a module shows, its own name where that tells nothing, empty for what only takes up room."""
    plain = name.lower()
    if _NOTHING.search(plain):
        return ""
    return next((kind for kind, pattern in _KINDS if re.search(pattern, plain)), re.split(r"[/#]", name)[-1][:12])


def items_of(told: BarPatterns | None, paths: Collection[str], home: Files) -> BarItems | None:
    """Return what the first of some files says of a bar, None where none tells."""
    if told is None:
        return None
    for path in paths:
        for found in home.find(path) if "*" in path else [path]:
            text = text_of(home, found)
            sides = [_side(told, pattern, text) for pattern in (told.left, told.middle, told.right)]
            if any(sides):
                return _parted(BarItems(*sides))
    return None


def _parted(items: BarItems) -> BarItems:
    """Return one list as its bar lays it out: what lists the windows takes the room, the rest is beyond it."""
    if items.middle or items.right or "tasks" not in items.left:
        return items
    end = items.left.index("tasks") + 1
    return BarItems(items.left[:end], (), items.left[end:])


def _side(told: BarPatterns, pattern: str, text: str) -> tuple[str, ...]:
    found = re.search(pattern, text, re.MULTILINE | re.DOTALL) if pattern else None
    if found is None:
        return ()
    kinds = []
    for name in re.findall(told.words, found[1])[:_MOST]:
        named = re.search(told.named.replace("{}", re.escape(name)), text, re.MULTILINE) if told.named else None
        kinds.append(kind_of(named[1] if named else name))
    return tuple(kind for kind in kinds if kind)
