"""What goes with the colours of a look: icons, cursors, fonts, title-bar buttons. Off until a person asks for it."""

from __future__ import annotations

import re
from typing import NamedTuple

from ..components.model import SHAPE_OPTIONS
from ..language import tr


class Companion(NamedTuple):
    """One thing that goes along: its id among a look's companions, what it is called, and the names it may have."""

    id: str
    title: str
    allowed: re.Pattern[str]


# Names go into settings of desktops: only letters that no store takes for more than that.
_NAME = re.compile(r"[\w][\w .+()-]{0,79}")
_FONT = re.compile(r"[^\W_][\w .'+-]{0,79} \d{1,2}")
_SIZE = re.compile(r"1?\d\d")
_PIXELS = re.compile(r"\d|[1-5]\d|60")
_SIDE = re.compile(r"left|right")
COMPANIONS: tuple[Companion, ...] = (
    Companion("icons", tr("Icons"), _NAME),
    Companion("pointers", tr("Cursor theme"), _NAME),
    Companion("pointer_size", tr("Cursor size"), _SIZE),
    Companion("font", tr("Interface font"), _FONT),
    Companion("document_font", tr("Document font"), _FONT),
    Companion("fixed_font", tr("Fixed-width font"), _FONT),
    Companion("radius", tr("Rounded corners"), _PIXELS),
    Companion("edge", tr("Border width"), _PIXELS),
    Companion("gaps", tr("Gaps between windows"), _PIXELS),
    Companion("density", tr("Density"), re.compile("tight|roomy")),
    Companion("buttons", tr("Title-bar buttons"), _SIDE),
    Companion("compositor", tr("Compositor"), re.compile("on")),
    Companion("sandboxes", tr("Sandboxed programs"), re.compile("read")),
)
COMPANION_BY_ID = {c.id: c for c in COMPANIONS}


_COMPONENT = re.compile(r"[a-z0-9-]{1,80}")


def fits(id_: str, value: str, component: str = "") -> bool:
    """Tell whether a value can be that of a companion, of all components or of one alone."""
    if component and (id_ not in SHAPE_OPTIONS or not _COMPONENT.fullmatch(component)):
        return False
    known = COMPANION_BY_ID.get(id_)
    return known is not None and known.allowed.fullmatch(value) is not None
