"""Adobe swatch exchange (.ase): big-endian blocks, colours as floats in several models."""

from __future__ import annotations

import struct

from ...colour.rgb import Rgba
from ...errors import ParseError
from ...language import tr
from ...syntax.spans import Problem
from . import models
from .model import MOST_COLOURS, ColourList, Interchange, PaletteEntry, finished, role_named

_GROUP, _GROUP_END, _COLOUR = 0xC001, 0xC002, 0x0001
_PARTS = {b"RGB ": 3, b"CMYK": 4, b"LAB ": 3, b"Gray": 1}


def read_ase(data: bytes) -> ColourList:
    """Read every colour of every group; blocks that cannot be read are listed by their number.

    Raises ParseError when the head is another or no colour can be read.
    """
    if len(data) < 12 or data[:4] != b"ASEF":
        raise ParseError(tr("The file does not begin like a swatch exchange file."))
    count = struct.unpack_from(">I", data, 8)[0]
    at, name = 12, ""
    entries: list[PaletteEntry] = []
    problems: list[Problem] = []
    for number in range(1, min(count, MOST_COLOURS * 3) + 1):
        if at + 6 > len(data):
            problems.append(Problem(number, 1, tr("The file ends before its last block.")))
            break
        kind, size = struct.unpack_from(">HI", data, at)
        body = data[at + 6 : at + 6 + size]
        at += 6 + size
        if kind == _GROUP_END:
            continue
        try:
            title, rest = _name(body)
            if kind == _GROUP:
                name = name or title
            elif kind == _COLOUR:
                entries.append(PaletteEntry(_colour(rest), title, role_named(title)))
        except (ValueError, struct.error) as error:
            words = str(error) if isinstance(error, ValueError) else tr("the block is truncated")
            problems.append(Problem(number, 1, tr("Entry {number}: {words}.").format(number=number, words=words)))
    return finished(name, entries, problems, tr("swatch exchange file"))


def _name(body: bytes) -> tuple[str, bytes]:
    units = struct.unpack_from(">H", body)[0]
    end = 2 + 2 * units
    if end > len(body):
        raise ValueError(tr("its name is truncated"))
    return body[2:end].decode("utf-16-be", "replace").rstrip("\0"), body[end:]


def _colour(rest: bytes) -> Rgba:
    model = rest[:4]
    if model not in _PARTS:
        raise ValueError(tr("its colour model is unknown"))
    values = struct.unpack_from(f">{_PARTS[model]}f", rest, 4)
    colour = {
        b"RGB ": lambda: models.rgb(*values[:3]),
        b"CMYK": lambda: models.cmyk(*values[:4]),
        b"LAB ": lambda: models.lab(values[0] * 100, *values[1:3]),
        b"Gray": lambda: models.grey(values[0]),
    }[model]()
    if colour is None:
        raise ValueError(tr("its values are not numbers"))
    return colour


def write_ase(colours: ColourList) -> bytes:
    """Return the colours as one group of RGB swatches; translucency is left out."""
    blocks = [_block(_GROUP, _spelled(colours.name or "Palette"))]
    for entry in colours.entries:
        r, g, b = entry.colour.unit
        blocks.append(_block(_COLOUR, _spelled(entry.name) + struct.pack(">4s3fH", b"RGB ", r, g, b, 0)))
    blocks.append(_block(_GROUP_END, b""))
    return struct.pack(">4sHHI", b"ASEF", 1, 0, len(blocks)) + b"".join(blocks)


def _spelled(name: str) -> bytes:
    text = name.replace("\0", "")[:2000].encode("utf-16-be", "replace") + b"\0\0"
    return struct.pack(">H", len(text) // 2) + text


def _block(kind: int, body: bytes) -> bytes:
    return struct.pack(">HI", kind, len(body)) + body


ASE = Interchange(
    id="ase",
    title=tr("Adobe swatch exchange"),
    suffixes=(".ase",),
    sniff=lambda data: 100 if data.startswith(b"ASEF") else 0,
    read=read_ase,
    write=write_ase,
)
