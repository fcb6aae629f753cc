"""Keys of JSON with comments set in a person's own file: every other byte stays, comments and trailing commas too."""

from __future__ import annotations

import json
import re
from collections.abc import Iterator, Mapping
from typing import Any, NamedTuple

_TOKEN = re.compile(r'\s+|//[^\n]*|/\*.*?\*/|"(?:[^"\\]|\\.)*"|[{}\[\]:,]|[^\s{}\[\]:,"/]+', re.DOTALL)
_MOST_DEPTH = 64


class _Token(NamedTuple):
    text: str
    start: int

    @property
    def end(self) -> int:
        return self.start + len(self.text)


class _Member(NamedTuple):
    """A member of an object: its key, and where its value begins and ends."""

    key: str
    start: int
    end: int


def _tokens(text: str) -> list[_Token]:
    """Return what counts of a text, without space and comments. Raises ValueError where it is no JSON at all."""
    out: list[_Token] = []
    at = 0
    while at < len(text):
        found = _TOKEN.match(text, at)
        if found is None:
            raise ValueError(f"no JSON at {at}")
        word = found.group()
        if not word[0].isspace() and not word.startswith(("//", "/*")):
            out.append(_Token(word, at))
        at = found.end()
    return out


def _value_end(tokens: list[_Token], at: int) -> int:
    """Return the number of the token after the value that begins at one."""
    depth = 0
    while at < len(tokens):
        word = tokens[at].text
        if word in "{[":
            depth += 1
            if depth > _MOST_DEPTH:
                raise ValueError("too deep")
        elif word in "}]":
            depth -= 1
        at += 1
        if depth == 0:
            return at
        if depth < 0:
            break
    raise ValueError("an object does not end")


def _members(tokens: list[_Token], at: int) -> Iterator[_Member]:
    """Yield the members of the object whose brace is the token at a number."""
    at += 1
    while at < len(tokens) and tokens[at].text != "}":
        key = tokens[at].text
        if not key.startswith('"') or at + 2 >= len(tokens) or tokens[at + 1].text != ":":
            raise ValueError(f"no member at {tokens[at].start}")
        stop = _value_end(tokens, at + 2)
        yield _Member(json.loads(key), tokens[at + 2].start, tokens[stop - 1].end)
        at = stop + (stop < len(tokens) and tokens[stop].text == ",")


def plain_json(text: str) -> str:
    """Return JSON with comments and trailing commas as plain JSON. Raises ValueError where it is no JSON at all."""
    words = [token.text for token in _tokens(text.removeprefix("\ufeff"))]
    return "".join(
        w for w, after in zip(words, [*words[1:], ""], strict=True) if w != "," or after not in ("}", "]", "")
    )


def set_members(text: str, values: Mapping[str, Any]) -> str:
    """Return the text with members of its outermost object set; of a value that is an object itself, only its members.

    New members come first in their object, so that no line of the person's own gets another comma. Of equal keys all
    are set. An empty text becomes an object. Raises ValueError where the text is no such object.
    """
    if not text.strip():
        return json.dumps(values, indent=4, ensure_ascii=False) + "\n"
    tokens = _tokens(text.removeprefix("\ufeff"))
    if text.startswith("\ufeff"):
        return "\ufeff" + set_members(text[1:], values)
    if not tokens or tokens[0].text != "{" or _value_end(tokens, 0) != len(tokens):
        raise ValueError("no object")
    newline = "\r\n" if "\r\n" in text else "\n"
    edits: list[tuple[int, int, str]] = []
    _set_in(text, tokens, 0, values, newline, edits)
    for start, stop, fresh in sorted(edits, reverse=True):
        text = text[:start] + fresh + text[stop:]
    return text


def _set_in(
    text: str,
    tokens: list[_Token],
    at: int,
    values: Mapping[str, Any],
    newline: str,
    edits: list[tuple[int, int, str]],
) -> None:
    rows = list(_members(tokens, at))
    number_at = {token.start: i for i, token in enumerate(tokens)}
    margin = re.match(r"[ \t]*", text[text.rfind("\n", 0, tokens[at].start) + 1 :])
    indent = (margin.group() if margin else "") + "    "
    fresh: dict[str, Any] = {}
    for key, value in values.items():
        there = [row for row in rows if row.key == key]
        for row in there:
            if isinstance(value, Mapping) and text[row.start] == "{":
                _set_in(text, tokens, number_at[row.start], value, newline, edits)
            else:
                edits.append((row.start, row.end, _spelled(value, indent, newline)))
        if not there:
            fresh[key] = value
    if not fresh:
        return
    body = newline.join(f"{indent}{json.dumps(k)}: {_spelled(v, indent, newline)}," for k, v in fresh.items())
    start = tokens[at].end
    if not rows:  # nothing follows, so the last has no comma
        body = body.removesuffix(",") + newline + indent[:-4]
    elif not re.match(r"[ \t]*(?://[^\n]*|/\*[^\n]*?\*/[ \t]*)?\r?\n", text[start:]):
        body += newline + indent  # what stood behind the brace goes on a line of its own
    edits.append((start, start, newline + body))


def _spelled(value: Any, indent: str, newline: str) -> str:
    words = json.dumps(value, indent=4, ensure_ascii=False)
    return words.replace("\n", newline + indent)
