"""The running desktop as the program sees it: settings it can read and write, and open terminals."""

from __future__ import annotations

from typing import Literal, NamedTuple, Protocol, Self, get_args

SettingState = Literal["absent", "unset", "set"]


class Setting(NamedTuple):
    """One setting of the desktop by schema and key, and the value that it is to have as plain text."""

    schema: str
    key: str
    value: str = ""


class Reading(NamedTuple):
    """What a setting is: there is no such key, it is not set, or it is set, perhaps to an empty text."""

    state: SettingState
    value: str = ""

    @classmethod
    def checked(cls, state: str, value: str) -> Self:
        """Return a reading that a journal kept; raises ValueError for a state that there is not."""
        found = next((s for s in get_args(SettingState) if s == state), None)
        if found is None:
            raise ValueError(f"“{state}” is no state of a setting")
        return cls(found, value)


ABSENT = Reading("absent")
UNSET = Reading("unset")


class Session(Protocol):
    """A desktop that follows changes while it runs."""

    def read(self, setting: Setting) -> Reading:
        """Return what a setting is now."""

    def write(self, setting: Setting) -> None:
        """Set a setting; one that the desktop does not have is passed over."""

    def reset(self, setting: Setting) -> None:
        """Let a setting be not set."""

    def broadcast(self, sequences: str) -> int:
        """Send escape sequences to every open terminal of the person; return to how many."""
