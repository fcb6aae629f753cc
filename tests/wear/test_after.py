"""What a person's own scripts are told: the files that say what is applied, the signal, and programs that run after."""

from __future__ import annotations

import json
import logging
import os
import shutil
import subprocess
import sys
import tomllib
from dataclasses import replace
from logging.handlers import RotatingFileHandler

import pytest
import tinycss2

from mellow_finch.demo.build import build_demo_home
from mellow_finch.disk.log import log_tail
from mellow_finch.look.dressed import dress
from mellow_finch.look.edits import with_tone
from mellow_finch.session.simulated import SimulatedSession
from mellow_finch.wear import after, trial, wear
from mellow_finch.wear.applied import FORMATS, current_files, is_own
from mellow_finch.wear.history import History
from mellow_finch.wear.places import history_folder, own_home
from mellow_finch.wear.plan import make_plan, own_files
from mellow_finch.wear.wear import finish, go_back_to, put_on, undo_last


@pytest.fixture
def person(monkeypatch):
    """Return the person's own home, with the demo's files in it, worked on by somebody who is not root."""
    home = own_home()
    shutil.copytree(
        build_demo_home(home.parent / f"{home.name}-demo" / "home"), home, dirs_exist_ok=True, symlinks=True
    )
    monkeypatch.setattr(after, "as_root", lambda: False)
    yield home
    logger = logging.getLogger("mellow_finch")
    for handler in [h for h in logger.handlers if isinstance(h, RotatingFileHandler)]:
        handler.close()
        logger.removeHandler(handler)
    logger.propagate = True


def planned(look, home):
    files = own_files(home, History(history_folder(home)))
    return make_plan(dress(look, files, frozenset({"foot", "kitty"})), home)


def program(name: str, text: str, mode: int = 0o755):
    folder = after.config_folder() / after.FOLDER
    folder.mkdir(parents=True, exist_ok=True)
    path = folder / name
    path.write_text(f"#!/bin/sh\n{text}\n")
    path.chmod(mode)
    return path


def told(history) -> dict:
    """Return the colours of every format, read by what reads such files."""
    files = current_files(history)
    css = tinycss2.parse_stylesheet(files["css"].read_text(), skip_whitespace=True)[0]
    rows = tinycss2.parse_blocks_contents(css.content, skip_whitespace=True)
    properties = {d.name: tinycss2.serialize(d.value).strip() for d in rows}
    shell = subprocess.run(
        ["sh", "-c", '. "$1"; printf "%s\\n" "$FINCH_ACCENT" "$FINCH_TONE" "$FINCH_NAME"', "sh", str(files["sh"])],
        capture_output=True, text=True, check=True,
    )  # fmt: skip
    return {
        "json": json.loads(files["json"].read_text()),
        "toml": tomllib.loads(files["toml"].read_text()),
        "css": properties,
        "sh": shell.stdout.splitlines(),
    }


def test_every_format_says_what_is_applied_and_goes_with_it(person, look):
    history = History(history_folder(person))
    assert put_on(planned(look, person), history, SimulatedSession()) is not None
    found, accent = told(history), look.colours["accent"].hex
    assert found["json"] == found["toml"]
    assert found["json"]["colours"]["accent"] == found["css"]["--accent"] == accent
    assert found["sh"] == [accent, look.tone, look.name]
    assert found["json"]["terminal"] == [look.colours[f"ansi_{i}"].hex for i in range(16)]
    other = with_tone(look, "light")
    put_on(planned(other, person), history, SimulatedSession())
    assert told(history)["json"]["tone"] == "light"
    undo_last(history, SimulatedSession())
    assert told(history)["json"]["colours"]["accent"] == accent
    undo_last(history, SimulatedSession())
    assert not any(path.exists() for path in current_files(history).values())


def test_a_name_with_quotes_and_lines_stays_a_name(person, look):
    odd = replace(look, name='it\'s $(touch /x) `y` "z"')
    history = History(history_folder(person))
    put_on(planned(odd, person), history, SimulatedSession())
    assert told(history)["sh"][2] == odd.name and told(history)["toml"]["name"] == odd.name


def test_an_interrupted_change_is_told_when_it_is_finished(person, look, monkeypatch):
    history = History(history_folder(person))
    real = History.mark

    def mark(self, snapshot, status):
        if status == "worn":
            raise KeyboardInterrupt
        return real(self, snapshot, status)

    monkeypatch.setattr(History, "mark", mark)
    monkeypatch.setattr(wear.Walker, "back", lambda *_: (_ for _ in ()).throw(SystemExit))
    with pytest.raises(SystemExit):
        put_on(planned(look, person), history, SimulatedSession())
    monkeypatch.undo()
    assert not current_files(history)["json"].exists()
    finish(history, SimulatedSession())
    assert told(history)["json"]["name"] == look.name


def test_own_programs_run_in_order_with_the_values_and_after_going_back(person, look, tmp_path):
    out = tmp_path / "said"
    program("20-second", f'echo "2 $FINCH_EVENT $FINCH_NAME" >> "{out}"')
    program("10-first", f'echo "1 $FINCH_EVENT $FINCH_ACCENT" >> "{out}"; echo loud')
    program("30-off", f'echo never >> "{out}"', mode=0o644)
    program("40-anybodys", f'echo never >> "{out}"', mode=0o777)
    program(".hidden", f'echo never >> "{out}"')
    history = History(history_folder(person))
    assert [p.name for p in after.programs_after(history)] == ["10-first", "20-second"]
    first = put_on(planned(look, person), history, SimulatedSession())
    put_on(planned(with_tone(look, "light"), person), history, SimulatedSession())
    go_back_to(first.id, history, SimulatedSession())
    accent = look.colours["accent"].hex
    lines = out.read_text().splitlines()
    assert lines[:2] == [f"1 applied {accent}", f"2 applied {look.name}"]
    assert lines[-2:] == ["1 undone ", "2 undone "] and len(lines) == 6
    assert any("10-first ended with 0: loud" in line for line in log_tail())


def test_a_program_that_fails_hangs_or_cannot_start_is_logged_and_stops_nothing(person, look, monkeypatch):
    monkeypatch.setattr(after, "_IDLE_S", 0.3)
    program("1-fails", "echo no >&2; exit 3")
    program("2-hangs", "sleep 600")
    (after.config_folder() / after.FOLDER / "3-broken").write_text("#!/no/such/interpreter\n")
    (after.config_folder() / after.FOLDER / "3-broken").chmod(0o755)
    history = History(history_folder(person))
    assert put_on(planned(look, person), history, SimulatedSession()) is not None
    assert history.last_worn().status == "worn"
    words = "\n".join(log_tail())
    assert "1-fails ended with 3: no" in words
    assert "2-hangs took too long" in words and "3-broken could not be started" in words


def test_root_and_other_homes_run_nothing(person, home, look, monkeypatch):
    program("1", "true")
    own, other = History(history_folder(person)), History(history_folder(home))
    assert after.programs_after(own) and not after.programs_after(other) and not is_own(other)
    monkeypatch.setattr(after, "as_root", lambda: True)
    assert not after.programs_after(own)
    put_on(planned(look, home), other, SimulatedSession())
    assert {p.parent for p in current_files(other).values()} == {other.folder}
    assert not any(path.exists() for path in current_files(own).values())
    assert json.loads(current_files(other)["json"].read_text())["name"] == look.name


def test_a_look_that_is_tried_is_told_and_told_to_be_gone(person, look):
    history = History(history_folder(person))
    watcher = trial.begin(history, person)
    put_on(planned(look, person), history, SimulatedSession())
    assert set(told(history)) == set(FORMATS)
    trial.give_back(history, SimulatedSession())
    watcher.let_go()
    assert not any(path.exists() for path in current_files(history).values())


def test_what_cannot_be_written_stops_no_change(person, look):
    history = History(history_folder(person))
    for path in current_files(history).values():
        path.mkdir(parents=True)  # something else lies in its place
    put_on(planned(look, person), history, SimulatedSession())
    undo_last(history, SimulatedSession())
    assert all(path.is_dir() for path in current_files(history).values())


@pytest.mark.skipif(shutil.which("dbus-run-session") is None, reason="there is no session bus")
def test_a_signal_tells_a_change(person, look, tmp_path):
    """A listener of the bus's own tools hears it."""
    script = tmp_path / "listen.py"
    script.write_text(
        "import subprocess, sys, time\n"
        "heard = subprocess.Popen(['dbus-monitor', '--session', \"interface='org.mellowfinch.MellowFinch.Look'\"],"
        " stdout=subprocess.PIPE, text=True)\n"
        "time.sleep(1)\n"
        "from mellow_finch.wear.after import _follow\n"
        "from mellow_finch.wear.history import History\n"
        "from mellow_finch.wear.places import history_folder, own_home\n"
        "_follow(History(history_folder(own_home())), None, 'undone')\n"
        "time.sleep(0.5); heard.terminate(); print(heard.stdout.read())\n"
    )
    done = subprocess.run(
        ["dbus-run-session", "--", sys.executable, str(script)],
        capture_output=True, text=True, timeout=60, env={**os.environ, "PYTHONPATH": os.pathsep.join(sys.path)},
    )  # fmt: skip
    assert "member=Changed" in done.stdout and "undone" in done.stdout, done.stderr
