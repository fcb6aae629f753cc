"""What the parts of the window may ask of it as a whole. The window is one; tests may give them another."""

from __future__ import annotations

from pathlib import Path
from typing import TYPE_CHECKING, NamedTuple, Protocol

from .talk import Talk

if TYPE_CHECKING:
    from PyQt6.QtGui import QAction
    from PyQt6.QtWidgets import QWidget

    from ...look.model import Look
    from ...shelf.kept import KeptLook
    from ..gather.picture_view import PictureView
    from .memory import Memory
    from .workbench import Workbench


class StepStatus(NamedTuple):
    """The line under a step's name: what is left there, and whether it presses."""

    words: str
    urgent: bool = False


class OnStage(NamedTuple):
    """How a step wants the stage: in use at all, with the worst places marked, near the terminal."""

    used: bool = True
    worst: bool = False
    terminal: bool = False


class Step(Protocol):
    """One of the five steps, as the window needs it."""

    @property
    def panel(self) -> QWidget:
        """Return what stands beside the centre."""

    def bar(self) -> QWidget | None:
        """Return what stands over the centre, None for nothing."""

    def views(self) -> tuple[QWidget, ...]:
        """Return what it may show in the centre beside the stage."""

    def centre(self) -> QWidget:
        """Return what the centre shows now, brought up to date."""

    def on_stage(self) -> OnStage:
        """Return how it wants the stage."""

    def available(self) -> bool:
        """Tell whether one can go there as things stand."""

    def enter(self) -> None:
        """Come in sight."""

    def leave(self) -> None:
        """Go out of sight."""

    def follow(self, old: Look | None, new: Look, in_sight: bool) -> None:
        """Take up a change of the look, in sight or not; `refresh` follows for the one in sight."""

    def refresh(self) -> None:
        """Bring the panel up to date."""

    def status(self, look: Look | None) -> StepStatus | None:
        """Return what is left there, None where that is not known yet."""


class Shelves(Protocol):
    """The shelf in the window, as actions and steps use it."""

    def show(self) -> None:
        """Show the wall of saved looks."""

    def kept_looks(self) -> list[KeptLook]:
        """Return the looks on the shelf, the newest first."""

    def open_kept(self, id_: str) -> None:
        """Go on with a look that is kept."""

    def keep(self, look: Look | None = None) -> None:
        """Keep a look, the one that is there where none is given."""

    def keep_worn(self) -> None:
        """Keep the look that was applied, unless it is kept already."""

    def follow(self) -> None:
        """Show what is followed, and by which rules."""

    def ask_report(self) -> None:
        """Ask where a report is to be saved."""


class Shell(Talk, Protocol):
    """The window, as its parts see it."""

    memory: Memory | None
    bench: Workbench
    picture: PictureView
    step_by_id: dict[str, Step]
    actions_by_id: dict[str, QAction]

    @property
    def shelving(self) -> Shelves:
        """Return the shelf in the window, made when it is first wanted."""

    def add_views(self, panel: QWidget, *views: QWidget) -> None:
        """Take in a panel, and views for the centre."""

    def show_views(self, view: QWidget, panel: QWidget) -> None:
        """Show a view in the centre and a panel beside it that belong to no step."""

    def show_step(self, name: str) -> None:
        """Go to a step."""

    def show_centre(self) -> None:
        """Show what the step in force is about."""

    def show_stage(self) -> None:
        """Bring the stage up to date, where it is in use."""

    def show_compared(self) -> None:
        """Hang the curtain between states that were chosen."""

    def open_path(self, path: str) -> None:
        """Open a picture, a look, a palette or a theme."""

    def recent(self) -> list[Path]:
        """Return what was opened last, the newest first."""

    def in_sight(self) -> str:
        """Return what is in sight: a step's id, "shelf" or "taken"."""

    def find_anything(self) -> None:
        """Find anything by name."""

    def switch_steps(self) -> None:
        """Show the steps taken beside the stage, or go back to the step's own panel."""

    def begin_tour(self) -> None:
        """Begin the tour on the demo home."""

    def ask_what_this_is(self) -> None:
        """Let the next click say what a control does."""

    def switch_appearance(self) -> None:
        """Show the window itself light or dark."""

    def apply_settings(self) -> None:
        """Let what was chosen in the preferences be so."""

    def close(self) -> bool:
        """Close the window."""
