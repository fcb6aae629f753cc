"""What is dragged from one part of the window to another."""

from __future__ import annotations

from PyQt6.QtCore import QMimeData
from PyQt6.QtGui import QDropEvent

from ...colour.rgb import Rgba
from ...palette.roles import ROLE_BY_ID
from .style import qcolor

ROLE_MIME = "application/x-mellow-finch-role"


def carries_role(event: QDropEvent | None) -> bool:
    """Tell whether a role is being dragged."""
    data = event.mimeData() if event is not None else None
    return data is not None and data.hasFormat(ROLE_MIME)


def dropped_role(event: QDropEvent | None) -> str:
    """Return the role that was dropped, empty when it was something else."""
    data = event.mimeData() if event is not None and carries_role(event) else None
    role = bytes(data.data(ROLE_MIME).data()).decode("ascii", "replace") if data is not None else ""
    return role if role in ROLE_BY_ID else ""


def role_data(role: str, colour: Rgba) -> QMimeData:
    """Return a role as it is dragged: as what it is inside the window, as a colour and as text to other programs."""
    data = QMimeData()
    data.setData(ROLE_MIME, role.encode("ascii"))
    data.setColorData(qcolor(colour))
    data.setText(colour.hex)
    return data
