"""Components that a person makes: proposed from a file, kept, dressed like the others, refused with a sentence."""

from __future__ import annotations

import json

import pytest
from click.testing import CliRunner

from mellow_finch.cli import app
from mellow_finch.components.catalogue import COMPONENT_BY_ID, COMPONENTS, read_anew
from mellow_finch.components.define.definition import defined
from mellow_finch.components.define.own import definition_of, forget, keep, own_texts, passed_on, propose, roles_of
from mellow_finch.components.files import FolderFiles
from mellow_finch.components.judge import Behind, judge_parts
from mellow_finch.errors import FileAccessError, ParseError

TEXT = """# tides
[colors]
background = "#ff2fa0"
foreground = "#4d5559"
selection-background = "#00ff00"
urgent = "#8a2b2b"

[other]
depth = 3
"""


@pytest.fixture
def file(home):
    path = home / ".config/tides/tides.ini"
    path.parent.mkdir(parents=True)
    path.write_text(TEXT)
    return path


def test_colours_are_mapped_and_the_file_is_dressed(home, file, look):
    found = propose(home, file)
    assert found.path == ".config/tides/tides.ini" and [r.colour.hex for r in found.rows][:2] == ["#ff2fa0", "#4d5559"]
    roles = {
        "colors/background": "terminal",
        "colors/foreground": "terminal_text",
        "colors/selection-background": "accent",
    }
    component = defined(definition_of(found, "Tide clock", "Widgets", roles))
    assert component.id == "own-tide-clock" and component.title == "Tide clock"
    (out,) = component.write(look.scheme(), FolderFiles(home))
    text = out.data.decode()
    assert f'background = "{look.colours["terminal"].hex}"' in text and "# tides" in text and "depth = 3" in text
    (home / out.path).write_bytes(out.data)
    paints = component.read(FolderFiles(home))
    ground = paints[next(p.key for p in component.parts if p.text == "colors/foreground")]
    assert ground.fill == look.colours["terminal"]
    assert all(p.passes for p in judge_parts(component.parts, paints, Behind.of(look.scheme())))


def test_it_is_kept_and_read_with_the_others(home, file, tmp_path, monkeypatch):
    folder = tmp_path / "definitions"
    place = keep(definition_of(propose(home, file), "Tide clock", "Widgets"), folder)
    (folder / "broken.toml").write_text("id = [")
    (folder / "copy.toml").write_text(place.read_text().replace("own-tide-clock", "kitty"))
    assert place.name == "own-tide-clock.toml" and len(own_texts(folder)) == 3
    monkeypatch.setattr("mellow_finch.components.define.guarded.own_texts", lambda: own_texts(folder))
    shipped = list(COMPONENTS)
    read_anew()
    assert COMPONENT_BY_ID["own-tide-clock"].kind == "Widgets" and COMPONENT_BY_ID["kitty"].title == "kitty"
    forget("own-tide-clock", folder)
    forget("../copy", folder)
    read_anew()
    assert shipped == COMPONENTS and list(COMPONENT_BY_ID) == [c.id for c in shipped]
    assert sorted(p.name for p in folder.iterdir()) == ["broken.toml", "copy.toml"]


def test_only_what_recolours_a_file_may_come_from_somebody_else(home, file):
    text = definition_of(propose(home, file), "Tide clock", "Widgets")
    assert passed_on(text) == "own-tide-clock"
    assert roles_of(defined(text)) == {row.place: row.role for row in propose(home, file).rows}
    for strange in (
        text.replace("own-tide-clock", "kitty"),
        text.replace('effect = "restart"', 'effect = "restart"\nrestarts = ["tides"]'),
        text + '[[follow]]\nkind = "command"\ntarget = "tides"\n',
        text.replace('how = "recolour"', 'how = "keys"\ntemplate = ""'),
        text.replace(".config/tides", "../tides"),
        text.replace(".config/tides", "/etc/tides"),
        "id = [",
    ):
        assert strange != text and passed_on(strange) == "", strange


@pytest.mark.parametrize(
    ("name", "kind", "roles"),
    [("", "Widgets", {}), ("a\nb", "Widgets", {}), ("Tides", "Widgets", {"colors/urgent": "heron"})],
)
def test_what_cannot_be_is_refused(home, file, name, kind, roles):
    with pytest.raises(ParseError):
        definition_of(propose(home, file), name, kind, roles)


def test_files_that_will_not_do_are_refused_with_a_sentence(home, tmp_path):
    (tmp_path / "x.conf").write_text(TEXT)
    with pytest.raises(ParseError, match="outside the home"):
        propose(home, tmp_path / "x.conf")
    (home / "plain.ini").write_text("[a]\nb = 3\n")
    with pytest.raises(ParseError):
        propose(home, home / "plain.ini")
    with pytest.raises(FileAccessError):
        propose(home, home / "none.ini")
    with pytest.raises(ParseError, match="not a definition"):
        keep("id = 'x'", tmp_path)


def test_the_command_tells_and_keeps(home, file):
    words = ["define", str(file), "--name", "Tide clock", "--kind", "Widgets", "--home", str(home), "--json"]
    said = CliRunner().invoke(app, [*words, "--role", "colors/urgent=error"])
    assert said.exit_code == 0, said.output
    told = json.loads(said.output)
    assert told["file"] == ".config/tides/tides.ini" and told["kept"].endswith("own-tide-clock.toml")
    assert {"place": "colors/urgent", "colour": "#8a2b2b", "role": "error"} in told["places"]
    again = CliRunner().invoke(app, [*words, "--role", "colours/none=error"])
    assert again.exit_code != 0 and "There is no colour at" in again.output
    assert [name for name, _ in own_texts()] == ["own-tide-clock.toml"]


def test_what_is_not_understood_is_listed_with_its_line(tmp_path):
    file = tmp_path / ".config/tide.conf"
    file.parent.mkdir()
    file.write_text(
        "# a colour #123456 in a remark\nink = #aabbcc\nground = rgba(22,22,30,0.8)\nname = #hide\nglow = 0x7aa2f7ff\n"
    )
    found = propose(tmp_path, file)
    assert [row.place for row in found.rows] == ["ink", "ground"]
    assert found.rows[1].colour.hex == "#16161ecc" and found.missed == ((5, "0x7aa2f7ff"),)
