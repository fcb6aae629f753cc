"""The page beside the wall of programs: what was found out of the chosen one, and what can be done about it."""

from __future__ import annotations

from PyQt6.QtCore import QSize, Qt
from PyQt6.QtWidgets import QHBoxLayout, QListWidget, QListWidgetItem, QPushButton, QWidget

from ...language import decimal, parted, tr
from ...proof.rehearsal.conductor import Rehearsed
from ...proof.rehearsal.room import wall_words
from ...proof.rehearsal.verdict import first_words, state_title
from ..kit.flow import WrapCheck
from ..kit.parts import label, plain_column, set_kind, swatch
from ..kit.style import Style
from .program_wall import MARKS, ProgramWall
from .programs import Programs


class ProgramPage(QWidget):
    """Says what a program shows; starts and stops trying all of them."""

    def __init__(self, programs: Programs, wall: ProgramWall, style: Style, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self._programs, self._wall = programs, wall
        self._row: Rehearsed | None = None
        column = plain_column(self, 8)
        self.title = label("", "section")
        column.addWidget(self.title)
        self.words = label("")
        column.addWidget(self.words)
        self.where = label("", "quiet")
        self.where.setTextInteractionFlags(Qt.TextInteractionFlag.TextSelectableByMouse)
        column.addWidget(self.where)
        self.list = QListWidget()
        self.list.setAccessibleName(tr("Problems"))
        self.list.setIconSize(QSize(44, 22))
        self.list.setWordWrap(True)
        self.list.currentRowChanged.connect(wall.large.choose)
        column.addWidget(self.list, 4)
        self.mend = QPushButton(tr("Fix the contrast"))
        self.mend.setToolTip(tr("The smallest change of colour that makes this text readable"))
        self.mend.clicked.connect(self._mend)
        column.addWidget(self.mend)
        column.addStretch(1)
        self.absent = label("", "quiet")
        column.addWidget(self.absent)
        self.slow = WrapCheck(tr("Include programs that start slowly"))
        column.addWidget(self.slow)
        self.walls = label("", "quiet")
        column.addWidget(self.walls)
        self.stale = label(tr("The look has changed since: try again."), "bad")
        column.addWidget(self.stale)
        row = QHBoxLayout()
        self.start = QPushButton(tr("Try my programs"))
        self.start.setProperty("main", True)
        self.start.setToolTip(tr("Start them in a hidden session; nothing in your home folder changes"))
        self.start.clicked.connect(lambda: programs.start(self.slow.isChecked()))
        self.stop = QPushButton(tr("Stop"))
        self.stop.setToolTip(tr("Stop; results so far are kept"))
        self.stop.clicked.connect(programs.stop)
        row.addWidget(self.start)
        row.addWidget(self.stop)
        column.addLayout(row)
        wall.chosen.connect(self._show)
        wall.place_chosen.connect(self.list.setCurrentRow)
        programs.changed.connect(self.refresh)
        self._told_walls = False

    def refresh(self) -> None:
        """Bring buttons and what is said up to date."""
        programs = self._programs
        self._wall.say()
        if not self._told_walls and self.isVisible() and not programs.reason_not:
            self._told_walls = True
            self.walls.setText(wall_words())
        self.start.setVisible(not programs.running)
        self.stop.setVisible(programs.running)
        self.start.setEnabled(not programs.reason_not)
        self.start.setToolTip(
            programs.reason_not or tr("Start them in a hidden session; nothing in your home folder changes")
        )
        self.start.setText(tr("Try again") if programs.rows else tr("Try my programs"))
        names = [row.program for row in programs.absent]
        self.absent.setText(tr("Not installed: {names}.").format(names=parted(names)) if names else "")
        self.absent.setVisible(bool(names))
        self._show(self._row if self._row in programs.rows else self._wall.current())

    def _show(self, row: object) -> None:
        """Say what is known of a program."""
        found = row if isinstance(row, Rehearsed) else None
        self._row = found
        self.stale.setVisible(self._programs.stale)
        if found is None:
            self.title.setText(tr("Click an image to enlarge it.") if self._programs.rows else "")
            set_kind(self.title, "quiet")
        else:
            mark, kind = MARKS[found.state]
            self.title.setText(f"{mark} {state_title(found.state)}")
            set_kind(self.title, kind)
        self.words.setText(found.words if found is not None else "")
        self.words.setVisible(found is not None)
        self.where.setText(
            tr("Probably from {place}").format(place=found.where)
            if found is not None and found.where and found.state in ("other", "unreadable")
            else ""
        )
        self.where.setVisible(bool(self.where.text()))
        self.list.clear()
        if found is not None:
            for text in found.shown.short:
                words = tr("{ink} on {ground}: {ratio}, needs {need:g}").format(
                    ink=text.ink.hex, ground=text.ground.hex, ratio=decimal(text.ratio, 2), need=text.need.level
                )
                item = QListWidgetItem(swatch(text.ground, QSize(44, 22)), words)
                item.setToolTip(tr("A mark") if text.mark else tr("Text"))
                self.list.addItem(item)
            for line in first_words(found.shown.parts):
                self.list.addItem(QListWidgetItem(line))
        self.list.setVisible(self.list.count() > 0)
        short = found is not None and bool(found.shown.short)
        self.mend.setVisible(short)
        if short and self.list.currentRow() < 0:
            self.list.setCurrentRow(0)

    def _mend(self) -> None:
        row, at = self._row, self.list.currentRow()
        if row is not None and 0 <= at < len(row.shown.short):
            self._programs.mend(row, row.shown.short[at])
            self.refresh()
