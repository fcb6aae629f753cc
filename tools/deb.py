"""Builds a Debian package: the program with the libraries that it was tested with, under /opt, run by Debian's Python.

Debian 12 has PyQt6 6.4 (no accent role, which the window uses), py7zr 0.11 (cannot unpack into memory) and no zstd for
Python 3.11, so its own versions do not serve; what the lock file names is bundled, without the parts of Qt that the
program never loads. What the bundled libraries need of the system is asked of them (dpkg-shlibdeps). The package
changes nothing of the system and has no scripts, so removing it leaves nothing behind.
"""

from __future__ import annotations

import gzip
import os
import sys
import tempfile
from pathlib import Path

sys.path.insert(0, str(Path(__file__).parent))
from bundle import bundle, require, run
from wheel import ROOT, build, moment

NAME = "mellow-finch"
OPT = f"opt/{NAME}"
_LAUNCHER = f"""#!/bin/sh
# Mellow Finch, with the libraries it brings along.
exec /usr/bin/python3 -I /{OPT}/run.py "$@"
"""
_RUN = f"""import sys

sys.path.insert(0, "/{OPT}/lib")
from mellow_finch.cli import main

main()
"""
_CONTROL = """Package: mellow-finch
Version: {version}
Architecture: {architecture}
Maintainer: Mellow Finch <maintainers@mellowfinch.example>
Installed-Size: {size}
Depends: python3 (>= {python}), python3 (<< {next}), {depends}
Recommends: python3-gi, gir1.2-gtk-3.0, xvfb, fontconfig
Suggests: gir1.2-gtk-4.0, python3-pyqt5, qt5-style-kvantum
Section: x11
Priority: optional
Homepage: https://mellowfinch.example/
Description: one palette for the whole desktop, readable everywhere
 Takes a palette from a picture, several, or a scheme, and dresses toolkits,
 window borders, shells, panels, terminals, editors and widgets in it, so that
 every component matches and every text can be read. What was there before is
 kept, and going back gives every file its exact old bytes.
"""
_OVERRIDES = """# The libraries that the program was tested with lie under /opt; Debian's are too old for it.
mellow-finch: dir-or-file-in-opt
mellow-finch: embedded-library
mellow-finch: unstripped-binary-or-object
mellow-finch: custom-library-search-path
mellow-finch: shared-library-lacks-prerequisites
mellow-finch: shared-library-is-executable
mellow-finch: package-installs-python-pycache-dir
mellow-finch: package-installs-python-bytecode
mellow-finch: library-not-linked-against-libc
mellow-finch: statically-linked-binary
mellow-finch: bogus-mail-host maintainers@mellowfinch.example
"""
_COPYRIGHT = """Format: https://www.debian.org/doc/packaging-manuals/copyright-format/1.0/
Upstream-Name: Mellow Finch

Files: *
Copyright: The authors of Mellow Finch
License: GPL-3+
 On Debian systems the text of the GNU General Public License, version 3, is in
 /usr/share/common-licenses/GPL-3.

Files: opt/mellow-finch/lib/PyQt6/*
Copyright: Riverbank Computing Limited; The Qt Company Ltd and others
License: GPL-3 and LGPL-3
 PyQt6 is under the GNU General Public License, version 3; Qt under the GNU
 Lesser General Public License, version 3. Both are in
 /usr/share/common-licenses.

Files: opt/mellow-finch/lib/*
Copyright: The authors of each library
License: as-said-there
 Each library's licence lies in the folder of its name that ends in .dist-info.

Files: opt/mellow-finch/lib/mellow_finch/ui/kit/fonts/*
Copyright: Braille Institute of America, Inc.
License: OFL-1.1
 SIL Open Font License, version 1.1; its text lies beside the fonts.
"""


def _depends(root: Path) -> str:
    """Return what the bundled libraries need of the system, as Debian names it."""
    lib = root / OPT / "lib"
    binaries = [str(path) for path in lib.rglob("*.so*") if path.is_file()]
    folders = sorted({str(Path(path).parent) for path in binaries})
    with tempfile.TemporaryDirectory() as scratch:
        (Path(scratch) / "debian").mkdir()
        control = "Source: mellow-finch\n\nPackage: mellow-finch\nArchitecture: any\n"
        (Path(scratch) / "debian/control").write_text(control)
        words = ["dpkg-shlibdeps", "-O", "--ignore-missing-info", *(f"-l{folder}" for folder in folders)]
        told = run(*words, *binaries, cwd=Path(scratch))
    rows = told.strip().removeprefix("shlibs:Depends=").split(", ")
    return ", ".join(row for row in rows if not row.startswith(("libqt6", "qt6-")))  # that Qt is brought along


def build_deb(into: Path) -> Path:
    """Build the package from the tracked files, and return it; ends in a sentence where a tool for that is missing."""
    require({"readelf": "binutils", "dpkg-shlibdeps": "dpkg-dev"}, "A Debian package")
    into.mkdir(parents=True, exist_ok=True)
    os.environ["SOURCE_DATE_EPOCH"] = moment()
    with tempfile.TemporaryDirectory() as scratch:
        made = build(Path(scratch) / "wheel")
        wheel = next(path for path in made if path.suffix == ".whl")
        version = wheel.name.split("-")[1]
        root = Path(scratch) / "root"
        lib = root / OPT / "lib"
        share = root / "usr/share"
        bundle(wheel, lib, share)
        for place, text, mode in (
            (root / OPT / "run.py", _RUN, 0o644),
            (root / "usr/bin" / NAME, _LAUNCHER, 0o755),
            (share / "doc" / NAME / "copyright", _COPYRIGHT, 0o644),
            (share / "lintian/overrides" / NAME, _OVERRIDES, 0o644),
            (share / "dbus-1/services/org.mellowfinch.MellowFinch.service", _SERVICE, 0o644),
        ):
            place.parent.mkdir(parents=True, exist_ok=True)
            place.write_text(text)
            place.chmod(mode)
        changes = (ROOT / "CHANGELOG.md").read_bytes()
        for name, data in (("changelog.gz", changes), ("changelog.Debian.gz", _changes(version).encode())):
            with (share / "doc" / NAME / name).open("wb") as stream, gzip.GzipFile("", "wb", 9, stream, 0) as packed:
                packed.write(data)
        place = ("-s", str(root), "-p", "/")  # what a fault names is where the file will lie
        run("/usr/bin/python3", "-m", "compileall", "-q", "--invalidation-mode", "unchecked-hash", *place, str(lib))
        for path in root.rglob("*"):
            if not path.is_symlink():
                path.chmod(0o755 if path.is_dir() or path.parent.name == "bin" else 0o644)
        size = sum(p.stat().st_size for p in root.rglob("*") if p.is_file() and not p.is_symlink()) // 1024
        sums = [
            f"{run('md5sum', str(p)).split()[0]}  {p.relative_to(root)}"
            for p in sorted(root.rglob("*"))
            if p.is_file() and not p.is_symlink()
        ]
        architecture = run("dpkg", "--print-architecture").strip()
        low = "{}.{}".format(*sys.version_info[:2])
        after = f"{sys.version_info[0]}.{sys.version_info[1] + 1}"
        depends = _depends(root)
        (root / "DEBIAN").mkdir()
        (root / "DEBIAN/control").write_text(
            _CONTROL.format(
                version=version, architecture=architecture, size=size, python=low, next=after, depends=depends
            )
        )
        (root / "DEBIAN/md5sums").write_text("\n".join(sums) + "\n")
        target = into / f"{NAME}_{version}_{architecture}.deb"
        run("dpkg-deb", "--root-owner-group", "-Zxz", "--build", str(root), str(target))
        return target


_SERVICE = f"""[D-BUS Service]
Name=org.mellowfinch.MellowFinch
Exec=/usr/bin/{NAME} open
"""


def _changes(version: str) -> str:
    from email.utils import formatdate

    when = formatdate(int(moment()))
    return (
        f"{NAME} ({version}) bookworm; urgency=medium\n\n  * See changelog.gz.\n\n"
        f" -- Mellow Finch <maintainers@mellowfinch.example>  {when}\n"
    )


if __name__ == "__main__":
    print(build_deb(Path(sys.argv[1] if len(sys.argv) > 1 else ROOT / "dist")))
