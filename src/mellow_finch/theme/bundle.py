"""A theme as it came, folder, archive or single file: its files by path, bounded and never run.

Nothing outside is reached: names that lead out, links that do, devices and the like are refused, and so is what is
too many or too large. Folders are read when a file is asked for; archives are unpacked into memory.
"""

from __future__ import annotations

import io
import lzma
import os
import posixpath
import re
import stat
import struct
import subprocess
import sys
import tarfile
import zipfile
import zlib
from collections.abc import Callable, Iterator, Mapping
from dataclasses import dataclass, field
from pathlib import Path, PurePosixPath
from typing import Any

from ..disk.facts import first_bytes, read_plain
from ..errors import FinchError, UnsafeArchiveError, file_errors
from . import seven_zip

MOST_FILES = 120_000  # folders and what is passed over included
MOST_BYTES = 400_000_000  # of everything, unpacked
_MOST_HEADER = 1_000_000  # of one header that carries names
_MOST_NAME, _MOST_DEPTH = 1_024, 40
_CHILD_S = 40
# What the standard library's readers of archives raise for damaged ones.
_FOREIGN: tuple[type[Exception], ...] = (
    tarfile.TarError, zipfile.BadZipFile, lzma.LZMAError, zlib.error, struct.error, EOFError, ValueError, KeyError,
    IndexError, NotImplementedError, RuntimeError, OverflowError, MemoryError, AttributeError, TypeError,
)  # fmt: skip
MOST_FILE = 64_000_000  # of one file
_RATIO = 400  # unpacked to packed, beyond which an archive is a trap
_SMALL = 20_000_000  # up to which that ratio does not matter
_IGNORED = re.compile(r"(?:^|/)(?:__MACOSX|\.git|\.svn|\.DS_Store|Thumbs\.db)(?:/|$)")


@dataclass(frozen=True, slots=True)
class Entry:
    """One file. load: gives its bytes; mode: its permissions; link: where it points when it is a symbolic link."""

    path: str
    load: Callable[[], bytes] = field(repr=False)
    mode: int = 0o644
    link: str = ""


@dataclass(frozen=True, eq=False)
class Bundle:
    """A theme's files by path from its root. name: of the folder or archive, without the archive's ending."""

    name: str
    entries: Mapping[str, Entry]
    single: bool = False  # whether it is one file rather than a folder of them
    left_out: tuple[str, ...] = ()  # links that lead out of a folder, whose files are not taken along

    def data(self, path: str) -> bytes:
        """Return a file's bytes, links within followed; raises KeyError for a file that is not there."""
        entry = self.entries[path]
        for _ in range(8):
            if not entry.link:
                return entry.load()
            target = posixpath.normpath(posixpath.join(posixpath.dirname(entry.path), entry.link))
            entry = self.entries[target]
        raise KeyError(path)


def archive_kind(head: bytes) -> str:
    """Return the kind of an archive by its first 512 bytes, empty when it is none."""
    marks = (
        (b"PK\x03\x04", "zip"),
        (b"PK\x05\x06", "zip"),
        (b"7z\xbc\xaf\x27\x1c", "7z"),
        (b"\x1f\x8b", "tar"),
        (b"BZh", "tar"),
        (b"\xfd7zXZ\x00", "tar"),
        (b"\x28\xb5\x2f\xfd", "zst"),
    )
    found = next((kind for mark, kind in marks if head.startswith(mark)), "")
    return found or ("tar" if head[257:262] == b"ustar" else "")


def open_bundle(path: Path) -> Bundle:
    """Return a folder, an archive or one file as a bundle.

    Raises FileAccessError for what cannot be read, UnsafeArchiveError for what must not be unpacked.
    """
    path = Path(path)
    with file_errors(path, "open"):
        if path.is_dir():
            left_out: list[str] = []
            found = {e.path: e for e in _folder_entries(path, left_out)}
            return Bundle(path.resolve().name, found, left_out=tuple(left_out))
    head = first_bytes(path, 512)
    kind = archive_kind(head)
    name = re.sub(r"(?i)\.(tar(\.\w+)?|t[gbx]z2?|tzst|zip|7z|obt|xpi|plasmoid|gz|bz2|xz|zst)$", "", path.name)
    if not kind:
        return Bundle(path.name, {path.name: _on_disk(path.resolve(), path.name)}, single=True)
    with file_errors(path, "open"):
        try:
            entries = {e.path: e for e in _READERS[kind](path)}
        except FinchError:
            raise
        except (*_FOREIGN, _zstd_error()) as error:
            raise UnsafeArchiveError(f"“{path.name}” is damaged or no archive that can be read.") from error
    if not entries:
        raise UnsafeArchiveError(f"“{path.name}” holds no files.")
    links = {e.path for e in entries.values() if e.link}
    for entry in entries.values() if links else ():
        if any(str(parent) in links for parent in PurePosixPath(entry.path).parents):
            raise UnsafeArchiveError(
                f"“{path.name}” holds “{entry.path}” behind a link of its own; nothing of it was unpacked."
            )
    return Bundle(name, entries)


def _zstd_error() -> type[Exception]:
    from backports.zstd import ZstdError

    return ZstdError


def _on_disk(path: Path, name: str) -> Entry:
    def load() -> bytes:
        return read_plain(path, MOST_FILE, follow=False) or b""

    return Entry(name, load, stat.S_IMODE(path.stat().st_mode) & 0o777)


def _folder_entries(root: Path, left_out: list[str]) -> Iterator[Entry]:
    """Yield the files of a folder; links that lead out of it are noted, and what they lead to is left where it is."""
    count = 0
    inside = root.resolve()
    for path in sorted(root.rglob("*")):
        name = path.relative_to(root).as_posix()
        if _IGNORED.search(name):
            continue
        count += 1
        if count > MOST_FILES:
            raise UnsafeArchiveError(f"“{root.name}” holds more than {MOST_FILES} files, too many for a theme.")
        if path.is_symlink():
            target = str(path.readlink())
            if _end_of(path).is_relative_to(inside) and not target.startswith("/"):
                if path.exists():
                    yield Entry(name, lambda: b"", 0o777, target)
            else:
                left_out.append(name)
        elif path.is_file():
            yield _on_disk(path, name)


def _end_of(path: Path) -> Path:
    """Return where a link leads, the root of all for one that leads in a circle."""
    try:
        return path.resolve()
    except (OSError, RuntimeError):
        return Path("/")


# Archives


class _Bounds:
    """What an archive may hold, counted while it is read."""

    def __init__(self, path: Path) -> None:
        self._name, self._packed = path.name, max(1, path.stat().st_size)
        self._files, self._bytes = 0, 0

    def name(self, raw: str) -> str:
        """Return a member's path from the root; refuses one that leads out."""
        clean = raw.replace("\\", "/")
        self._count_one()
        if len(clean) > _MOST_NAME or clean.count("/") > _MOST_DEPTH:
            raise UnsafeArchiveError(f"“{self._name}” holds a path that is longer or deeper than any theme's.")
        if clean.startswith("/") or re.match(r"[A-Za-z]:", clean) or ".." in clean.split("/") or "\0" in clean:
            raise UnsafeArchiveError(
                f"“{self._name}” holds the path “{raw}”, which leads out of its folder; nothing of it was unpacked."
            )
        return posixpath.normpath(clean)

    def _count_one(self) -> None:
        self._files += 1
        if self._files > MOST_FILES:
            raise UnsafeArchiveError(f"“{self._name}” holds more than {MOST_FILES} files, too many for a theme.")

    def count(self, size: int) -> None:
        """Take the size of one more file into account."""
        self._bytes += size
        if size > MOST_FILE or self._bytes > MOST_BYTES:
            raise UnsafeArchiveError(f"“{self._name}” unpacks to more than a theme can be large.")
        if self._bytes > _SMALL and self._bytes > _RATIO * self._packed:
            raise UnsafeArchiveError(f"“{self._name}” unpacks to {_RATIO} times its size: a trap rather than a theme.")

    def link(self, name: str, target: str) -> None:
        """Refuse a link that leads out."""
        end = posixpath.normpath(posixpath.join(posixpath.dirname(name), target))
        back = re.sub(r"^(?:\.\.?/)+", "", target + "/")  # going up is only safe before anything else
        if target.startswith("/") or end.startswith("..") or ".." in back.split("/"):
            raise UnsafeArchiveError(
                f"“{self._name}” holds a link from “{name}” out of its folder; nothing of it was unpacked."
            )


def _held(name: str, data: bytes, mode: int) -> Entry:
    return Entry(name, lambda: data, (mode & 0o777) or 0o644)


class _TarInfo(tarfile.TarInfo):
    """A member whose headers for long names and further facts are bounded."""

    def _proc_member(self, archive: tarfile.TarFile) -> Any:
        extended = (tarfile.XHDTYPE, tarfile.XGLTYPE, tarfile.GNUTYPE_LONGNAME, tarfile.GNUTYPE_LONGLINK, b"X")
        if self.type in extended and self.size > _MOST_HEADER:
            raise tarfile.ReadError("a header is too large")
        return super()._proc_member(archive)  # type: ignore[misc]


def _tar(path: Path, handle: Any = None) -> Iterator[Entry]:
    bounds = _Bounds(path)
    whole: dict[str, Entry] = {}
    with (
        tarfile.open(path, "r|*", tarinfo=_TarInfo)
        if handle is None
        else tarfile.open(fileobj=handle, mode="r|", tarinfo=_TarInfo) as archive
    ):
        for member in archive:
            name = bounds.name(member.name)
            if member.isdir() or name == "." or _IGNORED.search(name):
                continue
            if member.issym():
                bounds.count(0)
                bounds.link(name, member.linkname)
                yield Entry(name, lambda: b"", 0o777, member.linkname)
            elif member.islnk():
                bounds.count(0)
                other = bounds.name(member.linkname)
                if other in whole:
                    yield Entry(name, whole[other].load, whole[other].mode)
            elif member.isfile():
                bounds.count(member.size)
                source = archive.extractfile(member)
                entry = _held(name, source.read() if source is not None else b"", member.mode)
                whole[name] = entry
                yield entry
            else:
                raise UnsafeArchiveError(f"“{path.name}” holds “{name}”, which is neither a file nor a folder.")


def _zst(path: Path) -> Iterator[Entry]:
    from backports import zstd

    with zstd.ZstdFile(path) as handle:
        yield from _tar(path, handle)


def _zip(path: Path) -> Iterator[Entry]:
    bounds = _Bounds(path)
    with zipfile.ZipFile(path) as archive:
        for info in archive.infolist():
            name = bounds.name(info.filename)
            if info.is_dir() or _IGNORED.search(name):
                continue
            mode = info.external_attr >> 16
            bounds.count(info.file_size)
            if info.flag_bits & 1:
                raise UnsafeArchiveError(f"“{path.name}” is locked with a password.")
            with archive.open(info) as source:
                data = source.read(info.file_size + 1)
            if len(data) > info.file_size:
                raise UnsafeArchiveError(f"“{path.name}” says less than it holds: a trap rather than a theme.")
            if stat.S_ISLNK(mode):
                target = data.decode("utf-8", "replace")
                bounds.link(name, target)
                yield Entry(name, lambda: b"", 0o777, target)
            else:
                yield _held(name, data, mode)


def _7z(path: Path) -> Iterator[Entry]:
    """Read a 7z archive as the tar that a process of its own makes of it."""
    command = [sys.executable, "-m", seven_zip.__name__, str(path.resolve()), str(MOST_FILES), str(MOST_BYTES)]
    source = str(Path(__file__).resolve().parents[2])
    environment = {
        **os.environ,
        "PYTHONPATH": os.pathsep.join(filter(None, [source, os.environ.get("PYTHONPATH", "")])),
    }
    with subprocess.Popen(
        command, stdin=subprocess.DEVNULL, stdout=subprocess.PIPE, stderr=subprocess.DEVNULL, env=environment
    ) as child:  # fmt: skip
        torn = False
        try:
            assert child.stdout is not None
            yield from _tar(path, child.stdout)
            child.stdout.read(_MOST_HEADER)  # what stands behind the last member, so that the child ends well
        except tarfile.TarError:
            torn = True  # what ended the child is told below
        finally:
            if child.stdout is not None:
                child.stdout.close()
        try:
            code = child.wait(_CHILD_S)
        except subprocess.TimeoutExpired:
            child.kill()
            code = seven_zip.DAMAGED
    says = {
        seven_zip.LOCKED: "is locked with a password.",
        seven_zip.LINKS: "holds links, which are not followed in archives of this kind.",
        seven_zip.TOO_MUCH: "unpacks to more than a theme can be large.",
    }
    if code or torn:
        raise UnsafeArchiveError(f"“{path.name}” {says.get(code, 'is damaged or no archive that can be read.')}")


_READERS: dict[str, Callable[[Path], Iterator[Entry]]] = {"tar": _tar, "zst": _zst, "zip": _zip, "7z": _7z}


def text_of_bytes(data: bytes) -> str | None:
    """Return a file's bytes as text that can be turned back exactly, None when they are no text."""
    if b"\0" in data[:4096]:
        return None
    return data.decode("utf-8", "surrogateescape")


def gunzipped(data: bytes, most: int = MOST_FILE) -> bytes:
    """Return what a gzip member holds, bounded; raises UnsafeArchiveError when it is damaged or too large."""
    import gzip

    try:
        with gzip.GzipFile(fileobj=io.BytesIO(data)) as handle:
            out = handle.read(most + 1)
    except (OSError, EOFError, zlib.error) as error:
        raise UnsafeArchiveError("A packed drawing is damaged.") from error
    if len(out) > most:
        raise UnsafeArchiveError("A packed drawing unpacks to more than a theme can be large.")
    return out
