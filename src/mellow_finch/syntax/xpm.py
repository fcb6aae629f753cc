"""Colour literals of X pixmaps: what follows "c" (and the grey and mono keys) in the lines of their palette."""

from __future__ import annotations

import re

from .notations import NOTATIONS, read_as
from .spans import ColourSpan

_STRING = re.compile(r'/\*.*?(?:\*/|\Z)|"((?:[^"\\\n]|\\.)*+)(?:"|(?=\n)|\\?\Z)', re.DOTALL)
_SIZE = re.compile(r"\s*+(\d{1,9})\s++(\d{1,9})\s++(\d{1,9})\s++(\d{1,9})")
_FORMS = ("deep", "hex", "name")
_COLOUR = re.compile(
    r"(?:^|\s)(?:c|g4?|m)\s+(?:" + "|".join(f"(?P<{f}>{NOTATIONS[f].pattern})" for f in _FORMS) + r")(?=\s|\Z)"
)
_SYMBOL = re.compile(r"\ss\s+(\S+)")


def scan_xpm(text: str) -> list[ColourSpan]:
    """Return the colours of a pixmap's palette, the symbol that each stands for as its key; never raises."""
    spans: list[ColourSpan] = []
    left, wide, first = 0, 1, True
    for found in _STRING.finditer(text):
        if found.group(1) is None:
            continue
        if first:
            size = _SIZE.match(found.group(1))
            if size is None:
                return spans
            left, wide, first = int(size.group(3)), int(size.group(4)), False
            continue
        if left <= 0:
            break
        left -= 1
        row, start = found.group(1)[wide:], found.start(1) + wide
        symbol = _SYMBOL.search(row)
        for literal in _COLOUR.finditer(row):
            form = str(literal.lastgroup)
            colour = read_as(form, literal.group(form))
            if colour is not None:
                spans.append(
                    ColourSpan(
                        start + literal.start(form), start + literal.end(form), colour, "pixmap",
                        symbol.group(1) if symbol else "colour", form,
                    )
                )  # fmt: skip
    return spans
