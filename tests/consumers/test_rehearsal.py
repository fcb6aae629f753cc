"""Real programs are rehearsed with a look: what they show is as the look, readable, and the same each time."""

from __future__ import annotations

import json
import shutil
import socket
import subprocess
from dataclasses import replace
from pathlib import Path

import pytest
from tools.rigs.homes import closer_home

from mellow_finch.components.catalogue import COMPONENT_BY_ID
from mellow_finch.components.files import FolderFiles, NoFiles
from mellow_finch.demo.build import build_demo_home
from mellow_finch.look.dressed import dress, every_component
from mellow_finch.look.edits import with_tone
from mellow_finch.palette.recipe import TONES
from mellow_finch.proof.rehearsal.conductor import rehearse
from mellow_finch.proof.rehearsal.room import backdrop_of

# Newer Conky does not start in a system in a folder that has no /sys.
QUICK = ("rofi", "terminal", "openbox", "vim", "dunst", "tmux", *(["widget"] if Path("/sys/devices").exists() else []))
# Those whose own lines in the home that sets every colour itself are what they show at a start, too.
OVER_OWN = (
    *("terminal", "kitty", "foot", "alacritty", "xfce-terminal", "tmux", "fish", "zsh", "git", "fzf", "bat"),
    *("less", "readline", "mc", "btop", "lf", "kakoune", "emacs", "vim", "nano", "gdb", "jq", "taskwarrior", "ripgrep"),
    *("irssi", "listing", "rofi", "dunst", "mako", "fluxbox", "icewm", "bspwm", "openbox", "qutebrowser"),
)
# Programs of which it is known why they cannot, and what it is that they show.
KNOWN = {
    ("alacritty", "own"),  # before 0.13 it reads another file, which is another component's
    ("alacritty", "unreadable"),
    ("emacs", "other"),  # in a terminal whose description says 256 colours
    ("terminal-2", "unreadable"),  # htop writes black on green, also where the terminal is light
    ("widget", "unreadable"),  # a translucent window without a compositor is blended with black
    ("ksyntax", "unreadable"),  # its window is drawn by a toolkit that another component dresses
    ("texstudio", "unreadable"),
    ("gtksourceview-3", "unreadable"),  # before 44 it writes the folder in its title bar half through by itself
}

pytestmark = pytest.mark.skipif(shutil.which("Xvfb") is None, reason="NO XVFB: install it to rehearse programs")


def states(look, home: Path, only=(), **more) -> dict[str, str]:
    components = every_component(look) if not only else frozenset({*only, "gtk-3"})
    dressed = dress(look, FolderFiles(home), components)
    picture = backdrop_of(str(home / "Pictures/dusk-murmuration.jpg"))
    rows = rehearse(dressed, home, picture, only, keep=False, **more)
    return {row.id: f"{row.state}: {row.words} {row.where}" for row in rows if row.state != "absent"}


def not_as_the_look(found: dict[str, str]) -> dict[str, str]:
    return {i: w for i, w in found.items() if not w.startswith("as_look") and (i, w.partition(":")[0]) not in KNOWN}


@pytest.mark.consumer
def test_usual_programs_show_the_look(looks, home):
    found = states(looks[0], home, QUICK)
    if not found:
        pytest.skip("NO PROGRAMS: install rofi, xterm, openbox or vim to rehearse them")
    assert not not_as_the_look(found)


@pytest.mark.long
@pytest.mark.consumer
@pytest.mark.parametrize("tone", TONES)
def test_every_program_that_is_here_shows_the_look(looks, home, tone):
    wrong = not_as_the_look(states(with_tone(looks[1], tone), home, slow=True))
    assert not wrong, json.dumps(wrong, indent=1)


@pytest.mark.long
@pytest.mark.consumer
def test_they_show_it_over_lines_of_ones_own(looks, tmp_path):
    wrong = not_as_the_look(states(looks[0], closer_home(tmp_path).root, OVER_OWN))
    assert not wrong, json.dumps(wrong, indent=1)


@pytest.mark.long
@pytest.mark.consumer
def test_a_rehearsal_touches_nothing_of_the_persons_own(looks, home, tmp_path, monkeypatch):
    """No file is written in the home or beside the running session, and nobody connects to what listens there."""
    if shutil.which("inotifywait") is None:
        pytest.skip("NO INOTIFYWAIT: install inotify-tools to watch what a rehearsal writes")
    runtime, secrets = tmp_path / "runtime", home / ".ssh"
    for folder in (runtime, secrets):
        folder.mkdir()
    (secrets / "config").write_text("Host hide\n")
    asked = {
        "DBUS_SESSION_BUS_ADDRESS": "bus",
        "WAYLAND_DISPLAY": "wayland-9",
        "SSH_AUTH_SOCK": "agent",
        "DISPLAY": "x",
    }
    listening = []
    for variable, name in asked.items():
        place = runtime / name
        listening.append(socket.socket(socket.AF_UNIX))
        listening[-1].bind(str(place))
        listening[-1].listen()
        listening[-1].setblocking(False)
        monkeypatch.setenv(variable, f"unix:path={place}" if name in ("bus", "x") else str(place))
    monkeypatch.setenv("XDG_RUNTIME_DIR", str(runtime))
    events = "modify,attrib,create,delete,delete_self,move,close_write"
    words = ["inotifywait", "-m", "-r", "-e", events, "--format", "%e %w%f", str(home), str(runtime)]
    with subprocess.Popen(words, stdout=subprocess.PIPE, stderr=subprocess.PIPE, text=True) as watching:
        while "established" not in watching.stderr.readline():
            pass
        found = states(looks[0], home, QUICK)
        (home / "the last").touch()
        seen = iter(watching.stdout.readline, "")
        touched = list(iter(lambda: next(seen).strip(), f"CREATE {home / 'the last'}"))
        watching.kill()
    assert found and not touched
    for one in listening:
        with pytest.raises(BlockingIOError):
            one.accept()
        one.close()


@pytest.mark.long
@pytest.mark.consumer
def test_twice_gives_the_same(looks, tmp_path):
    home = build_demo_home(tmp_path / "home")
    first, second = states(looks[0], home), states(looks[0], home)
    for found in (first, second):
        found.pop("emacs", None)  # it takes seconds to have read a file, and more on a busy computer
    assert first == second


def test_the_status_line_has_the_looks_colours(looks, tmp_path):
    """i3status gives them to the bar; a file of one's own keeps all that it says."""
    if shutil.which("i3status") is None:
        pytest.skip("NO I3STATUS: install it to ask it for its colours")
    own = b'general {\n  colors = true\n  interval = 1\n  output_format = "i3bar"\n}\norder += "load"\nload {\n  max_threshold = "0.000001"\n  format = "%1min"\n}\n'
    look = looks[0]
    home = tmp_path / "home"
    (home / ".config/i3status").mkdir(parents=True)
    file = home / ".config/i3status/config"
    file.write_bytes(own)
    (written,) = COMPONENT_BY_ID["i3status"].write(look.scheme(), FolderFiles(home))
    assert written.data.startswith(own.rstrip(b"\n"))
    file.write_bytes(written.data)
    with subprocess.Popen(["i3status", "-c", str(file)], stdout=subprocess.PIPE, text=True) as running:
        rows = [running.stdout.readline() for _ in range(3)]
        running.kill()
    told = json.loads(rows[2].lstrip(","))[0]
    paints = COMPONENT_BY_ID["i3status"].read(FolderFiles(home))
    assert told["color"].lower() == paints["bar status:urgent"].text.hex
    fresh = COMPONENT_BY_ID["i3status"].write(replace(look.scheme(), tone=look.tone), NoFiles())
    assert [f.path for f in fresh] == [".config/i3status/config"]
