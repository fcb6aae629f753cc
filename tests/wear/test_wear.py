"""Putting on and taking off: exact bytes back, whatever happens at whatever moment."""

from __future__ import annotations

from dataclasses import replace

import pytest

from mellow_finch.components.files import FolderFiles
from mellow_finch.disk.write import Disk
from mellow_finch.errors import FileAccessError, WearError
from mellow_finch.look.dressed import dress
from mellow_finch.session.simulated import SimulatedSession
from mellow_finch.wear.plan import make_plan
from mellow_finch.wear.wear import edited_since, go_back_to, put_on, undo_last

from .conftest import plan_for, state


def test_wear_then_undo_gives_the_same_home(look, rich_home, history):
    before = state(rich_home)
    session = SimulatedSession()
    settings = dict(session.settings)
    snapshot = put_on(plan_for(look, rich_home), history, session)
    worn = state(rich_home)
    assert worn != before and snapshot is not None and snapshot.status == "worn"
    assert worn[".Xresources"] == ("link", b"dotfiles/xresources")
    assert worn["dotfiles/xresources"][1] == 0o600 and worn[".config/conky/conky.conf"][1] == 0o755
    assert session.settings[("org.gnome.desktop.interface", "color-scheme")] == "prefer-dark" and len(session.sent) == 1
    assert undo_last(history, session).snapshot.status == "undone"
    assert state(rich_home) == before and session.settings == settings


def test_a_file_edited_since_is_not_overwritten_without_asking(look, rich_home, history):
    session = SimulatedSession()
    snapshot = put_on(plan_for(look, rich_home), history, session)
    mine = rich_home / ".config/conky/conky.conf"
    mine.write_text("my own")
    worn = state(rich_home)
    assert snapshot is not None and edited_since(snapshot, history) == (".config/conky/conky.conf",)
    with pytest.raises(WearError, match=r"Changed since: “.config/conky/conky.conf”. Nothing was undone"):
        undo_last(history, session)
    assert state(rich_home) == worn
    undo_last(history, session, [".config/conky/conky.conf"])
    assert "tide" in mine.read_text()


def test_a_second_look_starts_from_the_original_and_both_come_off(look, looks, rich_home, history):
    before = state(rich_home)
    session = SimulatedSession()
    alone = plan_for(looks[2], rich_home)
    first = put_on(plan_for(look, rich_home), history, session)
    second = plan_for(looks[2], rich_home)
    assert {w.path: w.data for w in second.writes}[".config/conky/conky.conf"] == {
        w.path: w.data for w in alone.writes
    }[".config/conky/conky.conf"]
    put_on(second, history, session)
    assert first is not None and go_back_to(first.id, history, session)[0] == 2
    assert state(rich_home) == before
    with pytest.raises(WearError, match="nothing to undo"):
        undo_last(history, session)
    with pytest.raises(WearError, match="no longer applied"):
        go_back_to(first.id, history, session)


def test_wearing_twice_changes_nothing_more(look, rich_home, history):
    session = SimulatedSession()
    put_on(plan_for(look, rich_home), history, session)
    plan = plan_for(look, rich_home)
    assert plan.writes == () and plan.same > 10
    assert put_on(plan, history, session) is None


def test_plan_tells_what_it_will_do(look, rich_home):
    plan = plan_for(look, rich_home)
    actions = {w.path: w.action for w in plan.writes}
    assert (
        actions[".Xresources"] == "change" and actions[f".local/share/themes/{look.folder}/gtk-3.0/gtk.css"] == "create"
    )
    assert plan.settings[0].key == "color-scheme" and len(plan.restart) == len({w.component for w in plan.writes})
    assert state(rich_home) == state(rich_home)


def test_plan_refuses_what_is_in_the_way(look, rich_home):
    (rich_home / ".config/kdeglobals").unlink()
    (rich_home / ".config/kdeglobals").mkdir()
    with pytest.raises(WearError, match="is a folder, but a file has to be written"):
        plan_for(look, rich_home)


def test_a_stale_plan_is_refused(look, rich_home, history):
    plan = plan_for(look, rich_home)
    (rich_home / ".config/kdeglobals").unlink()
    before = state(rich_home)
    with pytest.raises(WearError, match="changed since the list was made"):
        put_on(plan, history, SimulatedSession())
    assert state(rich_home) == before


def test_paths_outside_the_home_are_refused(look, rich_home):
    dressed = dress(look, FolderFiles(rich_home))
    bad = replace(dressed, files={"kde": (dressed.files["kde"][0]._replace(path="../out"),)})
    with pytest.raises(WearError, match="lies outside the home folder"):
        make_plan(bad, rich_home)


def test_a_damaged_snapshot_is_said(look, rich_home, history):
    put_on(plan_for(look, rich_home), history, SimulatedSession())
    manifest = next(history.folder.glob("*/manifest.json"))
    manifest.write_text("{")
    assert history.snapshots() == [] and history.broken() == (manifest.parent,)
    with history.locked():
        assert history.broken() == (history.folder / "set-aside" / manifest.parent.name,)


def test_disk_errors_are_sentences(tmp_path):
    with pytest.raises(FileAccessError, match=r"Could not write .*there is no such file"):
        Disk().write(tmp_path / "no" / "where", b"")
    Disk().remove(tmp_path / "nothing")
    Disk().remove_folder(tmp_path / "nothing")
