"""A look on made-up desktops with the traps of real ones: what is set, in which order, and exactly back."""

from __future__ import annotations

from dataclasses import replace
from pathlib import Path

import pytest

from mellow_finch.look.dressed import dress
from mellow_finch.session.base import DesktopSetting
from mellow_finch.session.desktop import desktop_from, desktop_named, desktops, keys_of, told_apart
from mellow_finch.session.simulated import MADE_UP, SimulatedSession
from mellow_finch.wear.history import History
from mellow_finch.wear.journal import SettingRow, manifest_text, snapshot_from
from mellow_finch.wear.places import history_folder
from mellow_finch.wear.plan import make_plan, own_files
from mellow_finch.wear.wear import finish, put_on, undo_last

from .conftest import Killed, StepSession, killed_at, state

PICTURE = "/home/maren/Pictures/reedbed.jpg"
EVERYTHING = frozenset(
    {"gtk-3", "xfwm", "metacity", "shell", "kitty", "waybar", "terminal", "plank", "xfce-notify", "dunst"}
)


@pytest.fixture
def dressed(look, home):
    return dress(replace(look, source=PICTURE), own_files(home, History(history_folder(home))), EVERYTHING)


def values(session: SimulatedSession) -> dict[tuple[str, str], str | None]:
    return dict(session.settings)


@pytest.mark.parametrize("name", MADE_UP)
def test_a_look_is_worn_and_taken_off_exactly(dressed, home, name):
    session, history = SimulatedSession(MADE_UP[name]), History(history_folder(home))
    before, was = state(home), values(session)
    plan = make_plan(dressed, home, session)
    put_on(plan, history, session)
    for setting in plan.settings:
        if session.read(setting).state != "absent":
            assert session.read(setting).has(setting.value), setting
    if name != "plain":
        pictures = {
            v for (_, k), v in session.settings.items() if "picture-u" in k or "last-image" in k or "filename" in k
        }
        assert pictures in ({PICTURE}, {f"file://{PICTURE}"})
    told = {way.program for way in session.told}
    assert told == MADE_UP[name].runs & {"kitty", "waybar"}
    undo_last(history, session)
    assert values(session) == was and state(home) == before


def test_a_file_that_a_desktop_writes_by_its_own_settings_is_left_to_it(dressed, home):
    path = ".config/gtk-3.0/settings.ini"
    written = {
        desktop: [
            w.path
            for w in make_plan(dressed, home, SimulatedSession(replace(MADE_UP["dark first"], desktop=desktop))).writes
        ]
        for desktop in ("gnome", "budgie")
    }
    assert path in written["gnome"] and path not in written["budgie"]
    assert set(written["gnome"]) - set(written["budgie"]) == {path}


@pytest.mark.some(1)
@pytest.mark.parametrize(
    "name", [n if i < 4 else pytest.param(n, marks=pytest.mark.long) for i, n in enumerate(MADE_UP)]
)
@pytest.mark.parametrize("ending", ["finish", "undo"])
def test_killed_at_every_setting_it_is_finished_or_undone(bench, dressed, name, ending):
    """Files are few here: what counts is every moment of the settings and the programs."""
    made_up = MADE_UP[name]
    small = replace(bench.plan(), settings=(), sequences="")
    whole = make_plan(dressed, dressed_home := bench.home, SimulatedSession(made_up))
    plan = replace(small, settings=whole.settings, told=whole.told, ways=whole.ways, desktop=whole.desktop, seen={})
    session = SimulatedSession(made_up)
    before, was = state(dressed_home), values(session)
    put_on(plan, bench.history(), session)
    worn = values(session)
    undo_last(bench.history(), session)
    steps = 0
    for back in (False, True):
        number = 0
        while True:
            number += 1
            session = SimulatedSession(made_up)
            if back:
                put_on(plan, bench.history(), session)
            step = killed_at(number)
            try:
                (undo_last if back else lambda h, s: put_on(plan, h, s))(bench.history(), StepSession(session, step))
            except Killed:
                steps += 1
            else:
                if not back:
                    undo_last(bench.history(), session)
                break
            history = bench.history()
            if ending == "finish":
                done = finish(history, session)
                assert not done.left, (name, back, number, done.left)
                if not back:
                    assert values(session) == worn, (name, number)
                    undo_last(history, session)
            else:
                undo_last(history, session)
            assert values(session) == was and state(bench.home) == before, (name, back, number)
    assert steps >= 8


def test_what_a_person_changed_meanwhile_is_kept_and_said(dressed, home):
    session, history = SimulatedSession(MADE_UP["slideshow"]), History(history_folder(home))
    put_on(make_plan(dressed, home, session), history, session)
    session.settings["xfwm4", "/general/theme"] = "Mine"
    done = undo_last(history, session)
    assert done.left == ("“Window decoration theme” was changed since and stays as it is.",)
    assert session.settings["xfwm4", "/general/theme"] == "Mine"
    assert session.settings["xsettings", "/Net/ThemeName"] == "Saltpan"


def test_a_row_of_the_journal_says_which_store_and_type(dressed, home):
    session, history = SimulatedSession(MADE_UP["slideshow"]), History(history_folder(home))
    snapshot = put_on(make_plan(dressed, home, session), history, session)
    read = snapshot_from(manifest_text(snapshot), snapshot.id, "worn")
    assert read.rows == snapshot.rows
    row = next(r for r in read.rows if isinstance(r, SettingRow) and r.key == "/Net/ThemeName")
    assert (row.store, row.kind, row.title, row.component) == ("xfconf", "s", "GTK theme", "gtk-3")


def test_a_way_that_no_component_names_is_never_run(dressed, home):
    session, history = SimulatedSession(MADE_UP["dark first"]), History(history_folder(home))
    snapshot = put_on(make_plan(dressed, home, session), history, session)
    folder = next(p for p in Path(history_folder(home)).rglob("manifest.json") if snapshot.id in str(p))
    text = folder.read_text()
    assert '"USR1"' in text
    folder.write_text(text.replace('"USR1"', '"KILL"'))
    session.told.clear()
    undo_last(History(history_folder(home)), session)
    assert session.told == []


def test_a_component_that_is_left_out_has_no_settings(look, home):
    session = SimulatedSession(MADE_UP["slideshow"])
    files = own_files(home, History(history_folder(home)))
    plan = make_plan(dress(look, files, EVERYTHING - {"xfwm"}), home, session)
    assert "/general/theme" not in {s.key for s in plan.settings}
    assert "/Net/ThemeName" in {s.key for s in plan.settings}


def test_a_look_without_a_picture_leaves_the_picture(look, home):
    session = SimulatedSession(MADE_UP["slideshow"])
    files = own_files(home, History(history_folder(home)))
    plan = make_plan(dress(replace(look, source=""), files, EVERYTHING), home, session)
    assert not [s for s in plan.settings if s.schema == "xfce4-desktop"]


# A desktop is one data file


def test_a_screen_without_a_picture_of_its_own_gets_one_and_no_other():
    rows = [r for r in desktop_named("xfce").rows if r.key.endswith("last-image") and r.needs == "still"]
    own, other = "/backdrop/screen0/monitorHDMI-1/workspace0/last-image", "/backdrop/screen0/monitor0/last-image"
    for keys, wanted in (((), [own]), ((other,), [other, own]), ((own,), [own])):
        session = SimulatedSession(settings={("xfce4-desktop", key): "x.jpg" for key in keys})
        assert [k for row in rows for k in keys_of(row, session)] == wanted


def test_a_new_desktop_is_one_file(look, home):
    made = desktop_from(
        """
id = "tidal"
title = "Tidal desk"
names = ["Tidal"]
[placement]
fill = "cover"
[[set]]
title = "Image"
store = "gsettings"
schema = "tidal.desk"
key = "picture"
value = "{uri} {mode}"
"""
    )
    from mellow_finch.session.desktop import Wish, settings_for

    session = SimulatedSession(settings={("tidal.desk", "picture"): None})
    found = settings_for(made, Wish("Marsh", "dark", PICTURE), (), session)
    assert [s for s, _ in found] == [DesktopSetting("tidal.desk", "picture", f"file://{PICTURE} cover")]


def test_every_desktop_has_words_for_every_way_a_picture_can_lie():
    from mellow_finch.picture.placement import MODES

    for desktop in desktops():
        wants = any("{mode}" in row.value or "{mode}" in row.kind for row in desktop.rows)
        assert not wants or set(desktop.placement) == {m.id for m in MODES}, desktop.id


@pytest.mark.parametrize(
    "environ, running, expected",
    [
        ({"XDG_CURRENT_DESKTOP": "XFCE"}, (), "xfce"),
        ({"XDG_CURRENT_DESKTOP": "ubuntu:GNOME"}, (), "gnome"),
        ({"XDG_CURRENT_DESKTOP": "Budgie:GNOME"}, (), "budgie"),
        ({}, ("mate-settings-daemon",), "mate"),
        ({"XDG_CURRENT_DESKTOP": "Tidal"}, (), None),
        ({}, (), None),
    ],
)
def test_desktops_are_told_apart(environ, running, expected):
    found = told_apart(environ, running)
    assert (found.id if found else None) == expected


def test_a_desktop_that_is_like_another_sets_what_that_one_sets_but_for_what_it_leaves():
    gnome, budgie = (next(d for d in desktops() if d.id == id_) for id_ in ("gnome", "budgie"))
    of_gnome = {(row.schema, row.key) for row in gnome.rows if row.component != "shell"}
    assert {(row.schema, row.key) for row in budgie.rows} == of_gnome | {
        ("com.solus-project.budgie-panel", "builtin-theme"),
        ("com.solus-project.budgie-panel", "dark-theme"),
        ("com.solus-project.budgie-panel.panel:/com/solus-project/budgie-panel/panels/{{each}}/", "transparency"),
    }
    assert budgie.placement == gnome.placement and budgie.buttons == gnome.buttons
    with pytest.raises(ValueError, match="tidal"):
        desktop_from('id = "x"\ntitle = "X"\nlike = "tidal"\n')


# A theme that is worn takes another name


def test_a_changed_look_takes_the_other_name_and_back(look, home):
    from mellow_finch.colour.rgb import Rgba
    from mellow_finch.look.edits import with_accent
    from mellow_finch.wear.names import name_in_use, plan_to_follow

    session, history = SimulatedSession(MADE_UP["dark first"]), History(history_folder(home))
    was, before = values(session), state(home)
    theme = ("org.gnome.desktop.interface", "gtk-theme")
    names = []
    for accent in (None, "#8a5cc8", "#3c8f6a", "#3c8f6a"):
        worn = with_accent(look, Rgba(*bytes.fromhex(accent[1:]))) if accent else look
        files = own_files(home, history)
        plan = plan_to_follow(
            lambda folder, w=worn, f=files: dress(w, f, EVERYTHING, folder=folder), worn.folder, home, session, history
        )
        done = put_on(plan, history, session)
        names.append(session.settings[theme])
        sheet = home / ".local/share/themes" / names[-1] / "gtk-3.0/gtk.css"
        assert worn.colours["accent"].hex in sheet.read_text()
    own = look.folder
    assert names == [own, f"{own}-2", own, own] and done is None  # the same once more changes nothing
    assert name_in_use(history, own) == own
    while history.last_worn() is not None:
        undo_last(history, session)
    assert values(session) == was and state(home) == before


def test_the_page_of_desktops_is_made_from_the_data():
    import importlib.util

    root = Path(__file__).resolve().parents[2]
    spec = importlib.util.spec_from_file_location("desktop_table", root / "tools/desktop_table.py")
    table = importlib.util.module_from_spec(spec)
    spec.loader.exec_module(table)
    text = (root / "docs/desktops.md").read_text()
    assert table.page(text) == text


def test_x_resources_are_set_in_the_server_and_taken_out_again(look, home):
    import re

    before = {"XTerm*background": "#ffffff", "Marsh*note": "kept"}
    session = SimulatedSession(settings={("", name): value for name, value in before.items()})
    history = History(history_folder(home))
    plan = make_plan(dress(look, own_files(home, history), frozenset({"terminal"})), home, session)
    rows = {s.key: s.value for s in plan.settings if s.store == "xresources"}
    assert len(rows) > 20 and rows["XTerm*background"] == look.colours["terminal"].hex
    assert all(re.fullmatch(r"#[0-9a-f]{6}|\S+", value) for value in rows.values())
    session.settings.update({("", name): None for name in rows if name not in before})
    was = dict(session.settings)
    put_on(plan, history, session)
    assert session.settings["", "XTerm*background"] == look.colours["terminal"].hex
    assert session.settings["", "Marsh*note"] == "kept"
    undo_last(history, session)
    assert session.settings == was


@pytest.mark.consumer
def test_every_key_that_a_desktop_names_is_in_its_schema_where_that_is_installed():
    import shutil
    import subprocess

    if shutil.which("gsettings") is None:
        pytest.skip("gsettings is not installed")
    known = subprocess.run(["gsettings", "list-schemas"], capture_output=True, text=True).stdout.split()
    rows = {(r.schema, r.key) for d in desktops() for r in d.rows if r.store == "gsettings" and r.schema in known}
    assert len(rows) >= 5
    for schema in {schema for schema, _ in rows}:
        keys = subprocess.run(["gsettings", "list-keys", schema], capture_output=True, text=True).stdout.split()
        missing = {k for s, k in rows if s == schema} - set(keys)
        assert not missing, (schema, missing)
