"""Gather in the window: its panel and views, the home's pictures, readings as small desktops, eyedroppers."""

from __future__ import annotations

from contextlib import suppress
from pathlib import Path

from PyQt6.QtCore import QObject, QTimer, pyqtSignal
from PyQt6.QtGui import QImage
from PyQt6.QtWidgets import QWidget

from ...colour.rgb import Rgba
from ...demo.build import demo_pictures
from ...errors import FinchError
from ...language import comma_separated, isolated, plural, tr
from ...look.edits import with_role_by_hand
from ...look.model import Look
from ...picture.around import pictures_around
from ...picture.load import load_picture
from ...picture.rank import PictureCache, look_at
from ...session.base import DesktopSession
from ...session.desktop import desktop_named
from ...session.now import Now, now
from ...session.simulated import SimulatedSession
from ...wear.places import cache_folder
from ..kit.icons import icon
from ..kit.jobs import JobProgress, Jobs
from ..kit.style import Style
from ..model.document import Document
from ..model.gathered import image_of
from ..model.matching import Matching
from ..model.opening import Opening
from ..model.opening_pictures import Card
from ..stage.staging import Staging
from .contact_sheet import ContactSheet
from .panel import GatherPanel
from .picture_view import PictureView
from .start_view import StartView

_REST_MS = 250
_BANDS = ("window", "view", "header", "panel", "control", "selection", "accent", "link", "warning", "error")
_TOLD = ("picture", "readings", "thumbnails", "toned", "portal")


class GatherDesk(QObject):
    """Connects what brings colours in with what shows it."""

    trouble = pyqtSignal(str)
    said = pyqtSignal(str)
    seen = pyqtSignal(
        object, object, bool
    )  # a picture of this computer, what it shows, and whether it is on the screen

    def __init__(
        self,
        document: Document,
        style: Style,
        jobs: Jobs,
        opening: Opening,
        matching: Matching,
        picture: PictureView,
        staging: Staging,
    ) -> None:
        super().__init__()
        self._document, self._jobs, self._opening, self._staging = document, jobs, opening, staging
        self._matching, self._style = matching, style
        self.picture = picture
        self.panel = GatherPanel(style)
        self.sheet = ContactSheet(style)
        self.start = StartView(style)
        self.cards: list[Card] = []
        self._now = Now()
        self._around: tuple[Path, DesktopSession] | None = None  # where pictures are looked for
        self._rest = QTimer(self)
        self._rest.setSingleShot(True)
        self._rest.setInterval(_REST_MS)
        self._rest.timeout.connect(self._look_around)
        self._connect()
        style.follow(self._restyle)
        self._cards_old = False  # whether the starting points were drawn for another tone, temper or pins

    def _connect(self) -> None:
        o, match, g = self._opening, self._matching, self.panel.picture
        self.picture.dropped.connect(o.open_paths)
        self.sheet.dropped.connect(o.open_paths)
        self.start.dropped.connect(o.open_paths)
        self.start.picture_chosen.connect(o.open_path)
        self.start.scheme_chosen.connect(o.open_scheme)
        self.start.tour_asked.connect(self.picture.tour.click)
        self.seen.connect(self.start.add_picture)
        self.picture.taken.connect(o.add_pin)
        self.picture.swatch_pointed.connect(self.swatch_pointed)
        g.picture_asked.connect(o.open_path)
        g.picture_added.connect(lambda path: o.add_paths([path]))
        g.reading_chosen.connect(o.choose_reading)
        g.dropper_asked.connect(self.picture.set_dropper)
        g.stop_asked.connect(self._stop)
        g.named_asked.connect(o.read_named_pictures)
        g.now_asked.connect(lambda: o.start_from(self._now.picture, self._now.dark))
        g.swatch_pointed.connect(self.picture.light)
        g.accent_asked.connect(o.lead_by)
        g.pin_removed.connect(o.remove_pin)
        g.weights_chosen.connect(o.set_weights)
        g.placed.connect(o.place)
        g.showing.chosen.connect(o.set_showing)
        s = self.panel.schemes
        s.scheme_chosen.connect(o.open_scheme)
        s.worn_asked.connect(o.open_worn)
        s.taken.other_chosen.connect(self._take_other)
        m = self.panel.match
        m.stop_asked.connect(match.stop)
        m.picture_asked.connect(o.open_path)
        m.strength_moved.connect(match.preview_tone)
        for source in (o.busy, match.busy):
            source.connect(g.show_busy)
        o.shown.connect(self.show_source)
        o.readings_ready.connect(self._show_readings)
        o.problems.connect(self._show_problems)
        match.ranked.connect(m.add)
        match.rank_done.connect(m.show_ranked)
        match.rank_progress.connect(m.show_progress)
        match.toned.connect(self.picture.show_toned)
        self._jobs.progressed.connect(self._progressed)

    def _restyle(self) -> None:
        """Draw the icons of buttons, and the wheel, in the window's colours."""
        page, style = self.panel.picture, self._style
        page.open_button.setIcon(icon("open", style.c("on_accent"), style.c("disabled")))
        for button in (page.dropper_button, page.screen_button):
            button.setIcon(icon("pipette", style.c("text"), style.c("disabled")))
        page.field.forget_wheel()

    def _stop(self) -> None:
        """Stop whatever is being read or made."""
        self._opening.stop()
        self._matching.stop()

    def _progressed(self, key: str, done: int, total: int, note: str) -> None:
        if key == "folder":
            self._matching.rank_progress.emit(done, total)
        elif key in _TOLD:
            self.panel.picture.show_busy(f"{note} …")

    def offer_pictures_of(self, home: Path) -> None:
        """Offer the pictures of a home, if it is the demo's."""
        pictures = demo_pictures(home)
        page = self.panel.picture
        if not pictures or page.own_row.count():
            return

        def thumbnails(progress: JobProgress) -> list[QImage]:
            images = []
            for i, path in enumerate(pictures):
                progress.report(i, len(pictures), tr("Looking for images"))
                images.append(image_of(load_picture(path, 200).pixels))
            return images

        def offer(images: list[QImage]) -> None:
            page.show_busy("")
            page.offer_pictures(pictures, images)

        self._jobs.start("thumbnails", thumbnails, offer)

    def look_at_desktop(self, session: DesktopSession) -> None:
        """Offer to start from what the desktop shows now, where that can be found out."""

        def found(what: Now) -> None:
            self._now = what
            there = what.picture if Path(what.picture).is_file() and self._document.look is None else ""
            self.panel.picture.offer_now(what.words(), there)

        self._jobs.start("look at the desktop", lambda _progress: now(session), found, lambda _error: None)

    def offer_around(self, home: Path, session: DesktopSession) -> None:
        """Offer the picture on the screen and others of the home and the system, as they are read."""
        self.start.clear_pictures()
        self._around = (home, session)
        self._rest.start()

    def _look_around(self) -> None:
        """Look for pictures, if nothing was opened at once."""
        if self._document.look is not None or self._around is None:
            return
        home, session = self._around
        system = not isinstance(session, SimulatedSession)

        def look(progress: JobProgress) -> None:
            there = Path(now(session).picture) if system else Path()
            shown = [there] if there.is_file() else []
            kept = PictureCache(cache_folder())
            paths = [*shown, *(p for p in pictures_around(home, system=system) if p not in shown)]
            for i, path in enumerate(paths):
                progress.report(i, len(paths), tr("Looking for images"))
                with suppress(FinchError):
                    self.seen.emit(path, look_at(path, kept), path in shown)

        self._jobs.start("around", look, lambda _: None, lambda _error: None)

    def _show_readings(self, rows: list[Card]) -> None:
        self.cards = rows
        cards = [(r.title, r.note, shown) for r, (_, shown) in zip(self._opening.readings, rows, strict=True)]
        self.panel.picture.show_readings(cards, self._opening.reading_in_force())

    def _show_problems(self, name: str, problems: object) -> None:
        self.panel.schemes.show_problems(name, problems)  # type: ignore[arg-type]
        self.panel.show_page("schemes")

    def _take_other(self, role: str, colour: Rgba) -> None:
        """Give a role another colour that the theme has for it."""
        self._document.edit(
            tr("Use another colour of the theme"), lambda look: with_role_by_hand(look, role, colour.opaque)
        )

    def swatch_pointed(self, swatch: int) -> None:
        """Mark the swatch whose area is pointed at, and say what it is."""
        self.panel.picture.light(swatch)
        look = self._document.look
        shown = self._opening.known.get(look.source) if look is not None else None
        if shown is not None and 0 <= swatch < len(shown.swatches):
            row = shown.swatches[swatch]
            self.said.emit(tr("Swatch {hex}, {share:.1%} of the image").format(hex=row.colour.hex, share=row.share))

    def follow(self, old: Look | None, new: Look, in_sight: bool) -> None:
        """Bring what Gather shows up to date after a change; in_sight: whether it is the step in force."""
        if old is None:
            self.panel.schemes.buttons["export"].setEnabled(True)
        self.panel.schemes.taken.show_taken(self._opening.taken_from_theme(new), new.colours)
        sources = (new.source, new.pictures, new.pins, new.placement, new.showing, new.origin)
        if old is None or (old.source, old.pictures, old.pins, old.placement, old.showing, old.origin) != sources:
            self.show_source()
        if old is not None and (old.tone, old.pins, old.temper) != (new.tone, new.pins, new.temper):
            self._cards_old = True
        if old is None or (old.recipe, old.origin) != (new.recipe, new.origin):
            self.panel.picture.choose_reading(self._opening.reading_in_force())
        if in_sight:
            self.come_in_sight()

    def come_in_sight(self) -> None:
        """Bring fits and starting points up to date, which wait while Gather is out of sight."""
        look, opened = self._document.look, self._opening.opened
        if look is None or opened is None:
            return
        self.panel.picture.field.show_colours(opened.gathering.common, look.colours["accent"])
        self.panel.picture.show_fits(opened, dict(look.colours))
        if len(opened.pictures) > 1:
            self.sheet.show_opened(opened, look.colours)
        if self._cards_old:
            self._cards_old = False
            self._opening.offer_readings()

    def show_source(self) -> None:
        """Show the pictures of the look, or what its colours come from where it has none."""
        look = self._document.look
        if look is None:
            return
        shown = self._opening.source_shown(look)
        self.panel.picture.show_named(self._opening.waits_for_leave(look))
        self.panel.picture.offer_now("", "")
        self.picture.show_picture(shown)
        self.picture.show_placement(look.placement)
        self.picture.show_origin(
            look.origin.title if look.origin else look.name, tuple(look.colours[r] for r in _BANDS)
        )
        self.panel.schemes.show_origin(look.origin)
        self.panel.match.strength.show_value(0.0)
        self.panel.match.save_button.setEnabled(False)
        on_stage = self._opening.seen_picture(look) if shown is not None else None
        self._staging.stage.set_picture(on_stage.image if on_stage is not None else None)
        opened = self._opening.opened
        if opened is not None and shown is not None:
            g = self.panel.picture
            g.show_opened(opened, look.pins, look.colours["accent"], look.placement)
            g.show_members(opened, dict(look.colours))
            g.showing.show_showing(look.showing, len(opened.pictures) > 1, self._showing_note(look))
            self.sheet.show_opened(opened, look.colours)
            several = len(opened.pictures) > 1
            one = comma_separated((shown.path.name, isolated(f"{shown.width} × {shown.height}")))
            self.panel.under.setText(
                plural("{count} image", "{count} images", len(opened.pictures)) if several else one
            )
        if look.origin:
            self.panel.under.setText(look.origin.title)

    def _showing_note(self, look: Look) -> str:
        """Return what the desktop does instead, where it cannot show the images as the look wants."""
        desktop = desktop_named(self._around[1].desktop) if self._around is not None else None
        if look.showing.kind == "one" or desktop is None or desktop.can_show(look.showing):
            return ""
        return tr("{desktop} cannot do this: the first image is shown.").format(desktop=desktop.title)

    def view(self) -> QWidget:
        """Return what the window's middle shows at Gather: the picture, or several side by side."""
        look = self._document.look
        if look is None:
            return self.start
        return self.sheet if len(look.pictures) > 1 else self.picture

    def start_words(self, look: Look) -> str:
        """Return what a look starts from, for the step track."""
        if look.pins:
            return plural("{count} pinned", "{count} pinned", len(look.pins))
        if look.origin:
            return {"scheme": tr("a scheme"), "theme": tr("a theme")}.get(look.origin.kind, tr("a palette"))
        several = sum(m.weight > 0 for m in look.pictures)
        if several > 1 or look.source:
            return plural("{count} image", "{count} images", max(1, several))
        return tr("a palette")
