"""Dialogs the desktop for a colour of the screen, through the portal's own picker over D-Bus. Knows no window."""

from __future__ import annotations

import secrets
import time
from contextlib import suppress
from pathlib import Path
from typing import Any
from urllib.parse import unquote, urlsplit

import numpy as np
from numpy.typing import NDArray

from ..colour.rgb import Rgba, from_unit
from ..errors import FinchError
from ..language import tr
from ..picture.load import load_image
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
    body = _answer(progress, "PickColor", parent, {}, _LEAST_VERSION, tr("Waiting for the desktop's colour picker"))
    return _colour(body)


def photograph(progress: Progress) -> NDArray[np.uint8] | None:
    """Return a picture of the screen that the desktop takes, (height, width, 3) sRGB; None when it is not allowed.

    Blocks until they have answered; progress may raise Cancelled meanwhile. The desktop's file of it is removed again.
    Raises PortalError when there is no session bus, no portal, or none that takes pictures, and what load_image raises.
    """
    options = {"interactive": ("b", False)}
    code, results = _answer(progress, "Screenshot", "", options, 1, tr("Waiting for the desktop's picture"))
    address = urlsplit(str(results.get("uri", ("", ""))[1])) if code == 0 else urlsplit("")
    if address.scheme != "file":
        return None
    path = Path(unquote(address.path))
    try:
        return np.asarray(load_image(path).convert("RGB"))
    finally:
        with suppress(OSError):
            path.unlink()


def _answer(
    progress: Progress, method: str, parent: str, options: dict[str, Any], version: int, words: str
) -> tuple[Any, ...]:
    """Return the body of the portal's answer to a request that a person has a say in."""
    from jeepney import MatchRule, message_bus

    asked = False
    try:
        with connected() as connection:
            asked = True
            if _version(connection) < version:
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
                called(connection, _SCREENSHOT, method, "sa{sv}", (parent, {"handle_token": ("s", token), **options}))
                until = time.monotonic() + _PERSON_S
                while time.monotonic() < until:
                    progress.report(0, 0, words)
                    try:
                        answer = connection.recv_until_filtered(answers, timeout=_POLL_S)
                    except TimeoutError:
                        continue
                    return tuple(answer.body)
            raise PortalError(tr("The desktop's colour picker did not answer."), _ELSE)
    except BusError as error:
        said = (
            tr("This desktop has no portal that picks colours.")
            if asked
            else tr("There is no session bus here, so the desktop cannot be asked for a colour.")
        )
        raise PortalError(said, _ELSE) from error


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
