"""Errors a person can cause, each a sentence for that person.

FinchError
├ PictureError         a picture that cannot be read
├ ParseError           a file whose content cannot be understood (line, column)
├ FileAccessError      a file that cannot be read or written (path)
├ UnsafeArchiveError   an archive or folder that must not be unpacked, or cannot be
├ ImpossibleLocksError locked colours that leave no readable solution
├ WearError            a look that cannot be applied or undone as things stand
├ OwnFaultError        a fault of the program itself, said so that what waited for it goes on
└ Cancelled            the person stopped the work
"""

from __future__ import annotations

import errno
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path
from typing import Literal

from .language import tr


class FinchError(Exception):
    """Something the person can mend; str() is one sentence, hint says what to do next."""

    code = "error"

    def __init__(self, message: str, hint: str = "") -> None:
        super().__init__(message)
        self.hint = hint

    def line(self) -> str:
        """Return message and hint on one line."""
        text = f"{self} {self.hint}".strip()
        return " ".join(text.split())


class PictureError(FinchError):
    """A picture that cannot be read."""

    code = "picture"


class ParseError(FinchError):
    """Content that cannot be understood; line and column count from 1, 0 when unknown."""

    code = "parse"

    def __init__(self, message: str, line: int = 0, column: int = 0, hint: str = "") -> None:
        super().__init__(message, hint)
        self.line_number = line
        self.column = column


class FileAccessError(FinchError):
    """A file that cannot be read or written."""

    code = "file"

    def __init__(self, message: str, path: Path, hint: str = "") -> None:
        super().__init__(message, hint)
        self.path = path


class UnsafeArchiveError(FinchError):
    """An archive that is damaged, too large, or would write outside of its folder."""

    code = "archive"


class ImpossibleLocksError(FinchError):
    """Locked roles between which no readable solution exists."""

    code = "locks"

    def __init__(self, message: str, roles: tuple[str, ...], hint: str = "") -> None:
        super().__init__(message, hint)
        self.roles = roles


class WearError(FinchError):
    """A look that cannot be applied or undone as things stand.

    edited: files that the person changed since; damaged: files whose kept bytes cannot be put back.
    """

    code = "wear"

    def __init__(
        self, message: str, hint: str = "", edited: tuple[str, ...] = (), damaged: tuple[str, ...] = ()
    ) -> None:
        super().__init__(message, hint)
        self.edited = edited
        self.damaged = damaged


class OwnFaultError(FinchError):
    """A fault of the program itself and nobody's mistake: told so that whoever waits knows that the work ended."""

    code = "fault"

    def __init__(self, error: BaseException) -> None:
        super().__init__(
            tr("Mellow Finch ran into an internal error: {kind}.").format(kind=type(error).__name__),
            tr("“Save a fault report…” in the menu saves the details."),
        )


class Cancelled(FinchError):  # noqa: N818 - not a fault, and read as a word
    """The person stopped the work."""

    code = "cancelled"


def line_of(error: BaseException) -> str:
    """Return what is told of an error in one line: what is wrong and, where that is known, what to do."""
    return error.line() if isinstance(error, FinchError) else str(error)


def shown(text: str) -> str:
    """Return a text with its control characters spelled out, so that terminals and labels show them and do not obey.

    Isolates that our own texts put around what reads the other way stay, as long as each that is opened is closed.
    """
    closed = sum(c in "\u2066\u2067\u2068" for c in text) == text.count("\u2069")
    plain = "\n\t\u00a0\u202f\u200e\u200f" + ("\u2066\u2067\u2068\u2069" if closed else "")
    return "".join(c if c.isprintable() or c in plain else c.encode("unicode_escape").decode() for c in text)


_NUMBERS: dict[int, str] = {
    errno.ENOSPC: tr("the disk is full"),
    errno.EDQUOT: tr("your disk quota is full"),
    errno.EROFS: tr("the disk is read-only"),
    errno.ENAMETOOLONG: tr("its name is too long"),
    errno.ELOOP: tr("it is a link that points to itself"),
    errno.EIO: tr("the disk reports an error"),
    errno.ENXIO: tr("nothing reads the other end"),
}
_REASONS: tuple[tuple[type[OSError], str], ...] = (
    (FileNotFoundError, tr("there is no such file")),
    (PermissionError, tr("you do not have permission")),
    (IsADirectoryError, tr("it is a folder")),
    (NotADirectoryError, tr("a part of its path is not a folder")),
    (FileExistsError, tr("it already exists")),
)


def os_reason(error: OSError) -> str:
    """Return why the system refused, in words."""
    if error.errno in _NUMBERS:
        return _NUMBERS[error.errno]
    for kind, words in _REASONS:
        if isinstance(error, kind):
            return words
    return (error.strerror or tr("the system refused")).lower()


FileWork = Literal["open", "read", "write", "make", "remove", "follow"]

_FAILED: dict[FileWork, str] = {
    "open": tr("Could not open “{path}”: {reason}."),
    "read": tr("Could not read “{path}”: {reason}."),
    "write": tr("Could not write “{path}”: {reason}."),
    "make": tr("Could not create the folder “{path}”: {reason}."),
    "remove": tr("Could not remove “{path}”: {reason}."),
    "follow": tr("Could not follow the link “{path}”: {reason}."),
}


@contextmanager
def file_errors(path: Path, work: FileWork) -> Iterator[None]:
    """Turn OSError and UnicodeError inside the block into FileAccessError, a sentence that says what failed and why."""
    try:
        yield
    except (OSError, UnicodeError) as error:
        reason = os_reason(error) if isinstance(error, OSError) else tr("it is not UTF-8 text")
        raise FileAccessError(_FAILED[work].format(path=path, reason=reason), path) from error
