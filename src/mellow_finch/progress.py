"""How long work tells how far it is; knows no window."""

from __future__ import annotations

from collections.abc import Callable
from typing import Protocol


class Progress(Protocol):
    """Told now and then by long work; may raise Cancelled to stop it."""

    def report(self, done: int, total: int, note: str) -> None:
        """Say that done of total steps are finished."""


class Silent:
    """Progress that nobody watches."""

    def report(self, done: int, total: int, note: str) -> None:
        """Do nothing."""


_wait: list[Callable[[], None]] = []  # what lets the pieces of work wait, none without a window


def give_way() -> None:
    """Let a window go first: called by long work between two pieces that take some milliseconds each."""
    for wait in _wait:
        wait()


def let_work_wait(wait: Callable[[], None] | None) -> None:
    """Say how work waits while a window is busy, None for not at all."""
    _wait[:] = [wait] if wait is not None else []
