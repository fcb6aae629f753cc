"""What each desktop is started with on a virtual screen, and how: its programs, its files, its words for itself."""

from __future__ import annotations

import atexit
import os
import shutil
import subprocess
import sys
import time
from contextlib import suppress
from pathlib import Path

import psutil

HOME = Path.home()
WINDOW = """
import gi
gi.require_version("Gtk", "3.0")
from gi.repository import Gtk
w = Gtk.Window(title="Hide log")
w.set_default_size(420, 260)
w.move(160, 160)
w.add(Gtk.Label(label=""))
w.connect("destroy", Gtk.main_quit)
w.show_all()
Gtk.main()
"""
KDED = "kded6" if shutil.which("kded6") else "kded5"
# KWin 6 lies in another compositor's window here; where that is.
INSIDE, OUTSIDE = KDED == "kded6" and bool(shutil.which("sway")), "wayland-1"
# Budgie from 10.10 on, which labwc draws.
BRIDGE = "/usr/libexec/budgie-desktop/labwc-bridge"
NEWER_BUDGIE = Path(BRIDGE).exists()
STARTS = {
    "xfce": (["xfsettingsd"], ["xfwm4"], ["xfdesktop"]),
    "mate": (["mate-settings-daemon"], ["marco"], ["caja", "--no-default-window", "--force-desktop"]),
    "openbox": (["xsettingsd"], ["openbox"], ["feh", "--bg-fill", str(HOME / "Pictures/lighthouse-fog.jpg")]),
    "i3": (["xsettingsd"], ["i3"], ["feh", "--bg-fill", str(HOME / "Pictures/lighthouse-fog.jpg")]),
    "plasma": ([KDED], ["kwin_x11"], ["plasmashell"]),
    "plasma-wayland": (
        [
            str(HOME / "bin/kwin_wayland"),
            *(["--wayland-display", str(HOME / "out" / OUTSIDE)] if INSIDE else ["--virtual"]),
            *("--width", "1280", "--height", "800"),
            "--no-lockscreen",
            "--socket",
            "wayland-0",
        ],
        [KDED],
        ["plasmashell"],
    ),
    "cinnamon": (["/usr/bin/csd-xsettings"], ["cinnamon"], ["csd-background"]),
    "budgie": (
        (
            ["labwc", "--config-dir", str(HOME / ".config/budgie-desktop/labwc")],
            ["/usr/bin/python3", BRIDGE],
            ["budgie-daemon"],
            ["budgie-panel"],
        )
        if NEWER_BUDGIE
        else (["/usr/libexec/gsd-xsettings"], ["budgie-wm"], ["budgie-panel"])
    ),
    "gnome": (["gnome-shell", "--headless", "--unsafe-mode", "--virtual-monitor", "1280x800"],),
    "bspwm": (["xsettingsd"], ["bspwm"], ["feh", "--bg-fill", str(HOME / "Pictures/lighthouse-fog.jpg")]),
    "sway": (["sway"],),
    "labwc": (["labwc"],),
    "wayfire": (["wayfire"],),
    "lxqt": (  # its session watches the theme, and takes another one when its folder goes
        ["lxqt-session"],
        ["lxqt-panel"],
        ["pcmanfm-qt", "--desktop", "--profile=lxqt"],
        ["pcmanfm-qt", "--set-wallpaper", str(HOME / "Pictures/lighthouse-fog.jpg"), "--wallpaper-mode", "fit"],
    ),
}
FILES = {
    ".config/xsettingsd/xsettingsd.conf": 'Net/ThemeName "Adwaita"\nGtk/ButtonImages 1\n',
    ".config/i3/config": "# i3 config file (v4)\nfont pango:monospace 10\nfor_window [class=.*] floating enable\n",
    ".config/openbox/rc.xml": Path("/etc/xdg/openbox/rc.xml").read_text()
    if Path("/etc/xdg/openbox/rc.xml").exists()
    else "",
    ".config/sway/config": "default_border normal 2\nfor_window [title=.*] floating enable\noutput * bg ~/Pictures/lighthouse-fog.jpg fill\n",
    ".config/bspwm/bspwmrc": "#!/bin/sh\nbspc rule -a '*' state=floating\n",
    ".config/labwc/rc.xml": '<labwc_config><windowRules><windowRule title="Hide log" serverDecoration="yes">'
    '<action name="MoveTo" x="160" y="160"/></windowRule></windowRules></labwc_config>\n',
    ".config/labwc/autostart": "# pictures\nswaybg -i 'HOME/Pictures/lighthouse-fog.jpg' -m fill >/dev/null 2>&1 &\n",
    ".config/wayfire.ini": "[core]\nplugins = autostart decoration place window-rules\n[place]\nmode = center\n"
    "[autostart]\nautostart_wf_shell = false\nbackground = wf-background\n[decoration]\nborder_size = 4\n",
    ".config/wf-shell.ini": "[background]\nimage = HOME/Pictures/lighthouse-fog.jpg\nfill_mode = fill_and_crop\n",
    ".config/lxqt/session.conf": "[General]\n__userfile__=true\nwindow_manager=openbox\n",
    ".config/lxqt/lxqt.conf": "[General]\n__userfile__=true\ntheme=silver\nicon_theme=Adwaita\n",
    ".fehbg": "#!/bin/sh\nfeh --no-fehbg --bg-fill '/usr/share/backgrounds/xfce/xfce-stripes.svg' \n",
}
CALLED = {
    "xfce": "XFCE",
    "mate": "MATE",
    "lxqt": "LXQt",
    "plasma": "KDE",
    "plasma-wayland": "KDE",
    "cinnamon": "X-Cinnamon",
    "gnome": "GNOME",
    "budgie": "Budgie:GNOME",
    "sway": "sway",
    "labwc": "labwc:wlroots",
    "wayfire": "Wayfire:wlroots",
}
# Compositors of Wayland that tell nobody where a window lies; here it is put where it is known.
FIXED = {
    "plasma-wayland": (430, 262, 420, 260),
    "gnome": (430, 312, 420, 254),
    "labwc": (162, 188, 418, 258),
    "wayfire": (430, 230, 420, 260),
    **({"budgie": (162, 188, 418, 258)} if NEWER_BUDGIE else {}),
}
OF_THEIR_OWN = (
    "cinnamon",
    *(() if NEWER_BUDGIE else ("budgie",)),
)  # they want a session's kind, and a screen that tells how often it is drawn
OF_WLROOTS = ("sway", "labwc", "wayfire", *(("budgie",) if NEWER_BUDGIE else ()))
QUICK = ("xfce", "mate", "openbox", "i3", "bspwm", "lxqt")
DESKTOP = sys.argv[1] if len(sys.argv) > 1 else ""
PANELS = {
    "xfce": (640, 8),
    "mate": (640, 8),
    "lxqt": (640, 796),
    "plasma": (640, 790),
    "plasma-wayland": (640, 790),
    "cinnamon": (640, 790),
    "gnome": (900, 14),
    "budgie": (640, 790),
}


_running = []


def start(words, **more):
    null = subprocess.DEVNULL
    child = subprocess.Popen(words, stdin=null, stdout=null, stderr=null, **more)
    _running.append(child)
    return child


def leave():
    """End all that was started, and this at once: libraries may still be drawing."""
    end_all()
    os._exit(0)


@atexit.register
def end_all():
    """End what was started, and what that has started on this bus."""
    for child in _running:
        child.kill()
    own = os.environ.get("DBUS_SESSION_BUS_ADDRESS")
    for process in psutil.process_iter():
        with suppress(psutil.Error):
            if own and process.pid != os.getpid() and process.environ().get("DBUS_SESSION_BUS_ADDRESS") == own:
                process.kill()


def begin_kwin():
    """Let KWin run without what the system lets it do beyond others, and everything find its screen."""
    (HOME / "bin").mkdir(exist_ok=True)
    shutil.copyfile(shutil.which("kwin_wayland"), HOME / "bin/kwin_wayland")
    (HOME / "bin/kwin_wayland").chmod(0o755)
    (HOME / ".config/kwinrc").write_text("[Windows]\nPlacement=Centered\n")
    if INSIDE:
        begin_outside()
    names = {"WAYLAND_DISPLAY": "wayland-0", "XDG_SESSION_TYPE": "wayland", "KWIN_SCREENSHOT_NO_PERMISSION_CHECKS": "1"}
    os.environ |= names
    subprocess.run(["dbus-update-activation-environment", *names, "XDG_CURRENT_DESKTOP", "XDG_RUNTIME_DIR"])


def begin_budgie():
    """Lay down what Budgie's own start would, and let everything find its screen."""
    own, shipped = HOME / ".config/budgie-desktop/labwc", Path("/usr/share/budgie-desktop/labwc")
    own.mkdir(parents=True)
    rule = '<windowRule title="Hide log" serverDecoration="yes"><action name="MoveTo" x="160" y="160"/></windowRule>'
    rules = (shipped / "rc.xml").read_text().replace("<windowRules>", f"<windowRules>{rule}", 1)
    (own / "rc.xml").write_text(rules)
    shutil.copyfile(shipped / "menu.xml", own / "menu.xml")
    names = {"WAYLAND_DISPLAY": "wayland-0", "XDG_SESSION_TYPE": "wayland", "GDK_BACKEND": "wayland"}
    os.environ |= names
    subprocess.run(["dbus-update-activation-environment", *names, "XDG_CURRENT_DESKTOP", "XDG_RUNTIME_DIR"])


def begin_outside():
    """Start the compositor in which KWin has a window that fills its screen: KWin 6 gives a picture of itself with OpenGL only."""
    made = HOME / "out"  # a short name: the paths of sockets have an end
    made.mkdir()
    (made / "config").write_text("output * mode 1280x800\ndefault_border none\n")
    headless = {"WLR_BACKENDS": "headless", "WLR_RENDERER": "pixman", "WLR_LIBINPUT_NO_DEVICES": "1"}
    elsewhere = {"XDG_RUNTIME_DIR": str(made), "DBUS_SESSION_BUS_ADDRESS": "disabled:", "XDG_CURRENT_DESKTOP": ""}
    start(["sway", "-c", str(made / "config")], env={**os.environ, **headless, **elsewhere})
    end = time.monotonic() + 20
    while not (made / OUTSIDE).exists() and time.monotonic() < end:
        time.sleep(0.2)
    os.environ["KWIN_COMPOSE"] = "Q"
