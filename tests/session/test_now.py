"""What a desktop shows now is read from its settings, whatever they are."""

from __future__ import annotations

import pytest

from mellow_finch.session.none import NoDesktop
from mellow_finch.session.now import Now, now
from mellow_finch.session.simulated import MADE_UP, SimulatedSession


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
