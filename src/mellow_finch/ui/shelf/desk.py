"""What is done with saved looks: the wall and its panel, the folder behind them, and the small desktops."""

from __future__ import annotations

import hashlib
from collections import deque
from collections.abc import Callable, Iterable
from pathlib import Path

from PyQt6.QtCore import QBuffer, QByteArray, QIODevice, QObject, QPoint, QSize, QTimer, pyqtSignal
from PyQt6.QtGui import QAction, QImage
from PyQt6.QtWidgets import QMenu

from ...errors import FinchError, line_of
from ...language import megabytes, plural, tr
from ...look.model import Look
from ...palette.recipe import TONES, Tone
from ...picture.load import load_picture
from ...shelf.kept import KeptLook, narrowed, sorted_by
from ...shelf.shelf import LOOK, Shelf
from ..kit.jobs import JobProgress, Jobs
from ..kit.style import Style
from ..model.document import Document, HistoryState
from ..model.gathered import image_of
from ..stage.lay import small_desktop
from ..stage.staging import Staging
from .card import seen_of
from .panel import DEEDS, ShelfPanel
from .wall import SMALL, Wall

_LISTING, _DRAWING = "the shelf", "small desktop of the shelf"
_WIDE = 640  # pixels that a picture behind a small desktop is read at
_EMPTY = tr("Nothing is saved yet.\n\nSave the current look with Ctrl+Shift+S; applying a look can save it too.")
_NOTHING = tr("No saved look matches.")


class ShelfDesk(QObject):
    """Puts wall, panel and folder together. Nothing on the disk is touched on the window's thread but small files."""

    trouble = pyqtSignal(str)
    said = pyqtSignal(str)
    open_asked = pyqtSignal(object, str)  # the path of a look, and the step to go to
    compare_asked = pyqtSignal()
    name_asked = pyqtSignal(object)  # a saved look that is to have another name
    card_asked = pyqtSignal(object)  # saved looks of which a card is wanted
    send_asked = pyqtSignal(object)  # saved looks that are to be sent

    def __init__(
        self, document: Document, style: Style, jobs: Jobs, staging: Staging, cache: Path, shelf: Shelf | None = None
    ) -> None:
        super().__init__()
        self._document, self._jobs, self._staging, self._cache = document, jobs, staging, cache
        self._style = style
        self.shelf = shelf or Shelf()
        self._samples: Callable[[], Iterable[Look]] = tuple
        self.wall, self.panel = Wall(style), ShelfPanel(style)
        self.looks: list[KeptLook] = []
        self._dropped: list[str] = []
        self._queue: deque[tuple[KeptLook, Tone]] = deque()
        self._drawing = False
        self.panel.narrowed.connect(self.show_looks)
        self.panel.tone_asked.connect(self.wall.show_tone)
        self.panel.asked.connect(self.do)
        self.wall.chosen.connect(lambda: self.panel.show_chosen(self.wall.selected()))
        self.wall.opened.connect(lambda id_: self._open(id_, "tune"))
        self.wall.menu_asked.connect(self._open_menu)
        self.wall.wanted.connect(self._want)

    # What is shown

    def use(self, shelf: Shelf, samples: Callable[[], Iterable[Look]] = tuple) -> None:
        """Work on another shelf; samples: the looks that it begins with where it was never used."""
        self.shelf, self._samples = shelf, samples

    def come_in_sight(self, worn: str) -> None:
        """Read the shelf, as it may have changed; worn: the name of the look that is worn."""
        self.wall.worn = worn
        shelf, samples = self.shelf, self._samples

        def work(progress: JobProgress) -> tuple[list[KeptLook], int]:
            for _ in shelf.begin(samples()):
                progress.give((shelf.looks(), shelf.size()))
            return shelf.looks(), shelf.size()

        def done(found: tuple[list[KeptLook], int]) -> None:
            self.looks, size = found
            words = plural(
                "{count} look, {size}",
                "{count} looks, {size}",
                len(self.looks),
                size=megabytes(size, 1),
            )
            self.panel.state.setText(words)
            self.show_looks()

        self._jobs.start(_LISTING, work, done, on_part=done)

    def show_looks(self) -> None:
        """Show the looks that are wanted, in the order that is."""
        p = self.panel
        tone, source = str(p.tone.currentData()), str(p.source.currentData())
        rows = narrowed(self.looks, p.field.text(), tone, source, p.strict.isChecked())
        self.wall.show_looks(sorted_by(rows, str(p.order.currentData())), _NOTHING if self.looks else _EMPTY)

    def choose(self, id_: str) -> None:
        """Choose one look on the wall."""
        self.wall.choose([id_])

    # Small desktops

    def _want(self, kept: KeptLook, tone: Tone) -> None:
        """Draw a small desktop when there is time, the last that came in sight first."""
        self._queue.appendleft((kept, tone))
        QTimer.singleShot(0, self._draw_next)

    def _draw_next(self) -> None:
        if self._drawing or not self._queue:
            return
        self._drawing = True
        kept, tone = self._queue.popleft()
        home = str(self._document.home)
        size = SMALL * 2
        key = hashlib.sha256(f"{kept.digest} {tone} {home} {size.width()}".encode()).hexdigest()[:32]
        place = self._cache / f"{key}.png"

        def work(_progress: JobProgress) -> QImage:
            known = QImage(str(place))
            if not known.isNull():
                return known
            image = self.small_of(self._in_tone(self.shelf.load(kept.id).look, tone), size)
            place.parent.mkdir(parents=True, exist_ok=True)
            image.save(str(place))
            return image

        def after(image: QImage | None) -> None:
            self._drawing = False
            if image is not None:
                self.wall.give_image(kept, tone, image)
            self._draw_next()

        self._jobs.start(_DRAWING, work, after, lambda _error: after(None))

    def small_of(self, look: Look, size: QSize) -> QImage:
        """Draw a look's small desktop; any thread may."""
        paints = self._document.dress(look).paints  # only what is drawn is worked out
        seen = seen_of(look, self._staging.shape)
        return small_desktop(size, picture_of(look.source), paints, self._style.c("pressed"), seen)

    @staticmethod
    def _in_tone(look: Look, tone: str) -> Look:
        from ...look.edits import with_tone

        return with_tone(look, next(t for t in TONES if t == tone))

    @property
    def rested(self) -> bool:
        """Tell whether every small desktop that is wanted is there."""
        return not self._queue and not self._drawing

    # What is done

    def keep(self, look: Look, instead_of: str = "", with_pictures: bool = True) -> None:
        """Put a look onto the shelf, its pictures copied off the window's thread."""

        def done(kept: KeptLook) -> None:
            self.said.emit(tr("“{name}” is saved to the Shelf.").format(name=kept.name))
            self.looks = [kept, *(k for k in self.looks if k.id != kept.id)]
            self.show_looks()
            self.choose(kept.id)

        self._jobs.start(
            "keep a look",
            lambda _progress: self.shelf.keep(look, instead_of=instead_of, with_pictures=with_pictures),
            done,
        )

    def do(self, deed: str) -> None:
        """Do something with the looks that are chosen; what the disk refuses is told in a sentence."""
        rows = self.wall.selected()
        if not rows and deed != "take_back":
            return
        deeds: dict[str, Callable[[], object]] = {
            "open": lambda: self._open(rows[0].id, "tune"),
            "wear": lambda: self._open(rows[0].id, "wear"),
            "compare": lambda: self._compare(rows),
            "copy": lambda: self._copy(rows[0]),
            "rename": lambda: self.name_asked.emit(rows[0]),
            "card": lambda: self.card_asked.emit(rows),
            "send": lambda: self.send_asked.emit(rows),
            "drop": lambda: self._drop(rows),
            "take_back": self._take_back,
            "tag": lambda: self.shelf.tag(rows[0].id, self.panel.tags.text().split(",")),
        }
        try:
            deeds[deed]()
        except FinchError as error:
            self.trouble.emit(line_of(error))
        if deed in ("copy", "drop", "take_back", "tag"):
            self.looks = self.shelf.looks()
            self.show_looks()

    def rename(self, kept: KeptLook, name: str) -> None:
        """Give a look another name."""
        try:
            self.shelf.rename(kept.id, name)
        except FinchError as error:
            self.trouble.emit(line_of(error))
        self.looks = self.shelf.looks()
        self.show_looks()

    def _open(self, id_: str, step: str) -> None:
        self.open_asked.emit(self.shelf.place(id_) / LOOK, step)

    def _compare(self, rows: list[KeptLook]) -> None:
        left, right = (self.shelf.load(k.id).look for k in rows[:2])
        if self._document.look is None:
            self._document.start(right)
        self.compare_asked.emit()
        self._document.set_beside(HistoryState(rows[0].name, left), HistoryState(rows[1].name, right))

    def _copy(self, kept: KeptLook) -> None:
        self.said.emit(tr("“{name}” is next to it.").format(name=self.shelf.copy(kept.id).name))

    def _drop(self, rows: list[KeptLook]) -> None:
        self._dropped = [self.shelf.drop(k.id) for k in rows]
        self.panel.back.setText(
            tr("Restore “{name}”").format(name=rows[0].name)
            if len(rows) == 1
            else plural("Restore {count} look", "Restore {count} looks", len(rows))
        )
        self.panel.back.show()
        self.said.emit(
            plural(
                "{count} look deleted; it can be restored until the window closes.",
                "{count} looks deleted; they can be restored until the window closes.",
                len(rows),
            )
        )

    def _take_back(self) -> None:
        for name in self._dropped:
            self.shelf.take_back(name)
        self._dropped = []
        self.panel.back.hide()

    def close(self) -> None:
        """Let go of what was dropped."""
        if self._dropped:
            self.shelf.empty()

    def menu(self) -> QMenu:
        """Return what can be done with the looks that are chosen."""
        menu = QMenu(self.wall)
        for id_, words, tip, _ in DEEDS:
            action = QAction(words, menu)
            action.setToolTip(tip)
            action.setEnabled(self.panel.buttons[id_].isEnabled())
            action.triggered.connect(lambda _=False, id_=id_: self.do(id_))
            menu.addAction(action)
        return menu

    def _open_menu(self, at: QPoint) -> None:
        self.menu().popup(at)

    @staticmethod
    def png(image: QImage) -> bytes:
        """Return a picture as a file of its own."""
        data = QByteArray()
        buffer = QBuffer(data)
        buffer.open(QIODevice.OpenModeFlag.WriteOnly)
        image.save(buffer, "PNG")
        return bytes(data.data())


def picture_of(path: str, most: int = _WIDE) -> QImage | None:
    """Return a picture, not much over so many pixels wide and high, None where there is none that can be read."""
    if not path:
        return None
    try:
        return image_of(load_picture(Path(path), most).pixels)
    except FinchError:
        return None
