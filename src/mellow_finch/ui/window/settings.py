"""What a person can choose of the program itself: one frozen value, one row a setting, one reader and one writer."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass, replace
from types import MappingProxyType
from typing import Any, Literal, NamedTuple

from ...colour.levels import TEXT_LEVELS
from ...language import tr

Appearance = Literal["dark", "light", "desktop"]
Contrast = Literal["desktop", "usual", "high"]


@dataclass(frozen=True, slots=True)
class Settings:
    """Each is one of the values that its row in SETTINGS names; the first of these is what it is at first.

    appearance, contrast: of the window; size: of text and controls, 1 for the usual; text_need: the contrast ratio that
    text in new looks has to reach; asks: whether it is asked before anything is written; keeps_worn: whether a look
    that is applied is kept on the Shelf; shows_pictures: whether pictures of this computer are looked for at the start;
    asks_toolkit: whether the real toolkit is asked, in the background, about themes that a look uses.
    """

    appearance: Appearance = "dark"
    contrast: Contrast = "desktop"
    size: float = 1.0
    text_need: float = TEXT_LEVELS[0]
    asks: bool = False
    keeps_worn: bool = True
    shows_pictures: bool = True
    asks_toolkit: bool = True


class Option(NamedTuple):
    """One value of a setting: as it is, as it is stored, and in words."""

    value: Any
    stored: str
    words: str


class Preference(NamedTuple):
    """One setting: its name in Settings, its key in the file, what it is called, and what can be chosen."""

    name: str
    key: str
    title: str
    options: tuple[Option, ...]

    def read(self, stored: object) -> Any:
        """Return the value of what is stored; of anything else the first one."""
        return next((o.value for o in self.options if o.stored == stored), self.options[0].value)

    def stored(self, value: object) -> str:
        """Return a value as it is stored."""
        return next((o.stored for o in self.options if o.value == value), self.options[0].stored)


PREFERENCES: tuple[Preference, ...] = (
    Preference(
        "appearance",
        "appearance",
        tr("This window"),
        (
            Option("dark", "dark", tr("Dark")),
            Option("light", "light", tr("Light")),
            Option("desktop", "desktop", tr("Like the desktop")),
        ),
    ),
    Preference(
        "contrast",
        "contrast",
        tr("Contrast of this window"),
        (
            Option("desktop", "desktop", tr("Like the desktop")),
            Option("usual", "usual", tr("Default")),
            Option("high", "high", tr("High: strong text and edges")),
        ),
    ),
    Preference(
        "size",
        "size",
        tr("Size of text and controls"),
        (
            Option(1.0, "1", tr("Default")),
            Option(1.25, "1.25", tr("125 %, from the next start")),
            Option(1.5, "1.5", tr("150 %, from the next start")),
            Option(2.0, "2", tr("200 %, from the next start")),
        ),
    ),
    Preference(
        "text_need",
        "need",
        tr("Required text contrast of new looks"),
        (
            Option(TEXT_LEVELS[0], "4.5", tr("4.5 : 1, WCAG level AA")),
            Option(TEXT_LEVELS[1], "7", tr("7 : 1, WCAG level AAA")),
        ),
    ),
    Preference(
        "asks",
        "ask",
        tr("Before a look is applied"),
        (
            Option(False, "no", tr("Do not ask; the plan is shown")),
            Option(True, "yes", tr("Show the number of files and ask")),
        ),
    ),
    Preference(
        "keeps_worn",
        "keep",
        tr("When a look is applied"),
        (Option(True, "yes", tr("Save it to the Shelf")), Option(False, "no", tr("Save it only when I choose to"))),
    ),
    Preference(
        "shows_pictures",
        "start",
        tr("Start page"),
        (
            Option(True, "yes", tr("Offer images on this computer")),
            Option(False, "no", tr("Search no folders")),
        ),
    ),
    Preference(
        "asks_toolkit",
        "toolkit",
        tr("Themes that are used"),
        (
            Option(True, "yes", tr("Check them with the real toolkit in the background")),
            Option(False, "no", tr("Check them with the real toolkit on request")),
        ),
    ),
)
_LEAST = (1000, 600)  # px that the window takes at least


def fits(factor: float, screen: tuple[int, int] | None) -> bool:
    """Tell whether a window whose text is so many times larger fits a screen; of one that is not known, any does."""
    return (
        screen is None or factor <= 1 or all(have / factor >= least for have, least in zip(screen, _LEAST, strict=True))
    )


PREFERENCE_BY_NAME: Mapping[str, Preference] = MappingProxyType({row.name: row for row in PREFERENCES})


def read_settings(stored: Callable[[str], object]) -> Settings:
    """Return the settings; stored: returns what the file has at a key, anything where it has nothing of use."""
    return replace(Settings(), **{row.name: row.read(stored(row.key)) for row in PREFERENCES})
