"""Connected things in a picture of yes and no: told by the runs of its rows, joined where runs of two rows touch."""

from __future__ import annotations

from typing import NamedTuple

import numpy as np
from numpy.typing import NDArray

Mask = NDArray[np.bool_]


class Thing(NamedTuple):
    """One connected thing: its rows and columns, and which pixels of these are its own."""

    rows: slice
    columns: slice
    own: Mask

    @property
    def span(self) -> tuple[slice, slice]:
        """Return where it lies."""
        return self.rows, self.columns


def things_in(mask: Mask) -> list[Thing]:
    """Return the connected things of a mask of shape (height, width), corners counting as touching. Pure."""
    padded = np.zeros((mask.shape[0], mask.shape[1] + 2), np.int8)
    padded[:, 1:-1] = mask
    edges = np.diff(padded, axis=1)
    rows, starts = np.nonzero(edges == 1)
    _, ends = np.nonzero(edges == -1)
    if not rows.size:
        return []
    roots = _joined(rows.tolist(), starts.tolist(), ends.tolist())
    _, labels = np.unique(np.array([_root(roots, i) for i in range(len(roots))]), return_inverse=True)
    order = np.argsort(labels, kind="stable")
    borders = np.flatnonzero(np.diff(labels[order])) + 1
    return [_thing(rows[part], starts[part], ends[part]) for part in np.split(order, borders)]


def _root(roots: list[int], i: int) -> int:
    while roots[i] != i:
        roots[i] = roots[roots[i]]
        i = roots[i]
    return i


def _joined(rows: list[int], starts: list[int], ends: list[int]) -> list[int]:
    """Return for each run one that it is joined to, after joining each with those of the row above that it touches."""
    roots = list(range(len(rows)))
    above = 0  # the first run of the row above that may still touch
    for i, row in enumerate(rows):
        while above < i and (rows[above] < row - 1 or (rows[above] == row - 1 and ends[above] < starts[i])):
            above += 1
        other = above
        while other < i and rows[other] == row - 1 and starts[other] <= ends[i]:
            a, b = _root(roots, other), _root(roots, i)
            roots[max(a, b)] = min(a, b)
            other += 1
    return roots


def _thing(rows: NDArray[np.int64], starts: NDArray[np.int64], ends: NDArray[np.int64]) -> Thing:
    top, left = int(rows.min()), int(starts.min())
    own = np.zeros((int(rows.max()) - top + 1, int(ends.max()) - left), bool)
    for row, start, end in zip(rows.tolist(), starts.tolist(), ends.tolist(), strict=True):
        own[row - top, start - left : end - left] = True
    return Thing(slice(top, top + own.shape[0]), slice(left, left + own.shape[1]), own)


def widened(mask: Mask, by: int) -> Mask:
    """Return a mask that also has what lies so many pixels to the left or the right."""
    out = mask.copy()
    for step in range(1, by + 1):
        out[:, step:] |= mask[:, :-step]
        out[:, :-step] |= mask[:, step:]
    return out
