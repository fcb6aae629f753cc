"""Colour literals of style sheets, in every dialect: toolkits', shells' and browsers'."""

from __future__ import annotations

import re

from .literals import NAMES, read_literal
from .spans import ColourSpan

_TOKEN = re.compile(
    r"""(?P<skip>/\*.*?(?:\*/|\Z)|"(?:[^"\\\n]|\\.)*"?|'(?:[^'\\\n]|\\.)*'?|url\(\s*[^"'\s)][^)]*\))"""
    r"""|(?P<colour>\#[0-9a-fA-F]{3,8}(?![\w-])|(?:rgb|hsl)a?\([^()@;{}]*\))"""
    r"""|(?P<define>@define-color\s+[\w-]+)"""
    r"""|(?P<word>[@$.#]?-{0,2}[a-zA-Z_][\w-]*\(?)"""
    r"""|(?P<mark>[{};:])""",
    re.DOTALL | re.IGNORECASE,
)
_SPACE = re.compile(r"\s+")
_COMMENT = re.compile(r"/\*.*?\*/", re.DOTALL)


def scan_css(text: str) -> list[ColourSpan]:
    """Return every colour literal in value position, in order; never raises, whatever the text."""
    spans: list[ColourSpan] = []
    pending: list[ColourSpan] = []  # what may still turn out to be part of a selector
    selectors: list[str] = []
    key, word, boundary = "", "", 0
    for token in _TOKEN.finditer(text):
        kind = token.lastgroup
        if kind == "skip":
            continue
        if kind == "mark":
            mark = token.group()
            if mark == ":":
                if not key and word and selectors:
                    key = word
                continue
            if mark == "{":
                selectors.append(_tidy(text[boundary : token.start()]))
            else:
                spans += pending
                if mark == "}" and selectors:
                    selectors.pop()
            pending.clear()
            key, word, boundary = "", "", token.end()
        elif kind == "define":
            key = token.group().split()[-1]
            key = f"@define-color {key}"
        elif kind == "word":
            low = token.group()
            if key:
                name = low.lower()
                if name in NAMES and name != "transparent":
                    where = " ".join(selectors)
                    pending.append(ColourSpan(token.start(), token.end(), NAMES[name], where, key))
            else:
                word = low
        elif key:
            colour = read_literal(token.group())
            if colour is not None:
                pending.append(ColourSpan(token.start(), token.end(), colour, " ".join(selectors), key))
    return spans + pending


def _tidy(selector: str) -> str:
    return _SPACE.sub(" ", _COMMENT.sub(" ", selector)).strip()
