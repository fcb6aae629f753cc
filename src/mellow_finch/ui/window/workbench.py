"""What all steps work with: the look, what brings colours in, the stage, wearing, and everything that is asked."""

from __future__ import annotations

from pathlib import Path
from typing import TYPE_CHECKING

from PyQt6.QtCore import QObject, QPoint, pyqtSignal

from ...colour.rgb import Rgba
from ...components.catalogue import COMPONENT_BY_ID
from ...session.composition import WHOLE, Composition, composition_of, programs_told_by
from ...session.desktop import desktop_named
from ...session.real import session_for
from ...session.simulated import MADE_UP, SimulatedSession
from ..model.choosing import Choosing
from ..model.document import Document
from ..model.matching import Matching
from ..model.opening import Opening
from ..model.role_menu import RoleMenu
from ..model.wearing import WearDesk
from ..stage.brush import Area
from ..stage.pair_strip import PairStrip
from ..stage.scene import Shape, owners
from ..stage.staging import Staging
from .dialogs import Dialogs
from .picking import Picking
from .settings import Settings

if TYPE_CHECKING:
    from .talk import Talk


class Workbench(QObject):
    """Made once the window is complete; no part of it knows a step."""

    home_taken = pyqtSignal(object)  # the folder of the home that is worked on now

    def __init__(self, talk: Talk) -> None:
        window = talk.widget
        super().__init__(window)
        jobs, style = talk.jobs, talk.appearance
        self.document = Document(window)
        self.opening = Opening(self.document, jobs, window)
        self.matching = Matching(self.document, jobs, lambda path: self.opening.known.get(path))
        self.dialogs = Dialogs(window, self.document, self.opening, self.matching)
        self.staging = Staging(self.document, style, jobs, lambda look: self.opening.seen_picture(look))
        self.stage = self.staging.stage
        self.opening.painter = self.staging.painter
        self.opening.drawn = lambda: owners("", self.staging.shape)
        self.strip = PairStrip(self.document, style, jobs)
        self.wearing = WearDesk(self.document, jobs, SimulatedSession())
        self.stage.menu_asked.connect(self._stage_menu)
        self.picking = Picking(talk, self.document, self.opening)
        self.choosing = Choosing(self.document, style, self.wallpaper_colours)
        self.choosing.pick = self.picking.pick_for
        self.role_menu = RoleMenu(self.document, self.choosing, window)
        for source in (self.opening, self.matching, self.dialogs, self.picking):
            source.trouble.connect(talk.say_trouble)
        for speaker in (self.opening, self.matching, self.dialogs, self.staging, self.role_menu):
            speaker.said.connect(talk.say)
        self.document.trouble.connect(talk.say_trouble)
        self.dialogs.home_chosen.connect(talk.use_home)
        self.opening.parcel_found.connect(lambda path: talk.receive(path))
        self.staging.at_hand.connect(self.strip.point)
        self.settings = Settings()

    def wallpaper_colours(self) -> tuple[Rgba, ...]:
        """Return the colours of the picture that the look is from, none where that is not known."""
        look = self.document.look
        shown = self.opening.known.get(look.source) if look is not None else None
        return tuple(swatch.colour for swatch in shown.swatches) if shown is not None else ()

    def _stage_menu(self, area: Area, at: QPoint) -> None:
        """Open the menu of what is under the pointer on the stage: of its surface's role, or its text's."""
        known = COMPONENT_BY_ID.get(area.component)
        part = known.by_key.get(area.part) if known is not None else None
        look = self.document.look
        names = (part.text_role, part.fill_role) if part is not None else ()
        rows = names if area.what == "text" else names[::-1]
        role = next((r for r in rows if look is not None and r in look.colours), "")
        if role:
            self.document.select(role, area.component, area.part)
            self.role_menu.show_for(role, at, self.stage, area.component)

    def take_settings(self, settings: Settings) -> None:
        """Work as a person chose in the preferences."""
        self.settings = settings
        self.opening.usual_need = settings.text_need

    def use_home(self, home: Path) -> None:
        """Work on a home, on the desktop that runs where it is the person's own."""
        self.wearing.session = session_for(home) or SimulatedSession(MADE_UP["ringing room"])
        self.document.set_home(home)
        self.staging.shape = Shape(self._composition())
        self.home_taken.emit(home)

    def _composition(self) -> Composition:
        """Return what stands on the desktop of the home: a made-up one has everything."""
        session = self.wearing.session
        if isinstance(session, SimulatedSession):
            return WHOLE
        running = session.running(programs_told_by())
        return composition_of(desktop_named(session.desktop), self.document.present, running, self.document.files)
