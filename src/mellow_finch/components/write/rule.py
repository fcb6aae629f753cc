"""What a component's files are made by: one rule a file or a kind of file, and what it is given to work with."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass
from typing import Any

from ...colour.rgb import Rgba
from ...recolour.rewrite import RecolourSubject, Sure
from ...syntax.region import LineEnds
from ...syntax.spans import ColourSpan
from ..files import Files
from ..model import Paints, Part, Scheme
from ..read.unfold import Include
from .palette import ComponentPalette
from .template import filled


@dataclass(frozen=True, slots=True, eq=False)
class Ways:
    """How files that are recoloured are read: as text, from their spans' colours, and what is sure of them.

    read_at: read for files that need what lies around them, given with their path; apart: whether their colours are
    distinguished by their hues.
    """

    scan: Callable[[str], list[ColourSpan]]
    read: Callable[[str], Paints]
    read_colours: Callable[[RecolourSubject, list[Rgba]], Paints] | None
    sure: Sure | None
    alpha: bool
    read_at: Callable[[str, Files, str], Paints] | None = None
    apart: bool = False

    def reader(self, files: Files, path: str) -> Callable[[str], Paints]:
        """Return how the text of one file is read."""
        at = self.read_at
        return self.read if at is None else lambda text: at(text, files, path)


@dataclass(frozen=True, slots=True, kw_only=True)
class FileRule:
    """One file, or one kind of file, that a component makes.

    paths: where, from the home folder, {folder} being the look's and {each} the folder of every file that `each`
    matches; of several the first that is there is taken, else the first. how: "whole", "region", "ini", "toml", "keys",
    "values" (of keys that are there, in every file that `told` matches), "replace" (what a pattern finds), "json",
    "items", "xml-name", "recolour" or the name of a maker; region: tells one of several components' regions in a file;
    when: "present" or "absent" for files that must or must not be there before; unless: patterns of files that must not
    be there; only: a word that has to be told of the reader, or with ! before it must not. told: a pattern that files
    to be recoloured contain; first: whether only the first of them counts; include: how they take in other files, which
    are recoloured with them; named: (path, pattern) rows whose group is a list of further files, with the places, if
    any, in which one that is only a word is looked for as {}; exact: see ways_of; reader: the name of a reader of their
    own; ways: how they are read; to: where a recoloured file goes instead of its own place, the pictures that it names
    staying where they are; joins: whether regions that other components have in a recoloured file stay as these left
    them; line_ends: "lf" for a region in a file whose reader refuses others.
    """

    paths: tuple[str, ...]
    how: str = "whole"
    when: str = ""
    each: str = ""
    template: str = ""
    spell: str = "hex"
    comment: tuple[str, str] = ("#", "")
    at: str = "end"
    region: str = ""
    format: str = ""
    reader: str = ""
    only: str = ""
    told: str = ""
    first: bool = False
    exact: bool = False
    unless: tuple[str, ...] = ()
    include: Include | None = None
    named: tuple[tuple[str, ...], ...] = ()
    options: Mapping[str, Any] | None = None
    ways: Ways | None = None
    to: str = ""
    joins: bool = False
    line_ends: LineEnds = ""


@dataclass(frozen=True, slots=True)
class Job:
    """What a rule works with: the component's parts and colours, the look, the files by then, and what was made."""

    owner: str
    parts: tuple[Part, ...]
    scheme: Scheme
    worn: ComponentPalette
    words: Mapping[str, str]
    numbers: Mapping[str, float]
    files: Files
    made: Mapping[str, bytes]

    def place(self, path: str) -> str:
        """Return a path with the look's folder in it."""
        return path.replace("{folder}", self.scheme.folder)

    def fill(self, text: str, spelling: str) -> str:
        """Return a template filled in."""
        return filled(text, spelling, self.worn, self.words)

    @property
    def colours(self) -> Mapping[str, Rgba]:
        """Return every role and shade."""
        return self.worn.colours
