"""From picture files to a look."""

from __future__ import annotations

from collections.abc import Sequence
from pathlib import Path

from ..colour.rgb import Rgba
from ..palette.recipe import Tone
from ..palette.readings import readings_of
from ..picture.backdrop import Backdrop, backdrop_of
from ..picture.gather import gather_loaded
from ..picture.load import load_picture
from .model import Look, derived_look


def name_of(path: Path) -> str:
    """Return a name for people from a file's name: "reedbed-at-dawn.jpg" gives "Reedbed at dawn"."""
    words = path.stem.replace("-", " ").replace("_", " ").split()
    text = " ".join(words)
    return text[:1].upper() + text[1:] if text else "Look"


def look_of_pictures(paths: Sequence[Path], tone: Tone, accent: Rgba | None = None) -> Look:
    """Return the likeliest look of one or several pictures. Raises what reading them raises."""
    pictures = [load_picture(Path(p)) for p in paths]
    swatches = gather_loaded(pictures)
    pins = (accent,) if accent else ()
    recipe = readings_of(swatches, pins)[0].recipe
    drops = [backdrop_of(p) for p in pictures]
    mean = drops[0].mean
    backdrop = Backdrop(
        min((d.darkest for d in drops), key=lambda c: c.r + c.g + c.b),
        max((d.lightest for d in drops), key=lambda c: c.r + c.g + c.b),
        mean,
    )
    return derived_look(name_of(paths[0]), recipe, tone, str(paths[0]), backdrop, pins)
