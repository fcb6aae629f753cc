"""Translucent surfaces of real programs on a virtual screen: what the stage shows is what is there, and it can be read."""

from __future__ import annotations

import contextlib
import os
import subprocess
import time
from pathlib import Path

import numpy as np
import pytest
from PIL import Image

from mellow_finch.colour.blend import over
from mellow_finch.colour.contrast import FLARE, relative_luminance
from mellow_finch.colour.difference import colour_difference
from mellow_finch.colour.rgb import Rgba
from mellow_finch.components.catalogue import COMPONENT_BY_ID
from mellow_finch.components.files import FolderFiles
from mellow_finch.demo.build import build_demo_home
from mellow_finch.look.edits import with_blur, with_opacity
from mellow_finch.look.gather import look_of_pictures
from mellow_finch.palette.veil import KINDS
from tests.consumers.test_readers import needs

from .test_desktops import pytestmark  # noqa: F401 - real desktops run with a word of their own

SIZE = "1280x800x24"
LETTER = 12  # pixels of what lies under one
PICTURES = ("reedbed-at-dawn", "dusk-murmuration", "frost-on-sedge")
# What runs, the component and part that say how it is painted, the class of its window or None, and a place in it (or on
# the screen) that no text reaches: left and top from the window's upper left corner, negative ones from the lower right.
SURFACES = (
    ("kvantumpreview", "qt-drawn", "window", "kvantum", (-400, -70, -60, -55)),
    ("konsole --geometry 400x220+20+60", "konsole", "terminal", "konsole", (150, 150, 330, 200)),
    ("xfce4-terminal --disable-server --geometry=40x10+460+30 -T Hide", "xfce-terminal", "terminal", "xfce4-terminal", (120, 90, 260, 150)),
    ("urxvt -geometry 40x10+900+60 -title Marsh", "terminal", "terminal", "urxvt", (60, 40, 200, 90)),
    ("tint2", "tint2", "bar", None, (400, 773, 1200, 776)),
    ("dunst", "dunst", "notice", None, (1180, 62, 1250, 72)),
    ("rofi -show run", "rofi", "launcher", "rofi", (250, 90, 480, 340)),
)  # fmt: skip


# The same for a compositor of Wayland; places are on the screen.
SURFACES_OF_SWAY = (
    ("foot -W 50x12", "foot", "terminal", (120, 180, 420, 280)),
    ("waybar", "waybar", "bar", (420, 4, 560, 26)),
    ("mako", "mako", "notice", (1000, 12, 1260, 18)),
    ("fuzzel", "fuzzel", "launcher", (456, 270, 476, 530)),
)
_SWAY = """output * mode 1280x800
output * bg {picture} fill
default_border none
for_window [app_id="foot"] floating enable, move position 80 120
"""


@pytest.fixture(scope="module")
def pictures(tmp_path_factory):
    """Return the demo's pictures by name."""
    home = build_demo_home(tmp_path_factory.mktemp("glass") / "home")
    return {path.stem: path for path in (home / "Pictures").iterdir()}


class Screen:
    """A virtual screen with a window manager, a compositor and a picture, and what runs on it."""

    def __init__(self, home, picture):
        read, write = os.pipe()
        self.running = [
            subprocess.Popen(["Xvfb", "-displayfd", str(write), "-screen", "0", SIZE], pass_fds=[write], stderr=-3)
        ]
        os.close(write)
        with os.fdopen(read) as told:
            number = told.readline().strip()
        (home / "run").mkdir(mode=0o700)
        self.environment = {
            "HOME": str(home), "PATH": os.environ["PATH"], "DISPLAY": f":{number}", "LANG": "C.UTF-8", "SHELL": "/bin/sh",
            "XDG_RUNTIME_DIR": str(home / "run"), "QT_STYLE_OVERRIDE": "kvantum", "GSETTINGS_BACKEND": "memory",
        }  # fmt: skip
        self.start_bus()
        self.start("openbox")
        self.run("feh", "--no-fehbg", "--bg-fill", str(picture))
        self.start("picom --backend xrender --no-fading-openclose")
        time.sleep(2)

    def start_bus(self):
        bus = subprocess.run(["dbus-daemon", "--session", "--fork", "--print-address=1", "--print-pid=1"], capture_output=True, text=True, env=self.environment, check=True)  # fmt: skip
        self.environment["DBUS_SESSION_BUS_ADDRESS"], self.bus = bus.stdout.split()

    def start(self, words):
        child = subprocess.Popen(words.split(), env=self.environment, stdout=-3, stderr=-3, start_new_session=True)
        self.running.append(child)

    def end_last(self):
        """End what was started last, and wait until it is gone."""
        child = self.running.pop()
        with contextlib.suppress(OSError):
            os.killpg(child.pid, 15)
        child.wait(10)
        time.sleep(0.4)

    def run(self, *words):
        return subprocess.run(words, env=self.environment, capture_output=True, text=True, check=False).stdout

    def grab(self):
        self.run("import", "-window", "root", str(Path(self.environment["HOME"]) / "screen.png"))
        with Image.open(Path(self.environment["HOME"]) / "screen.png") as image:
            return np.asarray(image.convert("RGB"))

    def window(self, title):
        """Return the box of the window of a class, waiting for it."""
        for _ in range(60):
            sizes = []
            for number in self.run("xdotool", "search", "--onlyvisible", "--class", title).split():
                rows = dict(
                    row.split("=") for row in self.run("xdotool", "getwindowgeometry", "--shell", number).split()
                )
                sizes.append(tuple(int(rows[name]) for name in ("X", "Y", "WIDTH", "HEIGHT")))
            if any(w * h > 10_000 for _, _, w, h in sizes):
                return max(sizes, key=lambda box: box[2] * box[3])
            time.sleep(0.25)
        raise AssertionError(f"no window is of the class {title}")

    def end(self):
        for child in reversed(self.running):
            with contextlib.suppress(OSError):
                os.killpg(child.pid, 15) if child is not self.running[0] else child.terminate()
        for child in self.running:
            child.wait(10)
        with contextlib.suppress(OSError):
            os.kill(int(self.bus), 15)


class WaylandScreen(Screen):
    """The same of a compositor of Wayland, which draws itself."""

    def __init__(self, home, picture):
        (home / "run").mkdir(mode=0o700)
        (home / "sway").write_text(_SWAY.format(picture=picture))
        self.environment = {
            "HOME": str(home), "PATH": os.environ["PATH"], "LANG": "C.UTF-8", "SHELL": "/bin/sh", "XDG_SESSION_TYPE": "wayland",
            "XDG_RUNTIME_DIR": str(home / "run"), "XDG_CONFIG_HOME": str(home / ".config"), "WLR_BACKENDS": "headless",
            "GSETTINGS_BACKEND": "memory", "WLR_RENDERER": "pixman", "WLR_LIBINPUT_NO_DEVICES": "1",
        }  # fmt: skip
        self.running = []
        self.start_bus()
        other = "unshare --user --map-user=1000 --map-group=1000 " if os.getuid() == 0 else ""  # not for root
        self.start(f"{other}sway -c {home / 'sway'}")
        for _ in range(60):
            if (home / "run/wayland-1").exists():
                break
            time.sleep(0.25)
        self.environment["WAYLAND_DISPLAY"] = "wayland-1"
        time.sleep(2)

    def grab(self):
        place = Path(self.environment["HOME"]) / "screen.png"
        self.run("grim", str(place))
        with Image.open(place) as image:
            return np.asarray(image.convert("RGB"))


def box_of(screen, title, place):
    x, y, w, h = screen.window(title) if title else (0, 0, 1280, 800)
    left, top, right, bottom = place
    return [x + (left if left >= 0 else w + left), y + (top if top >= 0 else h + top),
            x + (right if right > 0 else w + right), y + (bottom if bottom > 0 else h + bottom)]  # fmt: skip


def lowest_ratio(text, pixels):
    """Return the lowest ratio of a text to what is under a letter anywhere in a box."""
    rows, columns = (max(1, n // LETTER) for n in pixels.shape[:2])
    cells = [c.mean((0, 1)) for r in np.array_split(pixels, rows, 0) for c in np.array_split(r, columns, 1)]
    own, under = relative_luminance(np.array(text.unit)), relative_luminance(np.array(cells) / 255)
    return float(((np.maximum(own, under) + FLARE) / (np.minimum(own, under) + FLARE)).min())


def lay(look, components, home):
    """Write components of a look into a home."""
    for component in components:
        for file in COMPONENT_BY_ID[component].write(look.scheme(), FolderFiles(home)):
            path = home / file.path
            path.parent.mkdir(parents=True, exist_ok=True)
            path.write_bytes(file.data)


def told_of(component, part, home, area, ground):
    """Return how far what is shown is from what the stage shows over a picture, its text's lowest ratio, its opacity."""
    paint = COMPONENT_BY_ID[component].read(FolderFiles(home))[part]
    shown, under = (rows.reshape(-1, 3)[::7] for rows in (area, ground))
    wanted = (over(paint.fill, Rgba(*(int(v) for v in pixel))) for pixel in under)
    apart = sorted(colour_difference(Rgba(*map(int, a)), b) for a, b in zip(shown, wanted, strict=True))
    low = lowest_ratio(paint.text, area.astype(float))
    return component, round(apart[len(apart) * 19 // 20], 2), round(low, 2), round(paint.fill.a, 2)


def glassy(picture, tone, alpha):
    """Return a look of a picture with every surface as translucent, where nothing blurs."""
    look = look_of_pictures([picture], tone)
    for kind in KINDS:
        look = with_opacity(look, kind.id, alpha)
    return with_blur(look, False)


_ALL = (
    pytest.mark.parametrize("tone", ["dark", "light"]),
    pytest.mark.parametrize("alpha", [0.7, 0.85, 0.95]),
    pytest.mark.parametrize("name", PICTURES),
)


def everywhere(test):
    """Run a test in both variants, at three opacities, over three pictures."""
    for mark in _ALL:
        test = mark(test)
    return test


@everywhere
def test_see_through_surfaces_are_as_the_stage_shows_them_and_can_be_read(pictures, tmp_path, name, alpha, tone):
    needs("Xvfb", "openbox", "picom", "feh", "xdotool", "import", *(row[0].split()[0] for row in SURFACES))
    look = glassy(pictures[name], tone, alpha)
    screen = Screen(tmp_path, pictures[name])
    try:
        lay(look, (row[1] for row in SURFACES), tmp_path)
        ground = screen.grab().astype(float)
        screen.run("xrdb", "-merge", str(tmp_path / ".Xresources"))
        told = []
        for words, component, part, title, place in SURFACES:
            screen.start(words)
            if title:
                screen.window(title)
            elif component == "dunst":
                time.sleep(0.5)
                screen.run("notify-send", "-t", "60000", "Net 3 is full", "Seven bearded reedlings, two with rings")
            time.sleep(1.2)
            left, top, right, bottom = box_of(screen, title, place)
            area = screen.grab()[top:bottom, left:right]
            screen.end_last()
            told.append(told_of(component, part, tmp_path, area, ground[top:bottom, left:right]))
        assert [row for row in told if row[1] > 3 or row[2] < 4.5] == []
    finally:
        screen.end()


@everywhere
def test_so_they_are_on_wayland(pictures, tmp_path, name, alpha, tone):
    needs("sway", "swaybg", "grim", *(row[0].split()[0] for row in SURFACES_OF_SWAY))
    look = glassy(pictures[name], tone, alpha)
    screen = WaylandScreen(tmp_path, pictures[name])
    try:
        lay(look, (row[1] for row in SURFACES_OF_SWAY), tmp_path)
        ground = screen.grab().astype(float)
        told = []
        for words, component, part, (left, top, right, bottom) in SURFACES_OF_SWAY:
            screen.start(words)
            time.sleep(1.5)
            if component == "mako":
                screen.run("notify-send", "-t", "60000", "Net 3 is full", "Seven bearded reedlings, two with rings")
                time.sleep(0.8)
            area = screen.grab()[top:bottom, left:right]
            screen.end_last()
            told.append(told_of(component, part, tmp_path, area, ground[top:bottom, left:right]))
        assert [row for row in told if row[1] > 3 or row[2] < 4.5] == []
    finally:
        screen.end()
