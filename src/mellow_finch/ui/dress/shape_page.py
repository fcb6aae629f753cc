"""Dress, shape: corners, borders, gaps, density and fonts, of every component that has them or of one otherwise."""

from __future__ import annotations

from PyQt6.QtCore import QTimer
from PyQt6.QtGui import QFont, QFontDatabase
from PyQt6.QtWidgets import QWidget

from ...components.catalogue import COMPONENT_BY_ID, COMPONENTS
from ...language import parted, plural, tr
from ...look.companions import fits
from ..kit.parts import Choice, label
from ..model.document import Document
from .choices_page import ChoicesPage

_IDS = ("radius", "edge", "gaps", "density", "font", "document_font", "fixed_font")
_STEPS = (0, 1, 2, 3, 4, 6, 8, 10, 12, 16, 20, 24, 32, 40)
_MOST = {"radius": 24, "edge": 8, "gaps": 40}
_POINTS = (9, 10, 11, 12, 14)  # of a font that is chosen by its family


class ShapePage(ChoicesPage):
    """The fonts of this computer are listed when the page is first seen."""

    def __init__(self, document: Document, parent: QWidget | None = None) -> None:
        words = tr("More than colours, where a component supports it. Each stays as it is until you choose.")
        super().__init__(document, words, _IDS, parent)
        self.of_whom = Choice()
        self.of_whom.setAccessibleName(tr("Apply to"))
        self.of_whom.activated.connect(lambda _: self._other())
        self._column.addWidget(self.of_whom)
        self._column.addLayout(self._form)
        self.who = label("", "quiet")
        self._column.addWidget(self.who)
        self.sample = label(tr("Bearded reedling, 7 ringed"), "section")
        self._column.addWidget(self.sample)
        for id_, most in _MOST.items():
            steps = [n for n in _STEPS if n <= most]
            words_of = [plural("{count} pixel", "{count} pixels", n) if n else tr("None") for n in steps]
            self.fill(id_, list(zip(map(str, steps), words_of, strict=True)))
        self.fill("density", [("tight", tr("Compact")), ("roomy", tr("Spacious"))])
        self._listed = False
        self._fonts_later = QTimer(self)
        self._fonts_later.setSingleShot(True)
        self._fonts_later.timeout.connect(self._fill_fonts)

    def refresh(self) -> None:
        """Show what the look has."""
        look = self._document.look
        if look is None or not self.isVisible():
            return
        if not self._listed:
            self._listed = True
            self._fonts_later.start(0)
        self._fill_owners()
        self.show_chosen(look)
        font = self.boxes["fixed_font" if self.owner and not self._asked("font") else "font"].currentData()
        family, _, size = str(font or "").rpartition(" ")
        self.sample.setFont(QFont(family, int(size)) if family else QFont())
        self.sample.setVisible(bool(family))

    def _fill_owners(self) -> None:
        """Offer all components at once, or one of those that are dressed; one that has a shape of its own is marked."""
        dressed, look = self._document.dressed, self._document.look
        assert look is not None
        here = dressed.files if dressed is not None else {}
        own = {owner.name for owner, decided in look.decisions.items() if decided.companions}
        rows = [("", tr("All components"))]
        rows += [
            (c.id, tr("{component}, set separately").format(component=c.title) if c.id in own else c.title)
            for c in COMPONENTS
            if c.shape and (c.id in here or c.id in own)
        ]
        self.of_whom.clear()
        for id_, words in rows:
            self.of_whom.addItem(words, id_)
        at = self.of_whom.findData(self.owner)
        self.owner = self.owner if at >= 0 else ""
        self.of_whom.setCurrentIndex(max(0, at))
        having = [c.title for c in COMPONENTS if c.id in here and c.shape]
        self.who.setText(tr("Supported by these included components: {names}.").format(names=parted(having)))
        self.who.setVisible(not self.owner and bool(having))

    def _other(self) -> None:
        self.owner = str(self.of_whom.currentData() or "")
        self.refresh()

    def _told(self, id_: str, value: str) -> str:
        here = not id_.endswith("font") or value.rpartition(" ")[0] in QFontDatabase.families()
        return value if here else super()._told(id_, value)

    def _asked(self, id_: str) -> bool:
        known = COMPONENT_BY_ID.get(self.owner)
        return known is None or id_ in known.shape

    def _fill_fonts(self) -> None:
        families = [
            f for f in QFontDatabase.families() if fits("font", f"{f} 10") and not QFontDatabase.isPrivateFamily(f)
        ]
        fixed = [f for f in families if QFontDatabase.isFixedPitch(f)]
        for id_, names in (("font", families), ("document_font", families), ("fixed_font", fixed)):
            self.fill(
                id_,
                [
                    (f"{f} {points}", plural("{font}, {count} point", "{font}, {count} points", points, font=f))
                    for f in names
                    for points in _POINTS
                ],
            )
        if self._document.look is not None:
            self.show_chosen(self._document.look)
