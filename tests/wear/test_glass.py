"""Translucent surfaces where a look is applied: opaque without a compositor, one that is started and ended, panels."""

from __future__ import annotations

from dataclasses import replace

import pytest

from mellow_finch.components.catalogue import COMPONENT_BY_ID
from mellow_finch.look.decision_edits import with_companion
from mellow_finch.look.dressed import dress
from mellow_finch.look.edits import with_blur, with_opacity
from mellow_finch.session.base import ABSENT, UNSET, DesktopSetting, SettingValue
from mellow_finch.session.blurring import blurs
from mellow_finch.session.desktop import Wish, desktop_named, settings_for
from mellow_finch.session.simulated import MADE_UP, SimulatedSession
from mellow_finch.session.stores import program
from mellow_finch.session.stores.keyfile import KeyFiles
from mellow_finch.session.stores.program import Compositors
from mellow_finch.wear.glass import as_drawn_here, nothing_blurs, nothing_composites, surface_words
from mellow_finch.wear.history import History
from mellow_finch.wear.names import plan_to_follow
from mellow_finch.wear.places import history_folder
from mellow_finch.wear.plan import own_files
from mellow_finch.wear.signs import unseen
from mellow_finch.wear.wear import put_on, undo_last

PANELS = "org.mate.panel.toplevel.background:/org/mate/panel/toplevels/{}/background/"


@pytest.fixture
def glass(look):
    for kind in ("windows", "menus", "panel", "terminal"):
        look = with_opacity(look, kind, 0.8)
    return look


class KeyFileSession(SimulatedSession):
    """A made-up desktop whose key files are real ones."""

    def keep_in(self, home):
        self.files = KeyFiles(home)
        return self

    def read(self, setting):
        return self.files.read(setting.schema, setting.key) if setting.store == "keyfile" else super().read(setting)

    def write(self, setting):
        if setting.store == "keyfile":
            self.files.write(setting.schema, setting.key, setting.value, setting.kind)
        else:
            super().write(setting)

    def reset(self, setting, kind=""):
        if setting.store == "keyfile":
            self.files.reset(setting.schema, setting.key, kind)
        else:
            super().reset(setting, kind)


def planned(look, home, session, only=("gtk-3", "kitty", "alacritty")):
    history = History(history_folder(home))
    files = own_files(home, history)
    here = as_drawn_here(look, session)
    return plan_to_follow(
        lambda folder: dress(here, files, frozenset(only), folder=folder), look.folder, home, session, history
    )


def written(plan, end):
    return next(write.data.decode() for write in plan.writes if write.path.endswith(end))


def test_where_nothing_composites_everything_is_written_opaque_and_it_is_said(glass, home):
    bare, shown = SimulatedSession(MADE_UP["no compositor"]), SimulatedSession(MADE_UP["dark first"])
    assert nothing_composites(glass, bare) and not nothing_composites(glass, shown)
    flat, clear = planned(glass, home, bare), planned(glass, home, shown)
    assert "opacity = 1.00" in written(flat, "alacritty.toml") and "opacity = 0.80" in written(clear, "alacritty.toml")
    assert "rgba(" not in written(flat, "gtk-3.0/gtk.css").split("@define-color mf_window_drawn")[1].split(";")[0]
    asked = with_companion(glass, "compositor", "on")
    assert as_drawn_here(asked, bare) is asked and as_drawn_here(glass, bare).opacity == glass.opacity
    (sign,) = unseen(flat, replace(glass, companions={}), home, flat=True)
    assert sign.what == "Windows, Menus, Panel, Terminal: opaque, because no compositor is running"


def test_where_nothing_blurs_surfaces_are_read_without_it_and_it_is_said(glass, home):
    soft = with_blur(glass, True)
    sharp, blurring, unknown = (
        SimulatedSession(replace(MADE_UP["dark first"], blurs=blurs)) for blurs in (False, True, None)
    )
    assert nothing_blurs(soft, sharp) and not nothing_blurs(glass, sharp)
    here = as_drawn_here(soft, sharp)
    assert not here.blur and here.drawn_opacity() == with_blur(soft, False).drawn_opacity()
    for session in (blurring, unknown):
        assert as_drawn_here(soft, session) is soft
    (sign,) = unseen(planned(soft, home, sharp), soft, home, sharp=True)
    assert sign.what == "nothing blurs here: applied as without blur"
    bare = SimulatedSession(replace(MADE_UP["no compositor"], blurs=False))
    assert not nothing_blurs(soft, bare), "opaque surfaces show nothing that could be blurred"


@pytest.mark.parametrize(
    ("running", "path", "text", "told"),
    [
        ({"kwin_wayland", "plasmashell"}, "", "", True),
        ({"Hyprland"}, "", "", True),
        ({"xfwm4"}, ".config/picom.conf", 'blur-method = "dual_kawase"\n', False),
        ({"gnome-shell"}, "", "", None),
        ({"picom"}, "", "", False),
        ({"picom"}, ".config/picom.conf", '# blur-method = "dual_kawase"\nshadow = true\n', False),
        ({"picom", "openbox"}, ".config/picom.conf", 'blur-method = "dual_kawase"\n', True),
        ({"picom"}, ".config/picom/picom.conf", "blur: {\n  method: gaussian\n}\n", True),
        ({"picom"}, ".config/picom.conf", 'blur-method = "none"\n', False),
        ({"wayfire"}, ".config/wayfire.ini", "[core]\nplugins = alpha \\\n  blur \\\n  cube\n", True),
        ({"wayfire"}, ".config/wayfire.ini", "[core]\nplugins = alpha cube\n[blur]\nmethod = kawase\n", False),
        ({"sway"}, ".config/sway/config", "set $blur 3\n", False),
        ({"sway"}, ".config/sway/config", "corner_radius 8\nblur enable\n", True),
    ],
)
def test_whether_anything_blurs_is_told_by_what_draws_the_screen(running, path, text, told, tmp_path):
    if path:
        (tmp_path / path).parent.mkdir(parents=True)
        (tmp_path / path).write_text(text)
    assert blurs(running, tmp_path) is told


def test_a_compositor_is_started_once_and_ended_when_it_is_taken_back(monkeypatch):
    runs, ended = {}, []
    monkeypatch.setattr(program.shutil, "which", lambda name: f"/usr/bin/{name}")
    monkeypatch.setattr(program.processes, "own_processes", lambda names: {n: (7,) for n in names if n in runs})
    monkeypatch.setattr(program.processes, "end", lambda pids: ended.extend(pids))
    monkeypatch.setattr(program, "start", lambda words: runs.update({words[0]: 1}))
    monkeypatch.setattr(program.x11, "compositor", lambda: bool(runs))
    store = Compositors()
    assert store.read("picom", "picom") == UNSET
    store.write("picom", "picom", "runs", "")
    store.write("picom", "picom", "runs", "")
    assert store.read("picom", "picom") == SettingValue("set", "runs") and list(runs) == ["picom"]
    assert store.read("compfy", "compfy") == ABSENT  # another one composites
    store.reset("picom", "picom", "")
    assert ended == [7]


def test_settings_in_a_file_whose_folder_the_look_makes_are_set_and_taken_back(look, home):
    import shutil

    shutil.rmtree(home / ".config")
    session = KeyFileSession(replace(MADE_UP["plain"], desktop="parts")).keep_in(home)
    asked = with_companion(look, "compositor", "on")
    history = History(history_folder(home))
    plan = planned(asked, home, session)
    assert any(write.path.startswith(".config/") for write in plan.writes)
    put_on(plan, history, session)
    started = home / ".config/autostart/picom.desktop"
    assert started.read_text().splitlines() == ["[Desktop Entry]", "Type=Application", "Name=Compositor", "Exec=picom"]
    undone = undo_last(history, session)
    assert not started.exists() and not (home / ".config").exists() and not undone.left


def test_each_panel_of_a_desktop_gets_its_own_settings(look):
    strip = f".local/share/mellow-finch/panel/{look.folder}@1.png"
    lists = {("org.mate.panel", "toplevel-id-list"): "['top', 'low-2']"}
    own = {(PANELS.format(name), key): None for name in ("top", "low-2") for key in ("image", "fit", "type")}
    session = SimulatedSession(settings={**lists, **own})
    wish = Wish(look.folder, "dark", home="/h")
    found = settings_for(desktop_named("mate"), wish, (strip,), session)
    panels = [(s.schema, s.key, s.value) for s, row in found if row.each]
    assert panels == [
        (PANELS.format(name), key, value)
        for key, value in (("image", f"/h/{strip}"), ("fit", "true"), ("type", "image"))
        for name in ("top", "low-2")
    ]
    assert not [s for s, row in settings_for(desktop_named("mate"), wish, (), session) if row.each]


def test_settings_of_glass_go_with_what_is_see_through(look):
    words = surface_words(look)
    assert not words["shine"] and not words["soft"] and words["panel_alpha"] == "1.00"
    clear = with_blur(with_opacity(look, "panel", 0.75), True)
    words = surface_words(clear)
    panel = clear.colours["panel"]
    assert words["panel_rgba"] == f"rgba({panel.r}, {panel.g}, {panel.b}, 0.750)"
    assert words["dock_alpha"] == "0.75" and words["panel_lacking"] == "25" and words["windows_shine"] == ""
    assert surface_words(with_opacity(clear, "dock", 0.9))["dock_percent"] == "90"
    session = SimulatedSession(settings={})
    for look_, blur in ((look, []), (clear, ["BlurStrength", "NoiseStrength", "blurEnabled", "contrastEnabled"])):
        wish = Wish(look_.folder, "dark", surfaces=surface_words(look_))
        found = settings_for(desktop_named("plasma"), wish, (), session)
        assert sorted(s.key for s, _ in found if "blur" in s.schema.lower() or "Plugins" in s.schema) == blur


def test_the_dock_of_an_extension_is_set_where_its_schema_is_there(look):
    schema = "org.gnome.shell.extensions.dash-to-dock"
    wish = Wish(look.folder, "dark", surfaces=surface_words(with_opacity(look, "dock", 0.8)))
    keys = {DesktopSetting(schema, "background-opacity", "0.80"), DesktopSetting(schema, "transparency-mode", "FIXED")}
    for settings, wanted in (({}, set()), ({(schema, "background-opacity"): None}, keys)):
        found = {
            s
            for s, _ in settings_for(
                desktop_named("gnome"), wish, (), SimulatedSession(settings=settings or {("x", "y"): None})
            )
        }
        assert found & keys == wanted


@pytest.mark.parametrize(
    ("path", "text", "kind", "wanted"),
    [
        (".config/conky/conky.conf", "conky.config = {\n own_window_argb_visual = false, -- mine\n own_window_argb_value = 180, -- half\n own_window_colour = '202830',\n default_color = 'white',\n}\nconky.text = [[ x ]]\n", "widgets", "own_window_argb_visual = true, -- mine\n own_window_argb_value = 204, -- half\n"),
        (".conkyrc", "own_window_argb_visual yes\nown_window_argb_value 180\nown_window_colour 202830\ndefault_color white\nTEXT\nx\n", "widgets", "own_window_argb_visual true\nown_window_argb_value 204\n"),
        (".config/tint2/tint2rc", "rounded = 0\nbackground_color = #1a1b26 60\nborder_color = #000000 0\n\nrounded = 3\nbackground_color = #3a3b56 100\ntask_font_color = #eeeeee 100\n", "panel", " 80\n"),
    ],
)  # fmt: skip
def test_an_opacity_in_a_persons_own_file_is_set_and_the_rest_of_its_line_stays(
    look, tmp_path, path, text, kind, wanted
):
    from mellow_finch.components.files import FolderFiles

    place = tmp_path / path
    place.parent.mkdir(parents=True, exist_ok=True)
    place.write_text(text)
    ids = {"conky.conf": "widget", ".conkyrc": "widget-words", "tint2rc": "tint2"}
    component = COMPONENT_BY_ID[ids[place.name]]
    files = FolderFiles(tmp_path)
    as_before = {f.path: f.data.decode() for f in component.write(look.scheme(), files)}.get(path, text)
    fresh = {f.path: f.data.decode() for f in component.write(with_opacity(look, kind, 0.8).scheme(), files)}[path]
    assert wanted in fresh and wanted not in as_before
    assert len(fresh.splitlines()) == len(text.splitlines())
