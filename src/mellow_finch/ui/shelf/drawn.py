"""Cards without a window: for the command line."""

from __future__ import annotations

from collections.abc import Sequence
from pathlib import Path

from ...components.model import NoFiles
from ...disk.write import save
from ...look.dressed import dress, every_component
from ...look.model import Look
from .card import Shape, Subject, card, card_svg, seen_of, sheet
from .desk import ShelfDesk, picture_of

_WIDE = 1600


def subject_of(look: Look) -> Subject:
    """Return a look as it is dressed on an empty home."""
    paints = dict(dress(look, NoFiles(), every_component(look)).paints)
    picture = picture_of(look.source, _WIDE)
    return Subject(look, paints, picture, seen_of(look))


def save_card(looks: Sequence[Look], path: Path, shape: Shape = "wide") -> None:
    """Save a card of a look, as PNG or SVG, or a sheet of several, as PNG.

    Needs an application. Raises FileAccessError.
    """
    subjects = [subject_of(look) for look in looks]
    if path.suffix.lower() == ".svg" and len(subjects) == 1:
        save(path, card_svg(subjects[0], shape))
        return
    image = card(subjects[0], shape) if len(subjects) == 1 else sheet(subjects)
    save(path, ShelfDesk.png(image))
