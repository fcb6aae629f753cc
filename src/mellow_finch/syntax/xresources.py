"""X resource files: every colour literal, and the colours by resource."""

from __future__ import annotations

import re
from functools import lru_cache
from typing import NamedTuple

from ..colour.rgb import Rgba
from .literals import NAMES
from .notations import NOTATIONS, read_as
from .spans import ColourSpan

_LINE = re.compile(r"^[ \t]*([\w.*?-]+)[ \t]*:[ \t]*(.*?)[ \t]*$", re.MULTILINE)
_SPEC = re.compile(r"#[0-9a-fA-F]{6}\Z|#[0-9a-fA-F]{3}\Z")
_SEE_THROUGH = re.compile(r"\[(\d{1,3})\](#[0-9a-fA-F]{6})\Z")  # opacity in percent, then the colour


def scan_xresources(text: str) -> list[ColourSpan]:
    """Return every colour literal with the resource name it belongs to."""
    spans: list[ColourSpan] = []
    for found in _LINE.finditer(text):
        value, start = found.group(2), found.start(2)
        veiled = _SEE_THROUGH.match(value)
        if veiled:
            value, start = veiled.group(2), start + veiled.start(2)
        form = _form(value)
        if form or _SPEC.match(value) or (value.lower() in NAMES and value.lower() != "transparent"):
            colour = read_as(form, value)
            if colour is not None:
                spans.append(ColourSpan(start, start + len(value), colour, "", found.group(1), form))
    return spans


def _form(value: str) -> str:
    """Return the notation of X's own spellings, empty for the common ones."""
    return next((f for f in ("x11", "deep", "left") if re.fullmatch(NOTATIONS[f].pattern, value)), "")


def xresources_colours(text: str) -> dict[str, Rgba]:
    """Return {resource component after the last * or .: colour}; of equal names the last in the file wins.

    A colour with an opacity before it, as in "[85]#101418", comes back translucent.
    """
    rows = ((re.split(r"[.*]", r.spec)[-1], colour_of(r.value)) for r in resources(text))
    return {name: colour for name, colour in rows if colour is not None}


class Resource(NamedTuple):
    """One line: its specification and its value."""

    spec: str
    value: str


_PART = re.compile(r"(?<![.*])([.*]*+)([\w?-]++)")


@lru_cache(maxsize=2048)
def parts_of(spec: str) -> tuple[tuple[str, str], ...]:
    """Return the components of a specification, each with the binding before it, "." or "*"."""
    return tuple(("*" if "*" in binding else ".", word) for binding, word in _PART.findall(spec))


@lru_cache(maxsize=8)
def resources(text: str) -> tuple[Resource, ...]:
    """Return every resource that a text sets, in order."""
    return tuple(Resource(found.group(1), found.group(2)) for found in _LINE.finditer(text))


Score = tuple[tuple[int, int], ...]


@lru_cache(maxsize=8192)
def score(spec: str, names: tuple[str, ...], classes: tuple[str, ...]) -> Score | None:
    """Return how closely a specification matches a question, the closer the greater; None where it does not.

    names, classes: of the program, of each widget below it, and of the resource that is asked for, outermost first.
    Source: the matching rules of the X resource manager (Xlib, "Resource manager matching rules"): level by level, one
    that is there before one left out, a name before a class before "?", a tight binding before a loose one.
    """
    parts = parts_of(spec)
    if not parts or parts[-1][1] not in (names[-1], classes[-1], "?"):
        return None

    def best(part: int, level: int) -> Score | None:
        if level == len(names):
            return () if part == len(parts) else None
        found: list[Score] = []
        if part < len(parts):
            binding, word = parts[part]
            kind = 3 if word == names[level] else 2 if word == classes[level] else 1 if word == "?" else 0
            rest = best(part + 1, level + 1) if kind else None
            if rest is not None:
                found.append(((kind, binding == "."), *rest))
            rest = best(part, level + 1) if binding == "*" else None
            if rest is not None:
                found.append(((0, 0), *rest))
        return max(found, default=None)

    return best(0, 0)


def resource_value(text: str, names: tuple[str, ...], classes: tuple[str, ...]) -> str | None:
    """Return the value that a program gets for a question; of equally close lines with one spelling the last counts."""
    last = dict(resources(text))
    rows = [(found, value) for spec, value in last.items() if (found := score(spec, names, classes)) is not None]
    return max(rows, key=lambda row: row[0])[1] if rows else None


def colour_of(value: str) -> Rgba | None:
    """Return the colour of a resource's value, translucent with an opacity before it as in "[85]#101418"."""
    veiled = _SEE_THROUGH.match(value)
    spelling = veiled.group(2) if veiled else value
    form = _form(spelling)
    plain = form or _SPEC.match(spelling) or spelling.lower() in NAMES
    colour = read_as(form, spelling) if plain else None
    if colour is None:
        return None
    return colour._replace(a=min(100, int(veiled.group(1))) / 100) if veiled else colour
