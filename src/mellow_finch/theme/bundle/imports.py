"""A toolkit theme's style sheet with all that it imports, as one: whose literal is whose, and what it paints."""

from __future__ import annotations

import posixpath
import re
from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass

from ...syntax.spans import ColourSpan

_IMPORT = re.compile(
    r"""/\*.*?(?:\*/|\Z)|@import\s+(?:url\(\s*)?(?:"([^"]*)"|'([^']*)'|([^"'\s;)]+))\s*\)?\s*;""", re.DOTALL
)
_SHELL = re.compile(r"#panel\b|\.popup-menu|\bSt[A-Z]\w+|\.panel-button|#dash\b")  # what only shells' sheets speak of
_DEPTH = 12  # imports within imports that are followed
_WHOLE = 12_000_000  # characters of an entry with its imports that are judged


@dataclass(frozen=True, slots=True)
class SheetPiece:
    """A literal of a joined sheet: the file it stands in and its number there."""

    path: str
    index: int


@dataclass(frozen=True, eq=False)
class Joined:
    """An entry sheet with its imports in their places.

    skeleton: for the cascade; pieces: where each literal comes from; files: all that it is made of; missing: imports
    that are not part of the theme; alias: turns a resource's address into a path of the theme; component: the id of the
    component by whose places it is judged and shown.
    """

    entry: str
    skeleton: str
    pieces: tuple[SheetPiece, ...]
    files: tuple[str, ...]
    missing: tuple[str, ...]
    alias: Callable[[str], str]
    component: str


_BY_PATH = (("gtk-3", "gtk-3"), ("gtk-4", "gtk-4"), ("gnome-shell", "shell"), ("cinnamon", "shell-cinnamon"))


def component_of(entry: str, text: str) -> str:
    """Return the id of the component that a sheet is for: told by its path, else by what it speaks of."""
    for mark, component in _BY_PATH:
        if mark in entry:
            return component
    return "shell" if _SHELL.search(text) else "gtk-3"


def resolve(base: str, name: str) -> str:
    """Return the path, from the theme's root, that a file's reference means; empty for one that leads outside."""
    if "://" in name:
        return name if name.startswith("resource://") else ""
    path = posixpath.normpath(posixpath.join(posixpath.dirname(base), name))
    return "" if path.startswith(("/", "..")) else path


def joined(
    entry: str, texts: Mapping[str, str], spans: Mapping[str, Sequence[ColourSpan]], alias: Callable[[str], str]
) -> Joined:
    """Return an entry sheet and all it imports as one.

    texts and spans: by path from the theme's root; alias: turns a resource's address into such a path.
    """
    chunks: list[str] = []
    pieces: list[SheetPiece] = []
    missing: list[str] = []
    files: list[str] = []
    size = 0

    def add(path: str, above: tuple[str, ...]) -> None:
        nonlocal size
        text, own = texts[path], spans[path]
        files.append(path)
        size += len(text)
        if size > _WHOLE:
            return
        at, number = 0, 0

        def until(end: int) -> None:
            nonlocal at, number
            while number < len(own) and own[number].start < end:
                span = own[number]
                chunks.extend((text[at : span.start], f"__literal{len(pieces)}"))
                pieces.append(SheetPiece(path, number))
                at, number = span.end, number + 1
            chunks.append(text[at:end])
            at = end

        for found in _IMPORT.finditer(text):
            name = found.group(1) or found.group(2) or found.group(3)
            if not name:
                continue
            until(found.start())
            at = found.end()
            target = alias(resolve(path, name))
            if target in texts and target not in above and len(above) < _DEPTH:
                chunks.append("\n")
                add(target, (*above, target))
                chunks.append("\n")
            else:
                missing.append(name)
        until(len(text))

    add(entry, (entry,))
    component = component_of(entry, texts[entry])
    return Joined(entry, "".join(chunks), tuple(pieces), tuple(dict.fromkeys(files)), tuple(missing), alias, component)
