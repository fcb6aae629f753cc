"""The terminal's twelve hues solved as a set: names kept, readable, and distinguished by every kind of vision.

Each row of six (1-6 and 9-14) is chosen from a grid of candidates so that the smallest distance under deutan and
protan vision is the largest that the grid has, with CIEDE2000 at least 10 between any two in normal vision.
"""

from __future__ import annotations

from collections.abc import Collection, Mapping, Sequence
from functools import lru_cache
from itertools import combinations, pairwise

import numpy as np
from numpy.typing import NDArray

from ..colour.contrast import FLARE, enough, luminance
from ..colour.difference import delta_e_2000
from ..colour.gamut import fit_chroma, oklch_to_rgbas, rgba_to_oklch
from ..colour.requirement import TEXT
from ..colour.rgb import Rgba
from ..colour.spaces import Array, srgb_to_lab
from ..colour.vision import Vision, simulate

# OKLCH hues that keep the terminal colours' names, and how far each may turn and still be called so.
ANSI_HUES = {1: 24.0, 2: 145.0, 3: 92.0, 4: 258.0, 5: 325.0, 6: 200.0}
_ROOM_DEG = {1: 9.0, 2: 11.0, 3: 9.0, 4: 11.0, 5: 11.0, 6: 11.0}
APART = 10.0  # CIEDE2000 from which two colours are distinguished at a glance
_MARGIN = 0.6  # on top of APART, for what rounding to 8 bits and later moves may take
ROWS: tuple[tuple[int, ...], ...] = (tuple(range(1, 7)), tuple(range(9, 15)))
# OKLCH lightness in which each colour is still called by its name, on a dark and on a light ground.
_LIGHT_ON_DARK = {
    1: (0.58, 0.77),
    2: (0.60, 0.88),
    3: (0.77, 0.93),
    4: (0.58, 0.79),
    5: (0.60, 0.83),
    6: (0.62, 0.91),
}
_DARK_ON_LIGHT = {
    1: (0.38, 0.58),
    2: (0.36, 0.58),
    3: (0.42, 0.62),
    4: (0.33, 0.58),
    5: (0.34, 0.58),
    6: (0.38, 0.60),
}
_LEVELS, _TURNS = 6, (-1.0, 0.0, 1.0)
_FINE_LEVELS, _FINE_TURNS = 5, (-1.0, -0.4, 0.4, 1.0)
_LEAST_CHROMA = 0.62  # share of the wanted chroma that sRGB must leave to a candidate
_BRIGHTER = 0.035  # OKLab lightness by which a bright colour lies farther from the terminal's own
_EYES: tuple[Vision, ...] = ("deutan", "protan")


def row_distances(colours: Sequence[Rgba], vision: Vision = "normal") -> Array:
    """Return the (n, n) CIEDE2000 distances between colours as a kind of vision sees them."""
    lab = srgb_to_lab(simulate(np.array([c.unit for c in colours]), vision))
    return delta_e_2000(lab[:, None, :], lab[None, :, :])


def nearest_pair(colours: Mapping[str, Rgba], vision: Vision = "normal") -> tuple[float, str, str]:
    """Return the smallest distance between two of one row, and which two roles they are."""
    found: list[tuple[float, str, str]] = []
    for row in ROWS:
        names = [f"ansi_{i}" for i in row]
        distances = row_distances([colours[n] for n in names], vision)
        found += [(float(distances[a, b]), names[a], names[b]) for a, b in combinations(range(len(row)), 2)]
    return min(found)


def ansi_set(
    colours: Mapping[str, Rgba], terminal: Rgba, need: float = TEXT.level, held: Collection[str] = ()
) -> dict[str, Rgba]:
    """Return the roles of both rows as a set that reads on the terminal; held roles keep their colour.

    Chroma is taken from the colours given, hue from the names, lightness is free within what the need allows. Where a
    row has no solution, as on a mid-grey terminal or with locks too near to one another, it is left out.
    """
    out: dict[str, Rgba] = {}
    normal: tuple[Rgba | None, ...] = (None,) * 6
    for row in ROWS:
        fixed = tuple(colours[f"ansi_{i}"].opaque if f"ansi_{i}" in held else None for i in row)
        free = [rgba_to_oklch(colours[f"ansi_{i}"])[1] for i, f in zip(row, fixed, strict=True) if f is None]
        chroma = round(min(0.17, max(0.05, sum(free) / len(free))), 2) if free else 0.1
        found = _row(_bucket(terminal), chroma, need, fixed, normal)
        if found is not None:
            out |= {f"ansi_{i}": colour for i, colour in zip(row, found, strict=True)}
            normal = found
    return out


def _bucket(terminal: Rgba) -> float:
    """Return the terminal's luminance, rounded toward the middle so that one set serves its near neighbours."""
    own = luminance(terminal)
    lightness = float(np.cbrt(own))
    step = 0.025
    rounded = np.ceil(lightness / step) if own < 0.18 else np.floor(lightness / step)
    return float(max(0.0, rounded * step) ** 3)


@lru_cache(maxsize=256)
def _row(
    ground: float, chroma: float, need: float, fixed: tuple[Rgba | None, ...], beneath: tuple[Rgba | None, ...]
) -> tuple[Rgba, ...] | None:
    """Return six colours for a terminal of a luminance; beneath: the row that these have to be brighter than."""
    lighter, darker = need * (ground + FLARE) - FLARE, (ground + FLARE) / need - FLARE
    up, down = 1 - float(np.cbrt(min(1.0, lighter))), float(np.cbrt(max(0.0, darker)))
    rises = up >= down
    edge = float(np.cbrt(lighter)) if rises else down
    spans = [_span(i, edge, rises, beneath[i - 1] is not None) for i in range(1, 7)]
    coarse = [(np.linspace(low, high, _LEVELS), _TURNS) for low, high in spans]
    first = _choose(_candidates(coarse, chroma, ground, need, rises, fixed, beneath))
    if first is None:
        return None
    # Once more, finely, around what was found.
    fine = []
    for colour, (low, high) in zip(first, spans, strict=True):
        step = (high - low) / (_LEVELS - 1) * 0.8
        near = np.clip(rgba_to_oklch(colour)[0] + np.linspace(-step, step, _FINE_LEVELS), low, high)
        fine.append((near, _FINE_TURNS))
    rows = _candidates(fine, chroma, ground, need, rises, fixed, beneath)
    return _choose([list(dict.fromkeys([c, *row])) for c, row in zip(first, rows, strict=True)]) or first


def _span(number: int, edge: float, rises: bool, bright: bool) -> tuple[float, float]:
    """Return the lightness in which a colour keeps its name and can be read, from where reading begins.

    The end that lies farthest from the ground is left to the bright colours.
    """
    low, high = (_LIGHT_ON_DARK if rises else _DARK_ON_LIGHT)[number]
    if rises:
        low, high = (low + _BRIGHTER, high) if bright else (low, high - 1.4 * _BRIGHTER)
    else:
        low, high = (low, high - _BRIGHTER) if bright else (low + 1.4 * _BRIGHTER, high)
    room = 0.10  # where the two do not meet, reading wins, and this much room is left
    if rises:
        low = max(low, edge)
        return low, max(high, min(0.97, low + room))
    high = min(high, edge)
    return min(low, max(0.12, high - room)), high


def _candidates(
    grid: Sequence[tuple[Array, tuple[float, ...]]],
    chroma: float,
    ground: float,
    need: float,
    rises: bool,
    fixed: tuple[Rgba | None, ...],
    beneath: tuple[Rgba | None, ...],
) -> list[list[Rgba]]:
    """Return what each of six colours may be: readable, not washed out, and farther from the ground than beneath."""
    lch = np.array(
        [
            (level, chroma, ANSI_HUES[i] + turn * _ROOM_DEG[i])
            for i, (levels, turns) in enumerate(grid, 1)
            for level in levels
            for turn in turns
        ]
    )
    fitted = fit_chroma(lch)
    colours = oklch_to_rgbas(fitted)
    out: list[list[Rgba]] = []
    at = 0
    for (levels, turns), held, below in zip(grid, fixed, beneath, strict=True):
        size = len(levels) * len(turns)
        rows = list(zip(colours[at : at + size], fitted[at : at + size].tolist(), strict=True))
        at += size
        if held is not None:
            out.append([held])
            continue
        good = [row for row in rows if enough(luminance(row[0]), ground, need)]
        if below is not None:
            own = rgba_to_oklch(below)[0]
            far = [row for row in good if (row[1][0] - own) * (1 if rises else -1) >= _BRIGHTER]
            # At the end of the scale a bright colour may be as light as its plain one, never less.
            good = far or sorted(good, key=lambda row: row[1][0], reverse=rises)[:3]
        least = min(_LEAST_CHROMA * chroma, max((row[1][1] for row in good), default=0.0))
        out.append(list(dict.fromkeys(row[0] for row in good if row[1][1] >= least)))
    return out


def _choose(domains: list[list[Rgba]]) -> tuple[Rgba, ...] | None:
    """Return one colour of each domain so that the smallest distance under both dichromacies is the largest there is.

    Exact on the given domains: a threshold is sought by bisection, each tried by a search with forward checking.
    """
    if not all(domains):
        return None
    colours = [c for domain in domains for c in domain]
    block = np.repeat(np.arange(len(domains)), [len(d) for d in domains])
    a, b = np.nonzero(block[:, None] < block[None, :])

    def distances(vision: Vision) -> Array:
        lab = srgb_to_lab(simulate(np.array([c.unit for c in colours]), vision))
        return delta_e_2000(lab[a], lab[b])

    seen, far = np.zeros((len(colours),) * 2), np.zeros((len(colours),) * 2, dtype=bool)
    seen[a, b] = seen[b, a] = np.minimum(*(distances(eye) for eye in _EYES))
    far[a, b] = far[b, a] = distances("normal") >= APART + _MARGIN
    values = np.unique(seen[far])
    best, low, high = None, 0, len(values) - 1
    while low <= high:
        middle = (low + high) // 2
        found = _search(far & (seen >= values[middle]), [len(d) for d in domains])
        if found is None:
            high = middle - 1
        else:
            best, low = found, middle + 1
    return tuple(colours[i] for i in best) if best is not None else None


def _search(allowed: NDArray[np.bool_], sizes: list[int]) -> list[int] | None:
    """Return an index from each block of the given sizes, any two allowed together, or None."""
    starts = np.cumsum([0, *sizes])
    packed = np.packbits(allowed, axis=1, bitorder="little")
    masks = [int.from_bytes(row.tobytes(), "little") for row in packed]
    blocks = [((1 << int(b)) - 1) ^ ((1 << int(a)) - 1) for a, b in pairwise(starts)]

    def go(rest: list[int], chosen: list[int]) -> list[int] | None:
        if not rest:
            return chosen
        mask = min(rest, key=int.bit_count)  # the block with the fewest choices left goes first
        others = [m for m in rest if m is not mask]
        while mask:
            bit = mask & -mask
            mask ^= bit
            index = bit.bit_length() - 1
            left = [m & masks[index] for m in others]
            if all(left):
                found = go(left, [*chosen, index])
                if found is not None:
                    return found
        return None

    found = go(blocks, [])
    return sorted(found) if found is not None else None
