"""The main window: header, plumage, steps, stage, panels, footer, and what connects them."""

from __future__ import annotations

import gc
from collections.abc import Callable
from dataclasses import replace
from functools import partial
from pathlib import Path

from PyQt6.QtCore import QSize, Qt, QTimer
from PyQt6.QtGui import QAction, QCloseEvent, QImage, QKeySequence, QPainter
from PyQt6.QtWidgets import (
    QApplication,
    QFileDialog,
    QHBoxLayout,
    QInputDialog,
    QLabel,
    QMainWindow,
    QMenu,
    QMessageBox,
    QPushButton,
    QStackedWidget,
    QToolButton,
    QVBoxLayout,
    QWidget,
)

from .. import __version__
from ..colour.rgb import Rgba
from ..components.catalogue import COMPONENT_BY_ID
from ..components.judge import Behind, judge_part
from ..demo.build import demo_pictures
from ..errors import FinchError, file_errors
from ..look.dressed import dress
from ..look.edits import read_anew, with_lock, with_role, with_tone
from ..look.file import SUFFIX, load_look, look_to_json
from ..look.model import Look
from ..palette.readings import Reading, readings_of
from ..palette.recipe import Tone
from ..palette.roles import ROLE_BY_ID
from ..progress import Progress
from ..session.base import Session
from ..session.real import session_for
from ..session.simulated import SimulatedSession
from ..wear.disk import Disk
from ..wear.history import History
from ..wear.places import history_folder
from .actions import ACTIONS
from .document import Document
from .gathered import Gathered, open_picture
from .icons import icon
from .jobs import Jobs
from .panel_dress import DressPanel
from .panel_gather import GatherPanel
from .panel_proof import ProofPanel
from .panel_tune import TunePanel
from .panel_wear import WearPanel
from .parts import label
from .picture_view import PictureView
from .plumage import Plumage
from .stage.brush import Area
from .stage.scene import HEIGHT, WIDTH
from .stage.view import PaintsOf, Stage, draw_stage
from .steps import STEPS, StepTrack
from .style import Style

CARD = QSize(300, 188)
_FILTER = "Pictures (*.png *.jpg *.jpeg *.webp *.tif *.tiff *.bmp *.gif *.avif)"


class Window(QMainWindow):
    """Puts the parts together. All state of the look is in the document."""

    def __init__(self, style: Style, home: Path | None = None) -> None:
        super().__init__()
        self._style = style
        self.setWindowTitle("Mellow Finch")
        self.resize(1280, 800)
        self.document = Document(self)
        self.jobs = Jobs(self)
        self.session: Session = SimulatedSession()
        self.step = "gather"
        self._worn = ""
        self._interrupted = False  # whether an earlier change waits to be finished or undone
        self._pictures: dict[str, Gathered] = {}
        self._readings: tuple[Reading, ...] = ()
        self._cards: list[tuple[Look, QImage]] = []
        self._counting = QTimer(self)
        self._counting.setSingleShot(True)
        self._counting.setInterval(150)
        self._counting.timeout.connect(self._counts)
        self.actions_by_id: dict[str, QAction] = {}
        self._make_actions()
        self._build()
        self._connect()
        self._style_icons()
        self.show_step("gather")
        if home is not None:
            self.use_home(home)

    # Building

    def _make_actions(self) -> None:
        runs: dict[str, Callable[[], object]] = {
            "open_picture": self.ask_picture,
            "open_look": self.ask_look,
            "save_look": self.ask_save,
            "rename": self.ask_name,
            "quit": self.close,
            "undo": self.document.stack.undo,
            "redo": self.document.stack.redo,
            "tone": self.switch_tone,
            "lock": self.switch_lock,
            "mend_all": self.mend_all,
            "dropper": self.take_dropper,
            "curtain": self.switch_curtain,
            "appearance": self.switch_appearance,
            "shortcuts": self.show_shortcuts,
            "about": self.show_about,
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

    def _tool(self, action: str, words: str = "") -> QToolButton:
        button = QToolButton()
        button.setAccessibleName(self.actions_by_id[action].text())
        button.setToolTip(self.actions_by_id[action].toolTip())
        button.clicked.connect(self.actions_by_id[action].trigger)
        if words:
            button.setText(words)
            button.setToolButtonStyle(Qt.ToolButtonStyle.ToolButtonTextBesideIcon)
        button.setIconSize(QSize(18, 18))
        self.actions_by_id[action].changed.connect(lambda: button.setEnabled(self.actions_by_id[action].isEnabled()))
        button.setEnabled(self.actions_by_id[action].isEnabled())
        return button

    def _build(self) -> None:
        page = QWidget()
        page.setObjectName("page")
        outer = QVBoxLayout(page)
        outer.setContentsMargins(0, 0, 0, 0)
        outer.setSpacing(0)
        outer.addWidget(self._build_header())
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
        self.stage = Stage(self._style)
        self.centre.addWidget(self.picture)
        self.centre.addWidget(self.stage)
        middle.addWidget(self.centre, 1)
        self.side = QStackedWidget()
        self.side.setObjectName("panel")
        self.side.setFixedWidth(340)
        self.gather = GatherPanel(self._style)
        self.tune = TunePanel(self.document, self._style)
        self.dress = DressPanel(self.document, self._style)
        self.proof = ProofPanel(self.document, self._style)
        self.wear = WearPanel(self.document, self._style, self.session)
        self.panels = {
            "gather": self.gather,
            "tune": self.tune,
            "dress": self.dress,
            "proof": self.proof,
            "wear": self.wear,
        }
        for panel in self.panels.values():
            self.side.addWidget(panel)
        middle.addWidget(self.side)
        outer.addLayout(middle, 1)
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
        outer.addWidget(footer)
        self.setCentralWidget(page)
        self.setTabOrder(self.plumage, self.stage)

    def _build_header(self) -> QWidget:
        header = QWidget()
        header.setObjectName("header")
        header.setAttribute(Qt.WidgetAttribute.WA_StyledBackground)
        row = QHBoxLayout(header)
        row.setContentsMargins(14, 7, 14, 7)
        row.setSpacing(8)
        self.name = QToolButton()
        self.name.setText("No look yet")
        self.name.setToolTip("Name, open and save looks")
        self.name.setAccessibleName("Menu")
        self.name.setPopupMode(QToolButton.ToolButtonPopupMode.InstantPopup)
        self.name.setMenu(self._menu())
        font = self.name.font()
        font.setBold(True)
        font.setPointSizeF(12)
        self.name.setFont(font)
        row.addWidget(self.name)
        row.addStretch(1)
        self.tone_button = self._tool("tone", "Dark")
        self.undo_button = self._tool("undo")
        self.redo_button = self._tool("redo")
        self.compare = QPushButton("Compare")
        self.compare.setToolTip("Hold to see the desktop as it was")
        self.compare.setEnabled(False)
        self.compare.pressed.connect(lambda: self._show_before(True))
        self.compare.released.connect(lambda: self._show_before(False))
        self.curtain_button = self._tool("curtain", "Curtain")
        self.save_button = self._tool("save_look", "Save")
        for button in (
            self.tone_button,
            self.undo_button,
            self.redo_button,
            self.compare,
            self.curtain_button,
            self.save_button,
        ):
            row.addWidget(button)
        return header

    def _menu(self) -> QMenu:
        menu = QMenu(self)
        current: QMenu | None = None
        title = ""
        for spec in ACTIONS:
            if spec.menu != title:
                title = spec.menu
                current = menu.addMenu(title)
            if current is not None:
                current.addAction(self.actions_by_id[spec.id])
        return menu

    def _style_icons(self) -> None:
        ink, off = self._style.c("text"), self._style.c("disabled")
        for button, name in (
            (self.undo_button, "undo"),
            (self.redo_button, "redo"),
            (self.curtain_button, "compare"),
            (self.save_button, "save"),
            (self.gather.open_button, "open"),
            (self.gather.dropper_button, "pipette"),
            (self.tune.lock, "lock"),
        ):
            main = button is self.gather.open_button
            button.setIcon(icon(name, self._style.c("on_accent") if main else ink, off))

    def _connect(self) -> None:
        d = self.document
        d.changed.connect(self._look_changed)
        d.selected.connect(self._role_selected)
        d.trouble.connect(self.say_trouble)
        d.stack.canUndoChanged.connect(self.actions_by_id["undo"].setEnabled)
        d.stack.canRedoChanged.connect(self.actions_by_id["redo"].setEnabled)
        d.stack.undoTextChanged.connect(
            lambda t: self.undo_button.setToolTip(f"Undo {t} (Ctrl+Z)" if t else "Undo (Ctrl+Z)")
        )
        self.track.chosen.connect(self.show_step)
        self.stage.picked.connect(self._picked)
        self.stage.pointed.connect(self._pointed)
        self.picture.dropped.connect(self.open_path)
        self.picture.taken.connect(self.add_pin)
        self.picture.swatch_pointed.connect(self._swatch_pointed)
        g = self.gather
        g.open_asked.connect(self.ask_picture)
        g.picture_asked.connect(self.open_path)
        g.reading_chosen.connect(self.choose_reading)
        g.dropper_asked.connect(self.picture.set_dropper)
        g.swatch_pointed.connect(self.picture.light)
        g.accent_asked.connect(self._accent_asked)
        g.pin_removed.connect(self._pin_removed)
        self.wear.home_asked.connect(self.ask_home)
        self.wear.changed.connect(self._worn_changed)
        self.jobs.progressed.connect(lambda _k, _d, _t, note: g.show_busy(f"{note} …"))

    # Home and pictures

    def use_home(self, home: Path) -> None:
        """Work on a home folder, and offer its pictures if it is the demo's."""
        self.session = session_for(home) or SimulatedSession()
        self.wear.set_session(self.session)
        self.document.set_home(home)
        self.footer_home.setText("Demo home" if home.parent.name == "demo" else str(home))
        pictures = demo_pictures(home)
        if pictures and not self.gather._own_row.count():

            def thumbnails(progress: Progress) -> list[QImage]:
                images = []
                for i, path in enumerate(pictures):
                    progress.report(i, len(pictures), "Looking for pictures")
                    images.append(_thumbnail(path))
                return images

            def offer(images: list[QImage]) -> None:
                self.gather.show_busy("")
                self.gather.offer_pictures(pictures, images)

            self.jobs.start("thumbnails", thumbnails, offer, lambda e: self.say_trouble(str(e)))
        self._worn_changed()

    def open_path(self, path: str) -> None:
        """Open a picture or a look by its path; a file that cannot be opened leaves everything as it is."""
        if Path(path).suffix == SUFFIX:
            self.open_look_file(Path(path))
            return
        self.gather.show_busy("Reading the picture …")
        self.jobs.start(
            "picture", lambda progress: open_picture(Path(path), progress), self._picture_ready, self._picture_failed
        )

    def _picture_failed(self, error: Exception) -> None:
        self.gather.show_busy("")
        self.say_trouble(error.line() if isinstance(error, FinchError) else str(error))

    def _picture_ready(self, gathered: Gathered) -> None:
        self.gather.show_busy("")
        self.say_trouble("")
        self._pictures[str(gathered.path)] = gathered
        tone = self.document.look.tone if self.document.look is not None else "dark"
        look = gathered.look(gathered.readings[0], tone)
        if self.document.look is None:
            self.document.start(look)
        else:
            self.document.edit(f"Open {gathered.path.name}", lambda _: look)
        self._offer_readings(gathered)
        # What was compiled for the first picture stays for good: without this every collection would walk over it.
        gc.collect()
        gc.freeze()

    def _offer_readings(self, gathered: Gathered) -> None:
        """Draw every reading as a small desktop, off the window's thread as far as it can be."""
        look, files = self.document.look, self.document.files
        if look is None:
            return
        readings = readings_of(gathered.swatches, look.pins) if look.pins else gathered.readings
        tone = look.tone

        def work(progress: Progress) -> list[tuple[Look, PaintsOf]]:
            rows: list[tuple[Look, PaintsOf]] = []
            for i, reading in enumerate(readings):
                progress.report(i, len(readings), "Drawing starting points")
                fresh = gathered.look(reading, tone)
                rows.append((fresh, dress(fresh, files).paints))
            return rows

        def done(rows: list[tuple[Look, PaintsOf]]) -> None:
            self.gather.show_busy("")
            self._readings = readings
            self._cards = [(fresh, self._small_desktop(gathered.image, paints)) for fresh, paints in rows]
            cards = [(r.title, r.note, image) for r, (_, image) in zip(readings, self._cards, strict=True)]
            self.gather.show_readings(cards, self._reading_in_force())

        self.jobs.start("readings", work, done, lambda e: self.say_trouble(str(e)))

    def _small_desktop(self, picture: QImage, paints: PaintsOf) -> QImage:
        image = QImage(CARD, QImage.Format.Format_RGB32)
        painter = QPainter(image)
        painter.setRenderHints(QPainter.RenderHint.Antialiasing | QPainter.RenderHint.SmoothPixmapTransform)
        painter.scale(CARD.width() / WIDTH, CARD.height() / HEIGHT)
        draw_stage(painter, picture, paints, self._style.c("pressed"))
        painter.end()
        return image

    def _reading_in_force(self) -> int:
        look = self.document.look
        recipes = [r.recipe for r in self._readings]
        return recipes.index(look.recipe) if look is not None and look.recipe in recipes else -1

    def choose_reading(self, number: int) -> None:
        """Start from another reading; locks hold."""
        reading = self._readings[number]
        self.document.edit(f"Reading: {reading.title}", lambda look: read_anew(look, reading))

    def add_pin(self, colour: Rgba) -> None:
        """Pin a colour that the eyedropper took."""
        self.document.edit(
            f"Pin {colour.hex}",
            lambda look: replace(look, pins=(*look.pins, colour)) if colour not in look.pins else look,
        )
        self.footer.setText(f"Pinned {colour.hex}. It leads the first starting points now.")

    def _pin_removed(self, colour: Rgba) -> None:
        self.document.edit(
            f"Take out {colour.hex}", lambda look: replace(look, pins=tuple(p for p in look.pins if p != colour))
        )

    def _accent_asked(self, colour: Rgba) -> None:
        self.document.select("accent")
        self.document.edit(f"Accent {colour.hex}", lambda look: with_role(look, "accent", colour))

    def _swatch_pointed(self, swatch: int) -> None:
        source = self.document.look.source if self.document.look else ""
        gathered = self._pictures.get(source)
        if gathered is not None and 0 <= swatch < len(gathered.swatches):
            row = gathered.swatches[swatch]
            self.footer.setText(f"Swatch {row.colour.hex}, {row.share:.1%} of the picture")

    # What follows from a change

    def _look_changed(self, old: Look | None, new: Look | None) -> None:
        if new is None:
            return
        for spec in ACTIONS:
            if spec.needs_look:
                self.actions_by_id[spec.id].setEnabled(True)
        self.compare.setEnabled(True)
        self.say_trouble("")
        self.name.setText(new.name + " ")
        self.tone_button.setText("Dark" if new.tone == "dark" else "Light")
        self.setWindowTitle(f"{new.name} – Mellow Finch")
        if old is None or old.source != new.source or old.pins != new.pins:
            self._show_source(new)
            if old is not None and old.pins != new.pins and new.source in self._pictures:
                self._offer_readings(self._pictures[new.source])
        elif old.tone != new.tone and new.source in self._pictures:
            self._offer_readings(self._pictures[new.source])
        if old is None or old.recipe != new.recipe:
            self.gather.choose_reading(self._reading_in_force())
        if new.source in self._pictures:
            self.gather.field.show_colours(self._pictures[new.source].swatches, new.colours["accent"])
        self._show_stage()
        self._refresh_panel(self.step)
        if self.document.dragging:
            self._counting.start()  # the counts follow when the hand rests
        else:
            self._counts()

    def _show_source(self, look: Look) -> None:
        gathered = self._pictures.get(look.source)
        self.picture.show_picture(gathered)
        self.stage.set_picture(gathered.image if gathered is not None else None)
        if gathered is not None:
            self.gather.show_gathered(gathered, look.pins, look.colours["accent"])
        elif look.source and Path(look.source).is_file():
            # A look from a file brings its own colours; only the picture is shown again.
            def shown(fresh: Gathered) -> None:
                self._pictures[look.source] = fresh
                self.gather.show_busy("")
                if self.document.look is not None:
                    self._show_source(self.document.look)

            self.jobs.start(
                "picture", lambda progress: open_picture(Path(look.source), progress), shown, self._picture_failed
            )

    def _show_stage(self) -> None:
        if self.step == "gather":
            return
        dressed = self.document.dressed
        if dressed is not None:
            self.stage.set_paints(dressed.paints, self.document.before)

    def _show_before(self, before: bool) -> None:
        """Show the desktop as it was for as long as Compare is held."""
        if self.step == "gather" and before:
            self.centre.setCurrentWidget(self.stage)
            if self.document.dressed is not None:
                self.stage.set_paints(self.document.dressed.paints, self.document.before)
        elif self.step == "gather":
            self.centre.setCurrentWidget(self.picture)
        self.stage.set_compare(before)

    def _refresh_panel(self, step: str) -> None:
        if step == "tune":
            self.tune.refresh()
        elif step == "dress":
            self.dress.refresh()
        elif step == "proof":
            self.proof.refresh()
        elif step == "wear":
            self.wear.refresh()

    def _counts(self) -> None:
        """Say at every step what is left there."""
        look, buttons = self.document.look, self.track.buttons
        if look is None:
            for name, words in (("gather", "no picture yet"), ("tune", ""), ("dress", ""), ("proof", ""), ("wear", "")):
                buttons[name].say(words)
            return
        dressed = self.document.dressed
        buttons["gather"].say(f"{len(look.pins)} pins" if look.pins else "1 picture" if look.source else "a scheme")
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

    def _role_selected(self, role: str, component: str, part: str) -> None:
        if not part:
            found = next(
                (
                    (c.id, p.key)
                    for c in COMPONENT_BY_ID.values()
                    for p in c.parts
                    if role in (p.text_role, p.fill_role) and self.stage.point_of(c.id, p.key) is not None
                ),
                ("", ""),
            )
            component, part = found
        self.stage.mark(component, part)
        row = ROLE_BY_ID[role]
        look = self.document.look
        if look is not None:
            self.footer.setText(f"{row.title}, {look.colours[role].hex}. {row.shows}")

    def _pointed(self, area: Area | None) -> None:
        if area is None:
            return
        component = COMPONENT_BY_ID[area.component]
        part = component.by_key.get(area.part)
        if part is None:
            return
        paints = (
            self.document.before
            if self.stage.showing_before
            else (self.document.dressed.paints if self.document.dressed else {})
        )
        paint = paints.get(component.id, {}).get(part.key)
        words = [component.title, part.id + (f", {part.state}" if part.state else "")]
        look = self.document.look
        if paint is not None and look is not None:
            names = [ROLE_BY_ID[r].title for r in (part.text_role, part.fill_role) if r in ROLE_BY_ID]
            if names:
                words.append(" on ".join(dict.fromkeys(names)))
            pairs = judge_part(part, paint, Behind.of(look.scheme()))
            if pairs:
                worst = min(pairs, key=lambda p: p.ratio / p.need)
                words.append(f"{worst.ratio:.2f} : 1, needs {worst.need:g}")
        elif paint is None:
            words.append("its file says nothing of this")
        files = self.document.dressed.files.get(component.id, ()) if self.document.dressed else ()
        if files:
            words.append(f"~/{files[0].path}")
        self.footer.setText("  ·  ".join(words))

    # Steps and switches

    def show_step(self, name: str) -> None:
        """Go to a step."""
        if name != "gather" and self.document.look is None and not (name == "wear" and self._interrupted):
            self.say_trouble("Choose a picture first: everything else follows from it.")
            self.track.choose(self.step)
            return
        self.step = name
        self.track.choose(name)
        self.side.setCurrentWidget(self.panels[name])
        self.centre.setCurrentWidget(self.picture if name == "gather" else self.stage)
        self._show_stage()
        if name == "tune":
            self.document.select(self.document.role, self.document.component, self.document.part)
        self._refresh_panel(name)
        tips = {
            "gather": "Point at a swatch to see where it lies in the picture.",
            "tune": "Point at anything on the stage to learn what it is; click to change it.",
            "dress": "Choose a component to see its files and colours.",
            "proof": "Choose a pair to see it on the stage.",
            "wear": "Nothing is written before the old files are kept.",
        }
        self.footer.setText(tips[name])

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
        self.gather.dropper_button.toggle()

    def switch_curtain(self) -> None:
        """Draw the curtain across the stage, or back."""
        if self.step == "gather":
            self.show_step("tune")
        self.stage.set_curtain(None if self.stage.curtain is not None else 0.5)

    def switch_appearance(self) -> None:
        """Show the window itself light or dark."""
        app = QApplication.instance()
        if isinstance(app, QApplication):
            self._style.use(app, not self._style.dark)
            self.actions_by_id["appearance"].setText("Light window" if self._style.dark else "Dark window")
            self._style_icons()
            self.gather.field._wheel = None
            self.update()

    # Asking

    def ask_picture(self) -> None:
        """Let the person choose a picture."""
        path, _ = QFileDialog.getOpenFileName(self, "Open a picture", str(self.document.home or ""), _FILTER)
        if path:
            self.open_path(path)

    def ask_look(self) -> None:
        """Let the person choose a look to open."""
        path, _ = QFileDialog.getOpenFileName(self, "Open a look", "", f"Looks (*{SUFFIX})")
        if path:
            self.open_look_file(Path(path))

    def open_look_file(self, path: Path) -> None:
        """Open a saved look."""
        try:
            look = load_look(path)
        except FinchError as error:
            self.say_trouble(error.line())
            return
        if self.document.look is None:
            self.document.start(look)
        else:
            self.document.edit(f"Open {look.name}", lambda _: look)

    def ask_save(self) -> None:
        """Let the person choose where the look is saved."""
        look = self.document.look
        if look is not None:
            path, _ = QFileDialog.getSaveFileName(self, "Save the look", f"{look.folder}{SUFFIX}", f"Looks (*{SUFFIX})")
            if path:
                self.save_look_file(Path(path if path.endswith(SUFFIX) else path + SUFFIX))

    def save_look_file(self, path: Path) -> None:
        """Save the look."""
        look = self.document.look
        if look is None:
            return
        try:
            with file_errors(path, "write"):
                Disk().write(path, look_to_json(look).encode("utf-8"))
        except FinchError as error:
            self.say_trouble(error.line())
            return
        self.document.stack.setClean()
        self.footer.setText(f"Saved as {path.name}.")

    def ask_name(self) -> None:
        """Let the person name the look."""
        look = self.document.look
        if look is not None:
            name, good = QInputDialog.getText(self, "Name the look", "Its name:", text=look.name)
            if good and name.strip():
                self.document.edit(f"Name it {name.strip()}", lambda now: replace(now, name=name.strip()))

    def ask_home(self) -> None:
        """Let the person choose another home, their own included, and confirm it."""
        path = QFileDialog.getExistingDirectory(self, "Choose the home folder to dress", str(Path.home()))
        if not path:
            return
        if Path(path).resolve() == Path.home().resolve():
            answer = QMessageBox.question(
                self,
                "Your own home",
                "The look will be worn on your own home folder. Old files are kept and can be brought back. Go on?",
            )
            if answer != QMessageBox.StandardButton.Yes:
                return
        self.use_home(Path(path))

    def show_shortcuts(self) -> None:
        """List every shortcut."""
        lines = [f"{spec.shortcut:16} {spec.text}" for spec in ACTIONS if spec.shortcut]
        box = QMessageBox(self)
        box.setWindowTitle("Keyboard shortcuts")
        box.setText("\n".join(lines))
        box.open()

    def show_about(self) -> None:
        """Say what this is."""
        box = QMessageBox(self)
        box.setWindowTitle("About Mellow Finch")
        box.setText(
            f"Mellow Finch {__version__}\n\nOne palette, every component, readable everywhere.\n\n"
            "Free software under the GNU General Public License, version 3 or later.\n"
            "The fonts Atkinson Hyperlegible and its Mono ship under the SIL Open Font License."
        )
        box.open()

    def say_trouble(self, words: str) -> None:
        """Tell the person what went wrong, in place; empty words take it away."""
        self.notice.setText(words)
        self.notice.setVisible(bool(words))

    def closeEvent(self, event: QCloseEvent | None) -> None:
        """Stop what is running."""
        self.jobs.shut_down()
        super().closeEvent(event)

    def after_first_paint(self, run: object) -> None:
        """Run something once the window is on screen."""
        if callable(run):
            QTimer.singleShot(0, run)


def _thumbnail(path: Path) -> QImage:
    from ..picture.load import load_picture

    pixels = load_picture(path, 200).pixels
    image = QImage(pixels.tobytes(), pixels.shape[1], pixels.shape[0], pixels.shape[1] * 3, QImage.Format.Format_RGB888)
    return image.copy()
