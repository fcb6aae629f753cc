"""A home whose settings and data lie elsewhere: read, written and given back at their real places."""

from __future__ import annotations

from pathlib import Path

import pytest

from mellow_finch.components.files import text_of
from mellow_finch.disk import own
from mellow_finch.look.dressed import dress
from mellow_finch.session.simulated import SimulatedSession
from mellow_finch.session.xdg import home_files, moved_folders
from mellow_finch.wear.history import History
from mellow_finch.wear.original import OriginalFiles
from mellow_finch.wear.places import history_folder
from mellow_finch.wear.plan import make_plan
from mellow_finch.wear.wear import put_on, undo_last


@pytest.fixture
def moved(tmp_path, monkeypatch):
    """Return a home of one's own with a moved folder of settings, and a terminal's file in it."""
    home = tmp_path / "own"
    (home / "settings/kitty").mkdir(parents=True)
    (home / "settings/kitty/kitty.conf").write_text("font_size 11\n")
    monkeypatch.setattr(Path, "home", lambda: home)
    monkeypatch.setenv("XDG_CONFIG_HOME", str(home / "settings"))
    monkeypatch.setenv("XDG_DATA_HOME", "")
    return home


def test_only_places_inside_the_own_home_count(moved, tmp_path):
    assert moved_folders(moved) == {".config": "settings"}
    assert moved_folders(tmp_path) == {}
    outside = {"XDG_CONFIG_HOME": "/elsewhere", "XDG_DATA_HOME": "not/absolute"}
    assert moved_folders(moved, outside) == {} == moved_folders(moved, {"XDG_CONFIG_HOME": str(moved / ".config")})


def test_files_are_called_by_their_usual_paths(moved):
    files = home_files(moved)
    assert text_of(files, ".config/kitty/kitty.conf") == "font_size 11\n"
    assert files.find(".config/kitty/*.conf") == [".config/kitty/kitty.conf"]


def test_a_look_is_put_on_and_taken_off_there(moved, look):
    history = History(history_folder(moved))
    files = OriginalFiles(home_files(moved), history)
    dressed = dress(look, files, frozenset({"kitty", "qt-palette"}))
    plan = make_plan(dressed, moved)
    put_on(plan, history, SimulatedSession())
    conf = moved / "settings/kitty/kitty.conf"
    assert "include mellow-finch.conf" in conf.read_text() and not (moved / ".config").exists()
    assert f"{moved}/settings/qt5ct/colors" in (moved / "settings/qt5ct/qt5ct.conf").read_text()
    assert dressed.paints["kitty"]["terminal"].fill == look.colours["terminal"]
    undo_last(history, SimulatedSession())
    assert conf.read_text() == "font_size 11\n" and sorted(p.name for p in (moved / "settings").iterdir()) == ["kitty"]


@pytest.mark.parametrize("told", ["relative/state", "", "~/state", "./x"])
def test_a_base_directory_that_is_not_absolute_is_ignored(told, tmp_path, monkeypatch):
    """As its specification says; the history would lie in whatever folder one stands in, and the way back out of sight."""
    monkeypatch.setenv("HOME", str(tmp_path))
    for name in ("XDG_STATE_HOME", "XDG_CONFIG_HOME", "XDG_DATA_HOME", "XDG_CACHE_HOME"):
        monkeypatch.setenv(name, told)
    assert own.state_folder() == tmp_path / ".local/state/mellow-finch"
    assert own.config_folder() == tmp_path / ".config/mellow-finch"
    assert own.data_folder() == tmp_path / ".local/share/mellow-finch"
    assert own.cache_folder() == tmp_path / ".cache/mellow-finch"
    assert history_folder(tmp_path).is_relative_to(tmp_path)
    monkeypatch.setenv("XDG_STATE_HOME", str(tmp_path / "state"))
    assert own.state_folder() == tmp_path / "state/mellow-finch"
