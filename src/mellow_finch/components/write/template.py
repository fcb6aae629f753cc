"""Templates of files: text with places for colours, filled in with the spelling that the reader of the file knows.

A place is ‹role›, spelled as the definition says, or ‹role spelling›; ‹~role› is the colour as it is drawn, with the
look's opacity; ‹=word› is a word: the look's name, its folder, its tone; ‹=word|otherwise› is what stands there where
nobody asked for it. A line that begins with ‹?word› is only there when somebody did, one with ‹?!word› when nobody did.
"""

from __future__ import annotations

import re
from collections.abc import Callable, Mapping
from functools import lru_cache
from math import ceil
from typing import NamedTuple

from ...colour.rgb import Rgba
from .palette import ComponentPalette


def css_colour(colour: Rgba) -> str:
    """Return a colour as stylesheets of every generation read it."""
    return colour.hex if colour.a >= 1 else f"rgba({colour.r}, {colour.g}, {colour.b}, {colour.a:.3f})"


def _digits(colour: Rgba) -> str:
    return f"{colour.r:02x}{colour.g:02x}{colour.b:02x}"


def opacity_byte(colour: Rgba) -> int:
    """Return the opacity as 0..255, never more translucent than asked."""
    return ceil(colour.a * 255 - 1e-6)


def _alpha(colour: Rgba) -> str:
    return f"{opacity_byte(colour):02x}"


SPELLINGS: dict[str, Callable[[Rgba], str]] = {
    "hex": lambda c: c.opaque.hex,
    "hexa": lambda c: c.opaque.hex + (_alpha(c) if c.a < 1 else ""),
    "hex8": lambda c: f"#{_digits(c)}{_alpha(c)}",
    "deep": lambda c: "#" + "".join(f"{v:02X}" * 2 for v in c[:3]),
    "argb": lambda c: f"#{_alpha(c)}{_digits(c)}",
    "bare": _digits,
    "bare8": lambda c: _digits(c) + _alpha(c),
    "css": css_colour,
    "rgba": lambda c: f"rgba({c.r},{c.g},{c.b},{c.a:.3g})",
    "inside": lambda c: f"rgba({_digits(c)}{_alpha(c)})",
    "decimals": lambda c: f"{c.r},{c.g},{c.b}",
    "semicolons": lambda c: f"{c.r};;{c.g};;{c.b};;{opacity_byte(c)}",
    "0x": lambda c: f"0x{_digits(c)}",
    "list": lambda c: f"[{c.r}, {c.g}, {c.b}]",
    "units": lambda c: ", ".join(f"{v:.4f}" for v in c.unit),
    "alpha": lambda c: f"{c.a:.2f}",
    "columns": lambda c: f"{c.r:3} {c.g:3} {c.b:3}",
    "sgr": lambda c: f"{c.r};{c.g};{c.b}",
    "rgb:": lambda c: f"rgb:{_digits(c)}",
    "number": lambda c: str(c.r << 16 | c.g << 8 | c.b),
    "percent": lambda c: str(round(c.a * 100)),
    "lacking": lambda c: str(100 - round(c.a * 100)),
    "byte": lambda c: str(opacity_byte(c)),
    "red": lambda c: str(c.r),
    "green": lambda c: str(c.g),
    "blue": lambda c: str(c.b),
}
_PLACE = re.compile(r"‹([=~]?)([\w-]+)(?:[ |]([^›]*))?›")
_ASKED = re.compile(r"(?m)^([ \t]*)‹\?(!?)(\w+)›([^\n]*\n?)")


class TemplatePiece(NamedTuple):
    """A stretch of text and the place after it; mark: "=" a word, "~" a colour as drawn, "" a colour."""

    before: str
    mark: str
    name: str
    spelling: str


@lru_cache(maxsize=512)
def compiled(text: str) -> tuple[tuple[TemplatePiece, ...], str]:
    """Return the pieces of a template, and the text after the last place."""
    pieces: list[TemplatePiece] = []
    at = 0
    for found in _PLACE.finditer(text):
        pieces.append(TemplatePiece(text[at : found.start()], found.group(1), found.group(2), found.group(3) or ""))
        at = found.end()
    return tuple(pieces), text[at:]


def names_in(text: str) -> tuple[str, ...]:
    """Return the roles and shades that a template names, in order, each once."""
    return tuple(dict.fromkeys(p.name for p in compiled(text)[0] if p.mark != "="))


@lru_cache(maxsize=8192)
def _spelled(spelling: str, colour: Rgba) -> str:
    return SPELLINGS[spelling](colour)


def filled(text: str, spelling: str, worn: ComponentPalette, words: Mapping[str, str]) -> str:
    """Return a template filled in; raises KeyError for a place that nothing fills."""
    for _ in range(text.count("‹?") and 2):  # a line may ask for two words
        text = _ASKED.sub(lambda m: m[1] + m[4] if (m[3] in words) != bool(m[2]) else "", text)
    pieces, tail = compiled(text)
    out: list[str] = []
    for before, mark, name, own in pieces:
        out.append(before)
        if mark == "=":
            out.append(words.get(name, own) if own else words[name])
        else:
            colour = worn.drawn(name) if mark else worn.colours[name]
            out.append(_spelled(own or spelling, colour))
    out.append(tail)
    return "".join(out)
