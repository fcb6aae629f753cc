"""Colour literals of line-based settings: keys with values, in sections or not, with comments of several kinds.

One scanner for all of them; what differs between files is data (`KeyedRules`).
"""

from __future__ import annotations

import re
from collections.abc import Callable, Iterator
from dataclasses import dataclass
from functools import cache

from .notations import finder, notation_of, read_as
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
    blanks; blocks: whether "name {" opens a section; indented: whether "name:" opens one that lasts while lines stand
    further in; quoted: whether words and bare digits count only in quotes;
    keys: a pattern that a key (or its section) must match where a spelling could be something else than a colour, such
    as a word or bare digits; whole: whether such a spelling must be the whole value rather than a part of it; named:
    whether a line may have several keys, each before its value, as arguments of a call; setter: the word before a
    variable and its value, whose key is the variable's name then.
    """

    notations: tuple[str, ...]
    comments: tuple[str, ...] = ("#",)
    inside: tuple[str, ...] = ()
    separators: str = "="
    blocks: bool = False
    indented: bool = False
    quoted: bool = False
    keys: str = ""
    whole: bool = True
    named: bool = False
    setter: str = ""


# "%{F#aabbcc}" and "<span color='#..'>" are read within values; a letter or digit before it makes it no colour, save
# for marks that only stand before a hash.
_BEFORE = r"(?:(?<![\w#.])|(?<=[{:][A-Za-z])(?=#))"


@cache
def _line_pattern(separators: str) -> re.Pattern[str]:
    marks = re.escape(separators.replace(" ", ""))
    blank = r"[ \t]*+"
    if " " not in separators:
        return re.compile(rf"(?P<key>[^\n{marks}]++)[{marks}]{blank}(?P<value>.*)", re.DOTALL)
    middle = rf"(?:{blank}[{marks}]{blank}|[ \t]++)" if marks else r"[ \t]++"
    return re.compile(rf"{blank}(?P<key>[^\s{marks}]++){middle}(?P<value>.*)", re.DOTALL)


def keyed_scanner(rules: KeyedRules) -> Callable[[str], list[ColourSpan]]:
    """Return the scanner of a kind of file."""
    keys = re.compile(rules.keys, re.IGNORECASE) if rules.keys else COLOUR_KEY
    line_pattern = _line_pattern(rules.separators)

    def literals(value: str, where: str, key: str) -> Iterator[ColourSpan]:
        told = bool(keys.search(key) or keys.search(where))
        for literal in finder(rules.notations, _BEFORE).finditer(value):
            name = notation_of(rules.notations, literal)
            if name in _WORDY and not (told and _stands_free(value, literal, rules)):
                continue
            if rules.separators == ":" and _NAMES_KEY.match(value, literal.end()):
                continue
            colour = read_as(name, literal.group())
            if colour is None:
                continue
            near = _NAMED.findall(value[: literal.start()])[-1:] if rules.named else []
            own = near[0] if near else key.rpartition(".")[2].rpartition("(")[2].strip() if rules.named else key
            yield ColourSpan(literal.start(), literal.end(), colour, where, own, name)

    def scan(text: str) -> list[ColourSpan]:
        spans: list[ColourSpan] = []
        place = _LinePlace(rules)
        at = 0
        for line in text.splitlines(keepends=True):
            start, at = at, at + len(line)
            bare = line.strip()
            if place.takes(bare, len(line) - len(line.lstrip())):
                continue
            found = line_pattern.match(line)
            value, offset = line, 0
            if found is not None and not _continues(bare):
                place.key = found.group("key").strip().strip("\"'")
                value, offset = found.group("value"), found.start("value")
                variable = _VARIABLE.match(value) if rules.setter and place.key == rules.setter else None
                place.key = variable.group() if variable is not None else place.key
            value = _without_comment(value, rules.inside)
            offset += start
            spans += [
                s._replace(start=s.start + offset, end=s.end + offset) for s in literals(value, place.where, place.key)
            ]
        return spans

    return scan


_VARIABLE = re.compile(r"\$[\w-]+")
_NAMED = re.compile(r"([\w-]++)[\"']?\s*+[=:](?!=)")
_MOST_DEPTH = 64  # sections further in are not told any more


class _LinePlace:
    """Where in a file a line stands: its sections, its key, and whether a comment goes on."""

    def __init__(self, rules: KeyedRules) -> None:
        self._rules = rules
        self._sections: list[str] = []
        self._depths: list[int] = []  # how far in each section stands, where that tells sections
        self._commented = False
        self.key = ""

    @property
    def where(self) -> str:
        """Return the sections around a line."""
        return " ".join(filter(None, self._sections[:_MOST_DEPTH]))

    def takes(self, bare: str, indent: int = 0) -> bool:
        """Tell whether a line is a comment or opens or closes a section, and remember what it does."""
        if self._rules.indented and bare and not bare.startswith(self._rules.comments):
            while self._depths and self._depths[-1] >= indent:
                self._depths.pop()
                self._sections.pop()
            if _OPENS.fullmatch(bare):
                self._sections.append(bare[:-1].strip("\"' "))
                self._depths.append(indent)
                self.key = ""
                return True
        if self._commented:
            self._commented = "*/" not in bare
        elif not bare or bare.startswith(self._rules.comments):
            self._commented = bare.startswith("/*") and "*/" not in bare
        elif bare.startswith("[") and bare.endswith("]") and ("=" not in bare or _CRITERIA.fullmatch(bare)):
            self._sections, self.key = [bare.strip("[]")], ""
        elif self._rules.blocks and bare.endswith("{"):
            self._sections.append(bare[:-1].strip(" ={:\"'"))
            self.key = ""
        elif self._rules.blocks and bare.startswith("}") and self._sections:
            self._sections.pop()
        else:
            return False
        return True


_OPENS = re.compile(r"[\"']?[\w-]+[\"']?:")
_CRITERIA = re.compile(r"\[(?:[\w-]++=(?:\w++|\"[^\"]*+\")\s*+)+\]")  # a section that names what it is for
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
        return before.strip().strip("\"'") == "" and after.strip().strip("\"',;") == ""
    last, first = before[-1:], after[:1]
    return (not last or bool(_PART.match(last)) or last in "\"'") and (
        not first or bool(_PART.match(first)) or first in "\"'"
    )
