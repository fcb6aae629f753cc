"""The program's own icons, drawn as paths on a 24-unit square so that they are crisp at any size."""

from __future__ import annotations

from collections.abc import Callable

from PyQt6.QtCore import QPointF, QRectF, Qt
from PyQt6.QtGui import QColor, QIcon, QPainter, QPainterPath, QPen, QPixmap

from ...language import right_to_left

Draw = Callable[[QPainterPath], None]


def _gather(p: QPainterPath) -> None:
    p.addRoundedRect(QRectF(3, 5, 13, 13), 2, 2)
    p.moveTo(3.5, 15)
    p.lineTo(8, 10.5)
    p.lineTo(12, 14.5)
    p.moveTo(19, 10)
    p.cubicTo(22, 14, 22.5, 15.5, 22, 17)
    p.cubicTo(21.3, 19.6, 16.7, 19.6, 16, 17)
    p.cubicTo(15.5, 15.5, 16, 14, 19, 10)


def _tune(p: QPainterPath) -> None:
    for y, x in ((6, 15), (12, 8), (18, 17)):
        p.moveTo(3, y)
        p.lineTo(x - 2.6, y)
        p.addEllipse(QPointF(x, y), 2.6, 2.6)
        p.moveTo(x + 2.6, y)
        p.lineTo(21, y)


def _dress(p: QPainterPath) -> None:
    p.moveTo(10, 6.5)
    p.cubicTo(9.5, 3, 14.5, 3, 14, 6)
    p.cubicTo(13.8, 7.6, 12, 7.4, 12, 9.5)
    p.lineTo(21, 16.5)
    p.lineTo(20, 18.5)
    p.lineTo(4, 18.5)
    p.lineTo(3, 16.5)
    p.lineTo(12, 9.5)


def _proof(p: QPainterPath) -> None:
    p.moveTo(2, 12)
    p.cubicTo(7, 4.5, 17, 4.5, 22, 12)
    p.cubicTo(17, 19.5, 7, 19.5, 2, 12)
    p.addEllipse(QPointF(12, 12), 3.2, 3.2)


def _wear(p: QPainterPath) -> None:
    p.addRoundedRect(QRectF(3, 4, 18, 13), 2, 2)
    p.moveTo(8, 21)
    p.lineTo(16, 21)
    p.moveTo(8, 10.5)
    p.lineTo(11, 13.5)
    p.lineTo(16.5, 7.5)


def _undo(p: QPainterPath) -> None:
    p.moveTo(9, 5)
    p.lineTo(4, 10)
    p.lineTo(9, 15)
    p.moveTo(4, 10)
    p.lineTo(14, 10)
    p.cubicTo(22, 10, 22, 20, 14, 20)
    p.lineTo(11, 20)


def _redo(p: QPainterPath) -> None:
    p.moveTo(15, 5)
    p.lineTo(20, 10)
    p.lineTo(15, 15)
    p.moveTo(20, 10)
    p.lineTo(10, 10)
    p.cubicTo(2, 10, 2, 20, 10, 20)
    p.lineTo(13, 20)


def _pipette(p: QPainterPath) -> None:
    p.moveTo(3.5, 20.5)
    p.lineTo(5, 16)
    p.lineTo(13, 8)
    p.lineTo(16, 11)
    p.lineTo(8, 19)
    p.lineTo(3.5, 20.5)
    p.moveTo(12, 6.5)
    p.lineTo(17.5, 12)
    p.moveTo(14, 8)
    p.cubicTo(17, 2, 23, 6, 17, 10.5)


def _lock(p: QPainterPath) -> None:
    p.addRoundedRect(QRectF(5, 11, 14, 9), 2, 2)
    p.moveTo(8, 11)
    p.cubicTo(7.5, 2.5, 16.5, 2.5, 16, 11)


def _open(p: QPainterPath) -> None:
    p.moveTo(3, 19)
    p.lineTo(3, 6)
    p.lineTo(9, 6)
    p.lineTo(11, 8.5)
    p.lineTo(20, 8.5)
    p.lineTo(20, 11)
    p.moveTo(3, 19)
    p.lineTo(6.5, 11)
    p.lineTo(22.5, 11)
    p.lineTo(19, 19)
    p.lineTo(3, 19)


def _save(p: QPainterPath) -> None:
    p.moveTo(12, 3)
    p.lineTo(12, 14)
    p.moveTo(7.5, 10)
    p.lineTo(12, 14.5)
    p.lineTo(16.5, 10)
    p.moveTo(4, 16)
    p.lineTo(4, 20)
    p.lineTo(20, 20)
    p.lineTo(20, 16)


def _compare(p: QPainterPath) -> None:
    p.addRoundedRect(QRectF(3, 5, 18, 14), 2, 2)
    p.moveTo(12, 2.5)
    p.lineTo(12, 21.5)
    p.moveTo(9, 9.5)
    p.lineTo(6.5, 12)
    p.lineTo(9, 14.5)
    p.moveTo(15, 9.5)
    p.lineTo(17.5, 12)
    p.lineTo(15, 14.5)


def _steps(p: QPainterPath) -> None:
    for i, x in enumerate((3.0, 8.5, 14.0)):
        p.addRoundedRect(QRectF(x, 14 - 4.5 * i, 7, 6), 1.5, 1.5)
    p.moveTo(3, 21.5)
    p.lineTo(21, 21.5)


SHAPES: dict[str, Draw] = {
    "gather": _gather,
    "tune": _tune,
    "dress": _dress,
    "proof": _proof,
    "wear": _wear,
    "undo": _undo,
    "redo": _redo,
    "pipette": _pipette,
    "lock": _lock,
    "open": _open,
    "save": _save,
    "compare": _compare,
    "steps": _steps,
}


def _back(path: QPainterPath) -> None:
    path.moveTo(14.5, 5)
    path.lineTo(7.5, 12)
    path.lineTo(14.5, 19)


def _down(p: QPainterPath) -> None:
    p.moveTo(4, 8)
    p.lineTo(12, 16)
    p.lineTo(20, 8)


def _tick(p: QPainterPath) -> None:
    p.moveTo(4, 13)
    p.lineTo(10, 19)
    p.lineTo(20, 6)


def _find(p: QPainterPath) -> None:
    p.addEllipse(QPointF(10, 10), 6.5, 6.5)
    p.moveTo(14.8, 14.8)
    p.lineTo(21, 21)


def _menu(p: QPainterPath) -> None:
    for y in (6, 12, 18):
        p.moveTo(4, y)
        p.lineTo(20, y)


def _before(p: QPainterPath) -> None:
    p.addEllipse(QPointF(12, 12), 8.5, 8.5)
    p.moveTo(12, 7)
    p.lineTo(12, 12)
    p.lineTo(8.6, 14.6)


SHAPES["find"] = _find
SHAPES["menu"] = _menu
SHAPES["before"] = _before
SHAPES["down"] = _down
SHAPES["tick"] = _tick
SHAPES["back"] = _back


_ONWARD = ("undo", "redo", "back")  # these tell a direction along the line, so that they turn round with it


def draw_icon(painter: QPainter, name: str, rect: QRectF, colour: QColor, width: float = 1.7) -> None:
    """Draw an icon into a rectangle; width: of its lines, in 24ths of the rectangle."""
    path = QPainterPath()
    SHAPES[name](path)
    painter.save()
    painter.setRenderHint(QPainter.RenderHint.Antialiasing)
    painter.translate(rect.topLeft())
    painter.scale(rect.width() / 24, rect.height() / 24)
    if name in _ONWARD and right_to_left():
        painter.translate(24, 0)
        painter.scale(-1, 1)
    pen = QPen(colour, width)
    pen.setCapStyle(Qt.PenCapStyle.RoundCap)
    pen.setJoinStyle(Qt.PenJoinStyle.RoundJoin)
    painter.setPen(pen)
    painter.drawPath(path)
    painter.restore()


def icon(name: str, colour: QColor, disabled: QColor) -> QIcon:
    """Return an icon for buttons, with its disabled form."""
    result = QIcon()
    for mode, ink in ((QIcon.Mode.Normal, colour), (QIcon.Mode.Disabled, disabled)):
        for scale in (1, 2):
            pixmap = QPixmap(20 * scale, 20 * scale)
            pixmap.setDevicePixelRatio(scale)
            pixmap.fill(Qt.GlobalColor.transparent)
            painter = QPainter(pixmap)
            draw_icon(painter, name, QRectF(0, 0, 20, 20), ink)
            painter.end()
            result.addPixmap(pixmap, mode)
    return result
