"""What a desktop shows now is read from its settings, whatever they are."""

from __future__ import annotations

import pytest

from mellow_finch.components.files import FolderFiles
from mellow_finch.session.none import NoDesktop
from mellow_finch.session.now import Now, now
from mellow_finch.session.simulated import MADE_UP, SimulatedSession
from mellow_finch.wear.history import History
from mellow_finch.wear.present import presence_in


@pytest.mark.parametrize(
    "name, changes, expected",
    [
        ("slideshow", {}, Now("Xfce", "/usr/share/backgrounds/saltpan.png", False, "Saltpan")),
        (
            "dark first",
            {
                ("org.gnome.desktop.background", "picture-uri"): "file:///home/maren/reed%20bed.jpg",
                ("org.gnome.desktop.interface", "color-scheme"): "prefer-dark",
            },
            Now("GNOME", "/home/maren/reed bed.jpg", True, "Saltpan"),
        ),
        (
            "no compositor",
            {("org.mate.interface", "gtk-theme"): "Mud-Dark"},
            Now("MATE", "/usr/share/backgrounds/saltpan.png", True, "Mud-Dark"),
        ),
        (
            "dark first",
            {("org.gnome.desktop.background", "picture-uri"): "https://x/y.png"},
            Now("GNOME", "", False, "Saltpan"),
        ),
    ],
)
def test_picture_tone_and_theme(name, changes, expected):
    session = SimulatedSession(MADE_UP[name])
    session.settings.update(changes)
    assert now(session) == expected
    assert expected.desktop in expected.words()


def test_no_desktop_says_nothing():
    assert now(NoDesktop()) == Now()


def test_the_notifications_of_the_running_desktop_are_here_also_before_the_first_one(tmp_path, monkeypatch):
    (tmp_path / "bin").mkdir()
    for name in ("xfce4-notifyd-config", "mako", "xfwm4"):
        (tmp_path / "bin" / name).write_text("#!/bin/sh\n")
        (tmp_path / "bin" / name).chmod(0o755)
    monkeypatch.setenv("PATH", str(tmp_path / "bin"))
    monkeypatch.setenv("HOME", str(tmp_path))
    there = {}
    for desktop in ("XFCE", "sway"):
        monkeypatch.setenv("XDG_CURRENT_DESKTOP", desktop)
        rows = presence_in(tmp_path, FolderFiles(tmp_path), History(tmp_path / "state"))
        there[desktop] = {id_ for id_ in ("xfce-notify", "mako", "xfwm") if rows[id_].here}
        assert rows["mako"].installed
    assert there == {"XFCE": {"xfce-notify"}, "sway": set()}
