"""The stage as a widget: the picture and the desktop on it, pointing, comparing, and the curtain."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
from PyQt6.QtCore import QPointF, QRectF, QSize, Qt, pyqtSignal
from PyQt6.QtGui import QColor, QFont, QImage, QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QPen, QPixmap
from PyQt6.QtWidgets import QSizePolicy, QWidget

from ...colour.vision import Vision, simulate_pixels
from ..kit.style import FAMILY, Style
from .brush import Area
from .lay import PLAINLY, PaintsOf, Seen, blurred, draw_stage, laid
from .scene import HEIGHT, WIDTH


def as_seen(image: QImage, vision: Vision) -> QImage:
    """Return a picture as a kind of vision sees it; its size and pixel ratio stay."""
    pixels = image.convertToFormat(QImage.Format.Format_RGB888)
    bits = pixels.constBits()
    if bits is None:
        return image
    rows = np.frombuffer(bits.asstring(pixels.sizeInBytes()), np.uint8).reshape(pixels.height(), pixels.bytesPerLine())
    shown = rows[:, : pixels.width() * 3].reshape(pixels.height(), pixels.width(), 3)
    data = np.ascontiguousarray(simulate_pixels(shown, vision))
    out = QImage(
        data.tobytes(), pixels.width(), pixels.height(), pixels.width() * 3, QImage.Format.Format_RGB888
    ).copy()
    out.setDevicePixelRatio(image.devicePixelRatio())
    return out


class Stage(QWidget):
    """Shows a desktop painted from read-back files. Knows nothing of palettes."""

    pointed = pyqtSignal(object)  # Area under the pointer, or None
    picked = pyqtSignal(object)  # Area that was clicked

    def __init__(self, style: Style, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self._style = style
        self._picture: QImage | None = None
        self._scaled: QPixmap | None = None
        self._after: PaintsOf = {}
        self._before: PaintsOf = {}
        self._areas: list[Area] = []
        self._marked: tuple[str, str] = ("", "")
        self._hint: Area | None = None
        self.showing_before = False
        self.curtain: float | None = None  # where it hangs, 0..1, None when it is drawn back
        self.before_words, self.after_words = "As it was", "As it will be"
        self._seen = PLAINLY
        self._behind: QPixmap | None = None
        self._vision: Vision = "normal"
        self._note = ""  # what is unusual about the way the desktop is shown
        self._close: QRectF | None = None  # the part of the desktop that is looked at from near, all of it when None
        self._dragging = False
        self.setMouseTracking(True)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setAccessibleName("Stage: a desktop painted from the dressed files")
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Expanding)
        self.setMinimumSize(480, 300)

    def sizeHint(self) -> QSize:
        """Return a size in the desktop's own proportion."""
        return QSize(880, 550)

    def set_picture(self, image: QImage | None) -> None:
        """Show another picture behind the desktop."""
        self._picture, self._scaled, self._behind = image, None, None
        self.update()

    def set_seen(self, seen: Seen) -> None:
        """Look at the desktop another way."""
        if seen == self._seen:
            return
        if replace(seen, shown="") != replace(self._seen, shown=""):
            self._scaled, self._behind = None, None
        if seen.shown != self._seen.shown:
            self._areas, self._hint, self._marked = [], None, ("", "")
        self._seen = seen
        self.update()

    def set_vision(self, vision: Vision) -> None:
        """Show the desktop as other eyes see it."""
        if vision != self._vision:
            self._vision = vision
            self.update()

    def set_note(self, words: str) -> None:
        """Say on the stage what is unusual about the way the desktop is shown."""
        if words != self._note:
            self._note = words
            self.update()

    def set_close(self, part: QRectF | None) -> None:
        """Look at a part of the desktop, in stage units, from near; None shows all of it."""
        if part != self._close:
            self._close = part
            self.update()

    def _view(self) -> QRectF:
        """Return the part of the desktop that is shown, in stage units."""
        return self._close if self._close is not None else QRectF(0, 0, WIDTH, HEIGHT)

    def set_paints(self, after: PaintsOf, before: PaintsOf) -> None:
        """Show other files."""
        self._after, self._before = after, before
        self.update()

    def mark(self, component: str, part: str) -> None:
        """Draw a ring around everything that shows a part."""
        self._marked = (component, part)
        self.update()

    def set_compare(self, before: bool) -> None:
        """Show the desktop as it was, or as it will be."""
        self.showing_before = before
        self.update()

    def set_curtain(self, at: float | None) -> None:
        """Hang the curtain: before on its left, after on its right."""
        self.curtain = at
        self.update()

    def frame(self) -> QRectF:
        """Return where the desktop lies in the widget, its proportion kept."""
        margin = 10.0
        view = self._view()
        scale = min((self.width() - 2 * margin) / view.width(), (self.height() - 2 * margin) / view.height())
        w, h = view.width() * scale, view.height() * scale
        return QRectF((self.width() - w) / 2, (self.height() - h) / 2, w, h)

    def _picture_for(self, scale: float) -> QPixmap | None:
        """Return the screen with the picture on it, made once for a scale, so that repainting is cheap."""
        if self._picture is None:
            return None
        size = QSize(max(1, round(WIDTH * scale)), max(1, round(HEIGHT * scale)))
        if self._scaled is None or self._scaled.size() != size:
            self._scaled = laid(self._picture, size, self._seen)
            self._behind = blurred(self._scaled) if self._seen.blur else None
        return self._scaled

    def paintEvent(self, event: QPaintEvent | None) -> None:
        """Paint the desktop."""
        painter = QPainter(self)
        painter.fillRect(self.rect(), self._style.c("sunken"))
        frame = self.frame()
        if self._vision == "normal":
            painter.save()
            painter.setClipRect(frame)
            painter.translate(frame.topLeft())
            self._paint_desktop(painter, frame)
            painter.restore()
        else:
            ratio = self.devicePixelRatioF()
            image = QImage((frame.size() * ratio).toSize(), QImage.Format.Format_RGB32)
            image.setDevicePixelRatio(ratio)
            inner = QPainter(image)
            self._paint_desktop(inner, frame)
            inner.end()
            painter.drawImage(frame.topLeft(), as_seen(image, self._vision))
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.setPen(QPen(self._style.c("edge"), 1))
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.drawRect(frame.adjusted(-0.5, -0.5, 0.5, 0.5))
        if self.hasFocus():
            painter.setPen(QPen(self._style.c("accent"), 2))
            painter.drawRect(frame.adjusted(-3, -3, 3, 3))

    def _paint_desktop(self, painter: QPainter, frame: QRectF) -> None:
        """Paint the part of the desktop that is looked at, from the painter's origin on, as large as the frame."""
        painter.setRenderHints(QPainter.RenderHint.Antialiasing | QPainter.RenderHint.TextAntialiasing)
        view = self._view()
        scale = frame.width() / view.width()
        picture = self._picture_for(scale * self.devicePixelRatioF())
        painter.scale(scale, scale)
        painter.translate(-view.topLeft())
        plain = self._style.c("pressed")
        first = self._before if self.showing_before else self._after
        # Where things lie does not depend on their colours, so it is noted once.
        noted = draw_stage(painter, picture, first, plain, not self._areas, self._seen, self._behind)
        self._areas = self._areas or noted
        drawn = self.curtain is not None and not self.showing_before
        if self.curtain is not None and drawn:
            painter.save()
            left = QRectF(view.x(), view.y(), self.curtain * view.width(), view.height())
            painter.setClipRect(left, Qt.ClipOperation.IntersectClip)
            draw_stage(painter, picture, self._before, plain, False, self._seen, self._behind)
            painter.restore()
        self._draw_marks(painter)
        painter.translate(view.topLeft())
        painter.scale(view.width() / WIDTH, view.height() / HEIGHT)
        if self.curtain is not None and drawn:
            self._draw_curtain(painter, self.curtain * WIDTH)
        elif self.showing_before:
            self._draw_label(painter, 16, self.before_words)
        if self._note:
            self._draw_label(painter, WIDTH / 2 + 20, self._note, y=46)

    def _draw_marks(self, painter: QPainter) -> None:
        painter.setBrush(Qt.BrushStyle.NoBrush)
        for area in self._areas:
            if (area.component, area.part) == self._marked:
                self._ring(painter, area.rect, 2.0)
                break
        if self._hint is not None:
            self._ring(painter, self._hint.rect, 1.2)

    @staticmethod
    def _ring(painter: QPainter, rect: QRectF, width: float) -> None:
        """Draw a ring that shows on anything: white within black."""
        for extra, colour in ((width * 2.2, QColor(0, 0, 0, 210)), (width, QColor(255, 255, 255, 240))):
            pen = QPen(colour, extra)
            pen.setJoinStyle(Qt.PenJoinStyle.RoundJoin)
            painter.setPen(pen)
            painter.drawRoundedRect(rect.adjusted(-3, -3, 3, 3), 4, 4)

    def _draw_label(self, painter: QPainter, x: float, words: str, right: bool = False, y: float = HEIGHT - 60) -> None:
        font = QFont(FAMILY)
        font.setPixelSize(20)
        font.setBold(True)
        painter.setFont(font)
        width = painter.fontMetrics().horizontalAdvance(words) + 28
        rect = QRectF(x - width if right else x, y, width, 40)
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(QColor(20, 22, 22, 225))
        painter.drawRoundedRect(rect, 20, 20)
        painter.setPen(QColor(245, 247, 246))
        painter.drawText(rect, Qt.AlignmentFlag.AlignCenter, words)

    def _draw_curtain(self, painter: QPainter, x: float) -> None:
        painter.setPen(QPen(QColor(0, 0, 0, 200), 7))
        painter.drawLine(QPointF(x, 0), QPointF(x, HEIGHT))
        painter.setPen(QPen(QColor(255, 255, 255), 3))
        painter.drawLine(QPointF(x, 0), QPointF(x, HEIGHT))
        painter.setBrush(QColor(20, 22, 22))
        painter.drawEllipse(QPointF(x, HEIGHT / 2), 22, 22)
        for side in (-1, 1):
            painter.drawLine(QPointF(x + side * 5, HEIGHT / 2 - 6), QPointF(x + side * 11, HEIGHT / 2))
            painter.drawLine(QPointF(x + side * 11, HEIGHT / 2), QPointF(x + side * 5, HEIGHT / 2 + 6))
        self._draw_label(painter, x - 14, self.before_words, right=True)
        self._draw_label(painter, x + 14, self.after_words)

    def area_at(self, point: QPointF) -> Area | None:
        """Return what lies topmost under a point of the widget."""
        frame = self.frame()
        if not frame.contains(point):
            return None
        view = self._view()
        scale = view.width() / frame.width()
        inner = QPointF(view.x() + (point.x() - frame.x()) * scale, view.y() + (point.y() - frame.y()) * scale)
        best: Area | None = None
        for area in self._areas:
            if area.rect.contains(inner):
                best = area
        return best

    def point_of(self, component: str, part: str) -> QPointF | None:
        """Return where a part can be clicked, None when it is not on the stage."""
        frame, view = self.frame(), self._view()
        scale = frame.width() / view.width()
        for area in self._areas:
            if (area.component, area.part) == (component, part) and view.contains(area.rect.center()):
                c = area.rect.center()
                return QPointF(frame.x() + (c.x() - view.x()) * scale, frame.y() + (c.y() - view.y()) * scale)
        return None

    def _near_curtain(self, x: float) -> bool:
        frame = self.frame()
        return self.curtain is not None and abs(frame.x() + self.curtain * frame.width() - x) < 12

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        """Take hold of the curtain, or select what is under the pointer."""
        if event is None or event.button() != Qt.MouseButton.LeftButton:
            return
        if self._near_curtain(event.position().x()):
            self._dragging = True
            return
        area = self.area_at(event.position())
        if area is not None:
            self.picked.emit(area)

    def mouseMoveEvent(self, event: QMouseEvent | None) -> None:
        """Draw the curtain, or tell what is under the pointer."""
        if event is None:
            return
        if self._dragging:
            frame = self.frame()
            self.set_curtain(min(1.0, max(0.0, (event.position().x() - frame.x()) / frame.width())))
            return
        near = self._near_curtain(event.position().x())
        self.setCursor(Qt.CursorShape.SplitHCursor if near else Qt.CursorShape.PointingHandCursor)
        area = self.area_at(event.position())
        if area != self._hint:
            self._hint = area
            self.pointed.emit(area)
            self.update()

    def mouseReleaseEvent(self, event: QMouseEvent | None) -> None:
        """Let go of the curtain."""
        self._dragging = False

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        """Walk over the parts with the arrow keys, select with Return, move the curtain with Shift."""
        if event is None:
            return
        key = event.key()
        step = {Qt.Key.Key_Left: -1, Qt.Key.Key_Right: 1}.get(Qt.Key(key), 0)
        if step and self.curtain is not None and event.modifiers() & Qt.KeyboardModifier.ShiftModifier:
            self.set_curtain(min(1.0, max(0.0, self.curtain + step * 0.05)))
        elif step and self._areas:
            at = self._areas.index(self._hint) if self._hint in self._areas else -1 if step > 0 else 0
            self._hint = self._areas[(at + step) % len(self._areas)]
            self.pointed.emit(self._hint)
            self.update()
        elif key in (Qt.Key.Key_Return, Qt.Key.Key_Enter, Qt.Key.Key_Space) and self._hint is not None:
            self.picked.emit(self._hint)
        else:
            super().keyPressEvent(event)
