"""Colour literals in a text, and rewriting nothing but them."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from dataclasses import dataclass

from ..colour.rgb import Rgba


@dataclass(frozen=True, slots=True)
class ColourSpan:
    """One colour literal: text[start:end] is its spelling.

    where: the selector, section or table it stands in; key: the property or key it belongs to.
    """

    start: int
    end: int
    colour: Rgba
    where: str
    key: str


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


Values = Mapping[str, Rgba]
