"""Plasma, its window manager and the drawn Qt style are asked what they make of our files."""

from __future__ import annotations

import re
import shutil
import subprocess

import pytest

from mellow_finch.components.catalogue import COMPONENT_BY_ID
from mellow_finch.components.files import FolderFiles
from mellow_finch.look.dressed import dress
from mellow_finch.look.theme_edits import with_brought, with_worn
from mellow_finch.look.worn_themes import worn_themes
from tests.consumers.test_readers import needs, run
from tests.theme.decoration_home import make_plasma_theme

pytestmark = pytest.mark.consumer
_SYSTEM_PYTHON = "/usr/bin/python3"
_OWN_THEME = """
import glob, sys
from PyQt5.QtCore import QFile, QIODevice, QLibrary
library = QLibrary(glob.glob("/usr/lib/*/qt5/plugins/styles/libkvantum.so")[0])
library.load()
for name in ("default.kvconfig", "default.svg"):
    file = QFile(":/Kvantum/" + name)
    file.open(QIODevice.ReadOnly)
    print(bytes(file.readAll()).decode(), "\\0")
"""
_PIECES = r"-(?:top|bottom|left|right)(?:left|right)?$"
# What is drawn as in the style's own theme: shadows, which are of no colour, and lights that ours has none of.
_LEFT = re.compile(r"(?:menu|tooltip)-shadow|slider-(?:top|bottom)glow|tab-tear")


@pytest.fixture
def home(tmp_path, looks):
    """Return a home with Plasma's files of a look in it, and its folder's name."""
    scheme, files = looks[0].scheme(), FolderFiles(tmp_path)
    for id_ in ("kde", "qt-drawn", "aurorae", "desktop-theme", "look-and-feel"):
        for file in COMPONENT_BY_ID[id_].write(scheme, files):
            place = tmp_path / file.path
            place.parent.mkdir(parents=True, exist_ok=True)
            place.write_bytes(file.data)
    return tmp_path, scheme.folder


def test_nothing_of_the_drawn_style_is_left_to_its_own_theme(home):
    """Every element and every section that the style's own theme has is in ours: what is missing is drawn in its colours."""
    asked = subprocess.run(
        [_SYSTEM_PYTHON, "-c", _OWN_THEME], capture_output=True, text=True, env={"QT_QPA_PLATFORM": "offscreen"}
    )
    if asked.returncode:
        pytest.skip("the drawn style or PyQt5 is not installed")
    own_keys, own_drawing = asked.stdout.split("\0")[:2]
    folder = home[0] / ".config/Kvantum" / home[1]
    keys, drawing = ((folder / f"{home[1]}.{end}").read_text() for end in ("kvconfig", "svg"))
    sections = set(re.findall(r"(?m)^\[(\w+)\]", own_keys)) - {"Hacks"}
    assert len(sections) > 30 and sections - set(re.findall(r"(?m)^\[(\w+)\]", keys)) == set()
    elements = {re.sub(_PIECES, "", name) for name in re.findall(r'\bid="([a-z][a-z-]*)"', own_drawing)}
    ours = {re.sub(_PIECES, "", name) for name in re.findall(r'\bid="([a-z][a-z-]*)"', drawing)}
    assert len(elements) > 90 and {e for e in elements - ours if not _LEFT.match(e)} == set()


@pytest.mark.long
def test_the_look_stands_in_plasmas_list_of_whole_themes(home):
    needs("plasma-apply-lookandfeel")
    place, folder = home
    more = {"QT_QPA_PLATFORM": "offscreen"}
    assert folder in run(place, "plasma-apply-lookandfeel", "--list", more=more).splitlines()
    if shutil.which("kpackagetool5"):
        told = run(place, "kpackagetool5", "-t", "Plasma/LookAndFeel", "-s", folder, more=more)
        assert "Author : Mellow Finch" in told and f"look-and-feel/{folder}" in told
    assert f"{folder} (current color scheme)" in run(place, "plasma-apply-colorscheme", "--list-schemes", more=more)


@pytest.mark.long
def test_the_start_screen_is_painted_by_plasma_itself(home):
    needs("ksplashqml", "Xvfb", "import")
    from PIL import Image

    place, folder = home
    script = f"ksplashqml {folder} --test --window & K=$!; sleep 4; import -window root {place}/splash.png; kill -9 $K"
    run(place, "xvfb-run", "-a", "-s", "-screen 0 800x500x24", "bash", "-c", script, limit=60)
    with Image.open(place / "splash.png") as image:
        seen = {colour for _, colour in image.convert("RGB").getcolors(1 << 20)}
    text = (place / f".local/share/plasma/look-and-feel/{folder}/contents/splash/Splash.qml").read_text()
    for name in ("ground", "text", "mark"):
        assert tuple(bytes.fromhex(re.search(rf"// {name} #(\w+)", text)[1])) in seen


def framed(place):
    """Return a picture of a window as the window manager of Plasma draws it."""
    needs("kwin_x11", "xterm", "import", "xdotool")
    from PIL import Image

    script = (
        "kwin_x11 & K=$!; sleep 3; xterm -geometry 60x12+100+80 & sleep 3; xdotool mousemove 400 400; sleep 1; "
        f"import -window root {place}/kwin.png; kill -9 $K"
    )
    run(place, "xvfb-run", "-a", "-s", "-screen 0 800x500x24", "dbus-run-session", "bash", "-c", script, limit=90)
    with Image.open(place / "kwin.png") as image:
        return image.convert("RGB")


@pytest.mark.long
def test_the_window_manager_paints_a_decoration_that_was_imported(tmp_path, looks):
    look, theme = looks[0], str(make_plasma_theme(tmp_path / "theme"))
    uses = frozenset({"aurorae", "kde"})
    fresh = with_worn(with_brought(look, theme), theme, uses)
    home = tmp_path / "home"
    home.mkdir()
    for file in dress(fresh, FolderFiles(home), uses, themes=worn_themes(fresh)).outputs:
        place = home / file.path
        place.parent.mkdir(parents=True, exist_ok=True)
        place.write_bytes(file.data)
    pixels = framed(home)
    row = [pixels.getpixel((x, 84)) for x in range(105, 460)]
    assert row.count(look.colours["border"][:3]) > len(row) // 2
    ink = look.colours["border_text"][:3]
    area = [pixels.getpixel((x, y)) for x in range(105, 460) for y in range(80, 106)]
    assert any(max(abs(a - b) for a, b in zip(colour, ink, strict=True)) < 24 for colour in area)


@pytest.mark.long
def test_the_window_manager_paints_our_decoration(home):
    place, folder = home
    pixels = framed(place)
    drawing = (place / f".local/share/aurorae/themes/{folder}/decoration.svg").read_text()
    title = tuple(bytes.fromhex(re.search(r'id="decoration-top"[^>]* fill="#(\w+)"', drawing)[1]))
    row = [pixels.getpixel((x, 88)) for x in range(105, 460)]
    assert sum(colour == title for colour in row) > len(row) // 2
    signs = (place / f".local/share/aurorae/themes/{folder}/close.svg").read_text()
    ink = tuple(bytes.fromhex(re.search(r'id="active-center".*? stroke="#(\w+)"', signs)[1]))
    area = [pixels.getpixel((x, y)) for x in range(105, 500) for y in range(80, 112)]
    assert any(max(abs(a - b) for a, b in zip(colour, ink, strict=True)) < 30 for colour in area)
