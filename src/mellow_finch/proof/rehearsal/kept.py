"""What was found out in earlier rehearsals, by digest of all that it was made from."""

from __future__ import annotations

import hashlib
import json
import shutil
from contextlib import suppress
from pathlib import Path
from typing import Any, NamedTuple

from ...disk.own import cache_folder
from ...disk.write import save
from .prepared import Row, Staged, Terminal
from .room import Played

_MOST = 600  # results that are kept
_FORMAT = 5  # of what is kept: another number makes all of it anew


class KeptResult(NamedTuple):
    """What is known of a row: the pictures with the look and before it, and whether they change with a look."""

    after: Played
    before: Played
    changed: bool


class Store:
    """Results in a folder of the cache; the oldest go."""

    def __init__(self) -> None:
        self._folder = cache_folder() / "rehearsals"

    def _key(self, stage: Staged, row: Row) -> str:
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

    def get(self, stage: Staged, row: Row) -> KeptResult | None:
        """Return what is known of a row."""
        folder = self._folder / self._key(stage, row)
        with suppress(OSError, ValueError, KeyError, TypeError):
            told = json.loads((folder / "told.json").read_text("utf-8"))
            box = tuple(told["box"])
            after = Played(row.id, (folder / "after.png").read_bytes(), box, told["answers"], "", 0.0)
            before = Played(row.id, (folder / "before.png").read_bytes(), box, {}, "", 0.0)
            return KeptResult(after, before, bool(told["changed"]))
        return None

    def put(self, stage: Staged, row: Row, found: KeptResult) -> None:
        """Keep what was found out of a row."""
        folder = self._folder / self._key(stage, row)
        told: dict[str, Any] = {"box": found.after.box, "answers": dict(found.after.answers), "changed": found.changed}
        with suppress(OSError):
            folder.mkdir(parents=True, exist_ok=True)
            (folder / "after.png").write_bytes(found.after.picture)
            (folder / "before.png").write_bytes(found.before.picture)
            save(folder / "told.json", json.dumps(told).encode(), sync=False)
            rows = sorted(self._folder.iterdir(), key=lambda p: p.stat().st_mtime)
            for old in rows[:-_MOST]:
                shutil.rmtree(old, ignore_errors=True)
