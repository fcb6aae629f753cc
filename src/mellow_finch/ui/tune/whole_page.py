"""Tune, the whole look: warmth, colourfulness, levels, the accent's strength and where it goes, and the contrast."""

from __future__ import annotations

from dataclasses import replace

from PyQt6.QtWidgets import QButtonGroup, QHBoxLayout, QPushButton, QRadioButton, QWidget

from ...colour.levels import TEXT_LEVELS
from ...language import tr
from ...look.edits import with_temper
from ...palette.temper import CONTROLS, Control, Temper
from ..kit.parts import label, plain_column
from ..kit.plain_slider import PlainSlider
from ..kit.style import Style
from ..model.document import Document

_NEEDS = {4.5: tr("4.5 : 1, readable for most"), 7.0: tr("7 : 1, readable for nearly all")}


class WholePage(QWidget):
    """Tempers the look through the document; each drag is one step."""

    def __init__(self, document: Document, style: Style) -> None:
        super().__init__()
        self._document = document
        self._gesture = document.gesture()
        column = plain_column(self, 6)
        column.addWidget(label(tr("Locked colours stay, and every pair stays readable."), "quiet"))
        self.sliders: dict[str, PlainSlider] = {}
        for control in CONTROLS:
            if control.id in ("warmth", "strength", "panel"):
                title = {
                    "warmth": tr("Surfaces"),
                    "strength": tr("Accent colour"),
                    "panel": tr("Accent colour on surfaces"),
                }[control.id]
                column.addWidget(label(title, "section"))
            slider = PlainSlider(
                style,
                _short(control),
                control.low,
                control.high,
                tr("{tip}: {low} to {high}").format(tip=control.tip, low=control.ends[0], high=control.ends[1]),
            )
            slider.began.connect(self._gesture.begin)
            slider.moved.connect(lambda value, control=control: self._move(control, value))
            column.addWidget(slider)
            self.sliders[control.id] = slider
        column.addWidget(label(tr("Text contrast"), "section"))
        self.needs: dict[float, QRadioButton] = {}
        group = QButtonGroup(self)
        for need in TEXT_LEVELS:
            button = QRadioButton(_NEEDS[need])
            button.setToolTip("WCAG 2.2, 1.4.3 (AA)" if need == 4.5 else "WCAG 2.2, 1.4.6 (AAA)")
            button.clicked.connect(lambda _=False, need=need: self._ask(need))
            group.addButton(button)
            column.addWidget(button)
            self.needs[need] = button
        row = QHBoxLayout()
        self.reset = QPushButton(tr("Reset"))
        self.reset.setToolTip(tr("Reset all controls of this page; changes to single roles stay"))
        self.reset.clicked.connect(lambda: self._temper(tr("Reset the controls"), Temper()))
        row.addWidget(self.reset)
        row.addStretch(1)
        column.addLayout(row)

    def refresh(self) -> None:
        """Show the look's temper."""
        look = self._document.look
        if look is None:
            return
        for name, slider in self.sliders.items():
            if not slider.slider.isSliderDown():
                slider.show_value(getattr(look.temper, name))
        for need, button in self.needs.items():
            button.setChecked(look.temper.text_need == need)
        self.reset.setEnabled(look.temper != Temper())

    def _move(self, control: Control, value: float) -> None:
        self._gesture.edit(control.title, lambda look: with_temper(look, replace(look.temper, **{control.id: value})))

    def _ask(self, need: float) -> None:
        look = self._document.look
        if look is not None:
            self._temper(tr("Text contrast {need:g}").format(need=need), replace(look.temper, text_need=need))
            self.refresh()

    def _temper(self, words: str, temper: Temper) -> None:
        self._document.edit(words, lambda look: with_temper(look, temper))


def _short(control: Control) -> str:
    """Return a title without what the heading over it says already."""
    return control.short or control.title
