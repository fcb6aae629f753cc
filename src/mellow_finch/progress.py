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


_between: list[Callable[[], None]] = []  # what is done between two pieces of work, nothing without a window


def give_way() -> None:
    """Let a window go first, and end what is not wanted any more: called between pieces that take some milliseconds.

    Raises Cancelled, in a thread whose work was stopped.
    """
    for do in _between:
        do()


def between_pieces(do: Callable[[], None], wanted: bool = True) -> None:
    """Let something be done between two pieces of any work, or not any more."""
    if do in _between:
        _between.remove(do)
    if wanted:
        _between.append(do)
