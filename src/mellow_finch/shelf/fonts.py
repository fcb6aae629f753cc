"""The fonts that a look names, and whether they may be passed on: their licence lies beside them."""

from __future__ import annotations

from pathlib import Path

from ..session.commands import ask
from ..theme.bundle.kinds import is_credit, is_terms

_MOST = 24  # files of one family


def font_files(family: str) -> list[Path]:
    """Return the files of a family with the licence beside them; none where no licence lies there, or none is here."""
    said = ask(["fc-list", "-f", "%{file}\n", f":family={family}"])
    files = sorted({Path(line) for line in said.out.splitlines() if line})[:_MOST]
    terms: list[Path] = []
    for folder in dict.fromkeys(path.parent for path in files):
        beside = sorted(p for p in folder.iterdir() if p.is_file() and is_credit(p.name))
        if not any(is_terms(p.name) for p in beside):
            return []
        terms += beside
    return [*files, *terms] if files else []
