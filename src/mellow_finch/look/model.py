"""The Look: everything one result is made of, as one immutable value; and the pure edits that change it."""

from __future__ import annotations

import re
from collections.abc import Mapping
from dataclasses import dataclass, field, replace
from types import MappingProxyType
from typing import Any

from ..colour.rgb import Rgba
from ..components.model import Scheme
from ..palette.derive import TONES, Recipe, Tone, derive
from ..palette.pairs import PAIRS, JudgedPair, failing
from ..palette.readings import Reading
from ..palette.solve import solve
from ..picture.backdrop import PLAIN, Backdrop

Palette = Mapping[str, Rgba]


@dataclass(frozen=True)
class Look:
    """One result.

    source: the picture's path as it was given, empty for a scheme; backdrop: its darkest and lightest places;
    palettes: every role of both tones; locks: roles that never move; left_out: components not dressed;
    mend_as_you_go: whether other roles and rewritten files follow so that everything stays readable;
    mends: "component/part" put right one by one; unknown: keys of a newer file, kept.
    """

    name: str
    tone: Tone
    recipe: Recipe
    palettes: Mapping[Tone, Palette]
    source: str = ""
    backdrop: Backdrop = PLAIN
    pins: tuple[Rgba, ...] = ()
    locks: frozenset[str] = frozenset()
    left_out: frozenset[str] = frozenset()
    mend_as_you_go: bool = True
    mends: frozenset[str] = frozenset()
    unknown: Mapping[str, Any] = field(default_factory=dict)

    @property
    def colours(self) -> Palette:
        """Return the palette of the tone in force."""
        return self.palettes[self.tone]

    @property
    def folder(self) -> str:
        """Return the name as it may stand in a path: letters, digits, dashes."""
        return re.sub(r"[^A-Za-z0-9]+", "-", self.name).strip("-") or "Look"

    def scheme(self) -> Scheme:
        """Return what components need to know."""
        return Scheme(self.name, self.folder, self.tone, self.colours, self.backdrop, self.mend_as_you_go, self.mends)

    def failing(self) -> tuple[JudgedPair, ...]:
        """Return the pairs of roles that fall short in the tone in force, worst first."""
        return failing(self.colours)


def derived_look(
    name: str, recipe: Recipe, tone: Tone, source: str = "", backdrop: Backdrop = PLAIN, pins: tuple[Rgba, ...] = ()
) -> Look:
    """Return a look derived afresh, both tones, every pair passing."""
    palettes = {t: MappingProxyType(derive(recipe, t)) for t in TONES}
    return Look(name, tone, recipe, MappingProxyType(palettes), source, backdrop, pins)


def read_anew(look: Look, reading: Reading) -> Look:
    """Return the look derived from another reading, its locked roles held.

    Raises ImpossibleLocksError when the locks leave no readable palette.
    """
    palettes = {
        t: MappingProxyType(derive(reading.recipe, t, {r: look.palettes[t][r] for r in look.locks})) for t in TONES
    }
    return replace(look, recipe=reading.recipe, palettes=MappingProxyType(palettes), mends=frozenset())


def _with_colours(look: Look, colours: Palette) -> Look:
    palettes = dict(look.palettes)
    palettes[look.tone] = MappingProxyType(dict(colours))
    return replace(look, palettes=MappingProxyType(palettes))


def with_role(look: Look, role: str, colour: Rgba) -> Look:
    """Return the look with one role of the tone in force changed.

    When mending as you go, all other roles follow by the smallest change that keeps every pair passing.
    Raises ImpossibleLocksError when locks stand in the way, and KeyError for an unknown role.
    """
    if role not in look.colours:
        raise KeyError(role)
    colours = dict(look.colours)
    colours[role] = colour.opaque
    if look.mend_as_you_go:
        colours = solve(colours, look.locks, (role,), settle=False)
    return _with_colours(look, colours)


def with_lock(look: Look, role: str, locked: bool) -> Look:
    """Return the look with a role locked or freed."""
    return replace(look, locks=look.locks | {role} if locked else look.locks - {role})


def with_tone(look: Look, tone: Tone) -> Look:
    """Return the look in its other half."""
    return replace(look, tone=tone)


def with_mended_roles(look: Look, role_pairs: tuple[JudgedPair, ...] | None = None) -> Look:
    """Return the look with failing pairs of roles mended by the smallest change: all, or only those given.

    Raises ImpossibleLocksError, naming the locks, when they leave no way.
    """
    if role_pairs is None:
        return _with_colours(look, solve(look.colours, look.locks))
    # What passes now must go on passing; what falls short elsewhere is left alone.
    short = {j.pair for j in failing(look.colours)} - {j.pair for j in role_pairs}
    return _with_colours(look, solve(look.colours, look.locks, pairs=tuple(p for p in PAIRS if p not in short)))


def with_mend(look: Look, *keys: str) -> Look:
    """Return the look with parts of rewritten files, named "component/part", put right."""
    return replace(look, mends=look.mends | set(keys))
