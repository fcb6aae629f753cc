"""The stage follows the hand: each frame what the hand is on and as much of the rest as there is time for."""

from __future__ import annotations

import time
from collections.abc import Callable, Collection

from PyQt6.QtCore import QObject, QTimer

from ...components.model import Paints
from .lay import PaintsOf

_FRAME_S = 0.004  # of a frame for writing and reading back; solving and painting want the rest
_COSTS_KEPT = 0.7  # how much of what a component took before counts beside what it took now


class Following(QObject):
    """Brings what the stage shows up to what is wanted, component by component, without keeping a frame waiting."""

    def __init__(self, show: Callable[[PaintsOf], None]) -> None:
        """show: puts paints on the stage."""
        super().__init__()
        self._show = show
        self._shown: dict[str, Paints] = {}
        self._wanted: PaintsOf = {}
        self._late: list[str] = []  # what is behind, the longest behind first
        self._first = ""
        self._owed = False  # whether the stage has not got yet what has just come into sight
        self._hand_turn = True  # whether it is the turn of what the hand is on
        self._costs: dict[str, float] = {}  # seconds that a component took
        self._debt = 0.0  # seconds by which frames before took longer than they had
        self._timer = QTimer(self)
        self._timer.setSingleShot(True)
        self._timer.timeout.connect(self._catch_up)

    @property
    def behind(self) -> bool:
        """Tell whether something on the stage does not show yet what is wanted."""
        return self._timer.isActive()

    def at_once(self, paints: PaintsOf) -> None:
        """Show all of it now; it is worked out when it is painted."""
        self._timer.stop()
        self._late, self._shown = [], {}
        self._wanted = paints
        self._show(paints)

    def follow(self, paints: PaintsOf, drawn: Collection[str], first: str = "") -> None:
        """Show other paints, those of the component that the hand is on first; drawn: those that the stage shows."""
        for id_ in drawn:
            if id_ not in self._shown:
                self._shown[id_] = self._wanted.get(id_, {})
                self._owed = True
        self._wanted, self._first = paints, first
        self._late = [*(id_ for id_ in self._late if id_ in drawn), *(id_ for id_ in drawn if id_ not in self._late)]
        if not self._timer.isActive():
            self._timer.start(0)

    def _catch_up(self) -> None:
        started, room = time.perf_counter(), _FRAME_S - self._debt
        if room <= 0 and self._late:
            self._debt = -room
            self._timer.start(0)
            return
        order = [self._first, *self._late] if self._hand_turn and self._first in self._late else list(self._late)
        self._hand_turn = not self._hand_turn
        changed, self._owed = self._owed, False
        for i, id_ in enumerate(dict.fromkeys(order)):
            begun = time.perf_counter()
            if i and begun - started + self._costs.get(id_, 0.0) > room:
                continue
            fresh = self._wanted.get(id_, {})
            took = time.perf_counter() - begun
            self._costs[id_] = took + _COSTS_KEPT * (self._costs.get(id_, took) - took)
            self._late.remove(id_)
            if fresh is not self._shown.get(id_) and fresh != self._shown.get(id_):
                self._shown[id_] = fresh
                changed = True
        if changed:
            self._show(dict(self._shown))
        self._debt = max(0.0, time.perf_counter() - started - room)
        if self._late:
            self._timer.start(0)
