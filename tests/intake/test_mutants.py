"""A slice of what `tools/mutate.py` does: whatever is spoilt, only our own error comes back, and nothing else happens."""

from __future__ import annotations

import socket
import subprocess
import time
from pathlib import Path

import pytest
from tools.rigs import mutants
from tools.rigs.mutants import Reader, Watch, readers, tried

EACH = 4


@pytest.fixture(scope="session")
def watch(tmp_path_factory):
    return Watch(tmp_path_factory.getbasetemp().resolve())


@pytest.mark.some(1)
@pytest.mark.parametrize("first", [0, EACH])
def test_spoilt_inputs_give_our_own_error_alone(tmp_path, looks, watch, first):
    rows = readers(tmp_path, looks[0])
    assert len(rows) > 40
    place = tmp_path / "given"
    place.mkdir()
    wrong = [line for row in rows for seed in range(first, first + EACH) for line in tried(row, seed, place, watch)]
    assert not wrong, "\n".join(wrong)


def call(_):
    with socket.socket() as made:
        made.connect_ex(("127.0.0.1", 9))


def busy(_):
    end = time.process_time() + 2 * mutants.MOST_S
    while time.process_time() < end:
        pass


@pytest.mark.some(2)
@pytest.mark.parametrize(
    "does, told",
    [
        (lambda _: Path("/etc/hostname").read_bytes(), "reads /etc/hostname"),
        (lambda _: Path("/dev/shm/finch").write_bytes(b""), "writes /dev/shm/finch"),
        (lambda _: subprocess.run(["true"], check=True), "starts"),
        (call, "socket.connect"),
        (lambda _: [][1], "IndexError"),
        (lambda _: bytearray(b"x" * 200_000_000), "MB"),
        (busy, " s"),
    ],
)
def test_the_watch_sees_what_a_reader_must_not_do(tmp_path, watch, monkeypatch, does, told):
    if does is busy:
        monkeypatch.setattr(mutants, "MOST_S", 0.2)
    found = tried(Reader("odd", does, {"x": b"reeds"}), 1, tmp_path, watch)
    assert any(told in line for line in found), found
