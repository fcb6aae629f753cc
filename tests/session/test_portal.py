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
