"""A look's rehearsal: which programs, what is laid ready for them, before and with the look, and what each shows."""

from __future__ import annotations

import hashlib
import io
import json
import queue
import re
import shutil
import subprocess
import sys
import threading
from collections.abc import Collection, Iterable, Iterator, Mapping
from contextlib import suppress
from dataclasses import dataclass, field, replace
from functools import cached_property
from importlib.resources import files as resources
from pathlib import Path
from string import Formatter

import numpy as np
from PIL import Image

from ...colour.rgb import Rgba
from ...components.catalogue import COMPONENT_BY_ID
from ...components.model import Component, Files
from ...components.rehearsal import Rehearsal
from ...disk.own import cache_folder
from ...disk.write import save
from ...language import tr
from ...look.dressed import Dressed, dress
from ...progress import Progress, Silent
from ...syntax.ini import set_keys
from ..place import find_source
from .measured import Measured, measure_picture
from .room import Act, Played, RoomError, hold, missing
from .verdict import ORDER, Shown, State, judge

READY = "Reedholm"  # the folder of things made up for programs to show
_SAME_PICTURE = 0.002  # share of pixels that may differ between two pictures of a program that follows nothing
_TERMINALS = ("kitty", "alacritty", "xfce-terminal", "konsole", "terminal")
_MOST_LAID, _MOST_FILE, _MOST_FILES = 40 << 20, 2 << 20, 400
_SECRET = re.compile(
    r"(^|/)(\.ssh|\.gnupg|\.pki|keyrings|kwalletd|\.password-store)(/|$)|cookies|logins\.json|key\d?\.db|token|passw|secret",
    re.IGNORECASE,
)
_KEPT = 600  # results that are kept
_FORMAT = 4  # of what is kept: another number makes all of it anew


@dataclass(frozen=True, eq=False)
class Rehearsed:
    """What came of one program with a look.

    picture, before: PNG files, empty where there is none; box: around what it painted; where: the file that probably
    says what is wrong, and its line; took: seconds, 0 for one that was kept; changed: whether its picture follows the
    look; answers: what a terminal told of its colours.
    """

    id: str
    component: Component
    program: str
    shown: Shown
    picture: bytes = b""
    before: bytes = b""
    box: tuple[int, int, int, int] = (0, 0, 0, 0)
    where: str = ""
    trouble: str = ""
    took: float = 0.0
    changed: bool = True
    answers: Mapping[str, str] = field(default_factory=dict)

    @property
    def state(self) -> State:
        """Return how it stands."""
        return self.shown.state

    @cached_property
    def version(self) -> str:
        """Return the program's version as it tells it, empty where it does not."""
        return version_of(self.program)

    @property
    def words(self) -> str:
        """Return it in a sentence."""
        return f"{self.shown.words} {self.trouble}".strip() if self.state == "failed" else self.shown.words


_VERSIONS: dict[str, str] = {}


def version_of(program: str) -> str:
    """Return what a program says of its version: its first line with a number in it."""
    if program not in _VERSIONS:
        _VERSIONS[program] = ""
        path = shutil.which(program)
        for word in ("--version", "-version", "-V", "-v") if path else ():
            with suppress(OSError, subprocess.TimeoutExpired):
                done = subprocess.run([path or "", word], capture_output=True, timeout=3, stdin=subprocess.DEVNULL)
                text = (done.stdout + done.stderr).decode(errors="replace")
                found = re.search(r"\b\d+(?:\.\d+)+[\w.-]*", text)
                if done.returncode == 0 and found:
                    _VERSIONS[program] = found[0]
                    break
    return _VERSIONS[program]


def available(row: Rehearsal) -> bool:
    """Tell whether all that a rehearsal needs is installed."""
    more = ("sway", "grim") if row.on == "wayland" else ()
    return all(shutil.which(name) for name in (row.program, *row.needs, *more))


def rows_of(dressed: Dressed, only: Collection[str] = (), slow: bool = False) -> list[tuple[str, Component, Rehearsal]]:
    """Return what can be tried of a dressed look: an id, the component, and how. only: ids of components."""
    out = []
    for component in dressed.components:
        if only and component.id not in only:
            continue
        for number, row in enumerate(component.rehearsals):
            if row.slow and not (slow or only):
                continue
            id_ = component.id if not number else f"{component.id}-{number + 1}"
            out.append((id_, component, row))
    return out


class _Terminal:
    """The terminal in which programs of the terminal are tried: the first of the look's that is there."""

    def __init__(self, dressed: Dressed) -> None:
        ids = [*(i for i in _TERMINALS if i in dressed.files), *_TERMINALS]
        found = ((i, r) for i in dict.fromkeys(ids) for r in COMPONENT_BY_ID[i].rehearsals)
        self.component, row = next(((i, r) for i, r in found if "{page}" in r.run and available(r)), ("", None))
        self.row = row

    def words(self, script: str) -> str:
        """Return how it is started to run a script."""
        assert self.row is not None
        return self.row.run.replace("{page}", script)


def ready_files() -> dict[str, bytes]:
    """Return what programs are given to show, by its path from the home."""
    folder = resources("mellow_finch.proof.rehearsal").joinpath("ready")
    return {f"{READY}/{f.name}": f.read_bytes() for f in folder.iterdir() if f.is_file()}


def _laid_before(dressed: Dressed, components: Iterable[Component]) -> dict[str, bytes]:
    """Return the person's own files that components name, as they are now."""
    home = dressed.home
    paths = {p for p, data in dressed.seen.items() if data is not None and not p.startswith(("/", "~"))}
    for component in components:
        for pattern in (*component.places, *component.signs):
            if not pattern.startswith("/"):
                paths.update(home.find(pattern)[:_MOST_FILES])
    out: dict[str, bytes] = {}
    size = 0
    for path in sorted(paths):
        if _SECRET.search(path) or path.startswith("../"):
            continue
        data = home(path)
        if data is None or len(data) > _MOST_FILE or size + len(data) > _MOST_LAID:
            continue
        out[path] = data
        size += len(data)
    return out


_GTK = ".config/gtk-{}/settings.ini"


def _with_theme(laid: dict[str, bytes], folder: str) -> dict[str, bytes]:
    """Return files with the look's theme chosen for the toolkit, as a settings daemon would."""
    out = dict(laid)
    for generation in ("3.0", "4.0"):
        if any(f"/{folder}/gtk-{generation}/" in path for path in laid):
            path = _GTK.format(generation)
            text = laid.get(path, b"").decode("utf-8", "surrogateescape")
            named = set_keys(text, "Settings", {"gtk-theme-name": folder})
            out[path] = named.encode("utf-8", "surrogateescape")
    return out


_SETTINGS = ".config/glib-2.0/settings/keyfile"


def _with_settings(laid: dict[str, bytes], dressed: Dressed) -> dict[str, bytes]:
    """Return files with those settings that choose components' files, where programs in there look for them."""
    text = ""
    words = {"folder": dressed.folder or dressed.look.folder, "tone": dressed.look.tone}
    for component in dressed.components:
        for row in component.settings:
            wanted = {name for _, name, _, _ in Formatter().parse(row.value) if name}
            if row.store == "gsettings" and ":" not in row.schema and not row.of and wanted <= set(words):
                group = row.schema.replace(".", "/")
                text = set_keys(text, group, {row.key: f"'{row.value.format(**words)}'"})
    return {**laid, _SETTINGS: text.encode()} if text else laid


def _acts(
    rows: Iterable[tuple[str, Component, Rehearsal]], dressed: Dressed, home: str
) -> tuple[list[Act], dict[str, bytes]]:
    """Return the acts of some rows, and what has to be laid ready for them."""
    terminal = _Terminal(dressed)
    laid = ready_files()
    acts = []
    for id_, component, row in rows:
        out = f"{home}/{READY}/{id_}.out"
        run = row.run.replace("{out}", out)
        laid |= {path: text.encode() for path, text in row.lay.items()}
        config = ""
        if row.compositor:
            config = (dressed.view(row.config) or b"").decode("utf-8", "replace")
            run = run.replace("{config}", f"{home}/{row.config}")
        if row.on == "terminal" or row.asks:
            script = f"{READY}/{id_}.sh"
            ask = f"'{sys.executable}' -B '{_ask_script()}' '{out}' 2>/dev/null\n" if row.asks else ""
            body = f". '{home}/{READY}/page.sh'\n" if row.asks else f"{run}\nsleep 60\n"
            laid[script] = f"#!/bin/sh\ncd '{home}/{READY}'\n{ask}{body}".encode()
            run = terminal.words(f"{home}/{script}") if row.on == "terminal" else run.replace("{page}", f"{home}/{script}")
        acts.append(
            Act(
                id_,
                run,
                "wayland" if row.on == "wayland" else "x11",
                row.first,
                row.then,
                row.keys,
                row.windows,
                out if row.asks or "{out}" in row.run else "",
                config,
                row.compositor,
                30.0 if row.slow else 12.0,
            )
        )
    return acts, laid


def _ask_script() -> str:
    return str(resources("mellow_finch.proof.rehearsal").joinpath("ask_terminal.py"))


def rehearse(
    dressed: Dressed,
    home: Path,
    picture: bytes,
    only: Collection[str] = (),
    slow: bool = False,
    progress: Progress | None = None,
    keep: bool = True,
) -> Iterator[Rehearsed]:
    """Yield what each program shows with a look, each when it is known.

    home: where the person's own lies; picture: what lies behind, a picture file's bytes; only: ids of components; slow:
    whether those are tried that take long; keep: whether what was found out before is taken, and kept. Writes nothing
    into the home. Raises RoomError where no rehearsal can be held; progress may stop it.
    """
    progress = progress or Silent()
    reason = missing()
    if reason:
        raise RoomError(reason)
    rows = rows_of(dressed, only, slow)
    here = [row for row in rows if available(row[2])]
    if any(row[2].on == "terminal" for row in here) and _Terminal(dressed).row is None:
        here = [row for row in here if row[2].on != "terminal"]
    there = {row[0] for row in here}
    done = 0
    for id_, component, row in rows:
        if id_ not in there:
            yield Rehearsed(id_, component, row.program, Shown("absent"))
    if not here:
        return
    progress.report(0, len(here), tr("Rehearsing"))
    store = _Store(keep)
    stage = _Staged(dressed, home, picture, here)
    fresh = []
    for row in here:
        kept = store.get(stage, row)
        if kept is None:
            fresh.append(row)
            continue
        done += 1
        yield kept
    for found in _played(stage, fresh):
        done += 1
        progress.report(done, len(here), found.component.title)
        store.put(stage, found)
        yield found


class _Staged:
    """All that a rehearsal is made from."""

    def __init__(
        self, dressed: Dressed, home: Path, picture: bytes, rows: list[tuple[str, Component, Rehearsal]]
    ) -> None:
        self.dressed, self.home, self.picture, self.rows = dressed, home, picture, rows
        for _, component, _ in rows:
            _ = dressed.paints[component.id]  # so that all that is read of the home was read
        components = [*{c.id: c for _, c, _ in rows}.values()]
        for id_ in ("gtk-3", "gtk-4", "kde", "terminal", _Terminal(dressed).component):
            if id_ in COMPONENT_BY_ID and id_ not in {c.id for c in components}:
                components.append(COMPONENT_BY_ID[id_])
        self.before = _laid_before(dressed, components)
        self.acts, self.ready = _acts(rows, dressed, str(home))
        self.after = self._after(dressed)

    def _after(self, dressed: Dressed) -> dict[str, bytes]:
        laid = {**self.before, **{o.path: o.data for o in dressed.outputs if not o.path.startswith("/")}}
        return _with_settings(_with_theme(laid, dressed.folder or dressed.look.folder), dressed)

    @cached_property
    def other(self) -> dict[str, bytes]:
        """Return what another look lays: the same with its other half."""
        look = self.dressed.look
        turned = replace(look, tone="light" if look.tone == "dark" else "dark")
        return self._after(dress(turned, self.dressed.home, only=frozenset(self.dressed.files)))

    def act(self, id_: str) -> Act:
        """Return an act by its id."""
        return next(a for a in self.acts if a.id == id_)


def _played(stage: _Staged, rows: list[tuple[str, Component, Rehearsal]]) -> Iterator[Rehearsed]:
    """Play before and after beside each other, and yield what each row came to; those that did not change, once more."""
    if not rows:
        return
    by_id = {row[0]: row for row in rows}
    acts = [stage.act(id_) for id_ in by_id]
    found: queue.Queue[tuple[str, Played | BaseException | None]] = queue.Queue()
    halt = threading.Event()

    def hall(name: str, laid: Mapping[str, bytes]) -> None:
        try:
            for played in hold(acts, {**laid, **stage.ready}, stage.picture, stage.home, 2):
                found.put((name, played))
                if halt.is_set():
                    return
        except BaseException as error:  # told where the results are taken
            found.put((name, error))
        finally:
            found.put((name, None))

    threads = [
        threading.Thread(target=hall, args=(name, laid), daemon=True)
        for name, laid in (("after", stage.after), ("before", stage.before))
    ]
    for thread in threads:
        thread.start()
    open_, have = 2, dict[str, dict[str, Played]]()
    again: list[tuple[str, Played, Played]] = []
    try:
        while open_:
            name, played = found.get()
            if played is None:
                open_ -= 1
            elif isinstance(played, BaseException):
                raise played
            else:
                both = have.setdefault(played.id, {})
                both[name] = played
                if len(both) == 2:
                    after, before = both["after"], both["before"]
                    if after.picture and before.picture and _same(after.picture, before.picture):
                        again.append((played.id, after, before))
                    else:
                        yield _told(stage, by_id[played.id], after, before, changed=True)
    finally:
        halt.set()
    if again:
        turned = [stage.act(id_) for id_, _, _ in again]
        other = {p.id: p for p in hold(turned, {**stage.other, **stage.ready}, stage.picture, stage.home)}
        for id_, after, before in again:
            third = other[id_]
            changed = bool(third.picture) and not _same(third.picture, after.picture)
            yield _told(stage, by_id[id_], after, before, changed)


def _pixels(png: bytes) -> np.ndarray:  # type: ignore[type-arg]
    with Image.open(io.BytesIO(png)) as image:
        return np.asarray(image.convert("RGB"))


def _same(a: bytes, b: bytes) -> bool:
    first, second = _pixels(a), _pixels(b)
    return first.shape == second.shape and float((first != second).any(axis=2).mean()) <= _SAME_PICTURE


def measured_of(png: bytes, box: tuple[int, int, int, int]) -> Measured:
    """Return what a picture shows inside a box."""
    x, y, wide, high = box
    return measure_picture(_pixels(png)[y : y + high, x : x + wide])


def _told(
    stage: _Staged, row: tuple[str, Component, Rehearsal], after: Played, before: Played, changed: bool
) -> Rehearsed:
    id_, component, how = row
    if not after.picture:
        return Rehearsed(id_, component, how.program, Shown("failed"), before=before.picture, trouble=after.trouble)
    dressed = stage.dressed
    roles = dict(dressed.look.scheme().colours) | (_WINDOWS if how.windows or how.compositor else {})
    measured = measured_of(after.picture, after.box)
    shown = judge(component, dressed.paints[component.id], roles, measured, how.shows, changed, after.answers)
    where = _where(dressed, stage.after, component, shown)
    return Rehearsed(
        id_,
        component,
        how.program,
        shown,
        after.picture,
        before.picture,
        after.box,
        where,
        after.trouble,
        after.took,
        changed,
        after.answers,
    )


_WINDOWS = {"window of ours": Rgba(128, 128, 128)}


def _where(dressed: Dressed, laid: Mapping[str, bytes], component: Component, shown: Shown) -> str:
    """Return the file and line that probably say what is wrong, empty where nothing is or it is not known."""
    for seen in shown.parts:
        if not seen.right and shown.state == "other":
            place = find_source(dressed, component.id, seen.part, seen.what)
            if place is not None:
                return f"~/{place.path}:{place.line}" if place.line else f"~/{place.path}"
    colours = [t.ink for t in shown.short[:1]] + [s.colour for s in shown.foreign[:1]]
    own = {f.path for f in dressed.files.get(component.id, ())}
    for colour in colours:
        for path in sorted(own | {p for p in laid if p in dressed.seen}, key=lambda p: p not in own):
            text = laid.get(path, b"").decode("utf-8", "replace").lower()
            at = text.find(colour.hex[1:7])
            if at >= 0:
                return f"~/{path}:{text.count(chr(10), 0, at) + 1}"
    return ""


class _Store:
    """What was found out before, by digest of all that it was made from."""

    def __init__(self, used: bool) -> None:
        self._folder, self._used = cache_folder() / "rehearsals", used

    def _key(self, stage: _Staged, id_: str) -> str:
        row = next(r for r in stage.rows if r[0] == id_)
        dressed, component = stage.dressed, row[1]
        sum_ = hashlib.sha256(f"{_FORMAT} {stage.act(id_)} {row[2]}".encode())
        for name in (row[2].program, *row[2].needs):
            path = Path(shutil.which(name) or "/nowhere")
            with suppress(OSError):
                state = path.resolve().stat()
                sum_.update(f"{path} {state.st_size} {state.st_mtime_ns}".encode())
        ids = {component.id, *component.after, _Terminal(dressed).component if row[2].on == "terminal" else ""}
        ids |= {"gtk-3"} if row[2].on != "terminal" and component.kind not in ("Terminals",) else set()
        paths = {f.path for id__ in ids for f in dressed.files.get(id__, ())}
        for pattern in (*component.places, *component.signs):
            paths.update(p for p in stage.before if Path(p).match(pattern))
        for path in sorted(paths):
            for laid in (stage.after, stage.before):
                sum_.update(path.encode("utf-8", "surrogateescape") + b"\0" + laid.get(path, b"\1") + b"\0")
        colours = dressed.look.scheme().colours
        sum_.update(json.dumps({name: c.hex for name, c in sorted(colours.items())}).encode())
        sum_.update(hashlib.sha256(stage.picture).digest())
        return sum_.hexdigest()[:40]

    def get(self, stage: _Staged, row: tuple[str, Component, Rehearsal]) -> Rehearsed | None:
        """Return what is known of a row."""
        if not self._used:
            return None
        folder = self._folder / self._key(stage, row[0])
        with suppress(OSError, ValueError, KeyError, TypeError):
            told = json.loads((folder / "told.json").read_text("utf-8"))
            box = tuple(told["box"])
            after = Played(row[0], (folder / "after.png").read_bytes(), box, told["answers"], "", 0.0)
            before = Played(row[0], (folder / "before.png").read_bytes(), box, {}, "", 0.0)
            return _told(stage, row, after, before, told["changed"])
        return None

    def put(self, stage: _Staged, found: Rehearsed) -> None:
        """Keep what was found out."""
        if not self._used or not found.picture or found.state in ("failed", "absent"):
            return
        folder = self._folder / self._key(stage, found.id)
        with suppress(OSError):
            folder.mkdir(parents=True, exist_ok=True)
            (folder / "after.png").write_bytes(found.picture)
            (folder / "before.png").write_bytes(found.before)
            told = {"box": found.box, "answers": found.answers, "changed": found.changed}
            save(folder / "told.json", json.dumps(told).encode(), sync=False)
            rows = sorted(self._folder.iterdir(), key=lambda p: p.stat().st_mtime)
            for old in rows[:-_KEPT]:
                shutil.rmtree(old, ignore_errors=True)


def in_order(rows: Iterable[Rehearsed]) -> list[Rehearsed]:
    """Return results with the worst first."""
    return sorted(rows, key=lambda r: (ORDER.index(r.state), _worst(r), r.component.title.casefold()))


def _worst(row: Rehearsed) -> float:
    return row.shown.short[0].need.shortfall(row.shown.short[0].ratio) if row.shown.short else 1.0


def home_files_of(dressed: Dressed) -> Files:
    """Return the home as it is now."""
    return dressed.home
