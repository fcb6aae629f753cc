"""The program with the libraries that its lock file names, in one folder, as the packages bring them along.

Without the parts of Qt that the program never loads, and without what serves only to build it.
"""

from __future__ import annotations

import re
import shutil
import subprocess
import sys
from pathlib import Path

from wheel import ROOT

_QT_MODULES = ("QtCore", "QtGui", "QtWidgets", "QtSvg", "QtDBus", "sip")
_QT_PLUGINS = (
    *("platforms", "imageformats", "iconengines", "platformthemes", "platforminputcontexts", "xcbglintegrations"),
    *("wayland-shell-integration", "wayland-decoration-client", "wayland-graphics-integration-client"),
)
_LANGUAGES = ("ar", "de", "es", "fr", "zh_CN")
_NOT_NEEDED = ("setuptools", "pkg_resources", "_distutils_hack", "babel", "markdown", "bin", "share", "psutil/tests")


def run(*words: str, cwd: Path | None = None) -> str:
    """Return what a command printed; raises CalledProcessError where it failed."""
    return subprocess.run(words, check=True, capture_output=True, text=True, cwd=cwd).stdout


def needed(library: Path) -> set[str]:
    """Return the libraries that a library says it needs, by name."""
    told = run("readelf", "-d", str(library))
    return set(re.findall(r"NEEDED.*\[(.+)\]", told))


def _thin(lib: Path) -> None:
    """Take out of Qt what the program never loads: modules, plug-ins, and the libraries that neither needs."""
    qt = lib / "PyQt6/Qt6"
    for module in (lib / "PyQt6").glob("*.so"):
        if module.name.split(".")[0] not in _QT_MODULES:
            module.unlink()
    for extra in ("bindings", "uic", "lupdate", "Qt6/qml", "Qt6/qsci"):
        shutil.rmtree(lib / "PyQt6" / extra, ignore_errors=True)
    for pyi in lib.rglob("*.pyi"):
        pyi.unlink()
    for tests in [*lib.glob("numpy/**/tests"), *lib.glob("Cryptodome/SelfTest")]:
        shutil.rmtree(tests)
    (qt / "plugins/platformthemes/libqgtk3.so").unlink(missing_ok=True)  # it alone would need GTK
    for plugin in (qt / "plugins").iterdir():
        if plugin.name not in _QT_PLUGINS:
            shutil.rmtree(plugin)
    for words in (qt / "translations").glob("*.qm"):
        if not any(words.name in (f"qtbase_{code}.qm", f"qt_{code}.qm") for code in _LANGUAGES):
            words.unlink()
    own = {path.name: path for path in (qt / "lib").iterdir()}
    wanted: set[str] = set()
    waiting = [*(lib / "PyQt6").glob("*.so"), *(qt / "plugins").rglob("*.so")]
    while waiting:
        for name in needed(waiting.pop()) & own.keys() - wanted:
            wanted.add(name)
            waiting.append(own[name])
    for name, path in own.items():
        if name not in wanted:
            path.unlink()


def require(tools: dict[str, str], what: str) -> None:
    """End in a sentence where a tool is missing; tools: the packages that have them, by name."""
    lacking = sorted({package for tool, package in tools.items() if shutil.which(tool) is None})
    if lacking:
        sys.exit(f"{what} needs what is missing here: sudo apt-get install {' '.join(lacking)}")


def bundle(wheel: Path, lib: Path, share: Path) -> None:
    """Put the program and its libraries into a folder, and what desktops read of it into another."""
    pip = (sys.executable, "-m", "pip", "install", "--quiet", "--disable-pip-version-check", "--no-compile")
    run(*pip, "--target", str(lib), "--require-hashes", "-r", str(ROOT / "requirements.lock"))
    run(*pip, "--target", str(lib), "--no-deps", "--upgrade", str(wheel))
    shutil.copytree(lib / "share", share)
    for name in _NOT_NEEDED:
        for path in (*lib.glob(name), *lib.glob(f"{name}-*.dist-info")):
            shutil.rmtree(path) if path.is_dir() else path.unlink()
    _thin(lib)
