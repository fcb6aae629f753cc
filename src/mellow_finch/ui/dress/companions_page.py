"""Dress, companions: icons, pointers, fonts, buttons and the like that go with the colours. Off until asked."""

from __future__ import annotations

from pathlib import Path

from PyQt6.QtCore import QTimer
from PyQt6.QtGui import QFont, QFontDatabase, QIcon, QPixmap
from PyQt6.QtWidgets import QComboBox, QFormLayout, QWidget

from ...language import plural, tr
from ...look.companions import COMPANIONS, fits
from ...look.edits import with_companion
from ...look.model import Look
from ...theme.installed import Installed, icon_themes, places, pointer_themes, ranked
from ..kit.jobs import JobProgress, Jobs
from ..kit.parts import Choice, label, plain_column
from ..kit.style import qcolor
from ..model.document import Document

_AS_IT_IS = tr("As it is")
_SIZES = ("24", "32", "48", "64")
_STEPS = (0, 1, 2, 3, 4, 6, 8, 10, 12, 16, 20, 24, 32, 40)
_POINTS = 10  # of a font that is chosen by its family
_READING = "finding icons and pointers"
Found = tuple[tuple[Installed, ...], tuple[Installed, ...]]


class CompanionsPage(QWidget):
    """Each choice is one undoable step of the look; what this machine has is found when the page is first seen."""

    def __init__(self, document: Document, jobs: Jobs, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self._document, self._jobs = document, jobs
        self._found: Found | None = None
        column = plain_column(self, 8)
        words = tr("What goes with the colours. Each stays as it is until you choose.")
        column.addWidget(label(words, "quiet"))
        form = QFormLayout()
        form.setVerticalSpacing(8)
        form.setRowWrapPolicy(QFormLayout.RowWrapPolicy.WrapAllRows)
        self.boxes: dict[str, QComboBox] = {}
        for companion in COMPANIONS:
            box = Choice()
            box.setSizeAdjustPolicy(QComboBox.SizeAdjustPolicy.AdjustToMinimumContentsLengthWithIcon)
            box.setMinimumContentsLength(8)
            box.setAccessibleName(companion.title)
            box.setMinimumContentsLength(12)
            box.setSizeAdjustPolicy(QComboBox.SizeAdjustPolicy.AdjustToMinimumContentsLengthWithIcon)
            box.activated.connect(lambda _, id_=companion.id: self._choose(id_))
            form.addRow(label(companion.title, wrap=False), box)
            self.boxes[companion.id] = box
        column.addLayout(form)
        self.sample = label(tr("Bearded reedling, 7 ringed"), "section")
        column.addWidget(self.sample)
        self.state = label("", "quiet")
        column.addWidget(self.state)
        self._fill("buttons", [("left", tr("On the left")), ("right", tr("On the right"))])
        for id_, most in (("radius", 24), ("edge", 8), ("gaps", 40)):
            self._fill(
                id_,
                [
                    (str(n), plural("{count} pixel", "{count} pixels", n) if n else tr("None"))
                    for n in _STEPS
                    if n <= most
                ],
            )
        self._fill("compositor", [("on", tr("Switched on, for see-through surfaces"))])
        self._fill("sandboxes", [("read", tr("May read themes and style sheets"))])
        self._fill("pointer_size", [(size, plural("{count} pixel", "{count} pixels", int(size))) for size in _SIZES])
        self._fonts_later = QTimer(self)
        self._fonts_later.setSingleShot(True)
        self._fonts_later.timeout.connect(self._fill_fonts)

    def refresh(self) -> None:
        """Show what the look has, what this machine has being found off the window's thread the first time."""
        look = self._document.look
        if look is None or not self.isVisible():
            return
        if self._found is None and self._document.home is not None:
            self._read(self._document.home)
            self._fonts_later.start(0)
        elif self._found is not None:
            self._show_themes(look)
        self._show_chosen(look)

    def _read(self, home: Path) -> None:
        self.state.setText(tr("Looking for icons and pointers …"))

        def work(_progress: JobProgress) -> Found:
            return icon_themes(places(home)), pointer_themes(places(home))

        def done(found: Found) -> None:
            self._found = found
            self.state.setText(
                tr("{count} icon themes and {count2} of pointers are here.").format(
                    count=len(found[0]), count2=len(found[1])
                )
            )
            if self._document.look is not None:
                self._show_themes(self._document.look)
                self._show_chosen(self._document.look)

        self._jobs.start(_READING, work, done, lambda error: self.state.setText(str(error)))

    def _fill_fonts(self) -> None:
        usable = (f for f in QFontDatabase.families() if fits("font", f"{f} {_POINTS}"))
        families = [f for f in usable if not QFontDatabase.isPrivateFamily(f)]
        fixed = [f for f in families if QFontDatabase.isFixedPitch(f)]
        for id_, rows in (("font", families), ("document_font", families), ("fixed_font", fixed)):
            self._fill(
                id_,
                [
                    (f"{f} {_POINTS}", plural("{font}, {count} point", "{font}, {count} points", _POINTS, font=f))
                    for f in rows
                ],
            )
        if self._document.look is not None:
            self._show_chosen(self._document.look)

    def _show_themes(self, look: Look) -> None:
        """Offer icon themes by how well their colour goes with the look, and pointers."""
        assert self._found is not None
        icons, pointers = self._found
        self._fill("icons", [(t.name, t.title, t) for t in ranked(icons, look.colours)])
        self._fill("pointers", [(t.name, t.title) for t in pointers])

    def _fill(self, id_: str, rows: list[tuple[str, str]] | list[tuple[str, str, Installed]]) -> None:
        box = self.boxes[id_]
        box.clear()
        box.addItem(_AS_IT_IS, "")
        for value, words, *more in rows:
            if not fits(id_, value):
                continue
            leading = more[0].leading if more and isinstance(more[0], Installed) else None
            swatch = QPixmap(16, 16)
            if leading is not None:
                swatch.fill(qcolor(leading))
                box.addItem(QIcon(swatch), words, value)
            else:
                box.addItem(words, value)

    def _show_chosen(self, look: Look) -> None:
        for id_, box in self.boxes.items():
            value = look.companions.get(id_, "")
            at = box.findData(value)
            if at < 0:  # of another machine, or not found yet
                box.addItem(tr("{value} (not here)").format(value=value), value)
                at = box.count() - 1
            box.setCurrentIndex(at)
        family, _, size = look.companions.get("font", "").rpartition(" ")
        font = QFont(family, int(size)) if family else QFont()
        self.sample.setFont(font)
        self.sample.setVisible(bool(family))

    def _choose(self, id_: str) -> None:
        value = str(self.boxes[id_].currentData() or "")
        title = next(c.title for c in COMPANIONS if c.id == id_)
        words = f"{title}: {self.boxes[id_].currentText()}" if value else tr("{title} as they are").format(title=title)
        self._document.edit(words, lambda look: with_companion(look, id_, value))
