"""How a theme that was brought is used: in the look's colours or in its own, for what, and which colours change."""

from __future__ import annotations

from collections.abc import Mapping, Sequence

from PyQt6.QtCore import QSize, Qt, pyqtSignal
from PyQt6.QtGui import QAction
from PyQt6.QtWidgets import QButtonGroup, QCheckBox, QMenu, QPushButton, QVBoxLayout, QWidget

from ...colour.rgb import Rgba
from ...language import standing, tr
from ...palette.roles import ROLE_BY_ID
from ...theme.result.own_colours import ThemeColour
from ...theme.result.uses import Use
from ..kit.flow import Flow, WrapCheck
from ..kit.parts import emptied, label, plain_column, swatch
from ..kit.style import Style
from ..kit.swatch_button import SwatchButton
from ..model.choosing import AskColour

_ROLES = ("accent", "selection", "link", "window", "header", "panel")
_ICON = QSize(18, 18)
_SWATCH = QSize(34, 28)


class UseBox(QWidget):
    """Asks how a theme is used and for what. The first answer is a step of its own; later ones change it."""

    way_asked = pyqtSignal(bool)  # whether it keeps its own colours
    uses_asked = pyqtSignal(object)  # the uses that are ticked, while it is used
    stop_asked = pyqtSignal()
    swap_asked = pyqtSignal(object, object)  # a colour of the theme, and the new one, None for its own

    def __init__(self, style: Style, ask_colour: AskColour) -> None:
        super().__init__()
        self._style, self._ask = style, ask_colour
        self.offered: Sequence[Rgba] = ()  # colours of the wallpaper
        self.roles: Mapping[str, Rgba] = {}
        column = plain_column(self, 6)
        column.addWidget(label(tr("Use this theme"), "section"))
        self.own = QPushButton(tr("As it is, except…"))
        self.own.setToolTip(tr("The theme keeps its colours except those you replace; everything else matches it"))
        self.mapped = QPushButton(tr("In the look's colours"))
        self.mapped.setToolTip(tr("Every colour of the theme follows the look"))
        self._ways = QButtonGroup(self)
        for button, as_is in ((self.mapped, False), (self.own, True)):
            button.setCheckable(True)
            button.setProperty("half", True)
            button.clicked.connect(lambda _=False, as_is=as_is: self.way_asked.emit(as_is))
            self._ways.addButton(button)
            column.addWidget(button)
        self.ask = label(tr("Click a colour to replace it."), "quiet")
        self._swatches = QWidget()
        self._flow = Flow()
        self._swatches.setLayout(self._flow)
        column.addWidget(self.ask)
        column.addWidget(self._swatches)
        column.addWidget(label(tr("Use it for"), "quiet"))
        self._rows = QVBoxLayout()
        self._rows.setSpacing(2)
        column.addLayout(self._rows)
        self.stop = QPushButton(tr("Stop using it"))
        self.stop.setToolTip(tr("The look uses its own theme again"))
        self.stop.clicked.connect(self.stop_asked)
        column.addWidget(self.stop)
        self.ticks: dict[str, QCheckBox] = {}
        self.swatches: list[SwatchButton] = []
        self._path = ""
        self._used = False

    @property
    def ticked(self) -> frozenset[str]:
        """Return the uses that are ticked."""
        return frozenset(id_ for id_, tick in self.ticks.items() if tick.isChecked())

    def show_uses(
        self, path: str, uses: Sequence[Use], worn: frozenset[str], fitting: frozenset[str], as_is: bool
    ) -> None:
        """Show what a theme serves for; fitting: what is on this desktop, ticked to begin with."""
        self.setVisible(bool(uses))
        if path != self._path or list(self.ticks) != [use.id for use in uses]:
            self._path = path
            emptied(self._rows)
            self.ticks = {}
            for use in uses:
                fits = use.id in fitting
                tick = WrapCheck(use.title if fits else tr("{title} (not set up here)").format(title=use.title))
                tick.setChecked(fits)
                tick.setToolTip(tr("What is ticked uses this theme when the look is applied"))
                tick.clicked.connect(lambda _: self._ticked())
                self._rows.addWidget(tick)
                self.ticks[use.id] = tick
        self._used = bool(worn)
        if worn:
            for id_, known in self.ticks.items():
                known.setChecked(id_ in worn)
        self._ways.setExclusive(False)
        self.mapped.setChecked(self._used and not as_is)
        self.own.setChecked(self._used and as_is)
        self._ways.setExclusive(self._used)
        self.stop.setVisible(self._used)

    def _ticked(self) -> None:
        if self._used:
            self.uses_asked.emit(self.ticked)

    def show_colours(self, rows: Sequence[ThemeColour], swaps: Mapping[Rgba, Rgba]) -> None:
        """Show the colours that lead in a theme, each as it is or as what it is replaced by."""
        self.ask.setVisible(bool(rows))
        self._swatches.setVisible(bool(rows))
        emptied(self._flow)
        self.swatches = []
        for row in rows:
            new = swaps.get(row.colour)
            names = (
                tr("{colour} becomes {new}: {where}").format(
                    colour=row.colour.hex, new=new.hex, where=standing(row.places, row.files)
                )
                if new is not None
                else tr("{colour}: {where}").format(colour=row.colour.hex, where=standing(row.places, row.files))
            )
            button = SwatchButton(self._style, new or row.colour, names, _SWATCH)
            button.set_lit(new is not None)
            button.clicked.connect(lambda _=False, b=button, r=row, n=new: self._open_menu(b, r.colour, n))
            self._flow.addWidget(button)
            self.swatches.append(button)

    def menu(self, old: Rgba, new: Rgba | None) -> QMenu:
        """Return what can take the place of a colour."""
        menu = QMenu(self)

        def add(words: str, colour: Rgba) -> None:
            action = QAction(swatch(colour, _ICON), words, menu)
            action.triggered.connect(lambda: self.swap_asked.emit(old, colour))
            menu.addAction(action)

        def head(words: str) -> None:
            action = QAction(words, menu)
            action.setEnabled(False)
            menu.addAction(action)

        if self.offered:
            head(tr("From the wallpaper"))
        for colour in self.offered:
            add(colour.hex, colour)
        head(tr("From the look"))
        for role in _ROLES:
            if role in self.roles:
                add(ROLE_BY_ID[role].title, self.roles[role])
        menu.addSeparator()
        other = QAction(tr("Another colour…"), menu)
        other.triggered.connect(lambda: self._ask(self._swatches, new or old, lambda c: self.swap_asked.emit(old, c)))
        menu.addAction(other)
        if new is not None:
            back = QAction(tr("Its own colour {colour}").format(colour=old.hex), menu)
            back.triggered.connect(lambda: self.swap_asked.emit(old, None))
            menu.addAction(back)
        return menu

    def _open_menu(self, button: SwatchButton, old: Rgba, new: Rgba | None) -> None:
        menu = self.menu(old, new)
        menu.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)
        menu.popup(button.mapToGlobal(button.rect().bottomLeft()))
