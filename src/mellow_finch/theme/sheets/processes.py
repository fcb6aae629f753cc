"""The sheets of a theme mended, those that share nothing side by side in processes of their own.

`python -m mellow_finch.theme.sheets.processes` is such a process (see `intake.worker`): it is given values and gives
some back.
"""

from __future__ import annotations

import hashlib
import os
import pickle
import threading
from collections import OrderedDict
from collections.abc import Mapping, Sequence
from concurrent.futures import ThreadPoolExecutor, wait
from typing import Any, NamedTuple

from ...colour.rgb import Rgba
from ...components.judge import Behind
from ...intake.worker import Table, WorkerLostError, allow, ask, serve
from ...language import tr
from ...progress import Progress
from ...recolour.ticks import Face
from ...syntax.sheet import Sheet
from ..bundle.model import parts_for
from ..result.account import MeasuredFailure, RemainingFailure
from .mender import Mender
from .surfaces import places_for, settle_surfaces

Literals = dict[tuple[str, int], Rgba]  # by file and number in it
_MODULE = "mellow_finch.theme.sheets.processes"
_MOST_BESIDE = 2  # processes, as many as are kept for the next time
_LARGE = 60_000  # characters of a sheet from which a process of its own is worth its start
_SECONDS = 60.0
_ROOM = 3_000_000_000  # bytes of address space
_LOOK_S = 0.2  # seconds after which it is looked whether to stop


class SheetJob(NamedTuple):
    """One sheet to be mended.

    fills: by name, what the pictures beside it fill a box with; faces: what controls that are pictures show; was: the
    colours that the theme came with; frozen and chosen: the numbers of literals that must not move, and of those that
    a person gave a colour.
    """

    entry: str
    component: str
    skeleton: str
    pieces: tuple[tuple[str, int], ...]
    fills: Mapping[str, tuple[Rgba, ...]]
    faces: Mapping[str, Face]
    was: Sequence[Rgba]
    frozen: frozenset[int]
    chosen: frozenset[int]


class Order(NamedTuple):
    """Sheets that share files, in their order, with all that mending them needs.

    colours: the look's, to which surfaces are brought; none where the theme keeps its own.
    """

    sheets: tuple[SheetJob, ...]
    literals: Literals
    colours: Mapping[str, Rgba]
    behind: Behind
    parts: Mapping[str, str]
    told: Sequence[Sequence[MeasuredFailure]]

    @property
    def size(self) -> int:
        """Return how many characters there are to mend."""
        return sum(len(sheet.skeleton) for sheet in self.sheets)


Mended = tuple[
    Literals, dict[str, str], list[RemainingFailure], list[str]
]  # and rules by entry, what has insufficient contrast, inverse parts


def mend_sheets(order: Order) -> Mended:
    """Mend sheets one after the other and return their literals, rules, what fails, and inverse parts."""
    literals = dict(order.literals)
    menders: dict[str, Mender] = {}
    inverse: dict[str, None] = {}
    for sheet in order.sheets:
        own = [literals[p] for p in sheet.pieces]
        places = places_for(sheet.component)
        mender = Mender(
            Sheet(sheet.skeleton, sheet.fills), parts_for(sheet.component), own, order.behind, sheet.frozen,
            _same(sheet.pieces), sheet.was, [p.at for p in places], faces=sheet.faces,
        )  # fmt: skip
        if order.colours:
            inverse |= dict.fromkeys(settle_surfaces(mender, places, order.colours, sheet.chosen, order.parts))
        mender.mend()
        for rows in order.told:
            mender.mend_told(row for row in rows if row.component == sheet.component)
        literals.update(zip(sheet.pieces, mender.literals, strict=False))
        menders[sheet.entry] = mender
    short: list[RemainingFailure] = []
    for sheet in order.sheets:
        mender = menders[sheet.entry]
        # A file that several sheets import may have been moved for a later one.
        mender.literals[: len(sheet.pieces)] = [literals[p] for p in sheet.pieces]
        short += [
            RemainingFailure(sheet.entry, p.part.key, p.ratio, p.need.level)
            for p in mender.with_drawn()
            if not p.passes
        ]
    rules = {entry: mender.rules() for entry, mender in menders.items() if mender.added}
    return literals, rules, short, list(inverse)


def _same(pieces: Sequence[tuple[str, int]]) -> dict[int, list[int]]:
    """Return, for literals that a sheet takes in more than once, all their numbers by the first."""
    seen: dict[tuple[str, int], list[int]] = {}
    for i, piece in enumerate(pieces):
        seen.setdefault(piece, []).append(i)
    return {rows[0]: rows for rows in seen.values() if len(rows) > 1}


def together(sheets: Sequence[SheetJob]) -> list[tuple[SheetJob, ...]]:
    """Return sheets in groups that share no file, each in its order."""
    groups: list[tuple[set[str], list[SheetJob]]] = []
    for sheet in sheets:
        files = {path for path, _ in sheet.pieces}
        own = [g for g in groups if not g[0].isdisjoint(files)]
        for group in own:
            groups.remove(group)
        rows = [row for _, group in own for row in group]
        groups.append((files.union(*(paths for paths, _ in own)), [*rows, sheet]))
    order = {sheet.entry: i for i, sheet in enumerate(sheets)}
    return [tuple(sorted(rows, key=lambda s: order[s.entry])) for _, rows in groups]


_KEPT: OrderedDict[bytes, Mended] = OrderedDict()  # by what was asked, the latest last
_MOST_KEPT = 8
_LOCK = threading.Lock()


def mend_orders(orders: Sequence[Order], progress: Progress) -> list[Mended]:
    """Mend groups of sheets, large ones side by side, and return what comes of each, in their order.

    What was mended lately is not mended again: people go back and forth between looks.
    """
    keys = [hashlib.blake2b(pickle.dumps(tuple(order))).digest() for order in orders]
    with _LOCK:
        known = {key: _KEPT[key] for key in keys if key in _KEPT}
    for done in range(len(known)):
        progress.report(done, len(orders), tr("Fixing the contrast"))
    new = {key: order for key, order in zip(keys, orders, strict=True) if key not in known}
    known |= dict(zip(new, _all_of(tuple(new.values()), progress), strict=True))
    with _LOCK:
        for key in keys:
            _KEPT[key] = known[key]
            _KEPT.move_to_end(key)
        while len(_KEPT) > _MOST_KEPT:
            _KEPT.popitem(last=False)
    return [known[key] for key in keys]


def _all_of(orders: Sequence[Order], progress: Progress) -> list[Mended]:
    large = [i for i, order in enumerate(orders) if order.size >= _LARGE]
    beside = min((os.cpu_count() or 1) - 1, _MOST_BESIDE) if len(large) > 1 else 0
    if beside < 1:
        out = []
        for done, order in enumerate(orders):
            progress.report(done, len(orders), tr("Fixing the contrast"))
            out.append(mend_sheets(order))
        return out
    # Threads wait for processes, which take the large ones from the first on; here it is from the last on.
    pool = ThreadPoolExecutor(beside)
    found: dict[int, Mended] = {}
    try:
        waiting = {i: pool.submit(_elsewhere, orders[i]) for i in large}
        for i in reversed(range(len(orders))):
            if i not in waiting or waiting[i].cancel():
                waiting.pop(i, None)
                progress.report(len(found), len(orders), tr("Fixing the contrast"))
                found[i] = mend_sheets(orders[i])
        while wait(waiting.values(), _LOOK_S).not_done:
            done = sum(future.done() for future in waiting.values())
            progress.report(len(found) + done, len(orders), tr("Fixing the contrast"))
        found |= {i: future.result() for i, future in waiting.items()}
    finally:
        pool.shutdown(wait=False, cancel_futures=True)
    return [found[i] for i in range(len(orders))]


def _elsewhere(order: Order) -> Mended:
    """Mend in a process of its own; here where that is lost."""
    try:
        head, body = ask(_MODULE, {}, pickle.dumps(tuple(order)), seconds=_SECONDS)
    except WorkerLostError:
        return mend_sheets(order)
    if "raised" in head:
        return mend_sheets(order)
    literals, rules, short, inverse = pickle.loads(body)
    return literals, rules, [RemainingFailure(*row) for row in short], inverse


def answer(_table: Table, body: bytearray, _handles: list[int]) -> tuple[Table, Any]:
    """Mend what lies in the body."""
    allow(_SECONDS, _ROOM)
    literals, rules, short, inverse = mend_sheets(Order(*pickle.loads(body)))
    return {}, pickle.dumps((literals, rules, [tuple(row) for row in short], inverse))


if __name__ == "__main__":
    serve(answer)
