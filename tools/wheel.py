"""Builds the source archive and the wheel into a folder: the same bytes for the same commit."""

from __future__ import annotations

import os
import shutil
import subprocess
import sys
import tempfile
from pathlib import Path

ROOT = Path(__file__).resolve().parents[1]
_BUILD = "import sys; o = sys.argv[1]; from setuptools import build_meta as b; b.build_sdist(o); b.build_wheel(o)"


def _tracked() -> list[str]:
    done = subprocess.run(["git", "ls-files", "-z"], cwd=ROOT, capture_output=True, check=True)
    return [name for name in done.stdout.decode("utf-8").split("\0") if name]


def moment() -> str:
    """Return when the last commit was made, which every file in the packages bears.

    Outside of a clone that is when the changes were written down.
    """
    if not (ROOT / ".git").exists():
        return str(int((ROOT / "CHANGELOG.md").stat().st_mtime))
    done = subprocess.run(["git", "log", "-1", "--format=%ct"], cwd=ROOT, capture_output=True, text=True, check=True)
    return done.stdout.strip()


def _add_made(tree: Path) -> None:
    """Add what is made from the sources: manual pages, completions, icons of every size, the guide as pages."""
    environment = {
        **os.environ,
        "PYTHONPATH": str(tree / "src"),
        "QT_QPA_PLATFORM": "offscreen",
        "LC_ALL": "C.UTF-8",
        "PYTHONDONTWRITEBYTECODE": "1",
    }
    for name in ("manual", "icons", "guide"):
        words = [sys.executable, str(tree / f"tools/{name}.py"), str(tree / "packaging/share")]
        subprocess.run(words, env=environment, check=True, stdout=subprocess.DEVNULL)


def build(into: Path) -> list[Path]:
    """Build both from the tracked files alone, and return them."""
    into.mkdir(parents=True, exist_ok=True)
    when = moment()
    with tempfile.TemporaryDirectory() as made:
        tree, out = Path(made) / "tree", Path(made) / "out"
        out.mkdir()
        for name in _tracked():
            target = tree / name
            target.parent.mkdir(parents=True, exist_ok=True)
            shutil.copy2(ROOT / name, target, follow_symlinks=False)
            os.utime(target, (int(when), int(when)), follow_symlinks=False)
        _add_made(tree)
        for path in (tree / "packaging/share").rglob("*"):
            os.utime(path, (int(when), int(when)))
        environment = {**os.environ, "SOURCE_DATE_EPOCH": when}
        subprocess.run(
            [sys.executable, "-c", _BUILD, str(out)],
            cwd=tree,
            env=environment,
            check=True,
            stdout=subprocess.DEVNULL,
        )
        return sorted(Path(shutil.copy2(path, into)) for path in out.iterdir())
