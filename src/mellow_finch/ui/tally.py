"""What is left at every step, said under its name in the step track."""

from __future__ import annotations

from PyQt6.QtCore import QObject, QTimer, pyqtSignal

from ..errors import FinchError
from ..wear.history import History
from ..wear.places import history_folder
from .document import Document
from .gather_desk import GatherDesk
from .steps import StepTrack

_REST_MS = 150  # the counts follow a drag when the hand has rested for so long


class Tally(QObject):
    """Counts what is locked, dressed, short and worn."""

    trouble = pyqtSignal(str)

    def __init__(self, document: Document, track: StepTrack, desk: GatherDesk) -> None:
        super().__init__()
        self._document, self._track, self._desk = document, track, desk
        self._worn = ""
        self.interrupted = False  # whether an earlier change waits to be finished or undone
        self._resting = QTimer(self)
        self._resting.setSingleShot(True)
        self._resting.timeout.connect(self.count)

    def follow(self) -> None:
        """Count after a change, when the stage has been painted, or when a drag rests."""
        self._resting.start(_REST_MS if self._document.dragging else 0)

    def count(self) -> None:
        """Say at every step what is left there."""
        look, buttons = self._document.look, self._track.buttons
        if look is None:
            for name in buttons:
                buttons[name].say("no picture yet" if name == "gather" else "")
            return
        dressed = self._document.dressed
        buttons["gather"].say(self._desk.start_words(look))
        buttons["tune"].say(f"{len(look.locks)} locked" if look.locks else f"{look.tone}, no locks")
        done = len(dressed.components) if dressed else 0
        buttons["dress"].say(f"{done} dressed")
        short = sum(not f.passes for f in self._document.findings)
        buttons["proof"].say(f"{short} to mend" if short else "all readable", bool(short))
        buttons["wear"].say("worn" if self._worn == look.name else "not worn yet")

    def learn_what_is_worn(self) -> None:
        """Learn which look the home wears; only wearing and another home can change that."""
        self._worn, self.interrupted = "", False
        if self._document.home is not None:
            history = History(history_folder(self._document.home))
            try:
                last, pending = history.last_worn(), history.pending()
            except FinchError as error:
                self.trouble.emit(error.line())
            else:
                self._worn = last.look if last is not None else ""
                self.interrupted = pending is not None
                if pending is not None:
                    self.trouble.emit(
                        f"Putting on “{pending.look}” was interrupted. Wear offers to finish or to undo it."
                    )
        self.count()
