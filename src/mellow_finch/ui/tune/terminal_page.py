"""Tune, the terminal: its sixteen colours as a set, and how far apart they are for different eyes."""

from __future__ import annotations

from PyQt6.QtCore import QSize
from PyQt6.QtWidgets import QGridLayout, QLabel, QPushButton, QWidget

from ...colour.rgb import Rgba
from ...colour.vision import Vision
from ...language import decimal, listed, tr
from ...look.edits import with_ansi_set
from ...palette.ansi import APART, nearest_pair
from ...palette.roles import ROLE_BY_ID
from ..kit.parts import SwatchButton, label, plain_column, set_kind
from ..kit.style import Style
from ..model.document import Document

_EYES: tuple[tuple[Vision, str], ...] = (
    ("normal", tr("For most eyes")),
    ("deutan", tr("For deutan eyes")),
    ("protan", tr("For protan eyes")),
)


class TerminalPage(QWidget):
    """Shows the set and solves it anew through the document."""

    def __init__(self, document: Document, style: Style) -> None:
        super().__init__()
        self._document = document
        column = plain_column(self, 8)
        column.addWidget(
            label(
                tr("Sixteen colours that keep their names, can be read, and are told apart from one another."), "quiet"
            )
        )
        grid = QGridLayout()
        grid.setSpacing(4)
        self.swatches: list[SwatchButton] = []
        for i in range(16):
            button = SwatchButton(style, Rgba(0, 0, 0), "", QSize(33, 30))
            button.clicked.connect(lambda _=False, i=i: document.select(f"ansi_{i}"))
            grid.addWidget(button, i // 8, i % 8)
            self.swatches.append(button)
        column.addLayout(grid)
        self.chosen = label("", "quiet")
        column.addWidget(self.chosen)
        column.addWidget(label(tr("The two that are nearest to each other"), "section"))
        near = QGridLayout()
        near.setColumnStretch(2, 1)
        self.near: dict[Vision, tuple[str, tuple[SwatchButton, SwatchButton], QLabel]] = {}
        for row, (vision, title) in enumerate(_EYES):
            pair = (
                SwatchButton(style, Rgba(0, 0, 0), "", QSize(24, 24)),
                SwatchButton(style, Rgba(0, 0, 0), "", QSize(24, 24)),
            )
            words = label("")
            for column_, button in enumerate(pair):
                near.addWidget(button, row, column_)
            near.addWidget(words, row, 2)
            self.near[vision] = (title, pair, words)
        column.addLayout(near)
        self.solve = QPushButton(tr("Solve as a set"))
        self.solve.setToolTip(
            tr("Choose all twelve hues anew: as far apart as can be had for deutan and protan eyes; locked ones stay")
        )
        self.solve.clicked.connect(lambda: document.edit(tr("Solve the terminal's colours"), with_ansi_set))
        column.addWidget(self.solve)
        column.addWidget(label(tr("Distances are CIEDE2000; 10 can be told apart at a glance."), "quiet"))

    def refresh(self) -> None:
        """Show the set of the tone in force."""
        look = self._document.look
        if look is None:
            return
        for i, button in enumerate(self.swatches):
            role = ROLE_BY_ID[f"ansi_{i}"]
            colour = look.colours[role.id]
            words = f"{role.title}, {colour.hex}" + (tr(", locked") if role.id in look.locks else "")
            button.set_colour(colour)
            button.setAccessibleName(words)
            button.setToolTip(words)
            button.set_lit(role.id == self._document.role)
        role_id = self._document.role
        own = ROLE_BY_ID[role_id].title if role_id.startswith("ansi_") else ""
        self.chosen.setText(
            tr("{own} is selected; the Role tab changes it.").format(own=own) if own else tr("Click one to select it.")
        )
        for vision, (title, pair, told) in self.near.items():
            distance, first, second = nearest_pair(look.colours, vision)
            names = listed([ROLE_BY_ID[r].title.partition(", ")[2] for r in (first, second)])
            told.setText(f"{title}: {decimal(distance, 1)}\n{names}")
            set_kind(told, "bad" if vision == "normal" and distance < APART else "")
            for button, role_name in zip(pair, (first, second), strict=True):
                button.set_colour(look.colours[role_name])
                button.setAccessibleName(ROLE_BY_ID[role_name].title)
                button.setToolTip(ROLE_BY_ID[role_name].title)
