"""The person's own screen, photographed when asked for, and in the colours of the look. Kept in memory only."""

from __future__ import annotations

from collections.abc import Mapping

import numpy as np
from PyQt6.QtCore import QRectF, Qt, QTimer, pyqtSignal
from PyQt6.QtGui import QGuiApplication, QImage, QPainter, QPaintEvent
from PyQt6.QtWidgets import QHBoxLayout, QPushButton, QSizePolicy, QWidget

from ...colour.rgb import Rgba
from ...components.model import Paint, Paints
from ...language import percent, tr
from ...recolour.screen import Pixels, SurfaceChange
from ..kit.parts import label, plain_column
from ..kit.style import Style
from ..model.gathered import image_of

_SETTLE_MS = 300  # what other windows need to paint themselves where ours has gone
_MOST_WIDE = 1920


class ScreenView(QWidget):
    """Shows the screen as it is or as it would be. Asks for a picture where the screen cannot be read."""

    portal_asked = pyqtSignal()
    colours_asked = pyqtSignal(object, object)  # the picture, and what changes: answered by show_fresh

    def __init__(self, style: Style, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self._style = style
        self._still: Pixels | None = None
        self._changes: tuple[SurfaceChange, ...] = ()
        self.fresh: QImage | None = None
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Expanding)
        self.setAccessibleName(tr("Your own screen, in the colours of the look"))
        column = plain_column(self, 8)
        column.setContentsMargins(12, 10, 12, 12)
        row = QHBoxLayout()
        self.words = label(tr("A screenshot shows your own windows in this look. It is kept in memory only."))
        self.take = QPushButton(tr("Take a screenshot"))
        self.take.clicked.connect(self.photograph)
        self.before = QPushButton(tr("As it is now"))
        self.before.setCheckable(True)
        self.before.toggled.connect(lambda _: self.update())
        self.before.hide()
        row.addWidget(self.words, 1)
        row.addWidget(self.before)
        row.addWidget(self.take)
        column.addLayout(row)
        column.addStretch(1)

    def photograph(self) -> None:
        """Take a picture of the screen, this window out of the way, or let the desktop be asked for one."""
        if QGuiApplication.platformName() != "xcb":
            self.portal_asked.emit()
            return
        window = self.window()
        if window is not None:
            window.hide()
            QTimer.singleShot(_SETTLE_MS, self._grab)

    def _grab(self) -> None:
        window = self.window()
        screen = window.screen() if window is not None else None
        still = screen.grabWindow().toImage() if screen is not None else QImage()
        if window is not None:
            window.show()
            window.raise_()
            window.activateWindow()
        if still.isNull():
            self.refuse(tr("The screen cannot be read here."))
        else:
            self.show_still(_pixels_of(still))

    def refuse(self, words: str) -> None:
        """Say why there is no picture."""
        self.words.setText(words)

    def show_still(self, still: Pixels) -> None:
        """Take a picture of the screen, (height, width, 3)."""
        self._still = still
        self.take.setText(tr("Take another"))
        self.before.show()
        self._colour()

    def show_paints(self, before: Mapping[str, Paints], after: Mapping[str, Paints]) -> None:
        """Take what files say before and with the look."""
        changes: list[SurfaceChange] = []
        for id_, fresh in after.items():
            for key, paint in fresh.items():
                old = before.get(id_, {}).get(key)
                if old is None:
                    continue
                was, now = _ground(old), _ground(paint)
                if was is not None and now is not None:
                    changes.append(SurfaceChange(was, now, old.text, paint.text))
        if tuple(changes) != self._changes:
            self._changes = tuple(changes)
            self._colour()

    def _colour(self) -> None:
        if self._still is None:
            return
        self.colours_asked.emit(self._still, self._changes)

    def show_fresh(self, found: tuple[Pixels, float]) -> None:
        """Show the picture in the colours of the look, which share of it has them."""
        pixels, share = found
        self.fresh = image_of(pixels)
        words = tr(
            "{share} of this screen takes the look's colours; colours that none of your files define stay as they are."
        )
        self.words.setText(words.format(share=percent(share)))
        self.update()

    def paintEvent(self, event: QPaintEvent | None) -> None:
        """Paint the screen under the row of buttons."""
        p = QPainter(self)
        p.fillRect(self.rect(), self._style.c("sunken"))
        if self._still is None or self.fresh is None:
            return
        shown = image_of(self._still) if self.before.isChecked() else self.fresh
        p.setRenderHint(QPainter.RenderHint.SmoothPixmapTransform)
        top = self.take.geometry().bottom() + 12.0
        room = QRectF(12, top, self.width() - 24, self.height() - top - 12)
        scale = min(room.width() / shown.width(), room.height() / shown.height())
        wide, high = shown.width() * scale, shown.height() * scale
        p.drawImage(QRectF(room.center().x() - wide / 2, room.y(), wide, high), shown)


def _ground(paint: Paint) -> Rgba | None:
    """Return what is seen of a part's surfaces, None where the picture shines through."""
    return next((layer[0].opaque for layer in reversed(paint.layers) if layer and layer[0].a >= 1), None)


def _pixels_of(still: QImage) -> Pixels:
    """Return an image as sRGB pixels, no wider than the stage can show."""
    still.setDevicePixelRatio(1)
    if still.width() > _MOST_WIDE:
        still = still.scaledToWidth(_MOST_WIDE, Qt.TransformationMode.SmoothTransformation)
    plain = still.convertToFormat(QImage.Format.Format_RGB888)
    bits = plain.constBits()
    assert bits is not None
    rows = np.frombuffer(bits.asstring(plain.sizeInBytes()), np.uint8).reshape(plain.height(), plain.bytesPerLine())
    return rows[:, : plain.width() * 3].reshape(plain.height(), plain.width(), 3).copy()
