"""Tune: one role at a time, where it shows, its colour, its lock, and the pairs it stands in."""

from __future__ import annotations

import numpy as np
from PyQt6.QtCore import QSize, pyqtSignal
from PyQt6.QtWidgets import (
    QCheckBox,
    QComboBox,
    QDoubleSpinBox,
    QGridLayout,
    QHBoxLayout,
    QLineEdit,
    QPushButton,
    QWidget,
)

from ..colour.contrast import ratio
from ..colour.gamut import oklch_to_rgba, rgba_to_oklch
from ..colour.rgb import Rgba, parse_hex
from ..colour.spaces import Array
from ..components.catalogue import COMPONENTS
from ..look.edits import with_lock, with_role
from ..look.model import Look
from ..palette.pairs import PAIRS_OF_TEXT, PAIRS_ON_SURFACE
from ..palette.roles import ROLE_BY_ID, ROLES
from .document import Document
from .parts import Panel, SwatchButton, label, set_kind
from .slider import ColourSlider
from .style import Style

_AXES = (("Lightness", 0.0, 1.0, 0.01, 1.0), ("Chroma", 0.0, 0.33, 0.004, 1.0), ("Hue", 0.0, 360.0, 2.0, 1.0))
_MOST_PAIRS = 9


class PairRow(QWidget):
    """One pair: the partner's swatch and name, the ratio, and whether that is enough."""

    def __init__(self, style: Style, document: Document) -> None:
        super().__init__()
        self._document = document
        self._partner = ""
        row = QHBoxLayout(self)
        row.setContentsMargins(0, 0, 0, 0)
        self.swatch = SwatchButton(style, Rgba(0, 0, 0), "", QSize(26, 22))
        self.swatch.clicked.connect(lambda: document.select(self._partner))
        self.name = label("", wrap=False)
        self.ratio = label("", wrap=False)
        self.verdict = label("", wrap=False)
        row.addWidget(self.swatch)
        row.addWidget(self.name, 1)
        row.addWidget(self.ratio)
        row.addWidget(self.verdict)

    def show_pair(self, partner: str, on: bool, colour: Rgba, value: float, need: float) -> None:
        """Show a pair; on tells whether the selected role lies on the partner."""
        self._partner = partner
        self.swatch.set_colour(colour)
        title = ROLE_BY_ID[partner].title
        self.swatch.setAccessibleName(f"Go to {title}")
        self.swatch.setToolTip(f"Go to {title}")
        self.name.setText(f"on {title}" if on else f"under {title}")
        self.ratio.setText(f"{value:.2f} : 1")
        good = value >= need
        self.verdict.setText("✓" if good else f"✗ needs {need:g}")
        set_kind(self.verdict, "good" if good else "bad")


class TunePanel(Panel):
    """Changes one role of the look through the document."""

    dropper_asked = pyqtSignal()

    def __init__(self, document: Document, style: Style, parent: QWidget | None = None) -> None:
        super().__init__("Tune", "Click anything on the stage to change its colour.", parent)
        self._document, self._style = document, style
        self._lch = [0.5, 0.1, 200.0]
        self._base: Look | None = None
        self._merge = -1
        self._shown: Rgba | None = None
        self._moving = False
        self.chooser = QComboBox()
        self.chooser.setAccessibleName("Role")
        for role in ROLES:
            self.chooser.addItem(f"{role.group}: {role.title}", role.id)
        self.chooser.activated.connect(lambda i: document.select(str(self.chooser.itemData(i))))
        self.column.addWidget(self.chooser)
        top = QHBoxLayout()
        self.swatch = SwatchButton(style, Rgba(0, 0, 0), "The role's colour", QSize(64, 52))
        self.shows = label("")
        top.addWidget(self.swatch)
        top.addWidget(self.shows, 1)
        self.column.addLayout(top)
        grid = QGridLayout()
        grid.setVerticalSpacing(4)
        self.sliders: list[ColourSlider] = []
        self.numbers: list[QDoubleSpinBox] = []
        for i, (name, low, high, step, _) in enumerate(_AXES):
            slider = ColourSlider(style, name, low, high, step)
            slider.pressed.connect(self._begin)
            slider.moved.connect(lambda value, axis=i: self._move(axis, value))
            number = QDoubleSpinBox()
            number.setRange(low, high)
            number.setDecimals(0 if i == 2 else 3)
            number.setSingleStep(step)
            number.setKeyboardTracking(False)
            number.setAccessibleName(f"{name}, as a number")
            number.setFixedWidth(76)
            number.setButtonSymbols(QDoubleSpinBox.ButtonSymbols.NoButtons)
            number.editingFinished.connect(lambda axis=i: self._typed(axis))
            grid.addWidget(label(name, wrap=False), i, 0)
            grid.addWidget(slider, i, 1)
            grid.addWidget(number, i, 2)
            self.sliders.append(slider)
            self.numbers.append(number)
        grid.setColumnStretch(1, 1)
        self.column.addLayout(grid)
        row = QHBoxLayout()
        self.hex = QLineEdit()
        self.hex.setAccessibleName("The colour as hex")
        self.hex.setPlaceholderText("#rrggbb")
        self.hex.setMaxLength(9)
        self.hex.returnPressed.connect(self._hex_typed)
        self.hex.editingFinished.connect(self._hex_typed)
        self.lock = QPushButton("Lock")
        self.lock.setCheckable(True)
        self.lock.setToolTip("A locked role never moves to suit others (Ctrl+L)")
        self.lock.clicked.connect(self._lock)
        row.addWidget(self.hex, 1)
        row.addWidget(self.lock)
        self.column.addLayout(row)
        self.follow = QCheckBox("Keep everything readable as I go")
        self.follow.setToolTip("Other roles follow by the smallest change; without it, Proof lists what falls short")
        self.follow.clicked.connect(document.follow)
        self.column.addWidget(self.follow)
        self.pair_title = label("Its pairs", "section")
        self.column.addWidget(self.pair_title)
        self.pairs: list[PairRow] = []
        for _ in range(_MOST_PAIRS):
            pair = PairRow(style, document)
            self.column.addWidget(pair)
            self.pairs.append(pair)
        self.used_title = label("Where it is used", "section")
        self.column.addWidget(self.used_title)
        self.used = label("", "quiet")
        self.column.addWidget(self.used)
        self.column.addStretch(1)
        document.selected.connect(lambda *_: self.refresh(True))

    def refresh(self, fresh_role: bool = False) -> None:
        """Show the selected role of the look."""
        look = self._document.look
        if look is None:
            return
        role = ROLE_BY_ID[self._document.role]
        colour = look.colours[role.id]
        self.follow.setChecked(look.mend_as_you_go)
        self.lock.setChecked(role.id in look.locks)
        self.lock.setText("Locked" if role.id in look.locks else "Lock")
        self._show_pairs(look, role.id)
        if fresh_role:
            self.chooser.setCurrentIndex(self.chooser.findData(role.id))
            self.shows.setText(role.shows)
            self._show_uses(role.id)
        if colour != self._shown or fresh_role:
            if oklch_to_rgba(*self._lch) != colour:  # keep the hue of greys and of colours that were dragged here
                lightness, chroma, hue = rgba_to_oklch(colour)
                self._lch = [lightness, chroma, hue if chroma > 0 else self._lch[2]]
            self._shown = colour
            self.swatch.set_colour(colour)
            if not self.hex.hasFocus():
                self.hex.setText(colour.hex)
            if not self._moving:
                self._show_axes()

    def _show_axes(self, moved: int = -1) -> None:
        """Show value and track of every axis; the track of the one that moved stays as it is."""
        for i, slider in enumerate(self.sliders):

            def path(values: Array, axis: int = i) -> Array:
                lch = np.tile(np.array(self._lch), (len(values), 1))
                lch[:, axis] = values
                return lch

            if i == moved:
                slider.place(self._lch[i])
            else:
                slider.set(self._lch[i], path)
            if not self.numbers[i].hasFocus():
                self.numbers[i].setValue(self._lch[i])

    def _show_pairs(self, look: Look, role: str) -> None:
        rows = [(p.surface, True, p.need) for p in PAIRS_OF_TEXT.get(role, ())]
        rows += [(p.text, False, p.need) for p in PAIRS_ON_SURFACE.get(role, ())]
        own = look.colours[role]
        scored = sorted(
            ((ratio(own, look.colours[partner]), partner, on, need) for partner, on, need in rows),
            key=lambda r: r[0] / r[3],
        )
        for row, widget in zip(scored, self.pairs, strict=False):
            widget.show_pair(row[1], row[2], look.colours[row[1]], row[0], row[3])
        for i, widget in enumerate(self.pairs):
            widget.setVisible(i < len(scored))
        more = len(scored) - len(self.pairs)
        self.pair_title.setText(
            "Its pairs" if more <= 0 else f"Its pairs, the closest {len(self.pairs)} of {len(scored)}"
        )
        if not scored:
            self.pair_title.setText("It carries no meaning, so no pair depends on it")

    def _show_uses(self, role: str) -> None:
        lines = []
        for component in COMPONENTS:
            names = dict.fromkeys(p.id for p in component.parts if role in (p.text_role, p.fill_role))
            if names:
                listed = ", ".join(list(names)[:6]) + (f" and {len(names) - 6} more" if len(names) > 6 else "")
                lines.append(f"{component.title}: {listed}")
        self.used.setText("\n".join(lines) or "No component shows it yet.")

    def _begin(self) -> None:
        self._base = self._document.look
        self._merge = self._document.new_gesture()

    def _move(self, axis: int, value: float) -> None:
        self._lch[axis] = value
        self._moving = True
        self._apply(oklch_to_rgba(*self._lch), self._merge, self._base)
        self._moving = False
        self._show_axes(axis)

    def _apply(self, colour: Rgba, merge: int = -1, base: Look | None = None) -> None:
        role = self._document.role
        self._document.edit(f"Change {ROLE_BY_ID[role].title}", lambda look: with_role(look, role, colour), merge, base)

    def _typed(self, axis: int) -> None:
        value = self.numbers[axis].value()
        if abs(value - self._lch[axis]) > 10 ** -(self.numbers[axis].decimals() + 0.3):
            self._begin()
            self._move(axis, value)

    def _hex_typed(self) -> None:
        look = self._document.look
        if look is None:
            return
        try:
            colour = parse_hex(self.hex.text()).opaque
        except ValueError as error:
            if self.hex.text() != look.colours[self._document.role].hex:
                self._document.trouble.emit(f"{error}.")
                self.hex.setText(look.colours[self._document.role].hex)
            return
        if colour != look.colours[self._document.role]:
            self._apply(colour)

    def _lock(self, on: bool) -> None:
        role = self._document.role
        self._document.edit(
            f"{'Lock' if on else 'Unlock'} {ROLE_BY_ID[role].title}", lambda look: with_lock(look, role, on)
        )
