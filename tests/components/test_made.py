"""Definitions of a person's own and of strangers: checked whole, set aside where they are wrong, never in the way."""

from __future__ import annotations

import json
import random
import string
import tomllib
from functools import cache

import pytest
from click.testing import CliRunner
from hypothesis import given, settings
from hypothesis import strategies as st
from tools.rigs.homes import full_home

from mellow_finch.cli import app
from mellow_finch.components.catalogue import COMPONENT_BY_ID, COMPONENTS, read_anew, shipped_components
from mellow_finch.components.define import guarded as made
from mellow_finch.components.define.definition import defined, shipped
from mellow_finch.components.define.forbidden import forbidden
from mellow_finch.components.define.own import keep, offered
from mellow_finch.components.files import NoFiles
from mellow_finch.errors import FinchError, ParseError
from mellow_finch.look.dressed import dress, every_component
from mellow_finch.look.ready import READY
from mellow_finch.wear.history import History
from mellow_finch.wear.places import history_folder
from mellow_finch.wear.plan import make_plan, own_files
from tests.every import every
from tests.shelf.test_parcel import GOOD

PLACE = ".config/tides/tides.ini"
TEXT = GOOD.replace("PATH", PLACE)
DEFINITIONS = list(shipped().values())


@every("entry", DEFINITIONS, lambda e: e.name)
def test_every_shipped_definition_is_one_by_the_schema(entry):
    text = entry.read_text(encoding="utf-8")
    assert defined(text, checked=True).id == defined(text).id


SPOILT = (
    ('signs = [".config/tides/tides.ini"]', 'signs = ["/etc/*"]'),
    ('signs = [".config/tides/tides.ini"]', "signs = [1]"),
    ('signs = [".config/tides/tides.ini"]', 'signs = ["**x"]'),
    ('signs = [".config/tides/tides.ini"]', 'signs = ["../x"]'),
    ("/window", "/heron"),
    ('"/window"]', '"/window", {need = "x"}]'),
    ('"/window"]', '"/window", {need = 99}]'),
    ('"/window"]', '"/window", {heron = 1}]'),
    ('id = "own-tides"', 'id = "own-tides"\nbase = "nope"'),
    ('id = "own-tides"', 'id = "own-tides"\nbase = "../../x"'),
    ('id = "own-tides"', 'id = "own-tides"\nbase = {a = []}'),
    ('id = "own-tides"', 'id = "own-tides"\nbase = ""'),
    ('id = "own-tides"', "id = 7"),
    ('id = "own-tides"', "id = ''"),
    ('id = "own-tides"', "id = 'own/x'"),
    (TEXT[TEXT.index("[[files]]") :], ""),
    ("[[files]]", "[files]"),
    ('how = "recolour"', 'how = "recolour"\nlike = 99'),
    ('how = "recolour"', 'how = "heron"'),
    ('how = "recolour"\nformat = "bar-ini"', 'how = "recolour"'),
    ("bar-ini", "heron"),
    ('kind = "Widgets"', 'kind = "Herons"'),
    ('scene = "own"', 'scene = "own"\nset = "../x"'),
    ('effect = "restart"', 'effect = "at dusk"'),
    ('title = "Tides"', f"title = {'[' * 3000}"),
    ('title = "Tides"', f"title = {'[' * 3000}{']' * 3000}"),
    ('title = "Tides"', f'title = "{"x" * 500}"'),
    ('format = "bar-ini"\n[[files]]', 'format = "bar-ini"\npatterns = [["a", "("]]\n[[files]]'),
    ('"place 1" = ["", "colors/background"]', '"place 9" = ["", "colors/background"]'),
    ('"place 1" = ["", "colors/background"]', '"place 1" = [1]'),
    (TEXT, ""),
    (TEXT, "\0"),
)


@pytest.mark.long
@pytest.mark.some(4)
@pytest.mark.parametrize("number", range(len(SPOILT)))
def test_a_spoilt_definition_is_one_sentence_and_everything_goes_on(number, tmp_path, monkeypatch):
    old, new = SPOILT[number]
    text = TEXT.replace(old, new)
    assert text != TEXT
    with pytest.raises(ParseError, match=r"^This is not a definition: .*\.$") as caught:
        keep(text, tmp_path)
    assert "\n" not in str(caught.value) and not list(tmp_path.glob("*"))
    (tmp_path / "spoilt.toml").write_text(text)
    with_own(monkeypatch, tmp_path)
    try:
        assert [s.file for s in made.set_aside()] == ["spoilt.toml"] and len(COMPONENTS) == len(shipped_components())
        told = CliRunner().invoke(app, ["define", "--list"])
        assert told.exit_code == 0 and "spoilt.toml" in told.output, told.output
    finally:
        without_own(monkeypatch)


def test_a_reader_of_recoloured_files_needs_one():
    text = TEXT.replace('kind = "Widgets"', 'kind = "Widgets"\nreader = "widget"')
    text = text.replace('how = "recolour"\nformat = "bar-ini"', 'template = "x"')
    with pytest.raises(ParseError, match="“widget” is not a value of “reader”"):
        defined(text, checked=True)


def with_own(monkeypatch, folder):
    monkeypatch.setattr("mellow_finch.components.define.own.own_folder", lambda: folder)
    read_anew()


def without_own(monkeypatch):
    monkeypatch.undo()
    read_anew()


def leaves_spoilt(row, chance):
    """Return a definition's tables with one value after another spoilt."""
    odd = (
        None,
        -1,
        10**9,
        0.5,
        True,
        "",
        "x" * 900,
        "../x",
        "/etc/*",
        "**",
        "\u0000",
        [],
        ["a", 1],
        {},
        {"a": []},
        "heron",
    )
    if isinstance(row, dict):
        out = {k: leaves_spoilt(v, chance) for k, v in row.items() if chance.random() > 0.04}
        if chance.random() < 0.05:
            out["".join(chance.choices(string.ascii_lowercase, k=4))] = chance.choice(odd[1:])
        return out
    if isinstance(row, list):
        return [leaves_spoilt(v, chance) for v in row if chance.random() > 0.04]
    return chance.choice(odd[1:]) if chance.random() < 0.06 else row


def toml_value(value):
    """Return a value as TOML, written here so that no writer stands between."""
    if isinstance(value, bool):
        return str(value).lower()
    if isinstance(value, str):
        return json.dumps(value)
    if isinstance(value, list):
        return f"[{', '.join(map(toml_value, value))}]"
    if isinstance(value, dict):
        return "{" + ", ".join(f"{json.dumps(k)} = {toml_value(v)}" for k, v in value.items()) + "}"
    return repr(value)


def spoilt_text(seed):
    """Return a definition of ours or a plain one, spoilt somewhere, by its seed."""
    chance = random.Random(seed)
    source = TEXT if chance.random() < 0.4 else chance.choice(DEFINITIONS).read_text(encoding="utf-8")
    if chance.random() < 0.2:
        at = chance.randrange(len(source))
        return (
            source[:at]
            + "".join(chance.choices(string.printable, k=chance.randrange(5)))
            + source[at + chance.randrange(9) :]
        )
    row = leaves_spoilt(tomllib.loads(source), chance)
    return "".join(f"{json.dumps(k)} = {toml_value(v)}\n" for k, v in row.items())


def hold_up(text, look):
    """Read a definition as everyone does: it is a sentence, or a component that writes and reads and never raises."""
    try:
        offered(text)
    except FinchError as error:
        assert "\n" not in str(error)
    try:
        own = made.guarded(defined(text, checked=True), "x.toml")
    except ParseError as error:
        assert "\n" not in str(error)
        return "refused"
    own.write(look.scheme(), NoFiles())
    own.read(NoFiles())
    return "taken"


@pytest.mark.long
@settings(max_examples=300)
@given(st.integers(0, 2**32))
def test_however_a_definition_is_spoilt_it_is_a_sentence_or_it_works(seed):
    assert hold_up(spoilt_text(seed), plain_look()) in ("refused", "taken")


@cache
def plain_look():
    """Return one look for all."""
    return READY[0].look()


def test_a_component_that_fails_at_its_work_is_set_aside_and_the_others_go_on(looks, tmp_path, monkeypatch):
    home = full_home(tmp_path)
    (home / PLACE).parent.mkdir()
    (home / PLACE).write_text('[colors]\nbackground = "#ff2fa0"\n')
    keep(TEXT, tmp_path / "definitions")
    with_own(monkeypatch, tmp_path / "definitions")
    try:
        own = COMPONENT_BY_ID["own-tides"]
        broken = made.guarded(own.__class__(**{**fields_of(own), "write": lambda *_: 1 / 0}), "own-tides.toml")
        monkeypatch.setitem(COMPONENT_BY_ID, "own-tides", broken)
        files_ = own_files(home, History(history_folder(home)))
        dressed = dress(looks[0], files_, every_component(looks[0]))
        assert len(dressed.outputs) > 150 and dressed.files["own-tides"] == ()
        (aside,) = made.set_aside()
        assert aside == ("own-tides.toml", "own-tides", "This definition does not work: ZeroDivisionError.")
        said = CliRunner().invoke(app, ["doctor", "--home", str(home)])
        assert "own-tides.toml: This definition does not work" in said.output
    finally:
        without_own(monkeypatch)


def fields_of(component):
    return {n: getattr(component, n) for n in component.__dataclass_fields__ if n != "by_key"}


def test_two_definitions_of_one_id_and_one_of_a_shipped_id_are_decided_and_said(tmp_path, monkeypatch):
    (tmp_path / "a.toml").write_text(TEXT)
    (tmp_path / "b.toml").write_text(TEXT.replace('"Tides"', '"Other tides"'))
    (tmp_path / "c.toml").write_text(TEXT.replace("own-tides", "kitty"))
    with_own(monkeypatch, tmp_path)
    try:
        assert COMPONENT_BY_ID["own-tides"].title == "Tides" and COMPONENT_BY_ID["kitty"].title == "kitty"
        assert [(s.file, s.id) for s in made.set_aside()] == [("b.toml", "own-tides"), ("c.toml", "kitty")]
        told = CliRunner().invoke(app, ["define", "--list", "--json"])
        rows = {row["file"]: row for row in json.loads(told.output)["definitions"]}
        assert rows["a.toml"]["used"] and not rows["b.toml"]["used"] and "another component" in rows["b.toml"]["why"]
        gone = CliRunner().invoke(app, ["define", "--remove", "b.toml"])
        assert gone.exit_code == 0 and not (tmp_path / "b.toml").exists()
        gone = CliRunner().invoke(app, ["define", "--remove", "own-tides"])
        assert gone.exit_code == 0 and not (tmp_path / "a.toml").exists()
        gone = CliRunner().invoke(app, ["define", "--remove", "../x"])
        assert gone.exit_code == 2 and "There is no definition" in gone.output
    finally:
        without_own(monkeypatch)


@pytest.mark.long
def test_a_component_of_ones_own_joins_in_what_others_made_of_its_file(looks, tmp_path, monkeypatch):
    """A shell's start file has regions of three components; defined as one's own, they are all there still."""
    home = full_home(tmp_path)
    history = History(history_folder(home))
    bash = home / ".bashrc"
    bash.write_text("MINE='#ff2fa0' # shrill\n")

    def worn_text():
        plan = make_plan(dress(looks[0], own_files(home, history), every_component(looks[0])), home)
        return {w.path: w.data for w in plan.writes}[".bashrc"].decode()

    before = worn_text()
    assert before.count(">>> mellow-finch") >= 3 and "#ff2fa0" in before
    made_ = CliRunner().invoke(app, ["define", str(bash), "--name", "My shell", "--home", str(home)])
    assert made_.exit_code == 0, made_.output
    read_anew()
    try:
        after = worn_text()
        assert after.count(">>> mellow-finch") == before.count(">>> mellow-finch") and "MINE='#" in after
        assert "#ff2fa0" not in after
        regions = [row.partition("<<< mellow-finch")[0] for row in before.split(">>> mellow-finch")[1:]]
        assert all(row in after for row in regions)
    finally:
        CliRunner().invoke(app, ["define", "--remove", "own-my-shell"])
        read_anew()


@pytest.mark.parametrize(
    "pattern",
    [
        "*", "**/*", ".bashrc", ".zshenv", ".profile", ".xinitrc", ".xprofile", "notes.txt", ".config/*", ".config/*/x.conf",
        ".config/mellow-finch/window.ini", ".local/share/mellow-finch/shelf/x.ini", ".local/state/mellow-finch/history/x",
        ".ssh/config", ".gnupg/gpg.conf", ".config/autostart/x.desktop", ".config/systemd/user/x.service",
        ".config/fish/config.fish", ".config/fish/conf.d/x.conf", ".local/bin/x.conf", ".config/bspwm/bspwmrc",
        ".config/river/init", ".config/openbox/autostart", ".config/plasma-workspace/env/x.conf", ".config/qtile/config.py",
        ".config/awesome/rc.lua", ".git/config", ".config/x/run.sh", ".config/environment.d/x.conf", ".config/x/*",
        ".local/share/applications/x.desktop", ".config/tides/*.sh", ".BASHRC",
    ],
)  # fmt: skip
def test_where_a_stranger_may_never_write(pattern):
    assert forbidden(pattern)
    with pytest.raises(ParseError, match=r"may not write|not a path within"):
        offered(TEXT.replace(PLACE, pattern))


@pytest.mark.parametrize(
    "pattern", [PLACE, ".config/tides.ini", ".config/tides/*.conf", ".tides/colours.toml", ".tidesrc"]
)
def test_where_a_stranger_may_write(pattern):
    assert offered(TEXT.replace(PLACE, pattern)).paths == (pattern,)


@pytest.mark.long
@pytest.mark.parametrize("how", ["a mode", "a first line"])
def test_a_file_that_is_run_is_not_written_for_a_stranger(looks, tmp_path, monkeypatch, how):
    home = full_home(tmp_path)
    place = home / PLACE
    place.parent.mkdir()
    place.write_text(("#!/bin/sh\n" if how == "a first line" else "") + '[colors]\nbackground = "#ff2fa0"\n')
    place.chmod(0o755 if how == "a mode" else 0o644)
    for received in (True, False):
        keep(TEXT, tmp_path / "definitions", received=received)
        with_own(monkeypatch, tmp_path / "definitions")
        try:
            files_ = own_files(home, History(history_folder(home)))
            plan = make_plan(dress(looks[0], files_, frozenset({"own-tides"})), home)
            assert [w.path for w in plan.writes] == ([] if received else [PLACE])
        finally:
            without_own(monkeypatch)
