"""Recoloured themes written down: into a folder laid out like a home, or into the home itself with a way back."""

from __future__ import annotations

import posixpath
from collections.abc import Iterator, Mapping
from pathlib import Path

from ..disk.below import Below, parts_of
from ..errors import FileAccessError, ParseError, file_errors
from ..language import tr
from ..look.dressed import OF_A_THEME, Output
from ..palette.recipe import Tone
from ..session.base import DesktopSetting
from ..theme.bundle.kinds import FoundTheme, leads_out, root_of_output
from ..theme.result.account import Outcome, OutEntry
from .places import own_home
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

    sources: files that must not be overwritten. Raises ParseError when one would be; FileAccessError when a file cannot
    be written, when a link that is there is in the way, or when one to be laid leads out of its own theme. All of that
    is looked at before the first file is written.
    """
    taken = {p.resolve() for p in sources}
    roots = {root_of_output(path) for path in outputs}
    rows = sorted(outputs.items(), key=lambda row: bool(row[1].link))
    for path, entry in rows:
        parts_of(path)
        with file_errors(into / path, "write"):
            if not entry.link and (into / path).resolve() in taken:
                raise ParseError(
                    tr("The target folder contains the files to recolour."), hint=tr("Choose another one.")
                )
        if entry.link and leads_out(path, entry.link, roots):
            raise FileAccessError(
                tr("Could not write “{path}”: it would be a link that leads out of its theme.").format(path=path),
                into / path,
            )
    below = Below(into)
    for path, entry in rows:
        if entry.link:
            below.link(path, entry.link)
        else:
            below.write(path, entry.data, entry.mode)
    return len(rows)


def looks_like_a_home(folder: Path) -> bool:
    """Tell whether a folder is somebody's home, into which nothing is written without asking."""
    signs = (".bashrc", ".profile", ".bash_profile", ".zshrc", ".ssh", ".config/autostart")
    return folder.resolve() == own_home().resolve() or any((folder / sign).exists() for sign in signs)


def _files(outputs: Mapping[str, OutEntry]) -> Iterator[Output]:
    """Yield the outputs as plain files; a link becomes a copy of what it points to."""
    for path, entry in outputs.items():
        for _ in range(8):
            if not entry.link:
                yield Output(path, entry.data, (OF_A_THEME,))
                break
            inner = outputs.get(posixpath.normpath(posixpath.join(posixpath.dirname(path), entry.link)))
            if inner is None:
                break
            entry = inner


def theme_plan(outcome: Outcome, found: tuple[FoundTheme, ...], tone: Tone, home: Path) -> Plan:
    """Return what putting a recoloured theme on would write, and the settings that choose it. Writes nothing."""
    check_home(home)
    writes, same, made_of = planned(home, _files(outcome.outputs))
    chosen = dict.fromkeys(_SETTINGS[f.kind.id] for f in found if f.kind.id in _SETTINGS)
    settings = [DesktopSetting(schema, key, outcome.name) for schema, key in chosen]
    if any(f.kind.id.startswith("toolkit") for f in found):
        settings.insert(0, DesktopSetting("org.gnome.desktop.interface", "color-scheme", f"prefer-{tone}"))
    restart = (tr("Running programs follow when the desktop changes the theme's name; others after a restart."),)
    return Plan(outcome.name, home, writes, restart, tuple(settings), same, made_of=made_of)
