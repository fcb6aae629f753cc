"""Processes of readers: what goes wrong in them stays in them."""

from __future__ import annotations

import os
import subprocess
import sys
import threading
from pathlib import Path

import PIL
import pytest

import mellow_finch
from mellow_finch.intake import worker
from mellow_finch.intake.worker import WorkerLostError, ask

ME = "tests.intake.unruly"


@pytest.fixture(autouse=True)
def findable(monkeypatch):
    monkeypatch.setenv("PYTHONPATH", str(Path(__file__).parents[2]))
    yield
    worker._end_all()


def test_bytes_and_open_files_go_over_and_come_back(tmp_path):
    data = os.urandom(3_000_000)
    assert ask(ME, {"do": "echo"}, data) == ({"got": len(data)}, data)
    (tmp_path / "x").write_bytes(b"reeds")
    handle = os.open(tmp_path / "x", os.O_RDONLY)
    assert ask(ME, {"do": "read"}, handles=[handle])[1] == b"reeds"
    os.close(handle)
    assert len(worker._IDLE[ME]) == 1, "one process answers all"


@pytest.mark.long
@pytest.mark.parametrize("what", ["hang", "crash"])
def test_one_that_hangs_or_crashes_is_lost_and_the_next_answers(what):
    with pytest.raises(WorkerLostError):
        ask(ME, {"do": what})
    assert ask(ME, {"do": "echo"}, b"x")[1] == b"x"


@pytest.mark.parametrize("what", ["swell", "open", "write", "start", "call"])
def test_readers_can_do_nothing_but_read(what, tmp_path):
    secret = tmp_path / "secret"
    secret.write_bytes(b"secret")
    out, data = ask(ME, {"do": what, "path": str(secret)})
    assert out["raised"] == ("MemoryError" if what == "swell" else "PermissionError") and not data
    assert secret.read_bytes() == b"secret"


def test_one_that_answers_no_more_is_given_up(monkeypatch):
    monkeypatch.setattr(worker, "_SLOWER", 0.2)
    with pytest.raises(WorkerLostError):
        ask(ME, {"do": "hang"}, seconds=1)


def test_many_ask_at_once():
    found = []
    rows = [
        threading.Thread(target=lambda n=n: found.append(ask(ME, {"do": "echo"}, bytes(n))[0]["got"])) for n in range(8)
    ]
    for row in rows:
        row.start()
    for row in rows:
        row.join()
    assert sorted(found) == list(range(8)) and len(worker._IDLE[ME]) <= 2


def test_nothing_of_the_folder_that_one_stands_in_is_run(tmp_path, monkeypatch):
    for name in ("struct.py", "json.py", "PIL.py"):
        (tmp_path / name).write_text(f"open({str(tmp_path / 'ran')!r}, 'w')\n")
    monkeypatch.chdir(tmp_path)
    assert ask(ME, {"do": "echo"}, b"x")[1] == b"x" and not (tmp_path / "ran").exists()


@pytest.mark.long
def test_libraries_that_are_reached_through_a_link_are_read(tmp_path, pictures):
    """A home is a link on many systems, so that the path of a library is not its real one."""
    link = tmp_path / "way"
    link.symlink_to(Path(PIL.__file__).parents[1])
    code = (
        "import os, sys; from mellow_finch.intake.worker import ask;"
        "print(ask('mellow_finch.intake.decoder', {'as': 'small', 'side': 64}, handles=[os.open(sys.argv[1], 0)])[0])"
    )
    env = {**os.environ, "PYTHONPATH": os.pathsep.join((str(link), str(Path(mellow_finch.__file__).parents[1])))}
    words = [sys.executable, "-c", code, str(pictures[0])]
    done = subprocess.run(words, env=env, capture_output=True, text=True, timeout=60)
    assert "'width'" in done.stdout, done.stdout + done.stderr
