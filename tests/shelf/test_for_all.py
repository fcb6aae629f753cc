"""A look for every user of a computer: the scripts, run by real shells on a made-up root, and exactly back."""

from __future__ import annotations

import os
import shutil
import subprocess
from pathlib import Path

import pytest
from click.testing import CliRunner

from mellow_finch.cli import app
from mellow_finch.look.carry import save_look
from mellow_finch.shelf.for_all import for_all_users

from .test_parcel import SHELLS

SCHEMAS = Path("/usr/share/glib-2.0/schemas")


def state(root):
    """Return every path of a folder with its bytes."""
    return {p.relative_to(root): p.read_bytes() if p.is_file() else None for p in root.rglob("*")}


def run(shell, script, root):
    return subprocess.run(
        [*shell, script], env={**os.environ, "ROOT": str(root)}, capture_output=True, text=True, timeout=60
    )


@pytest.fixture
def folder(looks, tmp_path):
    """Return the folder that the command writes for an administrator."""
    look = tmp_path / "look.finchlook"
    save_look(looks[0], look)
    done = CliRunner().invoke(app, ["dress", str(look), "--into", str(tmp_path / "all"), "--for-all", "--yes"])
    assert done.exit_code == 0 and "Nothing was installed" in done.output, done.output
    return tmp_path / "all"


@pytest.mark.long
@pytest.mark.skipif(not SHELLS, reason="no POSIX shell is here")
@pytest.mark.parametrize("shell", SHELLS[:2])
def test_it_is_copied_and_taken_back_exactly(folder, looks, tmp_path, shell):
    root = tmp_path / "root"
    name = looks[0].folder
    own = root / "etc/xdg/kdeglobals"
    own.parent.mkdir(parents=True)
    own.write_text("[General]\nmine=1\n")
    if shutil.which("glib-compile-schemas") and SCHEMAS.is_dir():
        shutil.copytree(SCHEMAS, root / "usr/share/glib-2.0/schemas")
    before = state(root)
    assert subprocess.run(
        [*shell, folder / "apply.sh", "--dry-run"],
        env={**os.environ, "ROOT": str(root)},
        check=True,
        capture_output=True,
    )
    assert state(root) == before
    done = run(shell, folder / "apply.sh", root)
    assert done.returncode == 0, done.stderr
    assert "stays   /etc/xdg/kdeglobals" in done.stdout and own.read_text() == "[General]\nmine=1\n"
    assert (root / f"usr/local/share/themes/{name}/gtk-3.0/gtk.css").is_file()
    assert f'value="{name}"' in (root / "etc/xdg/xfce4/xfconf/xfce-perchannel-xml/xsettings.xml").read_text()
    if (root / "usr/share/glib-2.0/schemas/gschemas.compiled").is_file():
        asked = subprocess.run(["gsettings", "get", "org.gnome.desktop.interface", "gtk-theme"], capture_output=True, text=True,
                               env={**os.environ, "GSETTINGS_SCHEMA_DIR": str(root / "usr/share/glib-2.0/schemas"), "GSETTINGS_BACKEND": "memory"})  # fmt: skip
        assert asked.returncode or asked.stdout.strip() == f"'{name}'"
    assert run(shell, folder / "apply.sh", root).returncode == 1
    back = run(shell, folder / "undo.sh", root)
    assert back.returncode == 0 and state(root) == before, back.stdout
    assert run(shell, folder / "undo.sh", root).returncode == 1


@pytest.mark.long
@pytest.mark.skipif(not SHELLS, reason="no POSIX shell is here")
def test_what_was_edited_since_stays_until_it_is_as_it_was(folder, looks, tmp_path):
    root = tmp_path / "root"
    root.mkdir()
    run(SHELLS[0], folder / "apply.sh", root)
    sheet = root / f"usr/local/share/themes/{looks[0].folder}/gtk-3.0/gtk.css"
    text = sheet.read_text()
    sheet.write_text(text + "/* mine */\n")
    back = run(SHELLS[0], folder / "undo.sh", root)
    assert (
        back.returncode == 1 and "gtk.css: it was edited since" in back.stdout and list(root.rglob("*.css")) == [sheet]
    )
    sheet.write_text(text)
    assert run(SHELLS[0], folder / "undo.sh", root).returncode == 0 and not any(p.is_file() for p in root.rglob("*"))


def test_nothing_of_a_home_and_nothing_outside_of_shared_places_is_in_it(looks):
    files = {file.path: file.data for file in for_all_users(looks[0])}
    places = ("usr/local/share/", "usr/share/Kvantum/", "usr/share/glib-2.0/schemas/", "etc/xdg/")
    trees = [path.removeprefix("tree/") for path in files if path.startswith("tree/")]
    assert len(trees) > 60 and all(path.startswith(places) for path in trees)
    assert not [path for path, data in files.items() if b"@HOME@" in data or b"/home/" in data]
