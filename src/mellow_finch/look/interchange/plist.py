"""Property lists of terminals: a dictionary a colour, its channels as numbers from 0 to 1."""

from __future__ import annotations

import plistlib
import re
from collections.abc import Mapping
from typing import Any

from ...colour.rgb import Rgba
from ...errors import ParseError
from ...language import tr
from ...syntax.spans import Problem
from .keys import OWN, role_of_key
from .model import MOST_COLOURS, ColourList, Interchange, PaletteEntry, finished, only_known, unique_slugs

_KEYS = {
    **{f"ansi_{i}": f"Ansi {i} Color" for i in range(16)},
    "terminal": "Background Color",
    "terminal_text": "Foreground Color",
    "cursor": "Cursor Color",
    "cursor_text": "Cursor Text Color",
    "terminal_selection": "Selection Color",
    "terminal_selection_text": "Selected Text Color",
}
_CHANNELS = ("Red Component", "Green Component", "Blue Component")


def read_plist(data: bytes) -> ColourList:
    """Read every dictionary of channels; those that cannot be read are listed.

    Raises ParseError when it is no property list or holds no colour. Entities are refused.
    """
    if b"<!ENTITY" in data[:1_000_000]:
        raise ParseError(tr("The file declares entities or an encoding that a colour table does not use."))
    try:
        tree = plistlib.loads(data)
    except Exception as error:  # the reader raises whatever its parts raise
        raise ParseError(tr("The file is damaged or is not a property list.")) from error
    entries: list[PaletteEntry] = []
    problems: list[Problem] = []
    rows = tree.items() if isinstance(tree, Mapping) else ()
    for number, (name, value) in enumerate(rows, 1):
        if not isinstance(value, Mapping) or not set(_CHANNELS) & set(value) or len(entries) >= MOST_COLOURS:
            continue
        colour = _colour(value)
        if colour is None:
            words = tr("Entry {count}: “{name}” is not a colour.").format(count=number, name=str(name)[:40])
            problems.append(Problem(number, 1, words))
        else:
            entries.append(PaletteEntry(colour, str(name), role_of_key((str(name),))))
    return finished("", entries, problems, tr("property list"))


def _colour(value: Mapping[str, Any]) -> Rgba | None:
    channels = [value.get(name, 0) for name in _CHANNELS]
    if not all(isinstance(c, int | float) and 0 <= c <= 1 for c in channels):
        return None
    return Rgba(*(round(float(c) * 255) for c in channels))


def write_plist(colours: ColourList) -> bytes:
    """Return the list; translucency has no place in it and is left out."""
    tree: dict[str, dict[str, object]] = {}
    for slug, entry in zip(unique_slugs(colours.entries), colours.entries, strict=True):
        key = _KEYS.get(entry.role, "")
        told: dict[str, object] = {n: c / 255 for n, c in zip(_CHANNELS, entry.colour[:3], strict=True)}
        tree[key if key and key not in tree else f"{OWN}{slug}"] = {"Color Space": "sRGB", **told}
    return plistlib.dumps(tree, sort_keys=False)


PLIST = Interchange(
    id="plist",
    title=tr("Terminal property list"),
    suffixes=(".itermcolors",),
    sniff=lambda data: 88 if re.search(rb"<key>(?:Ansi \d+|Background) Color</key>", data[:200_000]) else 0,
    read=read_plist,
    write=write_plist,
    export=only_known(write_plist, _KEYS),
)
