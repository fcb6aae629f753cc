"""A style sheet painted again and again in other colours, knowing which literal each colour comes from."""

from __future__ import annotations

from collections.abc import Callable, Collection, Hashable, Iterable, Mapping, Sequence
from functools import lru_cache
from typing import Any, NamedTuple

from ..colour.rgb import Rgba
from ..progress import give_way
from .cascade import Drawn, PaintedNode, add_rule, alternatives, compiled, evaluated, named
from .css_values import EDGES, Evaluation, Expr, inherited, style_of
from .nodes import ORIGINS, Node, Tree


class Sheet:
    """A sheet compiled for being painted again and again in other colours, part by part, and for adding rules.

    skeleton: its text with every literal replaced by __literalN, N counting from 0; pictures: by file name, the colours
    that a picture fills its box with, for backgrounds that are pictures.
    """

    def __init__(self, skeleton: str, pictures: Mapping[str, tuple[Rgba, ...]] | None = None) -> None:
        self._skeleton, self._rules, self._more = skeleton, compiled(skeleton), False
        self._pictures = pictures or {}
        self._nodes: dict[str, list[Node]] = {}
        self._roots: dict[int, Roots] = {}  # by node
        self._tree: Tree | None = None
        self._fresh: list[tuple[Any, int, int, dict[str, Any]]] = []  # rules that no place was matched with yet
        self._names_of_roots: dict[str, Rgba] = {}
        self._name_roots: dict[str, frozenset[int]] | None = None
        self._defined: tuple[list[int], list[Rgba], dict[str, Rgba]] | None = None  # what `names` was asked last
        self._used: dict[int, tuple[Expr, frozenset[int], bool]] = {}  # by expression, which is kept for its identity

    def anew(self) -> Sheet:
        """Return the sheet as it was before rules were added to it."""
        return Sheet(self._skeleton, self._pictures)

    def know(self, places: Sequence[str]) -> None:
        """Match the rules with places, once for all that is asked of them."""
        self._tree = _tree_of(self._skeleton, tuple(places)).copy() if not self._more else self._matched(places)
        self._fresh.clear()
        self._roots.clear()
        self._nodes = {place: self._tree.nodes(place) for place in places}

    def _matched(self, places: Sequence[str]) -> Tree:
        tree = Tree(places)
        tree.match(self._rules.matcher)
        return tree

    def know_more(self) -> list[str]:
        """Match the places that are known with the rules that were added since; return the places that changed."""
        if self._tree is None:
            return []
        changed = self._tree.through(self._tree.match_more(self._fresh))
        self._fresh.clear()
        self._roots.clear()
        for place in changed:
            self._nodes[place] = self._tree.nodes(place)
        return changed

    def names(self, literals: Sequence[Rgba]) -> dict[str, Rgba]:
        """Return what every defined colour comes to, worked out again for those alone whose literals changed."""
        if self._name_roots is None:
            return named(self._rules, literals)
        if self._defined is None:
            self._defined = sorted(frozenset().union(*self._name_roots.values())), [], {}
        numbers, before, names = self._defined
        now = [literals[n] for n in numbers]
        changed = frozenset(n for n, a, b in zip(numbers, before, now, strict=True) if a != b) if before else None
        if changed is None:
            names = named(self._rules, literals)
        elif changed:
            names = named(self._rules, literals, names, {n for n, r in self._name_roots.items() if r & changed})
        self._defined = numbers, now, names
        return names

    def paint(
        self, literals: Sequence[Rgba], places: Iterable[str], names: dict[str, Rgba] | None = None
    ) -> dict[str, PaintedNode]:
        """Return what the sheet says of places that are known, its literals being these colours.

        names: what the defined colours come to, when that is known already.
        """
        names = self.names(literals) if names is None else names
        known: dict[int, Drawn] = {}
        return {p: evaluated(self._nodes[p], literals, names, known, self._pictures) for p in places}

    def likeness(self, place: str) -> Hashable:
        """Return what two known places have in common that are painted alike, whatever the colours are."""
        nodes = self._nodes[place]
        said = tuple(tuple(sorted(style[ORIGINS].items())) for _, style in nodes if len(style) > 1)
        return said, len(nodes[0][1]) > 1, len(nodes[-1][1]) > 1

    def painter(
        self, literals: Sequence[Rgba], names: dict[str, Rgba] | None = None, known: dict[int, Drawn] | None = None
    ) -> Callable[[str], PaintedNode]:
        """Return what gives one known place after the other as `paint` does, for those who may stop early.

        known: what nodes have drawn, taken as it is and added to.
        """
        told = self.names(literals) if names is None else names
        known = {} if known is None else known
        return lambda place: evaluated(self._nodes[place], literals, told, known, self._pictures)

    def roots(self, literals: Sequence[Rgba], place: str, name_roots: dict[str, frozenset[int]]) -> Roots:
        """Return which literals a known place's text, surfaces and edge come from; name_roots as that method says."""
        give_way()

        def used(expression: Expr | None, current: frozenset[int]) -> frozenset[int]:
            if expression is None:
                return frozenset()
            if id(expression) not in self._used:
                seen = _Recording(literals, self._names_of_roots, name_roots)
                expression(Evaluation(seen, _RecordingNames(seen), Rgba(0, 0, 0)))
                self._used[id(expression)] = expression, frozenset(seen.used), _refers_to_current(expression)
            _, own, refers = self._used[id(expression)]
            return own | current if refers else own

        found = Roots(frozenset(), -1, (), frozenset(), frozenset())
        for depth, (number, style) in enumerate(self._nodes[place]):
            if number not in self._roots:
                text, text_at = found.text, found.text_at
                if "color" in style and style["color"] is not inherited:
                    text, text_at = used(style["color"], text), depth
                own = used(style.get("background-color"), text)
                for stop in (*style.get("stops", ()), *style.get("strip", ())):
                    own |= used(stop, text)
                own |= used(style.get("veil"), text)
                first, *others = [used(style[name], text) if style.get(name) else frozenset() for name in EDGES]
                ring = used(style.get("ring"), text)
                edge = first | ring or next((o for o in others if o), frozenset())
                all_ = found.all.union(text, own, first, ring, *others)
                self._roots[number] = Roots(text, text_at, (*found.fills, own), edge, all_)
            found = self._roots[number]
        return found

    def independent(self, literals: Collection[int]) -> frozenset[int]:
        """Return the nodes, of those whose roots were asked for, on whose way nothing comes from some literals."""
        return frozenset(n for n, roots in self._roots.items() if roots.all.isdisjoint(literals))

    def name_roots(self, literals: Sequence[Rgba]) -> dict[str, frozenset[int]]:
        """Return which literals each defined colour comes from: always the same, whatever colours they are."""
        if self._name_roots is not None:
            return self._name_roots
        found: dict[str, frozenset[int]] = {}
        names: dict[str, Rgba] = {}
        for name, expression in (*self._rules.defines, *self._rules.referring):
            seen = _Recording(literals, names, found)
            value = expression(Evaluation(seen, _RecordingNames(seen), Rgba(0, 0, 0)))
            if value is not None:
                names[name], found[name] = value, frozenset(seen.used)
        self._names_of_roots, self._name_roots = names, found
        return found

    def style(self, place: str, depth: int) -> dict[str, Any]:
        """Return the style of a node on the way to a known place."""
        return self._nodes[place][depth][1]

    def way(self, place: str) -> list[dict[str, Any]]:
        """Return the styles of the nodes on the way to a known place, outermost first."""
        return [style for _, style in self._nodes[place]]

    def winner(self, place: str, depth: int, name: str) -> str:
        """Return the selector of the rule that a property of a node comes from, empty when none sets it."""
        origins = self._nodes[place][depth][1].get(ORIGINS, {})
        return self._rules.selectors[origins[name]] if name in origins else ""

    def in_force(self, place: str) -> set[int]:
        """Return the numbers of the rules from which anything on the way to a known place comes."""
        return {number for _, style in self._nodes[place] for number in style.get(ORIGINS, {}).values()}

    def add(self, selector: str, declarations: str) -> range:
        """Add a rule at the end and return its numbers, one for each selector; `know_more` makes it count."""
        first, self._more = len(self._rules.selectors), True
        import tinycss2

        style = style_of(tinycss2.parse_component_value_list(declarations))
        for part in alternatives(tinycss2.parse_component_value_list(selector)):
            for one, number in add_rule(self._rules, part, style):
                self._fresh.append((one, self._rules.matcher.order, number, style))
        return range(first, len(self._rules.selectors))


@lru_cache(maxsize=8)
def _tree_of(skeleton: str, places: tuple[str, ...]) -> Tree:
    """Return places matched with a sheet as it came: the same one is painted again whenever a role changes."""
    tree = Tree(places)
    tree.match(compiled(skeleton).matcher)
    return tree


class Roots(NamedTuple):
    """The literals, by number, that a place's colours come from.

    text_at: the depth of the node whose rule gives the text its colour, -1 when none does; fills: by node, outermost
    first; all: those that anything on the way to the place comes from.
    """

    text: frozenset[int]
    text_at: int
    fills: tuple[frozenset[int], ...]
    edge: frozenset[int]
    all: frozenset[int]


class _Recording(Sequence[Rgba]):
    """Literals that remember which of them were asked for."""

    def __init__(self, literals: Sequence[Rgba], names: dict[str, Rgba], roots: dict[str, frozenset[int]]) -> None:
        self._literals, self.names, self.roots = literals, names, roots
        self.used: set[int] = set()

    def __getitem__(self, index: Any) -> Any:
        self.used.add(index)
        return self._literals[index]

    def __len__(self) -> int:
        return len(self._literals)


class _RecordingNames(dict[str, Rgba]):
    """Named colours whose literals are remembered when they are asked for."""

    def __init__(self, recording: _Recording) -> None:
        super().__init__(recording.names)
        self._recording = recording

    def get(self, name: str, default: Any = None) -> Any:
        self._recording.used |= self._recording.roots.get(name, frozenset())
        return super().get(name, default)


def _refers_to_current(expression: Expr) -> bool:
    """Tell whether an expression depends on the text's colour."""
    clear = Evaluation(_Any(), _AnyNames(), Rgba(0, 0, 0))
    return expression(clear) != expression(clear._replace(current=Rgba(255, 255, 255)))


class _Any(Sequence[Rgba]):
    def __getitem__(self, index: Any) -> Any:
        return Rgba(128, 128, 128)

    def __len__(self) -> int:
        return 1_000_000_000


class _AnyNames(dict[str, Rgba]):
    def get(self, name: str, default: Any = None) -> Any:
        return Rgba(128, 128, 128)
