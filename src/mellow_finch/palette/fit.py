"""Fitting one colour to what it is drawn on, or to what is drawn on it, by the smallest change.

A constraint is an opaque colour and the contrast ratio that has to be between the two. Candidates are the steps of the
colour's way of lightness (see `lightness`); the cost is the OKLab distance. Whole palettes are fitted in `solve`.
"""

from __future__ import annotations

import math
from collections.abc import Iterable, Sequence
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


def _composited(rgb: np.ndarray, alpha: float, surface: Rgba) -> np.ndarray:
    return np.asarray(np.rint(rgb * alpha + np.array(surface[:3]) * (1 - alpha)) / 255)


def _spelled(alpha: float) -> float:
    """Return an opacity that every syntax spells exactly, never less than the given one."""
    return min(1.0, math.ceil(alpha * 100 - 1e-9) / 100)


def _less_see_through(alpha: float) -> list[float]:
    return [alpha, *(_spelled(a) for a in np.linspace(alpha, 1, _OPACITIES)[1:].tolist())]
