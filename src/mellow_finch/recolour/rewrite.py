"""Carrying the colours of texts to a look: through the map, as a person chose, nothing but the literals changed."""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass
from functools import lru_cache

import numpy as np

from ..colour.gamut import oklch_to_rgbas, rgba_to_oklch
from ..colour.rgb import Rgba
from ..syntax.notations import spell_as
from ..syntax.spans import ColourSpan, replace_spans
from .colour_map import ColourMap
from .groups import KEEP, Group, chosen_colour, group_spans, map_for

Scan = Callable[[str], list[ColourSpan]]
Sure = Callable[[str, Sequence[ColourSpan]], Sequence[str]]


@dataclass(frozen=True, eq=False)
class RecolourSubject:
    """A text that is to be recoloured, read once: its spans and its groups."""

    text: str
    spans: tuple[ColourSpan, ...]
    groups: tuple[Group, ...]

    @property
    def literals(self) -> int:
        """Return how many colour literals the text holds."""
        return len(self.spans)


@lru_cache(maxsize=16)
def subject_of(
    text: str, scan: Scan, splits: frozenset[str] = frozenset(), sure: Sure | None = None, apart: bool = False
) -> RecolourSubject:
    """Read a text with a scanner; sure says the role that each literal has for certain, empty where it has none.

    apart: whether its colours are distinguished by their hues.
    """
    spans = tuple(scan(text))
    return RecolourSubject(text, spans, group_spans(spans, sure(text, spans) if sure else (), splits, apart))


def new_colours(
    subject: RecolourSubject, colours: Mapping[str, Rgba], choices: Mapping[str, str] | None = None
) -> list[Rgba]:
    """Return the new colour of every span, alpha kept; choices may give a group, by key, another role or KEEP."""
    chart = map_for(subject.groups, subject.spans, colours, choices)
    return carried_spans(subject.spans, subject.groups, chart, colours, choices)


def carried_spans(
    spans: Sequence[ColourSpan],
    groups: Sequence[Group],
    chart: ColourMap,
    colours: Mapping[str, Rgba],
    choices: Mapping[str, str] | None = None,
) -> list[Rgba]:
    """Return the new colour of every span of a theme, alpha kept.

    chart: the theme's map. A group that a person gave a role becomes that role exactly, its other shades around it;
    one that is to be kept keeps every literal; a format's own keys become their roles.
    """
    out = [span.colour for span in spans]
    fresh = chart.carry_all(c for g in groups if not g.sure for c in g.shades)
    for group in groups:
        choice = (choices or {}).get(group.key, "")
        if choice == KEEP:
            continue
        own = _group_colours(group, fresh, chart, colours, choice)
        for i in group.spans:
            old = out[i]
            out[i] = own[old] if old.a >= 1 else own[old.opaque]._replace(a=old.a)
    return out


def _group_colours(
    group: Group, fresh: Mapping[Rgba, Rgba], chart: ColourMap, colours: Mapping[str, Rgba], choice: str
) -> Mapping[Rgba, Rgba]:
    target = chosen_colour(choice, colours)
    if target is not None:
        return around(group, target, chart)
    if group.sure:
        return dict.fromkeys(group.shades, colours[group.role])
    if group.use == "shadow":  # what is dark below a thing stays dark, whichever way the rest turns
        return {c: colours["shadow"] if rgba_to_oklch(c)[0] < 0.5 else fresh[c] for c in group.shades}
    return fresh


def around(group: Group, target: Rgba, chart: ColourMap) -> dict[Rgba, Rgba]:
    """Return the shades of a group around the colour that a person chose for its anchor.

    They keep the steps of lightness and hue, and the share of chroma, that the map gives them beside the anchor.
    """
    own = chart.carry_all(group.shades)
    l0, c0, h0 = rgba_to_oklch(own[group.anchor])
    lt, ct, ht = rgba_to_oklch(target)
    rows: list[tuple[float, float, float]] = []
    for shade in group.shades:
        light, chroma, hue = rgba_to_oklch(own[shade])
        share, turn = (chroma / c0, hue - h0) if c0 > 0.02 else (1.0, 0.0)
        rows.append((min(1.0, max(0.0, lt + light - l0)), ct * share, ht + turn))
    out = dict(zip(group.shades, oklch_to_rgbas(np.array(rows)), strict=True))
    return out | {group.anchor: target}


def rewrite(subject: RecolourSubject, colours: Sequence[Rgba]) -> str:
    """Return the text with each span spelled, in its own style, as the colour of the same index."""
    return respelled(subject.text, subject.spans, colours)


def respelled(text: str, spans: Sequence[ColourSpan], colours: Sequence[Rgba]) -> str:
    """Return a text with its spans spelled, each in its own style, as the colour of the same index."""
    rows = zip(spans, colours, strict=True)
    return replace_spans(
        text, ((span, spell_as(span.form, text[span.start : span.end], colour)) for span, colour in rows)
    )
