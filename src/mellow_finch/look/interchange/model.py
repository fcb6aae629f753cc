"""What a palette file comes to: named colours, the roles that are known of them, and what could not be read."""

from __future__ import annotations

from collections.abc import Callable, Collection, Iterable, Mapping
from dataclasses import dataclass

from ...colour.rgb import Rgba
from ...components.model import plain_name
from ...errors import ParseError
from ...language import sentences, tr
from ...palette.roles import ROLE_BY_ID, ROLES
from ...syntax.spans import Problem
from ..model import Look

MOST_BYTES = 16_000_000
MOST_COLOURS = 20_000


@dataclass(frozen=True, slots=True)
class PaletteEntry:
    """One colour of a palette file: its name there, empty where it has none, and the role it stands for, if known."""

    colour: Rgba
    name: str = ""
    role: str = ""


@dataclass(frozen=True)
class ColourList:
    """The colours of a palette file in their order.

    name: what the file calls itself; problems: what could not be read, each with its line (or, in binary files, the
    number of the entry).
    """

    name: str
    entries: tuple[PaletteEntry, ...]
    problems: tuple[Problem, ...] = ()

    @property
    def colours(self) -> tuple[Rgba, ...]:
        """Return the colours alone."""
        return tuple(e.colour for e in self.entries)

    @property
    def roles(self) -> dict[str, Rgba]:
        """Return the roles that are known, the first of equal ones counting."""
        out: dict[str, Rgba] = {}
        for entry in self.entries:
            if entry.role:
                out.setdefault(entry.role, entry.colour)
        return out


@dataclass(frozen=True, slots=True, kw_only=True)
class Interchange:
    """A palette format: how its files are named and known, and how they are read and written.

    sniff: 0 for foreign bytes .. 100 for certain ones; read raises ParseError alone; export: how a whole look is
    written, by its list of roles where there is no better way; alpha: whether it holds translucency.
    """

    id: str
    title: str
    suffixes: tuple[str, ...]
    sniff: Callable[[bytes], int]
    read: Callable[[bytes], ColourList]
    write: Callable[[ColourList], bytes]
    export: Callable[[Look], bytes] | None = None
    alpha: bool = False

    def of_look(self, look: Look) -> bytes:
        """Return the file of a look's palette in the tone in force."""
        return self.export(look) if self.export is not None else self.write(list_of(look))


def list_of(look: Look) -> ColourList:
    """Return the roles of a look's tone in force as a list, each under its title."""
    return ColourList(
        f"{plain_name(look.name, look.folder)}, {look.tone}",
        tuple(PaletteEntry(look.colours[r.id], r.title, r.id) for r in ROLES),
    )


def only_known(write: Callable[[ColourList], bytes], roles: Collection[str]) -> Callable[[Look], bytes]:
    """Return what writes some roles of a look, for files that have a place for those alone."""

    def export(look: Look) -> bytes:
        whole = list_of(look)
        return write(ColourList(whole.name, tuple(e for e in whole.entries if e.role in roles)))

    return export


def decoded(data: bytes) -> str:
    """Return a text file as text: UTF-8 with or without its mark, UTF-16 by its mark, else Latin-1."""
    if data.startswith((b"\xff\xfe", b"\xfe\xff")):
        return data.decode("utf-16", "replace")
    try:
        return data.decode("utf-8-sig")
    except UnicodeDecodeError:
        return data.decode("latin-1")


def finished(name: str, entries: Iterable[PaletteEntry], problems: Iterable[Problem], what: str) -> ColourList:
    """Return the list, or raise ParseError when nothing at all could be read of it."""
    rows, faults = tuple(entries), tuple(problems)
    if not rows:
        first = faults[0] if faults else None
        said = [tr("No colour could be read ({kind}).").format(kind=what)]
        if first is not None:
            said.append(tr("Line {line}: {message}").format(line=first.line, message=first.message))
        raise ParseError(
            sentences(*said),
            first.line if first is not None else 0,
        )
    return ColourList(name.strip(), rows, faults)


def plain(name: str) -> str:
    """Return a name in the form by which roles are looked up: small letters, words joined by underscores."""
    return "_".join("".join(c if c.isalnum() else " " for c in name.lower()).split())


# Names by which a role is known in files of any kind, beside its own id and title.
_ALSO: Mapping[str, str] = {
    "background": "window",
    "bg": "window",
    "foreground": "window_text",
    "fg": "window_text",
    "text": "window_text",
    "primary": "accent",
    "highlight": "selection",
    "danger": "error",
}
_KNOWN: Mapping[str, str] = {
    **_ALSO,
    **{plain(role.title): role.id for role in ROLES},
    **{role.id: role.id for role in ROLES},
}


def role_named(name: str) -> str:
    """Return the role that a name speaks of, empty when none."""
    key = plain(name)
    return _KNOWN.get(key) or _KNOWN.get(key.removeprefix("mf_").removesuffix("_color").removesuffix("_colour"), "")


def unique_slugs(entries: Iterable[PaletteEntry]) -> list[str]:
    """Return for each entry a name of small letters, digits and dashes, no two alike."""
    seen: dict[str, int] = {}
    out: list[str] = []
    for i, entry in enumerate(entries, 1):
        base = plain(entry.role or entry.name).encode("ascii", "ignore").decode().replace("_", "-").strip("-")
        if not base or base[0].isdigit():
            base = f"colour-{base or i}"
        seen[base] = seen.get(base, 0) + 1
        out.append(base if seen[base] == 1 else f"{base}-{seen[base]}")
    return _still_unique(out)


def _still_unique(names: list[str]) -> list[str]:
    taken: set[str] = set()
    for i, name in enumerate(names):
        while name in taken:
            name += "x"
        taken.add(name)
        names[i] = name
    return names


assert all(role in ROLE_BY_ID for role in _KNOWN.values())
