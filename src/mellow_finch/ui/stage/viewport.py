"""Which part of the desktop a widget shows, and where: the whole, a part from near, or wherever one has zoomed to."""

from __future__ import annotations

from dataclasses import dataclass

from PyQt6.QtCore import QPointF, QRectF

from .scene import HEIGHT, WIDTH

_MARGIN = 2.0  # pixels around the desktop
_NEAREST = 8.0  # pixels a unit of the desktop

Near = tuple[QPointF, float]  # what is looked at from near: its middle in stage units, and pixels a unit


@dataclass(frozen=True)
class Viewport:
    """box: the widget, in its pixels; close: a part of the desktop, in stage units, that is shown; near: a zoom."""

    box: QRectF
    close: QRectF | None = None
    near: Near | None = None

    @property
    def room(self) -> QRectF:
        """Return the room there is for the desktop."""
        return self.box.adjusted(_MARGIN, _MARGIN, -_MARGIN, -_MARGIN)

    @property
    def view(self) -> QRectF:
        """Return the part of the desktop that is shown, in stage units, never past its edges."""
        if self.near is not None:
            middle, scale = self.near
            w, h = self.room.width() / scale, self.room.height() / scale
            x = min(max(0.0, middle.x() - w / 2), WIDTH - w) if w < WIDTH else (WIDTH - w) / 2
            y = min(max(0.0, middle.y() - h / 2), HEIGHT - h) if h < HEIGHT else (HEIGHT - h) / 2
            return QRectF(x, y, w, h)
        return self.close if self.close is not None else QRectF(0, 0, WIDTH, HEIGHT)

    @property
    def frame(self) -> QRectF:
        """Return where the desktop lies in the widget, its proportion kept."""
        view, room = self.view, self.room
        scale = min(room.width() / view.width(), room.height() / view.height())
        w, h = view.width() * scale, view.height() * scale
        return QRectF((self.box.width() - w) / 2, (self.box.height() - h) / 2, w, h)

    @property
    def scale(self) -> float:
        """Return how many pixels a unit of the desktop has."""
        return self.frame.width() / self.view.width()

    @property
    def whole_scale(self) -> float:
        """Return how many it has when all of the desktop is shown."""
        return min(self.room.width() / WIDTH, self.room.height() / HEIGHT)

    def unit_at(self, point: QPointF) -> QPointF:
        """Return the place of the desktop that is at a point of the widget."""
        return self.view.topLeft() + (point - self.frame.topLeft()) / self.scale

    def point_at(self, unit: QPointF) -> QPointF:
        """Return the point of the widget at which a place of the desktop is."""
        return self.frame.topLeft() + (unit - self.view.topLeft()) * self.scale

    def held(self, near: Near | None) -> Near | None:
        """Return a zoom with its middle brought back within the desktop, so that moving back is felt at once."""
        return (Viewport(self.box, self.close, near).view.center(), near[1]) if near is not None else None

    def zoomed(self, by: float, at: QPointF) -> Near | None:
        """Return the zoom nearer by a factor, what is at a point staying there; None where that shows the whole."""
        fresh = min(_NEAREST, self.scale * by)
        if fresh <= self.whole_scale * 1.01:
            return None
        return self.unit_at(at) + (self.room.center() - at) / fresh, fresh

    def looking_at(self, part: QRectF) -> Near:
        """Return the zoom that shows a part of the desktop as large as there is room."""
        scale = min(self.room.width() / part.width(), self.room.height() / part.height())
        return part.center(), min(_NEAREST, scale)

    def moved(self, by: QPointF) -> Near | None:
        """Return the zoom with the desktop moved by pixels of the widget."""
        return (self.near[0] - by / self.near[1], self.near[1]) if self.near is not None else None
