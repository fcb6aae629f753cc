"""Which components a home has: told by its files, and by the programs that can be run there."""

from __future__ import annotations

from collections.abc import Callable, Iterable
from typing import NamedTuple

from ...language import tr
from ..catalogue import COMPONENTS
from ..model import Component, Files
from .values import first_of

Has = Callable[[str], bool]  # whether a program of this name can be run


class Presence(NamedTuple):
    """Whether a home has a component, and how that was told, in words."""

    here: bool
    why: str


def no_program(_name: str) -> bool:
    """Tell that nothing can be run."""
    return False


def presence_of(component: Component, home: Files, has: Has = no_program) -> Presence:
    """Return whether a home has a component: one of its files, or one of its programs."""
    sign = first_of(home, component.signs)
    if sign:
        return Presence(True, tr("This home has ~/{sign}").format(sign=sign))
    program = next((p for p in component.programs if has(p)), "")
    if program:
        return Presence(True, tr("“{program}” is installed").format(program=program))
    if component.everywhere:
        return Presence(True, tr("Every desktop has programs that read it"))
    looked = " or ".join(component.programs[:2]) or component.needs_file or tr("its files")
    return Presence(False, tr("Not found in this home: {looked}").format(looked=looked))


def present_in(home: Files, has: Has = no_program, among: Iterable[Component] = COMPONENTS) -> frozenset[str]:
    """Return the ids of the components that a home has."""
    return frozenset(c.id for c in among if presence_of(c, home, has).here)
