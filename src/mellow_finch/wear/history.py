"""The history of a home: one folder for every time a look was applied, with the old bytes of all it changed.

A snapshot's manifest never changes; its status is the name of an empty file beside it, so that marking it needs no
room on the disk. What is only prepared changed nothing yet and does not count.
"""

from __future__ import annotations

import json
import os
import time
import zlib
from collections.abc import Iterable, Iterator, Mapping, Sequence
from contextlib import contextmanager, suppress
from functools import lru_cache
from pathlib import Path
from typing import get_args

from ..disk.facts import Facts, read_plain
from ..disk.write import TEMPORARY, Disk
from ..errors import FileAccessError, FinchError, WearError, file_errors
from ..language import tr
from .journal import IN_FORCE, UNDER_WAY, FileRow, Snapshot, Status, StoreRow, manifest_text, snapshot_from
from .lock import WAIT_S, locked
from .targets import digest

_MANIFEST = "manifest.json"
_WRITTEN, _STORES, _UNSETTING = "written", "stores.json", "unsetting.json"
_MOST_KEPT_TEXT = 8 * 2**20
_MOST_KEPT = 512 * 2**20
_TOO_NEW_NS = 100_000_000  # within which two changes of a folder can bear the same time
_ASIDE = "set-aside"
_LOCK = "lock"
_PRIVATE = Facts(0o600)
_STATUSES: tuple[Status, ...] = get_args(Status)


@lru_cache(maxsize=4096)
def _read_manifest(path: Path, _mtime_ns: int, _size: int, status: Status | None) -> Snapshot:
    data = read_plain(path)
    if data is None:
        raise ValueError("no manifest")
    return snapshot_from(data.decode("utf-8"), path.parent.name, status)


class History:
    """The snapshots of one home, oldest first, kept outside it."""

    def __init__(
        self, folder: Path, disk: Disk | None = None, who: str = "Mellow Finch", wait_s: float = WAIT_S
    ) -> None:
        self.folder = folder
        self.disk = disk or Disk()
        self._who, self._wait_s = who, wait_s
        self._rows: tuple[object, Mapping[str, Sequence[tuple[Snapshot, FileRow]]]] | None = None

    @property
    def lock_path(self) -> Path:
        """Return the file that is locked while the home is changed."""
        return self.folder / _LOCK

    @contextmanager
    def locked(self) -> Iterator[None]:
        """Hold the home for one change, with what earlier ones left lying cleared away.

        Raises WearError when another one changes it, FileAccessError when the history cannot be written.
        """
        self._make_private(self.folder)
        with locked(self.lock_path, self._who, self._wait_s):
            self._clear()
            yield

    def tidy(self) -> None:
        """Clear away what an interrupted preparation left, unless another one changes the home just now."""
        if not self.folder.is_dir():
            return
        try:
            with locked(self.lock_path, self._who, 0):
                self._clear()
        except (WearError, FileAccessError):
            return

    def _make_private(self, folder: Path) -> None:
        """Make a folder of the history, and its own ones above it, for nobody else to look into."""
        with file_errors(folder, "make"):
            for part in (folder.parent.parent, folder.parent, folder):
                part.mkdir(mode=0o700, parents=True, exist_ok=True)
                if part.stat().st_mode & 0o077 and part.stat().st_uid == os.geteuid():
                    part.chmod(0o700)

    def _clear(self) -> None:
        """Remove temporary files and preparations that were interrupted; set aside what is damaged."""
        for path in self.folder.glob(f"{TEMPORARY}*"):
            self.disk.remove(path)
        for folder in self._folders():
            for path in folder.glob(f"{TEMPORARY}*"):
                self.disk.remove(path)
            manifest, statuses = folder / _MANIFEST, self._statuses(folder)
            if "preparing" in statuses or (not manifest.exists() and not statuses):
                self._drop(folder)
            else:
                try:
                    self._load(folder)
                except WearError:
                    aside = self.folder / _ASIDE
                    self._make_private(aside)
                    self.disk.rename(folder, aside / folder.name)

    def _drop(self, folder: Path) -> None:
        """Forget a preparation: whatever it staged in the home, then its own folder."""
        with suppress(WearError, FileAccessError):  # a manifest that was not written whole: nothing was staged yet
            self.unstage(self._load(folder))
        self.forget(folder.name)

    def unstage(self, snapshot: Snapshot) -> None:
        """Remove the temporary files and the empty new folders of a snapshot from the home."""
        for row in snapshot.files:
            if row.staged:
                self.disk.remove(Path(row.target).with_name(row.staged))
        for folder in reversed(snapshot.folders):
            self.disk.remove_folder(Path(folder.path))

    def forget(self, id_: str) -> None:
        """Remove a snapshot's folder, its status last."""
        folder = self.folder / id_
        for path in sorted(folder.glob("*"), key=lambda p: p.name.startswith("state-")):
            self.disk.remove(path)
        self.disk.remove_folder(folder)

    # Reading

    def _folders(self) -> list[Path]:
        with file_errors(self.folder, "read"):
            if not self.folder.is_dir():
                return []
            return sorted(p for p in self.folder.iterdir() if p.name != _ASIDE and p.is_dir() and not p.is_symlink())

    @staticmethod
    def _statuses(folder: Path) -> list[Status]:
        return [s for s in _STATUSES if (folder / f"state-{s}").exists()]

    def _load(self, folder: Path) -> Snapshot:
        """Return a snapshot, read once for each time that it was written; raises WearError when it is damaged."""
        manifest = folder / _MANIFEST
        try:
            state = manifest.stat()
            status = next(iter(self._statuses(folder)), None)
            return _read_manifest(manifest, state.st_mtime_ns, state.st_size, status)
        except (ValueError, KeyError, TypeError, AttributeError, OSError, RecursionError, FinchError) as error:
            raise WearError(
                tr("The backup in “{folder}” is damaged and was not used.").format(folder=folder)
            ) from error

    def snapshots(self) -> list[Snapshot]:
        """Return every snapshot that counts, oldest first; damaged ones are left out, see broken."""
        return [s for s in self._readable() if s.status != "preparing"]

    def _readable(self) -> Iterator[Snapshot]:
        for folder in self._folders():
            try:
                yield self._load(folder)
            except WearError:
                continue

    def broken(self) -> tuple[Path, ...]:
        """Return the folders of snapshots that are damaged, set aside or about to be."""
        found = []
        for folder in self._folders():
            manifest, statuses = folder / _MANIFEST, self._statuses(folder)
            if "preparing" in statuses or (not manifest.exists() and not statuses):
                continue
            try:
                self._load(folder)
            except WearError:
                found.append(folder)
        aside = self.folder / _ASIDE
        return (*found, *(sorted(aside.iterdir()) if aside.is_dir() else ()))

    def worn_rows(self, path: str) -> list[tuple[Snapshot, FileRow]]:
        """Return what the snapshots of looks that are worn keep of one file, oldest first."""
        return [(s, row) for s, row in self.rows_by_path().get(path, ()) if s.status in ("worn", "writing")]

    def rows_by_path(self) -> Mapping[str, Sequence[tuple[Snapshot, FileRow]]]:
        """Return what all snapshots keep of every file, oldest first, those that are undone too.

        Worked out anew only when a snapshot came, went or got another status since.
        """
        stamp = self._stamp()
        if stamp is None or self._rows is None or self._rows[0] != stamp:
            out: dict[str, list[tuple[Snapshot, FileRow]]] = {}
            for snapshot in self._readable():
                for path, row in snapshot.by_path.items():
                    out.setdefault(path, []).append((snapshot, row))
            self._rows = stamp, out
        return self._rows[1]

    def _stamp(self) -> tuple[tuple[str, int], ...] | None:
        """Return what tells this state of the snapshots from others, None while one is too new for its time to say."""
        try:
            with os.scandir(self.folder) as entries:
                rows = [(e.name, e.stat(follow_symlinks=False).st_mtime_ns) for e in entries if e.is_dir()]
        except OSError:
            return None
        newest = max((time_ns for _, time_ns in rows), default=0)
        return tuple(sorted(rows)) if time.time_ns() - newest > _TOO_NEW_NS else None

    def last_worn(self) -> Snapshot | None:
        """Return the newest snapshot that can be undone."""
        return next((s for s in reversed(self.snapshots()) if s.status in IN_FORCE), None)

    def pending(self) -> Snapshot | None:
        """Return the snapshot whose writing or undoing was interrupted, if any."""
        return next((s for s in self.snapshots() if s.status in UNDER_WAY), None)

    def blob(self, snapshot: Snapshot, row: FileRow | StoreRow) -> bytes | None:
        """Return the old bytes that a snapshot keeps of a file, None when they are missing or damaged."""
        try:
            data = read_plain(self.blob_path(snapshot, row))
        except FileAccessError:
            return None
        return data if data is not None and digest(data) == row.before else None

    def written(self, snapshot: Snapshot, row: FileRow) -> bytes | None:
        """Return the bytes that a snapshot has written into a text, None where they were not kept or are damaged."""
        path = self.folder / snapshot.id / _WRITTEN
        try:
            text = _unpacked(path, path.stat().st_mtime_ns).get(row.path)
        except (OSError, FileAccessError):
            return None
        data = b"" if text is None else text.encode("utf-8", "surrogateescape")
        return data if digest(data) == row.after else None

    def blob_path(self, snapshot: Snapshot, row: FileRow | StoreRow) -> Path:
        """Return where the old bytes of a file are kept."""
        return self.folder / snapshot.id / row.blob

    # Writing

    def new_id(self, when: str) -> str:
        """Return a name for the next snapshot, after all that were; when: digits of its time."""
        numbers = [int(f.name[:5]) for f in self._folders() if f.name[:5].isdigit()]
        aside = self.folder / _ASIDE
        numbers += [int(f.name[:5]) for f in (aside.iterdir() if aside.is_dir() else ()) if f.name[:5].isdigit()]
        return f"{max(numbers, default=-1) + 1:05d}-{when}"

    def add(self, snapshot: Snapshot, blobs: Mapping[str, bytes], fresh: Mapping[str, bytes]) -> None:
        """Put a snapshot on disk as prepared: its status first, then the old bytes, the manifest last.

        fresh: the new bytes by path; those of texts are kept too, so that a person's later edits can be told from them.
        """
        folder = self.folder / snapshot.id
        self._make_private(folder)
        self.disk.write(folder / "state-preparing", b"", _PRIVATE)
        for name, data in blobs.items():
            self.disk.write(folder / name, data, _PRIVATE)
        self.disk.write(folder / _WRITTEN, _packed(fresh), _PRIVATE)
        self.disk.write(folder / _MANIFEST, manifest_text(snapshot).encode("utf-8"), _PRIVATE)

    def mark(self, snapshot: Snapshot, status: Status) -> Snapshot:
        """Return the snapshot with another status, put on disk; needs no room there."""
        folder = self.folder / snapshot.id
        old = folder / f"state-{snapshot.status}"
        if old.exists():
            self.disk.rename(old, folder / f"state-{status}")
        else:
            self.disk.write(folder / f"state-{status}", b"", _PRIVATE)
        return snapshot.with_status(status)

    def note_stores(self, snapshot: Snapshot, digests: Mapping[str, str]) -> None:
        """Note how the files of settings were left, by where they lie."""
        self.disk.write(self.folder / snapshot.id / _STORES, json.dumps(dict(digests)).encode("utf-8"), _PRIVATE)

    def stores_left(self, snapshot: Snapshot) -> dict[str, str]:
        """Return how the files of settings were left, none where that was not noted."""
        try:
            found = json.loads(read_plain(self.folder / snapshot.id / _STORES) or b"{}")
            return {str(path): str(digest_) for path, digest_ in found.items()}
        except (ValueError, AttributeError, RecursionError, FileAccessError):
            return {}

    def note_unsetting(self, snapshot: Snapshot, targets: Iterable[str]) -> None:
        """Note the files of settings that are about to be set back, and are nobody's but ours until then."""
        self.disk.write(self.folder / snapshot.id / _UNSETTING, json.dumps(sorted(targets)).encode("utf-8"), _PRIVATE)

    def unsetting(self, snapshot: Snapshot) -> frozenset[str]:
        """Return the files of settings that were about to be set back when that was interrupted."""
        try:
            return frozenset(map(str, json.loads(read_plain(self.folder / snapshot.id / _UNSETTING) or b"[]")))
        except (ValueError, TypeError, RecursionError, FileAccessError):
            return frozenset()

    def torn(self, snapshot: Snapshot, row: FileRow) -> bool:
        """Tell whether writing into a file was interrupted, so that what is in it is nobody's."""
        return (self.folder / snapshot.id / _torn_name(row)).exists()

    def begin_overwriting(self, snapshot: Snapshot, row: FileRow) -> None:
        """Note that a file is written into from here on."""
        self.disk.write(self.folder / snapshot.id / _torn_name(row), b"", _PRIVATE)

    def end_overwriting(self, snapshot: Snapshot, row: FileRow) -> None:
        """Note that a file was written whole."""
        self.disk.remove(self.folder / snapshot.id / _torn_name(row))


def _torn_name(row: FileRow) -> str:
    return f"torn-{digest(_name_bytes(row.path))[:16]}"


def _name_bytes(path: str) -> bytes:
    return path.encode("utf-8", "surrogateescape")


def _packed(fresh: Mapping[str, bytes]) -> bytes:
    """Return the texts among new files by path, as they are kept."""
    texts = {
        path: data.decode("utf-8", "surrogateescape")
        for path, data in fresh.items()
        if len(data) <= _MOST_KEPT_TEXT and b"\0" not in data[:4096]
    }
    return zlib.compress(json.dumps(texts).encode("ascii"), 1)


@lru_cache(maxsize=4)
def _unpacked(path: Path, _mtime_ns: int) -> dict[str, str]:
    """Return kept texts by path, none where they are damaged."""
    data, out = read_plain(path), zlib.decompressobj()
    try:
        found = json.loads(out.decompress(data or b"", _MOST_KEPT))
        return {str(name): str(text) for name, text in found.items()}
    except (ValueError, AttributeError, RecursionError, zlib.error):
        return {}
