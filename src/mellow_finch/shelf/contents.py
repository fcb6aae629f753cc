"""What a parcel holds for a home: every file that a look writes, and how it goes into one that is not known."""

from __future__ import annotations

import re
from collections.abc import Iterable
from contextlib import suppress
from dataclasses import dataclass
from fnmatch import fnmatchcase
from pathlib import Path

from ..components.catalogue import COMPONENT_BY_ID
from ..components.decisions import Owner
from ..components.files import Files
from ..errors import FinchError
from ..look.dressed import OF_A_THEME, dress, every_component
from ..look.model import Look
from ..look.worn_themes import WornTheme, WornThemes, worn_by, worn_theme
from ..progress import Progress, Silent
from ..session.accents import nearest_accent
from ..session.desktop import Wish, desktops
from ..theme.bundle.opened import open_bundle
from ..theme.bundle.read import read_theme
from ..theme.result.recolour import recolour_theme
from .shelf import free_name, pictures_of

HOME = "@HOME@"
_PROBE = b"kept by the person\n"
_PLAIN = re.compile(r"[^\n|]+")
_TAKEN = frozenset({"theme", "picture", "uri", "mode", "icons", "pointers"})


class Probe(Files):
    """A home in which some paths are there already, to learn what a component does with a file that is."""

    def __init__(self, there: Iterable[str] = ()) -> None:
        self._there = frozenset(there)

    def __call__(self, path: str) -> bytes | None:
        """Return a file that is only told by its words."""
        return _PROBE if path in self._there else None

    def find(self, pattern: str) -> list[str]:
        """Return what matches."""
        return sorted(path for path in self._there if fnmatchcase(path, pattern))

    def place(self, folder: str) -> str:
        """Return the placeholder that the receiver's machine fills."""
        return f"{HOME}/{folder}" if folder else HOME

    def fresh(self, path: str) -> bool:
        """Return that nothing was made."""
        return False


@dataclass(frozen=True, slots=True)
class HomeFile:
    """One file for the receiver's home.

    way: "whole" and "text", put as it is or with placeholders filled; "after" and "before", a block that is added to a
    file that is there; "new", only put where there is none.
    """

    component: str
    way: str
    path: str
    data: bytes
    block: bytes = b""


@dataclass(frozen=True, slots=True)
class OtherForm:
    """What a file is instead where the receiver's reader wants it otherwise; data: None where it is not written then.

    told: rows of a file of the machine, a pattern that says so, and one that says no; the first that matches decides.
    """

    path: str
    told: tuple[tuple[str, str, str], ...]
    data: bytes | None


def other_forms(look: Look, rows: Iterable[HomeFile]) -> list[OtherForm]:
    """Return the other forms of the files that a look writes whole, for readers that changed between versions."""
    out: list[OtherForm] = []
    own = [f for f in rows if f.way in ("whole", "text", "new")]
    for component in (COMPONENT_BY_ID[i] for i in dict.fromkeys(f.component for f in own) if i in COMPONENT_BY_ID):
        write = component.write_as
        if write is None:
            continue
        for word, told in component.told.items():
            written = {o.path: o.data for o in write(look.scheme(), Probe(), (word,))}
            there = [f for f in own if f.component == component.id and written.get(f.path) != f.data]
            out += [OtherForm(f.path, told, written.get(f.path)) for f in there]
    return out


def home_files(look: Look, progress: Progress | None = None, themes: WornThemes | None = None) -> list[HomeFile]:
    """Return everything that a look writes into a home that is not known, themes that were brought included.

    themes: those that it wears, where they were read already.
    """
    progress = progress or Silent()
    only = every_component(look)
    themes = themes_to_send(look, progress) if themes is None else themes
    plain = dress(look, Probe(), only, themes=themes)
    there = dress(look, Probe(o.path for o in plain.outputs), only, themes=themes)
    merged = {o.path: o.data for o in there.outputs}
    out = [
        HomeFile("-" if OF_A_THEME in o.components else o.components[-1], _whole(o.data), o.path, o.data)
        if look.folder in o.path
        else _home_file(o.components[-1], o.path, o.data, merged.get(o.path))
        for o in plain.outputs
    ]
    rest = [path for path in look.brought if path not in themes]
    for i, path in enumerate(rest):
        progress.report(i, len(rest), Path(path).name)
        try:
            theme = read_theme(open_bundle(Path(path)), left=look.decided(Owner.theme(path)).left)
            found = recolour_theme(theme, look.scheme(), look.choices(path))
        except FinchError:
            continue
        plain_files = ((p, e.data) for p, e in found.outputs.items() if not e.link)
        out += [HomeFile("-", "whole", p, data) for p, data in plain_files]
    return [f for f in out if _PLAIN.fullmatch(f.path)]


def themes_to_send(look: Look, progress: Progress) -> dict[str, WornTheme]:
    """Return the themes that a look wears, those that can be read."""
    found: dict[str, WornTheme] = {}
    for path in dict.fromkeys(worn_by(look).values()):
        progress.report(len(found), len(look.brought), Path(path).name)
        with suppress(FinchError):
            found[path] = worn_theme(look, path)
    return found


def _whole(data: bytes) -> str:
    return "text" if HOME.encode() in data else "whole"


def _home_file(component: str, path: str, data: bytes, merged: bytes | None) -> HomeFile:
    """Return a file with how it goes into a home where it may be already, told by what became of one that was."""
    if merged is not None and _PROBE.strip() not in merged:
        return HomeFile(component, _whole(data), path, data)
    if merged is not None and merged != _PROBE and merged.startswith(_PROBE):
        return HomeFile(component, "after", path, data, merged.removeprefix(_PROBE))
    if merged is not None and merged != _PROBE and merged.endswith(_PROBE):
        return HomeFile(component, "before", path, data, merged.removesuffix(_PROBE))
    return HomeFile(component, "new", path, data)


def settings_for_anyone(look: Look, files: Iterable[HomeFile] = ()) -> list[tuple[str, str, str, str]]:
    """Return (store, schema, key, value) of what common desktops can be set to by commands of their own.

    files: what goes along: an icon or pointer theme of the look's own name is chosen only then.
    """
    folder = look.folder
    picture = f"{HOME}/.local/share/backgrounds/{folder}/{picture_name(look)}" if pictures_of(look) else ""
    rows: dict[tuple[str, str, str], str] = {}
    for component in (COMPONENT_BY_ID[i] for i in ("gtk-3", "gtk-4")):
        for choice in component.settings:
            words = Wish(folder, look.tone, accent=nearest_accent(look.colours["accent"])).words(None)
            rows.setdefault(("gsettings", choice.schema, choice.key), choice.value.format(**words))
    paths = {f.path for f in files}
    own = {"icons": f".local/share/icons/{folder}/index.theme", "pointers": f".icons/{folder}/index.theme"}
    named = {id_: folder for id_, path in own.items() if path in paths}
    for desktop in desktops():
        wish = Wish(folder, look.tone, picture, look.placement.mode, named)
        words = {**wish.words(desktop), "uri": f"file://{picture}" if picture else ""}
        for row in desktop.rows:
            if row.store not in ("gsettings", "xfconf") or row.adds or row.beside or row.each:
                continue
            if row.needs not in ("", "still"):
                continue
            wanted = re.findall(r"\{(\w+)\}", row.value)
            if wanted and all(words.get(w) for w in wanted) and set(wanted) <= _TAKEN:
                rows.setdefault((row.store, row.schema, row.key), row.value.format(**words))
    return [(*place, value) for place, value in rows.items()]


def picture_name(look: Look) -> str:
    """Return what a look's first picture is called in a home."""
    return free_name(Path(pictures_of(look)[0]).name, lambda _name: False)
