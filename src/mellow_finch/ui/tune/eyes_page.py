"""Tune, other eyes: the desktop as they see it, and which colours they cannot tell apart."""

from __future__ import annotations

from PyQt6.QtCore import QSize, pyqtSignal
from PyQt6.QtWidgets import QButtonGroup, QHBoxLayout, QRadioButton, QVBoxLayout, QWidget

from ...colour.vision import VISIONS, Vision, simulate_colour
from ...language import comma_separated, decimal, plural, titled, tr
from ...palette.apart import confusions
from ...palette.roles import ANSI_NAMES, ROLE_BY_ID
from ..kit.parts import emptied, label, plain_column
from ..kit.style import Style
from ..kit.swatch_button import SwatchButton
from ..model.document import Document
from ..stage.eyes import TITLES

_MOST = 8


class EyesPage(QWidget):
    """Chooses how the stage is seen; lists what is distinguished by hue alone."""

    vision_asked = pyqtSignal(str)

    def __init__(self, document: Document, style: Style) -> None:
        super().__init__()
        self._document, self._style = document, style
        self.vision: Vision = "normal"
        column = plain_column(self, 6)
        self.buttons: dict[Vision, QRadioButton] = {}
        group = QButtonGroup(self)
        for vision in VISIONS:
            title, tip = TITLES[vision]
            button = QRadioButton(title)
            button.setToolTip(tip)
            button.clicked.connect(lambda _=False, vision=vision: self.choose(vision))
            group.addButton(button)
            column.addWidget(button)
            self.buttons[vision] = button
        self.buttons["normal"].setChecked(True)
        self.title = label("", "section")
        column.addWidget(self.title)
        self.list = QVBoxLayout()
        self.list.setSpacing(5)
        column.addLayout(self.list)
        self.note = label("", "quiet")
        column.addWidget(self.note)

    def choose(self, vision: Vision) -> None:
        """See with other eyes."""
        self.vision = vision
        self.buttons[vision].setChecked(True)
        self.vision_asked.emit(vision)
        self.refresh()

    def refresh(self) -> None:
        """Name what the chosen eyes cannot tell apart; for most eyes, count what others cannot."""
        look = self._document.look
        if look is None:
            return
        emptied(self.list)
        if self.vision == "normal":
            counts = {v: len(confusions(look.colours, v)) for v in VISIONS[1:]}
            self.title.setText(tr("Distinguished by hue alone"))
            self.note.setText(
                "\n".join(
                    titled(TITLES[v][0], plural("{count} pair", "{count} pairs", n) if n else tr("none"))
                    for v, n in counts.items()
                )
            )
            return
        found = confusions(look.colours, self.vision)
        self.title.setText(tr("Distinguished by hue alone") if found else tr("All colours are distinguishable"))
        for row in found[:_MOST]:
            line = QHBoxLayout()
            line.setSpacing(2)
            both: tuple[tuple[Vision, str], ...] = (("normal", tr("original")), (self.vision, tr("simulated")))
            for vision, words in both:
                for role in (row.first, row.second):
                    colour = simulate_colour(look.colours[role], vision)
                    button = SwatchButton(
                        self._style, colour, comma_separated((ROLE_BY_ID[role].title, words)), QSize(20, 20)
                    )
                    button.clicked.connect(lambda _=False, role=role: self._document.select(role))
                    line.addWidget(button)
                if vision == "normal":
                    line.addWidget(label("→", "quiet"))
            names = " / ".join(_name(r) for r in (row.first, row.second))
            line.addWidget(label(titled(names, decimal(row.seen, 1))), 1)
            self.list.addLayout(line)
        more = len(found) - _MOST
        notes = [plural("… and {count} more.", "… and {count} more.", more)] if more > 0 else []
        if found:
            notes.append(
                tr("CIEDE2000 under 10. Where they are side by side, a sign or a word should distinguish them too.")
            )
        self.note.setText("\n".join(notes))


def _name(role: str) -> str:
    number = role.removeprefix("ansi_")
    return ANSI_NAMES[int(number)] if number.isdigit() else ROLE_BY_ID[role].title
