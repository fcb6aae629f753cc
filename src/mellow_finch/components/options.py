"""Shape and fonts, in the words by which the files of components name them."""

from __future__ import annotations

from collections.abc import Mapping

SHAPE = ("radius", "edge", "gaps", "density")
_ROOM = {"tight": {"pad": "3", "pad_wide": "7"}, "roomy": {"pad": "12", "pad_wide": "18"}}  # pixels


def options_of(companions: Mapping[str, str]) -> dict[str, str]:
    """Return the words by which files of components name shape and fonts; what is not asked for is absent.

    A font "Marsh Hand 11" gives font (as it is), font_family and font_points; a density gives pad and pad_wide, the
    room above and beside words in pixels.
    """
    out = {id_: companions[id_] for id_ in SHAPE if id_ in companions}
    out |= _ROOM.get(companions.get("density", ""), {})
    for id_ in ("font", "document_font", "fixed_font"):
        family, _, points = companions.get(id_, "").rpartition(" ")
        if family:
            out |= {id_: companions[id_], f"{id_}_family": family, f"{id_}_points": points}
    return out
