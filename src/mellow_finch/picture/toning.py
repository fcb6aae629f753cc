"""A picture toned toward a look: its hues pulled to the look's, its light and shade kept in their order."""

from __future__ import annotations

import io
from collections.abc import Mapping
from functools import lru_cache
from pathlib import Path

import numpy as np
from PIL import Image, ImageFilter

from ..colour.gamut import oklch_to_srgb
from ..colour.rgb import Rgba
from ..colour.spaces import Array, oklab_to_oklch, srgb_to_oklab
from ..errors import PictureError
from ..language import parted, tr
from ..progress import Progress
from .fit import FAMILY
from .load import load_image

_NODES = 33  # per axis of the table through which pixels go
_REACH = 0.07  # OKLab distance within which a colour of the look draws others to it
_SHADE = 0.10  # how much a dark look darkens, and a light one lightens, at full strength
SAVED_AS = {".png": "PNG", ".jpg": "JPEG", ".jpeg": "JPEG", ".webp": "WEBP"}


def toned_colours(srgb: Array, colours: Mapping[str, Rgba], strength: float) -> Array:
    """Return (..., 3) sRGB floats toned toward a palette; strength 0 (as they are) .. 1 (the look's hues alone).

    Each colour is drawn to those of the look that lie nearest in hue and chroma. Lightness keeps its order.
    """
    lab = srgb_to_oklab(srgb)
    anchors = srgb_to_oklab(np.array([colours[name].unit for name, _ in FAMILY]))[:, 1:]
    weights = np.array([weight for _, weight in FAMILY])
    distance = ((lab[..., None, 1:] - anchors) ** 2).sum(axis=-1)
    pull = weights * np.exp(-(distance - distance.min(axis=-1, keepdims=True)) / (2 * _REACH**2))
    goal = (pull[..., None] * anchors).sum(axis=-2) / pull.sum(axis=-1)[..., None]
    out = lab.copy()
    out[..., 1:] += (goal - lab[..., 1:]) * strength
    dark = float(srgb_to_oklab(np.array(colours["window"].unit))[0]) < 0.5
    lightness = lab[..., 0]
    out[..., 0] = lightness * (1 - _SHADE * strength) if dark else lightness + (1 - lightness) * _SHADE * strength
    return oklch_to_srgb(oklab_to_oklch(out))


@lru_cache(maxsize=8)
def _table(colours: tuple[tuple[str, Rgba], ...], strength: float) -> ImageFilter.Color3DLUT:
    axis = np.linspace(0, 1, _NODES)
    blue, green, red = np.meshgrid(axis, axis, axis, indexing="ij")  # red runs quickest, as the filter wants it
    nodes = np.stack([red, green, blue], axis=-1).reshape(-1, 3)
    return ImageFilter.Color3DLUT(_NODES, toned_colours(nodes, dict(colours), strength).ravel().tolist())


def toned_image(image: Image.Image, colours: Mapping[str, Rgba], strength: float) -> Image.Image:
    """Return a picture toned toward a palette, its translucency kept; with strength 0 its very pixels."""
    if strength <= 0:
        return image.copy()
    table = _table(tuple((name, colours[name]) for name, _ in FAMILY), min(1.0, round(strength, 3)))
    fresh = image.convert("RGB").filter(table)
    if image.mode == "RGBA":
        fresh.putalpha(image.getchannel("A"))
    return fresh


def toned_name(path: Path, look: str) -> str:
    """Return a name for a toned copy, beside which the original keeps its own."""
    suffix = path.suffix.lower() if path.suffix.lower() in SAVED_AS else ".png"
    return tr("{stem} in {look}{suffix}").format(stem=path.stem, look=look, suffix=suffix)


def toned_file(source: Path, target: Path, colours: Mapping[str, Rgba], strength: float, progress: Progress) -> bytes:
    """Return the bytes of a picture file toned toward a palette, in the format that the target's name asks for.

    Raises PictureError when the target is the original itself or in no format that is written, and what reading raises.
    """
    form = SAVED_AS.get(target.suffix.lower())
    if form is None:
        raise PictureError(
            tr("“{name}” has no image file extension.").format(name=target.name),
            tr("Use one of {names}.").format(names=parted(SAVED_AS)),
        )
    if target.exists() and target.samefile(source):
        raise PictureError(tr("The tinted image would overwrite the original."), tr("Choose another name."))
    progress.report(0, 3, tr("Reading the image"))
    image = load_image(source)
    progress.report(1, 3, tr("Tinting the image"))
    fresh = toned_image(image, colours, strength)
    progress.report(2, 3, tr("Saving the image"))
    stream = io.BytesIO()
    if form == "JPEG" and fresh.mode == "RGBA":
        fresh = fresh.convert("RGB")
    fresh.save(stream, form, **({"quality": 93, "subsampling": 0} if form == "JPEG" else {}))
    progress.report(3, 3, tr("Done"))
    return stream.getvalue()
