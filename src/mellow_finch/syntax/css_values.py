"""What the values of a style sheet come to: colours, references and functions as expressions over its literals."""

from __future__ import annotations

import colorsys
from collections.abc import Callable, Iterable, Iterator, Mapping, Sequence
from typing import Any, NamedTuple

from ..colour.rgb import Rgba, from_unit
from .literals import NAMES
from .numbers import number

CLEAR = Rgba(0, 0, 0, 0.0)


# Evaluating: an expression gets the literals and the named colours, and the text colour in force.
class Evaluation(NamedTuple):
    literals: Sequence[Rgba]
    names: dict[str, Rgba]
    current: Rgba
    pictures: Mapping[str, tuple[Rgba, ...]] = {}


Expr = Callable[[Evaluation], Rgba | None]

# The edge that is judged is the border's; where there is none, a line drawn inside by a shadow.
EDGES = ("border-color", "border-top-color", "border-bottom-color", "border-left-color", "border-right-color")


def style_of(content: list[Any]) -> dict[str, Any]:
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
            style[name] = inherited
        elif name in ("color", "background-color", "border-color", "background-gradient-start"):
            expression = next((e for e in map(expression_of, tokens) if e), None)
            if expression:
                style[name] = expression
        elif name == "-gtk-icon-source":
            style["icon"] = _icon(tokens)
        elif name in ("border-image", "border-image-source"):
            style["edge-picture"] = not any(t.type == "ident" and t.lower_value == "none" for t in tokens)
        elif name == "opacity" and tokens and tokens[0].type in ("number", "percentage"):
            style[name] = number(tokens[0].value) / (100 if tokens[0].type == "percentage" else 1)
        elif name == "box-shadow":
            style["veil"], style["ring"] = _inner_shadows(item.value)
        elif name == "background-gradient-end" and "background-gradient-start" in style:
            last = next((e for e in map(expression_of, tokens) if e), None)
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
            expression = next((e for e in map(expression_of, tokens) if e), None)
            if expression:
                side = name if name.endswith("-color") else name + "-color"
                style[side] = expression
    return style


def _icon(tokens: list[Any]) -> str:
    """Return the file's name of a picture that is drawn as it is, "built-in" for what takes colours, "" for none."""
    if any(t.type == "ident" and t.lower_value == "none" for t in tokens):
        return ""
    plain = [t for t in tokens if not (t.type == "function" and t.lower_name == "-gtk-recolor")]
    return next(_urls(plain), "").rpartition("/")[2] or "built-in"


def _background(style: dict[str, Any], name: str, tokens: list[Any]) -> None:
    stops: list[Expr] = []
    strip: list[Expr] = []
    for token in tokens:
        if token.type == "function" and ("gradient" in token.lower_name or token.lower_name == "image"):
            high, low = _stops(token)
            stops += low
            strip += high
    plain = next((e for e in (expression_of(t) for t in tokens) if e), None)
    style["picture"] = next(_urls(tokens), "").rpartition("/")[2]
    if stops or name == "background" or any(t.type == "ident" and t.lower_value == "none" for t in tokens):
        style["stops"], style["strip"] = stops, strip
    if name == "background":
        style["background-color"] = plain or _clear


def _stops(gradient: Any) -> tuple[list[Expr], list[Expr]]:
    """Return the colours of a strip at a gradient's start that is as high as a title bar, and the others.

    What stands in the box stands below such a strip, but for the title bar. Hairlines at the start have no words.
    """
    rows: list[tuple[Expr, list[float]]] = []
    for tokens in _at_commas(gradient.arguments):
        colour = next((e for e in map(expression_of, tokens) if e), None)
        if colour is not None:
            rows.append((colour, [t.value for t in tokens if t.type == "dimension" and t.lower_unit == "px"]))
    for i in range(len(rows) - 2, 0, -1):  # two stops at the same place: a hard edge
        at, after = rows[i - 1][1], rows[i][1]
        if at and after and at[-1] == after[0] and not _HAIR < after[0] < _TITLE_BAR:
            strip = [colour for colour, _ in rows[:i]] if after[0] >= _TITLE_BAR else []
            return strip, [colour for colour, _ in rows[i:]]
    return [], [colour for colour, _ in rows]


_HAIR, _TITLE_BAR = 3, 40  # pixels


def _inner_shadows(tokens: list[Any]) -> tuple[Expr | None, Expr | None]:
    """Return the colours of an inner shadow that fills its box, and of one that draws a line all around inside it."""
    veil: Expr | None = None
    ring: Expr | None = None
    for shadow in _at_commas(tokens):
        lengths = [t.value for t in shadow if t.type in ("dimension", "number")]
        if len(lengths) < 4 or not any(t.type == "ident" and t.lower_value == "inset" for t in shadow):
            continue
        colour = next((e for e in map(expression_of, shadow) if e), None)
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


def inherited(_frame: Evaluation) -> Rgba | None:
    """Say nothing, so that the colour from above stays, whatever weaker rules say."""
    return None


def _clear(_frame: Evaluation) -> Rgba | None:
    return CLEAR


def expression_of(token: Any) -> Expr | None:
    """Return how to work out a colour token, or None when it is none."""
    if token.type == "ident":
        word: str = token.value
        if word.startswith("__literal") and word[9:].isdecimal() and len(word) < 18:
            index = int(word[9:])
            return lambda frame: frame.literals[index] if index < len(frame.literals) else None
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


def _function(name: str, arguments: list[Any]) -> Expr | None:
    colours = [e for e in map(expression_of, arguments) if e]
    numbers = [number(t.value) for t in arguments if t.type == "number"]
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

        def mixed(frame: Evaluation) -> Rgba | None:
            a, b = first(frame), second(frame)
            return None if a is None or b is None else mix(a, b, part)

        return mixed
    return None


def _one(inner: Expr, change: Callable[[Rgba], Rgba]) -> Expr:
    def changed(frame: Evaluation) -> Rgba | None:
        colour = inner(frame)
        return None if colour is None else change(colour)

    return changed


def mix(first: Rgba, second: Rgba, part: float) -> Rgba:
    """Return the toolkit's mix(): per channel, part 0 the first colour, 1 the second."""
    (r, g, b), (r2, g2, b2) = first.unit, second.unit
    r, g, b = r + (r2 - r) * part, g + (g2 - g) * part, b + (b2 - b) * part
    return from_unit(r, g, b, min(1.0, max(0.0, first.a + (second.a - first.a) * part)))


def shade(colour: Rgba, factor: float) -> Rgba:
    """Return the toolkit's shade(): lightness and saturation of HLS scaled by the factor."""
    hue, light, sat = colorsys.rgb_to_hls(*colour.unit)
    return from_unit(*colorsys.hls_to_rgb(hue, min(1, light * factor), min(1, sat * factor)), colour.a)
