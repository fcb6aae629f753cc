"""What was found out in earlier rehearsals, by digest of all that it was made from."""

from __future__ import annotations

import hashlib
import json
import shutil
from collections.abc import Mapping
from contextlib import suppress
from pathlib import Path
from typing import NamedTuple

import msgspec

from ...disk.facts import must_read
from ...disk.own import cache_folder
from ...disk.write import save
from ...errors import FileAccessError
from ...look.dressed import Dressed
from .measured import Measured
from .prepared import Row, Staged, Terminal
from .room import Played

_MOST = 600  # results that are kept
_FORMAT = 10  # of what is kept: another number makes all of it anew


class KeptResult(NamedTuple):
    """What is known of a row: the pictures with the look and before it, whether they change with a look, what is seen.

    version: of who painted it, where that is known by another way than asking the program.
    """

    after: Played
    before: Played
    changed: bool
    measured: Measured = Measured((), ())
    version: str = ""


class _ToldResult(msgspec.Struct):
    """The same in a file."""

    box: tuple[int, int, int, int]
    answers: dict[str, str]
    changed: bool
    measured: Measured
    version: str


class ResultStore:
    """Results in a folder of the cache; the oldest go."""

    def __init__(self) -> None:
        self._folder = cache_folder() / "rehearsals"

    def key(self, stage: Staged, row: Row) -> str:
        """Return what tells a row and all that its pictures depend on."""
        dressed, component = stage.dressed, row.component
        sum_ = hashlib.sha256(f"{_FORMAT} {stage.act(row.id)} {row.how}".encode())
        for name in (row.how.program, *row.how.needs):
            path = Path(shutil.which(name) or "/nowhere")
            with suppress(OSError):
                state = path.resolve().stat()
                sum_.update(f"{path} {state.st_size} {state.st_mtime_ns}".encode())
        ids = {component.id, *component.after, Terminal(dressed).component if row.how.on == "terminal" else ""}
        ids |= {"gtk-3"} if row.how.on != "terminal" and component.kind not in ("Terminals",) else set()
        paths = {f.path for id__ in ids for f in dressed.files.get(id__, ())}
        for pattern in (*component.places, *component.signs):
            paths.update(p for p in stage.before if Path(p).match(pattern))
        for name in sorted(paths):
            for laid in (stage.after, stage.before):
                sum_.update(name.encode("utf-8", "surrogateescape") + b"\0" + laid.get(name, b"\1") + b"\0")
        colours = dressed.look.scheme().colours
        sum_.update(json.dumps({name: c.hex for name, c in sorted(colours.items())}).encode())
        sum_.update(hashlib.sha256(stage.picture).digest())
        return sum_.hexdigest()[:40]

    def gallery_key(self, dressed: Dressed, id_: str) -> str:
        """Return the same of a toolkit's gallery: what the component writes, and what text needs."""
        sum_ = hashlib.sha256(f"{_FORMAT} {id_} {dressed.folder} {dressed.look.temper.text_need}".encode())
        for file in dressed.files[id_]:
            sum_.update(file.path.encode("utf-8", "surrogateescape") + b"\0" + file.data + b"\0")
        return sum_.hexdigest()[:40]

    def get(self, key: str, id_: str) -> KeptResult | None:
        """Return what is known under a key."""
        folder = self._folder / key
        with suppress(FileAccessError, msgspec.MsgspecError):
            told = msgspec.json.decode(must_read(folder / "told.json"), type=_ToldResult)
            after = Played(id_, must_read(folder / "after.png"), told.box, told.answers, "", 0.0)
            before = Played(id_, must_read(folder / "before.png"), told.box, {}, "", 0.0)
            return KeptResult(after, before, told.changed, told.measured, told.version)
        return None

    def seconds(self) -> dict[str, float]:
        """Return how long each row took when it was last played, by its id."""
        with suppress(FileAccessError, msgspec.MsgspecError):
            return msgspec.json.decode(must_read(self._folder / "seconds.json"), type=dict[str, float])
        return {}

    def note_seconds(self, seconds: Mapping[str, float]) -> None:
        """Keep how long rows took; where that cannot be kept, it is no harm."""
        with suppress(OSError, FileAccessError):
            self._folder.mkdir(parents=True, exist_ok=True)
            save(self._folder / "seconds.json", msgspec.json.encode({**self.seconds(), **seconds}), sync=False)

    def put(self, key: str, found: KeptResult) -> None:
        """Keep what was found out."""
        folder, after = self._folder / key, found.after
        told = _ToldResult(after.box, dict(after.answers), found.changed, found.measured, found.version)
        with suppress(OSError):
            folder.mkdir(parents=True, exist_ok=True)
            (folder / "after.png").write_bytes(after.picture)
            (folder / "before.png").write_bytes(found.before.picture)
            save(folder / "told.json", msgspec.json.encode(told), sync=False)
            rows = sorted((p for p in self._folder.iterdir() if p.is_dir()), key=lambda p: p.stat().st_mtime)
            for old in rows[:-_MOST]:
                shutil.rmtree(old, ignore_errors=True)
