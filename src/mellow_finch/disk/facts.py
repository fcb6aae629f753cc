"""What a file is besides its bytes, and what else can lie at a path. Opens nothing but plain files."""

from __future__ import annotations

import errno
import os
import stat
from dataclasses import dataclass
from pathlib import Path

from ..errors import FileAccessError, file_errors
from ..language import tr

MOST_BYTES = 64 * 2**20  # no configuration, sheet or picture of a theme comes near
_MUST_STAY = ("user.", "system.posix_acl")  # other attributes belong to the system, which sets them by itself

_KINDS: tuple[tuple[int, str], ...] = (
    (stat.S_IFDIR, tr("a folder")),
    (stat.S_IFIFO, tr("a pipe")),
    (stat.S_IFSOCK, tr("a socket")),
    (stat.S_IFCHR, tr("a device")),
    (stat.S_IFBLK, tr("a device")),
    (stat.S_IFLNK, tr("a broken link")),
)


@dataclass(frozen=True, slots=True)
class Facts:
    """Permission bits, owner, group and extended attributes of a file; -1 for an owner that is not known."""

    mode: int
    uid: int = -1
    gid: int = -1
    attributes: tuple[tuple[str, bytes], ...] = ()


def odd_kind(mode: int) -> str:
    """Return what something is that is no plain file, in words; empty for a plain file. mode: as stat gives it."""
    return next((words for kind, words in _KINDS if stat.S_IFMT(mode) == kind), "")


def _attributes(handle: int) -> tuple[tuple[str, bytes], ...]:
    try:
        return tuple((name, os.getxattr(handle, name)) for name in sorted(os.listxattr(handle)))
    except OSError:
        return ()  # a file system without attributes


def facts_of(handle: int) -> Facts:
    """Return the facts of an open file."""
    state = os.fstat(handle)
    return Facts(stat.S_IMODE(state.st_mode), state.st_uid, state.st_gid, _attributes(handle))


def give_facts(handle: int, facts: Facts) -> None:
    """Give an open file the facts of another one.

    Raises OSError when owner, mode or an attribute that people and programs set cannot be given.
    """
    state = os.fstat(handle)
    owner = (facts.uid if facts.uid >= 0 else state.st_uid, facts.gid if facts.gid >= 0 else state.st_gid)
    if owner != (state.st_uid, state.st_gid):
        os.fchown(handle, *owner)
    os.fchmod(handle, facts.mode)
    for name, value in facts.attributes:
        try:
            os.setxattr(handle, name, value)
        except OSError:
            if name.startswith(_MUST_STAY):
                raise


def open_plain(path: Path, follow: bool = True) -> int | None:
    """Return a handle to read a plain file, None when nothing is there. Never waits; follow: whether links are.

    Raises FileAccessError for a pipe, a device, a folder and the like, and for what may not be read.
    """
    if "\0" in str(path):
        return None  # such a name can stand in a file, and nothing on a disk can have it
    with file_errors(path, "read"):
        try:
            state = path.stat(follow_symlinks=follow)
        except (FileNotFoundError, NotADirectoryError):
            return None
        odd = odd_kind(state.st_mode)
        if odd:
            raise FileAccessError(tr("Could not read “{path}”: it is {odd}.").format(path=path, odd=odd), path)
        flags = os.O_RDONLY | os.O_NONBLOCK | os.O_NOCTTY | os.O_CLOEXEC | (0 if follow else os.O_NOFOLLOW)
        handle = os.open(path, flags)
    if not stat.S_ISREG(os.fstat(handle).st_mode):
        os.close(handle)
        raise FileAccessError(tr("Could not read “{path}”: it is not a regular file.").format(path=path), path)
    return handle


def all_bytes(handle: int, path: Path, most: int = MOST_BYTES) -> bytes:
    """Return what is in an open file; raises FileAccessError when that is too much."""
    with file_errors(path, "read"):
        if os.fstat(handle).st_size > most:
            raise FileAccessError(tr("Could not read “{path}”: it is too large.").format(path=path), path)
        parts: list[bytes] = []
        size = 0
        while part := os.read(handle, 2**20):
            parts.append(part)
            size += len(part)
            if size > most:
                raise FileAccessError(tr("Could not read “{path}”: it is too large.").format(path=path), path)
    return b"".join(parts)


def read_plain(path: Path, most: int = MOST_BYTES, follow: bool = True) -> bytes | None:
    """Return the bytes of a plain file, None when nothing is there.

    Raises FileAccessError as open_plain does, and for one that is larger than `most` bytes.
    """
    handle = open_plain(path, follow)
    if handle is None:
        return None
    try:
        return all_bytes(handle, path, most)
    finally:
        os.close(handle)


def must_open(path: Path) -> int:
    """Return a handle to read a plain file that has to be there; raises FileAccessError."""
    handle = open_plain(path)
    if handle is None:
        raise FileAccessError(tr("Could not open “{path}”: there is no such file.").format(path=path), path)
    return handle


def must_read(path: Path, most: int = MOST_BYTES) -> bytes:
    """Return the bytes of a plain file that has to be there; raises FileAccessError."""
    handle = must_open(path)
    try:
        return all_bytes(handle, path, most)
    finally:
        os.close(handle)


def first_bytes(path: Path, count: int) -> bytes:
    """Return how a plain file begins; raises FileAccessError when it is not there or cannot be read."""
    handle = must_open(path)
    try:
        with file_errors(path, "read"):
            return os.read(handle, count)
    finally:
        os.close(handle)


def no_room(error: BaseException | None) -> bool:
    """Tell whether an error, or the one it came from, says that a disk or a quota is full."""
    while error is not None:
        if isinstance(error, OSError) and error.errno in (errno.ENOSPC, errno.EDQUOT):
            return True
        error = error.__cause__
    return False
