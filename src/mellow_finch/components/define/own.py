"""Components that a person makes: a file of theirs, its colours mapped to roles, kept as a definition of their own."""

from __future__ import annotations

import json
import os
import re
from collections.abc import Iterable, Iterator, Mapping
from pathlib import Path
from typing import NamedTuple

import numpy as np

from ...colour.rgb import Rgba
from ...colour.spaces import srgb_to_oklch
from ...disk.facts import must_read, read_plain
from ...disk.own import config_folder
from ...disk.write import save
from ...errors import FinchError, ParseError, file_errors
from ...language import plural, tr
from ...palette.roles import ROLE_BY_ID
from ...recolour.guess import guess_role, use_at
from ...syntax.catalogue import Format, format_by_id, formats
from ...syntax.region import without_bodies
from ...syntax.spans import ColourSpan, line_of
from ..model import OWN, Component, plain_name
from ..read.values import places_of
from .forbidden import forbidden

_MOST_FILE = 2_000_000
_MOST_DEFINITION = 200_000
_MOST_ROWS = 400
_MIDDLE = 0.5  # OKLab lightness that parts light from dark
_NAME = re.compile(r"[\w][\w .,()+-]{0,59}")


class MappedColour(NamedTuple):
    """One colour of a file: the place it stands at, the colour that stands there now, and the role it is to have."""

    place: str
    colour: Rgba
    role: str


class Proposal(NamedTuple):
    """What was found in a file: its path from the home folder, how it is written, and its colours with likely roles.

    missed: what looks like a colour and is not understood, with its line, counted from 1; it stays as it is.
    """

    path: str
    format: Format
    rows: tuple[MappedColour, ...]
    missed: tuple[tuple[int, str], ...] = ()


def propose(home: Path, file: Path) -> Proposal:
    """Return the colours of a file of a home with the roles that they most likely have.

    Raises FileAccessError for a file that cannot be read, ParseError for one that lies elsewhere, whose way of writing
    colours is not known, or that has none or far too many.
    """
    try:
        path = file.resolve().relative_to(home.resolve()).as_posix()
    except ValueError as error:
        raise ParseError(
            tr("“{name}” is outside the home folder.").format(name=file.name),
            hint=tr("Choose one of your own files."),
        ) from error
    text, _ = without_bodies(must_read(file, _MOST_FILE).decode("utf-8", "surrogateescape"))
    found, spans = _read(path, text)
    if not spans:
        raise ParseError(
            tr("No colour was found in “{name}”, or its colour notation is unknown.").format(name=file.name),
            hint=tr("docs/new-component.md explains how to describe such a file."),
        )
    rows: dict[str, MappedColour] = {}
    for span, place in zip(spans, places_of(text, spans, False), strict=True):
        rows.setdefault(place, MappedColour(place, span.colour, _role(found, span)))
    if len(rows) > _MOST_ROWS:
        raise ParseError(
            plural(
                "“{name}” has {count} colour value; that is a theme: import it in Dress.",
                "“{name}” has {count} colour values; that is a theme: import it in Dress.",
                len(rows),
                name=file.name,
            )
        )
    return Proposal(path, found, _with_partners(tuple(rows.values())), tuple(_missed(text, spans)))


_REMARKS = ("#", ";", "//", "--", "/*", "*", "!")  # what a line begins with that says nothing to its reader
_LIKE_COLOUR = re.compile(
    r"(?<![\w#&])(?:#(?:[0-9a-f]{8}|[0-9a-f]{6}|[0-9a-f]{3,4})(?![\w-])"
    r"|(?:rgba?|hsla?|hwb|oklch|oklab|lch|lab)\([^()\n]{3,60}\)|0x[0-9a-f]{6}(?:[0-9a-f]{2})?(?!\w))",
    re.IGNORECASE,
)


def _missed(text: str, spans: Iterable[ColourSpan]) -> Iterator[tuple[int, str]]:
    """Yield what looks like a colour and is none of those that were found, with the number of its line."""
    taken = [(s.start, s.end) for s in spans]
    for found in _LIKE_COLOUR.finditer(text):
        before = text[text.rfind("\n", 0, found.start()) + 1 : found.start()].lstrip()
        if before.startswith(_REMARKS):
            continue
        if not any(start < found.end() and found.start() < end for start, end in taken):
            yield line_of(text, found.start())[0], found.group()


_PAIR_WORDS = re.compile(r"background|foreground|bg|fg|text|base|ink|colou?r|[-_. ]", re.IGNORECASE)
_PLAIN_TEXTS = ("window_text", "view_text")


def _use(place: str) -> str:
    return use_at(place.rpartition("/")[2].partition("#")[0])


def _grounds(places: Iterable[str]) -> dict[str, str]:
    """Return the ground of every place of a text: the one named alike in its own section, else the first there."""
    rows = tuple(places)
    first: dict[str, str] = {}
    alike: dict[tuple[str, str], str] = {}
    for place in (p for p in rows if _use(p) == "surface"):
        section, _, key = place.rpartition("/")
        first.setdefault(section, place)
        alike.setdefault((section, _PAIR_WORDS.sub("", key)), place)
    out = {}
    for place in (p for p in rows if _use(p) == "text"):
        section, _, key = place.rpartition("/")
        ground = alike.get((section, _PAIR_WORDS.sub("", key)), first.get(section, ""))
        if ground:
            out[place] = ground
    return out


def _with_partners(rows: tuple[MappedColour, ...]) -> tuple[MappedColour, ...]:
    """Return rows in which a plain text has the text role of its ground's role."""
    grounds, roles = _grounds([r.place for r in rows]), {r.place: r.role for r in rows}

    def role(row: MappedColour) -> str:
        partner = f"{roles[grounds[row.place]]}_text" if row.place in grounds else ""
        return partner if row.role in _PLAIN_TEXTS and partner in ROLE_BY_ID else row.role

    return tuple(row._replace(role=role(row)) for row in rows)


def _read(path: str, text: str) -> tuple[Format, list[ColourSpan]]:
    """Return the format that can name most places of colours, of those that claim the file, else of plain ones; and the
    colours."""
    plain = [format_by_id(id_) for id_ in _PLAIN]
    for rows in ([f for f in formats() if f.claims(path, text[:_HEAD])], plain):
        scanned = [(f, f.scan(text)) for f in rows]
        if any(spans for _, spans in scanned):
            return max(
                scanned, key=lambda row: len({p for p in places_of(text, row[1], False) if p.strip("#0123456789")})
            )
    return plain[0], []


_HEAD = 4096
_PLAIN = ("bar-ini", "json", "terminal-toml", "settings-list", "manager-words")  # keys and values in common spellings


def _role(format_: Format, span: ColourSpan) -> str:
    sure = format_.role_of(span)
    if sure in ROLE_BY_ID:
        return sure
    lightness, chroma, _ = srgb_to_oklch(np.asarray(span.colour.unit)).tolist()
    return guess_role(span, chroma, lightness > _MIDDLE).role


def definition_of(proposal: Proposal, name: str, kind: str, roles: Mapping[str, str] | None = None) -> str:
    """Return a definition as its data file; roles: what a person chose, by place.

    Texts are judged on the ground that stands in their own section, where there is one. Raises ParseError for a name or
    a role that cannot be.
    """
    if not _NAME.fullmatch(name):
        raise ParseError(
            tr("“{name}” cannot be a name.").format(name=name), hint=tr("Letters, digits and spaces, at most sixty.")
        )
    chosen = {row.place: (roles or {}).get(row.place, row.role) for row in proposal.rows}
    unknown = sorted(set(chosen.values()) - set(ROLE_BY_ID))
    if unknown:
        raise ParseError(tr("There is no role “{unknown}”.").format(unknown=unknown[0]))
    grounds = _grounds([row.place for row in proposal.rows])
    own, parts = [], []
    for number, row in enumerate(proposal.rows, 1):
        part = tr("occurrence {number}").format(number=number)
        ground = grounds.get(row.place, "")
        text, fill = (chosen[row.place], chosen[ground]) if ground else ("", chosen[row.place])
        own.append(f'  [{json.dumps(part)}, "", {json.dumps(f"{text}/{fill}")}],')
        parts.append(f"{json.dumps(part)} = {json.dumps([row.place, ground] if ground else ['', row.place])}")
    slug = OWN + "-".join(re.findall(r"[a-z0-9]+", name.lower()))[:40].strip("-")
    lines = [
        f"id = {json.dumps(slug)}",
        f"title = {json.dumps(name)}",
        f"kind = {json.dumps(kind)}",
        'scene = "own"',
        "reads = " + json.dumps(tr("{name}, through your own definition").format(name=name)),
        'effect = "restart"',
        f"restart = {json.dumps(f'Start {name} again.')}",
        f"signs = {json.dumps([proposal.path])}",
        f"needs_file = {json.dumps(proposal.path)}",
        "own = [",
        *own,
        "]",
        "",
        "[parts]",
        *parts,
        "",
        "[[read]]",
        f"paths = {json.dumps([proposal.path])}",
        f"format = {json.dumps(proposal.format.id)}",
        "",
        "[[files]]",
        f"paths = {json.dumps([proposal.path])}",
        'how = "recolour"',
        f"format = {json.dumps(proposal.format.id)}",
        "",
    ]
    return "\n".join(lines)


def own_folder() -> Path:
    """Return where a person's own definitions lie."""
    return config_folder() / "definitions"


def _checked(text: str) -> Component:
    from .definition import defined

    return defined(text, checked=True)


def keep(text: str, folder: Path | None = None, received: bool = False) -> Path:
    """Keep a definition under its id and return its file. Raises ParseError for one that is wrong.

    received: whether it comes from somebody else, which is kept with it: it may do less than one of the person's own.
    """
    from .schema import toml_row

    if received and not toml_row(text).get("received"):
        text = f"received = true\n{text}"
    place = (folder or own_folder()) / f"{_checked(text).id}.toml"
    save(place, text.encode("utf-8"))
    return place


def forget(id_: str, folder: Path | None = None) -> None:
    """Remove the definition of a component of a person's own; its program's file stays as it is."""
    if re.fullmatch(rf"{OWN}[a-z0-9-]+", id_):
        remove(f"{id_}.toml", folder)


def remove(name: str, folder: Path | None = None) -> bool:
    """Remove a file of the folder of own definitions; return whether there was one. Raises FileAccessError."""
    place = (folder or own_folder()) / name
    if "/" in name or not name.endswith(".toml") or not os.path.lexists(place):
        return False
    with file_errors(place, "remove"):
        place.unlink()
    return True


def roles_of(component: Component) -> dict[str, str]:
    """Return the roles that a definition of a person's own gives, by the places of its file."""
    rows = component.parts
    return {p.fill: p.fill_role for p in rows} | {p.text: p.text_role for p in rows if p.text}


_MAY_SAY = frozenset(
    ("id", "title", "kind", "scene", "reads", "effect", "restart", "signs", "needs_file", "own", "parts", "read")
) | {"files", "received"}
_MOST_PATHS = 40


class Offered(NamedTuple):
    """A definition that comes from somebody else: what it is called, and the files that it would recolour."""

    id: str
    title: str
    paths: tuple[str, ...]
    text: str


def offered(text: str) -> Offered:
    """Return what a definition from somebody else would do; raises ParseError for one that may not come.

    Such a one does nothing but recolour files of the person's own in a folder below their home: it names no command, no
    setting, no file that would be made and none that a shell or a session runs.
    """
    from .schema import many, toml_row

    row, component = toml_row(text), _checked(text)
    title = plain_name(component.title, component.id)
    plain = (
        set(row) <= _MAY_SAY
        and all(set(r) <= {"paths", "format"} for r in row.get("read", ()))
        and all(set(r) <= {"paths", "format", "how"} and r.get("how") == "recolour" for r in row["files"])
    )
    if not plain or not re.fullmatch(rf"{OWN}[a-z0-9-]{{1,60}}", component.id):
        raise ParseError(
            tr("“{title}” is left out: a definition from someone else may only recolour files.").format(title=title)
        )
    paths = tuple(dict.fromkeys(component.places))
    signs, looked = row.get("signs", ()), [p for r in row.get("read", ()) for p in many(r.get("paths", ()))]
    refused = next((p for p in (*paths, *many(signs), *looked) if forbidden(p)), "")
    if refused or len(paths) > _MOST_PATHS:
        raise ParseError(
            tr("“{title}” is left out: a definition from someone else may not write “{path}”.").format(
                title=title, path=refused or "…"
            )
        )
    return Offered(component.id, title, paths, text)


def passed_on(text: str) -> str:
    """Return the id of a definition that may go to somebody else, empty for one that may not."""
    try:
        return offered(text).id
    except FinchError:
        return ""


def own_texts(folder: Path | None = None) -> list[tuple[str, str]]:
    """Return the name and the text of every definition of a person's own; what cannot be read is left out."""
    place = folder or own_folder()
    out: list[tuple[str, str]] = []
    try:
        paths = sorted(p for p in place.iterdir() if p.suffix == ".toml")
    except OSError:
        return []
    for path in paths:
        try:
            data = read_plain(path, _MOST_DEFINITION)
        except FinchError:
            continue
        if data is not None:
            out.append((path.name, data.decode("utf-8", "replace")))
    return out
