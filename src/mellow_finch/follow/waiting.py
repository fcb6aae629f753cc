"""Waiting for something to follow: a change that the desktop tells of, or the next turn of the day.

Only where a desktop keeps its wallpaper in a file and tells nobody is that file's time looked at now and then.
"""

from __future__ import annotations

import select
import signal
import socket
import time
from collections.abc import Iterable
from contextlib import suppress
from pathlib import Path
from typing import Any

from ..session.bus import FAULTS, BusError, answered

# Who tells of a changed wallpaper, theme or preference for light or dark, by interface and member.
SIGNALS = (
    ("org.xfce.Xfconf", "PropertyChanged"),
    ("ca.desrt.dconf.Writer", "Notify"),
    ("org.freedesktop.portal.Settings", "SettingChanged"),
    ("org.kde.PlasmaShell", "wallpaperChanged"),
)
QUIET_FILES = (".fehbg", ".config/pcmanfm-qt/lxqt/settings.conf")  # wallpapers of desktops that tell nobody
_SETTLE_S = 0.6  # desktops tell of one change several times
_LOOK_S = 15.0
_LONGEST_S = 3600.0  # a clock that was set, or a machine that slept, is noticed by then


class Waiter:
    """Listens on the session bus; without one, only the clock is waited for. files: of desktops that tell nobody."""

    def __init__(self, files: Iterable[Path] = ()) -> None:
        self._bus: Any = _listening()
        self._files = tuple(path for path in files if path.exists())
        self._times = self._now()
        self._nudged, self._nudging = _nudges()

    def close(self) -> None:
        """Listen no more."""
        with suppress(ValueError):
            signal.set_wakeup_fd(-1)
        for end in (self._nudged, self._nudging):
            end.close()
        if self._bus is not None:
            self._bus.close()

    def _now(self) -> tuple[int, ...]:
        """Return the times of the files."""
        found = []
        for path in self._files:
            try:
                found.append(path.stat().st_mtime_ns)
            except OSError:
                found.append(0)
        return tuple(found)

    def wait(self, seconds: float) -> bool:
        """Wait for a change, or so many seconds; return whether there was a change."""
        until = time.monotonic() + min(seconds, _LONGEST_S)
        while True:
            left = until - time.monotonic()
            if left <= 0:
                return False
            slice_ = min(left, _LOOK_S) if self._files else left
            if self._heard(time.monotonic() + slice_):
                while self._heard(time.monotonic() + _SETTLE_S):
                    pass
                self._times = self._now()
                return True
            now = self._now()
            if now != self._times:
                self._times = now
                return True

    def _heard(self, until: float) -> bool:
        """Wait until a message comes that is one of the signals, until it is nudged, or a moment."""
        while True:
            left = until - time.monotonic()
            if left <= 0:
                return False
            listened = [self._nudged, *([self._bus.sock] if self._bus is not None else [])]
            ready, _, _ = select.select(listened, [], [], left)
            if not ready:
                return False
            if self._nudged in ready:
                self._nudged.recv(512)
                return True
            try:
                message = self._bus.receive(timeout=1.0)
            except FAULTS:
                self._bus = None
                return False
            fields = message.header.fields
            if (str(fields.get(2, "")), str(fields.get(3, ""))) in SIGNALS:
                return True


def _nudges() -> tuple[socket.socket, socket.socket]:
    """Return two ends, the first readable once this process was nudged: it got SIGUSR1, as when rules have changed."""
    ours, theirs = socket.socketpair()
    theirs.setblocking(False)
    with suppress(ValueError):  # only the main thread takes signals
        signal.set_wakeup_fd(theirs.fileno())
        signal.signal(signal.SIGUSR1, lambda *_: None)
    return ours, theirs


def _listening() -> Any:
    """Return a connection to the session bus that is told of the signals, None where there is no bus."""
    from jeepney import MatchRule, message_bus
    from jeepney.io.blocking import open_dbus_connection

    try:
        bus = open_dbus_connection(bus="SESSION")
        for interface, member in SIGNALS:
            answered(bus, message_bus.AddMatch(MatchRule(type="signal", interface=interface, member=member)))
    except (BusError, *FAULTS):
        return None
    return bus
