"""The stage painted: the picture and the desktop on it, near or whole, marks over it, and the curtain."""

from __future__ import annotations

import time
from collections.abc import Mapping
from dataclasses import replace

import numpy as np
from PyQt6.QtCore import QPointF, QRectF, QSize, Qt, QTimer, pyqtSignal
from PyQt6.QtGui import (
    QImage,
    QPainter,
    QPaintEvent,
    QPen,
    QPixmap,
)
from PyQt6.QtWidgets import QSizePolicy, QWidget

from ...colour.vision import Vision, simulate_pixels
from ...language import tr
from ..kit.painting import painting
from ..kit.parts import BufferedWidget
from ..kit.style import Style
from .brush import Area
from .lay import PLAINLY, PaintsOf, ViewOptions, areas_of, blurred, draw_ground, laid
from .layers import MOST_WAYS, Layers
from .marks import draw_badge, draw_curtain, draw_label, draw_ring
from .scene import HEIGHT, WIDTH, Shape
from .viewport import Near, Viewport

_NEAR_PICTURE = 2.0  # pixels a unit that the picture behind has when it is looked at from near
_CRISP_MS = 120  # after the last step of a zoom
_PATIENCE_S = 0.012  # of a turn, for pieces of the desktop that are drawn anew


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


class Canvas(BufferedWidget):
    """Shows a desktop painted from read-back files. Knows nothing of palettes, and of no hand."""

    near_changed = pyqtSignal()

    def __init__(self, style: Style, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self._style = style
        self._picture: QImage | None = None
        self._scaled: QPixmap | None = None
        self._sizes: list[tuple[QPixmap, QPixmap | None]] = []  # the screen and what blurs, by size, the latest first
        self._after: PaintsOf = {}
        self._before: PaintsOf = {}
        self._known_areas: list[Area] = []
        self._layers = (Layers(), Layers())  # of the desktop before, and after
        self._marked: tuple[str, str] = ("", "")
        self._hint: Area | None = None
        self._worst: dict[tuple[str, str], bool] = {}
        self.showing_before = False
        self.curtain: float | None = None  # where it hangs, 0..1, None when it is drawn back
        self.before_words, self.after_words = tr("Before"), tr("After")
        self._seen = PLAINLY
        self._behind: QPixmap | None = None
        self._vision: Vision = "normal"
        self._note = ""  # what is unusual about the way the desktop is shown
        self._close: QRectF | None = None  # the part of the desktop that is looked at from near, all of it when None
        self._near: Near | None = None  # what is looked at from near: its middle, pixels a unit
        self._swift: tuple[QPixmap, QRectF] | None = None  # what a zoom began with, shown at other sizes meanwhile
        self._crisp = QTimer(self)
        self._crisp.setSingleShot(True)
        self._crisp.timeout.connect(self._come_crisp)
        self._rest = QTimer(self)  # what is left to be drawn is drawn when the window has had its turn
        self._rest.setSingleShot(True)
        self._rest.timeout.connect(self.update)
        self.setAccessibleName(tr("Stage: a preview of the desktop, drawn from the files of this look"))
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Expanding)
        self.setMinimumSize(480, 300)

    def sizeHint(self) -> QSize:
        """Return a size in the desktop's own proportion."""
        return QSize(880, 550)

    def be_quick(self) -> None:
        """Draw what takes longer than a frame in several turns, so that the window never waits for the stage."""
        for layers in self._layers:
            layers.patience = _PATIENCE_S

    def set_picture(self, image: QImage | None) -> None:
        """Show another picture behind the desktop."""
        self._picture, self._scaled, self._behind, self._sizes = image, None, None, []
        self.update()

    def set_seen(self, seen: ViewOptions) -> None:
        """Look at the desktop another way."""
        if seen == self._seen:
            return
        if replace(seen, shown="", shape=Shape()) != replace(self._seen, shown="", shape=Shape()):
            self._scaled, self._behind, self._sizes = None, None, []
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

    @property
    def viewport(self) -> Viewport:
        """Return which part of the desktop is shown, and where."""
        return Viewport(QRectF(self.rect()), self._close, self._near)

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
        self._come_near(self.viewport.zoomed(by, at if at is not None else self._middle()))

    def look_at(self, part: QRectF) -> None:
        """Show a part of the desktop, in stage units, as large as there is room."""
        self._come_near(self.viewport.looking_at(part))

    def true_size(self) -> None:
        """Show the desktop in its true pixels."""
        self._come_near((self.viewport.unit_at(self._middle()), 1 / self.devicePixelRatioF()))

    def _middle(self) -> QPointF:
        """Return the middle of what is pointed at, where that is in sight, else of the widget."""
        port, hint = self.viewport, self._hint
        at = port.point_at(hint.rect.center()) if hint is not None else port.frame.center()
        return at if port.frame.contains(at) else port.frame.center()

    def _come_near(self, near: Near | None) -> None:
        if near != self._near:
            turns = (near[1] if near else 0.0) != self.near
            if turns and not self._crisp.isActive() and self._after and self._vision == "normal":
                self._take_swift()
            if turns and self._swift is not None:
                self._crisp.start(_CRISP_MS)
            self._near = self.viewport.held(near)
            self.near_changed.emit()
            self.update()

    def _come_crisp(self) -> None:
        """Draw the desktop anew at its size when the zoom rests."""
        self._swift = None
        self.update()

    def _move(self, by: QPointF) -> None:
        self._come_near(self.viewport.moved(by))

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
        """Return where the desktop lies in the widget."""
        return self.viewport.frame

    def _picture_for(self, scale: float) -> QPixmap | None:
        """Return the screen with the picture on it, made once for a scale, so that repainting is cheap."""
        if self._picture is None:
            return None
        if self._near is not None:  # one size for all that is near: a photograph gains nothing beyond
            scale = _NEAR_PICTURE
        size = QSize(max(1, round(WIDTH * scale)), max(1, round(HEIGHT * scale)))
        if self._scaled is None or self._scaled.size() != size:
            row = next((row for row in self._sizes if row[0].size() == size), None)
            if row is None:
                screen = laid(self._picture, size, self._seen)
                row = (screen, blurred(screen) if self._seen.blur else None)
            self._sizes = [row, *(other for other in self._sizes if other is not row)][:MOST_WAYS]
            self._scaled, self._behind = row
        return self._scaled

    def paintEvent(self, event: QPaintEvent | None) -> None:
        """Paint the desktop."""
        painter = QPainter(self)
        painter.fillRect(self.rect(), self._style.c("sunken"))
        frame = self.frame()
        self._rest.stop()
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
            with painting(image) as inner:
                self._paint_desktop(inner, frame)
            painter.drawImage(frame.topLeft(), as_seen(image, self._vision))
        if any(layers.unfinished for layers in self._layers):
            self._rest.start(0)
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
        view, scale = self.viewport.view, self.viewport.scale
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
        if self._known_areas or not any(layers.unfinished for layers in self._layers):  # else with the last turn
            self._draw_marks(painter)
            self._draw_badges(painter, 1 / scale)
        painter.translate(view.topLeft())
        painter.scale(1 / scale, 1 / scale)  # what is written over the desktop has a size of its own
        if self.curtain is not None and not self.showing_before:
            draw_curtain(painter, self.curtain * frame.width(), frame.height(), self.before_words, self.after_words)
        elif self.showing_before:
            draw_label(painter, 10, frame.height() - 36, self.before_words)
        near = (
            tr("Zoom × {scale:.1f}; Escape shows all").format(scale=scale / self.viewport.whole_scale)
            if self.near
            else ""
        )
        note = "  ·  ".join(filter(None, (self._note, near)))
        if note:
            draw_label(painter, frame.width() - 10, frame.height() - 32, note, right=True)

    def _paint_scene(self, painter: QPainter, view: QRectF, scale: float) -> None:
        """Paint picture and windows in stage units, what was on the curtain's left; scale: pixels a unit."""
        began = time.perf_counter()
        picture = self._picture_for(scale * self.devicePixelRatioF())
        plain = self._style.c("pressed")
        first = self._before if self.showing_before else self._after
        draw_ground(painter, picture, plain)
        look = (view, self._seen, self._behind, began)
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
        port, ratio = self.viewport, self.devicePixelRatioF()
        view, scale = port.view, port.scale
        image = QPixmap((port.frame.size() * ratio).toSize())
        image.setDevicePixelRatio(ratio)
        with painting(image) as painter:
            painter.setRenderHints(QPainter.RenderHint.Antialiasing | QPainter.RenderHint.TextAntialiasing)
            painter.scale(scale, scale)
            painter.translate(-view.topLeft())
            self._paint_scene(painter, view, scale)
        self._swift = (image, view)

    def _draw_marks(self, painter: QPainter) -> None:
        for area in self.areas if any(self._marked) else ():
            if (area.component, area.part) == self._marked:
                draw_ring(painter, area.rect, 2.0)
                break
        if self._hint is not None:
            draw_ring(painter, self._hint.rect, 1.2)

    def badges(self) -> list[tuple[Area, bool]]:
        """Return the areas whose pairs are marked, each once, and whether its pair fails rather than nearly does."""
        found: dict[tuple[str, str], tuple[Area, bool]] = {}
        for area in self.areas if self._worst else ():
            fails = self._worst.get((area.component, area.part))
            if fails is not None and (area.component, area.part) not in found:
                found[area.component, area.part] = (area, fails)
        return list(found.values())

    def _draw_badges(self, painter: QPainter, unit: float) -> None:
        """Mark what has insufficient contrast or nearly does; unit: of one pixel."""
        for area, fails in self.badges():
            draw_badge(painter, QPointF(area.rect.right() + 2 * unit, area.rect.top() - unit), fails, unit)

    def area_at(self, point: QPointF) -> Area | None:
        """Return what lies topmost under a point of the widget."""
        port = self.viewport
        if not port.frame.contains(point):
            return None
        inner, scale = port.unit_at(point), 1 / port.scale
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
        port = self.viewport
        for area in self.areas:
            if (area.component, area.part) == (component, part) and port.view.contains(area.rect.center()):
                return port.point_at(area.rect.center())
        return None
