"""Where a colour can go before a pair becomes unreadable, and why not farther, in words."""

from __future__ import annotations

from collections.abc import Collection, Mapping
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from ..colour.contrast import FLARE, relative_luminance
from ..colour.gamut import oklch_to_srgb, rgba_to_oklch
from ..colour.rgb import Rgba
from ..colour.spaces import Array
from ..language import decimal, sentences, tr
from ..picture.backdrop import PLAIN, Backdrop
from .pairs import PAIRS, RolePair
from .roles import ROLE_BY_ID
from .veil import KIND_OF_ROLE, faces, opacity_of

UP_TO_WHITE, DOWN_TO_BLACK = tr("It can be lightened up to white."), tr("It can be darkened down to black.")
_SAMPLES = 401


@dataclass(frozen=True)
class Over:
    """What translucent surfaces are judged over: the opacity by kind, the picture, and whether it is blurred."""

    opacity: Mapping[str, float]
    backdrop: Backdrop = PLAIN
    blur: bool = False


OPAQUE = Over({})


@dataclass(frozen=True, eq=False)
class Limits:
    """How a role fares along a path of colours, everything else staying as it is.

    good: (n,) whether every pair of the role passes; worst: (n,) index in pairs of the one that has least to spare.
    """

    good: NDArray[np.bool_]
    worst: NDArray[np.intp]
    pairs: tuple[RolePair, ...]

    def reason(self, index: int) -> str:
        """Return in words what has insufficient contrast at a place of the path, empty where nothing does."""
        if not len(self.pairs) or self.good[index]:
            return ""
        pair = self.pairs[int(self.worst[index])]
        return tr("{text} on {surface} drops below {need:g} here").format(
            text=ROLE_BY_ID[pair.text].title, need=pair.need.level, surface=ROLE_BY_ID[pair.surface].title
        )


def limits(
    colours: Mapping[str, Rgba], role: str, lch: Array, pairs: tuple[RolePair, ...] = PAIRS, veil: Over = OPAQUE
) -> Limits:
    """Return how the pairs of a role fare if it took each of (n, 3) OKLCH colours, 8-bit as they would be written."""
    srgb = np.rint(oklch_to_srgb(lch) * 255) / 255
    own = tuple(p for p in pairs if role in (p.text, p.surface))
    if not own:
        return Limits(np.ones(len(lch), dtype=bool), np.zeros(len(lch), dtype=np.intp), ())
    plain = relative_luminance(srgb)[:, None]
    drawn = np.concatenate([plain, _composited(srgb, role, veil)], axis=1)
    scores = []
    for pair in own:
        if pair.text == role:
            others = faces(colours, pair.surface, veil.opacity, veil.backdrop, veil.blur)
            mine = plain
        else:
            others, mine = (colours[pair.text],), drawn
        theirs = relative_luminance(np.array([c.unit for c in others]))
        light = np.maximum(mine[:, :, None], theirs) + FLARE
        dark = np.minimum(mine[:, :, None], theirs) + FLARE
        scores.append((light / dark).min(axis=(1, 2)) / pair.need.level)
    table = np.stack(scores)
    return Limits(np.asarray(table.min(axis=0) >= 1), table.argmin(axis=0), own)


def _composited(srgb: Array, role: str, veil: Over) -> Array:
    """Return the (n, g) luminances of a surface over each extreme of what lies behind it, g = 0 when opaque."""
    kind = KIND_OF_ROLE.get(role)
    alpha = opacity_of(kind, veil.opacity)
    if kind is None or alpha >= 1:
        return np.zeros((len(srgb), 0))
    grounds = np.array([c.unit for c in veil.backdrop.at(kind.place, veil.blur)])
    mixed = np.rint((srgb[:, None, :] * alpha + grounds * (1 - alpha)) * 255) / 255
    return relative_luminance(mixed)


def stopped(values: Array, good: NDArray[np.bool_], start: float, target: float) -> float:
    """Return how far a value may go from start toward target before the path stops being good.

    values: (n,) rising places of the path. From a place that is no good already, it may go anywhere.
    """
    at, goal = (int(np.abs(values - v).argmin()) for v in (start, target))
    if not good[at] or good[min(at, goal) : max(at, goal) + 1].all():
        return target
    step = 1 if goal > at else -1
    while good[at + step]:
        at += step
    return float(values[at])


def lightness_limits(
    colours: Mapping[str, Rgba],
    role: str,
    locked: Collection[str] = (),
    pairs: tuple[RolePair, ...] = PAIRS,
    veil: Over = OPAQUE,
) -> tuple[str, str]:
    """Return one sentence each that says how light and how dark a role can be, and what stops it there."""
    own, chroma, hue = rgba_to_oklch(colours[role])
    levels = np.linspace(0, 1, _SAMPLES)
    levels[int(np.abs(levels - own).argmin())] = own
    lch = np.stack([levels, np.full(_SAMPLES, chroma), np.full(_SAMPLES, hue)], axis=-1)
    found = limits(colours, role, lch, pairs, veil)
    at = int(np.abs(levels - own).argmin())
    if not found.good[at]:
        pair = found.pairs[int(found.worst[at])]
        text, surface = ROLE_BY_ID[pair.text].title, ROLE_BY_ID[pair.surface].title
        words = tr(
            "The contrast is already insufficient: {text} on {surface} needs {need:g}. Move it the "
            "right way, or use “Fix”."
        ).format(text=text, need=pair.need.level, surface=surface)
        return words, words
    return _sentence(found, levels, at, 1, role, locked), _sentence(found, levels, at, -1, role, locked)


def _sentence(found: Limits, levels: Array, at: int, step: int, role: str, locked: Collection[str]) -> str:
    edge = at
    while 0 <= edge + step < len(levels) and found.good[edge + step]:
        edge += step
    if not 0 <= edge + step < len(levels):
        if step > 0:
            return UP_TO_WHITE
        return DOWN_TO_BLACK
    pair = found.pairs[int(found.worst[edge + step])]
    partner = pair.surface if pair.text == role else pair.text
    title = ROLE_BY_ID[partner].title
    if pair.text == role:
        words = (
            tr("It cannot be lighter than {level}: its contrast on {role} would drop below {need:g}.")
            if step > 0
            else tr("It cannot be darker than {level}: its contrast on {role} would drop below {need:g}.")
        )
    else:
        words = (
            tr("It cannot be lighter than {level}: the contrast of {role} on it would drop below {need:g}.")
            if step > 0
            else tr("It cannot be darker than {level}: the contrast of {role} on it would drop below {need:g}.")
        )
    said = words.format(level=decimal(levels[edge], 3), need=pair.need.level, role=title)
    rest = tr("“{role}” is locked.") if partner in locked else tr("Hold Ctrl to continue: “{role}” follows.")
    return sentences(said, rest.format(role=title))
