"""No desktop: a home that nobody's session runs on just now."""

from __future__ import annotations

from collections.abc import Collection, Sequence
from pathlib import Path

from .base import ABSENT, DesktopSetting, NotifyResult, Outsider, ReloadMethod, SettingValue

_NOTHING = NotifyResult("not running")


class NoDesktop:
    """Has no setting, no program that runs and no open terminal."""

    desktop = ""

    def read(self, _setting: DesktopSetting) -> SettingValue:
        """Return that there is no such setting."""
        return ABSENT

    def write(self, _setting: DesktopSetting) -> None:
        """Do nothing."""

    def reset(self, _setting: DesktopSetting, _kind: str = "") -> None:
        """Do nothing."""

    def keys(self, _store: str, _schema: str, _pattern: str) -> list[str]:
        """Return nothing."""
        return []

    def monitors(self) -> list[str]:
        """Return nothing."""
        return []

    def file(self, _store: str, _schema: str) -> Path | None:
        """Return that no setting stands in a file."""
        return None

    def reread(self, _store: str, _schema: str) -> None:
        """Do nothing."""

    def broadcast(self, _sequences: str) -> int:
        """Reach nobody."""
        return 0

    def running(self, _programs: Collection[str]) -> frozenset[str]:
        """Return nothing."""
        return frozenset()

    def tell(self, _way: ReloadMethod) -> NotifyResult:
        """Reach nobody."""
        return _NOTHING

    def restart(self, _program: str, _words: Sequence[str]) -> NotifyResult:
        """Start nothing."""
        return _NOTHING

    def compositor(self) -> bool | None:
        """Return that it is not known."""
        return None

    def blurs(self, starts: bool = False) -> bool | None:
        """Return that it is not known."""
        return None

    def outside(self) -> tuple[Outsider, ...]:
        """Return nothing."""
        return ()

    def shown(self) -> dict[str, str]:
        """Return nothing."""
        return {}
