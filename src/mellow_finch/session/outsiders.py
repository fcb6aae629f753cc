"""Programs that will not follow a look, found cheaply: what they are, why, and what can be done about it."""

from __future__ import annotations

import json
import os
import shutil
from collections.abc import Iterator, Mapping
from contextlib import suppress
from importlib.resources import files
from pathlib import Path

from ..disk.facts import first_bytes, read_plain
from ..errors import FileAccessError, FinchError
from ..language import tr
from ..syntax.parsed import toml_of
from .base import Outsider
from .processes import running_folders

_MOST = 40  # names of one kind that are told
_APP_PLACES = ("Applications", ".local/bin", "bin", "Downloads")
_OPEN = ("xdg-config/gtk-3.0", "xdg-config/gtk-4.0", "xdg-data/themes", "xdg-data/icons", "~/.themes", "~/.icons")
_OPENED = " ".join(f"--filesystem={p}:ro" for p in _OPEN)


def outsiders(home: Path, environ: Mapping[str, str] = os.environ, root: Path = Path("/")) -> tuple[Outsider, ...]:
    """Return what will not follow on this computer. Reads names and first bytes only; starts nothing."""
    rows = (
        Outsider(
            "flatpak",
            tr("Sandboxed programs (Flatpak)"),
            tuple(_flatpaks(home, root)),
            tr("They cannot see the themes and stylesheets in the home folder."),
            tr("Allow it in Dress, Companions, or run: flatpak override --user {opened}").format(opened=_OPENED),
        ),
        Outsider(
            "snap",
            tr("Sandboxed programs (Snap)"),
            tuple(_folders(root / "snap", ("bin", "core", "core18", "core20", "core22", "core24", "bare"))),
            tr("They only support themes that are snaps themselves."),
            tr("They follow light or dark through the desktop; nothing more is possible."),
        ),
        Outsider(
            "appimage",
            tr("Programs in one file (AppImage)"),
            tuple(_app_images(home)),
            tr("They contain their own toolkit, without the plug-ins that read the desktop's settings."),
            tr("Some of them follow light or dark; nothing more is possible."),
        ),
        Outsider(
            "own toolkit",
            tr("Programs that draw everything themselves"),
            tuple(_drawing_themselves()),
            tr("Browsers and programs built on them have their own themes."),
            tr("Choose light or dark in them, or load the browser theme that this look writes."),
        ),
        Outsider(
            "own colours",
            tr("Browsers that do not use the desktop's colours"),
            tuple(_browsers_apart(home)),
            tr("They are set to use their own colours."),
            tr("In the browser's settings, Appearance, choose “Use GTK” or “Use Qt”."),
        ),
        Outsider(
            "qt",
            tr("Qt programs without a platform theme"),
            () if _qt_is_told(environ) else (tr("all of them"),),
            tr("QT_QPA_PLATFORMTHEME is not set, so they keep their own style."),
            tr(
                "Put QT_QPA_PLATFORMTHEME=qt5ct into ~/.config/environment.d/qt.conf; it takes effect "
                "at the next login."
            ),
        ),
    )
    found = (*rows, *_undressed(environ.get("PATH", os.defpath)))
    return tuple(row._replace(names=row.names[:_MOST]) for row in found if row.names)


# Where browsers of one kind keep what they are set to, by what they are called.
_BROWSERS = {
    "chromium": "Chromium",
    "google-chrome": "Google Chrome",
    "BraveSoftware/Brave-Browser": "Brave",
    "vivaldi": "Vivaldi",
    "microsoft-edge": "Microsoft Edge",
}
_MOST_SETTINGS = 16_000_000


def _browsers_apart(home: Path) -> Iterator[str]:
    """Yield the browsers whose first profile says that they have colours of their own."""
    for folder, name in _BROWSERS.items():
        try:
            data = read_plain(home / ".config" / folder / "Default" / "Preferences", _MOST_SETTINGS)
            theme = json.loads(data or b"{}")["extensions"]["theme"]
            follows = bool(theme.get("system_theme") or theme.get("use_system"))
        except (FinchError, ValueError, LookupError, TypeError, AttributeError, RecursionError):
            continue  # without a word it is not known, and nothing is said
        if not follows:
            yield name


def _undressed(path: str) -> Iterator[Outsider]:
    """Yield the programs of the path that have colours of their own and no component, by what can be done."""
    text = files("mellow_finch.session").joinpath("undressed.toml").read_text(encoding="utf-8")
    for row in toml_of(text)["row"]:
        here = tuple(name for name in row["names"] if shutil.which(name, path=path))
        yield Outsider(row["kind"], tr(row["title"]), here, tr(row["why"]), tr(row["cure"]))


def _folders(place: Path, without: tuple[str, ...] = ()) -> list[str]:
    try:
        return sorted(e.name for e in place.iterdir() if e.is_dir() and e.name not in without)
    except OSError:
        return []


def _flatpaks(home: Path, root: Path) -> list[str]:
    places = (root / "var/lib/flatpak/app", home / ".local/share/flatpak/app")
    return sorted({name for place in places for name in _folders(place)})


def _app_images(home: Path) -> Iterator[str]:
    for place in (home / name for name in _APP_PLACES):
        with suppress(OSError):
            for entry in sorted(place.iterdir()):
                with suppress(OSError, FileAccessError):
                    if entry.is_file() and first_bytes(entry, 11)[8:11] == b"AI\x02":
                        yield entry.name


def _drawing_themselves() -> list[str]:
    """Return the running programs beside whose executable the parts of a browser's engine lie."""
    found: set[str] = set()
    for folder in running_folders():
        if (folder.parent / "icudtl.dat").exists() and (folder.parent / "resources.pak").exists():
            found.add(folder.name)
    return sorted(found)


def _qt_is_told(environ: Mapping[str, str]) -> bool:
    """Tell whether Qt programs are told where their colours are: by a variable, or by a desktop that they know."""
    known = {"KDE", "LXQT"} & {name.upper() for name in environ.get("XDG_CURRENT_DESKTOP", "").split(":")}
    return bool(known or environ.get("QT_QPA_PLATFORMTHEME"))
