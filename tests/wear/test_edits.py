"""What a person writes into files between looks: still there after every look, or asked about."""

from __future__ import annotations

import os
from dataclasses import replace

import pytest
from tools.rigs.homes import full_home

from mellow_finch.components.decisions import Decisions, Owner
from mellow_finch.errors import WearError
from mellow_finch.look.dressed import Output, dress, every_component
from mellow_finch.look.theme_edits import with_brought
from mellow_finch.session.none import NoDesktop
from mellow_finch.syntax.region import put_region
from mellow_finch.wear.edits import edits_lost, lost_lines
from mellow_finch.wear.history import History
from mellow_finch.wear.places import history_folder
from mellow_finch.wear.plan import make_plan, own_files, planned
from mellow_finch.wear.wear import go_back_to, put_on, undo_last

from .conftest import state

MINE = {
    ".config/kitty/kitty.conf": "# mine: a longer tail\n",
    ".config/qtile/config.py": "wmname = 'mine'\n",
    ".config/gtk-3.0/gtk.css": "/* mine */\n",
    ".mozilla/firefox/marsh.default/chrome/userContent.css": "/* mine */\n",
    ".config/Code/User/settings.json": "// mine\n",
    ".bashrc": "alias mine=true\n",
}
OURS = (".config/hypr/mellow-finch.conf", ".config/foot/mellow-finch.ini")


@pytest.fixture
def full(tmp_path):
    home = full_home(tmp_path)
    return home, History(history_folder(home), wait_s=0)


def plan_of(look, home, history):
    return make_plan(dress(look, own_files(home, history), every_component(look)), home)


def test_a_line_added_between_two_looks_is_there_after_the_third_and_all_comes_off_exactly(looks, full):
    home, history = full
    before = state(home)
    first = put_on(plan_of(looks[0], home, history), history, NoDesktop())
    added = {path: line for path, line in MINE.items() if (home / path).exists()}
    assert len(added) >= 4
    for path, line in added.items():
        (home / path).write_text((home / path).read_text() + line)
    for look in (looks[1], looks[0], looks[2], looks[0]):
        assert put_on(plan_of(look, home, history), history, NoDesktop()) is not None
        for path, line in added.items():
            assert line in (home / path).read_text(), (look.name, path)
    with pytest.raises(WearError) as caught:
        go_back_to(first.id, history, NoDesktop())
    assert set(caught.value.edited) == set(added)
    for path in added:
        assert MINE[path] in (home / path).read_text()
    go_back_to(first.id, history, NoDesktop(), overwrite=added)
    assert state(home) == before


@pytest.mark.some(1)
@pytest.mark.parametrize("path", OURS)
def test_an_edit_in_a_file_that_is_wholly_ours_is_asked_about_and_can_stay(looks, full, path):
    home, history = full
    put_on(plan_of(looks[0], home, history), history, NoDesktop())
    mine = home / path
    mine.write_text(mine.read_text() + "# mine: wider\n")
    held, plan = state(home), plan_of(looks[1], home, history)
    with pytest.raises(WearError, match=r"would overwrite your own edits in “.*” \(# mine: wider\)") as caught:
        put_on(plan, history, NoDesktop())
    assert caught.value.edited == (path,) and state(home) == held and len(history.snapshots()) == 1
    text = mine.read_text()
    assert put_on(plan, history, NoDesktop(), leave=[path]) is not None and mine.read_text() == text
    assert edits_lost(plan_of(looks[0], home, history), history)[0].path == path  # asked again, not forgotten
    put_on(plan_of(looks[2], home, history), history, NoDesktop(), overwrite=[path])
    assert "mine" not in mine.read_text()


def test_a_colour_changed_by_hand_within_our_region_is_asked_about(looks, full):
    home, history = full
    put_on(plan_of(looks[0], home, history), history, NoDesktop())
    mine = home / ".bashrc"
    lines = mine.read_text().splitlines(keepends=True)
    at = next(i for i, line in enumerate(lines) if ">>> mellow-finch" in line) + 1
    lines.insert(at, "export MINE=1\n")
    mine.write_text("".join(lines))
    with pytest.raises(WearError, match="export MINE=1"):
        put_on(plan_of(looks[1], home, history), history, NoDesktop())


def test_a_first_look_asks_before_it_replaces_a_whole_file_that_nobody_of_ours_has_written(bench):
    writes, same, sum_ = planned(bench.home, [Output(".config/plain.conf", b"other=1\n", ("a",))])
    plan = replace(bench.plan(), writes=writes, same=same, made_of=sum_)
    with pytest.raises(WearError, match=r"“.config/plain.conf” \(colour=red\)"):
        put_on(plan, bench.history(), bench.session)
    assert put_on(plan, bench.history(), bench.session, overwrite=[".config/plain.conf"]) is not None


def test_no_first_look_asks_on_homes_as_people_have_them(looks, full):
    home, history = full
    assert edits_lost(plan_of(looks[0], home, history), history) == ()


@pytest.mark.parametrize(
    ("written", "now", "fresh", "recolours", "lost"),
    [
        (b"a\nb\n", b"a\nmine\nb\n", b"a\nb\nmine\n", False, ()),
        (b"a\nb\n", b"a\nmine\nb\n", b"a\nb\n", False, ("mine",)),
        (b"a\n", b"a\nmine\nmine\n", b"mine\n", False, ("mine",)),
        (b"bg #112233\n", b"bg #112233\nfg #ff0000 # mine\n", b"bg #445566\nfg #00ff00 # mine\n", True, ()),
        (
            b"bg #112233\n",
            b"bg #112233\nfg #ff0000 # mine\n",
            b"bg #445566\nfg #00ff00 # mine\n",
            False,
            ("fg #ff0000 # mine",),
        ),
        (b"c=1,2,3\n", b"c=1,2,3\nd=red\n", b"c=9,9,9\nd=#00ff00\n", True, ()),
        (b"x\r\n", b"x\r\nmine\r\n", b"x\nmine\n", False, ()),
        (None, put_region("mine\n", "ours\n").encode(), b"mine\n", False, ()),
        (b"x", b"\0bytes", b"x", False, None),
    ],
)
def test_which_lines_of_a_person_a_fresh_file_lacks(written, now, fresh, recolours, lost):
    assert lost_lines(written, now, fresh, recolours) == lost


def test_a_theme_in_the_folder_of_another_keeps_its_own_decisions(look):
    outer, inner, kitty = Owner.theme("/h/A"), Owner.theme("/h/A/B"), Owner.component("kitty")
    rows = {
        outer: Decisions({"deep": "view"}, {"menu": "accent"}, splits=frozenset("p")),
        inner: Decisions({"x": "menu"}, {"menu": "card"}, splits=frozenset("p")),
        kitty: Decisions({"y": "card"}),
    }
    look = replace(look, brought=("/h/A", "/h/A/B"), decisions=rows)
    assert with_brought(look, "/h/A", False).decisions == {o: rows[o] for o in (inner, kitty)}
    assert with_brought(look, "/h/A/B", False).decisions == {o: rows[o] for o in (outer, kitty)}


def test_what_the_history_keeps_of_a_file_is_known_anew_after_every_change(bench, monkeypatch):
    """However soon one change follows another, and whoever made it: also where it is worked out once for many files."""
    monkeypatch.setattr("mellow_finch.wear.history._TOO_NEW_NS", 0)
    history, other = bench.history(), bench.history()
    put_on(bench.plan(), other, bench.session)
    for folder in history.folder.iterdir():  # as if it was long ago
        os.utime(folder, (1, 1))
    path = ".config/plain.conf"
    assert len(history.worn_rows(path)) == 1 and history.rows_by_path() is history.rows_by_path()
    undo_last(other, bench.session)
    assert history.worn_rows(path) == [] and len(history.rows_by_path()[path]) == 1
    put_on(bench.plan("Fog"), other, bench.session)
    assert len(history.worn_rows(path)) == 1 and len(history.rows_by_path()[path]) == 2
