"""Values by tone, of which one may be worked out only when it is first asked for.

While a hand drags a slider, one half of a look is in sight; the other is worked out when somebody looks at it.
"""

from __future__ import annotations

from collections.abc import Callable, Iterator, Mapping
from typing import TypeVar

from ..palette.recipe import Tone

Value = TypeVar("Value")


class Halves(Mapping[Tone, Value]):
    """A mapping that never changes. Equal to any mapping of the same values; any thread may ask."""

    __slots__ = ("_known", "_later")

    def __init__(self, known: Mapping[Tone, Value], later: Mapping[Tone, Callable[[], Value]] | None = None) -> None:
        """later: by tone, what works a value out: pure, and without errors."""
        self._known, self._later = dict(known), dict(later or {})

    def __getitem__(self, tone: Tone) -> Value:
        if tone not in self._known:
            self._known[tone] = self._later[tone]()
        return self._known[tone]

    def __iter__(self) -> Iterator[Tone]:
        return iter(dict.fromkeys((*self._known, *self._later)))

    def __len__(self) -> int:
        return len(set(self._known) | set(self._later))

    def __eq__(self, other: object) -> bool:
        if self is other:
            return True
        if not isinstance(other, Mapping) or set(self) != set(other):
            return False
        return all(self[tone] == other[tone] for tone in sorted(self, key=lambda tone: tone not in self._known))

    __hash__ = None  # type: ignore[assignment]
