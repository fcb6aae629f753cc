"""A style sheet painted again and again in other colours, knowing which literal each colour comes from."""

from __future__ import annotations

from collections.abc import Iterable, Mapping, Sequence
from typing import Any, NamedTuple

from ..colour.rgb import Rgba
from .cascade import ORIGINS, Drawn, Node, Painted, add_rule, alternatives, compiled, evaluated, matched, named
from .css_values import EDGES, Expr, Frame, inherited, style_of


class Sheet:
    """A sheet compiled for being painted again and again in other colours, part by part, and for adding rules.

    skeleton: its text with every literal replaced by __literalN, N counting from 0; pictures: by file name, the colours
    that a picture fills its box with, for backgrounds that are pictures.
    """

    def __init__(self, skeleton: str, pictures: Mapping[str, tuple[Rgba, ...]] | None = None) -> None:
        self._rules = compiled(skeleton)
        self._pictures = pictures or {}
        self._nodes: dict[str, list[Node]] = {}
        self._names_of_roots: dict[str, Rgba] = {}

    def know(self, places: Sequence[str]) -> None:
        """Match the rules with places, once for all that is asked of them."""
        self._nodes |= dict(zip(places, matched(self._rules.matcher, tuple(places)), strict=True))

    def names(self, literals: Sequence[Rgba]) -> dict[str, Rgba]:
        """Return what every defined colour comes to."""
        return named(self._rules, literals)

    def paint(
        self, literals: Sequence[Rgba], places: Iterable[str], names: dict[str, Rgba] | None = None
    ) -> dict[str, Painted]:
        """Return what the sheet says of places that are known, its literals being these colours.

        names: what the defined colours come to, when that is known already.
        """
        names = named(self._rules, literals) if names is None else names
        known: dict[int, Drawn] = {}
        return {p: evaluated(self._nodes[p], literals, names, known, self._pictures) for p in places}

    def roots(self, literals: Sequence[Rgba], place: str, name_roots: dict[str, frozenset[int]]) -> Roots:
        """Return which literals a known place's text, surfaces and edge come from; name_roots as that method says."""
        names = self._names_of_roots

        def used(expression: Expr | None, current: frozenset[int]) -> frozenset[int]:
            if expression is None:
                return frozenset()
            seen = _Recording(literals, names, name_roots)
            expression(Frame(seen, _RecordingNames(seen), Rgba(0, 0, 0)))
            return frozenset(seen.used) | (current if _refers_to_current(expression) else frozenset())

        text: frozenset[int] = frozenset()
        text_at, fills, edge = -1, [], frozenset[int]()
        for depth, (_, style) in enumerate(self._nodes[place]):
            if "color" in style and style["color"] is not inherited:
                text, text_at = used(style["color"], text), depth
            own = used(style.get("background-color"), text)
            for stop in style.get("stops", ()):
                own |= used(stop, text)
            fills.append(own | used(style.get("veil"), text))
            edge = frozenset().union(*(used(style[name], text) for name in (*EDGES[:1], "ring") if style.get(name)))
            edge = edge or next((used(style[name], text) for name in EDGES if name in style), frozenset())
        return Roots(text, text_at, tuple(fills), edge)

    def name_roots(self, literals: Sequence[Rgba]) -> dict[str, frozenset[int]]:
        """Return which literals each defined colour comes from."""
        found: dict[str, frozenset[int]] = {}
        names: dict[str, Rgba] = {}
        for name, expression in (*self._rules.defines, *self._rules.referring):
            seen = _Recording(literals, names, found)
            value = expression(Frame(seen, _RecordingNames(seen), Rgba(0, 0, 0)))
            if value is not None:
                names[name], found[name] = value, frozenset(seen.used)
        self._names_of_roots = names
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
        """Add a rule at the end and return its numbers, one for each selector; places have to be made known again."""
        first = len(self._rules.selectors)
        import tinycss2

        style = style_of(tinycss2.parse_component_value_list(declarations))
        for part in alternatives(tinycss2.parse_component_value_list(selector)):
            add_rule(self._rules, part, style)
        return range(first, len(self._rules.selectors))


class Roots(NamedTuple):
    """The literals, by number, that a place's colours come from.

    text_at: the depth of the node whose rule gives the text its colour, -1 when none does; fills: by node, outermost
    first.
    """

    text: frozenset[int]
    text_at: int
    fills: tuple[frozenset[int], ...]
    edge: frozenset[int]


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
    clear = Frame(_Any(), _AnyNames(), Rgba(0, 0, 0))
    return expression(clear) != expression(clear._replace(current=Rgba(255, 255, 255)))


class _Any(Sequence[Rgba]):
    def __getitem__(self, index: Any) -> Any:
        return Rgba(128, 128, 128)

    def __len__(self) -> int:
        return 1_000_000_000


class _AnyNames(dict[str, Rgba]):
    def get(self, name: str, default: Any = None) -> Any:
        return Rgba(128, 128, 128)
