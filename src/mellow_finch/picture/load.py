"""Image files to sRGB pixels: orientation, profiles, alpha, depth and modes put right, sizes bounded."""

from __future__ import annotations

import io
import os
import struct
import warnings
from collections.abc import Iterator
from contextlib import contextmanager
from dataclasses import dataclass
from pathlib import Path

import numpy as np
from numpy.typing import NDArray
from PIL import Image, UnidentifiedImageError

from ..disk.facts import open_plain
from ..errors import FileAccessError, PictureError, file_errors

Pixels = NDArray[np.uint8]
Image.MAX_IMAGE_PIXELS = None  # the bound below is ours, checked before any pixel is decoded
MAX_PIXELS = 200_000_000
ANALYSIS_SIDE = 480
SUFFIXES = (".png", ".jpg", ".jpeg", ".webp", ".tif", ".tiff", ".bmp", ".gif", ".avif")
FORMATS = ("PNG", "JPEG", "WEBP", "TIFF", "BMP", "GIF", "AVIF")


@dataclass(frozen=True, eq=False)
class Picture:
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


@contextmanager
def _picture_errors(path: Path) -> Iterator[None]:
    try:
        yield
    except UnidentifiedImageError as error:
        raise PictureError(f"“{path.name}” is not a picture that can be read.", _READABLE) from error
    except (
        OSError, SyntaxError, ValueError, EOFError, OverflowError, MemoryError, IndexError, TypeError, RuntimeError,
        KeyError, AttributeError, AssertionError, ZeroDivisionError, struct.error,
    ) as error:  # fmt: skip
        raise PictureError(f"“{path.name}” is damaged or cut short, so it was not opened.", _READABLE) from error


_READABLE = "PNG, JPEG, WebP, TIFF, BMP, GIF and AVIF can be opened."


def load_picture(path: Path, side: int = ANALYSIS_SIDE) -> Picture:
    """Read a picture, reduced so that its longer side is not much over `side` device pixels.

    JPEG files are decoded at a reduced scale, so the cost falls with `side`. Deterministic.
    Raises PictureError for what is no picture, damaged, or over 200 megapixels; FileAccessError when unreadable.
    """
    path = Path(path)
    with _opened(path) as image, _picture_errors(path):
        return _decode(path, image, side)


def load_image(path: Path) -> Image.Image:
    """Read a whole picture at its full size: upright, sRGB, mode RGB, or RGBA where it has any translucency.

    Raises what load_picture raises.
    """
    path = Path(path)
    with _opened(path) as image, _picture_errors(path):
        profile = image.info.get("icc_profile")
        image.load()
        orientation = _orientation(image)
        plain = _eight_bit(image)
        alpha = None
        if plain.mode in ("RGBA", "LA", "PA") or "transparency" in plain.info:
            alpha = plain.convert("RGBA").getchannel("A")
        done = _to_srgb(plain.convert("RGBA") if alpha is not None else plain, profile)
        if alpha is not None:
            done.putalpha(alpha)
        return _upright(done, orientation)


@contextmanager
def _opened(path: Path) -> Iterator[Image.Image]:
    """Open a picture file without decoding its pixels; every fault becomes a sentence."""
    with file_errors(path, "open"):
        if path.is_dir():
            raise PictureError(f"“{path}” is a folder, not a picture.", "Choose a picture file in it.")
        handle = open_plain(path)
        if handle is None:
            raise FileAccessError(f"Could not open “{path}”: there is no such file.", path)
        size = os.fstat(handle).st_size
        stream = os.fdopen(handle, "rb")
    with stream, warnings.catch_warnings():
        warnings.simplefilter("ignore")
        if size == 0:
            raise PictureError(f"“{path.name}” is empty.", "Choose another picture.")
        with _picture_errors(path):
            image: Image.Image = Image.open(stream, formats=FORMATS)
        if image.width * image.height > MAX_PIXELS:
            millions = image.width * image.height / 1e6
            raise PictureError(
                f"“{path.name}” says it holds {millions:,.0f} megapixels; 200 is the most that is opened.",
                "Save a smaller copy first.",
            )
        yield image


def _decode(path: Path, image: Image.Image, side: int) -> Picture:
    width, height = image.size
    image.draft("CMYK" if image.mode == "CMYK" else "RGB", _draft_size(image, side))
    profile = image.info.get("icc_profile")
    image.load()
    orientation = _orientation(image)
    if orientation >= 5:
        width, height = height, width
    factor = max(1, max(image.size) // side)
    image = _eight_bit(image)
    has_alpha = image.mode in ("RGBA", "LA", "PA") or "transparency" in image.info
    if has_alpha:
        image = image.convert("RGBA")
    if factor > 3:  # every second or third pixel is plenty for averaging, and much cheaper than all of them
        image = image.resize(
            (max(1, image.width * 2 // factor), max(1, image.height * 2 // factor)), Image.Resampling.NEAREST
        )
        factor = 2
    if factor > 1:
        image = image.reduce(factor)
    image = _upright(image, orientation)
    alpha = np.asarray(image.getchannel("A"), dtype=np.float64) / 255 if has_alpha else None
    image = _to_srgb(image, profile)
    pixels = np.asarray(image, dtype=np.uint8)
    if alpha is not None:
        if float(alpha.min()) >= 1 or float(alpha.max()) <= 0:
            alpha = None
        else:
            pixels = np.rint(pixels * alpha[..., None]).astype(np.uint8)
    return Picture(path, width, height, pixels, alpha)


_TURNS = {
    2: Image.Transpose.FLIP_LEFT_RIGHT,
    3: Image.Transpose.ROTATE_180,
    4: Image.Transpose.FLIP_TOP_BOTTOM,
    5: Image.Transpose.TRANSPOSE,
    6: Image.Transpose.ROTATE_270,
    7: Image.Transpose.TRANSVERSE,
    8: Image.Transpose.ROTATE_90,
}


def _orientation(image: Image.Image) -> int:
    """Return how a loaded picture still has to be turned, 1..8; readers of some formats have turned it already."""
    found = image.getexif().get(0x0112, 1)
    return found if found in _TURNS else 1


def _upright(image: Image.Image, orientation: int) -> Image.Image:
    """Return the picture turned as its file says."""
    return image.transpose(_TURNS[orientation]) if orientation in _TURNS else image


def _draft_size(image: Image.Image, side: int) -> tuple[int, int]:
    scale = max(image.size) / max(side, 1)
    return max(1, int(image.width / scale)), max(1, int(image.height / scale))


def _eight_bit(image: Image.Image) -> Image.Image:
    """Bring 16-bit and float greys to 8 bits by their full range, palettes to colours."""
    if image.mode.startswith("I") or image.mode == "F":
        values = np.asarray(image, dtype=np.float64)
        top = 65535.0 if image.mode.startswith("I") else max(float(np.nanmax(values)), 1e-9)
        scaled = np.nan_to_num(np.clip(values / top, 0, 1))
        return Image.fromarray(np.rint(scaled * 255).astype(np.uint8))
    if image.mode == "P":
        return image.convert("RGBA" if "transparency" in image.info else "RGB")
    if image.mode == "1":
        return image.convert("L")
    return image


def _to_srgb(image: Image.Image, profile: object) -> Image.Image:
    """Return the image as RGB, through its embedded profile where it has a usable one."""
    if isinstance(profile, bytes) and profile:
        from PIL import ImageCms  # only pictures with a profile pay for the colour engine

        base = image.convert("RGB") if image.mode in ("RGBA", "P", "LA") else image
        try:
            source = ImageCms.ImageCmsProfile(io.BytesIO(profile))
            target = ImageCms.createProfile("sRGB")
            done = ImageCms.profileToProfile(base, source, target, outputMode="RGB")
            if done is not None:
                return done
        except (ImageCms.PyCMSError, OSError, ValueError):
            pass  # a profile that does not fit its pixels is ignored, as viewers do
    return image.convert("RGB")
