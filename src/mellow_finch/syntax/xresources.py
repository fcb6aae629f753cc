"""X resource files: every colour literal, and the colours by resource."""

from __future__ import annotations

import re

from ..colour.rgb import Rgba
from .literals import NAMES
from .notations import NOTATIONS, read_as
from .spans import ColourSpan

_LINE = re.compile(r"^[ \t]*([\w.*?-]+)[ \t]*:[ \t]*(.*?)[ \t]*$", re.MULTILINE)
_SPEC = re.compile(r"#[0-9a-fA-F]{6}\Z|#[0-9a-fA-F]{3}\Z")
_SEE_THROUGH = re.compile(r"\[(\d{1,3})\](#[0-9a-fA-F]{6})\Z")  # opacity in percent, then the colour


def scan_xresources(text: str) -> list[ColourSpan]:
    """Return every colour literal with the resource name it belongs to."""
    spans: list[ColourSpan] = []
    for found in _LINE.finditer(text):
        value, start = found.group(2), found.start(2)
        veiled = _SEE_THROUGH.match(value)
        if veiled:
            value, start = veiled.group(2), start + veiled.start(2)
        form = _form(value)
        if form or _SPEC.match(value) or (value.lower() in NAMES and value.lower() != "transparent"):
            colour = read_as(form, value)
            if colour is not None:
                spans.append(ColourSpan(start, start + len(value), colour, "", found.group(1), form))
    return spans


def _form(value: str) -> str:
    """Return the notation of X's own spellings, empty for the common ones."""
    return next((f for f in ("x11", "deep", "left") if re.fullmatch(NOTATIONS[f].pattern, value)), "")


def xresources_colours(text: str) -> dict[str, Rgba]:
    """Return {resource component after the last * or .: colour}; of equal names the last in the file wins.

    A colour with an opacity before it, as in "[85]#101418", comes back translucent.
    """
    out: dict[str, Rgba] = {}
    for found in _LINE.finditer(text):
        value = found.group(2)
        veiled = _SEE_THROUGH.match(value)
        spelling = veiled.group(2) if veiled else value
        form = _form(spelling)
        plain = form or _SPEC.match(spelling) or spelling.lower() in NAMES
        colour = read_as(form, spelling) if plain else None
        if colour is not None:
            alpha = min(100, int(veiled.group(1))) / 100 if veiled else colour.a
            out[re.split(r"[.*]", found.group(1))[-1]] = colour._replace(a=alpha)
    return out
