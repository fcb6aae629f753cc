"""The colour chooser: a wheel with what can be had and read, tracks, spellings, and every colour that is at hand."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass
from typing import NamedTuple

import numpy as np
from PyQt6.QtCore import QSize, Qt, pyqtSignal
from PyQt6.QtWidgets import QGridLayout, QHBoxLayout, QLineEdit, QPushButton, QVBoxLayout, QWidget

from ....colour.gamut import oklch_to_rgba, rgba_to_oklch
from ....colour.harmony import HARMONIES, harmony
from ....colour.rgb import Rgba
from ....colour.spaces import Array
from ....language import tr
from ....palette.limits import Limits
from ....syntax.typed import read_typed
from ..parts import label, set_kind
from ..popover import Popover
from ..slider import ColourSlider
from ..style import Style
from ..swatch_button import SwatchButton
from .swatch_grid import SwatchGrid
from .wheel import ColourWheel

_AXES = ((tr("Lightness"), 0.0, 1.0, 0.005), (tr("Chroma"), 0.0, 0.33, 0.004), (tr("Hue"), 0.0, 360.0, 2.0))
_ACROSS = 13  # swatches in a row
_HARMONIES = {
    "complementary": tr("Complementary"),
    "analogous": tr("Analogous"),
    "split complementary": tr("Split complementary"),
    "triadic": tr("Triadic"),
    "square": tr("Square"),
}


class PairRatio(NamedTuple):
    """The contrast of the pair at hand in words, and whether it is enough."""

    words: str
    enough: bool


@dataclass(frozen=True)
class ColourRequest:
    """What a colour is chosen for.

    title: in words; start: the colour there is; judge: tells how pairs fare with (n, 3) OKLCH, None where none depends
    on it; ratio: tells the contrast that there is now, None where there is no pair.
    """

    title: str
    start: Rgba
    judge: Callable[[Array], Limits] | None = None
    ratio: Callable[[], PairRatio | None] = lambda: None


@dataclass(frozen=True)
class ColourOffer:
    """The colours that are at hand, each row of a name and the colour; accent: what harmonies are shown of."""

    image: Sequence[tuple[str, Rgba]] = ()
    roles: Sequence[tuple[str, Rgba]] = ()
    accent: Rgba | None = None
    recent: Sequence[Rgba] = ()
    favourites: Sequence[Rgba] = ()


class ColourChooser(Popover):
    """Tells every colour on the way; what becomes of it is up to who opened it."""

    moved = pyqtSignal(object)  # Rgba
    screen_asked = pyqtSignal()
    favourite_asked = pyqtSignal(object, bool)  # a colour, and whether it is to be one

    def __init__(self, window: QWidget, style: Style, request: ColourRequest, offered: ColourOffer) -> None:
        super().__init__(window)
        self._style, self._request = style, request
        self.colour = request.start.opaque
        lightness, chroma, hue = rgba_to_oklch(self.colour)
        self._lch = [lightness, chroma, hue]
        self._favourites = tuple(offered.favourites)
        self.setAccessibleName(request.title)
        outer = QVBoxLayout(self)
        outer.setContentsMargins(14, 10, 14, 12)
        outer.setSpacing(8)
        outer.addLayout(self._head(style))
        body = QHBoxLayout()
        body.setSpacing(14)
        body.addLayout(self._left(style))
        body.addLayout(self._right(style, offered))
        outer.addLayout(body)
        outer.addLayout(self._foot())
        self._show()

    def _head(self, style: Style) -> QHBoxLayout:
        row = QHBoxLayout()
        row.setSpacing(0)
        row.addWidget(label(self._request.title, "section", wrap=False), 1)
        self.ratio = label("", wrap=False)
        self.ratio.setAccessibleName(tr("Contrast of its closest pair"))
        row.addWidget(self.ratio)
        row.addSpacing(14)
        self.old = SwatchButton(
            style, self._request.start.opaque, tr("The previous colour: click to restore it"), QSize(48, 26)
        )
        self.old.clicked.connect(lambda: self.set_colour(self._request.start.opaque))
        self.new = SwatchButton(style, self.colour, tr("The current colour"), QSize(48, 26))
        self.new.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        row.addWidget(self.old)
        row.addWidget(self.new)
        return row

    def _left(self, style: Style) -> QVBoxLayout:
        column = QVBoxLayout()
        self.wheel = ColourWheel(style)
        judge = self._request.judge
        self.wheel.judge_by(None if judge is None else lambda lch: judge(lch).good)
        self.wheel.moved.connect(self._move)
        self.wheel.ended.connect(self._show)
        column.addWidget(self.wheel)
        grid = QGridLayout()
        grid.setVerticalSpacing(0)
        self.sliders: list[ColourSlider] = []
        for i, (name, low, high, step) in enumerate(_AXES):
            slider = ColourSlider(style, name, low, high, step)
            slider.moved.connect(lambda value, axis=i: self._slide(axis, value))
            slider.let_go.connect(self._show)
            grid.addWidget(label(name, "quiet", wrap=False), i, 0)
            grid.addWidget(slider, i, 1)
            self.sliders.append(slider)
        grid.setColumnStretch(1, 1)
        column.addLayout(grid)
        column.addStretch(1)
        return column

    def _right(self, style: Style, offered: ColourOffer) -> QVBoxLayout:
        column = QVBoxLayout()
        column.setSpacing(3)
        self.grids: dict[str, SwatchGrid] = {}
        harmonies = [
            (_HARMONIES[name], colour)
            for name in HARMONIES
            for colour in (harmony(offered.accent, name) if offered.accent is not None else ())
        ]
        rows = (
            ("image", tr("Wallpaper"), offered.image),
            ("roles", tr("Colours of the look"), offered.roles),
            ("harmonies", tr("Harmonies of the accent colour"), harmonies),
            ("recent", tr("Recent"), [("", c) for c in offered.recent]),
            ("favourites", tr("Favourites"), [("", c) for c in offered.favourites]),
        )
        for id_, title, colours in rows:
            grid = SwatchGrid(style, title, _ACROSS)
            grid.show_colours(colours)
            grid.taken.connect(self.set_colour)
            head = label(title, "quiet", wrap=False)
            head.setVisible(bool(colours))
            self.grids[id_] = grid
            column.addWidget(head)
            column.addWidget(grid)
            if id_ == "favourites":
                self._favourites_head = head
        column.addStretch(1)
        return column

    def _foot(self) -> QHBoxLayout:
        row = QHBoxLayout()
        self.field = QLineEdit()
        self.field.setAccessibleName(tr("The colour, as hex, rgb(), hsl(), oklch() or a name"))
        self.field.setPlaceholderText("#rrggbb, oklch(…), teal")
        self.field.setMaxLength(60)
        self.field.setFixedWidth(200)
        self.field.textEdited.connect(lambda _: self._typed())
        self.favourite = QPushButton("")
        self.favourite.clicked.connect(self._switch_favourite)
        self.pick = QPushButton(tr("Pick from screen"))
        self.pick.clicked.connect(self.screen_asked)
        self.cancel = QPushButton(tr("Cancel"))
        self.cancel.setToolTip(tr("Restore the previous colour (Escape)"))
        self.cancel.clicked.connect(lambda: self.close_with(False))
        self.use = QPushButton(tr("Use this colour"))
        self.use.setProperty("main", True)
        self.use.clicked.connect(lambda: self.close_with(True))
        for widget in (self.field, self.favourite, self.pick):
            row.addWidget(widget)
        row.addStretch(1)
        row.addWidget(self.cancel)
        row.addWidget(self.use)
        return row

    def show_favourites(self, colours: Sequence[Rgba]) -> None:
        """Show other favourites."""
        self._favourites = tuple(colours)
        self.grids["favourites"].show_colours([("", c) for c in colours])
        self._favourites_head.setVisible(bool(colours))
        self._name_favourite()
        self.adjustSize()

    def _switch_favourite(self) -> None:
        self.favourite_asked.emit(self.colour, self.colour not in self._favourites)

    def _name_favourite(self) -> None:
        known = self.colour in self._favourites
        self.favourite.setText(tr("Remove favourite") if known else tr("Add favourite"))

    def set_colour(self, colour: Rgba) -> None:
        """Go to a colour."""
        lightness, chroma, hue = rgba_to_oklch(colour)
        self._lch = [lightness, chroma, hue if chroma > 0 else self._lch[2]]
        self._tell(colour.opaque)
        self._show()

    def _slide(self, axis: int, value: float) -> None:
        self._lch[axis] = value
        self._tell(oklch_to_rgba(*self._lch))
        self.sliders[axis].place(value)
        self.wheel.show_colour(*self._lch)

    def _move(self, chroma: float, hue: float) -> None:
        self._lch[1:] = [chroma, hue]
        self._tell(oklch_to_rgba(*self._lch))
        for axis in (1, 2):
            self.sliders[axis].place(self._lch[axis])
        self.wheel.show_colour(*self._lch)

    def _typed(self) -> None:
        """Go to what is typed as soon as it is a colour; until then the field alone changes."""
        try:
            colour = read_typed(self.field.text())
        except ValueError:
            set_kind(self.field, "bad")
            return
        set_kind(self.field, "")
        if colour != self.colour:
            self.set_colour(colour)

    def _tell(self, colour: Rgba) -> None:
        if colour != self.colour:
            self.colour = colour
            self.moved.emit(colour)
        self.new.set_colour(colour)
        if not self.field.hasFocus():
            self.field.setText(colour.hex)
            set_kind(self.field, "")
        self._name_favourite()
        self.show_ratio()

    def show_ratio(self) -> None:
        """Tell how the pair at hand stands now."""
        found = self._request.ratio()
        self.ratio.setVisible(found is not None)
        if found is not None:
            self.ratio.setText(found.words)
            set_kind(self.ratio, "good" if found.enough else "bad")

    def _show(self) -> None:
        """Show the colour everywhere, tracks anew."""
        self.wheel.show_colour(*self._lch)
        for i, slider in enumerate(self.sliders):

            def path(values: Array, axis: int = i) -> Array:
                lch = np.tile(np.array(self._lch), (len(values), 1))
                lch[:, axis] = values
                return lch

            slider.set(self._lch[i], path, self._request.judge)
        self._tell(self.colour)
