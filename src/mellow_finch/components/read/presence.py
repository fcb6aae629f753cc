"""Which components a home has: told by its files, and by the programs that can be run there."""

from __future__ import annotations

from collections.abc import Callable, Iterable
from typing import NamedTuple

from ...language import parted, tr
from ..catalogue import COMPONENTS
from ..define.kinds import TOOLKITS
from ..files import Files
from ..model import Component
from .values import first_of

Has = Callable[[str], bool]  # whether a program of this name can be run


class Presence(NamedTuple):
    """Whether a home has a component, and how that was told, in words.

    installed: whether all there is of it is a program that lies on the machine, never set up in this home.
    """

    here: bool
    why: str
    installed: bool = False


def no_program(_name: str) -> bool:
    """Tell that nothing can be run."""
    return False


def presence_of(
    component: Component,
    home: Files,
    has: Has = no_program,
    runs: Has = no_program,
    worn: bool = False,
    part_of: str = "",
) -> Presence:
    """Return whether a home has a component: one of its files, one of its programs that runs, or a look that is worn.

    A program that is merely installed is no sign that anybody wants its files written, but for toolkits: whatever is
    started needs those. has, runs: whether a program can be run, and does; worn: whether a look dresses it now;
    part_of: the title of the desktop that runs, where that shows the component as soon as it needs it.
    """
    sign = first_of(home, component.signs)
    if sign:
        return Presence(True, tr("This home folder has ~/{sign}").format(sign=sign))
    running = next((p for p in component.programs if runs(p)), "")
    if running:
        return Presence(True, tr("“{program}” is running").format(program=running))
    if component.everywhere:
        return Presence(True, tr("Programs of every desktop read it"))
    if worn:
        return Presence(True, tr("The applied look includes it"))
    program = next((p for p in component.programs if has(p)), "")
    if program and part_of:
        return Presence(True, tr("Part of {desktop}").format(desktop=part_of))
    if program:
        why = tr("“{program}” is installed").format(program=program)
        return Presence(component.kind == TOOLKITS, why, component.kind != TOOLKITS)
    looked = parted(component.programs[:2]) or component.needs_file or tr("its files")
    return Presence(False, tr("Not found in this home folder: {looked}").format(looked=looked))


def present_in(home: Files, among: Iterable[Component] = COMPONENTS) -> frozenset[str]:
    """Return the ids of the components that a home has by its files alone."""
    return frozenset(c.id for c in among if presence_of(c, home).here)
