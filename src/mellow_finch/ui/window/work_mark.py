"""What the window is at: a ring in the header as long as something takes its time, and a list with Stop behind it."""

from __future__ import annotations

import time
from collections.abc import Callable

from PyQt6.QtCore import QRect, QRectF, QSize, Qt, QTimer
from PyQt6.QtGui import QPainter, QPaintEvent, QPen
from PyQt6.QtWidgets import QGridLayout, QProgressBar, QPushButton, QToolButton, QWidget

from ...language import plural, tr
from ..kit.jobs import Jobs
from ..kit.parts import ElidedLabel, emptied, label
from ..kit.popover import Popover
from ..kit.style import Style

_AFTER_S = 0.5  # from when on work is told
_TICK_MS = 100
_WIDE = 360
# Jobs that a person waits for, by how their keys begin.
_TITLES = {
    "picture": tr("Reading images"),
    "readings": tr("Drawing suggestions"),
    "folder": tr("Comparing the images of a folder"),
    "preview": tr("Tinting the image"),
    "toned": tr("Saving the tinted image"),
    "palette ": tr("Reading a theme's colours"),
    "read ": tr("Opening a theme"),
    "theme ": tr("Recolouring a theme"),
    "toolkit": tr("Checking with the real toolkit"),
    "themes here": tr("Listing the themes of this computer"),
    "screen colours": tr("Recolouring the screenshot"),
    "change": tr("Changing the desktop"),
    "programs": tr("Trying real programs"),
    "card": tr("Drawing a card"),
    "send": tr("Exporting a parcel"),
    "receive ": tr("Reading a parcel"),
    "take in": tr("Importing a parcel"),
    "report": tr("Writing a report"),
    "restart ": tr("Restarting a program"),
    "keep a look": tr("Saving to the Shelf"),
}


def title_of(key: str) -> str:
    """Return what a job does in words, empty for work that nobody waits for."""
    return next((title for start, title in _TITLES.items() if key.startswith(start)), "")


class _Work:
    """One job: since when it runs, how far it is, which never goes back, and what it is at."""

    def __init__(self) -> None:
        self.since = time.monotonic()
        self.share = 0.0
        self.note = ""

    def report(self, done: int, total: int, note: str) -> None:
        """Take a report of progress; a total of 0 says nothing of how far it is."""
        self.share = max(self.share, min(1.0, done / total) if total > 0 else 0.0)
        self.note = note or self.note


class WorkList(Popover):
    """A row a job: what it does, how far it is, and Stop."""

    def __init__(self, window: QWidget, stop: Callable[[str], object]) -> None:
        super().__init__(window)
        self._stop = stop
        self.setFixedWidth(_WIDE)
        self.setAccessibleName(tr("Work in progress"))
        self._grid = QGridLayout(self)
        self._grid.setContentsMargins(14, 12, 14, 12)
        self._grid.setColumnStretch(0, 1)
        self._keys: tuple[str, ...] = ()
        self._rows: dict[str, tuple[ElidedLabel, QProgressBar]] = {}
        self.stops: dict[str, QPushButton] = {}

    def show_work(self, work: dict[str, _Work]) -> None:
        """Show jobs as they stand now."""
        if tuple(work) != self._keys:
            self._keys = tuple(work)
            emptied(self._grid)
            self._rows, self.stops = {}, {}
            for i, key in enumerate(work):
                self._add(i * 3, key)
            self.adjustSize()
        for key, row in work.items():
            note, bar = self._rows[key]
            note.setText(row.note)
            note.setToolTip(row.note)
            bar.setRange(0, 1000 if row.share else 0)
            bar.setValue(round(row.share * 1000))

    def _add(self, at: int, key: str) -> None:
        note, bar, stop = ElidedLabel(), QProgressBar(), QPushButton(tr("Stop"))
        note.setProperty("kind", "quiet")
        bar.setTextVisible(False)
        bar.setAccessibleName(title_of(key))
        stop.setAccessibleName(tr("Stop: {title}").format(title=title_of(key)))
        stop.clicked.connect(lambda: self._stop(key))
        self._grid.addWidget(label(title_of(key), "section", wrap=False), at, 0)
        self._grid.addWidget(note, at + 1, 0)
        self._grid.addWidget(bar, at + 2, 0)
        self._grid.addWidget(stop, at, 1, 3, 1, Qt.AlignmentFlag.AlignVCenter)
        self._rows[key], self.stops[key] = (note, bar), stop


class WorkMark(QToolButton):
    """Keeps its place in the header whether or not anything is under way, so that nothing moves when it is over."""

    def __init__(self, style: Style, jobs: Jobs) -> None:
        super().__init__()
        self._style, self._jobs = style, jobs
        self._work: dict[str, _Work] = {}
        self._turn = 0
        self.list: WorkList | None = None
        self.setProperty("bare", True)
        self._tick = QTimer(self)
        self._tick.setInterval(_TICK_MS)
        self._tick.timeout.connect(self._show)
        jobs.changed.connect(self._follow)
        jobs.progressed.connect(self._report)
        self.clicked.connect(self._open)
        self._show()

    def sizeHint(self) -> QSize:
        """Return the size of the other tools of the header."""
        return QSize(30, 30)

    @property
    def told(self) -> dict[str, _Work]:
        """Return the jobs that have taken long enough to be told."""
        now = time.monotonic()
        return {key: row for key, row in self._work.items() if now - row.since >= _AFTER_S}

    def _follow(self) -> None:
        keys = [key for key in self._jobs.keys if title_of(key)]
        self._work = {key: self._work.get(key) or _Work() for key in keys}
        if keys and not self._tick.isActive():
            self._tick.start()
        self._show()

    def _report(self, key: str, done: int, total: int, note: str) -> None:
        if key in self._work:
            self._work[key].report(done, total, note)

    def _show(self) -> None:
        told = self.told
        if not self._work:
            self._tick.stop()
        self.setEnabled(bool(told))
        words = plural("{count} job in progress: {title}", "{count} jobs in progress: {title}", len(told),
                       title=title_of(next(iter(told)))) if told else tr("Nothing in progress")  # fmt: skip
        if words != self.toolTip():
            self.setToolTip(words)
            self.setAccessibleName(words)
        self._turn = (self._turn + 1) % 12
        self.update()
        if self.list is not None:
            if told:
                self.list.show_work(told)
            else:
                self.list.close_with(True)

    def _open(self) -> None:
        window = self.window()
        if self.list is not None or window is None or not self.told:
            return
        self.list = WorkList(window, self._jobs.stop)
        self.list.closed.connect(self._closed)
        self.list.show_work(self.told)
        self.list.open_at(QRect(self.mapTo(window, self.rect().topLeft()), self.size()))

    def _closed(self) -> None:
        self.list = None

    def paintEvent(self, event: QPaintEvent | None) -> None:
        """Paint a ring, filled as far as the first job is; one that does not say how far goes around."""
        super().paintEvent(event)
        told = self.told
        if not told:
            return
        p = QPainter(self)
        p.setRenderHint(QPainter.RenderHint.Antialiasing)
        box = QRectF(self.rect().center().x() - 8.5, self.rect().center().y() - 8.5, 18, 18)
        p.setPen(QPen(self._style.c("line"), 3))
        p.drawEllipse(box)
        share = next(iter(told.values())).share
        p.setPen(QPen(self._style.c("accent"), 3))
        if share:
            p.drawArc(box, 90 * 16, -round(share * 360 * 16))
        else:
            p.drawArc(box, -self._turn * 30 * 16, -90 * 16)
