"""Where the files of a theme go under a new name, or under their own: places, links, index files, what goes along."""

from __future__ import annotations

import posixpath
import re
from collections.abc import Mapping

from ...components.files import as_bytes
from ...language import parted, tr
from ..bundle.kinds import (
    FoundTheme,
    goes_along,
    is_credit,
    leads_out,
    moved_lines,
    owner_of,
    root_of_output,
    target_path,
)
from ..bundle.model import INSIDE, Theme
from .account import OutEntry

_PART = re.compile(r"[\w-]*\d[\d.]*")  # a folder of one program alone, such as "gtk-3.20"
_INDEX_KEYS = ("GtkTheme", "MetacityTheme", "IconTheme", "CursorTheme")


class Placing:
    """Puts the files of a theme where they belong; names: by the root of each thing that was found, its name."""

    def __init__(self, theme: Theme, names: Mapping[str, str]) -> None:
        self._theme, self._names = theme, names
        self._outputs: dict[str, OutEntry] = {}
        self.notes: list[str] = []

    def _owner(self, path: str) -> FoundTheme | None:
        return owner_of(path, self._theme.found)

    def derived(self, path: str) -> bool:
        """Tell whether a file belongs to a theme of which only changed files are written."""
        owner = self._owner(path.partition(INSIDE)[0])
        return owner is not None and owner.kind.derived

    def place(self, path: str) -> str:
        """Return where a file of the theme goes, from the home."""
        owner = self._owner(path)
        if owner is None or self._theme.bundle.single:
            return path
        return target_path(owner, self._names[owner.root], path)

    def _beside(self, path: str) -> list[str]:
        """Return where else a file goes that lies in no part of a theme: to every place that its parts go to."""
        owner = self._owner(path)
        if owner is None or owner.kind.single or owner.kind.derived or self._theme.bundle.single:
            return []
        first, slash, _ = path.removeprefix(owner.root).partition("/")
        parts = [f for f in self._theme.found if f.root == owner.root and not f.kind.single]
        if slash and (_PART.fullmatch(first) or first in {f.part for f in parts}):
            return []
        places = dict.fromkeys(target_path(f, self._names[f.root], path) for f in parts)
        return [place for place in places if place != self.place(path)]

    def laid(self, changed: Mapping[str, bytes]) -> dict[str, OutEntry]:
        """Return every file that is installed, by path from the home; changed: new bytes by path in the theme."""
        theme = self._theme
        found_any = bool(theme.found) and not theme.bundle.single
        pending: list[str] = []
        for path, entry in theme.bundle.entries.items():
            owner = self._owner(path)
            if found_any and (owner is None or not goes_along(path, owner.kind)):
                continue
            if not found_any and path not in changed and not theme.bundle.single:
                continue
            if owner is not None and owner.kind.derived and path not in changed:
                if entry.link:
                    pending.append(path)
                    continue
                if path.removeprefix(owner.root) not in ("index.theme", "cursor.theme") and not is_credit(path):
                    continue
            data = changed.get(path)
            if path.endswith("index.theme") and owner is not None and not entry.link:
                data = self._index(theme.data(path), owner)
            if entry.link:
                self._lay_link(path)
            else:
                fresh = OutEntry(theme.data(path) if data is None else data, entry.mode, "")
                self._outputs[self._free(self.place(path), fresh)] = fresh
                for place in self._beside(path):
                    self._outputs.setdefault(place, fresh)
        self._lay_links(pending)
        self.notes += self._of_fonts()
        roots = {root_of_output(path) for path in self._outputs}
        for path in [p for p, out in self._outputs.items() if out.link and leads_out(p, out.link, roots)]:
            del self._outputs[path]
            self.notes.append(tr("The link “{path}” leads out of its theme, so it is left out.").format(path=path))
        return self._outputs

    def _of_fonts(self) -> list[str]:
        """Return a sentence for each folder of fonts that goes along: their files, and the licence beside them."""
        notes = []
        for found in (f for f in self._theme.found if f.kind.id == "fonts"):
            own = [p for p in self._theme.bundle.entries if self._owner(p) == found and goes_along(p, found.kind)]
            names = [p.rpartition("/")[2] for p in own if not is_credit(p)]
            licence = next((p for p in own if re.search(r"(?i)licen|copying|ofl", p.rpartition("/")[2])), "")
            words = self._theme.data(licence)[:400].decode("utf-8", "replace").strip().splitlines() if licence else []
            terms = (
                tr("their licence begins “{line}”").format(line=words[0].strip()[:90])
                if words
                else tr("no licence file comes with them")
            )
            notes.append(tr("Fonts installed for you: {names}; {terms}.").format(names=parted(names[:12]), terms=terms))
        return notes

    def _free(self, place: str, fresh: OutEntry) -> str:
        """Return a place that no other file of the theme has taken, with a note where it is not its own name."""
        if self._outputs.get(place, fresh) == fresh:
            return place
        stem, dot, ending = place.rpartition(".")
        number = next(n for n in range(2, 100_000) if f"{stem}-{n}{dot}{ending}" not in self._outputs)
        other = f"{stem}-{number}{dot}{ending}"
        self.notes.append(
            tr("Two files of the theme go to “{place}”; one of them is called “{other}”.").format(
                place=place, other=other
            )
        )
        return other

    def _lay_links(self, pending: list[str]) -> None:
        """Take along the links of derived themes whose target was taken along, links to links too."""
        while True:
            ready = [p for p in pending if self._target(p) in self._outputs]
            if not ready:
                break
            for path in ready:
                self._lay_link(path)
            pending = [p for p in pending if p not in set(ready)]

    def _target(self, path: str, place: str = "") -> str:
        """Return where what a link points to goes: of several places that beside which the link itself goes."""
        link = self._theme.bundle.entries[path].link
        end = posixpath.normpath(posixpath.join(posixpath.dirname(path), link))
        places = [self.place(end), *self._beside(end)]
        return next((p for p in places if root_of_output(p) == root_of_output(place)), places[0])

    def _lay_link(self, path: str) -> None:
        for place in (self.place(path), *self._beside(path)):
            target = posixpath.relpath(self._target(path, place), posixpath.dirname(place))
            self._outputs[place] = OutEntry(b"", 0o777, target)

    def _index(self, data: bytes, owner: FoundTheme) -> bytes:
        text = data.decode("utf-8", "surrogateescape")
        name = self._names[owner.root]
        values = {"Name": name, **dict.fromkeys(_INDEX_KEYS, name)}
        kinds = {f.kind.id for f in self._theme.found if f.root == owner.root}
        old = owner.name(self._theme.bundle)
        if not kinds & {"icons", "pointers"}:
            values = {k: v for k, v in values.items() if k not in ("IconTheme", "CursorTheme")}
        if owner.kind.derived:
            found = re.search(r"(?m)^Inherits[ \t]*=[ \t]*(.*?)[ \t]*\r?$", text)
            parents = [old, *(p for p in (found.group(1).split(",") if found else []) if p.strip() != old)]
            if found:
                values["Inherits"] = ",".join(p.strip() for p in parents)
            else:
                text = re.sub(r"(?m)^(\[Icon Theme\][ \t]*\r?\n)", rf"\g<1>Inherits={old}\n", text, count=1)
            note = tr("“{name}” takes everything else from “{old}”, which must stay installed.").format(
                name=name, old=old
            )
            if note not in self.notes:
                self.notes.append(note)
        return as_bytes(moved_lines(text, values))
