"""A desktop that only remembers: for demo homes, other homes and tests."""

from __future__ import annotations

from .base import ABSENT, UNSET, Reading, Setting


class SimulatedSession:
    """Settings in memory, None for those that are not set, and terminals that keep what they were sent."""

    def __init__(self) -> None:
        self.settings: dict[tuple[str, str], str | None] = {
            ("org.gnome.desktop.interface", "color-scheme"): None,
            ("org.gnome.desktop.interface", "gtk-theme"): "Saltpan",
            ("org.gnome.desktop.interface", "icon-theme"): "",
        }
        self.sent: list[str] = []

    def read(self, setting: Setting) -> Reading:
        """Return what is remembered."""
        place = setting.schema, setting.key
        if place not in self.settings:
            return ABSENT
        value = self.settings[place]
        return UNSET if value is None else Reading("set", value)

    def write(self, setting: Setting) -> None:
        """Remember a value of a setting that there is."""
        if (setting.schema, setting.key) in self.settings:
            self.settings[setting.schema, setting.key] = setting.value

    def reset(self, setting: Setting) -> None:
        """Remember that a setting is not set."""
        if (setting.schema, setting.key) in self.settings:
            self.settings[setting.schema, setting.key] = None

    def broadcast(self, sequences: str) -> int:
        """Keep what was sent."""
        self.sent.append(sequences)
        return 1
