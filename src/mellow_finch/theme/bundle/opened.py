"""A theme as it came, folder, archive or single file: its files by path, bounded and never run.

Nothing outside is reached: names that lead out, links that do, devices and the like are refused, and so is what is
too many or too large. Folders are read when a file is asked for; archives are unpacked into memory.
"""

from __future__ import annotations

import os
import posixpath
import re
import stat
from collections.abc import Collection, Iterator, Mapping
from dataclasses import dataclass, field, replace
from functools import partial
from pathlib import Path

from ...disk.facts import must_open, read_plain
from ...errors import file_errors
from ...intake.archives import ArchiveEntry, archive_kind, passed_over, unpacked
from ...intake.budget import MOST_FILE, Budget
from ...language import tr
from ...progress import Progress
from .subtheme import part_of, put_into, theme_around


@dataclass(frozen=True, eq=False)
class Bundle:
    """A theme's files by path from its root. name: of the folder or archive, without the archive's ending.

    budget: what is left of what may be read of it; left_out: links that lead out of a folder, whose files are not taken
    along; part: the folder of a theme that its files were put into, having come without it.
    """

    name: str
    entries: Mapping[str, ArchiveEntry]
    single: bool = False  # whether it is one file rather than a folder of them
    left_out: tuple[str, ...] = ()
    part: str = ""
    budget: Budget = field(default_factory=lambda: Budget(tr("The theme")), repr=False)

    def sources(self, path: Path) -> frozenset[Path]:
        """Return where the files lie, the bundle having been opened at a path."""
        head = f"{self.part}/" if self.part else ""
        return frozenset({path} if path.is_file() else {path / p.removeprefix(head) for p in self.entries})

    def without(self, roots: Collection[str]) -> Bundle:
        """Return the bundle without what lies in some folders, each ending in a slash; links to there become files."""
        out = {p: e for p, e in self.entries.items() if p.startswith(tuple(roots))} if roots else {}
        own = {p: e for p, e in self.entries.items() if p not in out}
        for path, entry in own.items():
            target = posixpath.normpath(posixpath.join(posixpath.dirname(path), entry.link)) if entry.link else ""
            if target in out:
                own[path] = ArchiveEntry(path, partial(self.data, path), out[target].mode)
        return replace(self, entries=own)

    def data(self, path: str) -> bytes:
        """Return a file's bytes, links within followed; raises KeyError for a file that is not there."""
        entry = self.entries[path]
        for _ in range(8):
            if not entry.link:
                return entry.load()
            target = posixpath.normpath(posixpath.join(posixpath.dirname(entry.path), entry.link))
            entry = self.entries[target]
        raise KeyError(path)


_ENDINGS = re.compile(r"(?i)\.(tar(\.\w+)?|t[gbx]z2?|tzst|zip|7z|obt|xpi|plasmoid|gz|bz2|xz|zst)$")


def theme_name(path: Path) -> str:
    """Return what a folder, an archive or a file is called, without the ending of an archive."""
    return _ENDINGS.sub("", path.name)


def open_bundle(path: Path, progress: Progress | None = None) -> Bundle:
    """Return a folder, an archive or one file as a bundle.

    Raises FileAccessError for what cannot be read, UnsafeArchiveError for what must not be unpacked.
    """
    path = Path(path)
    with file_errors(path, "open"):
        if path.is_dir():
            budget = Budget(path.name, progress=progress)
            left_out: list[str] = []
            found = {e.path: e for e in _folder_entries(path, left_out, budget)}
            whole = _whole(Bundle(path.resolve().name, found, left_out=tuple(left_out), budget=budget))
            return replace(whole, name=theme_around(path.resolve()) or whole.name) if whole.part else whole
    handle = must_open(path)
    with file_errors(path, "open"):
        state = os.fstat(handle)
        kind = archive_kind(os.pread(handle, 512, 0))
    if not kind:
        os.close(handle)
        entry = ArchiveEntry(path.name, partial(_read, path.resolve()), stat.S_IMODE(state.st_mode) & 0o777)
        return Bundle(path.name, {path.name: entry}, single=True)
    budget = Budget(path.name, max(1, state.st_size), progress)
    name = theme_name(path)
    return _whole(Bundle(name, unpacked(handle, kind, path, budget), budget=budget))


def _whole(bundle: Bundle) -> Bundle:
    """Return a bundle that is only the inside of a part of a theme as the theme that it is a part of."""
    part = part_of(bundle.name, bundle.entries, bundle.data)
    return replace(bundle, entries=put_into(part, bundle.entries), part=part) if part else bundle


def _read(path: Path) -> bytes:
    return read_plain(path, MOST_FILE, follow=False) or b""


def _folder_entries(root: Path, left_out: list[str], budget: Budget) -> Iterator[ArchiveEntry]:
    """Yield the files of a folder; links that lead out of it are noted, and what they lead to is left where it is."""
    inside = root.resolve()
    rows: list[tuple[str, os.DirEntry[str]]] = []
    folders = [""]
    while folders:
        at = folders.pop()
        try:
            with os.scandir(inside / at) as listed:
                found = [(budget.entry(posixpath.join(at, entry.name)), entry) for entry in listed]
        except PermissionError:
            left_out.append(at)
            continue
        for name, entry in found:
            if passed_over(name):
                continue
            if entry.is_dir(follow_symlinks=False):
                folders.append(name)
            else:
                rows.append((name, entry))
    for name, entry in sorted(rows, key=lambda row: row[0].split("/")):
        if entry.is_symlink():
            path = Path(entry.path)
            target = os.readlink(path)  # noqa: PTH115 - the very text, which a Path would tidy
            if _end_of(path).is_relative_to(inside) and not target.startswith("/"):
                if path.exists():
                    yield ArchiveEntry(name, lambda: b"", 0o777, target)
            else:
                left_out.append(name)
        elif entry.is_file(follow_symlinks=False):
            mode = entry.stat(follow_symlinks=False).st_mode
            yield ArchiveEntry(name, partial(_read, Path(entry.path)), stat.S_IMODE(mode) & 0o777)


def _end_of(path: Path) -> Path:
    """Return where a link leads, the root of all for one that leads in a circle."""
    try:
        end = path.resolve()
    except (OSError, RuntimeError):
        return Path("/")
    return Path("/") if end.is_symlink() else end  # newer Pythons return one of the circle


def text_of_bytes(data: bytes) -> str | None:
    """Return a file's bytes as text that can be turned back exactly, None when they are no text."""
    if b"\0" in data[:4096]:
        return None
    return data.decode("utf-8", "surrogateescape")
