"""Tune, the terminal: its colours changed in place, how far apart they are, and what is printed on the stage beside."""

from __future__ import annotations

from PyQt6.QtCore import QMimeData, QPoint, QSize, Qt, pyqtSignal
from PyQt6.QtGui import QDragEnterEvent, QDropEvent, QKeyEvent, QMouseEvent
from PyQt6.QtWidgets import QGridLayout, QHBoxLayout, QLabel, QPushButton, QVBoxLayout, QWidget

from ...colour.rgb import Rgba, parse_hex
from ...colour.vision import Vision
from ...language import decimal, listed, titled, tr
from ...look.edits import is_as_derived, with_ansi_set, with_lock, with_role_by_hand, with_role_reset, with_swapped
from ...look.role_pairs import pairs_of_role
from ...palette.ansi import APART, nearest_pair
from ...palette.roles import ANSI_NAMES, ROLE_BY_ID
from ...palette.spoken import pair_words
from ..kit.drag import carries_colour, colour_data, dropped_choice
from ..kit.flow import Flow
from ..kit.panels import tab_row
from ..kit.parts import label, plain_column, set_kind
from ..kit.style import Style
from ..kit.swatch_button import SwatchButton
from ..model.choosing import Choosing
from ..model.document import Document
from ..model.role_menu import RoleMenu

_EYES: tuple[tuple[Vision, str], ...] = (
    ("normal", tr("Typical vision")),
    ("deutan", tr("Deutan vision")),
    ("protan", tr("Protan vision")),
)
_NUMBERED = tuple(f"ansi_{i}" for i in range(16))
_OTHERS = (
    ("terminal", tr("Background")), ("cursor", tr("Text cursor")), ("terminal_selection", tr("Selection")),
    ("terminal_text", tr("Text")),
    ("cursor_text", tr("Text in cursor")),
    ("terminal_selection_text", tr("Selected text")),
)  # fmt: skip
_PRINTED = (
    ("session", tr("Shell"), tr("A prompt, a listing, a few log levels")),
    ("files", tr("Files"), tr("A long listing and search results")),
    ("diff", tr("Diff"), tr("Changes, their status and history")),
    ("editor", tr("Editor"), tr("Code with syntax highlighting")),
    ("monitor", tr("Monitor"), tr("Bars and a table of processes")),
    ("styles", tr("Styles"), tr("Bold, dim, underlined, reversed; 256 and 24-bit colours")),
)


class RoleSwatch(SwatchButton):
    """The swatch of a role: click to select, double click or Enter to change, drag onto another to swap the two."""

    change_asked = pyqtSignal()
    dropped = pyqtSignal(str)  # the role that was dropped on it, or a colour in hex

    def __init__(self, style: Style, role: str, size: QSize) -> None:
        super().__init__(style, Rgba(0, 0, 0), "", size)
        self.role = role
        self.setAcceptDrops(True)

    def carried(self) -> QMimeData:
        """Return what is dragged: the role here, its colour for other programs."""
        return colour_data(self.colour, self.role)

    def mouseDoubleClickEvent(self, event: QMouseEvent | None) -> None:
        """Ask for another colour."""
        self.change_asked.emit()

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        """Ask for another colour by Enter; Space selects."""
        if event is not None and event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Enter):
            self.change_asked.emit()
        else:
            super().keyPressEvent(event)

    def dragEnterEvent(self, event: QDragEnterEvent | None) -> None:
        """Take roles and colours."""
        if event is not None and carries_colour(event):
            event.acceptProposedAction()

    def dropEvent(self, event: QDropEvent | None) -> None:
        """Tell what was dropped."""
        choice = dropped_choice(event)
        if choice and choice != self.role:
            self.dropped.emit(choice)


class TerminalPage(QWidget):
    """Shows the terminal's colours and changes them through the document."""

    printed_asked = pyqtSignal(str)  # what is to be shown in the terminal on the stage

    def __init__(self, document: Document, style: Style, choosing: Choosing, menu: RoleMenu) -> None:
        super().__init__()
        self._document, self._choosing, self._menu = document, choosing, menu
        column = plain_column(self, 8)
        words = tr("Double-click a colour to change it; drag it onto another to swap the two.")
        column.addWidget(label(words, "quiet"))
        self.swatches: dict[str, RoleSwatch] = {}
        grid = QGridLayout()
        grid.setSpacing(4)
        for i, role in enumerate(_NUMBERED):
            grid.addWidget(self._swatch(style, role, QSize(33, 30)), i // 8, i % 8)
        column.addLayout(grid)
        others = Flow(4)
        for role, title in _OTHERS:
            other = QWidget()
            row = QHBoxLayout(other)
            row.setContentsMargins(0, 0, 0, 0)
            row.setSpacing(6)
            row.addWidget(self._swatch(style, role, QSize(28, 26)))
            row.addWidget(label(title, "quiet", wrap=False), 1)
            others.addWidget(other)
        column.addLayout(others)
        column.addWidget(self._build_chosen())
        column.addWidget(label(tr("Shown in the preview"), "section"))
        tabs, self.printed = tab_row(self, _PRINTED, self.printed_asked.emit)
        column.addLayout(tabs)
        self._build_nearest(style, column)

    def _swatch(self, style: Style, role: str, size: QSize) -> RoleSwatch:
        made = RoleSwatch(style, role, size)
        made.clicked.connect(lambda: self._document.select(role))
        made.change_asked.connect(lambda: self._change(role))
        made.dropped.connect(lambda other: self._take(role, other))
        made.menu_asked.connect(lambda at: self._open_menu(role, at, made))
        self.swatches[role] = made
        return made

    def _build_chosen(self) -> QWidget:
        box = QWidget()
        column = plain_column(box, 4)
        self.chosen = label("", "section")
        self.pair = label("")
        row = QHBoxLayout()
        self.change = QPushButton(tr("Change…"))
        self.lock = QPushButton(tr("Lock"))
        self.reset = QPushButton(tr("Reset"))
        self.reset.setToolTip(tr("Reset to the derived colour"))
        self.change.clicked.connect(lambda: self._change(self._document.role))
        self.lock.clicked.connect(self._lock)
        self.reset.clicked.connect(self._reset)
        for button in (self.change, self.lock, self.reset):
            row.addWidget(button)
        row.addStretch(1)
        for part in (self.chosen, self.pair):
            column.addWidget(part)
        column.addLayout(row)
        return box

    def _build_nearest(self, style: Style, column: QVBoxLayout) -> None:
        column.addWidget(label(tr("The two most similar"), "section"))
        near = QGridLayout()
        near.setColumnStretch(2, 1)
        self.near: dict[Vision, tuple[str, tuple[SwatchButton, SwatchButton], QLabel]] = {}
        for row, (vision, title) in enumerate(_EYES):
            pair = (
                SwatchButton(style, Rgba(0, 0, 0), "", QSize(24, 24)),
                SwatchButton(style, Rgba(0, 0, 0), "", QSize(24, 24)),
            )
            words = label("")
            for column_, button in enumerate(pair):
                near.addWidget(button, row, column_)
            near.addWidget(words, row, 2)
            self.near[vision] = (title, pair, words)
        column.addLayout(near)
        self.solve = QPushButton(tr("Optimise all 16 colours"))
        self.solve.setToolTip(
            tr("Choose all twelve hues again, as distinct as possible for deutan and protan vision; locked ones stay")
        )
        self.solve.clicked.connect(lambda: self._document.edit(tr("Optimise the terminal's colours"), with_ansi_set))
        column.addWidget(self.solve)
        column.addWidget(label(tr("Distances are CIEDE2000; 10 is distinct at a glance."), "quiet"))

    def refresh(self) -> None:
        """Show the set of the tone in force."""
        look = self._document.look
        if look is None:
            return
        for id_, own in self.swatches.items():
            role = ROLE_BY_ID[id_]
            colour = look.colours[id_]
            words = tr("{title}, {colour}, locked") if id_ in look.locks else tr("{title}, {colour}")
            words = words.format(title=role.title, colour=colour.hex)
            own.set_colour(colour)
            own.setAccessibleName(words)
            own.setToolTip(words)
            own.set_lit(id_ == self._document.role)
        self._show_chosen()
        for vision, (title, pair, told) in self.near.items():
            distance, first, second = nearest_pair(look.colours, vision)
            names = listed([ANSI_NAMES[int(r.removeprefix("ansi_"))] for r in (first, second)])
            told.setText("\n".join((titled(title, decimal(distance, 1)), names)))
            set_kind(told, "bad" if vision == "normal" and distance < APART else "")
            for button, role_name in zip(pair, (first, second), strict=True):
                button.set_colour(look.colours[role_name])
                button.setAccessibleName(ROLE_BY_ID[role_name].title)
                button.setToolTip(ROLE_BY_ID[role_name].title)

    def _show_chosen(self) -> None:
        look, id_ = self._document.look, self._document.role
        known = look is not None and id_ in self.swatches
        for button in (self.change, self.lock, self.reset):
            button.setEnabled(known)
        self.pair.setVisible(known)
        if look is None or not known:
            self.chosen.setText(tr("Click one to select it."))
            return
        locked = id_ in look.locks
        self.chosen.setText(tr("{title}, {colour}").format(title=ROLE_BY_ID[id_].title, colour=look.colours[id_].hex))
        self.lock.setText(tr("Unlock") if locked else tr("Lock"))
        self.change.setEnabled(not locked)
        self.reset.setEnabled(not locked and not is_as_derived(look, id_))
        rows = pairs_of_role(look, id_)
        self.pair.setVisible(bool(rows))
        if rows:
            self.pair.setText(pair_words(rows[0]))
            set_kind(self.pair, "good" if rows[0].passes else "bad")

    def _change(self, role: str) -> None:
        self._document.select(role)
        self._choosing.ask_role(role, self.swatches.get(role, self.change))

    def _take(self, role: str, other: str) -> None:
        """Swap two of the terminal's colours, or take any other role's or program's."""
        look = self._document.look
        if look is not None and other not in self.swatches:
            colour = look.colours[other] if other in look.colours else parse_hex(other)
            words = tr("Change {title}").format(title=ROLE_BY_ID[role].title)
            self._document.edit(words, lambda now: with_role_by_hand(now, role, colour))
            return
        words = tr("Swap two colours: {first}, {second}")
        words = words.format(first=ROLE_BY_ID[role].title, second=ROLE_BY_ID[other].title)
        self._document.edit(words, lambda look: with_swapped(look, role, other))

    def _lock(self) -> None:
        role, look = self._document.role, self._document.look
        if look is not None:
            on = role not in look.locks
            words = tr("Lock a colour") if on else tr("Unlock a colour")
            self._document.edit(words, lambda now: with_lock(now, role, on))

    def _reset(self) -> None:
        role = self._document.role
        words = tr("Reset {title}").format(title=ROLE_BY_ID[role].title)
        self._document.edit(words, lambda look: with_role_reset(look, role))

    def _open_menu(self, role: str, at: QPoint, swatch: RoleSwatch) -> None:
        self._document.select(role)
        self._menu.show_for(role, at, swatch)
