"""The look: its file, its edits, what stays and what follows."""

from __future__ import annotations

import json
from dataclasses import replace

import pytest
from hypothesis import given
from hypothesis import strategies as st

from mellow_finch.colour.rgb import Rgba
from mellow_finch.components.decisions import Decisions, Owner
from mellow_finch.errors import FileAccessError, ImpossibleLocksError, ParseError
from mellow_finch.look.carry import load_look
from mellow_finch.look.edits import read_anew, with_lock, with_mended_roles, with_role, with_tone
from mellow_finch.look.file import look_from_json, look_to_json
from mellow_finch.look.gather import gathering_of, look_of_pictures, name_of
from mellow_finch.picture.load import load_picture


def test_file_round_trip_keeps_everything(look):
    rich = replace(
        look,
        pins=(Rgba(1, 2, 3),),
        locks=frozenset({"menu"}),
        left_out=frozenset({"kde"}),
        decisions={Owner.component("shell"): Decisions(mends=frozenset({"menu"}))},
    )
    assert look_from_json(look_to_json(rich)) == rich


def test_unknown_keys_are_kept(look):
    data = json.loads(look_to_json(look)) | {"later": {"x": [1, 2]}}
    again = json.loads(look_to_json(look_from_json(json.dumps(data))))
    assert again["later"] == {"x": [1, 2]}


def test_missing_roles_are_worked_out(look):
    data = json.loads(look_to_json(look))
    for tone in ("dark", "light"):
        for role in ("menu_text", "ansi_3"):
            del data["tones"][tone]["roles"][role]
    found = look_from_json(json.dumps(data))
    assert not found.failing() and found.colours["window"] == look.colours["window"]


@pytest.mark.parametrize(
    "change, words",
    [
        (lambda d: "not json", "is not valid JSON"), (lambda d: "[]", "is not a look of Mellow Finch"),
        (lambda d: json.dumps(d | {"kind": "x"}), "is not a look"), (lambda d: json.dumps(d | {"version": 99}), r"newer Mellow Finch \(version 99\)"),
        (lambda d: json.dumps(d | {"version": "1"}), "no usable version"), (lambda d: json.dumps(d | {"tone": "dim"}), "neither dark nor light"),
        (lambda d: json.dumps({k: v for k, v in d.items() if k != "recipe"}), "recipe is missing"),
        (lambda d: json.dumps(d | {"pins": ["blue"]}), "is not a colour"), (lambda d: "[" * 100000, "nested too deeply|not valid JSON"),
        (lambda d: json.dumps(d | {"tones": 3}), "is damaged"),
    ],
)  # fmt: skip
def test_bad_files_are_refused_in_words(look, change, words):
    with pytest.raises(ParseError, match=words):
        look_from_json(change(json.loads(look_to_json(look))))


def test_files_that_cannot_be_read(tmp_path):
    with pytest.raises(FileAccessError, match="no such file"):
        load_look(tmp_path / "none.finchlook")
    (tmp_path / "big.finchlook").write_bytes(b" " * 5_000_000)
    with pytest.raises(FileAccessError, match="too large"):
        load_look(tmp_path / "big.finchlook")
    (tmp_path / "odd.finchlook").write_bytes(b"\xff\xfe")
    with pytest.raises(FileAccessError, match="not UTF-8"):
        load_look(tmp_path / "odd.finchlook")


@given(st.text(max_size=60))
def test_any_text_gives_our_own_error(text):
    with pytest.raises(ParseError):
        look_from_json(text)


def test_an_edit_keeps_everything_readable_and_the_other_half_alone(look):
    fresh = with_role(replace(look, linked=False), "window", Rgba(120, 60, 60))
    assert fresh.colours["window"] == Rgba(120, 60, 60) and not fresh.failing()
    assert fresh.palettes["light"] == look.palettes["light"]
    linked = with_role(look, "window", Rgba(120, 60, 60))
    assert linked.colours == fresh.colours and not linked.failing("light")
    assert linked.palettes["light"]["window"] != look.palettes["light"]["window"]
    with pytest.raises(KeyError):
        with_role(look, "nothing", Rgba(0, 0, 0))


def test_going_freely_leaves_pairs_to_mend(look):
    free = with_role(replace(look, mend_as_you_go=False), "menu_text", look.colours["menu"])
    assert {j.pair.text for j in free.failing()} == {"menu_text"}
    mended = with_mended_roles(free)
    assert not mended.failing() and mended.colours["window"] == look.colours["window"]
    two = with_role(free, "link", look.colours["window"])
    one = with_mended_roles(two, tuple(j for j in two.failing() if j.pair.text == "link"))
    assert {j.pair.text for j in one.failing()} == {"menu_text"}


def test_locks_hold_and_are_named(look):
    locked = with_lock(with_lock(look, "menu", True), "menu_text", True)
    assert with_role(locked, "window", Rgba(90, 90, 90)).colours["menu"] == look.colours["menu"]
    free = replace(locked, mend_as_you_go=False)
    with pytest.raises(ImpossibleLocksError, match="Menu"):
        with_mended_roles(with_role(free, "menu_text", look.colours["menu"]))
    assert with_lock(locked, "menu", False).locks == {"menu_text"}


def test_another_reading_keeps_locks(look, pictures):
    locked = with_lock(with_role(look, "accent", Rgba(90, 160, 200)), "accent", True)
    readings = gathering_of([load_picture(pictures[0])]).readings()
    fresh = read_anew(locked, readings[1])
    assert fresh.colours["accent"] == Rgba(90, 160, 200) and fresh.recipe == readings[1].recipe and not fresh.failing()


def test_tone_and_names(look, pictures):
    assert with_tone(look, "light").colours == look.palettes["light"]
    assert replace(look, name="../Ä b//c").folder.startswith("A-b-c-") and replace(look, name="///").folder.startswith(
        "Look-"
    )
    assert name_of(pictures[0]) == "Reedbed at dawn"


def test_several_pictures_and_an_accent(pictures):
    both = look_of_pictures(pictures[:2], "light", Rgba(20, 140, 120))
    assert both.tone == "light" and both.recipe.accent == Rgba(20, 140, 120) and not both.failing()
    assert look_of_pictures(pictures[:1], "dark") == look_of_pictures(pictures[:1], "dark")
