"""What is worn and what wearing would do, learned and done off the window's thread."""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path

from PyQt6.QtCore import QFileSystemWatcher, QObject, QTimer, pyqtSignal

from ...components.catalogue import COMPONENT_BY_ID
from ...errors import Cancelled, FinchError, WearError, line_of
from ...language import plural, tr
from ...look.dressed import Dressed, dress
from ...look.model import Look
from ...session.base import DesktopSession, NotifyResult
from ...wear.after import programs_after
from ...wear.edits import edits_lost
from ...wear.glass import as_drawn_here, nothing_blurs, nothing_composites, starts_compositor
from ...wear.history import History
from ...wear.names import plan_to_follow
from ...wear.places import history_folder
from ...wear.plan import Plan, stale_paths
from ...wear.rollcall import roll_call
from ...wear.signs import unseen
from ...wear.status import status_of
from ...wear.trial import Watcher, begin, count_down, give_back, keep, keep_as_one, settle, trial_of
from ...wear.wear import Done, finish, go_back_to, put_on, settings_to_change, undo_last
from ..kit.jobs import JobProgress, Jobs
from .document import Document
from .known import Known

_LEARN, _CHANGE = "learn what is worn", "change the home"
_SETTLE_MS = 300  # after files changed on disk, until they are read again
_MOST_WATCHED = 1500
Step = Callable[[History, set[str], set[str], JobProgress], str]


def _written(files: int) -> str:
    return plural(
        "✓ {count} file written. You can undo this at any time.",
        "✓ {count} files written. You can undo this at any time.",
        files,
    )


class WearDesk(QObject):
    """Learns, puts on, finishes and takes off, one at a time."""

    learned = pyqtSignal(object)  # Known
    progressed = pyqtSignal(int, int, str)  # of a change; a total of 0 says that it is over
    said = pyqtSignal(str, bool)  # what came of a change, and whether it is good news
    undecided = pyqtSignal(object)  # the WearError that asks about files; `decide` answers
    done = pyqtSignal()  # a change ended, well or not
    worn = pyqtSignal()  # a look was applied
    trying = pyqtSignal(int)  # a look is on for so many seconds

    def __init__(self, document: Document, jobs: Jobs, session: DesktopSession) -> None:
        super().__init__()
        self._document, self._jobs, self.session = document, jobs, session
        self._again: tuple[Step, set[str], set[str], Callable[[], None] | None] | None = None
        self._in_sight = False
        self.themes_ready: Callable[[Look], bool] = lambda _look: True
        self._watcher_of_trial: Watcher | None = None  # it lives for as long as this program does
        self._heard: dict[str, NotifyResult] = {}  # what came of telling programs when a look was applied last
        self._watcher = QFileSystemWatcher(self)
        self._watcher.fileChanged.connect(lambda _: self._settle.start())
        self._watcher.directoryChanged.connect(lambda _: self._settle.start())
        self._settle = QTimer(self)
        self._settle.setSingleShot(True)
        self._settle.setInterval(_SETTLE_MS)
        self._settle.timeout.connect(self._read_anew)
        jobs.progressed.connect(self._progressed)

    @property
    def busy(self) -> bool:
        """Tell whether a change is under way."""
        return self._jobs.running(_CHANGE)

    def _history(self) -> History | None:
        home = self._document.home
        return History(history_folder(home), who=tr("The window")) if home is not None else None

    # Learning

    def look_again(self) -> None:
        """Learn what the home wears and what the look would change."""
        history, home, dressed, look = self._history(), self._document.home, self._document.dressed, self._document.look
        if history is None or home is None or self.busy:
            return
        if dressed is not None:
            _ = dressed.outputs  # worked out here, so that the job only reads
        session, document, heard = self.session, self._document, dict(self._heard)
        waits = look is not None and not self.themes_ready(look)

        def as_named(folder: str) -> Dressed:
            assert look is not None
            here = as_drawn_here(look, session)
            if dressed is not None and folder == dressed.folder and here is look:
                return dressed
            return document.dress(here, folder=folder)

        def work(_progress: JobProgress) -> tuple[Known, bool]:
            settle(history, session)
            history.tidy()
            plan: Plan | None = None
            problem = tr("The theme is being recoloured. Apply is ready in a moment.") if waits else ""
            stale = False
            try:
                if look is not None and not waits:
                    plan = plan_to_follow(as_named, look.folder, home, session, history)
                stale = bool(plan and stale_paths(plan, history))
            except FinchError as error:
                problem = error.line()
            settings = settings_to_change(plan, session) if plan is not None else ()
            status = status_of(history)
            calls = roll_call(status.worn, session, heard) if status.worn is not None else ()
            name = look.name if look is not None else ""
            running = session.running({way.program for _, way in plan.ways}) if plan is not None else frozenset()
            flat = look is not None and nothing_composites(look, session)
            sharp = look is not None and nothing_blurs(look, session)
            signs = unseen(plan, look, home, flat=flat, sharp=sharp) if plan is not None and look is not None else ()
            edits = edits_lost(plan, history) if plan is not None else ()
            outside, composites = session.outside(), session.compositor()
            blurs = session.blurs(look is not None and starts_compositor(look))
            held = dict(dressed.held) if dressed is not None else {}
            after = programs_after(history)
            return Known(
                name, status, plan, settings, problem, calls, outside, composites, running, signs, edits, held, after,
                blurs,
            ), stale  # fmt: skip

        def done(found: tuple[Known, bool]) -> None:
            known, stale = found
            if stale:  # what the look was dressed on has changed since
                self._document.read_anew()
                return
            self._watch(known.plan)
            self.learned.emit(known)

        self._jobs.start(_LEARN, work, done, lambda error: self.said.emit(_line(error), False))

    def come_in_sight(self, in_sight: bool) -> None:
        """Follow changes on disk for as long as the plan can be seen."""
        self._in_sight = in_sight
        if not in_sight:
            self._watch(None)

    def rest(self) -> None:
        """Follow nothing on disk any more."""
        self.come_in_sight(False)
        self._settle.stop()

    def _watch(self, plan: Plan | None) -> None:
        old = [*self._watcher.files(), *self._watcher.directories()]
        if old:
            self._watcher.removePaths(old)
        if plan is None or not self._in_sight:
            return
        home = plan.home
        paths = {str(w.target.place) for w in plan.writes} | {str(home / p) for p, sum_ in plan.seen.items() if sum_}
        there = [p for p in sorted(paths) if Path(p).is_file()][:_MOST_WATCHED]
        if there:
            self._watcher.addPaths(there)

    def _read_anew(self) -> None:
        if not self.busy:
            self._document.read_anew()

    # Changing

    def wear(self, make: Callable[[], Plan], told: Callable[[int], str] = _written) -> None:
        """Put on the plan that `make`, called off the window's thread, returns; told: what is said of so many files."""

        def step(history: History, overwrite: set[str], leave: set[str], progress: JobProgress) -> str:
            plan = make()
            heard: dict[str, NotifyResult] = {}
            snapshot = put_on(plan, history, self.session, progress, heard, overwrite, leave)
            self._heard = heard
            if snapshot is None:
                return tr("“{look}” is already in the home folder: nothing to change.").format(look=plan.look)
            return told(len(snapshot.files))

        self._start(step, set(), set(), self.worn.emit)

    def try_on(self, make: Callable[[], Plan], seconds: int) -> None:
        """Put on the plan that `make` returns for some seconds; it goes back by itself unless `keep` is called."""
        home = self._document.home

        def step(history: History, overwrite: set[str], leave: set[str], progress: JobProgress) -> str:
            assert home is not None
            plan = make()
            self._watcher_of_trial = begin(history, home)
            heard: dict[str, NotifyResult] = {}
            snapshot = put_on(plan, history, self.session, progress, heard, overwrite, leave)
            self._heard = heard
            if snapshot is None:
                keep(history)
                self._end_trial()
                return tr("“{look}” is already in the home folder: nothing to change.").format(look=plan.look)
            count_down(history, seconds)
            self.trying.emit(seconds)
            return plural(
                "The look is applied for {count} second.", "The look is applied for {count} seconds.", seconds
            )

        self._start(step, set(), set())

    def follow(self, seconds: int) -> None:
        """Let the desktop follow the look that is tried as it is now, and stay so for some seconds.

        Only what follows without being started again takes part. What the person edited meanwhile stays.
        """
        document, look, home = self._document, self._document.look, self._document.home
        if look is None or home is None:
            return
        here = frozenset(id_ for id_, found in document.present.items() if found.here)
        ids = frozenset(id_ for id_ in (here - look.left_out) | look.added if follows_at_once(id_))
        files, themes = document.files, document.themes

        def step(history: History, overwrite: set[str], leave: set[str], progress: JobProgress) -> str:
            def dressed_as(folder: str) -> Dressed:
                return dress(as_drawn_here(look, self.session), files, ids, folder=folder, themes=themes)

            if trial_of(history) is None:
                return ""
            count_down(history, seconds)  # so that nobody takes it off meanwhile
            plan = plan_to_follow(dressed_as, look.folder, home, self.session, history, changed=True)
            left = leave | {found.path for found in edits_lost(plan, history)}
            put_on(plan, history, self.session, progress, None, overwrite, left)
            count_down(history, seconds)
            return ""

        self._start(step, set(), set())

    def keep(self) -> None:
        """Keep the look that is being tried, as one change that can be undone."""
        document, look, home = self._document, self._document.look, self._document.home
        if look is None or home is None:
            return

        kept = False

        def step(history: History, overwrite: set[str], leave: set[str], progress: JobProgress) -> str:
            nonlocal kept

            def make() -> Plan:
                return plan_to_follow(
                    lambda folder: document.dress(as_drawn_here(look, self.session), folder=folder),
                    look.folder,
                    home,
                    self.session,
                    history,
                )

            kept = keep_as_one(history, self.session, make)
            if not kept:  # time was over before
                return tr("✓ Every file is restored.")
            return tr("✓ The look stays. You can undo it at any time.")

        def done() -> None:
            self._end_trial()
            if kept:
                self.worn.emit()

        self._start(step, set(), set(), done)

    def _end_trial(self) -> None:
        if self._watcher_of_trial is not None:
            self._watcher_of_trial.let_go()
            self._watcher_of_trial = None

    def give_back(self) -> None:
        """Let the look go that is being tried."""

        def step(history: History, overwrite: set[str], leave: set[str], progress: JobProgress) -> str:
            done = give_back(history, self.session)
            self._end_trial()
            words = tr("✓ Every file is restored.")
            return _told(words, done) if done is not None else words

        self._start(step, set(), set())

    def finish(self) -> None:
        """Finish what was interrupted."""

        def step(history: History, overwrite: set[str], leave: set[str], progress: JobProgress) -> str:
            return _told(tr("✓ Completed."), finish(history, self.session, overwrite, leave, progress))

        self._start(step, set(), set())

    def undo(self) -> None:
        """Take the last look off, or what was interrupted back."""

        def step(history: History, overwrite: set[str], leave: set[str], progress: JobProgress) -> str:
            return _told(tr("✓ Every file is restored."), undo_last(history, self.session, overwrite, leave, progress))

        self._start(step, set(), set())

    def go_back_to(self, snapshot_id: str) -> None:
        """Take off a look and all that came after it."""

        def step(history: History, overwrite: set[str], leave: set[str], progress: JobProgress) -> str:
            count, left = go_back_to(snapshot_id, history, self.session, overwrite, leave, progress)
            words = tr("✓ Every file is restored.")
            if count > 1:
                words = plural(
                    "✓ {count} look undone; every file is restored.",
                    "✓ {count} looks undone; every file is restored.",
                    count,
                )
            return _with_left(words, left)

        self._start(step, set(), set())

    def decide(self, error: WearError, give_up: bool) -> None:
        """Do again what was refused: with edits given up, or with the files in question left as they are."""
        if self._again is None:
            return
        step, overwrite, leave, then = self._again
        if give_up:
            self._start(step, overwrite | set(error.edited), leave | set(error.damaged), then)
        else:
            self._start(step, overwrite, leave | set(error.edited) | set(error.damaged), then)

    def restart(self, component: str) -> None:
        """Start a component's panel, bar or notifier again."""
        known = COMPONENT_BY_ID.get(component)
        if known is None or not known.restarts:
            return
        session = self.session

        def work(_progress: JobProgress) -> NotifyResult:
            return session.restart(known.restarts[0], known.restarts[1:])

        def done(answer: NotifyResult) -> None:
            good = answer.outcome == "told"
            self.said.emit(
                tr("✓ {title} was restarted.").format(title=known.title)
                if good
                else answer.words or tr("It is not running."),
                good,
            )
            self.look_again()

        self._jobs.start(f"restart {component}", work, done, lambda error: self.said.emit(_line(error), False))

    def stop(self) -> None:
        """Stop the change that is under way."""
        self._jobs.stop(_CHANGE)

    def _start(
        self, step: Step, overwrite: set[str], leave: set[str], then: Callable[[], None] | None = None
    ) -> None:  # fmt: skip
        history = self._history()
        if history is None or self.busy:
            return
        self._again = step, overwrite, leave, then
        self._jobs.cancel(_LEARN)

        def done(words: str) -> None:
            self._end()
            self.said.emit(words, True)
            if then is not None:
                then()

        def failed(error: Exception) -> None:
            self._end()
            self.said.emit(_line(error), isinstance(error, Cancelled))
            if isinstance(error, WearError) and (error.edited or error.damaged):
                self.undecided.emit(error)

        self._jobs.start(_CHANGE, lambda progress: step(history, overwrite, leave, progress), done, failed)

    def _end(self) -> None:
        self.progressed.emit(0, 0, "")
        self.done.emit()

    def _progressed(self, key: str, done: int, total: int, note: str) -> None:
        if key == _CHANGE:
            self.progressed.emit(done, total, note)


def follows_at_once(component: str) -> bool:
    """Tell whether a component's programs take a change up while they run."""
    found = COMPONENT_BY_ID.get(component)
    return found is not None and (found.effect != "restart" or bool(found.follow))


def _line(error: Exception) -> str:
    if isinstance(error, WearError) and (error.edited or error.damaged):
        return f"{error}"  # its hint names options of the command line; the window has buttons
    return line_of(error)


def _with_left(words: str, left: tuple[str, ...]) -> str:
    return f"{words} {' '.join(left[:3])}" if left else words


def _told(words: str, done: Done) -> str:
    return _with_left(words, done.left)
