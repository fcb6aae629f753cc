"""What of a desktop can wear a theme that was imported: which parts of it serve for what, under a look's name.

A part that is worn takes the place of our own files in the look's folder, so that every desktop chooses it by the name
that it is set to anyway, and taking the look off takes it away.
"""

from __future__ import annotations

import posixpath
import re
from collections.abc import Callable, Collection, Iterable, Mapping, Sequence
from typing import NamedTuple

from ...components.files import OutFile, as_bytes
from ...components.model import Paints
from ...language import tr
from ...palette.recipe import Tone
from ...syntax.catalogue import format_of
from ...syntax.ini import read_ini, set_sections
from ...syntax.spans import ColourSpan
from ..bundle.kinds import FoundTheme, goes_along, is_credit, moved_lines, recognise
from ..bundle.model import Theme, roots_of
from ..bundle.opened import Bundle
from ..pictures.decorations import shown_decoration
from .account import Outcome, OutEntry

NAMED = frozenset({"icons", "pointers"})  # companions, which no component writes


class Use(NamedTuple):
    """One thing that can wear a theme.

    id: of the component whose files give way, or of the companion that names an icon or pointer theme; place: the
    folder of a home in which such themes lie, each in one called as it is; inner: a pattern of the part of a theme's
    folder that is its own, empty for all of it; kinds: what themes are recognised as; title: few words for a tick;
    into: the folder in which the look's lie, where that is another, without the part's own; ours: a pattern of our own
    files there that stay; single: the ending of the one file that it is, in the folder itself; also: further folders
    for that file; beside: another component with which it is at home, though nothing of its own is there yet.
    """

    id: str
    title: str
    kinds: tuple[str, ...]
    place: str
    inner: str = ""
    into: str = ""
    ours: str = r"(?!)"
    single: str = ""
    also: tuple[str, ...] = ()
    beside: str = ""

    def fits(self, here: Collection[str]) -> bool:
        """Tell whether it is of use on a desktop that has some components."""
        return self.id in NAMED or self.id in here or self.beside in here

    def target(self, folder: str) -> str:
        """Return the folder in which the look's files for it lie, ending in a slash."""
        return f"{self.into or self.place}/{folder}/"

    def alone(self, folder: str) -> tuple[str, ...]:
        """Return the paths of the look's file for it where that is a single one."""
        return tuple(f"{place}/{folder}{self.single}" for place in (self.place, *self.also)) if self.single else ()

    def gives_way(self, path: str, folder: str) -> bool:
        """Tell whether a file that we would write gives way to a theme that is worn for this."""
        if self.single:
            return path in self.alone(folder)
        inner = path.removeprefix(self.target(folder))
        if inner == path or re.fullmatch(self.ours, inner):
            return False
        return not self.inner or bool(self.into) or re.fullmatch(self.inner, inner.partition("/")[0]) is not None


_THEMES = ".local/share/themes"
_DOCKS = ".local/share/plank/themes"
USES: tuple[Use, ...] = (
    Use("gtk-3", tr("GTK 3 programs"), ("toolkit-3",), _THEMES, r"gtk-3\.\d+"),
    Use("gtk-4", tr("GTK 4 programs"), ("toolkit-4",), _THEMES, r"gtk-4\.\d+"),
    Use("gtk-2", tr("GTK 2 programs"), ("toolkit-2",), ".themes", r"gtk-2\.0"),
    Use("shell", tr("GNOME Shell"), ("shell-gnome",), _THEMES, r"gnome-shell"),
    Use("shell-cinnamon", tr("Cinnamon"), ("shell-cinnamon",), _THEMES, r"cinnamon"),
    Use("xfwm", tr("Window decorations of Xfce"), ("borders",), _THEMES, r"xfwm4"),
    Use("metacity", tr("Window decorations of MATE and Cinnamon"), ("borders",), _THEMES, r"metacity-1"),
    Use("openbox", tr("Window decorations of Openbox"), ("borders",), _THEMES, r"openbox-3"),
    Use("plank", tr("Dock"), ("dock",), _THEMES, r"plank", _DOCKS),
    Use("plank", tr("Dock"), ("dock-alone",), _DOCKS),
    Use("qt-drawn", tr("SVG-drawn style"), ("drawn-style",), ".config/Kvantum"),
    Use("desktop-theme", tr("Panel and pop-ups of Plasma"), ("desktop-theme",), ".local/share/plasma/desktoptheme",
        ours=r"metadata\.\w+"),
    Use("aurorae", tr("Window decorations of Plasma"), ("decoration",), ".local/share/aurorae/themes",
        ours=r"metadata\.\w+", beside="desktop-theme"),
    Use("kde", tr("Qt and KDE"), ("scheme",), ".local/share/color-schemes", single=".colors"),
    Use("konsole", tr("Konsole"), ("terminal-scheme",), ".local/share/konsole", single=".colorscheme"),
    Use("gtksourceview", tr("GtkSourceView editors"), ("editor-scheme",), ".local/share/gtksourceview-5/styles",
        single=".xml", also=(".local/share/gtksourceview-4/styles",)),
    Use("icons", tr("Icons"), ("icons",), ".local/share/icons"),
    Use("pointers", tr("Cursor theme"), ("pointers",), ".icons"),
)  # fmt: skip


def named_use_of(path: str) -> Use | None:
    """Return the companion that a file of a home belongs to, None for one of a component."""
    return next((use for use in USES if use.id in NAMED and path.startswith(f"{use.place}/")), None)


def _roots_for(found: Iterable[FoundTheme], use: Use) -> list[FoundTheme]:
    inner = re.compile(use.inner) if use.inner else None
    return [f for f in found if f.kind.id in use.kinds and (inner is None or inner.fullmatch(f.part))]


def uses_of(found: Sequence[FoundTheme]) -> tuple[Use, ...]:
    """Return what a bundle serves for, each once."""
    rows = {use.id: use for use in reversed(USES) if _roots_for(found, use)}
    return tuple(reversed(rows.values()))


def chosen_for(theme: Theme, id_: str, tone: Tone, offered: bool = False) -> tuple[Use, FoundTheme] | None:
    """Return what of a theme serves for a use: of several the one that is called dark or not, as the look is.

    offered: what is left where it is counts as well.
    """
    return _chosen_among(theme.offers if offered else theme.found, theme.bundle, id_, tone)


def _chosen_among(found: Sequence[FoundTheme], bundle: Bundle, id_: str, tone: Tone) -> tuple[Use, FoundTheme] | None:
    rows = [(use, f) for use in USES if use.id == id_ for f in _roots_for(found, use)]
    alike = [row for row in rows if row[1].is_called(tone, bundle)]
    return next(iter(alike or rows), None)


def other_roots(bundle: Bundle, tone: Tone) -> frozenset[str]:
    """Return the folders of themes in a bundle that only hold what another one of it serves for as well."""
    found = recognise(bundle, bundle.data)
    served = {f.root for use in USES for f in _roots_for(found, use)}
    chosen = [row[1] for use in uses_of(found) if (row := _chosen_among(found, bundle, use.id, tone)) is not None]
    others = [f.root for f in found if f in chosen or f.root not in served]
    return frozenset(r for r in roots_of(found) if not any(other.startswith(r) for other in others))


def _resolved(outputs: Mapping[str, OutEntry], path: str) -> bytes | None:
    """Return the bytes of an output, links within followed; None for one that leads nowhere."""
    for _ in range(8):
        entry = outputs.get(path)
        if entry is None or not entry.link:
            return entry.data if entry is not None else None
        path = posixpath.normpath(posixpath.join(posixpath.dirname(path), entry.link))
    return None


def worn_files(
    theme: Theme, outcome: Outcome, id_: str, tone: Tone, folder: str, here: Callable[[str], bool]
) -> tuple[OutFile, ...]:
    """Return the files of a recoloured theme that serve for a use, as they lie under a look's folder.

    here: tells whether an icon or pointer theme of a name is installed: of one that is not, what did not change goes
    along as well. Nothing where the theme has nothing that serves.
    """
    chosen = chosen_for(theme, id_, tone)
    if chosen is None:
        return ()
    use, found = chosen
    if use.single:
        return _alone(use, found, theme, outcome, folder)
    name = outcome.names[found.root]
    own = f"{use.place}/{name}/"
    rows: dict[str, bytes] = {}
    for path in outcome.outputs:
        inner = path.removeprefix(own)
        data = _resolved(outcome.outputs, path) if inner != path else None
        if data is not None:
            rows[inner] = data
    rows = _served(use, rows)
    if found.kind.derived:
        if not here(found.name(theme.bundle)):
            rows = {**_rest(theme, found), **rows}
        rows = {path: _renamed(data, folder) if _is_index(path) else data for path, data in rows.items()}
    if found.kind.named:
        rows = {_restemmed(path, name, folder): data for path, data in rows.items()}
    if found.kind.settings and (own_settings := rows.pop(f"{name}{found.kind.settings}", None)) is not None:
        rows[f"{folder}{found.kind.settings}"] = own_settings
    if use.into and use.inner:
        rows = {path.partition("/")[2]: data for path, data in rows.items() if path.startswith(f"{use.inner}/")}
    return tuple(OutFile(f"{use.target(folder)}{path}", data) for path, data in rows.items())


def settled(id_: str, written: Sequence[OutFile], given: Sequence[OutFile]) -> tuple[OutFile, ...]:
    """Return a component's own files with what a theme that is worn says, where programs look for a copy of it."""
    if id_ != "kde":
        return tuple(written)
    sections: dict[str, dict[str, str]] = {}
    for key, value in read_ini(given[0].data.decode("utf-8", "surrogateescape")).items():
        section, _, name = key.rpartition("/")
        if _OF_SCHEMES.match(section) or (section, name) == ("General", "ColorScheme"):
            sections.setdefault(section, {})[name] = value
    copy = ".config/kdeglobals"
    return tuple(
        OutFile(f.path, as_bytes(set_sections(f.data.decode("utf-8", "surrogateescape"), sections)))
        if f.path == copy
        else f
        for f in written
    )


_OF_SCHEMES = re.compile(r"Colors:|ColorEffects:|WM$")


def worn_decoration(outputs: Sequence[OutFile]) -> Paints:
    """Return what a decoration shows as it is written."""
    texts: dict[str, tuple[str, Sequence[ColourSpan]]] = {}
    for path, data in ((f.path, f.data) for f in outputs if f.path.endswith(("rc", "decoration.svg"))):
        text = data.decode("utf-8", "surrogateescape")
        form = format_of(path.rpartition("/")[2], text[:4096])
        texts[path] = (text, tuple(form.scan(text)) if form is not None else ())
    return shown_decoration(texts)


def _alone(use: Use, found: FoundTheme, theme: Theme, outcome: Outcome, folder: str) -> tuple[OutFile, ...]:
    """Return the one file that a scheme is, under a look's name inside too: programs choose it by that."""
    text = outcome.fresh.get(found.path)
    if text is None:
        return ()
    if use.single == ".xml":
        head = _SCHEME_HEAD.search(text)
        if head is not None:
            named = _SCHEME_NAMES.sub(lambda m: f'{m[1]}"{folder.lower() if m[1] == "id=" else folder}"', head.group())
            text = text[: head.start()] + named + text[head.end() :]
    else:
        text = moved_lines(text, {"Name": folder, "ColorScheme": folder, "Description": folder})
    return tuple(OutFile(path, as_bytes(text)) for path in use.alone(folder))


_SCHEME_HEAD = re.compile(r"<style-scheme\b[^>]*>")
_SCHEME_NAMES = re.compile(r'\b(id=|name=|_name=)"[^"]*"')


def _served(use: Use, rows: Mapping[str, bytes]) -> dict[str, bytes]:
    """Return what of a theme's folder serves for a use: its own part, and what that names beside it."""
    if not use.inner:
        return {path: data for path, data in rows.items() if not re.fullmatch(use.ours, path)}
    own = {path: data for path, data in rows.items() if re.fullmatch(use.inner, path.partition("/")[0])}
    named = {name.decode("utf-8", "replace") for data in own.values() for name in _BESIDE.findall(data)}
    # The index of the whole is the look's own.
    return own | {p: d for p, d in rows.items() if p.partition("/")[0] in named or ("/" not in p and is_credit(p))}


_BESIDE = re.compile(rb"\.\./([\w.+-]+)/")


def _is_index(path: str) -> bool:
    return path in ("index.theme", "cursor.theme")


def _renamed(data: bytes, name: str) -> bytes:
    return as_bytes(moved_lines(data.decode("utf-8", "surrogateescape"), {"Name": name}))


def _restemmed(path: str, old: str, new: str) -> str:
    stem, dot, ending = path.partition(".")
    return f"{new}{dot}{ending}" if stem == old else path


def _rest(theme: Theme, found: FoundTheme) -> dict[str, bytes]:
    """Return the files of an icon or pointer theme as they came, by path within it."""
    out: dict[str, bytes] = {}
    for path in theme.bundle.entries:
        if path.startswith(found.root) and goes_along(path, found.kind) and not path.endswith(".cache"):
            try:
                out[path.removeprefix(found.root)] = theme.data(path)
            except KeyError:  # a link that leads nowhere
                continue
    return out
