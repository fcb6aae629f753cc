"""Compiles the catalogues of translations into what the program reads, whenever it is built."""

from __future__ import annotations

from pathlib import Path

from babel.messages.mofile import write_mo
from babel.messages.pofile import read_po
from setuptools import setup
from setuptools.command.build_py import build_py


class BuildWithTranslations(build_py):
    """Builds the package with its catalogues compiled."""

    def run(self) -> None:
        """Compile, then build."""
        for po in sorted(Path("src/mellow_finch/locale").glob("*/LC_MESSAGES/*.po")):
            with po.open("rb") as read, po.with_suffix(".mo").open("wb") as written:
                write_mo(written, read_po(read, locale=po.parts[-3]))
        super().run()


setup(cmdclass={"build_py": BuildWithTranslations})
