"""A colour picked off the whole screen: for the role that is selected in Tune, else as a pin."""

from __future__ import annotations

from collections.abc import Callable
from typing import TYPE_CHECKING

from PyQt6.QtCore import QObject, pyqtSignal

from ...colour.rgb import Rgba
from ...language import tr
from ...palette.roles import ROLE_BY_ID
from ...palette.spoken import nearest_role
from ..gather.screen_pick import ScreenPicker
from ..model.document import Document
from ..model.opening import Opening

if TYPE_CHECKING:
    from .talk import Talk

_SAME = 0.004  # OKLab distance up to which a colour is a role's


class Picking(QObject):
    """Asks for a colour of the screen and hands it on."""

    trouble = pyqtSignal(str)
    for_role = pyqtSignal(object)  # the colour for the selected role

    def __init__(self, talk: Talk, document: Document, opening: Opening) -> None:
        super().__init__()
        self._talk, self._document, self._opening = talk, document, opening
        self._is_for_role = False
        self._give: Callable[[Rgba], object] | None = None  # who asked, where it is neither of the two
        self.picker = ScreenPicker(talk.widget, talk.jobs, self.name_colour)
        self.picker.taken.connect(self._taken)
        self.picker.trouble.connect(self.trouble)

    def pick(self, for_role: bool | None = None) -> None:
        """Begin to pick; for_role: what for, by the step in sight where it is not said."""
        self._give = None
        self._is_for_role = self._talk.step == "tune" if for_role is None else for_role
        self.picker.pick()

    def pick_for(self, taken: Callable[[Rgba], object]) -> None:
        """Begin to pick for somebody who asks."""
        self._give = taken
        self.picker.pick()

    def name_colour(self, colour: Rgba) -> str:
        """Return the role that a colour of the screen is nearest to, in words."""
        look = self._document.look
        if look is None:
            return ""
        role, distance = nearest_role(colour, look.colours)
        words = tr("is {role}") if distance < _SAME else tr("near {role}")
        return words.format(role=ROLE_BY_ID[role].title)

    def _taken(self, colour: Rgba) -> None:
        if self._give is not None:
            self._give(colour)
        elif self._document.look is None:
            self.trouble.emit(tr("Choose an image or a scheme first: there is no look for the colour yet."))
        elif self._is_for_role:
            self.for_role.emit(colour)
        else:
            self._opening.add_pin(colour)
