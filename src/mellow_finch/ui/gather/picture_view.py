"""The picture itself: its swatches where they lie, pins, and the eyedropper with its loupe."""

from __future__ import annotations

from typing import TYPE_CHECKING

from PyQt6.QtCore import QPointF, QRectF, QSize, Qt, pyqtSignal
from PyQt6.QtGui import (
    QColor,
    QFont,
    QImage,
    QKeyEvent,
    QMouseEvent,
    QPainter,
    QPainterPath,
    QPaintEvent,
    QPen,
    QResizeEvent,
)
from PyQt6.QtWidgets import QPushButton, QSizePolicy, QWidget

from ...colour.rgb import Rgba
from ...language import tr
from ...picture.placement import Placement, boxes
from ..kit.loupe import paint_loupe
from ..kit.parts import DropTarget
from ..kit.style import FAMILY, Style, qcolor

if TYPE_CHECKING:
    from ..model.gathered import Gathered


class PictureView(DropTarget):
    """Shows the picture whole. Emits the colour that the eyedropper takes, and pictures that are dropped."""

    taken = pyqtSignal(object)  # Rgba
    swatch_pointed = pyqtSignal(int)

    def __init__(self, style: Style, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self._style = style
        self._gathered: Gathered | None = None
        self.pins: tuple[Rgba, ...] = ()
        self.dropper = False
        self._at: QPointF | None = None
        self._lit = -1
        self._veil: QImage | None = None
        self._toned: QImage | None = None
        self._placement = Placement()
        self._bands: tuple[Rgba, ...] = ()
        self._origin = ""
        self.setMouseTracking(True)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setAccessibleName(tr("The image and where its colours are"))
        self.tour = QPushButton(tr("Take the tour: five steps on a demo home folder"), self)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Expanding)

    def sizeHint(self) -> QSize:
        """Return a generous size."""
        return QSize(880, 550)

    def show_picture(self, gathered: Gathered | None) -> None:
        """Show another picture."""
        self._gathered, self._lit, self._veil, self._toned = gathered, -1, None, None
        self._offer_tour()
        self.update()

    def show_placement(self, placement: Placement) -> None:
        """Show which part of the picture the screen shows."""
        if placement != self._placement:
            self._placement = placement
            self.update()

    def show_toned(self, image: QImage | None) -> None:
        """Show the picture toned, or as it is for None."""
        self._toned = image
        self.update()

    def show_origin(self, origin: str, bands: tuple[Rgba, ...]) -> None:
        """Show what the colours come from, and a look's leading colours, where there is no picture."""
        self._origin, self._bands = origin, bands
        self._offer_tour()
        self.update()

    def _offer_tour(self) -> None:
        self.tour.setVisible(self._gathered is None and not self._bands)

    def resizeEvent(self, event: QResizeEvent | None) -> None:
        """Keep the tour's button under the words."""
        size = self.tour.sizeHint()
        middle = self.frame().center()
        self.tour.setGeometry(
            round(middle.x() - size.width() / 2), round(middle.y() + 84), size.width(), max(30, size.height())
        )
        super().resizeEvent(event)

    def set_dropper(self, on: bool) -> None:
        """Take the eyedropper in hand, or put it away."""
        self.dropper = on
        self.setCursor(Qt.CursorShape.CrossCursor if on else Qt.CursorShape.ArrowCursor)
        if on:
            self.setFocus()
            if self._at is None:
                self._at = self.frame().center()
        self.update()

    def point_at(self, at: QPointF) -> None:
        """Hold the loupe over a point of the widget."""
        self._at = at
        self.update()

    def light(self, swatch: int) -> None:
        """Light the area of one swatch and dim the rest; -1 lights all."""
        if swatch == self._lit:
            return
        self._lit = swatch
        self._veil = self._make_veil(swatch) if swatch >= 0 and self._gathered is not None else None
        self.update()

    def _make_veil(self, swatch: int) -> QImage:
        import numpy as np

        assert self._gathered is not None
        labels = self._gathered.labels
        veil = np.zeros((*labels.shape, 4), dtype=np.uint8)
        veil[labels != swatch] = (20, 20, 20, 190)
        return QImage(
            veil.tobytes(), labels.shape[1], labels.shape[0], labels.shape[1] * 4, QImage.Format.Format_RGBA8888
        ).copy()

    def frame(self) -> QRectF:
        """Return where the picture lies in the widget."""
        if self._gathered is None:
            return QRectF(self.rect()).adjusted(40, 40, -40, -40)
        image = self._gathered.image
        margin = 16.0
        scale = min((self.width() - 2 * margin) / image.width(), (self.height() - 2 * margin) / image.height())
        w, h = image.width() * scale, image.height() * scale
        return QRectF((self.width() - w) / 2, (self.height() - h) / 2, w, h)

    def paintEvent(self, event: QPaintEvent | None) -> None:
        """Paint picture, marks and loupe, or what to do when there is none."""
        p = QPainter(self)
        p.setRenderHints(QPainter.RenderHint.Antialiasing | QPainter.RenderHint.SmoothPixmapTransform)
        p.fillRect(self.rect(), self._style.c("sunken"))
        frame = self.frame()
        if self._gathered is None:
            self._paint_empty(p, frame)
            return
        p.drawImage(frame, self._toned if self._toned is not None else self._gathered.image)
        self._paint_screen(p, frame)
        if self._toned is not None:
            self._word(p, frame, tr("Tinted toward the look; the file stays as it is"))
            return
        if self._veil is not None:
            p.drawImage(frame, self._veil)
        for i, swatch in enumerate(self._gathered.swatches):
            at = QPointF(frame.x() + swatch.at[0] * frame.width(), frame.y() + swatch.at[1] * frame.height())
            self._disc(p, at, 11 if i == self._lit else 8, swatch.colour)
        if self.dropper and self._at is not None:
            self._paint_loupe(p, self._at)
        if self.hasFocus():
            p.setPen(QPen(self._style.c("accent"), 2))
            p.setBrush(Qt.BrushStyle.NoBrush)
            p.drawRect(frame.adjusted(-3, -3, 3, 3))

    def _paint_screen(self, p: QPainter, frame: QRectF) -> None:
        """Dim what lies beyond the screen, and draw the screen's edge, where the picture juts out of it."""
        assert self._gathered is not None
        place = self._placement
        if place.mode in ("tile", "stretch", "fit"):
            return
        x, y, w, _ = boxes(self._gathered.width, self._gathered.height, place)[0]
        scale = frame.width() / w
        screen = QRectF(frame.x() - x * scale, frame.y() - y * scale, place.width * scale, place.height * scale)
        seen = screen.intersected(frame)
        if seen.width() > frame.width() - 3 and seen.height() > frame.height() - 3:
            return
        beyond = QPainterPath()
        beyond.addRect(frame)
        inside = QPainterPath()
        inside.addRect(seen)
        p.fillPath(beyond.subtracted(inside), QColor(0, 0, 0, 130))
        p.setBrush(Qt.BrushStyle.NoBrush)
        for pen in (QPen(QColor(0, 0, 0), 3), QPen(QColor(255, 255, 255), 1.4, Qt.PenStyle.DashLine)):
            p.setPen(pen)
            p.drawRect(seen)

    def _word(self, p: QPainter, frame: QRectF, words: str) -> None:
        font = QFont(FAMILY)
        font.setPointSizeF(11)
        font.setBold(True)
        p.setFont(font)
        width = p.fontMetrics().horizontalAdvance(words) + 28
        box = QRectF(frame.x() + 12, frame.bottom() - 44, width, 32)
        p.setPen(Qt.PenStyle.NoPen)
        p.setBrush(QColor(20, 22, 22, 225))
        p.drawRoundedRect(box, 16, 16)
        p.setPen(QColor(245, 247, 246))
        p.drawText(box, Qt.AlignmentFlag.AlignCenter, words)

    def _disc(self, p: QPainter, at: QPointF, radius: float, colour: Rgba) -> None:
        p.setPen(QPen(QColor(0, 0, 0, 200), 4))
        p.setBrush(qcolor(colour))
        p.drawEllipse(at, radius, radius)
        p.setPen(QPen(QColor(255, 255, 255), 2))
        p.drawEllipse(at, radius, radius)

    def _paint_empty(self, p: QPainter, frame: QRectF) -> None:
        if self._bands:
            self._paint_bands(p, frame)
            return
        pen = QPen(self._style.c("edge"), 2, Qt.PenStyle.DashLine)
        p.setPen(pen)
        p.setBrush(Qt.BrushStyle.NoBrush)
        p.drawRoundedRect(frame, 16, 16)
        font = QFont(FAMILY)
        font.setPointSizeF(20)
        font.setBold(True)
        p.setFont(font)
        p.setPen(self._style.c("text"))
        middle = frame.center().y()
        p.drawText(
            QRectF(frame.x(), middle - 44, frame.width(), 40), Qt.AlignmentFlag.AlignCenter, tr("Drop an image here")
        )
        font.setPointSizeF(12)
        font.setBold(False)
        p.setFont(font)
        p.setPen(self._style.c("quiet"))
        p.drawText(
            QRectF(frame.x(), middle, frame.width(), 30),
            Qt.AlignmentFlag.AlignCenter,
            tr("or choose one on the right: the whole desktop takes its colours."),
        )
        p.drawText(
            QRectF(frame.x(), middle + 26, frame.width(), 30),
            Qt.AlignmentFlag.AlignCenter,
            tr("Several images, palette files and themes can be dropped too."),
        )

    def _paint_bands(self, p: QPainter, frame: QRectF) -> None:
        """Paint a look's leading colours where there is no picture to take them from."""
        p.setPen(Qt.PenStyle.NoPen)
        width = frame.width() / len(self._bands)
        top = QRectF(frame.x(), frame.y() + 60, frame.width(), frame.height() - 140)
        for i, colour in enumerate(self._bands):
            p.setBrush(qcolor(colour))
            p.drawRect(QRectF(top.x() + i * width, top.y(), width + 0.5, top.height()))
        p.setPen(QPen(self._style.c("edge"), 1))
        p.setBrush(Qt.BrushStyle.NoBrush)
        p.drawRect(top)
        font = QFont(FAMILY)
        font.setPointSizeF(20)
        font.setBold(True)
        p.setFont(font)
        p.setPen(self._style.c("text"))
        align = Qt.AlignmentFlag.AlignLeft | Qt.AlignmentFlag.AlignVCenter
        p.drawText(QRectF(frame.x(), frame.y(), frame.width(), 50), align, self._origin)
        font.setPointSizeF(12)
        font.setBold(False)
        p.setFont(font)
        p.setPen(self._style.c("quiet"))
        words = tr("Drop an image here to make it the wallpaper.")
        p.drawText(QRectF(frame.x(), top.bottom() + 8, frame.width(), 40), align, words)

    def colour_at(self, point: QPointF) -> Rgba | None:
        """Return the picture's colour under a point of the widget."""
        frame = self.frame()
        if self._gathered is None or not frame.contains(point):
            return None
        image = self._gathered.image
        x = min(image.width() - 1, int((point.x() - frame.x()) / frame.width() * image.width()))
        y = min(image.height() - 1, int((point.y() - frame.y()) / frame.height() * image.height()))
        c = image.pixelColor(x, y)
        return Rgba(c.red(), c.green(), c.blue())

    def _paint_loupe(self, p: QPainter, at: QPointF) -> None:
        colour = self.colour_at(at)
        if colour is None or self._gathered is None:
            return
        frame, image = self.frame(), self._gathered.image
        x = int((at.x() - frame.x()) / frame.width() * image.width())
        y = int((at.y() - frame.y()) / frame.height() * image.height())
        paint_loupe(p, at, self.size().toSizeF(), image, x, y, colour)

    def mouseMoveEvent(self, event: QMouseEvent | None) -> None:
        """Move the loupe, or tell which swatch lies under the pointer."""
        if event is None:
            return
        self._at = event.position()
        if self.dropper:
            self.update()
        elif self._gathered is not None:
            frame, labels = self.frame(), self._gathered.labels
            if frame.contains(self._at):
                x = min(labels.shape[1] - 1, int((self._at.x() - frame.x()) / frame.width() * labels.shape[1]))
                y = min(labels.shape[0] - 1, int((self._at.y() - frame.y()) / frame.height() * labels.shape[0]))
                self.swatch_pointed.emit(int(labels[y, x]))

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        """Take the colour under the eyedropper."""
        if event is not None and self.dropper and event.button() == Qt.MouseButton.LeftButton:
            self._take(event.position())

    def _take(self, at: QPointF) -> None:
        colour = self.colour_at(at)
        if colour is not None:
            self.taken.emit(colour)

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        """Move the eyedropper by keys, take with Return, put it away with Escape."""
        if event is None:
            return
        moves = {Qt.Key.Key_Left: (-1, 0), Qt.Key.Key_Right: (1, 0), Qt.Key.Key_Up: (0, -1), Qt.Key.Key_Down: (0, 1)}
        move = moves.get(Qt.Key(event.key()))
        if self.dropper and move and self._at is not None:
            far = 20 if event.modifiers() & Qt.KeyboardModifier.ShiftModifier else 2
            self._at = QPointF(self._at.x() + move[0] * far, self._at.y() + move[1] * far)
            self.update()
        elif (
            self.dropper
            and event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Enter, Qt.Key.Key_Space)
            and self._at is not None
        ):
            self._take(self._at)
        else:
            super().keyPressEvent(event)
