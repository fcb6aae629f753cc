"""What a folder or an archive holds, told by its contents, and where in a home each belongs. Rows of data."""

from __future__ import annotations

import posixpath
import re
from collections.abc import Callable, Iterable, Mapping
from dataclasses import dataclass

from ...language import tr
from .opened import Bundle

_HEAD = 4096


@dataclass(frozen=True, slots=True, kw_only=True)
class ThemeKind:
    """A kind of thing that is installed as a folder or a file.

    marks: patterns of paths by which it is known; the group "root" is the folder that belongs to it, "" for the top.
    tell: what the file that matched must hold; place: where it goes, {name} being the new name; derived: whether only
    changed files are written, into a new theme that inherits the old; single: whether it is one file, not a folder;
    only: the names of files that go along, beside licences and credits; named: whether the files that are called like
    the one it was known by have to be called like its folder; settings: the ending of a file that has to be, too.
    """

    id: str
    title: str
    marks: tuple[str, ...]
    place: str
    tell: str = ""
    derived: bool = False
    single: bool = False
    only: str = ""
    code: bool = False
    named: bool = False
    settings: str = ""


_THEMES = ".local/share/themes/{name}"
KINDS: tuple[ThemeKind, ...] = (
    ThemeKind(
        id="toolkit-3",
        title=tr("GTK 3 theme"),
        marks=(r"(?P<root>.*/)?gtk-3\.\d+/gtk(-dark)?\.css$",),
        place=_THEMES,
    ),
    ThemeKind(
        id="toolkit-4",
        title=tr("GTK 4 theme"),
        marks=(r"(?P<root>.*/)?gtk-4\.\d+/gtk(-dark)?\.css$",),
        place=_THEMES,
    ),
    ThemeKind(
        id="toolkit-2", title=tr("GTK 2 theme"), marks=(r"(?P<root>.*/)?gtk-2\.0/gtkrc$",), place=".themes/{name}"
    ),
    ThemeKind(
        id="shell-gnome",
        title=tr("GNOME Shell theme"),
        marks=(r"(?P<root>.*/)?gnome-shell/gnome-shell\.css$",),
        place=_THEMES,
    ),
    ThemeKind(
        id="shell-cinnamon",
        title=tr("Cinnamon theme"),
        marks=(r"(?P<root>.*/)?cinnamon/cinnamon\.css$",),
        place=_THEMES,
    ),
    ThemeKind(
        id="borders",
        title=tr("Window decorations"),
        marks=(
            r"(?P<root>.*/)?metacity-1/metacity-theme-\d\.xml$",
            r"(?P<root>.*/)?xfwm4/themerc$",
            r"(?P<root>.*/)?openbox-3/themerc$",
        ),
        place=_THEMES,
    ),
    ThemeKind(id="dock", title=tr("Dock theme"), marks=(r"(?P<root>.*/)?plank/dock\.theme$",), place=_THEMES),
    ThemeKind(
        id="dock-alone",
        title=tr("Dock theme"),
        marks=(r"(?P<root>(?:.*/)?(?!plank/)[^/]+/)dock\.theme$",),
        place=".local/share/plank/themes/{name}",
    ),
    ThemeKind(
        id="pointers",
        title=tr("Cursor theme"),
        marks=(r"(?P<root>.*/)?cursors/[^/]+$",),
        tell=r"\AXcur",
        place=".icons/{name}",
        derived=True,
    ),
    ThemeKind(
        id="icons",
        title=tr("Icon theme"),
        marks=(r"(?P<root>.*/)?index\.theme$",),
        tell=r"(?s)\[Icon Theme\].*^Directories\s*=\s*\S",
        place=".local/share/icons/{name}",
        derived=True,
    ),
    ThemeKind(
        id="scheme",
        title=tr("Colour scheme"),
        marks=(r"(?P<root>.*/)?[^/]+\.colors$",),
        tell=r"\[Colors:Window\]",
        place=".local/share/color-schemes",
        single=True,
    ),
    ThemeKind(
        id="desktop-theme",
        title=tr("Desktop theme"),
        marks=(r"(?P<root>.*/)?(?:widgets|dialogs)/[^/]+\.svgz?$",),
        place=".local/share/plasma/desktoptheme/{name}",
    ),
    ThemeKind(
        id="decoration",
        title=tr("Window decorations drawn from SVG"),
        marks=(r"(?P<root>.*/)?decoration\.svgz?$",),
        place=".local/share/aurorae/themes/{name}",
        settings="rc",
    ),
    ThemeKind(
        id="drawn-style",
        title=tr("SVG-drawn style"),
        marks=(r"(?P<root>.*/)?[^/]+\.kvconfig$",),
        place=".config/Kvantum/{name}",
        named=True,
    ),
    ThemeKind(
        id="login",
        title=tr("Login screen"),
        marks=(r"(?P<root>.*/)?metadata\.desktop$",),
        tell=r"\[SddmGreeterTheme\]",
        place="login-screens/{name}",
    ),
    ThemeKind(
        id="widget-conky",
        title=tr("Desktop widget"),
        marks=(r"(?P<root>.*/)?(?:[^/]*conky[^/]*|[^/]+\.conf|[^/]*rc)$",),
        tell=r"(?m)conky\.config|^TEXT\s*$",
        place=".config/conky/{name}",
    ),
    ThemeKind(id="widget-eww", title=tr("Desktop widget"), marks=(r"(?P<root>.*/)?eww\.yuck$",), place=".config/eww"),
    ThemeKind(
        id="bar",
        title=tr("Bar"),
        marks=(r"(?P<root>(?:.*/)?waybar/)style\.css$", r"(?P<root>(?:.*/)?polybar/)config(?:\.ini)?$"),
        place=".config/{folder}",
    ),
    ThemeKind(
        id="launcher",
        title=tr("Launcher style"),
        marks=(r"(?P<root>.*/)?[^/]+\.rasi$",),
        place=".config/rofi/themes",
        single=True,
    ),
    ThemeKind(
        id="notices",
        title=tr("Notifications"),
        marks=(r"(?P<root>.*/)?dunstrc$",),
        place=".config/dunst",
        single=True,
    ),
    ThemeKind(
        id="terminal-scheme",
        title=tr("Terminal colours"),
        marks=(r"(?P<root>.*/)?[^/]+\.colorscheme$",),
        place=".local/share/konsole",
        single=True,
    ),
    ThemeKind(
        id="editor-scheme",
        title=tr("Editor colours"),
        marks=(r"(?P<root>.*/)?[^/]+\.xml$",),
        tell=r"<style-scheme",
        place=".local/share/gtksourceview-5/styles",
        single=True,
    ),
    ThemeKind(
        id="add-on",
        title=tr("Desktop add-on, whose program code is not changed"),
        marks=(r"(?P<root>.*/)?(?:applet|desklet|extension)\.js$",),
        place="add-ons/{name}",
        code=True,
    ),
    ThemeKind(
        id="fonts",
        title=tr("Fonts"),
        marks=(r"(?P<root>.*/)?[^/]+\.(?:ttf|otf|ttc)$",),
        tell=r"\A(?:\x00\x01\x00\x00|OTTO|true|ttcf)",
        place=".local/share/fonts/{name}",
        only=r"\.(?:ttf|otf|ttc)$",
    ),
)  # fmt: skip
_KNOWN = tuple((kind, tuple(re.compile(m) for m in kind.marks), re.compile(kind.tell, re.M)) for kind in KINDS)
_DARK = re.compile(r"dark|night|black|noir", re.IGNORECASE)


@dataclass(frozen=True, slots=True)
class FoundTheme:
    """A thing that a bundle holds: its kind and its folder, "" for the top, else ending in a slash."""

    kind: ThemeKind
    root: str
    path: str  # the file that it was known by

    def name(self, bundle: Bundle) -> str:
        """Return the name that it had: of its folder, or of the bundle when it lies at the top."""
        return self.root.rstrip("/").rpartition("/")[2] or bundle.name

    def is_called(self, tone: str, bundle: Bundle) -> bool:
        """Tell whether its name fits a tone: one that is called dark is, any other is light."""
        return bool(_DARK.search(self.name(bundle))) == (tone == "dark")

    @property
    def part(self) -> str:
        """Return the part of a theme's folder that is its own, such as "gtk-3.0"."""
        return self.path.removeprefix(self.root).partition("/")[0]


def recognise(bundle: Bundle, peek: Callable[[str], bytes]) -> tuple[FoundTheme, ...]:
    """Return what a bundle holds, each kind and folder once, the outermost folders first; peek gives a file's head."""
    seen: dict[tuple[str, str], FoundTheme] = {}
    for path, entry in bundle.entries.items():
        for kind, marks, tell in _KNOWN:
            found = next((m for m in (mark.match(path) for mark in marks) if m), None)
            if found is None:
                continue
            root = found.group("root") or ""
            key = (kind.id, path if kind.single else root)
            if key in seen or entry.link or (kind.tell and not _tells(tell, peek(path))):
                continue
            seen[key] = FoundTheme(kind, root, path)
    return tuple(sorted(_outermost(seen.values()), key=lambda f: (f.root.count("/"), f.root, f.kind.id, f.path)))


def _tells(tell: re.Pattern[str], head: bytes) -> bool:
    return bool(tell.search(head[:_HEAD].decode("latin-1")))


def _outermost(found: Iterable[FoundTheme]) -> list[FoundTheme]:
    """Leave out what lies inside of something of another kind that owns its whole folder."""
    rows = list(found)
    owners = [f.root for f in rows if f.kind.derived or f.kind.id in ("widget-conky", "widget-eww")]
    inner = {"desktop-theme", "widget-conky", "fonts", "editor-scheme", "dock-alone", "drawn-style"}
    themed = {f.root for f in rows if f.kind.place == _THEMES}
    return [
        f
        for f in rows
        if not (
            f.kind.id in inner
            and (
                any(f.root != root and f.root.startswith(root) and root for root in owners)
                or any(f.root.startswith(root) and (root or f.root) for root in themed)
            )
        )
    ]


def counted(found: Iterable[FoundTheme]) -> list[tuple[str, int]]:
    """Return the kinds, as they are called, with how many of each there are."""
    counts: dict[str, int] = {}
    for f in found:
        counts[f.kind.title] = counts.get(f.kind.title, 0) + 1
    return list(counts.items())


def target_path(found: FoundTheme, name: str, path: str) -> str:
    """Return where a file of something found goes, from the home folder."""
    inner = path.removeprefix(found.root)
    if found.kind.single:
        return f"{found.kind.place.format(name=name)}/{inner.rpartition('/')[2]}"
    if found.kind.named:
        stem, dot, ending = inner.partition(".")
        inner = f"{name}{dot}{ending}" if stem == found.path.removeprefix(found.root).partition(".")[0] else inner
    if found.kind.settings and re.fullmatch(rf"[^/.]+{found.kind.settings}", inner):
        inner = f"{name}{found.kind.settings}"
    folder = found.root.rstrip("/").rpartition("/")[2] or name
    return f"{found.kind.place.format(name=name, folder=folder)}/{inner}"


_ROOTS = tuple(sorted({k.place.partition("{")[0] for k in KINDS if "{" in k.place}, key=len, reverse=True))


def root_of_output(path: str) -> str:
    """Return the folder that a written file belongs to: its theme's, or the one that it lies in."""
    place = next((p for p in _ROOTS if path.startswith(p)), "")
    name = path[len(place) :].partition("/")[0] if place else ""
    return f"{place}{name}" if place else path.rpartition("/")[0]


def goes_along(path: str, kind: ThemeKind) -> bool:
    """Tell whether a file of a thing's folder is one that is installed."""
    return not kind.only or bool(re.search(kind.only, path, re.IGNORECASE)) or is_credit(path)


def is_terms(path: str) -> bool:
    """Tell whether a file says what may be done with something."""
    return path.rpartition("/")[2].upper().startswith(("LICEN", "COPYING", "COPYRIGHT", "OFL"))


def is_credit(path: str) -> bool:
    """Tell whether a file says who made something, and what may be done with it."""
    name = path.rpartition("/")[2].upper()
    return is_terms(path) or name.startswith(("AUTHORS", "CREDITS", "README", "NOTICE"))


def leads_out(path: str, link: str, roots: Iterable[str]) -> bool:
    """Tell whether a link, as it will be written, leads out of all the folders that a theme is written into."""
    end = posixpath.normpath(posixpath.join(posixpath.dirname(path), link))
    up, _, rest = link.rpartition("../")  # going up is only safe before anything else
    straight = all(part == ".." for part in up.split("/") if part) and ".." not in rest.split("/")
    inside = any(root and (end == root or end.startswith(f"{root}/")) for root in roots)
    return posixpath.isabs(link) or not straight or not inside


def owner_of(path: str, found: Iterable[FoundTheme]) -> FoundTheme | None:
    """Return the thing that a file belongs to: the innermost whose folder holds it."""
    best: FoundTheme | None = None
    for f in found:
        holds = path == f.path if f.kind.single else path.startswith(f.root)
        if holds and (best is None or _rank(f, path) > _rank(best, path)):
            best = f
    return best


def _rank(found: FoundTheme, path: str) -> tuple[int, bool, bool]:
    """Return how closely a file belongs to something: by its folder, by name, by the part of a theme it lies in."""
    return len(found.root), found.kind.single, path.startswith(f"{found.root}{found.part}/")


def moved_lines(text: str, values: Mapping[str, str]) -> str:
    """Return an index file with the values of some keys set where they stand; nothing is added."""

    def line(found: re.Match[str]) -> str:
        key = found.group(2)
        return f"{found.group(1)}{key}{found.group(3)}{values[key]}" if key in values else found.group()

    return re.sub(r"(?m)^([ \t]*)([\w-]+)([ \t]*=[ \t]*)(?:[^\r\n]*)", line, text)
