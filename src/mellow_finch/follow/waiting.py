"""Waiting for something to follow: a change that the desktop tells of, or the next turn of the day. No polling."""

from __future__ import annotations

import select
import time
from typing import Any

# Who tells of a changed wallpaper, theme or preference for light or dark, by interface and member.
SIGNALS = (
    ("org.xfce.Xfconf", "PropertyChanged"),
    ("ca.desrt.dconf.Writer", "Notify"),
    ("org.freedesktop.portal.Settings", "SettingChanged"),
    ("org.kde.PlasmaShell", "wallpaperChanged"),
)
_SETTLE_S = 0.6  # desktops tell of one change several times
_LONGEST_S = 3600.0  # a clock that was set, or a machine that slept, is noticed by then


class Waiter:
    """Listens on the session bus; without one, only the clock is waited for."""

    def __init__(self) -> None:
        self._bus: Any = _listening()

    def wait(self, seconds: float) -> bool:
        """Wait for a change, or so many seconds; return whether there was a change."""
        until = time.monotonic() + min(seconds, _LONGEST_S)
        if self._bus is None:
            time.sleep(max(0.0, until - time.monotonic()))
            return False
        heard = self._heard(until)
        while heard and self._heard(time.monotonic() + _SETTLE_S):
            pass
        return heard

    def _heard(self, until: float) -> bool:
        """Wait until a message comes that is one of the signals, or a moment."""
        while True:
            left = until - time.monotonic()
            if left <= 0:
                return False
            ready, _, _ = select.select([self._bus.sock], [], [], left)
            if not ready:
                return False
            try:
                message = self._bus.receive(timeout=1.0)
            except (OSError, EOFError, TimeoutError):
                self._bus = None
                return False
            fields = message.header.fields
            if (str(fields.get(2, "")), str(fields.get(3, ""))) in SIGNALS:
                return True


def _listening() -> Any:
    """Return a connection to the session bus that is told of the signals, None where there is no bus."""
    from jeepney import MatchRule, message_bus
    from jeepney.io.blocking import open_dbus_connection

    try:
        bus = open_dbus_connection(bus="SESSION")
        for interface, member in SIGNALS:
            rule = MatchRule(type="signal", interface=interface, member=member)
            bus.send_and_get_reply(message_bus.AddMatch(rule), timeout=5)
    except (OSError, KeyError, ValueError, EOFError, TimeoutError):
        return None
    return bus
