"""Gather: open a picture, see its colours, choose a reading to start from."""

from __future__ import annotations

from collections.abc import Sequence
from pathlib import Path

from PyQt6.QtCore import QEvent, QRectF, QSize, Qt, pyqtSignal
from PyQt6.QtGui import QAction, QCursor, QFont, QGuiApplication, QImage, QPainter, QPaintEvent, QPen
from PyQt6.QtWidgets import QAbstractButton, QGridLayout, QHBoxLayout, QMenu, QPushButton, QSizePolicy, QWidget

from ..colour.rgb import Rgba
from .field import HueField
from .gathered import Gathered
from .parts import Panel, SwatchButton, label
from .style import FAMILY, Style


class ReadingCard(QAbstractButton):
    """A reading as a small desktop, its title under it."""

    def __init__(self, style: Style, title: str, note: str, image: QImage, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self._style, self._title, self._image = style, title, image
        self.setCheckable(True)
        self.setToolTip(note)
        self.setAccessibleName(f"Reading: {title}. {note}")
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)

    def sizeHint(self) -> QSize:
        """Return a card's size."""
        return QSize(150, 122)

    def paintEvent(self, event: QPaintEvent | None) -> None:
        """Paint the card."""
        p = QPainter(self)
        p.setRenderHints(QPainter.RenderHint.Antialiasing | QPainter.RenderHint.SmoothPixmapTransform)
        s = self._style
        room = self.height() - (30 if self._title else 6)
        w = min(self.width() - 4.0, room * 1.6)
        box = QRectF((self.width() - w) / 2, 3, w, w / 1.6)
        p.drawImage(box, self._image)
        strong = self.isChecked() or self.hasFocus()
        p.setPen(QPen(s.c("accent" if strong else "edge"), 3 if strong else 1))
        p.setBrush(Qt.BrushStyle.NoBrush)
        p.drawRoundedRect(box, 3, 3)
        if not self._title:
            return
        font = QFont(FAMILY)
        font.setPointSizeF(10)
        font.setBold(self.isChecked())
        p.setFont(font)
        p.setPen(s.c("text"))
        words = f"✓ {self._title}" if self.isChecked() else self._title
        p.drawText(QRectF(0, box.bottom() + 2, self.width(), 22), Qt.AlignmentFlag.AlignCenter, words)


class GatherPanel(Panel):
    """Says what the person wants; the window does it."""

    open_asked = pyqtSignal()
    picture_asked = pyqtSignal(str)
    reading_chosen = pyqtSignal(int)
    dropper_asked = pyqtSignal(bool)
    swatch_pointed = pyqtSignal(int)
    accent_asked = pyqtSignal(object)
    pin_removed = pyqtSignal(object)

    def __init__(self, style: Style, parent: QWidget | None = None) -> None:
        super().__init__("Gather", "Choose a picture. Its colours become the desktop's.", parent)
        self._style = style
        row = QHBoxLayout()
        self.open_button = QPushButton("Open a picture…")
        self.open_button.setProperty("main", True)
        self.open_button.clicked.connect(self.open_asked)
        self.dropper_button = QPushButton("Eyedropper")
        self.dropper_button.setCheckable(True)
        self.dropper_button.setEnabled(False)
        self.dropper_button.setToolTip("Pick a colour off the picture and pin it (Ctrl+I)")
        self.dropper_button.toggled.connect(self.dropper_asked)
        row.addWidget(self.open_button, 3)
        row.addWidget(self.dropper_button, 2)
        self.column.addLayout(row)
        self.own = QWidget()
        self._own_row = QHBoxLayout(self.own)
        self._own_row.setContentsMargins(0, 0, 0, 0)
        self._own_row.setSpacing(3)
        self.column.addWidget(self.own)
        self.busy = label("", "quiet")
        self.busy.hide()
        self.column.addWidget(self.busy)
        self.readings_title = label("Where to start", "section")
        self.column.addWidget(self.readings_title)
        cards = QWidget()
        self._cards = QGridLayout(cards)
        self._cards.setContentsMargins(0, 0, 0, 0)
        self._cards.setSpacing(4)
        self.column.addWidget(cards)
        self.cards: list[ReadingCard] = []
        self.swatch_title = label("Colours, by share", "section")
        self.column.addWidget(self.swatch_title)
        swatches = QWidget()
        self._swatches = QGridLayout(swatches)
        self._swatches.setContentsMargins(0, 0, 0, 0)
        self._swatches.setHorizontalSpacing(6)
        self._swatches.setVerticalSpacing(2)
        self.column.addWidget(swatches)
        self.swatches: list[SwatchButton] = []
        self.pin_title = label("Pins", "section")
        self.column.addWidget(self.pin_title)
        pins = QWidget()
        self._pins = QHBoxLayout(pins)
        self._pins.setContentsMargins(0, 0, 0, 0)
        self._pins.addStretch(1)
        self.column.addWidget(pins)
        self.pins: list[SwatchButton] = []
        self.field = HueField(style)
        self.column.addWidget(self.field)
        self.column.addStretch(1)
        for hidden in (self.readings_title, self.swatch_title, self.pin_title, self.field):
            hidden.hide()

    def offer_pictures(self, pictures: Sequence[Path], thumbnails: Sequence[QImage]) -> None:
        """Offer pictures that are at hand."""
        for path, image in zip(pictures, thumbnails, strict=True):
            button = ReadingCard(self._style, "", path.stem.replace("-", " "), image)
            button.setAccessibleName(f"Picture: {path.stem.replace('-', ' ')}")
            button.setCheckable(False)
            button.setFixedSize(58, 42)
            button.clicked.connect(lambda _=False, p=str(path): self.picture_asked.emit(p))
            self._own_row.addWidget(button)

    def show_busy(self, words: str) -> None:
        """Say what is being done, or nothing."""
        self.busy.setText(words)
        self.busy.setVisible(bool(words))

    def show_gathered(self, gathered: Gathered, pins: Sequence[Rgba], accent: Rgba) -> None:
        """Show the colours of a picture."""
        for swatch_button in self.swatches:
            swatch_button.setParent(None)
        self.swatches = []
        while self._swatches.count():
            item = self._swatches.takeAt(0)
            if item is not None and (widget := item.widget()) is not None:
                widget.deleteLater()
        for i, swatch in enumerate(gathered.swatches):
            button = SwatchButton(
                self._style, swatch.colour, f"{swatch.colour.hex}, {swatch.share:.1%} of the picture", QSize(34, 30)
            )
            button.clicked.connect(lambda _=False, c=swatch.colour: self._menu(c, False))
            button.installEventFilter(self)
            note = label(
                f"{swatch.colour.hex}  {swatch.share:.1%}" + (" vivid" if swatch.vivid else ""), "quiet", wrap=False
            )
            row, column = divmod(i, 2)
            self._swatches.addWidget(button, row, column * 2)
            self._swatches.addWidget(note, row, column * 2 + 1)
            self.swatches.append(button)
        self.show_pins(pins)
        self.field.show_colours(gathered.swatches, accent)
        self.dropper_button.setEnabled(True)
        for shown in (self.readings_title, self.swatch_title, self.field):
            shown.show()
        self.under.setText(f"{gathered.path.name}, {gathered.width} × {gathered.height}")

    def show_pins(self, pins: Sequence[Rgba]) -> None:
        """Show the pinned colours."""
        for pin_button in self.pins:
            pin_button.setParent(None)
            pin_button.deleteLater()
        self.pins = []
        for colour in pins:
            button = SwatchButton(self._style, colour, f"Pin {colour.hex}", QSize(34, 30))
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

    def _menu(self, colour: Rgba, pin: bool) -> None:
        menu = QMenu(self)
        accent = QAction(f"Make {colour.hex} the accent", menu)
        accent.triggered.connect(lambda: self.accent_asked.emit(colour))
        menu.addAction(accent)
        copy = QAction("Copy its hex", menu)
        clipboard = QGuiApplication.clipboard()
        if clipboard is not None:
            copy.triggered.connect(lambda: clipboard.setText(colour.hex))
        menu.addAction(copy)
        if pin:
            away = QAction("Take the pin out", menu)
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
