"""What comes of opening pictures: pixels for the eye, colours for the look, and readings to start from."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from functools import cached_property
from pathlib import Path

import numpy as np
from numpy.typing import NDArray
from PyQt6.QtGui import QImage

from ...language import tr
from ...look.gather import PER_MEMBER, Gathering
from ...picture.load import LoadedPicture, Pixels, load_picture
from ...picture.spread import Spread, spread_of_picture
from ...picture.swatches import Swatch, label_swatches, swatches_of
from ...progress import Progress

DISPLAY_SIDE = 1600
_SIDE_AMONG_MANY = 900
_MANY = 6


@dataclass(frozen=True, eq=False)
class Gathered:
    """A picture that was opened. labels tells for each pixel of the small picture which swatch it belongs to."""

    path: Path
    image: QImage
    width: int
    height: int
    swatches: tuple[Swatch, ...]
    labels: NDArray[np.int16]
    small: LoadedPicture

    @cached_property
    def alone(self) -> Gathering:
        """Return what comes of this picture alone."""
        return Gathering((self.small,), (1.0,), (self.swatches,), self.swatches, 1.0, (self.spread,))

    @cached_property
    def spread(self) -> Spread:
        """Return its colours over the plane of hue and chroma."""
        return spread_of_picture(self.small)

    @cached_property
    def finely(self) -> tuple[Swatch, ...]:
        """Return its colours distinguished more finely, for laying it beside other pictures."""
        return swatches_of(self.small, PER_MEMBER)


@dataclass(frozen=True, eq=False)
class Opened:
    """Pictures that were opened together, in the order given, and what comes of them."""

    pictures: tuple[Gathered, ...]
    gathering: Gathering

    @property
    def lead(self) -> Gathered:
        """Return the picture that lies behind the desktop."""
        return self.pictures[self.gathering.used[0]]


def image_of(pixels: Pixels) -> QImage:
    """Return (height, width, 3) sRGB pixels as Qt has them."""
    data = np.ascontiguousarray(pixels)
    height, width = data.shape[:2]
    return QImage(data.tobytes(), width, height, width * 3, QImage.Format.Format_RGB888).copy()


def open_picture(path: Path, progress: Progress, side: int = DISPLAY_SIDE) -> Gathered:
    """Read a picture and take its colours; raises what reading it raises."""
    progress.report(0, 2, tr("Reading {name}").format(name=path.name))
    shown = load_picture(path, side)
    progress.report(1, 2, tr("Extracting its colours"))
    small = load_picture(path)
    swatches, labels = label_swatches(small)
    return Gathered(path, image_of(shown.pixels), shown.width, shown.height, swatches, labels, small)


def open_pictures(
    paths: Sequence[Path], known: Mapping[str, Gathered], weights: Sequence[float] | None, progress: Progress
) -> Opened:
    """Read pictures, those that are known already excepted, and take what they have in common."""
    side = _SIDE_AMONG_MANY if len(paths) > _MANY else DISPLAY_SIDE
    rows = tuple(known.get(str(p)) or open_picture(p, progress, side) for p in paths)
    progress.report(2, 3, tr("Finding suggestions"))
    if len(rows) == 1:
        return Opened(rows, rows[0].alone)
    plain = (1.0,) * len(rows)
    together = Gathering(
        tuple(g.small for g in rows), plain, tuple(g.finely for g in rows), (), 1.0, tuple(g.spread for g in rows)
    )
    return Opened(rows, together.weighted(weights or plain))
