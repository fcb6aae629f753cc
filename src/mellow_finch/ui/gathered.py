"""What comes of opening a picture: pixels for the eye, colours for the look, and readings to start from."""

from __future__ import annotations

from dataclasses import dataclass
from pathlib import Path

import numpy as np
from numpy.typing import NDArray
from PyQt6.QtGui import QImage

from ..look.gather import name_of
from ..look.model import Look, derived_look
from ..palette.readings import Reading, readings_of
from ..palette.recipe import Tone
from ..picture.backdrop import Backdrop, backdrop_of
from ..picture.load import load_picture
from ..picture.swatches import Swatch, label_swatches
from ..progress import Progress

DISPLAY_SIDE = 1600


@dataclass(frozen=True, eq=False)
class Gathered:
    """A picture that was opened. labels tells for each pixel of the small picture which swatch it belongs to."""

    path: Path
    image: QImage
    width: int
    height: int
    swatches: tuple[Swatch, ...]
    labels: NDArray[np.int16]
    backdrop: Backdrop
    readings: tuple[Reading, ...]

    def look(self, reading: Reading, tone: Tone) -> Look:
        """Return a fresh look of one reading."""
        return derived_look(name_of(self.path), reading.recipe, tone, str(self.path), self.backdrop)


def open_picture(path: Path, progress: Progress) -> Gathered:
    """Read a picture and take its colours; raises what reading it raises."""
    progress.report(0, 3, "Reading the picture")
    shown = load_picture(path, DISPLAY_SIDE)
    progress.report(1, 3, "Taking its colours")
    small = load_picture(path)
    swatches, labels = label_swatches(small)
    progress.report(2, 3, "Finding starting points")
    pixels = np.ascontiguousarray(shown.pixels)
    image = QImage(
        pixels.tobytes(), pixels.shape[1], pixels.shape[0], pixels.shape[1] * 3, QImage.Format.Format_RGB888
    ).copy()
    return Gathered(path, image, shown.width, shown.height, swatches, labels, backdrop_of(small), readings_of(swatches))
