"""What a look took from a theme: each role with its colour and where the theme says it, and what else it could be."""

from __future__ import annotations

from collections.abc import Mapping

from PyQt6.QtCore import QPoint, QSize, Qt, pyqtSignal
from PyQt6.QtWidgets import QGridLayout, QMenu, QPushButton, QWidget

from ...colour.rgb import Rgba
from ...components.catalogue import COMPONENT_BY_ID
from ...language import comma_separated, named, plural, states, tr
from ...look.from_theme import Taken, TakenColour
from ...palette.roles import ROLE_BY_ID, ROLE_IDS
from ..kit.parts import label, swatch

_FIRST = ("window", "view", "header", "menu", "panel", "selection", "accent", "window_text")
_MOST_OTHERS = 8
_SWATCH = QSize(16, 16)


def place_words(taken: TakenColour) -> str:
    """Return where a theme says a colour: a component and its part, or the name that its stylesheet gives it."""
    known = COMPONENT_BY_ID.get(taken.component)
    if known is None:
        return f"@{taken.name}"
    part = known.by_key[taken.part]
    return comma_separated(filter(None, (known.title, named(part.id), states(part.state))))


class TakenList(QWidget):
    """Shown only where the look comes from a theme that was read since the program began."""

    other_chosen = pyqtSignal(str, object)  # a role, and another colour that the theme has for it
    role_asked = pyqtSignal(str, object, object)  # a role whose whole menu is wanted, where, and of which widget

    def __init__(self) -> None:
        super().__init__()
        self._grid = QGridLayout(self)
        self._grid.setContentsMargins(0, 0, 0, 0)
        self._grid.setVerticalSpacing(2)
        self._grid.setColumnStretch(1, 1)
        self.rows: dict[str, tuple[QPushButton, QWidget]] = {}
        self.more = QPushButton()
        self.more.clicked.connect(lambda: self._show_rows(True))
        self._taken: Taken = {}
        self._colours: Mapping[str, Rgba] = {}

    def show_taken(self, taken: Taken, colours: Mapping[str, Rgba]) -> None:
        """Show what was taken, nothing for an empty one; colours: of the look as it is now, by role."""
        if taken != self._taken:
            self._taken, self._colours = taken, {}
            self._make_rows()
        for role, (button, _) in self.rows.items():
            if self._colours.get(role) != colours[role]:
                button.setIcon(swatch(colours[role], _SWATCH))
        self._colours = colours
        self.setVisible(bool(taken))

    def _make_rows(self) -> None:
        self._grid.removeWidget(self.more)
        while (item := self._grid.takeAt(0)) is not None:
            if (old := item.widget()) is not None:
                old.deleteLater()
        self.rows = {}
        roles = sorted((r for r in ROLE_IDS if r in self._taken), key=lambda r: (r not in _FIRST, ROLE_IDS.index(r)))
        self._grid.addWidget(label(tr("Taken from the theme"), "section"), 0, 0, 1, 2)
        for i, role in enumerate(roles, 1):
            button = QPushButton(f" {ROLE_BY_ID[role].title}")
            button.setAccessibleName(ROLE_BY_ID[role].title)
            button.setToolTip(tr("Use another colour of the theme"))
            button.setAccessibleDescription(place_words(self._taken[role][0]))
            button.clicked.connect(lambda _=False, role=role: self.menu_of(role).exec(self._below(role)))
            where = label(place_words(self._taken[role][0]), "quiet")
            self._grid.addWidget(button, i, 0)
            self._grid.addWidget(where, i, 1)
            self.rows[role] = (button, where)
        self.more.setText(plural("Show all {count} role", "Show all {count} roles", len(roles)))
        self._grid.addWidget(self.more, len(roles) + 1, 0, 1, 2)
        self._show_rows(len(roles) <= len(_FIRST))

    def _show_rows(self, whole: bool) -> None:
        for role, row in self.rows.items():
            for widget in row:
                widget.setVisible(whole or role in _FIRST)
        self.more.setVisible(not whole)

    def _below(self, role: str) -> QPoint:
        button = self.rows[role][0]
        return button.mapToGlobal(button.rect().bottomLeft())

    def menu_of(self, role: str) -> QMenu:
        """Return the menu of a role: what the theme says of it, each a choice, and everything else that can be done."""
        menu = QMenu(self)
        menu.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)
        for taken in self._taken[role][:_MOST_OTHERS]:
            words = f"{taken.colour.hex}\t{place_words(taken)}"
            action = menu.addAction(swatch(taken.colour, _SWATCH), words)
            if action is not None:
                if taken.colour.opaque == self._colours[role].opaque:
                    menu.setDefaultAction(action)  # which stands out
                action.triggered.connect(lambda _=False, colour=taken.colour: self.other_chosen.emit(role, colour))
        menu.addSeparator()
        other = menu.addAction(tr("Another colour…"))
        if other is not None:
            other.triggered.connect(lambda: self.role_asked.emit(role, self._below(role), self))
        return menu
