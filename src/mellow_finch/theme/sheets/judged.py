"""A sheet in colours that can change: what it paints at every place of the tree, and what fails there."""

from __future__ import annotations

from collections import Counter
from collections.abc import Hashable, Iterable, Mapping, Sequence
from dataclasses import dataclass, field

from ...colour.blend import over
from ...colour.contrast import ratio
from ...colour.requirement import MARK
from ...colour.rgb import Rgba
from ...components.judge import Behind, DrawnPair, judge_part, surfaces_under
from ...components.model import Paint, Part, painted
from ...progress import give_way
from ...recolour.ticks import Face
from ...syntax.cascade import Drawn
from ...syntax.sheet import Roots, Sheet
from .places import must_show

_EXACT = 1.008  # what a pair has to have above its need to be left alone
MARGIN = 1.02  # what a mended pair has above its need, for the rounding of the toolkit's own arithmetic

Crowd = tuple[int, int]  # a part, and how many are like it


@dataclass(eq=False)
class JudgedSheet:
    """One sheet with the parts that are judged on it.

    literals: the colours in force; frozen: the numbers of those that must not move; same: for a literal that the sheet
    takes in more than once, all its numbers by the first; was: the colours that the theme came with, by which it is
    known which states it tells apart; extra: further places that are asked for; firm: literals of surfaces that are
    right, and stay; faces: by file name, what controls that are pictures show.
    """

    sheet: Sheet
    parts: Sequence[Part]
    literals: list[Rgba]
    behind: Behind
    frozen: frozenset[int] = frozenset()
    same: Mapping[int, Sequence[int]] = field(default_factory=dict)
    was: Sequence[Rgba] = ()
    extra: Sequence[str] = ()
    firm: frozenset[int] = frozenset()
    faces: Mapping[str, Face] = field(default_factory=dict)
    _roots: dict[str, Roots] = field(default_factory=dict)
    _name_roots: dict[str, frozenset[int]] = field(default_factory=dict)
    _users: dict[int, set[int]] = field(default_factory=dict)
    _faint: frozenset[str] = frozenset()  # parts that are drawn faintly, whatever their colours
    _named: frozenset[int] = frozenset()  # the literals that defined colours come from
    _alike: list[int] = field(default_factory=list)  # by part, the first that is painted and judged like it
    _comes_from: list[tuple[int, ...]] = field(default_factory=list)  # by part, the literals that it is drawn with
    _judged: dict[int, tuple[list[Rgba], list[DrawnPair]]] = field(default_factory=dict)  # by part, with what colours

    def __post_init__(self) -> None:
        self._learn()

    def _learn(self, again: bool = False) -> None:
        """Find which literals each part comes from; again: only what rules that were added since have changed."""
        if again:
            changed = set(self.sheet.know_more())
            parts = [p for p in self.parts if p.at in changed]
            self._judged = {i: row for i, row in self._judged.items() if self.parts[i].at not in changed}
        else:
            parts = list(self.parts)
            self.sheet.know([*dict.fromkeys([*(p.at for p in parts), *self.extra])])
        self._name_roots = name_roots = self.sheet.name_roots(self.literals)
        self._named = frozenset().union(*name_roots.values())
        self._roots |= {p.key: self.sheet.roots(self.literals, p.at, name_roots) for p in parts}
        self._comes_from = [tuple(self._roots[p.key].all) for p in self.parts]
        faint = {p.key for p in parts if self._faint_at(p.at) >= 0}
        self._faint = frozenset(self._faint - {p.key for p in parts} | faint)
        firsts: dict[Hashable, int] = {}
        self._alike = [firsts.setdefault(self._likeness(p), i) for i, p in enumerate(self.parts)]
        self._users = {}
        for i, part in enumerate(self.parts):
            roots = self._roots[part.key]
            for number in roots.text | roots.edge | frozenset().union(*roots.fills):
                self._users.setdefault(number, set()).add(i)

    def _likeness(self, part: Part) -> Hashable:
        """Return what two parts have in common that are painted and judged alike, whatever the colours are."""
        judged = (part.need, part.edge_need, part.place, part.under, must_show(part))
        return (self.sheet.likeness(part.at), *judged)

    def paints(self, indices: Iterable[int] | None = None, names: dict[str, Rgba] | None = None) -> dict[str, Paint]:
        """Return what the sheet says of some parts, of all when none are named."""
        give_way()
        rows = [self.parts[i] for i in indices] if indices is not None else self.parts
        found = self.sheet.paint(self.literals, [p.at for p in rows], names)
        return {p.key: _seen(p, painted(found[p.at])) for p in rows}

    def pairs(self, indices: Sequence[int] | None = None, names: dict[str, Rgba] | None = None) -> list[DrawnPair]:
        """Return the pairs of some parts, of all when none are named. Parts that no rule paints have none."""
        rows = [self.parts[i] for i in indices] if indices is not None else self.parts
        paint_of = self.sheet.painter(self.literals, names)
        numbers = indices if indices is not None else range(len(self.parts))
        known: dict[int, list[DrawnPair]] = {}
        found: list[DrawnPair] = []
        for i, part in zip(numbers, rows, strict=True):
            alike = self._alike[i]
            if alike not in known:
                drawn_with = [self.literals[n] for n in self._comes_from[i]]
                if i not in self._judged or self._judged[i][0] != drawn_with:
                    self._judged[i] = drawn_with, self._pairs_of(part, _seen(part, painted(paint_of(part.at))))
                known[alike] = self._judged[i][1]
            found += [pair._replace(part=part) for pair in known[alike]]
        return found

    def _pairs_of(self, part: Part, paint: Paint) -> list[DrawnPair]:
        if not _said(paint):
            return []
        found = judge_part(part, paint, self.behind)
        if must_show(part) and paint.edge is None and paint.fill is None and not self._is_drawn(part.at):
            under = surfaces_under(paint.below, self.behind)[0]
            found.append(DrawnPair(part, "edge", under, under, 1.0, part.edge_need))
        return found

    def _is_drawn(self, at: str) -> bool:
        """Tell whether a place is a picture, whose colours are another matter."""
        style = self.sheet.way(at)[-1]
        return bool(style.get("icon") or style.get("picture"))

    def with_drawn(self) -> list[DrawnPair]:
        """Return the pairs of all parts, those of pictured controls among them; of two edges the better one counts.

        No colour of the sheet can help those, so they are told and not mended here.
        """
        found = {(pair.part.key, pair.what): pair for pair in self.pairs()}
        for part in self.parts:
            style = self.sheet.way(part.at)[-1]
            face = self.faces.get(style.get("icon") or style.get("picture") or "")
            pair = self._of_face(part, face) if face is not None else None
            if pair is not None:
                known = found.get((part.key, pair.what), pair) if pair.what == "edge" else pair
                found[part.key, pair.what] = max(known, pair, key=lambda p: p.ratio)
        return list(found.values())

    def _of_face(self, part: Part, face: Face) -> DrawnPair | None:
        if part.edge_need and face.edge:
            below = _seen(part, self.paint_at(part.at)).below  # a knob is larger than what it runs in
            grounds = {surfaces_under(layers, self.behind)[0] for layers in (below, below[:1])}
            seen = [(ratio(over(c, ground), ground), over(c, ground), ground) for ground in grounds for c in face.edge]
            found, best, ground = max(seen)
            return DrawnPair(part, "edge", best, ground, found, min(part.edge_need, MARK, key=lambda need: need.level))
        if part.need and part.id.endswith(", mark") and face.mark is not None:
            box, tick = face.mark
            return DrawnPair(part, "text", tick, box, ratio(tick, box), part.need)
        return None

    def short(self) -> list[DrawnPair]:
        """Return the pairs that have insufficient contrast, worst first."""
        return sorted((p for p in self.pairs() if p.shortfall < _EXACT), key=lambda p: p.shortfall)

    def paint_at(self, at: str, literals: Sequence[Rgba] | None = None) -> Paint:
        """Return what the sheet says of a place, with literals other than those in force when some are given."""
        return painted(self.sheet.painter(self.literals if literals is None else literals)(at))

    def roots_at(self, at: str) -> Roots:
        """Return which literals a place's colours come from."""
        return self.sheet.roots(self.literals, at, self._name_roots)

    def users_of(self, number: int) -> list[str]:
        """Return the places that a literal has to do with."""
        return [self.parts[i].at for i in self._users.get(number, ())]

    @property
    def inks(self) -> frozenset[int]:
        """Return the literals that are a text's colour somewhere."""
        return frozenset().union(*(roots.text for roots in self._roots.values()))

    def _crowds(self, users: Iterable[int]) -> list[Crowd]:
        """Return one of all parts that are painted and judged alike, whatever the colours, with their number."""
        found = Counter(self._alike[i] for i in users if self.parts[i].key not in self._faint)
        return sorted(found.items())

    def _missing(
        self,
        crowds: list[Crowd],
        names: dict[str, Rgba] | None = None,
        most: int | None = None,
        known: dict[int, Drawn] | None = None,
    ) -> int:
        """Return how many pairs of some parts miss their needs.

        most: more than so many are not counted on; the part at which that was seen goes first, for the next colour;
        known: what nodes have drawn already.
        """
        give_way()
        paint_of = self.sheet.painter(self.literals, names, known)
        count = 0
        for at, (i, number) in enumerate(crowds):
            part = self.parts[i]
            pairs = self._pairs_of(part, _seen(part, painted(paint_of(part.at))))
            count += number * sum(p.shortfall < MARGIN for p in pairs)
            if most is not None and count > most:
                if at:
                    crowds.insert(0, crowds.pop(at))
                return count
        return count

    def put(self, number: int, colour: Rgba) -> None:
        """Give a literal another colour, wherever the sheet takes it in."""
        for other in self.same.get(number, (number,)):
            self.literals[other] = colour

    def _faint_at(self, at: str) -> int:
        """Return the depth of the innermost node on the way to a place that is drawn faintly, -1 when none is."""
        return max((d for d, style in enumerate(self.sheet.way(at)) if style.get("opacity", 1.0) < 1), default=-1)


def _seen(part: Part, paint: Paint) -> Paint:
    """Return a part's paint as it is judged: marks that are seen against the window have only that below them."""
    return paint._replace(below=paint.below[:1]) if part.under == "window" else paint


def _said(paint: Paint) -> bool:
    """Tell whether a sheet paints what lies under a part at all: then a pair of it can be judged."""
    return any(any(c.a > 0 for c in layer) for layer in paint.layers)
