"""Terminal colours as palettes: X resources, and the escape sequences that set a terminal's colours."""

from __future__ import annotations

import re

from ...colour.rgb import Rgba
from ...components.model import plain_name
from ...components.write.terminal import RESOURCE_NAMES, escape_sequences
from ...language import tr
from ...syntax.literals import NAMES
from ...syntax.spans import Problem
from ...syntax.typed import read_typed
from ..model import Look
from .model import MOST_BYTES, ColourList, Interchange, PaletteEntry, decoded, finished, role_named, unique_slugs

_ROLE_OF = dict(RESOURCE_NAMES)
_NAME_OF = {role: name for name, role in RESOURCE_NAMES}
_LINE = re.compile(r"[ \t]*+([\w.*?-]++)[ \t]*+:[ \t]*+(.*)\Z")
_COLOURED = re.compile(r"(?:color|colour|foreground|background|cursor|highlight|border)", re.IGNORECASE)
_SPEC = re.compile(r"(?:\[\d{1,3}\])?(#[0-9a-fA-F]{3}|#[0-9a-fA-F]{6})\Z")
_DEVICE = re.compile(r"rgb:([0-9a-fA-F]{1,4})/([0-9a-fA-F]{1,4})/([0-9a-fA-F]{1,4})\Z")


def _spec(text: str) -> Rgba | None:
    """Return the colour of #rgb, #rrggbb, rgb:r/g/b with one to four digits each, or a name."""
    found = _SPEC.match(text)
    if found:
        return read_typed(found.group(1))
    device = _DEVICE.match(text)
    if device:
        r, g, b = (round(int(part, 16) / (16 ** len(part) - 1) * 255) for part in device.groups())
        return Rgba(r, g, b)
    return NAMES[text.lower()] if text.lower() in NAMES and text.lower() != "transparent" else None


def read_xresources(data: bytes) -> ColourList:
    """Read the colours of a resource file; lines that speak of colour and have none are listed.

    Raises ParseError when there is none. Of equal names the last counts.
    """
    rows: dict[str, PaletteEntry] = {}
    problems: list[Problem] = []
    for number, line in enumerate(decoded(data[:MOST_BYTES]).splitlines(), 1):
        bare = line.strip()
        if not bare or bare[0] in "!#":
            continue
        found = _LINE.match(line)
        name = re.split(r"[.*]", found.group(1))[-1] if found else ""
        colour = _spec(found.group(2).rstrip(" \t")) if found else None
        if colour is not None:
            rows[name] = PaletteEntry(colour, name, _ROLE_OF.get(name) or role_named(name))
        elif found is not None and _COLOURED.match(name):
            problems.append(
                Problem(number, 1, tr("“{group}” is not a colour for X resources.").format(group=found.group(2)[:40]))
            )
        elif found is None and bare:
            problems.append(Problem(number, 1, tr("“{line}” is not a resource.").format(line=bare[:40])))
    return finished("", rows.values(), problems, tr("resource file"))


def write_xresources(colours: ColourList) -> bytes:
    """Return one loose resource a colour, under the name that terminals know where it has one."""
    rows = []
    for slug, entry in zip(unique_slugs(colours.entries), colours.entries, strict=True):
        rows.append(f"*{_NAME_OF.get(entry.role, slug)}: {entry.colour.opaque.hex}")
    return ("\n".join(rows) + "\n").encode("ascii")


def _export_xresources(look: Look) -> bytes:
    rows = [f"! {plain_name(look.name, look.folder)}, {look.tone}"]
    rows += [f"*{name}: {look.colours[role].hex}" for name, role in RESOURCE_NAMES]
    return ("\n".join(rows) + "\n").encode("utf-8")


XRESOURCES = Interchange(
    id="xresources",
    title="X resources",
    suffixes=(".Xresources", ".Xdefaults", ".xresources", ".xrdb"),
    sniff=lambda data: 60 if re.search(rb"(?m)^[ \t]*[\w.*?-]*[*.]?color\d{1,2}[ \t]*:", data[:200_000]) else 0,
    read=read_xresources,
    write=write_xresources,
    export=_export_xresources,
)

_SEQUENCE = re.compile(r"\x1b\]([^\x07\x1b]{1,4000})(?:\x07|\x1b\\)")
_DYNAMIC = {10: "terminal_text", 11: "terminal", 12: "cursor", 17: "terminal_selection", 19: "terminal_selection_text"}
_CODE_OF = {role: code for code, role in _DYNAMIC.items()}


def read_osc(data: bytes) -> ColourList:
    """Read OSC 4, 10 to 12, 17 and 19 out of a file of escape sequences; others are passed over.

    Raises ParseError when there is no colour.
    """
    entries: list[PaletteEntry] = []
    problems: list[Problem] = []
    for number, found in enumerate(_SEQUENCE.finditer(decoded(data[:MOST_BYTES])), 1):
        code, *rest = found.group(1).split(";")
        if code == "4":
            pairs = list(zip(rest[::2], rest[1::2], strict=False))
        elif code.isascii() and code.isdigit() and len(code) < 4 and int(code) in _DYNAMIC:
            pairs = [(code, rest[0])] if rest else []
        else:
            continue
        for index, spec in pairs:
            colour = _spec(spec)
            if colour is None or not (index.isascii() and index.isdigit() and len(index) < 4):
                problems.append(
                    Problem(
                        number,
                        1,
                        tr("Sequence {number}: “{spec}” is not a colour.").format(number=number, spec=spec[:40]),
                    )
                )
            elif code == "4":
                entries.append(PaletteEntry(colour, f"color{index}", f"ansi_{index}" if int(index) < 16 else ""))
            else:
                entries.append(PaletteEntry(colour, _DYNAMIC[int(code)], _DYNAMIC[int(code)]))
    return finished("", entries, problems, tr("file of escape sequences"))


def write_osc(colours: ColourList) -> bytes:
    """Return sequences for the colours that a terminal has a place for; others go to its places from 16 on."""
    rows, free = [], 16
    for entry in colours.entries:
        if entry.role in _CODE_OF:
            rows.append(f"{_CODE_OF[entry.role]};{entry.colour.opaque.hex}")
        elif entry.role.startswith("ansi_"):
            rows.append(f"4;{entry.role[5:]};{entry.colour.opaque.hex}")
        elif free < 256:
            rows.append(f"4;{free};{entry.colour.opaque.hex}")
            free += 1
    return "".join(f"\x1b]{row}\x1b\\" for row in rows).encode("ascii")


OSC = Interchange(
    id="osc",
    title=tr("Terminal escape sequences"),
    suffixes=(".osc",),
    sniff=lambda data: 90 if b"\x1b]4;" in data[:4000] or b"\x1b]1" in data[:4000] else 0,
    read=read_osc,
    write=write_osc,
    export=lambda look: escape_sequences(look.colours).encode("ascii"),
)
