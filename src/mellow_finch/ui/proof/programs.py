"""Programs tried with the look: starting it, stopping it, and what is known so far."""

from __future__ import annotations

from collections.abc import Sequence
from pathlib import Path

from PyQt6.QtCore import QObject, pyqtSignal
from PyQt6.QtGui import QImage

from ...errors import Cancelled, FinchError, line_of
from ...language import plural, tr
from ...look.model import Look
from ...proof.rehearsal.conductor import Rehearsed, in_order, rehearse
from ...proof.rehearsal.last import note_rehearsal
from ...proof.rehearsal.measured import TextPlace
from ...proof.rehearsal.mending import mended_as_painted
from ...proof.rehearsal.room import backdrop_of, missing
from ..kit.jobs import JobProgress, Jobs
from ..model.document import Document

_KEY = "programs"


class Programs(QObject):
    """Holds what was found out of each program; the newest run counts."""

    changed = pyqtSignal()
    progressed = pyqtSignal(int, int, str)
    said = pyqtSignal(str)
    trouble = pyqtSignal(str)

    def __init__(self, document: Document, jobs: Jobs, parent: QObject | None = None) -> None:
        super().__init__(parent)
        self._document, self._jobs = document, jobs
        self._rows: dict[str, Rehearsed] = {}
        self._order: list[Rehearsed] = []
        self.look: Look | None = None  # the one that they were tried with
        self.total = self.done = 0
        jobs.progressed.connect(self._progress)

    @property
    def running(self) -> bool:
        """Tell whether programs are being tried."""
        return self._jobs.running(_KEY)

    @property
    def stale(self) -> bool:
        """Tell whether what is known is of another state of the look."""
        return bool(self._rows) and self.look is not self._document.look

    @property
    def rows(self) -> Sequence[Rehearsed]:
        """Return what is known of programs that are there, the worst first."""
        return [row for row in self._order if row.state != "absent"]

    @property
    def absent(self) -> Sequence[Rehearsed]:
        """Return those that are not installed."""
        return [row for row in self._order if row.state == "absent"]

    @property
    def reason_not(self) -> str:
        """Return why no program can be tried here, empty where they can."""
        return missing()

    def start(self, slow: bool = False) -> None:
        """Try every program that the look dresses."""
        document = self._document
        dressed = document.apart() or document.dressed
        home = document.home
        if dressed is None or home is None or document.look is None:
            return
        look = self.look = document.look
        self._rows, self._order = {}, []
        self.total = self.done = 0

        def work(progress: JobProgress) -> None:
            picture = backdrop_of(look.source)
            for row in rehearse(dressed, Path(home), picture, slow=slow, progress=progress):
                progress.give(row)

        self._jobs.start(_KEY, work, lambda _: self._over(), self._failed, self._take)
        self.changed.emit()

    def stop(self) -> None:
        """End it; what is known stays."""
        self._jobs.stop(_KEY)

    def _take(self, row: Rehearsed) -> None:
        self._rows[row.id] = row
        self._order = in_order(self._rows.values())
        self.changed.emit()

    def _progress(self, key: str, done: int, total: int, note: str) -> None:
        if key == _KEY:
            self.done, self.total = max(self.done, done), total
            self.progressed.emit(self.done, total, note)

    def _over(self) -> None:
        if self.look is not None:
            note_rehearsal(self.look, self._order)
        self.said.emit(self.summary)
        self.changed.emit()

    def _failed(self, error: Exception) -> None:
        if not isinstance(error, Cancelled):
            self.trouble.emit(line_of(error))
        self.changed.emit()

    @property
    def summary(self) -> str:
        """Return what is known in a sentence."""
        rows = self.rows
        if not rows:
            return ""
        bad = sum(row.state == "unreadable" for row in rows)
        good = sum(row.state == "as_look" for row in rows)
        return plural(
            "{count} program tried: {good} as the look, {bad} with unreadable text.",
            "{count} programs tried: {good} as the look, {bad} with unreadable text.",
            len(rows),
            good=good,
            bad=bad,
        )

    def mend(self, row: Rehearsed, text: TextPlace) -> None:
        """Make a text readable that a program painted, where a colour of the look stands there."""
        document = self._document
        look, dressed = document.look, document.dressed
        if look is None or dressed is None:
            return
        paints = dressed.paints.get(row.component.id, {})
        try:
            mended = mended_as_painted(look, row, paints, text)
        except FinchError as error:
            self.trouble.emit(line_of(error))
            return
        if mended is None or mended == look:
            words = tr("The look sets no colour there: it comes from {program} itself.")
            self.trouble.emit(words.format(program=row.component.title))
            return
        words = tr("Fix the contrast in {program}").format(program=row.component.title)
        document.edit(words, lambda _look: mended)


def image_of(png: bytes) -> QImage:
    """Return a picture, null for none."""
    return QImage.fromData(png, "PNG") if png else QImage()
