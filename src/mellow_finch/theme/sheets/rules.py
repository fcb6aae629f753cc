"""Rules at the end of a sheet, for what no colour of the theme alone can make readable."""

from __future__ import annotations

import re
from collections.abc import Sequence
from dataclasses import dataclass, field
from itertools import groupby
from math import cos, hypot, radians, sqrt
from operator import itemgetter

from ...colour.blend import over
from ...colour.contrast import ratio
from ...colour.gamut import rgba_to_oklch
from ...colour.rgb import Rgba
from ...components.judge import DrawnPair
from ...components.write.template import css_colour
from ...palette.fit import fit
from .judged import MARGIN, JudgedSheet
from .places import hull_of, must_show

_ALIKE = 0.08  # OKLab distance up to which colours of rules become one
# By what a rule gives first, how far its colour may be from another's to stand for it: in OKLab's plane of tints, and
# in lightness. Texts and edges may move further than areas.
_AREA = (0.05, 0.06)
_ALIKE_BY = {"color": (0.05, 0.3), "opacity": (0.05, 0.3), "border-color": (0.12, 0.2), "box-shadow": (0.12, 0.2)}
_OPACITIES = (0.6, 0.65, 0.7, 0.75, 0.8, 0.85, 0.9, 0.95, 1.0)
_PLAINLY = "opacity: 1; color: {};"
OUTWEIGHING = 2  # the try from which a rule outweighs whatever else there is
_LAST = 3  # the try at which the surface is changed instead of the text
_TURNS = 12  # of a surface and the translucent words on it, until they suit each other
_ROUNDED = 1e-9  # what arithmetic may lose
_OUTWEIGH = ":not(#finch)"  # matches everything, and weighs as much as an id
_OFTEN = 4  # how often a mark is said once more where that is all there is
BEGIN = "/* >>> mellow-finch: rules that make readable what no colour of the theme alone could */"
END = "/* <<< mellow-finch */"

Wanted = dict[tuple[str, str], tuple[Rgba, list[tuple[Rgba, float]]]]


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
class RuledSheet(JudgedSheet):
    """A sheet to whose end rules are added."""

    added: list[Added] = field(default_factory=list)
    _tries: dict[tuple[str, str], int] = field(default_factory=dict)  # how often rules were tried for a pair

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
                if step > own and pair.need.times(MARGIN).holds(lifted, pair.surface):
                    wanted[self.sheet.winner(at, faint, "opacity")] = None
                    opacity = max(opacity, step)
                    break
        if wanted:
            selector, declarations = ", ".join(wanted), f"opacity: {opacity:g};"
            self.added.append(Added(selector, declarations, -1, self.sheet.add(selector, declarations)))
            self._learn(again=True)

    def _bring_together(self) -> None:
        """Let rules that give alike colours give one, where nothing fails by that and what is right stays."""
        groups: dict[str, dict[Rgba, list[int]]] = {}
        for one in (a for a in self.added if a.literal >= 0):
            rows = groups.setdefault(one.declarations, {})
            rows.setdefault(self.literals[one.literal], []).append(one.literal)
        for declarations, colours in groups.items():
            most = _ALIKE_BY.get("" if "none" in declarations else declarations.partition(":")[0], _AREA)
            for rare in sorted((c for c in colours if self.firm.isdisjoint(colours[c])), key=lambda c: len(colours[c])):
                for common in sorted(colours, key=lambda c: -len(colours[c])):
                    if common != rare and _near(common, rare, *most) and self._become(colours[rare], common):
                        colours[common] += colours.pop(rare)
                        break

    def _become(self, numbers: Sequence[int], colour: Rgba) -> bool:
        """Give the literals of rules another colour, unless more fails by it; tell whether they have it now."""
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
                words = _words_on_any(pair, paints[pair.part.key].text or pair.text)
                wanted.setdefault(place, (pair.surface, []))[1].append((words, pair.need.level * MARGIN))
                continue
            ink = paints[pair.part.key].text
            colour = ink if pair.what == "text" and ink is not None and ink.a == 1 else pair.text  # faint words stay so
            rows = wanted.setdefault(place, (colour, []))[1]
            rows.append((pair.surface, pair.need.level * MARGIN))
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
                    wanted[place][1].append((pair.surface, pair.need.level * MARGIN))

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
            told = "border-image: none; " if style.get("edge-picture") and count >= OUTWEIGHING else ""
            return _selector(nodes, len(nodes) - 1, count), (
                f"{told}border-color: {{}};" if framed else "box-shadow: inset 0 0 0 1px {};"
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
        """Return rules with those that say the same, or speak of the same, in one, where all is painted as before."""
        said: dict[str, list[Added]] = {}
        for one in kept:
            said.setdefault(self._words_of(one), []).append(one)
        spoken: dict[str, list[str]] = {}
        for words, rows in said.items():
            spoken.setdefault(", ".join(dict.fromkeys(r.selector for r in rows)), []).append(words)
        fresh = self.sheet.anew()
        places = [*dict.fromkeys([*(p.at for p in self.parts), *self.extra])]
        fresh.know(places)
        for selectors, sayings in spoken.items():
            for one in (said[words][0] for words in sayings):
                fresh.add(selectors, one.declarations.format(f"__literal{one.literal}" if one.literal >= 0 else ""))
        fresh.know_more()
        if fresh.paint(self.literals, places) != self.sheet.paint(self.literals, places):
            in_order = [self._words_of(one) for one in kept]
            runs = groupby(zip(in_order, kept, strict=True), key=itemgetter(0))
            return [(", ".join(dict.fromkeys(one.selector for _, one in run)), said) for said, run in runs]
        return [(selectors, " ".join(dict.fromkeys(sayings))) for selectors, sayings in spoken.items()]

    def _words_of(self, one: Added) -> str:
        return one.declarations.format(css_colour(self.literals[one.literal]) if one.literal >= 0 else "")


def _words_on_any(pair: DrawnPair, ink: Rgba) -> Rgba:
    """Return the colour of a pair's words as it will be on the surface that gives way; what shines through follows."""
    words, need = pair.text, pair.need.level * MARGIN
    for _ in range(_TURNS if ink.a < 1 else 0):
        ground = fit(pair.surface, [(words, need)])
        if ground is None or ratio(over(ink, ground), ground) >= need - _ROUNDED:
            break
        words = over(ink, ground)
    return words


def _together(wanted: Wanted) -> list[tuple[str, str, Rgba]]:
    """Return the rules of a round: selector, declarations, colour; those near each other take one colour for all."""
    groups: dict[tuple[str, Rgba], list[tuple[list[str], list[tuple[Rgba, float]], list[Rgba]]]] = {}
    for (selector, declarations), (colour, surfaces) in wanted.items():
        own = fit(colour.opaque, surfaces)
        if not selector or own is None:
            continue
        rows = groups.setdefault((declarations, colour.opaque), [])
        for row in rows:
            joint = fit(colour.opaque, [*row[1], *surfaces])
            if joint is not None and all(distance(joint, one) <= _ALIKE for one in (*row[2], own)):
                row[0].append(selector)
                row[1].extend(surfaces)
                row[2].append(own)
                break
        else:
            rows.append(([selector], list(surfaces), [own]))
    out: list[tuple[str, str, Rgba]] = []
    for (declarations, colour), rows in groups.items():
        for selectors, surfaces, _ in rows:
            better = fit(colour, surfaces)
            if better is not None:
                out += [(selector, declarations, better) for selector in selectors]
    return out


def _near(a: Rgba, b: Rgba, tint: float, light: float) -> bool:
    """Tell whether one colour may stand for another, by the distance of their tints and of their lightness."""
    along, across = _apart(a, b)
    return a.a == b.a and across <= tint and along <= light


def distance(a: Rgba, b: Rgba) -> float:
    """Return the OKLab distance of two opaque colours."""
    return hypot(*_apart(a, b))


def _apart(a: Rgba, b: Rgba) -> tuple[float, float]:
    """Return how far two opaque colours are apart in OKLab's lightness, and in its plane of tints."""
    (l1, c1, h1), (l2, c2, h2) = rgba_to_oklch(a.opaque), rgba_to_oklch(b.opaque)
    return abs(l1 - l2), sqrt(max(0.0, c1 * c1 + c2 * c2 - 2 * c1 * c2 * cos(radians(h1 - h2))))


_PLAIN = re.compile(r"(?:label|box|revealer|viewport|stack|cellview|image)(?![\w-])(?!\.[\w-])")


def _outweighing(node: str, outermost: str) -> str:
    """Return what makes a selector of a node outweigh others; for shells, that know no :not(), its own marks again."""
    if outermost != "stage":
        return _OUTWEIGH
    marks = re.findall(r"[#.][\w-]+", node)
    return next((m for m in marks if m[0] == "#"), marks[-1] if marks else "") * _OFTEN


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
        own = re.sub(r"^([\w-]*)", lambda type_: type_.group() + _outweighing(own, nodes[0]), own, count=1)
    if not around:
        return f".background {own}" if _PLAIN.match(own) else own
    return " ".join(around) + (" > " if _PLAIN.match(nodes[depth]) else " ") + own
