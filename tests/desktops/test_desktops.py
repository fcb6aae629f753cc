"""Real desktops on a virtual screen: they follow, take a second look, and are exactly as before when it is taken off.

They take a minute and programs that are not small, so they run with a word of their own: ./finch test desktops.
"""

from __future__ import annotations

import json
import os
import re
import shutil
import subprocess
import sys
from pathlib import Path

import pytest
from PIL import Image, ImageOps
from tools.rigs import desktop as driver
from tools.rigs import screened

from mellow_finch.colour.difference import colour_difference
from mellow_finch.colour.rgb import Rgba
from mellow_finch.demo.build import demo_archive
from mellow_finch.look.carry import load_look, save_look
from mellow_finch.look.gather import look_of_pictures
from mellow_finch.look.theme_edits import with_brought, with_worn

ROOT = Path(__file__).resolve().parents[2]
# Which of window, border and picture follow at once, and what has to be installed.
DESKTOPS = {
    "xfce": (("window", "border", "picture"), ("xfsettingsd", "xfwm4", "xfdesktop")),
    "mate": (("window", "border", "picture"), ("mate-settings-daemon", "marco", "caja")),
    "openbox": (("window", "border", "picture"), ("openbox", "xsettingsd", "feh")),
    "i3": (("window", "picture"), ("i3", "xsettingsd", "feh")),
    "lxqt": (("border", "panel", "picture"), ("openbox", "pcmanfm-qt", "lxqt-panel")),
    "plasma": (("border", "panel", "picture"), ("plasmashell", "kwin_x11", "kded6|kded5")),
    "plasma-wayland": (("window", "border", "panel", "picture"), ("plasmashell", "kwin_wayland", "kded6|kded5")),
    "cinnamon": (("window", "border", "panel"), ("cinnamon", "csd-xsettings")),
    "budgie": (("window", "border", "panel"), ("budgie-wm|labwc-bridge", "budgie-panel", "gsd-xsettings")),
    "gnome": (("window", "border", "panel", "picture"), ("gnome-shell",)),
    "sway": (("window", "border", "picture"), ("sway", "swaybg", "grim")),
    "labwc": (("window", "border", "picture"), ("labwc", "swaybg", "grim")),
    "wayfire": (("window", "border", "picture"), ("wayfire", "wf-background", "grim")),
}
_PLACES = ("/usr/bin", "/usr/libexec", "/usr/libexec/budgie-desktop", "/usr/lib/x86_64-linux-gnu")

pytestmark = pytest.mark.skipif(
    os.environ.get("FINCH_DESKTOPS") != "1", reason="real desktops run with “./finch test desktops”"
)


def installed(program):
    return any(shutil.which(p, path=os.pathsep.join(_PLACES)) for p in program.split("|"))


def close(seen, wanted):
    return colour_difference(Rgba(*seen), Rgba(*wanted[:3]))


def driven(desktop, home, person, rig="desktop", **more):
    """Let the driver run a desktop, and return what it saw and the two looks."""
    programs = (*(DESKTOPS[desktop][1] if desktop in DESKTOPS else ()), "xvfb-run", "dbus-run-session")
    missing = [p for p in programs if not installed(p)]
    if missing:
        pytest.skip(f"{', '.join(missing)} not installed")
    (person / "Pictures").mkdir(parents=True)
    (person / "run").mkdir(mode=0o700)
    looks = []
    for name, tone in (("reedbed-at-dawn", "dark"), ("frost-on-sedge", "light")):
        picture = person / "Pictures" / f"{name}.jpg"
        shutil.copy(home / "Pictures" / picture.name, picture)
        look = look_of_pictures([picture], tone)
        if looks:  # the second one wears a theme as people share them, in its colours
            archive = str(shutil.copy(demo_archive(home), person / "Pictures"))
            look = with_worn(with_brought(look, archive), archive, {"gtk-3", "openbox", "icons", "pointers"})
        save_look(look, person / f"{name}.finch")
        looks.append(load_look(person / f"{name}.finch"))
    shutil.copy(home / "Pictures/lighthouse-fog.jpg", person / "Pictures")
    environment = {
        "PATH": os.pathsep.join([str(Path(sys.executable).parent), os.environ["PATH"], *_PLACES]),
        "HOME": str(person),
        "XDG_RUNTIME_DIR": str(person / "run"),
        "PYTHONPATH": f"{ROOT / 'src'}{os.pathsep}{ROOT}",
        **more,
    }
    words = ["dbus-run-session", "--", sys.executable]
    if desktop == "gnome" or desktop in driver.OF_WLROOTS:  # they have a screen of their own, and do not start for root
        environment |= {"WLR_BACKENDS": "headless", "WLR_RENDERER": "pixman", "WLR_LIBINPUT_NO_DEVICES": "1"}
        words = [*(["unshare", "--user", "--map-user=1000", "--map-group=1000"] if os.getuid() == 0 else []), *words]
    elif desktop in driver.OF_THEIR_OWN and installed(screened.SERVER):
        words = [sys.executable, "-m", "tools.rigs.screened", *words]
    elif desktop != "plasma-wayland":
        words = ["xvfb-run", "-a", "-s", "-screen 0 1280x800x24", *words]
    files = [str(person / f"{name}.finch") for name in ("reedbed-at-dawn", "frost-on-sedge")]
    done = subprocess.run(
        [*words, "-m", f"tools.rigs.{rig}", desktop, *files],
        env=environment, cwd=person, capture_output=True, text=True, timeout=600,
    )  # fmt: skip
    assert (person / "seen.json").exists(), done.stderr[-3000:]
    return json.loads((person / "seen.json").read_text()), looks


@pytest.mark.parametrize("desktop", DESKTOPS if os.environ.get("FINCH_KILL") == "all" else ["xfce"])
def test_killed_again_and_again_on_a_real_desktop(desktop, home, tmp_path):
    out, _ = driven(desktop, home, tmp_path / "person", FINCH_DRIVE="kill")
    assert out["wrong"] == [] and out["kills"] >= driver.KILLS // 2


def test_the_toolkits_colours_follow_a_wallpaper_that_the_desktops_own_tool_sets(home, tmp_path):
    out, looks = driven("xfce", home, tmp_path / "person", FINCH_DRIVE="follow")
    assert close(out["first"]["window"], looks[0].colours["window"]) <= 3, out
    for step in out["steps"]:
        assert close(step["window"], step["want"]) <= 3 and step["took"] < driver.SHOWS, out


@pytest.mark.parametrize(("desktop", "row"), [("xfce", r"cycle-timer 15$"), ("plasma", r"^slideshow .*\|900\|1\|")])
def test_a_real_desktop_goes_through_a_slideshow_and_is_back_exactly(desktop, row, home, tmp_path):
    out, _ = driven(desktop, home, tmp_path / "person", FINCH_DRIVE="slides")
    assert out["worn"][0] == out["undone"][0] == 0 and out["seen"] == [True, True, True], out
    assert any(re.search(row, f"{key} {value.strip()}") for key, value in out["rows"].items()), out
    assert out["after"] == out["first"] and out["exact"], out


def test_two_real_screens_get_a_picture_each_and_their_old_ones_back(home, tmp_path):
    out, _ = driven("sway", home, tmp_path / "person", FINCH_DRIVE="two", WLR_HEADLESS_OUTPUTS="2")
    assert out["worn"][0] == out["undone"][0] == 0 and out["screen"] == [2560, 720], out
    assert all(close(a, b) <= 3 for a, b in zip(out["seen"], out["want"], strict=True)), out
    assert out["back"] and out["same"], out


def test_a_real_toolkit_window_follows_while_a_tried_look_is_tuned_and_all_goes_back(home, tmp_path):
    out, looks = driven("xfce", home, tmp_path / "person", FINCH_DRIVE="tune")
    assert close(out["first"]["window"], looks[0].colours["window"]) <= 3, out
    assert len(out["steps"]) == 4 and all(step["there"] for step in out["steps"]), out
    assert out["settings"] and out["files"], out


@pytest.mark.parametrize("desktop", DESKTOPS)
def test_a_real_desktop_follows_and_goes_back(desktop, home, tmp_path):
    follow = DESKTOPS[desktop][0]
    out, looks = driven(desktop, home, tmp_path / "person")
    before, after = out["before"], out["after"]
    for step, look in zip(out["steps"], looks, strict=True):
        assert step["code"] == 0, step["said"]
        seen = step["seen"]
        if "window" in follow:
            assert close(seen["window"], look.colours["window"]) <= 3 and step["follows"] < driver.SHOWS
        # Where the toolkit draws the title bar, it is the gradient of the theme that is worn.
        if "border" in follow and not (desktop == "gnome" and look.brought):
            assert close(seen["border"], look.colours["header"]) <= 3
        screen = ImageOps.fit(Image.open(look.source).convert("RGB"), tuple(out["screen"]), Image.Resampling.BOX)
        if "panel" in follow and not (desktop == "budgie" and look.brought):  # it, too, is drawn by the theme
            assert close(seen["panel"], look.colours["panel"]) <= 3
        for found, (x, y) in zip(seen["picture"] if "picture" in follow else (), driver.SPOTS, strict=False):
            assert close(found, driver.mean(screen, x, y)) <= 3, (desktop, found, driver.mean(screen, x, y))
        assert step["settings"] != before["settings"]
    assert out["undone"][0][0] == out["undone"][1][0] == 0, out["undone"]
    assert after == before
    made = (".config/pcmanfm-qt/", ".config/dconf/", ".config/plasma", ".config/k", ".local/share/k")  # by programs
    if desktop in ("openbox", "i3", "lxqt"):
        assert [path for path in out["changed"] if not path.startswith(made)] == []
    if "kept" in out:
        (code, said), own = out["kept"]
        assert code == 0 and "was changed since and stays as it is" in said and own[:2] == ["set", "Adwaita"]
