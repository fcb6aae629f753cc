"""Gather, pictures: open one or several, see their colours, choose a reading, say how they lie on the screen."""

from __future__ import annotations

from collections.abc import Sequence
from pathlib import Path

from PyQt6.QtCore import QEvent, QSize, Qt, pyqtSignal
from PyQt6.QtGui import QAction, QCursor, QImage
from PyQt6.QtWidgets import (
    QApplication,
    QCheckBox,
    QGridLayout,
    QHBoxLayout,
    QMenu,
    QPushButton,
    QVBoxLayout,
    QWidget,
)

from ...colour.rgb import Rgba
from ...language import isolated, percent, plural, tr
from ...look.gather import name_of
from ...picture.placement import MODES, SCREENS, Placement, size_word
from ..kit.clipboard import copy
from ..kit.flow import Flow
from ..kit.parts import Bar, Choice, emptied, label, plain_column
from ..kit.style import Style
from ..kit.swatch_button import SwatchButton
from ..model.gathered import Opened
from .hue_field import HueField
from .reading_card import ReadingCard
from .showing_row import ShowingRow

_WEIGHTS: tuple[tuple[str, float], ...] = (
    (tr("half"), 0.5),
    (tr("once"), 1.0),
    (tr("twice"), 2.0),
    (tr("four times"), 4.0),
)


class MemberRow(QWidget):
    """One picture of a set: whether it is in, its name, how well the look fits it, and its weight."""

    changed = pyqtSignal()

    def __init__(self, style: Style, name: str, weight: float, fit: float) -> None:
        super().__init__()
        grid = QGridLayout(self)
        grid.setContentsMargins(0, 0, 0, 2)
        grid.setVerticalSpacing(1)
        self.used = QCheckBox(name)
        self.used.setChecked(weight > 0)
        self.used.setToolTip(tr("Untick to leave this image out"))
        self.used.clicked.connect(self.changed)
        self.weight = Choice()
        self.weight.setAccessibleName(tr("Weight of {name}").format(name=name))
        self.weight.setToolTip(tr("Weight of this image"))
        for words, value in _WEIGHTS:
            self.weight.addItem(words, value)
        nearest = min(range(len(_WEIGHTS)), key=lambda i: abs(_WEIGHTS[i][1] - (weight or 1.0)))
        self.weight.setCurrentIndex(nearest)
        self.weight.activated.connect(self.changed)
        self.weight.setEnabled(weight > 0)
        self.bar = Bar(style, fit, tr("Match of {name}").format(name=name))
        grid.addWidget(self.used, 0, 0)
        grid.addWidget(self.weight, 0, 1)
        grid.addWidget(self.bar, 1, 0, 1, 2)
        grid.setColumnStretch(0, 1)

    def value(self) -> float:
        """Return the weight that is set, 0 when the picture is left out."""
        return float(self.weight.currentData()) if self.used.isChecked() else 0.0


class PicturePage(QWidget):
    """Says what the person wants; the window does it."""

    open_asked = pyqtSignal()
    add_asked = pyqtSignal()
    picture_asked = pyqtSignal(str)
    picture_added = pyqtSignal(str)
    reading_chosen = pyqtSignal(int)
    dropper_asked = pyqtSignal(bool)
    screen_asked = pyqtSignal()
    stop_asked = pyqtSignal()
    named_asked = pyqtSignal()
    now_asked = pyqtSignal()
    swatch_pointed = pyqtSignal(int)
    accent_asked = pyqtSignal(object)
    pin_removed = pyqtSignal(object)
    weights_chosen = pyqtSignal(object)
    placed = pyqtSignal(object)

    def __init__(self, style: Style, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self._style = style
        self.column = plain_column(self, 8)
        self._build_open()
        self._build_set()
        self._build_readings()
        self._build_colours(style)
        self._build_screen()
        titles = (self.readings_title, self.swatch_title, self.pin_title)
        for hidden in (*titles, self.field, self.placing, self.showing, self.members):
            hidden.hide()

    def _build_open(self) -> None:
        row = Flow(6)
        self.open_button = QPushButton(tr("Open images…"))
        self.open_button.setProperty("main", True)
        self.open_button.setToolTip(tr("Choose one image, or several for a look that matches them all (Ctrl+O)"))
        self.open_button.clicked.connect(self.open_asked)
        self.add_button = QPushButton(tr("Add…"))
        self.add_button.setToolTip(tr("Add more images to the look"))
        self.add_button.clicked.connect(self.add_asked)
        self.add_button.setEnabled(False)
        row.addWidget(self.open_button)
        row.addWidget(self.add_button)
        self.column.addLayout(row)
        droppers = Flow(6)
        self.dropper_button = QPushButton(tr("Pick from image"))
        self.dropper_button.setCheckable(True)
        self.dropper_button.setEnabled(False)
        self.dropper_button.setToolTip(tr("Eyedropper: pick a colour from the image and pin it (Ctrl+I)"))
        self.dropper_button.toggled.connect(self.dropper_asked)
        self.screen_button = QPushButton(tr("Pick from screen"))
        self.screen_button.setToolTip(tr("Eyedropper: pick a colour from any window and pin it (Ctrl+Shift+I)"))
        self.screen_button.clicked.connect(self.screen_asked)
        droppers.addWidget(self.dropper_button)
        droppers.addWidget(self.screen_button)
        self.column.addLayout(droppers)
        self.own = QWidget()
        self.own_row = QHBoxLayout(self.own)
        self.own_row.setContentsMargins(0, 0, 0, 0)
        self.own_row.setSpacing(3)
        self.column.addWidget(self.own)
        busy = QHBoxLayout()
        self.busy = label("", "quiet")
        self.stop = QPushButton(tr("Stop"))
        self.stop.setToolTip(tr("Stop; everything stays as it is"))
        self.stop.clicked.connect(self.stop_asked)
        busy.addWidget(self.busy, 1)
        busy.addWidget(self.stop)
        self.column.addLayout(busy)
        self.show_busy("")
        self.now = QWidget()
        now = plain_column(self.now, 4)
        self.now_words = label("", "quiet")
        self.now_start = QPushButton(tr("Start from my desktop"))
        self.now_start.setToolTip(tr("Use the current wallpaper, dark or light as the desktop is now"))
        self.now_start.clicked.connect(self.now_asked)
        now.addWidget(self.now_words)
        now.addWidget(self.now_start)
        self.column.addWidget(self.now)
        self.now.hide()
        self.named = QWidget()
        named = plain_column(self.named, 4)
        self.named_words = label("", "quiet")
        self.named_read = QPushButton()
        self.named_read.clicked.connect(self.named_asked)
        named.addWidget(self.named_words)
        named.addWidget(self.named_read)
        self.column.addWidget(self.named)
        self.named.hide()

    def offer_now(self, words: str, picture: str) -> None:
        """Say what the desktop shows now, with a way to start from it; nothing for no picture."""
        self.now.setVisible(bool(picture))
        self.now_words.setText(words)

    def show_named(self, paths: Sequence[str]) -> None:
        """Say which pictures a look from elsewhere names, with a way to read them; nothing for none."""
        self.named.setVisible(bool(paths))
        if paths:
            several = len(set(paths)) > 1
            lines = sorted(set(paths))[:3]
            if len(set(paths)) > 3:
                lines.append(plural("and {count} more", "and {count} more", len(set(paths)) - 3))
            words = (
                tr("These images are outside the look's folder and were not read:")
                if several
                else tr("This image is outside the look's folder and was not read:")
            )
            self.named_words.setText("\n".join([words, *lines]))
            self.named_read.setText(tr("Load them") if several else tr("Load"))

    def _build_set(self) -> None:
        self.members = QWidget()
        column = plain_column(self.members, 2)
        column.addWidget(label(tr("How well the look matches each image, worst first"), "section"))
        self.member_word = label("", "quiet")
        column.addWidget(self.member_word)
        self._member_rows = QVBoxLayout()
        column.addLayout(self._member_rows)
        self.rows: list[tuple[int, MemberRow]] = []
        self.column.addWidget(self.members)

    def _build_readings(self) -> None:
        self.readings_title = label(tr("Suggestions"), "section")
        self.column.addWidget(self.readings_title)
        cards = QWidget()
        self._cards = QGridLayout(cards)
        self._cards.setContentsMargins(0, 0, 0, 0)
        self._cards.setSpacing(4)
        self.column.addWidget(cards)
        self.cards: list[ReadingCard] = []

    def _build_colours(self, style: Style) -> None:
        self.swatch_title = label(tr("Colours, by area"), "section")
        self.column.addWidget(self.swatch_title)
        swatches = QWidget()
        self._swatches = QGridLayout(swatches)
        self._swatches.setContentsMargins(0, 0, 0, 0)
        self._swatches.setHorizontalSpacing(6)
        self._swatches.setVerticalSpacing(2)
        self.column.addWidget(swatches)
        self.swatches: list[SwatchButton] = []
        self.pin_title = label(tr("Pinned colours"), "section")
        self.column.addWidget(self.pin_title)
        pins = QWidget()
        self._pins = QHBoxLayout(pins)
        self._pins.setContentsMargins(0, 0, 0, 0)
        self._pins.addStretch(1)
        self.column.addWidget(pins)
        self.pins: list[SwatchButton] = []
        self.field = HueField(style)
        self.column.addWidget(self.field)

    def _build_screen(self) -> None:
        self.placing = QWidget()
        grid = QGridLayout(self.placing)
        grid.setContentsMargins(0, 0, 0, 0)
        grid.addWidget(label(tr("Placement on the screen"), "section"), 0, 0, 1, 2)
        self.mode = Choice()
        self.mode.setAccessibleName(tr("How the wallpaper is placed on the screen"))
        for row in MODES:
            self.mode.addItem(row.title, row.id)
            self.mode.setItemData(self.mode.count() - 1, row.tip, Qt.ItemDataRole.ToolTipRole)
        self.size_box = Choice()
        self.size_box.setAccessibleName(tr("Screen size"))
        self._sizes = list(SCREENS)
        self.size_box.addItems(f"{width} × {height}" for width, height in SCREENS)
        for box in (self.mode, self.size_box):
            box.activated.connect(self._place)
        grid.addWidget(self.mode, 1, 0)
        grid.addWidget(self.size_box, 1, 1)
        self.size_note = label("", "quiet")
        grid.addWidget(self.size_note, 2, 0, 1, 2)
        self.column.addWidget(self.placing)
        self.showing = ShowingRow()
        self.column.addWidget(self.showing)

    def _place(self) -> None:
        width, height = self._sizes[self.size_box.currentIndex()]
        self.placed.emit(Placement(self.mode.currentData(), width, height))

    def offer_pictures(self, pictures: Sequence[Path], thumbnails: Sequence[QImage]) -> None:
        """Offer pictures that are at hand."""
        for path, image in zip(pictures, thumbnails, strict=True):
            title = path.stem.replace("-", " ")
            button = ReadingCard(
                self._style, "", tr("{title}\nCtrl+click adds it to the look's images").format(title=title), image
            )
            button.setAccessibleName(tr("Image: {title}").format(title=title))
            button.setCheckable(False)
            button.setFixedSize(58, 42)
            button.clicked.connect(lambda _=False, p=str(path): self._at_hand(p))
            self.own_row.addWidget(button)

    def _at_hand(self, path: str) -> None:
        held = QApplication.keyboardModifiers() & Qt.KeyboardModifier.ControlModifier
        if held and self.add_button.isEnabled():
            self.picture_added.emit(path)
        else:
            self.picture_asked.emit(path)

    def show_busy(self, words: str) -> None:
        """Say what is being done, with a way to stop it; or nothing."""
        self.busy.setText(words)
        self.busy.setVisible(bool(words))
        self.stop.setVisible(bool(words))

    def show_opened(self, opened: Opened, pins: Sequence[Rgba], accent: Rgba, placement: Placement) -> None:
        """Show the colours of what is open."""
        several = len(opened.pictures) > 1
        words_of = tr("{hex}, {share:.1%} of the images") if several else tr("{hex}, {share:.1%} of the image")
        emptied(self._swatches)
        self.swatches = []
        for i, swatch in enumerate(opened.gathering.common):
            words = words_of.format(hex=swatch.colour.hex, share=swatch.share)
            button = SwatchButton(self._style, swatch.colour, words, QSize(34, 30))
            button.clicked.connect(lambda _=False, c=swatch.colour: self._menu(c, False))
            button.installEventFilter(self)
            share = percent(swatch.share, 1)
            note = label(
                "  ".join((isolated(swatch.colour.hex), share, *([tr("vivid")] if swatch.vivid else ()))),
                "quiet",
                wrap=False,
            )
            row, column = divmod(i, 2)
            self._swatches.addWidget(button, row, column * 2)
            self._swatches.addWidget(note, row, column * 2 + 1)
            self.swatches.append(button)
        self.swatch_title.setText(tr("Colours common to all, by area") if several else tr("Colours, by area"))
        self.show_pins(pins)
        self.field.show_colours(opened.gathering.common, accent)
        self.dropper_button.setEnabled(True)
        self.add_button.setEnabled(True)
        for shown in (self.readings_title, self.swatch_title, self.field, self.placing):
            shown.show()
        self._show_placement(opened, placement)

    def _show_placement(self, opened: Opened, placement: Placement) -> None:
        size = (placement.width, placement.height)
        if size not in self._sizes:
            self._sizes.append(size)
            self.size_box.addItem(f"{size[0]} × {size[1]}")
        self.size_box.setCurrentIndex(self._sizes.index(size))
        self.mode.setCurrentIndex(self.mode.findData(placement.mode))
        words = size_word(opened.lead.width, opened.lead.height, placement)
        self.size_note.setText(words)
        self.size_note.setVisible(bool(words))

    def show_members(self, opened: Opened, colours: dict[str, Rgba]) -> None:
        """Show the pictures of a set, worst fit first; nothing for a single picture."""
        several = len(opened.pictures) > 1
        self.members.setVisible(several)
        emptied(self._member_rows)
        self.rows = []
        if not several:
            return
        fits = opened.gathering.fits(colours)
        self.member_word.setText(
            opened.gathering.word
            or tr("They have {shared:.0%} of their area in common.").format(shared=opened.gathering.shared)
        )
        for i in sorted(range(len(fits)), key=lambda i: fits[i]):
            row = MemberRow(self._style, name_of(opened.pictures[i].path), opened.gathering.weights[i], fits[i])
            row.changed.connect(self._weigh)
            self._member_rows.addWidget(row)
            self.rows.append((i, row))

    def show_fits(self, opened: Opened, colours: dict[str, Rgba]) -> None:
        """Bring the fit of each picture up to date, the order staying."""
        if self.rows:
            fits = opened.gathering.fits(colours)
            for i, row in self.rows:
                row.bar.set_value(fits[i])

    def _weigh(self) -> None:
        weights = [0.0] * len(self.rows)
        for i, row in self.rows:
            weights[i] = row.value()
        self.weights_chosen.emit(weights)

    def show_pins(self, pins: Sequence[Rgba]) -> None:
        """Show the pinned colours."""
        for pin_button in self.pins:
            pin_button.setParent(None)
            pin_button.deleteLater()
        self.pins = []
        for colour in pins:
            button = SwatchButton(self._style, colour, tr("Pin {hex}").format(hex=colour.hex), QSize(34, 30))
            button.clicked.connect(lambda _=False, c=colour: self._menu(c, True))
            self._pins.insertWidget(len(self.pins), button)
            self.pins.append(button)
        self.pin_title.setVisible(bool(pins))

    def show_readings(self, rows: Sequence[tuple[str, str, QImage]], chosen: int) -> None:
        """Show the readings as small desktops."""
        for card in self.cards:
            card.setParent(None)
            card.deleteLater()
        self.cards = []
        for i, (title, note, image) in enumerate(rows):
            card = ReadingCard(self._style, title, note, image)
            card.setChecked(i == chosen)
            card.clicked.connect(lambda _=False, n=i: self.reading_chosen.emit(n))
            self._cards.addWidget(card, i // 2, i % 2)
            self.cards.append(card)

    def choose_reading(self, chosen: int) -> None:
        """Mark one reading as the one in force, none for -1."""
        for i, card in enumerate(self.cards):
            card.setChecked(i == chosen)

    def light(self, swatch: int) -> None:
        """Mark the swatch whose area is pointed at in the picture, none for -1."""
        for i, button in enumerate(self.swatches):
            button.set_lit(i == swatch)

    def _menu(self, colour: Rgba, pin: bool) -> None:
        menu = QMenu(self)
        menu.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)
        accent = QAction(tr("Make {hex} the accent colour").format(hex=colour.hex), menu)
        accent.triggered.connect(lambda: self.accent_asked.emit(colour))
        menu.addAction(accent)
        copying = QAction(tr("Copy as hex"), menu)
        copying.triggered.connect(lambda: copy(colour.hex))
        menu.addAction(copying)
        if pin:
            away = QAction(tr("Remove the pin"), menu)
            away.triggered.connect(lambda: self.pin_removed.emit(colour))
            menu.addAction(away)
        menu.popup(QCursor.pos())

    def eventFilter(self, watched: object, event: object) -> bool:
        """Tell which swatch the pointer is on."""
        if isinstance(event, QEvent) and watched in self.swatches:
            if event.type() == QEvent.Type.Enter:
                self.swatch_pointed.emit(self.swatches.index(watched))
            elif event.type() == QEvent.Type.Leave:
                self.swatch_pointed.emit(-1)
        return False
