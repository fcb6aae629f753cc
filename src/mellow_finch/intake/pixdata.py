"""Pictures in the form into which resource bundles unpack them beforehand: GdkPixbuf's "pixdata", read and made PNG.

Big-endian: "GdkP", length, type, bytes a row, width, height, then pixels, plain or with runs. The toolkit takes a PNG
in the place of one as gladly.
"""

from __future__ import annotations

import io
import struct

import numpy as np
from PIL import Image

from ..errors import PictureError
from ..language import tr

_MAGIC = b"GdkP"
_HEAD = struct.Struct(">4sIIIII")
_CHANNELS = {1: 3, 2: 4}
_PLAIN, _RUNS = 1, 2
_MOST_PIXELS = 4_000_000


def is_pixdata(data: bytes) -> bool:
    """Tell whether bytes are a picture in that form."""
    return data.startswith(_MAGIC)


def png_of(data: bytes, name: str) -> bytes:
    """Return such a picture as PNG. Raises PictureError for one that is damaged or too large."""
    try:
        _, _, kind, stride, width, height = _HEAD.unpack_from(data)
        channels = _CHANNELS[kind & 0xFF]
        pixels = data[_HEAD.size :]
        if not 0 < width * height <= _MOST_PIXELS or stride < width * channels or kind >> 16 & 0xF != 1:
            raise ValueError(kind)
        if kind >> 24 & 0xF == _RUNS:
            pixels, stride = _unrolled(pixels, channels, width * height), width * channels
        elif kind >> 24 & 0xF != _PLAIN:
            raise ValueError(kind)
        last = stride * (height - 1) + width * channels
        if len(pixels) < last:
            raise ValueError(len(pixels))
        rows = np.frombuffer(pixels[:last].ljust(stride * height, b"\0"), dtype=np.uint8).reshape(height, stride)
    except (struct.error, KeyError, ValueError, IndexError) as error:
        raise PictureError(tr("“{name}” is not a readable image.").format(name=name)) from error
    image = Image.fromarray(rows[:, : width * channels].reshape(height, width, channels).copy())
    out = io.BytesIO()
    image.save(out, "PNG")
    return out.getvalue()


def _unrolled(data: bytes, channels: int, count: int) -> bytes:
    """Return the bytes of so many pixels: a head above 127 repeats the next pixel, another takes as many as it says."""
    out = bytearray()
    at, wanted = 0, count * channels
    while len(out) < wanted:
        head = data[at]
        if head & 0x80:
            out += data[at + 1 : at + 1 + channels] * (head & 0x7F)
            at += 1 + channels
        else:
            out += data[at + 1 : at + 1 + head * channels]
            at += 1 + head * channels
    return bytes(out[:wanted])
