"""Every palette format there is, in the order in which people see them, and which one a file is in."""

from __future__ import annotations

from pathlib import Path

from ...disk.facts import first_bytes, must_read
from ...errors import ParseError
from ...language import parted, tr
from ..model import Look
from .aco import ACO
from .ase import ASE
from .css import CSS, GTK
from .gpl import GPL
from .jasc import JASC
from .kde import KDE_COLORS
from .model import MOST_BYTES, ColourList, Interchange
from .painters import ASEPRITE, KPL, SCRIBUS, SVG
from .plist import PLIST
from .soc import SOC
from .tables import ALACRITTY, EDITOR, FOOT, GHOSTTY, HEX_LIST, KITTY, KONSOLE, PTYXIS, SCHEME, TABLE, WEZTERM, YAML
from .terminals import OSC, XRESOURCES
from .tokens import TOKENS

INTERCHANGES: tuple[Interchange, ...] = (
    GPL,
    ASE,
    ACO,
    SOC,
    JASC,
    CSS,
    GTK,
    TOKENS,
    XRESOURCES,
    OSC,
    KDE_COLORS,
    KITTY,
    ALACRITTY,
    FOOT,
    GHOSTTY,
    WEZTERM,
    KONSOLE,
    PTYXIS,
    PLIST,
    SCHEME,
    YAML,
    EDITOR,
    HEX_LIST,
    KPL,
    SCRIBUS,
    SVG,
    ASEPRITE,
)
_READ: tuple[Interchange, ...] = (*INTERCHANGES, TABLE)
INTERCHANGE_BY_ID: dict[str, Interchange] = {f.id: f for f in INTERCHANGES}
SUFFIXES: tuple[str, ...] = tuple(dict.fromkeys(s for f in INTERCHANGES for s in f.suffixes))


_OF_MANY = (".txt", ".xml", ".svg", ".yaml", ".yml")  # endings of much else too
_SURE = tuple(s for s in SUFFIXES if s not in _OF_MANY)
_LEAST = 45  # what a file of another name must come to, so that it is taken for a palette
_HEAD = 200_000


def is_palette_name(path: Path) -> bool:
    """Tell by its name whether a file may be a palette."""
    return path.name.endswith(_SURE)


def holds_palette(path: Path) -> bool:
    """Tell by its name, or by what is in it, whether a file is a palette. Raises FileAccessError."""
    if is_palette_name(path):
        return True
    head = first_bytes(path, _HEAD) if path.is_file() else b""
    return bool(head) and max(f.sniff(head) for f in _READ) >= _LEAST


def format_of(name: str, data: bytes) -> Interchange:
    """Return the format of a file: the surest by its content, its name breaking ties.

    Raises ParseError for what is in none of them.
    """
    scores = [(f.sniff(data), name.endswith(f.suffixes), -i, f) for i, f in enumerate(_READ)]
    score, _, _, found = max(scores, key=lambda row: row[:3])
    if score == 0:
        named_formats = [f for f in INTERCHANGES if name.endswith(f.suffixes)]
        if not named_formats:
            known = parted(f.title for f in INTERCHANGES)
            raise ParseError(
                tr("“{name}” is not in a known palette format.").format(name=name),
                hint=tr("Known are: {known}.").format(known=known),
            )
        return named_formats[0]
    return found


def read_palette(path: Path) -> ColourList:
    """Read a palette file of any known format. Raises FileAccessError or ParseError, which names the file."""
    path = Path(path)
    data = must_read(path, MOST_BYTES)
    if not data:
        raise ParseError(tr("“{name}” is empty.").format(name=path.name))
    try:
        found = format_of(path.name, data).read(data)
    except ParseError as error:
        where = (
            tr("“{name}”, line {line_number}").format(name=path.name, line_number=error.line_number)
            if error.line_number
            else f"“{path.name}”"
        )
        message = str(error) if path.name in str(error) else f"{where}: {error}"
        raise ParseError(message, error.line_number, error.column, error.hint) from error
    return ColourList(found.name or path.name.partition(".")[0] or path.name, found.entries, found.problems)


def format_for(path: Path, wanted: str = "") -> Interchange:
    """Return the format that a look is exported in: the one asked for by id, else by the file's ending.

    Raises ParseError when neither says one.
    """
    if wanted:
        if wanted not in INTERCHANGE_BY_ID:
            raise ParseError(
                tr("There is no palette format “{wanted}”.").format(wanted=wanted),
                hint=tr("Known are {names}.").format(names=parted(INTERCHANGE_BY_ID)),
            )
        return INTERCHANGE_BY_ID[wanted]
    found = next((f for f in INTERCHANGES if path.name.endswith(f.suffixes)), None)
    if found is None:
        raise ParseError(
            tr("The name “{name}” does not tell the palette format.").format(name=path.name),
            hint=tr("Use one of {names}.").format(names=parted(SUFFIXES)),
        )
    return found


def export_bytes(look: Look, path: Path, wanted: str = "") -> bytes:
    """Return a look's palette as a file of the format that the name or wanted says."""
    return format_for(path, wanted).of_look(look)
