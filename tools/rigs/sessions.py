"""Made homes that each have a desktop of their own kind: what runs there, which files they have, how surfaces are opened."""

from __future__ import annotations

from typing import NamedTuple


class Own(NamedTuple):
    """A home: the desktop it is on, what it starts besides, its files, and how its surfaces are opened.

    opens: by role, a command line, or where to click; empty: the roles of which the stage may draw nothing; unseen:
    those that this virtual screen does not show.
    """

    desktop: str
    starts: tuple[str, ...] = ()
    files: tuple[tuple[str, str], ...] = ()
    opens: tuple[tuple[str, str], ...] = ()
    empty: tuple[str, ...] = ()
    unseen: tuple[str, ...] = ()


_POLYBAR = """[colors]
background = #20242b
foreground = #d8dee6

[bar/main]
width = 100%
height = 28
background = ${colors.background}
foreground = ${colors.foreground}
modules-left = where
modules-right = date
enable-ipc = true

[module/where]
type = custom/text
content = Reedholm

[module/date]
type = internal/date
date = %H:%M
"""
_WAYBAR = """{"layer": "top", "height": 30, "modules-left": ["sway/workspaces"], "modules-right": ["clock"]}
"""
_WAYBAR_SHEET = """* { font-family: sans-serif; }
window#waybar { background: #1d2026; color: #dddddd; }
#clock { padding: 0 10px; }
"""
_CONKY = """conky.config = {
    alignment = 'bottom_right', own_window = true, own_window_type = 'desktop', own_window_argb_visual = false,
    own_window_colour = '20242b', default_color = 'd8dee6', double_buffer = true, minimum_width = 260, minimum_height = 160,
    update_interval = 2,
}
conky.text = [[
Reedholm ${time %H:%M}
]]
"""
_DUNST = """[global]
    width = 300
    frame_width = 1
[urgency_normal]
    background = "#20242b"
    foreground = "#d8dee6"
    timeout = 60
"""
_ALACRITTY = """colors:
  primary:
    background: '#20242b'
    foreground: '#d8dee6'
"""
_KITTY = "background #20242b\nforeground #d8dee6\n"
_FOOT = "[colors]\nbackground=20242b\nforeground=d8dee6\n"
_TINT2 = """rounded = 0
background_color = #20242b 100
panel_items = TC
panel_size = 100% 32
panel_position = bottom center horizontal
panel_background_id = 1
task_font_color = #d8dee6 100
time1_format = %H:%M
clock_font_color = #d8dee6 100
"""
_LXQT_PANEL = """[General]
__userfile__=true

[panel1]
plugins=mainmenu, taskbar, worldclock
position=Bottom

[mainmenu]
type=mainmenu

[taskbar]
type=taskbar

[worldclock]
type=worldclock
"""
_EVAL = "gdbus call --session --dest org.gnome.Shell --object-path /org/gnome/Shell --method org.gnome.Shell.Eval "
_GNOME_MENU = _EVAL + "'const m = Main.panel.statusArea; (m.quickSettings || m.aggregateMenu).menu.open()'"
OWN = {
    "xfce": Own(
        "xfce",
        ("xfce4-panel", "/usr/lib/x86_64-linux-gnu/xfce4/notifyd/xfce4-notifyd"),
        opens=(("terminal", "xfce4-terminal --disable-server"), ("menu", "xfce4-popup-applicationsmenu"), ("kde", "kate")),
        empty=("widget",),
    ),
    "mate": Own("mate", ("mate-panel",), opens=(("terminal", "mate-terminal --disable-factory"), ("menu", "click 40 10"), ("kde", "kate")), empty=("widget",)),
    "gnome": Own("gnome", opens=(("kde", "env QT_QPA_PLATFORM=wayland kate"), ("menu", _GNOME_MENU)), empty=("widget",), unseen=("notices",)),  # it shows none where nobody moves
    "plasma": Own("plasma", opens=(("terminal", "konsole"), ("menu", "click 22 780")), empty=("widget", "dock")),
    "cinnamon": Own("cinnamon", opens=(("menu", "click 20 780"), ("kde", "kate")), empty=("widget", "dock")),
    "lxqt": Own("lxqt", files=((".config/lxqt/panel.conf", _LXQT_PANEL),), opens=(("terminal", "qterminal"), ("menu", "click 16 784")), empty=("widget", "dock")),
    "i3-polybar": Own(
        "i3",
        ("polybar main", "dunst"),
        ((".config/polybar/config.ini", _POLYBAR), (".config/dunst/dunstrc", _DUNST), (".config/kitty/kitty.conf", _KITTY)),
        (("terminal", "kitty"), ("kde", "kate")),
        ("widget", "dock", "menu"),
    ),
    "sway-waybar": Own(
        "sway",
        ("waybar", "mako"),
        ((".config/waybar/config", _WAYBAR), (".config/waybar/style.css", _WAYBAR_SHEET), (".config/foot/foot.ini", _FOOT)),
        (("terminal", "foot"), ("kde", "kate")),
        ("widget", "dock", "menu"),
    ),
    "openbox-tint2": Own(
        "openbox",
        ("tint2", "dunst", "conky"),
        ((".config/tint2/tint2rc", _TINT2), (".config/conky/conky.conf", _CONKY), (".Xresources", "*background: #20242b\n")),
        (("terminal", "sh -c 'xrdb -merge ~/.Xresources; exec urxvt'"), ("widget", "conky"), ("kde", "kate")),
        ("dock", "menu"),
    ),
    "bspwm": Own(
        "bspwm",
        ("polybar main", "dunst"),
        ((".config/polybar/config.ini", _POLYBAR), (".config/alacritty/alacritty.yml", _ALACRITTY)),
        (("terminal", "alacritty"), ("kde", "kate")),
        ("widget", "dock", "menu"),
    ),
    "bare": Own("openbox", opens=(("kde", "kate"),), empty=("widget", "dock", "menu", "panel", "notices")),
}  # fmt: skip
