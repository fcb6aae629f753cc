"""The main window: header, plumage, steps, stage, panels, footer, and what connects them."""

from __future__ import annotations

from collections.abc import Callable
from functools import partial
from pathlib import Path

from PyQt6.QtCore import QRectF, QSize, Qt, QTimer
from PyQt6.QtGui import QAction, QCloseEvent, QImage, QKeySequence
from PyQt6.QtWidgets import QApplication, QHBoxLayout, QLabel, QMainWindow, QStackedWidget, QVBoxLayout, QWidget

from ..colour.rgb import Rgba
from ..colour.vision import Vision
from ..components.catalogue import COMPONENT_BY_ID
from ..demo.build import demo_pictures
from ..errors import FinchError
from ..look.dressed import dress
from ..look.edits import with_lock, with_tone
from ..look.model import Look
from ..palette.recipe import Tone
from ..palette.roles import ROLE_BY_ID
from ..palette.spoken import nearest_role
from ..picture.load import load_picture
from ..session.base import Session
from ..session.real import session_for
from ..session.simulated import SimulatedSession
from ..wear.history import History
from ..wear.places import history_folder
from .actions import ACTIONS
from .asking import Asking
from .contact_sheet import ContactSheet
from .document import Document
from .gathered import image_of
from .header import Header
from .icons import icon
from .jobs import JobProgress, Jobs
from .opening import Card, Opening
from .panel_dress import DressPanel
from .panel_gather import GatherPanel
from .panel_proof import ProofPanel
from .panel_steps import SMALL, StepsPanel
from .panel_tune import TunePanel
from .panel_wear import WearPanel
from .parts import label
from .picture_view import PictureView
from .plumage import Plumage
from .screen_pick import ScreenPicker
from .stage.brush import Area
from .stage.lay import PaintsOf, Seen, small_desktop
from .stage.scene import TERMINAL
from .stage.view import Stage
from .steps import STEPS, StepTrack
from .style import Style
from .telling import area_words
from .tune_eyes import TITLES

CARD = QSize(300, 188)
_BANDS = ("window", "view", "header", "panel", "control", "selection", "accent", "link", "warning", "error")
_FIRST_TIP = "Everything follows from a picture, several of them, a scheme, a palette file or a theme."
_TIPS = {
    "gather": "Point at a swatch to see where it lies in the picture; point at the picture to see its swatch.",
    "tune": "Point at anything on the stage to learn what it is; click to change it.",
    "dress": "Choose a component to see its files and colours.",
    "proof": "Choose a pair to see it on the stage.",
    "wear": "Nothing is written before the old files are kept.",
}


class Window(QMainWindow):
    """Puts the parts together. All state of the look is in the document."""

    def __init__(self, style: Style, home: Path | None = None) -> None:
        super().__init__()
        self._style = style
        self.setWindowTitle("Mellow Finch")
        self.resize(1280, 800)
        self.document = Document(self)
        self.jobs = Jobs(self)
        self.opening = Opening(self.document, self.jobs, self)
        self.asking = Asking(self, self.document, self.opening)
        self.picker = ScreenPicker(self, self.jobs, self._name_colour)
        self.session: Session = SimulatedSession()
        self.step = "gather"
        self._worn = ""
        self._interrupted = False  # whether an earlier change waits to be finished or undone
        self._for_role = False  # whether the screen's eyedropper picks for the selected role
        self._vision: Vision = "normal"
        self._flat = False
        self.cards: list[tuple[Look, QImage]] = []
        self._cards_old = False  # whether the starting points were drawn for another tone, temper or pins
        self._counting = QTimer(self)
        self._counting.setSingleShot(True)
        self._counting.setInterval(150)
        self._counting.timeout.connect(self._counts)
        self.actions_by_id: dict[str, QAction] = {}
        self._make_actions()
        self._build()
        self._connect()
        self._connect_gather()
        self._style_icons()
        self.show_step("gather")
        if home is not None:
            self.use_home(home)

    # Building

    def _make_actions(self) -> None:
        runs: dict[str, Callable[[], object]] = {
            "open_picture": self.asking.pictures,
            "import_palette": self.asking.palette,
            "open_theme": self.asking.theme,
            "open_look": self.asking.look,
            "save_look": self.asking.save,
            "export_palette": self.asking.export,
            "rename": self.asking.name,
            "quit": self.close,
            "undo": self.document.stack.undo,
            "redo": self.document.stack.redo,
            "tone": self.switch_tone,
            "lock": self.switch_lock,
            "mend_all": self.mend_all,
            "steps": self.switch_steps,
            "dropper": self.take_dropper,
            "screen_dropper": self.pick_off_screen,
            "curtain": self.switch_curtain,
            "appearance": self.switch_appearance,
            "shortcuts": self.asking.shortcuts,
            "about": self.asking.about,
            **{f"step_{s.id}": partial(self.show_step, s.id) for s in STEPS},
        }
        for spec in ACTIONS:
            action = QAction(spec.text, self)
            if spec.shortcut:
                action.setShortcut(QKeySequence(spec.shortcut))
            action.setToolTip(f"{spec.tip} ({spec.shortcut})" if spec.shortcut else spec.tip)
            action.setStatusTip(spec.tip)
            run = runs[spec.id]
            action.triggered.connect(lambda _=False, run=run: run())
            action.setEnabled(not spec.needs_look)
            self.addAction(action)
            self.actions_by_id[spec.id] = action
        self.actions_by_id["undo"].setEnabled(False)
        self.actions_by_id["redo"].setEnabled(False)

    def _build(self) -> None:
        page = QWidget()
        page.setObjectName("page")
        outer = QVBoxLayout(page)
        outer.setContentsMargins(0, 0, 0, 0)
        outer.setSpacing(0)
        self.header = Header(self.actions_by_id)
        outer.addWidget(self.header)
        self.plumage = Plumage(self.document, self._style)
        outer.addWidget(self.plumage)
        self.notice = label("", "bad")
        self.notice.setContentsMargins(14, 4, 14, 6)
        self.notice.hide()
        outer.addWidget(self.notice)
        middle = QHBoxLayout()
        middle.setSpacing(0)
        self.track = StepTrack(self._style)
        middle.addWidget(self.track)
        self.centre = QStackedWidget()
        self.picture = PictureView(self._style)
        self.sheet = ContactSheet(self._style)
        self.stage = Stage(self._style)
        for widget in (self.picture, self.sheet, self.stage):
            self.centre.addWidget(widget)
        middle.addWidget(self.centre, 1)
        middle.addWidget(self._build_side())
        outer.addLayout(middle, 1)
        outer.addWidget(self._build_footer())
        self.setCentralWidget(page)
        self.setTabOrder(self.plumage, self.stage)

    def _build_side(self) -> QWidget:
        self.side = QStackedWidget()
        self.side.setObjectName("panel")
        self.side.setFixedWidth(340)
        self.gather = GatherPanel(self._style)
        self.tune = TunePanel(self.document, self._style)
        self.dress = DressPanel(self.document, self._style)
        self.proof = ProofPanel(self.document, self._style)
        self.wear = WearPanel(self.document, self._style, self.session)
        self.steps = StepsPanel(self.document, self._style)
        self.panels = {
            "gather": self.gather,
            "tune": self.tune,
            "dress": self.dress,
            "proof": self.proof,
            "wear": self.wear,
        }
        for panel in (*self.panels.values(), self.steps):
            self.side.addWidget(panel)
        return self.side

    def _build_footer(self) -> QWidget:
        footer = QWidget()
        footer.setObjectName("footer")
        footer.setAttribute(Qt.WidgetAttribute.WA_StyledBackground)
        row = QHBoxLayout(footer)
        row.setContentsMargins(14, 5, 14, 5)
        self.footer = QLabel("")
        self.footer.setTextFormat(Qt.TextFormat.PlainText)
        self.footer_home = label("", "quiet", wrap=False)
        row.addWidget(self.footer, 1)
        row.addWidget(self.footer_home)
        return footer

    def _style_icons(self) -> None:
        ink, off = self._style.c("text"), self._style.c("disabled")
        for button, name in (
            (self.header.undo, "undo"),
            (self.header.redo, "redo"),
            (self.header.steps, "steps"),
            (self.header.curtain, "compare"),
            (self.header.save, "save"),
            (self.gather.picture.open_button, "open"),
            (self.gather.picture.dropper_button, "pipette"),
            (self.gather.picture.screen_button, "pipette"),
            (self.tune.role.lock, "lock"),
        ):
            main = button is self.gather.picture.open_button
            button.setIcon(icon(name, self._style.c("on_accent") if main else ink, off))

    def _connect(self) -> None:
        d = self.document
        d.changed.connect(self._look_changed)
        d.selected.connect(self._role_selected)
        d.trouble.connect(self.say_trouble)
        d.beside_changed.connect(self._show_stage)
        d.stack.canUndoChanged.connect(self.actions_by_id["undo"].setEnabled)
        d.stack.canRedoChanged.connect(self.actions_by_id["redo"].setEnabled)
        d.stack.undoTextChanged.connect(
            lambda t: self.header.undo.setToolTip(f"Undo {t} (Ctrl+Z)" if t else "Undo (Ctrl+Z)")
        )
        self.header.compare.pressed.connect(lambda: self._show_before(True))
        self.header.compare.released.connect(lambda: self._show_before(False))
        self.track.chosen.connect(self.show_step)
        self.stage.picked.connect(self._picked)
        self.stage.pointed.connect(self._pointed)
        self.wear.home_asked.connect(self.asking.home)
        self.wear.changed.connect(self._worn_changed)
        self.asking.home_chosen.connect(self.use_home)
        self.tune.page_changed.connect(lambda _: self._show_stage())
        self.tune.glass.flat_asked.connect(self._show_flat)
        self.tune.eyes.vision_asked.connect(self._see_with)
        self.tune.screen_asked.connect(lambda: self.pick_off_screen(True))
        self.picker.taken.connect(self._picked_off_screen)
        self.steps.closed.connect(lambda: self.show_step(self.step))
        self.steps.compared.connect(self._show_compared)
        self.steps.images_wanted.connect(self._make_small)
        self.steps.name_asked.connect(self.asking.variant_name)
        for source in (self.opening, self.asking):
            source.trouble.connect(self.say_trouble)
            source.said.connect(self.footer.setText)
        self.picker.trouble.connect(self.say_trouble)

    def _connect_gather(self) -> None:
        o, g = self.opening, self.gather.picture
        self.picture.dropped.connect(o.open_paths)
        self.sheet.dropped.connect(o.open_paths)
        self.picture.taken.connect(o.add_pin)
        self.picture.swatch_pointed.connect(self._swatch_pointed)
        g.open_asked.connect(self.asking.pictures)
        g.add_asked.connect(self.asking.more_pictures)
        g.picture_asked.connect(o.open_path)
        g.picture_added.connect(lambda path: o.add_paths([path]))
        g.reading_chosen.connect(o.choose_reading)
        g.dropper_asked.connect(self.picture.set_dropper)
        g.screen_asked.connect(lambda: self.pick_off_screen(False))
        g.stop_asked.connect(o.stop)
        g.swatch_pointed.connect(self.picture.light)
        g.accent_asked.connect(o.lead_by)
        g.pin_removed.connect(o.remove_pin)
        g.weights_chosen.connect(o.set_weights)
        g.placed.connect(o.place)
        s = self.gather.schemes
        s.scheme_chosen.connect(o.open_scheme)
        s.import_asked.connect(self.asking.palette)
        s.export_asked.connect(self.asking.export)
        s.theme_asked.connect(self.asking.theme)
        s.worn_asked.connect(o.open_worn)
        m = self.gather.match
        m.folder_asked.connect(self.asking.folder)
        m.stop_asked.connect(o.stop)
        m.picture_asked.connect(o.open_path)
        m.strength_moved.connect(o.preview_tone)
        m.save_asked.connect(self.asking.toned)
        o.busy.connect(g.show_busy)
        o.shown.connect(self._show_source)
        o.readings_ready.connect(self._show_readings)
        o.problems.connect(self._show_problems)
        o.ranked.connect(m.add)
        o.rank_done.connect(m.show_ranked)
        o.rank_progress.connect(m.show_progress)
        o.toned.connect(self.picture.show_toned)
        self.jobs.progressed.connect(self._progressed)

    def _progressed(self, key: str, done: int, total: int, note: str) -> None:
        if key == "folder":
            self.opening.rank_progress.emit(done, total)
        elif key in ("picture", "readings", "thumbnails", "toned", "portal"):
            self.gather.picture.show_busy(f"{note} …")

    # Home and pictures

    def use_home(self, home: Path) -> None:
        """Work on a home folder, and offer its pictures if it is the demo's."""
        self.session = session_for(home) or SimulatedSession()
        self.wear.set_session(self.session)
        self.document.set_home(home)
        self.steps.forget_images()
        self.footer_home.setText("Demo home" if home.parent.name == "demo" else str(home))
        pictures = demo_pictures(home)
        if pictures and not self.gather.picture.own_row.count():

            def thumbnails(progress: JobProgress) -> list[QImage]:
                images = []
                for i, path in enumerate(pictures):
                    progress.report(i, len(pictures), "Looking for pictures")
                    images.append(image_of(load_picture(path, 200).pixels))
                return images

            def offer(images: list[QImage]) -> None:
                self.gather.picture.show_busy("")
                self.gather.picture.offer_pictures(pictures, images)

            self.jobs.start("thumbnails", thumbnails, offer, lambda e: self.say_trouble(str(e)))
        self._worn_changed()

    def open_path(self, path: str) -> None:
        """Open a picture, a look, a palette or a theme by its path."""
        self.opening.open_path(path)

    def _show_readings(self, rows: list[Card]) -> None:
        look, opened = self.document.look, self.opening.opened
        if look is None or opened is None:
            return
        plain = self._style.c("pressed")
        self.cards = [
            (fresh, small_desktop(CARD, opened.lead.image, paints, plain, self._seen(fresh))) for fresh, paints in rows
        ]
        readings = self.opening.readings
        cards = [(r.title, r.note, image) for r, (_, image) in zip(readings, self.cards, strict=True)]
        self.gather.picture.show_readings(cards, self.opening.reading_in_force())

    def _show_problems(self, name: str, problems: object) -> None:
        self.gather.schemes.show_problems(name, problems)  # type: ignore[arg-type]
        self.gather.show_page("schemes")

    def _swatch_pointed(self, swatch: int) -> None:
        self.gather.picture.light(swatch)
        look = self.document.look
        shown = self.opening.known.get(look.source) if look is not None else None
        if shown is not None and 0 <= swatch < len(shown.swatches):
            row = shown.swatches[swatch]
            self.footer.setText(f"Swatch {row.colour.hex}, {row.share:.1%} of the picture")

    # What follows from a change

    def _look_changed(self, old: Look | None, new: Look | None) -> None:
        if new is None:
            return
        if old is None:
            for spec in ACTIONS:
                if spec.needs_look:
                    self.actions_by_id[spec.id].setEnabled(True)
            self.header.compare.setEnabled(True)
            self.gather.schemes.buttons["export"].setEnabled(True)
        self.say_trouble("")
        self.header.name.setText(new.name + " ")
        self.header.tone.setText("Dark" if new.tone == "dark" else "Light")
        self.setWindowTitle(f"{new.name} – Mellow Finch")
        sources = (new.source, new.pictures, new.pins, new.placement, new.origin)
        if old is None or (old.source, old.pictures, old.pins, old.placement, old.origin) != sources:
            self._show_source()
        if old is not None and (old.tone, old.pins, old.temper) != (new.tone, new.pins, new.temper):
            self._cards_old = True
        if self._cards_old and self.step == "gather":
            self._cards_old = False
            self.opening.offer_readings()
        if old is None or (old.recipe, old.origin) != (new.recipe, new.origin):
            self.gather.picture.choose_reading(self.opening.reading_in_force())
        if self.step == "gather":
            self._show_fits(new)
        self._show_stage()
        self._refresh_panel()
        if self.document.dragging:
            self._counting.start()  # the counts follow when the hand rests
        else:
            self._counts()

    def _show_fits(self, look: Look) -> None:
        opened = self.opening.opened
        if opened is None:
            return
        self.gather.picture.field.show_colours(opened.gathering.common, look.colours["accent"])
        self.gather.picture.show_fits(opened, dict(look.colours))
        if len(opened.pictures) > 1:
            self.sheet.show_opened(opened, look.colours)

    def _show_source(self) -> None:
        """Show the pictures of the look, or what its colours come from where it has none."""
        look = self.document.look
        if look is None:
            return
        shown = self.opening.source_shown(look)
        self.picture.show_picture(shown)
        self.picture.show_placement(look.placement)
        self.picture.show_origin(look.origin or look.name, tuple(look.colours[r] for r in _BANDS))
        self.gather.schemes.show_origin(look.origin)
        self.gather.match.strength.show_value(0.0)
        self.gather.match.save_button.setEnabled(False)
        self.stage.set_picture(shown.image if shown is not None else None)
        opened = self.opening.opened
        if opened is not None and shown is not None:
            g = self.gather.picture
            g.show_opened(opened, look.pins, look.colours["accent"], look.placement)
            g.show_members(opened, dict(look.colours))
            self.sheet.show_opened(opened, look.colours)
            several = len(opened.pictures) > 1
            names = f"{len(opened.pictures)} pictures" if several else shown.path.name
            self.gather.under.setText(names if several else f"{names}, {shown.width} × {shown.height}")
        if look.origin:
            self.gather.under.setText(look.origin)
        if self.step == "gather":
            self.centre.setCurrentWidget(self._gather_view())

    def _gather_view(self) -> QWidget:
        look = self.document.look
        return self.sheet if look is not None and len(look.pictures) > 1 else self.picture

    def _seen(self, look: Look) -> Seen:
        shown = self.opening.known.get(look.source)
        size = (shown.width, shown.height) if shown is not None else (0, 0)
        return Seen(look.placement, look.blur, self._flat, size)

    def _show_stage(self) -> None:
        look = self.document.look
        if self.step == "gather" or look is None:
            return
        left, right = self.document.beside
        self.stage.before_words = left.words if left is not None else "As it was"
        self.stage.after_words = right.words if right is not None else "Now" if left is not None else "As it will be"
        self.stage.set_seen(self._seen(look))
        self.stage.set_close(QRectF(*TERMINAL) if (self.step, self.tune.page) == ("tune", "terminal") else None)
        self.stage.set_paints(self.document.right_paints, self.document.left_paints)

    def _show_before(self, before: bool) -> None:
        """Show the desktop as it was for as long as Compare is held."""
        if self.step == "gather" and before:
            self.centre.setCurrentWidget(self.stage)
            self.stage.set_paints(self.document.right_paints, self.document.left_paints)
        elif self.step == "gather":
            self.centre.setCurrentWidget(self._gather_view())
        self.stage.set_compare(before)

    def _show_compared(self) -> None:
        """Hang the curtain between the states that were chosen."""
        if self.step == "gather":
            self.step = "tune"
            self.track.choose("tune")
        self.centre.setCurrentWidget(self.stage)
        self._show_stage()
        self.stage.set_curtain(0.5)

    def _show_flat(self, flat: bool) -> None:
        self._flat = flat
        self._say_seen()

    def _see_with(self, vision: str) -> None:
        self._vision = vision  # type: ignore[assignment]
        self.stage.set_vision(self._vision)
        self._say_seen()

    def _say_seen(self) -> None:
        words = [] if self._vision == "normal" else [f"Seen: {TITLES[self._vision][0]}"]
        self.stage.set_note("  ·  ".join([*words, *(["No compositor"] if self._flat else [])]))
        self._show_stage()

    def _refresh_panel(self) -> None:
        if self.side.currentWidget() is self.steps:
            self.steps.refresh()
        elif self.step != "gather":
            refresh = {
                "tune": self.tune.refresh,
                "dress": self.dress.refresh,
                "proof": self.proof.refresh,
                "wear": self.wear.refresh,
            }
            refresh[self.step]()

    def _counts(self) -> None:
        """Say at every step what is left there."""
        look, buttons = self.document.look, self.track.buttons
        if look is None:
            for name in buttons:
                buttons[name].say("no picture yet" if name == "gather" else "")
            return
        dressed = self.document.dressed
        several = sum(m.weight > 0 for m in look.pictures)
        start = (
            f"{several} pictures" if several > 1 else "1 picture" if look.source and not look.origin else "a palette"
        )
        kind = look.origin.partition(" ")[0].lower()
        start = {"scheme": "a scheme", "theme": "a theme"}.get(kind, start)
        pins = len(look.pins)
        buttons["gather"].say(f"{pins} pin{'s' * (pins != 1)}" if pins else start)
        buttons["tune"].say(f"{len(look.locks)} locked" if look.locks else f"{look.tone}, no locks")
        done = len(dressed.components) if dressed else 0
        buttons["dress"].say(f"{done} of {len(COMPONENT_BY_ID)} dressed")
        short = sum(not f.passes for f in self.document.findings)
        buttons["proof"].say(f"{short} to mend" if short else "all readable", bool(short))
        buttons["wear"].say("worn" if self._worn == look.name else "not worn yet")

    def _worn_changed(self) -> None:
        """Learn which look the home wears; only wearing and another home can change that."""
        self._worn, self._interrupted = "", False
        if self.document.home is not None:
            history = History(history_folder(self.document.home))
            try:
                last, pending = history.last_worn(), history.pending()
            except FinchError as error:
                self.say_trouble(error.line())
            else:
                self._worn = last.look if last is not None else ""
                self._interrupted = pending is not None
                if pending is not None:
                    self.say_trouble(
                        f"Putting on “{pending.look}” was interrupted. Wear offers to finish or to undo it."
                    )
        self._counts()

    # Selecting

    def _picked(self, area: Area) -> None:
        part = COMPONENT_BY_ID[area.component].by_key.get(area.part)
        role = (part.text_role if area.what == "text" else part.fill_role) if part else ""
        look = self.document.look
        self.document.select(role if look is not None and role in look.colours else "", area.component, area.part)
        if self.step not in ("tune", "dress"):
            self.show_step("tune")
        if self.step == "tune" and self.tune.page not in ("role", "terminal"):
            self.tune.show_page("role")

    def _role_selected(self, role: str, component: str, part: str) -> None:
        if not part:
            component, part = next(
                (
                    (c.id, p.key)
                    for c in COMPONENT_BY_ID.values()
                    for p in c.parts
                    if role in (p.text_role, p.fill_role) and self.stage.point_of(c.id, p.key) is not None
                ),
                ("", ""),
            )
        self.stage.mark(component, part)
        row = ROLE_BY_ID[role]
        look = self.document.look
        if look is not None:
            self.footer.setText(f"{row.title}, {look.colours[role].hex}. {row.shows}")

    def _pointed(self, area: Area | None) -> None:
        if area is not None:
            paints: PaintsOf = self.document.left_paints if self.stage.showing_before else self.document.right_paints
            self.footer.setText(area_words(area, self.document, paints))

    def _name_colour(self, colour: Rgba) -> str:
        """Return the role that a colour of the screen is nearest to, in words."""
        look = self.document.look
        if look is None:
            return ""
        role, distance = nearest_role(colour, look.colours)
        return f"{'is' if distance < 0.004 else 'near'} {ROLE_BY_ID[role].title}"

    def pick_off_screen(self, for_role: bool | None = None) -> None:
        """Pick a colour off the whole screen: for the selected role in Tune, else as a pin."""
        self._for_role = self.step == "tune" if for_role is None else for_role
        self.picker.pick()

    def _picked_off_screen(self, colour: Rgba) -> None:
        if self.document.look is None:
            self.say_trouble("Choose a picture or a scheme first: the colour has nowhere to go yet.")
        elif self._for_role:
            self.tune.role.take(colour)
            self.footer.setText(f"{ROLE_BY_ID[self.document.role].title} took {colour.hex} off the screen.")
        else:
            self.opening.add_pin(colour)

    # Small desktops of the steps taken

    def _make_small(self, look: Look) -> None:
        shown, files, plain = self.opening.known.get(look.source), self.document.files, self._style.c("pressed")

        def work(_progress: JobProgress) -> PaintsOf:
            return dress(look, files).paints

        def done(paints: PaintsOf) -> None:
            image = small_desktop(SMALL * 2, shown.image if shown else None, paints, plain, self._seen(look))
            self.steps.give_image(look, image)

        self.jobs.start(f"small {id(look)}", work, done, lambda e: self.say_trouble(str(e)))

    def switch_steps(self) -> None:
        """Show the steps taken beside the stage, or go back to the step's own panel."""
        if self.side.currentWidget() is self.steps:
            self.show_step(self.step)
            return
        self.side.setCurrentWidget(self.steps)
        self.steps.refresh()

    # Steps and switches

    def show_step(self, name: str) -> None:
        """Go to a step."""
        if name != "gather" and self.document.look is None and not (name == "wear" and self._interrupted):
            self.say_trouble("Choose a picture or a scheme first: everything else follows from it.")
            self.track.choose(self.step)
            return
        if name != self.step and self.document.beside != (None, None):
            self.document.set_beside(None, None)
        self.step = name
        self.track.choose(name)
        self.side.setCurrentWidget(self.panels[name])
        self.centre.setCurrentWidget(self._gather_view() if name == "gather" else self.stage)
        self._show_stage()
        if name == "tune":
            self.document.select(self.document.role, self.document.component, self.document.part)
        if name == "gather" and self.document.look is not None:
            self._show_fits(self.document.look)
            if self._cards_old:
                self._cards_old = False
                self.opening.offer_readings()
        self._refresh_panel()
        self.footer.setText(_TIPS[name] if self.document.look is not None else _FIRST_TIP)

    def switch_tone(self) -> None:
        """Go to the look's other half."""
        look = self.document.look
        if look is not None:
            other: Tone = "light" if look.tone == "dark" else "dark"
            self.document.edit(f"Go {other}", lambda now: with_tone(now, other))

    def switch_lock(self) -> None:
        """Lock or free the selected role."""
        role = self.document.role
        self.document.edit("Lock or free a role", lambda look: with_lock(look, role, role not in look.locks))

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
        app = QApplication.instance()
        if isinstance(app, QApplication):
            self._style.use(app, not self._style.dark)
            self.actions_by_id["appearance"].setText("Light window" if self._style.dark else "Dark window")
            self._style_icons()
            self.gather.picture.field.forget_wheel()
            self.update()

    def say_trouble(self, words: str) -> None:
        """Tell the person what went wrong, in place; empty words take it away."""
        if words:
            self.gather.picture.show_busy("")
        self.notice.setText(words)
        self.notice.setVisible(bool(words))

    def closeEvent(self, event: QCloseEvent | None) -> None:
        """Stop what is running."""
        self.jobs.shut_down()
        super().closeEvent(event)

    def after_first_paint(self, run: Callable[[], None]) -> None:
        """Run something once the window is on screen."""
        QTimer.singleShot(0, run)
