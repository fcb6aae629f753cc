"""A page of choices that go with a look's colours: each stays as it is until it is chosen, and is one undoable step."""

from __future__ import annotations

from collections.abc import Sequence

from PyQt6.QtGui import QPixmap
from PyQt6.QtWidgets import QComboBox, QFormLayout, QWidget

from ...components.catalogue import COMPONENT_BY_ID
from ...components.decisions import Owner
from ...language import comma_separated, titled, tr
from ...look.companions import COMPANION_BY_ID, fits
from ...look.decision_edits import with_companion
from ...look.model import Look
from ...theme.bundle.installed import ThemeChoice
from ..kit.parts import Choice, label, plain_column, untinted
from ..kit.style import qcolor
from ..model.document import Document

AS_IT_IS = tr("As it is")


class ChoicesPage(QWidget):
    """One box for each companion. owner: the component that the choices are for, empty for all."""

    def __init__(self, document: Document, words: str, ids: Sequence[str], parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self._document, self.owner = document, ""
        self._column = plain_column(self, 8)
        self._column.addWidget(label(words, "quiet"))
        self._form = QFormLayout()
        self._form.setVerticalSpacing(8)
        self._form.setRowWrapPolicy(QFormLayout.RowWrapPolicy.WrapAllRows)
        self.boxes: dict[str, QComboBox] = {}
        for companion in (COMPANION_BY_ID[id_] for id_ in ids):
            box = Choice()
            box.setSizeAdjustPolicy(QComboBox.SizeAdjustPolicy.AdjustToMinimumContentsLengthWithIcon)
            box.setMinimumContentsLength(12)
            box.setAccessibleName(companion.title)
            box.activated.connect(lambda _, id_=companion.id: self._choose(id_))
            self._form.addRow(label(companion.title, wrap=False), box)
            self.boxes[companion.id] = box

    def fill(self, id_: str, rows: Sequence[tuple[str, str] | tuple[str, str, ThemeChoice]]) -> None:
        """Offer values, each with its words, and with what its colour can be told by."""
        box = self.boxes[id_]
        box.clear()
        box.addItem(AS_IT_IS, "")
        for value, words, *more in rows:
            if not fits(id_, value):
                continue
            leading = more[0].leading if more else None
            swatch = QPixmap(16, 16)
            if leading is not None:
                swatch.fill(qcolor(leading))
                box.addItem(untinted(swatch), words, value)
            else:
                box.addItem(words, value)

    def show_chosen(self, look: Look) -> None:
        """Show what the look has; for one component, what it has otherwise than all."""
        own = look.decided(Owner.component(self.owner)).companions if self.owner else look.companions
        for id_, box in self.boxes.items():
            self._form.setRowVisible(box, self._asked(id_))
            value = own.get(id_, "")
            at = box.findData(value)
            if at < 0:  # of another computer, or not found yet
                box.addItem(self._told(id_, value), value)
                at = box.count() - 1
            for_all = look.companions.get(id_, "")
            words = box.itemText(max(0, box.findData(for_all))) if for_all else AS_IT_IS
            box.setItemText(0, tr("As all: {value}").format(value=words) if self.owner and for_all else AS_IT_IS)
            box.setCurrentIndex(at)

    def _told(self, _id: str, value: str) -> str:
        """Return what is said of a value that is not among those that are offered."""
        return tr("{value} (not installed)").format(value=value)

    def _asked(self, _id: str) -> bool:
        """Tell whether a companion can be chosen now."""
        return True

    def _choose(self, id_: str) -> None:
        value = str(self.boxes[id_].currentData() or "")
        title, owner = COMPANION_BY_ID[id_].title, self.owner
        words = titled(title, self.boxes[id_].currentText()) if value else tr("{title}: as it is").format(title=title)
        if self.owner:
            words = comma_separated((COMPONENT_BY_ID[self.owner].title, words))
        self._document.edit(words, lambda look: with_companion(look, id_, value, owner))
