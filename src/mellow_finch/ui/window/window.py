"""The main window: header, plumage, steps, stage, panels, footer, and what connects them.

It paints itself first with what needs no colour at all, and is completed right after: the libraries for colours,
pictures and files are not on the way to the first paint.
"""

from __future__ import annotations

from collections.abc import Callable
from functools import cached_property, partial
from pathlib import Path
from typing import TYPE_CHECKING

from PyQt6.QtCore import QSize, Qt, QTimer
from PyQt6.QtGui import (
    QAction,
    QCloseEvent,
    QDragEnterEvent,
    QDropEvent,
    QGuiApplication,
    QKeySequence,
    QPaintEvent,
)
from PyQt6.QtWidgets import (
    QApplication,
    QHBoxLayout,
    QLabel,
    QMainWindow,
    QSplitter,
    QStackedWidget,
    QVBoxLayout,
    QWidget,
)

from ...components.catalogue import COMPONENTS
from ...language import tr
from ..gather.picture_view import PictureView
from ..help.whats_this import WhatsThis
from ..kit.icons import icon
from ..kit.jobs import Jobs
from ..kit.parts import dropped_files, label, take_files
from ..kit.style import Style
from .actions import ACTIONS
from .header import Header
from .session_bar import SessionBar
from .tour import TourBar
from .track import STEPS, StepTrack

if TYPE_CHECKING:
    from ...colour.rgb import Rgba
    from ...look.model import Look
    from ..help.guide import Guide
    from .memory import Memory
    from .shelving import Shelving

_TITLE_BAR = 30  # pixels that a title bar takes from the screen
SIDE = (320, 520)  # pixels that the panel of a step is wide at least and at most
_FIRST_TIP = tr("Everything follows from a picture, several of them, a scheme, a palette file or a theme.")
_TIPS = {
    "gather": tr("Point at a swatch to see where it lies in the picture; point at the picture to see its swatch."),
    "tune": tr("Point at anything on the stage to learn what it is; click to change it."),
    "dress": tr("Choose a component to see its files and colours."),
    "proof": tr("Choose a pair to see it on the stage."),
    "wear": tr("Nothing is written before the old files are kept."),
}


def _more_contrast_wanted() -> bool:
    """Tell whether the desktop asks for more contrast, where the toolkit knows."""
    hints = QGuiApplication.styleHints()
    told = getattr(hints, "accessibility", lambda: None)() if hints is not None else None
    wanted = getattr(told, "contrastPreference", lambda: None)() if told is not None else None
    return getattr(wanted, "name", "") == "HighContrast"


class Window(QMainWindow):
    """Puts the parts together. All state of the look is in the document, which there is once it is complete."""

    def __init__(self, style: Style, home: Path | None = None, memory: Memory | None = None) -> None:
        """home: what is dressed; memory: where what the window remembers is kept, None for one that forgets."""
        super().__init__()
        self._style, self._memory = style, memory
        self.setWindowTitle("Mellow Finch")
        self._fit_screen()
        self.setAcceptDrops(True)
        self.jobs = Jobs(self)
        self.step = "gather"
        self._complete = False
        self._after_paint: Callable[[], None] | None = None
        self._for_role = False  # whether the screen's eyedropper picks for the selected role
        self._guide: Guide | None = None
        self.actions_by_id: dict[str, QAction] = {}
        self._make_actions()
        self._build()
        self._whats_this = WhatsThis(self)
        if home is not None:
            self.use_home(home)

    def _fit_screen(self) -> None:
        """Take the size there was, as far as the screen has room for it, title bar included."""
        screen = self.screen() or QApplication.primaryScreen()
        room = screen.availableSize() if screen is not None else QSize(1280, 800)
        if self._memory is None:
            self.resize(1280, 800)
        else:
            self.resize(self._memory.size(QSize(room.width(), room.height() - _TITLE_BAR)))

    # Building

    def _make_actions(self) -> None:
        runs: dict[str, Callable[[], object]] = {
            "open_picture": lambda: self.dialogs.pictures(),
            "import_palette": lambda: self.dialogs.palette(),
            "open_theme": lambda: self.dialogs.theme(),
            "open_look": lambda: self.dialogs.look(),
            "shelf": lambda: self.shelving.show(),
            "keep": lambda: self.shelving.keep(),
            "follow": lambda: self.shelving.follow(),
            "report": lambda: self.shelving.ask_report(),
            "save_look": lambda: self.dialogs.save(),
            "export_palette": lambda: self.dialogs.export(),
            "rename": lambda: self.dialogs.name(),
            "quit": self.close,
            "undo": lambda: self.document.stack.undo(),
            "redo": lambda: self.document.stack.redo(),
            "tone": self.switch_tone,
            "lock": self.switch_lock,
            "mend_all": self.mend_all,
            "steps": self.switch_steps,
            "dropper": self.take_dropper,
            "screen_dropper": self.pick_off_screen,
            "curtain": self.switch_curtain,
            "find": self.find_anything,
            "preferences": self.choose_preferences,
            "appearance": self.switch_appearance,
            "guide": self.show_guide,
            "tour": self.begin_tour,
            "whats_this": lambda: self._whats_this.ask(),
            "fault_report": lambda: self.dialogs.fault_report(),
            "take_off": lambda: self.show_step("wear"),
            "shortcuts": lambda: self.dialogs.shortcuts(),
            "about": lambda: self.dialogs.about(),
            **{f"step_{s.id}": partial(self.show_step, s.id) for s in STEPS},
        }
        for spec in ACTIONS:
            action = QAction(spec.text, self)
            if spec.shortcut:
                action.setShortcut(QKeySequence(spec.shortcut))
            action.setToolTip(f"{spec.tip} ({spec.shortcut})" if spec.shortcut else spec.tip)
            action.setStatusTip(spec.tip)
            run = runs[spec.id]
            action.triggered.connect(lambda _=False, run=run: self._run(run))
            action.setEnabled(not spec.needs_look)
            self.addAction(action)
            self.actions_by_id[spec.id] = action
        self.actions_by_id["undo"].setEnabled(False)
        self.actions_by_id["redo"].setEnabled(False)

    def _run(self, run: Callable[[], object]) -> None:
        self.complete()
        run()

    def _build(self) -> None:
        page = QWidget()
        page.setObjectName("page")
        outer = QVBoxLayout(page)
        outer.setContentsMargins(0, 0, 0, 0)
        outer.setSpacing(0)
        self.track = StepTrack(self._style)
        self.track.chosen.connect(self.show_step)
        self.track.choose("gather")
        self.header = Header(self.actions_by_id, self.track)
        outer.addWidget(self.header)
        self._ribbon = QVBoxLayout()
        self._gap = QWidget()
        self._gap.setFixedHeight(50)  # where the plumage will be
        self._ribbon.addWidget(self._gap)
        outer.addLayout(self._ribbon)
        self.notice = label("", "bad")
        self.notice.setContentsMargins(14, 4, 14, 6)
        self.notice.hide()
        outer.addWidget(self.notice)
        self.session_bar = SessionBar(self, self._memory)
        outer.addWidget(self.session_bar)
        self.tour = TourBar(self)
        outer.addWidget(self.tour)
        self.centre = QStackedWidget()
        self.picture = PictureView(self._style)
        self.picture.tour.clicked.connect(lambda: self._run(self.begin_tour))
        self.centre.addWidget(self.picture)
        work = QWidget()
        self._work = QVBoxLayout(work)
        self._work.setContentsMargins(0, 0, 0, 0)
        self._work.setSpacing(0)
        self._work.addWidget(self.centre, 1)
        self.side = QStackedWidget()
        self.side.setObjectName("panel")
        self.side.setMinimumWidth(SIDE[0])
        self.side.setMaximumWidth(SIDE[1])
        self.splitter = QSplitter(Qt.Orientation.Horizontal)
        self.splitter.setHandleWidth(2)
        self.splitter.setChildrenCollapsible(False)
        self.splitter.addWidget(work)
        self.splitter.addWidget(self.side)
        self.splitter.setStretchFactor(0, 1)
        side = self._memory.side() if self._memory is not None else 340
        self.splitter.setSizes([max(1, self.width() - side), side])
        outer.addWidget(self.splitter, 1)
        outer.addWidget(self._build_footer())
        self.setCentralWidget(page)

    def _build_footer(self) -> QWidget:
        footer = QWidget()
        footer.setObjectName("footer")
        footer.setAttribute(Qt.WidgetAttribute.WA_StyledBackground)
        row = QHBoxLayout(footer)
        row.setContentsMargins(14, 5, 14, 5)
        self.footer = QLabel(_FIRST_TIP)
        self.footer.setTextFormat(Qt.TextFormat.PlainText)
        self.footer_home = label("", "quiet", wrap=False)
        row.addWidget(self.footer, 1)
        row.addWidget(self.footer_home)
        return footer

    def complete(self) -> None:
        """Make everything that the first paint did without; does nothing when it is made already."""
        if self._complete:
            return
        self._complete = True
        from ...session.simulated import SimulatedSession
        from ..dress.desk import DressDesk
        from ..gather.desk import GatherDesk
        from ..gather.screen_pick import ScreenPicker
        from ..model.document import Document
        from ..model.matching import Matching
        from ..model.opening import Opening
        from ..model.wearing import WearDesk
        from ..proof.panel import ProofPanel
        from ..stage.pair_strip import PairStrip
        from ..stage.scene import drawn_of
        from ..stage.staging import Staging
        from ..steps_taken.panel import StepsPanel
        from ..tune.panel import TunePanel
        from ..wear.panel import WearPanel
        from .dialogs import Dialogs
        from .plumage import Plumage
        from .tally import Tally

        self.document = Document(self)
        self.opening = Opening(self.document, self.jobs, self)
        self.matching = Matching(self.document, self.jobs, lambda path: self.opening.known.get(path))
        self.dialogs = Dialogs(self, self.document, self.opening, self.matching)
        self.staging = Staging(self.document, self._style, self.jobs, lambda look: self.opening.known.get(look.source))
        self.stage = self.staging.stage
        self.opening.drawn_of = drawn_of
        self.strip = PairStrip(self.document, self._style, self.jobs)
        self._work.addWidget(self.strip)
        self.strip.hide()
        self.centre.currentChanged.connect(lambda _: self.strip.setVisible(self.centre.currentWidget() is self.stage))
        self.desk = GatherDesk(
            self.document, self._style, self.jobs, self.opening, self.matching, self.picture, self.staging
        )
        self.wearing = WearDesk(self.document, self.jobs, SimulatedSession())
        self.tally = Tally(self.document, self.jobs, self.track, self.desk, self.wearing)
        self.picker = ScreenPicker(self, self.jobs, self.desk.name_colour)
        self.plumage = Plumage(self.document, self._style)
        self._gap.hide()
        self._ribbon.addWidget(self.plumage)
        self.gather = self.desk.panel
        self.tune = TunePanel(self.document, self._style)
        self.dressing = DressDesk(self.document, self._style, self.jobs, self.staging, self.wearing)
        self.themes, self.dress = self.dressing.themes, self.dressing.panel
        self.changes, self.beside = self.dressing.changes, self.dressing.beside
        self.proof = ProofPanel(self.document, self._style)
        self.wear = WearPanel(self.document, self._style, self.wearing)
        self.steps = StepsPanel(self.document, self._style)
        self.panels: dict[str, QWidget] = {
            "gather": self.gather,
            "tune": self.tune,
            "dress": self.dress,
            "proof": self.proof,
            "wear": self.wear,
        }
        self._refreshing = {
            "tune": self.tune.refresh,
            "dress": self.dress.refresh,
            "proof": self.proof.refresh,
            "wear": self.wearing.look_again,
        }
        for panel in (*self.panels.values(), self.steps):
            self.side.addWidget(panel)
        for view in (
            self.desk.sheet,
            self.stage,
            self.dressing.groups,
            self.changes,
            self.beside,
            self.wear.plan,
            self.wear.calls,
        ):
            self.centre.addWidget(view)
        self.setTabOrder(self.plumage, self.stage)
        self._connect()
        self._style_icons()
        self._take_choices()
        self.tally.count()

    def _connect(self) -> None:
        d = self.document
        d.changed.connect(self._look_changed)
        d.selected.connect(self._role_selected)
        d.trouble.connect(self.say_trouble)
        self.header.recent.aboutToShow.connect(self._list_recent)
        self.header.recent.setEnabled(self._memory is not None)
        self.actions_by_id["preferences"].setEnabled(self._memory is not None)
        self.wear.may_wear = self.dialogs.may_wear
        self.opening.opened_path.connect(self._note_opened)
        d.beside_changed.connect(self._show_stage)
        self.wearing.learned.connect(lambda known: self.tune.glass.say_compositor(known.composites))
        d.judged.connect(self._show_judged)
        d.stack.canUndoChanged.connect(self.actions_by_id["undo"].setEnabled)
        d.stack.canRedoChanged.connect(self.actions_by_id["redo"].setEnabled)
        d.stack.undoTextChanged.connect(self.header.say_undo)
        self.header.compare.pressed.connect(lambda: self._show_before(True))
        self.header.compare.released.connect(lambda: self._show_before(False))
        self.wear.view_changed.connect(lambda _: self._show_centre())
        self.wear.home_asked.connect(self.dialogs.home)
        self.wearing.done.connect(self.tally.count)
        self.wearing.worn.connect(self._keep_worn)
        self.wearing.said.connect(self._say_change)
        self.wearing.progressed.connect(self._say_progress)
        self.dialogs.home_chosen.connect(self.use_home)
        self.staging.picked.connect(self._picked)
        self.staging.at_hand.connect(self.strip.point)
        self.strip.change_asked.connect(self.change_role)
        self.strip.file_asked.connect(self.show_file)
        self.tune.page_changed.connect(lambda _: self._show_stage())
        self.tune.glass.flat_asked.connect(self.staging.show_flat)
        self.tune.eyes.vision_asked.connect(self.staging.see_with)
        self.tune.screen_asked.connect(lambda: self.pick_off_screen(True))
        self.gather.picture.screen_asked.connect(lambda: self.pick_off_screen(False))
        self.picker.taken.connect(self._picked_off_screen)
        self.dressing.shown.connect(self._show_dressed)
        self.dress.theme.wear_asked.connect(self.dressing.wear)
        self.themes.opened.connect(lambda _: self.show_step("dress"))
        self.opening.theme_found.connect(self.themes.bring)
        self.opening.parcel_found.connect(lambda path: self.shelving.receive(path))
        self.steps.closed.connect(lambda: self.show_step(self.step))
        self.steps.compared.connect(self._show_compared)
        self.steps.images_wanted.connect(lambda look: self.staging.make_small(look, self.steps.give_image))
        self.steps.name_asked.connect(self.dialogs.variant_name)
        self.steps.shelf_asked.connect(lambda look: self.shelving.keep(look))
        self.proof.report_asked.connect(lambda: self.shelving.ask_report())
        g, ask = self.gather, self.dialogs
        g.picture.open_asked.connect(ask.pictures)
        g.picture.add_asked.connect(ask.more_pictures)
        g.schemes.import_asked.connect(ask.palette)
        g.schemes.export_asked.connect(ask.export)
        g.schemes.theme_asked.connect(ask.theme)
        g.match.folder_asked.connect(ask.folder)
        g.match.save_asked.connect(ask.toned)
        self.dress.file_asked.connect(ask.theme_file)
        self.dress.folder_asked.connect(ask.theme_folder)
        self.dress.own_asked.connect(ask.own_program)
        self.dress.own_list_asked.connect(ask.own_list)
        self.dress.component.roles_asked.connect(ask.change_own)
        self.dress.component.forget_asked.connect(ask.forget_own)
        self.dress.component.emblems.file_asked.connect(lambda name: ask.emblem(self.dress.component, name))
        ask.own_changed.connect(self._own_changed)
        self.dress.here_asked.connect(lambda: self.dressing.list_here())
        self.dress.theme.save_asked.connect(lambda path: ask.save_theme(self.themes, path))
        ask.theme_chosen.connect(self.themes.bring)
        for source in (self.opening, self.matching, self.dialogs, self.desk, self.tally, self.dressing):
            source.trouble.connect(self.say_trouble)
        for speaker in (self.opening, self.matching, self.dialogs, self.desk, self.staging, self.dressing):
            speaker.said.connect(self.footer.setText)
        self.picker.trouble.connect(self.say_trouble)

    def _own_changed(self, id_: str) -> None:
        """Take up a component that the person has made, changed or forgotten, and show it."""
        self.dress.choose(COMPONENTS[0].id)  # what is in sight may be gone
        self.document.components_changed()
        if id_:
            self.show_component(id_)

    def _style_icons(self) -> None:
        ink, off = self._style.c("text"), self._style.c("disabled")
        for button, name in (
            (self.header.undo, "undo"),
            (self.header.redo, "redo"),
            (self.header.steps, "steps"),
            (self.header.curtain, "compare"),
            (self.header.compare, "before"),
            (self.header.finder, "find"),
            (self.header.more, "menu"),
            (self.gather.picture.open_button, "open"),
            (self.gather.picture.dropper_button, "pipette"),
            (self.gather.picture.screen_button, "pipette"),
            (self.tune.role.lock, "lock"),
        ):
            main = button is self.gather.picture.open_button
            button.setIcon(icon(name, self._style.c("on_accent") if main else ink, off))

    @cached_property
    def shelving(self) -> Shelving:
        """The shelf in the window, made when it is first wanted."""
        from .shelving import Shelving

        return Shelving(self)

    def _keep_worn(self) -> None:
        """Keep the look that was put on, where that is wanted."""
        from .preferences import USUAL

        if self._memory is not None and self._memory.choice("keep", USUAL["keep"]) == "yes":
            self.shelving.keep_worn()

    # Home and what is opened

    def use_home(self, home: Path) -> None:
        """Work on a home folder, and offer its pictures if it is the demo's."""
        self.complete()
        from ...session.desktop import desktop_named
        from ...session.real import session_for
        from ...session.simulated import MADE_UP, SimulatedSession
        from ...wear.places import own_home
        from ..stage.scene import Shape

        if self._memory is not None:
            self._memory.use_home(home)
        self.wearing.session = session_for(home) or SimulatedSession(MADE_UP["ringing room"])
        desktop = desktop_named(self.wearing.session.desktop)
        if desktop is not None:
            self.staging.shape = Shape(desktop.panel == "bottom", desktop.dock)
        self.document.set_home(home)
        self.steps.forget_images()
        own = home.resolve() == own_home().resolve()
        self.footer_home.setText(
            tr("Demo home") if home.parent.name == "demo" else tr("Your own home") if own else str(home)
        )
        self.desk.look_at_desktop(self.wearing.session)
        self.desk.offer_pictures_of(home)
        self.tally.count()

    def open_path(self, path: str) -> None:
        """Open a picture, a look, a palette or a theme by its path."""
        self.complete()
        self.opening.open_path(path)

    # What follows from a change

    def _look_changed(self, old: Look | None, new: Look | None) -> None:
        if new is None:
            return
        if old is None:
            for spec in ACTIONS:
                if spec.needs_look:
                    self.actions_by_id[spec.id].setEnabled(True)
            self.header.allow(True)
            self.footer.setText(_TIPS[self.step])
        self.session_bar.follow()
        self.say_trouble("")
        self.header.say_name(new.name)
        self.header.tone.show_tone(new.tone)
        self.setWindowTitle(tr("{name} – Mellow Finch").format(name=new.name))
        self.desk.follow(old, new, self.step == "gather")
        if self.step == "gather" and self.centre.currentWidget() is not self.stage:
            self.centre.setCurrentWidget(self.desk.view())
        self._show_stage()
        self._refresh_panel()
        if self.step == "dress" and self.dress.view != "stage":
            self._show_dressed()
        self.tally.follow()

    def _show_centre(self) -> None:
        """Show what the step in force is about."""
        at = {"gather": lambda: self.desk.view(), "wear": lambda: self.wear.centre(self.stage)}
        view = at.get(self.step, lambda: self.stage)()
        self.centre.setCurrentWidget(view)

    def _show_stage(self) -> None:
        if self.step != "gather":
            self.staging.mark_worst(self.step == "proof")
            self.staging.near_terminal = (self.step, self.tune.page) == ("tune", "terminal")
            self.staging.show()

    def _show_judged(self) -> None:
        """Mark the worst places when they are known."""
        self.staging.mark_worst(self.step == "proof")

    def _show_dressed(self) -> None:
        """Show what is chosen in Dress in the centre: on the stage, as changes of files, or as pictures."""
        if self.step == "dress":
            self.dressing.take_theme(True)
            view = self.dressing.view(self.stage)
            if view is self.stage:
                self._show_stage()
            self.centre.setCurrentWidget(view)

    def _show_before(self, before: bool) -> None:
        """Show the desktop as it was for as long as Compare is held."""
        if self.step == "gather" and before:
            self.centre.setCurrentWidget(self.stage)
            self.staging.show()
        elif self.step == "gather":
            self.centre.setCurrentWidget(self.desk.view())
        self.stage.set_compare(before)

    def _show_compared(self) -> None:
        """Hang the curtain between the states that were chosen."""
        if self.step == "gather":
            self.step = "tune"
            self.track.choose("tune")
        self.centre.setCurrentWidget(self.stage)
        self._show_stage()
        self.stage.set_curtain(0.5)

    def _refresh_panel(self) -> None:
        if self.side.currentWidget() is self.steps:
            self.steps.refresh()
        elif self.step != "gather":
            self._refreshing[self.step]()

    # Selecting

    def _picked(self) -> None:
        if self.step not in ("tune", "dress", "proof"):
            self.show_step("tune")
        if self.step == "tune" and self.tune.page not in ("role", "terminal"):
            self.tune.show_page("role")

    def change_role(self, role: str) -> None:
        """Go and change a role in Tune."""
        self.show_step("tune")
        self.tune.show_page("role")
        self.document.select(role, self.document.component, self.document.part)

    def show_component(self, component: str) -> None:
        """Show a component in Dress."""
        self.show_step("dress")
        self.dress.choose(component)

    def recent(self) -> list[Path]:
        """Return the pictures and looks that were opened last, the newest first."""
        return self._memory.recent() if self._memory is not None else []

    def show_file(self, component: str) -> None:
        """Show what changes in a component's files."""
        self.show_step("dress")
        self.dress.choose(component)
        self.dress.show_view("changes")

    def _role_selected(self, role: str, component: str, _part: str) -> None:
        from ...palette.roles import ROLE_BY_ID

        if self.step == "proof" and component != self.document.in_view:
            self.document.in_view = component
            self._show_stage()
        row, look = ROLE_BY_ID[role], self.document.look
        if look is not None:
            self.footer.setText(f"{row.title}, {look.colours[role].hex}. {row.shows}")

    def pick_off_screen(self, for_role: bool | None = None) -> None:
        """Pick a colour off the whole screen: for the selected role in Tune, else as a pin."""
        self._for_role = self.step == "tune" if for_role is None else for_role
        self.picker.pick()

    def _picked_off_screen(self, colour: Rgba) -> None:
        if self.document.look is None:
            self.say_trouble(tr("Choose a picture or a scheme first: the colour has nowhere to go yet."))
        elif self._for_role:
            self.tune.role.take(colour)
        else:
            self.opening.add_pin(colour)

    # Steps and switches

    def choose_preferences(self) -> None:
        """Let the person choose of the program itself."""
        from .preferences import Preferences

        if self._memory is not None:
            self._preferences = Preferences(self._memory, self)
            self._preferences.chosen.connect(lambda *_: self._take_choices())
            self._preferences.open()

    def _take_choices(self) -> None:
        """Let what was chosen in the preferences be so."""
        memory = self._memory
        if memory is None:
            return
        from .preferences import USUAL

        wanted = memory.choice("appearance", USUAL["appearance"])
        hints = QGuiApplication.styleHints()
        if wanted == "desktop" and hints is not None:
            wanted = "light" if hints.colorScheme() == Qt.ColorScheme.Light else "dark"
        strong = memory.choice("contrast", USUAL["contrast"])
        high = strong == "high" or (strong == "desktop" and _more_contrast_wanted())
        if (wanted == "dark") != self._style.dark or high != self._style.strong:
            self._show_appearance(wanted == "dark", high)
        self.opening.usual_need = float(memory.choice("need", USUAL["need"]))
        self.wear.asks = memory.choice("ask", USUAL["ask"]) == "yes"

    def show_guide(self) -> None:
        """Show the guide at the page of what is in sight."""
        from ..help.guide import Guide

        if self._guide is None:
            self._guide = Guide(self._style, self)
        on_shelf = "shelving" in self.__dict__ and self.side.currentWidget() is self.shelving.desk.panel
        self._guide.show_page("shelf" if on_shelf else self.step if self.document.look is not None else "start")

    def begin_tour(self) -> None:
        """Begin the tour on the made-up home."""
        self.tour.begin()

    def find_anything(self) -> None:
        """Find anything by name."""
        from .finder import Finder

        self._finder = Finder(self, self._style)
        self._finder.open()

    def switch_steps(self) -> None:
        """Show the steps taken beside the stage, or go back to the step's own panel."""
        if self.side.currentWidget() is self.steps:
            self.show_step(self.step)
            return
        self.side.setCurrentWidget(self.steps)
        self.steps.refresh()

    def show_step(self, name: str) -> None:
        """Go to a step."""
        self.complete()
        if name != "gather" and self.document.look is None and not (name == "wear" and self.tally.interrupted):
            self.say_trouble(tr("Choose a picture or a scheme first: everything else follows from it."))
            self.track.choose(self.step)
            return
        if name != self.step and self.document.beside != (None, None):
            self.document.set_beside(None, None)
        self.step = name
        self.track.choose(name)
        self.side.setCurrentWidget(self.panels[name])
        self._show_centre()
        self.dressing.take_theme(name == "dress")
        self._show_stage()
        self.wearing.come_in_sight(name == "wear")
        if name == "tune":
            self.document.select(self.document.role, self.document.component, self.document.part)
        if name == "gather":
            self.desk.come_in_sight()
        self._refresh_panel()
        if name == "dress":
            self._show_dressed()
        self.footer.setText(_TIPS[name] if self.document.look is not None else _FIRST_TIP)

    def switch_tone(self) -> None:
        """Go to the look's other half."""
        from ...look.edits import with_tone
        from ...palette.recipe import opposite

        look = self.document.look
        if look is not None:
            other = opposite(look.tone)
            self.document.edit(tr("Go dark") if other == "dark" else tr("Go light"), lambda now: with_tone(now, other))

    def switch_lock(self) -> None:
        """Lock or free the selected role."""
        from ...look.edits import with_lock

        role = self.document.role
        self.document.edit(tr("Lock or free a role"), lambda look: with_lock(look, role, role not in look.locks))

    def mend_all(self) -> None:
        """Mend every failing pair."""
        self.show_step("proof")
        self.proof.mend_all()

    def take_dropper(self) -> None:
        """Take the eyedropper in hand."""
        self.show_step("gather")
        self.gather.show_page("picture")
        self.centre.setCurrentWidget(self.picture)
        self.gather.picture.dropper_button.toggle()

    def switch_curtain(self) -> None:
        """Draw the curtain across the stage, or back."""
        if self.step == "gather":
            self.show_step("tune")
        drawn = self.stage.curtain is not None
        self.stage.set_curtain(None if drawn else 0.5)
        if drawn and self.document.beside != (None, None):
            self.document.set_beside(None, None)

    def switch_appearance(self) -> None:
        """Show the window itself light or dark."""
        self._show_appearance(not self._style.dark, self._style.strong)

    def _show_appearance(self, dark: bool, strong: bool) -> None:
        app = QApplication.instance()
        if isinstance(app, QApplication):
            self._style.use(app, dark, strong)
            self.actions_by_id["appearance"].setText(tr("Light window") if self._style.dark else tr("Dark window"))
            self._style_icons()
            self.gather.picture.field.forget_wheel()
            self.update()

    def _say_change(self, words: str, good: bool) -> None:
        """Tell what came of a change of the home; Wear itself tells it in its panel."""
        if good:
            self.footer.setText(words)
        elif self.step != "wear":
            self.say_trouble(words)

    def _say_progress(self, done: int, total: int, note: str) -> None:
        if total:
            self.footer.setText(tr("{done} of {total}: {note}").format(done=done, total=total, note=note))

    def say_trouble(self, words: str) -> None:
        """Tell the person what went wrong, in place; empty words take it away."""
        if words:
            self.gather.picture.show_busy("")
        self.notice.setText(words)
        self.notice.setVisible(bool(words))

    def dragEnterEvent(self, event: QDragEnterEvent | None) -> None:
        """Take files, wherever in the window they are dropped."""
        take_files(event)

    def dropEvent(self, event: QDropEvent | None) -> None:
        """Open what was dropped."""
        paths = dropped_files(event)
        if paths:
            self.complete()
            self.opening.open_paths(paths)

    # What is remembered

    def _note_opened(self, path: str) -> None:
        if self._memory is not None:
            self._memory.opened(Path(path))

    def _list_recent(self) -> None:
        self.header.recent.clear()
        rows = self.recent()
        for path in rows:
            action = QAction(path.name, self.header.recent)
            action.setToolTip(str(path))
            action.triggered.connect(lambda _=False, p=str(path): self.open_path(p))
            self.header.recent.addAction(action)
        if not rows:
            self.header.recent.addAction(tr("Nothing was opened yet")).setEnabled(False)  # type: ignore[union-attr]

    def _may_close(self) -> bool:
        """Ask about changes that were not saved; a window that remembers nothing asks nothing."""
        if self._memory is None or not self._complete or self.document.look is None or self.document.stack.isClean():
            return True
        answer = self.dialogs.about_to_close(self.document.look.name)
        if answer == "save":
            self.dialogs.save()
            return self.document.stack.isClean()
        return answer == "close"

    def closeEvent(self, event: QCloseEvent | None) -> None:
        """Ask about what was not saved, remember how the window is, and stop what is running."""
        if not self._may_close():
            if event is not None:
                event.ignore()
            return
        if self._complete:
            self.session_bar.keeping.stop()
            self.wearing.rest()
        if "shelving" in self.__dict__:
            self.shelving.desk.close()
        self.jobs.shut_down()  # first, so that no job writes the session once more
        if self._memory is not None:
            self._memory.keep_window(self.size(), self.side.width(), self.step)
            if self._complete:
                self._memory.forget_session()
        super().closeEvent(event)

    def end_quietly(self) -> None:
        """End as the system asks: keep where the person is, ask nothing, and let what runs come to its end."""
        if self._complete:
            self.session_bar.keep_now()
            self.wearing.rest()
        self.jobs.shut_down()
        if self._memory is not None:
            self._memory.keep_window(self.size(), self.side.width(), self.step)

    def after_first_paint(self, run: Callable[[], None]) -> None:
        """Run something once the window has painted itself."""
        self._after_paint = run

    def paintEvent(self, event: QPaintEvent | None) -> None:
        """Paint; the first time, let what waited for that begin."""
        super().paintEvent(event)
        if self._after_paint is not None:
            QTimer.singleShot(0, self._after_paint)
            self._after_paint = None
