"""Colour literals of stylesheets, in every dialect: toolkits', shells', launchers' and browsers'."""

from __future__ import annotations

import re
from dataclasses import dataclass
from functools import cache

from .literals import NAMES, read_literal
from .notations import read_as
from .spans import ColourSpan, line_of


@dataclass(frozen=True, slots=True, kw_only=True)
class Dialect:
    """How a reader's stylesheets differ from the common ones.

    lines: whether // starts a comment; argb: whether eight digits begin with the opacity, and functions are Qt's;
    wide: whether hwb() and cmyk() are colours too.
    """

    lines: bool = False
    argb: bool = False
    wide: bool = False


COMMON = Dialect()


@cache
def _token(dialect: Dialect) -> re.Pattern[str]:
    functions = (
        "(?:rgb|hsl|hsv)a?" if dialect.argb else "(?:(?:rgb|hsl)a?|hwb|cmyk)" if dialect.wide else "(?:rgb|hsl)a?"
    )
    lines = r"|//[^\n]*" if dialect.lines else ""
    return re.compile(
        rf"""(?P<skip>/\*.*?(?:\*/|\Z){lines}|"(?:[^"\\\n]|\\.)*"?|'(?:[^'\\\n]|\\.)*'?|url\(\s*+[^"'\s()][^()]*+\))"""
        rf"""|(?P<colour>\#[0-9a-fA-F]{{3,8}}(?![\w-])|{functions}[ \t]?\([^()@;{{}}]*\))"""
        r"""|(?P<define>@define-color\s+[\w-]+)"""
        r"""|(?P<word>[@$.#]?-{0,2}[a-zA-Z_][\w-]*\(?)"""
        r"""|(?P<mark>[{};:])""",
        re.DOTALL | re.IGNORECASE,
    )


_MOST_DEPTH = 64
_SPACE = re.compile(r"\s+")
_COMMENT = re.compile(r"/\*.*?\*/", re.DOTALL)
_NOT_COLOURS = ("font", "animation", "transition", "content", "will-change", "src")


def _form(spelling: str, dialect: Dialect) -> str:
    """Return the notation of a spelling, empty for the common one."""
    low = spelling.lower()
    if dialect.argb:
        return "argb" if low.startswith("#") else "qt-function"
    return "wide" if low.startswith(("hwb", "cmyk")) else ""


MOST_NESTED = 200  # brackets in brackets, beyond which a sheet is not worked out
_BRACKET = re.compile(
    r"""/\*.*?(?:\*/|\Z)|"(?:[^"\\\n]|\\.)*"?|'(?:[^'\\\n]|\\.)*'?|(?P<opens>[({\[])|(?P<closes>[)}\]])""", re.DOTALL
)


def nested_too_deeply(text: str) -> int:
    """Return the line from which a sheet is nested more deeply than can be worked out, 0 when none is."""
    if sum(map(text.count, "({[")) <= MOST_NESTED:
        return 0
    depth = 0
    for token in _BRACKET.finditer(text):
        depth += (token["opens"] is not None) - (token["closes"] is not None)
        depth = max(0, depth)
        if depth > MOST_NESTED:
            return line_of(text, token.start())[0]
    return 0


def scan_css(text: str, dialect: Dialect = COMMON) -> list[ColourSpan]:
    """Return every colour literal in value position, in order; never raises, whatever the text."""
    return _scan(text, dialect, "")


def scan_declarations(text: str) -> list[ColourSpan]:
    """Return the colour literals of declarations without a selector around them, as in a style attribute."""
    return _scan(text, COMMON, "style")


def _scan(text: str, dialect: Dialect, within: str) -> list[ColourSpan]:
    spans: list[ColourSpan] = []
    pending: list[ColourSpan] = []  # what may still turn out to be part of a selector
    ways: list[str] = [within] if within else []  # of each open block: the selectors down to it
    where = within
    key, word, boundary = "", "", 0
    names, plain = NAMES, dialect == COMMON
    for token in _token(dialect).finditer(text):
        kind = token.lastgroup
        if kind == "word":
            low = token.group()
            if key:
                name = low.lower()
                if name in names and name != "transparent" and not key.startswith(_NOT_COLOURS):
                    pending.append(ColourSpan(token.start(), token.end(), names[name], where, key))
            else:
                word = low
        elif kind == "mark":
            mark = token.group()
            if mark == ":":
                if not key and word and (ways or word[0] in "$-"):
                    key = word
                continue
            if mark == "{":
                if len(ways) < _MOST_DEPTH:  # further in, the way is not told any more
                    own = _tidy(text[boundary : token.start()])
                    where = f"{where} {own}" if ways else own
                ways.append(where)
            else:
                spans += pending
                if mark == "}" and ways:
                    ways.pop()
                    where = ways[-1] if ways else ""
            pending.clear()
            key, word, boundary = "", "", token.end()
        elif kind == "colour":
            if key:
                spelling = token.group()
                form = "" if plain else _form(spelling, dialect)
                colour = read_as(form, spelling) if form else read_literal(spelling)
                if colour is not None:
                    pending.append(ColourSpan(token.start(), token.end(), colour, where, key, form))
        elif kind == "define":
            key = f"@define-color {token.group().split()[-1]}"
    return spans + pending


def _tidy(selector: str) -> str:
    return _SPACE.sub(" ", _COMMENT.sub(" ", selector)).strip()
