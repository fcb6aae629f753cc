"""Settings that a program keeps in a file of its own and takes through a command of its own."""

from __future__ import annotations

from collections.abc import Sequence
from pathlib import Path

from ..base import ABSENT, Reading
from ..commands import ask
from ..processes import own_processes
from .keyfile import KeyFiles


class ToldProgram:
    """Read from the file in which the program keeps it, written by telling the running program.

    program: the executable that has to run; command: the words that set it, {value} and {kind} replaced.
    """

    def __init__(self, home: Path, program: str, command: Sequence[str]) -> None:
        self._files, self._program, self._command = KeyFiles(home), program, tuple(command)

    def read(self, schema: str, key: str) -> Reading:
        """Return what the program keeps; absent where it does not run."""
        return self._files.read(schema, key) if own_processes((self._program,)) else ABSENT

    def write(self, _schema: str, _key: str, value: str, kind: str) -> None:
        """Tell the program."""
        ask([word.replace("{value}", value).replace("{kind}", kind) for word in self._command])

    def reset(self, schema: str, key: str, kind: str) -> None:
        """Do nothing: what such a program was never told it cannot be told to forget."""

    def keys(self, schema: str, pattern: str) -> list[str]:
        """Return the keys that match."""
        return self._files.keys(schema, pattern)
