"""Themes that a look wears: under its own folder, on every desktop by its own store, in its colours or in their own."""

from __future__ import annotations

import re
import tarfile
from collections.abc import Mapping
from dataclasses import replace
from pathlib import Path

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from mellow_finch.colour.difference import colour_difference
from mellow_finch.colour.rgb import Rgba, parse_hex
from mellow_finch.components.decisions import Owner, Slot
from mellow_finch.demo.build import demo_archive
from mellow_finch.errors import FileAccessError
from mellow_finch.look.carry import load_look, save_look
from mellow_finch.look.decision_edits import with_choice, with_companion
from mellow_finch.look.dressed import Dressed, dress
from mellow_finch.look.from_colours import on_the_same_desk
from mellow_finch.look.from_theme import look_of_brought, look_of_theme, roles_of_theme
from mellow_finch.look.model import Look
from mellow_finch.look.theme_edits import with_brought, with_left, with_own_colours, with_swap, with_worn
from mellow_finch.look.worn_themes import worn_by, worn_theme, worn_themes
from mellow_finch.proof.proof import prove
from mellow_finch.session.base import DesktopSetting
from mellow_finch.session.simulated import MADE_UP, SimulatedSession
from mellow_finch.shelf.contents import home_files, settings_for_anyone
from mellow_finch.shelf.shelf import Shelf
from mellow_finch.theme.bundle.gresource import write_resources
from mellow_finch.theme.bundle.opened import open_bundle
from mellow_finch.theme.bundle.read import open_theme
from mellow_finch.theme.result.own_colours import leading_colours
from mellow_finch.theme.result.swap import swapped
from mellow_finch.theme.result.uses import uses_of
from mellow_finch.wear.history import History
from mellow_finch.wear.places import history_folder
from mellow_finch.wear.plan import make_plan, own_files
from mellow_finch.wear.wear import put_on, undo_last

from ..wear.conftest import state

ALL = frozenset({"gtk-3", "openbox", "icons", "pointers"})
SHRILL, CALM = parse_hex("#2f6fe0"), parse_hex("#2e7d5b")
HERE = frozenset({"gtk-3", "gtk-4", "xfwm", "openbox", "terminal", "kitty"})


@pytest.fixture
def archive(home: Path) -> str:
    return str(demo_archive(home))


def worn(look: Look, path: str, uses: frozenset[str] = ALL) -> Look:
    return with_worn(with_brought(look, path), path, uses)


def texts_of(dressed: Dressed) -> Mapping[str, bytes]:
    return {o.path: o.data for o in dressed.outputs}


def test_a_theme_takes_the_place_of_our_own_files_under_the_looks_name(look, files, archive):
    plain = dress(look, files, HERE)
    fresh = worn(look, archive)
    themes = worn_themes(fresh)
    assert [use.id for use in uses_of(themes[archive].theme.found)] == ["gtk-3", "openbox", "icons", "pointers"]
    dressed = dress(fresh, files, HERE, themes=themes)
    ours, now = texts_of(plain), texts_of(dressed)
    root = f".local/share/themes/{look.folder}"
    sheet = now[f"{root}/gtk-3.0/gtk.css"].decode()
    assert "Turnstone" in sheet and f"{root}/gtk-3.0/assets/check.png" in now
    assert f"{root}/gtk-3.0/gtk-dark.css" in ours and f"{root}/gtk-3.0/gtk-dark.css" not in now
    assert now[f"{root}/openbox-3/themerc"] != ours[f"{root}/openbox-3/themerc"]
    # What the theme has nothing for stays ours, and no file of it lies anywhere else.
    untouched = [p for p in ours if not re.search("/gtk-3.0/|/openbox-3/|/themes/.*/index.theme$", p)]
    assert {p: now[p] for p in untouched} == {p: ours[p] for p in untouched}
    assert {p for p in now if "Turnstone" in p} == set()
    index = now[f".local/share/icons/{look.folder}/index.theme"].decode()
    assert f"Name={look.folder}" in index and re.search(r"^Inherits=", index, re.M)
    assert f".icons/{look.folder}/cursors/left_ptr" in now
    # The stage and the proof read the theme, not what ours would have said.
    assert dressed.paints["gtk-3"] == themes[archive].paints["gtk-3"] != plain.paints["gtk-3"]
    assert all(f.passes for f in prove(dressed))
    alone = dress(worn(look, archive, frozenset({"gtk-3"})), files, HERE, themes=themes)
    assert not any("/icons/" in p or ".icons/" in p for p in texts_of(alone))


@pytest.mark.long
@pytest.mark.parametrize("name", [n for n in MADE_UP if n != "plain"])
def test_every_desktop_is_set_to_it_by_its_own_store_and_all_of_it_comes_off(look, home, archive, name):
    session, history = SimulatedSession(MADE_UP[name]), History(history_folder(home))
    before, was = state(home), dict(session.settings)
    fresh = worn(look, archive)
    dressed = dress(fresh, own_files(home, history), HERE, themes=worn_themes(fresh))
    plan = make_plan(dressed, home, session)
    assert plan.worn == dict.fromkeys(ALL, archive)
    put_on(plan, history, session)
    set_to = {
        kind: [s for s in plan.settings if word in s.key.lower() and "size" not in s.key.lower()]
        for kind, word in (("icons", "icon"), ("pointers", "cursor"), ("programs", "theme"))
    }
    for kind in ("icons", "pointers", "programs"):
        there = [s for s in set_to[kind] if s.store != "xresources"]
        assert there and {s.value for s in there} == {look.folder}, kind
    undo_last(history, session)
    assert dict(session.settings) == was and state(home) == before


def test_a_desktop_is_set_to_a_theme_whose_sheet_is_called_otherwise(look, home, tmp_path):
    source = open_bundle(demo_archive(home))
    for path, entry in source.entries.items():
        if path.startswith("themes/Turnstone/gtk-3.0/") and not entry.link:
            place = tmp_path / "Knot" / path.removeprefix("themes/Turnstone/").replace("gtk-3.0", "gtk-3.20")
            place.parent.mkdir(parents=True, exist_ok=True)
            place.write_bytes(source.data(path))
    fresh = worn(look, str(tmp_path / "Knot"), frozenset({"gtk-3"}))
    session = SimulatedSession(MADE_UP["slideshow"])
    dressed = dress(fresh, own_files(home, History(history_folder(home))), HERE, themes=worn_themes(fresh))
    plan = make_plan(dressed, home, session)
    assert f".local/share/themes/{look.folder}/gtk-3.0/gtk.css" not in {w.path for w in plan.writes}
    assert DesktopSetting("xsettings", "/Net/ThemeName", look.folder, "xfconf", "s") in plan.settings


def test_one_theme_for_one_part_and_what_is_put_aside_is_not_worn(look):
    both = with_brought(with_brought(look, "/a"), "/b")
    both = with_worn(both, "/a", {"gtk-3", "icons"})
    both = with_worn(both, "/b", {"gtk-3"})
    assert worn_by(both) == {"icons": "/a", "gtk-3": "/b"}
    assert worn_by(with_brought(both, "/b", False)) == {"icons": "/a"}
    assert worn_by(with_worn(both, "/a", ())) == {"gtk-3": "/b"}


def test_another_picture_keeps_what_a_person_decided(looks):
    own = with_own_colours(with_worn(with_brought(looks[0], "/a"), "/a", {"gtk-3"}), "/a", True)
    own = with_companion(
        with_choice(own, Owner.component("kitty"), [Slot.spelled("role:cursor")], "accent"), "radius", "8"
    )
    own = with_swap(own, "/a", SHRILL, CALM)
    fresh = on_the_same_desk(looks[1], own, picture=False)
    assert worn_by(fresh) == {"gtk-3": "/a"} and fresh.companions == {"radius": "8"}
    assert fresh.decided(Owner.component("kitty")) == own.decided(Owner.component("kitty"))
    # Its colours are another's now, so the theme takes them.
    assert not fresh.decided(Owner.theme("/a")).as_is and not fresh.decided(Owner.theme("/a")).swaps
    assert (fresh.palettes, fresh.source) == (looks[1].palettes, looks[1].source)


def test_a_theme_that_is_gone_is_told_and_nothing_is_worn(look, tmp_path):
    with pytest.raises(FileAccessError):
        worn_themes(worn(look, str(tmp_path / "gone.tar.gz")))


def test_as_it_is_changes_nothing_but_what_is_replaced(look, archive):
    still = replace(with_own_colours(worn(look, archive), archive, True), mend_as_you_go=False)
    before = worn_theme(still, archive)
    for path, text in before.theme.texts.items():
        assert before.outcome.fresh[path] == text.text
    assert not before.outcome.pictures and not before.outcome.rules
    one = worn_theme(with_swap(still, archive, SHRILL, CALM), archive, theme=before.theme)
    # The command that swaps, and counting by hand, are the oracles.
    oracle = swapped(before.theme, {SHRILL: CALM}, with_shades=True)
    assert oracle.fresh and {p: one.outcome.fresh[p] for p in oracle.fresh} == dict(oracle.fresh)
    for path, text in before.theme.texts.items():
        count = text.text.lower().count(SHRILL.hex)
        assert one.outcome.fresh[path].lower().count(CALM.hex) >= count
        assert one.outcome.fresh[path].lower().count(SHRILL.hex) == 0
    back = with_swap(with_swap(still, archive, SHRILL, CALM), archive, SHRILL, None)
    assert back.decided(Owner.theme(archive)).swaps == {}


def test_as_it_is_can_be_read_and_the_look_takes_its_palette_from_the_theme(look, files, archive):
    swap = with_swap(worn(look, archive), archive, SHRILL, CALM)
    quick = worn_theme(replace(swap, mend_as_you_go=False), archive)
    derived = look_of_brought(swap, quick.theme, quick.outcome)
    assert derived.tone == "light" and not derived.failing()
    assert colour_difference(derived.colours["accent"], CALM) < 8
    assert colour_difference(derived.colours["window"], parse_hex("#f2f4f8")) < 1
    assert (derived.name, derived.source, derived.decisions) == (swap.name, swap.source, swap.decisions)
    assert derived.origin is not None and derived.origin.name == "Turnstone"
    mended = worn_theme(derived, archive, theme=quick.theme)
    assert not mended.outcome.short
    dressed = dress(derived, files, HERE, themes={archive: mended})
    assert all(f.passes for f in prove(dressed))
    locked = replace(swap, locks=frozenset({"panel"}))
    assert look_of_brought(locked, quick.theme, quick.outcome).colours["panel"] == look.colours["panel"]


@settings(max_examples=12)
@given(new=st.tuples(*[st.integers(0, 255)] * 3).map(lambda t: Rgba(*t)), at=st.integers(0, 40))
def test_whatever_colour_is_replaced_every_other_one_stays(turnstone, new, at):
    look, archive, known = turnstone
    rows = leading_colours(known.theme, 60)
    old = rows[at % len(rows)].colour
    made = worn_theme(with_swap(look, archive, old, new), archive, theme=known.theme).outcome
    follows = {c for f in known.theme.families for g in f.groups if old in g.shades for c in g.shades}
    for path, text in known.theme.texts.items():
        fresh = [s.colour for s in text.format.scan(made.fresh[path])]
        assert len(fresh) == len(text.spans)
        for span, colour in zip(text.spans, fresh, strict=True):
            was = span.colour
            if was.opaque == old and was.a > 0:
                assert colour.opaque == new or new == old
            elif was.opaque not in follows or was.a == 0:
                assert colour == was


@pytest.fixture(scope="module")
def turnstone(looks, tmp_path_factory):
    from mellow_finch.demo.build import build_demo_home

    archive = str(demo_archive(build_demo_home(tmp_path_factory.mktemp("turnstone") / "home")))
    look = replace(with_own_colours(with_brought(looks[0], archive), archive, True), mend_as_you_go=False)
    return look, archive, worn_theme(look, archive)


@pytest.mark.long
def test_of_several_themes_in_an_archive_the_one_that_fits_is_worn(look, files, home, tmp_path):
    source = open_bundle(demo_archive(home))
    for name in ("Knot", "Knot-dark"):
        for path in source.entries:
            if path.startswith("themes/Turnstone/gtk-3.0/"):
                place = tmp_path / "both" / name / path.removeprefix("themes/Turnstone/")
                place.parent.mkdir(parents=True, exist_ok=True)
                place.write_bytes(source.data(path) + (f"/* {name} */" if path.endswith("css") else "").encode())
    path = str(tmp_path / "both")
    for tone in ("dark", "light"):
        fresh = worn(replace(look, tone=tone), path, frozenset({"gtk-3"}))
        sheet = texts_of(dress(fresh, files, HERE, themes=worn_themes(fresh)))[
            f".local/share/themes/{look.folder}/gtk-3.0/gtk.css"
        ]
        assert sheet.count(b"/* Knot-dark */") == (tone == "dark") != sheet.count(b"/* Knot */")
    left = with_left(worn(look, path, frozenset({"gtk-3"})), path, "Knot-dark/", True)
    sheet = texts_of(dress(left, files, HERE, themes=worn_themes(left)))
    assert b"/* Knot */" in sheet[f".local/share/themes/{look.folder}/gtk-3.0/gtk.css"]


@pytest.mark.long
def test_it_is_kept_in_files_on_the_shelf_and_in_parcels(look, home, archive, tmp_path):
    with tarfile.open(archive) as packed:
        packed.extractall(tmp_path / "theirs", filter="data")
    folder = str(tmp_path / "theirs")
    fresh = with_swap(worn(look, folder), folder, SHRILL, CALM)
    save_look(fresh, tmp_path / "marsh.finch")
    assert load_look(tmp_path / "marsh.finch").decisions == fresh.decisions
    # A folder that is worn goes to the shelf as an archive, links and all, and gives the same there.
    shelf = Shelf(tmp_path / "shelf")
    carried = shelf.load(shelf.keep(fresh).id)
    (kept,) = carried.look.brought
    assert kept.endswith(".zip") and not carried.asks and worn_by(carried.look) == dict.fromkeys(ALL, kept)
    one, other = worn_theme(fresh, folder).outcome, worn_theme(carried.look, kept).outcome
    assert {p: e.data for p, e in one.outputs.items()} == {p: e.data for p, e in other.outputs.items()}
    # A parcel's own files for a home are the theme under the look's name, and desktops are set to it.
    rows = home_files(fresh)
    by = {row.path: row.data for row in rows}
    assert b"Turnstone" in by[f".local/share/themes/{look.folder}/gtk-3.0/gtk.css"]
    assert not any("Turnstone" in path for path in by)
    values = {(key, value) for _, _, key, value in settings_for_anyone(fresh, rows)}
    assert {("icon-theme", look.folder), ("cursor-theme", look.folder)} <= values
    assert not any(key == "icon-theme" for _, _, key, _ in settings_for_anyone(look, home_files(look)))


def test_a_theme_says_its_roles_through_imports_and_resources(tmp_path):
    inner = {
        "/org/knot/base.css": b"@define-color theme_selected_bg_color #b0532c;\n"
        b"window, .background { background-color: #21262d; color: #e6edf3; }\n"
        b".view, textview text { background-color: #161b22; color: #e6edf3; }\n"
        b"headerbar { background-color: #2d333b; color: #f0f6fc; }\n"
        b"menu { background-color: #30363d; color: #f0f6fc; }\n"
        b"button.suggested-action { background-color: #3f7d4e; color: #ffffff; }\n"
        b"progressbar progress, scale highlight, switch:checked { background-color: #b0532c; }\n"
    }
    folder = tmp_path / "Knot" / "gtk-3.0"
    folder.mkdir(parents=True)
    (folder / "gtk.css").write_text('@import url("resource:///org/knot/base.css");\n', encoding="utf-8")
    (folder / "gtk.gresource").write_bytes(write_resources(inner))
    look = look_of_theme(tmp_path / "Knot")
    wanted = {"window": "#21262d", "view": "#161b22", "header": "#2d333b", "menu": "#30363d", "accent": "#b0532c"}
    assert {role: look.colours[role].hex for role in wanted} == wanted  # not the main button's own green
    assert look.tone == "dark"
    assert roles_of_theme(open_theme(tmp_path / "Knot"), True)["window_text"] == parse_hex("#e6edf3")
