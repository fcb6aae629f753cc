"""Writing into a folder and nowhere else: every way down is opened step by step, and no link on it is followed."""

from __future__ import annotations

import errno
import os
from collections.abc import Iterator
from contextlib import contextmanager, suppress
from pathlib import Path

from ..errors import FileAccessError, file_errors
from ..language import tr
from .write import temporary_name

_OPEN = os.O_RDONLY | os.O_DIRECTORY | os.O_NOFOLLOW | os.O_CLOEXEC
_MAKE = os.O_WRONLY | os.O_CREAT | os.O_EXCL | os.O_NOFOLLOW | os.O_CLOEXEC


def parts_of(path: str) -> tuple[str, ...]:
    """Return the names of a path below a folder; raises FileAccessError for one that leads out of it."""
    parts = tuple(path.split("/"))
    if not path or "\0" in path or any(p in ("", ".", "..") for p in parts):
        raise FileAccessError(tr("Could not write “{path}”: it leads out of the folder.").format(path=path), Path(path))
    return parts


class Below:
    """A folder that is written into. Raises FileAccessError where a link or something odd is in the way."""

    def __init__(self, folder: Path) -> None:
        with file_errors(folder, "make"):
            folder.mkdir(parents=True, exist_ok=True)
        self._root = folder.resolve()

    @contextmanager
    def _down(self, path: str) -> Iterator[tuple[int, str]]:
        """Open the folder of a path, made where it is not there; give it with the path's own name."""
        *folders, name = parts_of(path)
        handle = os.open(self._root, _OPEN)
        try:
            for folder in folders:
                with suppress(FileExistsError):
                    os.mkdir(folder, dir_fd=handle)
                below = os.open(folder, _OPEN, dir_fd=handle)
                os.close(handle)
                handle = below
            yield handle, name
        except OSError as error:
            if error.errno in (errno.ELOOP, errno.ENOTDIR):
                words = tr("Could not write “{path}”: a link or a file blocks the way.").format(path=path)
                raise FileAccessError(words, self._root / path) from error
            raise
        finally:
            os.close(handle)

    def write(self, path: str, data: bytes, mode: int = 0o644) -> None:
        """Write a file in one step; a link that is there gives way."""
        with file_errors(self._root / path, "write"), self._down(path) as (folder, name):
            fresh = temporary_name()
            handle = os.open(fresh, _MAKE, 0o600, dir_fd=folder)
            try:
                view = memoryview(data)
                while view:
                    view = view[os.write(handle, view) :]
                os.fchmod(handle, mode & 0o777)
                os.rename(fresh, name, src_dir_fd=folder, dst_dir_fd=folder)
            except (Exception, KeyboardInterrupt):
                os.unlink(fresh, dir_fd=folder)
                raise
            finally:
                os.close(handle)

    def link(self, path: str, text: str) -> None:
        """Lay a symbolic link in one step."""
        with file_errors(self._root / path, "write"), self._down(path) as (folder, name):
            fresh = temporary_name()
            os.symlink(text, fresh, dir_fd=folder)
            try:
                os.rename(fresh, name, src_dir_fd=folder, dst_dir_fd=folder)
            except OSError:
                os.unlink(fresh, dir_fd=folder)
                raise
