"""Prints the styles that GTK 2 gives a window and a button after reading a gtkrc, as JSON. Run by any Python."""

from __future__ import annotations

import ctypes
import json
import sys


class _Colour(ctypes.Structure):
    _fields_ = [("pixel", ctypes.c_uint32), ("r", ctypes.c_uint16), ("g", ctypes.c_uint16), ("b", ctypes.c_uint16)]


class _Object(ctypes.Structure):
    _fields_ = [("type", ctypes.c_void_p), ("references", ctypes.c_uint), ("data", ctypes.c_void_p)]


class _Style(ctypes.Structure):
    _fields_ = [
        ("object", _Object),
        *[(name, _Colour * 5) for name in ("fg", "bg", "light", "dark", "mid", "text", "base", "text_aa")],
    ]


def main() -> None:
    """Read the file that is named and print what two widgets get."""
    gtk = ctypes.CDLL("libgtk-x11-2.0.so.0")
    gtk.gtk_init(None, None)
    for name in ("gtk_window_new", "gtk_button_new_with_label"):
        getattr(gtk, name).restype = ctypes.c_void_p
    gtk.gtk_container_add.argtypes = [ctypes.c_void_p] * 2
    gtk.gtk_rc_get_style.restype = ctypes.POINTER(_Style)
    gtk.gtk_rc_get_style.argtypes = [ctypes.c_void_p]
    gtk.gtk_rc_parse(sys.argv[1].encode())
    window, button = gtk.gtk_window_new(0), gtk.gtk_button_new_with_label(b"x")
    gtk.gtk_container_add(window, button)
    out = {}
    for name, widget in (("window", window), ("button", button)):
        style = gtk.gtk_rc_get_style(widget).contents
        out[name] = {
            key: [f"#{c.r >> 8:02x}{c.g >> 8:02x}{c.b >> 8:02x}" for c in getattr(style, key)]
            for key in ("fg", "bg", "text", "base")
        }
    print(json.dumps(out))


if __name__ == "__main__":
    main()
