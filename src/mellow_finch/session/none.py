"""No desktop: a home that nobody's session runs on just now."""

from __future__ import annotations

from .base import ABSENT, Reading, Setting


class NoDesktop:
    """Has no setting and no open terminal."""

    def read(self, _setting: Setting) -> Reading:
        """Return that there is no such setting."""
        return ABSENT

    def write(self, _setting: Setting) -> None:
        """Do nothing."""

    def reset(self, _setting: Setting) -> None:
        """Do nothing."""

    def broadcast(self, _sequences: str) -> int:
        """Reach nobody."""
        return 0
