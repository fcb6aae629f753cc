"""What a virtual screen shows: its pixels, and where a window lies, of each desktop as it gives them."""

from __future__ import annotations

import io
import json
import os
import subprocess
import time
from concurrent.futures import ThreadPoolExecutor
from contextlib import suppress

from jeepney import DBusAddress, message_bus, new_method_call
from jeepney.io.blocking import open_dbus_connection
from PIL import Image, ImageGrab
from Xlib.display import Display

from .started import DESKTOP, FIXED, HOME, INSIDE, OF_WLROOTS, OUTSIDE, PANELS

SPOTS = ((30, 500), (900, 620), (1200, 700))  # of the image, away from windows and panels


def client():
    """Return where the test window's inside lies on the screen."""
    if os.environ.get("SWAYSOCK"):
        return client_of_sway()
    if DESKTOP in FIXED:
        return FIXED[DESKTOP]
    display = Display()
    try:
        root = display.screen().root

        def found(window):
            try:
                name = window.get_wm_name()
                if name and "Hide log" in str(name) and window.get_attributes().map_state == 2:
                    return window
                for child in window.query_tree().children:
                    inner = found(child)
                    if inner is not None:
                        return inner
            except Exception:  # a window that went away meanwhile
                return None
            return None

        window = found(root)
        if window is None:
            return None
        at = window.translate_coords(root, 0, 0)
        shape = window.get_geometry()
        return -at.x if at.x < 0 else at.x, -at.y if at.y < 0 else at.y, shape.width, shape.height
    finally:
        display.close()


def client_of_sway():
    """Return the same as Sway tells it."""
    tree = json.loads(subprocess.run(["swaymsg", "-t", "get_tree"], capture_output=True, text=True).stdout or "{}")
    todo = [tree]
    while todo:
        node = todo.pop()
        if node.get("name") == "Hide log" and node.get("rect"):
            return tuple(node["rect"][k] for k in ("x", "y", "width", "height"))
        todo += [*node.get("nodes", ()), *node.get("floating_nodes", ())]
    return None


def screen():
    """Return a picture of the whole screen."""
    if DESKTOP in OF_WLROOTS:
        return grimmed(os.environ)
    if DESKTOP == "plasma-wayland":
        return screen_of_kwin()
    if DESKTOP == "gnome":
        return screen_of_gnome()
    return ImageGrab.grab(xdisplay=os.environ["DISPLAY"]).convert("RGB")


def grimmed(environment):
    """Return the screen of a compositor that lets programs take its picture."""
    shot = subprocess.run(["grim", "-t", "ppm", "-"], capture_output=True, env=environment).stdout
    return Image.open(io.BytesIO(shot)).convert("RGB") if shot else Image.new("RGB", (1280, 800))


def screen_of_gnome():
    """Return the same as the shell draws it, which it does for programs of a few names."""
    shot = HOME / "shot.png"
    with open_dbus_connection(bus="SESSION") as bus, suppress(TimeoutError):
        bus.send_and_get_reply(message_bus.RequestName("org.gnome.Screenshot"), timeout=10)
        place = DBusAddress("/org/gnome/Shell/Screenshot", "org.gnome.Shell.Screenshot", "org.gnome.Shell.Screenshot")
        bus.send_and_get_reply(new_method_call(place, "Screenshot", "bbs", (False, False, str(shot))), timeout=10)
    return Image.open(shot).convert("RGB") if shot.exists() else Image.new("RGB", (1280, 800))


def pixel(image, x, y):
    return list(image.getpixel((max(0, min(image.width - 1, x)), max(0, min(image.height - 1, y)))))[:3]


def mean(image, x, y):
    """Return the mean colour around a place."""
    return list(image.crop((x - 12, y - 12, x + 12, y + 12)).resize((1, 1), Image.Resampling.BOX).getpixel((0, 0)))


def seen():
    """Return what the screen shows: the window's inside, its border, and the picture, well away from both."""
    image = screen()
    place = client()
    spots = SPOTS[:2] if DESKTOP in PANELS and image.height < 800 else SPOTS  # the last would lie on its panel's clock
    out = {"picture": [mean(image, x, y) for x, y in spots]}
    if place is not None:
        x, y, w, h = place
        out["window"] = pixel(image, x + w // 2, y + h // 2 + 40)
        out["border"] = pixel(image, x + 60, y - 6)
    if DESKTOP in PANELS:
        out["panel"] = pixel(image, *PANELS[DESKTOP])
    return out, image


def still(until, want):
    """Look at the screen until it shows what is wanted, or for so many seconds; return what it shows and how long it took."""
    began = time.monotonic()
    while True:
        out, _ = seen()
        took = time.monotonic() - began
        if want(out) or took > until:
            return out, took
        time.sleep(0.1)


def steady():
    """Return what the screen shows when nothing fades in any more."""
    shown, image = seen()
    for _ in range(12):
        time.sleep(0.8)
        last = shown
        shown, image = seen()
        if shown == last:
            break
    return shown, image


def near(a, b, most=12):
    return all(abs(x - y) <= most for x, y in zip(a, b, strict=True))


def screen_of_kwin():
    """Return what KWin draws."""
    if INSIDE:
        elsewhere = {**os.environ, "XDG_RUNTIME_DIR": str(HOME / "out"), "WAYLAND_DISPLAY": OUTSIDE}
        return grimmed(elsewhere)
    mine, theirs = os.pipe()
    place = DBusAddress("/org/kde/KWin/ScreenShot2", "org.kde.KWin", "org.kde.KWin.ScreenShot2")
    with open_dbus_connection(bus="SESSION", enable_fds=True) as bus, os.fdopen(mine, "rb") as told:
        with ThreadPoolExecutor(1) as pool:
            data = pool.submit(told.read)
            ask = new_method_call(place, "CaptureWorkspace", "a{sv}h", ({}, theirs))
            answer = bus.send_and_get_reply(ask, timeout=20).body[0]
            os.close(theirs)
        if not isinstance(answer, dict):  # it does not run yet
            return Image.new("RGB", (1280, 800))
        size = answer["width"][1], answer["height"][1]
        return Image.frombuffer("RGBA", size, data.result(), "raw", "BGRA", answer["stride"][1], 1).convert("RGB")
