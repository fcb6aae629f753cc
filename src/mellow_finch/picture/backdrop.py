"""What lies behind the desktop: the extremes of a picture as it lies on the screen, for judging what is drawn on it."""

from __future__ import annotations

from dataclasses import dataclass
from weakref import WeakKeyDictionary

import numpy as np
from PIL import Image, ImageFilter

from ..colour.contrast import LUMINANCE_WEIGHTS, relative_luminance
from ..colour.rgb import Rgba, from_unit
from ..colour.spaces import Array
from ..progress import give_way
from .load import LoadedPicture, Pixels
from .placement import PLACES, Placement, boxes

_CELLS = 64  # letters across a screen: extremes are taken over areas of that size
_CELL = 5  # pixels of the small screen in one cell
_BLUR = 4  # pixels of the small screen that a compositor's blur reaches: some 24 of a screen 1920 wide
_MOST_TILES = 400
_known: WeakKeyDictionary[LoadedPicture, dict[Placement, Backdrop]] = WeakKeyDictionary()  # as long as the pictures are


@dataclass(frozen=True)
class Extremes:
    """The extremes under one place of the screen: as the picture is, and as it is when the compositor blurs it."""

    sharp: tuple[Rgba, ...]
    soft: tuple[Rgba, ...]


@dataclass(frozen=True)
class Backdrop:
    """The extremes under anything translucent: the darkest and the lightest small area of a picture on its screen.

    places: the same by place of the screen, each with up to four colours: by luminance and by encoded lightness,
    which differ once something translucent lies on them. Without them the two extremes stand for every place.
    """

    darkest: Rgba
    lightest: Rgba
    mean: Rgba
    places: tuple[tuple[str, Extremes], ...] = ()

    def at(self, place: str, soft: bool = False) -> tuple[Rgba, ...]:
        """Return the extremes under a place; an unknown place counts as everywhere."""
        rows = dict(self.places)
        found = rows.get(place) or rows.get("everywhere")
        if found is None:
            return (self.darkest, self.lightest)
        return found.soft if soft else found.sharp


PLAIN = Backdrop(Rgba(0, 0, 0), Rgba(255, 255, 255), Rgba(128, 128, 128))


def on_screen(pixels: Pixels, width: int, height: int, placement: Placement, across: int = _CELLS * _CELL) -> Pixels:
    """Return a small picture of the screen with the picture laid on it, `across` pixels wide; bars are black.

    width, height: the picture's true size, of which pixels may be a reduced copy.
    """
    scale = across / placement.width
    screen = Image.new("RGB", (across, max(1, round(placement.height * scale))))
    image = Image.fromarray(pixels)
    rows = boxes(width, height, placement)
    tile: Image.Image | None = None
    for x, y, w, h in rows[:_MOST_TILES]:
        left, top = round(x * scale), round(y * scale)
        size = max(1, round((x + w) * scale) - left), max(1, round((y + h) * scale) - top)
        if size[0] > 4 * across or size[1] > 4 * across:  # a huge picture at its own size: only its middle shows
            crop = _shown_part(image, (x, y, w, h), placement)
            screen.paste(crop.resize(screen.size, Image.Resampling.BOX))
            continue
        if tile is None or tile.size != size:
            tile = image.resize(size, Image.Resampling.BOX)
        screen.paste(tile, (left, top))
    return np.asarray(screen, dtype=np.uint8)


def _shown_part(image: Image.Image, box: tuple[float, float, float, float], placement: Placement) -> Image.Image:
    x, y, w, h = box
    fx, fy = image.width / w, image.height / h
    left, top = max(0.0, -x) * fx, max(0.0, -y) * fy
    return image.crop(
        (
            int(left),
            int(top),
            max(int(left) + 1, int(left + placement.width * fx)),
            max(int(top) + 1, int(top + placement.height * fy)),
        )
    )


def backdrop_of(picture: LoadedPicture, placement: Placement | None = None) -> Backdrop:
    """Return the extremes of a picture on its screen over areas about the size of a letter (1/64 of the width)."""
    placement = placement or Placement()
    known = _known.setdefault(picture, {})
    if placement not in known:
        known[placement] = _backdrop(picture, placement)
    return known[placement]


def _backdrop(picture: LoadedPicture, placement: Placement) -> Backdrop:
    screen = on_screen(picture.pixels, picture.width, picture.height, placement)
    give_way()
    soft = np.asarray(Image.fromarray(screen).filter(ImageFilter.GaussianBlur(_BLUR)), dtype=np.uint8)
    give_way()
    cells = _cells(screen)
    give_way()
    blurred = _cells(soft)
    give_way()
    light = relative_luminance(cells)
    flat = cells.reshape(-1, 3)
    places = tuple(
        (name, Extremes(_extremes(_part(cells, box)), _extremes(_part(blurred, box)))) for name, box in PLACES.items()
    )
    return Backdrop(
        from_unit(*flat[int(light.argmin())].tolist()),
        from_unit(*flat[int(light.argmax())].tolist()),
        from_unit(*flat.mean(axis=0).tolist()),
        places,
    )


def _cells(screen: Pixels) -> Array:
    """Return (rows, columns, 3) means of letter-sized areas, as floats 0..1."""
    height, width = (max(_CELL, n // _CELL * _CELL) for n in screen.shape[:2])
    pixels = screen[:height, :width].astype(np.float64) / 255
    if pixels.shape[0] < _CELL:
        return np.asarray(pixels.mean(axis=0, keepdims=True))
    return np.asarray(pixels.reshape(height // _CELL, _CELL, width // _CELL, _CELL, 3).mean(axis=(1, 3)))


def _part(cells: Array, box: tuple[float, float, float, float]) -> Array:
    rows, columns = cells.shape[:2]
    x, y, w, h = box
    top, left = min(rows - 1, int(y * rows)), min(columns - 1, int(x * columns))
    bottom, right = max(top + 1, int(np.ceil((y + h) * rows))), max(left + 1, int(np.ceil((x + w) * columns)))
    return cells[top:bottom, left:right].reshape(-1, 3)


def _extremes(cells: Array) -> tuple[Rgba, ...]:
    """Return the darkest and the lightest cell, by luminance and by encoded lightness."""
    found: dict[Rgba, None] = {}
    for measure in (relative_luminance(cells), cells @ LUMINANCE_WEIGHTS):
        for index in (int(measure.argmin()), int(measure.argmax())):
            found[from_unit(*cells[index].tolist())] = None
    return tuple(found)


def joined(drops: list[Backdrop]) -> Backdrop:
    """Return the extremes of several pictures that are shown in turn."""
    if len(drops) == 1:
        return drops[0]
    places = []
    for name in PLACES:
        sharp = dict.fromkeys(c for d in drops for c in d.at(name))
        soft = dict.fromkeys(c for d in drops for c in d.at(name, True))
        places.append((name, Extremes(_outer(tuple(sharp)), _outer(tuple(soft)))))
    mean = np.mean([d.mean.unit for d in drops], axis=0)
    return Backdrop(
        min((d.darkest for d in drops), key=_luminance),
        max((d.lightest for d in drops), key=_luminance),
        from_unit(*mean.tolist()),
        tuple(places),
    )


def _outer(colours: tuple[Rgba, ...]) -> tuple[Rgba, ...]:
    return _extremes(np.array([c.unit for c in colours]))


def _luminance(colour: Rgba) -> float:
    return float(relative_luminance(np.array(colour.unit)))
