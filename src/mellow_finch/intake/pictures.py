"""Pictures inside themes: few formats by name, bounded; the largest reader tries them first in a process of its own."""

from __future__ import annotations

import io
import struct

from PIL import Image, UnidentifiedImageError

from ..errors import PictureError
from ..language import tr
from .worker import WorkerLostError, ask

MOST_PIXELS = 16_000_000
DECODER, DECODER_S = "mellow_finch.intake.decoder", 25.0
_FORMATS = ("PNG", "GIF", "BMP", "WEBP")  # no other: a reader of another format may start a program
_PLAIN_PIXELS = 1_000_000  # up to which a picture may be of any few bytes
_MOST_RATIO = 400  # pixels to bytes beyond that
# What the library raises for damaged pictures.
_FOREIGN: tuple[type[Exception], ...] = (
    UnidentifiedImageError, OSError, ValueError, SyntaxError, EOFError, Image.DecompressionBombError, IndexError,
    TypeError, KeyError, OverflowError, MemoryError, AttributeError, RuntimeError, AssertionError, struct.error,
    WorkerLostError,
)  # fmt: skip


def opened(data: bytes, name: str) -> Image.Image:
    """Return a picture, loaded, its frames counted; raises PictureError for what is none or too large."""
    damaged = PictureError(tr("“{name}” is not a readable image.").format(name=name))
    try:
        image: Image.Image = Image.open(io.BytesIO(data), formats=_FORMATS)
        pixels = image.width * image.height
        if pixels > MOST_PIXELS or (pixels > _PLAIN_PIXELS and pixels > _MOST_RATIO * len(data)):
            raise PictureError(tr("“{name}” has more pixels than allowed for a theme's image.").format(name=name))
        if (
            image.format == "WEBP"
            and "frames" not in ask(DECODER, {"as": "tried", "formats": ["WEBP"]}, data, seconds=DECODER_S)[0]
        ):
            raise damaged
        image.load()
        frames_of(image)
    except PictureError:
        raise
    except _FOREIGN as error:
        raise damaged from error
    return image


def frames_of(image: Image.Image) -> int:
    """Return how many frames a picture has; one that `opened` returned raises nothing."""
    return int(getattr(image, "n_frames", 1))
