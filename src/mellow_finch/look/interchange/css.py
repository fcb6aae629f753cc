"""Stylesheets as palettes: custom properties, and the named colours of toolkits."""

from __future__ import annotations

import re

from ...colour.rgb import Rgba
from ...components.write.template import css_colour
from ...errors import ParseError
from ...language import tr
from ...recolour.names import LIBRARY_NAMES, PUBLIC_NAMES
from ...syntax.cascade import named_colours
from ...syntax.css import scan_css
from ...syntax.spans import Problem, line_of
from ...syntax.typed import read_typed
from ..model import Look
from .model import MOST_BYTES, ColourList, Interchange, PaletteEntry, decoded, finished, role_named, unique_slugs

_PROPERTY = re.compile(r"(?<![\w-])--([\w-]+)\s*:\s*([^;{}]*)")
_COMMENT = re.compile(r"/\*.*?(?:\*/|\Z)", re.DOTALL)
_REFERENCE = re.compile(r"var\(\s*--([\w-]+)\s*(?:,[^()]*)?\)\Z")
_COLOURED = re.compile(r"#|(?:rgb|hsl|hwb|ok)[a-z]*\(|(?:lab|lch|color|color-mix)\(", re.IGNORECASE)
_DEFINE = re.compile(r"@define-color\s+([\w-]+)\s+([^;{}]*);?")


def _blanked(text: str) -> str:
    """Return the text with comments as blanks, so that places keep their lines."""
    return _COMMENT.sub(lambda m: re.sub(r"[^\n]", " ", m.group()), text)


def read_properties(data: bytes) -> ColourList:
    """Read the custom properties of a sheet that are colours, var() of others worked out.

    Properties that look like colours and cannot be read are listed with their lines. Raises ParseError when there are
    none.
    """
    text = _blanked(decoded(data[:MOST_BYTES]))
    literal = {(s.key.removeprefix("--"), s.start): s.colour for s in scan_css(text) if s.key.startswith("--")}
    rows: dict[str, Rgba] = {}
    waiting: list[tuple[str, str, int]] = []
    problems: list[Problem] = []
    for found in _PROPERTY.finditer(text):
        name, value = found.group(1), found.group(2).strip()
        colour = literal.get((name, found.start(2)))
        if colour is None:
            colour = _typed(value)
        if colour is not None:
            rows[name] = colour
        elif _REFERENCE.match(value):
            rows.setdefault(name, Rgba(0, 0, 0, -1.0))  # its place in the order
            waiting.append((name, value, found.start()))
        elif _COLOURED.match(value):
            problems.append(
                Problem(*line_of(text, found.start()), tr("“{value}” cannot be read.").format(value=value[:40]))
            )
    _resolve(rows, waiting, problems, text)
    entries = [PaletteEntry(c, n, role_named(n)) for n, c in rows.items()]
    return finished("", entries, problems, tr("stylesheet"))


def _typed(value: str) -> Rgba | None:
    if not value.lower().startswith("ok"):
        return None
    try:
        return read_typed(value)
    except ValueError:
        return None


def _resolve(rows: dict[str, Rgba], waiting: list[tuple[str, str, int]], problems: list[Problem], text: str) -> None:
    refers = {name: found.group(1) for name, value, _ in waiting if (found := _REFERENCE.match(value))}
    for name, value, at in waiting:
        target, steps = refers[name], 0
        while target in refers and steps <= len(refers):
            target, steps = refers[target], steps + 1
        colour = rows.get(target)
        if colour is not None and colour.a >= 0:
            rows[name] = colour
        else:
            rows.pop(name, None)
            problems.append(
                Problem(*line_of(text, at), tr("“{value}” does not resolve to a colour.").format(value=value[:40]))
            )


def write_properties(colours: ColourList) -> bytes:
    """Return a sheet of custom properties on :root."""
    rows = [f"  --{slug}: {c.hex};" for slug, c in zip(unique_slugs(colours.entries), colours.colours, strict=True)]
    return "\n".join([":root {", *rows, "}", ""]).encode("ascii")


CSS = Interchange(
    id="css",
    title=tr("CSS custom properties"),
    suffixes=(".css",),
    sniff=lambda data: 50 if re.search(rb"(?<![\w-])--[\w-]+\s*:", data[:200_000]) else 0,
    read=read_properties,
    write=write_properties,
    alpha=True,
)


_TOOLKIT = {**PUBLIC_NAMES, **LIBRARY_NAMES}


def _toolkit_role(name: str) -> str:
    role = _TOOLKIT.get(name, "").removesuffix("_drawn")
    return role if role not in ("dim",) and role else role_named(name)


def read_named(data: bytes) -> ColourList:
    """Read the named colours of a toolkit's sheet, references and functions worked out.

    Definitions that come to no colour are listed with their lines. Raises ParseError when there are none.
    """
    text = _blanked(decoded(data[:MOST_BYTES]))
    try:
        found = named_colours(text)
    except RecursionError as error:
        raise ParseError(tr("The stylesheet is nested too deeply to be read.")) from error
    problems: list[Problem] = []
    names: dict[str, None] = {}
    for define in _DEFINE.finditer(text):
        if define.group(1) in found:
            names[define.group(1)] = None
        else:
            words = " ".join(define.group(2).split())[:40]
            problems.append(
                Problem(
                    *line_of(text, define.start()), tr("“{words}” does not resolve to a colour.").format(words=words)
                )
            )
    entries = [PaletteEntry(found[n], n, _toolkit_role(n)) for n in names]
    return finished("", entries, problems, tr("stylesheet"))


def write_named(colours: ColourList) -> bytes:
    """Return a sheet of named colours, each under its own name."""
    slugs = unique_slugs(colours.entries)
    rows = [
        f"@define-color {slug.replace('-', '_')} {_exact(c)};" for slug, c in zip(slugs, colours.colours, strict=True)
    ]
    return "\n".join([*rows, ""]).encode("ascii")


def _exact(colour: Rgba) -> str:
    """Return a spelling that both generations read and that comes back to the same 8-bit opacity."""
    return css_colour(colour) if colour.a >= 1 else css_colour(colour).replace(f"{colour.a:.3f}", f"{colour.a:.5f}")


def _export_named(look: Look) -> bytes:
    """Return the names that toolkits look up in a look's colours."""
    rows = [(name, role.removesuffix("_drawn")) for name, role in _TOOLKIT.items()]
    return "\n".join(
        [f"@define-color {name} {look.colours[role].hex};" for name, role in rows if role in look.colours] + [""]
    ).encode("ascii")


GTK = Interchange(
    id="gtk",
    title=tr("GTK named colours"),
    suffixes=(".css",),
    sniff=lambda data: 70 if b"@define-color" in data[:400_000] else 0,
    read=read_named,
    write=write_named,
    export=_export_named,
    alpha=True,
)
