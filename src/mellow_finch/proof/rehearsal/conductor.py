"""A look's rehearsal: each program before and with the look, and what its picture shows."""

from __future__ import annotations

import io
import queue
import threading
from collections.abc import Collection, Iterable, Iterator, Mapping
from dataclasses import dataclass, replace
from pathlib import Path

import numpy as np
from PIL import Image

from ...colour.rgb import Rgba, parse_hex
from ...components.catalogue import COMPONENT_BY_ID
from ...components.model import Component
from ...language import tr
from ...look.dressed import Dressed
from ...progress import Progress, Silent
from ...theme.result.account import OutEntry
from ..place import find_source
from ..toolkit.ask import QT, ToolkitError, ask, reason_not
from .kept import KeptResult, ResultStore
from .measured import Measured, Pixels, TextPlace, measure_picture
from .prepared import LIMIT_S, Row, Staged, Terminal, available, rows_of
from .room import Act, Played, RoomError, hold, missing
from .verdict import ORDER, Shown, State, judge

_SAME_PICTURE = 0.002  # share of pixels that may differ between two pictures of a program that follows nothing
_LOOK_S = 0.2
_PAINTERS = {"gtk-3": (3, "GTK 3"), "gtk-4": (4, "GTK 4"), "qt-drawn": (QT, "Qt")}
_OF_GALLERY = ("window", "view", "header bar", "button", "selection")
_WINDOWS = {"window of ours": Rgba(128, 128, 128)}


@dataclass(frozen=True, eq=False)
class Rehearsed:
    """What came of one program with a look.

    picture, before: PNG files, empty where there is none; box: around what it painted; where: the file that probably
    says what is wrong, and its line; took: seconds, 0 for one that was kept; version: of the program, where it tells.
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
    version: str = ""

    @property
    def state(self) -> State:
        """Return how it stands."""
        return self.shown.state

    @property
    def words(self) -> str:
        """Return it in a sentence."""
        return f"{self.shown.words} {self.trouble}".strip() if self.state == "failed" else self.shown.words


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
    whether those are tried that take long; keep: whether what was found out before is taken. Writes nothing into the
    home. Raises RoomError where no rehearsal can be held; progress may stop it.
    """
    progress = progress or Silent()
    reason = missing()
    if reason:
        raise RoomError(reason)
    rows = rows_of(dressed, only, slow)
    terminal = Terminal(dressed).row is not None
    here = [row for row in rows if available(row.how) and (terminal or row.how.on != "terminal")]
    for row in rows:
        if row not in here:
            yield Rehearsed(row.id, row.component, row.how.program, Shown("absent"))
    galleries = _galleries(dressed, only)
    total, done = len(here) + len(galleries), 0
    progress.report(0, total, tr("Trying programs"))
    store = ResultStore()
    if here:
        stage = Staged(dressed, home, picture, here)
        known = {row.id: store.get(store.key(stage, row), row.id) if keep else None for row in here}
        for row in here:
            kept = known[row.id]
            if kept is not None:
                done += 1
                yield _told(stage, row, kept)
        seconds, took = store.seconds(), dict[str, float]()
        left = sorted((row for row in here if known[row.id] is None), key=lambda row: seconds.get(row.id, 0.0))
        for row, found in _played(stage, left, progress, (done, total)):
            done += 1
            progress.report(done, total, row.component.title)
            if found.after.picture:
                took[row.id] = found.after.took
                found = found._replace(measured=measured_of(found.after), version=found.after.version)
                store.put(store.key(stage, row), found)
            yield _told(stage, row, found)
        store.note_seconds(took)
    for id_ in galleries:
        progress.report(done, total, COMPONENT_BY_ID[id_].title)
        done += 1
        yield _gallery(dressed, id_, store, keep)


def _galleries(dressed: Dressed, only: Collection[str]) -> list[str]:
    """Return the components whose toolkit can be asked here."""
    ids = (i for i in _PAINTERS if dressed.files.get(i) and (not only or i in only))
    return [i for i in ids if not reason_not(_PAINTERS[i][0])]


def _gallery(dressed: Dressed, id_: str, store: ResultStore, keep: bool) -> Rehearsed:
    """Return what a toolkit paints with its own part of the look: every usual widget in every state."""
    component, key = COMPONENT_BY_ID[id_], store.gallery_key(dressed, id_)
    found = store.get(key, id_) if keep else None
    if found is None:
        try:
            found = _painted(dressed, id_)
        except ToolkitError as error:
            return Rehearsed(f"{id_}-gallery", component, _PAINTERS[id_][1], Shown("failed"), trouble=str(error))
        store.put(key, found)
    shows = tuple(f"{name}/fill" for name in _OF_GALLERY if name in component.by_key)
    roles = {**dressed.look.scheme().colours, "around": Rgba(0, 0, 0)}
    shown = judge(component, dressed.paints[id_], roles, found.measured, shows, changed=True)
    picture, box = found.after.picture, found.after.box
    return Rehearsed(f"{id_}-gallery", component, _PAINTERS[id_][1], shown, picture, box=box, version=found.version)


def _painted(dressed: Dressed, id_: str) -> KeptResult:
    """Let a toolkit paint its gallery; what has insufficient contrast is as it says itself. Raises ToolkitError."""
    generation, _ = _PAINTERS[id_]
    entries = {f.path: OutEntry(f.data, 0o644, "") for f in dressed.files[id_]}
    verdict = ask(entries, dressed.folder or dressed.look.folder, generation, dressed.look.temper.text_need)
    png = verdict.pictures[0]
    pixels = _pixels(png)
    box = (0, 0, pixels.shape[1], pixels.shape[0])
    texts = tuple(TextPlace(parse_hex(p.text), parse_hex(p.surface), (), p.what != "text") for p in verdict.short)
    played = Played(id_, png, box, {}, "", 0.0)
    nothing = played._replace(picture=b"")
    measured = measure_picture(pixels)._replace(texts=texts)
    return KeptResult(played, nothing, True, measured, verdict.version.removeprefix("Qt "))


def _takes_long(act: Act) -> tuple[bool, ...]:
    """Return by what acts are ordered so that there is something to see soon; those alike stay in their order."""
    return act.compositor, act.windows, bool(act.then), bool(act.keys), act.limit > LIMIT_S


class _Halls:
    """Two rooms at once, before and with the look, and what comes out of them."""

    def __init__(self, stage: Staged, rows: Collection[Row]) -> None:
        self._found: queue.Queue[tuple[str, Played | BaseException | None]] = queue.Queue()
        self._halt = threading.Event()
        acts = sorted((stage.act(row.id) for row in rows), key=_takes_long)

        def hall(name: str, laid: Mapping[str, bytes]) -> None:
            # A program tells its version once.
            own = acts if name == "after" else [replace(act, program="") for act in acts]
            try:
                for played in hold(own, {**laid, **stage.ready}, stage.picture, stage.home, 2, self._halt.is_set):
                    self._found.put((name, played))
            except BaseException as error:  # told where the results are taken
                self._found.put((name, error))
            finally:
                self._found.put((name, None))

        for name, laid in (("after", stage.after), ("before", stage.before)):
            threading.Thread(target=hall, args=(name, laid), daemon=True).start()

    def both(self, waiting: Progress, at: tuple[int, int]) -> Iterator[tuple[Played, Played]]:
        """Yield what an act came to with the look and before it, when both are over."""
        have: dict[str, dict[str, Played]] = {}
        open_ = 2
        try:
            while open_:
                try:
                    name, played = self._found.get(timeout=_LOOK_S)
                except queue.Empty:
                    waiting.report(*at, tr("Trying programs"))
                    continue
                if isinstance(played, BaseException):
                    raise played
                if played is None:
                    open_ -= 1
                    continue
                pair = have.setdefault(played.id, {})
                pair[name] = played
                if len(pair) == 2:
                    at = (at[0] + 1, at[1])
                    yield pair["after"], pair["before"]
        finally:
            self._halt.set()


def _played(
    stage: Staged, rows: list[Row], progress: Progress, at: tuple[int, int]
) -> Iterator[tuple[Row, KeptResult]]:
    """Yield what each row came to; one whose picture is the same before and after is played with another look too."""
    if not rows:
        return
    by_id = {row.id: row for row in rows}
    again: list[tuple[Played, Played]] = []
    for after, before in _Halls(stage, rows).both(progress, at):
        if after.picture and before.picture and _same(after.picture, before.picture):
            again.append((after, before))
        else:
            yield by_id[after.id], KeptResult(after, before, changed=True)
    if again:
        turned = [stage.act(after.id) for after, _ in again]
        other = {p.id: p for p in hold(turned, {**stage.other, **stage.ready}, stage.picture, stage.home)}
        for after, before in again:
            third = other[after.id].picture
            changed = bool(third) and not _same(third, after.picture)
            yield by_id[after.id], KeptResult(after, before, changed)


def _pixels(png: bytes) -> Pixels:
    with Image.open(io.BytesIO(png), formats=("PNG",)) as image:
        return np.asarray(image.convert("RGB"))


def _same(a: bytes, b: bytes) -> bool:
    first, second = _pixels(a), _pixels(b)
    return first.shape == second.shape and float((first != second).any(axis=2).mean()) <= _SAME_PICTURE


def measured_of(played: Played) -> Measured:
    """Return what the picture of an act shows of all that it painted."""
    x, y, wide, high = played.box
    inside = slice(y, y + high), slice(x, x + wide)
    painted = None
    if played.mask:
        with Image.open(io.BytesIO(played.mask), formats=("PNG",)) as mask:
            painted = np.asarray(mask.convert("1"))[inside]
    return measure_picture(_pixels(played.picture)[inside], painted)


def _told(stage: Staged, row: Row, found: KeptResult) -> Rehearsed:
    id_, component, how = row
    after, before = found.after, found.before
    if not after.picture:
        return Rehearsed(id_, component, how.program, Shown("failed"), before=before.picture, trouble=after.trouble)
    dressed = stage.dressed
    roles = dict(dressed.look.scheme().colours) | {f"around {hex_}": parse_hex(hex_) for hex_ in how.around}
    if how.windows or how.compositor:
        roles |= _WINDOWS
    paints, asked = dressed.paints[component.id], dressed.look.temper.text_need
    measured = found.measured._replace(texts=tuple(t._replace(asked=asked) for t in found.measured.texts))
    shown = judge(component, paints, roles, measured, how.shows, found.changed, after.answers, how.icons)
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
        found.version,
    )


def _where(dressed: Dressed, laid: Mapping[str, bytes], component: Component, shown: Shown) -> str:
    """Return the file and line that probably say what is wrong, empty where nothing is or it is not known."""
    for seen in shown.parts:
        if not seen.right and shown.state == "other":
            place = find_source(dressed, component.id, seen.part, seen.what)
            if place is not None:
                return f"~/{place.path}:{place.line}" if place.line else f"~/{place.path}"
    own = {f.path for f in dressed.files.get(component.id, ())}
    for colour in [t.ink for t in shown.short[:1]] + [s.colour for s in shown.foreign[:1]]:
        for path in sorted(own):
            text = laid.get(path, b"").decode("utf-8", "replace").lower()
            at = text.find(colour.hex[1:7])
            if at >= 0:
                return f"~/{path}:{text.count(chr(10), 0, at) + 1}"
    return ""


def in_order(rows: Iterable[Rehearsed]) -> list[Rehearsed]:
    """Return results with the worst first."""
    return sorted(rows, key=lambda r: (ORDER.index(r.state), _worst(r), r.component.title.casefold()))


def _worst(row: Rehearsed) -> float:
    return row.shown.short[0].need.shortfall(row.shown.short[0].ratio) if row.shown.short else 1.0
