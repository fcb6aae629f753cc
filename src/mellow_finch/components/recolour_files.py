"""Recolouring files by their syntax, with an account of what was replaced and how often."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass
from pathlib import Path
from typing import NamedTuple

from ..colour.rgb import Rgba
from ..errors import ParseError, file_errors
from ..recolour.rewrite import Scan, new_colours, rewrite, subject_of
from ..syntax.css import scan_css
from ..syntax.ini import scan_ini
from ..syntax.lua import scan_lua
from ..syntax.xresources import scan_xresources
from .model import Paints, Part, Scheme, as_bytes
from .rewriting import recoloured
from .shell import PARTS as SHELL_PARTS
from .shell import read_sheet
from .widget import PARTS as WIDGET_PARTS
from .widget import read_lua

_MOST_BYTES = 16_000_000


@dataclass(frozen=True, slots=True, kw_only=True)
class Format:
    """A syntax: which files are in it, its scanner, and the parts by which its pairs are known, if any are."""

    id: str
    title: str
    globs: tuple[str, ...]
    scan: Scan
    read: Callable[[str], Paints] | None = None
    parts: tuple[Part, ...] = ()
    prefix: str = ""
    alpha: bool = True


FORMATS: tuple[Format, ...] = (
    Format(
        id="css",
        title="Style sheet",
        globs=("*.css",),
        scan=scan_css,
        read=read_sheet,
        parts=SHELL_PARTS,
        prefix="shell",
    ),
    Format(
        id="lua",
        title="Lua table",
        globs=("*.lua", "conky.conf", "*.conf", ".conkyrc"),
        scan=scan_lua,
        read=read_lua,
        parts=WIDGET_PARTS,
        prefix="widget",
        alpha=False,
    ),
    Format(id="colors", title="Colour scheme", globs=("*.colors", "kdeglobals"), scan=scan_ini, alpha=False),
    Format(
        id="xresources",
        title="X resources",
        globs=(".Xresources", ".Xdefaults", "*.Xresources"),
        scan=scan_xresources,
        alpha=False,
    ),
)


class FileResult(NamedTuple):
    """One file: how many literals it has, how many were replaced."""

    path: str
    literals: int
    replaced: int


@dataclass(frozen=True, slots=True)
class GroupResult:
    """One group of colours over all files."""

    source: Rgba
    target: Rgba
    role: str
    places: int
    files: int

    def as_json(self) -> dict[str, object]:
        """Return the group with the documented keys."""
        return {
            "from": self.source.hex,
            "to": self.target.hex,
            "role": self.role,
            "places": self.places,
            "files": self.files,
        }


@dataclass(frozen=True, slots=True)
class Result:
    """What recolouring gave: bytes by path, and the account."""

    outputs: Mapping[str, bytes]
    files: tuple[FileResult, ...]
    groups: tuple[GroupResult, ...]


def format_of(path: Path) -> Format | None:
    """Return the syntax of a file by its name."""
    return next((f for f in FORMATS if any(path.match(glob) for glob in f.globs)), None)


def recolour_path(path: Path, scheme: Scheme) -> Result:
    """Return a file, or every file of a known syntax in a folder, recoloured. Writes nothing.

    Raises ParseError when there is nothing that can be recoloured, FileAccessError when a file cannot be read.
    """
    with file_errors(path, "open"):
        if path.is_dir():
            rows = [
                (p, p.relative_to(path).as_posix())
                for p in sorted(path.rglob("*"))
                if p.is_file() and not p.is_symlink()
            ]
        else:
            path.stat()
            rows = [(path, path.name)]
    outputs: dict[str, bytes] = {}
    files: list[FileResult] = []
    groups: dict[tuple[Rgba, str], tuple[Rgba, int, set[str]]] = {}
    for source, name in rows:
        form = format_of(source)
        if form is None:
            continue
        with file_errors(source, "read"):
            if source.stat().st_size > _MOST_BYTES:
                raise ParseError(f"“{name}” is larger than 16 MB, too large for a theme's text.")
            text = source.read_bytes().decode("utf-8", "surrogateescape")
        fresh = _fresh(text, form, scheme)
        subject = subject_of(text, form.scan)
        after = form.scan(fresh)
        replaced = sum(a.colour != b.colour for a, b in zip(subject.spans, after, strict=False))
        outputs[name] = as_bytes(fresh)
        files.append(FileResult(name, subject.literals, replaced))
        for group in subject.groups:
            target, places, seen = groups.get((group.anchor, group.role), (scheme.colours[group.role], 0, set()))
            groups[group.anchor, group.role] = (target, places + group.places, seen | {name})
    if not files:
        raise ParseError(
            f"Nothing in “{path.name}” can be recoloured.",
            hint="Style sheets, Lua tables, .colors and X resources can.",
        )
    ordered = sorted(groups.items(), key=lambda row: (-row[1][1], row[0]))
    rows_ = tuple(GroupResult(k[0], v[0], k[1], v[1], len(v[2])) for k, v in ordered)
    return Result(outputs, tuple(files), rows_)


def _fresh(text: str, form: Format, scheme: Scheme) -> str:
    if form.read is not None:
        return recoloured(text, form.scan, form.read, form.parts, scheme, form.prefix, form.alpha)
    subject = subject_of(text, form.scan)
    return rewrite(subject, new_colours(subject, scheme.colours))
