"""One window for all: a second start hands its files to the window that is there, over the session bus.

The window answers as org.freedesktop.Application under its own name. Where there is no bus, each start has its window.
"""

from __future__ import annotations

import os
import time
from collections.abc import Callable, Sequence
from pathlib import Path

from PyQt6.QtCore import QObject, QUrl, pyqtClassInfo, pyqtSlot

from ..session.bus import Address, BusError, called, connected, has_owner

NAME = "org.mellowfinch.MellowFinch"
PATH = "/org/mellowfinch/MellowFinch"
INTERFACE = "org.freedesktop.Application"
_ANSWER_S = 3.0
# What another process may ask for, by the names of the menu's entries too: nothing here writes, all of it only shows.
SHOWN = {
    "": "",
    "shelf": "shelf",
    "choose": "open_picture",
    "open_picture": "open_picture",
    "take-off": "take_off",
    "take_off": "take_off",
}
_MOST_CALLS, _MOST_FILES, _MOST_PATH = 3, 50, 4096
_PER_S = 1.0


class Gate:
    """Lets a few calls in each second, and the others go unanswered: any process of the session may call."""

    def __init__(self, clock: Callable[[], float] = time.monotonic) -> None:
        self._clock = clock
        self._when: list[float] = []

    def opens(self) -> bool:
        """Tell whether one more call is let in now."""
        now = self._clock()
        self._when = [then for then in self._when if now - then < _PER_S]
        if len(self._when) >= _MOST_CALLS:
            return False
        self._when.append(now)
        return True


def files_of(uris: Sequence[str]) -> list[str]:
    """Return the paths of files of this computer among addresses, as many as a person would open at once."""
    found = []
    for uri in list(uris)[:_MOST_FILES]:
        url = QUrl(uri)
        path = url.toLocalFile() if url.isLocalFile() and not url.host() else ""
        if Path(path).is_absolute() and len(path) < _MOST_PATH and "\0" not in path:
            found.append(path)
    return found


def handed_over(files: Sequence[Path], action: str = "") -> bool:
    """Hand files, or an action, to the window that is there already; return whether one took them."""
    if not os.environ.get("DBUS_SESSION_BUS_ADDRESS"):
        return False
    here = Address(NAME, PATH, INTERFACE)
    token = os.environ.get("XDG_ACTIVATION_TOKEN") or os.environ.get("DESKTOP_STARTUP_ID", "")
    data = {"activation-token": ("s", token)} if token else {}
    try:
        with connected() as connection:
            if not has_owner(connection, NAME, _ANSWER_S):
                return False
            if files:
                uris = [QUrl.fromLocalFile(str(path.absolute())).toString() for path in files]
                called(connection, here, "Open", "asa{sv}", (uris, data), _ANSWER_S)
            elif action:
                called(connection, here, "ActivateAction", "sava{sv}", (action, [], data), _ANSWER_S)
            else:
                called(connection, here, "Activate", "a{sv}", (data,), _ANSWER_S)
    except BusError:
        return False
    return True


def _adaptor(parent: QObject, opened: Callable[[list[str]], None], acted: Callable[[str], None]) -> QObject:
    from PyQt6.QtDBus import QDBusAbstractAdaptor

    gate = Gate()

    @pyqtClassInfo("D-Bus Interface", INTERFACE)  # type: ignore[func-returns-value]
    class Application(QDBusAbstractAdaptor):  # type: ignore[misc]
        """What the bus calls."""

        @pyqtSlot("QVariantMap")
        def Activate(self, data: object) -> None:
            """Come to the front."""
            if gate.opens():
                acted("")

        @pyqtSlot("QStringList", "QVariantMap")
        def Open(self, uris: list[str], data: object) -> None:
            """Open files."""
            paths = files_of(uris) if gate.opens() else []
            if paths:
                opened(paths)

        @pyqtSlot("QString", "QVariantList", "QVariantMap")
        def ActivateAction(self, name: str, words: object, data: object) -> None:
            """Show what an entry of the menu offers."""
            if name in SHOWN and gate.opens():
                acted(SHOWN[name])

    return Application(parent)


def answer(parent: QObject, opened: Callable[[list[str]], None], acted: Callable[[str], None]) -> bool:
    """Answer as the one window from now on; return whether the bus has taken the name.

    opened: takes paths; acted: takes the id of an action, empty for coming to the front.
    """
    if not os.environ.get("DBUS_SESSION_BUS_ADDRESS"):
        return False
    from PyQt6.QtDBus import QDBusConnection

    bus = QDBusConnection.sessionBus()
    if not bus.isConnected():
        return False
    _adaptor(parent, opened, acted)
    return bus.registerObject(PATH, parent) and bus.registerService(NAME)
