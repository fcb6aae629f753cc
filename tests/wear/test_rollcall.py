"""The roll call says what was seen, and no more."""

from __future__ import annotations

from dataclasses import replace

import pytest

from mellow_finch.look.dressed import dress
from mellow_finch.session.none import NoDesktop
from mellow_finch.session.simulated import MADE_UP, SimulatedSession
from mellow_finch.wear.history import History
from mellow_finch.wear.places import history_folder
from mellow_finch.wear.plan import make_plan, own_files
from mellow_finch.wear.rollcall import roll_call
from mellow_finch.wear.wear import put_on

EVERYTHING = frozenset({"gtk-3", "gtk-4", "xfwm", "kitty", "waybar", "dunst", "foot", "console", "openbox", "rofi"})


def worn(look, home, session):
    history, heard = History(history_folder(home)), {}
    files = own_files(home, history)
    dressed = dress(replace(look, source="/home/maren/reedbed.jpg"), files, EVERYTHING)
    return put_on(make_plan(dressed, home, session), history, session, heard=heard), heard


def states(calls):
    return {call.component: call.state for call in calls}


@pytest.fixture
def room():
    return SimulatedSession(MADE_UP["ringing room"])


def test_everybody_answers_once_and_what_needs_the_person_comes_first(look, home, room):
    snapshot, heard = worn(look, home, room)
    calls = roll_call(snapshot, room, heard)
    assert states(calls) == {
        "gtk-3": "follows",  # read back
        "gtk-4": "restart",
        "xfwm": "follows",
        "kitty": "told",
        "waybar": "told",
        "openbox": "told",
        "dunst": "restart",
        "foot": "later",  # neither runs here
        "rofi": "later",
        "console": "needs you",  # only laid ready
        "picture": "follows",
    }
    settled = [call.settled for call in calls]
    assert settled == sorted(settled)
    assert {c.component for c in calls if c.restarts} == {"dunst", "waybar"}


def test_what_a_program_refuses_is_said_with_its_reason(look, home, room):
    room.refuses.add("kitty")
    snapshot, heard = worn(look, home, room)
    call = next(c for c in roll_call(snapshot, room, heard) if c.component == "kitty")
    assert call.state == "needs you" and "line 1: no such thing" in call.words


def test_a_setting_that_is_something_else_now_is_no_follower(look, home, room):
    snapshot, heard = worn(look, home, room)
    room.settings["xfwm4", "/general/theme"] = "Mine"
    call = next(c for c in roll_call(snapshot, room, heard) if c.component == "xfwm")
    assert call.state == "differs" and "Window decoration theme" in call.words


@pytest.mark.parametrize(
    "shown, state, words",
    [
        ({"Net/ThemeName": "Saltpan"}, "needs you", "still publishes “Saltpan”"),
        ({"wm": "Openbox"}, "later", "No X settings daemon"),
    ],
)
def test_a_setting_is_believed_only_as_far_as_the_desktop_gives_it_out(look, home, room, shown, state, words):
    snapshot, heard = worn(look, home, room)

    class Other(SimulatedSession):
        def shown(self):
            return shown

    calls = roll_call(snapshot, Other(room.made_up, room.settings), heard)
    call = next(c for c in calls if c.component == "gtk-3")
    assert call.state == state and words in call.words


def test_later_what_was_told_is_not_said_to_have_been_told_just_now(look, home, room):
    snapshot, _ = worn(look, home, room)
    call = next(c for c in roll_call(snapshot, room) if c.component == "kitty")
    assert call.state == "told" and "when the look was applied" in call.words


def test_without_a_desktop_nothing_is_claimed_to_follow_by_setting(look, home):
    snapshot, heard = worn(look, home, NoDesktop())
    assert states(roll_call(snapshot, NoDesktop(), heard))["kitty"] == "later"
    assert "picture" not in states(roll_call(snapshot, NoDesktop(), heard))
