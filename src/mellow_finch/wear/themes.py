"""Recoloured themes written down: into a folder laid out like a home, or into the home itself with a way back."""

from __future__ import annotations

import posixpath
from collections.abc import Iterator, Mapping
from pathlib import Path

from ..disk.facts import Facts
from ..disk.write import Disk
from ..errors import FileAccessError, ParseError, file_errors
from ..look.dressed import Output
from ..palette.recipe import Tone
from ..session.base import Setting
from ..theme.account import Outcome, OutEntry
from ..theme.kinds import Found
from .plan import Plan, planned
from .targets import check_home

# The settings by which a kind of theme is chosen.
_SETTINGS: Mapping[str, tuple[str, str]] = {
    "toolkit-3": ("org.gnome.desktop.interface", "gtk-theme"),
    "toolkit-4": ("org.gnome.desktop.interface", "gtk-theme"),
    "icons": ("org.gnome.desktop.interface", "icon-theme"),
    "pointers": ("org.gnome.desktop.interface", "cursor-theme"),
    "shell-gnome": ("org.gnome.shell.extensions.user-theme", "name"),
    "shell-cinnamon": ("org.cinnamon.theme", "name"),
    "borders": ("org.gnome.desktop.wm.preferences", "theme"),
}


def lay_down(outputs: Mapping[str, OutEntry], into: Path, sources: frozenset[Path] = frozenset()) -> int:
    """Write files into a folder, links as links; return how many were written.

    sources: files that must not be overwritten. Raises ParseError when one would be, FileAccessError when a file cannot
    be written or an existing link leads out of the folder.
    """
    root = into.resolve()
    taken = {p.resolve() for p in sources}
    rows = sorted(outputs.items(), key=lambda row: bool(row[1].link))
    for path, entry in rows:
        target = into / path
        with file_errors(target, "write"):
            if target.resolve() in taken and not entry.link:
                raise ParseError(
                    "The folder to write into holds the very files to recolour.", hint="Choose another one."
                )
            if not target.parent.resolve().is_relative_to(root):
                raise FileAccessError(f"Could not write “{target}”: a link there leads out of the folder.", target)
            target.parent.mkdir(parents=True, exist_ok=True)
            if entry.link:
                if target.is_symlink() or target.is_file():
                    target.unlink()
                target.symlink_to(entry.link)
                continue
            if target.is_symlink():
                target.unlink()
        Disk().write(target, entry.data, Facts(entry.mode), sync=False)
    return len(rows)


def _files(outputs: Mapping[str, OutEntry]) -> Iterator[Output]:
    """Yield the outputs as plain files; a link becomes a copy of what it points to."""
    for path, entry in outputs.items():
        for _ in range(8):
            if not entry.link:
                yield Output(path, entry.data, ("theme",))
                break
            inner = outputs.get(posixpath.normpath(posixpath.join(posixpath.dirname(path), entry.link)))
            if inner is None:
                break
            entry = inner


def theme_plan(outcome: Outcome, found: tuple[Found, ...], tone: Tone, home: Path) -> Plan:
    """Return what putting a recoloured theme on would write, and the settings that choose it. Writes nothing."""
    check_home(home)
    writes, same, made_of = planned(home, _files(outcome.outputs))
    chosen = dict.fromkeys(_SETTINGS[f.kind.id] for f in found if f.kind.id in _SETTINGS)
    settings = [Setting(schema, key, outcome.name) for schema, key in chosen]
    if any(f.kind.id.startswith("toolkit") for f in found):
        settings.insert(0, Setting("org.gnome.desktop.interface", "color-scheme", f"prefer-{tone}"))
    restart = (
        "Programs that are running follow when the desktop changes the theme's name; others when started again.",
    )
    return Plan(outcome.name, home, writes, restart, tuple(settings), same, made_of=made_of)
