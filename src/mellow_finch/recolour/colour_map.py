"""The one function that carries a theme's colours to a look's: texts, drawings, pictures and pointers go through it.

It works in OKLab. Neutral colours follow one monotone curve of lightness, which falls where dark becomes light;
coloured ones keep their order of lightness within a hue, take the turn of hue and the share of chroma of the nearest
anchors, and keep their own far from any. The map passes exactly through its anchors.
"""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import dataclass, field
from functools import cached_property, lru_cache
from typing import Any

import numpy as np
from numpy.typing import NDArray

from ..colour.gamut import oklch_to_srgb, rgba_to_oklch
from ..colour.rgb import Rgba
from ..colour.spaces import Array, oklab_to_oklch, srgb_to_oklab
from ..progress import give_way

_GREY = 0.035  # OKLCH chroma up to which an anchor lies on the neutral curve
_HUE_NEAR = 24.0  # degrees within which an anchor's turn of hue holds in full
_HUE_FAR = 75.0  # degrees beyond which it is not felt
_STEEP = (0.3, 3.2)  # the slopes between neighbouring anchors of the neutral curve
_STRIP = 1_000_000  # pixels of a picture that are carried over at once
_ALL, _COUNTED = 1 << 24, 200_000  # colours of eight bits a channel; pixels from which counting beats sorting
_CLOSE = 0.05  # OKLab distance within which an anchor that does not fit the curves pulls


@dataclass(frozen=True, slots=True)
class Anchor:
    """A colour of the theme and what it becomes exactly.

    Of anchors that contradict each other the heavier leads. firm: holds although it breaks the order of neutrals, as
    what a person chose does.
    """

    source: Rgba
    target: Rgba
    weight: float = 1.0
    firm: bool = False


@dataclass(frozen=True)
class _Family:
    """Coloured anchors of one hue: a rising curve of lightness, a turn and a share of chroma."""

    hue: float
    turn: float
    chroma: float
    lightness: tuple[tuple[float, ...], tuple[float, ...]]  # before and after, rising


@dataclass(frozen=True, eq=False)
class ColourMap:
    """A map from colours to colours.

    anchors: heaviest first; reverses: whether light neutrals become dark ones; labs: the sources and targets of the
    anchors in OKLab, where they are known already.
    """

    anchors: tuple[Anchor, ...]
    reverses: bool = False
    labs: tuple[Array, Array] | None = field(default=None, repr=False)

    def carry(self, srgb: Array) -> Array:
        """Return the new colours of (..., 3) sRGB floats in 0..1, as floats in 0..1."""
        shape = np.shape(srgb)
        flat = np.asarray(srgb, dtype=np.float64).reshape(-1, 3)
        if not self.anchors or self._is_identity:
            return flat.reshape(shape).copy()
        lab = srgb_to_oklab(flat)
        sources, _ = self._labs
        # The anchors' own ways go through with the rest: what the curves do not give them is made up for.
        fresh = oklch_to_srgb(self._smooth(np.concatenate([lab, sources])))
        return self._pulled(lab, fresh[: len(flat)], fresh[len(flat) :], flat).reshape(shape)

    def carry_all(self, colours: Iterable[Rgba]) -> dict[Rgba, Rgba]:
        """Return {colour: new colour}; alpha is kept."""
        rows = list(dict.fromkeys(colours))
        if not rows:
            return {}
        give_way()
        fresh = np.rint(self.carry(np.array([c.unit for c in rows])) * 255).astype(int).tolist()
        return {c: Rgba(r, g, b, c.a) for c, (r, g, b) in zip(rows, fresh, strict=True)}

    def carry_pixels(self, rgb: NDArray[np.uint8]) -> NDArray[np.uint8]:
        """Return (n, 3) 8-bit pixels carried over as 8-bit values; equal pixels are worked out once."""
        if len(rgb) > _STRIP:
            strips = [self.carry_pixels(rgb[i : i + _STRIP]) for i in range(0, len(rgb), _STRIP)]
            return np.concatenate(strips)
        distinct, where = _distinct(packed(rgb))
        known, fresh = self._learned
        at = np.minimum(np.searchsorted(known, distinct), max(0, len(known) - 1))
        if len(known) and np.array_equal(known[at], distinct):
            return np.asarray(fresh[at][where])
        return self._carry_distinct(distinct)[where]

    def learn(self, rgb: NDArray[np.uint8]) -> None:
        """Work out at once what becomes of the (n, 3) pixels of many pictures, for when each of them is carried."""
        distinct = np.unique(packed(rgb))
        self.__dict__["_learned"] = distinct, self._carry_distinct(distinct)

    @cached_property
    def _learned(self) -> tuple[NDArray[np.uint32], NDArray[np.uint8]]:
        """Return packed colours that were worked out before, rising, and what becomes of each."""
        return np.empty(0, dtype=np.uint32), np.empty((0, 3), dtype=np.uint8)

    def _carry_distinct(self, distinct: NDArray[np.uint32]) -> NDArray[np.uint8]:
        return np.rint(self.carry(unpacked(distinct) / 255) * 255).astype(np.uint8)

    @cached_property
    def _is_identity(self) -> bool:
        return not self.reverses and all(a.source[:3] == a.target[:3] for a in self.anchors)

    # The smooth part

    def _smooth(self, lab: Array) -> Array:
        """Return OKLCH, which may lie outside of sRGB."""
        lch = oklab_to_oklch(lab)
        light, chroma, hue = lch.T
        vivid = vividness(light, chroma)
        grey_light = self._curve(light)
        tint = self._tint(grey_light)
        near, turn, share, raised = self._coloured(light, hue)
        angle = np.radians(hue + turn)
        # A tint turns with the colour that it is a tint of; a grey has no hue to turn.
        tinted = np.clip((chroma - 0.012) / 0.03, 0, 1)[:, None]
        turned = np.stack([chroma * np.cos(angle), chroma * np.sin(angle)], axis=-1)
        fresh = np.column_stack([grey_light, lab[:, 1:] + tinted * (turned - lab[:, 1:]) + tint * (1 - tinted)])
        if np.any(vivid > 0):
            size = chroma * share
            colour_light = light + near * (raised - light)
            coloured = np.stack([colour_light, size * np.cos(angle), size * np.sin(angle)], axis=-1)
            fresh = fresh + vivid[:, None] * (coloured - fresh)
        return oklab_to_oklch(fresh)

    @cached_property
    def _labs(self) -> tuple[Array, Array]:
        if self.labs is not None:
            return self.labs
        both = np.array([[a.source.unit, a.target.unit] for a in self.anchors])
        labs = srgb_to_oklab(both)
        return labs[:, 0], labs[:, 1]

    @cached_property
    def _neutral_knots(self) -> tuple[Array, Array]:
        """Return the lightness of the neutral curve's knots before and after, ends included, rising before."""
        sources, targets = self._labs
        sign = -1.0 if self.reverses else 1.0
        chosen = [
            (float(source[0]), float(target[0]))
            for anchor, source, target in zip(self.anchors, sources, targets, strict=True)
            if not anchor.firm and not is_vivid(anchor.source)
        ]
        if not chosen:
            chosen = [(0.0, 1.0), (1.0, 0.0)] if self.reverses else [(0.0, 0.0), (1.0, 1.0)]
        chosen.sort()
        (x0, y0), (x1, y1) = chosen[0], chosen[-1]
        # Beyond the outermost anchors the curve goes on gently, and never past black or white.
        low = y0 - sign * x0 * 0.9
        high = y1 + sign * (1 - x1) * 0.9
        low = min(1.0, low) if self.reverses else max(0.0, low)
        high = max(0.0, high) if self.reverses else min(1.0, high)
        if not self.reverses and x0 == y0:
            low = 0.0
        if not self.reverses and x1 == y1:
            high = 1.0
        if x0 > 1e-6:
            chosen.insert(0, (0.0, low if abs(low - y0) > 1e-6 else y0 + sign * -1e-4))
        if x1 < 1 - 1e-6:
            chosen.append((1.0, high if abs(high - y1) > 1e-6 else y1 + sign * 1e-4))
        rows = np.array(chosen)
        return rows[:, 0], rows[:, 1]

    def _curve(self, light: Array) -> Array:
        return np.asarray(np.clip(np.interp(light, *self._neutral_knots), 0, 1))

    @cached_property
    def _tints(self) -> Array:
        """Return rows (new lightness, a, b): how much more tint the look's neutrals have than the theme's."""
        sources, targets = self._labs
        grey = np.hypot(sources[:, 1], sources[:, 2]) <= _GREY
        rows = np.column_stack([targets[grey, 0], (targets - sources)[grey, 1:]])
        if not len(rows):
            return np.array([[0.0, 0.0, 0.0], [1.0, 0.0, 0.0]])
        _, first = np.unique(rows[:, 0], return_index=True)
        return np.asarray(rows[first])

    def _tint(self, light: Array) -> Array:
        rows = self._tints
        a, b = (np.interp(light, rows[:, 0], rows[:, i]) for i in (1, 2))
        # Black and white themselves take no tint.
        fade = np.clip(np.minimum(light, 1 - light) / 0.04, 0, 1) if not self._is_identity else 1.0
        return np.stack([a * fade, b * fade], axis=-1)

    @cached_property
    def _families(self) -> tuple[_Family, ...]:
        sources, targets = (oklab_to_oklch(v) for v in self._labs)
        rows: list[tuple[float, list[int]]] = []
        for i, (_, _, hue) in enumerate(sources.tolist()):
            if not is_vivid(self.anchors[i].source):
                continue
            home = next((members for h, members in rows if abs(_turn(h, hue)) < 14), None)
            if home is None:
                rows.append((hue, [i]))
            else:
                home.append(i)
        out: list[_Family] = []
        for hue, members in rows:
            lead = members[0]
            turn = _turn(hue, float(targets[lead, 2])) if targets[lead, 1] > 0.01 else 0.0
            knots: list[tuple[float, float]] = []
            for i in members:
                x, y = float(sources[i, 0]), float(targets[i, 0])
                if all((y - b) * (x - a) > 1e-6 for a, b in knots):
                    knots.append((x, y))
            share = float(targets[lead, 1] / max(1e-6, sources[lead, 1]))
            xs, ys = zip((0.0, 0.0), *sorted(knots), (1.0, 1.0), strict=True)
            out.append(_Family(hue, turn, share, (xs, ys)))
        return tuple(out)

    def _coloured(self, light: Array, hue: Array) -> tuple[Array, Array, Array, Array]:
        """Return how near any family is (0..1), and the turn, share of chroma and lightness that they give."""
        if not self._families:
            zero = np.zeros_like(light)
            return zero, zero, zero + 1, light
        rows = np.array([(f.hue, f.turn, f.chroma) for f in self._families])
        away = np.abs((hue - rows[:, :1] + 180) % 360 - 180)
        reach = np.minimum(np.maximum((_HUE_FAR - away) / (_HUE_FAR - _HUE_NEAR), 0), 1)
        reach *= reach * (3 - 2 * reach)
        weights = reach / (1 + (away / 8) ** 2)
        total = weights.sum(axis=0)
        norm = np.where(total > 1e-12, total, 1.0)
        lights = np.array([np.interp(light, x, y) for x, y in (f.lightness for f in self._families)])
        near = reach.max(axis=0)
        turn, share = ((weights * rows[:, i : i + 1]).sum(axis=0) / norm for i in (1, 2))
        raised = np.where(total > 1e-12, (weights * lights).sum(axis=0) / norm, light)
        return near, near * turn, 1 + near * (share - 1), raised

    # What the curves do not reach

    def _pulled(self, lab: Array, fresh: Array, own: Array, flat: Array) -> Array:
        """Return the fresh colours drawn to anchors close by, so that the map is exact at each of them."""
        sources, _ = self._labs
        wanted = np.array([a.target.unit for a in self.anchors])
        off = wanted - own
        needed = np.abs(off).max(axis=1) > 1e-9
        if not needed.any():
            return fresh
        away = np.linalg.norm(lab[:, None, :] - sources[None, :, :], axis=-1)
        pull = np.clip(1 - away / _CLOSE, 0, None)
        weight = (pull / np.maximum(away, 1e-9)) ** 2
        total = weight.sum(axis=1, keepdims=True)
        strength = pull.max(axis=1, keepdims=True)
        shift = np.where(total > 0, strength * (weight @ off) / np.maximum(total, 1e-30), 0.0)
        out = np.clip(fresh + shift, 0, 1)
        # Where several anchors have one source, the first of them holds.
        seen: dict[tuple[int, int, int], int] = {}
        for i, anchor in enumerate(self.anchors):
            seen.setdefault(anchor.source[:3], i)
        for source, i in seen.items():
            exact = (np.abs(flat * 255 - np.array(source)) < 1e-6).all(axis=1)
            out[exact] = wanted[i]
        return np.asarray(out)


def packed(rgb: NDArray[Any]) -> NDArray[np.uint32]:
    """Return the (n, 3) channels of 8-bit colours as (n,) numbers of 24 bits."""
    r, g, b = rgb.T.astype(np.uint32)
    return np.asarray(r << 16 | g << 8 | b, dtype=np.uint32)


def _distinct(codes: NDArray[np.uint32]) -> tuple[NDArray[np.uint32], NDArray[np.intp]]:
    """Return the distinct ones of (n,) packed colours, rising, and the (n,) place of each among them.

    Many are not sorted but counted in a table of all there are, of which only touched pages cost anything.
    """
    if len(codes) < _COUNTED:
        distinct, where = np.unique(codes, return_inverse=True)
        return distinct, where.ravel()
    there = np.zeros(_ALL, dtype=bool)
    there[codes] = True
    distinct = np.flatnonzero(there).astype(np.uint32)
    table = np.empty(_ALL, dtype=np.int32)
    table[distinct] = np.arange(len(distinct), dtype=np.int32)
    return distinct, table[codes].astype(np.intp)


def unpacked(colours: NDArray[np.uint32]) -> NDArray[np.uint8]:
    """Return the (n, 3) channels of (n,) numbers of 24 bits."""
    return np.stack([colours >> 16 & 255, colours >> 8 & 255, colours & 255], axis=-1).astype(np.uint8)


def _turn(start: float, end: float) -> float:
    return (end - start + 180) % 360 - 180


def vividness(light: Array, chroma: Array) -> Array:
    """Return 0..1 for OKLCH lightness and chroma: 0 where a colour passes for a grey, if a tinted one, 1 for a colour.

    Pale and very dark tints count as greys up to more chroma: they are surfaces, and turn round with them.
    """
    edge = np.clip(np.maximum(light - 0.80, 0.34 - light) / 0.14, 0, 1)
    low, high = 0.035 + 0.03 * edge, 0.065 + 0.065 * edge
    t = np.clip((chroma - low) / (high - low), 0, 1)
    return np.asarray(t * t * (3 - 2 * t))


@lru_cache(maxsize=65536)
def is_vivid(colour: Rgba) -> bool:
    """Tell whether a colour counts as a colour rather than as a grey."""
    light, chroma, _ = rgba_to_oklch(colour.opaque)
    return bool(vividness(np.array([light]), np.array([chroma]))[0] > 0.5)


def vivid_among(colours: Sequence[Rgba]) -> list[bool]:
    """Tell of many colours which count as colours, worked out at once."""
    if not colours:
        return []
    lch = oklab_to_oklch(srgb_to_oklab(np.array([c.unit for c in colours])))
    return [bool(v > 0.5) for v in vividness(lch[:, 0], lch[:, 1])]


def map_of(anchors: Sequence[Anchor], reverses: bool = False) -> ColourMap:
    """Return the map through anchors, the heaviest first.

    Of equal sources only the first counts. A neutral anchor that would break the order of lightness, or press
    neighbours together, is left out unless it is firm: its colour follows the curve then.
    """
    rows = sorted(anchors, key=lambda a: (not a.firm, -a.weight))
    if not rows:
        return ColourMap((), reverses)
    labs = srgb_to_oklab(np.array([[a.source.unit, a.target.unit] for a in rows]))
    kept: list[int] = []
    knots: list[tuple[float, float]] = []
    seen: set[tuple[int, int, int]] = set()
    sign = -1.0 if reverses else 1.0
    for i, (anchor, (l0, l1)) in enumerate(zip(rows, labs[:, :, 0].tolist(), strict=True)):
        if anchor.source[:3] in seen:
            continue
        if not anchor.firm and not is_vivid(anchor.source):
            if any(abs(l0 - x) < 0.012 or not _STEEP[0] <= sign * (l1 - y) / (l0 - x) <= _STEEP[1] for x, y in knots):
                continue
            knots.append((l0, l1))
        seen.add(anchor.source[:3])
        kept.append(i)
    return ColourMap(tuple(rows[i] for i in kept), reverses, (labs[kept, 0], labs[kept, 1]))
