"""The icon and cursor themes that a machine has, and how well their leading colour goes with a look."""

from __future__ import annotations

import math
import re
from collections import Counter
from collections.abc import Iterable, Mapping
from pathlib import Path
from typing import NamedTuple

import numpy as np

from ...colour.gamut import rgba_to_oklch
from ...colour.requirement import MARK
from ...colour.rgb import Rgba
from ...disk.facts import read_plain
from ...errors import FileAccessError, FinchError
from ...intake.pictures import opened
from ...language import tr
from ...recolour.pointers import read_pointer, straight
from ...syntax.catalogue import format_by_id
from ...syntax.ini import read_ini
from ...syntax.literals import read_literal

_MOST_THEMES = 200
_MOST_BYTES = 300_000
_MOST_POINTER = 8_000_000
ICONS = tr("Icons")
_COLOURED = 0.05  # OKLCH chroma from which a colour counts as one
_SOLID = 200  # of 255, the opacity from which a pixel counts
_STANDS_ON = ("panel", "menu", "view")


class ThemeChoice(NamedTuple):
    """One theme: its folder's name, which settings use, its title, and the colour that its folders have, if any."""

    name: str
    title: str
    leading: Rgba | None = None


class InstalledTheme(NamedTuple):
    """A theme of this computer: its folder, what it dresses, whether it is the person's own, and its leading colours.

    colours: of windows, their text and what is chosen, as its sheet defines them, or the leading one of its signs;
    empty where it does not say. faint: the roles of surfaces on which its signs do not stand out.
    """

    path: Path
    kinds: tuple[str, ...]
    own: bool
    colours: tuple[Rgba, ...] = ()
    faint: tuple[str, ...] = ()


_PARTS = {
    "gtk-4.0/gtk.css": "GTK 4",
    "gtk-3.0/gtk.css": "GTK 3",
    "gtk-2.0/gtkrc": "GTK 2",
    "gnome-shell/gnome-shell.css": tr("GNOME Shell"),
    "cinnamon/cinnamon.css": tr("Cinnamon"),
    "xfwm4/themerc": tr("Xfwm decorations"),
    "openbox-3/themerc": tr("Openbox decorations"),
    "metacity-1/metacity-theme-3.xml": tr("Metacity decorations"),
    "metacity-1/metacity-theme-2.xml": tr("Metacity decorations"),
    "metacity-1/metacity-theme-1.xml": tr("Metacity decorations"),
}
_TOLD = ("theme_bg_color", "theme_fg_color", "theme_selected_bg_color")


def themes_here(home: Path, in_use: str = "") -> tuple[InstalledTheme, ...]:
    """Return the themes of toolkits, shells and borders that a home and its system have.

    Of equal names the person's own count, both where parts of one lie in both of a home's places; in_use: the name of
    the one that the desktop wears, which comes first.
    """
    own = (home / ".local/share/themes", home / ".themes")
    theirs = [folder for root in own for folder in _themes((root,)).values()]
    names = {folder.name for folder in theirs}
    system = _themes((Path("/usr/local/share/themes"), Path("/usr/share/themes")))
    rows = []
    for folder in (*theirs, *(folder for name, folder in system.items() if name not in names)):
        kinds = tuple(dict.fromkeys(kind for part, kind in _PARTS.items() if (folder / part).is_file()))
        if kinds:
            rows.append(InstalledTheme(folder, kinds, folder.parent in own, _told_colours(folder)))
    return tuple(sorted(rows, key=lambda here: (here.path.name != in_use, not here.own, here.path.name.lower())))


def icons_here(home: Path, colours: Mapping[str, Rgba]) -> tuple[InstalledTheme, ...]:
    """Return the icon themes of a home and its system, those first that go best with a look; see ranked."""
    return _signs_here(home, ranked_by_look(icon_themes(places(home)), colours), ICONS, colours)


def pointers_here(home: Path, colours: Mapping[str, Rgba]) -> tuple[InstalledTheme, ...]:
    """Return the pointer themes of a home and its system, those first that go best with a look; see ranked."""
    return _signs_here(home, ranked_by_look(pointer_themes(places(home)), colours), tr("Cursor theme"), colours)


def _signs_here(
    home: Path, found: Iterable[ThemeChoice], kind: str, colours: Mapping[str, Rgba]
) -> tuple[InstalledTheme, ...]:
    roots = places(home)
    folders = _themes(roots)
    rows = []
    for theme in found:
        folder, lead = folders[theme.name], theme.leading
        # A pointer has an outline, by which it stands out on whatever it lies on.
        faint = tuple(r for r in _STANDS_ON if lead and kind == ICONS and not MARK.holds(lead, colours[r]))
        rows.append(
            InstalledTheme(folder, (kind,), folder.parent in roots[:2], (lead,) if lead is not None else (), faint)
        )
    return tuple(rows)


def _told_colours(folder: Path) -> tuple[Rgba, ...]:
    """Return the colours that a sheet defines for windows, their text and what is chosen; none where one is not."""
    try:
        data = read_plain(folder / "gtk-3.0/gtk.css", _MOST_BYTES)
    except FileAccessError:
        return ()
    text = (data or b"").decode("utf-8", "replace")
    named = (re.search(rf"@define-color\s+{name}\s+(#[0-9a-fA-F]{{3,8}}|rgba?\([^)]*\))", text) for name in _TOLD)
    colours = [read_literal(found.group(1)) for found in named if found]
    return tuple(c.opaque for c in colours if c is not None) if len(colours) == len(_TOLD) else ()


def places(home: Path) -> tuple[Path, ...]:
    """Return where icon and cursor themes lie, the person's own first."""
    return (home / ".local/share/icons", home / ".icons", Path("/usr/local/share/icons"), Path("/usr/share/icons"))


def _themes(roots: Iterable[Path]) -> dict[str, Path]:
    found: dict[str, Path] = {}
    for root in roots:
        try:
            folders = sorted(p for p in root.iterdir() if p.is_dir())
        except OSError:
            continue
        for folder in folders[:_MOST_THEMES]:
            found.setdefault(folder.name, folder)
    return found


def _index(folder: Path) -> Mapping[str, str]:
    try:
        data = read_plain(folder / "index.theme", _MOST_BYTES)
    except FileAccessError:
        return {}
    return read_ini(data.decode("utf-8", "replace")) if data else {}


def icon_themes(roots: Iterable[Path]) -> tuple[ThemeChoice, ...]:
    """Return the icon themes, by title; those that are hidden or hold pointers alone are none."""
    out = []
    for name, folder in _themes(roots).items():
        index = _index(folder)
        if not index.get("Icon Theme/Directories") or index.get("Icon Theme/Hidden", "").lower() == "true":
            continue
        if name != "hicolor":
            out.append(ThemeChoice(name, index.get("Icon Theme/Name", name), _leading(folder)))
    return tuple(sorted(out, key=lambda theme: theme.title.lower()))


def pointer_themes(roots: Iterable[Path]) -> tuple[ThemeChoice, ...]:
    """Return the pointer themes, by title."""
    found = _themes(roots).items()
    rows = [
        ThemeChoice(n, _index(f).get("Icon Theme/Name", n), _leading_pointer(f))
        for n, f in found
        if (f / "cursors").is_dir()
    ]
    return tuple(sorted(rows, key=lambda theme: theme.title.lower()))


def _leading(folder: Path) -> Rgba | None:
    """Return the commonest vivid colour of a theme's picture of a folder, of any of its colours without one."""
    for pattern in ("**/places/**/folder.svg", "**/folder.svg", "**/places/**/folder.png", "**/folder.png"):
        path = next(iter(sorted(folder.glob(pattern))), None)
        if path is None:
            continue
        try:
            data = read_plain(path, _MOST_BYTES) or b""
            colours = _of_drawing(data) if path.suffix == ".svg" else _of_picture(data, path.name)
        except (FinchError, ValueError):
            continue
        vivid = Counter({c: n for c, n in colours.items() if rgba_to_oklch(c)[1] >= _COLOURED})
        common = (vivid or colours).most_common(1)
        if common:
            return common[0][0]
    return None


_POINTERS = ("left_ptr", "default", "arrow")


def _leading_pointer(folder: Path) -> Rgba | None:
    """Return the commonest colour of a theme's arrow."""
    for name in _POINTERS:
        try:
            images = read_pointer(read_plain(folder / "cursors" / name, _MOST_POINTER) or b"", name).images
        except FinchError:
            continue
        if not images:
            continue
        colours, alpha = straight(images[0].pixels)
        common = Counter(Rgba(r, g, b) for r, g, b in colours[alpha >= _SOLID].tolist()).most_common(1)
        if common:
            return common[0][0]
    return None


def _of_drawing(data: bytes) -> Counter[Rgba]:
    spans = format_by_id("svg").scan(data.decode("utf-8", "replace"))
    return Counter(span.colour.opaque for span in spans if span.colour.a > 0)


def _of_picture(data: bytes, name: str) -> Counter[Rgba]:
    image = opened(data, name).convert("RGBA")
    image.thumbnail((32, 32))
    rows = np.asarray(image).reshape(-1, 4)
    return Counter(Rgba(r, g, b) for r, g, b in rows[rows[:, 3] >= _SOLID, :3].tolist())


def ranked_by_look(themes: Iterable[ThemeChoice], colours: Mapping[str, Rgba]) -> tuple[ThemeChoice, ...]:
    """Return themes with those first whose leading colour stands on panel, menu and view and lies near the accent.

    colours: a look's, by role; themes without a colour come last.
    """
    hue = rgba_to_oklch(colours["accent"])[2]

    def key(theme: ThemeChoice) -> tuple[int, int, float, str]:
        if theme.leading is None:
            return 2, 0, 0.0, theme.title
        _, chroma, own = rgba_to_oklch(theme.leading)
        stands = sum(MARK.holds(theme.leading, colours[role]) for role in _STANDS_ON)
        away = abs(math.remainder(own - hue, 360)) if chroma >= _COLOURED else 90.0
        return int(away > 45), -stands, away, theme.title

    return tuple(sorted(themes, key=key))
