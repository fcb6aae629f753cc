"""Colour literals of line-based settings: keys with values, in sections or not, with comments of several kinds.

One scanner for all of them; what differs between files is data (`KeyedRules`).
"""

from __future__ import annotations

import re
from collections.abc import Callable
from dataclasses import dataclass
from functools import cache

from .notations import NOTATIONS, read_as
from .spans import ColourSpan

COLOUR_KEY = re.compile(
    r"colou?r|palette|(?:^|[^a-z])(?:fg|bg|fore|back|base|text|light|dark|mid|border|outline|stroke|fill|accent|frame"
    r"|background|foreground|highlight|selection|cursor|separator|shadow|tint|ring|line|inside|match|regular\d?"
    r"|bright\d?|dim\d?|urls?|client|black|red|green|yellow|blue|magenta|cyan|white|style|gradient|stop|hue|fg_|bg_)"
    r"(?:$|[^a-z])|(?:fore|back)ground|bg$|fg$",
    re.IGNORECASE,
)
_WORDY = frozenset({"name", "bare-name", "bare", "bare-alpha", "bare-argb", "decimals", "0x"})


@dataclass(frozen=True, slots=True, kw_only=True)
class KeyedRules:
    """What a file of keys and values is like.

    notations: ids, in the order of preference; comments: marks that start a comment at a line's start; inside: marks
    that start one after a value, outside of quotes; separators: characters between key and value, a blank for
    blanks; blocks: whether "name {" opens a section; quoted: whether words and bare digits count only in quotes;
    keys: a pattern that a key (or its section) must match where a spelling could be something else than a colour, such
    as a word or bare digits; whole: whether such a spelling must be the whole value or one of its parts.
    """

    notations: tuple[str, ...]
    comments: tuple[str, ...] = ("#",)
    inside: tuple[str, ...] = ()
    separators: str = "="
    blocks: bool = False
    quoted: bool = False
    keys: str = ""
    whole: bool = True


@cache
def _master(notations: tuple[str, ...]) -> re.Pattern[str]:
    rows = "|".join(f"(?P<n{i}>{NOTATIONS[name].pattern})" for i, name in enumerate(notations))
    # "%{F#aabbcc}" and "<span color='#..'>" are read within values; a letter or digit before it makes it no colour,
    # save for marks that only stand before a hash.
    return re.compile(rf"(?:(?<![\w#.])|(?<=[{{:][A-Za-z])(?=#))(?:{rows})(?![\w#])")


@cache
def _line_pattern(separators: str) -> re.Pattern[str]:
    marks = re.escape(separators.replace(" ", ""))
    middle = rf"[ \t]*[{marks}][ \t]*" if marks else r"[ \t]+"
    if marks and " " in separators:
        middle = rf"(?:[ \t]*[{marks}][ \t]*|[ \t]+)"
    word = rf"[^\s{marks}]" if " " in separators else rf"[^\n{marks}]"
    return re.compile(rf"[ \t]*(?P<key>{word}+?)(?:{middle})(?P<value>.*)", re.DOTALL)


def keyed_scanner(rules: KeyedRules) -> Callable[[str], list[ColourSpan]]:
    """Return the scanner of a kind of file."""
    master = _master(rules.notations)
    line_pattern = _line_pattern(rules.separators)
    keys = re.compile(rules.keys, re.IGNORECASE) if rules.keys else COLOUR_KEY
    names = rules.notations

    def scan(text: str) -> list[ColourSpan]:
        spans: list[ColourSpan] = []
        sections: list[str] = []
        key, at, commented = "", 0, False
        for line in text.splitlines(keepends=True):
            start, at = at, at + len(line)
            bare = line.strip()
            if commented:
                commented = "*/" not in bare
                continue
            if not bare or bare.startswith(rules.comments):
                commented = bare.startswith("/*") and "*/" not in bare
                continue
            if bare.startswith("[") and bare.endswith("]") and "=" not in bare:
                sections, key = [bare.strip("[]")], ""
                continue
            if rules.blocks and bare.endswith("{"):
                sections.append(bare[:-1].strip(" ={"))
                key = ""
                continue
            if rules.blocks and bare.startswith("}") and sections:
                sections.pop()
                continue
            found = line_pattern.match(line)
            if found is not None and not _continues(bare):
                key = found.group("key").strip().strip("\"'")
                value, offset = found.group("value"), start + found.start("value")
            else:
                value, offset = line, start
            value = _without_comment(value, rules.inside)
            where = " ".join(sections)
            told = bool(keys.search(key) or keys.search(where))
            for literal in master.finditer(value):
                name = names[int(str(literal.lastgroup)[1:])]
                if name in _WORDY and not (told and _stands_free(value, literal, rules)):
                    continue
                colour = read_as(name, literal.group())
                named = rules.separators == ":" and _NAMES_KEY.match(value, literal.end())
                if colour is not None and not named:
                    spans.append(ColourSpan(offset + literal.start(), offset + literal.end(), colour, where, key, name))
        return spans

    return scan


_NAMES_KEY = re.compile(r"[\"']\s*:")  # what makes the word before it a key of its own


def _continues(bare: str) -> bool:
    """Tell whether a line carries on a list that the line before began."""
    return bare[0] in "\"'#{[],0123456789" and not re.match(r"\"[^\"]*\"\s*[:=]|\d+\s*=", bare)


def _without_comment(value: str, marks: tuple[str, ...]) -> str:
    quote = ""
    for i, c in enumerate(value):
        if quote:
            quote = "" if c == quote else quote
        elif c in "\"'":
            quote = c
        elif marks and value.startswith(marks, i) and (i == 0 or value[i - 1].isspace()):
            if c == "#" and re.match(r"#[0-9a-fA-F]{3,12}\b", value[i:]):
                continue
            return value[:i]
    return value


_PART = re.compile(r"[\s,;:|/()\[\]{}=]")


def _stands_free(value: str, literal: re.Match[str], rules: KeyedRules) -> bool:
    """Tell whether a spelling that need not be a colour fills its value, its quotes or a part between separators."""
    before, after = value[: literal.start()], value[literal.end() :]
    if rules.quoted:
        return before[-1:] in ("'", '"', ":", ";") and after[:1] in ("'", '"', ";", ":", "\\")
    if rules.whole:
        edge = before.strip().strip("\"'") == "" and after.strip().strip("\"',;") == ""
        return edge or literal.lastgroup is None
    last, first = before[-1:], after[:1]
    return (not last or bool(_PART.match(last)) or last in "\"'") and (
        not first or bool(_PART.match(first)) or first in "\"'"
    )
