"""GIMP palettes (.gpl): one colour a line in decimals, with a name."""

from __future__ import annotations

import re

from ...colour.rgb import Rgba
from ...errors import ParseError
from ...language import tr
from ...syntax.spans import Problem
from .model import MOST_COLOURS, ColourList, Interchange, PaletteEntry, decoded, finished, role_named

_HEAD = "GIMP Palette"
_ROW = re.compile(r"\s*+(\d{1,9})\s++(\d{1,9})\s++(\d{1,9})(?:\s++(.*))?\Z")
_UNNAMED = "Untitled"


def read_gpl(data: bytes) -> ColourList:
    """Read a palette; rows that are none are listed. Raises ParseError when it has no colour, or another head."""
    lines = decoded(data[:4_000_000]).splitlines()
    if not lines or lines[0].strip() != _HEAD:
        raise ParseError(tr("The file does not begin with “{head}”.").format(head=_HEAD), 1)
    name = ""
    entries: list[PaletteEntry] = []
    problems: list[Problem] = []
    for number, line in enumerate(lines[1:], 2):
        bare = line.strip()
        if not bare or bare.startswith("#"):
            continue
        key, colon, value = bare.partition(":")
        if colon and key in ("Name", "Columns", "Channels"):
            name = value.strip() if key == "Name" else name
            continue
        found = _ROW.match(line)
        values = [int(v) for v in found.groups()[:3]] if found else []
        if not found or max(values) > 255:
            problems.append(Problem(number, 1, tr("“{row}” is not three numbers from 0 to 255.").format(row=bare[:40])))
        elif len(entries) < MOST_COLOURS:
            title = (found.group(4) or "").rstrip()
            title = "" if title == _UNNAMED else title
            entries.append(PaletteEntry(Rgba(*values), title, role_named(title)))
    return finished(name, entries, problems, "palette")


def write_gpl(colours: ColourList) -> bytes:
    """Return the palette as text; translucency has no place in it and is left out."""
    name = " ".join(colours.name.split())
    rows = [_HEAD, f"Name: {name}", "Columns: 8", "#"]
    rows += [f"{e.colour.r:3} {e.colour.g:3} {e.colour.b:3}\t{_title(e.name)}" for e in colours.entries]
    return ("\n".join(rows) + "\n").encode("utf-8")


def _title(name: str) -> str:
    return " ".join(name.split()) or _UNNAMED


GPL = Interchange(
    id="gpl",
    title=tr("GIMP palette"),
    suffixes=(".gpl",),
    sniff=lambda data: 100 if data.lstrip(b"\xef\xbb\xbf").startswith(_HEAD.encode()) else 0,
    read=read_gpl,
    write=write_gpl,
)
