"""Tune, one role: where it shows, its colour, its lock, what stops it, and the pairs it stands in."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from functools import partial

import numpy as np
from PyQt6.QtCore import QSize, QTimer, pyqtSignal
from PyQt6.QtWidgets import (
    QComboBox,
    QGridLayout,
    QHBoxLayout,
    QLineEdit,
    QPushButton,
    QWidget,
)

from ...colour.gamut import oklch_to_rgba, rgba_to_oklch
from ...colour.rgb import Rgba
from ...colour.spaces import Array
from ...components.catalogue import COMPONENTS
from ...language import as_ratio, as_sentence, named, plural, some, titled, tr
from ...look.edits import with_accent, with_lock, with_role_by_hand
from ...look.model import Look
from ...look.role_pairs import lightness_of_role, pairs_of_role, role_limits
from ...palette.limits import DOWN_TO_BLACK, UP_TO_WHITE
from ...palette.roles import ROLE_BY_ID, ROLES
from ...syntax.typed import read_typed
from ..kit.fields import NumberField
from ..kit.flow import WrapCheck
from ..kit.icons import icon
from ..kit.parts import Choice, label, plain_column, set_kind
from ..kit.slider import ColourSlider
from ..kit.style import Style
from ..kit.swatch_button import SwatchButton
from ..model.choosing import Choosing
from ..model.document import Document
from ..model.role_menu import RoleMenu

_USES = 9  # components that are named as showing a role
_AXES = ((tr("Lightness"), 0.0, 1.0, 0.01), (tr("Chroma"), 0.0, 0.33, 0.004), (tr("Hue"), 0.0, 360.0, 2.0))
_MOST_PAIRS = 9
_FOLLOW_MS = 35


class PairRow(QWidget):
    """One pair: the partner's swatch and name, the ratio, and whether that is enough. A click goes to the partner."""

    def __init__(self, style: Style, document: Document) -> None:
        super().__init__()
        self._document = document
        self._partner = ""
        row = QHBoxLayout(self)
        row.setContentsMargins(0, 0, 0, 0)
        self.swatch = SwatchButton(style, Rgba(0, 0, 0), "", QSize(26, 24))
        self.swatch.clicked.connect(lambda: document.select(self._partner))
        self.name = label("")
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
        self.swatch.setAccessibleName(tr("Go to {title}").format(title=title))
        self.swatch.setToolTip(tr("Go to {title}").format(title=title))
        self.name.setText(tr("on {title}").format(title=title) if on else tr("under {title}").format(title=title))
        self.ratio.setText(as_ratio(value))
        good = value >= need
        self.verdict.setText("✓" if good else tr("✗ needs {need:g}").format(need=need))
        set_kind(self.verdict, "good" if good else "bad")


class RolePage(QWidget):
    """Changes one role of the look through the document."""

    screen_asked = pyqtSignal()

    def __init__(self, document: Document, style: Style, choosing: Choosing, menu: RoleMenu) -> None:
        super().__init__()
        self._document, self._style = document, style
        self._lch = [0.5, 0.1, 200.0]
        self._gesture = document.gesture()
        self._shown: Rgba | None = None
        self._moving = False
        self._moved_axis = -1
        self._next_axis = 0  # whose track follows next
        self._following = QTimer(self)  # the other axes' tracks follow a drag a little behind
        self._following.setSingleShot(True)
        self._following.setInterval(_FOLLOW_MS)
        self._following.timeout.connect(self._follow_axes)
        self.column = plain_column(self, 8)
        self._build_head(document, style, choosing, menu)
        self._build_axes(style)
        self._build_field()
        self._build_pairs(document, style)
        document.selected.connect(lambda *_: self.refresh(True))

    def _build_head(self, document: Document, style: Style, choosing: Choosing, menu: RoleMenu) -> None:
        self.chooser = Choice()
        self.chooser.setAccessibleName(tr("Role"))
        self.chooser.setSizeAdjustPolicy(QComboBox.SizeAdjustPolicy.AdjustToMinimumContentsLengthWithIcon)
        self.chooser.setMinimumContentsLength(8)
        for role in ROLES:
            self.chooser.addItem(titled(role.group, role.title), role.id)
        self.chooser.activated.connect(lambda i: document.select(str(self.chooser.itemData(i))))
        self.column.addWidget(self.chooser)
        top = QHBoxLayout()
        self.swatch = SwatchButton(style, Rgba(0, 0, 0), tr("Choose the role's colour"), QSize(58, 46))
        self.swatch.clicked.connect(
            lambda: choosing.ask_role(document.role, self.swatch, family=self.family.isChecked())
        )
        self.swatch.menu_asked.connect(lambda at: menu.show_for(document.role, at, self.swatch))
        self.shows = label("")
        top.addWidget(self.swatch)
        top.addWidget(self.shows, 1)
        self.column.addLayout(top)

    def _build_axes(self, style: Style) -> None:
        grid = QGridLayout()
        grid.setVerticalSpacing(2)
        self.sliders: list[ColourSlider] = []
        self.numbers: list[NumberField] = []
        for i, (name, low, high, step) in enumerate(_AXES):
            slider = ColourSlider(style, name, low, high, step)
            slider.taken.connect(self._gesture.begin)
            slider.moved.connect(lambda value, axis=i: self._move(axis, value))
            slider.let_go.connect(self._end)
            number = NumberField()
            number.setRange(low, high)
            number.setDecimals(0 if i == 2 else 3)
            number.setSingleStep(step)
            number.setKeyboardTracking(False)
            number.setAccessibleName(tr("{name}, as a number").format(name=name))
            number.setFixedWidth(72)
            number.setButtonSymbols(NumberField.ButtonSymbols.NoButtons)
            number.editingFinished.connect(lambda axis=i: self._typed(axis))
            grid.addWidget(label(name, wrap=False), i, 0)
            grid.addWidget(slider, i, 1)
            grid.addWidget(number, i, 2)
            self.sliders.append(slider)
            self.numbers.append(number)
        grid.setColumnStretch(1, 1)
        self.column.addLayout(grid)
        self.why = label("", "quiet")
        self.why.setAccessibleName(tr("How light and dark it can be, and why"))
        self.column.addWidget(self.why)

    def _build_field(self) -> None:
        row = QHBoxLayout()
        self.hex = QLineEdit()
        self.hex.setAccessibleName(tr("The colour, as hex, rgb(), hsl(), oklch() or a name"))
        self.hex.setToolTip(tr("Type or paste #4f8a8b, rgb(79 138 139), hsl(…), oklch(0.6 0.06 200) or a colour name"))
        self.hex.setPlaceholderText("#rrggbb, oklch(…), teal")
        self.hex.setMaxLength(60)
        self.hex.returnPressed.connect(self._colour_typed)
        self.hex.editingFinished.connect(self._colour_typed)
        self.screen_button = QPushButton(tr("Pick"))
        self.screen_button.setToolTip(tr("Pick a colour anywhere on the screen for this role (Ctrl+Shift+I)"))
        self.screen_button.clicked.connect(self.screen_asked)
        self.lock = QPushButton(tr("Lock"))
        self.lock.setCheckable(True)
        self._style.follow(self._restyle)
        self.lock.setToolTip(tr("A locked role never changes to suit others (Ctrl+L)"))
        self.lock.clicked.connect(self._lock)
        row.addWidget(self.hex, 1)
        row.addWidget(self.screen_button)
        row.addWidget(self.lock)
        self.column.addLayout(row)
        self.family = WrapCheck(tr("Change selections, links and focus too"))
        self.family.setToolTip(
            tr("Everything that takes the accent colour follows it; otherwise only the accent colour itself changes")
        )
        self.family.setChecked(True)
        self.column.addWidget(self.family)
        self.follow = WrapCheck(tr("Keep everything readable while editing"))
        self.follow.setToolTip(
            tr("Other roles follow by the smallest change; otherwise Proof only lists insufficient contrast")
        )
        self.follow.clicked.connect(self._document.follow)
        self.column.addWidget(self.follow)
        self.linked = WrapCheck(tr("Change dark and light together"))
        self.linked.setToolTip(tr("A change of hue or chroma in one variant is made in the other too"))
        self.linked.clicked.connect(self._document.link)
        self.column.addWidget(self.linked)

    def _build_pairs(self, document: Document, style: Style) -> None:
        self.pair_title = label(tr("Its pairs"), "section")
        self.column.addWidget(self.pair_title)
        self.pairs: list[PairRow] = []
        for _ in range(_MOST_PAIRS):
            pair = PairRow(style, document)
            self.column.addWidget(pair)
            self.pairs.append(pair)
        self.used_title = label(tr("Where it is used"), "section")
        self.column.addWidget(self.used_title)
        self.used = label("", "quiet")
        self.column.addWidget(self.used)

    def refresh(self, fresh_role: bool = False) -> None:
        """Show the selected role of the look."""
        look = self._document.look
        if look is None:
            return
        role = ROLE_BY_ID[self._document.role]
        colour = look.colours[role.id]
        self.follow.setChecked(look.mend_as_you_go)
        self.linked.setChecked(look.linked)
        self.family.setVisible(role.id == "accent")
        self.lock.setChecked(role.id in look.locks)
        self.lock.setText(tr("Locked") if role.id in look.locks else tr("Lock"))
        for held in (*self.sliders, *self.numbers, self.hex):
            held.setEnabled(role.id not in look.locks)
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
            self._show_axes(look)
            lighter, darker = lightness_of_role(look, role.id)
            locked = role.id in look.locks
            self.why.setText(tr("Locked. Unlock it to change it.") if locked else _whole_way(lighter, darker))

    def _show_axes(self, look: Look, anew: Sequence[int] = (0, 1, 2)) -> None:
        """Show the value of every axis, and tracks anew."""
        judge = partial(role_limits, look, self._document.role)
        for i, slider in enumerate(self.sliders):

            def path(values: Array, axis: int = i) -> Array:
                lch = np.tile(np.array(self._lch), (len(values), 1))
                lch[:, axis] = values
                return lch

            if i in anew:
                slider.set(self._lch[i], path, judge)
            else:
                slider.place(self._lch[i])
            if not self.numbers[i].hasFocus():
                self.numbers[i].setValue(self._lch[i])

    def _show_pairs(self, look: Look, role: str) -> None:
        rows = pairs_of_role(look, role)
        for row, widget in zip(rows, self.pairs, strict=False):
            on = row.pair.text == role
            partner = row.pair.surface if on else row.pair.text
            widget.show_pair(partner, on, look.colours[partner], row.ratio, row.pair.need.level)
        for i, widget in enumerate(self.pairs):
            widget.setVisible(i < len(rows))
        more = len(rows) - len(self.pairs)
        self.pair_title.setText(
            tr("Its pairs")
            if more <= 0
            else tr("Its pairs, the closest {count} of {total}").format(count=len(self.pairs), total=len(rows))
        )
        if not rows:
            self.pair_title.setText(tr("It has no meaning to convey, so no pair depends on it"))

    def _show_uses(self, role: str) -> None:
        lines = []
        dressed = self._document.dressed
        for component in (c for c in COMPONENTS if dressed is not None and c.id in dressed.files):
            names = dict.fromkeys(named(p.id) for p in component.parts if role in (p.text_role, p.fill_role))
            if names:
                lines.append(tr("{title}: {names}").format(title=component.title, names=some(list(names), 6)))
        more = len(lines) - _USES
        shown = (
            [*lines[:_USES], plural("and {count} more component", "and {count} more components", more)]
            if more > 1
            else lines
        )
        self.used.setText("\n".join(shown) or tr("No included component shows it."))

    def _move(self, axis: int, value: float) -> None:
        self._lch[axis] = value
        self._moved_axis = axis
        self._moving = True
        self._apply(oklch_to_rgba(*self._lch), self._gesture.edit)
        self._moving = False
        self.sliders[axis].place(value)
        if not self.numbers[axis].hasFocus():
            self.numbers[axis].setValue(value)
        if not self._following.isActive():
            self._following.start()

    def _follow_axes(self) -> None:
        if self._document.look is not None:
            self._next_axis = (
                next(i for i in (self._next_axis + 1, self._next_axis + 2) if i % 3 != self._moved_axis) % 3
            )
            self._show_axes(self._document.look, (self._next_axis,))

    def _end(self) -> None:
        """Work out tracks and stops anew when a gesture is over."""
        self._following.stop()
        self.refresh()

    def _apply(self, colour: Rgba, edit: Callable[[str, Callable[[Look], Look]], object] | None = None) -> None:
        edit = edit or self._document.edit
        role = self._document.role
        title = tr("Change {title}").format(title=ROLE_BY_ID[role].title)
        look = self._document.look
        if role == "accent" and self.family.isChecked() and look is not None and role not in look.locks:
            edit(title, lambda look: with_accent(look, colour))
        else:
            edit(title, lambda look: with_role_by_hand(look, role, colour))

    def take(self, colour: Rgba) -> None:
        """Give the role a colour that was picked elsewhere."""
        self._apply(colour.opaque)

    def _typed(self, axis: int) -> None:
        value = self.numbers[axis].value()
        if abs(value - self._lch[axis]) > 10 ** -(self.numbers[axis].decimals() + 0.3):
            self._gesture.begin()
            self._move(axis, value)
            self._end()

    def _colour_typed(self) -> None:
        look = self._document.look
        if look is None:
            return
        own = look.colours[self._document.role]
        try:
            colour = read_typed(self.hex.text())
        except ValueError as error:
            if self.hex.text() != own.hex:
                self._document.trouble.emit(as_sentence(str(error)))
                self.hex.setText(own.hex)
            return
        if colour != own:
            self._apply(colour)
        self.hex.setText(self._document.look.colours[self._document.role].hex if self._document.look else own.hex)

    def _restyle(self) -> None:
        style = self._style
        self.lock.setIcon(icon("lock", style.c("text"), style.c("disabled")))

    def _lock(self, on: bool) -> None:
        role = self._document.role
        words = tr("Lock a colour") if on else tr("Unlock a colour")
        self._document.edit(words, lambda look: with_lock(look, role, on))


def _whole_way(lighter: str, darker: str) -> str:
    """Return both sentences, or one when nothing stops the role at all."""
    if (lighter, darker) == (UP_TO_WHITE, DOWN_TO_BLACK):
        return tr("No limit: it can be as light or dark as you like.")
    return "\n".join(dict.fromkeys((lighter, darker)))
