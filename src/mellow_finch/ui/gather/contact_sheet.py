"""Several pictures side by side: each with its colours under it, and the colours common to all above them."""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence

from PyQt6.QtCore import QEvent, QRectF, QSize, Qt
from PyQt6.QtGui import QFont, QHelpEvent, QPainter, QPaintEvent, QPen
from PyQt6.QtWidgets import QSizePolicy, QToolTip, QWidget

from ...colour.rgb import Rgba
from ...language import tr
from ...look.gather import name_of
from ...picture.swatches import Swatch
from ..kit.parts import DropTarget, placed
from ..kit.style import FAMILY, Style, qcolor
from ..model.gathered import Opened

_GAP = 18.0
_CAPTION = 24.0
_STRIPS = {6: 26.0, 24: 14.0}  # how high the colours under each picture are, by the most pictures that there are
_WIDER = 1.6  # what a picture is expected to be wider than high


class ContactSheet(DropTarget):
    """Shows pictures that are open together. Emits files that are dropped on it."""

    def __init__(self, style: Style, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self._style = style
        self._opened: Opened | None = None
        self._fits: tuple[float, ...] = ()
        self.setAccessibleName(tr("The images of this look, with their colours"))
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Expanding)

    def sizeHint(self) -> QSize:
        """Return a generous size."""
        return QSize(880, 550)

    def show_opened(self, opened: Opened, colours: Mapping[str, Rgba]) -> None:
        """Show pictures, and how well a palette fits each."""
        self._opened, self._fits = opened, opened.gathering.fits(colours)
        self.update()

    def _cells(self) -> list[QRectF]:
        """Return the cell of each picture under the common strip."""
        count = len(self._opened.pictures) if self._opened is not None else 0
        if not count:
            return []
        room = QRectF(self.rect()).adjusted(24, 104, -24, -18)

        def cell(columns: int) -> tuple[float, float]:
            rows = math.ceil(count / columns)
            return (room.width() + _GAP) / columns - _GAP, (room.height() + _GAP) / rows - _GAP

        def picture_width(columns: int) -> float:
            w, h = cell(columns)
            return min(w, (h - self._under()) * _WIDER)

        best = max(range(1, count + 1), key=picture_width)
        w, h = cell(best)
        return [QRectF(room.x() + i % best * (w + _GAP), room.y() + i // best * (h + _GAP), w, h) for i in range(count)]

    def _strip_high(self) -> float:
        count = len(self._opened.pictures) if self._opened is not None else 0
        return next((high for most, high in _STRIPS.items() if count <= most), min(_STRIPS.values()))

    def _under(self) -> float:
        """Return what stands under a picture, in pixels: its colours, its name and how well it matches."""
        return _CAPTION + self._strip_high() + 6

    def _strip(self, p: QPainter, box: QRectF, swatches: Sequence[Swatch]) -> None:
        total = sum(s.share for s in swatches) or 1.0
        x = box.x()
        for swatch in swatches:
            w = box.width() * swatch.share / total
            p.fillRect(QRectF(x, box.y(), w + 0.6, box.height()), qcolor(swatch.colour))
            x += w
        p.setPen(QPen(self._style.c("edge"), 1))
        p.setBrush(Qt.BrushStyle.NoBrush)
        p.drawRect(box)

    def paintEvent(self, event: QPaintEvent | None) -> None:
        """Paint the sheet."""
        p = QPainter(self)
        p.setRenderHints(QPainter.RenderHint.Antialiasing | QPainter.RenderHint.SmoothPixmapTransform)
        s = self._style
        p.fillRect(self.rect(), s.c("sunken"))
        if self._opened is None:
            return
        found = self._opened.gathering
        bold, plain = QFont(FAMILY), QFont(FAMILY)
        bold.setPointSizeF(12)
        bold.setBold(True)
        plain.setPointSizeF(10.5)
        align = Qt.AlignmentFlag.AlignLeft | Qt.AlignmentFlag.AlignVCenter
        right = Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter
        p.setFont(bold)
        p.setPen(s.c("text"))
        p.drawText(placed(QRectF(24, 14, 400, 26), QRectF(self.rect())), align, tr("Common to all"))
        p.setFont(plain)
        p.setPen(s.c("quiet"))
        p.drawText(
            placed(QRectF(self.width() - 424, 14, 400, 26), QRectF(self.rect())),
            right,
            tr("{shared:.0%} of their area in common").format(shared=found.shared),
        )
        self._strip(p, QRectF(24, 44, self.width() - 48, 38), found.common)
        for i, cell in enumerate(self._cells()):
            used = found.weights[i] > 0
            image = self._opened.pictures[i].image
            room = QRectF(cell.x(), cell.y(), cell.width(), cell.height() - self._under())
            scale = max(0.0, min(room.width() / image.width(), room.height() / image.height()))
            w, h = image.width() * scale, image.height() * scale
            frame = QRectF(cell.x() + (cell.width() - w) / 2, cell.y() + room.height() - h, w, h)
            p.setOpacity(1.0 if used else 0.3)
            p.drawImage(frame, image)
            strip = QRectF(frame.x(), frame.bottom() + 4, w, self._strip_high())
            self._strip(p, strip, self._by_share(found.swatches[i]))
            p.setOpacity(1.0)
            p.setFont(plain)
            p.setPen(s.c("text" if used else "quiet"))
            words = tr("match {fits:.0f}").format(fits=self._fits[i]) if used else tr("left out")
            metrics = p.fontMetrics()
            wide = max(w, min(cell.width(), metrics.horizontalAdvance(words) + 60.0))
            caption = QRectF(cell.center().x() - wide / 2, strip.bottom() + 2, wide, _CAPTION)
            left = int(wide) - metrics.horizontalAdvance(words) - 8
            path = self._opened.pictures[i].path
            p.drawText(caption, align, metrics.elidedText(name_of(path), Qt.TextElideMode.ElideRight, left))
            p.drawText(caption, right, words)

    @staticmethod
    def _by_share(swatches: Sequence[Swatch]) -> list[Swatch]:
        return sorted(swatches, key=lambda s: -s.share)[:10]

    def event(self, event: QEvent | None) -> bool:
        """Say which picture the pointer rests on, and how well the look fits it."""
        if isinstance(event, QHelpEvent) and event.type() == QEvent.Type.ToolTip and self._opened is not None:
            for i, cell in enumerate(self._cells()):
                if cell.contains(event.pos().toPointF()):
                    picture = self._opened.pictures[i]
                    words = tr("{name}, {width} × {height}\nMatch {fits:.0f} of 100").format(
                        name=picture.path.name, width=picture.width, height=picture.height, fits=self._fits[i]
                    )
                    QToolTip.showText(event.globalPos(), words, self)
                    return True
        return super().event(event)
