"""The history of a home: one folder for every time a look was put on, with the old bytes of all it changed."""

from __future__ import annotations

import hashlib
import json
from collections.abc import Mapping
from dataclasses import asdict, dataclass, field, replace
from functools import lru_cache
from pathlib import Path
from typing import Any, Literal

from ..components.model import Files
from ..errors import WearError, file_errors
from .disk import Disk

Status = Literal["writing", "worn", "undoing", "undone"]


@dataclass(frozen=True, slots=True)
class Entry:
    """One file of a snapshot.

    path: from the home folder; target: where the bytes really lie, symlinks followed; before, after: SHA-256 of the
    bytes, before empty when there was no file; mode: its permission bits; blob: the old bytes' name in the snapshot.
    """

    path: str
    target: str
    component: str
    before: str
    after: str
    mode: int
    blob: str


@dataclass(frozen=True, slots=True)
class Snapshot:
    """All that is needed to finish or to undo one putting on."""

    id: str
    look: str
    when: str
    status: Status
    entries: tuple[Entry, ...]
    folders: tuple[str, ...] = ()
    settings: tuple[tuple[str, str, str], ...] = field(default=())


def digest(data: bytes) -> str:
    """Return the SHA-256 of bytes."""
    return hashlib.sha256(data).hexdigest()


@lru_cache(maxsize=256)
def _read_manifest(path: Path, _mtime_ns: int, _size: int) -> tuple[Snapshot, Mapping[str, Entry]]:
    data: dict[str, Any] = json.loads(path.read_text(encoding="utf-8"))
    entries = tuple(Entry(**e) for e in data.pop("entries"))
    settings = tuple((str(a), str(b), str(c)) for a, b, c in data.pop("settings"))
    snapshot = Snapshot(**{**data, "entries": entries, "folders": tuple(data["folders"]), "settings": settings})
    return snapshot, {entry.path: entry for entry in entries}


class History:
    """The snapshots of one home, oldest first, kept outside it."""

    def __init__(self, folder: Path, disk: Disk | None = None) -> None:
        self.folder = folder
        self.disk = disk or Disk()

    def snapshots(self) -> list[Snapshot]:
        """Return every snapshot, oldest first; unfinished preparations, which changed nothing, do not count."""
        if not self.folder.is_dir():
            return []
        with file_errors(self.folder, "read"):
            found = sorted(p for p in self.folder.iterdir() if (p / "manifest.json").is_file())
            return [self._load(p) for p in found]

    def _load(self, folder: Path) -> Snapshot:
        return self._indexed(folder)[0]

    def _indexed(self, folder: Path) -> tuple[Snapshot, Mapping[str, Entry]]:
        """Return a snapshot and its entries by path, read once for each time that it was written."""
        manifest = folder / "manifest.json"
        state = manifest.stat()
        try:
            return _read_manifest(manifest, state.st_mtime_ns, state.st_size)
        except (ValueError, KeyError, TypeError) as error:
            raise WearError(f"The snapshot in “{folder}” is damaged, so it was left alone.") from error

    def worn_entries(self, path: str) -> list[tuple[Snapshot, Entry]]:
        """Return what the snapshots of looks that are worn keep of one file, oldest first."""
        if not self.folder.is_dir():
            return []
        with file_errors(self.folder, "read"):
            found = sorted(p for p in self.folder.iterdir() if (p / "manifest.json").is_file())
            rows = [self._indexed(p) for p in found]
        return [(s, by_path[path]) for s, by_path in rows if s.status in ("worn", "writing") and path in by_path]

    def last_worn(self) -> Snapshot | None:
        """Return the newest snapshot that can be undone."""
        return next((s for s in reversed(self.snapshots()) if s.status in ("worn", "writing", "undoing")), None)

    def pending(self) -> Snapshot | None:
        """Return the snapshot whose writing or undoing was interrupted, if any."""
        return next((s for s in self.snapshots() if s.status in ("writing", "undoing")), None)

    def add(self, snapshot: Snapshot, blobs: dict[str, bytes], fresh: dict[str, bytes]) -> None:
        """Put a snapshot on disk: old bytes and new bytes first, the manifest, which makes it count, last."""
        folder = self.folder / snapshot.id
        with file_errors(folder, "make"):
            folder.mkdir(parents=True, exist_ok=True)
        for name, data in {**blobs, **fresh}.items():
            self.disk.write(folder / name, data, 0o600)
        self._save(snapshot)

    def mark(self, snapshot: Snapshot, status: Status) -> Snapshot:
        """Return the snapshot with another status, put on disk."""
        changed = replace(snapshot, status=status)
        self._save(changed)
        return changed

    def _save(self, snapshot: Snapshot) -> None:
        text = json.dumps(asdict(snapshot), indent=1)
        self.disk.write(self.folder / snapshot.id / "manifest.json", text.encode("utf-8"), 0o600)

    def blob(self, snapshot: Snapshot, name: str) -> bytes:
        """Return old or new bytes kept in a snapshot."""
        path = self.folder / snapshot.id / name
        with file_errors(path, "read"):
            return path.read_bytes()


@dataclass(frozen=True)
class OriginalFiles:
    """A home as it was before any look that it wears now, so that recolouring always starts from the person's own file.

    A file that the person edited since counts as it is.
    """

    below: Files
    history: History

    def _origin(self, path: str) -> tuple[bool, bytes | None]:
        now = self.below(path)
        if now is None:
            return False, None
        chain = self.history.worn_entries(path)
        if not chain or digest(now) != chain[-1][1].after:
            return False, None
        first, entry = chain[0]
        return True, self.history.blob(first, entry.blob) if entry.before else None

    def __call__(self, path: str) -> bytes | None:
        """Return the original bytes of a file."""
        known, data = self._origin(path)
        return data if known else self.below(path)

    def find(self, pattern: str) -> list[str]:
        """Return the matches that were there before."""
        return [p for p in self.below.find(pattern) if self(p) is not None]
