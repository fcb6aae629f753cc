"""Definitions of components as data: one file each in `definitions`, the parts of a kind in `sets`.

A definition says where a component lives, how it is distinguished, what it is made of, what it draws and how its files
are read back; nothing about it is said anywhere else. Its fields:

- id, title, kind, reads, effect, restart, tried; programs, signs, everywhere, exported, after, needs_file;
- set: the parts and shades of its kind; scene, layout: where and how the stage shows it, the set when left out; edge:
  two patterns by which its own file tells that it lies at the lower edge, or the upper one, and where it lies else;
- parts: by part, the places of text, fill and edge in the files, or for stylesheets the path of its nodes;
- surfaces: the kind of translucent surface by role or shade, where it is another than the role's;
- own, shades: further parts and shades of its own; ansi: the places of the sixteen terminal colours; numbered: parts
  of a name and a number, for readers of their own (reader, see `readers`);
- include: how its format takes in other files (see `unfold.Include`), for its readings and its recolouring;
- partial: whether a default sheet of the reader's own lies under a style sheet;
- files: see `rules.FileRule`; read: see `values.Reading`, or sheet = true for stylesheets, over = [...] for
  those of the person's own that lie over it;
- told: for readers that changed the spelling of their files, a word, and rows of a file (of the machine by its whole
  path), a pattern that says yes and one that says no; the first that matches decides whether templates have the word
  (‹?word›, ‹?!word›);
- settings: those of the desktop that choose its files; colour_settings: those of a program that hold its colours, as a
  template of lines, {of} in the schema standing for what another setting says;
- covers: programs that follow with it and are looked for by their name;
- knobs: numbers that a person sets;
- rehearse: how its programs are tried in a hidden session, see `rehearsal.Rehearsal`.
"""

from __future__ import annotations

import re
from collections.abc import Callable, Collection, Iterable, Iterator, Mapping
from dataclasses import replace
from functools import cache
from importlib.resources import files
from importlib.resources.abc import Traversable
from typing import Any

from ...language import tr
from ...palette.roles import ROLE_BY_ID
from ...palette.veil import KIND_BY_ID
from ...recolour.groups import KEEP
from ...recolour.rewrite import RecolourSubject, subject_of
from ...syntax.catalogue import formats
from ...syntax.late import late
from ...syntax.notations import NOTATIONS
from ...syntax.parsed import toml_of
from ..bar_patterns import BarPatterns
from ..files import Files, OutFile, text_of
from ..model import OWN, SHAPE_OPTIONS, Component, ComponentSetting, Knob, Paint, Paints, Part, ReloadMethod, Scheme
from ..read.readers import READERS, TEXT_READERS
from ..read.unfold import Include, unfolded
from ..read.values import OpacityRule, ReadingRule, first_of, keyed_reader, read_paths
from ..rehearsal import Rehearsal
from ..write.emblems import KINDS, with_emblems
from ..write.inplace import in_force, matching, read_sheet, text_with_all, ways_of
from ..write.makers import MAKERS
from ..write.palette import ComponentPalette, Shade, component_colours
from ..write.rule import FileRule, Job
from ..write.rules import WAYS, is_told, words_of, write_rules
from ..write.template import names_in
from ..write.terminal import TERMINAL
from .kinds import KINDS as COMPONENT_KINDS
from .parts import PACKAGE, as_tuple, parts_of, set_of, shades_of


def _shape_of(rules: Iterable[FileRule]) -> tuple[str, ...]:
    """Return what a component has beyond colours, by the ids of companions, in their order."""
    words = set(re.findall(r"‹(?:\?!?|=)(\w+)", "\n".join(s.template for s in rules)))
    marks = {"density": {"pad", "pad_wide"}} | {
        id_: {id_, f"{id_}_family", f"{id_}_points"} for id_ in SHAPE_OPTIONS if id_ != "density"
    }
    return tuple(id_ for id_ in SHAPE_OPTIONS if words & marks[id_])


def _wanted(shades: dict[str, Shade], parts: Iterable[Part], rules: Iterable[FileRule]) -> dict[str, Shade]:
    """Return the shades that parts and files name, and those that these are mixed from; all where code makes files."""
    rows = tuple(rules)
    if any(s.how in MAKERS for s in rows):
        return shades
    found = {r for p in parts for r in (p.text_role, p.fill_role, p.edge_role, p.around_role)}
    found |= {n for s in rows for n in names_in(s.template)}
    while more := {r for n in found & set(shades) for r in (shades[n].of, shades[n].toward)} - found:
        found |= more
    return {name: s for name, s in shades.items() if name in found}


def _include(row: Mapping[str, Any]) -> Include | None:
    """Return how a component's format takes in other files."""
    if "include" not in row:
        return None
    given = row["include"]
    start, end = (*as_tuple(given.get("comment", "#")), "")[:2]
    return Include(late(given["pattern"], re.MULTILINE), (start, end), given.get("sections", False))


def _reading(row: Mapping[str, Any], include: Include | None) -> ReadingRule:
    return ReadingRule(
        paths=as_tuple(row["paths"]),
        include=include,
        every=row.get("every", False),
        tables=row.get("tables", False),
        via=tuple((path, late(pattern, re.MULTILINE | re.DOTALL)) for path, pattern in row.get("via", ())),
        format=row.get("format", ""),
        counted=row.get("counted", False),
        references=row.get("references", ""),
        notation=row.get("notation", ""),
        sections=row.get("sections", False),
        renamed=tuple((pattern, place) for pattern, place in row.get("renamed", ())),
        patterns=tuple((place, late(p, re.MULTILINE)) for place, p in row.get("patterns", ())),
        opacities=tuple(
            OpacityRule(**{**o, "pattern": late(o["pattern"], re.MULTILINE)}) for o in row.get("opacities", ())
        ),
    )


def _rule(
    row: Mapping[str, Any],
    parts: tuple[Part, ...],
    readings: tuple[ReadingRule, ...],
    partial: bool,
    include: Include | None,
    joins: bool,
) -> FileRule:
    lists = ("paths", "comment", "unless", "named", "like", "apart")
    known = {k: v for k, v in row.items() if k not in lists}
    start, end = (*as_tuple(row.get("comment", "#")), "")[:2]
    recolours = row.get("how") == "recolour"
    exact, apart = row.get("exact", False), row.get("apart", False)
    ways = ways_of(row["format"], row.get("reader", ""), parts, readings, exact, partial, apart) if recolours else None
    return FileRule(
        paths=as_tuple(row["paths"]),
        comment=(start, end),
        unless=as_tuple(row.get("unless")),
        ways=ways,
        joins=joins,
        include=include if recolours else None,
        named=tuple(tuple(named) for named in row.get("named", ())),
        **known,
    )


def _reader(
    row: Mapping[str, Any], parts: tuple[Part, ...], readings: tuple[ReadingRule, ...], rules: tuple[FileRule, ...]
) -> Callable[[Files], Paints]:
    rows, include = row.get("read", ()), _include(row)
    if any(r.get("sheet") for r in rows):
        paths = tuple(p for r in rows for p in as_tuple(r["paths"]))
        over = tuple(p for r in rows for p in as_tuple(r.get("over")))

        def read(get: Files) -> Paints:
            path = first_of(get, paths)
            if not path:
                return {}
            text = "\n".join(unfolded(get, p, include).text for p in (path, *over) if p == path or get(p) is not None)
            return read_sheet(text, parts, row.get("partial", False))

        return read
    if row.get("reader") in READERS:
        whole = READERS[row["reader"]]
        return lambda get: whole(get, parts, [next(iter(read_paths(get, r)), "") for r in readings])
    if "reader" in row:
        return _first_reader(next(s for s in rules if s.how == "recolour"))
    return keyed_reader(readings, parts, _GROUNDS.get(set_of(row.get("set", "")).get("ground", "")))


def _terminal_ground(get: Files) -> Paint | None:
    return TERMINAL.read(get).get("terminal")


_GROUNDS: dict[str, Callable[[Files], Paint | None]] = {"terminal": _terminal_ground}


def _first_reader(rule: FileRule) -> Callable[[Files], Paints]:
    """Return the read-back of the first of the files that a rule recolours."""
    ways = rule.ways
    assert ways is not None

    def read(get: Files) -> Paints:
        path = next(iter(in_force(get, rule)), "")
        return ways.reader(get, path)(text_with_all(get, rule, path).text) if path else {}

    return read


def _subject(rules: Iterable[FileRule]) -> Callable[[Files, frozenset[str]], RecolourSubject | None] | None:
    rule = next((s for s in rules if s.how == "recolour"), None)
    if rule is None:
        return None

    def subject(get: Files, splits: frozenset[str]) -> RecolourSubject | None:
        path = next(iter(matching(get, rule)), "")
        ways = rule.ways
        if not path or ways is None:
            return None
        return subject_of(text_with_all(get, rule, path).text, ways.scan, splits, ways.sure, ways.apart)

    return subject


def _origin(rules: Iterable[FileRule]) -> Callable[[Files], str] | None:
    """Return what finds the file of the person's own that is recoloured into another place."""
    rule = next((s for s in rules if s.how == "recolour" and s.to), None)
    return None if rule is None else lambda files: next(iter(matching(files, rule)), "")


def _further(rules: Iterable[FileRule]) -> Callable[[Files], Mapping[str, Paints]] | None:
    """Return what further files of the person's own say, by path, where a component recolours several."""
    rows = [s for s in rules if s.how == "recolour" and s.ways is not None]
    if not rows or not any("*" in p for s in rows for p in s.paths):
        return None

    def read(get: Files) -> Mapping[str, Paints]:
        found = {
            path: s.ways.reader(get, path)(text_with_all(get, s, path).text)
            for s in rows
            if s.ways
            for path in in_force(get, s)
        }
        return dict(list(found.items())[1:])

    return read


def _whole(text: str) -> dict[str, Any]:
    """Return a definition with what it takes over: of another one (base), and of the rows that its own are like."""
    row = toml_of(text)
    base = row
    if "base" in row:
        base = toml_of(_file_of(row["base"]).read_text(encoding="utf-8"))
    lists: dict[str, Any] = {
        name: [{**base[name][s["like"] - 1], **s} if "like" in s else s for s in row.get(name, ())]
        for name in ("read", "files")
        if name in row
    }
    return {**base, **row, **lists}


def _whole_of_anyone(text: str) -> dict[str, Any]:
    """Return the same of a text that nobody has tried. Raises ParseError."""
    from .schema import toml_row, wrong

    row = toml_row(text)
    base = row.get("base")
    if "base" in row and (not isinstance(base, str) or _NUMBER.sub("", base) not in shipped()):
        raise wrong(tr("there is no definition “{name}” to start from").format(name=base))
    try:
        return _whole(text)
    except (ValueError, KeyError, TypeError, IndexError, AttributeError) as error:
        raise wrong(tr("“like” names a row that is not there")) from error


def _tells(get: Files, rows: Iterable[tuple[str, str, str]]) -> bool:
    """Tell by the first file that matches one of two patterns: the one that says yes, or the one that says no."""
    for place, yes, no in rows:
        path = next(iter(get.find(place)), place) if "*" in place else place
        text = text_of(get, path)
        if re.search(yes, text, re.MULTILINE):
            return True
        if re.search(no, text, re.MULTILINE):
            return False
    return False


_SETTING = re.compile(r"^(?P<key>[^:=\n]+?)(?::(?P<kind>\w+))?=(?P<value>.*)$", re.MULTILINE)


def _settings_of(row: Mapping[str, Any], job: Job) -> Iterator[ComponentSetting]:
    """Yield the settings that a row's template makes of the look's colours, a line each."""
    if not is_told(row.get("only", ""), job.words):
        return
    store, of = row.get("store", "gsettings"), tuple(row.get("of", ()))
    for found in _SETTING.finditer(job.fill(row["template"], row.get("spell", "hex"))):
        kind = found["kind"] or ""
        yield ComponentSetting(row["schema"], found["key"], found["value"], tr(row["title"]), store, kind, of)


def _look_over(row: Mapping[str, Any]) -> None:
    """Raise ParseError for a definition that is not whole: by its fields, and by what it names."""
    from .schema import checked, wrong

    found = checked(dict(row))
    sets = {e.name.removesuffix(".toml") for e in files(PACKAGE).joinpath("sets").iterdir()}
    known_formats = {f.id for f in formats()}
    for what, names, known in (
        ("kind", {found.kind}, COMPONENT_KINDS),
        ("set", {found.set} - {""}, sets),
        ("format", {*(r.format for r in found.read), *(f.format for f in found.files)} - {""}, known_formats),
        ("how", {f.how for f in found.files}, {*WAYS, *MAKERS, "recolour"}),
        ("reader", {found.reader, *(f.reader for f in found.files)} - {""}, {*READERS, *TEXT_READERS}),
        ("surfaces", set(found.surfaces.values()), set(KIND_BY_ID)),
        ("notation", {r.notation for r in found.read} - {"", "ansi"}, set(NOTATIONS)),
    ):
        strange = sorted(set(names) - set(known))
        if strange:
            raise wrong(tr("“{value}” is not a value of “{field}”").format(value=strange[0], field=what))
    if any(f.how == "recolour" and not f.format for f in found.files) or any(
        not f.paths and not f.named for f in found.files
    ):
        raise wrong(tr("a file has no path or no format"))
    if found.reader and found.reader not in READERS and all(f.how != "recolour" for f in found.files):
        raise wrong(tr("“{value}” is not a value of “{field}”").format(value=found.reader, field="reader"))
    shades, parts = shades_of(row), parts_of(row)
    strange = sorted({p.surface for p in parts} - set(KIND_BY_ID) - {""})
    if strange:
        raise wrong(tr("“{value}” is not a value of “{field}”").format(value=strange[0], field="surface"))
    roles = {r for p in parts for r in (p.text_role, p.fill_role, p.edge_role, p.around_role)}
    roles |= {r for s in shades.values() for r in (s.of, s.toward)}
    lacking = sorted(roles - set(ROLE_BY_ID) - set(shades) - {"", "white", "black"})
    if lacking:
        raise wrong(tr("there is no role “{role}”").format(role=lacking[0]))


def defined(text: str, checked: bool = False) -> Component:
    """Return the component that a data file defines.

    checked: whether it is a file that nobody has tried, so that all of it is looked over first: ParseError is raised
    for what is wrong.
    """
    if not checked:
        return _built(_whole(text))
    from .schema import wrong

    row = _whole_of_anyone(text)
    try:
        _look_over(row)
        return _built(row)
    except (ValueError, LookupError, TypeError, AttributeError, ArithmeticError, RecursionError, re.error) as error:
        raise wrong(str(error)) from error


def _built(row: Mapping[str, Any]) -> Component:
    parts, shades, include = parts_of(row), shades_of(row), _include(row)
    readings = tuple(_reading(r, include) for r in row.get("read", ()) if not r.get("sheet"))
    own, partial = row["id"].startswith(OWN), row.get("partial", False)
    rules = tuple(_rule(s, parts, readings, partial, include, own) for s in row["files"])
    shades = _wanted(shades, parts, rules)
    owner, read = row["id"], _reader(row, parts, readings, rules)
    knobs = tuple(Knob(**{**k, "title": tr(k["title"])}) for k in row.get("knobs", ()))
    kinds = {name: KIND_BY_ID[kind] for name, kind in row.get("surfaces", {}).items()}
    told = {t["word"]: tuple((path, yes, no) for path, yes, no in t["files"]) for t in row.get("told", ())}

    def numbers_of(scheme: Scheme) -> dict[str, float]:
        chosen = scheme.decided(owner).knobs
        asked = {k.id: chosen.get(k.id, k.start) for k in knobs}
        return {k.id: min(k.high, max(k.low, asked[k.id])) for k in knobs}

    def worn_of(scheme: Scheme, get: Files) -> ComponentPalette:
        before = read(get) if KEEP in scheme.decided(owner).roles.values() else None
        numbers = numbers_of(scheme)
        set_ = {n: replace(s, by=s.by * numbers[f"{n}_by"]) if f"{n}_by" in numbers else s for n, s in shades.items()}
        return component_colours(owner, set_, parts, scheme, before, kinds)

    def job_of(scheme: Scheme, get: Files, asked: Collection[str] | None = None) -> Job:
        worn, numbers = worn_of(scheme, get), numbers_of(scheme)
        words = words_of(scheme, get, owner) | {name: f"{value:g}" for name, value in numbers.items()}
        words |= {w: "1" for w, rows in told.items() if (_tells(get, rows) if asked is None else w in asked)}
        return Job(owner, parts, scheme, worn, words, numbers, get, {})

    def colour_settings(scheme: Scheme, get: Files) -> tuple[ComponentSetting, ...]:
        job = job_of(scheme, get)
        return tuple(s for r in row["colour_settings"] for s in _settings_of(r, job))

    def write(scheme: Scheme, get: Files) -> tuple[OutFile, ...]:
        written = write_rules(rules, job_of(scheme, get))
        return with_emblems(written, owner, scheme, get) if row["kind"] in KINDS else written

    made = [s for s in rules if s.how != "recolour"]
    rewrites = any(s.how == "recolour" for s in rules)
    named = (n for s in made for n in names_in(s.template))
    grounded = bool(set_of(row.get("set", "")).get("ground"))  # what it is drawn on may be another's
    drawn = (r for p in parts for r in (p.fill_role, p.text_role, p.edge_role) if r and not grounded)
    return Component(
        id=owner,
        title=tr(row["title"]),
        kind=row["kind"],
        reads=tr(row["reads"]),
        effect=row["effect"],
        restart=tr(row["restart"]),
        parts=parts,
        write=write,
        colours=lambda scheme, get: worn_of(scheme, get).colours,
        read=read,
        rewrites=rewrites,
        needs_file=tr(row["needs_file"]) if "needs_file" in row else "",
        scene=row.get("scene", row.get("set", "")),
        layout=row.get("layout", ""),
        edge=tuple(row["edge"]) if "edge" in row else None,
        items=BarPatterns(**row["items"]) if "items" in row else None,
        programs=as_tuple(row.get("programs")),
        signs=as_tuple(row.get("signs")),
        everywhere=row.get("everywhere", False),
        exported=row.get("exported", False),
        roles=tuple(dict.fromkeys([*named, *drawn])) if made else (),
        knobs=knobs,
        tried=row.get("tried", "not tried"),
        subject=_subject(rules),
        origin=_origin(rules),
        further=_further(rules),
        after=(*as_tuple(row.get("after")), *as_tuple(set_of(row.get("set", "")).get("ground"))),
        twins=as_tuple(row.get("twins")),
        settings=tuple(ComponentSetting(**{**s, "title": tr(s["title"])}) for s in row.get("settings", ())),
        told=told,
        write_as=(lambda scheme, get, asked: write_rules(rules, job_of(scheme, get, asked))) if told else None,
        colour_settings=colour_settings if "colour_settings" in row else None,
        follow=tuple(ReloadMethod.of(w) for w in row.get("follow", ())),
        restarts=as_tuple(row.get("restarts")),
        shape=_shape_of(made),
        covers=as_tuple(row.get("covers")),
        received=row.get("received", False),
        rehearsals=tuple(Rehearsal.of(r) for r in row.get("rehearse", ())),
        places=tuple(p for r in rules for p in r.paths),
        plain_lines=tuple(p for r in rules if r.line_ends == "lf" for p in r.paths),
    )


@cache
def shipped() -> Mapping[str, Traversable]:
    """Return the files of the definitions that ship by their names, which lie in a folder for each kind."""
    folders = (folder for folder in files(PACKAGE).joinpath("definitions").iterdir() if folder.is_dir())
    found = ((e.name.removesuffix(".toml"), e) for folder in folders for e in folder.iterdir())
    return dict(sorted((name, e) for name, e in found if e.name.endswith(".toml")))


def _file_of(base: str) -> Traversable:
    """Return the file of a definition by its name; those of 0.9 began with a number. Raises KeyError."""
    return shipped()[_NUMBER.sub("", base)]


_NUMBER = re.compile(r"^\d+[a-z]?\d?-")


@cache
def definitions() -> tuple[Component, ...]:
    """Return every component that is defined as data, in the order of kinds and then of titles."""
    found = (defined(e.read_text(encoding="utf-8")) for e in shipped().values())
    return tuple(sorted(found, key=lambda c: (COMPONENT_KINDS.index(c.kind), c.title.casefold())))
