"""Adobe colour files (.aco): big-endian rows of five words, a second time with names."""

from __future__ import annotations

import struct

from ...colour.rgb import Rgba
from ...errors import ParseError
from ...language import tr
from ...syntax.spans import Problem
from . import models
from .model import MOST_COLOURS, ColourList, Interchange, PaletteEntry, finished, role_named

_FULL = 65535


def read_aco(data: bytes) -> ColourList:
    """Read the rows with names where there are any, else those without; rows that cannot be read are listed.

    Raises ParseError when the head is another or no colour can be read.
    """
    if len(data) < 4 or struct.unpack_from(">H", data)[0] not in (1, 2):
        raise ParseError(tr("The file does not begin like a colour file of version 1 or 2."))
    version, count = struct.unpack_from(">HH", data)
    entries, problems, end = _section(data, 4, count, version == 2)
    if version == 1 and len(data) >= end + 4 and struct.unpack_from(">H", data, end)[0] == 2:
        named, faults, _ = _section(data, end + 4, struct.unpack_from(">H", data, end + 2)[0], True)
        if len(named) >= len(entries):
            entries, problems = named, faults
    return finished("", entries, problems, tr("colour file"))


def _section(data: bytes, at: int, count: int, names: bool) -> tuple[list[PaletteEntry], list[Problem], int]:
    entries: list[PaletteEntry] = []
    problems: list[Problem] = []
    for number in range(1, min(count, MOST_COLOURS) + 1):
        try:
            space, *values = struct.unpack_from(">5H", data, at)
            at += 10
            title = ""
            if names:
                units = struct.unpack_from(">I", data, at)[0]
                at += 4
                if at + 2 * units > len(data):
                    raise struct.error
                title = data[at : at + 2 * units].decode("utf-16-be", "replace").rstrip("\0")
                at += 2 * units
        except struct.error:
            problems.append(
                Problem(number, 1, tr("Entry {number}: the file ends before its last colour.").format(number=number))
            )
            break
        colour = _colour(space, values)
        if colour is None:
            problems.append(
                Problem(
                    number,
                    1,
                    tr("Entry {number}: its colour model ({space}) is unknown.").format(number=number, space=space),
                )
            )
        else:
            entries.append(PaletteEntry(colour, title, role_named(title)))
    return entries, problems, at


def _signed(value: int) -> int:
    return value - 65536 if value > 32767 else value


def _colour(space: int, v: list[int]) -> Rgba | None:
    if space == 0:
        # Eight-bit values are written as v times 257; others are rounded.
        return models.rgb(v[0] / _FULL, v[1] / _FULL, v[2] / _FULL)
    if space == 1:
        return models.hsb(v[0] / _FULL, v[1] / _FULL, v[2] / _FULL)
    if space == 2:
        return models.cmyk(*(1 - value / _FULL for value in v[:4]))
    if space == 7:
        return models.lab(v[0] / 100, _signed(v[1]) / 100, _signed(v[2]) / 100)
    if space == 8:
        return models.grey(v[0] / 10000)
    return None


def write_aco(colours: ColourList) -> bytes:
    """Return the colours in both sections, as its readers expect; translucency is left out."""
    entries = colours.entries[:MOST_COLOURS]
    rows = [struct.pack(">5H", 0, c.r * 257, c.g * 257, c.b * 257, 0) for c in (e.colour for e in entries)]
    names = [_spelled(e.name) for e in entries]
    head = [struct.pack(">HH", version, len(rows)) for version in (1, 2)]
    return head[0] + b"".join(rows) + head[1] + b"".join(r + n for r, n in zip(rows, names, strict=True))


def _spelled(name: str) -> bytes:
    text = name.replace("\0", "")[:2000].encode("utf-16-be", "replace") + b"\0\0"
    return struct.pack(">I", len(text) // 2) + text


def _sniff(data: bytes) -> int:
    if len(data) < 14:
        return 0
    version, count, space = struct.unpack_from(">HHH", data)
    return 60 if version in (1, 2) and count and space in (0, 1, 2, 7, 8) and len(data) >= 4 + 10 * count else 0


ACO = Interchange(
    id="aco",
    title=tr("Adobe colour file"),
    suffixes=(".aco",),
    sniff=_sniff,
    read=read_aco,
    write=write_aco,
)
