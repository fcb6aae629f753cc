"""What is dragged from one part of the window to another."""

from __future__ import annotations

from PyQt6.QtGui import QDropEvent

from ...palette.roles import ROLE_BY_ID

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
