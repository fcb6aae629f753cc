"""Files that take in others, read as their reader reads them: each taken in where it is named, and parted again.

Only files of the same home are taken in, each once; what lies elsewhere, and what a component wrote itself, is left.
"""

from __future__ import annotations

import posixpath
import re
from collections.abc import Iterator, Mapping
from dataclasses import dataclass, field

from ..files import Files, text_of

_MOST_DEPTH = 8
_MOST_FILES = 64
_CONFIG = ("$XDG_CONFIG_HOME/", "${XDG_CONFIG_HOME}/")
_SECTION = re.compile(r"(?m)^[ \t]*(\[[^\]\n]+\])[ \t]*$")


@dataclass(frozen=True, slots=True)
class Include:
    """How a format takes in other files.

    pattern: its directive, whose one group is a path or a pattern of paths; comment: what starts and ends a comment;
    sections: whether a section goes on after the directive, whatever the file that was taken in ends with.
    """

    pattern: re.Pattern[str]
    comment: tuple[str, str] = ("#", "")
    sections: bool = False


@dataclass(frozen=True, slots=True)
class Unfolded:
    """A text with all that it takes in, and of each piece its path and the directive in whose place it stands."""

    path: str
    text: str
    include: Include | None = None
    pieces: Mapping[int, tuple[str, str]] = field(default_factory=dict)

    def folded(self, text: str) -> Iterator[tuple[str, str]]:
        """Yield the path and the text of every file in a changed form of the text, whose marks must still be there."""
        for number in sorted(self.pieces, reverse=True):  # inner pieces have the higher numbers
            path, directive = self.pieces[number]
            first, last, on = (_mark(self.include, word, number) for word in ("from here", "to here", "and on"))
            start, stop, end = text.index(first), text.index(last), text.index(on)
            yield path, text[start + len(first) + 1 : stop - 1]
            text = text[:start] + directive + text[end + len(on) :]
        yield self.path, text


def _mark(include: Include | None, word: str, number: int) -> str:
    start, end = include.comment if include is not None else ("", "")
    return f"{start} {word} {number}. {end}".rstrip()


def home_path(files: Files, word: str, beside: str) -> str:
    """Return a path as a configuration spells it as one from the home folder, empty for one that leads elsewhere."""
    word = word.strip().strip("\"'")
    for heads, folder in ((("~/", "$HOME/", "${HOME}/", f"{files.place('')}/"), ""), (_CONFIG, ".config/")):
        head = next((h for h in heads if word.startswith(h)), "")
        if head:
            word = folder + word[len(head) :]
            break
    else:
        if posixpath.isabs(word):
            return ""
        word = posixpath.join(posixpath.dirname(beside), word)
    word = posixpath.normpath(word)
    return "" if word.startswith("..") or word in (".", "") else word


def unfolded(files: Files, path: str, include: Include | None) -> Unfolded:
    """Return the text of a file with all that it takes in; never raises."""
    text = text_of(files, path)
    if include is None or not include.pattern.search(text):
        return Unfolded(path, text)
    pieces: dict[int, tuple[str, str]] = {}
    seen = {path}

    def taken_in(text: str, beside: str, depth: int) -> str:
        def place(found: re.Match[str]) -> str:
            out: list[str] = []
            for inner in _named(files, found.group(1), beside):
                if inner in seen or depth >= _MOST_DEPTH or len(pieces) >= _MOST_FILES:
                    continue
                seen.add(inner)
                number = len(pieces)
                pieces[number] = (inner, "")
                section = _section_at(text, found.start()) if include.sections else ""
                first, last, on = (_mark(include, word, number) for word in ("from here", "to here", "and on"))
                body = taken_in(text_of(files, inner), inner, depth + 1)
                out.append("\n".join([first, body, last, *([section] if section else []), on]))
            if not out:
                return found.group()
            # The directive comes back in the place of the first piece that it took in.
            number = int(re.search(r"from here (\d{1,9})", out[0]).group(1))  # type: ignore[union-attr]
            pieces[number] = (pieces[number][0], found.group())
            return "".join(out)

        return include.pattern.sub(place, text)

    whole = taken_in(text, path, 0)
    return Unfolded(path, whole, include, pieces)


def _named(files: Files, word: str, beside: str) -> list[str]:
    path = home_path(files, word, beside)
    if not path:
        return []
    if any(c in path for c in "*?["):
        return [p for p in files.find(path) if p != beside]
    return [path] if files(path) is not None else []


def _section_at(text: str, at: int) -> str:
    found = [m.group(1) for m in _SECTION.finditer(text, 0, at)]
    return found[-1] if found else ""
