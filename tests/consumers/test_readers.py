"""The programs that read our files read them: by their own checks, by what they answer, by what they paint."""

from __future__ import annotations

import json
import os
import shutil
import subprocess
import sys
from pathlib import Path

import pytest
from PyQt6.QtGui import QColor
from PyQt6.QtWidgets import QApplication, QLabel, QLineEdit, QPushButton, QVBoxLayout, QWidget

from mellow_finch.components.model import FolderFiles
from mellow_finch.look.dressed import dress, every_component
from mellow_finch.look.edits import with_tone
from mellow_finch.palette.recipe import TONES
from tests.homes import closer_home

HERE = Path(__file__).parent
PYTHON = "/usr/bin/python3"  # the interpreter that has the toolkits' bindings


@pytest.fixture(
    scope="module",
    params=[
        pytest.param("dark", marks=pytest.mark.long),
        pytest.param("light", marks=pytest.mark.long),
        "dark, over their own",
    ],
)
def worn(request, looks, tmp_path_factory):
    """Return a home in which every component is dressed, and the look; the last one sets every colour itself too."""
    if request.param not in TONES:
        home = closer_home(tmp_path_factory.mktemp("worn-over")).root
        lay(looks[0], home)
        return home, looks[0]
    look = with_tone(looks[0], request.param)
    home = tmp_path_factory.mktemp(f"worn-{request.param}")
    (home / ".config/i3").mkdir(parents=True)
    (home / ".config/i3/config").write_text(
        "# i3 config file (v4)\nset $ground #262a2e\nbindsym Mod4+q kill\nbar {\n    status_command true\n"
        "    colors {\n        background $ground\n        statusline #9aa3a8\n"
        "        focused_workspace #ff2fa0 #ff2fa0 #ffd0e8\n    }\n}\n"
    )
    (home / ".config/openbox").mkdir()
    (home / ".config/openbox/rc.xml").write_text(
        '<openbox_config xmlns="http://openbox.org/3.4/rc"><theme><name>Saltpan</name></theme></openbox_config>\n'
    )
    (home / ".vimrc").write_text("set number\n")
    lay(look, home)
    return home, look


def lay(look, home: Path) -> None:
    for output in dress(look, FolderFiles(home), every_component(look)).outputs:
        path = home / output.path
        path.parent.mkdir(parents=True, exist_ok=True)
        path.write_bytes(output.data)


def needs(*programs: str) -> None:
    for program in programs:
        if shutil.which(program) is None:
            pytest.skip(f"NO {program.upper()}: install it to check the files it reads with the program itself")


def run(home: Path, *words: str, code: int | None = 0) -> str:
    """Run a program at home in a folder of the tests' own."""
    env = {k: v for k, v in os.environ.items() if not k.startswith(("XDG_", "GTK", "QT_"))}
    env |= {"HOME": str(home), "XDG_RUNTIME_DIR": str(home), "LC_ALL": "C.UTF-8"}
    done = subprocess.run(
        words, capture_output=True, text=True, errors="replace", timeout=60, check=False, env=env, cwd=home
    )
    assert code is None or done.returncode == code, done.stdout + done.stderr
    return done.stdout + done.stderr


def painted(home: Path, script: str) -> dict[str, int]:
    """Return the colours of a virtual screen on which a script's programs have run."""
    needs("xvfb-run")
    grab = f"QT_QPA_PLATFORM=xcb {sys.executable} {HERE / 'screen_colours.py'}"
    words = f"{script}\nsleep 1\n{grab} > colours.json\nkill $(jobs -p) 2>/dev/null\nexit 0"
    run(home, "xvfb-run", "-a", "-s", "-screen 0 800x600x24 -noreset", "bash", "-c", words, code=None)
    return json.loads((home / "colours.json").read_text())


def test_the_terminal_with_a_check_of_its_own(worn):
    needs("foot")
    assert " err:" not in run(worn[0], "foot", "--check-config")


def test_the_terminal_whose_parser_answers(worn):
    needs("kitty")
    home, look = worn
    ask = (
        f"from kitty.config import load_config; o = load_config('{home}/.config/kitty/kitty.conf'); "
        "print(*(c.as_sharp for c in (o.background, o.foreground, o.color4, o.cursor, o.selection_background)))"
    )
    said = run(home, "kitty", "+runpy", ask)
    roles = ("terminal", "terminal_text", "ansi_4", "cursor", "terminal_selection")
    assert said.strip().splitlines()[-1] == " ".join(look.colours[r].hex for r in roles)


def test_the_terminal_of_x_resources_paints_its_ground(worn):
    needs("xterm", "xrdb")
    home, look = worn
    seen = painted(home, "xrdb -nocpp -merge .Xresources; xterm -geometry 60x10+0+0 & sleep 1")
    assert seen.get(look.colours["terminal"].hex, 0) > 20000, seen
    assert look.colours["cursor"].hex in seen or look.colours["terminal_text"].hex in seen


def test_window_borders_are_painted_like_header_bars(worn):
    needs("openbox", "xterm")
    home, look = worn
    seen = painted(
        home, "openbox --config-file .config/openbox/rc.xml & sleep 1; xterm -geometry 60x10+90+90 & sleep 1"
    )
    assert seen.get(look.colours["header"].hex, 0) > 4000, seen
    assert look.colours["header_text"].hex in seen


def test_the_tiling_manager_checks_and_paints(worn):
    needs("i3", "xterm")
    home, look = worn
    assert "ERROR" not in run(home, "i3", "-C", "-c", ".config/i3/config")
    seen = painted(home, "i3 -c .config/i3/config & sleep 1; xterm & sleep 1; xterm & sleep 1")
    assert seen.get(look.colours["header"].hex, 0) > 1000 and seen.get(look.colours["header_idle"].hex, 0) > 1000


def test_the_launcher_answers_with_our_theme(worn):
    needs("rofi", "xvfb-run")
    home, look = worn
    said = run(home, "xvfb-run", "-a", "rofi", "-dump-theme", code=None)
    hover = look.colours["menu_hover"]
    block = said.partition("element selected.normal {")[2].partition("}")[0]
    assert f"{hover.r}, {hover.g}, {hover.b}" in " ".join(block.split()).replace(" ,", ","), block
    assert "parse" not in said.lower()


def test_notifications_are_painted(worn):
    needs("dunst", "notify-send", "dbus-run-session")
    home, look = worn
    seen = painted(
        home,
        "export $(dbus-launch 2>/dev/null) 2>/dev/null; "
        '[ -n "$DBUS_SESSION_BUS_ADDRESS" ] || eval $(dbus-daemon --session --fork --print-address=1 '
        "| sed 's/^/export DBUS_SESSION_BUS_ADDRESS=/'); "
        "dunst & sleep 1; notify-send Reed 'Net three'; notify-send -u critical Reed 'Net four'; sleep 1",
    )
    assert seen.get(look.colours["notice"].hex, 0) > 3000 and seen.get(look.colours["error"].hex, 0) > 3000, seen


def test_the_widget_program_paints_its_backing(worn, tmp_path, looks):
    needs("conky")
    from mellow_finch.demo.build import build_demo_home

    look = worn[1]
    home = build_demo_home(tmp_path / "home")
    files = dress(look, FolderFiles(home), frozenset({"widget", "widget-words"})).files
    paths = []
    for file in (*files["widget"], *files["widget-words"]):
        text = (
            file.data.decode()
            .replace("'desktop'", "'normal'")
            .replace("own_window_type desktop", "own_window_type normal")
        )
        (home / file.path).write_text(text.replace("  lua_load = '~/.config/conky/rings.lua',\n", ""))
        paths.append(file.path)
    seen = painted(home, f"conky -c {home}/.config/conky/visitors.conf & sleep 2")
    assert ".conkyrc" in paths and ".config/conky/visitors.conf" in paths
    assert seen.get(look.colours["panel"].hex, 0) > 500, seen


def test_the_editor_widget_takes_the_scheme(worn):
    home, look = worn
    code = (
        "import gi\ngi.require_version('GtkSource', '5')\nfrom gi.repository import GtkSource\n"
        "m = GtkSource.StyleSchemeManager.new()\n"
        f"m.set_search_path(['{home}/.local/share/gtksourceview-5/styles'])\n"
        f"s = m.get_scheme('{look.folder.lower()}')\n"
        "for n in ('text', 'current-line', 'selection', 'search-match', 'def:string'):\n"
        "    p = s.get_style(n).props\n    print(n, p.foreground, p.background)\n"
    )
    done = subprocess.run([PYTHON, "-W", "ignore", "-c", code], capture_output=True, text=True, timeout=60, check=False)
    if "Namespace GtkSource not available" in done.stderr or not Path(PYTHON).exists():
        pytest.skip("NO GTKSOURCEVIEW 5: install gir1.2-gtksource-5 to check editor schemes with the library itself")
    c = look.colours
    assert f"text {c['view_text'].hex} {c['view'].hex}" in done.stdout, done.stdout + done.stderr
    assert f"selection {c['selection_text'].hex} {c['selection'].hex}" in done.stdout


def test_the_older_toolkit_generation_gives_our_styles(worn):
    needs("xvfb-run")
    home, look = worn
    gtkrc = f"{home}/.themes/{look.folder}/gtk-2.0/gtkrc"
    said = run(home, "xvfb-run", "-a", "-s", "-noreset", sys.executable, str(HERE / "gtk2_styles.py"), gtkrc, code=None)
    if "libgtk-x11-2.0" in said and "cannot open" in said:
        pytest.skip("NO GTK 2: install libgtk2.0-0 to check gtkrc files with the toolkit itself")
    styles = json.loads(said[said.index("{") :])
    c = look.colours
    assert styles["window"]["bg"][0] == c["window"].hex and styles["window"]["base"][3] == c["selection"].hex
    assert styles["button"]["bg"][:3] == [c["control"].hex, c["control_pressed"].hex, c["control_hover"].hex]


def test_the_modal_editor_loads_the_colours(worn):
    editor = next((e for e in ("vim", "vim.tiny", "vi") if shutil.which(e)), "")
    if not editor:
        pytest.skip("NO VIM: install vim-tiny to check its colours with the program itself")
    home, look = worn
    run(home, editor, "-es", "-u", "NONE", "-c", f"set rtp+={home}/.vim", "-c", f"source .vim/colors/{look.folder}.vim",
        "-c", "redir! > said", "-c", "hi Normal", "-c", "hi CursorLine", "-c", "redir END", "-c", "qa!", code=None)  # fmt: skip
    said = (home / "said").read_text() if (home / "said").exists() else ""
    if not said:
        pytest.skip("NO SCRIPTS IN VI: install vim to check its colours with the program itself")
    assert f"guibg={look.colours['view'].hex}" in said


def test_the_style_sheet_is_painted_by_qt(qtbot, worn):
    home, look = worn
    sheet = (home / f".config/qt6ct/qss/{look.folder}.qss").read_text()
    box = QWidget()
    qtbot.addWidget(box)
    column = QVBoxLayout(box)
    button, field, label = QPushButton("Ring"), QLineEdit("RH 40217"), QLabel("Words")
    for widget in (button, field, label):
        column.addWidget(widget)
    box.setStyleSheet(sheet)
    box.resize(300, 160)
    image = box.grab().toImage()

    def at(widget, x, y):
        return QColor(image.pixel(widget.x() + x, widget.y() + y)).name()

    assert at(field, field.width() - 8, field.height() // 2) == look.colours["view"].hex
    assert at(button, 8, button.height() // 2) == look.colours["control"].hex
    assert image.pixelColor(2, 2).name() == look.colours["window"].hex
    assert QApplication.instance() is not None


def test_palette_files_have_a_place_for_every_role_of_qt(worn):
    from PyQt6.QtGui import QPalette

    home, look = worn
    for name, count in ((f"qt5ct/colors/{look.folder}.conf", 21), (f"qt6ct/colors/{look.folder}-22.conf", 22)):
        lines = (home / ".config" / name).read_text().splitlines()[1:4]
        rows = {line.partition("=")[0]: line.partition("=")[2].split(", ") for line in lines}
        assert {len(r) for r in rows.values()} == {count}
        base = rows["active_colors"][QPalette.ColorRole.Base.value]
        accent = QPalette.ColorRole.Accent.value
        assert QColor(base).name() == look.colours["view"].hex and QColor(base).isValid()
        assert count == 21 or QColor(rows["active_colors"][accent]).name() == look.colours["accent"].hex
