"""Calls and signals on the session bus. Whatever goes wrong there is one error with a sentence."""

from __future__ import annotations

from collections.abc import Iterator
from contextlib import contextmanager
from typing import Any, NamedTuple

from ..errors import FinchError
from ..language import tr

LIMIT_S = 5.0
FAULTS = (OSError, KeyError, ValueError, EOFError, TimeoutError)  # all that the library raises of a bus


class BusError(FinchError):
    """There is no session bus, nobody answers, or the answer is no."""

    code = "bus"


class Address(NamedTuple):
    """Whom a call goes to: a name on the bus, an object's path, and an interface."""

    name: str
    path: str
    interface: str


@contextmanager
def connected() -> Iterator[Any]:
    """Give a connection to the session bus for a while. Raises BusError, also for what goes wrong meanwhile."""
    from jeepney.io.blocking import open_dbus_connection

    try:
        with open_dbus_connection(bus="SESSION") as connection:
            yield connection
    except FAULTS as error:
        raise BusError(tr("The session bus does not answer: {error}.").format(error=str(error).rstrip("."))) from error


def call(
    to: Address, method: str, signature: str = "", body: tuple[Any, ...] = (), limit_s: float = LIMIT_S
) -> tuple[Any, ...]:
    """Return the answer of a method. Raises BusError when there is none, or when it is an error, with its words."""
    with connected() as connection:
        return called(connection, to, method, signature, body, limit_s)


def called(
    connection: Any, to: Address, method: str, signature: str = "", body: tuple[Any, ...] = (), limit_s: float = LIMIT_S
) -> tuple[Any, ...]:
    """Return the answer of a method over a connection that is open. Raises what call raises."""
    from jeepney import DBusAddress, new_method_call

    address = DBusAddress(to.path, to.name, to.interface)
    return answered(connection, new_method_call(address, method, signature or None, body), limit_s)


def answered(connection: Any, message: Any, limit_s: float = LIMIT_S) -> tuple[Any, ...]:
    """Return the answer of any message. Raises what call raises."""
    from jeepney import MessageType

    try:
        reply = connection.send_and_get_reply(message, timeout=limit_s)
    except FAULTS as error:
        raise BusError(tr("The session bus does not answer: {error}.").format(error=str(error).rstrip("."))) from error
    if reply.header.message_type == MessageType.error:
        raise BusError(str(reply.body[0]) if reply.body else tr("The request was refused."))
    body: tuple[Any, ...] = reply.body
    return body


def emit(path: str, interface: str, member: str, signature: str, body: tuple[Any, ...]) -> None:
    """Send a signal. Raises BusError."""
    from jeepney import DBusAddress, new_signal

    with connected() as connection:
        connection.send(new_signal(DBusAddress(path, interface=interface), member, signature or None, body))


def has_owner(connection: Any, name: str, limit_s: float = LIMIT_S) -> bool:
    """Tell whether anybody has a name. Raises BusError."""
    from jeepney import message_bus

    body = answered(connection, message_bus.NameHasOwner(name), limit_s)
    return bool(body and body[0])
