"""Runs inside the walls: a hidden screen for each program, the program on it, keys pressed, a picture taken.

Started by `room`, with one file of acts as JSON; writes pictures beside it and a line of JSON for each act when it is
over. It knows nothing of looks; what it needs is the standard library, and two libraries that this program has anyway.
"""

from __future__ import annotations

import io
import json
import os
import re
import resource
import shlex
import shutil
import signal
import subprocess
import sys
import threading
import time
from concurrent.futures import ThreadPoolExecutor, wait
from contextlib import ExitStack, suppress
from pathlib import Path
from typing import Any

import psutil
from PIL import Image, ImageChops, ImageGrab
from Xlib import XK, X
from Xlib.display import Display
from Xlib.ext import xtest

SIZE = 960, 640
_PAUSE = 0.05
_STILL = 0.4  # seconds in which nothing changes any more
_HANGS_S = 2.0  # in which a picture hangs behind everything
_LONG_STILL = 1.5  # the same where the program works on behind it
_STIR = 0.004  # share of the picture that may go on changing: a caret, a clock
_CPU_S, _FILE = 90, 2 << 30
_NEED = 0.0005  # share of the screen that a program has painted when it is there
_CALM = """output * mode 960x640
output * bg {picture} fill
default_border none
for_window [title=.*] floating enable
"""
_ALONE_S = 1.5  # that the first program has for itself
_SHIFTED = '~!@#$%^&*()_+{}|:"<>?'
_SCREENS = ("Xvfb", "sway", "dbus-daemon")
_BUSY = 0.03  # processor seconds in a look by which a program is still at work
_ASK = str(Path(__file__).with_name("ask_terminal.py"))


def _limits() -> None:
    os.setsid()
    resource.setrlimit(resource.RLIMIT_CPU, (_CPU_S, _CPU_S))
    resource.setrlimit(resource.RLIMIT_FSIZE, (_FILE, _FILE))
    resource.setrlimit(resource.RLIMIT_CORE, (0, 0))


class HiddenScreen:
    """A hidden screen with a session of its own."""

    def __init__(self, act: dict[str, Any], job: dict[str, Any], out: Path) -> None:
        self.act, self.job, self.out = act, job, out
        self.env = dict(job["environment"])
        self.ending = ExitStack()
        self.started: list[subprocess.Popen[bytes]] = []
        self.log = out / f"{act['id']}.log"
        self.display: Display | None = None

    def start(self, words: list[str] | str, **more: Any) -> subprocess.Popen[bytes]:
        """Start something that ends with the act."""
        said = self.ending.enter_context(self.log.open("ab"))
        process = subprocess.Popen(
            shlex.split(words) if isinstance(words, str) else words,
            env=self.env,
            cwd=self.job["folder"],
            stdin=subprocess.DEVNULL,
            stdout=more.pop("stdout", said),
            stderr=said,
            preexec_fn=_limits,
            **more,
        )
        self.ending.callback(_end, process)
        self.started.append(process)
        return process

    def do(self, words: str) -> None:
        """Do something before or after the program: to its end, or beside it where " &" says so."""
        if words.endswith(" &"):
            self.start(words[:-2])
            time.sleep(0.8)
            return
        said = self.ending.enter_context(self.log.open("ab"))
        null = subprocess.DEVNULL
        with suppress(subprocess.TimeoutExpired, OSError):
            subprocess.run(
                shlex.split(words), env=self.env, cwd=self.job["folder"], stdin=null, stdout=said, stderr=said,
                timeout=self.act["limit"], check=False,
            )  # fmt: skip

    def used(self) -> float:
        """Return the processor seconds of all that was started, but for the screen itself."""
        total = 0.0
        for process in self.started:
            with suppress(psutil.Error):
                first = psutil.Process(process.pid)
                for one in (first, *first.children(recursive=True)):
                    with suppress(psutil.Error):
                        if one.name() not in _SCREENS:
                            times = one.cpu_times()
                            total += times.user + times.system
        return total

    def open(self) -> None:
        """Start the session."""
        runtime = Path(self.job["runtime"]) / self.act["id"]
        runtime.mkdir(mode=0o700, parents=True)
        self.env["XDG_RUNTIME_DIR"] = self.env["TMUX_TMPDIR"] = str(runtime)
        if self.act["on"] == "x11":
            self._open_x11()  # before the bus, which starts what it is asked for on this screen
        if shutil.which("dbus-daemon"):
            address = f"unix:path={runtime}/bus"
            self.env["DBUS_SESSION_BUS_ADDRESS"] = self.env["DBUS_SYSTEM_BUS_ADDRESS"] = address
            self.start(["dbus-daemon", "--session", "--nofork", "--nopidfile", f"--address={address}"])
        if self.act["on"] == "wayland":
            self._open_wayland(runtime)

    def _open_x11(self) -> None:
        reader, writer = os.pipe()
        try:
            words = ["Xvfb", "-displayfd", str(writer), "-screen", "0", f"{SIZE[0]}x{SIZE[1]}x24"]
            words += ["-nolisten", "tcp", "-noreset", "-dpi", "96"]
            self.start(words, pass_fds=(writer,))
        finally:
            os.close(writer)
        number = b""
        while not number.endswith(b"\n"):
            read = os.read(reader, 16)
            if not read:
                break
            number += read
        os.close(reader)
        if not number:
            raise OSError("the hidden screen did not start")
        self.env["DISPLAY"] = f":{int(number)}"
        self.env.pop("WAYLAND_DISPLAY", None)
        self.display = Display(self.env["DISPLAY"])
        self.ending.callback(self._close)
        self._lay_picture()
        resources = Path(self.env["HOME"]) / ".Xresources"
        if resources.exists() and shutil.which("xrdb"):
            subprocess.run(["xrdb", "-nocpp", "-merge", str(resources)], env=self.env, capture_output=True, timeout=10)

    def _close(self) -> None:
        with suppress(Exception):
            self.display.close()  # type: ignore[union-attr]

    def _lay_picture(self) -> None:
        """Lay the picture behind everything, and tell those that look for it where it is."""
        assert self.display is not None
        root, depth = self.display.screen().root, self.display.screen().root_depth
        picture = Image.open(self.job["picture"], formats=("PNG",)).convert("RGBX").resize(SIZE)
        pixmap = root.create_pixmap(*SIZE, depth)
        context = pixmap.create_gc()
        data = picture.tobytes("raw", "BGRX")
        line = SIZE[0] * 4
        rows = max(1, 200_000 // line)
        for y in range(0, SIZE[1], rows):
            part = data[y * line : (y + rows) * line]
            pixmap.put_image(context, 0, y, SIZE[0], len(part) // line, X.ZPixmap, depth, 0, part)
        root.change_attributes(background_pixmap=pixmap)
        for name in ("_XROOTPMAP_ID", "ESETROOT_PMAP_ID"):
            self.display.set_close_down_mode(X.RetainPermanent)
            atom = self.display.intern_atom
            root.change_property(atom(name), atom("PIXMAP"), 32, [pixmap.id])
        root.clear_area(0, 0, *SIZE)
        self.display.sync()

    def _open_wayland(self, runtime: Path) -> None:
        config = runtime / "sway"
        config.write_text(self.act.get("config") or _CALM.format(picture=self.job["picture"]))
        self.env |= {
            "WLR_BACKENDS": "headless",
            "WLR_RENDERER": "pixman",
            "WLR_LIBINPUT_NO_DEVICES": "1",
            "WLR_HEADLESS_OUTPUTS": "1",
        }
        words = shlex.split(self.act["run"]) if self.act.get("compositor") else ["sway", "-c", str(config)]
        self.env.pop("DISPLAY", None)
        self.start(words)
        until = time.monotonic() + self.act["limit"]
        while time.monotonic() < until:
            sockets = [p.name for p in runtime.iterdir() if p.name.startswith("wayland-") and p.suffix != ".lock"]
            control = [str(p) for p in runtime.iterdir() if p.name.startswith("sway-ipc")]
            if sockets and words[0] != "sway":  # another compositor, as large as it makes itself
                self.env["WAYLAND_DISPLAY"] = sockets[0]
                return
            if sockets and control:
                self.env |= {"WAYLAND_DISPLAY": sockets[0], "SWAYSOCK": control[0]}
                size = f"{SIZE[0]}x{SIZE[1]}"
                words = ["swaymsg", "output", "*", "mode", "--custom", size]
                subprocess.run(words, env=self.env, capture_output=True, timeout=10)
                if not self.act["compositor"]:
                    self._wait_for_picture(min(until, time.monotonic() + _HANGS_S))
                return
            time.sleep(_PAUSE)
        raise OSError("the hidden screen did not start")

    def _wait_for_picture(self, until: float) -> None:
        """Wait until the picture hangs there, and has stopped changing."""
        last = Image.new("RGB", SIZE)
        while time.monotonic() < until:
            now = self.picture()
            if now.size == SIZE and now.getbbox() and now.tobytes() == last.tobytes() and _colours(now) > 1:
                return
            last = now
            time.sleep(_PAUSE)

    def picture(self) -> Image.Image:
        """Return what the screen shows."""
        if self.act["on"] == "wayland":
            done = subprocess.run(["grim", "-t", "ppm", "-"], env=self.env, capture_output=True, timeout=20)
            if not done.stdout:
                raise OSError(done.stderr.decode(errors="replace")[-300:] or "no picture could be taken")
            return Image.open(io.BytesIO(done.stdout), formats=("PPM",)).convert("RGB")
        return ImageGrab.grab(xdisplay=self.env["DISPLAY"]).convert("RGB")

    def press(self, names: list[str]) -> None:
        """Press keys, each a name of X11, a letter, or "Control+x"; on the newer display a command of its own does."""
        if self.display is None:
            if shutil.which("wtype"):
                for name in names:
                    subprocess.run(["wtype", "-k", name], env=self.env, capture_output=True, timeout=10)
            return
        for name in names:
            if name.startswith("type:"):
                self.press(list(name[5:]))
                continue
            *held, last = name.split("+") if len(name) > 1 else [name]
            codes = [self.display.keysym_to_keycode(XK.string_to_keysym(f"{h}_L")) for h in held]
            if len(last) == 1 and (last.isupper() or last in _SHIFTED):
                codes.append(self.display.keysym_to_keycode(XK.XK_Shift_L))
            code = self.display.keysym_to_keycode(XK.string_to_keysym(_KEYS.get(last, last)))
            for held_code in codes:
                xtest.fake_input(self.display, X.KeyPress, held_code)
            xtest.fake_input(self.display, X.KeyPress, code)
            xtest.fake_input(self.display, X.KeyRelease, code)
            for held_code in reversed(codes):
                xtest.fake_input(self.display, X.KeyRelease, held_code)
            self.display.sync()
            time.sleep(_PAUSE)

    def shown(self, before: Image.Image, now: Image.Image) -> tuple[tuple[int, int, int, int], Image.Image]:
        """Return the box around all that is shown over the picture (left, top, width, height), and which pixels."""
        away = ImageChops.difference(before, now)
        box = away.getbbox() or (0, 0, *now.size)
        red, green, blue = away.split()
        most = ImageChops.lighter(ImageChops.lighter(red, green), blue)
        return (box[0], box[1], box[2] - box[0], box[3] - box[1]), most.point(lambda v: 255 if v else 0).convert("1")


_KEYS = {":": "colon", "/": "slash", ".": "period", " ": "space", "-": "minus", "=": "equal", "~": "asciitilde"}
_KEYS |= {"'": "apostrophe", '"': "quotedbl", "_": "underscore", "(": "parenleft", ")": "parenright", ",": "comma"}


def _end(process: subprocess.Popen[bytes]) -> None:
    for what in (signal.SIGTERM, signal.SIGKILL):
        with suppress(ProcessLookupError, PermissionError):
            os.killpg(process.pid, what)
        with suppress(subprocess.TimeoutExpired):
            process.wait(0.3)
            return


def _colours(picture: Image.Image) -> int:
    """Return how many colours a picture has, as far as a small copy tells."""
    found = picture.resize((64, 40), Image.Resampling.NEAREST).getcolors(64 * 40)
    return len(found or ())


def _share(a: Image.Image, b: Image.Image) -> float:
    """Return the share of pixels that differ between two pictures."""
    if a.size != b.size:
        return 1.0
    histogram = ImageChops.difference(a, b).convert("L").histogram()
    return 1 - histogram[0] / (a.width * a.height)


def _settled(stage: HiddenScreen, empty: Image.Image, limit: float, since: Image.Image | None = None) -> Image.Image:
    """Wait until a program has painted, and paints no more; since: what has to change first. Raises OSError."""
    until, last, still, used = time.monotonic() + limit, empty, 0.0, 0.0
    while time.monotonic() < until:
        now, before, used = stage.picture(), used, stage.used()
        there = _share(now, empty) > _NEED and (since is None or _share(now, since) > 0)
        if there and _share(now, last) <= _STIR:
            still = still or time.monotonic()
            calm = (time.monotonic() - still) / stage.job["busy"]  # a program works more slowly then
            if calm >= _LONG_STILL or (calm >= _STILL and used - before < _BUSY):
                return now
        else:
            still = 0.0
        last = now
        time.sleep(_PAUSE)
    if _share(last, empty) > _NEED:
        return last  # it goes on moving
    raise OSError("nothing was painted")


def _clients(stage: HiddenScreen) -> None:
    """Open two plain windows, for a window manager to draw borders around."""
    display = Display(stage.env["DISPLAY"])
    stage.ending.callback(lambda: suppress(Exception).__enter__() or display.close())
    screen = display.screen()
    for name, x, y in (("Tide tables", 90, 80), ("Hide log", 340, 240)):
        window = screen.root.create_window(x, y, 420, 240, 0, screen.root_depth, background_pixel=0x808080)
        window.set_wm_name(name)
        window.set_wm_class("reedholm", "Reedholm")
        window.set_wm_normal_hints(flags=4 | 8, min_width=80, min_height=60)
        window.set_wm_protocols([display.intern_atom("WM_DELETE_WINDOW")])
        window.map()
        display.sync()
        time.sleep(0.5)
        with suppress(Exception):
            window.set_input_focus(X.RevertToParent, X.CurrentTime)
            display.sync()


def play(act: dict[str, Any], job: dict[str, Any], out: Path) -> dict[str, Any]:
    """Play one act, and return what came of it."""
    began = time.monotonic()
    stage = HiddenScreen(act, job, out)
    told: dict[str, Any] = {"id": act["id"]}
    try:
        stage.open()
        limit = act["limit"]
        empty = stage.picture()
        if act.get("compositor"):  # all that it shows is its own
            empty = Image.new("RGB", empty.size)
        else:
            for words in act["first"]:
                stage.do(words)
            program = stage.start(act["run"])
        if act["windows"]:
            _started(stage, empty, limit)
            _clients(stage)
        for words in act["then"]:
            time.sleep(0.5)
            stage.do(words)
        if act["answers"]:
            _answered(Path(act["answers"]), limit / 2)
        shown = _settled(stage, empty, limit)
        if act["keys"]:
            stage.press(act["keys"])
            with suppress(OSError):
                shown = _settled(stage, empty, min(limit, 3.0), shown)
        shown = stage.picture()
        if not act.get("compositor"):
            told["ended"] = program.poll()
        told["box"], changed = stage.shown(empty, shown)
        changed.save(out / f"{act['id']}.mask.png")
        shown.save(out / f"{act['id']}.png", compress_level=1)
        told["version"] = _version(stage, act["program"])
        if act["answers"] and Path(act["answers"]).exists():
            told["answers"] = json.loads(Path(act["answers"]).read_text())
    except Exception as error:  # whatever a program does, the others go on
        told["trouble"] = f"{type(error).__name__}: {error}"
    finally:
        with suppress(Exception):
            stage.ending.close()
    told["took"] = round(time.monotonic() - began, 2)
    told["said"] = stage.log.read_bytes()[-600:].decode(errors="replace") if stage.log.exists() else ""
    return told


def _answered(answers: Path, limit: float) -> None:
    """Wait until a program has left its answers; one that gives none paints anyway."""
    until = time.monotonic() + limit
    while time.monotonic() < until and not answers.exists():
        time.sleep(_PAUSE)


def _version(stage: HiddenScreen, program: str) -> str:
    """Return what a program says of its version: the first number with a dot in it, empty where it says none."""
    for word in ("--version", "-version", "-V", "-v") if program else ():
        with suppress(OSError, subprocess.TimeoutExpired):
            done = subprocess.run(
                [program, word], env=stage.env, cwd=stage.job["folder"], stdin=subprocess.DEVNULL, capture_output=True,
                timeout=3,
            )  # fmt: skip
            found = re.search(r"\bv?(\d+(?:\.\d+)+[\w.-]*)", (done.stdout + done.stderr).decode(errors="replace"))
            if done.returncode == 0 and found:
                return found[1]
    return ""


def _started(stage: HiddenScreen, empty: Image.Image, limit: float) -> None:
    """Wait until a window manager has taken the screen."""
    assert stage.display is not None
    root = stage.display.screen().root
    atom = stage.display.intern_atom("_NET_SUPPORTING_WM_CHECK")
    until = time.monotonic() + min(limit, 4.0)
    while time.monotonic() < until and root.get_full_property(atom, X.AnyPropertyType) is None:
        time.sleep(_PAUSE)
    time.sleep(0.3)


def main() -> None:
    """Play all acts, some at once."""
    job = json.loads(Path(sys.argv[1]).read_text())
    out, lock = Path(sys.argv[1]).parent, threading.Lock()

    def one(act: dict[str, Any]) -> None:
        told = play(act, job, out)
        with lock:
            print(json.dumps(told), flush=True)

    with ThreadPoolExecutor(job["at_once"]) as pool:
        for first in job["acts"][:1]:  # has the computer for itself, so that there is something to see soon
            wait([pool.submit(one, first)], _ALONE_S)
        list(pool.map(one, job["acts"][1:]))
    os._exit(0)  # what still runs ends with the walls


if __name__ == "__main__":
    main()
