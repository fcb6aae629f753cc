"""Everything that brings colours in: pictures, several of them, schemes, palette files, themes.

Knows the document and the jobs, and no widget: it tells by signals what there is to show.
"""

from __future__ import annotations

from collections.abc import Callable, Sequence
from pathlib import Path

from PyQt6.QtCore import QObject, pyqtSignal

from ...disk.facts import first_bytes
from ...errors import FinchError
from ...intake.archives import archive_kind
from ...language import plural, tr
from ...look.carry import read_look
from ...look.file import SUFFIX
from ...look.from_colours import look_of_list, moved_of_terminal
from ...look.from_theme import Taken, holds_theme, look_of_files, start_of_theme
from ...look.interchange.catalogue import holds_palette, is_palette_name, read_palette
from ...look.interchange.model import ColourList
from ...look.model import Look, Origin
from ...look.ready import READY_BY_ID
from ...picture.load import SUFFIXES
from ...picture.rank import pictures_in
from ...shelf.parcel import is_parcel
from ...syntax.catalogue import format_of
from ..kit.jobs import Jobs
from .document import Document
from .opening_pictures import PictureOpening

_MOST_TOGETHER = 24  # pictures of a slideshow that are read for one look


class Opening(PictureOpening):
    """Opens whatever brings colours in."""

    problems = pyqtSignal(str, object)  # a palette file's name, and what could not be read of it
    parcel_found = pyqtSignal(object)  # the path of a parcel of a look
    themes_named = pyqtSignal(object)  # the paths of themes that a look names which may be read
    theme_found = pyqtSignal(object)  # the path of a theme, configuration or archive to be recoloured

    def __init__(self, document: Document, jobs: Jobs, parent: QObject | None = None) -> None:
        super().__init__(document, jobs, parent)
        self._taken: dict[Origin | None, Taken] = {}

    def start_from(self, picture: str, dark: bool | None) -> None:
        """Open the picture of the desktop, dark or light as the desktop is."""
        self._first_tone = "light" if dark is False else "dark"
        self.open_path(picture)

    def open_path(self, path: str) -> None:
        """Open one file, whatever it is."""
        self.open_paths([path])

    def open_paths(self, paths: Sequence[str], recolour: bool = False) -> None:
        """Open what was dropped or chosen: one look, palette or theme, or one or several pictures.

        recolour: whether a file that may be either is to be recoloured rather than to be taken colours from.
        """
        files = [Path(p) for p in paths]
        first = files[0]
        if first.suffix == SUFFIX:
            self.open_look(first)
        elif first.suffix.lower() in SUFFIXES:
            self._open_pictures([p for p in files if p.suffix.lower() in SUFFIXES])
        elif first.suffix.lower() == ".zip" and is_parcel(first):
            self.parcel_found.emit(first)
        elif is_theme(first, recolour):
            if self._document.look is not None:
                self.theme_found.emit(first)
            else:  # there is nothing to recolour it by yet, so the look starts from it
                self.open_theme(first, bring=True)
        elif first.is_dir():
            self._open_folder(first)
        elif first.suffix == ".css" and not holds_properties(first):
            self.open_theme(first)
        elif is_palette(first):
            self.open_palette(first)
        else:
            self._open_pictures(files)

    def _open_folder(self, folder: Path) -> None:
        """Open a theme's folder as a start, a folder of pictures as a slideshow."""
        try:
            pictures = [] if holds_theme(folder) else pictures_in(folder)
        except FinchError as error:
            self.trouble.emit(error.line())
            return
        if not pictures:
            self.open_theme(folder)
            return
        if len(pictures) > _MOST_TOGETHER:
            self.said.emit(
                tr("Only the first {most_together} of {count} images are used.").format(
                    most_together=_MOST_TOGETHER, count=len(pictures)
                )
            )
        self._open_pictures(pictures[:_MOST_TOGETHER])

    def open_scheme(self, name: str) -> None:
        """Take the colours of a scheme that ships; the picture stays behind the desktop."""
        scheme = READY_BY_ID[name]
        self._take(tr("Scheme {title}").format(title=scheme.title), scheme.look(self._document.look))

    def _attempt(self, doing: str, make: Callable[[], Look]) -> None:
        try:
            fresh = make()
        except FinchError as error:
            self.trouble.emit(error.line())
            return
        self.trouble.emit("")
        self._take(doing, fresh)

    def open_palette(self, path: Path) -> None:
        """Take the colours of a palette file; what could not be read of it is told."""
        look = self._document.look
        try:
            found: ColourList = read_palette(path)
        except FinchError as error:
            self.trouble.emit(error.line())
            return
        self.problems.emit(path.name, found.problems)

        def make() -> Look:
            fresh = look_of_list(found, self._tone, look)
            moved, given = moved_of_terminal(found, fresh)
            if moved and self.keeps_given(path.name, moved, given):
                return look_of_list(found, self._tone, look, as_given=True)
            return fresh

        self._attempt(tr("Import {name}").format(name=path.name), make)
        self.said.emit(
            plural(
                "{count} colour from {name}, {known} recognised by its role.",
                "{count} colours from {name}, {known} of them recognised by their role.",
                len(found.entries),
                name=path.name,
                known=len(found.roles),
            )
        )

    def open_theme(self, path: Path, bring: bool = False) -> None:
        """Start from a theme that exists: its colours in their roles; bring: whether it is imported as well."""
        look, tone = self._document.look, self._tone

        def done(started: tuple[Look, Taken]) -> None:
            fresh, taken = started
            self.busy.emit("")
            self.trouble.emit("")
            self._taken[fresh.origin] = taken
            self._take(tr("Start from {name}").format(name=path.name), fresh)
            self._say_short()
            if bring:
                self.theme_found.emit(path)

        self.busy.emit(tr("Reading the theme …"))
        self._jobs.start("picture", lambda _progress: start_of_theme(path, tone, look), done, self._failed)

    def taken_from_theme(self, look: Look) -> Taken:
        """Return what a look took from its theme for each role, nothing where that was not read since the beginning."""
        return self._taken.get(look.origin, {})

    def open_worn(self) -> None:
        """Start from what the home wears now."""
        look = self._document.look
        files = self._document.files
        self._attempt(
            tr("Start from the current desktop"), lambda: look_of_files(tr("Current desktop"), files, self._tone, look)
        )
        self._say_short()

    def _say_short(self) -> None:
        look = self._document.look
        if look is not None and look.origin is not None and look.origin.kind == "theme":
            short = len(look.failing())
            words = (
                plural(
                    "{count} of its pairs has insufficient contrast; “Fix” helps.",
                    "{count} of its pairs have insufficient contrast; “Fix” helps.",
                    short,
                )
                if short
                else tr("All pairs have enough contrast.")
            )
            self.said.emit(tr("{name}: its colours in their roles. {words}").format(name=look.name, words=words))

    def open_look(self, path: Path) -> None:
        """Open a saved look."""
        try:
            look, asks = read_look(path)
        except FinchError as error:
            self.trouble.emit(error.line())
            return
        self._unread |= asks - set(self.known)
        self.themes_named.emit(frozenset(look.brought) - asks)
        self.opened_path.emit(str(path))
        self._take(tr("Open {name}").format(name=look.name), look)
        unread = asks & set(look.brought)
        if unread:
            self.said.emit(
                plural(
                    "{name} refers to a theme that is not loaded; see “Dress”.",
                    "{name} refers to {count} themes that are not loaded; see “Dress”.",
                    len(unread),
                    name=look.name,
                )
            )


def is_theme(path: Path, recolour: bool) -> bool:
    """Tell whether something is to be recoloured rather than to be taken colours from."""
    try:
        if path.is_dir():
            return holds_theme(path) or not pictures_in(path)
        head = first_bytes(path, 4096)
    except FinchError:
        return False
    if archive_kind(head[:512]) and path.suffix.lower() not in (".kra", ".ora", ".kpl"):
        return True
    if is_palette_name(path) or (not recolour and is_palette(path)):
        return False
    known = format_of(path.name, head.decode("utf-8", "replace"))
    return known is not None and (known.syntax != "css" or not holds_properties(path))


def is_palette(path: Path) -> bool:
    """Tell whether a file's colours are what it is about; a style sheet's are where it says no more than them."""
    try:
        return is_palette_name(path) if path.suffix == ".css" else holds_palette(path)
    except FinchError:
        return False


def holds_properties(path: Path) -> bool:
    """Tell whether a style sheet is a list of custom properties or named colours rather than a whole theme."""
    try:
        head = first_bytes(path, 400_000)
    except FinchError:
        return True
    return head.count(b"{") <= 2
