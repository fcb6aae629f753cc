"""Colour literals of XML texts: attributes, style attributes, stylesheets inside, and entities. Nothing is resolved.

The text is read token by token, never as a tree, so that every other byte stays and nothing outside is fetched.
"""

from __future__ import annotations

import re
from collections.abc import Callable
from dataclasses import dataclass

from .css import scan_css, scan_declarations
from .notations import finder, notation_of, read_as
from .spans import ColourSpan

_TOKEN = re.compile(
    r"""(?P<skip><!--.*?(?:-->|\Z)|<\?.*?(?:\?>|\Z))"""
    r"""|<!ENTITY\s+(?P<entity>[\w.-]+)\s+["'](?P<value>[^"']*)["']\s*>"""
    r"""|(?P<close></\s*(?P<closed>[\w:.-]+)[^>]*>)"""
    r"""|<(?P<name>[\w:.-]+)(?P<inside>(?:[^<>"']|"[^"<]*+"|'[^'<]*+')*+)>""",
    re.DOTALL,
)
_ATTRIBUTE = re.compile(r"""(?<![\w:.-])([\w:.-]++)\s*+=\s*+(?:"([^"]*+)(?:"|\Z)|'([^']*+)(?:'|\Z))""")


@dataclass(frozen=True, slots=True, kw_only=True)
class XmlRules:
    """What an XML file is like.

    notations: ids; attributes: a pattern that the name of an attribute must match to hold colours; leave: elements
    whose colours are no colours, such as masks; styles: whether style attributes and style elements hold sheets.
    """

    notations: tuple[str, ...] = ("hexa", "function", "name")
    attributes: str = ""
    leave: tuple[str, ...] = ()
    styles: bool = True


def extents(text: str) -> dict[str, tuple[int, int]]:
    """Return by the id of each element where it begins and ends in a text; what is never closed has none."""
    out: dict[str, tuple[int, int]] = {}
    left: list[tuple[str, str, int]] = []  # elements that are open: name, id, where they begin
    for token in _TOKEN.finditer(text):
        name, closed = token.group("name"), token.group("closed")
        if name is not None:
            inside = token.group("inside")
            own = next((a.group(2) or a.group(3) or "" for a in _ATTRIBUTE.finditer(inside) if a.group(1) == "id"), "")
            if not inside.rstrip().endswith("/"):
                left.append((name, own, token.start()))
            elif own:
                out.setdefault(own, token.span())
        elif closed is not None and left and left[-1][0] == closed:
            _, own, start = left.pop()
            if own:
                out.setdefault(own, (start, token.end()))
    return out


def xml_scanner(rules: XmlRules) -> Callable[[str], list[ColourSpan]]:
    """Return the scanner of a kind of XML file."""
    attributes = re.compile(rules.attributes or ".", re.IGNORECASE)

    def values(text: str, start: int, where: str, key: str) -> list[ColourSpan]:
        found: list[ColourSpan] = []
        for literal in finder(rules.notations).finditer(text):
            name = notation_of(rules.notations, literal)
            if name in ("name", "bare") and text[: literal.start()].strip():
                continue
            colour = read_as(name, literal.group())
            if colour is not None:
                found.append(ColourSpan(start + literal.start(), start + literal.end(), colour, where, key, name))
        return found

    def scan(text: str) -> list[ColourSpan]:
        spans: list[ColourSpan] = []
        left: list[str] = []  # elements that are open and to be left alone
        for token in _TOKEN.finditer(text):
            if token.group("skip") is not None:
                continue
            if token.group("entity") is not None:
                spans += values(token.group("value"), token.start("value"), "ENTITY", token.group("entity"))
                continue
            if token.group("close") is not None:
                if left and left[-1] == token.group("closed"):
                    left.pop()
                continue
            name = token.group("name")
            plain = name.rpartition(":")[2]
            inside, at = token.group("inside"), token.start("inside")
            closed = inside.rstrip().endswith("/")
            if left or plain in rules.leave:
                if not closed and (plain in rules.leave or left[-1] == name):
                    left.append(name)
                continue
            rows = [(a.group(1), a.group(2) or a.group(3) or "", a) for a in _ATTRIBUTE.finditer(inside)]
            named = {key: value for key, value, _ in rows}
            where = plain
            for mark, key in (("#", "id"), (".", "class"), ("@", "name")):
                if named.get(key):
                    where += mark + named[key].replace(" ", mark)
            for key, value, found in rows:
                start = at + (found.start(2) if found.group(2) is not None else found.start(3))
                if key == "style" and rules.styles:
                    spans += [
                        s._replace(start=s.start + start, end=s.end + start, where=where)
                        for s in scan_declarations(value)
                    ]
                elif attributes.search(key):
                    spans += values(value, start, where, key)
            if plain == "style" and rules.styles and not closed:
                end = text.find("</", token.end())
                end = len(text) if end < 0 else end
                spans += [
                    s._replace(start=s.start + token.end(), end=s.end + token.end())
                    for s in scan_css(text[token.end() : end].replace("<![CDATA[", " " * 9).replace("]]>", "   "))
                ]
        return sorted(spans)

    return scan
