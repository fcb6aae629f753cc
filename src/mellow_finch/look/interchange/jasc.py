"""JASC palettes (.pal), and reading of the RIFF palettes that share their ending."""

from __future__ import annotations

import struct

from ...colour.rgb import Rgba
from ...errors import ParseError
from ...language import tr
from ...syntax.spans import Problem
from .model import MOST_COLOURS, ColourList, Interchange, PaletteEntry, decoded, finished

_HEAD = "JASC-PAL"


def read_jasc(data: bytes) -> ColourList:
    """Read a palette of either kind; rows that are none are listed. Raises ParseError when it has no colour."""
    if data.startswith(b"RIFF"):
        return _read_riff(data)
    lines = decoded(data[:4_000_000]).splitlines()
    if not lines or lines[0].strip() != _HEAD:
        raise ParseError(tr("The file does not begin with “{head}”.").format(head=_HEAD), 1)
    entries: list[PaletteEntry] = []
    problems: list[Problem] = []
    for number, line in enumerate(lines[3:], 4):
        words = line.split()
        if not words:
            continue
        values = [int(w) for w in words[:3] if w.isascii() and w.isdigit() and len(w) < 4]
        if len(values) < 3 or max(values) > 255:
            problems.append(
                Problem(number, 1, tr("“{row}” is not three numbers from 0 to 255.").format(row=line.strip()[:40]))
            )
        elif len(entries) < MOST_COLOURS:
            entries.append(PaletteEntry(Rgba(*values)))
    said = lines[2].strip() if len(lines) > 2 else ""
    if said.isascii() and said.isdigit() and len(said) < 9 and int(said) != len(entries) + len(problems):
        problems.append(
            Problem(
                3,
                1,
                tr("The file declares {said} colours but contains {count}.").format(said=said, count=len(entries)),
            )
        )
    return finished("", entries, problems, "palette")


def _read_riff(data: bytes) -> ColourList:
    at = data.find(b"data")
    if data[8:12] != b"PAL " or at < 0 or len(data) < at + 12:
        raise ParseError(tr("The RIFF file contains no palette."))
    count = struct.unpack_from("<H", data, at + 10)[0]
    rows = data[at + 12 : at + 12 + 4 * count]
    entries = [PaletteEntry(Rgba(*rows[i : i + 3])) for i in range(0, len(rows) - 3, 4)]
    short = [Problem(len(entries) + 1, 1, tr("The file ends before its last colour."))] if len(entries) < count else []
    return finished("", entries, short, "palette")


def write_jasc(colours: ColourList) -> bytes:
    """Return the palette as text with CRLF line ends; it holds neither names nor translucency."""
    rows = [_HEAD, "0100", str(len(colours.entries)), *(f"{c.r} {c.g} {c.b}" for c in colours.colours)]
    return ("\r\n".join(rows) + "\r\n").encode("ascii")


JASC = Interchange(
    id="pal",
    title=tr("JASC palette"),
    suffixes=(".pal",),
    sniff=lambda data: 100 if data.startswith(_HEAD.encode()) else 95 if data[:4] + data[8:12] == b"RIFFPAL " else 0,
    read=read_jasc,
    write=write_jasc,
)
