"""A look's file holds no path of whoever made it, and what it names is found again without reading anything unasked."""

from __future__ import annotations

import json
import os
import shutil
from dataclasses import replace
from pathlib import Path

import pytest
from hypothesis import given
from hypothesis import strategies as st

from mellow_finch.components.decisions import Decisions, Owner
from mellow_finch.errors import FinchError
from mellow_finch.look.carry import Places, look_text, read_look, save_look
from mellow_finch.look.file import look_to_json
from mellow_finch.look.model import Member


@pytest.fixture
def marsh(tmp_path, look):
    """Return a look of two pictures and a brought theme, in a folder of a person's."""
    own = tmp_path / "marit" / "Pictures"
    own.mkdir(parents=True)
    rows = [own / "reedbed.png", own / "far" / "osiers.png"]
    theme = tmp_path / "marit" / "Themes" / "Turnstone.tar.gz"
    return replace(
        look,
        source=str(rows[0]),
        pictures=tuple(Member(str(p)) for p in rows),
        brought=(str(theme),),
        decisions={
            Owner.theme(str(theme)): Decisions({"leads": "accent"}, splits=frozenset({"greys"})),
            Owner.component("gtk-3"): Decisions({"leads": "link"}),
        },
        variants=(replace(look, source=str(rows[1]), brought=(str(theme),)),),
    )


def test_a_look_beside_its_pictures_can_be_moved_with_them(marsh, tmp_path):
    own = tmp_path / "marit" / "Pictures"
    save_look(marsh, own / "marsh.finchlook")
    assert str(tmp_path) not in (own / "marsh.finchlook").read_text()
    shutil.copytree(own, tmp_path / "aune")
    found, asks = read_look(tmp_path / "aune" / "marsh.finchlook", Places(tmp_path / "other"))
    assert found.source == str(tmp_path / "aune" / "reedbed.png") and found.pictures[1].path.endswith(
        "aune/far/osiers.png"
    )
    assert not asks


def test_whoever_made_it_finds_everything_again_and_others_find_no_path(marsh, tmp_path):
    path = tmp_path / "looks" / "marsh.finchlook"
    path.parent.mkdir()
    save_look(marsh, path)
    text = path.read_text()
    assert "marit" not in text and "/Pictures" not in text and str(tmp_path) not in text
    assert read_look(path) == (marsh, frozenset())
    found, asks = read_look(path, Places(tmp_path / "other"))
    assert found.source == str(path.parent / "reedbed.png") and not asks
    assert found.decisions == {
        Owner.theme(f"{path.parent}/Turnstone.tar.gz"): Decisions({"leads": "accent"}, splits=frozenset({"greys"})),
        Owner.component("gtk-3"): Decisions({"leads": "link"}),
    }
    again = look_text(found, tmp_path, Places(tmp_path / "other"))
    assert json.loads(again)["source"] == "looks/reedbed.png"


@pytest.mark.parametrize("named", ["/etc/hostname", "../secret.png", "link.png", "far/../../secret.png"])
def test_what_lies_elsewhere_is_asked_for(marsh, tmp_path, named):
    folder = tmp_path / "came"
    folder.mkdir()
    (tmp_path / "secret.png").write_bytes(b"x")
    (folder / "link.png").symlink_to(tmp_path / "secret.png")
    path = folder / "x.finchlook"
    path.write_text(look_to_json(replace(marsh, source=named, pictures=(), brought=(named,), variants=())))
    found, asks = read_look(path)
    assert asks == {found.source} == set(found.brought)


@pytest.mark.parametrize("named", ["elsewhere:0000000000000000/x.png", "elsewhere:../../x", "a\0b", "elsewhere:/x"])
def test_marks_of_nobody_lead_nowhere(marsh, tmp_path, named):
    path = tmp_path / "x.finchlook"
    path.write_text(look_to_json(replace(marsh, source=named)))
    found, _ = read_look(path)
    assert not Path(found.source.replace("\0", "?")).exists()


def test_places_that_cannot_be_kept_lose_only_themselves(marsh, tmp_path):
    places = Places(Path("/dev/null/places"))
    text = look_text(marsh, tmp_path / "looks", places)
    assert json.loads(text)["source"] == f"elsewhere:{'0' * 16}/reedbed.png"
    assert places.path_of("0" * 16) == ""
    with pytest.raises(FinchError):
        read_look(tmp_path / "none.finchlook")


@given(name=st.binary(min_size=1, max_size=40).filter(lambda b: not set(b) & {0, 47} and b not in (b".", b"..")))
def test_any_name_of_a_picture_is_found_again(look, tmp_path, name):
    for folder in (tmp_path, tmp_path / "other"):
        path = tmp_path / "x.finchlook"
        named = replace(look, source=os.fsdecode(os.fsencode(folder) + b"/" + name))
        save_look(named, path)
        assert read_look(path).look == named
