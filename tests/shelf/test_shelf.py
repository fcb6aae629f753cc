"""The shelf: looks come back as they were kept, with their pictures, and nothing is lost on the way."""

from __future__ import annotations

import shutil
from dataclasses import replace
from pathlib import Path

import pytest
from hypothesis import given
from hypothesis import strategies as st

from mellow_finch.errors import FileAccessError, ParseError
from mellow_finch.look.edits import with_tone
from mellow_finch.look.file import look_to_json
from mellow_finch.look.gather import look_of_pictures
from mellow_finch.shelf.kept import ORDERS, cleaned_tags, narrowed, sorted_by
from mellow_finch.shelf.shelf import Shelf, pictures_of, size_of_pictures


@pytest.fixture
def shelf(tmp_path):
    return Shelf(tmp_path / "shelf")


def alike(first, second) -> bool:
    bare = [look_to_json(replace(look, source="", pictures=())) for look in (first, second)]
    return bare[0] == bare[1]


def test_a_look_comes_back_as_it_was_and_its_picture_with_it(shelf, pictures, tmp_path):
    picture = Path(shutil.copy(pictures[0], tmp_path / "dawn.jpg"))
    look = look_of_pictures([picture], "dark")
    kept = shelf.keep(look, ["autumn", "hide"])
    data = picture.read_bytes()
    picture.unlink()
    back = shelf.load(kept.id)
    assert alike(back.look, look) and not back.asks
    assert Path(back.look.source).read_bytes() == data and Path(back.look.source).is_relative_to(shelf.folder)
    assert str(tmp_path) not in (shelf.place(kept.id) / "look.finchlook").read_text()
    (row,) = shelf.looks()
    assert row == kept and row.tags == ("autumn", "hide") and row.source == "picture"
    assert row.accent == look.colours["accent"] and row.name == look.name


def test_several_pictures_go_along_and_those_of_one_name_stay_apart(shelf, pictures, tmp_path):
    paths = []
    for i, picture in enumerate(pictures[:3]):
        (tmp_path / str(i)).mkdir()
        paths.append(Path(shutil.copy(picture, tmp_path / str(i) / "dawn mist.jpg")))
    look = look_of_pictures(paths, "light")
    assert len(pictures_of(look)) == 3 and size_of_pictures(look) == sum(p.stat().st_size for p in paths)
    back = shelf.load(shelf.keep(look).id).look
    assert [Path(m.path).read_bytes() for m in back.pictures] == [p.read_bytes() for p in paths]
    without = shelf.load(shelf.keep(look, with_pictures=False).id).look
    assert [m.path for m in without.pictures] == [str(p) for p in paths]


def test_looks_of_one_name_stand_side_by_side_and_one_can_take_the_place_of_another(shelf, look):
    first, second = shelf.keep(look), shelf.keep(look)
    assert first.id != second.id and {k.name for k in shelf.looks()} == {look.name}
    with pytest.raises(ParseError, match="Several looks are called"):
        shelf.find(look.name)
    assert shelf.find(second.id) == second
    other = shelf.keep(with_tone(look, "light"), instead_of=first.id)
    assert other.id == first.id and shelf.load(first.id).look.tone == "light" and len(shelf.looks()) == 2


def test_rename_tag_copy_drop_and_back(shelf, look):
    kept = shelf.keep(look)
    assert shelf.rename(kept.id, "  Marsh   at dawn ").name == "Marsh at dawn"
    assert shelf.load(kept.id).look.name == "Marsh at dawn" and shelf.find("marsh AT dawn").id == kept.id
    with pytest.raises(ParseError):
        shelf.rename(kept.id, "  ")
    assert shelf.tag(kept.id, ["reeds", "", "reeds", "a" * 99]).tags == cleaned_tags(["reeds", "a" * 99])
    copy = shelf.copy(kept.id)
    assert copy.name == "Marsh at dawn, copy" and copy.tags == shelf.find(kept.id).tags
    dropped = shelf.drop(kept.id)
    assert [k.id for k in shelf.looks()] == [copy.id]
    assert shelf.take_back(dropped) == kept.id and len(shelf.looks()) == 2
    gone = shelf.drop(kept.id)
    shelf.empty()
    with pytest.raises(ParseError, match="no longer exists"):
        shelf.take_back(gone)


def test_what_is_said_of_a_look_is_made_anew_where_it_is_broken(shelf, look):
    kept = shelf.keep(look)
    about = shelf.folder / kept.id / "about.json"
    for text in ("", "{", '{"name": 3}', about.read_text().replace('"dark"', '"dusk"')):
        about.write_text(text)
        (row,) = shelf.looks()
        assert (row.name, row.accent, row.digest) == (kept.name, kept.accent, kept.digest)
    (shelf.folder / "Broken").mkdir()
    (shelf.folder / "Broken" / "look.finchlook").write_text("reeds")
    assert [k.id for k in shelf.looks()] == [kept.id]


@pytest.mark.parametrize("id_", ["", "..", "a/b", ".dropped", "none"])
def test_only_what_stands_on_the_shelf_is_reached(shelf, look, id_):
    shelf.keep(look)
    for act in (shelf.load, shelf.drop, shelf.find):
        with pytest.raises(ParseError):
            act(id_)


def test_a_look_that_cannot_be_kept_leaves_nothing(shelf, look, monkeypatch):
    def full(*_args):
        raise FileAccessError("No room.", Path("x"))

    monkeypatch.setattr("mellow_finch.shelf.shelf.save_look", full)
    with pytest.raises(FileAccessError):
        shelf.keep(look)
    assert list(shelf.folder.iterdir()) == []


def test_sorting_and_narrowing(shelf, looks):
    rows = [shelf.keep(look, ["hide"] if i % 2 else [], when=f"2026-11-0{i + 1}") for i, look in enumerate(looks[:4])]
    for order in ORDERS:
        assert sorted(k.id for k in sorted_by(rows, order)) == sorted(k.id for k in rows)
    assert [k.id for k in sorted_by(rows, "newest")] == [k.id for k in reversed(rows)]
    lights = [k.lightness for k in sorted_by(rows, "lightness")]
    assert lights == sorted(lights)
    assert narrowed(rows, "hide") == [k for k in rows if k.tags] and narrowed(rows, tone="light") == []
    assert narrowed(rows, rows[0].name.split()[0].upper())[0] == rows[0]
    strict = replace(looks[0], temper=replace(looks[0].temper, text_need=7.0))
    assert not narrowed([shelf.keep(strict)], strict=True) or narrowed([shelf.keep(strict)], strict=True)[0].strict


@given(st.lists(st.text(max_size=60), max_size=40))
def test_tags_are_short_and_plain(tags):
    found = cleaned_tags(tags)
    assert list(found) == sorted(set(found)) and len(found) <= 24
    assert all(0 < len(t) <= 40 and t == t.strip() for t in found)
    assert cleaned_tags(found) == found
