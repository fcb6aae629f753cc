"""Looks of earlier versions of the file open, and nothing of what was decided in them is lost."""

from __future__ import annotations

import dataclasses
import json
from pathlib import Path

import pytest

from mellow_finch.components.decisions import Decisions, Emblem, Owner, Slot
from mellow_finch.errors import ParseError
from mellow_finch.look.file import ATTRIBUTES, look_from_json, look_to_json
from mellow_finch.look.model import Look, Origin

DATA = Path(__file__).parents[1] / "data"
ARCHIVE, MARSH = "/downloads/Turnstone.tar.gz", "/downloads/marsh"
DECIDED = {
    Owner.component("shell"): Decisions(
        {"surface:#1c1c1f": "menu", "text:#ffffff/menu:#ffffff": "view"},
        splits=frozenset({"text:#ffffff"}),
        mends=frozenset({"menu", "menu:hover"}),
    ),
    Owner.component("plank"): Decisions(roles={"panel": "accent", "edge": "keep"}),
    Owner.component("waybar"): Decisions({"text:#eeeeee": "#3c8f6a"}, mends=frozenset({"text"})),
    Owner.theme(ARCHIVE): Decisions(
        {"icons/lead": "link", "light/text:#111111": "keep"},
        parts={"header": "header"},
        left=frozenset({"Turnstone-compact/"}),
    ),
    Owner.theme(MARSH): Decisions(roles={"menu": "accent"}),
    Owner.theme(f"{MARSH}/deep"): Decisions({"x": "menu"}, splits=frozenset({"p"})),
    Owner.component("panel-strip"): Decisions(knobs={"height": 30.0}),
    Owner.component("widget"): Decisions(
        emblems={"logo.png": Emblem(role="accent"), "sky.png": Emblem("/pictures/sky.png")}, beside=True
    ),
    Owner.component("rofi"): Decisions(companions={"radius": "2"}),
    Owner.component("dunst"): Decisions(companions={"font": "Marsh Hand 9"}),
}


def read(name: str) -> Look:
    return look_from_json((DATA / f"look-0.9-{name}.finchlook").read_text())


def test_what_was_decided_in_0_9_stands_under_its_owners():
    look = read("decisions")
    assert look.decisions == DECIDED and look.companions == {"radius": "8", "icons": "Reed Buntings"}
    assert look.origin == Origin("scheme", "Redshank") and look.unknown == {"later": {"x": [1, 2]}}
    (variant,) = look.variants
    assert variant.decisions == DECIDED and variant.tone == "light" and variant.origin == look.origin
    again = look_to_json(look)
    assert look_from_json(again) == look and json.loads(again)["version"] == 2 and "regrouped" not in again


@pytest.mark.parametrize(
    ("name", "origin", "words"),
    [
        ("theme", Origin("theme", "Saltpan"), "Theme Saltpan"),
        ("palette", Origin("palette", ""), "Palette"),
        ("palette-named", Origin("palette", "Sedge warbler"), "Palette Sedge warbler"),
        ("none", None, ""),
    ],
)
def test_an_origin_of_0_9_is_its_kind_and_name(name, origin, words):
    look = read(name)
    assert look.origin == origin and (look.origin.title if look.origin else "") == words
    assert look_from_json(look_to_json(look)) == look


@pytest.mark.parametrize("key", ["regrouped", "split", "mends", "beside", "emblems", "knobs", "companions", "origin"])
@pytest.mark.parametrize("value", [3, "x", [3], {"a/b": 3}, {"a/b": {"c": []}}])
def test_a_damaged_look_of_0_9_is_told_of_in_a_sentence(key, value):
    data = json.loads((DATA / "look-0.9-none.finchlook").read_text())
    try:
        look_from_json(json.dumps(data | {key: value}))
    except ParseError as error:
        assert "damaged" in str(error)


def test_every_attribute_of_a_look_has_its_row():
    rows = [row.attribute or row.key for row in ATTRIBUTES]
    assert sorted([*rows, "unknown"]) == sorted(f.name for f in dataclasses.fields(Look))
    assert all(row.key not in ("kind", "version") for row in ATTRIBUTES)


@pytest.mark.parametrize("text", ["role:menu", "part:header", "text:#ffffff", "icons/lead", "light/role:menu", "role:"])
def test_a_slot_is_named_by_one_text(text):
    assert Slot.spelled(text).spelling == text
