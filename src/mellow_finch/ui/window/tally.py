"""What is left at every step, said under its name in the step track."""

from __future__ import annotations

from PyQt6.QtCore import QObject, QTimer, pyqtSignal

from ...errors import line_of
from ...language import plural, tone_word, tr
from ...proof.proof import Finding, prove
from ..gather.desk import GatherDesk
from ..kit.jobs import JobProgress, Jobs
from ..model.document import Document
from ..model.wearing import Known, WearDesk
from .track import StepTrack

COUNTING = "counting"  # the key of the job
_REST_MS = 150  # the counts follow a drag when the hand has rested for so long


class Tally(QObject):
    """Counts what is locked, dressed, short and worn."""

    trouble = pyqtSignal(str)

    def __init__(self, document: Document, jobs: Jobs, track: StepTrack, desk: GatherDesk, wearing: WearDesk) -> None:
        super().__init__()
        self._jobs = jobs
        self._document, self._track, self._desk, self._wearing = document, track, desk, wearing
        self.interrupted = False  # whether an earlier change waits to be finished or undone
        self._told: set[str] = set()  # what the person has been told of interrupted and damaged snapshots
        wearing.learned.connect(self._learned)
        self._resting = QTimer(self)
        self._resting.setSingleShot(True)
        self._resting.timeout.connect(self.count)

    def follow(self) -> None:
        """Count after a change, when the stage has been painted, or when a drag rests."""
        self._resting.start(_REST_MS if self._document.dragging else 0)

    def count(self) -> None:
        """Say at every step what is left there; what is not written and judged yet is, off the window's thread."""
        dressed = None if self._document.worked_out else self._document.apart()
        if dressed is None:
            self._say()
            return

        def work(_progress: JobProgress) -> tuple[Finding, ...]:
            _ = dressed.outputs
            return prove(dressed)

        def done(findings: tuple[Finding, ...]) -> None:
            self._document.adopt(dressed, findings)
            self._say()

        self._jobs.start(COUNTING, work, done, lambda error: self.trouble.emit(line_of(error)))

    def _say(self) -> None:
        self._wearing.look_again()
        look, buttons = self._document.look, self._track.buttons
        if look is None:
            for name in buttons:
                buttons[name].say(tr("no picture yet") if name == "gather" else "")
            return
        dressed = self._document.dressed
        buttons["gather"].say(self._desk.start_words(look))
        buttons["tune"].say(
            plural("{count} locked", "{count} locked", len(look.locks))
            if look.locks
            else tr("{tone}, no locks").format(tone=tone_word(look.tone))
        )
        findings = self._document.findings_known
        if findings is None:
            return  # the look has changed meanwhile, and is counted next
        done = len(dressed.components) if dressed else 0
        buttons["dress"].say(plural("{count} dressed", "{count} dressed", done))
        short = sum(not f.passes for f in findings)
        buttons["proof"].say(
            plural("{count} to mend", "{count} to mend", short) if short else tr("all readable"), bool(short)
        )

    def _learned(self, known: Known) -> None:
        """Say how the home and the look stand; tell once of what was interrupted or is damaged."""
        status = known.status
        self.interrupted = status.pending is not None
        if self._document.look is not None or self.interrupted:
            self._track.buttons["wear"].say(known.words(), self.interrupted)
        pending = status.pending
        if pending is not None and pending.id not in self._told:
            self._told.add(pending.id)
            self.trouble.emit(tr("{words} Wear offers to finish it or to take it back.").format(words=status.words()))
        for folder in status.broken:
            if folder.name not in self._told:
                self._told.add(folder.name)
                self.trouble.emit(
                    tr("The kept files of an earlier look are damaged and were set aside: {folder}").format(
                        folder=folder
                    )
                )
