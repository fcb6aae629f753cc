"""Wear: what will be written where, then putting it on; and the history with the way back."""

from __future__ import annotations

from collections.abc import Callable

from PyQt6.QtCore import Qt, pyqtSignal
from PyQt6.QtWidgets import QHBoxLayout, QListWidget, QListWidgetItem, QProgressBar, QPushButton, QWidget

from ...errors import WearError
from ...language import comma_separated, counted_files, moment, plural, tr
from ...look.decision_edits import with_added
from ...session.desktop import desktop_named
from ...wear.history import History
from ...wear.journal import Snapshot
from ...wear.places import history_folder, home_title
from ..kit.panels import Panel, tab_bar
from ..kit.parts import label, set_kind
from ..kit.style import Style
from ..model.document import Document
from ..model.known import Known
from ..model.live import LiveTrial
from ..model.wearing import WearDesk
from .calls_view import CallsView
from .plan_view import PlanView
from .trial_box import TrialBox

TRIAL_S = 15
_STATES = {
    "worn": tr("applied"),
    "undone": tr("undone"),
    "writing": tr("interrupted"),
    "undoing": tr("interrupted"),
}


_VIEWS = (
    ("plan", tr("Plan"), tr("Every file and setting that changes, by component")),
    ("calls", tr("Roll call"), tr("What follows the look, what needs an action, what will not follow")),
    ("stage", tr("Stage"), tr("The desktop with this look")),
)


class WearPanel(Panel):
    """Shows the plan and the history, and lets the desk put on and take off; asks nothing twice."""

    home_asked = pyqtSignal()
    view_changed = pyqtSignal(str)

    def __init__(self, document: Document, style: Style, desk: WearDesk, parent: QWidget | None = None) -> None:
        super().__init__(
            tr("Wear"),
            tr("Apply the look, or undo it. Old files are backed up first; nothing is lost."),
            parent,
            scrolls=False,
        )
        self._document, self._desk = document, desk
        self._known: Known | None = None
        self._error: WearError | None = None
        self.may_wear: Callable[[int], bool] = lambda _: True
        row = QHBoxLayout()
        self.home = label("")
        self.choose = QPushButton(tr("Other home folder…"))
        self.choose.setToolTip(tr("Apply the look to another home folder"))
        self.choose.clicked.connect(self.home_asked)
        row.addWidget(self.home, 1)
        row.addWidget(self.choose)
        self.column.addLayout(row)
        self.state = label("", "section")
        self.column.addWidget(self.state)
        self._build_pending()
        self.count = label("", "quiet")
        self.column.addWidget(self.count)
        self.view = "plan"
        self.centre_bar, self.tabs = tab_bar(tr("Show in the centre"), _VIEWS, self.show_view)
        self.plan = PlanView()
        self.plan.more_asked.connect(self._add)
        self.calls = CallsView(style)
        self.calls.restart_asked.connect(desk.restart)
        self.calls.again_asked.connect(desk.look_again)
        self.column.addWidget(label(tr("History"), "section"))
        self.history = QListWidget()
        self.history.setAccessibleName(tr("Applied looks, newest first"))
        self.history.setMinimumHeight(84)
        self.history.currentItemChanged.connect(lambda *_: self._update_buttons())
        self.column.addWidget(self.history, 1)
        self._build_foot()
        desk.learned.connect(self.show_known)
        desk.said.connect(self._say)
        desk.worn.connect(lambda: self.show_view("calls"))
        desk.undecided.connect(self._ask)
        desk.progressed.connect(self._progressed)
        desk.trying.connect(self._count_down)
        self.live = LiveTrial(document, desk)
        self._ask(None)
        self._progressed(0, 0, "")

    def _build_pending(self) -> None:
        row = QHBoxLayout()
        self.finish_button = QPushButton(tr("Complete it"))
        self.finish_button.setToolTip(tr("Continue where it was interrupted"))
        self.finish_button.clicked.connect(self._desk.finish)
        self.revert_button = QPushButton(tr("Undo it"))
        self.revert_button.setToolTip(tr("Restore everything as it was before"))
        self.revert_button.clicked.connect(self._desk.undo)
        row.addWidget(self.finish_button)
        row.addWidget(self.revert_button)
        self.column.addLayout(row)

    def _build_foot(self) -> None:
        self.said = label("", "good")
        self.foot.addWidget(self.said)
        self.give_up = QPushButton(tr("Overwrite my edits"))
        self.give_up.setToolTip(tr("Your changes in these files are replaced"))
        self.give_up.clicked.connect(lambda: self._decide(True))
        self.leave = QPushButton(tr("Keep them, continue"))
        self.leave.setToolTip(tr("These files stay as they are now; all others are written"))
        self.leave.clicked.connect(lambda: self._decide(False))
        self.foot.addWidget(self.leave)
        self.foot.addWidget(self.give_up)
        row = QHBoxLayout()
        self.bar = QProgressBar()
        self.bar.setTextVisible(False)
        self.bar.setAccessibleName(tr("Progress"))
        self.stop = QPushButton(tr("Stop"))
        self.stop.setToolTip(tr("Stop; everything stays as it is"))
        self.stop.clicked.connect(self._desk.stop)
        row.addWidget(self.bar, 1)
        row.addWidget(self.stop)
        self.foot.addLayout(row)
        self.wear_button = QPushButton(tr("Apply this look"))
        self.wear_button.setToolTip(tr("Apply the look, or undo it. Old files are backed up first; nothing is lost."))
        self.wear_button.setProperty("main", True)
        self.wear_button.clicked.connect(self.wear)
        self.try_button = QPushButton(plural("Try it for {count} second", "Try it for {count} seconds", TRIAL_S))
        self.try_button.setToolTip(tr("Apply it now; it is undone unless you keep it"))
        self.try_button.clicked.connect(self.try_on)
        self.foot.addWidget(self.try_button)
        self.foot.addWidget(self.wear_button)
        self.back = QPushButton(tr("Restore the state before this look"))
        self.back.setToolTip(tr("Every file is restored byte for byte, every setting to its previous value"))
        self.back.clicked.connect(self.go_back)
        self.foot.addWidget(self.back)

    def centre(self, stage: QWidget) -> QWidget:
        """Return what the centre shows: the plan, the roll call, or the stage."""
        return {"plan": self.plan, "calls": self.calls}.get(self.view, stage)

    def show_view(self, name: str) -> None:
        """Show the plan in the centre, the roll call, or the stage."""
        self.view = name
        self.tabs[name].setChecked(True)
        self.view_changed.emit(name)

    # Showing

    def show_known(self, known: Known) -> None:
        """Show the plan, what is worn, and the history."""
        home = self._document.home
        if home is None:
            return
        self._known = known
        desktop = desktop_named(self._desk.session.desktop)
        there = [home_title(home), *([desktop.title] if desktop is not None else ())]
        self.home.setText(comma_separated(there))
        status = known.status
        self.state.setText(known.sentence())
        set_kind(self.state, "bad" if status.pending is not None or status.broken else "section")
        for button in (self.finish_button, self.revert_button):
            button.setVisible(status.pending is not None)
        self._show_plan(known)
        chosen = self._chosen()
        self.history.clear()
        for snapshot in reversed(History(history_folder(home)).snapshots()):
            when = moment(snapshot.when)
            item = QListWidgetItem("\n".join((comma_separated((snapshot.look, _STATES[snapshot.status])), when)))
            item.setToolTip(counted_files(len(snapshot.files)))
            item.setData(Qt.ItemDataRole.UserRole, snapshot)
            self.history.addItem(item)
            if chosen is not None and snapshot.id == chosen.id and chosen.status != "undone":
                self.history.setCurrentItem(item)
        if self.history.count() and self.history.currentRow() < 0:
            self.history.setCurrentRow(0)
        self._update_buttons()

    def _show_plan(self, known: Known) -> None:
        plan = known.plan
        self.plan.show_known(known)
        self.calls.show_known(known)
        if plan is None:
            self.count.setText(known.problem)
            return
        new = sum(w.action == "create" for w in plan.writes)
        changed, settings = len(plan.writes) - new, len(known.settings)
        counts = (
            plural("{count} new file", "{count} new files", new) if new else "",
            plural("{count} file changed", "{count} files changed", changed) if changed else "",
            plural("{count} setting", "{count} settings", settings) if settings else "",
        )
        self.count.setText(comma_separated(list(filter(None, counts))) or tr("✓ Every file is up to date"))

    def _chosen(self) -> Snapshot | None:
        item = self.history.currentItem()
        found: Snapshot | None = item.data(Qt.ItemDataRole.UserRole) if item is not None else None
        return found

    def _update_buttons(self) -> None:
        known, chosen, free = self._known, self._chosen(), not self._desk.busy
        pending = known is not None and known.status.pending is not None
        plan = known.plan if known is not None else None
        to_do = plan is not None and known is not None and bool(plan.writes or known.settings)
        self.wear_button.setEnabled(to_do and not pending and free)
        self.try_button.setEnabled(to_do and not pending and free)
        self.back.setEnabled(chosen is not None and chosen.status == "worn" and not pending and free)
        self.finish_button.setEnabled(free)
        self.revert_button.setEnabled(free)

    def _progressed(self, done: int, total: int, _note: str) -> None:
        for widget in (self.bar, self.stop):
            widget.setVisible(total > 0)
        if total:
            self.bar.setRange(0, total)
            self.bar.setValue(done)
        self._update_buttons()

    def _say(self, words: str, good: bool) -> None:
        self.said.setText(words)
        set_kind(self.said, "good" if good else "bad")
        self._ask(None)

    def _ask(self, error: WearError | None) -> None:
        """Offer what can be decided about files that were edited since, or whose kept bytes are damaged."""
        self._error = error
        self.leave.setVisible(error is not None)
        self.give_up.setVisible(error is not None and bool(error.edited))

    # Doing

    def wear(self) -> None:
        """Put the look on."""
        plan = self._known.plan if self._known is not None else None
        if plan is not None and self.may_wear(len(plan.writes)):
            self._begin()
            self._desk.wear(lambda: plan)

    def try_on(self) -> None:
        """Put the look on for some seconds."""
        plan = self._known.plan if self._known is not None else None
        if plan is not None:
            self._begin()
            self._desk.try_on(lambda: plan, TRIAL_S)

    def _count_down(self, seconds: int) -> None:
        """Show how long the look is on, over whatever is in sight."""
        box = TrialBox(seconds, self.window())
        box.kept.connect(lambda: self.live.end(self._desk.keep))
        box.given_back.connect(lambda: self.live.end(self._desk.give_back))
        box.follow_asked.connect(self.live.follow)
        self.live.sent.connect(box.begin_anew)
        box.show()

    def _add(self, components: frozenset[str]) -> None:
        self._document.edit(tr("Create new files in the home folder"), lambda look: with_added(look, components))

    def go_back(self) -> None:
        """Take off the chosen look and all that came after it."""
        chosen = self._chosen()
        if chosen is not None:
            self._begin()
            self._desk.go_back_to(chosen.id)

    def _decide(self, give_up: bool) -> None:
        if self._error is not None:
            error = self._error
            self._begin()
            self._desk.decide(error, give_up)

    def _begin(self) -> None:
        self._say("", True)
