"""A desktop that only remembers: for demo homes, other homes and tests."""

from __future__ import annotations

from .base import Setting


class SimulatedSession:
    """Settings in memory, and terminals that keep what they were sent."""

    def __init__(self) -> None:
        self.settings: dict[tuple[str, str], str] = {
            ("org.gnome.desktop.interface", "color-scheme"): "default",
            ("org.gnome.desktop.interface", "gtk-theme"): "Saltpan",
        }
        self.sent: list[str] = []

    def read(self, setting: Setting) -> str:
        """Return a remembered value."""
        return self.settings.get((setting.schema, setting.key), "")

    def write(self, setting: Setting) -> None:
        """Remember a value."""
        self.settings[setting.schema, setting.key] = setting.value

    def broadcast(self, sequences: str) -> int:
        """Keep what was sent."""
        self.sent.append(sequences)
        return 1
