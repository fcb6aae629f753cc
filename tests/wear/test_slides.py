"""What the desktop shows of several pictures: one, one per monitor, or a slideshow; set, and taken back exactly."""

from __future__ import annotations

from dataclasses import replace
from pathlib import Path
from xml.etree import ElementTree

import pytest

from mellow_finch.components.files import FolderFiles
from mellow_finch.look.dressed import dress
from mellow_finch.look.edits import with_showing
from mellow_finch.look.file import look_from_json, look_to_json
from mellow_finch.look.gather import look_of_pictures
from mellow_finch.picture.placement import Showing
from mellow_finch.session.desktop import desktop_named, desktops
from mellow_finch.session.now import now
from mellow_finch.session.simulated import MADE_UP, SimulatedSession
from mellow_finch.session.stores.launched import LaunchedPictures
from mellow_finch.shelf.contents import settings_for_anyone
from mellow_finch.wear.history import History
from mellow_finch.wear.plan import make_plan
from mellow_finch.wear.wear import put_on, undo_last

MONITORS = ("HDMI-1", "DP-1", "DP-2")


@pytest.fixture
def several(pictures):
    """Return a look of three pictures, and them."""
    paths = pictures[:3]
    look = look_of_pictures(paths, "dark")
    assert len(look.pictures) == 3 and look.shown_pictures == (look.source,)
    return look, [str(path) for path in paths]


def xfce():
    keys = [f"/backdrop/screen0/monitor{m}/workspace{w}/last-image" for m in MONITORS for w in (0, 1)]
    made_up = replace(MADE_UP["slideshow"], settings={("xfce4-desktop", key): "/old.png" for key in keys}, traps=())
    return SimulatedSession(made_up), keys


def planned(look, home, session):
    return make_plan(dress(look, FolderFiles(home), frozenset({"kitty"})), home, session)


def test_what_is_shown_is_kept_in_the_look_and_is_one_picture_at_first(several):
    look = with_showing(several[0], Showing("slideshow", 45))
    assert look_from_json(look_to_json(look)).showing == Showing("slideshow", 45)
    assert set(look.shown_pictures) == set(several[1]) and look.shown_pictures[0] == look.source
    left = replace(look, pictures=tuple(replace(m, weight=0.0) if m.path != look.source else m for m in look.pictures))
    assert left.shown_pictures == (look.source,)


def test_each_monitor_gets_a_picture_on_all_its_workspaces(several, home):
    session, keys = xfce()
    look = with_showing(several[0], Showing("monitors"))
    put_on(planned(look, home, session), History(home / "history"), session)
    shown = {key: session.settings["xfce4-desktop", key] for key in keys}
    for i, monitor in enumerate(sorted(MONITORS)):
        own = {path for key, path in shown.items() if f"monitor{monitor}/" in key}
        assert own == {look.shown_pictures[i]}, shown
    undo_last(History(home / "history"), session)
    assert set(session.settings.values()) == {"/old.png"}


def test_two_compositors_outputs_get_two_pictures(several, tmp_path, monkeypatch):
    config = tmp_path / ".config/labwc/autostart"
    config.parent.mkdir(parents=True)
    config.write_text("swaybg -o DP-1 -i /old.png &\nswaybg -o DP-2 -i /older.png &\n")
    monkeypatch.setattr(SimulatedSession, "desktop", "labwc")
    store = LaunchedPictures(tmp_path)
    monkeypatch.setattr(SimulatedSession, "keys", lambda _self, _store, schema, pattern: store.keys(schema, pattern))
    look = with_showing(several[0], Showing("monitors"))
    rows = [s for s in planned(look, tmp_path, SimulatedSession()).settings if s.store == "launched"]
    assert [(s.key, s.value) for s in rows] == [
        ("swaybg 1", look.shown_pictures[0]),
        ("swaybg 2", look.shown_pictures[1]),
    ]


def test_a_slideshow_is_a_folder_of_its_images_and_goes_on_by_itself(several, home, monkeypatch):
    session, keys = xfce()
    for key in keys:  # the rows beside them, which this desktop has as well
        for name in ("backdrop-cycle-timer", "backdrop-cycle-period", "backdrop-cycle-enable"):
            session.settings["xfce4-desktop", key.replace("last-image", name)] = None
    before = dict(session.settings)
    look = with_showing(several[0], Showing("slideshow", 15))
    plan, history = planned(look, home, session), History(home / "history")
    put_on(plan, history, session)
    folder = home / ".local/share/mellow-finch/slides" / look.folder
    files = sorted(folder.iterdir())
    assert [f.read_bytes() for f in files] == [Path(p).read_bytes() for p in look.shown_pictures]
    for key in keys:
        place = key.removesuffix("last-image")
        own = {n: session.settings["xfce4-desktop", place + n] for n in ("last-image", "backdrop-cycle-timer", "backdrop-cycle-period", "backdrop-cycle-enable")}  # fmt: skip
        assert own == {"last-image": str(files[0]), "backdrop-cycle-timer": "15", "backdrop-cycle-period": "1", "backdrop-cycle-enable": "true"}  # fmt: skip
        session.settings["xfce4-desktop", key] = str(files[2])  # the desktop went on
    left = undo_last(history, session)
    assert session.settings == before and not folder.exists(), left


@pytest.mark.parametrize(("id_", "key"), [("gnome", "picture-uri"), ("mate", "picture-filename")])
def test_a_slideshow_is_a_list_where_the_desktop_reads_one(several, home, monkeypatch, id_, key):
    schema = {"gnome": "org.gnome.desktop.background", "mate": "org.mate.background"}[id_]
    monkeypatch.setattr(SimulatedSession, "desktop", id_)
    session = SimulatedSession(settings={(schema, key): "/old.png", (schema, "picture-options"): "zoom"})
    look = with_showing(several[0], Showing("slideshow", 20))
    history = History(home / "history")
    put_on(planned(look, home, session), history, session)
    place = home / ".local/share/mellow-finch/slides" / look.folder / "slides.xml"
    assert session.settings[schema, key] == (place.as_uri() if id_ == "gnome" else str(place))
    tree = ElementTree.parse(place).getroot()
    assert [e.text for e in tree.iter("file")] == list(look.shown_pictures)
    assert sum(float(e.text) for e in tree.iter("duration")) == 20 * 60 * len(look.shown_pictures)
    assert now(session).picture == look.source
    undo_last(history, session)
    assert session.settings[schema, key] == "/old.png" and not place.parent.exists()


def test_where_there_is_no_slideshow_the_first_picture_is_set_and_no_file_is_made(several, home, monkeypatch):
    monkeypatch.setattr(SimulatedSession, "desktop", "lxqt")
    session = SimulatedSession(settings={(".config/pcmanfm-qt/lxqt/settings.conf#Desktop", "Wallpaper"): "/old.png"})
    look = with_showing(several[0], Showing("slideshow", 20))
    plan = planned(look, home, session)
    assert [s.value for s in plan.settings if s.key == "Wallpaper"] == [look.source]
    assert not [w.path for w in plan.writes if "slides" in w.path]
    assert not desktop_named("lxqt").can_show(look.showing)


def test_every_desktop_says_the_picture_once_whatever_is_shown():
    for desktop in desktops():
        for cycling in ("still", "cycling"):
            rows = [
                r for r in desktop.rows if r.title == "Wallpaper" and r.needs in ("", cycling) and r.store != "launched"
            ]
            places = [(r.schema, r.key, r.store) for r in rows]
            assert len(places) == len(set(places)), (desktop.id, cycling)


def test_a_parcel_sets_the_first_picture_on_every_desktop_that_has_a_command(several):
    set_ = {key for _, schema, key, value in settings_for_anyone(several[0]) if "backgrounds" in value}
    assert {"picture-uri", "picture-filename", "/backdrop/*/last-image"} <= set_
