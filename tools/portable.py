"""Builds the program in one folder that runs anywhere: with its own Python, Qt, and what a bare system may lack.

The interpreter is the one that this runs with. Libraries of the system come first; what is not there is loaded from
the folder, by the process itself, so that no path of ours reaches the programs that it starts. Packed, it is one file
that unpacks itself once into the person's cache folder and starts: nothing is fetched, nothing is mounted.
"""

from __future__ import annotations

import gzip
import hashlib
import io
import os
import platform
import re
import shutil
import sys
import sysconfig
import tarfile
import tempfile
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path

from bundle import bundle, needed, require, run
from wheel import ROOT, build, moment

NAME = "mellow-finch"
_TOOLS = {"readelf": "binutils", "strip": "binutils", "patchelf": "patchelf"}
_XKB = Path("/usr/share/X11/xkb")
# The C library itself, which is every system's own.
_GLIBC = re.compile(r"(libc|libm|libdl|librt|libpthread|libresolv|libutil|libnsl|ld-linux[\w-]*)\.so(\.\d+)?")
_NO_MODULES = (
    *(
        "test",
        "tests",
        "idlelib",
        "tkinter",
        "turtledemo",
        "ensurepip",
        "lib2to3",
        "distutils",
        "pydoc_data",
        "sqlite3",
    ),
    *("site-packages", "dist-packages", "__pycache__", "config-*", "sitecustomize.py", "curses", "dbm", "venv"),
    *("_ssl.*", "_hashlib.*", "_tkinter.*", "_curses*", "readline.*", "_dbm.*", "_gdbm.*", "nis.*", "_sqlite3.*"),
    *("_test*", "_ctypes_test*", "xx*", "ossaudiodev.*", "_crypt.*", "spwd.*", "*.a"),
)
_START = '''"""What this folder's Python does first: know the libraries beside it, load what the system lacks."""

import os
import sys

_ROOT = os.path.dirname(os.path.dirname(os.path.dirname(os.path.abspath(__file__))))
_XKB = "/usr/share/X11/xkb"
sys.path.append(os.path.join(_ROOT, "site"))


def _load(group):
    import ctypes

    with open(os.path.join(_ROOT, "spare", group), encoding="ascii") as names:
        for name in names.read().split():
            try:
                ctypes.CDLL(name)
            except OSError:
                ctypes.CDLL(os.path.join(_ROOT, "spare", name))


class _BeforeQt:
    def find_spec(self, name, path=None, target=None):
        if name == "PyQt6":
            sys.meta_path.remove(self)
            _load("window")
            if not os.path.isdir(_XKB):
                os.environ.setdefault("XKB_CONFIG_ROOT", os.path.join(_ROOT, "xkb"))
        return None


_load("always")
sys.meta_path.insert(0, _BeforeQt())
'''
_LAUNCHER = f"""#!/bin/sh
# Mellow Finch, with its own Python and libraries. The folder may lie anywhere.
here=$(dirname "$(readlink -f "$0")")
MELLOW_FINCH_LAUNCHER="${{MELLOW_FINCH_LAUNCHER:-$here/{NAME}}}"
export MELLOW_FINCH_LAUNCHER
exec "$here/bin/python3" -I -m mellow_finch.cli "$@"
"""
_FILE = """#!/bin/sh
# Mellow Finch @VERSION@ in one file. It unpacks itself once into the cache folder and starts; words are passed on.
# “--unpack FOLDER” unpacks it there instead, with the menu entry, icons and manual pages in its share folder.
set -eu
me=$(readlink -f "$0")
fail() { printf 'mellow-finch: %s\\n' "$*" >&2; exit 2; }
unpack() {
  [ "$(tail -n +@LINES@ "$me" | sha256sum | cut -c 1-64)" = @SUM@ ] || fail "this file is damaged. Download it again."
  mkdir -p "$(dirname "$1")" && part=$(mktemp -d "$1.XXXXXX") || fail "cannot write into $(dirname "$1")."
  chmod 755 "$part"
  tail -n +@LINES@ "$me" | gzip -dc | tar -x -f - -C "$part" ||
    { rm -rf "$part"; fail "there is not enough room in $(dirname "$1")."; }
  mv -T "$part" "$1" 2>/dev/null || rm -rf "$part"  # another start was quicker
}
if [ "${1:-}" = --unpack ]; then
  [ -n "${2:-}" ] || fail "--unpack needs a folder."
  [ ! -e "$2" ] || fail "$2 is there already."
  unpack "$2"
  exit 0
fi
at="${XDG_CACHE_HOME:-$HOME/.cache}/mellow-finch/program/@VERSION@-@SHORT@"
[ -x "$at/mellow-finch" ] || unpack "$at"
[ -x "$at/bin/python3" ] || fail "$at cannot be run. Set XDG_CACHE_HOME to a folder from which programs may be started."
MELLOW_FINCH_LAUNCHER="$me" exec "$at/mellow-finch" "$@"
"""


def _is_elf(path: Path) -> bool:
    with path.open("rb") as file:
        return file.read(4) == b"\x7fELF"


def _libraries() -> dict[str, Path]:
    """Return where the system's libraries lie, by the names that others need them by."""
    rows = re.findall(r"^\s+(\S+) \(libc6,x86-64.*\) => (\S+)$", run("ldconfig", "-p"), re.MULTILINE)
    found = {name: Path(path) for name, path in reversed(rows)}
    own = Path(sysconfig.get_config_var("LIBDIR") or "/nonexistent")
    return found | {path.name: path for path in own.glob("libpython*.so.*")}


def _python(into: Path) -> None:
    """Copy the interpreter and its library."""
    version = "python{}.{}".format(*sys.version_info[:2])
    shutil.copytree(
        sysconfig.get_path("stdlib"),
        into / "lib" / version,
        ignore=shutil.ignore_patterns(*_NO_MODULES),
        symlinks=False,
    )
    (into / "lib" / version / "sitecustomize.py").write_text(_START)
    (into / "bin").mkdir()
    program = Path(sys.base_prefix, "bin", version)
    shutil.copy2(os.path.realpath(program), into / "bin" / version)
    (into / "bin/python3").symlink_to(version)
    # What the interpreter needs before it can load anything by itself: these come from the folder.
    (into / "first").mkdir()
    known = _libraries()
    for file, way in ((into / "bin" / version, ".."), *((f, "../../..") for f in into.rglob("_ctypes.*.so"))):
        for name in needed(file):
            if not _GLIBC.fullmatch(name):
                shutil.copy2(os.path.realpath(known[name]), into / "first" / name)
        run("patchelf", "--set-rpath", f"$ORIGIN/{way}/first", str(file))
    for file in (*(into / "first").iterdir(), *into.rglob("lib-dynload/*.so")):
        file.chmod(0o644)
        run("strip", "--strip-unneeded", str(file))


def _spare(into: Path) -> None:
    """Add what a bare system may lack, in the order in which it has to be loaded: always, and before the window."""
    (into / "spare").mkdir()
    known, own = _libraries(), {path.name for path in into.rglob("*.so*")}
    order: list[str] = []

    def add(name: str) -> None:
        if name in own or name in order or _GLIBC.fullmatch(name):
            return
        if name not in known:
            sys.exit(f"{name}, which the program needs, is not on this computer.")
        for other in sorted(needed(known[name])):
            add(other)
        order.append(name)

    files = sorted(path for path in into.rglob("*") if path.is_file() and not path.is_symlink() and _is_elf(path))
    written = 0
    for group, of_qt in (("always", False), ("window", True)):
        for file in files:
            if ("PyQt6" in file.parts) is of_qt:
                for name in sorted(needed(file)):
                    add(name)
        (into / "spare" / group).write_text("\n".join(order[written:]) + "\n", encoding="ascii")
        written = len(order)
    for name in order:
        shutil.copy2(os.path.realpath(known[name]), into / "spare" / name)


def least_glibc(folder: Path) -> str:
    """Return the oldest release of the C library that everything in a folder runs with."""
    found = {(2, 17)}
    for path in folder.rglob("*"):
        if path.is_file() and not path.is_symlink() and _is_elf(path):
            told = run("readelf", "-W", "--version-info", str(path))
            found |= {(int(a), int(b)) for a, b in re.findall(r"Name: GLIBC_(\d+)\.(\d+)", told)}
    return "{}.{}".format(*max(found))


def build_folder(into: Path, wheel: Path) -> None:
    """Build the folder, which must not be there yet, with the program of a wheel."""
    into.mkdir(parents=True)
    _python(into)
    bundle(wheel, into / "site", into / "share")
    _spare(into)
    shutil.copytree(_XKB, into / "xkb", symlinks=True)
    (into / NAME).write_text(_LAUNCHER)
    shutil.copy2(ROOT / "LICENSE", into / "LICENSE")
    run(sys.executable, "-m", "compileall", "-q", "--invalidation-mode", "unchecked-hash", "-s", str(into), str(into))
    for path in into.rglob("*"):
        if not path.is_symlink():
            runs = path.is_dir() or path.parent.name == "bin" or path.name == NAME
            path.chmod(0o755 if runs else 0o644)


def packed(folder: Path) -> bytes:
    """Return a folder as a compressed archive: the same bytes for the same files."""
    when, out = int(moment()), io.BytesIO()

    def plain(info: tarfile.TarInfo) -> tarfile.TarInfo:
        info.uid = info.gid = 0
        info.uname = info.gname = ""
        info.mtime = when
        return info

    with gzip.GzipFile("", "wb", 9, out, 0) as stream, tarfile.open(fileobj=stream, mode="w") as archive:
        for path in sorted(folder.rglob("*")):
            archive.add(path, path.relative_to(folder).as_posix(), recursive=False, filter=plain)
    return out.getvalue()


@contextmanager
def whole_folder(what: str) -> Iterator[tuple[Path, str]]:
    """Yield the built folder, which is gone afterwards, and the version; ends in a sentence where it cannot be built.

    what: what is built of it, for that sentence.
    """
    require(_TOOLS, what)
    if platform.machine() != "x86_64" or not _XKB.is_dir():
        sys.exit(f"{what} is built on x86_64 with the keyboards' data: sudo apt-get install xkb-data")
    os.environ["SOURCE_DATE_EPOCH"] = moment()
    with tempfile.TemporaryDirectory() as scratch:
        wheel = next(path for path in build(Path(scratch) / "wheel") if path.suffix == ".whl")
        folder = Path(scratch) / NAME
        build_folder(folder, wheel)
        yield folder, wheel.name.split("-")[1]


def size_of(folder: Path) -> int:
    """Return how many bytes the files of a folder have."""
    return sum(p.stat().st_size for p in folder.rglob("*") if p.is_file() and not p.is_symlink())


def one_file(data: bytes, version: str) -> bytes:
    """Return the program file of a packed folder: a script with the archive behind it."""
    sum_ = hashlib.sha256(data).hexdigest()
    head = _FILE.replace("@VERSION@", version).replace("@SUM@", sum_).replace("@SHORT@", sum_[:12])
    return head.replace("@LINES@", str(head.count("\n") + 1)).encode() + data


def build_portable(into: Path) -> Path:
    """Build the one file, and return it."""
    into.mkdir(parents=True, exist_ok=True)
    with whole_folder("The file that runs anywhere") as (folder, version):
        data, least, size = packed(folder), least_glibc(folder), size_of(folder)
    target = into / f"{NAME}-{version}-x86_64.run"
    target.write_bytes(one_file(data, version))
    target.chmod(0o755)
    print(f"{target.name}: {len(data) / 1e6:.0f} MB, {size / 1e6:.0f} MB unpacked, for glibc {least} and later")
    return target
