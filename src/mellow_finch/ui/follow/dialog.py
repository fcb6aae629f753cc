"""Following in the window: whether something follows, by which rules, what it did; starting, pausing, stopping."""

from __future__ import annotations

from dataclasses import replace
from datetime import datetime, time
from pathlib import Path

from PyQt6.QtCore import Qt, QTime, QTimer
from PyQt6.QtGui import QHideEvent, QShowEvent
from PyQt6.QtWidgets import (
    QDialog,
    QFormLayout,
    QHBoxLayout,
    QListWidget,
    QListWidgetItem,
    QPlainTextEdit,
    QPushButton,
    QVBoxLayout,
    QWidget,
)

from ...errors import FinchError, line_of
from ...follow.follower import own_follower
from ...follow.rules import DAY_RULES, Rules, load_rules, paused, rules_from, save_rules
from ...follow.service import follow_folder, has_units, install, nudge, remove, running
from ...language import tr
from ...shelf.shelf import Shelf
from ..kit.fields import NumberField, TimeField
from ..kit.flow import WrapCheck
from ..kit.jobs import Jobs
from ..kit.parts import Choice, label, set_kind
from .day_line import DayLine

_LOOK_AGAIN_MS = 2000
_LOG_LINES = 60
_JOB = "following"
_STARTS = (("unit", tr("The session, as a user unit")), ("entry", tr("The session, by an autostart entry")))


class FollowDialog(QDialog):
    """Shows and changes the rules; the work itself is done by a process of its own, with or without this window."""

    def __init__(self, jobs: Jobs, home: Path, shelf: Shelf, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self._jobs, self._home, self._shelf = jobs, home, shelf
        self.setWindowTitle(tr("Follow the wallpaper and the time of day"))
        self.setMinimumSize(620, 560)
        column = QVBoxLayout(self)
        column.setContentsMargins(18, 16, 18, 14)
        column.setSpacing(10)
        self.state = label("", "section")
        self.why = label("", "quiet")
        column.addWidget(self.state)
        column.addWidget(self.why)
        column.addLayout(self._build_rules())
        self.trouble = label("", "bad")
        self.trouble.hide()
        column.addWidget(self.trouble)
        column.addWidget(label(tr("Activity"), "quiet"))
        self.log = QPlainTextEdit()
        self.log.setReadOnly(True)
        self.log.setAccessibleName(tr("What following did, newest at the bottom"))
        self.log.setLineWrapMode(QPlainTextEdit.LineWrapMode.WidgetWidth)
        column.addWidget(self.log, 1)
        column.addLayout(self._build_buttons())
        self._timer = QTimer(self)
        self._timer.setInterval(_LOOK_AGAIN_MS)
        self._timer.timeout.connect(self.refresh)
        self._show_rules(self._known_rules())
        self.refresh()

    # Building

    def _build_rules(self) -> QFormLayout:
        form = QFormLayout()
        form.setVerticalSpacing(8)
        form.setHorizontalSpacing(16)
        self.look = Choice()
        self.look.addItem(tr("The newest on the Shelf"), "")
        for kept in self._shelf.looks():
            self.look.addItem(kept.name, kept.id)
        self.night = Choice()
        self.night.addItem(tr("The same look"), "")
        for i in range(1, self.look.count()):
            self.night.addItem(self.look.itemText(i), self.look.itemData(i))
        self.kept = WrapCheck(tr("Use the look saved for a wallpaper, if there is one"))
        self.kept.setToolTip(tr("Each wallpaper of a slideshow can have its own look: save one for each to the Shelf"))
        self.line = DayLine()
        self.picture = WrapCheck(tr("Make a new look for it, with the same controls and locks"))
        self.day = Choice()
        for rule, words in DAY_RULES.items():
            self.day.addItem(words[0].upper() + words[1:], rule)
        self.latitude = self._degrees(tr("Latitude, degrees north"), 90)
        self.longitude = self._degrees(tr("Longitude, degrees east"), 180)
        self.light_at, self.dark_at = TimeField(), TimeField()
        for edit, name in ((self.light_at, tr("Light from")), (self.dark_at, tr("Dark from"))):
            edit.setDisplayFormat("HH:mm")
            edit.setAccessibleName(name)
        self.place = self._row((tr("Latitude"), self.latitude), (tr("Longitude"), self.longitude))
        self.times = self._row((tr("Light from"), self.light_at), (tr("Dark from"), self.dark_at))
        self.turn = QListWidget()
        self.turn.setAccessibleName(tr("Looks that take turns, one a day"))
        self.turn.setMaximumHeight(96)
        self.turn.setSpacing(2)
        for i in range(1, self.look.count()):
            item = QListWidgetItem(self.look.itemText(i))
            item.setFlags(Qt.ItemFlag.ItemIsEnabled | Qt.ItemFlag.ItemIsUserCheckable | Qt.ItemFlag.ItemIsSelectable)
            item.setData(Qt.ItemDataRole.UserRole, self.look.itemData(i))
            item.setCheckState(Qt.CheckState.Unchecked)
            self.turn.addItem(item)
        self.starts = Choice()
        for id_, words in _STARTS:
            self.starts.addItem(words, id_)
        wallpaper = QWidget()
        both = QVBoxLayout(wallpaper)
        both.setContentsMargins(0, 0, 0, 0)
        both.setSpacing(6)
        for check in (self.kept, self.picture):
            both.addWidget(check)
        rows: tuple[tuple[str, QWidget], ...] = (
            (tr("Day and night"), self.day),
            (tr("Location"), self.place),
            (tr("When"), self.times),
            (tr("A day"), self.line),
            (tr("Look"), self.look),
            (tr("Look at night"), self.night),
            (tr("A new wallpaper"), wallpaper),
            (tr("One a day, taking turns"), self.turn),
            (tr("Start with"), self.starts),
        )
        for title, widget in rows:
            widget.setAccessibleName(widget.accessibleName() or title)
            form.addRow(label(title, wrap=False), widget)
        self._form = form
        self.day.currentIndexChanged.connect(lambda _: self._show_needed())
        for field in (self.latitude, self.longitude):
            field.valueChanged.connect(lambda _: self._show_line())
        for edit in (self.light_at, self.dark_at):
            edit.timeChanged.connect(lambda _: self._show_line())
        return form

    @staticmethod
    def _degrees(name: str, most: float) -> NumberField:
        box = NumberField()
        box.setRange(-most, most)
        box.setDecimals(2)
        box.setSuffix("°")
        box.setAccessibleName(name)
        return box

    @staticmethod
    def _row(*parts: tuple[str, QWidget]) -> QWidget:
        row = QHBoxLayout()
        row.setContentsMargins(0, 0, 0, 0)
        for words, widget in parts:
            row.addWidget(label(words, "quiet", wrap=False))
            row.addWidget(widget)
        row.addStretch(1)
        made = QWidget()
        made.setLayout(row)
        return made

    def _build_buttons(self) -> QHBoxLayout:
        row = QHBoxLayout()
        self.start_button = QPushButton(tr("Start following"))
        self.start_button.setProperty("main", True)
        self.start_button.clicked.connect(self.start)
        self.pause_button = QPushButton(tr("Pause"))
        self.pause_button.clicked.connect(self.switch_pause)
        self.stop_button = QPushButton(tr("Stop following"))
        self.stop_button.setToolTip(tr("Stop, and remove the autostart; the applied look stays"))
        self.stop_button.clicked.connect(self.stop)
        done = QPushButton(tr("Done"))
        done.clicked.connect(self.accept)
        for button in (self.start_button, self.pause_button, self.stop_button):
            row.addWidget(button)
        row.addStretch(1)
        row.addWidget(done)
        return row

    # What is shown

    def _known_rules(self) -> Rules:
        try:
            return load_rules()
        except FinchError as error:
            self._say(error)
            return Rules()

    def _say(self, error: Exception | None) -> None:
        self.trouble.setText("" if error is None else line_of(error))
        self.trouble.setVisible(error is not None)

    def _show_rules(self, rules: Rules) -> None:
        found = max(self.look.findData(rules.look), self.look.findText(rules.look) if rules.look else 0, 0)
        self.look.setCurrentIndex(found)
        night = max(self.night.findData(rules.night), self.night.findText(rules.night) if rules.night else 0, 0)
        self.night.setCurrentIndex(night)
        self.kept.setChecked(rules.kept)
        self.picture.setChecked(rules.picture)
        self.day.setCurrentIndex(self.day.findData(rules.day))
        latitude, longitude = rules.place or (0.0, 0.0)
        self.latitude.setValue(latitude)
        self.longitude.setValue(longitude)
        self.light_at.setTime(QTime(rules.light_at.hour, rules.light_at.minute))
        self.dark_at.setTime(QTime(rules.dark_at.hour, rules.dark_at.minute))
        for item in self._turns():
            wanted = {item.data(Qt.ItemDataRole.UserRole), item.text()} & set(rules.turn)
            item.setCheckState(Qt.CheckState.Checked if wanted else Qt.CheckState.Unchecked)
        self._show_needed()

    def _turns(self) -> list[QListWidgetItem]:
        rows = (self.turn.item(i) for i in range(self.turn.count()))
        return [item for item in rows if item is not None]

    def _show_needed(self) -> None:
        """Show only what the rule for the day needs."""
        day = self.day.currentData()
        self._form.setRowVisible(self.place, day == "sun")
        self._form.setRowVisible(self.times, day == "clock")
        self._form.setRowVisible(self.turn, self.turn.count() > 1)
        self._form.setRowVisible(self.night, day != "none" and self.night.count() > 1)
        self._show_line()

    def _show_line(self) -> None:
        """Show from when to when a day is light by the rules as they are set here."""
        now = datetime.now().astimezone()
        try:
            light = self.rules().light_between(now)
        except FinchError:  # said when they are taken
            light = None
        self._form.setRowVisible(self.line, light is not None)
        self.line.show_day(light, now)

    def rules(self) -> Rules:
        """Return the rules as they are set here. Raises ParseError."""
        light, dark = self.light_at.time(), self.dark_at.time()
        day = next(rule for rule in DAY_RULES if rule == self.day.currentData())
        place = (self.latitude.value(), self.longitude.value())
        checked = (i for i in self._turns() if i.checkState() == Qt.CheckState.Checked)
        made = replace(
            self._known_rules(),
            look=str(self.look.currentData()),
            night=str(self.night.currentData()),
            kept=self.kept.isChecked(),
            picture=self.picture.isChecked(),
            day=day,
            place=place if day == "sun" or any(place) else None,
            light_at=time(light.hour(), light.minute()),
            dark_at=time(dark.hour(), dark.minute()),
            turn=tuple(str(i.data(Qt.ItemDataRole.UserRole)) for i in checked),
        )
        return rules_from(made.as_toml())

    def refresh(self) -> None:
        """Show what is so now."""
        try:
            follower = own_follower(self._home)
        except FinchError:
            return  # said already
        stopped, on_hold = follower.stopped(), follower.rules.paused
        follows = bool(running(follow_folder()))
        at_work = follows and not on_hold and not stopped
        said = tr("Following") if at_work else tr("Not following")
        if follows and not at_work:
            said = tr("Paused") if on_hold else tr("Stopped")
        self.state.setText(said)
        set_kind(self.state, "bad" if follows and stopped else "good" if at_work else "section")
        self.why.setText(
            stopped
            if follows and stopped
            else tr(
                "It continues without this window. A look with insufficient contrast is never "
                "applied, and your own edits are never overwritten."
            )
        )
        self.start_button.setText(tr("Use these rules") if follows else tr("Start following"))
        self.pause_button.setEnabled(follows)
        self.pause_button.setText(tr("Continue") if on_hold or stopped else tr("Pause"))
        self.stop_button.setEnabled(follows)
        self.starts.setEnabled(not follows)
        lines = "\n".join(follower.log(_LOG_LINES))
        if lines != self.log.toPlainText():
            self.log.setPlainText(lines)
            bar = self.log.verticalScrollBar()
            if bar is not None:
                bar.setValue(bar.maximum())

    def showEvent(self, event: QShowEvent | None) -> None:
        """Look again as long as this is in sight."""
        super().showEvent(event)
        self._timer.start()

    def hideEvent(self, event: QHideEvent | None) -> None:
        """Look no more."""
        super().hideEvent(event)
        self._timer.stop()

    # What is done

    def start(self) -> None:
        """Follow by these rules, from now on and with every session."""
        try:
            rules = paused(self.rules(), False)
            save_rules(rules)
        except FinchError as error:
            self._say(error)
            return
        self._say(None)
        own_follower(self._home).go_on()
        if running(follow_folder()):
            nudge(follow_folder())
            self.refresh()
            return
        by_unit = self.starts.currentData() == "unit"
        self.start_button.setEnabled(False)

        def work(_progress: object) -> None:
            install(follow_folder(), by_unit and has_units())

        self._jobs.start(_JOB, work, lambda _: self._after(None), self._after)

    def _after(self, error: Exception | None) -> None:
        self.start_button.setEnabled(True)
        self._say(error)
        self.refresh()

    def switch_pause(self) -> None:
        """Follow nothing for a while, or go on after a pause or after a change by hand."""
        follower = own_follower(self._home)
        on = not follower.rules.paused and not follower.stopped()
        try:
            save_rules(paused(follower.rules, on))
            if not on:
                follower.go_on()
                nudge(follow_folder())
        except FinchError as error:
            self._say(error)
        self.refresh()

    def stop(self) -> None:
        """Follow no more."""
        self._jobs.start(_JOB, lambda _progress: remove(follow_folder()), lambda _: self._after(None), self._after)
