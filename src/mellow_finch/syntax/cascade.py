"""What a style sheet says about places in a tree of nodes, the rules cascaded as a toolkit cascades them.

The sheet is compiled once for its skeleton, that is its text with the colour literals taken out, so that reading the
same sheet in other colours costs little. Selectors are matched by cssselect2; states become classes for it. Both
libraries are imported when the first sheet is compiled, not on the way to the first paint.
"""

from __future__ import annotations

import re
from collections.abc import Callable, Collection, Iterable, Mapping, Sequence
from dataclasses import dataclass, field
from functools import lru_cache
from typing import Any, NamedTuple, TypeVar

from ..colour.blend import over
from ..colour.rgb import Rgba
from ..progress import give_way
from .css import scan_css
from .css_values import EDGES, Evaluation, Expr, expression_of, style_of
from .literals import read_literal
from .nodes import HEAD, LAYER, Node, matched, state_name
from .spans import Rescanner, replace_spans

T = TypeVar("T")


class PaintedNode(NamedTuple):
    """What is drawn at one place: fills from the outermost node inwards, the text, the edge, or None where unset.

    fills holds for every node on the way its candidates: one colour, or a gradient's stops over it;
    fill is the innermost node's plain colour, or its first stop, None when nothing is drawn.
    """

    fills: tuple[tuple[Rgba, ...], ...]
    text: Rgba | None
    edge: Rgba | None
    fill: Rgba | None


_STATES = re.compile(
    r":(hover|active|checked|selected|disabled|insensitive|backdrop|focus-visible|focus-within|focus|indeterminate|"
    r"inconsistent|prelight|link|visited|overview|outlined|drop\(active\)|drop|ltr|rtl|highlighted|"
    r"dir\(ltr\)|dir\(rtl\)|focused)"
)


def _state_class(found: re.Match[str]) -> str:
    return "." + state_name(found.group(1))


_NEXT = "__next-sheet"  # the selector of a rule between two sheets


@dataclass
class _Rules:
    """The compiled skeleton."""

    matcher: Any
    defines: list[tuple[str, Expr]]
    referring: list[tuple[str, Expr]]
    selectors: list[str] = field(default_factory=list)  # by the number of the rule that has it
    matched: dict[tuple[str, ...], list[list[Node]]] = field(default_factory=dict)
    last: tuple[tuple[str, ...], list[Rgba], dict[str, PaintedNode]] = ((), [], {})  # what was painted last


def paint(text: str, places: Sequence[str]) -> dict[str, PaintedNode]:
    """Return what the sheet says of each place.

    A place is a path of nodes from the outermost to the innermost, such as
    "window.background > box > button.text-button:hover"; every node is type, #id, .classes and :states.
    """
    return paint_all([text], places)


def paint_all(texts: Iterable[str], places: Sequence[str]) -> dict[str, PaintedNode]:
    """Return what several sheets say of each place; a later one is stronger however its selectors are."""
    literals: list[Rgba] = []
    skeletons: list[str] = []
    for first, text in ((not i, half) for whole in texts for i, half in enumerate(_halves(whole))):
        if first and skeletons:
            skeletons.append(f"{_NEXT}{{}}")
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


def paint_literals(text: str, literals: Sequence[Rgba], places: Sequence[str]) -> dict[str, PaintedNode]:
    """Return what a sheet would say with its literals, in the order of scan_css, exchanged for other colours."""
    return _painted(_compile(_skeleton(text)), literals, tuple(places))


@lru_cache(maxsize=8)
def _skeleton(text: str) -> str:
    return replace_spans(text, ((span, f"__literal{i}") for i, span in enumerate(scan_css(text))))


def _painted(rules: _Rules, literals: Sequence[Rgba], paths: tuple[str, ...]) -> dict[str, PaintedNode]:
    if rules.last[:2] == (paths, literals):  # a file that was mended is read back as it was judged last
        return rules.last[2]
    if paths not in rules.matched:
        rules.matched[paths] = matched(rules.matcher, paths)
    names = named(rules, literals)
    known: dict[int, Drawn] = {}
    found = {
        p: evaluated(nodes, literals, names, known, {}) for p, nodes in zip(paths, rules.matched[paths], strict=True)
    }
    rules.last = (paths, list(literals), found)
    return found


def named(
    rules: _Rules, literals: Sequence[Rgba], known: Mapping[str, Rgba] | None = None, again: Collection[str] = ()
) -> dict[str, Rgba]:
    """Return what every defined colour comes to; of those that are known, some alone are worked out again."""
    names = dict(known or {})
    frame = Evaluation(literals, names, Rgba(0, 0, 0))
    # Definitions that refer to others come around twice: they may refer to later ones.
    for name, expression in (*rules.defines, *rules.referring):
        if known is not None and name not in again:
            continue
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
    return named(_compile(skeleton), [span.colour for span in spans])


_scan = Rescanner(scan_css, read_literal)

_LAST_DEFINITION = "\n@define-color"


def _halves(text: str) -> tuple[str, ...]:
    """Part the definitions at the head of a sheet from its rules: the rules of a theme of ours never change."""
    start = text.rfind(_LAST_DEFINITION)
    end = text.find("\n", start + 1) + 1
    return (text[:end], text[end:]) if start >= 0 and end > 0 else (text,)


class Drawn(NamedTuple):
    """What the way down to one node has drawn so far."""

    fills: tuple[tuple[Rgba, ...], ...]
    current: Rgba | None
    edge: Rgba | None
    colour: Rgba | None
    opacity: float = 1.0
    strip: tuple[Rgba, ...] = ()  # what the node draws behind a title bar alone


_NOTHING = Drawn((), None, None, None)
_BLACK = Rgba(0, 0, 0)
_EDGES_AND_RING = (*EDGES, "ring")


def evaluated(
    nodes: list[Node],
    literals: Sequence[Rgba],
    names: dict[str, Rgba],
    known: dict[int, Drawn],
    pictures: Mapping[str, tuple[Rgba, ...]],
) -> PaintedNode:
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
    return PaintedNode(drawn.fills, text, drawn.edge, plain)


def _draw(
    above: Drawn,
    style: dict[str, Any],
    literals: Sequence[Rgba],
    names: dict[str, Rgba],
    pictures: Mapping[str, tuple[Rgba, ...]],
) -> Drawn:
    get = style.get  # asked for some hundred thousand times while a theme is mended
    current = above.current
    if "color" in style:
        current = style["color"](Evaluation(literals, names, current or _BLACK)) or current
    frame = Evaluation(literals, names, current or _BLACK)
    colour = style["background-color"](frame) if "background-color" in style else None
    stops = [s for s in (e(frame) for e in style["stops"]) if s is not None] if get("stops") else []
    if not stops and get("picture"):
        stops = list(pictures.get(style["picture"], ()))
    if stops and colour is not None:
        stops = [over(stop, colour) for stop in stops]
    fill = tuple(stops) if stops else ((colour,) if colour is not None else ())
    veil = style["veil"](frame) if get("veil") else None
    if veil is not None and veil.a > 0:
        fill = tuple(over(veil, c) for c in fill) if fill and all(c.a > 0 for c in fill) else (*fill, veil)[-1:]
        colour = fill[0]
    edge = None
    for name in _EDGES_AND_RING:
        if get(name):
            edge = style[name](frame)
            break
    if get("ring") and (edge is None or edge.a == 0 or not get("frame", True)):
        edge = style["ring"](frame)
    own = get("opacity", 1.0)
    opacity = above.opacity * own
    if own < 1:
        fill = tuple(c._replace(a=c.a * opacity) for c in fill)
    strip = tuple(s for s in (e(frame) for e in style["strip"]) if s is not None) if get("strip") else ()
    below = (*above.fills[:-1], above.strip) if above.strip and get(HEAD) else above.fills
    return Drawn((*below, fill), current, edge, colour, opacity, strip)


_STRING_OR_COMMENT = re.compile(
    r""""(?:[^"\\\n]|\\.)*"|'(?:[^'\\\n]|\\.)*'|url\(\s*(?=[^\s"'])(?:[^)\\]|\\.)*\)|(/\*).*?(?:\*/|\Z)""",
    re.DOTALL | re.IGNORECASE,
)


@lru_cache(maxsize=24)
def _compile(skeleton: str) -> _Rules:
    """Return the rules of a skeleton; those of skeletons that only differ in their comments are the same."""
    return _compiled_once(_STRING_OR_COMMENT.sub(lambda found: "/**/" if found.group(1) else found.group(), skeleton))


@lru_cache(maxsize=12)
def _compiled_once(skeleton: str) -> _Rules:
    return compiled(skeleton)


class _Parsed(NamedTuple):
    """A skeleton taken apart, from which rules are made as often as they are wanted."""

    defines: list[tuple[str, Expr]]
    referring: list[tuple[str, Expr]]
    rules: list[tuple[str, Sequence[Any], dict[str, Any]]]  # selector, what it compiles to, its style


_MOST_DIGITS = 30
_SPACED_FUNCTION = re.compile(
    r"\b(mix|shade|alpha|lighter|darker)[ \t\n]{1,20}\("
)  # the toolkit reads these as functions, too
_LONG_NUMBER = re.compile(rf"\d{{{_MOST_DIGITS + 1},}}")


def _worked_out(work: Callable[[Any], T], tokens: Any) -> T | None:
    """Return what comes of a declaration's tokens, None for what is nested too deeply to be looked into."""
    try:
        return work(tokens)
    except RecursionError:
        return None


@lru_cache(maxsize=6)
def _parsed(skeleton: str) -> _Parsed:
    import tinycss2

    out = _Parsed([], [], [])
    layer = 0
    skeleton = _LONG_NUMBER.sub(lambda found: found.group()[:_MOST_DIGITS], skeleton)
    skeleton = _SPACED_FUNCTION.sub(r"\1(", skeleton)
    give_way()
    for rule in tinycss2.parse_stylesheet(skeleton, skip_comments=True, skip_whitespace=True):
        give_way()
        if rule.type == "at-rule" and rule.lower_at_keyword == "define-color":
            tokens = [t for t in rule.prelude if t.type != "whitespace"]
            if len(tokens) >= 2 and tokens[0].type == "ident":
                expression = _worked_out(expression_of, tokens[1])
                if expression:
                    out.defines.append((tokens[0].value, expression))
                    if tokens[1].type != "ident":
                        out.referring.append(out.defines[-1])
        if rule.type == "qualified-rule":
            style = _worked_out(style_of, rule.content) or {}
            if not style and _worked_out(tinycss2.serialize, rule.prelude) == _NEXT:
                layer += 1
            if style and layer:
                style[LAYER] = layer
            if style:
                out.rules.extend((p, _selector_of(p), style) for p in _worked_out(alternatives, rule.prelude) or ())
    return out


def compiled(skeleton: str) -> _Rules:
    """Return the rules of a skeleton, which may be added to."""
    import cssselect2

    parsed = _parsed(skeleton)
    rules = _Rules(cssselect2.Matcher(), list(parsed.defines), list(parsed.referring))
    for selector, found, style in parsed.rules:
        _take(rules, selector, found, style)
    return rules


def alternatives(prelude: list[Any]) -> list[str]:
    """Return the selectors of a list, split at the commas outside of brackets."""
    import tinycss2

    rows: list[list[Any]] = [[]]
    for token in prelude:
        if token.type == "literal" and token.value == ",":
            rows.append([])
        elif token.type != "comment":
            rows[-1].append(token)
    return [tinycss2.serialize(row).strip() for row in rows]


@lru_cache(maxsize=20_000)  # dark and light sheets of a theme, and those of several versions, share most
def _selector_of(selector: str) -> tuple[Any, ...]:
    """Return what a selector compiles to, nothing for one that is not understood."""
    import cssselect2

    try:
        return tuple(cssselect2.compile_selector_list(_STATES.sub(_state_class, selector)))
    except (cssselect2.SelectorError, RecursionError):
        return ()


def _take(rules: _Rules, selector: str, found: Sequence[Any], style: dict[str, Any]) -> None:
    for one in found:
        rules.matcher.add_selector(one, (len(rules.selectors), style))
    if found:
        rules.selectors.append(selector)


def add_rule(rules: _Rules, selector: str, style: dict[str, Any]) -> list[tuple[Any, int]]:
    """Add a rule after all others; return what it compiles to, with its number."""
    found = _selector_of(selector)
    number = len(rules.selectors)
    _take(rules, selector, found, style)
    return [(one, number) for one in found]
