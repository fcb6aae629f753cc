"""The running desktop as the program sees it: settings in stores, programs that can be told, and open terminals."""

from __future__ import annotations

import re
from collections.abc import Collection, Sequence
from pathlib import Path
from typing import Literal, NamedTuple, Protocol, Self, get_args

from ..components.model import ReloadMethod

__all__ = [
    "ABSENT",
    "UNSET",
    "DesktopSession",
    "DesktopSetting",
    "NotifyResult",
    "Outsider",
    "ReloadMethod",
    "SettingValue",
    "Store",
]

SettingState = Literal["absent", "unset", "set"]


class DesktopSetting(NamedTuple):
    """One setting of the desktop, and the value that it is to have as plain text.

    schema: the schema, channel or file in which the key lies; store: which store it is in; kind: the value's type as
    the store names it, empty where the store knows it.
    """

    schema: str
    key: str
    value: str = ""
    store: str = "gsettings"
    kind: str = ""


class SettingValue(NamedTuple):
    """What a setting is: there is no such key, it is not set, or it is set, perhaps to an empty text.

    kind: the value's type, where the store needs it to write the value back.
    """

    state: SettingState
    value: str = ""
    kind: str = ""

    @classmethod
    def checked(cls, state: str, value: str, kind: str = "") -> Self:
        """Return a reading that a journal kept; raises ValueError for a state that there is not."""
        found = next((s for s in get_args(SettingState) if s == state), None)
        if found is None:
            raise ValueError(f"“{state}” is no state of a setting")
        return cls(found, value, kind)

    def is_as(self, other: SettingValue) -> bool:
        """Tell whether both are the same to who reads them; their kinds only tell how to take one back."""
        return (self.state, _settled(self.value)) == (other.state, _settled(other.value))

    def has(self, value: str) -> bool:
        """Tell whether a setting is set to a value."""
        return self.state == "set" and _settled(self.value) == _settled(value)


def _settled(value: str) -> str:
    """Return a value without which image of a slideshow of ours it is: the desktop goes on to the next by itself."""
    return re.sub(r"(/mellow-finch/slides/[^/]+/)[^/]+$", r"\1", value)


ABSENT = SettingValue("absent")
UNSET = SettingValue("unset")


class Store(Protocol):
    """One place in which a desktop keeps settings. Nothing here waits longer than a few seconds."""

    def read(self, schema: str, key: str) -> SettingValue:
        """Return what a setting is; absent where the store is not there or has no such key."""

    def write(self, schema: str, key: str, value: str, kind: str) -> None:
        """Set a setting."""

    def reset(self, schema: str, key: str, kind: str) -> None:
        """Let a setting be not set; kind: what the reading said when it was not set."""

    def keys(self, schema: str, pattern: str) -> list[str]:
        """Return the keys that match a pattern of file names, those that exist, sorted."""

    def file(self, schema: str) -> Path | None:
        """Return the file of a person's own in which a schema's settings stand, None where there is no such file."""

    def reread(self, schema: str) -> None:
        """Let what runs read that file again, after it was put back."""


class Outsider(NamedTuple):
    """One kind of program that does not follow: which ones, why, and what can be done."""

    kind: str
    title: str
    names: tuple[str, ...]
    why: str
    cure: str


ToldOutcome = Literal["told", "not running", "refused", "missing"]


class NotifyResult(NamedTuple):
    """What came of telling a program: told, not running, refused by it or its checker, or its command is missing."""

    outcome: ToldOutcome
    words: str = ""


class DesktopSession(Protocol):
    """A desktop that follows changes while it runs."""

    @property
    def desktop(self) -> str:
        """Return the id of what it is, empty when it is none that is known."""

    def read(self, setting: DesktopSetting) -> SettingValue:
        """Return what a setting is now."""

    def write(self, setting: DesktopSetting) -> None:
        """Set a setting; one that the desktop does not have is passed over."""

    def reset(self, setting: DesktopSetting, kind: str = "") -> None:
        """Let a setting be not set."""

    def keys(self, store: str, schema: str, pattern: str) -> list[str]:
        """Return the keys of a schema that match a pattern."""

    def monitors(self) -> list[str]:
        """Return the names of the screens as the X server calls them, none where that is not known."""

    def file(self, store: str, schema: str) -> Path | None:
        """Return the file of a person's own in which settings stand, None where there is no such file."""

    def reread(self, store: str, schema: str) -> None:
        """Let what runs read that file again, after it was put back."""

    def broadcast(self, sequences: str) -> int:
        """Send escape sequences to every open terminal of the person; return to how many."""

    def running(self, programs: Collection[str]) -> frozenset[str]:
        """Return which of some executables run now as the person's own."""

    def tell(self, way: ReloadMethod) -> NotifyResult:
        """Tell a running program to follow."""

    def restart(self, program: str, words: Sequence[str]) -> NotifyResult:
        """End a program that runs and start it again with a command."""

    def compositor(self) -> bool | None:
        """Tell whether a compositor runs, None when that cannot be found out."""

    def blurs(self, starts: bool = False) -> bool | None:
        """Tell whether what draws the screen blurs behind translucent surfaces, None when that is not known.

        starts: whether a compositor is started where none runs.
        """

    def outside(self) -> tuple[Outsider, ...]:
        """Return the programs that will not follow, and why."""

    def shown(self) -> dict[str, str]:
        """Return what the running desktop itself publishes: the X settings in force by name, and root properties."""
