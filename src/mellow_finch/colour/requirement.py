"""What contrast something needs, by what it is: the one place that knows the levels, and how a shortfall is measured.

Text needs 4.5:1 and large text 3:1 (WCAG 2.2, 1.4.3), marks 3:1 (1.4.11); disabled text has a floor of our own, WCAG
having none. A look may ask for more of its texts.
"""

from __future__ import annotations

from math import inf
from typing import Literal, NamedTuple

from .contrast import ratio
from .levels import TEXT_LEVELS
from .rgb import Rgba

Kind = Literal["text", "large", "mark", "disabled", "none"]


class Requirement(NamedTuple):
    """A kind of thing and the contrast ratio of WCAG 2.2 that it has to reach, 0 where nothing is asked."""

    kind: Kind
    level: float

    def __bool__(self) -> bool:
        return self.level > 0

    def raised(self, text_level: float) -> Requirement:
        """Return the requirement in a look whose texts have to reach a level: of texts that, of others the same."""
        return Requirement("text", text_level) if self.kind == "text" and self.level < text_level else self

    def times(self, share: float) -> Requirement:
        """Return the requirement with a margin: its level by a share."""
        return self._replace(level=self.level * share)

    def shortfall(self, measured: float) -> float:
        """Return what was measured by the level: below 1 it has insufficient contrast, the smaller the worse."""
        return measured / self.level if self.level else inf

    def met(self, measured: float) -> bool:
        """Tell whether what was measured is enough."""
        return measured >= self.level

    def holds(self, text: Rgba, surface: Rgba) -> bool:
        """Tell whether two opaque colours have the contrast that is asked."""
        return measure(text, surface) >= self.level


TEXT = Requirement("text", TEXT_LEVELS[0])
LARGE = Requirement("large", 3.0)
MARK = Requirement("mark", 3.0)
DISABLED = Requirement("disabled", 2.5)
NONE = Requirement("none", 0.0)


def measure(text: Rgba, surface: Rgba) -> float:
    """Return what requirements are about: the contrast ratio of two opaque colours, 1 to 21."""
    return ratio(text, surface)


def required(level: float, mark: bool = False) -> Requirement:
    """Return the requirement that a data file means by a number; mark: whether it is of a mark or an edge."""
    known = (NONE, DISABLED, MARK if mark else LARGE, TEXT)
    return next((one for one in known if one.level == level), Requirement("mark" if mark else "large", level))
