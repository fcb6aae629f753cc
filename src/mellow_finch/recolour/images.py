"""Pictures redrawn through a theme's map: their size, mode and metadata stay."""

from __future__ import annotations

import io
import struct
from typing import Any

import numpy as np
from numpy.typing import NDArray
from PIL import Image
from PIL.PngImagePlugin import PngInfo

from ..colour.spaces import srgb_to_oklab
from ..intake.pictures import frames_of, opened
from .colour_map import ColourMap, packed, unpacked

_SMALL = 65_536  # pixels of a picture whose colours are looked at one by one
_PHOTOGRAPH = 400  # pixels a side from which a picture with very many colours counts as a photograph
_LARGE = 1_000_000  # pixels from which it does whatever its sides are
_MANY = 20_000
KINDS = (".png", ".gif", ".bmp", ".webp")


def recoloured_image(data: bytes, name: str, chart: ColourMap) -> bytes:
    """Return a picture file redrawn through the map, or the very bytes where nothing changes or must not.

    Palettes are carried over as palettes, greys as greys; photographs, animations and pictures of more than eight bits
    a channel stay as they are. Raises PictureError for what is no picture.
    """
    image = opened(data, name)
    if frames_of(image) > 1 or image.mode not in ("P", "L", "LA", "RGB", "RGBA") or not image.width:
        return data
    fresh = _redrawn(image, chart)
    if fresh is None:
        return data
    out = io.BytesIO()
    quick = {"compress_level": 3} if image.format == "PNG" and image.width * image.height > _LARGE else {}
    fresh.save(out, image.format or "PNG", **_kept(image), **quick)
    return out.getvalue()


def colours_in(data: bytes, name: str) -> NDArray[np.uint8] | None:
    """Return the (n, 3) colours on which alone it depends how a small picture is redrawn, None for a large one.

    Raises PictureError for what is no picture.
    """
    if _is_large_png(data):
        return None
    image = opened(data, name)
    if image.mode == "P":
        return np.array(image.getpalette() or [], dtype=np.uint8).reshape(-1, 3)
    if image.width * image.height > _SMALL or image.mode not in ("RGB", "RGBA"):
        return None
    return unpacked(np.unique(packed(np.asarray(image)[..., :3].reshape(-1, 3))))


def _is_large_png(data: bytes) -> bool:
    """Tell by its first chunk, so that it need not be decoded, whether a PNG has many pixels and no palette."""
    if len(data) < _PNG_HEAD.size or not data.startswith(b"\x89PNG\r\n\x1a\n"):
        return False
    width, height, kind = _PNG_HEAD.unpack_from(data)
    return bool(kind != _PALETTE and width * height > _SMALL)


_PNG_HEAD, _PALETTE = struct.Struct(">16xIIxB"), 3


def _redrawn(image: Image.Image, chart: ColourMap) -> Image.Image | None:
    if image.mode == "P":
        raw = image.getpalette() or []
        if not raw:
            return None
        old = np.array(raw, dtype=np.uint8).reshape(-1, 3)
        new = chart.carry_pixels(old)
        if np.array_equal(old, new):
            return None
        fresh = image.copy()
        fresh.putpalette(new.astype(np.uint8).tobytes())
        return fresh
    pixels = np.array(image)
    if image.mode in ("L", "LA"):
        grey = pixels[..., :1] if image.mode == "LA" else pixels[..., None]
        new = _as_greys(chart)[grey]
        carried = np.concatenate([new, pixels[..., 1:]], axis=-1) if image.mode == "LA" else new[..., 0]
    else:
        flat = pixels[..., :3].reshape(-1, 3)
        if (min(image.size) >= _PHOTOGRAPH or len(flat) >= _LARGE) and _is_photograph(flat):
            return None
        new = chart.carry_pixels(flat).reshape(*pixels.shape[:2], 3)
        carried = np.concatenate([new, pixels[..., 3:]], axis=-1)
    if np.array_equal(carried, pixels):
        return None
    return Image.fromarray(carried.astype(np.uint8), image.mode)


def _is_photograph(flat: Any) -> bool:
    sample = flat[:: max(1, len(flat) // 60_000)]
    return len(np.unique(packed(sample))) > min(_MANY, len(sample) // 6)


def _as_greys(chart: ColourMap) -> Any:
    """Return (256,) new greys: the luminance of what each grey becomes."""
    ramp = np.repeat(np.arange(256)[:, None], 3, axis=1) / 255
    light = srgb_to_oklab(chart.carry(ramp))[:, 0]
    own = srgb_to_oklab(ramp)[:, 0]
    return np.rint(np.interp(light, own, np.arange(256))).astype(np.uint8)


def _kept(image: Image.Image) -> dict[str, Any]:
    """Return what has to be handed on when a picture is saved again."""
    info: dict[str, Any] = {k: image.info[k] for k in ("dpi", "icc_profile", "exif", "transparency") if k in image.info}
    if image.format == "PNG":
        texts = PngInfo()
        for key, value in getattr(image, "text", {}).items():
            texts.add_text(key, str(value), zip=len(str(value)) > 200)
        info["pnginfo"] = texts
        if isinstance(info.get("transparency"), tuple):
            info.pop("transparency")  # the colour that was translucent is another one now
    if image.format == "WEBP":
        info["lossless"] = True
    return info
