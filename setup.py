"""Makes what the program reads of its catalogues and data files, whenever it is built."""

from __future__ import annotations

import sys
from pathlib import Path

from babel.messages.mofile import write_mo
from babel.messages.pofile import read_po
from setuptools import setup
from setuptools.command.build_py import build_py

sys.path.insert(0, "src")
from mellow_finch.syntax.parsed import make


class BuildWithTranslations(build_py):
    """Builds the package with its catalogues compiled and its data files parsed."""

    def run(self) -> None:
        """Make both, then build."""
        for po in sorted(Path("src/mellow_finch/locale").glob("*/LC_MESSAGES/*.po")):
            with po.open("rb") as read, po.with_suffix(".mo").open("wb") as written:
                write_mo(written, read_po(read, locale=po.parts[-3]))
        make(Path("src/mellow_finch"))
        super().run()


setup(cmdclass={"build_py": BuildWithTranslations})
