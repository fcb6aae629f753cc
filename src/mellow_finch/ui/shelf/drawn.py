"""Cards and pages without a window: for the command line."""

from __future__ import annotations

from collections.abc import Sequence
from pathlib import Path

from PyQt6.QtCore import QSize

from ...components.files import NoFiles
from ...disk.write import save
from ...look.carry import read_look
from ...look.dressed import dress, every_component
from ...look.model import Look
from ...shelf.page import ShownLook, shelf_page
from ...shelf.parcel import is_parcel, receive
from ..kit.style import qcolor
from ..stage.lay import small_desktop
from ..stage.scene import HEIGHT, WIDTH, drawn_of
from .card import CardSubject, Shape, card, card_svg, seen_of, sheet
from .desk import ShelfDesk, picture_of

_WIDE = 1600
_ON_PAGE = QSize(720, round(720 * HEIGHT / WIDTH))


def subject_of(look: Look) -> CardSubject:
    """Return a look as it is dressed on an empty home."""
    paints = drawn_of(dress(look, NoFiles(), every_component(look)).paints)
    picture = picture_of(look.source, _WIDE)
    return CardSubject(look, paints, picture, seen_of(look))


def desktop_png(subject: CardSubject) -> bytes:
    """Return the small desktop of a look as it stands on a page."""
    plain = qcolor(subject.look.colours["window"])
    return ShelfDesk.png(small_desktop(_ON_PAGE, subject.picture, subject.paints, plain, subject.seen))


def save_page(rows: Sequence[tuple[Look, tuple[str, ...]]], path: Path) -> None:
    """Save looks with their tags as one page of HTML. Needs an application. Raises FileAccessError."""
    shown = [ShownLook(look, desktop_png(subject_of(look)), tags) for look, tags in rows]
    save(path, shelf_page(shown).encode("utf-8"))


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


def save_thumbnail(file: Path, into: Path, size: int) -> None:
    """Save a small picture of a look's desktop, or of the look in a parcel, as PNG, its longer side `size` pixels.

    Needs an application. Raises ParseError, FileAccessError.
    """
    look = receive(file).look if is_parcel(file) else read_look(file)[0]
    subject = subject_of(look)
    plain = qcolor(look.colours["window"])
    extent = QSize(size, round(size * HEIGHT / WIDTH))
    save(into, ShelfDesk.png(small_desktop(extent, subject.picture, subject.paints, plain, subject.seen)))
