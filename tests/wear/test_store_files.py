"""Settings that stand in files of the person's own: back to the byte where only we changed them, in place otherwise."""

from __future__ import annotations

from dataclasses import replace

import pytest

from mellow_finch.disk.write import Disk
from mellow_finch.errors import WearError
from mellow_finch.session.base import DesktopSetting
from mellow_finch.session.simulated import SimulatedSession
from mellow_finch.session.stores import xsettingsd
from mellow_finch.session.stores.keyfile import KeyFiles
from mellow_finch.session.stores.xsettingsd import Xsettingsd
from mellow_finch.wear.history import History
from mellow_finch.wear.journal import RestRow, manifest_text, snapshot_from
from mellow_finch.wear.places import history_folder
from mellow_finch.wear.walk import Walker
from mellow_finch.wear.wear import finish, put_on, undo_last

from .conftest import state

SCHEMA = ".config/tide.conf#General"
TEXT = "# mine\n[General]\nother = 1\ntheme =  Saltpan   \n\n[Empty]\n"


class FileSession(SimulatedSession):
    """A desktop that keeps settings in files, one of them by a daemon."""

    def __init__(self, home):
        super().__init__()
        self.stores = {"keyfile": KeyFiles(home), "xsettingsd": Xsettingsd(home)}
        self.reread_after: list[str] = []

    def read(self, setting):
        store = self.stores.get(setting.store)
        return store.read(setting.schema, setting.key) if store else super().read(setting)

    def write(self, setting):
        store = self.stores.get(setting.store)
        if store is None:
            super().write(setting)
        else:
            store.write(setting.schema, setting.key, setting.value, setting.kind)

    def reset(self, setting, kind=""):
        store = self.stores.get(setting.store)
        if store is None:
            super().reset(setting, kind)
        else:
            store.reset(setting.schema, setting.key, kind)

    def file(self, store, schema):
        return self.stores[store].file(schema) if store in self.stores else None

    def reread(self, store, schema):
        self.reread_after.append(store)


@pytest.fixture
def desk(bench, monkeypatch):
    """A bench whose plan sets keys in two files, and the home as it was."""
    monkeypatch.setattr(xsettingsd, "own_processes", lambda names: {})
    monkeypatch.setattr(Xsettingsd, "_text", lambda self: self._place.read_text() if self._place.exists() else "")
    (bench.home / ".config/tide.conf").write_text(TEXT)
    (bench.home / ".config/tide.conf").chmod(0o600)
    daemon = bench.home / ".config/xsettingsd/xsettingsd.conf"
    daemon.parent.mkdir()
    daemon.write_text('Net/ThemeName "Saltpan" \n# mine\nGtk/ButtonImages 1\n')
    bench.session = FileSession(bench.home)
    return bench


def plan(bench, name="Marsh", **more):
    rows = (
        DesktopSetting(SCHEMA, "theme", name, "keyfile"),
        DesktopSetting(SCHEMA, "icons", name, "keyfile"),
        DesktopSetting(".config/new/tide.conf#X", "theme", name, "keyfile"),
        DesktopSetting("", "Net/ThemeName", name, "xsettingsd"),
    )
    return replace(bench.plan(name), settings=rows, **more)


def test_files_of_settings_come_back_to_the_byte_over_two_looks(desk):
    before = state(desk.home)
    put_on(plan(desk), desk.history(), desk.session)
    text = (desk.home / ".config/xsettingsd/xsettingsd.conf").read_text()
    assert text.startswith('Net/ThemeName "Marsh"\n# mine')  # in its place, not at the end
    first = state(desk.home)
    put_on(plan(desk, "Fog"), desk.history(), desk.session)
    undo_last(desk.history(), desk.session)
    assert state(desk.home) == first
    undo_last(desk.history(), desk.session)
    assert state(desk.home) == before and "xsettingsd" in desk.session.reread_after


def test_where_a_person_edited_such_a_file_only_our_values_move_and_in_place(desk):
    put_on(plan(desk), desk.history(), desk.session)
    mine, daemon = desk.home / ".config/tide.conf", desk.home / ".config/xsettingsd/xsettingsd.conf"
    mine.write_text(mine.read_text() + "mine=1\n")
    daemon.write_text("Gtk/EnableEventSounds 0\n" + daemon.read_text())
    undo_last(desk.history(), desk.session)
    assert mine.read_text() == "# mine\n[General]\nother = 1\ntheme =  Saltpan\n\n[Empty]\nmine=1\n"
    assert daemon.read_text() == 'Gtk/EnableEventSounds 0\nNet/ThemeName "Saltpan"\n# mine\nGtk/ButtonImages 1\n'


@pytest.mark.parametrize("spoil", ["note gone", "note broken", "blob gone"])
def test_without_what_was_kept_values_are_put_back_all_the_same(desk, spoil):
    snapshot = put_on(plan(desk), desk.history(), desk.session)
    folder = desk.history().folder / snapshot.id
    if spoil == "note gone":
        (folder / "stores.json").unlink()
    elif spoil == "note broken":
        (folder / "stores.json").write_text("[1")
    else:
        for row in snapshot.stores:
            (folder / row.blob).unlink()
    assert undo_last(desk.history(), desk.session).snapshot.status == "undone"
    assert desk.session.read(DesktopSetting(SCHEMA, "theme", store="keyfile")).value == "Saltpan"
    assert 'Net/ThemeName "Saltpan"' in (desk.home / ".config/xsettingsd/xsettingsd.conf").read_text()


class Killed(BaseException):
    """The end of the process, at once."""


def undo_killed(desk, monkeypatch):
    """Undo, and be killed once the settings are set back and before their files are."""

    def die(*_):
        raise Killed

    with monkeypatch.context() as now, pytest.raises(Killed):
        now.setattr(Walker, "_put_back", die)
        undo_last(desk.history(), desk.session)


def test_killed_between_setting_back_and_the_file_it_comes_back_to_the_byte(desk, monkeypatch):
    """What was set back by then is spelled as the store does it, not as the person did."""
    before = state(desk.home)
    put_on(plan(desk), desk.history(), desk.session)

    undo_killed(desk, monkeypatch)
    assert state(desk.home) != before
    finish(desk.history(), desk.session)
    assert state(desk.home) == before


def test_what_a_person_chose_after_such_a_kill_stays(desk, monkeypatch):
    put_on(plan(desk), desk.history(), desk.session)

    undo_killed(desk, monkeypatch)
    mine = desk.home / ".config/tide.conf"
    mine.write_text(mine.read_text().replace("Saltpan", "Samphire"))
    finish(desk.history(), desk.session)
    assert "Samphire" in mine.read_text()


def test_the_rows_are_kept_in_the_manifest(desk):
    snapshot = put_on(plan(desk), desk.history(), desk.session)
    assert len(snapshot.stores) == 2
    assert snapshot_from(manifest_text(snapshot), snapshot.id, "worn").stores == snapshot.stores


def meddling(home, times):
    """A disk on which a program changes a file as soon as it was put back, so many times."""
    left = [times]

    def step(name):
        if name == "renamed plain.conf" and left[0]:
            left[0] -= 1
            (home / ".config/plain.conf").write_text("colour=another\n")

    return step


def test_what_a_desktop_changes_while_it_is_put_back_is_put_back_once_more(bench):
    before = state(bench.home)
    put_on(replace(bench.plan(), rest_s=0.01), bench.history(), bench.session)
    undo_last(History(history_folder(bench.home), Disk(meddling(bench.home, 1))), bench.session)
    assert state(bench.home) == before


def test_what_somebody_changes_meanwhile_where_no_desktop_does_is_asked_about(bench):
    put_on(bench.plan(), bench.history(), bench.session)
    with pytest.raises(WearError, match="could not be restored"):
        undo_last(History(history_folder(bench.home), Disk(meddling(bench.home, 1))), bench.session)
    assert (bench.home / ".config/plain.conf").read_text() == "colour=another\n"
    with pytest.raises(WearError, match="Changed since"):
        undo_last(bench.history(), bench.session)


def test_a_program_that_never_stops_changing_a_file_is_said_and_undo_can_be_repeated(bench):
    before = state(bench.home)
    put_on(replace(bench.plan(), rest_s=0.01), bench.history(), bench.session)
    with pytest.raises(WearError, match=r"“.config/plain.conf” could not be restored: a program keeps changing it"):
        undo_last(History(history_folder(bench.home), Disk(meddling(bench.home, 99))), bench.session)
    undo_last(bench.history(), bench.session, overwrite=[".config/plain.conf"])
    assert state(bench.home) == before


def test_new_files_go_only_after_what_chose_them_was_put_back_and_the_desktop_had_time(bench, monkeypatch):
    order = []
    monkeypatch.setattr("mellow_finch.wear.walk.time.sleep", lambda s: order.append(f"rest {s:g}"))
    put_on(replace(bench.plan(), rest_s=2.0), bench.history(), bench.session)
    undo_last(History(history_folder(bench.home), Disk(order.append)), bench.session)
    rest, changed = order.index("rest 2"), order.index("renamed plain.conf")
    assert changed < rest < order.index("remove gtk.css")
    assert RestRow(2.0) in bench.history().snapshots()[-1].rows
