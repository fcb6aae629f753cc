"""Draws which part of the program imports which, from the imports themselves: docs/architecture.svg.

A row and a column for each part, the lowest layer at the bottom; a dot where the part of the row imports that of the
column. Layers hold where every dot lies right of the diagonal.
"""

from __future__ import annotations

import ast
import sys
import tomllib
from functools import cache
from html import escape
from pathlib import Path

ROOT = Path(__file__).resolve().parents[1]
PACKAGE = ROOT / "src/mellow_finch"
PICTURE = ROOT / "docs/architecture.svg"
_CELL, _WORDS, _HEAD, _SIZE = 26, 640, 96, 13


@cache
def parts() -> list[str]:
    """Return the parts of the program, the highest layer first, as the project's own contract has them."""
    rows = tomllib.loads((ROOT / "pyproject.toml").read_text(encoding="utf-8"))["tool"]["importlinter"]["contracts"]
    layers = next(row for row in rows if row["name"] == "Imports point downwards")["layers"]
    return [part.strip().rpartition(".")[2] for layer in layers for part in layer.split("|")]


def purpose(part: str) -> str:
    """Return the first sentence that a part says of itself."""
    file = PACKAGE / part / "__init__.py" if (PACKAGE / part).is_dir() else PACKAGE / f"{part}.py"
    words = ast.get_docstring(ast.parse(file.read_text(encoding="utf-8"))) or ""
    return words.splitlines()[0].partition(". ")[0].rstrip(".")


@cache
def imports(part: str) -> set[str]:
    """Return the parts that a part imports."""
    folder = PACKAGE / part
    out: set[str] = set()
    for file in sorted(folder.rglob("*.py")) if folder.is_dir() else [PACKAGE / f"{part}.py"]:
        here = ("mellow_finch", *file.relative_to(PACKAGE).parent.parts)
        for node in ast.walk(ast.parse(file.read_text(encoding="utf-8"))):
            names = [alias.name for alias in node.names] if isinstance(node, ast.Import) else []
            if isinstance(node, ast.ImportFrom):
                base = ".".join(here[: len(here) - node.level + 1]) if node.level else ""
                whole = ".".join(filter(None, (base, node.module)))
                names = [whole, *(f"{whole}.{alias.name}" for alias in node.names)]
            for name in names:
                words = name.split(".")
                if words[0] == "mellow_finch" and len(words) > 1:
                    out.add(words[1])
    return out & set(parts()) - {part}


def drawn() -> str:
    """Return the picture as SVG."""
    rows = parts()
    wide, high = _WORDS + _CELL * len(rows) + 48, _HEAD + _CELL * len(rows) + 24
    out = [
        f'<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 {wide} {high}" width="{wide}" height="{high}" '
        f'font-family="sans-serif" font-size="{_SIZE}">',
        "<title>Which part of Mellow Finch imports which</title>",
        f'<rect width="{wide}" height="{high}" fill="#ffffff"/>',
    ]
    for i, part in enumerate(rows):
        y = _HEAD + i * _CELL
        x = _WORDS + i * _CELL + _CELL / 2
        if i % 2 == 0:
            out.append(f'<rect x="8" y="{y}" width="{wide - 16}" height="{_CELL}" fill="#f1f3f4"/>')
        out.append(f'<text x="18" y="{y + 18}" font-weight="bold" fill="#1c1d1f">{part}</text>')
        out.append(f'<text x="120" y="{y + 18}" fill="#45494d">{escape(purpose(part))}</text>')
        out.append(f'<text transform="translate({x + 4} {_HEAD - 8}) rotate(-60)" fill="#1c1d1f">{part}</text>')
    for i, part in enumerate(rows):
        y = _HEAD + i * _CELL + _CELL / 2
        x = _WORDS + i * _CELL
        out.append(f'<rect x="{x + 5}" y="{y - 8}" width="{_CELL - 10}" height="16" rx="3" fill="#c9ced2"/>')
        for other in sorted(imports(part)):
            at = _WORDS + rows.index(other) * _CELL + _CELL / 2
            fill = "#0b5f66" if rows.index(other) > i else "#b3261e"
            out.append(f'<circle cx="{at}" cy="{y}" r="5.5" fill="{fill}"/>')
    return "\n".join([*out, "</svg>"]) + "\n"


if __name__ == "__main__":
    PICTURE.write_text(drawn(), encoding="utf-8")
    sys.exit(0)
