"""The edits of a look that decide about components and themes: what is dressed, and how. Each gives a new look."""

from __future__ import annotations

from collections.abc import Collection, Iterable
from dataclasses import replace
from typing import Any

from ..components.decisions import NOTHING, Emblem, Owner, Slot
from ..language import tr
from .companions import fits
from .model import Look


def with_decisions(look: Look, owner: Owner, **changes: Any) -> Look:
    """Return the look with some of what was decided of an owner changed; changes: by the names of Decisions."""
    own = replace(look.decided(owner), **changes)
    rest = {one: rows for one, rows in look.decisions.items() if one != owner}
    return replace(look, decisions=rest | ({owner: own} if own != NOTHING else {}))


def with_choice(look: Look, owner: Owner, slots: Iterable[Slot], choice: str) -> Look:
    """Return the look with slots of an owner given a role, a colour, kept, or left to themselves ("")."""
    own = look.decided(owner)
    for slot in slots:
        own = own.with_choice(slot, choice)
    return with_decisions(look, owner, groups=own.groups, roles=own.roles, parts=own.parts)


def with_split(look: Look, owner: Owner, group: str, apart: bool) -> Look:
    """Return the look with a group taken apart, or put together again; what was chosen of its parts goes with it."""
    own = look.decided(owner)
    if apart:
        return with_decisions(look, owner, splits=own.splits | {group})
    groups = {key: role for key, role in own.groups.items() if not key.startswith(f"{group}/")}
    return with_decisions(look, owner, splits=own.splits - {group}, groups=groups)


def with_dressed(look: Look, component: str, wanted: bool, present: bool) -> Look:
    """Return the look with a component dressed or not; present: whether the home has it."""
    if present:
        look = replace(look, left_out=look.left_out - {component} if wanted else look.left_out | {component})
    elif wanted:
        return with_added(look, {component})
    return look if wanted else replace(look, added=look.added - {component})


def with_added(look: Look, components: Collection[str]) -> Look:
    """Return the look with components that are dressed wherever it is worn, files that no home has yet included."""
    return replace(look, added=look.added.union(components), left_out=look.left_out.difference(components))


def with_knob(look: Look, component: str, knob: str, value: float) -> Look:
    """Return the look with a number of a component set."""
    owner = Owner.component(component)
    return with_decisions(look, owner, knobs={**look.decided(owner).knobs, knob: value})


def with_companion(look: Look, id_: str, value: str, component: str = "") -> Look:
    """Return the look with something that goes along, or without it (""), for all components or for one alone.

    Raises ValueError for what it cannot be.
    """
    if value and not fits(id_, value, component):
        raise ValueError(tr("“{value}” is not a possible companion").format(value=value))
    owner = Owner.component(component)
    rows = look.decided(owner).companions if component else look.companions
    fresh = {k: v for k, v in rows.items() if k != id_} | ({id_: value} if value else {})
    return with_decisions(look, owner, companions=fresh) if component else replace(look, companions=fresh)


def with_beside(look: Look, component: str, beside: bool) -> Look:
    """Return the look with a component's files recoloured as variants beside the person's own, or in their place."""
    return with_decisions(look, Owner.component(component), beside=beside)


def with_emblem(look: Look, component: str, picture: str, emblem: Emblem) -> Look:
    """Return the look with what becomes of a picture that a component shows."""
    owner = Owner.component(component)
    rest = {k: e for k, e in look.decided(owner).emblems.items() if k != picture}
    return with_decisions(look, owner, emblems=rest | ({picture: emblem} if emblem != Emblem() else {}))


def with_mend(look: Look, component: str, *parts: str) -> Look:
    """Return the look with parts of a component's rewritten files put right."""
    owner = Owner.component(component)
    return with_decisions(look, owner, mends=look.decided(owner).mends | set(parts))
