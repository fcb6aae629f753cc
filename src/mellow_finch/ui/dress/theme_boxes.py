"""Parts of a theme's page: names from another computer, parts with a contrast of their own, themes of an archive."""

from __future__ import annotations

from collections.abc import Collection, Mapping, Sequence

from PyQt6.QtCore import pyqtSignal
from PyQt6.QtWidgets import QCheckBox, QGridLayout, QHBoxLayout, QLineEdit, QPushButton, QVBoxLayout, QWidget

from ...components.decisions import Slot
from ...language import plural, tr
from ...look.theme_edits import with_words
from ...palette.roles import ROLE_BY_ID
from ...theme.bundle.foreign import ForeignName
from ...theme.sheets.surfaces import OWN_CONTRAST
from ..kit.parts import Choice, emptied, label, plain_column
from ..model.document import Document


class WordsBox(QWidget):
    """Names from another computer: what each is, and what is written instead, in every file at once."""

    def __init__(self, document: Document) -> None:
        super().__init__()
        self._document = document
        column = plain_column(self, 6)
        self.title = label("", "section")
        column.addWidget(self.title)
        self._grid = QGridLayout()
        self._grid.setColumnStretch(1, 1)
        column.addLayout(self._grid)
        self.fields: dict[str, QLineEdit] = {}
        row = QHBoxLayout()
        self.replace = QPushButton(tr("Replace in every file"))
        self.replace.setToolTip(tr("Replace them with this computer's names, in every file"))
        self.replace.clicked.connect(self._replace)
        self.leave = QPushButton(tr("Keep them"))
        self.leave.setToolTip(tr("Keep these names as they are"))
        self.leave.clicked.connect(self._leave)
        row.addWidget(self.replace)
        row.addWidget(self.leave)
        row.addStretch(1)
        column.addLayout(row)
        self._shown: tuple[ForeignName, ...] = ()

    def show_words(self, words: tuple[ForeignName, ...], chosen: Mapping[str, str]) -> None:
        """Show the words of a theme and what the look writes instead."""
        self.setVisible(bool(words))
        if words != self._shown:
            self._shown = words
            emptied(self._grid)
            self.fields = {}
            for i, word in enumerate(words):
                told = label(f"{word.text}", wrap=False)
                told.setToolTip(
                    word.says + "\n" + "\n".join(tr("{p}, line {n}").format(p=p, n=n) for p, n in word.places[:12])
                )
                field = QLineEdit()
                field.setAccessibleName(tr("Instead of {text}").format(text=word.text))
                field.setPlaceholderText(tr("keep it"))
                field.setToolTip(word.says)
                field.setText(word.instead)
                self._grid.addWidget(told, i, 0)
                self._grid.addWidget(field, i, 1)
                self.fields[word.text] = field
        here = [w.text for w in words]
        done = [w for w in here if chosen.get(w)]
        for text in done:
            self.fields[text].setText(chosen[text])
        places = sum(len(w.places) for w in words if w.text in done)
        self.title.setText(
            plural(
                "{count} name replaced {where}",
                "{count} names replaced {where}",
                len(done),
                where=plural("at {count} occurrence", "at {count} occurrences", places),
            )
            if done
            else plural("{count} name from another computer", "{count} names from another computer", len(words))
        )
        self.leave.setVisible(bool(done))

    def _replace(self) -> None:
        fresh = {word: field.text().strip() for word, field in self.fields.items() if field.text().strip()}
        look = self._document.look
        if look is not None:
            others = {k: v for k, v in look.words.items() if k not in self.fields}
            self._document.edit(tr("Replace names from another computer"), lambda now: with_words(now, others | fresh))

    def _leave(self) -> None:
        look = self._document.look
        if look is not None:
            others = {k: v for k, v in look.words.items() if k not in self.fields}
            self._document.edit(tr("Keep names from another computer"), lambda now: with_words(now, others))


class OwnContrastBox(QWidget):
    """The parts that a theme means otherwise than its windows: each stays so, or takes the look's colour."""

    asked = pyqtSignal(object, str)  # the part's slot, and a role, "keep", or "" for the guess

    def __init__(self) -> None:
        super().__init__()
        column = plain_column(self, 4)
        column.addWidget(label(tr("The theme's own contrast"), "section"))
        self._grid = QGridLayout()
        self._grid.setColumnStretch(1, 1)
        column.addLayout(self._grid)
        self.choices: dict[str, Choice] = {}

    def show_parts(self, parts: Sequence[str], chosen: Mapping[str, str]) -> None:
        """Show the parts of a theme and what is chosen of each; without a choice they stay as they are meant."""
        shown = [name for name in OWN_CONTRAST if name in parts or chosen.get(name)]
        self.setVisible(bool(shown))
        if list(self.choices) != shown:
            emptied(self._grid)
            self.choices = {}
            for i, name in enumerate(shown):
                title = ROLE_BY_ID[name].title
                choice = Choice()
                choice.setAccessibleName(title)
                choice.setToolTip(tr("A bar that is dark in a light theme, or light in a dark one, may be intended"))
                choice.addItem(tr("stays as intended"), "")
                choice.addItem(tr("follows the look"), name)
                choice.activated.connect(lambda _, n=name, c=choice: self.asked.emit(Slot("parts", n), c.currentData()))
                self._grid.addWidget(label(title, wrap=False), i, 0)
                self._grid.addWidget(choice, i, 1)
                self.choices[name] = choice
        for name, choice in self.choices.items():
            choice.setCurrentIndex(1 if chosen.get(name) == name else 0)


class SeveralBox(QWidget):
    """The themes of an archive that holds several, to tick; one stays ticked."""

    asked = pyqtSignal(str, bool)  # the folder of a theme, and whether it is left out

    def __init__(self) -> None:
        super().__init__()
        column = plain_column(self, 4)
        self.title = label("", "section")
        column.addWidget(self.title)
        self._rows = QVBoxLayout()
        column.addLayout(self._rows)
        self.ticks: dict[str, QCheckBox] = {}

    def show_roots(self, roots: Sequence[str], left: Collection[str]) -> None:
        """Show the folders of themes, those that are left out without a tick."""
        self.setVisible(len(roots) > 1)
        if list(self.ticks) != list(roots):
            emptied(self._rows)
            self.ticks = {}
            for root in roots:
                name = root.rstrip("/").rpartition("/")[2]
                alike = sum(r.rstrip("/").rpartition("/")[2] == name for r in roots) > 1
                tick = QCheckBox(root.rstrip("/") if alike else name)
                tick.setToolTip(tr("Only what is ticked is recoloured and written to the home folder"))
                tick.clicked.connect(lambda on, r=root: self.asked.emit(r, not on))
                self._rows.addWidget(tick)
                self.ticks[root] = tick
        for root, tick in self.ticks.items():
            tick.setChecked(root not in left)
            tick.setEnabled(root in left or len(roots) - len(left) > 1)
        self.title.setText(
            plural("{count} theme of {all}", "{count} themes of {all}", len(roots) - len(left), all=len(roots))
        )
