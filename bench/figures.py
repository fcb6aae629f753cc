"""What a run measured: every figure is printed, kept in a file, and compared with the run before."""

from __future__ import annotations

import json
import statistics
import time
from collections.abc import Callable, Sequence
from pathlib import Path
from typing import NamedTuple

KEPT = Path(__file__).parent / "figures.json"
QUIET = 0.25  # seconds that the yardstick takes on the computer whose figures are wanted, when it is quiet
WORSE = 1.10  # times the figure of the run before, from which a figure is named
ROUNDS = 9


class Figure(NamedTuple):
    """One thing that was measured.

    value: as it came; at_rest: brought to the quiet yardstick, the same as value where it is no time; unit: "ms", "s",
    "MB", or "" for a ratio or a count; wanted: at most, None where nothing is asked.
    """

    name: str
    value: float
    at_rest: float
    unit: str
    wanted: float | None

    def line(self) -> str:
        """Return the figure in words."""
        shown = _spelled(self.value, self.unit)
        if self.value != self.at_rest:
            shown += f" ({_spelled(self.at_rest, self.unit)} at rest)"
        if self.wanted is None:
            return f"{self.name}: {shown}"
        missed = "" if self.at_rest <= self.wanted else ", MISSED"
        return f"{self.name}: {shown}, wanted {_spelled(self.wanted, self.unit)}{missed}"


def _spelled(value: float, unit: str) -> str:
    digits = 0 if abs(value) >= 100 else 1 if abs(value) >= 10 or unit == "ms" else 2
    return f"{value:.{digits}f} {unit}".strip()


def yardstick() -> float:
    """Return the seconds that counting to five million takes: the middle of five counts to a fifth of it."""
    times = []
    for _ in range(5):
        started = time.perf_counter()
        total = 0
        for i in range(1_000_000):
            total += i
        times.append((time.perf_counter() - started) * 5)
    return statistics.median(times)


class Figures:
    """Takes the figures of a run, a bench at a time."""

    def __init__(self) -> None:
        self.rows: dict[str, Figure] = {}
        self._yard = QUIET

    def measure_yard(self) -> float:
        """Measure how fast the computer is right now."""
        self._yard = yardstick()
        return self._yard

    def _meanwhile(self) -> float:
        """Return how fast the computer was since this was asked last: what is measured is brought to rest by that."""
        before = self._yard
        return (before + self.measure_yard()) / 2

    def tell(self, name: str, value: float, unit: str = "", wanted: float | None = None, yard: float = 0.0) -> None:
        """Take a figure and print it; yard: how fast the computer was, asked now where it is not given."""
        at_rest = value * QUIET / (yard or self._meanwhile()) if unit in ("ms", "s") else value
        row = Figure(name, value, at_rest, unit, wanted)
        self.rows[name] = row
        print(row.line(), flush=True)

    def spread(self, name: str, times: Sequence[float], wanted: float | None = None, most: float | None = None) -> None:
        """Take the median and the 95th percentile of milliseconds."""
        rising, yard = sorted(times), self._meanwhile()
        self.tell(f"{name}, median", statistics.median(rising), "ms", wanted, yard)
        self.tell(f"{name}, 95 %", rising[int(len(rising) * 0.95)], "ms", most, yard)

    def paired(
        self, name: str, ours: Callable[[], object], peer: Callable[[], object], wanted: float, rounds: int = ROUNDS
    ) -> None:
        """Take the median of the ratios of ours to the peer, run in turn."""
        ours(), peer()
        ratios = [_seconds(ours) / _seconds(peer) for _ in range(rounds)]
        self.tell(name, statistics.median(ratios), "", wanted)

    def compare(self, kept: Path = KEPT) -> list[str]:
        """Return a line for every figure that is over a tenth worse than in the file of the run before."""
        before = _read(kept)
        return [
            f"{row.name}: {_spelled(row.at_rest, row.unit)}, was {_spelled(before[row.name], row.unit)}"
            for row in self.rows.values()
            if row.name in before and row.at_rest > before[row.name] * WORSE + 1e-9
        ]

    def keep(self, kept: Path = KEPT) -> None:
        """Write the figures down; those of benches that did not run stay."""
        fresh = {row.name: round(row.at_rest, 3) for row in self.rows.values()}
        kept.write_text(json.dumps(_read(kept) | fresh, indent=1, ensure_ascii=False) + "\n", encoding="utf-8")


def _read(kept: Path) -> dict[str, float]:
    return dict(json.loads(kept.read_text(encoding="utf-8"))) if kept.exists() else {}


def _seconds(work: Callable[[], object]) -> float:
    started = time.perf_counter()
    work()
    return time.perf_counter() - started
