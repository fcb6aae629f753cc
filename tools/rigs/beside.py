"""Puts the stage beside a real screen: what it draws of a home is looked for on the screen after a look was applied.

Called as the driver of desktops is (see rigs.desktop), in a home of rigs.sessions. What appears on the screen when something
opens is its surface: a colour that a tenth of it has is compared with the stage's.
"""

from __future__ import annotations

import json
import os
import shlex
import subprocess
import sys
import time
from collections.abc import Callable, Sequence
from pathlib import Path
from typing import NamedTuple

import numpy as np
from PIL import Image

from mellow_finch.colour.difference import colour_difference
from mellow_finch.colour.rgb import Rgba
from mellow_finch.look.carry import load_look, save_look
from mellow_finch.look.edits import with_tone

from . import desktop as driver
from .sessions import OWN

HOME = Path.home()
_LEAST = 1500  # pixels that have to change for something to have appeared
_STRIP = 20  # pixels at an edge in which a panel's ground is looked for
CLICK = """
import sys
from Xlib import X, display
from Xlib.ext import xtest
d = display.Display()
xtest.fake_input(d, X.MotionNotify, x=int(sys.argv[1]), y=int(sys.argv[2]))
for kind in (X.ButtonPress, X.ButtonRelease):
    d.sync()
    xtest.fake_input(d, kind, 1)
d.sync()
"""
GTK3 = """
import gi
gi.require_version("Gtk", "3.0")
from gi.repository import Gtk
w = Gtk.Window(title="Ring list", default_width=520, default_height=340)
w.show_all()
Gtk.main()
"""
GTK4 = """
import gi
gi.require_version("Gtk", "4.0")
from gi.repository import Gtk
def made(app):
    w = Gtk.ApplicationWindow(application=app, title="Ring log", default_width=520, default_height=340)
    w.set_child(Gtk.Label(label="", vexpand=True))
    w.present()
app = Gtk.Application(application_id="reedholm.RingLog")
app.connect("activate", made)
app.run([])
"""
QT = """
import sys
from PyQt5.QtWidgets import QApplication, QPlainTextEdit
app = QApplication(sys.argv)
w = QPlainTextEdit()
w.resize(520, 340)
w.setWindowTitle("Ring notes")
w.show()
app.exec_()
"""
NOTICE = ("notify-send", "-t", "60000", "Net 3 is full", "Seven bearded reedlings, two with rings")
Colour = tuple[int, int, int]


class Drawn(NamedTuple):
    """A surface of the stage: its role, the component and part that it is drawn of, its colour."""

    role: str
    component: str
    part: str
    colour: Colour


_TITLE_BARS = ("border", "window border", "header bar")


def _role(role: str, part: str) -> str:
    """Return the role of a part among those of what draws it: a shell draws more than its panel."""
    if part in _TITLE_BARS:
        return "borders"
    own = {"menu": "menu", "notification": "notices"} if role == "panel" else {}
    return next((told for word, told in own.items() if word in part), role)


def drawn(look_file: str) -> tuple[list[Drawn], bool]:
    """Return the surfaces that the program's own window draws of this home, on this desktop, and whether the panel is low."""
    app, window = driver.opened_window(look_file)
    from PyQt6.QtGui import QImage, QPainter

    from mellow_finch.ui.stage.brush import HEIGHT, WIDTH, Brush
    from mellow_finch.ui.stage.scene import configure_brush, pieces
    from mellow_finch.ui.stage.scenes.windows import files, gtk3_window, gtk4_window

    until = time.monotonic() + 90
    while time.monotonic() < until and (window.jobs.keys or window.document.look is None):
        app.processEvents()
        time.sleep(0.01)
    paints, shape = window.document.right_paints, window.staging.seen(window.document.look).shape
    made = shape.made
    roles = {made.terminal: "terminal", made.notices: "notices", made.widget: "widget", made.dock: "dock", made.panel: "panel"}  # fmt: skip
    out = []
    for piece in pieces("", shape):
        image = QImage(WIDTH, HEIGHT, QImage.Format.Format_ARGB32_Premultiplied)
        image.fill(0)
        painter = QPainter(image)
        brush = Brush(painter, paints, flat=True)
        configure_brush(brush, "", shape)
        piece.draw(brush)
        painter.end()
        fills = [a for a in brush.areas if a.what == "fill" and a.rect.width() * a.rect.height() > 300]
        own = [area for area in fills if area.component == piece.owner]
        shown = [max(own, key=lambda area: area.rect.width() * area.rect.height())] if own else []
        shown += [
            area
            for area in fills
            if area.component == made.borders and area.part in _TITLE_BARS and piece.owner == "kde"
        ][:1]
        shown += [area for area in own if area.component == made.panel and area.rect.width() > 1000][:1]
        for area in shown:
            x, y, w, h = area.rect.getRect()
            spots = ((round(x + w * i / 24), round(y + h * j / 24)) for i in range(1, 24) for j in range(1, 24))
            colours = [image.pixelColor(*spot).getRgb() for spot in spots]
            solid = [colour[:3] for colour in colours if colour[3] > 128]
            if solid:
                role = area.component if piece.drawn in (files, gtk3_window, gtk4_window) else roles[piece.owner]
                colour = max(set(solid), key=solid.count)
                out.append(Drawn(_role(role, area.part), area.component, area.part, colour))
    window.hide()
    os.environ.pop("QT_QPA_PLATFORM")
    return list(dict.fromkeys(out)), made.low


def grabbed() -> np.ndarray:
    """Return the screen, shape (height, width, 3)."""
    return np.asarray(driver.screen())


def surfaces(pixels: np.ndarray) -> list[Colour]:
    """Return the colours that at least a tenth of some pixels have, shape (count, 3), the commonest first."""
    colours, counts = np.unique(pixels.reshape(-1, 3), axis=0, return_counts=True)
    return [tuple(int(v) for v in colours[i]) for i in np.argsort(-counts)[:5] if counts[i] * 10 >= counts.sum()]


def rested(seconds: float) -> np.ndarray:
    """Return the screen once it stays as it is."""
    until, last = time.monotonic() + seconds, grabbed()
    while time.monotonic() < until:
        time.sleep(0.7)
        now = grabbed()
        if np.array_equal(now, last):
            break
        last = now
    return last


def appears(begin: Callable[[], object], seconds: float = 20.0) -> np.ndarray | None:
    """Return the pixels that changed when something began, shape (count, 3), None where nothing appeared."""
    before = rested(6.0)
    begin()
    until = time.monotonic() + seconds
    while time.monotonic() < until:
        time.sleep(0.5)
        if (grabbed() != before).any(2).sum() > _LEAST:
            after = rested(5.0)
            return after[(after != before).any(2)]
    return None


def opened(words: Sequence[str]) -> list[Colour]:
    """Return the colours of what appears when a program starts, which is ended then."""
    children: list[subprocess.Popen[bytes]] = []
    pixels = appears(lambda: children.append(driver.start(list(words), start_new_session=True)))
    for child in children:
        subprocess.run(["kill", "-9", "--", f"-{child.pid}"], capture_output=True)
        child.wait()
    time.sleep(1.0)
    return surfaces(pixels) if pixels is not None else []


def noticed() -> list[Colour]:
    """Return the colours of a notification."""
    pixels = appears(lambda: subprocess.run(NOTICE, capture_output=True, timeout=20), 12.0)
    return surfaces(pixels) if pixels is not None else []


def panel(low: bool) -> list[Colour]:
    """Return the colours of what lies at an edge."""
    image = grabbed()
    rows = image[-_STRIP:-3] if low else image[3:_STRIP]
    return surfaces(rows[:, 300:-300])


def border() -> list[Colour]:
    """Return the colours of what lies above the test window's inside."""
    place = driver.client()
    if place is None:
        return []
    x, y, w, _ = place
    return surfaces(grabbed()[max(0, y - 14) : y - 3, x + 40 : x + w // 2])


def main(desktop: str) -> None:
    """Do all of it for the home that FINCH_HOME names in the tone of FINCH_TONE, and leave what was drawn and found."""
    own, look = OWN[os.environ["FINCH_HOME"]], Path(sys.argv[2])
    save_look(with_tone(load_look(look), os.environ["FINCH_TONE"]), look)
    window = load_look(look).colours["window"][:3]
    for path, text in own.files:
        (HOME / path).parent.mkdir(parents=True, exist_ok=True)
        (HOME / path).write_text(text)
    driver.begin(desktop)

    def begin_own() -> list[subprocess.Popen[bytes]]:
        children = [driver.start(shlex.split(words)) for words in own.starts]
        time.sleep(5.0)
        return children

    children = begin_own()
    out = {"worn": driver.finch("wear", str(look), "--yes")}
    driver.still(10.0, lambda o: driver.near(o.get("window", (0, 0, 0)), window))
    for child in children:  # as at the next login
        child.kill()
        child.wait()
    children = begin_own()
    stage, low = drawn(str(look))
    roles = {row.role for row in stage}
    opens = {role: shlex.split(words) for role, words in sorted(own.opens, key=lambda row: row[0] == "menu")}
    for child in children:  # what is opened to be measured was not there before
        if child.args in opens.values():
            child.kill()
            child.wait()
    python = "/usr/bin/python3"
    found = {"borders": border()}
    if "panel" in roles:
        found["panel"] = panel(low)
    for role, script in (("gtk-3", GTK3), ("gtk-4", GTK4), ("kde", QT)):
        found[role] = opened([python, "-c", script])
    if "notices" in roles and "notices" not in opens:
        found["notices"] = noticed()
    for role, words in opens.items():
        found[role] = opened([sys.executable, "-c", CLICK, *words[1:]] if words[0] == "click" else words)
    Image.fromarray(grabbed()).save(HOME / "beside.png")
    rows = []
    for row in stage:
        apart = sorted(
            (round(float(colour_difference(Rgba(*row.colour), Rgba(*c))), 2), c) for c in found.get(row.role, ())
        )
        rows.append([*row[:3], row.colour, apart[0][1] if apart else None, apart[0][0] if apart else None])
    (HOME / "seen.json").write_text(json.dumps({**out, "rows": rows}))
    driver.leave()


if __name__ == "__main__":
    main(sys.argv[1])
