"""Pictures that widgets, bars and launchers show: another in their place, or the same in a colour of the look."""

from __future__ import annotations

import io
import re
from collections.abc import Callable, Iterable, Mapping
from pathlib import Path, PurePosixPath
from typing import NamedTuple

import numpy as np
from PIL import Image

from ...colour.requirement import MARK
from ...colour.rgb import Rgba
from ...colour.spaces import oklab_to_srgb, oklch_to_oklab, srgb_to_oklch
from ...disk.facts import read_plain
from ...errors import FinchError
from ...intake.pictures import opened
from ...palette.fit import fit
from ..decisions import Emblem
from ..files import Files, OutFile, as_bytes
from ..model import Scheme
from ..read.unfold import home_path

KINDS = ("Widgets", "Launchers", "Panels and docks", "Notifications", "Lock and login")
SUFFIXES = (".png", ".jpg", ".jpeg", ".webp", ".gif", ".bmp")
_SHOWN = re.compile(r"\$\{image[ \t]++([^\s}]++)|\burl\(\s*+[\"']?([^\"')\s]++)[\"']?\s*+\)")
_MOST = 20_000_000
_ONE_INK = 0.05  # spread of lightness and of chroma in OKLCH, up to which a picture is drawn in one colour
_FOLDER = ".local/share/mellow-finch/pictures"


class ShownPicture(NamedTuple):
    """A picture that a file shows: the word that names it there, and where it lies from the home folder."""

    word: str
    path: str

    @property
    def name(self) -> str:
        """Return what it is called."""
        return PurePosixPath(self.path).name

    def made(self, owner: str) -> str:
        """Return what the picture is called that a component shows in its place: no two that it shows share one."""
        return f"{owner}-{self.path.replace('/', '-').lstrip('.-')}.png"


def emblems_in(text: str, beside: str, get: Files) -> list[ShownPicture]:
    """Return the pictures that a file at a path shows, each once, those that lie in the home alone."""
    out: dict[str, ShownPicture] = {}
    for found in _SHOWN.finditer(text):
        word = found[1] or found[2]
        path = home_path(get, word, beside)
        if path.lower().endswith(SUFFIXES):
            out.setdefault(path, ShownPicture(word, path))
    return list(out.values())


def emblems_of(files: Iterable[OutFile], get: Files) -> list[ShownPicture]:
    """Return the pictures that the files of a component show, as the home has them; get: the home."""
    out: dict[str, ShownPicture] = {}
    for file in files:
        now = get(file.path)
        if b"\0" not in file.data:
            text = (now if now is not None else file.data).decode("utf-8", "replace")
            out |= {shown.path: shown for shown in emblems_in(text, file.path, get)}
    return list(out.values())


def made_among(files: Iterable[OutFile]) -> dict[str, bytes]:
    """Return, by their file names, the pictures that stand in the place of others among the files of a component."""
    return {f.path.rpartition("/")[2]: f.data for f in files if f.path.startswith(f"{_FOLDER}/")}


def with_emblems(files: tuple[OutFile, ...], owner: str, scheme: Scheme, get: Files) -> tuple[OutFile, ...]:
    """Return the files of a component with the pictures that were asked for, and these pictures.

    What cannot be read stays as it is. Another picture is laid out as large as the one whose place it takes.
    """
    asked = scheme.decided(owner).emblems
    if not asked:
        return files
    out, made = [], {}
    for file in files:
        if b"\0" in file.data:
            out.append(file)
            continue
        text = file.data.decode("utf-8", "surrogateescape")
        for shown in emblems_in(text, file.path, get):
            emblem = asked.get(shown.name)
            data = _drawn(shown, emblem, scheme, get) if emblem is not None else None
            if data is None:
                continue
            target = f"{_FOLDER}/{scheme.folder}/{shown.made(owner)}"
            made[target] = OutFile(target, data)
            word = f"~/{target}" if shown.word.startswith("~") else f"{get.place('')}/{target}"
            text = _SHOWN.sub(_swap(shown.word, word), text)
        out.append(OutFile(file.path, as_bytes(text)))
    return (*out, *made.values())


def _swap(old: str, new: str) -> Callable[[re.Match[str]], str]:
    return lambda m: m[0].replace(old, new) if old in (m[1], m[2]) else m[0]


def _drawn(shown: ShownPicture, emblem: Emblem, scheme: Scheme, get: Files) -> bytes | None:
    """Return the picture as PNG, None where it is the same one or nothing can be read."""
    try:
        old = get(shown.path)
        new = read_plain(Path(emblem.file), _MOST) if emblem.file else old
        if new is None or not (emblem.file or emblem.role):
            return None
        image = opened(new, shown.name).convert("RGBA")
        if emblem.file and old is not None:
            image = _within(image, opened(old, shown.name).size)
    except FinchError:
        return None
    if emblem.role in scheme.colours:
        image = tinted(image, sign_colour(emblem.role, scheme))
    out = io.BytesIO()
    image.save(out, "PNG")
    return out.getvalue()


def _within(image: Image.Image, size: tuple[int, int]) -> Image.Image:
    """Return a picture in the middle of a room of another's size, its sides in their proportion."""
    share = min(size[0] / image.width, size[1] / image.height)
    small = image.resize((max(1, round(image.width * share)), max(1, round(image.height * share))))
    out = Image.new("RGBA", size, (0, 0, 0, 0))
    out.paste(small, ((size[0] - small.width) // 2, (size[1] - small.height) // 2))
    return out


def sign_colour(role: str, scheme: Scheme) -> Rgba:
    """Return a role's colour, moved by the least so that a sign in it shows on panels and what lies behind them."""
    better = fit(scheme.colours[role], [(face, MARK.level) for face in scheme.faces("panel")])
    return better if better is not None else scheme.colours[role]


def tinted(image: Image.Image, colour: Rgba) -> Image.Image:
    """Return a picture (RGBA) in one colour: of one ink exactly that, else its own lightness in that hue.

    The lightness of its brightest ink becomes that of the colour; transparency stays.
    """
    pixels = np.array(image)
    ink = pixels[..., 3] > 0
    if not ink.any():
        return image
    lch = srgb_to_oklch(pixels[ink][:, :3].astype(np.float64) / 255)
    light, chroma, hue = srgb_to_oklch(np.asarray(colour.unit)).tolist()
    if float(lch[:, 0].std()) < _ONE_INK and float(lch[:, 1].std()) < _ONE_INK:
        pixels[ink, :3] = colour[:3]
        return Image.fromarray(pixels, "RGBA")
    share = lch[:, 0] / max(1e-6, float(lch[:, 0].max()))
    fresh = np.stack([light * share, chroma * share, np.full(len(share), hue)], axis=-1)
    pixels[ink, :3] = np.rint(np.clip(oklab_to_srgb(oklch_to_oklab(fresh)), 0, 1) * 255).astype(np.uint8)
    return Image.fromarray(pixels, "RGBA")


def fits(name: str, role: str, roles: Mapping[str, object] | frozenset[str]) -> bool:
    """Tell whether a picture of a component can have a name, and a role be one, or none."""
    return bool(name) and "/" not in name and (not role or role in roles)
