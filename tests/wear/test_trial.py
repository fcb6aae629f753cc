"""A look that is tried goes back by itself: when nobody keeps it, when the program is killed, when the session ends."""

from __future__ import annotations

import os
import signal
import subprocess
import sys
import time
from pathlib import Path

import psutil
import pytest

from mellow_finch.errors import WearError
from mellow_finch.intake.bounded import busyness
from mellow_finch.session.simulated import SimulatedSession
from mellow_finch.wear import trial
from mellow_finch.wear.trial import Trial, begin, count_down, give_back, keep, keep_as_one, settle, trial_of, watch
from mellow_finch.wear.wear import put_on, undo_last
from tests.wear.conftest import state


@pytest.fixture
def home(bench):
    return bench.home


@pytest.fixture
def history(bench):
    return bench.history()


@pytest.fixture
def plan(bench):
    return bench.plan()


@pytest.fixture
def quiet(monkeypatch):
    """Let no other process watch: the test does what it would."""
    monkeypatch.setattr(trial, "Watcher", lambda home: None)


def tried(home, history, plan) -> SimulatedSession:
    """Put a look on to be tried, and return the desktop it is on."""
    session = SimulatedSession()
    begin(history, home)
    worn(history, session, plan)
    count_down(history, 15)
    return session


def worn(history, session, plan) -> str:
    snapshot = put_on(plan, history, session)
    return snapshot.id


def test_it_goes_back_and_leaves_nothing(home, history, plan, quiet):
    before = state(home)
    session = tried(home, history, plan)
    assert state(home) != before and trial_of(history).until > time.time()
    assert give_back(history, session) is not None
    assert state(home) == before and trial_of(history) is None
    assert give_back(history, session) is None  # once


def test_what_is_kept_stays(home, history, plan, quiet):
    session = tried(home, history, plan)
    assert keep(history) and not keep(history)
    after = state(home)
    assert give_back(history, session) is None and settle(history, session) is None
    assert state(home) == after
    undo_last(history, session)


def test_the_look_before_stays_on(home, history, bench, quiet):
    session = SimulatedSession()
    id_ = worn(history, session, bench.plan())
    between = state(home)
    begin(history, home)
    worn(history, session, bench.plan("Hide", b"#405060"))
    count_down(history, 15)
    give_back(history, session)
    assert history.last_worn().id == id_ and state(home) == between


def test_an_edit_made_meanwhile_stays(home, history, plan, quiet):
    session = SimulatedSession()
    begin(history, home)
    worn(history, session, plan)
    path = next(w.path for w in plan.writes if w.action == "change")
    (home / path).write_bytes((home / path).read_bytes() + b"\n# the person's own\n")
    edited = (home / path).read_bytes()
    count_down(history, 15)
    give_back(history, session)
    assert (home / path).read_bytes() == edited and trial_of(history) is None


def test_what_nobody_gave_back_is_given_back_by_who_looks_next(home, history, plan, quiet, monkeypatch):
    before = state(home)
    session = tried(home, history, plan)
    assert settle(history, session) is None  # its time is not over
    now = time.time()
    monkeypatch.setattr(trial.time, "time", lambda: now + 60)
    assert settle(history, session) is not None and state(home) == before


def test_an_end_that_was_cut_off_is_taken_up(home, history, plan, quiet, monkeypatch):
    before = state(home)
    session = SimulatedSession()
    begin(history, home)
    worn(history, session, plan)
    count_down(history, 0)
    (history.folder / "trial.json").rename(history.folder / "trial-ending.json")
    now = time.time()
    monkeypatch.setattr(trial.time, "time", lambda: now + 60)
    settle(history, session)
    assert state(home) == before and trial_of(history) is None


@pytest.mark.parametrize("ended", ["time", "program"])
def test_the_watcher_gives_back_when_time_or_the_program_is_over(home, history, plan, quiet, ended):
    before = state(home)
    begin(history, home)
    put_on(plan, history, SimulatedSession())
    count_down(history, -10 if ended == "time" else 3600)
    asked: list[float] = []
    watch(home, lambda seconds: asked.append(seconds) or (ended == "program" and len(asked) > 1))
    assert state(home) == before and trial_of(history) is None


def test_the_watcher_ends_when_the_look_is_kept(home, history, plan, quiet):
    begin(history, home)
    put_on(plan, history, SimulatedSession())
    after = state(home)
    watch(home, lambda _: keep(history) and False)
    assert state(home) == after


PROGRAM = """
import sys, time
from pathlib import Path
from mellow_finch.wear.history import History
from mellow_finch.wear.places import history_folder
from mellow_finch.wear.trial import begin, count_down
from mellow_finch.session.none import NoDesktop
from mellow_finch.wear.wear import put_on
from mellow_finch.wear.plan import planned, Plan
from mellow_finch.look.dressed import Output
home = Path(sys.argv[1])
history = History(history_folder(home))
begin(history, home)
writes, same, made_of = planned(home, [Output(".config/foot/foot.ini", b"[colors]\\nbackground=102030\\n", ("foot",))])
put_on(Plan("Dusk", home, writes, (), (), same, made_of=made_of), history, NoDesktop())
count_down(history, 300)
print("on", flush=True)
time.sleep(60)
"""


@pytest.mark.long
@pytest.mark.parametrize("how", ["killed", "session ends"])
def test_it_goes_back_when_the_program_is_killed_and_when_the_session_ends(home, history, how):
    before = state(home)
    own = str(Path(trial.__file__).resolve().parents[2])
    with subprocess.Popen(
        [sys.executable, "-c", PROGRAM, str(home)], stdout=subprocess.PIPE, env={**os.environ, "PYTHONPATH": own}
    ) as program:
        assert program.stdout.readline() == b"on\n"
        assert state(home) != before
        watcher = next(p for p in psutil.Process(program.pid).children() if "mellow_finch.wear.trial" in p.cmdline())
        if how == "killed":
            program.kill()
        else:
            watcher.send_signal(signal.SIGTERM)
        until = time.monotonic() + 60 * busyness()
        while trial_of(history) is not None and time.monotonic() < until:
            time.sleep(0.1)
        program.kill()
    assert state(home) == before and trial_of(history) is None


def test_what_lies_there_and_cannot_be_read_is_no_trial(history):
    history.folder.mkdir(parents=True)
    (history.folder / "trial.json").write_text("no marker")
    assert trial_of(history) is None and settle(history, SimulatedSession()) is None
    assert Trial(1.0, "") == Trial(1.0, "")


def test_nothing_is_put_on_where_it_cannot_be_promised(home, history, monkeypatch):
    monkeypatch.setattr(trial.sys, "executable", "/bin/false")
    with pytest.raises(WearError):
        begin(history, home)
    assert trial_of(history) is None


def test_several_changes_are_kept_as_one(home, history, bench, quiet):
    """What follows a trial that was tuned is one thing to undo, edits of a person's own among it left alone."""
    before, session = state(home), SimulatedSession()
    begin(history, home)
    for colour in (b"#405060", b"#506070", b"#607080"):
        worn(history, session, bench.plan("Hide", colour))
    count_down(history, 15)
    assert len(trial.tried(history)) == 3
    assert keep_as_one(history, session, lambda: bench.plan("Hide", b"#607080"))
    assert len([s for s in history.snapshots() if s.status == "worn"]) == 1 and trial_of(history) is None
    assert not keep_as_one(history, session, lambda: bench.plan())  # nothing is tried any more
    undo_last(history, session)
    assert state(home) == before


def test_a_keeping_that_fails_leaves_no_promise_that_takes_a_later_look_off(home, history, bench, quiet):
    before, session = state(home), SimulatedSession()
    begin(history, home)
    for colour in (b"#405060", b"#506070"):
        worn(history, session, bench.plan("Hide", colour))

    def refused():
        raise WearError("No room.")

    with pytest.raises(WearError):
        keep_as_one(history, session, refused)
    assert state(home) == before and trial_of(history).until <= time.time()
    watch(home, lambda _seconds: False)  # the other process, which finds that it is due
    assert trial_of(history) is None and state(home) == before
    later = worn(history, session, bench.plan())
    assert settle(history, session) is None and history.last_worn().id == later
