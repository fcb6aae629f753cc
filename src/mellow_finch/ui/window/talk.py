"""What the models and dialogs of the window may ask of it: to say something, and to take up what was chosen."""

from __future__ import annotations

from pathlib import Path
from typing import TYPE_CHECKING, Protocol

if TYPE_CHECKING:
    from PyQt6.QtWidgets import QWidget

    from ..kit.jobs import Jobs
    from ..kit.style import Style


class Talk(Protocol):
    """The window, as what is below its steps sees it."""

    appearance: Style
    jobs: Jobs
    step: str

    @property
    def widget(self) -> QWidget:
        """Return the window as the parent of dialogs."""

    def say(self, words: str) -> None:
        """Say something in the footer."""

    def say_trouble(self, words: str) -> None:
        """Tell what went wrong, in place; empty words take it away."""

    def use_home(self, home: Path) -> None:
        """Work on a home folder."""

    def receive(self, path: Path) -> None:
        """Read a parcel, and ask whether it is wanted."""
