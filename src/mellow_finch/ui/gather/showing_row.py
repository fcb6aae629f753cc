"""What the desktop shows of several images: the first, one per monitor, or a slideshow of so many minutes each."""

from __future__ import annotations

from PyQt6.QtCore import pyqtSignal
from PyQt6.QtWidgets import QGridLayout, QWidget

from ...language import tr
from ...picture.placement import MINUTES, SHOWINGS, Showing
from ..kit.fields import NumberField
from ..kit.parts import Choice, label


class ShowingRow(QWidget):
    """Shown only where there are several images."""

    chosen = pyqtSignal(object)

    def __init__(self) -> None:
        super().__init__()
        grid = QGridLayout(self)
        grid.setContentsMargins(0, 0, 0, 0)
        grid.addWidget(label(tr("On the desktop"), "section"), 0, 0, 1, 2)
        self.kind = Choice()
        self.kind.setAccessibleName(tr("What the desktop shows of the images"))
        for id_, title in SHOWINGS:
            self.kind.addItem(title, id_)
        self.minutes = NumberField()
        self.minutes.setDecimals(0)
        self.minutes.setRange(*MINUTES)
        unit = tr("min")
        self.minutes.setSuffix(f" {unit}")
        self.minutes.setAccessibleName(tr("Minutes between images"))
        self.minutes.setToolTip(tr("Minutes between images"))
        self.note = label("", "quiet")
        grid.addWidget(self.kind, 1, 0)
        grid.addWidget(self.minutes, 1, 1)
        grid.addWidget(self.note, 2, 0, 1, 2)
        self.kind.activated.connect(self._choose)
        self.minutes.editingFinished.connect(self._choose)
        self._shown = Showing()

    def _choose(self) -> None:
        wanted = Showing(self.kind.currentData(), int(self.minutes.value()))
        if wanted != self._shown:
            self._shown = wanted
            self.chosen.emit(wanted)

    def show_showing(self, showing: Showing, several: bool, note: str) -> None:
        """Show what is chosen; note: what the desktop does instead, where it cannot do that."""
        self._shown = showing
        self.setVisible(several)
        self.kind.setCurrentIndex(self.kind.findData(showing.kind))
        self.minutes.setValue(showing.minutes)
        self.minutes.setVisible(showing.kind == "slideshow")
        self.note.setText(note)
        self.note.setVisible(bool(note))
