"""A reader's process, asked by native code for what it may not do; decoders and drawings work in it all the same."""

from __future__ import annotations

import ctypes
import json
import os
import platform
import subprocess
import sys
from pathlib import Path

import pytest

ROOT = Path(__file__).resolve().parents[2]
CODE = """
import ctypes, json, os, sys, threading
from mellow_finch.intake.confine import shut_in
held = shut_in([p for p in sys.path if p] + [sys.prefix, sys.base_prefix])
libc = ctypes.CDLL(None, use_errno=True)
home = os.fsencode(sys.argv[1])
def ask(name, *words):
    ctypes.set_errno(0)
    return getattr(libc, name)(*words)
out = {
    "open to write": ask("open", home + b"/new", os.O_CREAT | os.O_WRONLY, 0o600),
    "open and cut": ask("open", home + b"/own", os.O_TRUNC),
    "read own": ask("open", home + b"/own", os.O_RDONLY),
    "read a library": ask("open", b"/usr/bin/env", os.O_RDONLY),
    "socket": ask("socket", 2, 1, 0),
    "unlink": ask("unlink", home + b"/own"),
    "rename": ask("rename", home + b"/own", home + b"/other"),
    "chmod": ask("chmod", home + b"/own", 0o777),
    "mkdir": ask("mkdir", home + b"/folder", 0o700),
    "fork": ask("fork"),
    "exec": ask("execv", b"/bin/true", (ctypes.c_char_p * 2)(b"true", None)),
    "kill": ask("kill", os.getppid(), 0),
    "ptrace": ask("ptrace", 16, os.getppid(), 0, 0),
    "unshare": ask("unshare", 0x10000000),
}
ran = []
thread = threading.Thread(target=lambda: ran.append(1))
thread.start()
thread.join()
print(json.dumps([held, out, ran]))
"""


@pytest.fixture
def told(tmp_path):
    (tmp_path / "own").write_text("mine")
    env = {**os.environ, "PYTHONPATH": str(ROOT / "src")}
    done = subprocess.run([sys.executable, "-c", CODE, str(tmp_path)], env=env, cwd="/", capture_output=True, text=True)
    assert done.returncode == 0, done.stderr
    assert sorted(p.name for p in tmp_path.iterdir()) == ["own"] and (tmp_path / "own").read_text() == "mine"
    return json.loads(done.stdout)


def test_native_code_can_do_no_more_than_read(told):
    held, out, ran = told
    assert ran == [1] and out["read a library"] > 0
    if "calls" in held:
        refused = set(out) - {"read own", "read a library"}
        assert {name: out[name] for name in refused} == dict.fromkeys(refused, -1)
    if "files" in held:
        assert out["read own"] == -1


def test_it_holds_on_the_systems_that_have_it(told):
    if sys.platform != "linux" or platform.machine() not in ("x86_64", "aarch64"):
        pytest.skip("no filter is known for this machine")
    libc = ctypes.CDLL(None)
    landlock = libc.syscall(444, None, ctypes.c_size_t(0), 1) >= 1
    assert ("files" in told[0]) == landlock
    state = Path("/proc/self/status").read_text()
    if "Seccomp:\t0" in state:
        assert "calls" in told[0]
