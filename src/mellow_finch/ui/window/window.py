"""The main window: a frame for the header, the plumage, the step in force with its panel and centre, and the footer.

It paints itself first with what needs no colour at all, and is completed right after: the libraries for colours,
pictures and files are not on the way to the first paint. What a step does is in `steps`, what an action does in
`actions` and `moves`.
"""

from __future__ import annotations

from collections.abc import Callable
from functools import cached_property, partial
from pathlib import Path
from typing import TYPE_CHECKING

from PyQt6.QtGui import QCloseEvent
from PyQt6.QtWidgets import QApplication, QWidget

from ...language import tr
from ..gather.picture_view import PictureView
from ..help.whats_this import WhatsThis
from ..kit.jobs import Jobs
from ..kit.style import Style
from . import moves
from .actions import ACTIONS, made_actions
from .appearance import more_contrast_wanted, prefers_light
from .frame import WindowFrame
from .memory import SIDE_WIDE
from .session_bar import SessionBar
from .shell import Shell, Step
from .steps.rows import STEP_BY_ID, STEPS
from .tour import TourBar
from .walk import Walk

if TYPE_CHECKING:
    from ...look.model import Look
    from .memory import Memory
    from .shelving import Shelving


class Window(Walk):
    """Puts the parts together. All state of the look is in the document, which there is once it is complete."""

    def __init__(self, style: Style, home: Path | None = None, memory: Memory | None = None) -> None:
        """home: what is dressed; memory: where what the window remembers is kept, None for one that forgets."""
        super().__init__()
        self.appearance, self.memory = style, memory
        self.setWindowTitle("Mellow Finch")
        self._fit_screen()
        self.setAcceptDrops(True)
        self.jobs = Jobs(self)
        self.jobs.failed.connect(self.say_trouble)
        self.step = "gather"
        self.step_by_id: dict[str, Step] = {}
        self._complete = False
        self._role_words = ""  # what the footer said of the selected role last
        self.actions_by_id = made_actions(self, self._run)
        self.picture = PictureView(style)
        self.picture.tour.clicked.connect(self.actions_by_id["tour"].trigger)
        shell: Shell = self
        self.session_bar, self.tour = SessionBar(shell), TourBar(shell)
        self.frame = WindowFrame(style, self.actions_by_id, (self.session_bar,), self.tour, self.picture, self.jobs)
        self.header = self.frame.header
        self.track.chosen.connect(self.show_step)
        self.track.choose("gather")
        self.setCentralWidget(self.frame)
        self.frame.split(self.width(), memory.side() if memory is not None else SIDE_WIDE)
        self._whats_this = WhatsThis(self)
        if home is not None:
            self.use_home(home)

    def _run(self, run: Callable[[Shell], object]) -> None:
        self.complete()
        run(self)

    def complete(self) -> None:
        """Make everything that the first paint did without; does nothing when it is made already."""
        if self._complete:
            return
        self._complete = True
        from ..steps_taken.panel import StepsPanel
        from .plumage import Plumage
        from .tally import Tally
        from .workbench import Workbench

        self.bench = Workbench(self)
        self.plumage = Plumage(self.bench.document, self.appearance)
        self.step_by_id = {row.id: row.make(self) for row in STEPS}
        self.tally = Tally(self.bench, self.jobs, self.track, self.step_by_id)
        self.taken = StepsPanel(self.bench.document, self.appearance)
        self.frame.complete(self.plumage, self.bench.strip, self.bench.stage)
        for step in self.step_by_id.values():
            self.add_views(step.panel, *step.views())
            self.frame.take_bar(step.bar(), step.panel)
        self.add_views(self.taken, self.bench.stage)
        self.setTabOrder(self.plumage, self.bench.stage)
        self._connect()
        self.apply_settings()
        self.tally.count()

    def _connect(self) -> None:
        b, actions, header = self.bench, self.actions_by_id, self.header
        b.document.changed.connect(self._look_changed)
        b.document.selected.connect(lambda *_: self._say_role())
        b.document.beside_changed.connect(self.show_stage)
        b.document.judged.connect(self._mark_worst)
        b.document.stack.canUndoChanged.connect(actions["undo"].setEnabled)
        b.document.stack.canRedoChanged.connect(actions["redo"].setEnabled)
        b.document.stack.undoTextChanged.connect(header.say_undo)
        b.wearing.done.connect(self.tally.count)
        b.strip.change_asked.connect(partial(moves.change_role, self))
        b.role_menu.component_asked.connect(partial(moves.show_component, self, view="changes"))
        self.plumage.menu_asked.connect(lambda role, at: b.role_menu.show_for(role, at, self.plumage))
        self.plumage.change_asked.connect(lambda role, at: b.choosing.ask_role(role, self.plumage, at))
        b.strip.file_asked.connect(partial(moves.show_component, self, view="changes"))
        self.tally.trouble.connect(self.say_trouble)
        header.compare.pressed.connect(partial(self._show_before, True))
        header.compare.released.connect(partial(self._show_before, False))
        header.recent.aboutToShow.connect(lambda: header.list_recent(self.recent(), self.open_path))
        header.recent.setEnabled(self.memory is not None)
        actions["preferences"].setEnabled(self.memory is not None)
        if self.memory is not None:
            b.choosing.kept = self.memory
            b.opening.opened_path.connect(self.memory.opened)
        taken = self.taken
        taken.closed.connect(lambda: self.show_step(self.step))
        taken.compared.connect(self.show_compared)
        taken.images_wanted.connect(lambda look: b.staging.make_small(look, taken.give_image))
        taken.name_asked.connect(b.dialogs.variant_name)
        taken.shelf_asked.connect(lambda look: self.shelving.keep(look))

    @property
    def widget(self) -> QWidget:
        """Return the window as the parent of dialogs."""
        return self

    @cached_property
    def shelving(self) -> Shelving:
        """The shelf in the window, made when it is first wanted."""
        from .shelving import Shelving

        return Shelving(self)

    def make_ready(self) -> None:
        """Make what people reach for first and what takes a moment: the Shelf, which *Find anything* looks through."""
        from ..kit.idle_memory import IdleMemory

        _ = self.shelving
        self.bench.stage.be_quick()
        IdleMemory(self.jobs)

    # Home and what is opened

    def use_home(self, home: Path) -> None:
        """Work on a home folder, and offer its pictures if it is the demo's."""
        self.complete()
        from ...wear.places import home_title

        if self.memory is not None:
            self.memory.use_home(home)
        self.bench.use_home(home)
        self.taken.forget_images()
        self.frame.home.setText(home_title(home))
        self.tally.count()

    def open_path(self, path: str) -> None:
        """Open a picture, a look, a palette or a theme by its path."""
        self.complete()
        self.bench.opening.open_path(path)

    def recent(self) -> list[Path]:
        """Return the pictures and looks that were opened last, the newest first."""
        return self.memory.recent() if self.memory is not None else []

    # What follows from a change

    def _look_changed(self, old: Look | None, new: Look | None) -> None:
        if new is None:
            return
        if old is None:
            for row in ACTIONS:
                if row.needs_look:
                    self.actions_by_id[row.id].setEnabled(True)
            self.header.allow(True)
            self.say(STEP_BY_ID[self.step].hint)
        self.session_bar.follow()
        self.say_trouble("")
        if self.footer.text() == self._role_words:
            self._say_role()
        self.header.say_name(new.name)
        self.header.tone.show_tone(new.tone)
        self.setWindowTitle(tr("{name} – Mellow Finch").format(name=new.name))
        for name, step in self.step_by_id.items():
            step.follow(old, new, name == self.step)
        if self.centre.currentWidget() is not self.bench.stage:
            self._show_own_centre()
        self.show_stage()
        if self.side.currentWidget() is self.taken:
            self.taken.refresh()
        else:
            self.step_by_id[self.step].refresh()
        self._show_own_centre()
        self.tally.follow()

    def _say_role(self) -> None:
        """Say in the footer what the selected role is, and its colour now."""
        from ...palette.roles import ROLE_BY_ID

        document = self.bench.document
        if document.look is not None:
            row = ROLE_BY_ID[document.role]
            words, colour = tr("{title}, {colour}. {shows}"), document.look.colours[row.id].hex
            self._role_words = words.format(title=row.title, colour=colour, shows=row.shows)
            self.say(self._role_words)

    def begin_tour(self) -> None:
        """Begin the tour on the demo home."""
        self.tour.begin()

    def find_anything(self) -> None:
        """Find anything by name."""
        from .finder import Finder

        Finder(self).open()

    def receive(self, path: Path) -> None:
        """Read a parcel, and ask whether it is wanted."""
        self.shelving.receive(path)

    def ask_what_this_is(self) -> None:
        """Let the next click say what a control does."""
        self._whats_this.ask()

    # How the window looks, and what is remembered

    def apply_settings(self) -> None:
        """Let what was chosen in the preferences be so."""
        if self.memory is None:
            return
        chosen = self.memory.settings()
        light = chosen.appearance == "light" or (chosen.appearance == "desktop" and prefers_light())
        strong = chosen.contrast == "high" or (chosen.contrast == "desktop" and more_contrast_wanted())
        if light == self.appearance.dark or strong != self.appearance.strong:
            self._show_appearance(not light, strong)
        self.bench.take_settings(chosen)

    def switch_appearance(self) -> None:
        """Show the window itself light or dark."""
        self._show_appearance(not self.appearance.dark, self.appearance.strong)

    def _show_appearance(self, dark: bool, strong: bool) -> None:
        app = QApplication.instance()
        if isinstance(app, QApplication):
            self.appearance.use(app, dark, strong)
            self.actions_by_id["appearance"].setText(tr("Light window") if dark else tr("Dark window"))
            self.update()

    # Closing, and the first paint

    def _may_close(self) -> bool:
        """Ask about changes that were not saved; a window that remembers nothing asks nothing."""
        document = self.bench.document if self._complete else None
        if self.memory is None or document is None or document.look is None or document.stack.isClean():
            return True
        answer = self.bench.dialogs.about_to_close(document.look.name)
        if answer == "save":
            self.bench.dialogs.save()
            return document.stack.isClean()
        return answer == "close"

    def closeEvent(self, event: QCloseEvent | None) -> None:
        """Ask about what was not saved, remember how the window is, and stop what is running."""
        if not self._may_close():
            if event is not None:
                event.ignore()
            return
        if self._complete:
            self.session_bar.keeping.stop()
            self.bench.wearing.rest()
        if "shelving" in self.__dict__:
            self.shelving.desk.close()
        self._end()
        if self.memory is not None and self._complete:
            self.memory.forget_session()
        super().closeEvent(event)

    def end_quietly(self) -> None:
        """End as the system asks: keep where the person is, ask nothing, and let what runs come to its end."""
        if self._complete:
            self.session_bar.keep_now()
            self.bench.wearing.rest()
        self._end()

    def _end(self) -> None:
        self.jobs.shut_down()  # first, so that no job writes the session once more
        if self.memory is not None:
            self.memory.keep_window(self.size(), self.side.width(), self.step)
