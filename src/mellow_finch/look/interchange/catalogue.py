"""Every palette format there is, in the order in which people see them, and which one a file is in."""

from __future__ import annotations

from pathlib import Path

from ...disk.facts import must_read
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
from .soc import SOC
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
)
INTERCHANGE_BY_ID: dict[str, Interchange] = {f.id: f for f in INTERCHANGES}
SUFFIXES: tuple[str, ...] = tuple(dict.fromkeys(s for f in INTERCHANGES for s in f.suffixes))


def is_palette_name(path: Path) -> bool:
    """Tell by its name whether a file may be a palette."""
    return path.name.endswith(SUFFIXES)


def format_of(name: str, data: bytes) -> Interchange:
    """Return the format of a file: the surest by its content, its name breaking ties.

    Raises ParseError for what is in none of them.
    """
    scores = [(f.sniff(data), name.endswith(f.suffixes), -i, f) for i, f in enumerate(INTERCHANGES)]
    score, _, _, found = max(scores, key=lambda row: row[:3])
    if score == 0:
        named_formats = [f for f in INTERCHANGES if name.endswith(f.suffixes)]
        if not named_formats:
            known = parted(f.title for f in INTERCHANGES)
            raise ParseError(
                tr("“{name}” is in no palette format that is known.").format(name=name),
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
            tr("“{name}” does not say a palette format.").format(name=path.name),
            hint=tr("Use one of {names}.").format(names=parted(SUFFIXES)),
        )
    return found


def export_bytes(look: Look, path: Path, wanted: str = "") -> bytes:
    """Return a look's palette as a file of the format that the name or wanted says."""
    return format_for(path, wanted).of_look(look)
