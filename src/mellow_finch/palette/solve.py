"""Making every pair readable with the smallest change of colour.

Pairs are constraints. Given the surfaces, the best move of each text is independent of all other texts, so texts are
eliminated exactly; surfaces move only where no text can help, or where moving them is cheaper in total. Change is
measured as Euclidean distance in OKLab, summed over all colours.
"""

from __future__ import annotations

from collections.abc import Collection, Iterable, Mapping
from dataclasses import dataclass

import numpy as np

from ..colour.contrast import enough, luminance
from ..colour.rgb import Rgba
from ..colour.spaces import Array
from ..errors import ImpossibleLocksError
from ..language import listed, plural, tr
from .fit import fit
from .lightness import PATH_STEPS, least_costs, path_of, reaches
from .pairs import PAIRS, RolePair, pairs_for
from .roles import ROLE_BY_ID

_ROUNDS = 6
_COARSE = 2
_WORTH = 0.02  # a text moved by more than this lets its surfaces be tried too
_FAR = 1e6


@dataclass
class _PaletteFit:
    """One solution in the making; wanted never changes, now does."""

    wanted: dict[str, Rgba]
    now: dict[str, Rgba]
    held: frozenset[str]
    pairs: tuple[RolePair, ...]

    def __post_init__(self) -> None:
        self.of_text: dict[str, list[RolePair]] = {}
        self.on_surface: dict[str, list[RolePair]] = {}
        for pair in self.pairs:
            self.of_text.setdefault(pair.text, []).append(pair)
            self.on_surface.setdefault(pair.surface, []).append(pair)
        # Texts that are surfaces to others (the accent, the cursor, status fills) come before what stands on them.
        self.texts = sorted(self.of_text, key=lambda t: t not in self.on_surface)

    def failing(self) -> list[RolePair]:
        return [p for p in self.pairs if not self.passes(p)]

    def passes(self, pair: RolePair) -> bool:
        return enough(luminance(self.now[pair.text]), luminance(self.now[pair.surface]), pair.need.level)

    def fit_text(self, text: str) -> bool:
        """Move one text, from what was wanted, to the nearest colour that all its surfaces allow."""
        rows = [(self.now[p.surface], p.need.level) for p in self.of_text[text]]
        if text in self.held:
            return all(self.passes(p) for p in self.of_text[text])
        if text not in self.on_surface:
            found = fit(self.wanted[text], rows)
        else:
            way, cost = path_of(self.wanted[text].opaque), self.allowed(text)
            for surface, need in rows:
                cost = np.where(reaches(way.luminance, luminance(surface), need), cost, _FAR)
            found = way.at(int(cost.argmin())) if cost.min() < _FAR else None
        if found is not None:
            self.now[text] = found
        return found is not None

    def _held_on(self, surface: str) -> list[tuple[Rgba, float]]:
        """Return what is held and drawn on a surface: colours that it must agree with when it moves."""
        return [(self.now[p.text], p.need.level) for p in self.on_surface.get(surface, ()) if p.text in self.held]

    def allowed(self, surface: str) -> Array:
        """Return for each step of a surface its cost, or far where what stands on it could not be read.

        That is what is held there, and any text: above 4.58 : 1 neither black nor white reaches the need on mid greys.
        """
        way = path_of(self.wanted[surface].opaque)
        good = np.ones(PATH_STEPS, dtype=bool)
        for colour, need in self._held_on(surface):
            good &= reaches(way.luminance, luminance(colour), need)
        need = max((p.need.level for p in self.on_surface.get(surface, ()) if p.text not in self.held), default=0.0)
        good &= reaches(way.luminance, 0.0, need) | reaches(way.luminance, 1.0, need)
        return np.where(good, way.cost, _FAR)

    def move_surfaces(self, text: str) -> bool:
        """Find the cheapest step of a text with its surfaces moved out of its way; False when locks forbid all."""
        way = path_of(self.wanted[text].opaque)
        if text in self.held:
            steps, total = np.array([0]), np.zeros(1)
            lums = np.array([luminance(self.now[text])])
        else:
            steps = np.arange(0, PATH_STEPS, _COARSE)
            total, lums = way.cost[steps].copy(), way.luminance[steps]
        moves: list[tuple[str, Array]] = []
        for pair in self.of_text[text]:
            if pair.surface in self.held:
                good = reaches(lums, luminance(self.now[pair.surface]), pair.need.level)
                total = np.where(good, total, _FAR)
                continue
            other = path_of(self.wanted[pair.surface].opaque)
            good = reaches(lums[:, None], other.luminance[None, :], pair.need.level)
            cost = np.where(good, self.allowed(pair.surface)[None, :], _FAR)
            best = cost.argmin(axis=1)
            total = total + cost[np.arange(len(steps)), best]
            moves.append((pair.surface, best))
        pick = int(total.argmin())
        if total[pick] >= _FAR:
            return False
        if text not in self.held:
            self.now[text] = way.at(int(steps[pick]))
        for surface, best in moves:
            self.now[surface] = path_of(self.wanted[surface].opaque).at(int(best[pick]))
        return True

    def take_side(self, lighter: bool, members: frozenset[str]) -> bool:
        """Solve a connected part of the table afresh, its shared texts all lighter (or darker) than their surfaces.

        Returns False, leaving the part as it was wanted, when that side has no solution.
        """
        for role in members - self.held:
            self.now[role] = self.wanted[role]
        shared = [t for t in self.texts if t in members and t not in self.held and len(self.of_text[t]) > 1]
        shared += [t for t in self.texts if t in members and t not in self.held and t in self.on_surface]
        for surface in (s for s in self.on_surface if s in members - self.held and s not in self.of_text):
            way, good = path_of(self.wanted[surface].opaque), self.allowed(surface) < _FAR
            for pair in self.on_surface[surface]:
                if pair.text in shared:
                    lums = path_of(self.wanted[pair.text].opaque).luminance[self.allowed(pair.text) < _FAR]
                    if not lums.size:
                        return False
                    far = float(lums.max() if lighter else lums.min())
                    side = way.luminance < far if lighter else way.luminance > far
                    good &= side & reaches(way.luminance, far, pair.need.level)
            if not good.any():
                return False
            self.now[surface] = way.at(int(np.where(good, way.cost, _FAR).argmin()))
        for text in dict.fromkeys(shared):
            way = path_of(self.wanted[text].opaque)
            good = self.allowed(text) < _FAR
            for pair in self.of_text[text]:
                lum = luminance(self.now[pair.surface])
                good &= reaches(way.luminance, lum, pair.need.level)
                good &= way.luminance > lum if lighter else way.luminance < lum
            if not good.any():
                return False
            self.now[text] = way.at(int(np.where(good, way.cost, _FAR).argmin()))
        return all(self.fit_text(t) for t in self.texts if t in members and t not in shared)

    def connected(self, role: str) -> frozenset[str]:
        """Return every role that pairs lead to from one role."""
        found, rest = {role}, [role]
        while rest:
            one = rest.pop()
            near = {p.surface for p in self.of_text.get(one, ())} | {p.text for p in self.on_surface.get(one, ())}
            rest += near - found
            found |= near
        return frozenset(found)

    def change(self) -> float:
        """Return the total change so far."""
        return sum(float(path_of(self.wanted[n].opaque).cost[self._step(n)]) for n in self.now if n not in self.held)

    def settle(self, surface: str) -> None:
        """Move one surface where that and the best moves of its texts change less in total than they do now."""
        rows = [p for p in self.on_surface[surface] if p.text not in self.held]
        way = path_of(self.wanted[surface].opaque)
        allowed = self.allowed(surface)
        for other in self.of_text.get(surface, ()):
            allowed = np.where(
                reaches(way.luminance, luminance(self.now[other.surface]), other.need.level), allowed, _FAR
            )

        total = allowed.copy()
        for pair in rows:
            text = path_of(self.wanted[pair.text].opaque)
            rest = text.cost
            for other in self.of_text[pair.text]:
                if other.surface != surface:
                    lum = luminance(self.now[other.surface])
                    rest = np.where(reaches(text.luminance, lum, other.need.level), rest, _FAR)
            total += least_costs(way.luminance, text.luminance, rest, pair.need.level, _FAR)
        best = int(total.argmin())
        here = sum(path_of(self.wanted[n].opaque).cost[self._step(n)] for n in (surface, *(p.text for p in rows)))
        if float(total[best]) < here - 1e-4:
            self.now[surface] = way.at(best)
            for pair in rows:
                self.fit_text(pair.text)

    def _step(self, role: str) -> int:
        way = path_of(self.wanted[role].opaque)
        return int((way.rgb.astype(int) - np.array(self.now[role][:3])).__abs__().sum(axis=1).argmin())


def solve(
    colours: Mapping[str, Rgba],
    locked: Collection[str] = (),
    held: Collection[str] = (),
    pairs: tuple[RolePair, ...] = PAIRS,
    text_need: float = 0.0,
    settle: bool = True,
) -> dict[str, Rgba]:
    """Return the colours changed as little as possible so that every pair passes.

    locked: roles that never move because the person said so; held: roles that must not move this time;
    settle: whether surfaces may move too where that is the smaller change in total;
    text_need: raises the need of every 4.5 pair of the whole table, for a look that asks for 7. Colours are taken
    as opaque.
    Pure and deterministic; what passes already is returned unchanged.
    Raises ImpossibleLocksError, naming the roles, when what does not move leaves no solution.
    """
    if pairs is PAIRS:
        pairs = pairs_for(text_need)
    work = _PaletteFit(dict(colours), dict(colours), frozenset(locked) | frozenset(held), pairs)
    if not _solved(work):
        raise impossible(_in_the_way(work, frozenset(locked)), frozenset(locked))
    if settle:
        _settle_all(work)
    return work.now


def _solved(work: _PaletteFit) -> bool:
    return _text_by_text(work) or _side_by_side(work)


def _in_the_way(work: _PaletteFit, locked: frozenset[str]) -> list[str]:
    """Return what stands in the way of a palette that has no solution.

    That is what does not move in a pair that fails. Where only others fail, it is every lock of their part of the table
    without which there is a solution; all locks of that part where it takes more than one.
    """
    failing = work.failing()
    names = list(dict.fromkeys(r for p in failing for r in (p.text, p.surface) if r in work.held))
    if names or not failing:
        return names
    part = work.connected(failing[0].text)
    near = [role for role in work.wanted if role in ((part & locked) or (part & work.held))]
    helping = [r for r in near if _solved(_PaletteFit(work.wanted, dict(work.wanted), work.held - {r}, work.pairs))]
    return helping or near


def _text_by_text(work: _PaletteFit) -> bool:
    """Move each failing text, and its surfaces where it must be; enough in nearly every case."""
    for _ in range(_ROUNDS):
        short = {p.text for p in work.failing()}
        if not short:
            return True
        for text in work.texts:
            if text in short:
                if not work.fit_text(text) and not work.move_surfaces(text):
                    return False
                short |= {p.text for p in work.on_surface.get(text, ())}
    return not work.failing()


def _side_by_side(work: _PaletteFit) -> bool:
    """Solve each part that still fails with its texts on one side of their surfaces, the cheaper of the two."""
    for _ in range(_ROUNDS):
        left = work.failing()
        if not left:
            return True
        members = work.connected(left[0].text)
        options = [option for lighter in (True, False) if (option := _on_side(work, lighter, members)) is not None]
        if not options:
            return False
        work.now = min(options, key=lambda option: option[0])[1]
    return not work.failing()


def _on_side(work: _PaletteFit, lighter: bool, members: frozenset[str]) -> tuple[float, dict[str, Rgba]] | None:
    """Return the total change and the colours of one side, None when that side has no solution."""
    if not work.take_side(lighter, members) or any(p.text in members for p in work.failing()):
        return None
    return work.change(), dict(work.now)


def _settle_all(work: _PaletteFit) -> None:
    moved = [
        t for t in work.texts if work.now[t] != work.wanted[t] and path_of(work.wanted[t]).cost[work._step(t)] > _WORTH
    ]
    surfaces = dict.fromkeys(p.surface for t in moved for p in work.of_text[t] if p.surface not in work.held)
    before = dict(work.now)
    for surface in surfaces:
        work.settle(surface)
        if work.failing():
            work.now = dict(before)
        before = dict(work.now)


def impossible(names: Iterable[str], locked: frozenset[str]) -> ImpossibleLocksError:
    """Return the error that names the roles which stand in each other's way."""
    names = list(names)
    titles = [ROLE_BY_ID[r].title if r in ROLE_BY_ID else r for r in names]
    roles = listed(titles) or tr("These colours")
    if any(r in locked for r in names):
        words = plural(
            "{roles} is locked to a colour that leaves no readable palette.",
            "{roles} are locked to colours that leave no readable palette.",
            len(titles),
            roles=roles,
        )
    else:
        words = tr("{roles} must stay as they are, which leaves no readable palette.").format(roles=roles)
    return ImpossibleLocksError(words, tuple(names), tr("Unlock or change one of them."))
