"""Wear in the window: its panel, the plan and the roll call, and what becomes of a look that was applied."""

from __future__ import annotations

from PyQt6.QtWidgets import QWidget

from ....language import tr
from ....look.model import Look
from ...model.known import Known
from ...wear.panel import WearPanel
from ..shell import Shell, StepStatus
from .base import StageStep


class WearStep(StageStep):
    """Shows the plan, the roll call, or the stage. Can be gone to without a look when something was interrupted."""

    def __init__(self, shell: Shell) -> None:
        super().__init__(shell)
        b = self._bench
        self.panel = WearPanel(b.document, shell.appearance, b.wearing)
        self._status = StepStatus("")
        self._interrupted = False
        self.panel.may_wear = lambda count: not b.settings.asks or b.dialogs.may_wear(count)
        self.panel.view_changed.connect(lambda _: shell.show_centre())
        self.panel.home_asked.connect(b.dialogs.home)
        b.wearing.learned.connect(self._learned)
        b.wearing.worn.connect(self._keep_worn)
        b.wearing.said.connect(self._say)
        b.wearing.progressed.connect(self._say_progress)

    def bar(self) -> QWidget | None:
        """Return the tabs that choose what is in the centre."""
        return self.panel.centre_bar

    def views(self) -> tuple[QWidget, ...]:
        """Return the plan and the roll call."""
        return (self.panel.plan, self.panel.calls)

    def centre(self) -> QWidget:
        """Return the plan, the roll call, or the stage."""
        return self.panel.centre(self._bench.stage)

    def available(self) -> bool:
        """Tell whether there is a look, or something to finish or take back."""
        return super().available() or self._interrupted

    def enter(self) -> None:
        """Look at the home anew from time to time."""
        self._bench.wearing.come_in_sight(True)

    def leave(self) -> None:
        """Look no more."""
        self._bench.wearing.come_in_sight(False)

    def refresh(self) -> None:
        """Work the plan out anew."""
        self._bench.wearing.look_again()

    def _learned(self, known: Known) -> None:
        self._interrupted = known.status.pending is not None
        self._status = StepStatus(known.words(), self._interrupted)

    def status(self, look: Look | None) -> StepStatus:
        """Return how the home and the look stand."""
        return self._status if look is not None or self._interrupted else StepStatus("")

    def _keep_worn(self) -> None:
        """Keep the look that was applied, where that is wanted."""
        if self._shell.memory is not None and self._bench.settings.keeps_worn:
            self._shell.shelving.keep_worn()

    def _say(self, words: str, good: bool) -> None:
        """Tell what came of a change of the home; Wear itself tells it in its panel."""
        if good:
            self._shell.say(words)
        elif self._shell.step != "wear":
            self._shell.say_trouble(words)

    def _say_progress(self, done: int, total: int, note: str) -> None:
        if total:
            self._shell.say(tr("{done} of {total}: {note}").format(done=done, total=total, note=note))
