"""Homes and plans for the tests of wearing, and a process that ends at any step."""

from __future__ import annotations

import os
from collections.abc import Callable
from contextlib import suppress
from pathlib import Path

import pytest
from tools.rigs.homes import bytes_of, state

from mellow_finch.disk.write import Disk
from mellow_finch.look.dressed import Output, dress
from mellow_finch.session.base import DesktopSetting, NotifyResult, ReloadMethod
from mellow_finch.session.simulated import SimulatedSession
from mellow_finch.wear.history import History
from mellow_finch.wear.places import history_folder
from mellow_finch.wear.plan import Plan, make_plan, own_files, planned

__all__ = ["bytes_of", "state"]
INTERFACE = "org.gnome.desktop.interface"


class Killed(BaseException):
    """The process ends here: nothing after it runs."""


def killed_at(number: int) -> Callable[[str], None]:
    """Return a step that ends the process the number-th time that something is done."""
    count = [0]

    def step(_name: str) -> None:
        count[0] += 1
        if count[0] == number:
            raise Killed

    return step


class StepSession(SimulatedSession):
    """A desktop whose changes count as steps too."""

    def __init__(self, below: SimulatedSession, step: Callable[[str], None]) -> None:
        super().__init__(below.made_up, below.settings, below.sent, below.told)
        self._step = step

    def write(self, setting: DesktopSetting) -> None:
        self._step("before a setting")
        super().write(setting)
        self._step("after a setting")

    def reset(self, setting: DesktopSetting, kind: str = "") -> None:
        self._step("before a reset")
        super().reset(setting, kind)
        self._step("after a reset")

    def tell(self, way: ReloadMethod) -> NotifyResult:
        self._step("before a program is told")
        return super().tell(way)

    def broadcast(self, sequences: str) -> int:
        self._step("before the terminals")
        return super().broadcast(sequences)


class Bench:
    """A home, its history and a desktop, with a plan of a few files of every kind."""

    def __init__(self, home: Path) -> None:
        self.home = home
        self.session = SimulatedSession()

    def history(self, step: Callable[[str], None] | None = None) -> History:
        return History(history_folder(self.home), Disk(step) if step else None, wait_s=0)

    def desktop(self, step: Callable[[str], None]) -> SimulatedSession:
        return StepSession(self.session, step)

    def settings(self) -> dict[tuple[str, str], str | None]:
        return dict(self.session.settings)

    def plan(self, name: str = "Marsh", shade: bytes = b"#203040") -> Plan:
        """Return a plan that makes files in new folders, changes plain ones, one with two names, one by a link."""
        outputs = [
            Output(".config/plain.conf", b"colour=" + shade + b"\n", ("a",)),
            Output(".config/crlf.conf", b"x=1\r\ncolour=" + shade + b"\r\n", ("a", "b")),
            Output(f".local/share/themes/{name}/gtk-3.0/gtk.css", b"window{}" + shade, ("c",)),
            Output(f".local/share/themes/{name}/index.theme", b"[X]", ("c",)),
            Output(".config/two-names", b"two\nlonger than before " + shade, ("d",)),
            Output(".by-link", b"linked\nby link " + shade, ("e",)),
            Output(".config/empty", shade, ("f",)),
        ]
        writes, same, made_of = planned(self.home, outputs)
        settings = (
            DesktopSetting(INTERFACE, "color-scheme", "prefer-dark"),
            DesktopSetting(INTERFACE, "gtk-theme", name),
            DesktopSetting(INTERFACE, "icon-theme", name),
            DesktopSetting(INTERFACE, "no-such-key", name),
        )
        return Plan(name, self.home, writes, (), settings, same, f"\x1b]11;{shade.decode()}\x1b\\", made_of)


@pytest.fixture
def bench(tmp_path: Path) -> Bench:
    """Return a small home with a plain file, CRLF, latin-1, odd modes, an attribute, an empty file and links of both kinds."""
    home = tmp_path / "small"
    (home / ".config").mkdir(parents=True)
    (home / "dots").mkdir()
    (home / ".config/plain.conf").write_bytes(b"colour=red\n")
    (home / ".config/plain.conf").chmod(0o640)
    with suppress(OSError):  # not every file system keeps attributes
        os.setxattr(home / ".config/plain.conf", "user.note", b"mine")
    (home / ".config/crlf.conf").write_bytes(b"x=1\r\ncolour=r\xf6t\r\n")
    (home / ".config/crlf.conf").chmod(0o444)
    (home / ".config/two-names").write_bytes(b"two")
    os.link(home / ".config/two-names", home / "dots/other-name")
    (home / "dots/linked").write_bytes(b"linked")
    (home / "dots/linked").chmod(0o755)
    (home / ".by-link").symlink_to("dots/linked")
    (home / ".config/empty").touch()
    return Bench(home)


@pytest.fixture
def rich_home(home: Path) -> Path:
    """Return a demo home with links, odd modes and a read-only file."""
    dots = home / "dotfiles"
    dots.mkdir()
    (home / ".Xresources").rename(dots / "xresources")
    (home / ".Xresources").symlink_to("dotfiles/xresources")
    (dots / "xresources").chmod(0o600)
    (home / ".config/conky/conky.conf").chmod(0o755)
    (home / ".config/kdeglobals").chmod(0o444)
    return home


@pytest.fixture
def history(rich_home: Path) -> History:
    return History(history_folder(rich_home), wait_s=0)


def plan_for(look, home: Path) -> Plan:
    """Return the plan for a look on a home, made as the program makes it."""
    return make_plan(dress(look, own_files(home, History(history_folder(home)))), home)
