"""Colours that are dragged: from one part of the window to another, out to other programs, and in from them."""

from __future__ import annotations

from PyQt6.QtCore import QMimeData, QPointF, QSize, Qt
from PyQt6.QtGui import QColor, QDrag, QDropEvent, QMouseEvent, QPixmap
from PyQt6.QtWidgets import QApplication, QWidget

from ...colour.rgb import Rgba
from ...palette.roles import ROLE_BY_ID
from ...syntax.typed import read_typed
from .style import qcolor

ROLE_MIME = "application/x-mellow-finch-role"
_CHIP = QSize(34, 26)
_MOST_TYPED = 200  # letters that a colour takes at most


def colour_in(data: QMimeData | None) -> Rgba | None:
    """Return the colour that is carried, as text or as a colour; None where none is."""
    if data is None:
        return None
    if data.hasText():
        try:
            return read_typed(data.text()[:_MOST_TYPED].strip())
        except ValueError:
            pass
    found: object = data.colorData() if data.hasColor() else None
    colour = QColor(found) if isinstance(found, QColor) else QColor()
    return Rgba(colour.red(), colour.green(), colour.blue()) if colour.isValid() else None


def carries_colour(event: QDropEvent | None) -> bool:
    """Tell whether a role or a colour is being dragged."""
    data = event.mimeData() if event is not None else None
    return data is not None and (data.hasFormat(ROLE_MIME) or colour_in(data) is not None)


def dropped_choice(event: QDropEvent | None) -> str:
    """Return the role that was dropped, or the colour in hex; empty when it was something else."""
    data = event.mimeData() if event is not None else None
    if data is None:
        return ""
    role = bytes(data.data(ROLE_MIME).data()).decode("ascii", "replace")
    if role in ROLE_BY_ID:
        return role
    colour = colour_in(data)
    return colour.opaque.hex if colour is not None else ""


def colour_data(colour: Rgba, role: str = "") -> QMimeData:
    """Return a colour as it is dragged: as a colour and as text to other programs, as a role inside the window."""
    data = QMimeData()
    if role:
        data.setData(ROLE_MIME, role.encode("ascii"))
    data.setColorData(qcolor(colour.opaque))
    data.setText(colour.hex)
    return data


def begins_drag(event: QMouseEvent | None, held: QPointF | None) -> bool:
    """Tell whether a pressed pointer has gone far enough from where it took hold to be dragging."""
    if event is None or held is None or not event.buttons() & Qt.MouseButton.LeftButton:
        return False
    return (event.position() - held).manhattanLength() >= QApplication.startDragDistance()


def drag(source: QWidget, data: QMimeData, colour: Rgba) -> None:
    """Drag a colour off a widget until it is dropped somewhere."""
    made = QDrag(source)
    made.setMimeData(data)
    chip = QPixmap(_CHIP)
    chip.fill(qcolor(colour))
    made.setPixmap(chip)
    made.exec(Qt.DropAction.CopyAction)
