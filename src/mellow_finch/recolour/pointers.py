"""Pointer files of X: read, redrawn through a theme's map with all sizes and frames, and written.

Layout (libXcursor's header file): "Xcur", header size, version, number of entries; entries of type, subtype and
position; chunks of images with nominal size, width, height, hot spot, delay and premultiplied ARGB pixels, and of
comments. All numbers are 32 bits, little-endian.
"""

from __future__ import annotations

import struct
from dataclasses import dataclass, replace

import numpy as np
from numpy.typing import NDArray

from ..errors import PictureError
from ..language import tr
from .colour_map import ColourMap

MAGIC = b"Xcur"
_IMAGE, _COMMENT = 0xFFFD0002, 0xFFFE0001
_MOST_SIDE = 0x7FFF
_MOST_CHUNKS = 65_536
_MOST_PIXELS = 64_000_000


@dataclass(frozen=True, eq=False)
class PointerImage:
    """One size or frame. pixels: (height, width) premultiplied ARGB as 32-bit numbers; delay in milliseconds."""

    nominal: int
    hot: tuple[int, int]
    delay: int
    pixels: NDArray[np.uint32]
    version: int = 1


@dataclass(frozen=True, eq=False)
class PointerComment:
    """A comment chunk; kind: 1 copyright, 2 licence, 3 other."""

    kind: int
    data: bytes
    version: int = 1


@dataclass(frozen=True, eq=False)
class Pointer:
    """A pointer file: its chunks in the order of its table of contents."""

    chunks: tuple[PointerImage | PointerComment, ...]
    version: int = 0x10000

    @property
    def images(self) -> tuple[PointerImage, ...]:
        """Return the images alone."""
        return tuple(c for c in self.chunks if isinstance(c, PointerImage))


def read_pointer(data: bytes, name: str = "pointer") -> Pointer:
    """Return a pointer file; raises PictureError when it is damaged or out of bounds."""
    try:
        return _read(data, name)
    except (struct.error, ValueError) as error:
        raise PictureError(tr("“{name}” is not a readable cursor.").format(name=name)) from error


def _read(data: bytes, name: str) -> Pointer:
    magic, head, version, count = struct.unpack_from("<4sIII", data, 0)
    if magic != MAGIC or count > _MOST_CHUNKS:
        raise PictureError(tr("“{name}” is not a readable cursor.").format(name=name))
    chunks: list[PointerImage | PointerComment] = []
    total, left = 0, len(data)  # no two chunks can be made of the same bytes
    for i in range(count):
        kind, subtype, at = struct.unpack_from("<III", data, head + 12 * i)
        size, own_kind, own_subtype, own_version = struct.unpack_from("<IIII", data, at)
        if (own_kind, own_subtype) != (kind, subtype):
            raise PictureError(tr("“{name}” contradicts its own table of contents.").format(name=name))
        if kind == _IMAGE:
            width, height, x, y, delay = struct.unpack_from("<IIIII", data, at + 16)
            total += width * height
            left -= 4 * width * height
            if left < 0:
                raise PictureError(tr("“{name}” declares more images than its size allows.").format(name=name))
            if width > _MOST_SIDE or height > _MOST_SIDE or total > _MOST_PIXELS:
                raise PictureError(tr("“{name}” contains an image that is too large.").format(name=name))
            pixels = np.frombuffer(data, dtype="<u4", count=width * height, offset=at + size)
            chunks.append(
                PointerImage(subtype, (x, y), delay, pixels.reshape(height, width).astype(np.uint32), own_version)
            )
        elif kind == _COMMENT:
            (length,) = struct.unpack_from("<I", data, at + 16)
            left -= length
            if at + size + length > len(data) or left < 0:
                raise PictureError(tr("“{name}” is truncated.").format(name=name))
            chunks.append(PointerComment(subtype, data[at + size : at + size + length], own_version))
    return Pointer(tuple(chunks), version)


def write_pointer(pointer: Pointer) -> bytes:
    """Return the bytes of a pointer file."""
    at = 16 + 12 * len(pointer.chunks)
    table, body = bytearray(), bytearray()
    for chunk in pointer.chunks:
        position = at + len(body)
        if isinstance(chunk, PointerImage):
            height, width = chunk.pixels.shape
            table += struct.pack("<III", _IMAGE, chunk.nominal, position)
            body += struct.pack(
                "<IIIIIIIII", 36, _IMAGE, chunk.nominal, chunk.version, width, height, *chunk.hot, chunk.delay
            )
            body += chunk.pixels.astype("<u4").tobytes()
        else:
            table += struct.pack("<III", _COMMENT, chunk.kind, position)
            body += struct.pack("<IIIII", 20, _COMMENT, chunk.kind, chunk.version, len(chunk.data)) + chunk.data
    return struct.pack("<4sIII", MAGIC, 16, pointer.version, len(pointer.chunks)) + bytes(table + body)


def straight(pixels: NDArray[np.uint32]) -> tuple[NDArray[np.uint8], NDArray[np.uint8]]:
    """Return (n, 3) colours and (n,) alpha of premultiplied pixels; what is clear is black."""
    flat = pixels.ravel()
    alpha = (flat >> 24).astype(np.uint32)
    parts = np.stack([flat >> 16 & 255, flat >> 8 & 255, flat & 255], axis=-1)
    safe = np.maximum(alpha, 1)[:, None]
    colours = np.minimum(255, (parts * 255 + safe // 2) // safe)
    return colours.astype(np.uint8), alpha.astype(np.uint8)


def premultiplied(colours: NDArray[np.uint8], alpha: NDArray[np.uint8], shape: tuple[int, ...]) -> NDArray[np.uint32]:
    """Return pixels of straight colours and alpha; no channel is above its alpha."""
    a = alpha.astype(np.uint32)
    parts = (colours.astype(np.uint32) * a[:, None] + 127) // 255
    packed = a << 24 | parts[:, 0] << 16 | parts[:, 1] << 8 | parts[:, 2]
    return packed.astype(np.uint32).reshape(shape)


def recoloured_pointer(data: bytes, name: str, chart: ColourMap) -> bytes:
    """Return a pointer file redrawn through the map; the very bytes where no pixel changes."""
    pointer = read_pointer(data, name)
    if not pointer.images:
        return data
    rows = [straight(image.pixels) for image in pointer.images]
    old = np.concatenate([colours for colours, _ in rows])
    new = chart.carry_pixels(old)
    seen = np.concatenate([alpha for _, alpha in rows]) > 0
    if np.array_equal(old[seen], new[seen]):
        return data
    chunks: list[PointerImage | PointerComment] = []
    at, images = 0, iter(rows)
    for chunk in pointer.chunks:
        if isinstance(chunk, PointerImage):
            colours, alpha = next(images)
            own = new[at : at + len(colours)]
            same = (own == colours).all(axis=1)
            fresh = premultiplied(own, alpha, chunk.pixels.shape)
            # A pixel whose colour stays keeps its very bits.
            chunks.append(replace(chunk, pixels=np.where(same.reshape(chunk.pixels.shape), chunk.pixels, fresh)))
            at += len(colours)
        else:
            chunks.append(chunk)
    return write_pointer(Pointer(tuple(chunks), pointer.version))
