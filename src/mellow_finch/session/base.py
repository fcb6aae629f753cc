"""The running desktop as the program sees it: settings it can read and write, and open terminals."""

from __future__ import annotations

from typing import NamedTuple, Protocol


class Setting(NamedTuple):
    """One setting of the desktop by schema and key, its value as plain text."""

    schema: str
    key: str
    value: str = ""


class Session(Protocol):
    """A desktop that follows changes while it runs."""

    def read(self, setting: Setting) -> str:
        """Return a setting's value, empty when the desktop does not have it."""

    def write(self, setting: Setting) -> None:
        """Set a setting; one that the desktop does not have is passed over."""

    def broadcast(self, sequences: str) -> int:
        """Send escape sequences to every open terminal of the person; return to how many."""
