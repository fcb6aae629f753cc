"""Making a toolkit theme readable with the smallest changes: of literals, and where none can help, by rules at its end.

Every place of the toolkit's tree is painted by the cascade and judged. A literal that falls short somewhere moves along
its own way of lightness to where all that comes from it can be read; then surfaces move, then opacity rises.
"""

from __future__ import annotations

import re
from collections import Counter
from collections.abc import Hashable, Iterable, Mapping, Sequence
from dataclasses import dataclass, field
from itertools import groupby
from math import cos, hypot, radians, sqrt
from operator import itemgetter

from ..colour.blend import over
from ..colour.contrast import ratio
from ..colour.gamut import rgba_to_oklch
from ..colour.rgb import Rgba
from ..components.judge import Behind, DrawnPair, judge_part, surfaces_under
from ..components.model import Paint, Part, painted
from ..components.rewriting import nearest_over
from ..components.template import css_colour
from ..palette.lightness import STEPS, way_of
from ..syntax.cascade import Drawn
from ..syntax.sheet import Roots, Sheet
from .account import Told
from .toolkit import hull_of, must_show

_ROUNDS = 5
_RULE_ROUNDS = 8
_APART = 0.0205  # OKLab distance by which states are told apart, a little above 0.02 for the rounding to 8 bits
_ALIKE = 0.08  # OKLab distance up to which colours of rules become one
# By what a rule gives first, how far its colour may be from another's to stand for it: in OKLab's plane of tints, and
# in lightness. Texts and edges may move further than areas.
_AREA = (0.05, 0.06)
_ALIKE_BY = {"color": (0.05, 0.3), "opacity": (0.05, 0.3), "border-color": (0.12, 0.2), "box-shadow": (0.12, 0.2)}
_OPACITIES = (0.6, 0.65, 0.7, 0.75, 0.8, 0.85, 0.9, 0.95, 1.0)
_FAR = 0.3  # OKLab distance beyond which a surface is not moved for that
_TOLD_APART = frozenset({"hover", "pressed", "checked", "selected"})
_PLAINLY = "opacity: 1; color: {};"
_OUTWEIGHING = 2  # the try from which a rule outweighs whatever else there is
_TOLD_MORE = 1.03  # what a place gets above its need that the toolkit painted otherwise than was thought
_LAST = 3  # the try at which the surface is changed instead of the text
_OUTWEIGH = ":not(#finch)"  # matches everything, and weighs as much as an id
_STRIDE = 8  # steps of a way that are left out when the next readable one is looked for
_EXACT = 1.008  # what a pair has to have above its need to be left alone
_MARGIN = 1.02  # what a mended pair has above its need, for the rounding of the toolkit's own arithmetic
BEGIN = "/* >>> mellow-finch: rules that make readable what no colour of the theme alone could */"
END = "/* <<< mellow-finch */"


Crowd = tuple[int, int]  # a part, and how many are like it
Found = tuple[int, float, int, float]  # how many pairs fall short, the cost, the step of the way, the opacity


@dataclass(frozen=True, slots=True)
class Added:
    """A rule at the end of a sheet.

    declarations: with {} for the colour; literal: the number of that colour, -1 for a rule without one; numbers: the
    rule's own among all.
    """

    selector: str
    declarations: str
    literal: int
    numbers: range


@dataclass(eq=False)
class Mender:
    """One sheet being mended.

    literals: the colours in force; frozen: the numbers of those that must not move; same: for a literal that the sheet
    takes in more than once, all its numbers by the first; was: the colours that the theme came with, by which it is
    known which states it tells apart; extra: further places that are asked for; firm: literals of surfaces that are
    right, and stay.
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
    added: list[Added] = field(default_factory=list)
    _roots: dict[str, Roots] = field(default_factory=dict)
    _name_roots: dict[str, frozenset[int]] = field(default_factory=dict)
    _users: dict[int, set[int]] = field(default_factory=dict)
    _faint: frozenset[str] = frozenset()  # parts that are drawn faintly, whatever their colours
    _named: frozenset[int] = frozenset()  # the literals that defined colours come from
    _alike: list[int] = field(default_factory=list)  # by part, the first that is painted and judged like it
    _tries: dict[tuple[str, str], int] = field(default_factory=dict)  # how often rules were tried for a pair
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

    def short(self) -> list[DrawnPair]:
        """Return the pairs that fall short, worst first."""
        return sorted((p for p in self.pairs() if p.ratio < p.need * _EXACT), key=lambda p: p.ratio / p.need)

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

    def mend_told(self, told: Iterable[Told]) -> None:
        """Add a rule for every place that the real toolkit painted short, whatever is thought of it here.

        The rule is of the place itself and outweighs others; told again, the surface gives way.
        """
        by_key = {part.key: part for part in self.parts}
        pairs: list[DrawnPair] = []
        for row in told:
            part = by_key.get(row.part)
            if part is not None:
                key = (row.part, row.what)
                self._tries[key] = max(self._tries.get(key, 0) + 1, _OUTWEIGHING)
                pairs.append(DrawnPair(part, row.what, row.text, row.surface, row.ratio, row.need * _TOLD_MORE))
        if pairs:
            self._add_rules(pairs)

    # What is asked of single places, and told to them

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

    def add_surface(self, at: str, selector: str, colour: Rgba, text: Rgba | None = None) -> None:
        """Give a place a surface of its own, and its text where one is given, by a rule at the sheet's end."""
        veiled = "box-shadow: none; " if self.sheet.way(at)[-1].get("veil") else ""
        self.firm |= {self._add(selector, f"{veiled}background-image: none; background-color: {{}};", colour)}
        if text is not None:
            self._add(selector, "color: {};", text)

    def _add(self, selector: str, declarations: str, colour: Rgba) -> int:
        self.literals.append(colour)
        number = len(self.literals) - 1
        numbers = self.sheet.add(selector, declarations.format(f"__literal{number}"))
        self.added.append(Added(selector, declarations, number, numbers))
        return number

    def learn_more(self) -> None:
        """Take in the rules that were added."""
        self._learn(again=True)

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
        """Return the literals behind pairs that fall short, the one behind most of them first."""
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
        paint_of = self.sheet.painter(self.literals, names, known)
        count = 0
        for at, (i, number) in enumerate(crowds):
            part = self.parts[i]
            pairs = self._pairs_of(part, _seen(part, painted(paint_of(part.at))))
            count += number * sum(p.ratio < p.need * _MARGIN for p in pairs)
            if most is not None and count > most:
                if at:
                    crowds.insert(0, crowds.pop(at))
                return count
        return count

    def _move(self, number: int) -> bool:
        """Move one literal to the nearest colour with which fewer pairs fall short than before, and fewest at that.

        The way is looked over in wide steps first, then closely around the best of them, on the side of what was.
        """
        crowds = self._crowds(self._users.get(number, ()))
        old = self.literals[number]
        names = None if number in self._named else self.sheet.names(self.literals)
        known: dict[int, Drawn] = {}
        before = self._missing(crowds, names, known=known)
        if before <= 0:
            return False
        same = self.sheet.independent(self.same.get(number, (number,)))
        known = {node: drawn for node, drawn in known.items() if node in same}
        way = way_of(old.opaque)
        own = int(way.cost.argmin())

        def least(steps: Iterable[int], alpha: float, lead: Found | None) -> Found | None:
            """Return the best of some steps, the cheapest first, and of one that is known."""
            for step in sorted(steps, key=lambda i: float(way.cost[i])):
                if lead is not None and lead[0] <= 0 and lead[1] <= way.cost[step]:
                    break
                self.put(number, way.at(step)._replace(a=alpha))
                count = self._missing(crowds, names, lead[0] if lead is not None else None, dict(known))
                one = (count, float(way.cost[step]), step, alpha)
                lead = one if lead is None else min(lead, one)
            return lead

        best: Found = (before, -1.0, own, old.a)
        for alpha in (old.a, (old.a + 1) / 2, 1.0) if 0 < old.a < 1 else (old.a,):
            lead = least(range(0, STEPS, _STRIDE), alpha, None)
            assert lead is not None
            towards = 1 if own > lead[2] else -1
            near = range(lead[2] + towards, min(max(lead[2] + towards * _STRIDE, 0), STEPS - 1), towards)
            best = min(best, least(near, alpha, lead) or lead)
            if best[0] <= 0:
                break
        moved = best[2] != own or best[3] != old.a
        self.put(number, way.at(best[2])._replace(a=best[3]) if moved else old)
        return moved

    def put(self, number: int, colour: Rgba) -> None:
        """Give a literal another colour, wherever the sheet takes it in."""
        for other in self.same.get(number, (number,)):
            self.literals[other] = colour

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
            if a is not None and b is not None and _distance(a, b) >= _APART:
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
        if _distance(self._surface(i), ground) >= _APART:
            return
        fills, others = self._roots[self.parts[i].key].fills, self._roots[self.parts[plain].key].fills
        stays = self.frozen.union(self.firm, *others)
        own = next((f for f in reversed(fills) if f), frozenset()) - stays
        for number in sorted(own):
            crowds = self._crowds(self._users[number])
            old, missing = self.literals[number], self._missing(crowds)
            way = way_of(old.opaque)
            for step in sorted(range(STEPS), key=lambda s: float(way.cost[s])):
                self.put(number, way.at(step)._replace(a=old.a))
                if _distance(self._surface(i), ground) >= _APART and self._missing(crowds) <= missing:
                    return
                if way.cost[step] > _FAR:
                    break
            self.put(number, old)

    # Rules at the end

    def _lift_faint(self) -> None:
        """Let what is drawn faintly be less so, all by one rule, as far as every text of it can be read then."""
        wanted: dict[str, None] = {}
        opacity = 0.0
        for pair in (p for p in self.short() if p.what == "text" and p.part.key in self._faint):
            at = pair.part.at
            faint = self._faint_at(at)
            own = float(self.sheet.way(at)[faint].get("opacity", 1.0))
            text = self.paint_at(at).text
            if text is None or own <= 0:
                continue
            for step in _OPACITIES:
                lifted = over(text._replace(a=min(1.0, text.a / own * step)), pair.surface)
                if step > own and ratio(lifted, pair.surface) >= pair.need * _MARGIN:
                    wanted[self.sheet.winner(at, faint, "opacity")] = None
                    opacity = max(opacity, step)
                    break
        if wanted:
            selector, declarations = ", ".join(wanted), f"opacity: {opacity:g};"
            self.added.append(Added(selector, declarations, -1, self.sheet.add(selector, declarations)))
            self._learn(again=True)

    def _bring_together(self) -> None:
        """Let rules that give alike colours give one, where nothing falls short by that."""
        groups: dict[str, dict[Rgba, list[int]]] = {}
        for one in (a for a in self.added if a.literal >= 0):
            rows = groups.setdefault(one.declarations, {})
            rows.setdefault(self.literals[one.literal], []).append(one.literal)
        for declarations, colours in groups.items():
            most = _ALIKE_BY.get("" if "none" in declarations else declarations.partition(":")[0], _AREA)
            for rare in sorted(colours, key=lambda c: len(colours[c])):
                for common in sorted(colours, key=lambda c: -len(colours[c])):
                    if common != rare and _near(common, rare, *most) and self._become(colours[rare], common):
                        colours[common] += colours.pop(rare)
                        break

    def _become(self, numbers: Sequence[int], colour: Rgba) -> bool:
        """Give the literals of rules another colour, unless more falls short by it; tell whether they have it now."""
        crowds = self._crowds(set().union(*(self._users.get(n, ()) for n in numbers)))
        before, old = self._missing(crowds), [self.literals[n] for n in numbers]
        for number in numbers:
            self.put(number, colour)
        if self._missing(crowds) <= before:
            return True
        for number, own in zip(numbers, old, strict=True):
            self.put(number, own)
        return False

    def _add_rules(self, short: Sequence[DrawnPair]) -> bool:
        """Add a rule for every pair that no literal could mend; tell whether anything was left to try.

        The first rule for a pair takes the selector that its colour comes from. Where that did not do, because it
        serves other places too, the next is of the place itself, the third outweighs whatever else there is, and the
        last changes the surface.
        """
        wanted: Wanted = {}
        paints = self.paints()
        tried = False
        for pair in short:
            count = self._tries.get((pair.part.key, pair.what), 0)
            if count > _LAST + 1:  # the surface is tried once more when the text has moved since
                continue
            roots = self._roots[pair.part.key]
            if (
                pair.what == "text" and roots.text and roots.text <= self.frozen
            ):  # kept by the person: the surface moves
                count = max(count, _LAST)
                if any(f and f <= self.frozen for f in roots.fills[-1:]):
                    continue
            tried = True
            self._tries[pair.part.key, pair.what] = count + 1
            place = self._place_of(pair, count)
            if count >= _LAST and pair.what == "text":
                wanted.setdefault(place, (pair.surface, []))[1].append((pair.text, pair.need * _MARGIN))
                continue
            colour = pair.text if pair.what == "edge" else paints[pair.part.key].text or pair.text
            rows = wanted.setdefault(place, (colour, []))[1]
            rows.append((pair.surface, pair.need * _MARGIN))
        self._with_all_it_serves(wanted)
        for selector, declarations, better in _together(wanted):
            self._add(selector, declarations, better)
        if tried:
            self._learn(again=True)
        return tried

    def _with_all_it_serves(self, wanted: Wanted) -> None:
        """Add to what a rule has to suit the other places whose text comes from the same selector."""
        for pair in self.pairs():
            if pair.what != "text":
                continue
            at, roots = pair.part.at, self._roots[pair.part.key]
            faint = self._faint_at(at)
            places = [(self.sheet.winner(at, faint, "opacity"), _PLAINLY)] if faint >= 0 else []
            if roots.text_at >= 0:
                places.append((self.sheet.winner(at, roots.text_at, "color"), "color: {};"))
            for place in places:
                if place in wanted:
                    wanted[place][1].append((pair.surface, pair.need * _MARGIN))

    def _faint_at(self, at: str) -> int:
        """Return the depth of the innermost node on the way to a place that is drawn faintly, -1 when none is."""
        return max((d for d, style in enumerate(self.sheet.way(at)) if style.get("opacity", 1.0) < 1), default=-1)

    def _place_of(self, pair: DrawnPair, count: int) -> tuple[str, str]:
        """Return the selector and the declarations of a rule that would give a pair a colour of its own."""
        at = pair.part.at
        nodes = [n.strip() for n in at.split(">")]
        hull = hull_of(at)  # what is around the widgets has no say
        nodes[1:hull] = ["window.background"] * (hull - 1 if hull else 0)
        roots = self._roots[pair.part.key]
        if pair.what == "edge":
            style = self.sheet.style(at, len(nodes) - 1)
            if pair.text == pair.surface and must_show(pair.part):
                return _selector(nodes, len(nodes) - 1, count), "background-color: {};"
            framed = style.get("frame", False) or any(n.startswith("border") for n in style)
            return _selector(nodes, len(nodes) - 1, count), (
                "border-color: {};" if framed else "box-shadow: inset 0 0 0 1px {};"
            )
        faint = self._faint_at(at)
        if faint >= 0:
            winner = self.sheet.winner(at, faint, "opacity")
            return (winner if count == 0 else _selector(nodes, faint, count)), _PLAINLY
        # Labels and boxes are everywhere: their colour is given to what holds them, unless a rule names them.
        own = max((d for d, n in enumerate(nodes) if d >= hull and not _PLAIN.match(n)), default=0)
        depth = max(roots.text_at, own)
        if count >= _LAST:  # no colour of the text does: what lies under it gives way
            veiled = "box-shadow: none; " if self.sheet.style(at, own).get("veil") else ""
            return (_selector(nodes, own, 2) if own else ""), veiled + "background-image: none; background-color: {};"
        if count == 0 and depth == roots.text_at:
            return self.sheet.winner(at, depth, "color"), "color: {};"
        if depth < hull:  # what gives the colour lies around all widgets: the text itself is given another
            depth = len(nodes) - 1
        return (_selector(nodes, depth, count) if depth else ""), "color: {};"

    def rules(self) -> str:
        """Return the rules that were added and are in force anywhere, as text, empty when there are none."""
        used = set().union(*(self.sheet.in_force(p.at) for p in self.parts)) if self.added else set()
        kept = [a for a in self.added if not used.isdisjoint(a.numbers)]
        if not kept:
            return ""
        rows = [f"{selector} {{ {declarations} }}" for selector, declarations in self._gathered(kept)]
        return "\n".join(["", BEGIN, *rows, END, ""])

    def _gathered(self, kept: Sequence[Added]) -> list[tuple[str, str]]:
        """Return rules with those that say the same in one, where every place is painted as before with that."""
        said: dict[str, list[Added]] = {}
        for one in kept:
            said.setdefault(self._words_of(one), []).append(one)
        fresh = self.sheet.anew()
        places = [*dict.fromkeys([*(p.at for p in self.parts), *self.extra])]
        fresh.know(places)
        for rows in said.values():
            one = rows[0]
            literal = f"__literal{one.literal}" if one.literal >= 0 else ""
            fresh.add(", ".join(r.selector for r in rows), one.declarations.format(literal))
        fresh.know_more()
        if fresh.paint(self.literals, places) != self.sheet.paint(self.literals, places):
            words = [self._words_of(one) for one in kept]
            runs = groupby(zip(words, kept, strict=True), key=itemgetter(0))
            return [(", ".join(dict.fromkeys(one.selector for _, one in run)), said) for said, run in runs]
        return [(", ".join(dict.fromkeys(r.selector for r in rows)), words) for words, rows in said.items()]

    def _words_of(self, one: Added) -> str:
        return one.declarations.format(css_colour(self.literals[one.literal]) if one.literal >= 0 else "")


Wanted = dict[tuple[str, str], tuple[Rgba, list[tuple[Rgba, float]]]]


def _together(wanted: Wanted) -> list[tuple[str, str, Rgba]]:
    """Return the rules of a round: selector, declarations, colour; those near each other take one colour for all."""
    groups: dict[tuple[str, Rgba], list[tuple[list[str], list[tuple[Rgba, float]], list[Rgba]]]] = {}
    for (selector, declarations), (colour, surfaces) in wanted.items():
        own = nearest_over(colour.opaque, surfaces)
        if not selector or own is None:
            continue
        rows = groups.setdefault((declarations, colour.opaque), [])
        for row in rows:
            joint = nearest_over(colour.opaque, [*row[1], *surfaces])
            if joint is not None and all(_distance(joint, one) <= _ALIKE for one in (*row[2], own)):
                row[0].append(selector)
                row[1].extend(surfaces)
                row[2].append(own)
                break
        else:
            rows.append(([selector], list(surfaces), [own]))
    out: list[tuple[str, str, Rgba]] = []
    for (declarations, colour), rows in groups.items():
        for selectors, surfaces, _ in rows:
            better = nearest_over(colour, surfaces)
            if better is not None:
                out += [(selector, declarations, better) for selector in selectors]
    return out


def _near(a: Rgba, b: Rgba, tint: float, light: float) -> bool:
    """Tell whether one colour may stand for another, by the distance of their tints and of their lightness."""
    along, across = _apart(a, b)
    return a.a == b.a and across <= tint and along <= light


def _distance(a: Rgba, b: Rgba) -> float:
    """Return the OKLab distance of two opaque colours."""
    return hypot(*_apart(a, b))


def _apart(a: Rgba, b: Rgba) -> tuple[float, float]:
    """Return how far two opaque colours are apart in OKLab's lightness, and in its plane of tints."""
    (l1, c1, h1), (l2, c2, h2) = rgba_to_oklch(a.opaque), rgba_to_oklch(b.opaque)
    return abs(l1 - l2), sqrt(max(0.0, c1 * c1 + c2 * c2 - 2 * c1 * c2 * cos(radians(h1 - h2))))


def _seen(part: Part, paint: Paint) -> Paint:
    """Return a part's paint as it is judged: marks that are seen against the window have only that below them."""
    return paint._replace(below=paint.below[:1]) if part.under == "window" else paint


def _said(paint: Paint) -> bool:
    """Tell whether a sheet paints what lies under a part at all: then a pair of it can be judged."""
    return any(any(c.a > 0 for c in layer) for layer in paint.layers)


_PLAIN = re.compile(r"(?:label|box|revealer|viewport|stack|cellview|image)(?![\w-])(?!\.[\w-])")


def _selector(nodes: Sequence[str], depth: int, count: int) -> str:
    """Return a selector of a node: short at first, then with all that is around it, then outweighing other rules.

    What lies between may be more than the tree has, so that nodes are looked for at any depth, but for labels and the
    like, which have to lie right in what is named. A label of the window itself is every label
    that nothing else names.
    """
    around = [n for n in nodes[:depth] if not n.startswith("window.background")]
    own = nodes[depth]
    if count == 0:
        above = around[-1:] if around and not around[-1].startswith("box") else []
        return " > ".join([*above, own])
    if count > 1 and around:
        own = re.sub(r"^([\w-]*)", rf"\1{_OUTWEIGH}", own, count=1)
    if not around:
        return f".background {own}" if _PLAIN.match(own) else own
    return " ".join(around) + (" > " if _PLAIN.match(nodes[depth]) else " ") + own
