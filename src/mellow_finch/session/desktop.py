"""Desktops as data: where each keeps what a look sets, in which order, and what it is told by."""

from __future__ import annotations

import re
from collections.abc import Collection, Mapping, Sequence
from dataclasses import dataclass, field
from functools import cache
from importlib.resources import files
from pathlib import Path
from string import Formatter
from typing import Any

from ..components.bar_patterns import BarPatterns
from ..components.model import ReloadMethod
from ..language import tr
from ..look.companions import COMPANION_BY_ID
from ..look.model import folder_of
from ..picture.placement import Showing
from ..syntax.parsed import toml_of
from .base import DesktopSession, DesktopSetting

_PACKAGE = "mellow_finch.session"


@dataclass(frozen=True, slots=True, kw_only=True)
class SettingRule:
    """One setting that a desktop has.

    title: what it sets, for people; component: the one whose files it chooses, empty for the picture; writes: a file
    that the look has to write for it, {theme} for its folder; every: whether the key is a pattern of which each that
    exists is set; made: the key that is set for a screen that has none of these, {monitor} for its name; beside: the
    same with a pattern of other keys, which ours lies beside; only_set: whether it is passed over where it is not set;
    adds: what parts a list's entries, to which the value is added; where: a schema and key that have to be there;
    screens: what finds the monitor's name in a key, so that each can have a picture of its own;
    each: a schema and key whose list names what stands for {each} in the schema, so that every one of them is set;
    needs: a word of the wish that it only goes with; the value takes such words in braces.
    """

    title: str
    store: str
    schema: str
    key: str
    value: str
    kind: str = ""
    component: str = ""
    writes: str = ""
    every: bool = False
    made: str = ""
    beside: str = ""
    only_set: bool = False
    adds: str = ""
    where: str = ""
    each: str = ""
    screens: str = ""
    needs: str = ""


@dataclass(frozen=True, slots=True, kw_only=True)
class ToldPlace:
    """A store of settings that a program keeps in a file and takes by a command.

    program: the executable that has to run, empty where none does; command: the words that set a value, with {value}
    and {kind}; first: words that go before them; reset: those that take one back which was not set before; kind_key:
    the key beside it that says the kind; file, pattern: where a file that is no key file says value and kind; asks: the
    words whose answer says them instead.
    """

    id: str
    command: tuple[str, ...]
    program: str = ""
    first: tuple[str, ...] = ()
    reset: tuple[str, ...] = ()
    kind_key: str = ""
    file: str = ""
    pattern: str = ""
    asks: tuple[str, ...] = ()


@dataclass(frozen=True, slots=True, kw_only=True)
class Desktop:
    """One desktop.

    names: what XDG_CURRENT_DESKTOP calls it; programs: executables that tell of it, any of them; stores: places of
    its own; tell: how what runs is told of settings of a schema where it does not watch them; placement: its words for
    how a picture lies; buttons: its words for title-bar buttons left or right; panel, dock: its usual shape; shell,
    notices, terminal, borders: the components that draw its panel and menu, its notifications, its terminal and its
    window decorations where nothing else does; edge: a file and the patterns that show its panel to be below, or
    above; items: how that file tells what stands on it; keeps: files of the home that it writes by its own settings,
    which a look leaves to it; settle_s: how long it needs after a change of theme before
    the old theme's folder may go; tried: versions.
    """

    id: str
    title: str
    names: tuple[str, ...] = ()
    programs: tuple[str, ...] = ()
    rows: tuple[SettingRule, ...] = ()
    placement: Mapping[str, str] = field(default_factory=dict)
    stores: tuple[ToldPlace, ...] = ()
    buttons: Mapping[str, str] = field(default_factory=dict)
    panel: str = "top"
    dock: bool = False
    shell: str = ""
    notices: str = ""
    terminal: str = ""
    borders: str = ""
    edge: tuple[str, str, str] | None = None
    items: BarPatterns | None = None
    keeps: tuple[str, ...] = ()
    settle_s: float = 0.0
    tell: tuple[tuple[str, ReloadMethod], ...] = ()
    tried: str = "not tried"

    def can_show(self, showing: Showing) -> bool:
        """Tell whether it can show several pictures in a way."""
        wanted = {"one": True, "monitors": any(row.screens for row in self.rows)}
        return wanted.get(showing.kind, any(row.needs == "cycling" for row in self.rows))


def _told_place(row: dict[str, Any]) -> ToldPlace:
    plain: dict[str, Any] = {name: tuple(v) if isinstance(v, list) else v for name, v in row.items()}
    return ToldPlace(**plain)


def desktop_from(text: str, others: Sequence[Desktop] = ()) -> Desktop:
    """Return the desktop that a data file describes; raises ValueError, KeyError or TypeError when it is wrong.

    Where it is `like` one of the others, it sets what that one sets as well, but for the components that it leaves.
    """
    data: dict[str, Any] = toml_of(text)
    rows = tuple(SettingRule(**{**row, "title": tr(row["title"])}) for row in data.get("set", ()))
    if "like" in data:
        like = next((other for other in others if other.id == data["like"]), None)
        if like is None:
            raise ValueError(f"no earlier desktop is called {data['like']}")
        rows += tuple(row for row in like.rows if row.component not in data.get("leaves", ()))
        data = {"placement": like.placement, "buttons": like.buttons, **data}
    stores = tuple(_told_place(row) for row in data.get("store", ()))
    return Desktop(
        id=data["id"],
        title=data["title"],
        names=tuple(data.get("names", ())),
        programs=tuple(data.get("programs", ())),
        rows=rows,
        placement=dict(data.get("placement", {})),
        buttons=dict(data.get("buttons", {})),
        stores=stores,
        panel=data.get("panel", "top"),
        dock=bool(data.get("dock", False)),
        shell=data.get("shell", ""),
        notices=data.get("notices", ""),
        terminal=data.get("terminal", ""),
        borders=data.get("borders", ""),
        edge=tuple(data["edge"]) if "edge" in data else None,
        items=BarPatterns(**data["items"]) if "items" in data else None,
        keeps=tuple(data.get("keeps", ())),
        settle_s=float(data.get("settle_s", 0.0)),
        tell=tuple((row["of"], ReloadMethod.of(row)) for row in data.get("tell", ())),
        tried=data.get("tried", tr("not tried")),
    )


@cache
def desktops() -> tuple[Desktop, ...]:
    """Return every desktop there is data for, in the order of their files' names."""
    found = sorted((e for e in files(_PACKAGE).joinpath("desktops").iterdir() if e.name.endswith(".toml")), key=_name)
    out: list[Desktop] = []
    for entry in found:
        out.append(desktop_from(entry.read_text(encoding="utf-8"), out))
    return tuple(out)


def _name(entry: Any) -> str:
    return str(entry.name)


def desktop_named(id_: str) -> Desktop | None:
    """Return a desktop by its id."""
    return next((d for d in desktops() if d.id == id_), None)


def everywhere() -> tuple[SettingRule, ...]:
    """Return the rows that count on every desktop."""
    found = desktop_named("everywhere")
    return found.rows if found is not None else ()


def told_apart(environ: Mapping[str, str], running: Collection[str]) -> Desktop | None:
    """Return which desktop runs: what its environment calls it, or else the first whose programs run."""
    called = [name for name in environ.get("XDG_CURRENT_DESKTOP", "").split(":") if name]
    by_name = next((d for name in called for d in desktops() if name in d.names), None)
    return by_name or next((d for d in desktops() if set(d.programs) & set(running)), None)


SLIDE_LIST = "slides.xml"
_SLIDE_WORDS = ("cycling", "slides", "first_slide", "slide_list", "slide_list_uri", "minutes", "seconds")


def slides_folder(theme: str) -> str:
    """Return where a slideshow's images lie, from the home."""
    return f".local/share/mellow-finch/slides/{theme}"


def slide_name(number: int, picture: str) -> str:
    """Return what an image of a slideshow is called in its folder, number counted from 0: they go in that order."""
    return f"{number + 1:02}-{folder_of(Path(picture).stem)}{Path(picture).suffix.lower()}"


@dataclass(frozen=True, slots=True)
class Wish:
    """What a look wants of a desktop: its theme's folder, light or dark, the picture with how it lies,
    companions, the home, the name of the desktop's own accent that is nearest to its, and words for its surfaces.

    pictures: all that the desktop may show, where there are several; showing: what it shows of them.
    """

    theme: str
    tone: str
    picture: str = ""
    mode: str = "fill"
    companions: Mapping[str, str] = field(default_factory=dict)
    home: str = ""
    accent: str = ""
    surfaces: Mapping[str, str] = field(default_factory=dict)
    pictures: tuple[str, ...] = ()
    showing: Showing = field(default_factory=Showing)

    @property
    def cycles(self) -> bool:
        """Tell whether a slideshow is wanted."""
        return self.showing.kind == "slideshow" and len(self.pictures) > 1

    def slide_words(self) -> dict[str, str]:
        """Return what stands for a slideshow's names in braces: its folder in the home, its list, its first image."""
        if not self.cycles:
            return {**dict.fromkeys(_SLIDE_WORDS, ""), "still": self.picture and "yes"}
        folder = Path(self.home) / slides_folder(self.theme)
        return {
            "still": "",
            "cycling": "yes",
            "slides": str(folder),
            "first_slide": str(folder / slide_name(0, self.pictures[0])),
            "slide_list": str(folder / SLIDE_LIST),
            "slide_list_uri": _address(str(folder / SLIDE_LIST)),
            "minutes": str(self.showing.minutes),
            "seconds": str(self.showing.minutes * 60),
        }

    def words(self, desktop: Desktop | None) -> dict[str, str]:
        """Return what stands for the names in braces."""
        buttons = desktop.buttons.get(self.companions.get("buttons", ""), "") if desktop is not None else ""
        left, _, right = buttons.partition(":")
        return {
            "home": self.home,
            "theme": self.theme,
            "folder": self.theme,
            "id": self.theme.lower(),
            "tone": self.tone,
            "accent": self.accent,
            "dark": "true" if self.tone == "dark" else "false",
            "picture": self.picture,
            "uri": _address(self.picture),
            "mode": desktop.placement.get(self.mode, "") if desktop is not None and self.picture else "",
            **dict.fromkeys(COMPANION_BY_ID, ""),
            **self.companions,
            **_font_words(self.companions),
            **self.surfaces,
            **self.slide_words(),
            "buttons": buttons,
            "buttons_left": left,
            "buttons_right": right,
        }


def _address(path: str) -> str:
    """Return a path as the address of a file, empty for one that does not begin at the root."""
    return Path(path).as_uri() if Path(path).is_absolute() else ""


def _font_words(companions: Mapping[str, str]) -> dict[str, str]:
    """Return the families and sizes in points of "Family 10", for desktops that want them apart."""
    words: dict[str, str] = {}
    for id_ in ("font", "document_font", "fixed_font"):
        words[f"{id_}_family"], _, words[f"{id_}_points"] = companions.get(id_, "").rpartition(" ")
    return words


def _lacks(session: DesktopSession, row: SettingRule) -> bool:
    schema, _, key = row.where.partition(" ")
    return session.read(DesktopSetting(schema, key, store=row.store)).state == "absent"


def _added(now: str, value: str, parting: str) -> str:
    """Return a list as its store writes it, with a value's entries added: "['a', 'b']" for commas, "a;b;" else."""
    if parting == ",":
        found = re.findall(r"'((?:[^'\\]|\\.)*)'", now)
        return "[" + ", ".join(f"'{entry}'" for entry in dict.fromkeys([*found, value])) + "]"
    entries = [entry for entry in (*now.split(parting), *value.split(parting)) if entry]
    return "".join(f"{entry}{parting}" for entry in dict.fromkeys(entries))


_NOT_IN_LINES = {"lines": frozenset('"$\\`'), "launched": frozenset("\"'$\\`#")}


def _plain_in_line(path: str, store: str) -> bool:
    """Tell whether a path stays one word within quotes, in configurations of one command a line."""
    return path.isprintable() and not set(path) & _NOT_IN_LINES[store]


def keys_of(row: SettingRule, session: DesktopSession) -> list[str]:
    """Return the keys that a row is about on the desktop that runs."""
    if not row.every and not row.beside:
        return [row.key]
    found = session.keys(row.store, row.schema, row.beside or row.key)
    named = next((part for part in row.made.split("/") if "{monitor}" in part), "")
    screens = session.monitors() if named else []
    bare = [name for name in screens if not any(f"/{named.format(monitor=name)}/" in key for key in found)]
    if row.beside:
        name = row.key.rpartition("/")[2]
        found = [f"{key.rpartition('/')[0]}/{name}" for key in found]
    return [*found, *(row.made.format(monitor=name) for name in bare)]


def places_of(row: SettingRule, session: DesktopSession, monitors: bool = False) -> list[tuple[str, str]]:
    """Return the schemas and keys that a row is about on the desktop that runs.

    monitors: whether a line that counts for all of them is wanted for each by name, too.
    """
    if row.store == "lines" and row.screens and monitors:
        return [(row.schema, row.key), *((row.schema, row.key.replace("*", name)) for name in session.monitors())]
    if not row.each:
        return [(row.schema, key) for key in keys_of(row, session)]
    schema, _, key = row.each.partition(" ")
    names = re.findall(r"'([\w.{}-]+)'", session.read(DesktopSetting(schema, key, store=row.store)).value)
    return [(row.schema.replace("{each}", name), row.key) for name in dict.fromkeys(names)]


def settings_for(
    desktop: Desktop, wish: Wish, written: Collection[str], session: DesktopSession, without: Collection[str] = ()
) -> list[tuple[DesktopSetting, SettingRule]]:
    """Return the settings that a look wants of a desktop, in order, each with its row.

    written: the paths that the look writes; without: components that are not dressed. A row without a picture, a word
    for how it lies, or the file that it needs is passed over.
    """
    words = wish.words(desktop)
    paths = frozenset(written)
    launched = any(row.store == "launched" and keys_of(row, session) for row in desktop.rows)
    out: list[tuple[DesktopSetting, SettingRule]] = []
    for row in (*desktop.rows, *everywhere()):
        wanted = {name for _, name, _, _ in Formatter().parse(row.value + row.kind) if name}
        wanted |= {row.needs} if row.needs else set()
        if not all(words.get(name) for name in wanted) or row.component in without:
            continue
        if row.writes and row.writes.format(**words) not in paths:
            continue
        if row.where and _lacks(session, row):
            continue
        screens: list[str] = []
        by_screen = wish.showing.kind == "monitors" and len(wish.pictures) > 1
        for schema, key in places_of(row, session, by_screen):
            shown = re.search(row.screens, key) if row.screens and by_screen else None
            if shown is not None and "*" not in shown[1]:
                screens += [shown[1]] if shown[1] not in screens else []
                own = wish.pictures[screens.index(shown[1]) % len(wish.pictures)]
                words = {**words, "picture": own, "uri": _address(own)}
            setting = DesktopSetting(schema, key, row.value.format(**words), row.store, row.kind.format(**words))
            if row.store in _NOT_IN_LINES and not _plain_in_line(words["picture"], row.store):
                continue
            if row.store == "lines" and launched:  # that picture would lie over it
                continue
            now = session.read(setting) if row.only_set or row.adds else None
            if now is not None and row.adds:
                setting = setting._replace(value=_added(now.value, setting.value, row.adds))
            if not row.only_set or (now is not None and now.state == "set"):
                out.append((setting, row))
    return out
