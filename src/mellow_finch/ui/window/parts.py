"""A window whose parts can be taken by name: for the pictures of the documents, and for tests that drive it."""

from __future__ import annotations

from typing import cast

from . import moves
from .steps.dress import DressStep
from .steps.gather import GatherStep
from .steps.proof import ProofStep
from .steps.tune import TuneStep
from .steps.wear import WearStep
from .window import Window


class OpenWindow(Window):
    """The very window, with names for what stands in it once it is complete."""

    def complete(self) -> None:
        """Make what the first paint did without, and name it."""
        made = self._complete
        super().complete()
        if made:
            return
        bench = self.bench
        self.document, self.opening, self.matching, self.dialogs = (
            bench.document, bench.opening, bench.matching, bench.dialogs,
        )  # fmt: skip
        self.staging, self.stage, self.strip = bench.staging, bench.stage, bench.strip
        self.wearing, self.picker = bench.wearing, bench.picking.picker
        gather = cast(GatherStep, self.step_by_id["gather"])
        self.desk, self.gather = gather.desk, gather.panel
        self.tune = cast(TuneStep, self.step_by_id["tune"]).panel
        dress = cast(DressStep, self.step_by_id["dress"])
        self.dressing, self.dress, self.themes = dress.desk, dress.panel, dress.themes
        self.changes, self.beside = dress.desk.views["changes"], dress.desk.views["pictures"]
        self.proof = cast(ProofStep, self.step_by_id["proof"]).panel.pairs
        self.wear = cast(WearStep, self.step_by_id["wear"]).panel
        self.steps = self.taken

    def show_component(self, component: str) -> None:
        """Show a component in Dress."""
        moves.show_component(self, component)
