"""What goes with the colours of a look: icons, pointers, fonts, title-bar buttons. Off until a person asks for it."""

from __future__ import annotations

import re
from collections.abc import Mapping
from typing import NamedTuple

from ..components.model import OF_ONE
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
    Companion("pointers", tr("Pointers"), _NAME),
    Companion("pointer_size", tr("Pointers' size"), _SIZE),
    Companion("font", tr("Font of windows"), _FONT),
    Companion("document_font", tr("Font of documents"), _FONT),
    Companion("fixed_font", tr("Fixed-width font"), _FONT),
    Companion("radius", tr("Rounded corners"), _PIXELS),
    Companion("edge", tr("Width of borders"), _PIXELS),
    Companion("gaps", tr("Gaps between windows"), _PIXELS),
    Companion("density", tr("Density"), re.compile("tight|roomy")),
    Companion("buttons", tr("Title-bar buttons"), _SIDE),
    Companion("compositor", tr("Compositor"), re.compile("on")),
    Companion("sandboxes", tr("Sandboxed programs"), re.compile("read")),
)
COMPANION_BY_ID = {c.id: c for c in COMPANIONS}


SHAPE = ("radius", "edge", "gaps", "density")
_OWNER = re.compile(r"[a-z0-9-]{1,80}")
_ROOM = {"tight": {"pad": "3", "pad_wide": "7"}, "roomy": {"pad": "12", "pad_wide": "18"}}  # pixels


def options_of(companions: Mapping[str, str]) -> dict[str, str]:
    """Return the words by which files of components name a look's shape and fonts; what is not asked for is absent.

    A font "Marsh Hand 11" gives font (as it is), font_family and font_points; a density gives pad and pad_wide, the
    room above and beside words in pixels. What a single component has otherwise stands behind its id: "rofi/radius".
    """
    out = _words_of(companions)
    for owner in dict.fromkeys(key.rpartition("/")[0] for key in companions if "/" in key):
        own = {k.rpartition("/")[2]: v for k, v in companions.items() if k.startswith(f"{owner}/")}
        out |= {f"{owner}/{word}": value for word, value in _words_of(own).items()}
    return out


def _words_of(companions: Mapping[str, str]) -> dict[str, str]:
    out = {id_: companions[id_] for id_ in SHAPE if id_ in companions}
    out |= _ROOM.get(companions.get("density", ""), {})
    for id_ in ("font", "document_font", "fixed_font"):
        family, _, points = companions.get(id_, "").rpartition(" ")
        if family:
            out |= {id_: companions[id_], f"{id_}_family": family, f"{id_}_points": points}
    return out


def fits(id_: str, value: str) -> bool:
    """Tell whether a value can be that of a companion, of all components or of one ("component/companion")."""
    owner, _, name = id_.rpartition("/")
    if "/" in id_ and (name not in OF_ONE or not _OWNER.fullmatch(owner)):
        return False
    known = COMPANION_BY_ID.get(name)
    return known is not None and known.allowed.fullmatch(value) is not None
