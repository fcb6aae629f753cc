"""The distinct colours of a theme, grouped by use and nearness, each group with the role it most likely has."""

from __future__ import annotations

import re
from collections import Counter
from collections.abc import Collection, Iterable, Mapping, Sequence
from dataclasses import dataclass

import numpy as np

from ..colour.difference import colour_difference
from ..colour.gamut import oklch_to_rgba, rgba_to_oklch
from ..colour.rgb import Rgba, parse_hex
from ..colour.spaces import srgb_to_oklch
from ..language import tr
from ..syntax.spans import ColourSpan
from .colour_map import Anchor, ColourMap, is_vivid, map_of
from .guess import VIVID, guess_role, state_of, use_of

_NEAR = 0.035  # lightness and chroma distance up to which greys of one use share a group
_HUE_APART = 24.0  # degrees up to which shades of one colour share a group
KEEP = "keep"  # what a person chooses for a group that is to stay as it is


@dataclass(frozen=True, slots=True)
class Group:
    """Shades of one colour that go together.

    key: names the group, the same each time the same text is read; anchor: the commonest shade; reason: why this
    role; sure: whether the format itself says the role; spans: indices into the scanned spans; shades: the distinct
    opaque colours, the commonest first.
    """

    key: str
    anchor: Rgba
    role: str
    reason: str
    use: str
    sure: bool
    spans: tuple[int, ...]
    shades: tuple[Rgba, ...]

    @property
    def places(self) -> int:
        """Return in how many places the group stands."""
        return len(self.spans)


@dataclass(slots=True)
class _Shade:
    """One colour in one use: where it stands, and what its places say of its role."""

    spans: list[int]
    roles: Counter[tuple[str, str]]


def group_spans(
    spans: Sequence[ColourSpan], sure: Sequence[str] = (), splits: Collection[str] = (), apart: bool = False
) -> tuple[Group, ...]:
    """Return the groups of a theme, the one with the most places first. Every span that draws anything is in one.

    sure: for every span the role that its format gives it, empty where it gives none; splits: keys of groups that are
    taken apart, by what their places are for and by shade; apart: whether colours are distinguished by their hues, as
    those of bars and widgets are, so that each keeps one. Fully transparent literals are in no group. Deterministic.
    """
    shades: dict[str, dict[Rgba, _Shade]] = {}
    exact: dict[str, list[int]] = {}
    lch = _oklch_of({span.colour.opaque for span in spans})
    for i, span in enumerate(spans):
        if span.colour.a <= 0:
            continue
        if sure and sure[i]:
            exact.setdefault(sure[i], []).append(i)
            continue
        colour = span.colour.opaque
        lightness, chroma, _ = lch[colour]
        guess = guess_role(span, chroma, lightness > 0.5)
        use: str = "colour" if chroma >= VIVID else use_of(span)
        rows = shades.setdefault(use, {})
        if colour not in rows:
            rows[colour] = _Shade([], Counter())
        rows[colour].spans.append(i)
        rows[colour].roles[guess] += 1
    groups = [_exact_group(role, indices, spans) for role, indices in exact.items()]
    for use, left in shades.items():
        order = sorted(left, key=lambda c: (-len(left[c].spans), -lch[c][1] if apart else 0.0, c))
        while order:
            anchor = order[0]
            members = [c for c in order if _together(lch[anchor], lch[c])]
            groups += _made(use, members, left, spans, splits)
            taken = set(members)
            order = [c for c in order if c not in taken]
    groups = _spread_hues(groups, spans, apart)
    return tuple(sorted(groups, key=lambda g: (-g.places, g.anchor, g.key)))


def _exact_group(role: str, indices: list[int], spans: Sequence[ColourSpan]) -> Group:
    counts = Counter(spans[i].colour.opaque for i in indices)
    shades = tuple(c for c, _ in counts.most_common())
    return Group(f"role:{role}", shades[0], role, tr("by its key"), "key", True, tuple(indices), shades)


def _made(
    use: str, members: list[Rgba], rows: Mapping[Rgba, _Shade], spans: Sequence[ColourSpan], splits: Collection[str]
) -> list[Group]:
    """Return one group of some shades, or its parts when it is split."""
    key = f"{use}:{members[0].hex}"
    if key not in splits:
        roles: Counter[tuple[str, str]] = Counter()
        for c in members:
            roles += rows[c].roles
        role, reason = _leading(roles)
        indices = sorted(i for c in members for i in rows[c].spans)
        return [Group(key, members[0], role, reason, use, False, tuple(indices), tuple(members))]
    parts: dict[tuple[str, Rgba], tuple[str, list[int]]] = {}
    for c in members:
        lightness, chroma, _ = rgba_to_oklch(c)
        for i in rows[c].spans:
            role, reason = guess_role(spans[i], chroma, lightness > 0.5)
            parts.setdefault((role, c), (reason, []))[1].append(i)
    return [
        Group(f"{key}/{role}:{c.hex}", c, role, reason, use, False, tuple(indices), (c,))
        for (role, c), (reason, indices) in parts.items()
    ]


def _leading(roles: Counter[tuple[str, str]]) -> tuple[str, str]:
    """Return the role with the most places, and the commonest reason for it."""
    totals: Counter[str] = Counter()
    for (role, _), count in roles.items():
        totals[role] += count
    role = max(totals, key=lambda r: (totals[r], r))
    return role, max((r for r in roles if r[0] == role), key=lambda r: (roles[r], r))[1]


def _oklch_of(colours: Iterable[Rgba]) -> dict[Rgba, tuple[float, float, float]]:
    """Return L, C and h of many colours, worked out at once."""
    rows = list(colours)
    if not rows:
        return {}
    found = srgb_to_oklch(np.array([c.unit for c in rows])).tolist()
    return {c: (light, chroma, hue) for c, (light, chroma, hue) in zip(rows, found, strict=True)}


def _together(anchor: tuple[float, float, float], other: tuple[float, float, float]) -> bool:
    l1, c1, h1 = anchor
    l2, c2, h2 = other
    if c1 >= VIVID and c2 >= VIVID:
        return abs((h1 - h2 + 180) % 360 - 180) <= _HUE_APART
    return abs(l1 - l2) <= _NEAR and abs(c1 - c2) <= _NEAR


# Hues, in degrees, by which a second or third colour of a theme keeps its meaning.
_MEANING = ((10.0, 42.0, "error"), (60.0, 112.0, "warning"), (125.0, 172.0, "success"))
# Where the hues of a terminal's six colours usually lie, and the numbers of these.
_SIX = ((25.0, 1), (145.0, 2), (95.0, 3), (260.0, 4), (325.0, 5), (195.0, 6))
_LEADS = re.compile(r"accent|primary|active|focus|highlight|selected", re.IGNORECASE)


def _spread_hues(groups: list[Group], spans: Sequence[ColourSpan], apart: bool) -> list[Group]:
    """Give the colours beside the theme's main one roles of their own: status by hue, else links.

    apart: those without a status take that of the terminal's colours whose hue is nearest, so that each keeps its own.
    """
    coloured = [g for g in groups if g.use == "colour" and g.role == "accent"]

    def leads(group: Group) -> tuple[bool, int, float]:
        named = any(_LEADS.search(f"{spans[i].where} {spans[i].key}") for i in group.spans)
        return apart and named, group.places, rgba_to_oklch(group.anchor)[1]

    lead = max(coloured, key=leads, default=None)
    out: list[Group] = []
    for group in groups:
        if group in coloured and group is not lead:
            hue = rgba_to_oklch(group.anchor)[2]
            role = next((name for low, high, name in _MEANING if low <= hue <= high and not apart), "link")
            if apart:
                role = f"ansi_{min(_SIX, key=lambda row: abs(_turned(row[0], hue)))[1]}"
            group = Group(group.key, group.anchor, role, tr("by its hue"), group.use, False, group.spans, group.shades)
        out.append(group)
    return out


def _turned(start: float, end: float) -> float:
    return (end - start + 180) % 360 - 180


def hues_apart(groups: Sequence[Group], colours: Mapping[str, Rgba]) -> dict[str, Rgba]:
    """Return what the colours that are distinguished by hue become, by their groups' keys.

    Each takes the colour of its role; where two would be too much alike, the later one keeps its own hue at the
    lightness and the chroma of its role.
    """
    out: dict[str, Rgba] = {}
    taken = [colours[g.role] for g in groups if g.role == "accent" and not g.sure and g.role in colours]
    for group in sorted((g for g in groups if g.role.startswith("ansi_") and not g.sure), key=lambda g: g.key):
        target = colours.get(group.role)
        if target is None:
            continue
        light, chroma, hue = rgba_to_oklch(target)
        own = rgba_to_oklch(group.anchor)[2]
        if abs(_turned(hue, own)) > _SAME_HUE or any(colour_difference(target, t) < _TOLD_APART for t in taken):
            target = oklch_to_rgba(light, max(chroma, _LEAST_CHROMA), own)
        taken.append(target)
        out[group.key] = target
    return out


_SAME_HUE = 30.0  # degrees that the terminal's colour may lie beside the one in whose place it stands
_TOLD_APART = 12.0  # CIEDE2000
_LEAST_CHROMA = 0.08


def states_of(group: Group, spans: Sequence[ColourSpan]) -> dict[Rgba, str]:
    """Return for each shade beside the anchor the state in which it mostly stands, empty when in none."""
    said: dict[Rgba, Counter[str]] = {shade: Counter() for shade in group.shades[1:]}
    for i in group.spans:
        counts = said.get(spans[i].colour.opaque)
        if counts is not None:
            counts[state_of(spans[i].where)] += 1
    return {shade: counts.most_common(1)[0][0] if counts else "" for shade, counts in said.items()}


# How much a group's role counts for the map, beside its places: what everything lies on leads.
_WEIGHT = {
    "window": 6.0,
    "window_text": 6.0,
    "view": 4.0,
    "view_text": 3.0,
    "accent": 6.0,
    "menu": 3.0,
    "menu_text": 3.0,
    "panel": 4.0,
    "panel_text": 4.0,
    "header": 2.0,
    "header_text": 2.0,
    "divider": 0.1,
    "outline": 0.1,
    "disabled_text": 0.1,
    "shadow": 0.0,
}


def chosen_colour(choice: str, colours: Mapping[str, Rgba]) -> Rgba | None:
    """Return the colour that a person's choice names: that of a role, or its own as #rrggbb; None for neither."""
    return parse_hex(choice) if is_free(choice) else colours.get(choice)


def is_free(choice: str) -> bool:
    """Tell whether a choice is a colour of its own."""
    return _FREE.fullmatch(choice) is not None


_FREE = re.compile(r"#[0-9a-f]{6}")


def is_light(groups: Sequence[Group], spans: Sequence[ColourSpan]) -> bool:
    """Tell whether a theme is a light one: its surfaces against its texts, weighed by their places."""
    sums = {"surface": [0.0, 0.0], "text": [0.0, 0.0]}
    for group in groups:
        role_use = "text" if group.role.endswith(("_text", "_ink")) else "surface" if group.use != "line" else ""
        use = role_use if group.sure else group.use
        if use in sums and group.role not in ("shadow", "divider", "disabled_text"):
            solid = sum(spans[i].colour.a >= 0.4 for i in group.spans)
            weight = solid * _WEIGHT.get(group.role, 1.0)
            sums[use][0] += rgba_to_oklch(group.anchor)[0] * weight
            sums[use][1] += weight
    (surface, n), (text, m) = sums["surface"], sums["text"]
    if n and m:
        return surface / n > text / m
    return surface / n > 0.5 if n else text / m < 0.5 if m else False


def anchors_of(
    groups: Sequence[Group], colours: Mapping[str, Rgba], choices: Mapping[str, str] | None = None, least: float = 0.0
) -> list[Anchor]:
    """Return what the groups ask of the map: their commonest shade becomes their role's colour, or keeps its own hue.

    least: groups of less weight follow the others, greys that is.
    """
    out: list[Anchor] = []
    apart = hues_apart(groups, colours)
    for group in groups:
        if (choices or {}).get(group.key) or group.sure or group.use == "shadow":
            continue
        weight = group.places * _WEIGHT.get(group.role, 1.0)
        if group.role in colours and weight > 0 and (weight >= least or is_vivid(group.anchor)):
            out.append(Anchor(group.anchor, apart.get(group.key, colours[group.role]), weight))
    return out


def map_for(
    groups: Sequence[Group],
    spans: Sequence[ColourSpan],
    colours: Mapping[str, Rgba],
    choices: Mapping[str, str] | None = None,
    leading: Sequence[Anchor] = (),
    light: bool | None = None,
) -> ColourMap:
    """Return the map of a theme to a look.

    leading: anchors that are known better than by guessing, which go first; light: whether the theme is a light one,
    None to tell by its groups.
    """
    light = is_light(groups, spans) if light is None else light
    into_light = rgba_to_oklch(colours["window"])[0] > 0.5
    # A few lines do not bend the greys of a theme whose windows and words are known.
    least = 1.0 if leading else 0.0
    return map_of([*leading, *anchors_of(groups, colours, choices, least)], reverses=light != into_light)
