"""The distinct colours of a text, grouped by use and nearness, each group with the role it most likely has."""

from __future__ import annotations

from collections import Counter
from collections.abc import Sequence
from dataclasses import dataclass

from ..colour.gamut import rgba_to_oklch
from ..colour.rgb import Rgba
from ..syntax.spans import ColourSpan
from .guess import VIVID, guess_role, use_of

_NEAR = 0.035  # lightness and chroma distance up to which greys of one role share a group
_HUE_APART = 24.0  # degrees up to which shades of one colour share a group


@dataclass(frozen=True, slots=True)
class Group:
    """Shades of one colour that go together.

    anchor: the commonest of them, which becomes exactly the role's colour; spans: indices into the scanned spans;
    shades: the distinct opaque colours; reason: why this role.
    """

    anchor: Rgba
    role: str
    reason: str
    use: str
    spans: tuple[int, ...]
    shades: tuple[Rgba, ...]

    @property
    def places(self) -> int:
        """Return in how many places the group stands."""
        return len(self.spans)


def group_spans(spans: Sequence[ColourSpan]) -> tuple[Group, ...]:
    """Return the groups of a text, the one with the most places first. Every opaque or translucent span is in one.

    Fully transparent literals are in none: they draw nothing. Deterministic.
    """
    rows: dict[tuple[str, str], Counter[Rgba]] = {}
    members: dict[tuple[str, str, Rgba], list[int]] = {}
    reasons: dict[tuple[str, str], Counter[str]] = {}
    for i, span in enumerate(spans):
        if span.colour.a <= 0:
            continue
        colour = span.colour.opaque
        lightness, chroma, _ = rgba_to_oklch(colour)
        guess = guess_role(span, chroma, lightness > 0.5)
        use: str = "colour" if chroma >= VIVID else use_of(span)
        rows.setdefault((guess.role, use), Counter())[colour] += 1
        members.setdefault((guess.role, use, colour), []).append(i)
        reasons.setdefault((guess.role, use), Counter())[guess.reason] += 1
    groups: list[Group] = []
    for (role, use), counts in rows.items():
        left = Counter(counts)
        while left:
            anchor = max(left, key=lambda c: (left[c], c))
            shades = tuple(sorted(c for c in left if _together(anchor, c)))
            indices = sorted(i for c in shades for i in members[role, use, c])
            reason = reasons[role, use].most_common(1)[0][0]
            groups.append(Group(anchor, role, reason, use, tuple(indices), shades))
            for c in shades:
                del left[c]
    groups.sort(key=lambda g: (-g.places, g.anchor))
    return tuple(_spread_hues(groups))


def _together(anchor: Rgba, other: Rgba) -> bool:
    l1, c1, h1 = rgba_to_oklch(anchor)
    l2, c2, h2 = rgba_to_oklch(other)
    if c1 >= VIVID and c2 >= VIVID:
        return abs((h1 - h2 + 180) % 360 - 180) <= _HUE_APART
    return abs(l1 - l2) <= _NEAR and abs(c1 - c2) <= _NEAR


# Hues, in degrees, by which a second or third colour of a theme keeps its meaning.
_MEANING = ((10.0, 42.0, "error"), (60.0, 112.0, "warning"), (125.0, 172.0, "success"))


def _spread_hues(groups: list[Group]) -> list[Group]:
    """Give the colours beside the theme's main one roles of their own: status by hue, else links."""
    out: list[Group] = []
    lead = next((g for g in groups if g.role == "accent"), None)
    for group in groups:
        if group.role == "accent" and group is not lead:
            hue = rgba_to_oklch(group.anchor)[2]
            role = next((name for low, high, name in _MEANING if low <= hue <= high), "link")
            group = Group(group.anchor, role, "its hue says so", group.use, group.spans, group.shades)
        out.append(group)
    return out
