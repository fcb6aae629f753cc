"""Carrying a text's colours to a look: groups to roles, shades kept relative, nothing but the literals changed."""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass
from functools import lru_cache

import numpy as np

from ..colour.gamut import oklch_to_rgbas, rgba_to_oklch
from ..colour.rgb import Rgba
from ..syntax.literals import respell
from ..syntax.spans import ColourSpan, replace_spans
from .groups import Group, group_spans
from .guess import VIVID

Scan = Callable[[str], list[ColourSpan]]


@dataclass(frozen=True, eq=False)
class Subject:
    """A text that is to be recoloured, read once: its spans and its groups."""

    text: str
    spans: tuple[ColourSpan, ...]
    groups: tuple[Group, ...]

    @property
    def literals(self) -> int:
        """Return how many colour literals the text holds."""
        return len(self.spans)


@lru_cache(maxsize=16)
def subject_of(text: str, scan: Scan) -> Subject:
    """Read a text with a scanner."""
    spans = tuple(scan(text))
    return Subject(text, spans, group_spans(spans))


def carried(shade: Rgba, anchor: Rgba, target: Rgba) -> Rgba:
    """Return a shade of a group carried to the group's new colour.

    The anchor becomes the target exactly. Other shades keep their distance in OKLCH lightness and their share of
    chroma; where the group goes from dark to light or back, lighter becomes darker.
    """
    return target if shade == anchor else oklch_to_rgbas(np.array([_carried(shade, anchor, target)]))[0]


def _carried(shade: Rgba, anchor: Rgba, target: Rgba) -> tuple[float, float, float]:
    l0, c0, h0 = rgba_to_oklch(anchor)
    l1, c1, h1 = rgba_to_oklch(shade)
    lt, ct, ht = rgba_to_oklch(target)
    flips = (l0 < 0.5) != (lt < 0.5) and c0 < VIVID
    step = -(l1 - l0) if flips else l1 - l0
    turn = (h1 - h0 + 180) % 360 - 180 if min(c0, c1) > 0.02 else 0.0
    return min(1.0, max(0.0, lt + step)), ct * c1 / c0 if c0 > 0.02 else ct, ht + turn


def new_colours(subject: Subject, colours: Mapping[str, Rgba], roles: Mapping[int, str] | None = None) -> list[Rgba]:
    """Return the new colour of every span, alpha kept; roles may give a group (by index) another role, "" for none."""
    wanted = [(g, (roles or {}).get(i, g.role)) for i, g in enumerate(subject.groups)]
    moves = [(g, shade, colours[role]) for g, role in wanted if role for shade in g.shades if shade != g.anchor]
    carried_all = oklch_to_rgbas(np.array([_carried(shade, g.anchor, target) for g, shade, target in moves]))
    fresh = {(id(g), shade): colour for (g, shade, _), colour in zip(moves, carried_all, strict=True)}
    out = [span.colour for span in subject.spans]
    for group, role in wanted:
        if not role:
            continue
        fresh[id(group), group.anchor] = colours[role]
        for i in group.spans:
            old = out[i]
            if old.a >= 1:
                out[i] = fresh[id(group), old]
            else:
                r, g, b, _ = fresh[id(group), old.opaque]
                out[i] = Rgba(r, g, b, old.a)
    return out


def rewrite(subject: Subject, colours: Sequence[Rgba]) -> str:
    """Return the text with each span spelled, in its own style, as the colour of the same index."""
    rows = zip(subject.spans, colours, strict=True)
    return replace_spans(
        subject.text, ((span, respell(subject.text[span.start : span.end], colour)) for span, colour in rows)
    )
