"""A picture of the real screen in a look's colours: flat surfaces that the files name, and the words on them."""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterable
from typing import NamedTuple

import numpy as np
from numpy.typing import NDArray

from ..colour.rgb import Rgba
from .colour_map import packed, unpacked

Pixels = NDArray[np.uint8]
_ALIKE = 2  # of 255, how far a channel may lie from the colour that a file names
_AROUND = 13  # pixels of the window that is looked at
_SHARE = 0.35  # of it that has to be of one ground, for what else is in it to stand on that
_ITS_OWN = 0.5  # share from which a pixel of a ground is ground itself, and no word on another
_LEAST = 0.0004  # share of the screen from which a ground counts
_OFF = 48.0  # how far a colour may lie beside the way from a ground to a word on it
_MOST_AT_ONCE = 20_000


class SurfaceChange(NamedTuple):
    """A surface and the words on it, as they are and as they become; words are None where only the surface is known."""

    old: Rgba
    new: Rgba
    old_text: Rgba | None = None
    new_text: Rgba | None = None


def recoloured_screen(pixels: Pixels, changes: Iterable[SurfaceChange]) -> tuple[Pixels, float]:
    """Return a picture of the screen with its surfaces and words in new colours, and the share of it that changed.

    Pictures on it stay as they are: a pixel counts for a surface where most of what is around it is of one. What lies
    between a surface and a word on it, as the edges of letters do, lies between the new ones. Of several things that
    one colour becomes, the commonest counts.

    Args:
        pixels: (height, width, 3), 8-bit sRGB.
    """
    rows = list(changes)
    becomes = _commonest((c.old, c.new) for c in rows)
    out = pixels.copy()
    if not becomes:
        return out, 0.0
    named = np.array([c[:3] for c in becomes], dtype=np.int16)
    distinct, where = np.unique(packed(pixels.reshape(-1, 3)), return_inverse=True)
    at = _nearest(unpacked(distinct).astype(np.int16), named)[where].reshape(pixels.shape[:2])
    present = [i for i in range(len(named)) if (at == i).mean() >= _LEAST]
    local, most = np.full(at.shape, -1), np.full(at.shape, _SHARE)
    for i in present:
        share = _share_around(at == i)
        wins = np.where(at == i, share >= np.minimum(most, _ITS_OWN), share > most)
        local[wins], most[wins] = i, np.where((at == i) & (share >= _ITS_OWN), 1.0, share)[wins]
    olds = list(becomes)
    for i in present:
        here = local == i
        if here.any():
            texts = _commonest((c.old_text, c.new_text) for c in rows if c.old == olds[i])
            out[here] = _on_ground(pixels[here], olds[i], becomes[olds[i]], texts)
    return out, float((local >= 0).mean())


def _commonest(rows: Iterable[tuple[Rgba | None, Rgba | None]]) -> dict[Rgba, Rgba]:
    counts: dict[Rgba, Counter[Rgba]] = {}
    for old, new in rows:
        if old is not None and new is not None:
            counts.setdefault(old.opaque, Counter())[new.opaque] += 1
    return {old: new.most_common(1)[0][0] for old, new in counts.items()}


def _on_ground(pixels: Pixels, old: Rgba, new: Rgba, texts: dict[Rgba, Rgba]) -> Pixels:
    """Return pixels that stand on a ground: the ground itself, words on it and what lies between; others stay."""
    away = pixels.astype(float) - np.array(old[:3])
    out = pixels.astype(float)
    best = np.full(len(pixels), _OFF)
    for text, fresh in texts.items():
        way = np.array(text[:3], dtype=float) - np.array(old[:3])
        length = float(way @ way)
        if length < 1:
            continue
        share = np.clip(away @ way / length, 0, 1)
        off = np.linalg.norm(away - share[:, None] * way, axis=1)
        nearer = off < best
        step = np.array(fresh[:3], dtype=float) - np.array(new[:3])
        out[nearer] = (np.array(new[:3]) + share[:, None] * step)[nearer]
        best[nearer] = off[nearer]
    out[np.abs(away).max(axis=1) <= _ALIKE] = new[:3]
    fresh_pixels: Pixels = np.clip(np.rint(out), 0, 255).astype(np.uint8)
    return fresh_pixels


def _share_around(known: NDArray[np.bool_]) -> NDArray[np.float64]:
    """Return for every pixel the share of the window about it that is known; the edge counts as what lies beside it."""
    half, n = _AROUND // 2, _AROUND
    sums = np.pad(known.astype(np.int32), ((half + 1, half), (half + 1, half)), mode="edge").cumsum(0).cumsum(1)
    share: NDArray[np.float64] = (sums[n:, n:] - sums[:-n, n:] - sums[n:, :-n] + sums[:-n, :-n]) / (n * n)
    return share


def _nearest(colours: NDArray[np.int16], named: NDArray[np.int16]) -> NDArray[np.int64]:
    """Return for each colour the number of the named one that it passes for, -1 for none."""
    numbers = []
    for start in range(0, len(colours), _MOST_AT_ONCE):
        away = np.abs(colours[start : start + _MOST_AT_ONCE, None, :] - named[None, :, :]).max(axis=2)
        numbers.append(np.where(away.min(axis=1) <= _ALIKE, away.argmin(axis=1), -1))
    return np.concatenate(numbers)
