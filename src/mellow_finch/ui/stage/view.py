"""The stage as a widget: the picture and the desktop on it, pointing, comparing, and the curtain."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import replace

import numpy as np
from PyQt6.QtCore import QPointF, QRectF, QSize, Qt, QTimer, pyqtSignal
from PyQt6.QtGui import (
    QColor,
    QDragEnterEvent,
    QDragMoveEvent,
    QDropEvent,
    QFont,
    QImage,
    QKeyEvent,
    QMouseEvent,
    QPainter,
    QPaintEvent,
    QPen,
    QPixmap,
    QWheelEvent,
)
from PyQt6.QtWidgets import QSizePolicy, QWidget

from ...colour.vision import Vision, simulate_pixels
from ...language import tr
from ..kit.drag import carries_role, dropped_role
from ..kit.parts import Painted
from ..kit.style import FAMILY, Style
from .brush import Area
from .lay import PLAINLY, PaintsOf, Seen, areas_of, blurred, draw_ground, laid
from .layers import Layers
from .scene import HEIGHT, WIDTH, Shape, close_of

_MARGIN = 2.0  # pixels around the desktop
_NEAREST = 8.0  # pixels a unit of the desktop
_NEAR_PICTURE = 2.0  # pixels a unit that the picture behind has when it is looked at from near
_CRISP_MS = 120  # after the last step of a zoom
_WHEEL, _KEY = 1.2, 1.4  # how much nearer a notch of the wheel and a key bring one


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


class Stage(Painted):
    """Shows a desktop painted from read-back files. Knows nothing of palettes."""

    pointed = pyqtSignal(object)  # Area under the pointer, or None
    near_changed = pyqtSignal()
    picked = pyqtSignal(object)  # Area that was clicked
    given = pyqtSignal(object, str)  # Area, and the role that was dropped on it

    def __init__(self, style: Style, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self._style = style
        self._picture: QImage | None = None
        self._scaled: QPixmap | None = None
        self._after: PaintsOf = {}
        self._before: PaintsOf = {}
        self._known_areas: list[Area] = []
        self._layers = (Layers(), Layers())  # of the desktop before, and after
        self._marked: tuple[str, str] = ("", "")
        self._hint: Area | None = None
        self._worst: dict[tuple[str, str], bool] = {}
        self.showing_before = False
        self.curtain: float | None = None  # where it hangs, 0..1, None when it is drawn back
        self.before_words, self.after_words = tr("As it was"), tr("As it will be")
        self._seen = PLAINLY
        self._behind: QPixmap | None = None
        self._vision: Vision = "normal"
        self._note = ""  # what is unusual about the way the desktop is shown
        self._close: QRectF | None = None  # the part of the desktop that is looked at from near, all of it when None
        self._dragging = False
        self._near: tuple[QPointF, float] | None = None  # what is looked at from near: its middle, pixels a unit
        self._held: QPointF | None = None  # where the pointer took hold of the desktop, to move it
        self._swift: tuple[QPixmap, QRectF] | None = None  # what a zoom began with, shown at other sizes meanwhile
        self._crisp = QTimer(self)
        self._crisp.setSingleShot(True)
        self._crisp.timeout.connect(self._come_crisp)
        self.setAcceptDrops(True)
        self.setMouseTracking(True)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setAccessibleName(tr("Stage: a desktop painted from the dressed files"))
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
        if replace(seen, shown="", shape=Shape()) != replace(self._seen, shown="", shape=Shape()):
            self._scaled, self._behind = None, None
        if (seen.shown, seen.shape) != (self._seen.shown, self._seen.shape):
            self._known_areas, self._hint = [], None
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
        if self._near is not None:
            middle, scale = self._near
            w, h = self._room().width() / scale, self._room().height() / scale
            x = min(max(0.0, middle.x() - w / 2), WIDTH - w) if w < WIDTH else (WIDTH - w) / 2
            y = min(max(0.0, middle.y() - h / 2), HEIGHT - h) if h < HEIGHT else (HEIGHT - h) / 2
            return QRectF(x, y, w, h)
        return self._close if self._close is not None else QRectF(0, 0, WIDTH, HEIGHT)

    def _room(self) -> QRectF:
        return QRectF(self.rect()).adjusted(_MARGIN, _MARGIN, -_MARGIN, -_MARGIN)

    # Near

    @property
    def near(self) -> float:
        """Return how many pixels a unit of the desktop has when it is looked at from near, 0 on the whole."""
        return self._near[1] if self._near is not None else 0.0

    def whole(self) -> None:
        """Show the whole desktop again."""
        self._come_near(None)

    def zoom(self, by: float, at: QPointF | None = None) -> None:
        """Come nearer by a factor, what is at a point of the widget staying there; nothing nearer than eight-fold."""
        point = at if at is not None else self._middle()
        spot = self._unit_at(point)
        scale = self.frame().width() / self._view().width()
        fresh = min(_NEAREST, scale * by)
        if fresh <= self._whole_scale() * 1.01:
            self.whole()
            return
        frame = self._room()
        away = (frame.center() - point) / fresh
        self._come_near((spot + away, fresh))

    def look_at(self, part: QRectF) -> None:
        """Show a part of the desktop, in stage units, as large as there is room."""
        room = self._room()
        scale = min(room.width() / part.width(), room.height() / part.height())
        self._come_near((part.center(), min(_NEAREST, scale)))

    def true_size(self) -> None:
        """Show the desktop in its true pixels."""
        self._come_near((self._unit_at(self._middle()), 1 / self.devicePixelRatioF()))

    def _whole_scale(self) -> float:
        room = self._room()
        return min(room.width() / WIDTH, room.height() / HEIGHT)

    def _middle(self) -> QPointF:
        hint = self._hint
        if hint is not None:
            frame, view = self.frame(), self._view()
            scale = frame.width() / view.width()
            centre = frame.topLeft() + (hint.rect.center() - view.topLeft()) * scale
            if frame.contains(centre):
                return centre
        return self.frame().center()

    def _unit_at(self, point: QPointF) -> QPointF:
        """Return the place of the desktop that is at a point of the widget."""
        frame, view = self.frame(), self._view()
        return view.topLeft() + (point - frame.topLeft()) * (view.width() / frame.width())

    def _come_near(self, near: tuple[QPointF, float] | None) -> None:
        if near != self._near:
            turns = (near[1] if near else 0.0) != self.near
            if turns and not self._crisp.isActive() and self._after and self._vision == "normal":
                self._take_swift()
            if turns and self._swift is not None:
                self._crisp.start(_CRISP_MS)
            self._near = near
            if near is not None:  # never past the desktop's edges, so that moving back is felt at once
                self._near = (self._view().center(), near[1])
            self.near_changed.emit()
            self.update()

    def _come_crisp(self) -> None:
        """Draw the desktop anew at its size when the zoom rests."""
        self._swift = None
        self.update()

    def _move(self, by: QPointF) -> None:
        if self._near is not None:
            middle, scale = self._near
            self._come_near((middle - by / scale, scale))

    def set_paints(self, after: PaintsOf, before: PaintsOf) -> None:
        """Show other files."""
        self._after, self._before = after, before
        self.update()

    @property
    def areas(self) -> list[Area]:
        """Return what can be pointed at, lowest first, found out when it is first asked for."""
        if not self._known_areas and self._after:
            self._known_areas = areas_of(self._before if self.showing_before else self._after, self._seen)
        return self._known_areas

    def mark(self, component: str, part: str) -> None:
        """Draw a ring around everything that shows a part."""
        self._marked = (component, part)
        self.update()

    def set_worst(self, worst: Mapping[tuple[str, str], bool]) -> None:
        """Mark parts whose pairs fail (True) or nearly do (False), by component and part."""
        if worst != self._worst:
            self._worst = dict(worst)
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
        view, room = self._view(), self._room()
        scale = min(room.width() / view.width(), room.height() / view.height())
        w, h = view.width() * scale, view.height() * scale
        return QRectF((self.width() - w) / 2, (self.height() - h) / 2, w, h)

    def _picture_for(self, scale: float) -> QPixmap | None:
        """Return the screen with the picture on it, made once for a scale, so that repainting is cheap."""
        if self._picture is None:
            return None
        if self._near is not None:  # one size for all that is near: a photograph gains nothing beyond
            scale = _NEAR_PICTURE
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
            painter.drawRect(frame.adjusted(0, 0, 0, 0))

    def _paint_desktop(self, painter: QPainter, frame: QRectF) -> None:
        """Paint the part of the desktop that is looked at, from the painter's origin on, as large as the frame."""
        painter.setRenderHints(QPainter.RenderHint.Antialiasing | QPainter.RenderHint.TextAntialiasing)
        view = self._view()
        scale = frame.width() / view.width()
        painter.scale(scale, scale)
        painter.translate(-view.topLeft())
        if self._swift is not None and self._crisp.isActive():
            painter.fillRect(view, self._style.c("pressed"))
            if self._scaled is not None:
                painter.drawPixmap(QRectF(0, 0, WIDTH, HEIGHT), self._scaled, QRectF(self._scaled.rect()))
            was, seen = self._swift
            painter.drawPixmap(seen, was, QRectF(was.rect()))
        else:
            self._paint_scene(painter, view, scale)
        self._draw_marks(painter)
        self._draw_badges(painter, 1 / scale)
        painter.translate(view.topLeft())
        painter.scale(1 / scale, 1 / scale)  # what is written over the desktop has a size of its own
        if self.curtain is not None and not self.showing_before:
            self._draw_curtain(painter, self.curtain * frame.width(), frame.height())
        elif self.showing_before:
            self._draw_label(painter, 10, frame.height() - 36, self.before_words)
        near = (
            tr("Near, × {scale:.1f}; Escape shows all").format(scale=scale / self._whole_scale()) if self.near else ""
        )
        note = "  ·  ".join(filter(None, (self._note, near)))
        if note:
            self._draw_label(painter, frame.width() - 10, 28, note, right=True)

    def _paint_scene(self, painter: QPainter, view: QRectF, scale: float) -> None:
        """Paint picture and windows in stage units, what was on the curtain's left; scale: pixels a unit."""
        picture = self._picture_for(scale * self.devicePixelRatioF())
        plain = self._style.c("pressed")
        first = self._before if self.showing_before else self._after
        draw_ground(painter, picture, plain)
        look = (view, self._seen, self._behind)
        self._layers[0 if self.showing_before else 1].draw(painter, first, *look)
        if self.curtain is not None and not self.showing_before:
            painter.save()
            left = QRectF(view.x(), view.y(), self.curtain * view.width(), view.height())
            painter.setClipRect(left, Qt.ClipOperation.IntersectClip)
            draw_ground(painter, picture, plain)
            self._layers[0].draw(painter, self._before, *look)
            painter.restore()

    def _take_swift(self) -> None:
        """Keep what is in sight, to be shown larger or smaller while the zoom goes on."""
        frame, view, ratio = self.frame(), self._view(), self.devicePixelRatioF()
        image = QPixmap((frame.size() * ratio).toSize())
        image.setDevicePixelRatio(ratio)
        painter = QPainter(image)
        painter.setRenderHints(QPainter.RenderHint.Antialiasing | QPainter.RenderHint.TextAntialiasing)
        scale = frame.width() / view.width()
        painter.scale(scale, scale)
        painter.translate(-view.topLeft())
        self._paint_scene(painter, view, scale)
        painter.end()
        self._swift = (image, view)

    def _draw_marks(self, painter: QPainter) -> None:
        painter.setBrush(Qt.BrushStyle.NoBrush)
        for area in self.areas if any(self._marked) else ():
            if (area.component, area.part) == self._marked:
                self._ring(painter, area.rect, 2.0)
                break
        if self._hint is not None:
            self._ring(painter, self._hint.rect, 1.2)

    def badges(self) -> list[tuple[Area, bool]]:
        """Return the areas whose pairs are marked, each once, and whether its pair fails rather than nearly does."""
        found: dict[tuple[str, str], tuple[Area, bool]] = {}
        for area in self.areas if self._worst else ():
            fails = self._worst.get((area.component, area.part))
            if fails is not None and (area.component, area.part) not in found:
                found[area.component, area.part] = (area, fails)
        return list(found.values())

    def _draw_badges(self, painter: QPainter, unit: float) -> None:
        """Draw a cross in a disc where a pair fails, a bar in a triangle where it nearly does; unit: of one pixel."""
        for area, fails in self.badges():
            at = QPointF(area.rect.right() + 2 * unit, area.rect.top() - unit)
            painter.setPen(QPen(QColor(255, 255, 255), 1.4 * unit))
            r = 7 * unit
            if fails:
                painter.setBrush(QColor(176, 38, 30))
                painter.drawEllipse(at, r, r)
                d = 2.8 * unit
                painter.drawLine(at + QPointF(-d, -d), at + QPointF(d, d))
                painter.drawLine(at + QPointF(-d, d), at + QPointF(d, -d))
            else:
                painter.setBrush(QColor(122, 88, 0))
                painter.drawPolygon(at + QPointF(0, -r), at + QPointF(r, r * 0.8), at + QPointF(-r, r * 0.8))
                painter.drawLine(at + QPointF(0, -2.4 * unit), at + QPointF(0, 2.2 * unit))

    @staticmethod
    def _ring(painter: QPainter, rect: QRectF, width: float) -> None:
        """Draw a ring that shows on anything: white within black."""
        for extra, colour in ((width * 2.2, QColor(0, 0, 0, 210)), (width, QColor(255, 255, 255, 240))):
            pen = QPen(colour, extra)
            pen.setJoinStyle(Qt.PenJoinStyle.RoundJoin)
            painter.setPen(pen)
            painter.drawRoundedRect(rect.adjusted(-3, -3, 3, 3), 4, 4)

    def _draw_label(self, painter: QPainter, x: float, y: float, words: str, right: bool = False) -> None:
        font = QFont(FAMILY)
        font.setPixelSize(13)
        font.setBold(True)
        painter.setFont(font)
        width = painter.fontMetrics().horizontalAdvance(words) + 22
        rect = QRectF(x - width if right else x, y, width, 26)
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(QColor(20, 22, 22))
        painter.drawRoundedRect(rect, 13, 13)
        painter.setPen(QColor(245, 247, 246))
        painter.drawText(rect, Qt.AlignmentFlag.AlignCenter, words)

    def _draw_curtain(self, painter: QPainter, x: float, high: float) -> None:
        painter.setPen(QPen(QColor(0, 0, 0, 200), 4))
        painter.drawLine(QPointF(x, 0), QPointF(x, high))
        painter.setPen(QPen(QColor(255, 255, 255), 2))
        painter.drawLine(QPointF(x, 0), QPointF(x, high))
        painter.setBrush(QColor(20, 22, 22))
        painter.drawEllipse(QPointF(x, high / 2), 13, 13)
        for side in (-1, 1):
            painter.drawLine(QPointF(x + side * 3, high / 2 - 4), QPointF(x + side * 7, high / 2))
            painter.drawLine(QPointF(x + side * 7, high / 2), QPointF(x + side * 3, high / 2 + 4))
        top = high * 0.06  # under the panel, over the windows' title bars
        self._draw_label(painter, x - 10, top, self.before_words, right=True)
        self._draw_label(painter, x + 10, top, self.after_words)

    def area_at(self, point: QPointF) -> Area | None:
        """Return what lies topmost under a point of the widget."""
        frame = self.frame()
        if not frame.contains(point):
            return None
        view = self._view()
        scale = view.width() / frame.width()
        inner = QPointF(view.x() + (point.x() - frame.x()) * scale, view.y() + (point.y() - frame.y()) * scale)
        best: Area | None = None
        shown = [
            ((QPointF(area.rect.right() + 2 * scale, area.rect.top() - scale) - inner).manhattanLength(), i, area)
            for i, (area, _) in enumerate(self.badges())
        ]
        if shown and min(shown)[0] < 10 * scale:
            return min(shown)[2]
        for area in self.areas:
            if area.rect.contains(inner):
                best = area
        return best

    def point_of(self, component: str, part: str) -> QPointF | None:
        """Return where a part can be clicked, None when it is not on the stage."""
        frame, view = self.frame(), self._view()
        scale = frame.width() / view.width()
        for area in self.areas:
            if (area.component, area.part) == (component, part) and view.contains(area.rect.center()):
                c = area.rect.center()
                return QPointF(frame.x() + (c.x() - view.x()) * scale, frame.y() + (c.y() - view.y()) * scale)
        return None

    def _near_curtain(self, x: float) -> bool:
        frame = self.frame()
        return self.curtain is not None and abs(frame.x() + self.curtain * frame.width() - x) < 12

    def wheelEvent(self, event: QWheelEvent | None) -> None:
        """Come nearer with Ctrl; near, move over the desktop."""
        if event is None:
            return
        turned = event.angleDelta()
        if event.modifiers() & Qt.KeyboardModifier.ControlModifier:
            self.zoom(_WHEEL ** (turned.y() / 120), event.position())
        elif self._near is not None:
            sideways = bool(event.modifiers() & Qt.KeyboardModifier.ShiftModifier)
            self._move(QPointF(turned.y(), 0) if sideways else QPointF(turned.x(), turned.y()))
        else:
            event.ignore()
            return
        event.accept()

    def mouseDoubleClickEvent(self, event: QMouseEvent | None) -> None:
        """Look at the window or widget under the pointer from near."""
        area = self.area_at(event.position()) if event is not None else None
        if area is not None:
            self.look_at(close_of(area.component))

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        """Take hold of the curtain or, with the middle button, of the desktop; or select what is under the pointer."""
        if event is not None and event.button() == Qt.MouseButton.MiddleButton and self._near is not None:
            self._held = event.position()
            self.setCursor(Qt.CursorShape.ClosedHandCursor)
            return
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
        if self._held is not None:
            self._move(event.position() - self._held)
            self._held = event.position()
            return
        if self._dragging:
            frame = self.frame()
            self.set_curtain(min(1.0, max(0.0, (event.position().x() - frame.x()) / frame.width())))
            return
        near = self._near_curtain(event.position().x())
        self.setCursor(Qt.CursorShape.SplitHCursor if near else Qt.CursorShape.PointingHandCursor)
        self._point_at(self.area_at(event.position()))

    def _point_at(self, area: Area | None) -> None:
        if area != self._hint:
            self._hint = area
            self.pointed.emit(area)
            self.update()

    def mouseReleaseEvent(self, event: QMouseEvent | None) -> None:
        """Let go of the curtain or of the desktop."""
        self._dragging = False
        self._held = None

    def dragEnterEvent(self, event: QDragEnterEvent | None) -> None:
        """Take roles off the plumage."""
        if event is not None and carries_role(event):
            event.acceptProposedAction()

    def dragMoveEvent(self, event: QDragMoveEvent | None) -> None:
        """Show what a role would be given to."""
        if event is None:
            return
        self._point_at(self.area_at(event.position()))
        if self._hint is not None:
            event.acceptProposedAction()
        else:
            event.ignore()

    def dropEvent(self, event: QDropEvent | None) -> None:
        """Give what is under the pointer the role that was dropped on it."""
        area = self.area_at(event.position()) if event is not None else None
        role = dropped_role(event)
        if event is not None and area is not None and role:
            event.acceptProposedAction()
            self.given.emit(area, role)

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        """Walk over the parts with the arrow keys, select with Return, move the curtain with Shift."""
        if event is None:
            return
        key = event.key()
        step = {Qt.Key.Key_Left: -1, Qt.Key.Key_Right: 1}.get(Qt.Key(key), 0)
        if step and self.curtain is not None and event.modifiers() & Qt.KeyboardModifier.ShiftModifier:
            self.set_curtain(min(1.0, max(0.0, self.curtain + step * 0.05)))
        elif step and self.areas:
            at = self.areas.index(self._hint) if self._hint in self.areas else -1 if step > 0 else 0
            self._hint = self.areas[(at + step) % len(self.areas)]
            if self._near is not None and not self._view().contains(self._hint.rect.center()):
                self._come_near((self._hint.rect.center(), self._near[1]))
            self.pointed.emit(self._hint)
            self.update()
        elif key in (Qt.Key.Key_Plus, Qt.Key.Key_Equal):
            self.zoom(_KEY)
        elif key == Qt.Key.Key_Minus:
            self.zoom(1 / _KEY)
        elif key == Qt.Key.Key_0:
            self.whole()
        elif key == Qt.Key.Key_1:
            self.true_size()
        elif key == Qt.Key.Key_Escape and self._near is not None:
            self.whole()
        elif key in (Qt.Key.Key_Return, Qt.Key.Key_Enter, Qt.Key.Key_Space) and self._hint is not None:
            self.picked.emit(self._hint)
        else:
            super().keyPressEvent(event)
