"""Choosing colours: what the one chooser is opened with wherever a colour is wanted, and what its answer does."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from functools import partial
from typing import Protocol

from PyQt6.QtCore import QObject, QPoint, QRect
from PyQt6.QtWidgets import QWidget

from ...colour.rgb import Rgba
from ...language import tr
from ...look.edits import with_accent, with_role_by_hand
from ...look.model import Look
from ...look.role_pairs import pairs_of_role, role_limits
from ...palette.roles import ROLE_BY_ID, ROLES
from ...palette.spoken import pair_words
from ..kit.chooser.chooser import ColourChooser, ColourOffer, ColourRequest, PairRatio
from ..kit.style import Style
from .document import Document

_MOST_RECENT = 13
_MOST_FAVOURITES = 39

# Opens the chooser beside a widget with a colour to start from, and calls what is to be done with the one chosen.
AskColour = Callable[[QWidget, Rgba, Callable[[Rgba], object]], object]


class KeepsColours(Protocol):
    """Where colours are kept from one time to the next."""

    def colours(self, kind: str) -> list[Rgba]:
        """Return those that are kept."""

    def keep_colours(self, kind: str, colours: Sequence[Rgba]) -> None:
        """Keep others in their place."""


class ForgetsColours:
    """Keeps colours as long as the window is open."""

    def __init__(self) -> None:
        self._kept: dict[str, list[Rgba]] = {}

    def colours(self, kind: str) -> list[Rgba]:
        """Return those that are kept."""
        return self._kept.get(kind, [])

    def keep_colours(self, kind: str, colours: Sequence[Rgba]) -> None:
        """Keep others in their place."""
        self._kept[kind] = list(colours)


class Choosing(QObject):
    """Opens one chooser at a time. A role follows it live, as one step; everything else takes the colour at the end."""

    def __init__(self, document: Document, style: Style, wallpaper: Callable[[], Sequence[Rgba]]) -> None:
        """wallpaper: gives the colours of the picture that the look is from."""
        super().__init__()
        self._document, self._style, self._wallpaper = document, style, wallpaper
        self.kept: KeepsColours = ForgetsColours()
        self.pick: Callable[[Callable[[Rgba], object]], object] = lambda taken: None  # a colour off the screen
        self.chooser: ColourChooser | None = None
        self._changing = False  # whether a change of the document is the chooser's own
        document.changed.connect(lambda *_: self._look_changed())

    def ask(self, anchor: QWidget, start: Rgba, taken: Callable[[Rgba], object], title: str = "") -> ColourChooser:
        """Choose a colour of its own for anything beside a widget; taken: is given another one, once."""
        chooser = self._open(ColourRequest(title or tr("A separate colour"), start), anchor, anchor.rect())

        def done(kept: bool) -> None:
            if kept and chooser.colour != start.opaque:
                taken(chooser.colour)

        chooser.closed.connect(done)
        return chooser

    def ask_role(self, role: str, anchor: QWidget, at: QPoint | None = None, family: bool = True) -> None:
        """Choose a role's colour beside a widget, or beside a place of it; family: the accent's kin goes along."""
        look = self._document.look
        if look is None or role not in look.colours:
            return
        if role in look.locks:
            words = tr("{title} is locked. Unlock it to change it.")
            self._document.trouble.emit(words.format(title=ROLE_BY_ID[role].title))
            return
        request = ColourRequest(
            ROLE_BY_ID[role].title,
            look.colours[role],
            partial(role_limits, look, role),
            partial(self._ratio, role),
        )
        chooser = self._open(request, anchor, QRect(at, at) if at is not None else anchor.rect())
        gesture = self._document.gesture()
        gesture.begin()
        words = tr("Change {title}").format(title=ROLE_BY_ID[role].title)
        change = with_accent if role == "accent" and family else partial(_by_hand, role=role)

        def edit(change: Callable[[Look], Look]) -> None:
            self._changing = True
            gesture.edit(words, change)
            self._changing = False
            chooser.show_ratio()

        chooser.moved.connect(lambda colour: edit(lambda look: change(look, colour)))
        chooser.closed.connect(lambda kept: None if kept else edit(lambda look: look))

    def _open(self, request: ColourRequest, anchor: QWidget, beside: QRect) -> ColourChooser:
        if self.chooser is not None:
            self.chooser.close_with(True)
        window, look = anchor.window(), self._document.look
        assert window is not None
        offered = ColourOffer(
            [("", colour) for colour in self._wallpaper()],
            [(role.title, look.colours[role.id]) for role in ROLES] if look is not None else (),
            look.colours["accent"] if look is not None else None,
            self.kept.colours("recent"),
            self.kept.colours("favourites"),
        )
        chooser = ColourChooser(window, self._style, request, offered)
        self.chooser = chooser
        chooser.closed.connect(lambda kept: self._closed(chooser, request.start, kept))
        chooser.favourite_asked.connect(self._switch_favourite)
        chooser.screen_asked.connect(lambda: self.pick(chooser.set_colour))
        chooser.open_at(QRect(anchor.mapTo(window, beside.topLeft()), beside.size()))
        chooser.field.setFocus()
        chooser.field.selectAll()
        return chooser

    def _closed(self, chooser: ColourChooser, start: Rgba, kept: bool) -> None:
        self.chooser = None
        if kept and chooser.colour != start.opaque:
            rest = [c for c in self.kept.colours("recent") if c != chooser.colour]
            self.kept.keep_colours("recent", [chooser.colour, *rest][:_MOST_RECENT])

    def _switch_favourite(self, colour: Rgba, wanted: bool) -> None:
        rest = [c for c in self.kept.colours("favourites") if c != colour]
        self.kept.keep_colours("favourites", ([colour] if wanted else []) + rest[: _MOST_FAVOURITES - wanted])
        if self.chooser is not None:
            self.chooser.show_favourites(self.kept.colours("favourites"))

    def _look_changed(self) -> None:
        """Close the chooser when something else changes the look: what it began with is no more."""
        if self.chooser is not None and not self._changing:
            self.chooser.close_with(True)

    def _ratio(self, role: str) -> PairRatio | None:
        """Return how the role's closest pair stands in the look as it is now."""
        look = self._document.look
        rows = pairs_of_role(look, role) if look is not None else []
        return PairRatio(pair_words(rows[0]), rows[0].passes) if rows else None


def _by_hand(look: Look, colour: Rgba, role: str) -> Look:
    return with_role_by_hand(look, role, colour)
