"""Pictures that a configuration starts a program with, such as `swaybg -i ~/Pictures/dawn.jpg -m fill`.

Compositors without a setting for their picture start a small program with it. Everything else in the text stays.
"""

from __future__ import annotations

import re
import shlex
from collections.abc import Mapping
from dataclasses import dataclass, field
from functools import cache
from importlib.resources import files

from .parsed import toml_of

_SAFE = re.compile(r"[\w@%+=:,./-]+", re.ASCII)


@dataclass(frozen=True, slots=True)
class PictureLine:
    """How configurations name the picture of one program.

    pattern: finds each place, with the groups value (quotes included) and perhaps kind; also: further places that
    repeat a value; modes: the program's words for how a picture lies, by those of `swaybg`; start: finds the words that
    start it, with the group words; raw: whether a value goes to the end of its line, without quotes.
    """

    id: str
    pattern: str
    also: str = ""
    modes: Mapping[str, str] = field(default_factory=dict)
    start: str = ""
    raw: bool = False


@cache
def picture_lines() -> Mapping[str, PictureLine]:
    """Return the programs that are known, by their executables."""
    text = files("mellow_finch.syntax").joinpath("launched.toml").read_text(encoding="utf-8")
    return {row["id"]: PictureLine(**row) for row in toml_of(text)["program"]}


def _plain(value: str, home: str) -> str:
    value = value[1:-1] if value[:1] in ("'", '"') else value
    return re.sub(r"^(~|\$HOME|\$\{HOME\})(?=/)", home, value)


def pictures_in(text: str, row: PictureLine, home: str) -> list[tuple[str, str]]:
    """Return the path of each picture and how it lies, in `swaybg`'s words; empty where that is not said."""
    words = {own: word for word, own in row.modes.items()}
    found = re.finditer(row.pattern, text)
    return [(_plain(m["value"], home), words.get(m.groupdict().get("kind") or "", "")) for m in found]


def with_picture(text: str, row: PictureLine, number: int, path: str, mode: str) -> str:
    """Return a text with the picture at one place replaced, number counted from 0, and how it lies where that is said.

    A path that the line cannot hold leaves the text as it is.
    """
    places = list(re.finditer(row.pattern, text))
    if number >= len(places):
        return text
    place = places[number]
    spelled = _spelled(path, place["value"], row.raw)
    if spelled is None:
        return text
    changes = {place.span("value"): spelled}
    if place.groupdict().get("kind") and mode in row.modes:
        changes[place.span("kind")] = row.modes[mode]
    old = _plain(place["value"], "")
    for other in re.finditer(row.also, text) if row.also else ():
        if _plain(other["value"], "") == old:
            changes[other.span("value")] = spelled
    for (start, end), words in sorted(changes.items(), reverse=True):
        text = text[:start] + words + text[end:]
    return text


def _spelled(path: str, old: str, raw: bool) -> str | None:
    """Return a path as it stands in the place of another, None where it cannot."""
    if not path.isprintable():
        return None
    if raw:
        return None if "#" in path or path != path.strip() else path
    if _SAFE.fullmatch(path):
        return old[0] + path + old[0] if old[:1] in ("'", '"') else path
    if set(path) & set("'\"$\\`"):
        return None
    return f"{old[0]}{path}{old[0]}" if old[:1] in ("'", '"') else f"'{path}'"


def words_in(text: str, row: PictureLine, home: str) -> list[list[str]]:
    """Return the words of each command that starts the program."""
    out = []
    for found in re.finditer(row.start, text) if row.start else ():
        try:
            words = shlex.split(found["words"])
        except ValueError:  # a quote that does not end
            continue
        out.append([_plain(word, home) for word in words])
    return out
