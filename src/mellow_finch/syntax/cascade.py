"""What a style sheet says about places in a tree of nodes, the rules cascaded as a toolkit cascades them.

The sheet is compiled once for its skeleton, that is its text with the colour literals taken out, so that reading the
same sheet in other colours costs little. Selectors are matched by cssselect2; states become classes for it. Both
libraries are imported when the first sheet is compiled, not on the way to the first paint.
"""

from __future__ import annotations

import colorsys
import re
from collections.abc import Callable, Iterable, Iterator, Mapping, Sequence
from dataclasses import dataclass, field
from functools import lru_cache
from typing import Any, NamedTuple
from xml.etree.ElementTree import Element, SubElement

from ..colour.blend import over
from ..colour.rgb import Rgba, from_unit
from .css import scan_css
from .literals import NAMES, read_literal
from .spans import Rescanner, replace_spans

CLEAR = Rgba(0, 0, 0, 0.0)


class Painted(NamedTuple):
    """What is drawn at one place: fills from the outermost node inwards, the text, the edge, or None where unset.

    fills holds for every node on the way its candidates: one colour, or a gradient's stops over it;
    fill is the innermost node's plain colour, or its first stop, None when nothing is drawn.
    """

    fills: tuple[tuple[Rgba, ...], ...]
    text: Rgba | None
    edge: Rgba | None
    fill: Rgba | None


# Evaluating: an expression gets the literals and the named colours, and the text colour in force.
class _Frame(NamedTuple):
    literals: Sequence[Rgba]
    names: dict[str, Rgba]
    current: Rgba
    pictures: Mapping[str, tuple[Rgba, ...]] = {}


_Expr = Callable[[_Frame], Rgba | None]

_STATES = re.compile(
    r":(hover|active|checked|selected|disabled|insensitive|backdrop|focus-visible|focus-within|focus|indeterminate|"
    r"inconsistent|prelight|link|visited|overview|outlined|drop\(active\)|drop|ltr|rtl|highlighted|"
    r"dir\(ltr\)|dir\(rtl\)|focused)"
)
_WORDS = re.compile(r"\W+")
# The edge that is judged is the border's; where there is none, a line drawn inside by a shadow.
_EDGES = ("border-color", "border-top-color", "border-bottom-color", "border-left-color", "border-right-color")


def _state_name(state: str) -> str:
    """Return the class that stands for a state; older names of a state are the same state."""
    name = {"insensitive": "disabled", "prelight": "hover", "inconsistent": "indeterminate"}.get(state, state)
    return "__" + _WORDS.sub("-", name).strip("-")


def _state_class(found: re.Match[str]) -> str:
    return "." + _state_name(found.group(1))


_Node = tuple[int, dict[str, Any]]  # a node's number, the same for the same way down, and its style
ORIGINS = "origins"  # the key of a style under which the rules that its properties come from are kept


@dataclass
class _Rules:
    """The compiled skeleton."""

    matcher: Any
    defines: list[tuple[str, _Expr]]
    referring: list[tuple[str, _Expr]]
    selectors: list[str] = field(default_factory=list)  # by the number of the rule that has it
    matched: dict[tuple[str, ...], list[list[_Node]]] = field(default_factory=dict)
    last: tuple[tuple[str, ...], list[Rgba], dict[str, Painted]] = ((), [], {})  # what was painted last


def paint(text: str, places: Sequence[str]) -> dict[str, Painted]:
    """Return what the sheet says of each place.

    A place is a path of nodes from the outermost to the innermost, such as
    "window.background > box > button.text-button:hover"; every node is type, #id, .classes and :states.
    """
    return paint_all([text], places)


def paint_all(texts: Iterable[str], places: Sequence[str]) -> dict[str, Painted]:
    """Return what several sheets, the later ones stronger, say of each place."""
    literals: list[Rgba] = []
    skeletons: list[str] = []
    for text in (half for whole in texts for half in _halves(whole)):
        spans = _scan(text)
        parts: list[str] = []
        at = 0
        for span in spans:
            parts += (text[at : span.start], f"__literal{len(literals)}")
            literals.append(span.colour)
            at = span.end
        parts.append(text[at:])
        skeletons.append("".join(parts))
    return _painted(_compile("\n".join(skeletons)), literals, tuple(places))


class Sheet:
    """A sheet compiled for being painted again and again in other colours, part by part, and for adding rules.

    skeleton: its text with every literal replaced by __literalN, N counting from 0; pictures: by file name, the colours
    that a picture fills its box with, for backgrounds that are pictures.
    """

    def __init__(self, skeleton: str, pictures: Mapping[str, tuple[Rgba, ...]] | None = None) -> None:
        self._rules = _compile_now(skeleton)
        self._pictures = pictures or {}
        self._nodes: dict[str, list[_Node]] = {}
        self._names_of_roots: dict[str, Rgba] = {}

    def know(self, places: Sequence[str]) -> None:
        """Match the rules with places, once for all that is asked of them."""
        self._nodes |= dict(zip(places, _match(self._rules.matcher, tuple(places)), strict=True))

    def names(self, literals: Sequence[Rgba]) -> dict[str, Rgba]:
        """Return what every defined colour comes to."""
        return _named(self._rules, literals)

    def paint(
        self, literals: Sequence[Rgba], places: Iterable[str], names: dict[str, Rgba] | None = None
    ) -> dict[str, Painted]:
        """Return what the sheet says of places that are known, its literals being these colours.

        names: what the defined colours come to, when that is known already.
        """
        names = _named(self._rules, literals) if names is None else names
        known: dict[int, _Drawn] = {}
        return {p: _evaluate(self._nodes[p], literals, names, known, self._pictures) for p in places}

    def roots(self, literals: Sequence[Rgba], place: str, name_roots: dict[str, frozenset[int]]) -> Roots:
        """Return which literals a known place's text, surfaces and edge come from; name_roots as that method says."""
        names = self._names_of_roots

        def used(expression: _Expr | None, current: frozenset[int]) -> frozenset[int]:
            if expression is None:
                return frozenset()
            seen = _Recording(literals, names, name_roots)
            expression(_Frame(seen, _RecordingNames(seen), Rgba(0, 0, 0)))
            return frozenset(seen.used) | (current if _refers_to_current(expression) else frozenset())

        text: frozenset[int] = frozenset()
        text_at, fills, edge = -1, [], frozenset[int]()
        for depth, (_, style) in enumerate(self._nodes[place]):
            if "color" in style and style["color"] is not _inherited:
                text, text_at = used(style["color"], text), depth
            own = used(style.get("background-color"), text)
            for stop in style.get("stops", ()):
                own |= used(stop, text)
            fills.append(own | used(style.get("veil"), text))
            edge = frozenset().union(*(used(style[name], text) for name in (*_EDGES[:1], "ring") if style.get(name)))
            edge = edge or next((used(style[name], text) for name in _EDGES if name in style), frozenset())
        return Roots(text, text_at, tuple(fills), edge)

    def name_roots(self, literals: Sequence[Rgba]) -> dict[str, frozenset[int]]:
        """Return which literals each defined colour comes from."""
        found: dict[str, frozenset[int]] = {}
        names: dict[str, Rgba] = {}
        for name, expression in (*self._rules.defines, *self._rules.referring):
            seen = _Recording(literals, names, found)
            value = expression(_Frame(seen, _RecordingNames(seen), Rgba(0, 0, 0)))
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

    def add(self, selector: str, declarations: str) -> None:
        """Add a rule at the end; places have to be made known again."""
        import tinycss2

        style = _style(tinycss2.parse_component_value_list(declarations))
        for part in _alternatives(tinycss2.parse_component_value_list(selector)):
            _add_rule(self._rules, part, style)


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


def _refers_to_current(expression: _Expr) -> bool:
    """Tell whether an expression depends on the text's colour."""
    clear = _Frame(_Any(), _AnyNames(), Rgba(0, 0, 0))
    return expression(clear) != expression(clear._replace(current=Rgba(255, 255, 255)))


class _Any(Sequence[Rgba]):
    def __getitem__(self, index: Any) -> Any:
        return Rgba(128, 128, 128)

    def __len__(self) -> int:
        return 1


class _AnyNames(dict[str, Rgba]):
    def get(self, name: str, default: Any = None) -> Any:
        return Rgba(128, 128, 128)


def paint_literals(text: str, literals: Sequence[Rgba], places: Sequence[str]) -> dict[str, Painted]:
    """Return what a sheet would say with its literals, in the order of scan_css, exchanged for other colours."""
    return _painted(_compile(_skeleton(text)), literals, tuple(places))


@lru_cache(maxsize=8)
def _skeleton(text: str) -> str:
    return replace_spans(text, ((span, f"__literal{i}") for i, span in enumerate(scan_css(text))))


def _painted(rules: _Rules, literals: Sequence[Rgba], paths: tuple[str, ...]) -> dict[str, Painted]:
    if rules.last[:2] == (paths, literals):  # a file that was mended is read back as it was judged last
        return rules.last[2]
    if paths not in rules.matched:
        rules.matched[paths] = _match(rules.matcher, paths)
    names = _named(rules, literals)
    known: dict[int, _Drawn] = {}
    found = {
        p: _evaluate(nodes, literals, names, known, {}) for p, nodes in zip(paths, rules.matched[paths], strict=True)
    }
    rules.last = (paths, list(literals), found)
    return found


def _named(rules: _Rules, literals: Sequence[Rgba]) -> dict[str, Rgba]:
    names: dict[str, Rgba] = {}
    frame = _Frame(literals, names, Rgba(0, 0, 0))
    # Definitions that refer to others come around twice: they may refer to later ones.
    for name, expression in (*rules.defines, *rules.referring):
        value = expression(frame)
        if value is not None:
            names[name] = value
    return names


def named_colours(text: str) -> dict[str, Rgba]:
    """Return what every @define-color of a sheet comes to, references and functions worked out, in order of the sheet.

    Definitions that cannot be worked out are left out.
    """
    spans = scan_css(text)
    skeleton = replace_spans(text, ((span, f"__literal{i}") for i, span in enumerate(spans)))
    return _named(_compile(skeleton), [span.colour for span in spans])


_scan = Rescanner(scan_css, read_literal)
_LAST_DEFINITION = "\n@define-color"


def _halves(text: str) -> tuple[str, ...]:
    """Part the definitions at the head of a sheet from its rules: the rules of a theme of ours never change."""
    start = text.rfind(_LAST_DEFINITION)
    end = text.find("\n", start + 1) + 1
    return (text[:end], text[end:]) if start >= 0 and end > 0 else (text,)


class _Drawn(NamedTuple):
    """What the way down to one node has drawn so far."""

    fills: tuple[tuple[Rgba, ...], ...]
    current: Rgba | None
    edge: Rgba | None
    colour: Rgba | None
    opacity: float = 1.0


_NOTHING = _Drawn((), None, None, None)


def _evaluate(
    nodes: list[_Node],
    literals: Sequence[Rgba],
    names: dict[str, Rgba],
    known: dict[int, _Drawn],
    pictures: Mapping[str, tuple[Rgba, ...]],
) -> Painted:
    drawn = _NOTHING
    for number, style in nodes:
        if number not in known:
            known[number] = _draw(drawn, style, literals, names, pictures)
        drawn = known[number]
    own = drawn.fills[-1] if drawn.fills else ()
    plain = drawn.colour if drawn.colour is not None and drawn.colour.a > 0 else None
    if plain is None and own and own[0].a > 0:
        plain = own[0]
    text = drawn.current
    if text is not None and drawn.opacity < 1:
        text = text._replace(a=text.a * drawn.opacity)
    return Painted(drawn.fills, text, drawn.edge, plain)


def _draw(
    above: _Drawn,
    style: dict[str, Any],
    literals: Sequence[Rgba],
    names: dict[str, Rgba],
    pictures: Mapping[str, tuple[Rgba, ...]],
) -> _Drawn:
    current = above.current
    frame = _Frame(literals, names, current or Rgba(0, 0, 0))
    if "color" in style:
        current = style["color"](frame) or current
        frame = frame._replace(current=current or frame.current)
    colour = style["background-color"](frame) if "background-color" in style else None
    stops = [s for s in (e(frame) for e in style.get("stops", ())) if s is not None]
    if not stops and style.get("picture"):
        stops = list(pictures.get(style["picture"], ()))
    if stops and colour is not None:
        stops = [over(stop, colour) for stop in stops]
    fill = tuple(stops) if stops else ((colour,) if colour is not None else ())
    veil = style["veil"](frame) if style.get("veil") else None
    if veil is not None and veil.a > 0:
        fill = tuple(over(veil, c) for c in fill) if fill and all(c.a > 0 for c in fill) else (*fill, veil)[-1:]
        colour = fill[0]
    edge = next((style[name](frame) for name in (*_EDGES, "ring") if style.get(name)), None)
    if style.get("ring") and (edge is None or edge.a == 0 or not style.get("frame", True)):
        edge = style["ring"](frame)
    opacity = above.opacity * style.get("opacity", 1.0)
    if style.get("opacity", 1.0) < 1:
        fill = tuple(c._replace(a=c.a * opacity) for c in fill)
    return _Drawn((*above.fills, fill), current, edge, colour, opacity)


@lru_cache(maxsize=24)
def _compile(skeleton: str) -> _Rules:
    return _compile_now(skeleton)


def _compile_now(skeleton: str) -> _Rules:
    import cssselect2
    import tinycss2

    rules = _Rules(cssselect2.Matcher(), [], [])
    for rule in tinycss2.parse_stylesheet(skeleton, skip_comments=True, skip_whitespace=True):
        if rule.type == "at-rule" and rule.lower_at_keyword == "define-color":
            tokens = [t for t in rule.prelude if t.type != "whitespace"]
            if len(tokens) >= 2 and tokens[0].type == "ident":
                expression = _expression(tokens[1])
                if expression:
                    rules.defines.append((tokens[0].value, expression))
                    if tokens[1].type != "ident":
                        rules.referring.append(rules.defines[-1])
        if rule.type == "qualified-rule":
            style = _style(rule.content)
            if style:
                for part in _alternatives(rule.prelude):
                    _add_rule(rules, part, style)
    return rules


def _alternatives(prelude: list[Any]) -> list[str]:
    """Return the selectors of a list, split at the commas outside of brackets."""
    import tinycss2

    rows: list[list[Any]] = [[]]
    for token in prelude:
        if token.type == "literal" and token.value == ",":
            rows.append([])
        elif token.type != "comment":
            rows[-1].append(token)
    return [tinycss2.serialize(row).strip() for row in rows]


def _add_rule(rules: _Rules, selector: str, style: dict[str, Any]) -> None:
    import cssselect2

    prepared = _STATES.sub(_state_class, selector)
    try:
        for compiled in cssselect2.compile_selector_list(prepared):
            rules.matcher.add_selector(compiled, (len(rules.selectors), style))
    except (cssselect2.SelectorError, RecursionError):
        return
    rules.selectors.append(selector)


def _match(matcher: Any, places: tuple[str, ...]) -> list[list[_Node]]:
    root = Element("everything")
    elements: dict[tuple[str, ...], Element] = {(): root}
    ways: list[list[tuple[str, ...]]] = []
    for place in places:
        way = [compound.strip() for compound in place.split(">")]
        prefixes = [tuple(way[: i + 1]) for i in range(len(way))]
        for prefix in prefixes:
            if prefix not in elements:
                elements[prefix] = _element(elements[prefix[:-1]], prefix[-1])
        ways.append(prefixes)
    import cssselect2

    wrapped = {e.etree_element: e for e in cssselect2.ElementWrapper.from_xml_root(root).iter_subtree()}
    numbers = {prefix: i for i, prefix in enumerate(elements)}
    styles: dict[tuple[str, ...], dict[str, Any]] = {}
    for prefix, element in elements.items():
        merged: dict[str, Any] = {}
        origins: dict[str, int] = {}
        for *_, (number, style) in matcher.match(wrapped[element]):
            merged |= style
            origins |= dict.fromkeys(style, number)
        styles[prefix] = merged | {ORIGINS: origins}
    return [[(numbers[prefix], styles[prefix]) for prefix in way] for way in ways]


_COMPOUND = re.compile(r"([.#:])((?:[\w-]|\([\w-]*\))+)")


def _element(parent: Element, compound: str) -> Element:
    name = re.match(r"[\w-]+", compound)
    element = SubElement(parent, name.group() if name else "node")
    classes: list[str] = []
    for mark, value in _COMPOUND.findall(compound):
        if mark == "#":
            element.set("id", value)
        else:
            classes.append(value if mark == "." else _state_name(value))
    if classes:
        element.set("class", " ".join(classes))
    return element


def _style(content: list[Any]) -> dict[str, Any]:
    """Return the colour-carrying declarations of a rule as expressions."""
    import tinycss2

    style: dict[str, Any] = {}
    for item in tinycss2.parse_declaration_list(content, skip_comments=True, skip_whitespace=True):
        if item.type != "declaration":
            continue
        name = item.lower_name
        tokens = [t for t in item.value if t.type not in ("whitespace", "comment")]
        if name in ("background", "background-image"):
            _background(style, name, tokens)
        elif name == "color" and any(t.type == "ident" and t.lower_value in ("inherit", "unset") for t in tokens):
            style[name] = _inherited
        elif name in ("color", "background-color", "border-color", "background-gradient-start"):
            expression = next((e for e in map(_expression, tokens) if e), None)
            if expression:
                style[name] = expression
        elif name == "opacity" and tokens and tokens[0].type in ("number", "percentage"):
            style[name] = float(tokens[0].value) / (100 if tokens[0].type == "percentage" else 1)
        elif name == "box-shadow":
            style["veil"], style["ring"] = _inner_shadows(item.value)
        elif name == "background-gradient-end" and "background-gradient-start" in style:
            last = next((e for e in map(_expression, tokens) if e), None)
            style["stops"] = [style["background-gradient-start"], *([last] if last else [])]
        elif name.startswith("border") and name.removesuffix("-color") in (
            "border",
            "border-top",
            "border-bottom",
            "border-left",
            "border-right",
        ):
            if not name.endswith("-color"):
                style["frame"] = not any(
                    (t.type == "ident" and t.lower_value in ("none", "hidden"))
                    or (t.type in ("number", "dimension") and t.value == 0)
                    for t in tokens
                )
            expression = next((e for e in map(_expression, tokens) if e), None)
            if expression:
                side = name if name.endswith("-color") else name + "-color"
                style[side] = expression
    return style


def _background(style: dict[str, Any], name: str, tokens: list[Any]) -> None:
    stops: list[_Expr] = []
    for token in tokens:
        if token.type == "function" and ("gradient" in token.lower_name or token.lower_name == "image"):
            inner = (t for t in token.arguments if t.type not in ("whitespace", "comment"))
            stops += [e for e in map(_expression, inner) if e]
    plain = next((e for e in (_expression(t) for t in tokens) if e), None)
    style["picture"] = next(_urls(tokens), "").rpartition("/")[2]
    if stops:
        style["stops"] = stops
    elif name == "background" or any(t.type == "ident" and t.lower_value == "none" for t in tokens):
        style["stops"] = []
    if name == "background":
        style["background-color"] = plain or _clear


def _inner_shadows(tokens: list[Any]) -> tuple[_Expr | None, _Expr | None]:
    """Return the colours of an inner shadow that fills its box, and of one that draws a line all around inside it."""
    veil: _Expr | None = None
    ring: _Expr | None = None
    for shadow in _at_commas(tokens):
        lengths = [t.value for t in shadow if t.type in ("dimension", "number")]
        if len(lengths) < 4 or not any(t.type == "ident" and t.lower_value == "inset" for t in shadow):
            continue
        colour = next((e for e in map(_expression, shadow) if e), None)
        if lengths[3] >= 20:
            veil = veil or colour
        elif lengths[3] >= 1 and not any(lengths[:3]):
            ring = ring or colour
    return veil, ring


def _at_commas(tokens: list[Any]) -> list[list[Any]]:
    rows: list[list[Any]] = [[]]
    for token in tokens:
        if token.type == "literal" and token.value == ",":
            rows.append([])
        elif token.type not in ("whitespace", "comment"):
            rows[-1].append(token)
    return rows


def _urls(tokens: Iterable[Any]) -> Iterator[str]:
    """Yield the addresses in a value, those inside of functions too."""
    for token in tokens:
        if token.type == "url":
            yield token.value
        elif token.type == "function" and token.lower_name == "url":
            yield next((t.value for t in token.arguments if t.type == "string"), "")
        elif token.type == "function" and token.lower_name.startswith("-gtk-"):
            yield from _urls(token.arguments)


def _inherited(_frame: _Frame) -> Rgba | None:
    """Say nothing, so that the colour from above stays, whatever weaker rules say."""
    return None


def _clear(_frame: _Frame) -> Rgba | None:
    return CLEAR


def _expression(token: Any) -> _Expr | None:
    """Return how to work out a colour token, or None when it is none."""
    if token.type == "ident":
        word: str = token.value
        if word.startswith("__literal") and word[9:].isdecimal():
            index = int(word[9:])
            return lambda frame: frame.literals[index]
        low = word.lower()
        if low == "transparent":
            return _clear
        if low == "currentcolor":
            return lambda frame: frame.current
        return (lambda frame, value=NAMES[low]: value) if low in NAMES else None  # type: ignore[misc]
    if token.type == "at-keyword":
        name: str = token.value
        return lambda frame: frame.names.get(name)
    if token.type == "function":
        return _function(token.lower_name, [t for t in token.arguments if t.type not in ("whitespace", "comment")])
    return None


def _function(name: str, arguments: list[Any]) -> _Expr | None:
    colours = [e for e in map(_expression, arguments) if e]
    numbers = [float(t.value) for t in arguments if t.type == "number"]
    if name in ("alpha", "shade", "lighter", "darker") and len(colours) == 1:
        factor = numbers[0] if numbers else (1.3 if name == "lighter" else 0.7)
        return _one(
            colours[0],
            (lambda c: c._replace(a=min(1.0, max(0.0, c.a * factor))))
            if name == "alpha"
            else (lambda c: shade(c, factor)),
        )
    if name == "mix" and len(colours) == 2 and numbers:
        first, second, part = colours[0], colours[1], numbers[0]

        def mixed(frame: _Frame) -> Rgba | None:
            a, b = first(frame), second(frame)
            return None if a is None or b is None else mix(a, b, part)

        return mixed
    return None


def _one(inner: _Expr, change: Callable[[Rgba], Rgba]) -> _Expr:
    def changed(frame: _Frame) -> Rgba | None:
        colour = inner(frame)
        return None if colour is None else change(colour)

    return changed


def mix(first: Rgba, second: Rgba, part: float) -> Rgba:
    """Return the toolkit's mix(): per channel, part 0 the first colour, 1 the second."""
    r, g, b = (round(x + (y - x) * part) for x, y in zip(first[:3], second[:3], strict=True))
    return Rgba(r, g, b, first.a + (second.a - first.a) * part)


def shade(colour: Rgba, factor: float) -> Rgba:
    """Return the toolkit's shade(): lightness and saturation of HLS scaled by the factor."""
    hue, light, sat = colorsys.rgb_to_hls(*colour.unit)
    return from_unit(*colorsys.hls_to_rgb(hue, min(1, light * factor), min(1, sat * factor)), colour.a)
