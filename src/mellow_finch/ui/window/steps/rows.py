"""The five steps in working order, one row each. Nothing heavy is imported before a step is made."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

from ....language import tr
from ..shell import Shell, Step


@dataclass(frozen=True, slots=True)
class StepRow:
    """One step: its id (icon and guide page have the same), its title, what it is for, a hint for the footer.

    make: makes it, once the window is complete.
    """

    id: str
    title: str
    tip: str
    hint: str
    make: Callable[[Shell], Step]


def _gather(shell: Shell) -> Step:
    from .gather import GatherStep

    return GatherStep(shell)


def _tune(shell: Shell) -> Step:
    from .tune import TuneStep

    return TuneStep(shell)


def _dress(shell: Shell) -> Step:
    from .dress import DressStep

    return DressStep(shell)


def _proof(shell: Shell) -> Step:
    from .proof import ProofStep

    return ProofStep(shell)


def _wear(shell: Shell) -> Step:
    from .wear import WearStep

    return WearStep(shell)


STEPS: tuple[StepRow, ...] = (
    StepRow(
        "gather",
        tr("Gather"),
        tr("Extract colours from images"),
        tr("Point at a swatch to see where it is in the image; point at the image to see its swatch."),
        _gather,
    ),
    StepRow(
        "tune",
        tr("Tune"),
        tr("Adjust colours"),
        tr("Point at anything in the preview to see what it is; click to change it."),
        _tune,
    ),
    StepRow(
        "dress",
        tr("Dress"),
        tr("Choose what gets the colours"),
        tr("Select a component to see it; its arrow opens its files and colours."),
        _dress,
    ),
    StepRow(
        "proof",
        tr("Proof"),
        tr("Check contrast"),
        tr("Select a pair to see it in the preview."),
        _proof,
    ),
    StepRow(
        "wear",
        tr("Wear"),
        tr("Apply or undo"),
        tr("Old files are backed up before anything is written."),
        _wear,
    ),
)
STEP_BY_ID = {row.id: row for row in STEPS}
