"""The tour: five steps on the demo home of Reedholm, a sentence or two for each; nothing of one's own is touched."""

from __future__ import annotations

from pathlib import Path
from typing import TYPE_CHECKING

from PyQt6.QtWidgets import QHBoxLayout, QPushButton, QWidget

from ...language import tr
from ..kit.parts import label

if TYPE_CHECKING:
    from .shell import Shell

# Each step of the tour: the step of the work it shows, and what is said.
STOPS: tuple[tuple[str, str], ...] = (
    (
        "gather",
        tr(
            "1 of 5. This is a demo home folder; your own files are not changed. An image gave these "
            "colours; the cards on the right are other suggestions from it."
        ),
    ),
    (
        "tune",
        tr(
            "2 of 5. The preview is drawn from the files that would be written. Click anything in it "
            "and change its colour on the right; text on it follows, so that it stays readable."
        ),
    ),
    (
        "dress",
        tr(
            "3 of 5. Every part of this desktop that can get the colours. Untick what should stay as "
            "it is; select one to see its files and changes. You can also import themes."
        ),
    ),
    (
        "proof",
        tr(
            "4 of 5. Every pair of colours in the files, worst first. Insufficient contrast is fixed "
            "by the smallest change, one by one or all at once."
        ),
    ),
    (
        "wear",
        tr(
            "5 of 5. Here the look is applied: files are backed up and written, and running programs "
            "are asked to reload. Undo restores every file byte for byte. Try it: this is the demo "
            "home folder."
        ),
    ),
)


class TourBar(QWidget):
    """Hidden until the tour begins; leads from step to step, and back to the person's own home at its end."""

    def __init__(self, shell: Shell) -> None:
        super().__init__()
        self._shell = shell
        self._home: Path | None = None
        self.at = -1
        row = QHBoxLayout(self)
        row.setContentsMargins(14, 6, 14, 6)
        self.words = label("", "section")
        self.back = QPushButton(tr("Back"))
        self.back.clicked.connect(lambda: self.go(self.at - 1))
        self.next = QPushButton(tr("Next"))
        self.next.setProperty("main", True)
        self.next.clicked.connect(lambda: self.go(self.at + 1))
        self.stop = QPushButton(tr("End the tour"))
        self.stop.clicked.connect(self.end)
        row.addWidget(self.words, 1)
        for button in (self.back, self.next, self.stop):
            row.addWidget(button)
        self.hide()

    def begin(self) -> None:
        """Begin on the demo home, with one of its pictures."""
        from ...demo.build import build_demo_home
        from ...wear.places import demo_folder

        shell = self._shell
        self._home = shell.bench.document.home
        home = build_demo_home(demo_folder(), False)
        shell.use_home(home)
        shell.open_path(str(home / "Pictures" / "reedbed-at-dawn.jpg"))
        self.go(0)

    def go(self, at: int) -> None:
        """Go to a stop; behind the last one the tour ends."""
        if not 0 <= at < len(STOPS):
            self.end()
            return
        self.at = at
        step, words = STOPS[at]
        self._shell.show_step(step)
        self.words.setText(words)
        self.back.setEnabled(at > 0)
        last = at == len(STOPS) - 1
        self.next.setVisible(not last)
        self.stop.setText(tr("Done") if last else tr("End the tour"))
        self.show()

    def end(self) -> None:
        """End the tour; the window goes back to the home that it was on."""
        self.at = -1
        self.hide()
        if self._home is not None and self._home != self._shell.bench.document.home:
            self._shell.use_home(self._home)
        self._home = None
