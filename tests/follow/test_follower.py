"""Following: by a clock that is made up and a desktop that is made up; the right half, at the right time, or a reason why not."""

from __future__ import annotations

import fcntl
import logging
import logging.handlers
import os
import shutil
from concurrent.futures import ThreadPoolExecutor
from dataclasses import replace
from datetime import date, datetime, time, timedelta
from pathlib import Path
from zoneinfo import ZoneInfo

import pytest
from click.testing import CliRunner
from hypothesis import given
from hypothesis import strategies as st

import mellow_finch
from mellow_finch.cli import app
from mellow_finch.demo.build import demo_archive
from mellow_finch.disk.write import Disk
from mellow_finch.errors import ParseError
from mellow_finch.follow import service
from mellow_finch.follow.follower import Follower, battery
from mellow_finch.follow.rules import Rules, load_rules, rules_from, save_rules
from mellow_finch.look.dressed import dress
from mellow_finch.look.edits import with_lock, with_role, with_temper
from mellow_finch.look.gather import look_of_pictures
from mellow_finch.look.theme_edits import with_brought, with_worn
from mellow_finch.session.simulated import MADE_UP, SimulatedSession
from mellow_finch.shelf.shelf import Shelf
from mellow_finch.wear.history import History
from mellow_finch.wear.places import history_folder
from mellow_finch.wear.plan import make_plan, own_files
from mellow_finch.wear.wear import put_on
from tests.wear.conftest import state

ZONE = ZoneInfo("Europe/Berlin")
REEDHOLM = (53.6, 8.2)
IMAGE = ("xfce4-desktop", "/backdrop/screen0/monitorHDMI-1/workspace0/last-image")
SCHEME = ("org.gnome.desktop.interface", "color-scheme")


def at(text):
    return datetime.fromisoformat(text).replace(tzinfo=ZONE)


@pytest.fixture
def follower(home, tmp_path, look):
    """A follower on the demo home whose desktop shows the picture of the one look on its shelf."""
    shelf = Shelf(tmp_path / "shelf")
    kept = shelf.keep(look)
    session = SimulatedSession(MADE_UP["slideshow"])
    session.settings[IMAGE] = shelf.load(kept.id).look.source
    return Follower(home, session, Rules(), shelf, History(history_folder(home)), tmp_path / "follow")


def tone_worn(follower):
    return {"prefer-dark": "dark", "prefer-light": "light"}[follower.session.settings[SCHEME]]


@pytest.mark.long
def test_light_by_day_and_dark_by_night_where_the_sun_is(follower):
    follower.rules = Rules(day="sun", place=REEDHOLM)
    seen = []
    now = at("2026-11-27T12:00")
    for _ in range(4):
        words, again = follower.step(now)
        seen.append((tone_worn(follower), "was applied" in words))
        assert now < again <= now + timedelta(days=1)
        now = again + timedelta(seconds=1)
    assert seen[0] == ("light", True) and [tone for tone, _ in seen[:2]] == ["light", "dark"]
    follower.step(now)
    assert follower.step(now)[0] == "Nothing has changed."


@pytest.mark.long
def test_times_of_the_clock_and_the_desktops_own_wish(follower):
    follower.rules = Rules(day="clock", light_at=time(8), dark_at=time(18))
    for moment, tone in (("2026-11-27T07:59", "dark"), ("2026-11-27T08:00", "light"), ("2026-11-27T18:00", "dark")):
        follower.step(at(moment))
        assert tone_worn(follower) == tone
    follower.rules = Rules(day="desktop")
    follower.session.settings[SCHEME] = "prefer-light"
    follower.step(at("2026-11-27T22:00"))
    assert tone_worn(follower) == "light"


@pytest.mark.long
def test_a_new_wallpaper_gives_a_new_look_with_the_same_controls_and_locks(follower, home, look):
    locked = with_lock(with_role(look, "accent", look.colours["accent"]), "accent", True)
    locked = with_temper(locked, replace(locked.temper, warmth=0.4))
    follower.shelf.keep(locked, instead_of=follower.shelf.looks()[0].id)
    base = follower.shelf.load(follower.shelf.looks()[0].id).look
    follower.session.settings[IMAGE] = base.source
    assert "was applied" in follower.step(at("2026-11-27T12:00"))[0]
    picture = home / "Pictures/dusk-murmuration.jpg"
    follower.session.settings[IMAGE] = str(picture)
    words, _ = follower.step(at("2026-11-27T12:01"))
    assert words.startswith("“Dusk murmuration”")
    sheets = list(home.glob(".local/share/themes/Dusk-murmuration*/gtk-3.0/gtk.css"))
    assert len(sheets) == 1 and base.colours["accent"].hex in sheets[0].read_text()
    assert follower.session.settings[IMAGE] == str(picture)
    assert follower.step(at("2026-11-27T12:02"))[0] == "Nothing has changed."
    follower.rules = replace(follower.rules, picture=False)
    assert base.name in follower.step(at("2026-11-27T12:03"))[0]


def test_a_theme_that_is_worn_follows_the_wallpaper(follower, home, look):
    archive = str(demo_archive(home))
    wearing = with_worn(with_brought(look, archive), archive, {"gtk-3", "icons"})
    follower.shelf.keep(wearing, instead_of=follower.shelf.looks()[0].id)
    follower.session.settings[IMAGE] = str(home / "Pictures/dusk-murmuration.jpg")
    words, _ = follower.step(at("2026-11-27T12:00"))
    assert words.startswith("“Dusk murmuration”")
    (sheet,) = home.glob(".local/share/themes/Dusk-murmuration*/gtk-3.0/gtk.css")
    index = home / ".local/share/icons" / sheet.parent.parent.name / "index.theme"
    assert "Turnstone" in sheet.read_text() and "#2f6fe0" not in sheet.read_text() and index.is_file()


@pytest.mark.long
def test_day_and_night_can_be_two_kept_looks(follower, home):
    day = follower.shelf.looks()[0]
    night = follower.shelf.keep(look_of_pictures([home / "Pictures/dusk-murmuration.jpg"], "light"))
    follower.rules = Rules(look=day.id, night=night.id, day="clock", light_at=time(7), dark_at=time(19))
    told = [follower.step(at(f"2026-11-27T{hour}"))[0] for hour in ("08:00", "08:05", "20:00", "20:05")]
    assert f"“{day.name}”, light" in told[0] and told[1] == told[3] == "Nothing has changed."
    assert f"“{night.name}”, dark" in told[2] and tone_worn(follower) == "dark"
    assert follower.session.settings[IMAGE] == follower.shelf.load(night.id).look.source
    assert f"“{day.name}”, light" in follower.step(at("2026-11-28T08:00"))[0]


def test_a_wallpaper_that_is_the_picture_of_a_kept_look_gets_that_look(follower, home, tmp_path):
    own = replace(look_of_pictures([home / "Pictures/frost-on-sedge.jpg"], "light"), name="My frost")
    follower.shelf.keep(own)
    follower.rules = Rules(look=follower.shelf.looks()[-1].id)
    copied = tmp_path / "from-a-slideshow.jpg"
    copied.write_bytes((home / "Pictures/frost-on-sedge.jpg").read_bytes())
    follower.session.settings[IMAGE] = str(copied)
    assert follower.step(at("2026-11-27T12:00"))[0] == "“My frost”, light, was applied."
    assert follower.step(at("2026-11-27T12:01"))[0] == "Nothing has changed."
    follower.rules = replace(follower.rules, kept=False)
    assert "“Frost on sedge”" in follower.step(at("2026-11-27T12:02"))[0]


def test_from_when_to_when_a_day_is_light_is_told():
    now = at("2026-03-20T12:00")
    assert Rules(day="clock", light_at=time(6), dark_at=time(20)).light_between(now) == (time(6), time(20))
    assert Rules(day="none").light_between(now) is None and Rules(day="desktop").light_between(now) is None
    for place in ((53.6, 8.2), (-33.9, 151.2), (21.3, -157.8)):
        rules = Rules(day="sun", place=place)
        start, end = rules.light_between(now)
        for moment, tone in ((start, "light"), (end, "dark")):
            after = datetime.combine(now.date(), moment, ZONE) + timedelta(minutes=3)
            before = after - timedelta(minutes=6)
            assert rules.tone(after, None, "dark") == tone != rules.tone(before, None, "dark"), place
    assert Rules(day="sun", place=(80.0, 10.0)).light_between(at("2026-06-21T12:00")) is None


@pytest.mark.long
def test_looks_in_turn_one_a_day(follower, home):
    ids = [
        follower.shelf.keep(look_of_pictures([home / "Pictures" / f"{n}.jpg"], "dark")).id
        for n in ("frost-on-sedge", "lighthouse-fog")
    ]
    follower.rules = Rules(turn=tuple(ids))
    names = []
    for day in range(4):
        words, again = follower.step(at(f"2026-11-2{day + 2}T09:00"))
        names.append(words.partition("”")[0].strip("“"))
        assert again == at(f"2026-11-2{day + 3}T00:01")
    assert names[0] == names[2] != names[1] == names[3]


def test_a_change_by_hand_stops_it_until_the_person_says_so(follower, home):
    follower.step(at("2026-11-27T12:00"))
    own = home / ".config/kitty/kitty.conf"
    own.write_text(own.read_text() + "# mine\n")
    follower.rules = Rules(day="clock")
    words, _ = follower.step(at("2026-11-27T22:00"))
    assert words.startswith("Stopped: “.config/kitty/kitty.conf” was edited") and tone_worn(follower) == "dark"
    mine = own.read_text()
    assert follower.step(at("2026-11-28T09:00"))[0].startswith("Stopped") and own.read_text() == mine
    follower.go_on()
    assert follower.stopped() == ""
    words, _ = follower.step(at("2026-11-28T09:00"))
    assert "was applied" in words and tone_worn(follower) == "light" and "# mine" in own.read_text()


def test_a_change_by_hand_is_seen_in_files_that_the_newest_look_did_not_write(follower, home, look):
    follower.step(at("2026-11-27T12:00"))
    own = home / ".config/kitty/kitty.conf"
    files = own_files(home, follower.history)
    plan = make_plan(dress(replace(look, name="Fog"), files, only=frozenset({"conky"})), home, follower.session)
    assert put_on(plan, follower.history, follower.session) is not None
    own.write_text(own.read_text() + "# mine\n")
    follower.rules = Rules(day="clock")
    for moment in ("2026-11-27T22:00", "2026-11-28T09:00"):
        assert follower.step(at(moment))[0].startswith("Stopped: “.config/kitty/kitty.conf”")
    assert own.read_text().endswith("# mine\n")


def test_an_edit_that_a_look_would_overwrite_is_never_overwritten_with_nobody_there(follower, home):
    follower.step(at("2026-11-27T12:00"))
    ours = home / ".config/foot/mellow-finch.ini"
    ours.write_text(ours.read_text() + "# mine\n")
    follower.go_on()
    follower.rules = Rules(day="clock")
    words, _ = follower.step(at("2026-11-28T09:00"))
    assert words.startswith(
        "Nothing was applied: This look would overwrite your own edits in “.config/foot/mellow-finch.ini”"
    )
    assert ours.read_text().endswith("# mine\n") and tone_worn(follower) == "dark"


def _no_bus(follower):
    follower.session.keys = lambda *_: (_ for _ in ()).throw(OSError("no bus"))


def _long_picture(follower):
    follower.session.settings[IMAGE] = "/" + "x" * 5000


def _nul_picture(follower):
    follower.session.settings[IMAGE] = "/marsh/\0.png"


def _long_log(follower):
    follower.folder.mkdir(parents=True)
    (follower.folder / "log.txt").write_text("x" * 900_000)


def _log_folder(follower):
    (follower.folder / "log.txt").mkdir(parents=True)


def _state_folder(follower):
    (follower.folder / "state.json").mkdir(parents=True)


def _no_folder(follower):
    follower.folder.write_text("a file in the way")


def _full_disk(follower):
    def full(step):
        raise OSError(28, "No space left on device")

    follower.history = History(follower.history.folder, Disk(full))


def _read_only(follower):
    def refused(step):
        raise OSError(30, "Read-only file system")

    follower.history = History(follower.history.folder, Disk(refused))


def _home_busy(follower):
    follower.history = History(follower.history.folder, wait_s=0)
    follower.history.folder.mkdir(parents=True)
    handle = os.open(follower.history.lock_path, os.O_RDWR | os.O_CREAT)
    fcntl.flock(handle, fcntl.LOCK_EX)


def _fault(follower):
    follower.session.read = lambda *_: 1 / 0


@pytest.fixture
def no_log_after():
    yield
    logger = logging.getLogger("mellow_finch")
    for handler in [h for h in logger.handlers if isinstance(h, logging.handlers.RotatingFileHandler)]:
        logger.removeHandler(handler)
        handler.close()
    logger.propagate = True


@pytest.mark.long
@pytest.mark.some(5)
@pytest.mark.usefixtures("no_log_after")
@pytest.mark.parametrize(
    "spoil",
    [
        _no_bus,
        _long_picture,
        _nul_picture,
        _long_log,
        _log_folder,
        _state_folder,
        _no_folder,
        _full_disk,
        _read_only,
        _home_busy,
        _fault,
    ],
)
def test_whatever_is_broken_it_says_a_sentence_goes_on_and_writes_nothing_half(follower, home, spoil):
    before = state(home)
    spoil(follower)
    words, again = follower.step(at("2026-11-27T12:00"))
    assert words and again > at("2026-11-27T12:00")
    now = state(home)
    assert now == before or "was applied" in words
    assert not [p for p in now if ".finch-" in p]
    follower.log()
    follower.step(at("2026-11-27T11:00"))  # a clock that was set back, and a long sleep
    follower.step(at("2026-12-24T11:00"))


def test_two_followers_at_once_apply_one_look(follower, home):
    """Each from a process of its own in truth: they meet at the lock of the home."""
    other = replace(follower, history=History(follower.history.folder))
    moment = at("2026-11-27T12:00")
    with ThreadPoolExecutor(2) as pool:
        words = [told for told, _ in pool.map(lambda one: one.step(moment), (follower, other))]
    assert len(follower.history.snapshots()) == 1 and any("was applied" in told for told in words), words
    assert not [path for path in state(home) if ".finch-" in path]


def test_a_time_with_a_zone_is_refused_where_the_rules_are_read():
    with pytest.raises(ParseError, match="contains a time zone"):
        rules_from('day = "clock"\nlight_at = "07:00+05:00"\n')


def test_it_waits_for_what_fills_the_screen_and_for_the_battery(follower, tmp_path):
    follower.busy = lambda: "a full-screen program is running."
    assert follower.step(at("2026-11-27T12:00"))[0] == "Waits: a full-screen program is running."
    supply = tmp_path / "power/BAT0"
    supply.mkdir(parents=True)
    (supply / "status").write_text("Discharging\n")
    for level, low in (("19", True), ("20", False), ("x", False)):
        (supply / "capacity").write_text(f"{level}\n")
        assert bool(battery(tmp_path / "power")) == low
    (supply / "status").write_text("Charging\n")
    (supply / "capacity").write_text("3\n")
    assert battery(tmp_path / "power") == "" == battery(tmp_path / "none")


def test_nothing_is_worn_that_does_not_pass(follower, look):
    from mellow_finch.colour.rgb import Rgba

    bad = with_lock(
        with_role(replace(look, mend_as_you_go=False), "window_text", Rgba(60, 50, 40)), "window_text", True
    )
    follower.shelf.keep(bad, instead_of=follower.shelf.looks()[0].id)
    follower.rules = Rules(picture=False)
    before = dict(follower.session.settings)
    assert "insufficient contrast" in follower.step(at("2026-11-27T12:00"))[0]
    assert follower.session.settings == before and follower.history.last_worn() is None


def test_faults_are_said_and_the_next_look_around_goes_on(follower):
    follower.rules = Rules(look="heron")
    assert "There is no look “heron”" in follower.step(at("2026-11-27T12:00"))[0]
    (follower.folder / "state.json").write_text("[[")
    follower.rules = Rules(paused=True)
    assert follower.step(at("2026-11-27T12:00"))[0] == "Paused."
    follower.rules = Rules()
    assert "was applied" in follower.step(at("2026-11-27T12:01"))[0]
    assert len(follower.log()) == 3 and follower.log()[-1].startswith("2026-11-27 12:01:00  “")


@given(
    st.sampled_from(["none", "sun", "clock", "desktop"]),
    st.tuples(st.floats(-89, 89), st.floats(-179, 179)),
    st.datetimes(datetime(2024, 1, 1), datetime(2030, 1, 1)),
    st.times(),
    st.times(),
    st.sampled_from(["Europe/Berlin", "Pacific/Auckland", "America/Caracas"]),
)
def test_the_half_only_changes_at_the_turns_that_are_told(day, place, moment, light, dark, zone):
    rules = Rules(
        day=day,
        place=place,
        light_at=light.replace(second=0, microsecond=0),
        dark_at=dark.replace(second=0, microsecond=0),
    )
    now = moment.replace(tzinfo=ZoneInfo(zone))
    again = rules.next_turn(now)
    assert now < again <= now + timedelta(hours=26)
    tone = rules.tone(now, None, "dark")
    for share in (0.3, 0.7, 0.98):
        between = now + (again - now) * share
        if day != "sun" or abs((between - again).total_seconds()) > 300:
            assert rules.tone(between, None, "dark") == tone


@given(
    st.sampled_from(["none", "clock", "desktop", "sun"]),
    st.lists(st.text("ab c\"'\\é", max_size=9), max_size=3),
    st.booleans(),
)
def test_rules_come_back_from_their_file(day, turn, picture):
    rules = Rules(
        look="“Marsh”", night="Dusk \"2\"", picture=picture, kept=not picture, day=day, place=(53.5, 8.25),
        light_at=time(6, 30), dark_at=time(20, 5), turn=tuple(turn), paused=True,
    )  # fmt: skip
    assert rules_from(rules.as_toml()) == rules


@pytest.mark.parametrize(
    "text", ["day = 'dusk'", "day = 'sun'", "place = [99, 0]", "light_at = 'noon'", "= 3", "place = 4"]
)
def test_wrong_rules_are_told_in_a_sentence(text):
    with pytest.raises(ParseError):
        rules_from(text)


def test_it_starts_with_the_session_and_goes_without_a_trace(tmp_path, monkeypatch):
    monkeypatch.setenv("XDG_CONFIG_HOME", str(tmp_path / "config"))
    ran = []
    monkeypatch.setattr(service, "ask", lambda words, *a, **k: ran.append(words) or service_answer())
    monkeypatch.setattr(service, "start", lambda words: ran.append(words) or True)
    for by_unit, file in ((True, service.unit_file), (False, service.entry_file)):
        service.install(tmp_path / "state", by_unit)
        assert "follow" in file().read_text() and "run" in file().read_text()
        service.remove(tmp_path / "state")
        assert not file().exists()
    assert ["systemctl", "--user", "enable", "--now", service.UNIT] in ran and service.command() in ran
    if shutil.which("systemd-analyze"):
        import subprocess

        service.install(tmp_path / "state", True)
        told = subprocess.run(
            ["systemd-analyze", "--user", "verify", str(service.unit_file())], capture_output=True, text=True
        )
        assert "Unknown" not in told.stderr


def service_answer():
    from mellow_finch.session.commands import Answer

    return Answer(0)


def test_the_command_line_keeps_rules_and_tells_of_them(monkeypatch, tmp_path):
    monkeypatch.setattr("mellow_finch.follow.service.install", lambda folder, by_unit: "It follows from now on.")

    def finch(*words, code=0):
        done = CliRunner().invoke(app, ["follow", *words])
        assert done.exit_code == code, (words, done.output, done.exception)
        return done.output

    finch("start", "--day", "sun", "--place", "53.6,8.2", "--no-picture")
    assert load_rules() == Rules(picture=False, day="sun", place=(53.6, 8.2))
    assert "a place" in finch("start", "--place", "north", code=2).lower()
    finch("start", "--day", "clock", "--light-at", "06:30")
    assert load_rules().light_at == time(6, 30) and not load_rules().paused
    assert "Paused" in finch("pause") and load_rules().paused
    assert "Paused." in finch("status")
    finch("resume")
    assert not load_rules().paused and '"running": false' in finch("status", "--json")
    assert "Following has stopped" in finch("stop")
    save_rules(Rules(day="none"))
    assert load_rules() == Rules()


def test_waiting_takes_little_and_hears_the_desktop(tmp_path):
    """In a process of its own with a session bus: under 60 MB, asleep until a signal comes, awake at once then."""
    import json
    import subprocess
    import sys

    if not (shutil.which("dbus-run-session") and shutil.which("dbus-send")):
        pytest.skip("no session bus can be started here")
    script = """
import json, resource, subprocess, sys, threading, time
from mellow_finch.follow.service import follow_folder
from mellow_finch.follow.waiting import Waiter
waiter = Waiter()
used = time.process_time()
began = time.monotonic()
quiet = waiter.wait(1.5)
slept, used = time.monotonic() - began, time.process_time() - used
signal = ["dbus-send", "--session", "--type=signal", "/org/xfce/Xfconf", "org.xfce.Xfconf.PropertyChanged", "string:a"]
threading.Timer(0.5, lambda: subprocess.run(signal)).start()
began = time.monotonic()
heard = waiter.wait(20)
print(json.dumps([quiet, slept, used, heard, time.monotonic() - began,
                  resource.getrusage(resource.RUSAGE_SELF).ru_maxrss / 1024, "numpy" in sys.modules]))
"""
    environment = {**os.environ, "PYTHONPATH": str(Path(mellow_finch.__file__).parents[1])}
    done = subprocess.run(
        ["dbus-run-session", "--", sys.executable, "-c", script],
        env=environment,
        capture_output=True,
        text=True,
        timeout=60,
    )
    quiet, slept, used, heard, _, megabytes, heavy = json.loads(done.stdout.splitlines()[-1])
    assert not quiet and used < slept / 2  # asleep, not turning in circles
    assert heard and megabytes < 60 and not heavy


def test_a_day_has_its_look_whatever_the_order_of_days():
    rules = Rules(turn=("a", "b", "c"))
    days = [date(2026, 2, 27) + timedelta(days=i) for i in range(9)]
    assert sorted(rules.look_of(d) for d in days) == list("aaabbbccc")


def test_a_file_of_a_desktop_that_tells_nobody_is_looked_at_now_and_then(tmp_path, monkeypatch):
    import threading
    import time as clock

    from mellow_finch.follow import waiting

    monkeypatch.setattr(waiting, "_LOOK_S", 0.1)
    monkeypatch.setattr(waiting, "_listening", lambda: None)
    told = tmp_path / ".fehbg"
    told.write_text("feh --bg-fill '/a.png'")
    waiter = waiting.Waiter([told, tmp_path / "none"])
    began = clock.monotonic()
    assert not waiter.wait(0.3) and clock.monotonic() - began >= 0.3
    threading.Timer(0.2, lambda: os.utime(told, ns=(1, 1))).start()
    assert waiter.wait(20)
    waiter.close()
    nothing = waiting.Waiter()
    assert not nothing.wait(0.05)
    nothing.close()
