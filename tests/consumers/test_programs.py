"""Programs of the terminal, editors and window managers are asked what they make of our files, over a home's own."""

from __future__ import annotations

import json
import os
import re
import shutil
import subprocess
import time
from pathlib import Path

import pytest

from mellow_finch.components.catalogue import COMPONENT_BY_ID
from mellow_finch.components.model import NoFiles
from mellow_finch.look.dressed import dress, every_component
from tests.consumers.test_readers import needs
from tests.homes import closer_home


@pytest.fixture(scope="module")
def worn(tmp_path_factory, looks):
    """Return a home whose own files set every colour, dressed, and the look's scheme."""
    files = closer_home(tmp_path_factory.mktemp("asked"))
    for output in dress(looks[0], files, every_component(looks[0])).outputs:
        path = files.root / output.path
        path.parent.mkdir(parents=True, exist_ok=True)
        path.write_bytes(output.data)
    return files.root, looks[0].scheme()


def meant(scheme, id_: str) -> dict[str, str]:
    """Return every role and shade of a component as six digits."""
    return {name: c.opaque.hex[1:] for name, c in COMPONENT_BY_ID[id_].colours(scheme, NoFiles()).items()}


def sgr(digits: str) -> str:
    """Return a colour as a terminal is told it."""
    return ";".join(str(v) for v in bytes.fromhex(digits))


def run(home: Path, *words: str, text: str | None = None, more: dict[str, str] | None = None, limit: float = 30) -> str:
    """Return what a command writes on both its outputs, run in a home."""
    kept = {k: v for k, v in os.environ.items() if k in ("PATH", "LANG", "DISPLAY", "XAUTHORITY")}
    env = kept | {"HOME": str(home), "LC_ALL": "C.UTF-8", "TERM": "xterm-256color", "COLORTERM": "truecolor"}
    done = subprocess.run(
        words, env=env | (more or {}), cwd=home, input=text or "", capture_output=True, text=True, timeout=limit
    )
    return done.stdout + done.stderr


def screen(home: Path, command: str, until: str, more: dict[str, str] | None = None) -> str:
    """Return what a program of the whole terminal draws, colours as escapes, once some words are there."""
    needs("tmux")
    name = f"finch-{os.getpid()}-{abs(hash(command)) % 10**6}"
    plain = home / "plain-tmux.conf"
    plain.write_text('set -g default-terminal "tmux-256color"\nset -ga terminal-overrides ",*:RGB"\n')
    words = ["tmux", "-L", name, "-f", str(plain)]
    try:
        run(home, *words, "new-session", "-d", "-x", "120", "-y", "36", command, more=more)
        for _ in range(100):
            shown = run(home, *words, "capture-pane", "-e", "-p")
            if until in re.sub(r"\x1b\[[\d;:]*m", "", shown):
                time.sleep(0.2)
                return run(home, *words, "capture-pane", "-e", "-p")
            time.sleep(0.1)
        return shown
    finally:
        run(home, *words, "kill-server")


def test_dircolors_takes_every_line_and_ls_shows_it(worn):
    home, scheme = worn
    said = run(home, "dircolors", "-b", str(home / ".dircolors"))
    assert "unrecognized" not in said and said.startswith("LS_COLORS=")
    (home / "Birds").mkdir(exist_ok=True)
    listed = run(home, "ls", "--color=always", more={"LS_COLORS": re.search(r"'(.*)'", said).group(1)})
    assert f"\x1b[01;38;2;{sgr(meant(scheme, 'listing')['ansi_4'])}mBirds" in listed


def test_tmux_shows_the_styles(worn):
    needs("tmux")
    home, scheme = worn
    look, socket = meant(scheme, "tmux"), f"finch-styles-{os.getpid()}"
    words = ("tmux", "-L", socket, "-f", str(home / ".tmux.conf"))
    try:
        run(home, *words, "new-session", "-d", "sleep 60")
        assert run(home, *words, "show-messages").count("invalid") == 0
        rows = [run(home, *words, "show-options", kind).splitlines() for kind in ("-g", "-gw")]
        styles = dict(line.replace(chr(34), "").partition(" ")[::2] for line in [*rows[0], *rows[1]])
    finally:
        run(home, *words, "kill-server")
    assert styles["status-style"] == f"fg=#{look['tool_bar_text']},bg=#{look['tool_bar']}"
    assert styles["mode-style"] == f"fg=#{look['terminal_selection_text']},bg=#{look['terminal_selection']}"
    assert styles["clock-mode-colour"] == f"#{look['tool_heading']}"
    assert styles["pane-active-border-style"] == f"fg=#{look['tool_heading']}"


def test_fish_takes_every_colour(worn):
    needs("fish")
    home, scheme = worn
    look = meant(scheme, "fish")
    assert run(home, "fish", "--no-execute", str(home / ".config/fish/config.fish")) == ""
    said = run(
        home,
        "fish",
        "-i",
        "-c",
        "echo $fish_color_command $fish_color_comment $fish_color_search_match; set_color $fish_color_command",
    )
    assert f"{look['ansi_4']} {look['tool_dim']} {look['warning_text']} --background={look['warning']}" in said
    assert f"38;2;{sgr(look['ansi_4'])}" in said


def test_zsh_takes_every_colour(worn):
    needs("zsh")
    home, scheme = worn
    look = meant(scheme, "zsh")
    assert run(home, "zsh", "-n", str(home / ".zshrc")) == ""
    said = run(
        home,
        "zsh",
        "-i",
        "-c",
        "print -r -- $ZSH_HIGHLIGHT_STYLES[comment] $ZSH_AUTOSUGGEST_HIGHLIGHT_STYLE $zle_highlight",
    )
    assert said.startswith(
        f"fg=#{look['tool_dim']} fg=#{look['tool_dim']} default:none isearch:fg=#{look['warning_text']}"
    )


@pytest.mark.skipif(shutil.which("git") is None, reason="NO GIT: install it to see its colours")
def test_git_draws_in_the_colours(worn, tmp_path):
    home, scheme = worn
    look = meant(scheme, "git")
    tree = tmp_path / "counts"
    tree.mkdir()
    git = ("git", "-C", str(tree), "-c", "color.ui=always", "-c", "user.email=m@reedholm.example")
    run(home, *git, "init", "-q")
    (tree / "net.csv").write_text("7 reedlings\n")
    run(home, *git, "add", ".")
    run(home, *git, "commit", "-qm", "first")
    (tree / "net.csv").write_text("8 reedlings\n")
    shown = run(home, *git, "diff")
    assert f"\x1b[38;2;{sgr(look['ansi_1'])}m-7" in shown and f"\x1b[38;2;{sgr(look['ansi_2'])}m+" in shown
    assert f"\x1b[38;2;{sgr(look['tool_heading'])}mdiff" in shown
    assert f"\x1b[38;2;{sgr(look['ansi_3'])}m" in run(home, *git, "status", "--short")
    assert f"\x1b[1;38;2;{sgr(look['tool_match'])}m" in run(home, *git, "grep", "reed")


def test_shells_give_fzf_its_colours_once(worn):
    needs("fzf")
    home, scheme = worn
    look = meant(scheme, "fzf")
    script = '. ~/.bashrc; . ~/.bashrc; printf %s "$FZF_DEFAULT_OPTS"; echo; printf "reed\\n" | fzf -f reed'
    said = run(home, "bash", "-c", script)
    options = said.splitlines()[0]
    assert options.count("--color=dark,fg:") == 1 and f"fg:#{look['terminal_text']}" in options
    assert options.endswith(f"gutter:#{look['terminal']}") and said.splitlines()[1] == "reed"
    drawn = screen(home, "bash -c '. ~/.bashrc; printf \"reed\\nrail\\n\" | fzf'", "2/2")
    assert f"48;2;{sgr(look['terminal_selection'])}" in drawn and f"38;2;{sgr(look['tool_match_chosen'])}" in drawn


def test_bat_takes_the_theme_in(worn):
    bat = "batcat" if shutil.which("batcat") else "bat"
    needs(bat)
    home, scheme = worn
    look = meant(scheme, "bat")
    assert "error" not in run(home, bat, "cache", "--build").lower()
    (home / "count.py").write_text("# nets\nif tide > 7:\n    name = 'reedling'\n")
    shown = run(home, bat, "--color=always", "--style=numbers", "count.py")
    for role, word in (("comment", " nets"), ("number", "7"), ("string", "reedling"), ("keyword", "if")):
        assert f"38;2;{sgr(look[role])}m{word}" in shown, role
    assert f"38;2;{sgr(look['line_number'])}m" in shown


def test_less_shows_pages_of_the_manual_in_the_colours(worn):
    needs("less")
    home, scheme = worn
    look = meant(scheme, "less")
    (home / "page").write_text("N\bNA\bAM\bME\bE\n\n_\bt_\bi_\bd_\be comes\n")
    shown = screen(home, "less +/comes page", "comes", {"LESS": ""})
    for part in (f"38;2;{sgr(look['tool_heading'])}", f"38;2;{sgr(look['ansi_6'])}", f"48;2;{sgr(look['warning'])}"):
        assert part in shown.replace(":", ";"), shown


def test_readline_shows_what_was_pasted_as_chosen(worn):
    needs("tmux")
    home, scheme = worn
    look, socket = meant(scheme, "readline"), f"finch-readline-{os.getpid()}"
    plain = home / "plain-tmux.conf"
    plain.write_text('set -ga terminal-overrides ",*:RGB"\n')
    words = ("tmux", "-L", socket, "-f", str(plain))
    try:
        run(home, *words, "new-session", "-d", "-x", "80", "-y", "10", "bash --norc -i")
        time.sleep(0.6)
        run(home, *words, "set-buffer", "reed rail")
        run(home, *words, "paste-buffer", "-p")
        time.sleep(0.4)
        shown = run(home, *words, "capture-pane", "-e", "-p")
    finally:
        run(home, *words, "kill-server")
    assert f"48;2;{sgr(look['terminal_selection'])}" in shown, shown


@pytest.mark.parametrize(
    ("program", "id_", "command", "until", "roles"),
    [
        ("mc", "mc", "mc Birds", "Menu", ["38:terminal_text", "48:terminal", "48:tool_bar", "48:menu"]),
        ("btop", "btop", "btop", "proc", ["38:tool_heading", "48:terminal", "38:terminal_text"]),
        ("lf", "lf", "lf Birds", "nest", ["38:ansi_4", "38:ansi_3"]),
        ("micro", "micro", "micro count.py", "count.py", ["38:comment", "48:view", "48:header", "38:line_number"]),
        ("kak", "kakoune", "kak count.py", "count.py", ["38:view_text", "48:view", "48:header"]),
    ],
)
def test_programs_of_the_whole_terminal_draw_in_the_colours(worn, program, id_, command, until, roles):
    needs(program)
    home, scheme = worn
    look = meant(scheme, id_)
    (home / "Birds/nest").mkdir(parents=True, exist_ok=True)
    (home / "Birds/old.zip").write_bytes(b"")
    (home / "count.py").write_text("# nets\nif tide > 7:\n    name = 'reedling'\n")
    more = {"MICRO_TRUECOLOR": "1", "LS_COLORS": "", "XDG_CONFIG_HOME": str(home / ".config")}
    shown = screen(home, command, until, more)
    for row in roles:
        kind, _, role = row.partition(":")
        assert f"{kind};2;{sgr(look[role])}" in shown, (role, look[role], shown[-3000:])


def test_emacs_has_the_faces(worn):
    needs("emacs")
    home, scheme = worn
    look = meant(scheme, "emacs")
    ask = "(progn (load \"~/.emacs\") (princ (list (face-attribute 'default :background) (face-attribute 'font-lock-comment-face :foreground) (face-attribute 'mode-line :background) custom-enabled-themes)))"
    said = run(home, "emacs", "--batch", "--eval", ask)
    assert f"(#{look['view']} #{look['comment']} #{look['header']} ({scheme.folder} Aaa))" in said


def managed(home: Path, manager: str, ask: str) -> str:
    """Return what a shell command says on a virtual screen with a window manager on it."""
    needs("xvfb-run", manager.split()[0])
    wait = f"({manager}) & sleep 1.5; {ask}"
    return run(home, "xvfb-run", "-a", "-s", "-screen 0 640x480x24", "bash", "-c", wait, limit=60)


def test_bspwm_and_herbstluftwm_have_the_colours(worn):
    home, scheme = worn
    for name in (".config/bspwm/bspwmrc", ".config/herbstluftwm/autostart"):
        (home / name).chmod(0o755)
    look = meant(scheme, "bspwm")
    said = managed(home, "bspwm", "bspc config focused_border_color; bspc config normal_border_color; bspc quit")
    assert said.split()[-2:] == [f"#{look['border']}", f"#{look['border_idle']}"]
    said = managed(
        home,
        "herbstluftwm",
        "herbstclient attr theme.active.color; herbstclient attr theme.active.title_color; herbstclient quit",
    )
    assert said.lower().split()[-2:] == [f"#{look['border']}", f"#{look['border_text']}"]


@pytest.mark.some(1)
@pytest.mark.parametrize("manager", ["fluxbox", "icewm"])
def test_borders_are_painted(worn, manager):
    """A window's title bar has the border's colour, asked of the pixels."""
    needs("xvfb-run", "xterm", "import")
    home, scheme = worn
    look = meant(scheme, manager)
    shot = home / f"{manager}.png"
    managed(home, manager, f"xterm -geometry 40x10+120+120 & sleep 2; import -window root {shot}; kill %1 %2")
    from PyQt6.QtGui import QImage

    image = QImage(str(shot))
    colours = [image.pixelColor(x, y).name()[1:] for x in range(0, 640, 2) for y in range(0, 480, 2)]
    assert colours.count(look["border"]) > 400, json.dumps({look["border"]: colours.count(look["border"])})


def test_programs_that_name_the_terminals_colours_show_them(worn):
    """nano, tig, GDB, jq and Taskwarrior say the terminal's own colour, by its number."""
    home, _ = worn
    needs("tmux", "nano")
    shown = screen(home, f"nano --rcfile={home}/.nanorc -l {home}/.nanorc", "GNU nano")
    assert "\x1b[34m  GNU nano" in shown and "\x1b[33m" in shown
    if shutil.which("gdb"):
        said = run(home, "gdb", "-batch", "-ex", "show style function foreground", "-ex", "show style title foreground")
        assert said.count("color is: blue") == 2
    if shutil.which("jq"):
        (colours,) = re.findall(r'export JQ_COLORS="([^"]*)"', (home / ".bashrc").read_text())
        said = run(home, "jq", "-C", "-c", ".", text='{"a":[1,"x",true,false,null]}', more={"JQ_COLORS": colours})
        assert "\x1b[0;33m1" in said and '\x1b[0;32m"x"' in said and "\x1b[0;35mnull" in said
    if shutil.which("task"):
        assert "color.active bold green" in re.sub(" +", " ", run(home, "task", "rc.confirmation=no", "show", "color"))


def test_ripgrep_takes_its_settings(worn):
    home, scheme = worn
    needs("rg")
    colours = meant(scheme, "ripgrep")
    (home / "tides.txt").write_text("low water\n")
    config = {"RIPGREP_CONFIG_PATH": str(home / ".config/ripgrep/config")}
    said = run(home, "rg", "--color=always", "-n", "water", "tides.txt", more=config)
    assert f"\x1b[38;2;{sgr(colours['warning_text'])}m\x1b[48;2;{sgr(colours['warning'])}mwater" in said
    assert f"\x1b[38;2;{sgr(colours['ansi_3'])}m1" in said


def test_irssi_takes_its_theme(worn):
    home, _ = worn
    needs("tmux", "irssi")
    shown = screen(home, f"irssi --home={home}/.irssi", "https://irssi.org")
    assert "\x1b[34m-!-" in shown and "not found" not in shown


def test_jwm_checks_its_configuration(worn):
    home, _ = worn
    needs("jwm")
    shutil.copy(home / ".jwmrc", home / "checked")
    said = run(home, "jwm", "-p", "-f", str(home / "checked"))
    assert "checked[" not in said, said
