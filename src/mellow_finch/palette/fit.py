"""Fitting one colour to what it is drawn on, or to what is drawn on it, by the smallest change.

A constraint is an opaque colour and the contrast ratio that has to be between the two. Candidates are the steps of the
colour's way of lightness (see `lightness`); the cost is the OKLab distance. `fit_asked` is for constraints that cannot
be written down, as of a literal that a cascade draws many places with. Whole palettes are fitted in `solve`.
"""

from __future__ import annotations

import math
from collections.abc import Callable, Iterable, Iterator, Sequence
from functools import lru_cache

import numpy as np

from ..colour.blend import over
from ..colour.contrast import enough, luminance, ratio, relative_luminance
from ..colour.rgb import Rgba
from ..progress import give_way
from .lightness import PATH_STEPS, path_of, reaches

Constraint = tuple[Rgba, float]
_FAR = 1e6
_DARK, _LIGHT = Rgba(16, 16, 16), Rgba(245, 245, 245)
_OPACITIES = 9  # steps in which a surface becomes less translucent
_STRIDE = 8  # steps of a way that are left out when the next good one is looked for

Found = tuple[int, float, int, float]  # how many fail, the cost, the step of the way, the opacity


def fit(colour: Rgba, constraints: Iterable[Constraint], may_rise: bool = True) -> Rgba | None:
    """Return the colour nearest to one on its way that has the needed contrast to every (surface, level).

    A translucent colour is judged as it is drawn over each; when nothing at its alpha will do, that rises to 1, where
    it may. None when nothing will do, as between a dark and a light surface. Pure and deterministic.
    """
    rows = tuple(dict.fromkeys(constraints))
    if colour.a == 1:
        own = luminance(colour)
        if all(enough(own, luminance(surface), level) for surface, level in rows):
            return colour
    return _fitted(colour, rows, may_rise)


@lru_cache(maxsize=2048)
def _fitted(colour: Rgba, rows: tuple[Constraint, ...], may_rise: bool) -> Rgba | None:
    give_way()
    way = path_of(colour.opaque)
    alphas = dict.fromkeys((colour.a, _spelled((colour.a + 1) / 2), 1.0) if may_rise else (colour.a,))
    for alpha in alphas:
        good = np.ones(PATH_STEPS, dtype=bool)
        for surface, level in rows:
            drawn = way.luminance if alpha == 1 else relative_luminance(_composited(way.rgb, alpha, surface))
            good &= reaches(drawn, luminance(surface), level)
        if good.any():
            return way.at(int(np.where(good, way.cost, _FAR).argmin()))._replace(a=alpha)
    return None


def fit_surface(
    fill: Rgba, text: Rgba, below: Sequence[Rgba], level: float, may_rise: bool, drawn_alpha: float
) -> Rgba:
    """Return a surface changed least, in colour or in translucency, so that a text on it can be read.

    below: what may lie under it, opaque; level: the contrast ratio; drawn_alpha: the opacity that it is drawn with,
    which may be another than that of the literal; it rises where it may. Dark or light where nothing will do.
    """
    way = path_of(fill.opaque)
    for alpha in _less_see_through(drawn_alpha) if may_rise and drawn_alpha < 1 else [drawn_alpha]:
        worst = np.full(PATH_STEPS, np.inf)
        for under in below:
            drawn = np.rint(way.rgb * alpha + np.array(under[:3]) * (1 - alpha))
            texts = np.rint(np.array(text[:3]) * text.a + drawn * (1 - text.a)) / 255
            a, b = relative_luminance(texts), relative_luminance(drawn / 255)
            worst = np.minimum(worst, (np.maximum(a, b) + 0.05) / (np.minimum(a, b) + 0.05))
        good = worst >= level
        if good.any():
            return way.at(int(np.where(good, way.cost, _FAR).argmin()))._replace(a=float(alpha) if may_rise else fill.a)
    return _DARK if ratio(over(text, _DARK), _DARK) > ratio(over(text, _LIGHT), _LIGHT) else _LIGHT


def fit_asked(colour: Rgba, before: int, failing: Callable[[Rgba, int | None], int]) -> Rgba:
    """Return the colour nearest on a colour's way with which fewest fail of what is drawn with it.

    before: how many fail with the colour itself; failing: how many do with another, where more than a number that is
    named with it need not be counted on. The way is looked over in wide steps first, then closely around the best of
    them on the side of the colour; a translucent one is tried opaquer where its own opacity leaves some.
    """
    way = path_of(colour.opaque)
    own = int(way.cost.argmin())

    def least(steps: Iterable[int], alpha: float, lead: Found | None) -> Found | None:
        """Return the best of some steps, the cheapest first, and of one that is known."""
        for step in sorted(steps, key=lambda i: float(way.cost[i])):
            if lead is not None and lead[0] <= 0 and lead[1] <= way.cost[step]:
                break
            count = failing(way.at(step)._replace(a=alpha), lead[0] if lead is not None else None)
            one = (count, float(way.cost[step]), step, alpha)
            lead = one if lead is None else min(lead, one)
        return lead

    best: Found = (before, -1.0, own, colour.a)
    for alpha in (colour.a, (colour.a + 1) / 2, 1.0) if 0 < colour.a < 1 else (colour.a,):
        lead = least(range(0, PATH_STEPS, _STRIDE), alpha, None)
        assert lead is not None
        towards = 1 if own > lead[2] else -1
        near = range(lead[2] + towards, min(max(lead[2] + towards * _STRIDE, 0), PATH_STEPS - 1), towards)
        best = min(best, least(near, alpha, lead) or lead)
        if best[0] <= 0:
            break
    moved = best[2] != own or best[3] != colour.a
    return way.at(best[2])._replace(a=best[3]) if moved else colour


def nearest_first(colour: Rgba, far: float) -> Iterator[Rgba]:
    """Give the colours of a colour's way at its own opacity, the nearest first, up to an OKLab distance."""
    way = path_of(colour.opaque)
    for step in way.cost.argsort(kind="stable").tolist():
        yield way.at(step)._replace(a=colour.a)
        if way.cost[step] > far:
            return


def _composited(rgb: np.ndarray, alpha: float, surface: Rgba) -> np.ndarray:
    return np.asarray(np.rint(rgb * alpha + np.array(surface[:3]) * (1 - alpha)) / 255)


def _spelled(alpha: float) -> float:
    """Return an opacity that every syntax spells exactly, never less than the given one."""
    return min(1.0, math.ceil(alpha * 100 - 1e-9) / 100)


def _less_see_through(alpha: float) -> list[float]:
    return [alpha, *(_spelled(a) for a in np.linspace(alpha, 1, _OPACITIES)[1:].tolist())]
