"""Wear: what will be written where, then putting it on; and the history with the way back."""

from __future__ import annotations

from pathlib import Path

from PyQt6.QtCore import Qt, pyqtSignal
from PyQt6.QtWidgets import QHBoxLayout, QListWidget, QListWidgetItem, QPushButton, QWidget

from ..components.catalogue import COMPONENT_BY_ID
from ..errors import FinchError
from ..session.base import Session
from ..wear.history import History, Snapshot
from ..wear.places import history_folder
from ..wear.wear import Plan, finish, go_back_to, make_plan, put_on, take_off
from .document import Document
from .parts import Panel, label, set_kind
from .style import Style

_STATES = {"worn": "worn", "undone": "taken off", "writing": "interrupted", "undoing": "interrupted"}


class WearPanel(Panel):
    """Plans, puts on and takes off; asks nothing twice, overwrites nobody's edits."""

    home_asked = pyqtSignal()
    changed = pyqtSignal()

    def __init__(self, document: Document, style: Style, session: Session, parent: QWidget | None = None) -> None:
        super().__init__("Wear", "Old files are kept first. Nothing is lost.", parent)
        self._document, self._session = document, session
        row = QHBoxLayout()
        self.home = label("")
        self.choose = QPushButton("Other home…")
        self.choose.setToolTip("Wear the look somewhere else, your own home included")
        self.choose.clicked.connect(self.home_asked)
        row.addWidget(self.home, 1)
        row.addWidget(self.choose)
        self.column.addLayout(row)
        self.pending = label("", "bad")
        self.column.addWidget(self.pending)
        pending_row = QHBoxLayout()
        self.finish_button = QPushButton("Finish it")
        self.finish_button.clicked.connect(self._finish)
        self.revert_button = QPushButton("Undo it")
        self.revert_button.clicked.connect(self._revert)
        pending_row.addWidget(self.finish_button)
        pending_row.addWidget(self.revert_button)
        self.column.addLayout(pending_row)
        self.count = label("", "section")
        self.column.addWidget(self.count)
        self.list = QListWidget()
        self.list.setAccessibleName("Files that will be written")
        self.list.setMinimumHeight(170)
        self.list.setTextElideMode(Qt.TextElideMode.ElideMiddle)
        self.list.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.column.addWidget(self.list, 2)
        self.restart = label("", "quiet")
        self.column.addWidget(self.restart)
        self.wear_button = QPushButton("Wear this look")
        self.wear_button.setProperty("main", True)
        self.wear_button.clicked.connect(self.wear)
        self.column.addWidget(label("History", "section"))
        self.history = QListWidget()
        self.history.setAccessibleName("Looks that were put on, newest first")
        self.history.setMinimumHeight(84)
        self.history.currentItemChanged.connect(lambda *_: self._update_back())
        self.column.addWidget(self.history, 1)
        self.said = label("", "good")
        self.foot.addWidget(self.said)
        self.foot.addWidget(self.wear_button)
        self.back = QPushButton("Go back to before the chosen one")
        self.back.setToolTip("Every file gets its exact old bytes back")
        self.back.clicked.connect(self.go_back)
        self.foot.addWidget(self.back)

    def set_session(self, session: Session) -> None:
        """Speak to another desktop from here on."""
        self._session = session

    def _history(self) -> History | None:
        return History(history_folder(self._document.home)) if self._document.home is not None else None

    def plan(self) -> Plan | None:
        """Return what would be written; tells the person when that cannot be said."""
        dressed, home = self._document.dressed, self._document.home
        if dressed is None or home is None:
            return None
        try:
            return make_plan(dressed, home)
        except FinchError as error:
            self._document.trouble.emit(error.line())
            return None

    def refresh(self) -> None:
        """Show plan and history."""
        home, history = self._document.home, self._history()
        if home is None or history is None:
            return
        self.home.setText(f"On {_short(home)}")
        plan = self.plan()
        self.list.clear()
        if plan is not None:
            for write in plan.writes:
                sign = "+" if write.action == "create" else "~"
                item = QListWidgetItem(f"{sign} ~/{write.path}")
                item.setToolTip(
                    f"{'New' if write.action == 'create' else 'Changed'}, for {COMPONENT_BY_ID[write.component].title}"
                )
                self.list.addItem(item)
            new = sum(w.action == "create" for w in plan.writes)
            changed = len(plan.writes) - new
            self.count.setText(
                f"{new} new files (+), {changed} changed (~)"
                if plan.writes
                else "✓ This look is worn: every file is right"
            )
            self.restart.setText("\n".join(f"• {sentence}" for sentence in plan.restart))
        try:
            snapshots, pending = history.snapshots(), history.pending()
        except FinchError as error:
            self._document.trouble.emit(error.line())
            snapshots, pending = [], None
        self.pending.setText(f"Putting on “{pending.look}” was interrupted." if pending else "")
        for widget in (self.pending, self.finish_button, self.revert_button):
            widget.setVisible(pending is not None)
        self.finish_button.setEnabled(pending is not None and pending.status == "writing")
        self.wear_button.setEnabled(bool(plan and plan.writes) and pending is None)
        self.history.clear()
        for snapshot in reversed(snapshots):
            item = QListWidgetItem(f"{snapshot.when.replace('T', ' ')}  {snapshot.look}, {_STATES[snapshot.status]}")
            item.setData(Qt.ItemDataRole.UserRole, snapshot)
            self.history.addItem(item)
        if self.history.count():
            self.history.setCurrentRow(0)
        self._update_back()

    def _chosen(self) -> Snapshot | None:
        item = self.history.currentItem()
        found: Snapshot | None = item.data(Qt.ItemDataRole.UserRole) if item is not None else None
        return found

    def _update_back(self) -> None:
        chosen = self._chosen()
        self.back.setEnabled(chosen is not None and chosen.status == "worn")

    def _say(self, words: str, good: bool = True) -> None:
        self.said.setText(words)
        set_kind(self.said, "good" if good else "bad")

    def wear(self) -> None:
        """Put the look on."""
        plan, history = self.plan(), self._history()
        if plan is None or history is None:
            return
        try:
            snapshot = put_on(plan, history, self._session)
        except FinchError as error:
            self._say(error.line(), False)
        else:
            if snapshot is not None:
                self._say(f"✓ {len(snapshot.entries)} files written. You can go back at any time.")
        self.refresh()
        self.changed.emit()

    def go_back(self) -> None:
        """Take off the chosen look and all that came after it."""
        chosen, history = self._chosen(), self._history()
        if chosen is None or history is None:
            return
        try:
            count = go_back_to(chosen.id, history, self._session)
        except FinchError as error:
            self._say(error.line(), False)
        else:
            self._say(
                "✓ Every file is as it was." if count == 1 else f"✓ {count} looks taken off; every file is as it was."
            )
        self.refresh()
        self.changed.emit()

    def _finish(self) -> None:
        history = self._history()
        pending = history.pending() if history else None
        if history is not None and pending is not None:
            try:
                finish(pending, history)
                self._say("✓ Finished.")
            except FinchError as error:
                self._say(error.line(), False)
        self.refresh()
        self.changed.emit()

    def _revert(self) -> None:
        history = self._history()
        pending = history.pending() if history else None
        if history is not None and pending is not None:
            try:
                take_off(pending, history, self._session)
                self._say("✓ Every file is as it was.")
            except FinchError as error:
                self._say(error.line(), False)
        self.refresh()
        self.changed.emit()


def _short(home: Path) -> str:
    if home == Path.home():
        return "your own home folder"
    return "the demo home" if home.parent.name == "demo" else f"“{home.name}”"
