"""What is open when the program ends: kept for its own home, offered quietly after a log-out, never in another home."""

from __future__ import annotations

import json
import os
import subprocess
import sys
from pathlib import Path

import pytest

from mellow_finch.ui.window.memory import KIND, Memory
from mellow_finch.wear.places import history_folder

from .test_near import made

ROOT = Path(__file__).resolve().parents[2]
SCRIPT = """
import os, signal, sys
from pathlib import Path
from PyQt6.QtCore import QTimer
from mellow_finch.ui import app
from mellow_finch.ui.window.window import Window
home, picture, kind = Path(sys.argv[1]), Path(sys.argv[2]), sys.argv[3]
plain = Window.after_first_paint
def begin(window, run):
    def then():
        run()
        QTimer.singleShot(1500, change)
    def change(turn=0):
        if window.bench.document.look is None or window.jobs.running("open"):
            if turn == 200 or window.notice.text():
                print("no look:", window.notice.text(), [type(w) for w in app.QApplication.topLevelWidgets()])
                os._exit(3)
            QTimer.singleShot(300, lambda: change(turn + 1))
            return
        if kind != "untouched":
            window.bench.document.edit("Spoil", lambda look: __import__("dataclasses").replace(look, name="Fog"))
        print("ready", flush=True)
        os.kill(os.getpid(), signal.SIGTERM)
    plain(window, then)
Window.after_first_paint = begin
sys.exit(app.run(home, picture))
"""


@pytest.mark.long
@pytest.mark.some(1)
@pytest.mark.parametrize("kind", ["changed", "untouched"])
def test_a_log_out_keeps_what_was_open_and_asks_nothing(home, tmp_path, kind):
    env = {
        **os.environ,
        "PYTHONPATH": str(ROOT / "src"),
        "XDG_STATE_HOME": str(tmp_path / "state"),
        "XDG_CONFIG_HOME": str(tmp_path / "config"),
    }
    words = [sys.executable, "-c", SCRIPT, str(home), str(home / "Pictures/reedbed-at-dawn.jpg"), kind]
    done = subprocess.run(words, env=env, capture_output=True, text=True, timeout=120)
    assert done.returncode == 0 and done.stdout == "ready\n", done.stdout + done.stderr
    kept = tmp_path / "state/mellow-finch/open" / f"{history_folder(home).name}.json"
    if kind == "untouched":
        assert not kept.exists()
        return
    data = json.loads(kept.read_text())
    assert data["kind"] == KIND and data["asked"] is True and data["states"]


@pytest.mark.long
def test_a_session_of_one_home_is_not_offered_in_another_and_stays(qtbot, opened, home, tmp_path, settle):
    memory, other = Memory(tmp_path / "w.ini", tmp_path / "state"), tmp_path / "other"
    other.mkdir()
    window = made(qtbot, opened.appearance, home, memory)
    memory.use_home(home)
    window.open_path(str(home / "Pictures" / "reedbed-at-dawn.jpg"))
    settle(window)
    window.session_bar.keep()
    settle(window)
    window.jobs.shut_down()
    memory.use_home(other)
    assert memory.session() is None
    memory.forget_session()
    memory.use_home(home)
    again = made(qtbot, opened.appearance, home, memory)
    again.session_bar.offer()
    assert again.session_bar.isVisible() and "Mellow Finch ended" in again.session_bar.words.text()
    memory.keep_session(window.bench.document.states(), 0, "tune", asked=True)
    again.session_bar.offer()
    assert "was open here last" in again.session_bar.words.text() and "ended" not in again.session_bar.words.text()
    again.document.stack.setClean()
    again.close()


def test_a_session_kept_by_an_earlier_version_counts_for_the_persons_own_home(tmp_path, monkeypatch):
    monkeypatch.setattr("mellow_finch.ui.window.memory.own_home", lambda: tmp_path)
    (tmp_path / "state").mkdir()
    (tmp_path / "state/open.json").write_text("{}")
    memory = Memory(tmp_path / "w.ini", tmp_path / "state")
    memory.use_home(tmp_path / "another")
    assert (tmp_path / "state/open.json").exists()
    memory.use_home(tmp_path)
    assert not (tmp_path / "state/open.json").exists() and memory._file.read_text() == "{}"
