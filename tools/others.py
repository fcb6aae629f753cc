"""Builds the RPM and the Arch package from the folder that runs anywhere, with these systems' own tools."""

from __future__ import annotations

import os
import shutil
import subprocess
import sys
import tempfile
from collections.abc import Callable
from pathlib import Path

from bundle import require
from portable import least_glibc, whole_folder
from wheel import ROOT

_TOOLS = {
    "rpmbuild": {"rpmbuild": "rpm"},
    "makepkg": {"makepkg": "makepkg", "bsdtar": "libarchive-tools", "zstd": "zstd"},
}
_NOBODY = 65534  # who builds where root does: makepkg refuses root


def recipe(name: str, folder: Path, version: str, **more: str) -> str:
    """Return a recipe of packaging with its places filled in; more: by the name of the place."""
    text = (ROOT / "packaging" / name).read_text(encoding="utf-8")
    words = {"VERSION": version, "FOLDER": str(folder), "GLIBC": least_glibc(folder), **more}
    for key, value in words.items():
        text = text.replace(f"@{key}@", value)
    return text


def _tool(*words: str, cwd: Path, **given: str) -> None:
    """Run a tool; what it says is shown only where it fails."""
    as_nobody = {"user": _NOBODY, "group": _NOBODY, "extra_groups": []} if os.geteuid() == 0 and given else {}
    done = subprocess.run(words, cwd=cwd, env={**os.environ, **given}, capture_output=True, text=True, **as_nobody)
    if done.returncode:
        sys.exit(f"{words[0]} failed:\n{done.stdout[-2000:]}{done.stderr[-2000:]}")


def _rpm(folder: Path, version: str, room: Path) -> None:
    shared = sorted(p.relative_to(folder) for p in (folder / "share").rglob("*") if not p.is_dir())
    rows = "\n".join(f'"/usr/{path}*"' if path.parts[1] == "man" else f'"/usr/{path}"' for path in shared)
    (room / "mellow-finch.spec").write_text(recipe("rpm/mellow-finch.spec", folder, version, SHARED=rows))
    words = ("--define", f"_topdir {room}", "--define", "_binary_payload w6.xzdio", "--target", "x86_64")
    _tool("rpmbuild", "-bb", *words, "--nodeps", str(room / "mellow-finch.spec"), cwd=room)


def _arch(folder: Path, version: str, room: Path) -> None:
    (room / "PKGBUILD").write_text(recipe("arch/PKGBUILD", folder, version))
    for path in (room, folder.parent):
        path.chmod(0o777)
    _tool("makepkg", "--nodeps", "--force", cwd=room, PKGDEST=str(room), HOME=str(room), PKGEXT=".pkg.tar.zst")


def _built(into: Path, what: str, tool: str, ending: str, build: Callable[[Path, str, Path], None]) -> Path:
    require(_TOOLS[tool], what)
    into.mkdir(parents=True, exist_ok=True)
    with whole_folder(what) as (folder, version), tempfile.TemporaryDirectory() as scratch:
        build(folder, version, Path(scratch))
        made = next(Path(scratch).rglob(f"*{ending}"))
        return Path(shutil.copy2(made, into))


def build_rpm(into: Path) -> Path:
    """Build the RPM, and return it; ends in a sentence where a tool for that is missing."""
    return _built(into, "An RPM", "rpmbuild", ".rpm", _rpm)


def build_arch(into: Path) -> Path:
    """Build the Arch package, and return it; ends in a sentence where a tool for that is missing."""
    return _built(into, "An Arch package", "makepkg", ".pkg.tar.zst", _arch)
