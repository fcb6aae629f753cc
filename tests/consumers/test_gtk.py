"""Our GTK files in the real toolkit: no parse errors, and every widget measured on a virtual screen."""

from __future__ import annotations

import json
import os
import shutil
import subprocess
from functools import cache
from pathlib import Path

import pytest
from tools.rigs.homes import SHRILL, closer_home

from mellow_finch.components.catalogue import COMPONENT_BY_ID
from mellow_finch.components.files import FolderFiles, NoFiles
from mellow_finch.look.dressed import dress
from mellow_finch.look.edits import with_tone
from mellow_finch.proof import toolkit as gallery

HERE = Path(__file__).parent
GALLERY = Path(gallery.__file__).parent / "gallery_gtk3.py"
SYSTEM_PYTHON = "/usr/bin/python3"
PARSE = """
import sys, gi
version, path = sys.argv[1:]
gi.require_version("Gtk", version)
from gi.repository import Gtk
found = []
provider = Gtk.CssProvider()
provider.connect("parsing-error", lambda p, section, error: found.append(error.message))
try:
    provider.load_from_path(path)
except Exception as error:
    found.append(str(error))
print(len(found), found[:5])
"""


@cache
def introspection(version: str) -> bool:
    done = subprocess.run(
        [SYSTEM_PYTHON, "-c", f"import gi; gi.require_version('Gtk', '{version}'); from gi.repository import Gtk"],
        capture_output=True,
    )
    return done.returncode == 0


def need(version: str) -> None:
    if not Path(SYSTEM_PYTHON).exists() or not introspection(version):
        pytest.skip(
            f"NO GTK {version[0]}: install python3-gi gir1.2-gtk-{version} to check our themes in the real toolkit"
        )
    if shutil.which("xvfb-run") is None:
        pytest.skip("NO XVFB: install xvfb xauth to check our themes on a virtual screen")


def put(look, component: str, folder: Path) -> None:
    for file in COMPONENT_BY_ID[component].write(look.scheme(), FolderFiles(folder)):
        path = folder / file.path
        path.parent.mkdir(parents=True, exist_ok=True)
        path.write_bytes(file.data)


def on_screen(folder: Path, *words: str, config: str = "none") -> str:
    environment = {
        "PATH": os.environ["PATH"], "HOME": str(folder), "XDG_DATA_HOME": str(folder / ".local/share"),
        "XDG_CONFIG_HOME": str(folder / config), "GTK_A11Y": "none", "NO_AT_BRIDGE": "1", "GDK_BACKEND": "x11",
    }  # fmt: skip
    done = subprocess.run(
        ["xvfb-run", "-a", "-s", "-screen 0 1400x3000x24", SYSTEM_PYTHON, *words],
        capture_output=True, text=True, timeout=120, env=environment,
    )  # fmt: skip
    assert done.returncode == 0, done.stderr[-2000:]
    return done.stdout


@pytest.mark.long
@pytest.mark.consumer
@pytest.mark.parametrize(
    "version, component, name",
    [
        ("3.0", "gtk-3", ".local/share/themes/{}/gtk-3.0/gtk.css"),
        ("4.0", "gtk-4", ".local/share/themes/{}/gtk-4.0/gtk.css"),
        ("4.0", "gtk-4", ".config/gtk-4.0/gtk.css"),
    ],
)
def test_no_parse_errors(look, tmp_path, version, component, name):
    need(version)
    put(look, component, tmp_path)
    assert on_screen(tmp_path, "-c", PARSE, version, str(tmp_path / name.format(look.folder))).startswith("0 ")


@pytest.mark.consumer
@pytest.mark.parametrize("tone, number", [("dark", 0), pytest.param("light", 3, marks=pytest.mark.long)])
def test_every_widget_in_every_state_can_be_read(looks, tmp_path, tone, number):
    need("3.0")
    look = with_tone(looks[number], tone)
    put(look, "gtk-3", tmp_path)
    rows = json.loads(on_screen(tmp_path, str(GALLERY), look.folder))["rows"]
    assert len(rows) > 120
    window = look.colours["window"].hex
    assert sum(row[5] == window for row in rows) > 30, "the theme is not in use"
    floor = {"text": 4.5, "edge": 3.0, "mark": 3.0}
    short = [row for row in rows if row[3] < (2.5 if row[1] == "disabled" else floor[row[2]])]
    assert short == []


@pytest.mark.long
@pytest.mark.consumer
def test_a_sheet_of_the_persons_own_does_not_win_over_the_look(looks, tmp_path):
    """It is stronger than any theme, and sets what it likes: measured as the toolkit paints it."""
    need("3.0")
    home, look = closer_home(tmp_path).root, looks[0]
    for output in dress(look, FolderFiles(home), frozenset({"gtk-3", "panel-strip"})).outputs:
        path = home / output.path
        path.parent.mkdir(parents=True, exist_ok=True)
        path.write_bytes(output.data)
    sheet = str(home / ".config/gtk-3.0/gtk.css")
    assert on_screen(home, "-c", PARSE, "3.0", sheet, config=".config").startswith("0 ")
    rows = json.loads(on_screen(home, str(GALLERY), look.folder, config=".config"))["rows"]
    assert sum(row[5] == look.colours["window"].hex for row in rows) > 30, "the look is not what shows"
    assert not [row for row in rows if set(SHRILL) & set(map(str, row))]
    floor = {"text": 4.5, "edge": 3.0, "mark": 3.0}
    assert [row for row in rows if row[3] < (2.5 if row[1] == "disabled" else floor[row[2]])] == []


@pytest.mark.consumer
def test_resources_through_xrdb(look, tmp_path):
    if shutil.which("xrdb") is None or shutil.which("xvfb-run") is None:
        pytest.skip("NO XRDB: install x11-xserver-utils xvfb to check X resources")
    out = COMPONENT_BY_ID["terminal"].write(look.scheme(), NoFiles())
    path = tmp_path / "resources"
    path.write_bytes(out[0].data)
    done = subprocess.run(
        ["xvfb-run", "-a", "-s", "-noreset", "sh", "-c", f"xrdb -nocpp -load {path} && xrdb -query"],
        capture_output=True,
        text=True,
        timeout=60,
    )
    assert done.returncode == 0, done.stderr
    found = dict(line.split(":\t", 1) for line in done.stdout.splitlines())
    assert found["*background"] == look.colours["terminal"].hex
    assert found["XTerm*color4"] == look.colours["ansi_4"].hex and len(found) == 66
