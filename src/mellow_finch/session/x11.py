"""What a running X desktop itself says: the X settings in force, what its root window carries, who composites."""

from __future__ import annotations

import os
import struct
from contextlib import suppress
from typing import Any

_INTEGER, _STRING, _COLOUR = 0, 1, 2


def _display() -> Any | None:
    """Return a connection to the X server, None when there is none."""
    if not os.environ.get("DISPLAY"):
        return None
    try:
        from Xlib.display import Display

        return Display()
    except Exception:  # the library raises whatever went wrong in it, plain Exception included
        return None


def compositor() -> bool | None:
    """Tell whether a compositing manager runs; under Wayland the compositor is the desktop itself."""
    if os.environ.get("WAYLAND_DISPLAY"):
        return True
    display = _display()
    if display is None:
        return None
    try:
        number = display.get_default_screen()
        return bool(display.get_selection_owner(display.intern_atom(f"_NET_WM_CM_S{number}")))
    finally:
        display.close()


def monitors() -> list[str]:
    """Return the names of the screens by the X server's extension for them, as they are numbered there."""
    display = _display()
    if display is None:
        return []
    try:
        from Xlib.error import XError

        with suppress(XError, AttributeError):  # a server without the extension
            found = display.screen().root.xrandr_get_monitors()
            return [display.get_atom_name(m.name) for m in found.monitors]
        return []
    finally:
        display.close()


def fills_screen() -> bool:
    """Tell whether the window that is worked in fills the whole screen."""
    display = _display() if not os.environ.get("WAYLAND_DISPLAY") else None
    if display is None:
        return False
    try:
        from Xlib.error import XError

        with suppress(XError, IndexError):
            root = display.screen().root
            active = root.get_full_property(display.intern_atom("_NET_ACTIVE_WINDOW"), 0)
            if active is not None and active.value[0]:
                window = display.create_resource_object("window", active.value[0])
                state = window.get_full_property(display.intern_atom("_NET_WM_STATE"), 0)
                return state is not None and display.intern_atom("_NET_WM_STATE_FULLSCREEN") in state.value
        return False
    finally:
        display.close()


def published() -> dict[str, str]:
    """Return the X settings by name, the window manager's name as "wm", and root properties that tell of themes.

    Under Wayland nothing: there programs read the desktop's settings themselves.
    """
    display = _display() if not os.environ.get("WAYLAND_DISPLAY") else None
    if display is None:
        return {}
    found: dict[str, str] = {}
    try:
        from Xlib.error import XError

        with suppress(XError, struct.error, IndexError):
            owner = display.get_selection_owner(display.intern_atom(f"_XSETTINGS_S{display.get_default_screen()}"))
            if owner:
                name = display.intern_atom("_XSETTINGS_SETTINGS")
                got = owner.get_full_property(name, name)
                found |= parsed(bytes(got.value)) if got is not None else {}
        root = display.screen().root
        with suppress(XError):
            theme = root.get_full_property(display.intern_atom("_OB_THEME"), 0)
            if theme is not None:
                found["_OB_THEME"] = bytes(theme.value).decode("utf-8", "replace").rstrip("\0")
        with suppress(XError):
            check = root.get_full_property(display.intern_atom("_NET_SUPPORTING_WM_CHECK"), 0)
            if check is not None:
                window = display.create_resource_object("window", check.value[0])
                name = window.get_full_property(display.intern_atom("_NET_WM_NAME"), 0)
                found["wm"] = bytes(name.value).decode("utf-8", "replace") if name is not None else ""
    finally:
        display.close()
    return found


def parsed(data: bytes) -> dict[str, str]:
    """Return the settings that a property holds, as the XSETTINGS specification lays them out.

    Raises struct.error for data that ends early.
    """
    order = "<" if data[:1] == b"\0" else ">"
    (count,) = struct.unpack_from(f"{order}I", data, 8)
    at, found = 12, {}
    for _ in range(count):
        kind, _, length = struct.unpack_from(f"{order}BBH", data, at)
        at += 4
        name = data[at : at + length].decode("ascii", "replace")
        at += length + (-length % 4) + 4  # and the serial number
        if kind == _INTEGER:
            (number,) = struct.unpack_from(f"{order}i", data, at)
            found[name] = str(number)
            at += 4
        elif kind == _STRING:
            (size,) = struct.unpack_from(f"{order}I", data, at)
            at += 4
            found[name] = data[at : at + size].decode("utf-8", "replace")
            at += size + (-size % 4)
        elif kind == _COLOUR:
            found[name] = ",".join(str(v) for v in struct.unpack_from(f"{order}4H", data, at))
            at += 8
        else:
            break
    return found
