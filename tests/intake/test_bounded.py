"""Programs that are run within bounds: of processor time and of doing nothing, not of the clock."""

from __future__ import annotations

import subprocess
import sys

import psutil
import pytest

from mellow_finch.intake import bounded
from mellow_finch.intake.bounded import BoundsError, busyness, run_bounded


def python(code: str, *more: str) -> list[str]:
    return [sys.executable, "-c", code, *more]


def test_what_it_wrote_and_how_it_ended_are_returned():
    done = run_bounded(python("import sys; print(input()); sys.stderr.write('told'); sys.exit(3)"), 60, 60, "marsh")
    assert (done.returncode, done.stdout, done.stderr) == (3, "marsh\n", "told")
    assert run_bounded(python("import sys; sys.stdout.buffer.write(b'a\\xffb')"), 60, 60).stdout == "a\ufffdb"
    with pytest.raises(OSError):
        run_bounded(["/no/such/program"], 60, 60)


def test_text_arrives_whole_however_late_the_first_look(monkeypatch):
    real, limits = subprocess.Popen.communicate, [1e-9]  # as when the computer was away for the whole of it

    def late(self, input=None, timeout=None):
        return real(self, input, limits.pop() if limits else timeout)

    monkeypatch.setattr(subprocess.Popen, "communicate", late)
    text = "the marsh at dawn\n" * 20_000  # more than a pipe holds
    assert run_bounded(python("import sys; sys.stdout.write(sys.stdin.read())"), 60, 60, text).stdout == text


@pytest.mark.parametrize(
    "code",
    [
        "while True: pass",
        "import subprocess, sys; subprocess.run([sys.executable, '-c', 'while True: pass'])",  # it works elsewhere
    ],
)
def test_one_that_works_too_much_is_ended_with_all_it_started(code, tmp_path):
    before = {p.pid for p in psutil.Process().children(recursive=True)}
    with pytest.raises(BoundsError):
        run_bounded(python(code), 0.4, 60)
    left = [p for p in psutil.Process().children(recursive=True) if p.pid not in before]
    assert [p for p in left if p.status() != psutil.STATUS_ZOMBIE] == []


def test_one_that_does_nothing_is_ended_and_one_that_is_slow_is_not(monkeypatch):
    monkeypatch.setattr(bounded, "busyness", lambda: 1.0)
    with pytest.raises(BoundsError):
        run_bounded(python("import threading; threading.Event().wait(600)"), 60, 0.5)
    slow = "import time\nfor _ in range(12):\n    sum(range(900_000)); time.sleep(0.15)\nprint('done')"
    assert run_bounded(python(slow), 60, 1.5).stdout == "done\n"
    assert busyness() >= 1
