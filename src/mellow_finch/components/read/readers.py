"""Readers of files whose places no key names: widgets' tables and drawings, sheets of rules, tiles and palettes."""

from __future__ import annotations

import re
from collections.abc import Callable, Sequence
from pathlib import PurePosixPath

import numpy as np

from ...colour.rgb import Rgba
from ...errors import PictureError
from ...intake.pictures import opened
from ...syntax.cascade import paint
from ...syntax.catalogue import format_by_id
from ...syntax.literals import read_literal
from ...syntax.lua import lua_settings, read_spelling, scan_lua
from ...syntax.numbers import number
from ...syntax.spans import ColourSpan, Rescanner
from ..files import Files, text_of
from ..model import Paint, Paints, Part
from .values import followed

_scan = Rescanner(scan_lua, read_literal)


# Widgets


def read_widget(text: str, parts: tuple[Part, ...], _get: Files, _path: str) -> dict[str, Paint]:
    """Return what a widget's Lua table says: every text colour over the widget's backing."""
    settings = lua_settings(text)
    fill = _backing(settings)
    own = (fill,) if fill is not None and fill.a > 0 else ()
    found: dict[str, Rgba | None] = {"widget": read_spelling(settings.get("default_color", ""))}
    found |= {f"widget colour {i}": read_spelling(settings.get(f"color{i}", "")) for i in range(10)}
    inline = _inline(text)
    found |= {f"widget text colour {i}": span.colour for i, span in enumerate(inline, 1)}
    return {p.key: Paint(fill, colour, None, (), own) for p in parts if (colour := found.get(p.key)) is not None}


def _inline(text: str) -> list[ColourSpan]:
    return [s for s in _scan(text) if s.key == "color" or "graph" in s.key]


def _drawn(text: str) -> list[ColourSpan]:
    return [s for s in _scan(text) if not _TRACK.search(s.key)]


def counted_place(text: str, part: str) -> tuple[int, str] | None:
    """Return where a part that is only told by its number stands in a text, and what it is there in the file's words.

    None for a part that has a name of its own, or more of its kind than there are.
    """
    kind, _, count = part.rpartition(" ")
    at = int(count) - 1 if count.isdecimal() and len(count) < 4 else -1
    if at < 0:
        return None
    if kind == "rule":
        rules = _rules(text)
        return (rules[at][0], rules[at][1]) if at < len(rules) else None
    spans = {"widget text colour": _inline, "drawn colour": _drawn}.get(kind, lambda _: [])(text)
    if at >= len(spans):
        return None
    start = text.rfind("\n", 0, spans[at].start) + 1
    line = text[start:].partition("\n")[0].strip()
    return spans[at].start, line


def _backing(settings: dict[str, str]) -> Rgba | None:
    """Return the colour that the widget's window is filled with, translucency included."""
    if settings.get("own_window") != "true":
        return None
    colour = read_spelling(settings.get("own_window_colour", "000000")) or Rgba(0, 0, 0)
    if settings.get("own_window_transparent") == "true":
        return colour._replace(a=0.0)
    if settings.get("own_window_argb_visual") == "true":
        value = settings.get("own_window_argb_value", "255")
        return colour._replace(a=min(1.0, number(value) / 255) if value.isdecimal() else 1.0)
    return colour


_TRACK = re.compile(r"(?:^|_)(?:bg|back|background|track)", re.IGNORECASE)


def read_drawing(text: str, parts: tuple[Part, ...], get: Files, path: str) -> dict[str, Paint]:
    """Return the colours that a drawing script draws with, tracks behind them left out.

    They lie on the backing of the widget that loads the script, straight on the picture where it has none.
    """
    found = [s.colour for s in _drawn(text)]
    fill = _backing(lua_settings(_loading(get, path)))
    own = (fill,) if fill is not None and fill.a > 0 else ()
    return {part.key: Paint(fill, colour, None, (), own) for part, colour in zip(parts, found, strict=False)}


_SCRIPT = re.compile(r"(?<![\w.-])([\w.-]+)\.lua")


def _loading(get: Files, path: str) -> str:
    """Return the configuration of the widget that loads a script or what it is a variant of, empty for none."""
    stem = PurePosixPath(path).stem
    beside = (".config/conky/*.conf", ".config/conky/*/*.conf", ".conky/*/*")
    texts = (text_of(get, p) for pattern in beside for p in get.find(pattern) if p != path)
    named = ((t, _SCRIPT.findall(t)) for t in texts if "conky.config" in t)
    return next((t for t, names in named if any(stem == n or stem.startswith(f"{n}-") for n in names)), "")


_VARIABLE = re.compile(r"(?m)^[ \t]*+\$([\w-]++)\s*+:\s*+([^;]++);")
_VARIABLE_USED = re.compile(r"\$([\w-]+)(?![\w-]|\s*:)")
_BLOCK = re.compile(r"(?<![^{};])([^{};]++)\{([^{}]*+)\}")


def read_rules(text: str, parts: tuple[Part, ...], _get: Files, _path: str) -> dict[str, Paint]:
    """Return every rule of a sheet that states both text and ground, variables followed."""
    rows = [(ink, ground) for _, _, ink, ground in _rules(text)]
    return {p.key: Paint(g, t, None, (), (g,)) for p, (t, g) in zip(parts, rows, strict=False)}


def _rules(text: str) -> list[tuple[int, str, Rgba, Rgba]]:
    """Return every rule that states both text and ground: where it begins, its selector, and both colours."""
    known = {name: value.strip() for name, value in _VARIABLE.findall(text)}
    whole = text
    text = followed(_VARIABLE_USED, text, known)
    spans = format_by_id("scss").scan(text)
    rows: list[tuple[int, str, Rgba, Rgba]] = []
    for block in _BLOCK.finditer(text):
        inside = [s for s in spans if block.start(2) <= s.start < block.end(2)]
        ink = _last(inside, "color")
        ground = _last(inside, "background-color") or _last(inside, "background")
        if ink is not None and ground is not None:
            selector = (block.group(1).strip().splitlines() or [""])[-1].strip()
            rows.append((max(0, whole.find(selector)), selector, ink, ground))
    return rows


def _last(spans: list[ColourSpan], key: str) -> Rgba | None:
    return next((s.colour for s in reversed(spans) if s.key == key), None)


# Each is given a file's text, the parts, and the files around it with its own path.
TEXT_READERS: dict[str, Callable[[str, tuple[Part, ...], Files, str], Paints]] = {
    "widget": read_widget,
    "drawing": read_drawing,
    "rules": read_rules,
}


# Tiles and palettes


def read_strip(get: Files, parts: tuple[Part, ...], paths: Sequence[str]) -> dict[str, Paint]:
    """Return the panel as its tile, the first file, draws it: every row's colour, under the text of its sheet."""
    tile, sheet = paths
    data = get(tile)
    if data is None:
        return {}
    try:
        column = np.asarray(opened(data, tile).convert("RGBA"))[:, 0, :]
    except PictureError:
        return {}
    rows = [Rgba(int(r), int(g), int(b), int(a) / 255) for r, g, b, a in column.tolist()]
    places = {"": rows[len(rows) // 2], "upper edge": rows[0], "lower edge": rows[-1]}
    ink = paint(text_of(get, sheet), ["window.xfce4-panel"])["window.xfce4-panel"].text if sheet else None
    return {
        p.key: Paint(places[p.state], ink, None, (), tuple(dict.fromkeys(rows)) if not p.state else (places[p.state],))
        for p in parts
    }


def read_console(get: Files, parts: tuple[Part, ...], paths: Sequence[str]) -> dict[str, Paint]:
    """Return what the three lines of a console's palette say, the channels of sixteen colours each."""
    rows = [
        [int(v) for v in line.split(",")]
        for line in text_of(get, paths[0]).splitlines()
        if re.fullmatch(r"\d{1,3}(?:,\d{1,3}){15}", line)
    ]
    if len(rows) != 3:
        return {}
    colours = {str(i): Rgba(*(min(255, v) for v in rgb)) for i, rgb in enumerate(zip(*rows, strict=True))}
    return {p.key: Paint(colours.get(p.fill), colours.get(p.text), None, (), (colours["0"],)) for p in parts}


# Each is given the files, the parts, and the paths that a definition has read, empty for those that are not there.
READERS: dict[str, Callable[[Files, tuple[Part, ...], Sequence[str]], Paints]] = {
    "strip": read_strip,
    "console": read_console,
}
