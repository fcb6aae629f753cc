"""Image files to sRGB pixels: orientation, profiles, alpha, depth and modes put right, sizes bounded.

The decoders work in a process of their own (`intake.decoder`); here their answer becomes a picture or a sentence.
"""

from __future__ import annotations

import os
from dataclasses import dataclass
from pathlib import Path
from typing import Any

import numpy as np
from numpy.typing import NDArray
from PIL import Image

from ..disk.facts import must_open
from ..errors import PictureError, file_errors
from ..intake.pictures import DECODER, DECODER_S
from ..intake.worker import WorkerLostError, ask
from ..language import tr

Pixels = NDArray[np.uint8]
ANALYSIS_SIDE = 480
SUFFIXES = (".png", ".jpg", ".jpeg", ".webp", ".tif", ".tiff", ".bmp", ".gif", ".avif")
_READABLE = tr("PNG, JPEG, WebP, TIFF, BMP, GIF and AVIF can be opened.")


@dataclass(frozen=True, eq=False)
class LoadedPicture:
    """A decoded picture, possibly smaller than its file says.

    pixels: (height, width, 3) uint8 sRGB, translucent places drawn over black;
    weights: (height, width) floats 0..1, the alpha, or None when all is opaque;
    width, height: the size in the file, turned upright.
    """

    path: Path
    width: int
    height: int
    pixels: Pixels
    weights: NDArray[np.float64] | None = None


def load_picture(path: Path, side: int = ANALYSIS_SIDE) -> LoadedPicture:
    """Read a picture, reduced so that its longer side is not much over `side` device pixels.

    JPEG files are decoded at a reduced scale, so the cost falls with `side`. Deterministic.
    Raises PictureError for what is no picture, damaged, or over 200 megapixels; FileAccessError when unreadable.
    """
    path = Path(path)
    head, data = _decoded(path, {"as": "small", "side": side})
    width, height = head["size"]
    pixels: Pixels = np.frombuffer(data, np.uint8, 3 * width * height).reshape(height, width, 3)
    alpha = None
    if head["alpha"]:
        alpha = np.frombuffer(data, np.uint8, offset=3 * width * height).reshape(height, width).astype(np.float64) / 255
        if float(alpha.min()) >= 1 or float(alpha.max()) <= 0:
            alpha = None
        else:
            pixels = np.rint(pixels * alpha[..., None]).astype(np.uint8)
    return LoadedPicture(path, head["width"], head["height"], pixels, alpha)


def load_image(path: Path) -> Image.Image:
    """Read a whole picture at its full size: upright, sRGB, mode RGB, or RGBA where it has any translucency.

    Raises what load_picture raises.
    """
    head, data = _decoded(Path(path), {"as": "whole"})
    return Image.frombytes(head["mode"], tuple(head["size"]), data)


def _decoded(path: Path, wanted: dict[str, Any]) -> tuple[dict[str, Any], bytearray]:
    """Let the decoder read a picture file; every fault becomes a sentence."""
    with file_errors(path, "open"):
        if path.is_dir():
            raise PictureError(
                tr("“{path}” is a folder, not an image.").format(path=path), tr("Choose an image file in it.")
            )
    handle = must_open(path)
    try:
        if not os.fstat(handle).st_size:
            raise PictureError(tr("“{name}” is empty.").format(name=path.name), tr("Choose another image."))
        head, data = ask(DECODER, wanted, handles=[handle], seconds=DECODER_S)
    except WorkerLostError as error:
        raise PictureError(
            tr("“{name}” is damaged: it could not be read completely.").format(name=path.name), _READABLE
        ) from error
    finally:
        os.close(handle)
    problem = head.get("problem", "damaged" if "raised" in head else "")
    if problem in ("large", "hollow"):
        says = tr("at most 200 are opened") if problem == "large" else tr("far too many for such a small file")
        words = tr("“{name}” declares {head:,.0f} megapixels; {says}.").format(
            name=path.name, head=head["pixels"] / 1000000.0, says=says
        )
        raise PictureError(words, tr("Save a smaller copy first."))
    if problem == "unknown":
        raise PictureError(tr("“{name}” is not a readable image.").format(name=path.name), _READABLE)
    if problem:
        raise PictureError(
            tr("“{name}” is damaged or truncated, so it was not opened.").format(name=path.name), _READABLE
        )
    return head, data
