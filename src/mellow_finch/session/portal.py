"""Dialogs the desktop for a colour of the screen, through the portal's own picker over D-Bus. Knows no window."""

from __future__ import annotations

import secrets
import time
from contextlib import suppress
from pathlib import Path
from typing import Any, NamedTuple
from urllib.parse import unquote, urlsplit

import numpy as np
from numpy.typing import NDArray

from ..colour.rgb import Rgba, from_unit
from ..errors import FinchError
from ..language import tr
from ..picture.load import load_image
from ..progress import Progress
from .bus import Address, BusError, answered, called, connected
from .screen_tools import can_look, can_point, photographed, point_at_colour

_NAME, _PATH = "org.freedesktop.portal.Desktop", "/org/freedesktop/portal/desktop"
_SCREENSHOT = Address(_NAME, _PATH, "org.freedesktop.portal.Screenshot")
_PROPERTIES = Address(_NAME, _PATH, "org.freedesktop.DBus.Properties")
_PERSON_S = 180.0
_POLL_S = 0.2


class PortalError(FinchError):
    """The desktop does not pick colours for programs, or takes no pictures for them."""

    code = "portal"


class _Request(NamedTuple):
    """What is asked of the portal, and what is said where that cannot be had.

    version: the least one of the interface; refused: where that is older; silent: where no answer comes; absent,
    no_bus: where there is no such portal, or no bus to ask it over.
    """

    method: str
    version: int
    options: dict[str, Any]
    waiting: str
    refused: str
    silent: str
    absent: str
    no_bus: str
    hint: str = ""


_ELSE = tr("Pick it from the image, or type the colour.")
_PICK = _Request(
    "PickColor",
    2,  # it came with the second version of the interface
    {},
    tr("Waiting for the desktop's colour picker"),
    tr("This desktop's portal does not pick colours."),
    tr("The desktop's colour picker did not answer."),
    tr("This desktop has no portal for picking colours."),
    tr("There is no session bus here, so the desktop cannot be asked for a colour."),
    _ELSE,
)
_NO_PICTURES = tr("This desktop has no portal for screenshots.")
_PHOTOGRAPH = _Request(
    "Screenshot",
    1,
    {"interactive": ("b", False)},
    tr("Waiting for the desktop's screenshot"),
    _NO_PICTURES,
    _NO_PICTURES,
    _NO_PICTURES,
    tr("There is no session bus here, so the desktop cannot be asked for a screenshot."),
)


def pick_colour(progress: Progress, parent: str = "") -> Rgba | None:
    """Let the person pick a colour anywhere on the screen; None when they called it off.

    Blocks until they have; progress may raise Cancelled meanwhile. parent: the window's identifier as the portal
    wants it, empty for none. Where no portal picks colours, two programs do that are usual on such compositors.
    Raises PortalError when there is no session bus, no portal, or none that picks colours, and those are missing too.
    """
    try:
        return _colour(_answer(progress, _PICK, parent))
    except PortalError:
        if not can_point():
            raise
    try:
        return point_at_colour(progress)
    except OSError as error:
        raise PortalError(_PICK.absent, _ELSE) from error


def photograph(progress: Progress) -> NDArray[np.uint8] | None:
    """Return a picture of the screen that the desktop takes, (height, width, 3) sRGB; None when it is not allowed.

    Blocks until they have answered; progress may raise Cancelled meanwhile. The desktop's file of it is removed again.
    Raises PortalError when there is no session bus, no portal, or none that takes pictures, and what load_image raises.
    """
    try:
        code, results = _answer(progress, _PHOTOGRAPH, "")
    except PortalError:
        if not can_look():
            raise
        with suppress(OSError):
            return photographed()
        raise
    address = urlsplit(str(results.get("uri", ("", ""))[1])) if code == 0 else urlsplit("")
    if address.scheme != "file":
        return None
    path = Path(unquote(address.path))
    try:
        return np.asarray(load_image(path).convert("RGB"))
    finally:
        with suppress(OSError):
            path.unlink()


def _answer(progress: Progress, request: _Request, parent: str) -> tuple[Any, ...]:
    """Return the body of the portal's answer to a request that a person has a say in."""
    from jeepney import MatchRule, message_bus

    asked = False
    try:
        with connected() as connection:
            asked = True
            if _version(connection) < request.version:
                raise PortalError(request.refused, request.hint)
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
                options = {"handle_token": ("s", token), **request.options}
                called(connection, _SCREENSHOT, request.method, "sa{sv}", (parent, options))
                until = time.monotonic() + _PERSON_S
                while time.monotonic() < until:
                    progress.report(0, 0, request.waiting)
                    try:
                        answer = connection.recv_until_filtered(answers, timeout=_POLL_S)
                    except TimeoutError:
                        continue
                    return tuple(answer.body)
            raise PortalError(request.silent, request.hint)
    except BusError as error:
        raise PortalError(request.absent if asked else request.no_bus, request.hint) from error


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
        raise PortalError(tr("The desktop's colour picker returned no usable colour."), _ELSE)
    return from_unit(*found)
