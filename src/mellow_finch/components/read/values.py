"""What files say, by place: every colour under the section and key it stands at, references to other keys followed."""

from __future__ import annotations

import re
import tomllib
from bisect import bisect_right
from collections.abc import Callable, Mapping
from dataclasses import dataclass
from functools import lru_cache
from types import MappingProxyType
from typing import Any

from ...colour.rgb import Rgba
from ...syntax.catalogue import format_by_id
from ...syntax.ini import read_ini
from ...syntax.notations import read_as
from ...syntax.numbers import number
from ...syntax.spans import ColourSpan
from ..files import Files, text_of
from ..model import Paint, Paints, Part
from ..write.terminal import read_terminal
from .unfold import Include, home_path, unfolded

Values = Mapping[str, Rgba]
_ROUNDS = 4  # how far a reference to a reference is followed


@dataclass(frozen=True, slots=True, kw_only=True)
class OpacityRule:
    """Where a file says the opacity of a colour apart from it: a pattern whose group is a number up to full.

    less: whether the number is what it lacks of an opaque one.
    """

    of: str
    pattern: re.Pattern[str]
    full: float = 1.0
    less: bool = False

    def opacity(self, text: str) -> float | None:
        """Return what a text says, 0..1, None where it says nothing; what is said last counts."""
        found = next(reversed(list(self.pattern.finditer(text))), None)
        if found is None:
            return None
        share = min(1.0, max(0.0, number(found.group(1)) / self.full))
        return 1 - share if self.less else share


@dataclass(frozen=True, slots=True, kw_only=True)
class ReadingRule:
    """How a file is read back.

    paths: patterns from the home folder, the first that is there counts; format: whose scanner finds the colours;
    fresh: whether only files count that were just made; counted: whether equal keys are numbered through the whole file
    rather than the last one counting; references: how a key refers to another: "${a.b}", "@a", "$a" or "" for not at
    all; include: how the format takes in other files; tables: whether the file is read as TOML, however its tables are
    spelled; every: whether all files that match count, one after the other; via: (path, pattern) rows, the group of
    each of which names what stands for {} in the next row's path, and for {chosen} in the paths; of paths separated by
    bars the first that is there counts; patterns: (place, pattern) whose groups are what fills the place's {} and a
    colour, where a scanner cannot tell the place; notation: how these spell colours, empty as stylesheets do, "ansi"
    where they name the terminal's own sixteen; sections: whether the section that a line stands in comes before its
    place; renamed: (pattern, place) rows for places that other versions of the reader call by another name.
    """

    paths: tuple[str, ...]
    format: str
    fresh: bool = False
    counted: bool = False
    references: str = ""
    include: Include | None = None
    every: bool = False
    tables: bool = False
    via: tuple[tuple[str, re.Pattern[str]], ...] = ()
    patterns: tuple[tuple[str, re.Pattern[str]], ...] = ()
    notation: str = ""
    sections: bool = False
    opacities: tuple[OpacityRule, ...] = ()
    renamed: tuple[tuple[str, str], ...] = ()


def key_of_span(span: ColourSpan) -> str:
    """Return the section and key of a literal as one word."""
    return f"{span.where}/{span.key}" if span.where else span.key


def places_of(text: str, spans: list[ColourSpan], counted: bool) -> list[str]:
    """Return the place of every span; of several on one line (or, counted, in the file) the later are numbered."""
    seen: dict[tuple[str, int], int] = {}
    out: list[str] = []
    for span in spans:
        place = key_of_span(span)
        line = 0 if counted else text.rfind("\n", 0, span.start)
        number = seen[place, line] = seen.get((place, line), 0) + 1
        out.append(place if number == 1 else f"{place}#{number}")
    return out


_NAMES = ("black", "red", "green", "yellow", "blue", "magenta", "cyan", "white")
_LETTERS = "krgybmcw"
_BRIGHT = re.compile(r"(?:bright|light)[ _-]?(\w+)")
_NUMBER = re.compile(r"(?:colou?r)?(\d{1,2})")


def _index_of(word: str) -> int | None:
    """Return which of a terminal's sixteen colours a word names: "blue", "brightblue", "light blue", "color4", "12".

    Brown is yellow; of single letters a large one is the bright colour.
    """
    if len(word) == 1 and word.lower() in _LETTERS:
        return _LETTERS.index(word.lower()) + (8 if word.isupper() else 0)
    word = word.lower()
    found = _BRIGHT.fullmatch(word)
    name = found[1] if found else word
    name = "yellow" if name == "brown" else name
    if name in _NAMES:
        return _NAMES.index(name) + (8 if found else 0)
    number_ = _NUMBER.fullmatch(word)
    return int(number_[1]) if number_ and int(number_[1]) < 16 else None


def terminal_names(get: Files) -> Callable[[str], Rgba | None]:
    """Return what tells the colour that a terminal shows for one of its own names; "default" is its plain text."""
    paints = read_terminal(get)

    def colour(word: str) -> Rgba | None:
        index = _index_of(word)
        key = "terminal" if word.lower() in ("default", "normal", "none", "-1") else f"colour {index}"
        paint = paints.get(key)
        return paint.text if paint is not None else None

    return colour


def values_of(
    text: str,
    reading: ReadingRule,
    named: Callable[[str], Rgba | None] | None = None,
    before: Values = MappingProxyType({}),
) -> dict[str, Rgba]:
    """Return the colour at every place of a text; named: what tells the colours of a terminal's names. Never raises.

    before: what other files say, which an opacity may be of; it is returned too.
    """
    plain = _EXPAND[reading.references](text)
    if reading.tables:
        out = _in_tables(plain)
    elif reading.patterns:
        out = _by_patterns(plain, reading, named)
    else:
        spans = _scanner(reading.format)(plain)
        out = dict(zip(places_of(plain, spans, reading.counted), (s.colour for s in spans), strict=True))
    for pattern, place in reading.renamed:
        out = {re.sub(pattern, place, key): colour for key, colour in out.items()}
    out = {**before, **out}
    for row in reading.opacities:
        alpha = row.opacity(plain) if row.of in out else None
        if alpha is not None:
            out[row.of] = out[row.of]._replace(a=alpha)
    return out


def _by_patterns(text: str, reading: ReadingRule, named: Callable[[str], Rgba | None] | None = None) -> dict[str, Rgba]:
    heads = [(h.start(), h.group(1)) for h in _HEAD.finditer(text)] if reading.sections else []
    out: dict[str, Rgba] = {}
    rows = [(found, place) for place, pattern in reading.patterns for found in pattern.finditer(text)]
    for found, place in sorted(rows, key=lambda row: row[0].start()):  # of equal places the later line counts
        told = named(found.group(2)) if named is not None else None
        colour = told if reading.notation == "ansi" else read_as(reading.notation, found.group(2))
        if colour is not None:
            before = bisect_right(heads, (found.start(), "\U0010ffff"))
            section = f"{heads[before - 1][1]}/" if before else ""
            out[section + place.format(found.group(1))] = colour
    return out


_HEAD = re.compile(r"(?m)^[ \t]*\[([^\]\n]*)\]")


def _in_tables(text: str) -> dict[str, Rgba]:
    """Return every colour of a TOML file by table and key; nothing for a file that its reader refuses too."""
    try:
        data = tomllib.loads(text)
    except (ValueError, RecursionError):  # its own error is one, and so is that of a number with too many digits
        return {}
    out: dict[str, Rgba] = {}

    def walk(table: Mapping[str, Any], where: str) -> None:
        for key, value in table.items():
            if isinstance(value, dict):
                walk(value, f"{where}.{key}" if where else key)
                continue
            for i, one in enumerate(value if isinstance(value, list) else [value]):
                colour = (
                    next((c for form in ("hexa", "0x") if (c := read_as(form, one))), None)
                    if isinstance(one, str)
                    else None
                )
                if colour is not None:
                    out[f"{where}/{key}#{i + 1}" if i else f"{where}/{key}"] = colour

    walk(data, "")
    return out


@lru_cache(maxsize=64)
def _scanner(format_: str) -> Callable[[str], list[ColourSpan]]:
    return format_by_id(format_).scan


def values_in(get: Files, readings: tuple[ReadingRule, ...]) -> dict[str, Rgba]:
    """Return what the files in place say; of equal places the later reading counts."""
    out: dict[str, Rgba] = {}
    for reading in readings:
        named = terminal_names(get) if reading.notation == "ansi" else None
        for path in read_paths(get, reading):
            out = values_of(unfolded(get, path, reading.include).text, reading, named, out)
    return out


def read_paths(get: Files, reading: ReadingRule) -> list[str]:
    """Return the files that a reading reads, in their order: the first that is there, or all where every one counts."""
    paths = _chosen(get, reading)
    if reading.fresh:
        return [p for pattern in paths for p in get.find(pattern) if get.fresh(p)][:1]
    if reading.every:
        return list(dict.fromkeys(p for path in paths for p in (sorted(get.find(path)) if "*" in path else [path])))
    found = first_of(get, paths)
    return [found] if found else []


def _chosen(get: Files, reading: ReadingRule) -> tuple[str, ...]:
    """Return the paths of a reading with what its `via` leads to; where that leads nowhere, any name will do."""
    if not reading.via:
        return reading.paths
    word = ""
    for paths, pattern in reading.via:
        path = first_of(get, tuple(paths.replace("{}", word).split("|")))
        found = pattern.findall(text_of(get, path)) if path else []
        word = found[-1] if found else ""
        if not word:
            return tuple(p.replace("{chosen}", "*") for p in reading.paths if not p.startswith("{chosen}"))
    whole = home_path(get, word, reading.via[-1][0])
    return tuple(p.replace("{chosen}", whole if p.startswith("{chosen}") else word) for p in reading.paths)


def first_of(get: Files, paths: tuple[str, ...]) -> str:
    """Return the first file that matches, empty when there is none."""
    for path in paths:
        if "*" in path:
            found = get.find(path)
            if found:
                return found[0]
        elif get(path) is not None:
            return path
    return ""


def paints_of(values: Values, parts: tuple[Part, ...]) -> dict[str, Paint]:
    """Return the parts that the values say something of, each over the part below it."""
    out: dict[str, Paint] = {}
    for part in parts:
        fill, text, edge = values.get(part.fill), values.get(part.text), values.get(part.edge)
        if (fill, text, edge) == (None, None, None):
            continue
        below = out[part.under].layers if part.under in out else ()
        own = (fill,) if fill is not None else ()
        out[part.key] = Paint(fill, text, edge, tuple(layer for layer in below if layer), own)
    return out


def keyed_reader(
    readings: tuple[ReadingRule, ...], parts: tuple[Part, ...], ground: Callable[[Files], Paint | None] | None = None
) -> Callable[[Files], Paints]:
    """Return the read-back of files of keys and values.

    ground: what the program draws on where its own files say nothing, such as its terminal; where that is not known,
    texts on it are not known either.
    """

    def read(get: Files) -> Paints:
        found = paints_of(values_in(get, readings), parts)
        if ground is None or all(any(paint.layers) for paint in found.values()):
            return found
        below = ground(get)
        layers = tuple(filter(None, below.layers)) if below is not None else ()
        laid = {k: p if any(p.layers) else p._replace(below=layers) for k, p in found.items()}
        return {k: p for k, p in laid.items() if any(p.layers)}

    return read


# References between the keys of a file, followed by putting the value in their place


def _as_it_stands(text: str) -> str:
    return text


_BRACED = re.compile(r"\$\{([\w/-]+(?:\.[\w/-]+)?\.[\w-]+)(?::[^}]*)?\}")


def _braced(text: str) -> str:
    if "${" not in text:
        return text
    return followed(_BRACED, text, {".".join(k.rsplit("/", 1)): v for k, v in read_ini(text).items()})


_DECLARED = re.compile(r"(?m)(?<![\w-])([\w-]+)\s*+:\s*+([^;{}]++);")
_AT = re.compile(r"(?<=[\s:])@([\w-]+)|var\(\s*([\w-]+)[^)]*\)")


def _at(text: str) -> str:
    if "@" not in text and "var(" not in text:
        return text
    shared = "".join(m.group(1) for m in re.finditer(r"(?:^|[}\s])\*\s*\{([^}]*)\}", text))
    return followed(_AT, text, {k: v.strip() for k, v in _DECLARED.findall(shared)})


_SET = re.compile(r"(?m)^[ \t]*+(?:set[ \t]++)?\$([\w-]++)[ \t]*+=?[ \t]*+([^\n]++)$")
_WORD = re.compile(r"\$([\w-]+)")


def _dollar(text: str) -> str:
    known = {name: value.strip() for name, value in _SET.findall(text)}
    if not known:
        return text
    rest = _SET.sub(lambda m: "#" + m.group()[1:], text)
    return followed(_WORD, rest, known)


def followed(pattern: re.Pattern[str], text: str, known: Mapping[str, str]) -> str:
    """Return a text with known values in the place of references, whose names a pattern's groups find.

    Values that are made of one another many times over are followed until the text has grown by a million letters.
    """
    room = _MOST_GROWN

    def value(found: re.Match[str]) -> str:
        nonlocal room
        fresh = known.get(next(g for g in found.groups() if g))
        if fresh is None or len(fresh) > room:
            return found.group()
        room -= len(fresh)
        return fresh

    for _ in range(_ROUNDS):
        fresh = pattern.sub(value, text)
        if fresh == text:
            break
        text = fresh
    return text


_MOST_GROWN = 1_000_000
_EXPAND: dict[str, Callable[[str], str]] = {"": _as_it_stands, "${}": _braced, "@": _at, "$": _dollar}
