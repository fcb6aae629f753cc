"""Going from step to step: what the centre, the stage and the panel show, and what is said about it."""

from __future__ import annotations

from typing import TYPE_CHECKING

from PyQt6.QtGui import QDragEnterEvent, QDropEvent
from PyQt6.QtWidgets import QLabel, QStackedWidget, QWidget

from ...language import tr
from ..kit.parts import dropped_files, take_files
from .first_paint import FirstPaint
from .frame import WindowFrame
from .shell import Step
from .steps.rows import STEP_BY_ID
from .track import StepTrack

if TYPE_CHECKING:
    from ..steps_taken.panel import StepsPanel
    from .shelving import Shelving
    from .workbench import Workbench


class Walk(FirstPaint):
    """Knows the steps by what all of them can do; what each is, is its own matter."""

    frame: WindowFrame
    bench: Workbench
    taken: StepsPanel
    step: str
    step_by_id: dict[str, Step]
    _complete: bool

    @property
    def track(self) -> StepTrack:
        """Return the five steps in the header."""
        return self.frame.track

    @property
    def centre(self) -> QStackedWidget:
        """Return what holds the views."""
        return self.frame.centre

    @property
    def side(self) -> QStackedWidget:
        """Return what holds the panels."""
        return self.frame.side

    @property
    def footer(self) -> QLabel:
        """Return the line at the bottom."""
        return self.frame.footer

    @property
    def notice(self) -> QLabel:
        """Return the line that says what went wrong."""
        return self.frame.notice

    def complete(self) -> None:
        """Make everything that the first paint did without."""
        raise NotImplementedError

    @property
    def shelving(self) -> Shelving:
        """Return the shelf in the window."""
        raise NotImplementedError

    # The centre and the stage

    def add_views(self, panel: QWidget, *views: QWidget) -> None:
        """Take in a panel, and views for the centre."""
        self.side.addWidget(panel)
        for view in views:
            self.centre.addWidget(view)

    def show_views(self, view: QWidget, panel: QWidget) -> None:
        """Show a view in the centre and a panel beside it; a step is marked only where the panel is its own."""
        self.centre.setCurrentWidget(view)
        self.side.setCurrentWidget(panel)
        self.track.choose(self.step if panel is self.step_by_id[self.step].panel else "")

    def show_centre(self) -> None:
        """Show what the step in force is about."""
        self.centre.setCurrentWidget(self.step_by_id[self.step].centre())

    def show_stage(self) -> None:
        """Bring the stage up to date, where it is in use."""
        wish = self.step_by_id[self.step].on_stage()
        if wish.used:
            self.bench.staging.mark_worst(wish.worst)
            self.bench.staging.near_terminal = wish.terminal
            self.bench.staging.show()

    def _mark_worst(self) -> None:
        """Mark the worst places when they are known."""
        self.bench.staging.mark_worst(self.step_by_id[self.step].on_stage().worst)

    def _show_before(self, before: bool) -> None:
        """Show the desktop as it was for as long as Compare is held."""
        if not self.step_by_id[self.step].on_stage().used:
            self.centre.setCurrentWidget(self.bench.stage if before else self.step_by_id[self.step].centre())
            if before:
                self.bench.staging.show()
        self.bench.stage.set_compare(before)

    def show_compared(self) -> None:
        """Hang the curtain between the states that were chosen."""
        if not self.step_by_id[self.step].on_stage().used:
            self.step = "tune"
            self.track.choose("tune")
        self.centre.setCurrentWidget(self.bench.stage)
        self.show_stage()
        self.bench.stage.set_curtain(0.5)

    # Going somewhere

    def show_step(self, name: str) -> None:
        """Go to a step."""
        self.complete()
        document, step = self.bench.document, self.step_by_id[name]
        if not step.available():
            self.say_trouble(tr("Choose an image or a scheme first; the other steps use its colours."))
            self.track.choose(self.step)
            return
        if name != self.step:
            if document.beside != (None, None):
                document.set_beside(None, None)
            self.step_by_id[self.step].leave()
        self.step = name
        self.track.choose(name)
        self.side.setCurrentWidget(step.panel)
        step.enter()
        step.refresh()
        self.show_centre()
        self.show_stage()
        self.frame.say_hint(STEP_BY_ID[name].hint if document.look is not None else "")

    def in_sight(self) -> str:
        """Return what is in sight: a step's id, "shelf" or "taken"."""
        panel = self.side.currentWidget()
        if self._complete and panel is self.taken:
            return "taken"
        return "shelf" if "shelving" in self.__dict__ and panel is self.shelving.desk.panel else self.step

    def switch_steps(self) -> None:
        """Show the steps taken beside the stage, or go back to the step's own panel."""
        if self.in_sight() == "taken":
            self.show_step(self.step)
            return
        self.side.setCurrentWidget(self.taken)
        self.taken.refresh()

    def _show_own_centre(self) -> None:
        """Bring what a step shows instead of the stage up to date, where that is in sight."""
        if self.in_sight() == self.step and self.centre.currentWidget() in self.step_by_id[self.step].views():
            self.show_centre()

    # What is said

    def say(self, words: str) -> None:
        """Say something in the footer."""
        self.footer.setText(words)

    def say_trouble(self, words: str) -> None:
        """Tell the person what went wrong, in place; empty words take it away."""
        self.notice.setText(words)
        self.notice.setVisible(bool(words))

    # What is dropped

    def dragEnterEvent(self, event: QDragEnterEvent | None) -> None:
        """Take files, wherever in the window they are dropped."""
        take_files(event)

    def dropEvent(self, event: QDropEvent | None) -> None:
        """Open what was dropped."""
        paths = dropped_files(event)
        if paths:
            self.complete()
            self.bench.opening.open_paths(paths, recolour=self.step == "dress")
