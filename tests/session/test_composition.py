"""What stands on a desktop is told by what runs, by the desktop itself, and by what the home has set up."""

from __future__ import annotations

import pytest

from mellow_finch.components.catalogue import COMPONENT_BY_ID, COMPONENTS
from mellow_finch.components.files import FolderFiles
from mellow_finch.components.read.presence import presence_of
from mellow_finch.session.composition import composition_of, programs_told_by
from mellow_finch.session.desktop import desktop_named, desktops


def standing(home, desktop, *running, **files):
    """Return the composition of a home with some files, on a desktop, while some programs run."""
    for path, text in files.get("files", {}).items():
        (home / path).parent.mkdir(parents=True, exist_ok=True)
        (home / path).write_text(text)
    own = FolderFiles(home)
    presence = {c.id: presence_of(c, own, runs=running.__contains__) for c in COMPONENTS}
    assert set(running) <= programs_told_by() | {"xfce4-session", "budgie-wm", "budgie-panel"}
    return composition_of(desktop_named(desktop), presence, running, own)


def test_an_xfce_has_its_own_panel_where_its_settings_put_it(tmp_path):
    made = standing(tmp_path, "xfce", "xfwm4", "xfce4-panel", "xfce4-terminal")
    assert (made.panel, made.low, made.dock, made.borders) == ("gtk-3", False, "gtk-3", "xfwm")
    assert (made.terminal, made.widget, made.notices) == ("xfce-terminal", "", "")
    panel = ".config/xfce4/xfconf/xfce-perchannel-xml/xfce4-panel.xml"
    low = '<property name="position" type="string" value="p=8;x=640;y=780"/>'
    assert standing(tmp_path, "xfce", "xfwm4", files={panel: low}).low
    assert not standing(tmp_path, "xfce", "xfwm4", files={panel: low.replace("p=8", "p=6")}).low


def test_a_desktop_of_parts_has_the_parts_that_run(tmp_path):
    made = standing(tmp_path, "parts", "openbox", "polybar", "dunst", "kitty", "conky")
    assert (made.panel, made.notices, made.terminal, made.borders) == ("polybar", "dunst", "kitty", "openbox")
    assert made.dock == "" and made.widget.startswith("widget")
    bare = standing(tmp_path, "parts", "openbox")
    assert (bare.panel, bare.dock, bare.notices, bare.widget) == ("", "", "", "")
    assert standing(tmp_path, None).panel == ""


def test_budgie_has_the_decorations_of_the_compositor_that_draws_it(tmp_path):
    own = {".config/budgie-desktop/labwc/rc.xml": "<labwc_config/>"}
    newer = standing(tmp_path / "newer", "budgie", "labwc", "labwc-bridge", "budgie-panel", files=own)
    older = standing(tmp_path / "older", "budgie", "budgie-wm", "budgie-panel")
    assert (newer.borders, older.borders) == ("budgie-borders", "gtk-3") and newer.panel == older.panel == "gtk-3"


@pytest.mark.parametrize("said, low", [("position top", False), ("position bottom", True), ("", True)])
def test_a_window_manager_draws_its_own_bar_where_its_configuration_says(tmp_path, said, low):
    config = f"bar {{\n  {said}\n  status_command i3status\n}}\n"
    made = standing(tmp_path, "parts", "i3", "i3bar", files={".config/i3/config": config})
    assert (made.panel, made.low) == ("i3", low)
    assert standing(tmp_path, "parts", "i3").panel == "", "no bar runs"


def test_bars_lie_where_their_files_say(tmp_path):
    waybar = {
        ".config/waybar/config": '{ "position": "bottom", "modules-left": [] }',
        ".config/waybar/style.css": "* {}",
    }
    assert standing(tmp_path, "sway", "sway", "waybar", files=waybar).low
    tint2 = {".config/tint2/tint2rc": "panel_position = top center horizontal\n"}
    assert not standing(tmp_path, "parts", "openbox", "tint2", files=tint2).low


def test_a_terminal_that_is_set_up_stands_where_none_runs(tmp_path):
    made = standing(tmp_path, "parts", "openbox", files={".config/foot/foot.ini": "[colors]\n"})
    assert made.terminal == "foot"


def test_every_desktop_names_components_that_there_are():
    for desktop in desktops():
        for id_ in (desktop.shell, desktop.notices, desktop.terminal, desktop.borders):
            assert not id_ or id_ in COMPONENT_BY_ID, (desktop.id, id_)


ALL = (
    '"custom/launcher", "hyprland/workspaces", "wlr/taskbar", "hyprland/window", "tray", "clock#date", "battery", "backlight", '
    '"pulseaudio", "network", "cpu", "memory", "temperature", "disk", "mpris", "custom/tides", "custom/separator"'
)
BARS = [
    (
        ("sway", "sway", "waybar"),
        {".config/waybar/config.jsonc": f'{{ // mine\n "modules-left": [{ALL}],\n "modules-center": [],\n "modules-right": ["clock"] }}'},
        (
            ("launchers", "workspaces", "tasks", "title", "tray", "clock", "battery", "light", "sound", "network", "processor", "memory", "warmth", "room", "music", "tides"),
            (),
            ("clock",),
        ),
    ),
    (
        ("parts", "openbox", "polybar"),
        {".config/polybar/config.ini": "[bar/x]\nmodules-left = a b\nmodules-center = tides\n[module/a]\ntype = internal/i3\n[module/b]\nlabel = %x%\ntype = internal/xwindow\n[module/tides]\ntype = custom/script\n"},
        (("workspaces", "title"), ("tides",), ()),
    ),
    (("parts", "openbox", "tint2"), {".config/tint2/tint2rc": "panel_items = L:TFSBC\n"}, (("launchers", "tasks"), (), ("tray", "battery", "clock"))),
    (
        ("xfce", "xfwm4", "xfce4-panel"),
        {
            ".config/xfce4/xfconf/xfce-perchannel-xml/xfce4-panel.xml": '<property name="plugin-ids" type="array">\n <value type="int" value="1"/>\n'
            ' <value type="int" value="12"/>\n <value type="int" value="2"/>\n <value type="int" value="3"/>\n</property>\n'
            '<property name="plugin-1" type="string" value="whiskermenu"/>\n<property name="plugin-2" type="string" value="separator">\n'
            '<property name="plugin-3" type="string" value="systray"/>\n<property name="plugin-12" type="string" value="tasklist"/>\n'
        },
        (("menu", "tasks"), (), ("tray",)),
    ),
    (("lxqt", "lxqt-panel"), {".config/lxqt/panel.conf": "[panel1]\nplugins=mainmenu, desktopswitch, taskbar, statusnotifier, worldclock\n"}, (("menu", "workspaces", "tasks"), (), ("tray", "clock"))),
    (("parts", "openbox", "lxpanel"), {".config/lxpanel/LXDE/panels/panel": "Plugin {\n type=space\n}\nPlugin {\n type=menu\n}\nPlugin {\n type=taskbar\n}\nPlugin {\n type=dclock\n}\n"}, (("menu", "tasks"), (), ("clock",))),
]  # fmt: skip


@pytest.mark.parametrize(("runs", "files", "items"), BARS)
def test_a_bar_has_what_its_configuration_puts_on_it_in_that_order(tmp_path, runs, files, items):
    desktop, *running = runs
    assert standing(tmp_path, desktop, *running, files=files).items == items


def test_a_bar_whose_file_says_nothing_is_as_it_usually_is(tmp_path):
    assert standing(tmp_path, "sway", "sway", "waybar", files={".config/waybar/config": "{}"}).items is None
    assert standing(tmp_path, "xfce", "xfce4-panel").items is None
