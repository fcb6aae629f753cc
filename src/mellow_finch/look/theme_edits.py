"""The edits of a look that are about themes which were imported, each giving a new look."""

from __future__ import annotations

from collections.abc import Collection, Mapping
from dataclasses import replace

from ..colour.rgb import Rgba
from ..components.catalogue import COMPONENT_BY_ID
from ..components.decisions import NOTHING, Owner
from .decision_edits import with_added, with_decisions
from .model import Look


def with_brought(look: Look, path: str, wanted: bool = True) -> Look:
    """Return the look with a theme imported, or put aside; what was decided of it goes with it."""
    if wanted:
        return look if path in look.brought else replace(look, brought=(*look.brought, path))
    gone = Owner.theme(path)
    return replace(
        look,
        brought=tuple(p for p in look.brought if p != path),
        decisions={owner: own for owner, own in look.decisions.items() if owner != gone},
    )


def with_newer(look: Look, old: str, new: str) -> Look:
    """Return the look with another file in the place of a theme that was imported, all that was decided kept."""
    own = look.decided(Owner.theme(old))
    gone = {Owner.theme(old), Owner.theme(new)}
    rest = {owner: kept for owner, kept in look.decisions.items() if owner not in gone}
    return replace(
        look,
        brought=tuple(dict.fromkeys(new if path == old else path for path in look.brought)),
        decisions=rest | ({Owner.theme(new): own} if own != NOTHING else {}),
    )


def with_left(look: Look, path: str, root: str, left: bool) -> Look:
    """Return the look with one of several themes in an archive left where it is, or taken along."""
    owner = Owner.theme(path)
    now = look.decided(owner).left
    return with_decisions(look, owner, left=now | {root} if left else now - {root})


def with_worn(look: Look, path: str, uses: Collection[str]) -> Look:
    """Return the look with parts of the desktop that wear a theme, and no other one of those that were brought."""
    for other in look.brought:
        owner = Owner.theme(other)
        now = look.decided(owner).worn
        fresh = frozenset(uses) if other == path else now - frozenset(uses)
        if fresh != now:
            look = with_decisions(look, owner, worn=fresh)
    return look


def with_use(look: Look, path: str, uses: Collection[str], here: Collection[str]) -> Look:
    """Return the look with parts of the desktop that wear a theme, those included that a home has not set up.

    here: the components that it has. What was only included for the theme is not any more where it is not used for it.
    """
    was = look.decided(Owner.theme(path)).worn
    far = frozenset(id_ for id_ in was.union(uses) if id_ in COMPONENT_BY_ID and id_ not in here)
    look = replace(with_worn(look, path, uses), added=look.added - (far & was.difference(uses)))
    return with_added(look, far & frozenset(uses))


def with_swap(look: Look, path: str, old: Rgba, new: Rgba | None) -> Look:
    """Return the look with one colour of a theme replaced though the theme keeps its own; None: not replaced."""
    owner = Owner.theme(path)
    rest = {k: v for k, v in look.decided(owner).swaps.items() if k != old.opaque.hex}
    fresh = rest | ({old.opaque.hex: new.opaque.hex} if new is not None and new.opaque != old.opaque else {})
    return with_decisions(look, owner, as_is=True, swaps=fresh)


def with_own_colours(look: Look, path: str, as_is: bool) -> Look:
    """Return the look with a theme that keeps its own colours, or takes the look's."""
    return with_decisions(look, Owner.theme(path), as_is=as_is)


def with_words(look: Look, words: Mapping[str, str]) -> Look:
    """Return the look with what is written instead of words of another computer."""
    return replace(look, words=dict(words))
