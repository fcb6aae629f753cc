"""Writing so that an interruption at any moment leaves the old file or the new one, never half of one."""

from __future__ import annotations

import errno
import os
import secrets
import stat
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from pathlib import Path

from ..errors import FileAccessError, file_errors
from ..language import tr
from .facts import Facts, facts_of, give_facts, odd_kind, open_plain

Step = Callable[[str], None]
TEMPORARY = ".finch-"  # what every temporary name begins with


def no_step(_name: str) -> None:
    """Do nothing before a step; tests put a failure here."""


def temporary_name(token: str = "") -> str:
    """Return a short name that nothing has: a token of the work it belongs to, and something random."""
    return f"{TEMPORARY}{token}{'-' if token else ''}{secrets.token_hex(5)}"


@contextmanager
def _folder(path: Path) -> Iterator[int]:
    handle = os.open(path, os.O_RDONLY | os.O_DIRECTORY | os.O_CLOEXEC)
    try:
        yield handle
    finally:
        os.close(handle)


def _fill(handle: int, data: bytes) -> None:
    view = memoryview(data)
    while view:
        view = view[os.write(handle, view) :]


class Disk:
    """The few things that are done to a disk, each announced to `before` so that a test can interrupt there."""

    def __init__(self, before: Step = no_step) -> None:
        self._before = before

    def stage(self, path: Path, data: bytes, facts: Facts | None = None, name: str = "", sync: bool = True) -> str:
        """Write bytes under a temporary name beside a path and return that name; swap puts them in place.

        facts: what the file is to be; without them a new file as the system makes it. Leaves nothing when it fails.
        """
        name = name or temporary_name()
        with file_errors(path, "write"), _folder(path.parent) as folder:
            self._before(f"create {path.name}")
            flags = os.O_WRONLY | os.O_CREAT | os.O_EXCL | os.O_NOFOLLOW | os.O_CLOEXEC
            handle = os.open(name, flags, 0o666 if facts is None else 0o600, dir_fd=folder)
            try:
                self._before(f"fill {path.name}")
                _fill(handle, data)
                if facts is not None:
                    give_facts(handle, facts)
                if sync:
                    os.fsync(handle)
            except (Exception, KeyboardInterrupt):
                os.unlink(name, dir_fd=folder)
                raise
            finally:
                os.close(handle)
        return name

    def swap(self, name: str, path: Path, sync: bool = True) -> None:
        """Put a staged file in the place of the one at a path, in one step."""
        with file_errors(path, "write"), _folder(path.parent) as folder:
            self._before(f"rename to {path.name}")
            os.rename(name, path.name, src_dir_fd=folder, dst_dir_fd=folder)
            if sync:
                os.fsync(folder)
        self._before(f"renamed {path.name}")

    def write(self, path: Path, data: bytes, facts: Facts | None = None, name: str = "", sync: bool = True) -> None:
        """Replace a file atomically: a temporary file beside it, synced, given the facts, renamed over it.

        sync: left out for the many files of a copy, which can be written again.
        """
        staged = self.stage(path, data, facts, name, sync)
        try:
            self.swap(staged, path, sync)
        except (Exception, KeyboardInterrupt):
            path.with_name(staged).unlink(missing_ok=True)
            raise

    def overwrite(self, path: Path, data: bytes) -> None:
        """Write into a file that must stay the same one, because it has other names or another owner. Not atomic."""
        with file_errors(path, "write"):
            self._before(f"open {path.name}")
            handle = os.open(path, os.O_WRONLY | os.O_NOFOLLOW | os.O_NONBLOCK | os.O_CLOEXEC)
            try:
                self._before(f"overwrite {path.name}")
                _fill(handle, data)
                os.ftruncate(handle, len(data))
                os.fsync(handle)
            finally:
                os.close(handle)
            self._before(f"overwrote {path.name}")

    def link(self, path: Path, text: str, name: str = "") -> None:
        """Put a symbolic link in the place of what is at a path, in one step."""
        name = name or temporary_name()
        with file_errors(path, "write"), _folder(path.parent) as folder:
            self._before(f"link {path.name}")
            os.symlink(text, name, dir_fd=folder)
            os.rename(name, path.name, src_dir_fd=folder, dst_dir_fd=folder)
            os.fsync(folder)

    def move(self, source: Path, path: Path) -> None:
        """Move a file of the same file system into the place of another, which needs no room."""
        with file_errors(path, "write"):
            self._before(f"move to {path.name}")
            source.replace(path)

    def rename(self, old: Path, new: Path) -> None:
        """Give a file another name in its folder."""
        with file_errors(new, "write"):
            self._before(f"mark {new.name}")
            old.replace(new)
            self.sync(new.parent)
            self._before(f"marked {new.name}")

    def remove(self, path: Path) -> None:
        """Remove a file; one that is not there is no fault."""
        with file_errors(path, "remove"):
            self._before(f"remove {path.name}")
            try:
                path.unlink(missing_ok=True)
            except NotADirectoryError:
                return

    def make_folder(self, path: Path, mode: int = 0o777) -> None:
        """Make one folder; one that is there is no fault."""
        with file_errors(path, "make"):
            self._before(f"make {path.name}")
            path.mkdir(mode, exist_ok=True)

    def remove_folder(self, path: Path) -> None:
        """Remove a folder if it is empty; otherwise leave it."""
        self._before(f"remove folder {path.name}")
        try:
            path.rmdir()
        except OSError:
            return

    @staticmethod
    def sync(folder: Path) -> None:
        """Let what was renamed in a folder reach the disk."""
        with file_errors(folder, "write"), _folder(folder) as handle:
            os.fsync(handle)


def missing_folders(path: Path) -> list[Path]:
    """Return the folders above a path that do not exist, outermost first."""
    found: list[Path] = []
    folder = path.parent
    while not folder.exists():
        found.append(folder)
        folder = folder.parent
    return found[::-1]


def stays_same_file(state: os.stat_result) -> bool:
    """Tell whether a file must be written into rather than replaced: it has other names, or an owner we cannot give."""
    own = os.geteuid()
    foreign = own != 0 and (state.st_uid != own or state.st_gid not in (os.getegid(), *os.getgroups()))
    return state.st_nlink > 1 or foreign


def save(path: Path, data: bytes, sync: bool = True) -> None:
    """Write a file that a person asked for, its folder made where it is not there yet.

    One that exists keeps its mode, owner and other names; a link stays a link. Raises FileAccessError, also for what is
    no plain file.
    """
    with file_errors(path, "write"):
        try:
            target = path.resolve()
        except RuntimeError as error:
            words = tr("Could not write “{path}”: it is a link that points to itself.").format(path=path)
            raise FileAccessError(words, path) from error
        target.parent.mkdir(parents=True, exist_ok=True)
        try:
            state = target.lstat()
        except FileNotFoundError:
            Disk().write(target, data, sync=sync)
            return
        if odd := odd_kind(state.st_mode):
            raise FileAccessError(tr("Could not write “{path}”: it is {odd}.").format(path=path, odd=odd), path)
        if stays_same_file(state):
            Disk().overwrite(target, data)
            return
        if not os.access(target, os.W_OK):
            raise OSError(errno.EACCES, os.strerror(errno.EACCES))
        Disk().write(target, data, _facts_at(target, state), sync=sync)


def _facts_at(path: Path, state: os.stat_result) -> Facts:
    try:
        handle = open_plain(path)
    except FileAccessError:  # written to, never read
        handle = None
    if handle is None:
        return Facts(stat.S_IMODE(state.st_mode), state.st_uid, state.st_gid)
    try:
        return facts_of(handle)
    finally:
        os.close(handle)
