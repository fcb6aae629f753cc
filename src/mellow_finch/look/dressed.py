"""A look dressed on a home: the files of its components, and what they say when they are read back.

Both are worked out component by component when they are asked for, so that a stage that shows one of them is quick.
"""

from __future__ import annotations

from collections.abc import Callable, Container, Iterable, Iterator, Mapping
from dataclasses import dataclass, field, replace
from functools import cached_property
from typing import NamedTuple, TypeVar

from ..colour.rgb import Rgba
from ..components.catalogue import COMPONENT_BY_ID, COMPONENTS
from ..components.files import Files, OutFile, SteadyFiles, layered
from ..components.model import Component, Paints, Scheme
from ..components.read.presence import present_in
from ..palette.recipe import Tone, opposite
from ..progress import give_way
from .model import Look
from .worn_themes import NO_THEMES, NOTHING_WORN, Wardrobe, WornThemes, worn_by

OF_A_THEME = "theme"  # what stands for a component of files that a theme gives beside all components
OutFiles = tuple[OutFile, ...]


class Output(NamedTuple):
    """One file that a look writes, and the components that have a part in it."""

    path: str
    data: bytes
    components: tuple[str, ...]


T = TypeVar("T")


class ByComponent(Mapping[str, T]):
    """What is said of components by id, worked out once for each when it is asked for."""

    def __init__(self, ids: tuple[str, ...], make: Callable[[str], T]) -> None:
        self._ids, self._make = dict.fromkeys(ids), make
        self._known: dict[str, T] = {}

    def __getitem__(self, id_: str) -> T:
        if id_ not in self._known:
            if id_ not in self._ids:
                raise KeyError(id_)
            give_way()
            self._known[id_] = self._make(id_)
        return self._known[id_]

    def __contains__(self, id_: object) -> bool:
        return id_ in self._ids

    def __iter__(self) -> Iterator[str]:
        return iter(self._ids)

    def __len__(self) -> int:
        return len(self._ids)


def seen_files(id_: str, files: Mapping[str, OutFiles]) -> list[OutFile]:
    """Return the files of other components that one component has to see."""
    return [file for other in COMPONENT_BY_ID[id_].after if other in files for file in files[other]]


def _twins_of(id_: str, ids: Container[str], wardrobe: Wardrobe) -> tuple[str, ...]:
    """Return the components whose other tone lies beside for one, none where a theme is worn for any of them."""
    twins = COMPONENT_BY_ID[id_].twins
    return () if set(twins) & set(wardrobe.uses) else tuple(twin for twin in twins if twin in ids)


def _laid(home: Files, outputs: Iterable[Output]) -> Files:
    """Return a home with files over it."""
    return layered(home, [OutFile(o.path, o.data) for o in outputs])


def _beside(folder: str, tone: Tone) -> str:
    """Return the folder of the other tone, which no name of a look gives."""
    return f"{folder}_{opposite(tone)}"


def _seen_first(ids: tuple[str, ...]) -> tuple[str, ...]:
    """Return ids in their order, but each behind those whose files it sees."""
    out: dict[str, None] = {}

    def add(id_: str) -> None:
        if id_ in ids and id_ not in out:
            for other in COMPONENT_BY_ID[id_].after:
                add(other)
            out[id_] = None

    for id_ in ids:
        add(id_)
    return tuple(out)


class Noting(Mapping[str, Rgba]):
    """Colours by role that note which of them were asked for."""

    def __init__(self, colours: Mapping[str, Rgba]) -> None:
        self._colours = colours
        self.asked: dict[str, Rgba | None] = {}

    def __getitem__(self, role: str) -> Rgba:
        self.asked[role] = found = self._colours.get(role)
        if found is None:
            raise KeyError(role)
        return found

    def __iter__(self) -> Iterator[str]:
        return iter(self._colours)

    def __len__(self) -> int:
        return len(self._colours)


class WrittenComponent(NamedTuple):
    """What a component wrote last, what that depended on, and what it says when it is read back."""

    asked: Mapping[str, Rgba | None]
    scheme: Scheme
    before: tuple[OutFile, ...]
    files: OutFiles
    paints: Paints | None = None

    def stands(self, scheme: Scheme, before: tuple[OutFile, ...]) -> bool:
        """Tell whether writing anew would write the same; an order of roles never changes what is written."""
        same = replace(scheme, colours=self.scheme.colours) == self.scheme and before == self.before
        return same and all(scheme.colours.get(role) == colour for role, colour in self.asked.items())


class Writings:
    """What was written on one home whose files do not change meanwhile, so that only what must be is written anew."""

    def __init__(self) -> None:
        self._kept: dict[str, WrittenComponent] = {}

    def write(self, id_: str, scheme: Scheme, files: Files, before: tuple[OutFile, ...]) -> OutFiles:
        """Return the files of a component; before: those of others that it sees, which are laid over files already."""
        kept = self._kept.get(id_)
        if kept is not None and kept.stands(scheme, before):
            return kept.files
        noting = Noting(scheme.colours)
        fresh = COMPONENT_BY_ID[id_].write(replace(scheme, colours=noting), files)
        same = kept is not None and fresh == kept.files and before == kept.before
        self._kept[id_] = (
            WrittenComponent(noting.asked, scheme, before, kept.files, kept.paints)
            if same and kept
            else WrittenComponent(noting.asked, scheme, before, fresh)
        )
        return self._kept[id_].files

    def asking(self, role: str) -> frozenset[str]:
        """Return the components whose files depend on a role."""
        return frozenset(id_ for id_, kept in self._kept.items() if role in kept.asked)

    def read(self, id_: str, written: OutFiles, files: Files) -> Paints:
        """Return what written files say: the same object for the same files."""
        kept = self._kept.get(id_)
        if kept is None or kept.files is not written:
            return COMPONENT_BY_ID[id_].read(files)
        if kept.paints is None:
            kept = self._kept[id_] = kept._replace(paints=COMPONENT_BY_ID[id_].read(files))
        return kept.paints or {}


@dataclass(frozen=True, eq=False)
class Dressed:
    """What comes of a look on a home.

    files: by component id; a component that has nothing to rewrite has none, one that is left out is not in it;
    seen: what was read of the home so far, by path, None for what is not there; held: by component, files that would be
    new in the home's top and are only made when the look adds the component; wardrobe: the themes that it wears.
    """

    look: Look
    home: Files
    files: Mapping[str, OutFiles]
    seen: Mapping[str, bytes | None] = field(default_factory=dict)
    writings: Writings | None = None
    folder: str = ""
    held: Mapping[str, tuple[str, ...]] = field(default_factory=dict)
    wardrobe: Wardrobe = NOTHING_WORN

    @property
    def outputs(self) -> tuple[Output, ...]:
        """Return every file once: one that several components have a part in as the last of them leaves it.

        A component that is given the files of others writes its part into theirs (see Component.after).
        """
        found: dict[str, Output] = {}
        for id_ in _seen_first(tuple(self.files)):
            for file in self.files[id_]:
                earlier = found[file.path].components if file.path in found else ()
                found[file.path] = Output(file.path, file.data, (*earlier, id_))
        for file in self.wardrobe.beside():
            found.setdefault(file.path, Output(file.path, file.data, (OF_A_THEME,)))
        for id_, file in self._twins(tuple(found.values())):
            found.setdefault(file.path, Output(file.path, file.data, (id_,)))
        return tuple(found.values())

    def _twins(self, outputs: Iterable[Output]) -> Iterator[tuple[str, OutFile]]:
        """Yield the themes of the other tone that lie beside those in force: whole files in folders of their own."""
        ids = tuple(id_ for component in self.components for id_ in _twins_of(component.id, self.files, self.wardrobe))
        if not ids:
            return
        other = opposite(self.look.tone)
        scheme = replace(self.look, tone=other).scheme()
        folder = _beside(self.folder, self.look.tone)
        scheme = replace(scheme, name=f"{self.look.name}, {other}", folder=folder, twin=self.folder, beside=True)
        around = _laid(self.home, outputs)
        for id_ in ids:
            for file in COMPONENT_BY_ID[id_].write(scheme, around):
                if any(part.split(".")[0] == folder for part in file.path.split("/")):
                    yield id_, file

    @cached_property
    def view(self) -> Files:
        """Return the home as it would be."""
        return _laid(self.home, self.outputs)

    @cached_property
    def paints(self) -> Mapping[str, Paints]:
        """Return what each component's files say, read back from their text; nothing where it has no files."""
        return ByComponent(tuple(self.files), self._read)

    def _read(self, id_: str) -> Paints:
        written = self.files[id_]
        if not written:
            return {}
        given = self.wardrobe.paints(id_)
        if given is not None:
            return given
        around = self._around(id_)
        read = self.writings.read(id_, written, around) if self.writings else COMPONENT_BY_ID[id_].read(around)
        return self.wardrobe.told(id_, read)

    def _around(self, id_: str) -> Files:
        """Return the home with a component's files in it, and those that it has to see."""
        return layered(self.home, [*seen_files(id_, self.files), *self.files[id_]])

    def further(self, id_: str) -> Mapping[str, Paints]:
        """Return what further files of a component say, by path."""
        read, files = COMPONENT_BY_ID[id_].further, self.files[id_]
        return read(self._around(id_)) if read is not None and files else {}

    def serving(self, look: Look) -> Dressed | None:
        """Return the same files as those of another look, None where that one may have others."""
        old = self.look
        asked = (old.scheme(), old.left_out, old.added, worn_by(old))
        if asked != (look.scheme(), look.left_out, look.added, worn_by(look)):
            return None
        fresh = replace(self, look=look)
        fresh.__dict__["paints"] = self.paints  # what was read back already
        return fresh

    @property
    def components(self) -> tuple[Component, ...]:
        """Return the components that are dressed."""
        return tuple(c for c in COMPONENTS if self.files.get(c.id))


def dress(
    look: Look,
    home: Files,
    only: frozenset[str] | None = None,
    present: frozenset[str] | None = None,
    writings: Writings | None = None,
    folder: str = "",
    themes: WornThemes = NO_THEMES,
) -> Dressed:
    """Return the look dressed on a home. Reads when it is asked, writes nothing.

    only: component ids to dress; else those that the home has (present, or told by its files alone) without the ones
    left out, and those that the look adds: of the others no file is made in the home's top that is not there yet;
    writings: what was written on the same home for looks before; folder: the name of its folders, where the look's own
    is in use; themes: those that the look wears, as far as they were read: where one is not, our own files stand.
    """
    scheme = look.scheme()
    if folder:
        scheme = replace(scheme, folder=folder)
    wardrobe = Wardrobe.of(look, themes, scheme.folder, home)
    if wardrobe.named:
        scheme = replace(scheme, companions={**scheme.companions, **wardrobe.named})
    asked = only is not None
    if only is None:
        here = present if present is not None else present_in(home)
        only = (here - look.left_out) | look.added
    ids = tuple(c.id for c in COMPONENTS if c.id in only)
    if any(_twins_of(id_, ids, wardrobe) for id_ in ids):
        scheme = replace(scheme, twin=_beside(scheme.folder, look.tone))

    def write(id_: str) -> OutFiles:
        before = tuple(seen_files(id_, files))
        around = layered(seen, before) if before else seen
        if writings is not None:
            written = writings.write(id_, scheme, around, before)
        else:
            written = COMPONENT_BY_ID[id_].write(scheme, around)
        written = wardrobe.dressed(id_, written)
        fresh = () if asked or id_ in look.added else tuple(o.path for o in written if _new_at_top(o, around))
        if not fresh:
            return written
        held[id_] = fresh
        return tuple(o for o in written if o.path not in fresh)

    held: dict[str, tuple[str, ...]] = {}
    seen = SteadyFiles(home)
    files: Mapping[str, OutFiles] = ByComponent(ids, write)
    return Dressed(look, home, files, seen.seen, writings, scheme.folder, held, wardrobe)


def _new_at_top(file: OutFile, home: Files) -> bool:
    return "/" not in file.path and home(file.path) is None


def first_said(*rows: Mapping[str, Paints]) -> Mapping[str, Paints]:
    """Return what is said of components, of each what the first says that says anything of it."""
    ids = tuple(dict.fromkeys(id_ for row in rows for id_ in row))
    return ByComponent(ids, lambda id_: next((found for row in rows if (found := row.get(id_))), {}))


def every_component(look: Look) -> frozenset[str]:
    """Return the ids of all components but those that a look leaves out."""
    return frozenset(COMPONENT_BY_ID) - look.left_out


def as_it_is(home: Files) -> Mapping[str, Paints]:
    """Return what the files of a home say now, by component."""
    return ByComponent(tuple(COMPONENT_BY_ID), lambda id_: COMPONENT_BY_ID[id_].read(home))
