"""What lies behind the desktop: the darkest and lightest places of a picture, for judging what is drawn on it."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from ..colour.contrast import relative_luminance
from ..colour.rgb import Rgba, from_unit
from .load import Picture

_CELLS = 64


@dataclass(frozen=True)
class Backdrop:
    """The extremes under anything translucent: the darkest and the lightest small area of a picture."""

    darkest: Rgba
    lightest: Rgba
    mean: Rgba


PLAIN = Backdrop(Rgba(0, 0, 0), Rgba(255, 255, 255), Rgba(128, 128, 128))


def backdrop_of(picture: Picture) -> Backdrop:
    """Return the extremes of a picture over areas about the size of a letter (1/64 of its width)."""
    pixels = picture.pixels.astype(np.float64) / 255
    step = max(1, max(pixels.shape[:2]) // _CELLS)
    height, width = (max(step, n // step * step) for n in pixels.shape[:2])
    if min(pixels.shape[:2]) < step:
        step, (height, width) = 1, pixels.shape[:2]
    cells = (
        pixels[:height, :width].reshape(height // step, step, width // step, step, 3).mean(axis=(1, 3)).reshape(-1, 3)
    )
    light = relative_luminance(cells)
    mean = cells.mean(axis=0)
    return Backdrop(
        from_unit(*cells[int(light.argmin())].tolist()),
        from_unit(*cells[int(light.argmax())].tolist()),
        from_unit(*mean.tolist()),
    )
