"""What steps have in common: most need a look, show the stage, and do nothing when others come and go."""

from __future__ import annotations

from PyQt6.QtWidgets import QWidget

from ....look.model import Look
from ..shell import OnStage, Shell


class StageStep:
    """A step that is worked at on the stage."""

    def __init__(self, shell: Shell) -> None:
        self._shell, self._bench = shell, shell.bench

    def bar(self) -> QWidget | None:
        """Return that nothing stands over it."""
        return None

    def views(self) -> tuple[QWidget, ...]:
        """Return that it shows nothing but the stage."""
        return ()

    def centre(self) -> QWidget:
        """Return the stage."""
        return self._bench.stage

    def on_stage(self) -> OnStage:
        """Return that it wants the stage as it is."""
        return OnStage()

    def available(self) -> bool:
        """Tell whether there is a look."""
        return self._bench.document.look is not None

    def enter(self) -> None:
        """Do nothing."""

    def leave(self) -> None:
        """Do nothing."""

    def follow(self, old: Look | None, new: Look, in_sight: bool) -> None:
        """Do nothing."""
