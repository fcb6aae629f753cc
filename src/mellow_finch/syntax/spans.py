"""Colour literals in a text, and rewriting nothing but them."""

from __future__ import annotations

import re
from collections import deque
from collections.abc import Callable, Iterable
from dataclasses import dataclass
from threading import Lock
from typing import NamedTuple

from ..colour.rgb import Rgba


class ColourSpan(NamedTuple):
    """One colour literal: text[start:end] is its spelling.

    where: the selector, section or table it stands in; key: the property or key it belongs to; form: the id of the
    notation it is spelled in, empty for that of stylesheets.
    """

    start: int
    end: int
    colour: Rgba
    where: str
    key: str
    form: str = ""


@dataclass(frozen=True, slots=True)
class Problem:
    """Something a reader could not make sense of; line and column count from 1."""

    line: int
    column: int
    message: str


def replace_spans(text: str, spellings: Iterable[tuple[ColourSpan, str]]) -> str:
    """Return the text with each span spelled anew; spans may come in any order but must not overlap."""
    parts: list[str] = []
    at = 0
    for span, spelling in sorted(spellings, key=lambda row: row[0].start):
        parts += (text[at : span.start], spelling)
        at = span.end
    parts.append(text[at:])
    return "".join(parts)


def line_of(text: str, offset: int) -> tuple[int, int]:
    """Return line and column, counted from 1, of an offset."""
    return text.count("\n", 0, offset) + 1, offset - (text.rfind("\n", 0, offset) + 1) + 1


_LITERAL = re.compile(r"[#\w]+(?:[ \t]?\([^()]*\))?")
_KEPT = 6


class Rescanner:
    """A scanner that is quick on texts it has seen in other colours.

    A text that is, literal for literal and byte for byte between them, one that was scanned before has its literals
    read at their places; any other text is scanned in full. The result is always that of the scanner.
    """

    def __init__(self, scan: Callable[[str], list[ColourSpan]], read: Callable[[str], Rgba | None]) -> None:
        self._scan, self._read = scan, read
        self._known: deque[tuple[list[str], list[ColourSpan]]] = deque(maxlen=_KEPT)
        self._same: dict[str, list[ColourSpan]] = {}  # texts as they were, newest last
        self._lock = Lock()  # files are read in the window's thread and in those of its jobs

    def __call__(self, text: str) -> list[ColourSpan]:
        """Return the spans of a text."""
        with self._lock:
            found = self._same.pop(text, None)
        if found is None:
            found = self._scanned(text)
        with self._lock:
            self._same[text] = found
            if len(self._same) > 2 * _KEPT:
                self._same.pop(next(iter(self._same)))
        return found

    def _scanned(self, text: str) -> list[ColourSpan]:
        for pieces, spans in tuple(self._known):
            if text.startswith(pieces[0]):
                found = self._along(text, pieces, spans)
                if found is not None:
                    return found
        spans = self._scan(text)
        ends = [0, *(s.end for s in spans)]
        starts = [*(s.start for s in spans), len(text)]
        self._known.appendleft(([text[a:b] for a, b in zip(ends, starts, strict=True)], spans))
        return spans

    def _along(self, text: str, pieces: list[str], spans: list[ColourSpan]) -> list[ColourSpan] | None:
        at = len(pieces[0])
        found: list[ColourSpan] = []
        match, read = _LITERAL.match, self._read
        for (_, _, _, where, key, _), piece in zip(spans, pieces[1:], strict=True):
            literal = match(text, at)
            if literal is None:
                return None
            end = literal.end()
            colour = read(literal.group())
            if colour is None or not text.startswith(piece, end):
                return None
            found.append(ColourSpan(at, end, colour, where, key))
            at = end + len(piece)
        return found if at == len(text) else None
