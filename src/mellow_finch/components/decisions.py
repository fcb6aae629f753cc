"""What a person decided of one component, or of one theme that was imported: values, each under its owner."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field, replace
from typing import Any, Literal, NamedTuple, Self

OwnerKind = Literal["component", "theme"]
SlotKind = Literal["groups", "roles", "parts"]


_SPELLED: Mapping[str, SlotKind] = {"role": "roles", "part": "parts"}


class Owner(NamedTuple):
    """Whom a decision is about: a component by its id, or a theme by its path."""

    kind: OwnerKind
    name: str

    @classmethod
    def component(cls, id_: str) -> Self:
        """Return a component as an owner."""
        return cls("component", id_)

    @classmethod
    def theme(cls, path: str) -> Self:
        """Return a theme that was imported as an owner."""
        return cls("theme", path)


class Slot(NamedTuple):
    """What a role is chosen for: a group of colours, a role of a component, or a part of a theme.

    kind: the mapping of Decisions in which the choice stands, by key.
    """

    kind: SlotKind
    key: str

    @classmethod
    def spelled(cls, text: str) -> Self:
        """Return the slot that a text names: "part:header" a part, "role:menu" a role, anything else a group."""
        head, _, key = text.partition(":")
        kind = _SPELLED.get(head)
        return cls(kind, key) if kind is not None and key and "/" not in key else cls("groups", text)

    @property
    def spelling(self) -> str:
        """Return the text that names it."""
        return next((f"{head}:{self.key}" for head, kind in _SPELLED.items() if kind == self.kind), self.key)


class Emblem(NamedTuple):
    """What becomes of a picture: the path of another, empty for the same one, and the role it is drawn in, or none."""

    file: str = ""
    role: str = ""


@dataclass(frozen=True, slots=True)
class Decisions:
    """All that a person decided of one owner; what is empty is left to the program.

    groups: by the key of a group of colours, a role, "keep", or a colour as #rrggbb; roles: likewise by the role of a
    component's own files; parts: likewise by the parts of a theme that may have a contrast of their own; splits: groups
    that are taken apart; left: folders of themes in an archive that are not taken along; worn: what of the desktop
    wears a theme, by the ids of theme.result.uses; as_is: whether a theme keeps its own colours; swaps: those that it
    does not keep even then, #rrggbb by #rrggbb; knobs: numbers by the id of a knob; mends: parts put right though the
    look mends nothing by itself; emblems: by the name of a picture that is shown; companions: shape and fonts where
    they differ from the look's; beside: whether the person's files are kept, the recoloured ones lying beside them as
    variants.
    """

    groups: Mapping[str, str] = field(default_factory=dict)
    roles: Mapping[str, str] = field(default_factory=dict)
    parts: Mapping[str, str] = field(default_factory=dict)
    splits: frozenset[str] = frozenset()
    left: frozenset[str] = frozenset()
    worn: frozenset[str] = frozenset()
    as_is: bool = False
    swaps: Mapping[str, str] = field(default_factory=dict)
    knobs: Mapping[str, float] = field(default_factory=dict)
    mends: frozenset[str] = frozenset()
    emblems: Mapping[str, Emblem] = field(default_factory=dict)
    companions: Mapping[str, str] = field(default_factory=dict)
    beside: bool = False

    @classmethod
    def spelled(cls, choices: Mapping[str, str]) -> Decisions:
        """Return choices alone, each by the text that names its slot."""
        out = cls()
        for text, choice in choices.items():
            out = out.with_choice(Slot.spelled(text), choice)
        return out

    @property
    def by_group(self) -> dict[str, str]:
        """Return the choices by the keys of groups; a group whose colours have a role for certain is named by that."""
        return {**self.groups, **{Slot("roles", role).spelling: choice for role, choice in self.roles.items()}}

    def with_choice(self, slot: Slot, choice: str) -> Decisions:
        """Return the decisions with a slot given a role, kept, or left to itself ("")."""
        rows: Mapping[str, str] = getattr(self, slot.kind)
        changes: dict[str, Any] = {slot.kind: {k: v for k, v in rows.items() if k != slot.key}}
        changes[slot.kind] |= {slot.key: choice} if choice else {}
        return replace(self, **changes)


NOTHING = Decisions()


def decided(decisions: Mapping[Owner, Decisions], owner: Owner) -> Decisions:
    """Return what was decided of an owner; nothing for one that is not named."""
    return decisions.get(owner, NOTHING)
