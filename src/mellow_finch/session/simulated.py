"""Desktops that are only made up, with the traps of real ones: for the demo, other people's homes and tests."""

from __future__ import annotations

from collections.abc import Callable, Collection, Mapping, Sequence
from dataclasses import dataclass, field
from fnmatch import fnmatchcase
from pathlib import Path

from ..language import tr
from .base import ABSENT, UNSET, DesktopSetting, NotifyResult, Outsider, ReloadMethod, SettingValue

Place = tuple[str, str]
_INTERFACE = "org.gnome.desktop.interface"
_PLAIN: Mapping[Place, str | None] = {
    (_INTERFACE, "color-scheme"): None,
    (_INTERFACE, "gtk-theme"): "Saltpan",
    (_INTERFACE, "icon-theme"): "",
}
_SCREENS = ("/backdrop/screen0/monitorHDMI-1/workspace0", "/backdrop/screen0/monitorHDMI-1/workspace1")
_XFCE: Mapping[Place, str | None] = {
    **_PLAIN,
    ("xsettings", "/Net/ThemeName"): "Saltpan",
    ("xsettings", "/Gtk/DecorationLayout"): "menu:minimize,maximize,close",
    ("xfwm4", "/general/theme"): "Saltpan",
    ("xfwm4", "/general/button_layout"): "O|HMC",
    **{("xfce4-desktop", f"{s}/last-image"): "/usr/share/backgrounds/saltpan.png" for s in _SCREENS},
    **{("xfce4-desktop", f"{s}/image-style"): "5" for s in _SCREENS},
    ("xfce4-desktop", f"{_SCREENS[0]}/backdrop-cycle-enable"): "true",
}
_GNOME: Mapping[Place, str | None] = {
    **_PLAIN,
    ("org.gnome.shell.extensions.user-theme", "name"): None,
    ("org.gnome.desktop.background", "picture-uri"): None,
    ("org.gnome.desktop.background", "picture-uri-dark"): None,
    ("org.gnome.desktop.background", "picture-options"): "zoom",
    ("org.gnome.desktop.screensaver", "picture-uri"): None,
}
_MATE: Mapping[Place, str | None] = {
    **_PLAIN,
    ("org.mate.interface", "gtk-theme"): "Saltpan",
    ("org.mate.Marco.general", "theme"): None,
    ("org.mate.background", "picture-options"): None,
    ("org.mate.background", "picture-filename"): "/usr/share/backgrounds/saltpan.png",
}

Trap = Callable[["SimulatedSession", DesktopSetting], None]


def _dark_resets_theme(session: SimulatedSession, setting: DesktopSetting) -> None:
    """Light or dark resets the theme to the desktop's own."""
    if setting.key == "color-scheme":
        session.settings[_INTERFACE, "gtk-theme"] = "Stock"


def _daemon_rewrites(session: SimulatedSession, setting: DesktopSetting) -> None:
    """The settings daemon derives a key from another one whenever that changes."""
    if setting.key == "/general/button_layout":
        session.settings["xsettings", "/Gtk/DecorationLayout"] = f"from {setting.value}"


def _slideshow_goes_on(session: SimulatedSession, setting: DesktopSetting) -> None:
    """A slideshow that is still on puts its next picture over the one that was set."""
    on = session.settings.get(("xfce4-desktop", f"{_SCREENS[0]}/backdrop-cycle-enable")) == "true"
    if setting.key.endswith("/last-image") and on:
        session.settings[setting.schema, setting.key] = "/usr/share/backgrounds/next.png"


@dataclass(frozen=True, slots=True)
class MadeUp:
    """One made-up desktop: what it calls itself, its settings, its traps, and what runs on it."""

    desktop: str
    settings: Mapping[Place, str | None]
    traps: tuple[Trap, ...] = ()
    runs: frozenset[str] = frozenset()
    composites: bool = True
    outside: tuple[Outsider, ...] = ()
    blurs: bool | None = True


_TIDES = Outsider(
    "flatpak",
    tr("Sandboxed programs (Flatpak)"),
    ("org.reedholm.TideTables",),
    tr("They cannot see the themes and stylesheets in the home folder."),
    tr("Allow it in Dress, Companions, or run: flatpak override --user {opened}").format(
        opened="--filesystem=xdg-data/themes:ro"
    ),
)
_DOCK = "net.launchpad.plank.dock.settings:/net/launchpad/plank/docks/dock1/"
_RINGING_ROOM = frozenset({"xfce4-panel", "xfwm4", "kitty", "conky", "dunst", "waybar", "openbox"})
MADE_UP: Mapping[str, MadeUp] = {
    "plain": MadeUp("", _PLAIN),
    "dark first": MadeUp("gnome", _GNOME, (_dark_resets_theme,), frozenset({"gnome-shell", "kitty"})),
    "slideshow": MadeUp("xfce", _XFCE, (_daemon_rewrites, _slideshow_goes_on), frozenset({"xfce4-panel", "xfwm4"})),
    "ringing room": MadeUp(
        "xfce",
        {**_XFCE, (_DOCK, "theme"): "Saltpan"},
        (_daemon_rewrites, _slideshow_goes_on),
        _RINGING_ROOM,
        True,
        (_TIDES,),
    ),
    "no compositor": MadeUp("mate", _MATE, (), frozenset({"marco", "waybar", "dunst"}), False),
}


@dataclass
class SimulatedSession:
    """Settings in memory, None for those that are not set, and programs and terminals that keep what they were told.

    refuses: programs that do not take what they are told; seen: the theme that running programs show, which is read
    only when its name changes.
    """

    made_up: MadeUp = field(default_factory=lambda: MADE_UP["plain"])
    settings: dict[Place, str | None] = field(default_factory=dict)
    sent: list[str] = field(default_factory=list)
    told: list[ReloadMethod] = field(default_factory=list)
    restarted: list[str] = field(default_factory=list)
    refuses: set[str] = field(default_factory=set)

    def __post_init__(self) -> None:
        self.settings = self.settings or dict(self.made_up.settings)

    @property
    def desktop(self) -> str:
        """Return the id of the desktop that this one is like."""
        return self.made_up.desktop

    def read(self, setting: DesktopSetting) -> SettingValue:
        """Return what is remembered."""
        place = setting.schema, setting.key
        if place not in self.settings:
            return ABSENT
        value = self.settings[place]
        return UNSET if value is None else SettingValue("set", value)

    def write(self, setting: DesktopSetting) -> None:
        """Remember a value of a setting that there is, and step into the traps."""
        if (setting.schema, setting.key) in self.settings:
            self.settings[setting.schema, setting.key] = setting.value
            for trap in self.made_up.traps:
                trap(self, setting)

    def reset(self, setting: DesktopSetting, kind: str = "") -> None:
        """Remember that a setting is not set."""
        if (setting.schema, setting.key) in self.settings:
            self.settings[setting.schema, setting.key] = None

    def keys(self, store: str, schema: str, pattern: str) -> list[str]:
        """Return the keys that there are."""
        return sorted(key for s, key in self.settings if s == schema and fnmatchcase(key, pattern))

    def monitors(self) -> list[str]:
        """Return one screen."""
        return ["HDMI-1"]

    def file(self, _store: str, _schema: str) -> Path | None:
        """Return that no setting stands in a file."""
        return None

    def reread(self, _store: str, _schema: str) -> None:
        """Do nothing."""

    def broadcast(self, sequences: str) -> int:
        """Keep what was sent."""
        self.sent.append(sequences)
        return 1

    def running(self, programs: Collection[str]) -> frozenset[str]:
        """Return what is said to run."""
        return self.made_up.runs & frozenset(programs)

    def tell(self, way: ReloadMethod) -> NotifyResult:
        """Keep what a program was told."""
        if way.program not in self.made_up.runs:
            return NotifyResult("not running")
        if way.program in self.refuses:
            return NotifyResult("refused", "line 1: no such thing")
        self.told.append(way)
        return NotifyResult("told")

    def restart(self, program: str, words: Sequence[str]) -> NotifyResult:
        """Keep what was started again."""
        if program not in self.made_up.runs:
            return NotifyResult("not running")
        self.restarted.append(program)
        return NotifyResult("told")

    def compositor(self) -> bool | None:
        """Return whether the made-up desktop has one."""
        return self.made_up.composites

    def blurs(self, starts: bool = False) -> bool | None:
        """Return whether the made-up desktop does."""
        return self.made_up.blurs

    def outside(self) -> tuple[Outsider, ...]:
        """Return what the made-up desktop says of these."""
        return self.made_up.outside

    def shown(self) -> dict[str, str]:
        """Return what a settings daemon would publish."""
        theme = self.settings.get(("xsettings", "/Net/ThemeName"))
        return {"Net/ThemeName": theme} if theme else {}
