"""What applying a look will do, worked out before anything is written."""

from __future__ import annotations

import re
from collections.abc import Callable, Iterable, Mapping
from dataclasses import dataclass, field
from pathlib import Path
from typing import Literal

from ..components.catalogue import COMPONENT_BY_ID
from ..components.files import Files
from ..components.model import Component, ComponentSetting
from ..errors import WearError
from ..language import tr
from ..look.dressed import Dressed, Output
from ..session.accents import nearest_accent
from ..session.base import DesktopSession, DesktopSetting, ReloadMethod
from ..session.desktop import Desktop, Wish, desktop_named, settings_for
from ..session.none import NoDesktop
from ..session.stores.launched import changed
from ..session.xdg import home_files
from ..syntax.ini import set_keys
from ..syntax.lines import set_lines
from .applied import kept_bytes
from .glass import as_drawn_here, surface_words
from .history import History
from .original import OriginalFiles
from .slides import slides
from .targets import NOTHING, Target, check_home, digest, read_there, target_of

Action = Literal["create", "change"]


@dataclass(frozen=True, slots=True)
class Write:
    """One file that will be written: target tells where, action whether it is there already."""

    path: str
    target: Target
    components: tuple[str, ...]
    action: Action
    data: bytes

    @property
    def component(self) -> str:
        """Return the first component that has a part in it."""
        return self.components[0]


@dataclass(frozen=True, slots=True)
class Plan:
    """What applying a look will do, in order.

    same: how many files need no change; made_of: a digest of every file of the look, changed or not; seen: the digest
    of each of the person's files that this was made from, empty for one that was not there, by path; desktop: the one
    that its settings are for; told: what each setting sets, and the component whose files it chooses; ways: how running
    programs are told, with their components; rest_s: how long the desktop needs before an old theme may go; worn: by
    component or companion, the theme that was imported and is worn for it; applied: what scripts are told of it.
    """

    look: str
    home: Path
    writes: tuple[Write, ...]
    restart: tuple[str, ...]
    settings: tuple[DesktopSetting, ...]
    same: int
    sequences: str = ""
    made_of: str = ""
    seen: Mapping[str, str] = field(default_factory=dict)
    desktop: str = ""
    told: Mapping[DesktopSetting, tuple[str, str]] = field(default_factory=dict)
    ways: tuple[tuple[str, ReloadMethod], ...] = ()
    rest_s: float = 0.0
    worn: Mapping[str, str] = field(default_factory=dict)
    applied: bytes = b""


def planned(home: Path, outputs: Iterable[Output]) -> tuple[tuple[Write, ...], int, str]:
    """Return the files to be written, new ones first, how many are right already, and a digest of them all.

    Raises WearError when one of them cannot be written or two of them are the same file.
    """
    writes: list[Write] = []
    taken: dict[Path, tuple[str, bytes]] = {}
    same = 0
    sums: list[str] = []
    for output in outputs:
        target = target_of(home, output.path)
        if _not_for_others(output, target):
            continue
        target = target.checked()
        sum_ = digest(output.data)
        sums.append(f"{sum_} {output.path}")
        other, data = taken.setdefault(_identity(target), (output.path, output.data))
        if other != output.path:
            if data != output.data:
                raise WearError(
                    tr("“{other}” and “{path}” are one file in this home folder, but need different contents.").format(
                        other=other, path=output.path
                    ),
                    tr("Remove the link between them, or leave out one of the components."),
                )
            continue
        if target.there.kind == "file" and target.there.digest == sum_:
            same += 1
        else:
            action: Action = "create" if target.there == NOTHING else "change"
            writes.append(Write(output.path, target, output.components, action, output.data))
    writes.sort(key=lambda w: w.action != "create")  # what others refer to is there before they do
    return tuple(writes), same, digest("\n".join(sorted(sums)).encode("utf-8", "surrogateescape"))


def _not_for_others(output: Output, target: Target) -> bool:
    """Tell whether a file is one that is run, and only a component that came from somebody else would change it."""
    received = all((c := COMPONENT_BY_ID.get(id_)) is not None and c.received for id_ in output.components)
    facts = target.there.facts
    return received and (output.data.startswith(b"#!") or (facts is not None and bool(facts.mode & 0o111)))


def _identity(target: Target) -> Path:
    """Return what tells files apart: the place, or for one with several names its number on its disk."""
    if target.there.kind == "file" and target.in_place:
        state = target.place.stat()
        return Path(f"{state.st_dev}:{state.st_ino}")
    return target.place


def make_plan(dressed: Dressed, home: Path, session: DesktopSession | None = None) -> Plan:
    """Return what would be written where, and what the desktop that runs would be set to. Writes nothing.

    Raises WearError when something cannot be written, FileAccessError when a file cannot be read.
    """
    check_home(home)
    session = session or NoDesktop()
    wish = _wish(dressed, home, session)
    desktop = desktop_named(session.desktop)
    kept = desktop.keeps if desktop is not None else ()
    made = (*(o for o in dressed.outputs if o.path not in kept), *slides(desktop, wish))
    told = _settings(dressed, wish, session, [o.path for o in made])
    tell = desktop.tell if desktop is not None else ()
    asked = [way for schema, way in tell if any(s.schema.startswith(schema) for s in told)]
    outputs, told = folded(made, told, dressed.home)
    writes, same, made_of = planned(home, outputs)
    touched = dict.fromkeys(c for w in writes for c in w.components if c in COMPONENT_BY_ID)
    restart = tuple(f"{COMPONENT_BY_ID[c].title}: {COMPONENT_BY_ID[c].restart}" for c in touched)
    sequences = next(
        (f.data.decode("ascii") for f in dressed.files.get("terminal") or () if f.path.endswith(".osc")), ""
    )
    seen = {path: "" if data is None else digest(data) for path, data in dressed.seen.items()}
    ways = [(c.id, way) for c in dressed.components if c.id in touched for way in c.follow]
    ways += [(session.desktop, way) for way in asked]
    return Plan(
        dressed.look.name,
        home,
        writes,
        restart,
        tuple(told),
        same,
        sequences,
        made_of,
        seen,
        session.desktop,
        told,
        tuple(ways),
        desktop.settle_s if desktop is not None else 0.0,
        dict(dressed.wardrobe.uses),
        kept_bytes(dressed.look),
    )


def folded(
    outputs: Iterable[Output], told: Mapping[DesktopSetting, tuple[str, str]], home: Files
) -> tuple[tuple[Output, ...], dict[DesktopSetting, tuple[str, str]]]:
    """Return the files and the settings without those that lie in one another's place.

    A file that the look writes and a setting in the same file would take each other for a person's edit: a plain
    setting goes into the file, and a file in which nothing else changes is left to a store that tells who watches it.
    """
    files = {o.path: o for o in outputs}
    rest: dict[DesktopSetting, tuple[str, str]] = {}
    for setting, words in told.items():
        path, _, section = setting.schema.partition("#")
        change = _IN_FILES.get(setting.store)
        if change is None or path not in files:
            rest[setting] = words
            continue
        old, new = (home(path) or b"").decode(*_TEXT), files[path].data.decode(*_TEXT)
        if setting.store in _WATCHED and change(old, section, setting) == new:
            del files[path]
            rest[setting] = words
        else:
            files[path] = files[path]._replace(data=change(new, section, setting).encode(*_TEXT))
    return tuple(files.values()), rest


def _with_key(text: str, section: str, setting: DesktopSetting) -> str:
    return set_keys(text, section, {setting.key: setting.value})


def _with_lines(text: str, _section: str, setting: DesktopSetting) -> str:
    return set_lines(text, setting.key, setting.value)


def _with_launched(text: str, _section: str, setting: DesktopSetting) -> str:
    return changed(text, setting.key, setting.value, setting.kind)


_TEXT = ("utf-8", "surrogateescape")
_WATCHED = ("plasma-theme",)
_IN_FILES: Mapping[str, Callable[[str, str, DesktopSetting], str]] = {
    "keyfile": _with_key,
    "plasma-theme": _with_key,
    "lines": _with_lines,
    "launched": _with_launched,
}


def _wish(dressed: Dressed, home: Path, session: DesktopSession) -> Wish:
    """Return what the look wants of the desktop."""
    look = dressed.look
    return Wish(
        dressed.folder,
        look.tone,
        look.source,
        look.placement.mode,
        {**look.companions, **dressed.wardrobe.named},
        str(home),
        nearest_accent(look.colours["accent"]),
        surface_words(as_drawn_here(look, session)),
        tuple(path for path in look.shown_pictures if Path(path).is_file()),
        look.showing,
    )


def _settings(
    dressed: Dressed, wish: Wish, session: DesktopSession, paths: list[str]
) -> dict[DesktopSetting, tuple[str, str]]:
    """Return what the look wants set, in order, with what each sets and for which component: the components' own first.

    Light or dark is among these, and desktops rewrite other settings when it changes.
    """
    look = dressed.look
    wardrobe = dressed.wardrobe
    words = wish.words(None)
    told: dict[DesktopSetting, tuple[str, str]] = {}
    for component in dressed.components:
        for row in component.settings:
            told.setdefault(DesktopSetting(row.schema, row.key, row.value.format(**words)), (row.title, component.id))
        held = component.colour_settings
        for row in held(look.scheme(), dressed.home) if held is not None else ():
            setting = DesktopSetting(_schema_of(row, session), row.key, row.value, row.store, row.kind)
            told.setdefault(setting, (row.title, component.id))
        for name, value in _resources(dressed, component):
            told.setdefault(DesktopSetting("", name, value, "xresources"), ("X resources", component.id))
    desktop = desktop_named(session.desktop) or Desktop(id="", title="")
    # A theme may say the same in a file of another name.
    worn = (row.writes for row in desktop.rows if row.component in wardrobe.uses and row.writes)
    paths = [*paths, *(name.format(**words) for name in worn)]
    without = [c.id for c in COMPONENT_BY_ID.values() if not dressed.files.get(c.id)]
    for setting, rule in settings_for(desktop, wish, paths, session, without):
        told.setdefault(setting, (rule.title, rule.component))
    return told


def _schema_of(row: ComponentSetting, session: DesktopSession) -> str:
    """Return where a setting lies; where another one says it that is not set, in the place that is usual."""
    if not row.of:
        return row.schema
    schema, key, usual = row.of
    said = session.read(DesktopSetting(schema, key, store=row.store))
    return row.schema.replace("{of}", said.value or usual)


_RESOURCE = re.compile(r"^([A-Za-z*.?][\w*.?-]*)[ \t]*:[ \t]*(\S.*?)[ \t]*$", re.MULTILINE)


def _resources(dressed: Dressed, component: Component) -> list[tuple[str, str]]:
    """Return the X resources that a component's file says otherwise than the one that it takes the place of."""
    path = component.resources
    fresh = next((f.data for f in dressed.files.get(component.id, ()) if f.path == path), None) if path else None
    if fresh is None:
        return []
    old = dict(_RESOURCE.findall((dressed.home(path) or b"").decode("utf-8", "replace")))
    found = dict(_RESOURCE.findall(fresh.decode("utf-8", "replace")))
    return [(name, value) for name, value in found.items() if old.get(name) != value]


def own_files(home: Path, history: History) -> Files:
    """Return the person's own files of a home, as they were before any look."""
    return OriginalFiles(home_files(home), history)


def stale_paths(plan: Plan, history: History) -> tuple[str, ...]:
    """Return the files that are not any more what a plan was made from."""
    own = own_files(plan.home, history)
    found = []
    for path, before in plan.seen.items():
        data = own(path)
        if ("" if data is None else digest(data)) != before:
            found.append(path)
    for write in plan.writes:
        there = read_there(write.target.place)[0]
        if (there.kind, there.digest) != (write.target.there.kind, write.target.there.digest):
            found.append(write.path)
    return tuple(dict.fromkeys(found))
