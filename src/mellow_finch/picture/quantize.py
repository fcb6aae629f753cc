"""Weighted k-means in CIE Lab, deterministic."""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

from ..colour.spaces import Array

_ROUNDS = 18
_TRIALS = 10
_STILL = 0.2  # Lab units; a centre moving less counts as settled


def squared_distances(points: Array, centres: Array) -> Array:
    """Return the (n, k) squared Euclidean distances of (n, 3) points to (k, 3) centres."""
    cross = points @ centres.T
    return np.asarray(np.maximum((points**2).sum(1)[:, None] - 2 * cross + (centres**2).sum(1)[None, :], 0))


def nearest_centres(points: Array, centres: Array) -> NDArray[np.intp]:
    """Return for each point the index of its nearest centre; the points' own lengths do not matter for that."""
    return np.asarray(((centres**2).sum(1)[:, None] - 2 * (centres @ points.T)).argmin(axis=0))


def _seeds(points: Array, weights: Array, count: int) -> Array:
    """Return count starting centres by greedy maximal gain, the deterministic cousin of k-means++.

    Each next centre is, of some points far from all centres and spread over the error, the one that leaves the
    least weighted squared error.
    """
    chosen = [points[int(np.argmax(weights))]]
    nearest = ((points - chosen[0]) ** 2).sum(1)
    for _ in range(count - 1):
        error = nearest * weights
        running = np.cumsum(error)
        if running[-1] <= 0:
            break
        spread = np.searchsorted(running, running[-1] * (np.arange(_TRIALS) + 0.5) / _TRIALS)
        trials = points[np.append(spread, int(np.argmax(error)))]
        gains = np.minimum(squared_distances(points, trials), nearest[:, None])
        best = int((weights @ gains).argmin())
        chosen.append(trials[best])
        nearest = gains[:, best]
    return np.array(chosen)


def quantize(
    points: Array, weights: Array, count: int, fixed: Array | None = None, rounds: int = _ROUNDS
) -> tuple[Array, NDArray[np.intp]]:
    """Return up to count centres of (n, 3) weighted points and the (n,) label of each point.

    rounds bounds the refinement; a rough answer needs few.

    fixed: (m, 3) centres that do not move and come first, on top of count. Same input, same result.
    """
    centres = _seeds(points, weights, count)
    held = 0 if fixed is None else len(fixed)
    if fixed is not None and held:
        centres = np.concatenate([fixed, centres])
    weighted = (weights[:, None] * points).T
    for _ in range(rounds):
        labels = nearest_centres(points, centres)
        total = np.bincount(labels, weights=weights, minlength=len(centres))
        sums = [np.bincount(labels, weights=weighted[i], minlength=len(centres)) for i in range(3)]
        means = np.stack(sums, axis=1) / np.maximum(total, 1e-300)[:, None]
        means = np.where(total[:, None] > 0, means, centres)
        means[:held] = centres[:held]
        moved = float(np.abs(means - centres).max())
        centres = means
        if moved < _STILL:
            break
    labels = nearest_centres(points, centres)
    return centres, labels
