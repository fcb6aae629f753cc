"""The file that runs anywhere: it unpacks itself once, starts what is in it, and says what is wrong with it."""

import os
import shutil
import subprocess
import sys
from pathlib import Path

import pytest

sys.path.insert(0, str(Path(__file__).parents[1] / "tools"))
import others
import portable

_STARTED = '#!/bin/sh\nprintf "%s\\n" "$MELLOW_FINCH_LAUNCHER" "$@"\n'


@pytest.fixture
def file(tmp_path):
    """Return such a file around a program that prints what started it, and the words that it was given."""
    folder = tmp_path / "folder"
    (folder / "bin").mkdir(parents=True)
    for name, text in (("mellow-finch", _STARTED), ("bin/python3", "#!/bin/sh\n")):
        (folder / name).write_text(text)
        (folder / name).chmod(0o755)
    made = tmp_path / "a folder" / "finch.run"
    made.parent.mkdir()
    made.write_bytes(portable.one_file(portable.packed(folder), "9.9"))
    made.chmod(0o755)
    return made


def run(file, *words, **environment):
    env = {"PATH": os.environ["PATH"], "HOME": str(file.parent / "home"), **environment}
    return subprocess.run([str(file), *words], env=env, capture_output=True, text=True, check=False)


def test_it_unpacks_once_and_passes_words_on(file):
    first = run(file, "wear", "a look.finchlook")
    assert (first.returncode, first.stdout.splitlines()) == (0, [str(file), "wear", "a look.finchlook"]), first.stderr
    (unpacked,) = (file.parent / "home/.cache/mellow-finch/program").iterdir()
    assert unpacked.name.startswith("9.9-")
    before = unpacked.stat().st_mtime_ns
    assert run(file).returncode == 0
    assert [unpacked] == list(unpacked.parent.iterdir()) and unpacked.stat().st_mtime_ns == before


def test_the_same_folder_gives_the_same_bytes(tmp_path):
    (tmp_path / "a/b").mkdir(parents=True)
    (tmp_path / "a/b/ring").write_text("37")
    one = portable.packed(tmp_path / "a")
    os.utime(tmp_path / "a/b/ring", (1, 1))
    assert portable.packed(tmp_path / "a") == one


def test_it_is_unpacked_where_it_is_asked_to_and_nothing_is_written_over(file, tmp_path):
    target = tmp_path / "own"
    assert run(file, "--unpack", str(target)).returncode == 0
    assert (target / "mellow-finch").is_file() and not (file.parent / "home").exists()
    again = run(file, "--unpack", str(target))
    assert again.returncode == 2 and "is there already" in again.stderr
    assert run(file, "--unpack").returncode == 2


def test_a_damaged_file_and_a_folder_that_takes_nothing_are_said(file):
    blocked = run(file, XDG_CACHE_HOME="/dev/null/no")
    assert blocked.returncode == 2 and "cannot write into" in blocked.stderr
    data = file.read_bytes()
    file.write_bytes(data[:-9])
    damaged = run(file)
    assert damaged.returncode == 2 and "this file is damaged. Download it again." in damaged.stderr
    assert not list((file.parent / "home/.cache/mellow-finch/program").glob("*"))


def test_recipes_are_filled_in_and_a_shell_can_read_them(tmp_path):
    folder = tmp_path / "folder"
    shutil.copytree(Path(portable.__file__).parent / "rigs", folder / "site", ignore=lambda *_: ["__pycache__"])
    for name in ("rpm/mellow-finch.spec", "arch/PKGBUILD"):
        text = others.recipe(name, folder, "9.9", SHARED="/usr/share/icons/ring")
        assert "9.9" in text and str(folder) in text and "2.17" in text
        assert "@VERSION@" not in text and "@SHARED@" not in text and "@GLIBC@" not in text
    subprocess.run(["bash", "-n"], input=text, text=True, check=True)
