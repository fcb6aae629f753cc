"""Proof in the window: its panel, and the worst places marked on the stage."""

from __future__ import annotations

from PyQt6.QtWidgets import QWidget

from ....language import plural, tr
from ....look.model import Look
from ...proof.panel import ProofPanel
from ..shell import OnStage, Shell, StepStatus
from .base import StageStep


class ProofStep(StageStep):
    """Pairs are looked at where they stand on the stage."""

    def __init__(self, shell: Shell) -> None:
        super().__init__(shell)
        self.panel = ProofPanel(self._bench.document, shell.jobs, shell.appearance)
        self.panel.pairs.report_asked.connect(lambda: shell.shelving.ask_report())
        self.panel.page_changed.connect(lambda _: self._paged())
        self.panel.programs.trouble.connect(shell.say_trouble)
        self.panel.programs.said.connect(shell.say)
        self._bench.document.selected.connect(self._selected)

    def _selected(self, _role: str, component: str, _part: str) -> None:
        """Let the stage show the component of the pair that was chosen."""
        if self._shell.step == "proof" and component != self._bench.document.in_view:
            self._bench.document.in_view = component
            self._shell.show_stage()

    @property
    def _among_programs(self) -> bool:
        return self.panel.page == "programs"

    def _paged(self) -> None:
        """Show what the chosen page is about."""
        self.panel.program.refresh()
        if self._shell.step == "proof":
            self._shell.show_centre()
            self._shell.show_stage()

    def views(self) -> tuple[QWidget, ...]:
        """Return the wall of programs."""
        return (self.panel.wall,)

    def centre(self) -> QWidget:
        """Return the stage, or the wall of programs."""
        return self.panel.wall if self._among_programs else self._bench.stage

    def on_stage(self) -> OnStage:
        """Return that the worst places are marked."""
        return OnStage(used=not self._among_programs, worst=True)

    def leave(self) -> None:
        """Let the stage show the desktop again."""
        self._bench.document.in_view = ""

    def refresh(self) -> None:
        """List the pairs anew."""
        self.panel.pairs.refresh()
        self.panel.program.refresh()

    def status(self, look: Look | None) -> StepStatus | None:
        """Return how many pairs have insufficient contrast, once they are judged."""
        findings = self._bench.document.findings_known
        if look is None or findings is None:
            return StepStatus("") if look is None else None
        programs = self.panel.programs
        unread = 0 if programs.stale else sum(row.state == "unreadable" for row in programs.rows)
        short = sum(not f.passes for f in findings)
        if not short and unread:
            return StepStatus(plural("{count} to fix", "{count} to fix", unread), True)
        words = plural("{count} to fix", "{count} to fix", short) if short else tr("all readable")
        return StepStatus(words, bool(short))
