"""Files whose lines end as on other systems: kept so, and where a reader refuses that, ours work all the same."""

from __future__ import annotations

import shutil
import subprocess
from pathlib import Path

import pytest
from tools.rigs.homes import closer_home, whole_home

from mellow_finch.components.catalogue import COMPONENTS
from mellow_finch.components.files import FolderFiles
from mellow_finch.look.dressed import dress, every_component
from mellow_finch.session.commands import Answer
from mellow_finch.wear.plan import make_plan
from mellow_finch.wear.signs import unseen

PLAIN = {path for component in COMPONENTS for path in component.plain_lines}


def with_crlf(home):
    for path in home.rglob("*"):
        data = path.read_bytes() if path.is_file() and not path.is_symlink() else b""
        if data and b"\0" not in data and b"\r" not in data:
            path.write_bytes(data.replace(b"\n", b"\r\n"))
    return FolderFiles(home)


@pytest.mark.parametrize("make", [whole_home, closer_home], ids=lambda make: make.__name__)
def test_no_file_ends_with_mixed_line_ends_but_where_its_reader_refuses_the_others(make, looks, tmp_path):
    files = with_crlf(make(tmp_path).root)
    outputs = dress(looks[0], files, every_component(looks[0])).outputs
    seen = 0
    for output in outputs:
        old = files(output.path)
        if old is not None and b"\r\n" in old:
            lone = output.data.replace(b"\r\n", b"").count(b"\n")
            theirs = [line for line in output.data.split(b"\n") if line.endswith(b"\r")]
            assert output.path in PLAIN or not lone or not theirs, output.path
            assert output.data.replace(b"\r\n", b"").count(b"\r") == 0, output.path
            seen += 1
    assert seen > 40


@pytest.mark.consumer
@pytest.mark.parametrize(
    ("program", "path", "words", "wanted"),
    [
        ("zsh", ".zshrc", ["-f", "-c", "source $1; print -r -- \"<$ZSH_HIGHLIGHT_STYLES[alias]>\"", "-"], "<fg="),
        ("bash", ".bashrc", ["--norc", "-c", 'source "$1"; echo "<$FZF_DEFAULT_OPTS>"', "-"], "--color"),
        ("vim", ".vimrc", ["-u", "NONE", "-es", "-c", "source {path}", "-c", "redir! > {out}", "-c", "echo '<'.g:colors_name.'>'", "-c", "qa!"], "<"),
    ],
)  # fmt: skip
def test_a_shell_takes_what_is_ours_in_a_file_of_another_system(program, path, words, wanted, look, home, tmp_path):
    found = shutil.which(program)
    if found is None or Path(found).resolve().name == "nvim":  # which is called so on some systems
        pytest.skip(f"NO {program.upper()}")
    mine = home / path
    mine.write_bytes(b"# mine\r\n")
    outputs = {o.path: o.data for o in dress(look, FolderFiles(home), every_component(look)).outputs}
    mine.write_bytes(outputs[path])
    for name, data in outputs.items():  # what it names lies beside it
        if name.startswith(".vim/"):
            (home / name).parent.mkdir(parents=True, exist_ok=True)
            (home / name).write_bytes(data)
    out = tmp_path / "out"
    words = [word.format(path=mine, out=out) if program == "vim" else word for word in words]
    done = subprocess.run([program, *words, str(mine)][: None if program != "vim" else -1], capture_output=True, text=True, env={"HOME": str(home), "PATH": "/usr/bin:/bin"})  # fmt: skip
    said = out.read_text() if program == "vim" else done.stdout
    assert wanted in said and "\r" not in said, (said, done.stderr)


def test_what_of_such_a_file_cannot_work_is_said_before(look, home):
    (home / ".bashrc").write_bytes(b"alias hide='ls'\r\n")
    plan = make_plan(dress(look, FolderFiles(home), frozenset({"fzf", "kitty"})), home)
    (told,) = unseen(plan, look, home, lambda words: Answer(0, "x", ""))
    assert told.title == "Line ends of another system" and told.what == "~/.bashrc"
