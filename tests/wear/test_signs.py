"""Signs and fonts that no font of the machine has are said before a look is worn."""

from __future__ import annotations

import json

import pytest
from click.testing import CliRunner

from mellow_finch.cli import app
from mellow_finch.look.carry import save_look
from mellow_finch.look.decision_edits import with_companion
from mellow_finch.look.dressed import dress
from mellow_finch.session.commands import Answer
from mellow_finch.session.none import NoDesktop
from mellow_finch.wear.history import History
from mellow_finch.wear.names import plan_to_follow
from mellow_finch.wear.places import history_folder
from mellow_finch.wear.plan import own_files
from mellow_finch.wear.signs import unseen

HAS = "\ue0b0"


@pytest.fixture
def plan(home, look):
    (home / ".config/starship.toml").write_text(f'format = "{HAS}\uf015$all"\n')
    (home / ".config/waybar").mkdir(exist_ok=True)
    (home / ".config/waybar/config").write_text('{"clock": {"format": "\U000f0954 {}"}}')
    history = History(history_folder(home))
    files = own_files(home, history)
    return plan_to_follow(lambda folder: dress(look, files, folder=folder), look.folder, home, NoDesktop(), history)


def answering(asked, code=0, said=""):
    def question(words):
        asked.append(words[1])
        here = words[1] in (f":charset={ord(HAS):x}", ":family=Marsh Hand")
        return Answer(code, "Marsh Hand\n" if here and not code else "", said)

    return question


def test_signs_that_no_font_has_are_named_by_what_shows_them(plan, look, home):
    asked = []
    rows = unseen(plan, look, home, answering(asked))
    told = {row.title.rpartition(": ")[2]: row.what for row in rows}
    assert told["Prompt palette"] == "U+F015" and told["Waybar"] == "U+F0954"
    assert asked.count(":charset=f015") == 1


def test_fonts_that_are_not_here_are_named(plan, look, home):
    wanted = with_companion(with_companion(look, "font", "Marsh Hand 11"), "font", "No Such 9", "rofi")
    row, *_ = unseen(plan, wanted, home, answering([]))
    assert row.what == "No Such" and "Shape" in row.cure


def test_nothing_is_said_where_it_cannot_be_asked(plan, look, home):
    assert unseen(plan, look, home, answering([], None, "not installed")) == ()
    assert unseen(plan, look, home, answering([], 1, "broken")) == ()


def test_the_command_says_it(home, look, tmp_path):
    (home / ".config/starship.toml").write_text('format = "\U0010fff0"\n')
    save_look(with_companion(look, "font", "No Such Font 11"), tmp_path / "a.finchlook")
    words = ["wear", str(tmp_path / "a.finchlook"), "--home", str(home), "--dry-run", "--files-only"]
    said = CliRunner().invoke(app, [*words, "--json"])
    assert said.exit_code == 0, said.output
    assert [row["what"] for row in json.loads(said.output)["missing"]] == ["No Such Font", "U+10FFF0"]
    assert "U+10FFF0" in CliRunner().invoke(app, words).output
