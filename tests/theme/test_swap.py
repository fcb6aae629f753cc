"""One colour of a theme replaced everywhere by another: counted, everything else to the byte as it was."""

from __future__ import annotations

import json

import pytest
from click.testing import CliRunner
from hypothesis import given
from hypothesis import strategies as st

from mellow_finch.cli import app
from mellow_finch.colour.rgb import Rgba, parse_hex
from mellow_finch.components.decisions import Decisions, Owner, Slot
from mellow_finch.errors import ParseError
from mellow_finch.look.decision_edits import with_choice
from mellow_finch.look.file import look_from_json, look_to_json
from mellow_finch.syntax.css import scan_css
from mellow_finch.theme.bundle.opened import open_bundle
from mellow_finch.theme.bundle.read import read_theme
from mellow_finch.theme.result.account import Choices
from mellow_finch.theme.result.recolour import recolour_theme
from mellow_finch.theme.result.swap import followed, shades_of, swapped

SHRILL = "#ff2fa0"
HEX = st.tuples(*[st.integers(0, 255)] * 3).map(lambda c: "#{:02x}{:02x}{:02x}".format(*c))


@pytest.fixture
def theme(tmp_path):
    folder = tmp_path / "Marsh"
    (folder / "gtk-3.0").mkdir(parents=True)
    (folder / "index.theme").write_text("[Desktop Entry]\nName=Marsh\n[X-GNOME-Metatheme]\nGtkTheme=Marsh\n")
    rows = [f".a{i} {{ color: {SHRILL.upper() if i % 2 else 'rgba(255, 47, 160, 0.5)'}; }}" for i in range(40)]
    (folder / "gtk-3.0/gtk.css").write_text(
        "\n".join([*rows, "b { color: #ff5fb8; } /* #ff2fa0 */", "c { background: #202428 }\r"])
    )
    return folder


def test_every_place_is_counted_and_every_other_byte_stays(theme):
    before = (theme / "gtk-3.0/gtk.css").read_bytes().decode()
    result = swapped(read_theme(open_bundle(theme)), {parse_hex(SHRILL): parse_hex("#3c8f6a")})
    assert [(r.source.hex, r.places, r.files) for r in result.rows] == [(SHRILL, 40, 1)]
    out = result.outputs[".local/share/themes/Marsh/gtk-3.0/gtk.css"].data.decode()
    plain = before.replace("; }", ";}")
    for old, new in ((SHRILL.upper() + ";", "#3C8F6A;"), ("rgba(255, 47, 160, 0.5)", "rgba(60, 143, 106, 0.5)")):
        plain = plain.replace(old, new)
    assert out.replace("; }", ";}") == plain and "/* #ff2fa0 */" in out and out.endswith("\r")
    index = result.outputs[".local/share/themes/Marsh/index.theme"].data.decode()
    assert index == (theme / "index.theme").read_text()


@given(st.lists(HEX, min_size=1, max_size=12), HEX)
def test_brute_force_says_the_same(tmp_path_factory, colours, new):
    path = tmp_path_factory.mktemp("sheet") / "gtk.css"
    path.write_text("".join(f"n{i} {{ color: {c}; }}\n" for i, c in enumerate(colours)))
    old = colours[0]
    result = swapped(read_theme(open_bundle(path)), {parse_hex(old): parse_hex(new)})
    (text,) = result.fresh.values()
    assert [s.colour.hex for s in scan_css(text)] == [new if c == old else c for c in colours]


def test_shades_follow_by_the_same_step_and_can_be_left(theme):
    read = read_theme(open_bundle(theme))
    old, shade = parse_hex(SHRILL), parse_hex("#ff5fb8")
    assert shade in shades_of(read, old)
    result = swapped(read, {old: parse_hex("#3c8f6a")}, with_shades=True)
    rows = {r.source: r for r in result.rows}
    assert rows[shade].shade and rows[shade].target == followed(shade, old, parse_hex("#3c8f6a"))
    assert followed(old, old, parse_hex("#3c8f6a")) == parse_hex("#3c8f6a")
    assert followed(Rgba(90, 90, 90), old, parse_hex("#3c8f6a"))[:3] != (90, 90, 90)  # lightness goes along
    left = swapped(read, {old: parse_hex("#3c8f6a")}, with_shades=True, left=[shade])
    assert [r.source for r in left.rows] == [old]


def test_a_colour_that_is_nowhere_is_said_and_nothing_is_written(theme, tmp_path):
    with pytest.raises(ParseError, match="does not contain #010203"):
        swapped(read_theme(open_bundle(theme)), {Rgba(1, 2, 3): Rgba(0, 0, 0)})
    run = CliRunner().invoke(app, ["swap", str(theme), "#010203=#000000", "--into", str(tmp_path / "out")])
    assert run.exit_code == 2 and "does not contain" in run.output and not (tmp_path / "out").exists()
    run = CliRunner().invoke(app, ["swap", str(theme), "#010203", "--into", str(tmp_path / "out")])
    assert run.exit_code == 2 and "has no “=” in it" in run.output
    run = CliRunner().invoke(app, ["swap", str(theme), "reed=#000000", "--into", str(tmp_path / "out")])
    assert run.exit_code == 2 and "is not a colour" in run.output


def test_the_command_tells_what_it_did_and_keeps_the_source(theme, tmp_path):
    before = (theme / "gtk-3.0/gtk.css").read_bytes()
    words = ["swap", str(theme), f"{SHRILL}=#3c8f6a", "--shades", "--into", str(tmp_path / "out"), "--json"]
    run = CliRunner().invoke(app, words)
    assert run.exit_code == 0, run.output
    told = json.loads(run.output)["swaps"]
    assert told[0] == {"from": SHRILL, "to": "#3c8f6a", "places": 40, "files": 1, "shade": False}
    assert (theme / "gtk-3.0/gtk.css").read_bytes() == before
    assert (tmp_path / "out/.local/share/themes/Marsh/gtk-3.0/gtk.css").exists()


def test_a_group_can_have_a_colour_of_its_own_in_a_look(theme, look):
    read = read_theme(open_bundle(theme))
    group = next(g for f in read.families for g in f.groups if parse_hex(SHRILL) in g.shades)
    chosen = with_choice(look, Owner.theme(str(theme)), [Slot.spelled(group.key)], "#3c8f6a")
    assert look_from_json(look_to_json(chosen)).decisions == chosen.decisions
    outcome = recolour_theme(read, look.scheme(), Choices(Decisions.spelled({group.key: "#3c8f6a"})))
    (row,) = [g for g in outcome.groups if g.key == group.key]
    assert row.target.hex == "#3c8f6a" and row.role == "#3c8f6a"
