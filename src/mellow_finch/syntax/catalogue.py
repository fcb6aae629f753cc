"""Every text format whose colours are found: one data file each in `formats`, read by the scanner of its syntax.

A new format of a syntax that is known needs one more data file and nothing else. Its fields: title, reader (who reads
such files), globs (names, with "/" seen from a folder above), tell (patterns of which the first 4096 characters must
match all), syntax ("css", "keyed", "xml", "lua", "xresources", "xpm"), what that syntax wants to know, and roles (pairs
of a pattern of "section/key" and the role that it has for certain).
"""

from __future__ import annotations

import re
from collections.abc import Callable, Iterable, Mapping
from dataclasses import dataclass, fields
from fnmatch import fnmatchcase
from functools import cache, partial
from importlib.resources import files
from pathlib import PurePosixPath
from typing import Any

from .css import Dialect, scan_css
from .keyed import KeyedRules, keyed_scanner
from .late import late
from .lua import scan_lua
from .parsed import toml_of
from .spans import ColourSpan
from .xml import XmlRules, xml_scanner
from .xpm import scan_xpm
from .xresources import scan_xresources

Scan = Callable[[str], list[ColourSpan]]
_HEAD = 4096


@dataclass(frozen=True, slots=True, kw_only=True)
class Format:
    """A text format.

    roles: patterns of "section/key" and the role that such a literal has for certain, the first match counting;
    order: formats with a smaller one are tried first; alpha: whether it can say translucency.
    """

    id: str
    title: str
    reader: str
    syntax: str
    globs: tuple[str, ...]
    tell: tuple[re.Pattern[str], ...]
    scan: Scan
    roles: tuple[tuple[re.Pattern[str], str], ...] = ()
    order: int = 5
    alpha: bool = False

    def role_of(self, span: ColourSpan) -> str:
        """Return the role that the format itself gives a literal by its section and key, empty where it gives none."""
        place = f"{span.where}/{span.key}"
        for pattern, role in self.roles:
            found = pattern.search(place)
            if found:
                return found.expand(role) if "\\" in role else role
        return ""

    def claims(self, path: str, head: str) -> bool:
        """Tell whether a file with this path and beginning is in the format."""
        name = path.rpartition("/")[2]
        named = any(fnmatchcase("/" + path if "/" in g else name, "*/" + g if "/" in g else g) for g in self.globs)
        return named and all(p.search(head) for p in self.tell)


def _rules(kind: Any, row: Mapping[str, Any]) -> Any:
    known = {f.name for f in fields(kind)}
    return kind(**{k: tuple(v) if isinstance(v, list) else v for k, v in row.items() if k in known})


_SCANNERS: dict[str, Callable[[Mapping[str, Any]], Scan]] = {
    "css": lambda row: partial(scan_css, dialect=_rules(Dialect, row)),
    "keyed": lambda row: keyed_scanner(_rules(KeyedRules, row)),
    "xml": lambda row: xml_scanner(_rules(XmlRules, row)),
    "lua": lambda _row: scan_lua,
    "xresources": lambda _row: scan_xresources,
    "xpm": lambda _row: scan_xpm,
}


def read_format(id_: str, text: str) -> Format:
    """Return the format that a data file describes; raises ValueError or KeyError when the file is wrong."""
    row = toml_of(text)
    return Format(
        id=id_,
        title=row["title"],
        reader=row["reader"],
        syntax=row["syntax"],
        globs=tuple(row["globs"]),
        tell=tuple(late(p, re.MULTILINE) for p in row.get("tell", ())),
        scan=_SCANNERS[row["syntax"]](row),
        roles=tuple((late(p), role) for p, role in row.get("roles", ())),
        order=row.get("order", 5),
        alpha=row.get("alpha", row["syntax"] == "css"),
    )


@cache
def formats() -> tuple[Format, ...]:
    """Return every format that ships, the ones that are surest of their files first."""
    folder = files("mellow_finch.syntax").joinpath("formats")
    rows = [
        read_format(entry.name.removesuffix(".toml"), entry.read_text(encoding="utf-8"))
        for entry in folder.iterdir()
        if entry.name.endswith(".toml")
    ]
    return tuple(sorted(rows, key=lambda f: (f.order, f.id)))


def format_by_id(id_: str) -> Format:
    """Return a format by its id; raises KeyError for one that is not known."""
    return {f.id: f for f in formats()}[id_]


def format_of(path: str | PurePosixPath, head: str = "", among: Iterable[Format] | None = None) -> Format | None:
    """Return the format of a file by its path and its first characters, None when none is known.

    Without a head, only the formats that a name alone tells are found.
    """
    text = str(path)
    return next((f for f in (among or formats()) if f.claims(text, head[:_HEAD])), None)
