"""Where the files of a recoloured theme go, what else is written with them, and the account of it all."""

from __future__ import annotations

import gzip
import posixpath
import re
from collections.abc import Mapping, Sequence

from ..colour.rgb import Rgba
from ..components.model import Scheme, as_bytes
from ..errors import PictureError
from ..progress import Progress
from ..recolour.colour_map import ColourMap
from ..recolour.groups import KEEP, Group
from ..recolour.pointers import recoloured_pointer
from .account import Choices, FileRow, GroupRow, Outcome, OutEntry, Short
from .drawings import Drawings
from .gresource import write_resources
from .kinds import Found, goes_along, is_credit, leads_out, moved_lines, owner_of, place_of, root_of_output
from .model import INSIDE, Theme
from .words import fitting_words

_INDEX_KEYS = ("GtkTheme", "MetacityTheme", "IconTheme", "CursorTheme")


class Layout:
    """Puts the files of a recoloured theme where they belong."""

    def __init__(
        self,
        theme: Theme,
        scheme: Scheme,
        choices: Choices,
        charts: Sequence[ColourMap],
        drawn: Drawings,
        progress: Progress,
    ) -> None:
        self._theme, self._scheme, self._choices, self._charts = theme, scheme, choices, charts
        self._drawn, self._progress = drawn, progress
        self._outputs: dict[str, OutEntry] = {}
        self._words, unfit = fitting_words(theme, choices.words)
        self._notes: list[str] = [*theme.problems, *unfit]
        self._names = {f.root: f"{f.name(theme.bundle)}-{scheme.folder}" for f in theme.found}
        if choices.name:
            self._names = dict.fromkeys(self._names, choices.name)
        self._pictures: dict[str, bytes] = {}

    def outcome(
        self,
        fresh: Mapping[str, str],
        literals: Mapping[str, Sequence[Rgba]],
        rules: Mapping[str, str],
        short: Sequence[Short],
    ) -> Outcome:
        theme = self._theme
        files: list[FileRow] = []
        changed: dict[str, bytes] = {}
        drawn = self._drawn
        order = [*theme.bundle.entries, *(f"{o}{INSIDE}{i}" for o, rows in theme.resources.items() for i in rows)]
        for done, path in enumerate(order):
            if done % 20 == 0:
                self._progress.report(done, len(order), "Writing the theme anew")
            if path in fresh:
                text = theme.texts[path]
                data = as_bytes(self._with_words(fresh[path]))
                changed[path] = gzip.compress(data, mtime=0) if text.packed else data
                count = sum(s.colour != c for s, c in zip(text.spans, literals[path], strict=True))
                files.append(FileRow(path, len(text.spans), count))
            elif path in drawn.paths:
                data, count, total = drawn.redrawn(path)
                if count:
                    changed[path] = self._pictures[path] = data
                files.append(FileRow(path, total, count))
            else:
                self._picture(path, changed, drawn)
        for outer, rows in theme.resources.items():
            inner = {i: changed.get(f"{outer}{INSIDE}{i}", data) for i, data in rows.items()}
            if inner != rows:
                changed[outer] = write_resources(inner)
        self._lay(changed)
        placed = {f.path: self._place(f.path.partition(INSIDE)[0]) for f in files}
        rows_out = [
            f._replace(path=placed[f.path] + (INSIDE + f.path.partition(INSIDE)[2] if INSIDE in f.path else ""))
            for f in files
            if f.literals and (f.replaced or not self._derived(f.path))
        ]
        groups = self._group_rows(literals) + drawn.group_rows()
        lead = theme.lead
        name = self._names[lead.root] if lead is not None else self._choices.name or theme.bundle.name
        return Outcome(
            name, self._outputs, tuple(rows_out), tuple(sorted(groups, key=lambda g: -g.places)), dict(fresh),
            sum(text.count("{") for text in rules.values()), tuple(short), tuple(self._notes), tuple(self._charts),
            self._pictures,
        )  # fmt: skip

    def _picture(self, path: str, changed: dict[str, bytes], drawn: Drawings) -> None:
        theme = self._theme
        try:
            if path in drawn.pictures:
                old = theme.data(path)
                new = drawn.repainted(path)
            elif path in drawn.pointers:
                old = theme.data(path)
                new = recoloured_pointer(old, path.rpartition("/")[2], drawn.pointer_chart)
            else:
                return
        except PictureError as error:
            self._notes.append(f"{error} It stays as it is.")
            return
        if new != old:
            changed[path] = self._pictures[path] = new

    def _with_words(self, text: str) -> str:
        for old, new in self._words.items():
            text = re.sub(rf"(?<![\w-]){re.escape(old)}(?![\w-])", lambda _m, new=new: new, text)  # type: ignore[misc]
        return text

    # Where each file goes

    def _owner(self, path: str) -> Found | None:
        return owner_of(path, self._theme.found)

    def _derived(self, path: str) -> bool:
        owner = self._owner(path.partition(INSIDE)[0])
        return owner is not None and owner.kind.derived

    def _place(self, path: str) -> str:
        owner = self._owner(path)
        if owner is None or self._theme.bundle.single:
            return path
        return place_of(owner, self._names[owner.root], path)

    def _lay(self, changed: Mapping[str, bytes]) -> None:
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
                self._outputs[self._free(self._place(path), fresh)] = fresh
        self._lay_links(pending)
        self._notes += self._of_fonts()
        roots = {root_of_output(path) for path in self._outputs}
        for path in [p for p, out in self._outputs.items() if out.link and leads_out(p, out.link, roots)]:
            del self._outputs[path]
            self._notes.append(f"The link “{path}” leads out of its theme, so it is left out.")

    def _of_fonts(self) -> list[str]:
        """Return a sentence for each folder of fonts that goes along: their files, and the licence beside them."""
        notes = []
        for found in (f for f in self._theme.found if f.kind.id == "fonts"):
            own = [p for p in self._theme.bundle.entries if self._owner(p) == found and goes_along(p, found.kind)]
            names = [p.rpartition("/")[2] for p in own if not is_credit(p)]
            licence = next((p for p in own if re.search(r"(?i)licen|copying|ofl", p.rpartition("/")[2])), "")
            words = self._theme.data(licence)[:400].decode("utf-8", "replace").strip().splitlines() if licence else []
            terms = f"their licence begins “{words[0].strip()[:90]}”" if words else "no licence lies beside them"
            notes.append(f"Fonts that are installed for you: {', '.join(names[:12])}; {terms}.")
        return notes

    def _free(self, place: str, fresh: OutEntry) -> str:
        """Return a place that no other file of the theme has taken, with a note where it is not its own name."""
        if self._outputs.get(place, fresh) == fresh:
            return place
        stem, dot, ending = place.rpartition(".")
        number = next(n for n in range(2, 100_000) if f"{stem}-{n}{dot}{ending}" not in self._outputs)
        other = f"{stem}-{number}{dot}{ending}"
        self._notes.append(f"Two files of the theme go to “{place}”; one of them is called “{other}”.")
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

    def _target(self, path: str) -> str:
        """Return where what a link points to goes."""
        link = self._theme.bundle.entries[path].link
        return self._place(posixpath.normpath(posixpath.join(posixpath.dirname(path), link)))

    def _lay_link(self, path: str) -> None:
        place = self._place(path)
        self._outputs[place] = OutEntry(b"", 0o777, posixpath.relpath(self._target(path), posixpath.dirname(place)))

    def _index(self, data: bytes, owner: Found) -> bytes:
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
            note = f"“{name}” takes what it does not change from “{old}”, which has to stay installed."
            if note not in self._notes:
                self._notes.append(note)
        return as_bytes(moved_lines(text, values))

    # The account

    def _group_rows(self, literals: Mapping[str, Sequence[Rgba]]) -> list[GroupRow]:
        rows: list[GroupRow] = []
        for family, chart in zip(self._theme.families, self._charts, strict=True):
            owners = [p for p in family.paths for _ in self._theme.texts[p].spans]
            targets = shown_targets(family.groups, chart, self._scheme.colours, self._choices.roles)
            for g in family.groups:
                target = targets[g.key]
                files = len({owners[i] for i in g.spans})
                role = self._choices.roles.get(g.key) or g.role
                rows.append(GroupRow(g.key, g.anchor, target, "" if role == KEEP else role, g.reason, g.places, files))
        return rows


def shown_targets(
    groups: Sequence[Group], chart: ColourMap, colours: Mapping[str, Rgba], roles: Mapping[str, str]
) -> dict[str, Rgba]:
    """Return by key what the colour of each group becomes before anything is mended; roles: what a person chose."""
    fresh = chart.carry_all(g.anchor for g in groups)
    out: dict[str, Rgba] = {}
    for g in groups:
        choice = roles.get(g.key, "")
        if choice == KEEP:
            out[g.key] = g.anchor
        elif choice in colours or g.sure:
            out[g.key] = colours[choice or g.role]
        else:
            out[g.key] = fresh[g.anchor]
    return out
