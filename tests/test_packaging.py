"""What is installed is whole: every file beside the code goes along."""

from __future__ import annotations

import ast
import json
import os
import re
import shutil
import subprocess
import sys
import tomllib
import zipfile
from importlib import metadata
from pathlib import Path

import pytest
from packaging.requirements import Requirement
from PyQt6.QtGui import QImage

from mellow_finch.follow.service import command

ROOT = Path(__file__).parents[1]
PACKAGE = ROOT / "src/mellow_finch"


def test_every_file_beside_the_code_goes_along():
    told = tomllib.loads((ROOT / "pyproject.toml").read_text(encoding="utf-8"))
    patterns = told["tool"]["setuptools"]["package-data"]["mellow_finch"]
    taken = {path for pattern in patterns for path in PACKAGE.glob(pattern) if path.is_file()}
    beside = {p for p in PACKAGE.rglob("*") if p.is_file() and p.suffix not in (".py", ".pyc", ".po")}
    assert {p.relative_to(PACKAGE).as_posix() for p in beside - taken} == set()


def test_the_command_is_where_it_is_said_to_be():
    from importlib import import_module

    told = tomllib.loads((ROOT / "pyproject.toml").read_text(encoding="utf-8"))
    module, _, name = told["project"]["scripts"]["mellow-finch"].partition(":")
    assert callable(getattr(import_module(module), name))


def built(folder: Path) -> Path:
    """Return the wheel of what is committed, as ./finch makes it."""
    if not (ROOT / ".git").exists() or shutil.which("git") is None:
        pytest.skip("packages are built from a clone")
    safe = {**os.environ, "PYTHONSAFEPATH": "1"}
    words = [sys.executable, str(ROOT / "tools/package.py"), str(folder), "--unfinished"]
    done = subprocess.run(words, env=safe, capture_output=True, text=True)
    assert done.returncode == 0, done.stderr
    (wheel,) = folder.glob("*.whl")
    return wheel


@pytest.mark.long
def test_the_same_commit_gives_the_same_wheel(tmp_path):
    assert built(tmp_path / "one").read_bytes() == built(tmp_path / "two").read_bytes()


@pytest.mark.long
def test_the_wheel_works_outside_the_tree(tmp_path):
    """Unpacked as it is installed, with what it depends on and nothing of the tree."""
    wheel = built(tmp_path / "dist")
    with zipfile.ZipFile(wheel) as packed:
        packed.extractall(tmp_path / "site")
        names = packed.namelist()
    for part in ("applications/org.mellowfinch.MellowFinch.desktop", "icons/hicolor/scalable/apps/mellow-finch.svg"):
        assert any(name.endswith(f"share/{part}") for name in names)
    assert "mellow_finch/syntax/parsed.json" in names  # for a quick start
    kept = {k: v for k, v in os.environ.items() if k not in ("PYTHONPATH",)}
    env = kept | {"PYTHONPATH": str(tmp_path / "site"), "HOME": str(tmp_path / "home")}
    words = [sys.executable, "-c", "from mellow_finch.cli import main; main()", "components", "--json", "--demo"]
    done = subprocess.run(words, env=env, cwd=tmp_path, capture_output=True, text=True)
    assert done.returncode == 0, done.stderr
    assert len(json.loads(done.stdout)["components"]) >= 100


def wanted() -> list[Requirement]:
    """Return what the one list of dependencies names for this Python."""
    lines = (ROOT / "requirements.in").read_text(encoding="utf-8").splitlines()
    rows = [Requirement(line) for line in lines if line and not line.startswith("#")]
    return [row for row in rows if row.marker is None or row.marker.evaluate()]


def plain(name: str) -> str:
    """Return the name of a distribution in its one spelling."""
    return re.sub(r"[-_.]+", "-", name).lower()


def imported() -> set[str]:
    """Return every module of others that the program imports, at any place in it."""
    found: set[str] = set()
    for path in PACKAGE.rglob("*.py"):
        if not path.name.startswith("gallery_"):  # run by the system's own interpreter
            for node in ast.walk(ast.parse(path.read_text(encoding="utf-8"))):
                if isinstance(node, ast.Import):
                    found |= {name.name.partition(".")[0] for name in node.names}
                elif isinstance(node, ast.ImportFrom) and node.level == 0 and node.module:
                    found.add(node.module.partition(".")[0])
    later = {"compression"}  # of Python 3.14's own, asked for there alone
    if sys.version_info >= (3, 14):
        later |= {"backports"}
    return found - set(sys.stdlib_module_names) - {"mellow_finch"} - later


def test_the_one_list_names_what_is_imported_and_nothing_else():
    provided = metadata.packages_distributions()
    listed = {plain(r.name) for r in wanted()}
    used: set[str] = set()
    for module in imported():
        owners = {plain(name) for name in provided[module]}
        assert owners & listed, module
        used |= owners & listed
    assert used == listed
    told = tomllib.loads((ROOT / "pyproject.toml").read_text(encoding="utf-8"))
    assert "dependencies" not in told["project"] and "dependencies" in told["project"]["dynamic"]
    for name in ("requirements.lock", "requirements-dev.lock"):
        lock = {plain(row.partition("==")[0]) for row in (ROOT / name).read_text(encoding="utf-8").splitlines()}
        assert listed <= lock, name


@pytest.mark.long
def test_the_wheel_finds_all_it_imports_in_an_environment_of_what_it_asks_for(tmp_path):
    """The wheel and what its own list asks for, that of those too, and no other package: every module is imported."""
    wheel = built(tmp_path / "dist")
    with zipfile.ZipFile(wheel) as packed:
        packed.extractall(tmp_path / "site")
    (told,) = (tmp_path / "site").glob("*.dist-info/METADATA")
    rows = [Requirement(line[15:]) for line in told.read_text().splitlines() if line.startswith("Requires-Dist: ")]
    rows = [row for row in rows if row.marker is None or row.marker.evaluate({"extra": ""})]
    assert {r.name for r in rows} == {r.name for r in wanted()}
    there: dict[str, metadata.Distribution] = {}
    while rows:
        row = rows.pop()
        if row.name.lower() not in there and (row.marker is None or row.marker.evaluate({"extra": ""})):
            there[row.name.lower()] = dist = metadata.distribution(row.name)
            rows += [Requirement(text) for text in dist.requires or ()]
    (tmp_path / "deps").mkdir()
    for dist in there.values():
        for top in {file.parts[0] for file in dist.files or () if ".." not in file.parts}:
            link = tmp_path / "deps" / top
            if not link.exists():
                link.symlink_to(dist.locate_file(top))
    code = (
        "import sys, pkgutil, importlib; sys.path[:0] = sys.argv[1:]; import mellow_finch\n"
        "for m in pkgutil.walk_packages(mellow_finch.__path__, 'mellow_finch.'):\n"
        "    if '.gallery_' not in m.name and not m.name.endswith('__main__'): importlib.import_module(m.name)\n"
        "import Xlib.display, jeepney.io.blocking, astral.sun, msgspec; print('all')"
    )
    words = [sys.executable, "-I", "-S", "-c", code, str(tmp_path / "site"), str(tmp_path / "deps")]
    env = {**os.environ, "HOME": str(tmp_path), "QT_QPA_PLATFORM": "offscreen"}
    done = subprocess.run(words, env=env, cwd=tmp_path, capture_output=True, text=True)
    assert done.returncode == 0 and done.stdout.endswith("all\n"), done.stderr


SHARE = ROOT / "packaging/share"


def test_the_entry_for_the_menu_is_valid():
    if shutil.which("desktop-file-validate") is None:
        pytest.skip("NO DESKTOP-FILE-VALIDATE")
    done = subprocess.run(
        ["desktop-file-validate", SHARE / "applications/org.mellowfinch.MellowFinch.desktop"],
        capture_output=True,
        text=True,
    )
    assert done.returncode == 0 and "error" not in done.stdout, done.stdout


def test_the_metainfo_is_valid_and_names_this_version():
    from mellow_finch import __version__

    path = SHARE / "metainfo/org.mellowfinch.MellowFinch.metainfo.xml"
    assert f'<release version="{__version__}"' in path.read_text()
    if shutil.which("appstreamcli") is None:
        pytest.skip("NO APPSTREAMCLI")
    done = subprocess.run(["appstreamcli", "validate", "--no-net", path], capture_output=True, text=True)
    assert "E:" not in done.stdout, done.stdout


def test_looks_have_a_type_of_their_own(tmp_path):
    if shutil.which("update-mime-database") is None:
        pytest.skip("NO UPDATE-MIME-DATABASE")
    shutil.copytree(SHARE / "mime", tmp_path / "mime")
    done = subprocess.run(["update-mime-database", tmp_path / "mime"], capture_output=True, text=True)
    assert done.returncode == 0, done.stderr
    assert "application/x-mellow-finch-look:*.finchlook" in (tmp_path / "mime/globs").read_text()


@pytest.mark.parametrize("name", ["scalable/apps/mellow-finch.svg", "symbolic/apps/mellow-finch-symbolic.svg"])
def test_the_icons_are_drawings(name, qapp):
    image = QImage(str(SHARE / "icons/hicolor" / name))
    assert not image.isNull() and image.width() == image.height()
    assert len({image.pixelColor(x, y).rgba() for x in range(image.width()) for y in range(image.height())}) > 3


def locked_wheels():
    sys.path.insert(0, str(ROOT / "tools"))
    try:
        import wheels
    finally:
        sys.path.pop(0)
    return wheels, json.loads(wheels.KEPT.read_text(encoding="utf-8"))


def test_every_line_of_the_lock_has_a_wheel_for_every_python():
    """The answers were asked of the index by tools/wheels.py, which is run again when the lock changes."""
    wheels, kept = locked_wheels()
    text = wheels.LOCK.read_text(encoding="utf-8")
    assert set(kept) == {f"{python} {machine}" for python in wheels.PYTHONS for machine in wheels.MACHINES}
    for key, found in kept.items():
        lines = wheels.wanted(text, *key.split())
        assert set(found) == set(lines), key
        for name, wheel in found.items():
            assert wheel.endswith(".whl") and wheel.split("-")[1] == lines[name], (key, wheel)


def test_the_wheels_work_from_debian_12_on():
    """Its C library is 2.36; those for the other machine may ask for a newer one, which the README says."""
    _, kept = locked_wheels()
    for key, found in kept.items():
        asked = [int(n) for wheel in found.values() for n in re.findall(r"manylinux_2_(\d+)_", wheel)[:1]]
        assert asked and (max(asked) <= 36 or "aarch64" in key), key


def test_it_starts_itself_again_where_its_modules_lie_in_a_folder_of_their_own(tmp_path):
    script = (
        "import json, os, subprocess, sys; sys.path[:0] = json.loads(sys.argv[1])\n"
        "from mellow_finch.itself import own_module, own_script\n"
        "for words in (own_module('mellow_finch.cli', '--version'), own_script(sys.argv[2], 'ring')):\n"
        "    print(subprocess.run(words, capture_output=True, text=True, cwd='/').stdout.strip())\n"
    )
    (tmp_path / "own.py").write_text(
        "import os, sys, mellow_finch\nprint(sys.argv[1:], os.environ.get('PYTHONPATH'), __name__)\n"
    )
    places = json.dumps([str(ROOT / "src"), *(p for p in sys.path if "site-packages" in p)])
    environment = {k: v for k, v in os.environ.items() if k != "PYTHONPATH"}
    words = [sys.executable, "-I", "-c", script, places, str(tmp_path / "own.py")]
    said = subprocess.run(words, env=environment, capture_output=True, text=True, check=True).stdout.splitlines()
    assert "version" in said[0]
    assert said[1] == "['ring'] None __main__"


def test_what_follows_is_started_by_the_file_that_a_package_names(tmp_path, monkeypatch):
    file = tmp_path / "mellow-finch.run"
    monkeypatch.setenv("MELLOW_FINCH_LAUNCHER", str(file))
    assert command()[0] != str(file)  # it is gone
    file.write_text("#!/bin/sh\n")
    file.chmod(0o755)
    assert command() == [str(file), "follow", "run"]
