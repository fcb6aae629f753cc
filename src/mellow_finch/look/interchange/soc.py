"""Colour tables of office programs (.soc): XML with a name and a hexadecimal colour an element."""

from __future__ import annotations

from typing import Any
from xml.etree.ElementTree import ParseError as XmlError
from xml.sax.saxutils import quoteattr

from ...colour.rgb import Rgba, parse_hex
from ...errors import ParseError
from ...language import tr
from ...syntax.spans import Problem
from .model import MOST_COLOURS, ColourList, Interchange, PaletteEntry, finished, role_named

_OFFICE = "http://openoffice.org/2000/office"
_DRAW = "http://openoffice.org/2000/drawing"


class _Collector:
    """Takes colours as the parser comes upon them, so that a torn file gives what stands before the tear."""

    def __init__(self) -> None:
        self.entries: list[PaletteEntry] = []
        self.problems: list[Problem] = []
        self.table = False
        self.count = 0

    def start(self, tag: str, attributes: dict[str, str]) -> None:
        """Take one element."""
        name = tag.rpartition("}")[2]
        self.table = self.table or name == "color-table"
        if name != "color":
            return
        self.count += 1
        local = {key.rpartition("}")[2]: value for key, value in attributes.items()}
        try:
            if len(self.entries) < MOST_COLOURS:
                colour = _strict(local.get("color", ""))
                self.entries.append(PaletteEntry(colour, local.get("name", ""), role_named(local.get("name", ""))))
        except ValueError as error:
            self.problems.append(
                Problem(self.count, 1, tr("Entry {count}: {error}.").format(count=self.count, error=error))
            )

    def end(self, tag: str) -> None:
        """Pass over the end of an element."""

    def data(self, text: str) -> None:
        """Pass over text."""

    def close(self) -> None:
        """Pass over the end of the file."""


def _strict(text: str) -> Rgba:
    if len(text) != 7 or text[0] != "#":
        raise ValueError(tr("“{text}” is not a colour such as #4f8a8b").format(text=text[:40]))
    return parse_hex(text)


def read_soc(data: bytes) -> ColourList:
    """Read the table; elements that cannot be read are listed, and so is the line where the file is torn.

    Raises ParseError when it is no colour table or holds no colour. Entities are not expanded.
    """
    from defusedxml.common import DefusedXmlException
    from defusedxml.ElementTree import DefusedXMLParser

    taken = _Collector()
    parser: Any = DefusedXMLParser(target=taken, forbid_dtd=True)
    try:
        parser.feed(data)
        parser.close()
    except XmlError as error:
        line, column = error.position
        taken.problems.append(Problem(line, column + 1, tr("The file is damaged or is not XML from here on.")))
    except (DefusedXmlException, ValueError, LookupError) as error:
        raise ParseError(tr("The file declares entities or an encoding that a colour table does not use.")) from error
    if not taken.table:
        raise ParseError(tr("The file is not a colour table."), taken.problems[0].line if taken.problems else 0)
    return finished("", taken.entries, taken.problems, tr("colour table"))


def write_soc(colours: ColourList) -> bytes:
    """Return the table as XML; translucency is left out."""
    rows = [
        f" <draw:color draw:name={quoteattr(_sound(e.name))} draw:color={quoteattr(e.colour.opaque.hex)}/>"
        for e in colours.entries
    ]
    head = f'<office:color-table xmlns:office="{_OFFICE}" xmlns:draw="{_DRAW}">'
    return "\n".join(['<?xml version="1.0" encoding="UTF-8"?>', head, *rows, "</office:color-table>", ""]).encode()


def _sound(name: str) -> str:
    """Return a name without what XML cannot hold."""
    return "".join(c for c in name if c >= " " and not 0xD800 <= ord(c) <= 0xDFFF and ord(c) not in (0xFFFE, 0xFFFF))


SOC = Interchange(
    id="soc",
    title=tr("Office colour table"),
    suffixes=(".soc",),
    sniff=lambda data: 90 if b"color-table" in data[:4000] else 0,
    read=read_soc,
    write=write_soc,
)
