"""Recoloured themes in the real GTK 3: every widget in every state measured, and the toolkit's own sheet among them."""

from __future__ import annotations

import json
import subprocess
from pathlib import Path

import pytest

from mellow_finch.colour.difference import colour_difference
from mellow_finch.colour.rgb import parse_hex
from mellow_finch.demo.build import demo_archive
from mellow_finch.demo.turnstone import turnstone_archive
from mellow_finch.look.edits import with_tone
from mellow_finch.look.from_theme import look_of_theme
from mellow_finch.proof.toolkit.ask import ask_before
from mellow_finch.theme.bundle.read import open_theme
from mellow_finch.theme.result.recolour import recolour_theme
from mellow_finch.wear.themes import lay_down

from .test_gtk import GALLERY, PARSE, SYSTEM_PYTHON, need, on_screen

DUMP = """
import sys, pathlib, gi
gi.require_version("Gtk", "3.0")
from gi.repository import Gtk, Gio
top = "/org/gtk/libgtk/theme/Adwaita"
def put(path, out):
    for name in Gio.resources_enumerate_children(path, 0):
        if name.endswith("/"):
            put(path + "/" + name[:-1], out / name)
        else:
            out.mkdir(parents=True, exist_ok=True)
            (out / name).write_bytes(Gio.resources_lookup_data(path + "/" + name, 0).get_data())
put(top, pathlib.Path(sys.argv[1]))
"""


def short_of(folder: Path, name: str) -> list[list]:
    rows = json.loads(on_screen(folder, str(GALLERY), name))["rows"]
    assert len(rows) > 120
    floor = {"text": 4.5, "edge": 3.0, "mark": 3.0}
    return [r for r in rows if r[3] < (2.5 if r[1] == "disabled" else floor[r[2]])]


@pytest.mark.consumer
@pytest.mark.parametrize("tone", ["dark", pytest.param("light", marks=pytest.mark.long)])
def test_a_recoloured_theme_can_be_read_in_the_real_toolkit(looks, tmp_path, tone):
    need("3.0")
    (tmp_path / "x.tar.gz").write_bytes(turnstone_archive())
    outcome = recolour_theme(open_theme(tmp_path / "x.tar.gz"), with_tone(looks[0], tone).scheme())
    lay_down(outcome.outputs, tmp_path / "home")
    sheet = tmp_path / "home/.local/share/themes" / outcome.name / "gtk-3.0/gtk.css"
    assert on_screen(tmp_path / "home", "-c", PARSE, "3.0", str(sheet)).startswith("0 ")
    assert short_of(tmp_path / "home", outcome.name) == []


@pytest.mark.consumer
@pytest.mark.long
@pytest.mark.parametrize("own, tone", [("light", "dark"), ("dark", "light")])
def test_the_toolkits_own_sheet_recoloured(looks, tmp_path, own, tone):
    need("3.0")
    dump = tmp_path / "Own/gtk-3.0"
    done = subprocess.run(
        ["xvfb-run", "-a", SYSTEM_PYTHON, "-c", DUMP, str(dump)], capture_output=True, text=True, timeout=60
    )
    source = dump / ("gtk-contained.css" if own == "light" else "gtk-contained-dark.css")
    if not source.exists():
        pytest.skip(f"NO SHEET IN THE TOOLKIT: its resource bundle holds none ({done.stderr[-200:]})")
    css = source.read_bytes()
    for old in dump.glob("*.css"):
        old.unlink()
    (dump / "gtk.css").write_bytes(css)
    outcome = recolour_theme(open_theme(tmp_path / "Own"), with_tone(looks[3], tone).scheme())
    assert outcome.short == ()
    lay_down(outcome.outputs, tmp_path / "home")
    assert short_of(tmp_path / "home", outcome.name) == []


@pytest.mark.long
@pytest.mark.consumer
@pytest.mark.parametrize("name", ["Turnstone", "Saltpan"])
def test_a_look_that_starts_from_a_theme_has_the_colours_that_the_toolkit_paints(home, name):
    need("3.0")
    path = {"Saltpan": home / ".local/share/themes/Saltpan", "Turnstone": demo_archive(home)}[name]
    look = look_of_theme(path, "light")
    places = ask_before(open_theme(path)).places
    asked = {
        "window": ("label", "rest"),
        "view": ("text view", "rest"),
        "header": ("header title", "rest"),
        "menu": ("menu item", "rest"),
        "selection": ("list row", "selected"),
    }
    for role, (widget, state) in asked.items():
        seen = {p.surface for p in places if (p.widget, p.state, p.what) == (widget, state, "text")}
        assert seen, widget
        near = min(colour_difference(parse_hex(surface), look.colours[role]) for surface in seen)
        assert near <= 3, (role, look.colours[role].hex, seen)
