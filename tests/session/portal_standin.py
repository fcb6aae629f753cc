"""A stand-in for the desktop's portal on a private session bus: python portal_standin.py MODE."""

from __future__ import annotations

import sys
from pathlib import Path

from jeepney import DBusAddress, HeaderFields, MessageType, new_error, new_method_return, new_signal
from jeepney.bus_messages import message_bus
from jeepney.io.blocking import open_dbus_connection

RESULTS = {
    "answer": (0, {"color": ("(ddd)", (1.0, 0.5, 0.0))}),
    "no": (1, {}),
    "odd": (0, {"color": ("(ddd)", (7.0, 0.5, 0.0))}),
    "empty": (0, {}),
    "picture": (0, {"uri": ("s", Path(sys.argv[-1]).absolute().as_uri())}),
}


def main() -> None:
    mode = sys.argv[1]
    connection = open_dbus_connection(bus="SESSION")
    connection.send_and_get_reply(message_bus.RequestName("org.freedesktop.portal.Desktop"))
    print("ready", flush=True)
    while True:
        message = connection.receive()
        if message.header.message_type != MessageType.method_call:
            continue
        fields = message.header.fields
        member = fields.get(HeaderFields.member)
        if member == "Get":
            connection.send(new_method_return(message, "v", (("u", 1 if mode == "old" else 2),)))
        elif member == "PickColor" and mode == "broken":
            connection.send(new_error(message, "org.freedesktop.portal.Error.Failed", "s", ("no picker",)))
        elif member in ("PickColor", "Screenshot"):
            sender = fields[HeaderFields.sender].lstrip(":").replace(".", "_")
            handle = f"/org/freedesktop/portal/desktop/request/{sender}/{message.body[1]['handle_token'][1]}"
            connection.send(new_method_return(message, "o", (handle,)))
            if mode in RESULTS:
                address = DBusAddress(handle, interface="org.freedesktop.portal.Request")
                connection.send(new_signal(address, "Response", "ua{sv}", RESULTS[mode]))


if __name__ == "__main__":
    main()
