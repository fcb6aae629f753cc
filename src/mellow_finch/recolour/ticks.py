"""Ticks and dots of controls that are pixel pictures, set apart from the box that they lie in."""

from __future__ import annotations

import io
from collections.abc import Sequence
from typing import Any, NamedTuple

import numpy as np
from PIL import Image

from ..colour.contrast import luminance, plain_ink, ratio
from ..colour.rgb import Rgba
from ..intake.pictures import opened
from ..palette.fit import fit
from .colour_map import packed

_LARGEST = 128  # pixels a side; a control is smaller
_MIDDLE = 0.25  # the share at each side that is left out: frames lie there
_COARSE = 16  # steps of 8-bit channels that count as one colour where the commonest is looked for
_TICK = 1.25  # ratio from which something in the middle is a tick and no shading
_EDGE = 5  # pixels from the left in which a frame lies
_SEEN = 1.05  # ratio from which there is a tick at all
_SHADE = 0.3  # how far on the way to the tick a pixel is a shade of the box
_SOLID = 0.6  # opacity from which a pixel can be the tick's own colour


class Face(NamedTuple):
    """What a control that is a picture shows: its first pixels from the left, and its box and tick where it has one."""

    edge: tuple[Rgba, ...]
    mark: tuple[Rgba, Rgba] | None


def face_of(data: bytes, name: str) -> Face:
    """Return what the picture of a control shows. Raises PictureError for what is no picture."""
    image = opened(data, name)
    if max(image.size) > _LARGEST or min(image.size) < 6:
        return Face((), None)
    pixels = np.asarray(image.convert("RGBA"), dtype=np.float64)
    row = pixels[pixels.shape[0] // 2, : max(_EDGE, pixels.shape[1] // 3)]
    edge = dict.fromkeys(Rgba(int(r), int(g), int(b), a / 255) for r, g, b, a in row.tolist() if a > 0)
    rows, columns = _middle(image.size)
    inner = pixels[rows, columns].reshape(-1, 4)
    solid = inner[:, 3] / 255 >= _SOLID
    if not solid.any():
        return Face(tuple(edge), None)
    box, tick = _box_and_tick(inner[solid, :3], np.ones(int(solid.sum()), dtype=bool))
    return Face(tuple(edge), (box, tick) if tick is not None and ratio(tick, box) >= _SEEN else None)


def with_clear_tick(data: bytes, name: str, behind: Rgba, need: float) -> bytes:
    """Return the picture of a control whose tick has a contrast ratio to its box, the very bytes where it has already.

    behind: what the picture lies on, opaque; need: the ratio. Between tick and box every pixel goes along by its share,
    so that blurred edges stay so. Raises PictureError for what is no picture.
    """
    image = opened(data, name)
    if max(image.size) > _LARGEST or min(image.size) < 6 or image.mode not in ("P", "L", "LA", "RGB", "RGBA"):
        return data
    pixels = np.asarray(image.convert("RGBA"), dtype=np.float64)
    alpha = pixels[..., 3:] / 255
    drawn = pixels[..., :3] * alpha + np.array(behind[:3]) * (1 - alpha)
    rows, columns = _middle(image.size)
    inner, solid = drawn[rows, columns].reshape(-1, 3), alpha[rows, columns].reshape(-1) >= _SOLID
    box, tick = _box_and_tick(inner, solid)
    if tick is None or ratio(tick, box) < _TICK:
        return data
    way = np.array(tick[:3], dtype=np.float64) - np.array(box[:3])
    share = np.clip(((inner - np.array(box[:3])) @ way) / (way @ way), 0, 1)
    shades = [_rounded(row) for row in inner[solid & (share < _SHADE)].tolist()] or [box]
    if min(ratio(tick, shade) for shade in shades) >= need:
        return data
    ends = (min(shades, key=luminance), max(shades, key=luminance))
    target = fit(tick, [(shade, need) for shade in ends]) or plain_ink(box)
    share = share.reshape(*drawn[rows, columns].shape[:2], 1)
    fresh = pixels.copy()
    moved = fresh[rows, columns, :3] + share * (np.array(target[:3]) - np.array(tick[:3]))
    fresh[rows, columns, :3] = np.clip(np.rint(moved), 0, 255)
    out = io.BytesIO()
    Image.fromarray(fresh.astype(np.uint8), "RGBA").save(out, "PNG")
    return out.getvalue()


def _middle(size: tuple[int, int]) -> tuple[slice, slice]:
    """Return the rows and columns in the middle of a picture of a width and a height."""
    columns, rows = (slice(int(n * _MIDDLE), n - int(n * _MIDDLE)) for n in size)
    return rows, columns


def _box_and_tick(inner: Any, solid: Any) -> tuple[Rgba, Rgba | None]:
    """Return the commonest colour in the middle of a control, and the solid one that differs from it most."""
    colours = np.rint(inner).astype(np.int64)
    coarse = packed(colours // _COARSE)
    keys, first, counts = np.unique(coarse, return_index=True, return_counts=True)
    common = keys[np.lexsort((first, -counts))[0]]
    box = _rounded(inner[coarse == common].mean(axis=0).tolist())
    others = dict.fromkeys(map(tuple, colours[solid].tolist()))
    return box, max((Rgba(*c) for c in others), key=lambda c: ratio(c, box), default=None)


def _rounded(channels: Sequence[float]) -> Rgba:
    return Rgba(*(round(v) for v in channels))
