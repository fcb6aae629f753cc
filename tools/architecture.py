"""Draws which part of the program imports which, from the imports themselves: docs/architecture.svg.

Lists every module in docs/architecture.md too, one line each, by the first line of what it says of itself.

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
PICTURE, PAGE = ROOT / "docs/architecture.svg", ROOT / "docs/architecture.md"
BEGIN, END = "<!-- modules: tools/architecture.py -->", "<!-- end -->"
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
    return (ast.get_docstring(tree(file)) or "").splitlines()[0].partition(". ")[0].rstrip(".")


@cache
def tree(file: Path) -> ast.Module:
    """Return what a file of the program says, parsed."""
    return ast.parse(file.read_text(encoding="utf-8"))


@cache
def _named(file: Path) -> set[str]:
    """Return the names that a file imports, at its top, in functions, or for types alone."""
    here = ("mellow_finch", *file.relative_to(PACKAGE).parent.parts)
    out: set[str] = set()
    for node in ast.walk(tree(file)):
        if isinstance(node, ast.Import):
            out |= {alias.name for alias in node.names}
        elif isinstance(node, ast.ImportFrom):
            base = ".".join(here[: len(here) - node.level + 1]) if node.level else ""
            whole = ".".join(filter(None, (base, node.module)))
            out |= {whole, *(f"{whole}.{alias.name}" for alias in node.names)}
    return out


@cache
def imports(part: str) -> set[str]:
    """Return the parts that a part imports."""
    folder = PACKAGE / part
    files = sorted(folder.rglob("*.py")) if folder.is_dir() else [PACKAGE / f"{part}.py"]
    words = [name.split(".") for file in files for name in _named(file)]
    return {w[1] for w in words if w[0] == "mellow_finch" and len(w) > 1} & set(parts()) - {part}


def modules() -> dict[str, Path]:
    """Return the files of the program by the names of their modules, in order."""
    files = {file: file.relative_to(PACKAGE.parent).with_suffix("").parts for file in sorted(PACKAGE.rglob("*.py"))}
    return {".".join(words[:-1] if words[-1] == "__init__" else words): file for file, words in files.items()}


def cycles() -> list[list[str]]:
    """Return the modules that import each other in a circle, whether at load, in functions, or for types alone."""
    known = modules()
    graph = {name: {n for n in _named(file) if n in known and n != name} for name, file in known.items()}
    for name in graph:  # of what comes out of a package, the file inside counts and not the package's own
        inner = {n for n in graph[name] if any(other.startswith(f"{n}.") for other in graph[name])}
        graph[name] -= {n for n in inner if known[n].name == "__init__.py"}
    return [sorted(group) for group in strongly_connected(graph) if len(group) > 1]


def strongly_connected(graph: dict[str, set[str]]) -> list[set[str]]:
    """Return the strongly connected components of a graph, by the two passes of Kosaraju and Sharir."""
    order: list[str] = []
    seen: set[str] = set()

    def walk(start: str, edges: dict[str, set[str]], out: list[str]) -> None:
        stack = [(start, iter(sorted(edges[start])))]
        seen.add(start)
        while stack:
            after = next((other for other in stack[-1][1] if other not in seen), None)
            if after is None:
                out.append(stack.pop()[0])
            else:
                seen.add(after)
                stack.append((after, iter(sorted(edges[after]))))

    for node in graph:
        if node not in seen:
            walk(node, graph, order)
    back: dict[str, set[str]] = {node: set() for node in graph}
    for node, others in graph.items():
        for other in others:
            back[other].add(node)
    seen.clear()
    out: list[set[str]] = []
    for node in reversed(order):
        if node not in seen:
            found: list[str] = []
            walk(node, back, found)
            out.append(set(found))
    return out


def listed() -> str:
    """Return the list of modules as text, a part at a time, the highest layer first."""
    order = {part: i for i, part in enumerate(parts())}
    rows: dict[str, list[str]] = {}
    for file in modules().values():
        name = file.relative_to(PACKAGE).as_posix()
        part = name.partition("/")[0].removesuffix(".py")
        words = ast.get_docstring(tree(file)) or ""
        rows.setdefault(part, []).append(f"- `{name}`: {words.partition(chr(10))[0]}")
    known = sorted((part for part in rows if part in order), key=lambda part: order[part])
    return "\n\n".join("\n".join([f"### {part}", "", *sorted(rows[part])]) for part in known)


def page() -> str:
    """Return docs/architecture.md with the list of modules as it is now."""
    head, _, rest = PAGE.read_text(encoding="utf-8").partition(BEGIN)
    return f"{head}{BEGIN}\n\n{listed()}\n\n{END}{rest.partition(END)[2]}"


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
    PAGE.write_text(page(), encoding="utf-8")
    sys.exit(0)
