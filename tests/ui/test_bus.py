"""What other processes of the session may ask of the window, and jobs that end in a fault of ours."""

from __future__ import annotations

import json
import os
import shutil
import subprocess
import sys
from pathlib import Path

import pytest

from mellow_finch.errors import OwnFaultError, WearError, line_of
from mellow_finch.ui.instance import SHOWN, Gate, files_of
from mellow_finch.ui.kit.jobs import Jobs
from mellow_finch.ui.window.actions import ACTIONS

ROOT = Path(__file__).resolve().parents[2]


def test_a_few_calls_a_second_are_let_in():
    now = [0.0]
    gate = Gate(lambda: now[0])
    assert [gate.opens() for _ in range(6)] == [True] * 3 + [False] * 3
    now[0] = 0.9
    assert not gate.opens()
    now[0] = 1.1
    assert gate.opens()


def test_only_files_of_this_computer_are_opened_and_not_too_many():
    assert files_of(["file:///marsh/a.png", "file:///b%20c.css"]) == ["/marsh/a.png", "/b c.css"]
    strange = [
        "http://x/a.png",
        "file://server/share/a.png",
        "a.png",
        "",
        "file:",
        "data:,x",
        "file:///" + "x" * 5000,
        "/etc/x",
    ]
    assert files_of(strange) == [] and len(files_of(["file:///a"] * 900)) == 50


def test_no_action_that_writes_can_be_asked_for():
    known = {action.id for action in ACTIONS} | {"take_off"}
    assert set(SHOWN.values()) - {""} <= known and not set(SHOWN) & {"wear", "undo", "keep", "save_look", "quit"}


SERVER = """
import json, sys
from PyQt6.QtCore import QCoreApplication, QObject, QTimer
from mellow_finch.ui.instance import answer
app = QCoreApplication([])
opened, acted, here = [], [], QObject()
assert answer(here, opened.append, acted.append)
print("ready", flush=True)
QTimer.singleShot(4000, app.quit)
app.exec()
print(json.dumps([opened, acted]), flush=True)
"""
FLOOD = """
from jeepney import DBusAddress, new_method_call
from jeepney.io.blocking import open_dbus_connection
from mellow_finch.ui.instance import INTERFACE, NAME, PATH
here = DBusAddress(PATH, NAME, INTERFACE)
kinds = set()
with open_dbus_connection(bus="SESSION") as bus:
    def ask(*words):
        kinds.add(bus.send_and_get_reply(new_method_call(here, *words), timeout=10).header.message_type.name)
    for i in range(300):
        ask("Open", "asa{sv}", (["file:///marsh/%d.png" % i, "http://elsewhere/x"], {}))
    for name in ("wear", "undo", "keep", "save_look", "quit", "../x", "x" * 9000):
        ask("ActivateAction", "sava{sv}", (name, [], {}))
    ask("Open", "s", ("file:///x",))
    ask("Open", "asa{sv}", ([], {}))
    ask("Nothing", "a{sv}", ({},))
    ask("ActivateAction", "ii", (1, 2))
print(sorted(kinds))
"""


@pytest.mark.skipif(shutil.which("dbus-run-session") is None, reason="no session bus is here")
def test_a_flood_and_malformed_calls_open_a_few_files_and_do_nothing_else(tmp_path):
    code = (
        "import shutil, subprocess, sys\n"
        f"server = subprocess.Popen([sys.executable, '-c', {SERVER!r}], stdout=subprocess.PIPE, text=True)\n"
        "assert server.stdout.readline() == 'ready\\n'\n"
        f"flood = subprocess.run([sys.executable, '-c', {FLOOD!r}], capture_output=True, text=True)\n"
        "words = ['dbus-send', '--session', '--print-reply', '--dest=org.freedesktop.DBus', '/', 'org.freedesktop.DBus.ListNames']\n"
        "code = subprocess.run(words, capture_output=True, cwd='/', **OTHER).returncode if shutil.which('dbus-send') else 1\n"
        "print(server.communicate()[0].strip()); print(flood.stdout.strip()); print(flood.stderr, file=sys.stderr)\n"
        "print(code)\n"
    ).replace("OTHER", "{'user': 65534}" if os.getuid() == 0 else "{}")
    env = {**os.environ, "PYTHONPATH": str(ROOT / "src"), "HOME": str(tmp_path), "QT_QPA_PLATFORM": "offscreen"}
    words = ["dbus-run-session", "--", sys.executable, "-c", code]
    done = subprocess.run(words, env=env, cwd="/", capture_output=True, text=True, timeout=120)
    rows = done.stdout.strip().splitlines()
    opened, acted = json.loads(rows[0])
    assert 1 <= len(opened) <= 15 and all(len(row) == 1 and row[0].startswith("/marsh/") for row in opened), done.stderr
    assert acted == [] and "error" in rows[1] and "method_return" in rows[1], done.stderr
    if os.getuid() == 0:
        assert rows[2] != "0"  # another user's process is not let onto the bus at all


def test_a_job_that_ends_in_a_fault_of_ours_ends_and_says_so(qtbot):
    jobs, said = Jobs(), []
    with qtbot.capture_exceptions() as faults:
        jobs.start("x", lambda _: 1 / 0, lambda _: None, said.append)
        qtbot.waitUntil(lambda: bool(said))
    assert not jobs.running("x") and isinstance(said[0], OwnFaultError)
    assert "ZeroDivisionError" in line_of(said[0]) and "fault report" in line_of(said[0])
    assert [kind for kind, _, _ in faults] == [ZeroDivisionError]  # it still reaches the log and the person


def test_hints_are_shown_with_what_is_wrong():
    assert line_of(WearError("It is so.", "Do that.")) == "It is so. Do that."
    assert line_of(OSError("plain")) == "plain"


def test_the_window_is_free_again_after_a_fault_while_a_look_is_applied(qtbot, opened, settle):
    desk = opened.wearing
    with qtbot.capture_exceptions() as faults:
        desk.wear(lambda: 1 / 0)
        qtbot.waitUntil(lambda: not desk.busy)
    assert len(faults) == 1
    settle(opened)
    assert not desk.busy
