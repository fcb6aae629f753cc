"""The programs that read our files read them: by their own checks, by what they answer, by what they paint."""

from __future__ import annotations

import os
import re
import shutil
import subprocess
from pathlib import Path

import pytest
from PyQt6.QtGui import QColor
from PyQt6.QtWidgets import QApplication, QLabel, QLineEdit, QPushButton, QVBoxLayout, QWidget
from tools.rigs.homes import closer_home

from mellow_finch.components.files import FolderFiles
from mellow_finch.look.dressed import dress, every_component
from mellow_finch.look.edits import with_tone
from mellow_finch.palette.recipe import TONES

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


def run(home: Path, *words: str, more: dict[str, str] | None = None, limit: float = 60) -> str:
    """Return what a command writes on both its outputs, run in a home."""
    kept = {k: v for k, v in os.environ.items() if k in ("PATH", "LANG", "DISPLAY", "XAUTHORITY")}
    env = kept | {"HOME": str(home), "LC_ALL": "C.UTF-8", "TERM": "xterm-256color", "COLORTERM": "truecolor"}
    done = subprocess.run(
        words, env=env | (more or {}), cwd=home, input="", capture_output=True, text=True, timeout=limit
    )
    return done.stdout + done.stderr


# A program's own check of a file, and what it says of a line that it does not take.
CHECKS = {
    "foot": ("foot --check-config", " err:"),
    "i3": ("i3 -C -c .config/i3/config", "ERROR"),
    "sway": ("sway --validate -c .config/sway/config", "Error on line"),
    "dircolors": ("dircolors -b .dircolors", "unrecognized"),
    "fish": ("fish --no-execute .config/fish/config.fish", "fish"),
    "zsh": ("zsh -n .zshrc", "zsh"),
    "tmux": ("tmux -L finch-check -f .tmux.conf start-server ; show-messages", "invalid"),
    "jwm": ("jwm -p -f checked.jwmrc", "checked"),
}


@pytest.mark.parametrize("program", CHECKS)
def test_a_program_finds_nothing_wrong_with_its_file(worn, program):
    needs(program)
    home = worn[0]
    words, wrong = CHECKS[program]
    if program == "jwm" and (home / ".jwmrc").exists():
        shutil.copy(home / ".jwmrc", home / "checked.jwmrc")
    if program == "foot" and "colors-dark" in Path("/etc/xdg/foot/foot.ini").read_text():
        pytest.skip("this home's own file is of an older one")
    if all((home / word).exists() for word in words.split() if word.startswith(".")):
        assert wrong not in run(home, *words.split())


# Programs that say nothing of a name that they do not know: whether they know it is in what they are made of.
NAMES = {"telegram-desktop": (".local/share/mellow-finch/telegram/*.tdesktop-palette", rb"(?m)^(\w+): ")}


@pytest.mark.parametrize("program", NAMES)
def test_a_program_knows_every_name_in_its_file(worn, program):
    needs(program)
    pattern, name = NAMES[program]
    (path,) = worn[0].glob(pattern)
    names = set(re.findall(name, path.read_bytes()))
    known = set(re.findall(rb"\w+", Path(os.path.realpath(shutil.which(program))).read_bytes()))
    assert len(names) > 40 and names - known == set()


def test_shells_give_fzf_its_colours_once(worn):
    needs("fzf")
    home, look = worn
    script = '. ~/.bashrc; . ~/.bashrc; printf %s "$FZF_DEFAULT_OPTS"; echo; printf "reed\\n" | fzf -f reed'
    options, found = run(home, "bash", "-c", script).splitlines()
    assert options.count("--color=dark,fg:" if look.tone == "dark" else "--color=light,fg:") == 1 and found == "reed"
    assert options.endswith(f"gutter:{look.colours['terminal'].hex}")


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
