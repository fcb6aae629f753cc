"""Pictures decoded, in a process of its own: `python -m mellow_finch.intake.decoder` (see `worker`).

Here are the decoders of seven formats and what puts pixels right: orientation, profiles, depth, modes. No other reader
of the library is loaded, since some start programs.
"""

from __future__ import annotations

import io
import os
import warnings
from typing import Any

from PIL import (  # noqa: F401 - each format that is named, so that the library looks for no others
    AvifImagePlugin,
    BmpImagePlugin,
    GifImagePlugin,
    Image,
    ImageCms,
    JpegImagePlugin,
    PngImagePlugin,
    TiffImagePlugin,
    UnidentifiedImageError,
    WebPImagePlugin,
)

from .worker import Table, allow, serve

FORMATS = ("PNG", "JPEG", "WEBP", "TIFF", "BMP", "GIF", "AVIF")
MAX_PIXELS = 200_000_000
_PLAIN_PIXELS = 40_000_000  # up to which a picture may be of any few bytes
_MOST_RATIO = 400  # pixels to bytes beyond that
Image.MAX_IMAGE_PIXELS = None  # the bound above is ours, looked at before any pixel is decoded


def answer(table: Table, body: bytearray, handles: list[int]) -> tuple[Table, Any]:
    """Decode the picture that is open, or that lies in the body: "small" to a side, "whole", or only "tried".

    The answer has "problem": "unknown", "damaged", "large" or "hollow", or the picture's mode and size.
    """
    warnings.simplefilter("ignore")
    size = os.fstat(handles[0]).st_size if handles else len(body)
    with os.fdopen(os.dup(handles[0]), "rb") if handles else io.BytesIO(body) as stream:
        try:
            image: Image.Image = Image.open(stream, formats=table.get("formats", FORMATS))
        except UnidentifiedImageError:
            return {"problem": "unknown"}, b""
        pixels = image.width * image.height
        if pixels > MAX_PIXELS:
            return {"problem": "large", "pixels": pixels}, b""
        if pixels > _PLAIN_PIXELS and pixels > size * _MOST_RATIO:
            return {"problem": "hollow", "pixels": pixels}, b""
        allow(2 + pixels / 10_000_000, 700_000_000 + 16 * pixels)
        if table["as"] == "small":
            return _small(image, table["side"])
        if table["as"] == "whole":
            return _whole(image)
        image.load()
        return {"frames": getattr(image, "n_frames", 1)}, b""


def _whole(image: Image.Image) -> tuple[Table, Any]:
    profile = image.info.get("icc_profile")
    image.load()
    orientation = _orientation(image)
    plain = _eight_bit(image)
    alpha = None
    if _see_through(plain):
        alpha = plain.convert("RGBA").getchannel("A")
    done = _to_srgb(plain.convert("RGBA") if alpha is not None else plain, profile)
    if alpha is not None:
        done.putalpha(alpha)
    done = _upright(done, orientation)
    return {"mode": done.mode, "size": done.size}, done.tobytes()


def _small(image: Image.Image, side: int) -> tuple[Table, Any]:
    width, height = image.size
    image.draft("CMYK" if image.mode == "CMYK" else "RGB", _draft_size(image, side))
    profile = image.info.get("icc_profile")
    image.load()
    orientation = _orientation(image)
    if orientation >= 5:
        width, height = height, width
    factor = max(1, max(image.size) // side)
    image = _eight_bit(image)
    has_alpha = _see_through(image)
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
    alpha = image.getchannel("A").tobytes() if has_alpha else b""
    image = _to_srgb(image, profile)
    return {"width": width, "height": height, "size": image.size, "alpha": has_alpha}, image.tobytes() + alpha


_TURNS = {
    2: Image.Transpose.FLIP_LEFT_RIGHT,
    3: Image.Transpose.ROTATE_180,
    4: Image.Transpose.FLIP_TOP_BOTTOM,
    5: Image.Transpose.TRANSPOSE,
    6: Image.Transpose.ROTATE_270,
    7: Image.Transpose.TRANSVERSE,
    8: Image.Transpose.ROTATE_90,
}


def _see_through(image: Image.Image) -> bool:
    return image.mode in ("RGBA", "LA", "PA") or "transparency" in image.info


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
        whole = image if image.mode in ("I", "F") else image.convert("I")
        top = 65535.0 if whole.mode == "I" else max(float(whole.getextrema()[1]), 1e-9)  # type: ignore[arg-type]
        return whole.point(lambda v: v * (255 / top) + 0.5).convert("L")
    if image.mode == "P":
        return image.convert("RGBA" if "transparency" in image.info else "RGB")
    if image.mode == "1":
        return image.convert("L")
    return image


def _to_srgb(image: Image.Image, profile: object) -> Image.Image:
    """Return the image as RGB, through its embedded profile where it has a usable one."""
    if isinstance(profile, bytes) and profile:
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


if __name__ == "__main__":
    serve(answer)
