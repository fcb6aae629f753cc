"""Parcels: a look with all that it needs, in one archive that every computer opens, with scripts for those without us.

Nothing of the sender's home is in it: what their machine calls things is written as a placeholder, and the receiver's
machine fills it. Receiving runs nothing; what does not agree with the list of contents is refused.
"""

from __future__ import annotations

import hashlib
import json
import tempfile
import zipfile
from collections.abc import Iterable, Mapping
from dataclasses import dataclass, replace
from importlib.resources import files
from pathlib import Path
from typing import Any

from .. import __version__
from ..components.catalogue import COMPONENT_BY_ID, shares_files
from ..components.define.definition import defined
from ..components.define.own import Offered, keep, offered, own_texts, passed_on
from ..components.model import OWN, Component
from ..disk.facts import must_read
from ..disk.write import save
from ..errors import FinchError, ParseError
from ..language import comma_separated, parted, plural, tone_word, tr
from ..look.carry import look_text, read_look_text, with_paths
from ..look.dressed import every_component
from ..look.model import Look
from ..progress import Progress, Silent
from ..theme.bundle.opened import open_bundle
from .contents import HomeFile, OtherForm, home_files, other_forms, picture_name, settings_for_anyone
from .credits import credits_of
from .fonts import font_files
from .kept import KeptLook
from .packing import packed, zipped
from .shelf import LOOK, PICTURES, THEMES, Shelf, emblem_files, free_name, pictures_of

KIND, VERSION = "mellow-finch parcel", 1
DEFINITIONS = "definitions"
MANIFEST = "manifest.json"
_MOST_MANIFEST = 4_000_000
_MOST_PICTURE = 200_000_000
_MOST_FONT = 40_000_000


def send(look: Look, path: Path, card: bytes = b"", progress: Progress | None = None) -> int:
    """Write a parcel of a look and return its size in bytes. The same look gives the same parcel.

    card: a PNG that shows it. Raises FileAccessError where a picture cannot be read or the disk refuses.
    """
    progress = progress or Silent()
    parts: dict[str, bytes] = {}
    with tempfile.TemporaryDirectory() as made, tempfile.TemporaryDirectory() as beside:
        folder = Path(made)
        look = _with_fonts(look, Path(beside))
        carried = _carried(look, folder, parts)
        parts[LOOK] = look_text(carried, folder).encode("utf-8")
        rows = home_files(look, progress)
    others = other_forms(look, rows)
    parts |= {f"other/{o.path}": o.data for o in others if o.data is not None}
    for file in rows:
        parts[f"home/{file.path}"] = file.data
        if file.block:
            parts[f"blocks/{file.path}"] = file.block
    if pictures_of(look):
        name = f".local/share/backgrounds/{look.folder}/{picture_name(look)}"
        parts[f"home/{name}"] = must_read(Path(pictures_of(look)[0]), _MOST_PICTURE)
        rows.append(HomeFile("-", "whole", name, b""))
    components = [c for c in COMPONENT_BY_ID.values() if any(f.component == c.id for f in rows)]
    parts |= _lists(look, rows, components, others)
    parts |= _definitions(look)
    if card:
        parts["card.png"] = card
    parts["README.txt"] = _read_me(look, components).encode("utf-8")
    scripts = files("mellow_finch.shelf").joinpath("scripts")
    for name in ("install.sh", "uninstall.sh"):
        parts[name] = scripts.joinpath(name).read_bytes()
    parts[MANIFEST] = _manifest(look, parts, components)
    data = zipped(parts)
    save(path, data)
    return len(data)


def _definitions(look: Look) -> dict[str, bytes]:
    """Return the components of the sender's own that the look dresses, those that may be passed on."""
    wanted = every_component(look)
    rows = {passed_on(text): text for _, text in own_texts()}
    return {f"{DEFINITIONS}/{id_}.toml": text.encode("utf-8") for id_, text in rows.items() if id_ in wanted}


def _with_fonts(look: Look, folder: Path) -> Look:
    """Return the look with the fonts that it names included, those that may be passed on."""
    there = {Path(p).name for p in look.brought}
    added = []
    for family in look.font_families:
        name = f"fonts-{free_name(family, lambda _name: False)}.zip"
        found = {} if name in there else font_files(family)
        if found:
            (folder / name).write_bytes(zipped({f"{family}/{p.name}": must_read(p, _MOST_FONT) for p in found}))
            added.append(str(folder / name))
    return replace(look, brought=(*look.brought, *added)) if added else look


def _carried(look: Look, folder: Path, parts: dict[str, bytes]) -> Look:
    """Return the look with its pictures and themes where they will lie in the parcel, and take these along."""
    there: dict[str, str] = {}
    themes = tuple(p for p in look.brought if Path(p).exists())
    for kind, paths in ((PICTURES, (*pictures_of(look), *emblem_files(look))), (THEMES, themes)):
        for path in paths:
            name, data = packed(Path(path))
            inner = f"{kind}/{free_name(name, lambda n, kind=kind: f'{kind}/{n}' in parts)}"  # type: ignore[misc]
            parts[inner] = data
            target = folder / inner
            target.parent.mkdir(exist_ok=True)
            target.write_bytes(b"")  # so that it is named by its way from the look
            there[path] = str(target)
    return with_paths(look, lambda path: there.get(path, path))


def _lists(look: Look, rows: list[HomeFile], components: list[Component], others: list[OtherForm]) -> dict[str, bytes]:
    """Return the tables that the scripts read."""
    about = [f"name={_one_line(look.name)}", f"folder={look.folder}"]
    known = [f"{c.id}|{c.kind}|{' '.join(() if c.everywhere else c.programs)}" for c in components]
    listed = [f"{f.component}|{f.way}|{f.path}" for f in rows]
    chosen = [
        "|".join(row) for row in settings_for_anyone(look, rows) if all("|" not in v and "\n" not in v for v in row)
    ]
    told = ["\t".join((o.path, "none" if o.data is None else "other", *row)) for o in others for row in o.told]
    tables = {"about": about, "components": known, "files": listed, "settings": chosen, "others": told}
    return {f"lists/{name}.txt": "".join(f"{row}\n" for row in table).encode("utf-8") for name, table in tables.items()}


def _one_line(text: str) -> str:
    return " ".join("".join(c if c.isprintable() else " " for c in text).split())


def _read_me(look: Look, components: list[Component]) -> str:
    kinds: dict[str, list[str]] = {}
    for c in components:
        kinds.setdefault(c.kind, []).append(c.title)
    dressed = "\n".join(f"  {kind}: {', '.join(titles)}" for kind, titles in kinds.items())
    made = ", ".join(Path(p).name for p in pictures_of(look)) or (look.origin.title if look.origin else "a scheme")
    themes = "\n".join(f"  {_one_line(line)}" for line in credits_of(look))
    theirs = f"\nThese themes of others go along, each under its own licence:\n{themes}\n" if themes else ""
    return f"""{_one_line(look.name)}
A look of one palette, {look.tone}, made from {made} with Mellow Finch {__version__}.

With Mellow Finch: open this archive in it, or "mellow-finch shelf receive FILE".

Without it: "sh install.sh --dry-run" lists what would be written; "sh install.sh" backs up each old file and writes the
new one; "sh uninstall.sh" restores the old files. Only installed programs are changed; "--only KIND" chooses some.

It colours:
{dressed}
{theirs}"""


def _manifest(look: Look, parts: Mapping[str, bytes], components: list[Component]) -> bytes:
    rows = [{"path": p, "bytes": len(d), "sha256": hashlib.sha256(d).hexdigest()} for p, d in sorted(parts.items())]
    data: dict[str, Any] = {
        "kind": KIND,
        "version": VERSION,
        "name": look.name,
        "tone": look.tone,
        "made_with": __version__,
        "components": [c.id for c in components],
        "companions": dict(sorted(look.companions.items())),
        "files": rows,
    }
    return (json.dumps(data, indent=1, ensure_ascii=False) + "\n").encode("utf-8")


@dataclass(frozen=True, slots=True)
class Received:
    """A parcel that was read and holds what it says.

    look: with its pictures and themes named by their place in the parcel; made_with: by what; components: those that
    it has files for; writes: how many files its own scripts would write.
    """

    look: Look
    made_with: str
    components: tuple[str, ...]
    writes: int
    size: int
    files: Mapping[str, bytes]
    offers: tuple[Offered, ...] = ()
    refused: tuple[str, ...] = ()

    def asks(self) -> list[str]:
        """Return a sentence for each component of the sender's own: the files it would recolour, or why it is left."""
        rows = [
            tr("“{title}” recolours {files}.").format(title=one.title, files=parted(f"~/{p}" for p in one.paths))
            for one in self.offers
        ]
        return [*rows, *self.refused]

    def words(self) -> str:
        """Return what it is, in a sentence."""
        count = sum(p.startswith(f"{PICTURES}/") for p in self.files)
        themes = sum(p.startswith(f"{THEMES}/") for p in self.files)
        holds = [plural("{count} image", "{count} images", count)]
        if themes:
            holds.append(plural("{count} theme", "{count} themes", themes))
        if self.offers:
            holds.append(
                plural("{count} of the author's components", "{count} of the author's components", len(self.offers))
            )
        return tr("“{name}”, {tone}, made with version {version}: {contents}.").format(
            name=self.look.name, tone=tone_word(self.look.tone), version=self.made_with, contents=comma_separated(holds)
        )


def is_parcel(path: Path) -> bool:
    """Tell whether a file looks like a parcel: an archive with its list of contents in it."""
    try:
        with zipfile.ZipFile(path) as archive:
            return {MANIFEST, LOOK} <= set(archive.namelist()[:5000])
    except (OSError, ValueError, zipfile.BadZipFile, NotImplementedError):
        return False


def receive(path: Path, progress: Progress | None = None) -> Received:
    """Read a parcel as data; nothing in it is run.

    Raises FileAccessError, UnsafeArchiveError for what must not be unpacked, ParseError for what is no parcel, is
    damaged or comes from a newer version.
    """
    bundle = open_bundle(path, progress)
    try:
        told = json.loads(bundle.data(MANIFEST)[:_MOST_MANIFEST])
        if told["kind"] != KIND:
            raise ValueError("another kind")
        version, listed = int(told["version"]), {str(f["path"]): str(f["sha256"]) for f in told["files"]}
        made_with = _one_line(str(told["made_with"]))[:40]
        components = tuple(str(c) for c in told["components"] if c in COMPONENT_BY_ID)
    except (KeyError, ValueError, TypeError, RecursionError) as error:
        raise ParseError(
            tr("“{name}” is not a parcel of a look.").format(name=path.name),
            hint=tr("Export parcels with “shelf send”."),
        ) from error
    if version > VERSION:
        raise ParseError(
            tr("“{name}” was written by a newer version.").format(name=path.name), hint=tr("Update this program.")
        )
    found: dict[str, bytes] = {}
    for name, digest in listed.items():
        data = bundle.data(name) if name in bundle.entries and not bundle.entries[name].link else None
        if data is None or hashlib.sha256(data).hexdigest() != digest:
            raise ParseError(
                tr("“{name}” is damaged: “{part}” does not match its list.").format(
                    name=path.name, part=_one_line(name)
                )
            )
        if name.startswith((f"{PICTURES}/", f"{THEMES}/", f"{DEFINITIONS}/")) or name in (LOOK, "card.png"):
            found[name] = data
    if LOOK not in found:
        raise ParseError(tr("“{name}” contains no look.").format(name=path.name))
    look = read_look_text(found[LOOK].decode("utf-8", "replace"), Path("/parcel") / LOOK).look
    writes = sum(name.startswith("home/") for name in listed)
    texts = [d.decode("utf-8", "replace") for p, d in sorted(found.items()) if p.startswith(f"{DEFINITIONS}/")]
    return Received(look, made_with, components, writes, sum(map(len, found.values())), found, *_offers(texts))


def _offers(texts: Iterable[str]) -> tuple[tuple[Offered, ...], tuple[str, ...]]:
    """Return the sender's own components that may be taken in, and a sentence for each that may not."""
    offers: dict[str, Offered] = {}
    refused: list[str] = []
    mine = {name.removesuffix(".toml") for name, _ in own_texts()}
    for text in texts:
        try:
            one = offered(text)
        except FinchError as error:
            refused.append(str(error))
            continue
        made = defined(text)
        ours = next((c for c in COMPONENT_BY_ID.values() if not c.id.startswith(OWN) and shares_files(made, c)), None)
        if ours is not None:
            words = tr("“{title}” is left out: “{other}” writes the same files.")
        elif one.id in mine or one.id in offers:
            words = tr("“{title}” is left out: a component of that name already exists.")
        else:
            offers[one.id] = one
            continue
        refused.append(words.format(title=one.title, other=ours.title if ours is not None else ""))
    return tuple(offers.values()), tuple(refused)


def take_in(received: Received, shelf: Shelf, tags: Iterable[str] = ()) -> KeptLook:
    """Put a received look onto the shelf, with its pictures, themes and components of the sender's own.

    A component that the receiver has made under the same name stays, and a look that is there already is not kept a
    second time. Raises FileAccessError.
    """
    there = {name for name, _ in own_texts()}
    for one in received.offers:
        if f"{one.id}.toml" not in there:
            keep(one.text, received=True)
    with tempfile.TemporaryDirectory() as made:
        folder = Path(made)
        for name, data in received.files.items():
            target = folder / name
            target.parent.mkdir(parents=True, exist_ok=True)
            target.write_bytes(data)
        look = read_look_text(received.files[LOOK].decode("utf-8", "replace"), folder / LOOK).look

        def own(named: str) -> str:
            return named if named and Path(named).is_relative_to(folder) and Path(named).exists() else ""

        look = with_paths(look, own)
        look = replace(
            look,
            pictures=tuple(m for m in look.pictures if m.path),
            brought=tuple(p for p in look.brought if p),
        )
        kept = shelf.keep(look, tags, with_themes=True)
        same = next((row for row in shelf.looks() if row.digest == kept.digest and row.id != kept.id), None)
        if same is None:
            return kept
        shelf.drop(kept.id)
        return same
