"""The pictures of a folder, ranked by how well they go with a palette; what was read once is kept on disk."""

from __future__ import annotations

import hashlib
import io
import json
import os
import tempfile
from collections.abc import Callable, Iterator, Mapping
from dataclasses import dataclass
from pathlib import Path

from PIL import Image

from ..colour.rgb import Rgba, parse_hex
from ..disk.facts import read_plain
from ..errors import FinchError, file_errors
from ..language import tr
from ..progress import Progress
from .fit import fit
from .load import SUFFIXES, load_picture
from .swatches import Swatch, swatches_of

THUMBNAIL = (176, 110)
_SIDE = 240  # pixels to which pictures are reduced for their colours: as good for eight swatches, and quicker
_SWATCHES = 8
_MOST_PICTURES = 5000
_MOST_KEPT = 6000
_MOST_ROW = 1_000_000  # bytes of what is kept of a picture
_VERSION = 1


@dataclass(frozen=True)
class PictureSummary:
    """What is kept of a picture: its true size, its swatches, and a thumbnail as JPEG bytes."""

    width: int
    height: int
    swatches: tuple[Swatch, ...]
    thumbnail: bytes


@dataclass(frozen=True)
class Ranked:
    """A picture of a folder with its fit, 0..100; for one that could not be read, the sentence that says why."""

    path: Path
    fit: float
    seen: PictureSummary | None
    problem: str = ""


class PictureCache:
    """Swatches and thumbnails on disk, found by a file's path, time and size; faults of the disk are passed over."""

    def __init__(self, folder: Path) -> None:
        self._folder = folder

    def _name(self, path: Path) -> str:
        info = path.stat()
        text = f"{_VERSION}\0{path.resolve()}\0{info.st_mtime_ns}\0{info.st_size}"
        return hashlib.sha256(text.encode("utf-8", "surrogateescape")).hexdigest()[:32]

    def get(self, path: Path) -> PictureSummary | None:
        """Return what is kept of a picture that has not changed since."""
        try:
            head, _, thumbnail = (read_plain(self._folder / self._name(path), _MOST_ROW) or b"").partition(b"\n")
            data = json.loads(head)
            rows = tuple(Swatch(parse_hex(c), float(s), (float(x), float(y)), bool(v)) for c, s, x, y, v in data["s"])
            return PictureSummary(int(data["w"]), int(data["h"]), rows, thumbnail)
        except (OSError, FinchError, ValueError, KeyError, TypeError):
            return None

    def put(self, path: Path, seen: PictureSummary) -> None:
        """Keep what was read of a picture."""
        rows = [[s.colour.hex, s.share, *s.at, s.vivid] for s in seen.swatches]
        head = json.dumps({"w": seen.width, "h": seen.height, "s": rows}).encode("ascii")
        try:
            self._folder.mkdir(parents=True, exist_ok=True)
            handle, name = tempfile.mkstemp(dir=self._folder, prefix=".")
            with os.fdopen(handle, "wb") as stream:
                stream.write(head + b"\n" + seen.thumbnail)
            Path(name).replace(self._folder / self._name(path))
        except OSError:
            pass  # without it the picture is read once more the next time

    def prune(self, most: int = _MOST_KEPT) -> None:
        """Drop the oldest rows over a number."""
        try:
            rows = sorted(self._folder.iterdir(), key=lambda p: p.stat().st_mtime)
            for row in rows[: max(0, len(rows) - most)]:
                row.unlink()
        except OSError:
            pass


def look_at(path: Path, kept: PictureCache | None = None) -> PictureSummary:
    """Return a picture's swatches and thumbnail, from what is kept where it has not changed since.

    Raises PictureError or FileAccessError for a picture that cannot be read.
    """
    found = kept.get(path) if kept is not None else None
    if found is None:
        picture = load_picture(path, _SIDE)
        image = Image.fromarray(picture.pixels)
        image.thumbnail(THUMBNAIL, Image.Resampling.BOX)
        stream = io.BytesIO()
        image.save(stream, "JPEG", quality=82)
        found = PictureSummary(picture.width, picture.height, swatches_of(picture, _SWATCHES), stream.getvalue())
        if kept is not None:
            kept.put(path, found)
    return found


def pictures_in(folder: Path) -> list[Path]:
    """Return the picture files of a folder and of those in it, by name; hidden ones are left out.

    Raises FileAccessError when the folder cannot be read.
    """

    def walk(at: Path) -> Iterator[Path]:
        for entry in sorted(at.iterdir()):
            if entry.name.startswith("."):
                continue
            if entry.is_dir() and not entry.is_symlink():
                try:
                    yield from walk(entry)
                except OSError:
                    continue  # a folder of others inside it is passed over
            elif entry.suffix.lower() in SUFFIXES and entry.is_file():
                yield entry

    found: list[Path] = []
    with file_errors(folder, "read"):
        for path in walk(folder):
            found.append(path)
            if len(found) >= _MOST_PICTURES:
                break
    return found


def rank(
    paths: list[Path],
    colours: Mapping[str, Rgba],
    progress: Progress,
    kept: PictureCache | None = None,
    give: Callable[[Ranked], None] = lambda _: None,
) -> list[Ranked]:
    """Return pictures by how well they go with a palette, best first; those that cannot be read come last.

    give is told of each picture as soon as it was read. Only one picture is in memory at a time.
    """
    rows: list[Ranked] = []
    for i, path in enumerate(paths):
        progress.report(i, len(paths), tr("Comparing {name}").format(name=path.name))
        try:
            seen = look_at(path, kept)
            row = Ranked(path, fit(seen.swatches, colours), seen)
        except FinchError as error:
            row = Ranked(path, 0.0, None, error.line())
        rows.append(row)
        give(row)
    if kept is not None:
        kept.prune()
    progress.report(len(paths), len(paths), tr("Sorted"))
    return sorted(rows, key=lambda r: (r.seen is None, -r.fit, r.path))
