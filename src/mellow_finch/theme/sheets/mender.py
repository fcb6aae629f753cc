"""Making a toolkit theme readable with the smallest changes: of literals, and where none can help, by rules at its end.

Every place of the toolkit's tree is painted by the cascade and judged. A literal that fails somewhere moves along
its own way of lightness to where all that comes from it can be read; then surfaces move, then opacity rises.
"""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import dataclass

from ...colour.contrast import plain_ink, ratio
from ...colour.requirement import Requirement
from ...colour.rgb import Rgba
from ...components.judge import DrawnPair, surfaces_under
from ...components.model import Part, painted
from ...palette.fit import fit_asked, nearest_first
from ...syntax.cascade import Drawn
from ..result.account import MeasuredFailure
from .judged import MARGIN
from .rules import OUTWEIGHING, RuledSheet, distance

_ROUNDS = 5
_RULE_ROUNDS = 8
_STATES_APART = 0.0205  # OKLab distance that tells states apart, a little above 0.02 for the rounding to 8 bits
_FAR = 0.3  # OKLab distance beyond which a surface is not moved for that
_TOLD_APART = frozenset({"hover", "pressed", "checked", "selected"})
_MOST_BLUR = 1.15  # what a line may have lost by being round; where it lost more, it is no line of the sheet
_TOLD_MORE = 1.03  # what a place gets above its need that the toolkit painted otherwise than was thought
_ROUNDING = 1e-9  # what arithmetic may lose


@dataclass(eq=False)
class Mender(RuledSheet):
    """One sheet being mended."""

    def mend(self) -> None:
        """Move literals, then add rules, until every pair can be read or nothing more helps."""
        self._move_literals()
        self._tell_states_apart()
        self._lift_faint()
        for _ in range(_RULE_ROUNDS):
            short = self.short()
            if not short or not self._add_rules(short):
                break
        self._bring_together()

    def mend_told(self, told: Iterable[MeasuredFailure]) -> None:
        """Add a rule for every place that the real toolkit painted short, whatever is thought of it here.

        The rule is of the place itself and outweighs others; told again, the surface gives way.
        """
        by_key = {part.key: part for part in self.parts}
        pairs: list[DrawnPair] = []
        for row in told:
            part = by_key.get(row.part)
            if part is not None:
                key = (row.part, row.what)
                self._tries[key] = max(self._tries.get(key, 0) + 1, OUTWEIGHING)
                need = Requirement("text" if row.what == "text" else "mark", row.need)
                need = need.times(_TOLD_MORE * self._blurred(part, row))
                pairs.append(DrawnPair(part, row.what, row.text, row.surface, row.ratio, need))
        if pairs:
            self._add_rules(pairs)

    def _blurred(self, part: Part, row: MeasuredFailure) -> float:
        """Return how much more a place has than what is painted of it: thin words, ticks and round lines lose some."""
        paint = self.paint_at(part.at)
        ink = paint.text if row.what == "text" else paint.edge
        if ink is None or ink.a < 1:
            return 1.0
        most = ratio(plain_ink(row.surface), row.surface) / (row.need * _TOLD_MORE * MARGIN) - _ROUNDING
        blur = ratio(ink, row.surface) / row.ratio
        return max(1.0, min(blur, most, _MOST_BLUR if row.what == "edge" else most))

    # Literals

    def _move_literals(self) -> None:
        """Move literals until nothing more is won."""
        tried: set[tuple[int, Rgba]] = set()
        for _ in range(_ROUNDS):
            moved = False
            for texts in (True, False):
                for number in self._candidates(self.short(), texts):
                    if (number, self.literals[number]) not in tried:
                        tried.add((number, self.literals[number]))
                        moved |= self._move(number)
            if not moved:
                return

    def _candidates(self, short: Sequence[DrawnPair], texts: bool) -> list[int]:
        """Return the literals behind pairs that have insufficient contrast, the one behind most of them first."""
        counts: dict[int, float] = {}
        for pair in short:
            roots = self._roots[pair.part.key]
            if pair.part.key in self._faint:
                continue
            if texts:
                numbers = roots.text if pair.what == "text" else roots.edge
            else:
                numbers = next((f for f in reversed(roots.fills) if f), frozenset())
            for number in numbers - self.frozen - self.firm:
                counts[number] = counts.get(number, 0.0) + 1
        return sorted(counts, key=lambda n: (-counts[n], n))

    def _move(self, number: int) -> bool:
        """Move one literal to the nearest colour with which fewer pairs fail than before, and fewest at that."""
        crowds = self._crowds(self._users.get(number, ()))
        old = self.literals[number]
        names = None if number in self._named else self.sheet.names(self.literals)
        known: dict[int, Drawn] = {}
        before = self._missing(crowds, names, known=known)
        if before <= 0:
            return False
        same = self.sheet.independent(self.same.get(number, (number,)))
        known = {node: drawn for node, drawn in known.items() if node in same}

        def failing(colour: Rgba, most: int | None) -> int:
            self.put(number, colour)
            return self._missing(crowds, names, most, dict(known))

        new = fit_asked(old, before, failing)
        self.put(number, new)
        return new != old

    # States

    def _tell_states_apart(self) -> None:
        """Move surfaces of hovered, pressed and chosen states until they differ from rest as far as they did before."""
        if not self.was:
            return
        before = self._surfaces(self.was)
        rest = {p.id: i for i, p in enumerate(self.parts) if not p.state}
        for i, part in enumerate(self.parts):
            plain = rest.get(part.id)
            if plain is None or part.state not in _TOLD_APART:
                continue
            a, b = before.get(plain), before.get(i)
            if a is not None and b is not None and distance(a, b) >= _STATES_APART:
                self._part_from(i, plain)

    def _surfaces(self, literals: Sequence[Rgba]) -> dict[int, Rgba]:
        """Return the surface of each part that has a fill of its own, as it is drawn with some literals."""
        found = self.sheet.paint(literals, [p.at for p in self.parts])
        out: dict[int, Rgba] = {}
        for i, part in enumerate(self.parts):
            faces = surfaces_under(painted(found[part.at]).layers, self.behind)
            if faces:
                out[i] = faces[0]
        return out

    def _surface(self, i: int) -> Rgba:
        paint = self.paints([i])[self.parts[i].key]
        return surfaces_under(paint.layers, self.behind)[0]

    def _part_from(self, i: int, plain: int) -> None:
        """Move the literal of a state's surface away from the surface at rest, readable as before."""
        ground = self._surface(plain)
        if distance(self._surface(i), ground) >= _STATES_APART:
            return
        fills, others = self._roots[self.parts[i].key].fills, self._roots[self.parts[plain].key].fills
        stays = self.frozen.union(self.firm, *others)
        own = next((f for f in reversed(fills) if f), frozenset()) - stays
        for number in sorted(own):
            crowds = self._crowds(self._users[number])
            old, missing = self.literals[number], self._missing(crowds)
            for colour in nearest_first(old, _FAR):
                self.put(number, colour)
                if distance(self._surface(i), ground) >= _STATES_APART and self._missing(crowds) <= missing:
                    return
            self.put(number, old)
