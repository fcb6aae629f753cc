"""The panel beside the wall: finding looks, and what can be done with those that are chosen."""

from __future__ import annotations

from PyQt6.QtCore import pyqtSignal
from PyQt6.QtWidgets import QComboBox, QGridLayout, QHBoxLayout, QLineEdit, QPushButton, QWidget

from ...language import plural, tr
from ...shelf.kept import ORDERS, SOURCES, KeptLook
from ..kit.flow import WrapCheck
from ..kit.panels import Panel
from ..kit.parts import Choice, label
from ..kit.style import Style

_SHOWN = (("", tr("Each in its own variant")), ("dark", tr("All in dark")), ("light", tr("All in light")))


class ShelfPanel(Panel):
    """Says what is wanted; what is done with it is the desk's."""

    narrowed = pyqtSignal()
    tone_asked = pyqtSignal(str)
    follow_asked = pyqtSignal()
    asked = pyqtSignal(str)  # the id of something to do with the chosen looks, see DEEDS

    def __init__(self, style: Style, parent: QWidget | None = None) -> None:
        super().__init__(tr("The Shelf"), tr("Saved looks, each with its images."), parent)
        self.field = QLineEdit()
        self.field.setPlaceholderText(tr("Find by name or tag"))
        self.field.setAccessibleName(tr("Search saved looks"))
        self.field.setClearButtonEnabled(True)
        self.field.textChanged.connect(lambda _: self.narrowed.emit())
        self.column.addWidget(self.field)
        self.order = self._box(tr("Sort order"), [(id_, words) for id_, words in ORDERS.items()])
        self.tone = self._box(
            tr("Variant"), [("", tr("Dark and light looks")), ("dark", tr("Dark looks")), ("light", tr("Light looks"))]
        )
        self.source = self._box(
            tr("Source"),
            [("", tr("Any source")), *((i, tr("From {source}").format(source=w)) for i, w in SOURCES.items())],
        )
        self.strict = WrapCheck(tr("Only looks with all text at 7:1 or more"))
        self.strict.toggled.connect(lambda _: self.narrowed.emit())
        self.column.addWidget(self.strict)
        self.shown = Choice()
        self.shown.setAccessibleName(tr("Variant shown"))
        for id_, words in _SHOWN:
            self.shown.addItem(words, id_)
        self.shown.currentIndexChanged.connect(lambda _: self.tone_asked.emit(str(self.shown.currentData())))
        self.column.addWidget(self.shown)
        self.state = label("", "quiet")
        self.column.addWidget(self.state)
        self.title = label("", "section")
        self.column.addWidget(self.title)
        self.buttons: dict[str, QPushButton] = {}
        grid = QGridLayout()
        grid.setSpacing(8)
        for i, (id_, words, tip, main) in enumerate(DEEDS):
            button = QPushButton(words)
            button.setToolTip(tip)
            if main:
                button.setProperty("main", True)
            button.clicked.connect(lambda _=False, id_=id_: self.asked.emit(id_))
            grid.addWidget(button, i // 2, i % 2)
            self.buttons[id_] = button
        self.column.addLayout(grid)
        self.column.addWidget(label(tr("Tags, separated by commas"), "quiet"))
        row = QHBoxLayout()
        self.tags = QLineEdit()
        self.tags.setAccessibleName(tr("Tags of the selected look"))
        self.tags.editingFinished.connect(self._tags_edited)
        row.addWidget(self.tags)
        self.column.addLayout(row)
        self.column.addStretch(1)
        self.back = QPushButton(tr("Restore deleted looks"))
        self.back.clicked.connect(lambda: self.asked.emit("take_back"))
        self.back.hide()
        self.foot.addWidget(self.back)
        self.follow = QPushButton(tr("Follow the wallpaper and time…"))
        self.follow.setToolTip(tr("Let a saved look follow the wallpaper and the time of day, without this window"))
        self.follow.clicked.connect(self.follow_asked)
        self.foot.addWidget(self.follow)
        self._tags_shown = ""

    def _box(self, name: str, rows: list[tuple[str, str]]) -> QComboBox:
        box = Choice()
        box.setAccessibleName(name)
        for id_, words in rows:
            box.addItem(words, id_)
        box.currentIndexChanged.connect(lambda _: self.narrowed.emit())
        self.column.addWidget(box)
        return box

    def show_chosen(self, rows: list[KeptLook]) -> None:
        """Show what can be done with the looks that are chosen."""
        many = (
            plural("{count} look selected", "{count} looks selected", len(rows))
            if len(rows) > 1
            else rows[0].name
            if rows
            else tr("Select a look")
        )
        self.title.setText(many)
        for id_, button in self.buttons.items():
            least, most = _HOW_MANY.get(id_, (1, 1))
            button.setEnabled(least <= len(rows) <= most)
        self.tags.setEnabled(len(rows) == 1)
        self._tags_shown = ", ".join(rows[0].tags) if len(rows) == 1 else ""
        self.tags.setText(self._tags_shown)

    def _tags_edited(self) -> None:
        if self.tags.text() != self._tags_shown:
            self._tags_shown = self.tags.text()
            self.asked.emit("tag")


# What can be done: its id, its words, what it does, and whether it is the main thing.
DEEDS: tuple[tuple[str, str, str, bool], ...] = (
    ("open", tr("Edit"), tr("Open the look in the window to edit it"), True),
    ("wear", tr("Apply…"), tr("Open the look and show what applying it would change"), False),
    ("compare", tr("Compare"), tr("Show two looks in split view"), False),
    ("copy", tr("Copy"), tr("Duplicate it"), False),
    ("rename", tr("Rename…"), tr("Rename it"), False),
    ("card", tr("Card…"), tr("Save an image that shows the look; several looks as one image or page"), False),
    ("send", tr("Export…"), tr("Export it with all it needs as one file; several looks, one file each"), False),
    ("drop", tr("Delete"), tr("Delete it; it can be restored until the window closes"), False),
)
_MANY = 10_000
_HOW_MANY = {"compare": (2, 2), "drop": (1, _MANY), "card": (1, 200), "send": (1, 24)}
