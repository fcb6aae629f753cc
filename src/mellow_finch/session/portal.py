"""Dialogs the desktop for a colour of the screen, through the portal's own picker over D-Bus. Knows no window."""

from __future__ import annotations

import secrets
import time
from typing import Any

from ..colour.rgb import Rgba, from_unit
from ..errors import FinchError
from ..language import tr
from ..progress import Progress
from .bus import Address, BusError, answered, called, connected

_NAME, _PATH = "org.freedesktop.portal.Desktop", "/org/freedesktop/portal/desktop"
_SCREENSHOT = Address(_NAME, _PATH, "org.freedesktop.portal.Screenshot")
_PROPERTIES = Address(_NAME, _PATH, "org.freedesktop.DBus.Properties")
_LEAST_VERSION = 2  # of the Screenshot interface: PickColor came with it
_PERSON_S = 180.0
_POLL_S = 0.2


class PortalError(FinchError):
    """The desktop does not pick colours for programs."""

    code = "portal"


_ELSE = tr("Pick off the picture, or type the colour.")


def pick_colour(progress: Progress, parent: str = "") -> Rgba | None:
    """Let the person pick a colour anywhere on the screen; None when they called it off.

    Blocks until they have; progress may raise Cancelled meanwhile. parent: the window's identifier as the portal
    wants it, empty for none. Raises PortalError when there is no session bus, no portal, or none that picks colours.
    """
    from jeepney import MatchRule, message_bus

    asked = False
    try:
        with connected() as connection:
            asked = True
            if _version(connection) < _LEAST_VERSION:
                raise PortalError(tr("This desktop's portal does not pick colours."), _ELSE)
            token = f"finch{secrets.token_hex(6)}"
            sender = connection.unique_name.lstrip(":").replace(".", "_")
            rule = MatchRule(
                type="signal",
                interface="org.freedesktop.portal.Request",
                member="Response",
                path=f"{_PATH}/request/{sender}/{token}",
            )
            answered(connection, message_bus.AddMatch(rule))
            with connection.filter(rule) as answers:
                called(connection, _SCREENSHOT, "PickColor", "sa{sv}", (parent, {"handle_token": ("s", token)}))
                until = time.monotonic() + _PERSON_S
                while time.monotonic() < until:
                    progress.report(0, 0, tr("Waiting for the desktop's colour picker"))
                    try:
                        answer = connection.recv_until_filtered(answers, timeout=_POLL_S)
                    except TimeoutError:
                        continue
                    return _colour(answer.body)
            raise PortalError(tr("The desktop's colour picker did not answer."), _ELSE)
    except BusError as error:
        words = (
            tr("This desktop has no portal that picks colours.")
            if asked
            else tr("There is no session bus here, so the desktop cannot be asked for a colour.")
        )
        raise PortalError(words, _ELSE) from error


def _version(connection: Any) -> int:
    body = called(connection, _PROPERTIES, "Get", "ss", (_SCREENSHOT.interface, "version"))
    value = body[0][1] if body and isinstance(body[0], tuple) else 0
    return value if isinstance(value, int) else 0


def _colour(body: tuple[Any, ...]) -> Rgba | None:
    """Return the colour of a Response: code 0 with results that hold (ddd), sRGB 0..1; other codes are a no."""
    code, results = body
    if code != 0:
        return None
    found = results.get("color", (None, None))[1]
    if not (isinstance(found, tuple) and len(found) == 3 and all(isinstance(v, float) and 0 <= v <= 1 for v in found)):
        raise PortalError(tr("The desktop's colour picker gave no usable colour."), _ELSE)
    return from_unit(*found)
