"""Runs inside a virtual screen with a session bus of its own: starts a desktop, wears looks, and tells what it saw.

Called with a desktop's name and two looks; leaves one JSON object in the home. Colours are asked of the screen's pixels, settings of the stores.
"""

from __future__ import annotations

import json
import os
import random
import re
import subprocess
import sys
import time
from pathlib import Path

from PIL import Image, ImageGrab, ImageOps

from mellow_finch.look.carry import load_look, save_look
from mellow_finch.look.dressed import dress
from mellow_finch.look.edits import with_showing
from mellow_finch.look.gather import look_of_pictures
from mellow_finch.picture.placement import Showing
from mellow_finch.session.real import RealSession
from mellow_finch.session.stores.plasma import PlasmaPictures
from mellow_finch.wear.history import History
from mellow_finch.wear.places import history_folder
from mellow_finch.wear.plan import make_plan, own_files
from mellow_finch.wear.present import present_here

from .seen import SPOTS, client, mean, near, screen, seen, steady, still
from .started import (
    CALLED,
    FILES,
    HOME,
    KDED,
    NEWER_BUDGIE,
    OF_THEIR_OWN,
    OF_WLROOTS,
    PANELS,
    QUICK,
    STARTS,
    WINDOW,
    begin_budgie,
    begin_kwin,
    leave,
    start,
)

KILLS = 12
SHOWS = 3.0  # seconds that everything has to follow in


def finch(*words):
    done = subprocess.run(
        [sys.executable, "-m", "mellow_finch.cli", *words], capture_output=True, text=True, timeout=60
    )
    return done.returncode, done.stdout + done.stderr


def settings(session, rows):
    return {f"{s.schema} {s.key}": list(session.read(s)) for s in rows}


def begin(desktop):
    """Start a desktop with a window on it."""
    os.environ.pop("QT_QPA_PLATFORM", None)
    for path, text in FILES.items():
        (HOME / path).parent.mkdir(parents=True, exist_ok=True)
        (HOME / path).write_text(text.replace("HOME", str(HOME)))
        (HOME / path).chmod(0o755 if text.startswith("#!") else 0o644)
    os.environ["XDG_CURRENT_DESKTOP"] = CALLED.get(desktop, "")
    alone = desktop in (*OF_THEIR_OWN, "budgie") and not Path("/run/dbus/system_bus_socket").exists()
    if desktop == "gnome" or alone:  # what it asks of the system is not there, so it may ask the session
        os.environ["DBUS_SYSTEM_BUS_ADDRESS"] = os.environ["DBUS_SESSION_BUS_ADDRESS"]
    if desktop in OF_THEIR_OWN:
        os.environ["XDG_SESSION_TYPE"] = "x11"
    if desktop.startswith("plasma"):
        os.environ |= {"KDE_FULL_SESSION": "true", "KDE_SESSION_VERSION": KDED[-1]}
    if desktop == "plasma-wayland":
        begin_kwin()
    if desktop == "budgie" and NEWER_BUDGIE:
        begin_budgie()
    Path(os.environ["XDG_RUNTIME_DIR"]).mkdir(mode=0o700, exist_ok=True)
    for words in STARTS[desktop]:
        child = start(words)
        if words[0] == "labwc":
            os.environ["LABWC_PID"] = str(child.pid)  # as it tells what it starts
        time.sleep(1.0 if desktop in QUICK else 4.0)
    if desktop in PANELS:
        still(30.0, lambda o: o["panel"] != [0, 0, 0])
    if desktop in OF_WLROOTS:
        sockets = sorted(Path(os.environ["XDG_RUNTIME_DIR"]).iterdir())
        if desktop == "sway":
            os.environ["SWAYSOCK"] = next(str(p) for p in sockets if p.name.startswith("sway-ipc"))
        os.environ["XDG_SESSION_TYPE"] = "wayland"
        os.environ["WAYLAND_DISPLAY"] = next(p.name for p in sockets if re.fullmatch(r"wayland-\d+", p.name))
    time.sleep(2.0)
    if desktop == "gnome":
        os.environ["WAYLAND_DISPLAY"] = "wayland-0"
        subprocess.run(["gsettings", "set", "org.gnome.mutter", "center-new-windows", "true"])
        words = "--dest org.gnome.Shell --object-path /org/gnome/Shell --method org.freedesktop.DBus.Properties.Set"
        subprocess.run(["gdbus", "call", "--session", *words.split(), "org.gnome.Shell", "OverviewActive", "<false>"])
    start(["/usr/bin/python3", "-c", WINDOW])
    time.sleep(2.0)


def rows_of(session):
    """Return the settings that the first look has on this desktop."""
    history = History(history_folder(HOME))
    files = own_files(HOME, history)
    look = load_look(Path(sys.argv[2]))
    plan = make_plan(dress(look, files, present=present_here(HOME, files, history)), HOME, session)
    return [s for s in plan.settings if session.read(s).state != "absent"]


def main(desktop):
    begin(desktop)
    session = RealSession(HOME)
    looks = [load_look(Path(p)) for p in sys.argv[2:4]]
    rows = rows_of(session)
    out = {"desktop": session.desktop, "rows": [f"{s.schema} {s.key}" for s in rows], "steps": []}
    before, image = seen()
    image.save(HOME / f"{desktop}-0.png")
    out["screen"] = image.size
    out["before"] = {"seen": before, "settings": settings(session, rows)}
    was = kept(HOME)
    for i, (path, look) in enumerate(zip(sys.argv[2:4], looks, strict=True)):
        began = time.monotonic()
        code, said = finch("wear", path, "--yes")
        took = time.monotonic() - began
        window = look.colours["window"][:3]
        shown, follows = still(SHOWS, lambda o, want=window: near(o.get("window", (0, 0, 0)), want))
        shown, image = steady()
        image.save(HOME / f"{desktop}-{i + 1}.png")
        out["steps"].append(
            {
                "code": code,
                "said": said[-2000:],
                "took": took,
                "follows": follows,
                "seen": shown,
                "settings": settings(session, rows),
            }
        )
    rollcall = finch("status", "--json")
    out["status"] = rollcall[1]
    for _ in looks:
        code, said = finch("undo", "--yes")
        out.setdefault("undone", []).append([code, said])
    still(SHOWS, lambda o: o.get("window") == before.get("window") and o["picture"] == before["picture"])
    after, image = steady()
    image.save(HOME / f"{desktop}-3.png")
    out["after"] = {"seen": after, "settings": settings(session, rows)}
    now = kept(HOME)
    out["changed"] = sorted(path for path in was | now if was.get(path) != now.get(path))
    # The person changes one setting in between.
    finch("wear", sys.argv[2], "--yes")
    own = next((s for s in rows if s.key in ("/Net/ThemeName", "gtk-theme", "Net/ThemeName")), None)
    if own is not None:
        session.write(own._replace(value="Adwaita"))
        out["kept"] = [finch("undo", "--yes"), list(session.read(own))]
    Path(HOME / "seen.json").write_text(json.dumps(out))


def kept(home):
    """Return every file that a look could touch, with its bytes."""
    own = (".local/state", ".local/share/mellow-finch", "run", ".cache", ".config/dconf", ".config/xfce4", ".dbus")
    own += (
        ".config/caja/",
        ".config/plasma-org.kde.",
        ".local/share/gvfs",
    )  # written by the programs, whose settings are asked for
    found = (p for p in home.rglob("*") if p.is_file() and not str(p.relative_to(home)).startswith(own))
    return {str(p.relative_to(home)): p.read_bytes().hex()[:4000] for p in found if p.suffix != ".png"}


def killed(desktop):
    """Kill putting on and taking off at moments all along, and finish or undo each time."""
    begin(desktop)
    session = RealSession(HOME)
    rows = rows_of(session)
    before, was = settings(session, rows), kept(HOME)
    out = {"kills": 0, "wrong": []}
    chance = random.Random(desktop)
    took = {}
    for back in (False, True):
        began = time.monotonic()
        finch(*(("undo", "--yes") if back else ("wear", sys.argv[2], "--yes")))
        took[back] = time.monotonic() - began
    for i in range(KILLS):
        back = i % 2 == 1
        if back:
            finch("wear", sys.argv[2], "--yes")
        words = ("undo", "--yes") if back else ("wear", sys.argv[2], "--yes")
        child = start([sys.executable, "-m", "mellow_finch.cli", *words])
        time.sleep(took[back] * chance.uniform(0.25, 1.0))
        out["kills"] += child.poll() is None
        child.kill()
        child.wait()
        if i % 4 < 2:
            finch("finish", "--yes")
        for _ in range(3):
            if finch("undo", "--yes")[0] != 0:
                break
        now, files = settings(session, rows), kept(HOME)
        if now != before or files != was:
            changed = [k for k in {**now, **files} if (now.get(k), files.get(k)) != (before.get(k), was.get(k))]
            out["wrong"].append([i, changed[:5]])
    Path(HOME / "seen.json").write_text(json.dumps(out))


def followed(desktop):
    """Let the follower run, change the wallpaper by the desktop's own tool, and see the toolkit's colours follow."""
    begin(desktop)
    said = [finch("shelf", "keep", sys.argv[2]), finch("wear", sys.argv[2], "--yes")]
    start([sys.executable, "-m", "mellow_finch.cli", "follow", "run"])
    first = load_look(Path(sys.argv[2])).colours["window"][:3]
    shown, _ = still(30.0, lambda o: near(o.get("window", (0, 0, 0)), first))
    out = {"first": shown, "said": said, "steps": []}
    time.sleep(2.0)
    for name in ("lighthouse-fog", "reedbed-at-dawn"):
        picture = HOME / "Pictures" / f"{name}.jpg"
        want = look_of_pictures([picture], "dark").colours["window"][:3]
        keys = subprocess.run(["xfconf-query", "-c", "xfce4-desktop", "-l"], capture_output=True, text=True).stdout
        for key in (k for k in keys.split() if k.endswith("last-image")):
            subprocess.run(["xfconf-query", "-c", "xfce4-desktop", "-p", key, "-s", str(picture)])
        shown, took = still(10.0, lambda o, want=want: near(o.get("window", (0, 0, 0)), want, 2))
        out["steps"].append({"window": shown.get("window"), "want": list(want), "took": took})
        time.sleep(1.5)
    out["log"] = finch("follow", "status")[1]
    (HOME / "seen.json").write_text(json.dumps(out))


class XfceSlides:
    """What Xfce's desktop is told of its pictures, and how often it changes them."""

    def rows(self):
        said = subprocess.run(
            ["xfconf-query", "-c", "xfce4-desktop", "-l", "-v"], capture_output=True, text=True
        ).stdout
        return dict(line.split(None, 1) for line in said.splitlines())

    def hurry(self, on):
        """Let pictures change by the second, or as the look left it."""
        values = (("period", "0"), ("timer", "1")) if on else (("timer", "15"), ("period", "1"))
        for name, value in values:
            for key in [key for key in self.rows() if key.endswith(f"cycle-{name}")]:
                subprocess.run(["xfconf-query", "-c", "xfce4-desktop", "-p", key, "-s", value])


class PlasmaSlides:
    """The same of Plasma's."""

    def rows(self):
        store = PlasmaPictures()
        keys = [(schema, key) for schema in ("", "slideshow") for key in store.keys(schema, "*")]
        return {f"{schema} {key}": "{0.value} {0.kind}".format(store.read(schema, key)) for schema, key in keys}

    def hurry(self, on):
        store = PlasmaPictures()
        for key in store.keys("slideshow", "*"):
            now = store.read("slideshow", key)
            plugin, mode, _, *rest = now.kind.split("|", 4)
            store.write("slideshow", key, now.value, "|".join((plugin, mode, "3" if on else "900", *rest)))


def cycled(desktop):
    """Wear a slideshow, let the desktop go through it by the second, and undo it in the middle."""
    begin(desktop)
    told = PlasmaSlides() if desktop == "plasma" else XfceSlides()
    pictures = [HOME / "Pictures" / f"{name}.jpg" for name in ("reedbed-at-dawn", "frost-on-sedge", "lighthouse-fog")]
    save_look(with_showing(look_of_pictures(pictures, "dark"), Showing("slideshow", 15)), HOME / "slides.finch")
    shown, _ = seen()
    before, out = told.rows(), {"first": shown["picture"]}
    out["worn"] = finch("wear", str(HOME / "slides.finch"), "--yes")
    out["rows"] = told.rows()
    told.hurry(True)
    screens = [ImageOps.fit(Image.open(p).convert("RGB"), seen()[1].size, Image.Resampling.BOX) for p in pictures]
    wanted = [[mean(image, x, y) for x, y in SPOTS] for image in screens]
    out["seen"] = [still(30.0, lambda o, w=w: all(map(near, o["picture"], w)))[1] < 30.0 for w in wanted]
    told.hurry(False)
    out["undone"] = finch("undo", "--yes")
    out["after"] = still(20.0, lambda o: o["picture"] == shown["picture"])[0]["picture"]
    out["exact"], out["left"] = told.rows() == before, told.rows()
    (HOME / "seen.json").write_text(json.dumps(out))


def doubled(desktop):
    """Wear a picture for each of two screens, and undo it."""
    begin(desktop)
    pictures = [HOME / "Pictures" / f"{name}.jpg" for name in ("reedbed-at-dawn", "frost-on-sedge")]
    look = with_showing(look_of_pictures(pictures, "dark"), Showing("monitors"))
    save_look(look, HOME / "two.finch")
    before, image = seen()
    size = image.width // 2, image.height
    spots = [(x * image.width // 2560, y) for x, y in ((1180, 40), (2460, 40), (60, 650), (1340, 650))]
    out = {"screen": image.size, "worn": finch("wear", str(HOME / "two.finch"), "--yes")}
    both = Image.new("RGB", image.size)
    for i, path in enumerate(look.shown_pictures):
        one = ImageOps.fit(Image.open(path).convert("RGB"), size, Image.Resampling.BOX)
        both.paste(one, (i * size[0], 0))
    want = [mean(both, *spot) for spot in spots]

    def shown():
        now = screen()
        return [mean(now, *spot) for spot in spots]

    time.sleep(3.0)
    out |= {"want": want, "seen": shown(), "config": (HOME / ".config/sway/config").read_text()}
    out["undone"] = finch("undo", "--yes")
    time.sleep(3.0)
    out["back"] = seen()[0]["picture"] == before["picture"]
    out["same"] = (HOME / ".config/sway/config").read_text() == FILES[".config/sway/config"]
    (HOME / "seen.json").write_text(json.dumps(out))


def opened_window(look):
    """Return the program, off the screen, and its window with a look on this home."""
    os.environ["QT_QPA_PLATFORM"] = "offscreen"
    from PyQt6.QtWidgets import QApplication

    from mellow_finch.ui.kit.style import Style, load_fonts
    from mellow_finch.ui.window.parts import OpenWindow

    app = QApplication([])
    load_fonts()
    style = Style()
    style.use(app, True)
    window = OpenWindow(style, HOME)
    window.show()
    window.opening.open_look(Path(look))
    return app, window


def tuned(desktop):
    """Try a look in the window, let the desktop follow, and see the toolkit's window change with each change of a colour."""
    begin(desktop)
    app, window = opened_window(sys.argv[2])
    from mellow_finch.colour.rgb import parse_hex
    from mellow_finch.look.edits import with_role
    from mellow_finch.ui.wear.trial_box import TrialBox

    def until(want, seconds=40.0):
        began = time.monotonic()
        while time.monotonic() - began < seconds and not want():
            app.processEvents()
            time.sleep(0.005)
        return time.monotonic() - began

    def at_rest():
        return not window.jobs.keys and not window.wearing.busy

    until(at_rest)
    before, was = settings(window.wearing.session, rows_of(window.wearing.session)), kept(HOME)
    window.show_step("wear")
    until(lambda: window.wear.try_button.isEnabled() and at_rest())
    window.wear.try_on()
    until(lambda: window.findChildren(TrialBox) and at_rest())
    (box,) = window.findChildren(TrialBox)
    want = window.document.look.colours["window"][:3]
    shown, _ = still(20.0, lambda o: near(o.get("window", (0, 0, 0)), want))
    box.live.click()
    until(at_rest)
    out = {"first": shown, "steps": []}
    x, y, w, h = client()
    for colour in ("#2a1a30", "#102a22", "#30201a", "#1a2436"):
        until(at_rest)
        time.sleep(1.2)
        window.document.edit("Window", lambda look, colour=colour: with_role(look, "window", parse_hex(colour)))
        want = window.document.look.colours["window"][:3]

        def there(want=want):
            image = ImageGrab.grab(
                bbox=(x + w // 2, y + h // 2 + 40, x + w // 2 + 1, y + h // 2 + 41), xdisplay=os.environ["DISPLAY"]
            )
            return near(image.convert("RGB").getpixel((0, 0)), want, 2)

        out["steps"].append({"want": list(want), "took": until(there, 10.0), "there": there()})
    until(at_rest)
    box.back.click()
    until(lambda: not window.findChildren(TrialBox) and at_rest())
    time.sleep(2.0)
    after, files = settings(window.wearing.session, rows_of(window.wearing.session)), kept(HOME)
    out["settings"], out["files"] = after == before, files == was
    (HOME / "seen.json").write_text(json.dumps(out))
    leave()


if __name__ == "__main__":
    {"kill": killed, "follow": followed, "tune": tuned, "slides": cycled, "two": doubled}.get(
        os.environ.get("FINCH_DRIVE", ""), main
    )(sys.argv[1])
