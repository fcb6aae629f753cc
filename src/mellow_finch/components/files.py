"""Files seen from a home folder: of the real one, of none, kept as they were, or fresh ones laid over others."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from dataclasses import dataclass, field
from functools import lru_cache
from pathlib import Path, PurePosixPath
from typing import NamedTuple, Protocol

from ..disk.facts import read_plain
from ..errors import FileAccessError
from ..progress import give_way


class Files(Protocol):
    """Files seen from a home folder."""

    def __call__(self, path: str) -> bytes | None:
        """Return a file's bytes by its path from the home folder, None when there is none."""

    def find(self, pattern: str) -> list[str]:
        """Return the paths that match a glob pattern, sorted; a pattern from the root is of the whole computer."""

    def place(self, folder: str) -> str:
        """Return where a folder of the home really lies, as a whole path; "~" stands for a home that is not known."""

    def fresh(self, path: str) -> bool:
        """Tell whether a file is one that was just made, laid over those of the home."""


class OutFile(NamedTuple):
    """A file to be written: its path from the home folder, and its bytes."""

    path: str
    data: bytes


@dataclass(frozen=True)
class NoFiles:
    """An empty home."""

    def __call__(self, path: str) -> bytes | None:
        """Return None."""
        return None

    def find(self, pattern: str) -> list[str]:
        """Return nothing."""
        return []

    def place(self, folder: str) -> str:
        """Return a place in no home."""
        return _joined("~", folder)

    def fresh(self, path: str) -> bool:
        """Return that nothing was made."""
        return False


def moved_path(path: str, moved: Mapping[str, str]) -> str:
    """Return where a path from the home folder really lies, when one of its folders was moved."""
    for usual, place in moved.items():
        if path == usual or path.startswith(f"{usual}/"):
            return place + path[len(usual) :]
    return path


@dataclass(frozen=True)
class FolderFiles:
    """The files under a real folder; what cannot be read counts as absent.

    moved: folders that lie elsewhere than usual, both from the root; files are called by their usual paths;
    system: what was found outside the root, by pattern; programs are not looked for again.
    """

    root: Path
    moved: Mapping[str, str] = field(default_factory=dict)
    system: dict[str, list[str]] = field(default_factory=dict, compare=False, repr=False)

    def __call__(self, path: str) -> bytes | None:
        """Return the bytes of a file."""
        try:
            return read_plain(self.root / moved_path(path, self.moved))
        except FileAccessError:
            return None

    def find(self, pattern: str) -> list[str]:
        """Return the files that match, as paths from the root."""
        usual = {place: name for name, place in self.moved.items()}
        try:
            if pattern.startswith("/"):
                if pattern not in self.system:
                    self.system[pattern] = sorted(str(p) for p in Path("/").glob(pattern[1:]) if p.is_file())
                return list(self.system[pattern])
            found = self.root.glob(moved_path(pattern, self.moved))
            return sorted(moved_path(p.relative_to(self.root).as_posix(), usual) for p in found if p.is_file())
        except (ValueError, NotImplementedError, OSError):  # no pattern of paths, or nothing that could be looked at
            return []

    def place(self, folder: str) -> str:
        """Return where a folder really lies."""
        return _joined(str(self.root), moved_path(folder, self.moved))

    def fresh(self, path: str) -> bool:
        """Return that nothing was made."""
        return False


class NewHome(NoFiles):
    """An empty home on this computer: what lies outside of homes is there."""

    _outside = FolderFiles(Path("/"))

    def __call__(self, path: str) -> bytes | None:
        """Return the bytes of a file outside."""
        return self._outside(path) if path.startswith("/") else None

    def find(self, pattern: str) -> list[str]:
        """Return the files outside that match."""
        return self._outside.find(pattern) if pattern.startswith("/") else []


@dataclass(frozen=True, eq=False)
class SteadyFiles:
    """Files as they were when they were first asked for, so that asking again costs nothing.

    seen: each by its path: its bytes, None for one not there.
    """

    below: Files
    seen: dict[str, bytes | None] = field(default_factory=dict)
    found: dict[str, list[str]] = field(default_factory=dict)

    def __call__(self, path: str) -> bytes | None:
        """Return the bytes of a file."""
        if path not in self.seen:
            give_way()
            self.seen[path] = self.below(path)
        return self.seen[path]

    def find(self, pattern: str) -> list[str]:
        """Return the files that match."""
        if pattern not in self.found:
            give_way()
            self.found[pattern] = self.below.find(pattern)
        return list(self.found[pattern])

    def place(self, folder: str) -> str:
        """Return where a folder really lies."""
        return self.below.place(folder)

    def fresh(self, path: str) -> bool:
        """Tell whether a file was just made."""
        return self.below.fresh(path)


@lru_cache(maxsize=1024)
def _matches(path: str, pattern: str) -> bool:
    return PurePosixPath(path).match(pattern)


@dataclass(frozen=True)
class Layered:
    """Fresh files laid over others."""

    below: Files
    made: Mapping[str, bytes]

    def __call__(self, path: str) -> bytes | None:
        """Return a fresh file, or what lies below."""
        return self.made[path] if path in self.made else self.below(path)

    def find(self, pattern: str) -> list[str]:
        """Return the matches of both, fresh ones first."""
        own = sorted(p for p in self.made if _matches(p, pattern))
        return list(dict.fromkeys([*own, *self.below.find(pattern)]))

    def place(self, folder: str) -> str:
        """Return where a folder really lies."""
        return self.below.place(folder)

    def fresh(self, path: str) -> bool:
        """Tell whether a file was just made."""
        return path in self.made or self.below.fresh(path)


def layered(below: Files, files: Iterable[OutFile]) -> Files:
    """Return the given files laid over what is below."""
    return Layered(below, {file.path: file.data for file in files})


def _joined(root: str, folder: str) -> str:
    return f"{root}/{folder}" if folder else root


def text_of(get: Files, path: str) -> str:
    """Return a file as text, empty when there is none; bytes that are not UTF-8 survive as surrogates."""
    data = get(path)
    return "" if data is None else data.decode("utf-8", "surrogateescape")


def as_bytes(text: str) -> bytes:
    """Return text as it is written: UTF-8, surrogates of text_of back to their bytes."""
    return text.encode("utf-8", "surrogateescape")
