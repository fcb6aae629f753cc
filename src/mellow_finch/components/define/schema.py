"""What a definition may say: every field with its type and its range, in one place.

Shipped definitions are held against it by a test, those of a person's own whenever they are read. It knows nothing of
what is made of them.
"""

from __future__ import annotations

import re
import tomllib
import warnings
from collections.abc import Iterator
from functools import cache
from typing import Annotated, Any, Literal

import msgspec
from msgspec import Meta, Struct

from ...errors import ParseError
from ...language import tr

_MOST_ROWS = 2000
_MOST_NESTED = 200

Word = Annotated[str, Meta(max_length=400)]
Text = Annotated[str, Meta(max_length=200_000)]
Name = Annotated[str, Meta(min_length=1, max_length=120, pattern=r"^[^\x00-\x1f\x7f]*$")]
Id = Annotated[str, Meta(min_length=1, max_length=80, pattern=r"^[a-z0-9][a-z0-9_-]*\Z")]
Glob = Annotated[str, Meta(min_length=1, max_length=400, pattern=r"^[^\x00-\x1f\x7f]*\Z")]
Pattern = Annotated[str, Meta(max_length=4000)]
Ratio = Annotated[float, Meta(ge=0, le=21)]
Share = Annotated[float, Meta(ge=-2, le=2)]
Number = Annotated[float, Meta(ge=-1e6, le=1e6)]
Index = Annotated[int, Meta(ge=1, le=_MOST_ROWS)]
Pair = tuple[Pattern, Pattern]
Words = list[Name] | Name


class _Row(Struct, forbid_unknown_fields=True):
    """A table of a definition."""


class PartOptions(_Row):
    """What a row of parts says beyond its roles."""

    around: Word = ""
    edge: Word = ""
    edge_need: Ratio = 0.0
    need: Ratio = 0.0
    on_picture: bool = False
    place: Word = ""
    surface: Word = ""
    under: Word = ""


class ShadeRow(_Row):
    """A colour of a component's own."""

    of: Word
    toward: Word = ""
    by: Share = 0.0
    veiled: bool = False


class OpacityRow(_Row):
    """Where an opacity is said."""

    of: Word
    pattern: Pattern
    full: Annotated[float, Meta(gt=0, le=1e6)] = 1.0
    less: bool = False


class IncludeRow(_Row):
    """How a format takes in other files."""

    pattern: Pattern
    comment: list[Word] | Word = "#"
    sections: bool = False


class Read(_Row):
    """How a file is read back."""

    paths: list[Glob] | Glob = []
    format: Word = ""
    like: Index | None = None
    counted: bool = False
    fresh: bool = False
    every: bool = False
    notation: Word = ""
    opacities: list[OpacityRow] = []
    over: list[Glob] | Glob = []
    patterns: list[Pair] = []
    references: Word = ""
    renamed: list[Pair] = []
    sections: bool = False
    sheet: bool = False
    tables: bool = False
    via: list[Pair] = []


class File(_Row):
    """How a file is made."""

    paths: list[Glob] | Glob = []
    how: Word = "whole"
    like: Index | None = None
    at: Literal["start", "end"] = "end"
    comment: list[Word] | Word = "#"
    each: Glob | Literal[""] = ""
    exact: bool = False
    apart: bool = False
    first: bool = False
    format: Word = ""
    line_ends: Literal["", "lf"] = ""
    named: list[tuple[str, ...]] = []
    only: Word = ""
    options: dict[Word, Word | bool | Number] = {}
    reader: Word = ""
    region: Word = ""
    spell: Word = "hex"
    template: Text = ""
    to: Glob | Literal[""] = ""
    told: Pattern = ""
    unless: list[Glob] | Glob = []
    when: Literal["", "present", "absent"] = ""


class Follow(_Row):
    """How a running program is told."""

    how: Literal["signal", "command", "bus", "emit"]
    program: Name
    words: Annotated[list[Word], Meta(min_length=1)]
    check: list[Word] = []


class RehearseRow(_Row):
    """How its program is tried, see `components.rehearsal`."""

    run: Annotated[str, Meta(min_length=1, max_length=2000)]
    program: Word = ""
    on: Literal["x11", "wayland", "terminal"] = "x11"
    first: list[Word] = []
    then: list[Word] = []
    keys: list[Word] = []
    windows: bool = False
    compositor: bool = False
    config: Word = ""
    lay: dict[Glob, Text] = {}
    settings: dict[Word, Word] = {}
    needs: list[Word] = []
    shows: list[Word] = []
    asks: bool = False
    slow: bool = False
    icons: bool = False
    around: list[Annotated[str, Meta(pattern=r"^#[0-9a-f]{6}\Z")]] = []


class KnobRow(_Row):
    """A number that a person sets."""

    id: Id
    title: Name
    low: Number
    high: Number
    start: Number
    step: Annotated[float, Meta(gt=0, le=1e6)] = 1.0
    unit: Word = ""


class Chosen(_Row):
    """A setting that chooses the files."""

    schema: Name
    key: Name
    value: Word
    title: Name


class ColourSettings(_Row):
    """Settings that hold the colours, a line each: KEY=VALUE, or KEY:KIND=VALUE where the store wants to know it."""

    schema: Name
    title: Name
    template: Text
    store: Name = "gsettings"
    of: Annotated[list[Word], Meta(min_length=3, max_length=3)] | None = None
    only: Word = ""
    spell: Word = "hex"


class BarRow(_Row):
    """How its file tells what stands on a bar, see `components.bar_patterns`."""

    left: Pattern = ""
    middle: Pattern = ""
    right: Pattern = ""
    words: Pattern = r"[\w/#.-]+"
    named: Pattern = ""


class ConditionRow(_Row):
    """A word, and what tells whether a file has it."""

    word: Name
    files: list[tuple[Glob, Pattern, Pattern]]


class Definition(_Row):
    """A component."""

    id: Id
    title: Name
    kind: Name
    reads: Name
    effect: Literal["at once", "reload", "restart"]
    restart: Annotated[str, Meta(max_length=400)]
    files: Annotated[list[File], Meta(min_length=1, max_length=200)]
    after: Words = []
    twins: Words = []
    ansi: Annotated[list[Word], Meta(min_length=16, max_length=16)] | None = None
    base: Annotated[str, Meta(pattern=r"^[a-z0-9-]+\Z", max_length=80)] | None = None
    covers: Words = []
    everywhere: bool = False
    exported: bool = False
    follow: list[Follow] = []
    include: IncludeRow | None = None
    knobs: list[KnobRow] = []
    layout: Word = ""
    edge: tuple[str, str, str] | None = None
    items: BarRow | None = None
    needs_file: Word = ""
    numbered: Annotated[list[list[Any]], Meta(max_length=50)] = []
    own: Annotated[list[list[Any]], Meta(max_length=_MOST_ROWS)] = []
    partial: bool = False
    parts: dict[Word, Word | Annotated[list[Word], Meta(max_length=3)]] = {}
    programs: Words = []
    read: Annotated[list[Read], Meta(max_length=200)] = []
    reader: Word = ""
    received: bool = False
    rehearse: Annotated[list[RehearseRow], Meta(max_length=20)] = []
    restarts: Words = []
    scene: Word = ""
    set: Word = ""
    settings: list[Chosen] = []
    colour_settings: list[ColourSettings] = []
    shades: dict[Word, ShadeRow] = {}
    signs: list[Glob] | Glob = []
    surfaces: dict[Word, Word] = {}
    told: list[ConditionRow] = []
    tried: Word = ""


def toml_row(text: str) -> dict[str, Any]:
    """Return a definition's tables; raises ParseError for what is no TOML."""
    deepest = depth = 0
    for sign in text:
        depth += (sign in "[{") - (sign in "]}")
        deepest = max(deepest, depth)
        if deepest > _MOST_NESTED:
            raise wrong(tr("it is nested too deeply"))
    try:
        return tomllib.loads(text)
    except (ValueError, RecursionError) as error:
        raise wrong(str(error)) from error


def checked(row: dict[str, Any]) -> Definition:
    """Return a definition, every field of its type and in its range.

    Raises ParseError with what is wrong and where. What it names (sets, formats, kinds) is looked up by who makes a
    component of it.
    """
    try:
        found = msgspec.convert(row, Definition, strict=True)
        for name, rows in (("own", found.own), ("numbered", found.numbered)):
            for number, one in enumerate(rows):
                _checked_part(one, f"{name}[{number}]", name == "numbered")
    except (msgspec.ValidationError, RecursionError) as error:
        raise wrong(str(error)) from error
    for pattern in _patterns(found):
        try:
            with warnings.catch_warnings(action="ignore"):  # of patterns that may mean something else one day
                re.compile(pattern)
        except (re.error, RecursionError, OverflowError) as error:
            raise wrong(f"{pattern}: {error}") from error
    for pattern in _globs(found):
        if problem := glob_problem(pattern):
            raise wrong(f"“{pattern}”: {problem}")
    return found


def _checked_part(row: list[Any], at: str, numbered: bool) -> None:
    """Raise msgspec.ValidationError for a row of parts that is none."""
    types = _NUMBERED if numbered else _PART
    if not types[0] <= len(row) <= types[1]:
        raise msgspec.ValidationError(f"Expected {types[0]} to {types[1]} values - at `$.{at}`")
    for value, type_ in zip(row, types[2], strict=False):
        msgspec.convert(value, type_, strict=True)
    roles = row[2]
    if roles.count("/") > 1:
        raise msgspec.ValidationError(f"Expected text/fill, got “{roles}” - at `$.{at}`")


_PART = (3, 4, (Word, Word, Word, PartOptions))
_NUMBERED = (4, 5, (Word, Annotated[int, Meta(ge=1, le=500)], Word, PartOptions, Annotated[int, Meta(ge=0, le=500)]))


def wrong(why: str) -> ParseError:
    """Return what says why a text is no definition."""
    return ParseError(tr("This is not a definition: {error}.").format(error=_one_line(why)))


def _one_line(text: str) -> str:
    return " ".join("".join(c if c.isprintable() else " " for c in text[:400]).split()).rstrip(".")


def _patterns(found: Definition) -> Iterator[str]:
    if found.include is not None:
        yield found.include.pattern
    for read in found.read:
        yield from (opacity.pattern for opacity in read.opacities)
        yield from (pattern for _, pattern in (*read.via, *read.patterns))
        yield from (pattern for pattern, _ in read.renamed)
    for file in found.files:
        yield file.told
        yield from (row[1] for row in file.named)
        yield from (str(file.options[name]) for name in ("above", "before", "pattern") if name in file.options)
    for told in found.told:
        yield from (pattern for row in told.files for pattern in row[1:])


def many(value: list[str] | str) -> list[str]:
    """Return one or several words as several."""
    return [value] if isinstance(value, str) else value


def _globs(found: Definition) -> Iterator[str]:
    yield from many(found.signs)
    for read in found.read:
        yield from (*many(read.paths), *many(read.over))
        yield from (path for rows, _ in read.via for path in rows.split("|"))
    for file in found.files:
        yield from (*many(file.paths), *many(file.unless), *filter(None, (file.each, file.to)))
        yield from (path for row in file.named for path in (row[0], *row[2:]))


def glob_problem(pattern: str) -> str:
    """Return why a pattern of paths from the home folder is none, empty where it is one."""
    parts = pattern.split("/")
    if pattern.startswith(("/", "~")) or ".." in parts:
        return tr("it leads out of the home folder")
    if "**" in pattern or not pattern.strip() or "" in parts[:-1] or pattern.endswith("/"):
        return tr("it is not a path within the home folder")
    try:
        _compiled(pattern)
    except re.error as error:
        return str(error)
    return ""


@cache
def _compiled(pattern: str) -> None:
    import fnmatch

    re.compile(fnmatch.translate(pattern))
