"""Colour literals of Lua tables that configure desktop widgets, in the spellings such files use.

Strings with or without #, names, and 0xRRGGBB numbers count where their key speaks of colour; inside long strings,
which hold the widget's text, the arguments of ${color ...} and of graphs count. Nothing is executed.
"""

from __future__ import annotations

import re

from ..colour.rgb import Rgba, parse_hex
from .literals import NAMES
from .spans import ColourSpan

_TOKEN = re.compile(
    r"""(?P<comment>--\[(?P<ceq>=*)\[.*?(?:\](?P=ceq)\]|\Z)|--[^\n]*)"""
    r"""|\[(?P<eq>=*)\[(?P<long>.*?)(?:\](?P=eq)\]|\Z)"""
    r"""|"(?P<double>(?:[^"\\\n]|\\.)*+)(?:"|(?=\n)|\\?\Z)|'(?P<single>(?:[^'\\\n]|\\.)*+)(?:'|(?=\n)|\\?\Z)"""
    r"""|(?P<hex>0[xX][0-9a-fA-F]+)"""
    r"""|(?P<word>[A-Za-z_][\w.]*)"""
    r"""|(?P<mark>[={},;()\]\[])""",
    re.DOTALL,
)
_COLOUR_KEY = re.compile(r"colou?r|(?:^|_)(?:fg|bg)(?:_|$)", re.IGNORECASE)
_BARE_HEX = re.compile(r"#?[0-9a-fA-F]{6}\Z|#[0-9a-fA-F]{3}\Z")
_IN_TEXT = re.compile(
    r"\$\{\s*(color|shadecolor|outlinecolor)\s+([^}\s]+)\s*\}|\$\{\s*(\w*graph\w*|gradient\w*)\b([^}]*)\}"
)
_GRAPH_ARGUMENT = re.compile(r"(?<![\w#])#?[0-9a-fA-F]{6}(?![\w])")


_MOST_DEPTH = 64


def read_spelling(text: str) -> Rgba | None:
    """Return the colour of "rrggbb", "#rrggbb", "#rgb" or a name, else None."""
    if text.lower() in NAMES:
        return NAMES[text.lower()]
    return parse_hex(text) if _BARE_HEX.match(text) else None


def scan_lua(text: str) -> list[ColourSpan]:
    """Return every colour literal in order; never raises, whatever the text."""
    spans: list[ColourSpan] = []
    tables: list[tuple[str, str]] = []  # of each open table: the keys down to it, and the innermost of them
    key, word = "", ""

    def add(start: int, end: int, colour: Rgba | None, name: str) -> None:
        if colour is not None:
            spans.append(ColourSpan(start, end, colour, tables[-1][0] if tables else "", name))

    for token in _TOKEN.finditer(text):
        kind = token.lastgroup
        if kind in ("comment", "ceq"):
            continue
        owner = key or (tables[-1][1] if tables else "")
        if kind in ("double", "single"):
            if _COLOUR_KEY.search(owner):
                add(*token.span(kind), read_spelling(token.group(kind)), owner)
        elif kind == "hex":
            digits = token.group("hex")
            if len(digits) == 8 and _COLOUR_KEY.search(owner):
                add(*token.span(), parse_hex(digits[2:]), owner)
        elif kind in ("long", "eq"):
            _scan_text(token.group("long"), token.start("long"), key, spans)
        elif kind == "word":
            word = token.group()
        elif token.group() == "=":
            key, word = word, ""
        elif token.group() == "{":
            above = tables[-1][0] if tables else ""
            deep = len(tables) >= _MOST_DEPTH  # further in, the way is not told any more
            tables.append((above if deep or not key else f"{above}.{key}" if above else key, owner))
            key = ""
        elif token.group() == "}":
            if tables:
                tables.pop()
            key = ""
        elif token.group() in ",;":
            key, word = "", ""
    return spans


def _scan_text(text: str, offset: int, where: str, spans: list[ColourSpan]) -> None:
    for found in _IN_TEXT.finditer(text):
        if found.group(1):
            colour = read_spelling(found.group(2))
            if colour is not None:
                spans.append(ColourSpan(offset + found.start(2), offset + found.end(2), colour, where, found.group(1)))
            continue
        for argument in _GRAPH_ARGUMENT.finditer(text, found.start(4), found.end(4)):
            colour = read_spelling(argument.group())
            if colour is not None:
                place = (offset + argument.start(), offset + argument.end())
                spans.append(ColourSpan(*place, colour, where, found.group(3)))


_SETTING = re.compile(r"(?m)(?:^|(?<=[,{;]))[ \t]*(\w+)[ \t]*=[ \t]*(?:'([^'\n]*)'|\"([^\"\n]*)\"|([\w.]+))")
_REMARK = re.compile(r"(?m)(?:^|[ \t])--(?!\[)[^\n]*$")


def lua_settings(text: str) -> dict[str, str]:
    """Return {key: value} of simple assignments, one or several a line, quotes removed."""
    plain = _REMARK.sub("", text)
    return {m.group(1): next(g for g in m.groups()[1:] if g is not None) for m in _SETTING.finditer(plain)}
