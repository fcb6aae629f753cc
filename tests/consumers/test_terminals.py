"""Terminals that know an exported palette and nothing else are asked for the colours they show (OSC 10, 11 and 4)."""

from __future__ import annotations

import json
import os
import subprocess
import sys
import time
from contextlib import suppress
from pathlib import Path

import psutil
import pytest

from mellow_finch.look.interchange.catalogue import INTERCHANGE_BY_ID
from mellow_finch.proof.rehearsal import ask_terminal
from tests.consumers.test_readers import needs

ASK = Path(ask_terminal.__file__)


def asked(home: Path, command: str) -> dict[str, str]:
    """Return what a terminal answers that a shell command starts."""
    out = home / "answers.json"
    out.unlink(missing_ok=True)
    ask = f"{sys.executable} {ASK} {out}"
    env = {k: v for k, v in os.environ.items() if not k.startswith(("XDG_", "GTK", "QT_", "WAYLAND", "DISPLAY"))}
    runtime = home / "run"
    runtime.mkdir(mode=0o700, exist_ok=True)
    env |= {"HOME": str(home), "XDG_RUNTIME_DIR": str(runtime), "LC_ALL": "C.UTF-8", "LIBGL_ALWAYS_SOFTWARE": "1"}
    words = command.replace("ASK", ask)
    with (home / "said").open("wb") as said:
        running = subprocess.Popen(["bash", "-c", words], env=env, cwd=home, stdout=said, stderr=said)
    until = time.monotonic() + 40
    while not out.exists() and time.monotonic() < until and running.poll() is None:
        time.sleep(0.1)
    time.sleep(0.2)
    for process in [*psutil.Process(running.pid).children(recursive=True), running]:
        with suppress(psutil.Error, OSError):
            process.terminate()
    running.wait(20)
    assert out.exists(), (home / "said").read_text(errors="replace")[-1500:]
    return json.loads(out.read_text())


def judged(answers: dict[str, str], look) -> None:
    meant = {"text": look.colours["terminal_text"].hex, "ground": look.colours["terminal"].hex}
    meant |= {f"ansi_{i}": look.colours[f"ansi_{i}"].hex for i in range(16)}
    heard = {name: colour for name, colour in answers.items() if colour}
    assert len(heard) >= 2, answers
    assert heard == {name: meant[name] for name in heard}


# By palette format: what has to be there, and how a terminal is started that knows this export and nothing else.
EXPORTS = {
    "kitty": (("kitty",), "kitty --config kitty ASK"),
    "foot": (("foot", "sway"), "foot -c foot ASK"),
    "xresources": (("xterm", "xrdb"), "xrdb -nocpp -load xresources; xterm -e ASK"),
    "osc": (("xterm",), "xterm -e sh -c 'cat osc; ASK'"),
}


@pytest.mark.consumer
@pytest.mark.parametrize("form", EXPORTS)
def test_an_exported_palette_is_what_a_terminal_shows(form, tmp_path, looks):
    programs, start = EXPORTS[form]
    needs("xvfb-run", *programs)
    (tmp_path / form).write_bytes(INTERCHANGE_BY_ID[form].of_look(looks[0]))
    (tmp_path / "start").write_text(start.replace("ASK", f"{sys.executable} {ASK} {tmp_path / 'answers.json'}") + "\n")
    if "sway" in programs:
        (tmp_path / "compositor").write_text("exec sh start\n")
        answers = asked(tmp_path, on_sway(tmp_path / "compositor"))
    else:
        answers = asked(tmp_path, "xvfb-run -a -s '-screen 0 800x600x24 -noreset' sh start")
    assert answers
    judged(answers, looks[0])


def on_sway(config: Path) -> str:
    as_nobody = "unshare -U --map-user=1000 --map-group=1000" if os.geteuid() == 0 else ""  # it refuses to be root
    return f"WLR_BACKENDS=headless WLR_RENDERER=pixman WLR_LIBINPUT_NO_DEVICES=1 {as_nobody} sway -c {config}"
