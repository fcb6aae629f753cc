"""Settings files as palettes: terminals' own, tables of named or numbered colours, schemes and editors' themes."""

from __future__ import annotations

import json
import re
import tomllib
from collections.abc import Callable, Iterator, Mapping, Sequence
from contextlib import suppress
from pathlib import Path
from typing import Any, NamedTuple

import tomlkit

from ...colour.gamut import rgba_to_oklch
from ...colour.rgb import Rgba, parse_hex
from ...disk.facts import read_plain
from ...errors import ParseError
from ...language import tr
from ...palette.roles import ROLE_BY_ID
from ...syntax.jsonc import plain_json
from ...syntax.typed import read_typed
from ..model import Look
from .keys import NAMES, OWN, counted_from_one, role_of_key
from .model import MOST_COLOURS, ColourList, Interchange, PaletteEntry, decoded, finished, only_known, unique_slugs

_MOST_BYTES = 4_000_000
_MOST_LINED = 400_000  # letters that are read line by line
_LONGEST = 400  # letters of a line that says one colour, or sixteen
_HEX = re.compile(r"(?:#|0[xX])?([0-9a-fA-F]{8}|[0-9a-fA-F]{6}|[0-9a-fA-F]{3})\Z")
_DIGITS = re.compile(r"[0-9a-fA-F]{6}(?:[0-9a-fA-F]{2})?\Z")
_TRIPLE = re.compile(r"(\d{1,3})\s*,\s*(\d{1,3})\s*,\s*(\d{1,3})\Z")
_COLOUR = re.compile(r"#[0-9a-fA-F]{3,8}\b|rgba?\([^()]{5,60}\)|0[xX][0-9a-fA-F]{6}\b")
_SECTION = re.compile(r"\s*\[+\s*([^\[\]]+?)\s*\]+\s*(?:[#;].*)?\Z")
_ROW = re.compile(
    r"(\s*)(?:local\s+|set\s+(?:-g\s+)?)?[\"']?([A-Za-z_][\w .-]*?)[\"']?\s*(?:[:=]\s*|\s+)(\S.*?)\s*,?\s*\Z"
)
_LIST = re.compile(r"\b(ansi|brights|palette)\b[\"']?\]?\s*[:=]\s*[\[{(]([^\]})]*(?:\)[^\]})]*)*)[\]})]", re.DOTALL)
_PALETTE_ROW = re.compile(r"\s*palette\s*=\s*(\d{1,3})\s*=\s*(\S+)")

Flat = Iterator[tuple[tuple[str, ...], Rgba]]


def colour_of(value: str, bare: bool = True) -> Rgba | None:
    """Return the colour that a value says, None for another value; bare: whether hexadecimal digits alone are one."""
    text = value.strip().strip("\"'").strip()
    found = _HEX.match(text)
    if found and (text[0] == "#" or text[:2].lower() == "0x" or (bare and _DIGITS.match(text))):
        return parse_hex(found.group(1))
    triple = _TRIPLE.match(text)
    if triple:
        values = [int(v) for v in triple.groups()]
        return Rgba(*values) if max(values) < 256 else None
    if "(" in text:
        try:
            return read_typed(text)
        except ValueError:
            return None
    return None


def _of_tree(tree: Any, path: tuple[str, ...] = (), depth: int = 0) -> Flat:
    """Yield the colours of nested tables and lists."""
    if isinstance(tree, Mapping):
        for key, inner in tree.items():
            if depth < 40:
                yield from _of_tree(inner, (*path, str(key)), depth + 1)
    elif isinstance(tree, list):
        for i, inner in enumerate(tree):
            if depth < 40:
                yield from _of_tree(inner, (*path, str(i)), depth + 1)
    elif isinstance(tree, str):
        colour = colour_of(tree)
        if colour is not None:
            yield path, colour


def _of_lines(text: str) -> Flat:
    """Yield the colours of keys with values a line, under sections in brackets or by how far lines are moved in."""
    for found in _LIST.finditer(text):
        for i, word in enumerate(_COLOUR.findall(found.group(2))):
            colour = colour_of(word)
            if colour is not None:
                yield (found.group(1), str(i)), colour
    text = _LIST.sub("", text)
    section: tuple[str, ...] = ()
    outer: list[tuple[int, str]] = []  # keys without a value of their own, with how far they are moved in
    for line in text.splitlines():
        if len(line) > _LONGEST:
            continue
        head = _SECTION.match(line)
        if head:
            section, outer = tuple(re.split(r"[.\s]+", head.group(1).strip("\"'"))), []
            continue
        numbered = _PALETTE_ROW.match(line)
        if numbered:
            colour = colour_of(numbered.group(2))
            if colour is not None:
                yield ("palette", numbered.group(1)), colour
            continue
        opened = re.match(r"(\s*)[\"']?([\w-]+)[\"']?\s*(?::|=\s*\{|:\s*\{)\s*\Z", line)
        row = _ROW.match(line)
        moved_in = len(line) - len(line.lstrip())
        outer = [(wide, key) for wide, key in outer if wide < moved_in]
        if opened:
            outer.append((moved_in, opened.group(2)))
        elif row:
            yield from _of_row((*section, *(key for _, key in outer), row.group(2)), row.group(3))


def _of_row(path: tuple[str, ...], value: str) -> Flat:
    bare = re.sub(r"\s+[#;].*\Z", "", value) if not value.startswith("#") else value.split()[0]
    two = bare.split()
    if path[-1] == "cursor" and len(two) == 2 and (first := colour_of(two[0])) and (second := colour_of(two[1])):
        yield (*path, "text"), first
        yield path, second
        return
    several = [colour_of(word) for word in re.split(r"[:;]", bare.strip("\"'"))]
    if len(several) >= 8 and None not in several[:8]:
        yield from ((("palette", str(i)), colour) for i, colour in enumerate(several) if colour is not None)
        return
    colour = colour_of(bare)
    if colour is not None:
        yield path, colour


def _flat(text: str) -> list[tuple[tuple[str, ...], Rgba]]:
    """Return every colour of a text with where it stands, read as what the text is."""
    start = text.lstrip()[:1]
    found: list[tuple[tuple[str, ...], Rgba]] = []
    with suppress(ValueError, RecursionError):
        found = list(_of_tree(json.loads(plain_json(text)) if start == "{" else tomllib.loads(text)))
    return found or list(_of_lines(text[:_MOST_LINED]))


def read_table(data: bytes) -> ColourList:
    """Read every colour of a settings file, with the role that its key speaks of; the order of the file is kept.

    Raises ParseError when it holds no colour.
    """
    text = decoded(data[:_MOST_BYTES])
    rows = _flat(text)[:MOST_COLOURS]
    roles = [role_of_key(path) for path, _ in rows]
    if counted_from_one(roles, [path[-1] for path, _ in rows]):
        roles = [_one_less(role, path) for role, (path, _) in zip(roles, rows, strict=True)]
    entries = [PaletteEntry(colour, ".".join(path), role) for role, (path, colour) in zip(roles, rows, strict=True)]
    return finished(_own_name(text), entries, (), tr("settings file"))


def _one_less(role: str, path: Sequence[str]) -> str:
    number = re.findall(r"\d+", path[-1])
    return f"ansi_{int(number[-1]) - 1}" if number and 1 <= int(number[-1]) <= 16 else role


def _own_name(text: str) -> str:
    """Return what a scheme calls itself."""
    found = re.search(r"(?m)^\s*[\"']?(?:name|Name|title)[\"']?\s*[:=]\s*[\"']?([^\"'\n,{]{1,80})", text[:20_000])
    return found.group(1).strip() if found else ""


class SettingsForm(NamedTuple):
    """How one program's settings file is written: which section and key a role has, and how a row stands there.

    rest: the section of colours without a role; head: how a section is written; row: how a key and its colour are.
    """

    keys: Mapping[str, tuple[str, str]]
    rest: str
    head: Callable[[str], str]
    row: Callable[[str, Rgba], str]


def _written(form: SettingsForm, colours: ColourList) -> bytes:
    sections: dict[str, list[str]] = {}
    taken: set[str] = set()
    for slug, entry in zip(unique_slugs(colours.entries), colours.entries, strict=True):
        section, key = form.keys.get(entry.role, (form.rest, "")) if entry.role not in taken else (form.rest, "")
        taken.add(entry.role)
        sections.setdefault(section, []).append(form.row(key or f"{OWN}{slug}", entry.colour.opaque))
    text = ""
    for section, rows in sections.items():
        text += form.head(section) + "".join(rows)
    return text.encode("utf-8")


def _exported(form: SettingsForm) -> Callable[[Look], bytes]:
    return only_known(lambda colours: _written(form, colours), form.keys)


def _sixteen(regular: Callable[[int], tuple[str, str]], **others: tuple[str, str]) -> dict[str, tuple[str, str]]:
    return {**{f"ansi_{i}": regular(i) for i in range(16)}, **others}


def _flat_keys(regular: Callable[[int], str], **others: str) -> dict[str, tuple[str, str]]:
    return _sixteen(lambda i: ("", regular(i)), **{role: ("", key) for role, key in others.items()})


def _no_head(_section: str) -> str:
    return ""


def _bracketed(section: str) -> str:
    return f"[{section}]\n"


KITTY_ROWS = SettingsForm(
    _flat_keys(
        lambda i: f"color{i}", terminal="background", terminal_text="foreground", cursor="cursor",
        cursor_text="cursor_text_color", terminal_selection="selection_background",
        terminal_selection_text="selection_foreground",
    ), "", _no_head, lambda key, colour: f"{key} {colour.hex}\n",
)  # fmt: skip
GHOSTTY_ROWS = SettingsForm(
    _flat_keys(
        lambda i: f"palette = {i}", terminal="background", terminal_text="foreground", cursor="cursor-color",
        cursor_text="cursor-text", terminal_selection="selection-background",
        terminal_selection_text="selection-foreground",
    ), "", _no_head,
    lambda key, colour: f"{key}={colour.hex}\n" if key.startswith("palette") else f"{key} = {colour.hex}\n",
)  # fmt: skip


def _of_foot(section: str) -> str:
    """Return how foot calls its section here: from 1.26 on another name, and either keeps the other from starting."""
    newer = re.search(rb"(?m)^[# ]*\[colors-dark\]", read_plain(Path("/etc/xdg/foot/foot.ini")) or b"")
    return _bracketed(f"{section}-dark" if newer else section)


FOOT_ROWS = SettingsForm(
    _sixteen(
        lambda i: ("colors", f"regular{i}" if i < 8 else f"bright{i - 8}"),
        terminal=("colors", "background"), terminal_text=("colors", "foreground"),
        terminal_selection=("colors", "selection-background"),
        terminal_selection_text=("colors", "selection-foreground"),
    ), "colors", _of_foot, lambda key, colour: f"{key}={colour.hex[1:]}\n",
)  # fmt: skip
ALACRITTY_ROWS = SettingsForm(
    _sixteen(
        lambda i: ("colors.normal" if i < 8 else "colors.bright", NAMES[i % 8]),
        terminal=("colors.primary", "background"), terminal_text=("colors.primary", "foreground"),
        cursor=("colors.cursor", "cursor"), cursor_text=("colors.cursor", "text"),
        terminal_selection=("colors.selection", "background"), terminal_selection_text=("colors.selection", "text"),
    ), "colors.more", lambda section: f"[{section}]\n", lambda key, colour: f'{key} = "{colour.hex}"\n',
)  # fmt: skip
PTYXIS_ROWS = SettingsForm(
    _sixteen(
        lambda i: ("Palette", f"Color{i}"), terminal=("Palette", "Background"), terminal_text=("Palette", "Foreground"),
        cursor=("Palette", "Cursor"), cursor_text=("Palette", "CursorForeground"),
    ), "Palette", _bracketed, lambda key, colour: f"{key}={colour.hex}\n",
)  # fmt: skip
KONSOLE_ROWS = SettingsForm(
    _sixteen(
        lambda i: (f"Color{i % 8}" + ("Intense" if i > 7 else ""), "Color"),
        terminal=("Background", "Color"), terminal_text=("Foreground", "Color"),
    ), "More", _bracketed, lambda key, colour: f"{key}={colour.r},{colour.g},{colour.b}\n",
)  # fmt: skip
YAML_ROWS = SettingsForm(
    _sixteen(
        lambda i: ("normal" if i < 8 else "bright", f"  {NAMES[i % 8]}"),
        terminal=("primary", "  background"), terminal_text=("primary", "  foreground"),
        cursor=("cursor", "  cursor"), cursor_text=("cursor", "  text"),
    ), "more", lambda section: f"{section}:\n",
    lambda key, colour: f'{key if key.startswith("  ") else "  " + key}: "{colour.hex}"\n',
)  # fmt: skip

_SCHEME_KEYS = {
    **{f"ansi_{i}": NAMES[i] if i < 8 else f"bright{NAMES[i - 8].capitalize()}" for i in range(16)},
    "ansi_5": "purple", "ansi_13": "brightPurple", "terminal": "background", "terminal_text": "foreground",
    "cursor": "cursorColor", "terminal_selection": "selectionBackground",
}  # fmt: skip
_EDITOR_KEYS = {
    **{f"ansi_{i}": f"terminal.ansi{'Bright' if i > 7 else ''}{NAMES[i % 8].capitalize()}" for i in range(16)},
    "terminal": "terminal.background", "terminal_text": "terminal.foreground", "cursor": "terminalCursor.foreground",
    "view": "editor.background", "view_text": "editor.foreground", "sidebar": "sideBar.background",
    "sidebar_text": "sideBar.foreground", "header": "titleBar.activeBackground",
    "header_text": "titleBar.activeForeground", "accent": "button.background", "accent_text": "button.foreground",
}  # fmt: skip


def _object(keys: Mapping[str, str], colours: ColourList) -> dict[str, str]:
    out: dict[str, str] = {}
    for slug, entry in zip(unique_slugs(colours.entries), colours.entries, strict=True):
        key = keys.get(entry.role, "")
        out[key if key and key not in out else f"{OWN}{slug}"] = entry.colour.opaque.hex
    return out


def _scheme(colours: ColourList) -> bytes:
    told = {"name": colours.name or "Palette", **_object(_SCHEME_KEYS, colours)}
    return (json.dumps(told, indent=2, ensure_ascii=False) + "\n").encode("utf-8", "replace")


def _editor_theme(colours: ColourList) -> bytes:
    told = {"name": colours.name or "Palette", "colors": _object(_EDITOR_KEYS, colours)}
    return (json.dumps(told, indent=2, ensure_ascii=False) + "\n").encode("utf-8", "replace")


_LUA_KEYS = {
    "terminal": "background", "terminal_text": "foreground", "cursor": "cursor_bg", "cursor_text": "cursor_fg",
    "terminal_selection": "selection_bg", "terminal_selection_text": "selection_fg",
}  # fmt: skip


def _lua(colours: ColourList) -> bytes:
    """Return a table in TOML as a terminal reads it that is set up by scripts: two lists and a few keys."""
    by = {entry.role: entry.colour.opaque.hex for entry in reversed(colours.entries)}
    document = tomlkit.document()
    table = tomlkit.table()
    for role, key in _LUA_KEYS.items():
        if role in by:
            table.add(key, by[role])
    for key, start in (("ansi", 0), ("brights", 8)):
        if all(f"ansi_{i}" in by for i in range(start, start + 8)):
            table.add(key, [by[f"ansi_{i}"] for i in range(start, start + 8)])
    left = [(s, e) for s, e in zip(unique_slugs(colours.entries), colours.entries, strict=True) if not _has(by, e)]
    for slug, entry in left:
        table.add(f"{OWN}{slug}", entry.colour.opaque.hex)
    document.add("colors", table)
    return tomlkit.dumps(document).encode("utf-8")


def _has(by: Mapping[str, str], entry: PaletteEntry) -> bool:
    """Tell whether a colour stands under a key of its role already."""
    number = entry.role.removeprefix("ansi_") if entry.role.startswith("ansi_") else ""
    if number:
        start = int(number) // 8 * 8
        return all(f"ansi_{i}" in by for i in range(start, start + 8)) and by[entry.role] == entry.colour.opaque.hex
    return entry.role in _LUA_KEYS and by[entry.role] == entry.colour.opaque.hex


_HUES = (29.0, 142.0, 110.0, 264.0, 328.0, 195.0)  # OKLCH, of red to cyan in their order
_NEAR_HUE = 55.0  # degrees


def read_hex_list(data: bytes) -> ColourList:
    """Read a colour a line, words after it as its name. Raises ParseError when there is none."""
    entries: list[PaletteEntry] = []
    for line in decoded(data[:_MOST_BYTES]).splitlines():
        first, _, rest = line.strip().partition(" ")
        colour = colour_of(first.rstrip(",;"))
        if colour is not None and len(entries) < MOST_COLOURS:
            name = rest.strip()
            known = next((r.id for r in ROLE_BY_ID.values() if r.title == name), "")
            entries.append(PaletteEntry(colour.opaque, name, known))
    if len(entries) == 16 and not any(e.name for e in entries) and _in_order(entries):
        entries = [PaletteEntry(e.colour, "", f"ansi_{i}") for i, e in enumerate(entries)]
    return finished("", entries, (), tr("list of colours"))


def _in_order(entries: Sequence[PaletteEntry]) -> bool:
    """Tell whether sixteen colours stand in a terminal's order: those of the six hues have them."""
    hues = (rgba_to_oklch(e.colour)[2] for e in entries[1:7])
    near = sum(abs((own - usual + 180) % 360 - 180) < _NEAR_HUE for own, usual in zip(hues, _HUES, strict=True))
    return near >= len(_HUES) - 1


def write_hex_list(colours: ColourList) -> bytes:
    """Return a colour a line with its name."""
    rows = (f"{e.colour.opaque.hex} {' '.join(e.name.split())}".rstrip() + "\n" for e in colours.entries)
    return "".join(rows).encode("utf-8", "replace")


def _is_hex_list(data: bytes) -> int:
    lines = [line.strip() for line in data[:4000].decode("utf-8", "replace").splitlines()[:-1] if line.strip()]
    good = sum(1 for line in lines if colour_of(line.split()[0].rstrip(",;")) is not None)
    return 45 if lines and good >= 0.8 * len(lines) and good >= 2 else 0


def _sniff(pattern: bytes, score: int) -> Callable[[bytes], int]:
    known = re.compile(pattern)
    return lambda data: score if known.search(data[:200_000]) and b"\0" not in data[:4000] else 0


def _is_table(data: bytes) -> int:
    """Return how sure it is that a text has at least eight of the sixteen by names or numbers."""
    if b"\0" in data[:4000] or data[:1] in (b"<", b"%"):
        return 0
    try:
        found = {role_of_key(path) for path, _ in _flat(decoded(data[:200_000]))}
    except ParseError:
        return 0
    return 48 if sum(1 for role in found if role.startswith("ansi_")) >= 8 else 0


def _settings(
    id_: str, title: str, suffixes: tuple[str, ...], sniff: bytes, score: int, form: SettingsForm
) -> Interchange:
    return Interchange(
        id=id_, title=title, suffixes=suffixes, sniff=_sniff(sniff, score), read=read_table,
        write=lambda colours: _written(form, colours), export=_exported(form),
    )  # fmt: skip


KITTY = _settings("kitty", "kitty", (".kitty.conf",), rb"(?m)^color\d{1,2}[ \t]+#", 70, KITTY_ROWS)
GHOSTTY = _settings("ghostty", "Ghostty", (".ghostty",), rb"(?m)^palette[ \t]*=[ \t]*\d+[ \t]*=", 80, GHOSTTY_ROWS)
FOOT = _settings("foot", "foot", (".foot.ini",), rb"(?m)^regular0[ \t]*=[ \t]*[0-9a-fA-F]{6}", 80, FOOT_ROWS)
ALACRITTY = _settings(
    "alacritty", "Alacritty", (".alacritty.toml",), rb"(?m)^\[colors\.(?:normal|primary)\]", 80, ALACRITTY_ROWS
)
PTYXIS = _settings("ptyxis", "Ptyxis", (".palette",), rb"(?m)^\[(?:Palette|Light|Dark)\]\s*$", 82, PTYXIS_ROWS)
KONSOLE = _settings("konsole", "Konsole", (".colorscheme",), rb"(?m)^\[Color\dIntense\]", 85, KONSOLE_ROWS)
YAML = Interchange(
    id="yaml", title=tr("Table in YAML"), suffixes=(".yaml", ".yml"),
    sniff=_sniff(rb"(?m)^(?:normal|bright|colors):", 60),
    read=read_table, write=lambda colours: _written(YAML_ROWS, colours), export=_exported(YAML_ROWS),
)  # fmt: skip
WEZTERM = Interchange(
    id="wezterm", title="WezTerm", suffixes=(".wezterm.toml", ".wezterm.lua"),
    sniff=_sniff(rb"\bbrights\b[\"']?\]?[ \t]*=[ \t]*[\[{]", 75),
    read=read_table, write=_lua, export=only_known(_lua, KITTY_ROWS.keys),
)  # fmt: skip
SCHEME = Interchange(
    id="scheme", title=tr("Terminal scheme in JSON"), suffixes=(".scheme.json",),
    sniff=_sniff(rb"\"bright(?:Black|Red)\"", 75),
    read=read_table, write=_scheme, export=only_known(_scheme, _SCHEME_KEYS),
)  # fmt: skip
EDITOR = Interchange(
    id="editor", title=tr("VS Code colour theme"), suffixes=("-color-theme.json",),
    sniff=_sniff(rb"\"(?:editor\.background|terminal\.ansiBlack)\"", 78),
    read=read_table, write=_editor_theme, export=only_known(_editor_theme, _EDITOR_KEYS),
)  # fmt: skip
# Whatever else names or numbers its colours: it is read alone.
TABLE = Interchange(
    id="table", title=tr("Settings with colours"), suffixes=(), sniff=_is_table, read=read_table,
    write=lambda colours: _written(KITTY_ROWS, colours), export=None,
)  # fmt: skip
HEX_LIST = Interchange(
    id="hex", title=tr("List of hex colours"), suffixes=(".hex", ".txt"), sniff=_is_hex_list, read=read_hex_list,
    write=write_hex_list,
)  # fmt: skip
