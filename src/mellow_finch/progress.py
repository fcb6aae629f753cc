"""How long work tells how far it is; knows no window."""

from __future__ import annotations

from typing import Protocol


class Progress(Protocol):
    """Told now and then by long work; may raise Cancelled to stop it."""

    def report(self, done: int, total: int, note: str) -> None:
        """Say that done of total steps are finished."""


class Silent:
    """Progress that nobody watches."""

    def report(self, done: int, total: int, note: str) -> None:
        """Do nothing."""
