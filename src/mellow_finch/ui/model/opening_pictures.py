"""Opening pictures, one or several: read off the window's thread, weighed, laid on the screen, their suggestions drawn.

Knows the document and the jobs, and no widget: it tells by signals what there is to show.
"""

from __future__ import annotations

import gc
from collections.abc import Callable, Collection, Mapping, Sequence
from dataclasses import replace
from pathlib import Path

from PyQt6.QtCore import QObject, pyqtSignal
from PyQt6.QtGui import QImage

from ...colour.blend import over
from ...colour.contrast import ratio
from ...colour.requirement import TEXT
from ...colour.rgb import Rgba
from ...components.files import SteadyFiles
from ...components.model import Paints
from ...errors import line_of
from ...language import plural, tr
from ...look.dressed import Dressed, dress
from ...look.edits import read_anew, with_accent, with_placement, with_showing
from ...look.from_colours import on_the_same_desk
from ...look.gather import Gathering, name_of
from ...look.model import Look
from ...palette.readings import PaletteReading
from ...palette.recipe import Tone
from ...palette.temper import Temper
from ...picture.backdrop import backdrop_of, joined
from ...picture.placement import SHOWINGS, Placement, Showing
from ...progress import Silent
from ..kit.jobs import JobProgress, Jobs
from .document import Document
from .gathered import Gathered, Opened, open_pictures

_MOST_BEFORE = 3  # pictures that were open before and are kept at hand; others are read again when they are wanted
Card = tuple[Look, QImage]  # a look, and its small desktop


class PictureOpening(QObject):
    """Opens pictures, and keeps what was opened by its path; its suggestions, pins and how they lie."""

    busy = pyqtSignal(str)  # what is being done, empty when nothing is
    trouble = pyqtSignal(str)
    opened_path = pyqtSignal(str)  # a picture or a look that was opened
    said = pyqtSignal(str)
    shown = pyqtSignal()  # pictures, their weights or their fits are to be shown anew
    readings_ready = pyqtSignal(object)  # a list of cards

    def __init__(self, document: Document, jobs: Jobs, parent: QObject | None = None) -> None:
        super().__init__(parent)
        self._document, self._jobs = document, jobs
        # Whether terminal colours stay as a file gives them; it is given its name, how many would move, of how many.
        self.keeps_given: Callable[[str, int, int], bool] = lambda *_: False
        self.known: dict[str, Gathered] = {}
        self._unread: set[str] = set()  # paths that looks from elsewhere named and nobody agreed to yet
        self.opened: Opened | None = None
        self.readings: tuple[PaletteReading, ...] = ()
        self.drawn: Callable[[], Collection[str]] = tuple  # the components that the stage draws
        # What draws small desktops of looks beside a look, off the window's thread; set by whoever has a stage.
        self.painter: Callable[[Look], Callable[[Mapping[str, Paints]], QImage]] = lambda _look: (
            lambda _paints: QImage()
        )
        self.placement = Placement()
        self.turned_to = ""  # the path of the picture that the preview shows instead of the first
        self.usual_need = TEXT.level  # what text needs in looks that are made again
        self._first_tone: Tone = "dark"  # of the first look
        self._frozen = False

    @property
    def _tone(self) -> Tone:
        """Return the tone in force, which what is opened anew comes in."""
        return self._document.look.tone if self._document.look is not None else self._first_tone

    # Pictures

    def add_paths(self, paths: Sequence[str]) -> None:
        """Take more pictures into the look."""
        now = [g.path for g in self.opened.pictures] if self.opened is not None else []
        fresh = [Path(p) for p in paths if Path(p) not in now]
        if fresh:
            weights = [*self.opened.gathering.weights, *(1.0 for _ in fresh)] if self.opened is not None else None
            self._open_pictures([*now, *fresh], weights)

    def _open_pictures(self, paths: Sequence[Path], weights: Sequence[float] | None = None) -> None:
        self._unread -= {str(p) for p in paths}
        self.busy.emit(
            tr("Reading the image …")
            if len(paths) == 1
            else plural("Reading {count} image …", "Reading {count} images …", len(paths))
        )
        before, fresh_on = (self._document.look, self._tone), self._fresh_on()

        def work(progress: JobProgress) -> tuple[Opened, Look, Dressed]:
            opened = open_pictures(paths, self.known, weights, progress)
            fresh = fresh_on(opened.gathering, opened.gathering.readings()[0])
            return opened, fresh, self._document.dressed_ahead(fresh, self.drawn())

        def done(found: tuple[Opened, Look, Dressed]) -> None:
            opened, fresh, dressed = found
            if before != (self._document.look, self._tone):  # it was changed meanwhile
                fresh = self._fresh_on()(opened.gathering, opened.gathering.readings()[0])
            self._document.take_ahead(dressed)
            self._pictures_ready(opened, fresh)

        self._jobs.start("picture", work, done, self._failed)

    def stop(self) -> None:
        """Stop whatever is being read; everything stays as it was."""
        for key in ("picture", "readings"):
            self._jobs.cancel(key)
        self.busy.emit("")

    def _failed(self, error: Exception) -> None:
        self.busy.emit("")
        self.trouble.emit(line_of(error))

    def _pictures_ready(self, opened: Opened, fresh: Look) -> None:
        self.busy.emit("")
        self.trouble.emit("")
        self._keep(opened)
        self.opened_path.emit(str(opened.lead.path))
        names = (
            opened.lead.path.name
            if len(opened.pictures) == 1
            else plural("{count} image", "{count} images", len(opened.pictures))
        )
        self._take(tr("Open {names}").format(names=names), fresh)
        self.offer_readings()
        # What was compiled for the first picture stays for good: without this every collection would walk over it.
        # Once only: what is frozen is never collected, and what comes with later pictures goes with them.
        if not self._frozen:
            self._frozen = True
            gc.collect()
            gc.freeze()

    def _keep(self, opened: Opened) -> None:
        self.opened = opened
        self.known = {str(g.path): g for g in opened.pictures} | {
            k: g for k, g in self.known.items() if k not in {str(p.path) for p in opened.pictures}
        }
        while len(self.known) > len(opened.pictures) + _MOST_BEFORE:
            self.known.pop(next(reversed(self.known)))

    def _fresh_on(self) -> Callable[[Gathering, PaletteReading], Look]:
        """Return what makes the look of a reading, on the desk there is now; any thread may."""
        look, tone = self._document.look, self._tone
        placement = look.placement if look is not None else self.placement
        temper = look.temper if look is not None else Temper(text_need=self.usual_need)

        def fresh(gathering: Gathering, reading: PaletteReading) -> Look:
            made = gathering.look(reading.recipe, tone, placement=placement, temper=temper)
            return on_the_same_desk(made, look, picture=False)

        return fresh

    def _take(self, words: str, fresh: Look) -> None:
        if self._document.look is None:
            self._document.start(fresh)
        else:
            self._document.edit(words, lambda _: fresh)

    def source_shown(self, look: Look) -> Gathered | None:
        """Return the picture of a look, reading it when it is not known; a look from a file brings its own colours."""
        members = [Path(m.path) for m in look.pictures] or ([Path(look.source)] if look.source else [])
        weights = [m.weight for m in look.pictures] or None
        have = [g.path for g in self.opened.pictures] if self.opened is not None else []
        if self.waits_for_leave(look):
            return None
        if members and members != have:
            if all(str(p) in self.known for p in members):
                self.opened = open_pictures(members, self.known, weights, Silent())
                self.offer_readings()
            elif all(p.is_file() for p in members):
                self._jobs.start(
                    "picture",
                    lambda progress: open_pictures(members, self.known, weights, progress),
                    self._read_again,
                    self._failed,
                )
        elif self.opened is not None and weights and tuple(weights) != self.opened.gathering.weights:
            self.opened = Opened(self.opened.pictures, self.opened.gathering.weighted(weights))
            self.offer_readings()
        return self.known.get(look.source)

    def _read_again(self, opened: Opened) -> None:
        self.busy.emit("")
        self._keep(opened)
        self.shown.emit()
        self.offer_readings()

    def set_weights(self, weights: Sequence[float]) -> None:
        """Weigh the pictures of a set anew, 0 leaving one out; the look is derived from what they have in common."""
        if self.opened is None or not any(w > 0 for w in weights):
            self.trouble.emit(tr("At least one image has to stay."))
            self.shown.emit()
            return
        old = self.opened.gathering
        left_out = sum(w <= 0 for w in weights) != sum(w <= 0 for w in old.weights)
        self.opened = Opened(self.opened.pictures, old.weighted(weights))
        gathering = self.opened.gathering
        fresh = self._fresh_on()(gathering, gathering.readings()[0])
        name = self._document.look.name if self._document.look is not None else fresh.name
        words = tr("Include or leave out images") if left_out else tr("Weight the images")
        self._document.edit(words, lambda _: replace(fresh, name=name))
        self.offer_readings()

    # Readings

    def offer_readings(self) -> None:
        """Work out every reading as a dressed look, off the window's thread."""
        look, files, opened = self._document.look, self._document.files, self.opened
        if look is None or opened is None:
            return
        tone, placement, temper, pins = look.tone, look.placement, look.temper, look.pins
        paint = self.painter(look)
        files = SteadyFiles(files)  # every suggestion asks for the same files

        def work(progress: JobProgress) -> tuple[tuple[PaletteReading, ...], list[Card]]:
            readings = opened.gathering.readings(pins)
            rows: list[Card] = []
            for i, reading in enumerate(readings):
                progress.report(i, len(readings), tr("Drawing suggestions"))
                fresh = opened.gathering.look(reading.recipe, tone, placement=placement, temper=temper)
                rows.append((fresh, paint(dress(fresh, files).paints)))
            return readings, rows

        def done(found: tuple[tuple[PaletteReading, ...], list[Card]]) -> None:
            self.busy.emit("")
            self.readings, rows = found
            self.readings_ready.emit(rows)

        self._jobs.start("readings", work, done)

    def reading_in_force(self) -> int:
        """Return which reading the look follows, -1 when none."""
        look = self._document.look
        recipes = [r.recipe for r in self.readings]
        if look is None or (look.origin and look.recipe not in recipes):
            return -1
        return recipes.index(look.recipe) if look.recipe in recipes else -1

    def choose_reading(self, number: int) -> None:
        """Start from another reading; locks hold."""
        reading = self.readings[number]
        self._document.edit(
            tr("Suggestion: {title}").format(title=reading.title), lambda look: read_anew(look, reading)
        )

    def add_pin(self, colour: Rgba) -> None:
        """Pin a colour that an eyedropper took."""
        self._document.edit(
            tr("Pin {hex}").format(hex=colour.hex),
            lambda look: replace(look, pins=(*look.pins, colour)) if colour not in look.pins else look,
        )
        self.said.emit(tr("Pinned {hex}. It leads the first suggestions now.").format(hex=colour.hex))

    def remove_pin(self, colour: Rgba) -> None:
        """Take a pin out."""
        self._document.edit(
            tr("Remove {hex}").format(hex=colour.hex),
            lambda look: replace(look, pins=tuple(p for p in look.pins if p != colour)),
        )

    def lead_by(self, colour: Rgba) -> None:
        """Make a colour the accent, all that takes the accent going along."""
        self._document.select("accent")
        self._document.edit(tr("Accent colour {hex}").format(hex=colour.hex), lambda look: with_accent(look, colour))

    def place(self, placement: Placement) -> None:
        """Lay the picture on the screen otherwise."""
        self.placement = placement
        look, opened = self._document.look, self.opened
        if look is None or opened is None or placement == look.placement:
            return
        drop = joined([backdrop_of(opened.pictures[i].small, placement) for i in opened.gathering.used])
        self._document.edit(placement.words, lambda now: with_placement(now, placement, drop))

    def set_showing(self, showing: Showing) -> None:
        """Let the desktop show the pictures otherwise."""
        words = dict(SHOWINGS)[showing.kind]
        self._document.edit(words, lambda now: with_showing(now, showing))

    def seen_picture(self, look: Look) -> Gathered | None:
        """Return the picture that the preview shows of a look's: the one turned to, else the one behind everything."""
        return self.known.get(self.turned_to if self.turned_to in look.shown_pictures else look.source)

    def turn_page(self) -> None:
        """Let the preview show the next of the pictures that the desktop will, the worst under the panel first."""
        look = self._document.look
        pictures = [p for p in look.shown_pictures if p in self.known] if look is not None else []
        if look is None or len(pictures) < 2:
            self.said.emit(tr("The desktop shows only one image of this look."))
            return
        order = sorted(pictures, key=lambda path: _panel_ratio(look, self.known[path]))
        at = order.index(self.turned_to) + 1 if self.turned_to in order else 0
        self.turned_to = order[at % len(order)]
        words = tr("Image {number} of {count}: {name}. The panel is hardest to read over the first.")
        self.shown.emit()
        self.said.emit(words.format(number=at % len(order) + 1, count=len(order), name=name_of(Path(self.turned_to))))

    def waits_for_leave(self, look: Look) -> tuple[str, ...]:
        """Return the pictures that a look from elsewhere names, and that are not read before the person says so."""
        return tuple(p for p in (look.source, *(m.path for m in look.pictures)) if p in self._unread)

    def read_named_pictures(self) -> None:
        """Read the pictures that the look names, now that the person said so."""
        if self._document.look is not None:
            self._unread -= set(self.waits_for_leave(self._document.look))
            self.shown.emit()


def _panel_ratio(look: Look, picture: Gathered) -> float:
    """Return the contrast of the panel's text where a picture under it leaves it least."""
    alpha = look.drawn_opacity().get("panel", 1.0)
    under = backdrop_of(picture.small, look.placement).at("panel", look.blur)
    panel, text = look.colours["panel"]._replace(a=alpha), look.colours["panel_text"]
    return min(ratio(text, over(panel, colour)) for colour in under)
