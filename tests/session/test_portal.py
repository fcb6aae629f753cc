"""Dialogs the desktop's portal for a colour, against a stand-in on a private session bus."""

from __future__ import annotations

import os
import shutil
import subprocess
import sys
from collections.abc import Callable, Iterator
from contextlib import ExitStack
from pathlib import Path

import pytest
from PIL import Image

from mellow_finch.colour.rgb import Rgba
from mellow_finch.errors import Cancelled
from mellow_finch.progress import Silent
from mellow_finch.session import screen_tools
from mellow_finch.session.portal import PortalError, photograph, pick_colour

STANDIN = Path(__file__).with_name("portal_standin.py")


@pytest.fixture
def bus(monkeypatch) -> Iterator[Callable[..., None]]:
    """Start a private session bus; what comes back starts a portal on it."""
    if shutil.which("dbus-daemon") is None:
        pytest.skip("NO D-BUS: install dbus-daemon to try the portal")
    with ExitStack() as stack:

        def start(command: list[str], environment: dict[str, str]) -> str:
            process = subprocess.Popen(command, stdout=subprocess.PIPE, text=True, env=environment)
            stack.callback(process.stdout.close)
            stack.callback(process.wait)
            stack.callback(process.kill)
            return process.stdout.readline().strip()

        own = dict(os.environ)
        address = start(["dbus-daemon", "--session", "--nofork", "--nopidfile", "--print-address=1"], own)
        monkeypatch.setenv("DBUS_SESSION_BUS_ADDRESS", address)
        inside = {**own, "DBUS_SESSION_BUS_ADDRESS": address, "PYTHONPATH": os.pathsep.join(sys.path)}

        def portal(mode: str, *more: str) -> None:
            assert start([sys.executable, str(STANDIN), mode, *more], inside) == "ready"

        yield portal


def test_a_picked_colour_comes_back(bus):
    bus("answer")
    assert pick_colour(Silent()) == Rgba(255, 128, 0)
    assert pick_colour(Silent()) == Rgba(255, 128, 0)


def test_calling_it_off_is_no_fault(bus):
    bus("no")
    assert pick_colour(Silent()) is None


@pytest.mark.parametrize(
    "mode, words",
    [
        ("old", "portal does not pick colours"),
        ("broken", "no portal for picking colours"),
        ("odd", "no usable colour"),
        ("empty", "no usable colour"),
    ],
)
def test_portals_that_cannot_are_told(bus, mode, words):
    bus(mode)
    with pytest.raises(PortalError, match=words) as caught:
        pick_colour(Silent())
    assert "Pick it from the image" in caught.value.hint


def test_a_bus_without_a_portal_is_told(bus):
    with pytest.raises(PortalError, match="no portal for picking colours"):
        pick_colour(Silent())


def test_a_picture_of_the_screen_comes_back_and_its_file_goes(bus, tmp_path):
    place = tmp_path / "a shot.png"
    Image.new("RGB", (6, 4), (255, 128, 0)).save(place)
    bus("picture", str(place))
    found = photograph(Silent())
    assert found.shape == (4, 6, 3) and (found == (255, 128, 0)).all() and not place.exists()


def test_a_picture_that_is_not_allowed_or_not_to_be_had_is_told(bus):
    with pytest.raises(PortalError, match="no portal for screenshots"):
        photograph(Silent())
    bus("no")
    assert photograph(Silent()) is None


def test_waiting_can_be_stopped(bus):
    bus("silent")

    class Impatient:
        count = 0

        def report(self, done: int, total: int, note: str) -> None:
            self.count += 1
            if self.count > 2:
                raise Cancelled("Stopped.")

    with pytest.raises(Cancelled):
        pick_colour(Impatient())


def test_no_bus_at_all_is_told(monkeypatch, tmp_path):
    monkeypatch.setenv("DBUS_SESSION_BUS_ADDRESS", f"unix:path={tmp_path}/none")
    with pytest.raises(PortalError, match="no session bus"):
        pick_colour(Silent())
    monkeypatch.delenv("DBUS_SESSION_BUS_ADDRESS")
    monkeypatch.delenv("XDG_RUNTIME_DIR", raising=False)
    with pytest.raises(PortalError, match="no session bus"):
        pick_colour(Silent())


@pytest.fixture
def programs(tmp_path, monkeypatch):
    """Return how the two usual programs are put in place on a compositor without a portal."""
    monkeypatch.setenv("PATH", f"{tmp_path}:/usr/bin:/bin")
    monkeypatch.setenv("WAYLAND_DISPLAY", "wayland-9")
    monkeypatch.setenv("DBUS_SESSION_BUS_ADDRESS", f"unix:path={tmp_path}/none")
    monkeypatch.setattr(
        screen_tools.shutil, "which", lambda name: str(found) if (found := tmp_path / name).exists() else None
    )

    def put(name: str, body: str) -> None:
        (tmp_path / name).write_text(f"#!/bin/sh\n{body}\n")
        (tmp_path / name).chmod(0o755)

    return put


_GRIM = """
case "$*" in *-g*) now=1;; *) now=0;; esac
python3 - "$now" "$*" <<'END'
import re, sys
from PIL import Image
screen = Image.new("RGB", (90, 60), (49, 132, 255))
screen.putpixel((70, 5), (9, 8, 7))
if sys.argv[1] == "1":
    for i in range(-4, 5):  # the pointer, drawn into the picture
        screen.putpixel((70 + i, 5), (254, 254, 254)), screen.putpixel((70, 5 + i), (254, 254, 254))
    x, y, w, h = map(int, re.findall(r"\\d+", sys.argv[2].split("-g")[1])[:4])
    screen = screen.crop((x + SHIFT, y, min(x + SHIFT + w, 90), min(y + h, 60)))
screen.save(sys.stdout.buffer, "PPM")
END
"""


def test_where_no_portal_picks_the_usual_programs_do(programs):
    """The pixel under the pointer is the screen's, not the pointer's, though it is drawn into later pictures."""
    grim = _GRIM.replace("python3", sys.executable)
    programs("slurp", 'echo "$@" > "$0.said"; echo 70 5')
    programs("grim", grim.replace("SHIFT", "0"))
    assert pick_colour(Silent()) == Rgba(9, 8, 7)
    assert photograph(Silent()).shape == (60, 90, 3)
    programs("grim", grim.replace("SHIFT", "20"))  # screens that do not begin at 0, 0: what is there now
    assert pick_colour(Silent()) == Rgba(49, 132, 255)
    programs("slurp", "echo selection cancelled >&2; exit 1")
    assert pick_colour(Silent()) is None


@pytest.mark.parametrize("grim", (None, "exit 3", "echo nothing of a picture"))
def test_where_they_cannot_either_it_is_said(programs, grim):
    programs("slurp", "echo 12 34")
    if grim is not None:
        programs("grim", grim)
    with pytest.raises(PortalError) as told:
        pick_colour(Silent())
    assert told.value.hint and str(told.value).endswith(".")
    with pytest.raises(PortalError):
        photograph(Silent())


def test_pointing_ends_when_it_is_stopped(programs):
    class Stopped:
        def report(self, done, total, note):
            raise Cancelled("Stopped.")

    programs("slurp", "exec sleep 30")
    programs("grim", "printf 'P6\\n1 1\\n255\\n123'")
    with pytest.raises(Cancelled):
        pick_colour(Stopped())
