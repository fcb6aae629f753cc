"""Gather, without a picture: schemes that ship, palette files, and themes that exist already."""

from __future__ import annotations

from collections.abc import Sequence

from PyQt6.QtCore import pyqtSignal
from PyQt6.QtWidgets import QGridLayout, QPushButton, QWidget

from ...language import plural, tr
from ...look.model import Origin
from ...look.ready import READY
from ...syntax.spans import Problem
from ..kit.flow import Flow
from ..kit.parts import label, plain_column
from ..kit.style import Style
from .reading_card import SchemeCard
from .taken_list import TakenList

_MOST_PROBLEMS = 12


class SchemesPage(QWidget):
    """Says what the person wants; the window does it."""

    scheme_chosen = pyqtSignal(str)
    import_asked = pyqtSignal()
    export_asked = pyqtSignal()
    theme_asked = pyqtSignal()
    worn_asked = pyqtSignal()

    def __init__(self, style: Style, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        column = plain_column(self, 6)
        column.addWidget(label(tr("Your own file"), "section"))
        grid = Flow(6)
        self.buttons: dict[str, QPushButton] = {}
        for name, words, tip, signal in (
            ("import", tr("Import palette…"), tr("Use the colours of a palette file"), self.import_asked),
            ("export", tr("Export palette…"), tr("Export this look's colours as a palette file"), self.export_asked),
            (
                "theme",
                tr("From a theme…"),
                tr("Use a theme's colours in their roles, then change some"),
                self.theme_asked,
            ),
            (
                "worn",
                tr("From the applied theme"),
                tr("Use the colours applied in this home folder now"),
                self.worn_asked,
            ),
        ):
            button = QPushButton(words)
            button.setToolTip(tip)
            button.clicked.connect(signal)
            grid.addWidget(button)
            self.buttons[name] = button
        self.buttons["export"].setEnabled(False)
        column.addLayout(grid)
        self.problem_title = label("", "bad")
        self.problem_list = label("", "quiet")
        column.addWidget(self.problem_title)
        column.addWidget(self.problem_list)
        self.taken = TakenList()
        column.addWidget(self.taken)
        column.addWidget(label(tr("Built-in schemes"), "section"))
        cards = QGridLayout()
        cards.setSpacing(4)
        self.cards: dict[str, SchemeCard] = {}
        for i, scheme in enumerate(READY):
            card = SchemeCard(style, scheme)
            card.clicked.connect(lambda _=False, name=scheme.id: self.scheme_chosen.emit(name))
            cards.addWidget(card, i // 2, i % 2)
            self.cards[scheme.id] = card
        column.addLayout(cards)
        self.show_problems("", ())
        self.taken.hide()

    def show_origin(self, origin: Origin | None) -> None:
        """Mark the scheme that the look comes from."""
        for scheme in READY:
            self.cards[scheme.id].setChecked(origin == Origin("scheme", scheme.title))

    def show_problems(self, name: str, problems: Sequence[Problem]) -> None:
        """List what could not be read of a file, each with its line."""
        self.problem_title.setVisible(bool(problems))
        self.problem_list.setVisible(bool(problems))
        if problems:
            count = len(problems)
            self.problem_title.setText(
                plural(
                    "{name}: {count} line could not be read",
                    "{name}: {count} lines could not be read",
                    count,
                    name=name,
                )
            )
            rows = [
                tr("Line {line}: {message}").format(line=p.line, message=p.message) for p in problems[:_MOST_PROBLEMS]
            ]
            if count > len(rows):
                rows.append(plural("… and {count} more.", "… and {count} more.", count - len(rows)))
            self.problem_list.setText("\n".join(rows))
