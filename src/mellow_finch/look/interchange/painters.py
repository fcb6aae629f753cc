"""Palettes of painting and layout programs: Krita's, Scribus's, drawings in SVG, and Aseprite's."""

from __future__ import annotations

import re
import struct
import zipfile
from io import BytesIO
from typing import Any
from xml.etree.ElementTree import Element
from xml.etree.ElementTree import ParseError as XmlError
from xml.sax.saxutils import quoteattr, unescape

from ...colour.rgb import Rgba
from ...errors import ParseError, UnsafeArchiveError
from ...intake.archives import zip_member
from ...intake.budget import Budget
from ...language import tr
from ...syntax.css import scan_css
from ...syntax.spans import Problem
from .model import MOST_COLOURS, ColourList, Interchange, PaletteEntry, decoded, finished, role_named
from .tables import colour_of

_MOST_XML = 8_000_000


def _root(data: bytes) -> Element:
    """Return the root of XML from outside. Raises ParseError; entities are refused."""
    from defusedxml.common import DefusedXmlException
    from defusedxml.ElementTree import fromstring

    try:
        root: Element = fromstring(data, forbid_dtd=True)
    except XmlError as error:
        line, column = error.position
        raise ParseError(tr("The file is damaged or is not XML from here on."), line, column + 1) from error
    except (DefusedXmlException, ValueError, LookupError) as error:
        raise ParseError(tr("The file declares entities or an encoding that a colour table does not use.")) from error
    return root


def _local(element: Any) -> str:
    return str(element.tag).rpartition("}")[2]


def _plain(name: str) -> str:
    """Return a name that XML can hold."""
    return "".join(c for c in name if c >= " " and c not in "\ufffe\uffff" and not "\ud800" <= c <= "\udfff")


def _told(words: str) -> str:
    return quoteattr(_plain(words))


# Krita: a ZIP with an XML of entries, each with channels from 0 to 1


def read_kpl(data: bytes) -> ColourList:
    """Read the entries in sRGB; others are listed. Raises ParseError when there is none, or it is no such archive."""
    try:
        text = zip_member(data, "colorset.xml", Budget(tr("palette"), len(data)))
    except UnsafeArchiveError as error:
        raise ParseError(str(error)) from error
    root = _root(text)
    entries: list[PaletteEntry] = []
    problems: list[Problem] = []
    for number, element in enumerate((e for e in root.iter() if _local(e) == "ColorSetEntry"), 1):
        name = element.get("name", "")
        colour = next((_channels(inner) for inner in element if _local(inner) in ("sRGB", "RGB")), None)
        if colour is not None and len(entries) < MOST_COLOURS:
            entries.append(PaletteEntry(colour, name, role_named(name)))
        elif colour is None:
            words = tr("Entry {count}: “{name}” is not a colour.").format(count=number, name=name[:40])
            problems.append(Problem(number, 1, words))
    return finished(root.get("name", ""), entries, problems, tr("palette"))


def _channels(element: Any) -> Rgba | None:
    try:
        values = [float(element.get(letter, "")) for letter in "rgb"]
    except ValueError:
        return None
    return Rgba(*(round(v * 255) for v in values)) if all(0 <= v <= 1 for v in values) else None


def write_kpl(colours: ColourList) -> bytes:
    """Return the archive; translucency has no place in it and is left out."""
    rows = "".join(
        f'<ColorSetEntry name={_told(e.name)} id="{i}" spot="false" bitdepth="U8">'
        f'<sRGB r="{e.colour.r / 255:.6f}" g="{e.colour.g / 255:.6f}" b="{e.colour.b / 255:.6f}"/>'
        f'<Position row="{i // 8}" column="{i % 8}"/></ColorSetEntry>\n'
        for i, e in enumerate(colours.entries)
    )
    high = -(-len(colours.entries) // 8)
    body = (
        f'<ColorSet version="1.0" columns="8" rows="{high}" name={_told(colours.name)} comment="">\n{rows}</ColorSet>\n'
    )
    out = BytesIO()
    with zipfile.ZipFile(out, "w") as archive:
        for name, text in (("mimetype", "krita/x-colorset"), ("colorset.xml", body), ("profiles.xml", "<Profiles/>\n")):
            archive.writestr(zipfile.ZipInfo(name), text.encode("utf-8"))
    return out.getvalue()


KPL = Interchange(
    id="kpl",
    title="Krita",
    suffixes=(".kpl",),
    sniff=lambda data: 95 if data[:2] == b"PK" and b"krita/x-colorset" in data[:200] else 0,
    read=read_kpl,
    write=write_kpl,
)


# Scribus: XML with an element a colour


def read_scribus(data: bytes) -> ColourList:
    """Read the colours in RGB; others are listed. Raises ParseError when there is none, or it is no such file."""
    root = _root(data)
    entries: list[PaletteEntry] = []
    problems: list[Problem] = []
    for number, element in enumerate((e for e in root.iter() if _local(e).upper() == "COLOR"), 1):
        name, told = element.get("NAME", ""), element.get("RGB", "")
        colour = colour_of(told, bare=False) if told else _eight_bit(element)
        if colour is not None and len(entries) < MOST_COLOURS:
            entries.append(PaletteEntry(colour.opaque, name, role_named(name)))
        elif colour is None:
            words = tr("Entry {count}: “{name}” is not a colour.").format(count=number, name=name[:40])
            problems.append(Problem(number, 1, words))
    return finished(root.get("Name", ""), entries, problems, tr("palette"))


def _eight_bit(element: Any) -> Rgba | None:
    if element.get("SPACE") != "RGB":
        return None
    try:
        values = [float(element.get(letter, "")) for letter in "RGB"]
    except ValueError:
        return None
    return Rgba(*(round(v) for v in values)) if all(0 <= v <= 255 for v in values) else None


def write_scribus(colours: ColourList) -> bytes:
    """Return the file; translucency has no place in it and is left out."""
    rows = "".join(
        f'  <COLOR NAME={_told(e.name)} SPACE="RGB" R="{e.colour.r}" G="{e.colour.g}" B="{e.colour.b}"/>\n'
        for e in colours.entries
    )
    head = f'<?xml version="1.0" encoding="UTF-8"?>\n<SCRIBUSCOLORS Name={_told(colours.name)}>\n'
    return f"{head}{rows}</SCRIBUSCOLORS>\n".encode()


SCRIBUS = Interchange(
    id="scribus",
    title="Scribus",
    suffixes=(".scribus.xml", ".xml"),
    sniff=lambda data: 90 if b"<SCRIBUSCOLORS" in data[:1000] else 0,
    read=read_scribus,
    write=write_scribus,
)


# Drawings in SVG: their colours in the order in which they are first used


_SQUARE = re.compile(r"<rect[^>]{0,400}?fill=\"(#[0-9a-fA-F]{6})\"[^>]{0,200}><title>([^<]{0,400})")
_PAINTED = re.compile(
    r"(?:fill|stroke|stop-color|flood-color)\s*[:=]\s*[\"']?\s*(#[0-9a-fA-F]{3,8}|rgba?\([^)]{3,60}\)|[a-zA-Z]{3,30})"
)


def read_svg(data: bytes) -> ColourList:
    """Read every colour of a drawing once, or every titled square of one that is a palette.

    Raises ParseError when it has none.
    """
    text = decoded(data[:_MOST_XML])
    if b"<!ENTITY" in data[:1_000_000]:
        raise ParseError(tr("The file declares entities or an encoding that a colour table does not use."))
    if "<svg" not in text:
        raise ParseError(tr("The file is not a drawing."))
    squares = [(colour_of(value), title.strip()) for value, title in _SQUARE.findall(text)]
    rows = [_named(c, unescape(title)) for c, title in squares if c is not None]
    if not rows:
        seen: dict[Rgba, None] = {}
        for value in _PAINTED.findall(text):
            for span in scan_css(f"a {{ color: {value}; }}"):
                seen.setdefault(span.colour.opaque)
        rows = [PaletteEntry(colour) for colour in seen]
    rows = rows[:MOST_COLOURS]
    return finished("", rows, (), tr("drawing"))


def _named(colour: Rgba, name: str) -> PaletteEntry:
    return PaletteEntry(colour.opaque, name, role_named(name))


def write_svg(colours: ColourList) -> bytes:
    """Return a drawing with a square a colour, eight in a row."""
    rows = "".join(
        f'  <rect x="{i % 8 * 40}" y="{i // 8 * 40}" width="40" height="40" fill="{e.colour.opaque.hex}">'
        f"<title>{_told(e.name)[1:-1]}</title></rect>\n"
        for i, e in enumerate(colours.entries)
    )
    high = -(-len(colours.entries) // 8) * 40
    return (
        f'<svg xmlns="http://www.w3.org/2000/svg" width="320" height="{high}" viewBox="0 0 320 {high}">\n{rows}</svg>\n'
    ).encode()


SVG = Interchange(
    id="svg",
    title=tr("Drawing (SVG)"),
    suffixes=(".svg",),
    sniff=lambda data: 60 if b"<svg" in data[:2000] else 0,
    read=read_svg,
    write=write_svg,
)


# Aseprite: a head of 128 bytes, then frames of chunks; one kind of chunk is the palette

_MAGIC, _FRAME, _PALETTE = 0xA5E0, 0xF1FA, 0x2019


def read_aseprite(data: bytes) -> ColourList:
    """Read the palette of a sprite. Raises ParseError when it is no sprite, or torn before its palette."""
    try:
        if struct.unpack_from("<H", data, 4)[0] != _MAGIC:
            raise ParseError(tr("The file is damaged or is not a palette of this kind."))
        few, many = struct.unpack_from("<H4xI", data, 128 + 6)  # chunks as older files count, and newer
        at, entries = 128 + 16, []
        for _ in range(min(many or few, 10_000)):
            size, kind = struct.unpack_from("<IH", data, at)
            if kind == _PALETTE:
                entries = _palette(data, at + 6)
                break
            at += max(6, size)
    except struct.error as error:
        raise ParseError(tr("The file is damaged or is not a palette of this kind.")) from error
    return finished("", entries, (), tr("palette"))


def _palette(data: bytes, at: int) -> list[PaletteEntry]:
    first, last = struct.unpack_from("<4xII", data, at)
    at, out = at + 20, []
    for _ in range(min(max(0, last - first + 1), MOST_COLOURS)):
        flags, r, g, b, a = struct.unpack_from("<HBBBB", data, at)
        at, name = at + 6, ""
        if flags & 1:
            (length,) = struct.unpack_from("<H", data, at)
            name = data[at + 2 : at + 2 + length].decode("utf-8", "replace")
            at += 2 + length
        out.append(PaletteEntry(Rgba(r, g, b, a / 255), name, role_named(name)))
    return out


def write_aseprite(colours: ColourList) -> bytes:
    """Return a sprite of one transparent pixel with the palette."""
    body = b""
    for e in colours.entries:
        name = _plain(e.name).encode("utf-8")[:60_000]
        flags = struct.pack("<HBBBB", 1 if name else 0, e.colour.r, e.colour.g, e.colour.b, round(e.colour.a * 255))
        body += flags + (struct.pack("<H", len(name)) + name if name else b"")
    count = len(colours.entries)
    chunk = struct.pack("<III8x", count, 0, count - 1) + body
    chunks = struct.pack("<IH", len(chunk) + 6, _PALETTE) + chunk
    frame = struct.pack("<IHHH2xI", len(chunks) + 16, _FRAME, 1, 100, 1) + chunks
    head = struct.pack("<HHHHHIH8xB3xH", _MAGIC, 1, 1, 1, 32, 1, 100, 0, min(count, 0xFFFF))
    return struct.pack("<I", 128 + len(frame)) + head.ljust(124, b"\0") + frame


ASEPRITE = Interchange(
    id="aseprite",
    title="Aseprite",
    suffixes=(".aseprite",),
    sniff=lambda data: 92 if data[4:6] == b"\xe0\xa5" else 0,
    read=read_aseprite,
    write=write_aseprite,
    alpha=True,
)
