"""Real programs are rehearsed with a look: what they show is as the look, readable, and the same each time."""

from __future__ import annotations

import json
import shutil
import subprocess
from dataclasses import replace
from pathlib import Path

import pytest

from mellow_finch.components.catalogue import COMPONENT_BY_ID
from mellow_finch.components.model import FolderFiles, NoFiles
from mellow_finch.demo.build import build_demo_home
from mellow_finch.look.dressed import dress, every_component
from mellow_finch.look.edits import with_tone
from mellow_finch.palette.recipe import TONES
from mellow_finch.proof.rehearsal.conductor import rehearse
from mellow_finch.proof.rehearsal.room import backdrop_of

QUICK = ("rofi", "terminal", "openbox", "vim")
# Programs of which it is known why they cannot, and what it is that they show.
KNOWN = {
    ("alacritty", "own"),  # before 0.13 it reads another file, which is another component's
    ("alacritty", "unreadable"),
    ("micro", "other"),  # before 2.0.13 it shows the nearest of 256 colours
    ("micro", "unreadable"),
    ("emacs", "other"),  # in a terminal whose description says 256 colours
    ("terminal-2", "unreadable"),  # htop writes black on green, also where the terminal is light
    ("widget", "unreadable"),  # a translucent window without a compositor is blended with black
    ("ksyntax", "unreadable"),  # its window is drawn by a toolkit that another component dresses
}

pytestmark = pytest.mark.skipif(shutil.which("Xvfb") is None, reason="NO XVFB: install it to rehearse programs")


def states(look, home: Path, only=(), **more) -> dict[str, str]:
    components = every_component(look) if not only else frozenset({*only, "gtk-3"})
    dressed = dress(look, FolderFiles(home), components)
    picture = backdrop_of(str(home / "Pictures/dusk-murmuration.jpg"))
    rows = rehearse(dressed, home, picture, only, keep=False, **more)
    return {row.id: f"{row.state}: {row.words} {row.where}" for row in rows if row.state != "absent"}


@pytest.mark.consumer
def test_usual_programs_show_the_look(looks, home):
    found = states(looks[0], home, QUICK)
    if not found:
        pytest.skip("NO PROGRAMS: install rofi, xterm, openbox or vim to rehearse them")
    wrong = {id_: words for id_, words in found.items() if not words.startswith("as_look")}
    assert not wrong


@pytest.mark.long
@pytest.mark.consumer
@pytest.mark.parametrize("tone", TONES)
def test_every_program_that_is_here_shows_the_look(looks, home, tone):
    found = states(with_tone(looks[1], tone), home, slow=True)
    wrong = {
        id_: words
        for id_, words in found.items()
        if not words.startswith("as_look") and (id_, words.partition(":")[0]) not in KNOWN
    }
    assert not wrong, json.dumps(wrong, indent=1)


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
