"""Tune in the window: its panel, and who answers what its pages ask."""

from __future__ import annotations

from ....language import plural, tone_word
from ....look.edits import temper_ahead
from ....look.model import Look
from ...tune.panel import TunePanel
from ..shell import OnStage, Shell, StepStatus
from .base import StageStep


class TuneStep(StageStep):
    """Colours are decided on the stage."""

    def __init__(self, shell: Shell) -> None:
        super().__init__(shell)
        b = self._bench
        self.panel = TunePanel(b.document, shell.appearance, b.choosing, b.role_menu)
        self._shown = False  # whether the page of the role has just been brought up to date
        self._ahead: tuple[object, ...] = ()  # what the controls of the whole look were worked out for
        self.panel.page_changed.connect(lambda _: shell.show_stage())
        self.panel.page_changed.connect(lambda _: self._work_ahead())
        self.panel.glass.flat_asked.connect(b.staging.show_flat)
        self.panel.eyes.vision_asked.connect(b.staging.see_with)
        self.panel.terminal.printed_asked.connect(self._print)
        self.panel.screen_asked.connect(lambda: b.picking.pick(True))
        b.staging.picked.connect(self._picked)
        b.picking.for_role.connect(self.panel.role.take)
        b.wearing.learned.connect(lambda known: b.staging.show_sharp(known.blurs is False))
        b.wearing.learned.connect(lambda known: self.panel.glass.say_compositor(known.composites, known.blurs))

    def _print(self, printed: str) -> None:
        """Show something else in the terminal on the stage."""
        self._bench.staging.printed = printed
        self._shell.show_stage()

    def on_stage(self) -> OnStage:
        """Return whether the terminal is worked on."""
        return OnStage(terminal=self.panel.page == "terminal")

    def enter(self) -> None:
        """Say once more what is selected."""
        document = self._bench.document
        document.select(document.role, document.component, document.part)
        self._shown = self.panel.page == "role"

    def _picked(self) -> None:
        """Show what was picked on the stage, unless the step in force shows single things itself."""
        if self._shell.step not in ("tune", "dress", "proof"):
            self._shell.show_step("tune")
        if self._shell.step == "tune" and self.panel.page not in ("role", "terminal"):
            self.panel.show_page("role")

    def refresh(self) -> None:
        """Bring the page in sight up to date, unless selecting has just done that."""
        if not self._shown:
            self.panel.refresh()
        self._shown = False
        self._work_ahead()

    def _work_ahead(self) -> None:
        """While the page of the whole look is in sight, let what its controls come to be worked out beside it."""
        document = self._bench.document
        look = document.look
        if look is None or document.dragging or self.panel.page != "whole":
            return
        asked = (look.recipe, look.tone, look.locks, look.temper.text_need)
        if asked != self._ahead:
            self._ahead = asked
            self._shell.jobs.start("controls", lambda _progress: temper_ahead(look), lambda _: None)

    def status(self, look: Look | None) -> StepStatus:
        """Return how many roles are locked, or which variant is in force."""
        if look is None:
            return StepStatus("")
        return StepStatus(
            plural("{count} locked", "{count} locked", len(look.locks)) if look.locks else tone_word(look.tone)
        )
