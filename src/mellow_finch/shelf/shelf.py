"""The shelf: one folder for each kept look, with its file, a copy of its pictures and what is said of it.

A look comes onto the shelf whole or not at all: it is made beside and put in place at once. What is dropped lies apart
until it is emptied, and can be taken back.
"""

from __future__ import annotations

import hashlib
import json
import secrets
import shutil
from collections.abc import Callable, Iterable, Iterator
from dataclasses import replace
from pathlib import Path

from ..disk.facts import must_read, read_plain
from ..disk.own import data_folder
from ..disk.write import save
from ..errors import FinchError, ParseError, file_errors
from ..language import tr
from ..look.carry import Carried, read_look, save_look, with_paths
from ..look.file import MOST_BYTES, SUFFIX
from ..look.model import Look, folder_of
from ..look.worn_themes import worn_by
from .kept import KeptLook, cleaned_tags, kept_from_json, kept_of, size_of
from .packing import packed

LOOK, ABOUT, PICTURES, THEMES = f"look{SUFFIX}", "about.json", "pictures", "themes"
ASK_BYTES = 20_000_000  # pictures above this are only copied when the person said so
_DROPPED, _NEW = ".dropped", ".new-"
_MOST_ABOUT = 20_000


def shelf_folder() -> Path:
    """Return the person's own shelf."""
    return data_folder() / "shelf"


def pictures_of(look: Look) -> tuple[str, ...]:
    """Return the pictures that a look is made of or shows, each once, those that are there."""
    paths = dict.fromkeys(p for p in (look.source, *(m.path for m in look.pictures)) if p)
    return tuple(p for p in paths if Path(p).is_file())


def emblem_files(look: Look) -> tuple[str, ...]:
    """Return the pictures that a look puts in the place of those that widgets show, those that are there."""
    emblems = (emblem for own in look.decisions.values() for emblem in own.emblems.values())
    return tuple(dict.fromkeys(e.file for e in emblems if e.file and Path(e.file).is_file()))


def size_of_pictures(look: Look) -> int:
    """Return how many bytes the pictures of a look have."""
    return sum(Path(p).stat().st_size for p in pictures_of(look))


class Shelf:
    """Saved looks in a folder; the person's own where none is named."""

    def __init__(self, folder: Path | None = None) -> None:
        self.folder = folder or shelf_folder()

    def looks(self) -> list[KeptLook]:
        """Return every kept look, the newest first. One that cannot be read is left out."""
        if not self.folder.is_dir():
            return []
        found = []
        for entry in sorted(self.folder.iterdir()):
            if entry.is_dir() and not entry.name.startswith("."):
                kept = self._about(entry)
                if kept is not None:
                    found.append(kept)
        return sorted(found, key=lambda k: k.kept, reverse=True)

    def _about(self, folder: Path) -> KeptLook | None:
        """Return what is said of a look, made again from the look itself where that is not there or not true."""
        try:
            text = (read_plain(folder / ABOUT, _MOST_ABOUT) or b"").decode("utf-8")
            return kept_from_json(folder.name, text)
        except (ValueError, KeyError, TypeError, FinchError):
            pass
        try:
            kept = kept_of(folder.name, read_look(folder / LOOK).look, _digest(folder / LOOK))
            self._say(folder, kept)
        except FinchError:
            return None
        return kept

    def _say(self, folder: Path, kept: KeptLook) -> None:
        save(folder / ABOUT, (json.dumps(kept.as_json(), indent=1, ensure_ascii=False) + "\n").encode("utf-8"))

    def place(self, id_: str) -> Path:
        """Return the folder of a saved look; raises ParseError where there is none of that id."""
        folder = self.folder / id_
        if not id_ or "/" in id_ or id_.startswith(".") or not (folder / LOOK).is_file():
            raise ParseError(
                tr("There is no look “{id}” on the Shelf.").format(id=id_),
                hint=tr("“mellow-finch shelf list” names them."),
            )
        return folder

    def find(self, words: str) -> KeptLook:
        """Return the look of an id or a name; raises ParseError where there is none, or several of that name."""
        rows = self.looks()
        exact = [k for k in rows if k.id == words] or [k for k in rows if k.name.casefold() == words.casefold()]
        if len(exact) == 1:
            return exact[0]
        if exact:
            ids = ", ".join(k.id for k in exact)
            raise ParseError(
                tr("Several looks are called “{words}”.").format(words=words),
                hint=tr("Choose one of these: {ids}.").format(ids=ids),
            )
        raise ParseError(
            tr("There is no look “{words}” on the Shelf.").format(words=words),
            hint=tr("“mellow-finch shelf list” names them."),
        )

    def load(self, id_: str) -> Carried:
        """Return a saved look. Raises ParseError or FileAccessError."""
        return read_look(self.place(id_) / LOOK)

    def keep(
        self,
        look: Look,
        tags: Iterable[str] = (),
        with_pictures: bool = True,
        instead_of: str = "",
        when: str = "",
        with_themes: bool = False,
    ) -> KeptLook:
        """Put a look on the shelf, a copy of its pictures with it; instead_of: the id of one whose place it takes;
        with_themes: whether archives of themes are copied too.

        Raises FileAccessError where the disk refuses; nothing is left half done then.
        """
        fresh = self.folder / f"{_NEW}{secrets.token_hex(6)}"
        try:
            with file_errors(fresh, "write"):
                fresh.mkdir(parents=True)
                own = _with_own(look, fresh, with_pictures, with_themes)
            save_look(own, fresh / LOOK)
            id_ = instead_of or self._free(look.folder)
            kept = kept_of(id_, own, _digest(fresh / LOOK), tags, when)
            self._say(fresh, kept)
            with file_errors(fresh, "write"):
                if instead_of and (self.folder / instead_of).exists():
                    self.drop(instead_of)
                fresh.rename(self.folder / id_)
        except BaseException:
            shutil.rmtree(fresh, ignore_errors=True)
            raise
        return kept

    def _free(self, name: str) -> str:
        return next(n for n in (name, *(f"{name}-{i}" for i in range(2, 100_000))) if not (self.folder / n).exists())

    def rename(self, id_: str, name: str) -> KeptLook:
        """Give a look another name; its folder keeps its own. Raises ParseError for an empty name."""
        name = " ".join(name.split())
        if not name:
            raise ParseError(tr("A look needs a name."))
        folder = self.place(id_)
        look = replace(read_look(folder / LOOK).look, name=name)
        save_look(look, folder / LOOK)
        return self._changed(id_, name=name, digest=_digest(folder / LOOK))

    def tag(self, id_: str, tags: Iterable[str]) -> KeptLook:
        """Give a look these tags and no others."""
        return self._changed(id_, tags=cleaned_tags(tags))

    def _changed(self, id_: str, **changes: object) -> KeptLook:
        folder = self.place(id_)
        kept = self._about(folder)
        if kept is None:
            raise ParseError(tr("“{id}” cannot be read.").format(id=id_))
        kept = replace(kept, **changes)  # type: ignore[arg-type]
        self._say(folder, kept)
        return kept

    def copy(self, id_: str, name: str = "") -> KeptLook:
        """Put a second one of a look onto the shelf, called by another name."""
        kept = self.find(id_)
        look = self.load(id_).look
        return self.keep(replace(look, name=name or tr("{name}, copy").format(name=kept.name)), kept.tags)

    def drop(self, id_: str) -> str:
        """Take a look off the shelf; return what `take_back` wants to put it back."""
        folder = self.place(id_)
        apart = self.folder / _DROPPED / f"{secrets.token_hex(4)}-{id_}"
        with file_errors(apart, "write"):
            apart.parent.mkdir(exist_ok=True)
            folder.rename(apart)
        return apart.name

    def take_back(self, dropped: str) -> str:
        """Put a dropped look back and return its id; raises ParseError where it is gone."""
        apart = self.folder / _DROPPED / dropped
        if "/" in dropped or not apart.is_dir():
            raise ParseError(tr("That look no longer exists."))
        id_ = self._free(dropped.partition("-")[2])
        with file_errors(apart, "write"):
            apart.rename(self.folder / id_)
        return id_

    def empty(self) -> None:
        """Let go of what was dropped, and of what was left half made."""
        for path in [self.folder / _DROPPED, *self.folder.glob(f"{_NEW}*")]:
            shutil.rmtree(path, ignore_errors=True)

    def begin(self, looks: Iterable[Look]) -> Iterator[KeptLook]:
        """Put looks on a shelf that was never used, the last on top, and yield each as it is kept."""
        if self.folder.exists():
            return
        for look in looks:
            yield self.keep(look)

    def size(self) -> int:
        """Return how many bytes the shelf takes."""
        return size_of(self.folder) if self.folder.is_dir() else 0


def _with_own(look: Look, folder: Path, pictures: bool, themes: bool) -> Look:
    """Copy a look's pictures, and archives of its themes, into a folder and return the look with these."""
    there: dict[str, str] = {}
    kinds = [(PICTURES, (*pictures_of(look), *emblem_files(look)) if pictures else ())]
    worn = set(worn_by(look).values())  # without which it would be another look
    brought = tuple(p for p in look.brought if Path(p).exists() and (themes or p in worn))
    kinds.append((THEMES, brought))
    for kind, paths in kinds:
        for path in paths:
            place = folder / kind
            place.mkdir(exist_ok=True)
            is_folder = Path(path).is_dir()
            name = f"{Path(path).name}.zip" if is_folder else Path(path).name
            target = place / free_name(name, lambda name, place=place: (place / name).exists())  # type: ignore[misc]
            if is_folder:
                target.write_bytes(packed(Path(path))[1])
            else:
                shutil.copyfile(path, target)
            there[path] = str(target)
    return with_paths(look, lambda path: there.get(path, path))


def _digest(path: Path) -> str:
    return hashlib.sha256(must_read(path, MOST_BYTES)).hexdigest()


def free_name(name: str, taken: Callable[[str], bool]) -> str:
    """Return a name for a file of that name that is not taken yet, its letters plain enough for any archive."""
    stem, dot, ending = name.rpartition(".")
    plain = folder_of((stem if dot else name).replace("-", " "))
    tail = f".{ending.lower()}" if dot and ending.isalnum() else ""
    return next(n for i in range(1, 10_000) if not taken(n := f"{plain}{f'-{i}' if i > 1 else ''}{tail}"))
