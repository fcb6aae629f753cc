"""Pictures that go with a look: a folder of them ranked, and the look's own toned toward it.

Knows the document and the jobs, and no widget: it tells by signals what there is to show.
"""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path

import numpy as np
from PIL import Image
from PyQt6.QtCore import QObject, pyqtSignal
from PyQt6.QtGui import QImage

from ...disk.write import save
from ...errors import line_of
from ...language import tr
from ...picture.load import load_picture
from ...picture.rank import PictureCache, Ranked, pictures_in, rank
from ...picture.toning import toned_file, toned_image
from ...wear.places import cache_folder
from ..kit.jobs import JobProgress, Jobs
from .document import Document
from .gathered import Gathered, image_of


class Matching(QObject):
    """Ranks and tones, each in a job that can be stopped."""

    busy = pyqtSignal(str)  # what is being done, empty when nothing is
    trouble = pyqtSignal(str)
    said = pyqtSignal(str)
    ranked = pyqtSignal(object)  # a Ranked picture as soon as it is known
    rank_done = pyqtSignal(object)  # all of them, best first
    rank_progress = pyqtSignal(int, int)
    toned = pyqtSignal(object)  # the QImage of a toned preview, or None

    def __init__(self, document: Document, jobs: Jobs, known: Callable[[str], Gathered | None]) -> None:
        """known: a picture that was opened, by its path."""
        super().__init__()
        self._document, self._jobs, self._known = document, jobs, known
        self.tone_strength = 0.0

    def stop(self) -> None:
        """Stop ranking and toning."""
        for key in ("folder", "toned"):
            self._jobs.cancel(key)
        self.busy.emit("")
        self.rank_progress.emit(0, 0)

    def _failed(self, error: Exception) -> None:
        self.busy.emit("")
        self.trouble.emit(line_of(error))

    def rank_folder(self, folder: Path) -> None:
        """Rank the pictures of a folder by how well they go with the look."""
        look = self._document.look
        if look is None:
            self.trouble.emit(tr("Choose an image or a scheme first: images are sorted by how well they match it."))
            return
        colours = look.colours

        def work(progress: JobProgress) -> list[Ranked]:
            paths = pictures_in(folder)
            return rank(paths, colours, progress, PictureCache(cache_folder()), progress.give)

        def done(rows: list[Ranked]) -> None:
            self.rank_progress.emit(0, 0)
            if not rows:
                self.trouble.emit(tr("There is no image in “{name}”.").format(name=folder.name))
            self.rank_done.emit(rows)

        def failed(error: Exception) -> None:
            self.rank_progress.emit(0, 0)
            self._failed(error)

        self.rank_progress.emit(0, 1)
        self._jobs.start("folder", work, done, failed, self.ranked.emit)

    def preview_tone(self, strength: float) -> None:
        """Show the picture toned toward the look, at a strength of 0..1; 0 shows it as it is."""
        self.tone_strength = strength
        look = self._document.look
        shown = self._known(look.source) if look is not None else None
        if look is None or shown is None or strength <= 0:
            self._jobs.cancel("preview")
            self.toned.emit(None)
            return
        path, colours = shown.path, look.colours

        def work(_progress: JobProgress) -> QImage:
            image = Image.fromarray(load_picture(path, 1200).pixels)
            return image_of(np.asarray(toned_image(image, colours, strength)))

        self._jobs.start("preview", work, self.toned.emit, self._failed)

    def save_toned(self, target: Path) -> None:
        """Write the picture toned toward the look as a new file; the original stays as it is."""
        look = self._document.look
        if look is None or not look.source:
            return
        source, colours, strength = Path(look.source), look.colours, self.tone_strength

        def work(progress: JobProgress) -> Path:
            save(target, toned_file(source, target, colours, strength, progress))
            return target

        def done(path: Path) -> None:
            self.busy.emit("")
            self.said.emit(tr("Saved as {name}. Open it to make it the wallpaper.").format(name=path.name))

        self._jobs.start("toned", work, done, self._failed)
