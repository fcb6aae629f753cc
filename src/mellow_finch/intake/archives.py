"""Archives unpacked into memory: told by their first bytes, held to a budget, every fault a sentence."""

from __future__ import annotations

import io
import lzma
import os
import re
import stat
import struct
import sys
import tarfile
import zipfile
import zlib
from collections.abc import Callable, Iterator
from dataclasses import dataclass, field
from pathlib import Path, PurePosixPath
from typing import Any, BinaryIO, NamedTuple

from ..errors import FinchError, UnsafeArchiveError, file_errors
from ..language import tr
from .budget import MOST_BYTES, MOST_FILE, MOST_FILES, Budget
from .worker import WorkerLostError, ask

_SEVEN_ZIP = "mellow_finch.intake.seven_zip"
_SEVEN_ZIP_S = 20.0
_MOST_HEADER = 1_000_000  # of one header that carries names
_IGNORED = re.compile(r"(?:^|/)(?:__MACOSX|\.git|\.svn|\.DS_Store|Thumbs\.db)(?:/|$)")
# What the standard library's readers of archives raise for damaged ones.
_FOREIGN: tuple[type[Exception], ...] = (
    tarfile.TarError, zipfile.BadZipFile, lzma.LZMAError, zlib.error, struct.error, EOFError, ValueError, KeyError,
    IndexError, NotImplementedError, RuntimeError, OverflowError, MemoryError, AttributeError, TypeError,
)  # fmt: skip


@dataclass(frozen=True, slots=True)
class ArchiveEntry:
    """One file. load: gives its bytes; mode: its permissions; link: where it points when it is a symbolic link."""

    path: str
    load: Callable[[], bytes] = field(repr=False)
    mode: int = 0o644
    link: str = ""


def archive_kind(head: bytes) -> str:
    """Return the kind of an archive by its first 512 bytes, empty when it is none."""
    rows = ((row, at, mark) for row in ARCHIVES for at, mark in row.marks)
    return next((row.id for row, at, mark in rows if head[at : at + len(mark)] == mark), "")


def passed_over(name: str) -> bool:
    """Tell whether something is what systems and tools leave in folders rather than a part of a theme."""
    return bool(_IGNORED.search(name))


def unpacked(handle: int, kind: str, path: Path, budget: Budget) -> dict[str, ArchiveEntry]:
    """Return the files of an archive that is open, by path from its root.

    Raises UnsafeArchiveError for what is damaged, too much, or would lead out.
    """
    damaged = tr("“{name}” is damaged or is not a readable archive.").format(name=path.name)
    with file_errors(path, "open"), os.fdopen(handle, "rb") as stream:
        try:
            entries = {e.path: e for e in _BY_ID[kind].read(stream, budget)}
        except WorkerLostError as error:
            raise UnsafeArchiveError(damaged) from error
        except FinchError:
            raise
        except OSError as error:
            if error.errno is None or isinstance(error, UnicodeError):  # of the reader rather than of the system
                raise UnsafeArchiveError(damaged) from error
            raise
        except (*_FOREIGN, _zstd_error()) as error:
            raise UnsafeArchiveError(damaged) from error
    if not entries:
        raise UnsafeArchiveError(tr("“{name}” contains no files.").format(name=path.name))
    links = {e.path for e in entries.values() if e.link}
    for entry in entries.values() if links else ():
        if any(str(parent) in links for parent in PurePosixPath(entry.path).parents):
            raise UnsafeArchiveError(
                tr("“{name}” contains “{path}” behind one of its own links; nothing was unpacked.").format(
                    name=path.name, path=entry.path
                )
            )
    return entries


def zstandard() -> Any:
    """Return the module that reads and writes Zstandard: Python's own where it has one, else its backport."""
    if sys.version_info >= (3, 14):
        from compression import zstd
    else:
        from backports import zstd
    return zstd


def _zstd_error() -> type[Exception]:
    error: type[Exception] = zstandard().ZstdError
    return error


def _held(name: str, data: bytes, mode: int = 0) -> ArchiveEntry:
    return ArchiveEntry(name, lambda: data, (mode & 0o777) or 0o644)


class _TarInfo(tarfile.TarInfo):
    """A member whose headers for long names and further facts are bounded."""

    def _proc_member(self, archive: tarfile.TarFile) -> Any:
        extended = (tarfile.XHDTYPE, tarfile.XGLTYPE, tarfile.GNUTYPE_LONGNAME, tarfile.GNUTYPE_LONGLINK, b"X")
        if self.type in extended and self.size > _MOST_HEADER:
            raise tarfile.ReadError("a header is too large")
        return super()._proc_member(archive)  # type: ignore[misc]


def _tar(stream: Any, budget: Budget, mode: str = "r|*") -> Iterator[ArchiveEntry]:
    whole: dict[str, ArchiveEntry] = {}
    with tarfile.open(fileobj=stream, mode=mode, tarinfo=_TarInfo) as archive:  # type: ignore[call-overload]
        for member in archive:
            name = budget.entry(member.name)
            if member.isdir() or name == "." or passed_over(name):
                continue
            if member.issym():
                budget.link(name, member.linkname)
                yield ArchiveEntry(name, lambda: b"", 0o777, member.linkname)
            elif member.islnk():
                other = budget.entry(member.linkname)
                if other in whole:
                    yield ArchiveEntry(name, whole[other].load, whole[other].mode)
            elif member.isfile():
                budget.take(member.size)
                source = archive.extractfile(member)
                entry = _held(name, source.read() if source is not None else b"", member.mode)
                whole[name] = entry
                yield entry
            else:
                raise UnsafeArchiveError(
                    tr("“{archive}” contains “{file}”, which is neither a file nor a folder.").format(
                        archive=budget.name, file=name
                    )
                )


def _zst(stream: BinaryIO, budget: Budget) -> Iterator[ArchiveEntry]:
    with zstandard().ZstdFile(stream) as plain:
        yield from _tar(plain, budget, "r|")


def _zip(stream: BinaryIO, budget: Budget) -> Iterator[ArchiveEntry]:
    with zipfile.ZipFile(stream) as archive:
        for info in archive.infolist():
            name = budget.entry(info.filename)
            if info.is_dir() or passed_over(name):
                continue
            mode = info.external_attr >> 16
            budget.take(info.file_size)
            if info.flag_bits & 1:
                raise UnsafeArchiveError(tr("“{name}” is protected by a password.").format(name=budget.name))
            with archive.open(info) as source:
                data = source.read(info.file_size + 1)
            if len(data) > info.file_size:
                raise UnsafeArchiveError(
                    tr("“{name}” declares less than it contains; refused.").format(name=budget.name)
                )
            if stat.S_ISLNK(mode):
                target = data.decode("utf-8", "replace")
                budget.link(name, target)
                yield ArchiveEntry(name, lambda: b"", 0o777, target)
            else:
                yield _held(name, data, mode)


def _7z(stream: BinaryIO, budget: Budget) -> Iterator[ArchiveEntry]:
    """Read a 7z archive, which a process of its own unpacks."""
    wanted = {"entries": MOST_FILES, "bytes": MOST_BYTES}
    head, data = ask(_SEVEN_ZIP, wanted, handles=[stream.fileno()], seconds=_SEVEN_ZIP_S)
    says = {
        "locked": tr("is protected by a password."),
        "links": tr("contains links, which are not followed in archives of this kind."),
        "large": tr("unpacks to more than the size allowed for a theme."),
    }
    if "files" not in head:
        found = says.get(head.get("problem", ""), tr("is damaged or is not a readable archive."))
        raise UnsafeArchiveError(f"“{budget.name}” {found}")
    at = 0
    for raw, size in head["files"]:
        name = budget.entry(raw)
        budget.take(size)
        if not passed_over(name):
            yield _held(name, bytes(data[at : at + size]))
        at += size


class ArchiveFormat(NamedTuple):
    """A kind of archive: its id, what files of it end in, what stands in it from which byte on, and its reader."""

    id: str
    suffixes: tuple[str, ...]
    marks: tuple[tuple[int, bytes], ...]
    read: Callable[[Any, Budget], Iterator[ArchiveEntry]]


_COMPRESSED = ((0, b"\x1f\x8b"), (0, b"BZh"), (0, b"\xfd7zXZ\x00"))
_TAR_SUFFIXES = (".tar", ".tar.gz", ".tgz", ".tar.xz", ".tar.bz2", ".obt")
ARCHIVES: tuple[ArchiveFormat, ...] = (
    ArchiveFormat("zip", (".zip",), ((0, b"PK\x03\x04"), (0, b"PK\x05\x06")), _zip),
    ArchiveFormat("7z", (".7z",), ((0, b"7z\xbc\xaf\x27\x1c"),), _7z),
    ArchiveFormat("tar", _TAR_SUFFIXES, (*_COMPRESSED, (257, b"ustar")), _tar),
    ArchiveFormat("zst", (".tar.zst",), ((0, b"\x28\xb5\x2f\xfd"),), _zst),
)
_BY_ID = {row.id: row for row in ARCHIVES}


def gunzipped(data: bytes, budget: Budget) -> bytes:
    """Return what a gzip member holds; raises UnsafeArchiveError when it is damaged or too large."""
    import gzip

    try:
        with gzip.GzipFile(fileobj=io.BytesIO(data)) as stream:
            out = stream.read(MOST_FILE + 1)
    except (OSError, EOFError, zlib.error) as error:
        raise UnsafeArchiveError(tr("A compressed drawing is damaged.")) from error
    budget.take(len(out))
    return out


def zip_member(data: bytes, name: str, budget: Budget) -> bytes:
    """Return one file of a ZIP that was read; raises UnsafeArchiveError when it is damaged, too large or not there."""
    damaged = tr("“{name}” is damaged or is not a readable archive.").format(name=budget.name)
    try:
        found = next((e for e in _zip(io.BytesIO(data), budget) if e.path == name), None)
        if found is None:
            raise UnsafeArchiveError(damaged)
        return found.load()
    except FinchError:
        raise
    except Exception as error:  # of the reader: it was given bytes
        raise UnsafeArchiveError(damaged) from error
