"""The stage in layers: what no file says otherwise of any more is not drawn again, only laid down again."""

from __future__ import annotations

import math
import time
from collections.abc import Mapping
from dataclasses import dataclass

from PyQt6.QtCore import QPoint, QPointF, QRect, QRectF, Qt
from PyQt6.QtGui import QPainter, QPixmap, QTransform

from ...components.model import Paints
from ..kit.painting import painting
from .brush import Brush
from .lay import PLAINLY, ViewOptions
from .scene import ScenePiece, Shape, configure_brush, pieces

MOST_WAYS = 3  # sizes that the stage has: by the step that is in sight


@dataclass(frozen=True, slots=True)
class _Way:
    """All but the files' paints that a layer depends on."""

    shown: str
    shape: Shape
    flat: bool
    behind: QPixmap | None
    ratio: float
    transform: QTransform


@dataclass(slots=True)
class _Layer:
    """One piece as it was drawn: at a place in device pixels, with what components said."""

    pixmap: QPixmap
    at: QPoint
    drawn_from: dict[str, Paints]

    def stands(self, paints: Mapping[str, Paints]) -> bool:
        """Tell whether drawing the piece anew would draw the same."""
        fresh = ((paints.get(id_, {}), old) for id_, old in self.drawn_from.items())
        return all(new is old or new == old for new, old in fresh)


class Layers:
    """Keeps the pieces of a scene as they were drawn last, each to be drawn again when what it shows has changed."""

    def __init__(self) -> None:
        self._ways: list[tuple[_Way, dict[int, _Layer]]] = []  # the pieces by size and place, the latest first
        self.patience = math.inf  # seconds that drawing pieces anew may take at a time
        self.unfinished = False  # whether pieces are left that are to be drawn anew the next time

    def draw(
        self,
        painter: QPainter,
        paints: Mapping[str, Paints],
        room: QRectF,
        seen: ViewOptions = PLAINLY,
        behind: QPixmap | None = None,
        began: float = 0.0,
    ) -> None:
        """Draw a scene in the painter's units as far as it lies in a room; began: when its turn did, 0 for now.

        When its patience is at an end, but for one piece at least, pieces are laid down as they were, and those not
        drawn yet are left out.
        """
        began, fresh, self.unfinished = began or time.perf_counter(), 0, False
        transform = painter.worldTransform()
        ratio = painter.deviceTransform().m11() / transform.m11()  # that of what is really drawn on
        way = _Way(seen.shown, seen.shape, seen.flat, behind, ratio, transform)
        known = self._known(way)
        to_device = transform * QTransform.fromScale(ratio, ratio)
        within = to_device.mapRect(room).toAlignedRect()
        painter.save()
        painter.setWorldTransform(QTransform())
        for i, piece in enumerate(pieces(seen.shown, seen.shape)):
            target = to_device.mapRect(QRectF(*piece.room)).toAlignedRect() & within
            if target.isEmpty():
                continue
            layer = known.get(i)
            if layer is None or not layer.stands(paints):
                if fresh and time.perf_counter() - began > self.patience:
                    self.unfinished = True
                    if layer is not None:
                        painter.drawPixmap(QPointF(layer.at) / ratio, layer.pixmap)
                    continue
                fresh += 1
                pixmap = layer.pixmap if layer is not None else None
                layer = known[i] = _drawn(piece, paints, target, to_device, way, pixmap)
            painter.drawPixmap(QPointF(layer.at) / ratio, layer.pixmap)
        painter.restore()

    def _known(self, way: _Way) -> dict[int, _Layer]:
        """Return the pieces that were drawn this way: each step of the window has a size of its own for the stage."""
        row = next((row for row in self._ways if row[0] == way), (way, {}))
        self._ways = [row, *(other for other in self._ways if other is not row)][:MOST_WAYS]
        return row[1]


def _drawn(
    piece: ScenePiece,
    paints: Mapping[str, Paints],
    target: QRect,
    to_device: QTransform,
    way: _Way,
    old: QPixmap | None,
) -> _Layer:
    pixmap = old if old is not None else QPixmap(target.size())
    pixmap.setDevicePixelRatio(1.0)  # drawn in its own pixels
    pixmap.fill(Qt.GlobalColor.transparent)
    with painting(pixmap) as inner:
        inner.setRenderHints(QPainter.RenderHint.Antialiasing | QPainter.RenderHint.TextAntialiasing)
        inner.setWorldTransform(to_device * QTransform.fromTranslate(-target.x(), -target.y()))
        brush = Brush(inner, paints, False, way.behind, way.flat)
        configure_brush(brush, way.shown, way.shape)
        piece.draw(brush)
    pixmap.setDevicePixelRatio(way.ratio)
    return _Layer(pixmap, target.topLeft(), {id_: paints.get(id_, {}) for id_ in brush.used})
