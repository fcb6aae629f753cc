"""What is left at every step, said under its name in the step track."""

from __future__ import annotations

from collections.abc import Mapping

from PyQt6.QtCore import QObject, QTimer, pyqtSignal

from ...language import tr
from ...proof.proof import Finding, prove
from ..kit.jobs import JobProgress, Jobs
from ..model.known import Known
from .shell import Step
from .track import StepTrack
from .workbench import Workbench

COUNTING = "counting"  # the key of the job
_REST_MS = 150  # the counts follow a drag when the hand has rested for so long


class Tally(QObject):
    """Counts what is locked, dressed, short and worn."""

    trouble = pyqtSignal(str)

    def __init__(self, bench: Workbench, jobs: Jobs, track: StepTrack, steps: Mapping[str, Step]) -> None:
        super().__init__()
        self._jobs, self._bench, self._document = jobs, bench, bench.document
        self._track, self._steps = track, steps
        self._told: set[str] = set()  # what the person has been told of interrupted and damaged snapshots
        bench.wearing.learned.connect(self._learned)
        self._resting = QTimer(self)
        self._resting.setSingleShot(True)
        self._resting.timeout.connect(self.count)

    def follow(self) -> None:
        """Count after a change, when the stage has been painted, or when a drag rests."""
        self._resting.start(_REST_MS if self._document.dragging else 0)

    def count(self) -> None:
        """Say at every step what is left there; what is not written and judged yet is, off the window's thread."""
        if self._bench.wearing.busy:  # which wants the processor first; when it is done, all is counted
            return
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

        self._jobs.start(COUNTING, work, done)

    def _say(self) -> None:
        self._bench.wearing.look_again()
        look = self._document.look
        for name, step in self._steps.items():
            status = step.status(look)
            if status is not None:  # else the look has changed meanwhile, and is counted next
                self._track.buttons[name].say(*status)

    def _learned(self, known: Known) -> None:
        """Say how the home and the look stand; tell once of what was interrupted or is damaged."""
        status = known.status
        said = self._steps["wear"].status(self._document.look)
        if said is not None:
            self._track.buttons["wear"].say(*said)
        pending = status.pending
        if pending is not None and pending.id not in self._told:
            self._told.add(pending.id)
            self.trouble.emit(tr("{words} “Wear” can complete or undo it.").format(words=status.words()))
        for folder in status.broken:
            if folder.name not in self._told:
                self._told.add(folder.name)
                self.trouble.emit(
                    tr("The backups of an earlier look are damaged and were set aside: {folder}").format(folder=folder)
                )
