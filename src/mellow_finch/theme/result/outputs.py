"""Where the files of a recoloured theme go, what else is written with them, and the account of it all."""

from __future__ import annotations

import gzip
import re
from collections.abc import Mapping, Sequence

from ...colour.rgb import Rgba
from ...components.files import as_bytes
from ...components.model import Scheme
from ...errors import PictureError
from ...language import tr
from ...progress import Progress
from ...recolour.colour_map import ColourMap
from ...recolour.groups import KEEP, Group, chosen_colour
from ...recolour.pointers import recoloured_pointer
from ..bundle.foreign import fitting_words
from ..bundle.gresource import write_resources
from ..bundle.model import INSIDE, Theme
from ..pictures.drawings import Drawings
from .account import Choices, Outcome, RecolouredFile, RecolouredGroup, RemainingFailure
from .targets import Placing


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
        self._words, unfit = fitting_words(theme, choices.words)
        self._notes: list[str] = [*theme.problems, *unfit]
        self._names = {f.root: f"{f.name(theme.bundle)}-{scheme.folder}" for f in theme.found}
        if choices.name:
            self._names = dict.fromkeys(self._names, choices.name)
        self._pictures: dict[str, bytes] = {}
        self._placing = Placing(theme, self._names)

    def outcome(
        self,
        fresh: Mapping[str, str],
        literals: Mapping[str, Sequence[Rgba]],
        rules: Mapping[str, str],
        short: Sequence[RemainingFailure],
        inverse: Sequence[str],
    ) -> Outcome:
        theme = self._theme
        files: list[RecolouredFile] = []
        changed: dict[str, bytes] = {}
        drawn = self._drawn
        order = [*theme.bundle.entries, *(f"{o}{INSIDE}{i}" for o, rows in theme.resources.items() for i in rows)]
        for done, path in enumerate(order):
            if done % 20 == 0:
                self._progress.report(done, len(order), tr("Writing the theme"))
            if path in fresh:
                text = theme.texts[path]
                data = as_bytes(self._with_words(fresh[path]))
                changed[path] = gzip.compress(data, mtime=0) if text.packed else data
                count = sum(s.colour != c for s, c in zip(text.spans, literals[path], strict=True))
                files.append(RecolouredFile(path, len(text.spans), count))
            elif path in drawn.paths:
                data, count, total = drawn.redrawn(path)
                if count:
                    changed[path] = self._pictures[path] = data
                files.append(RecolouredFile(path, total, count))
            else:
                self._picture(path, changed, drawn)
        for outer, rows in theme.resources.items():
            inner = {i: changed.get(f"{outer}{INSIDE}{i}", data) for i, data in rows.items()}
            if inner != rows:
                changed[outer] = write_resources(inner)
        outputs = self._placing.laid(changed)
        placed = {f.path: self._placing.place(f.path.partition(INSIDE)[0]) for f in files}
        rows_out = [
            f._replace(path=placed[f.path] + (INSIDE + f.path.partition(INSIDE)[2] if INSIDE in f.path else ""))
            for f in files
            if f.literals and (f.replaced or not self._placing.derived(f.path))
        ]
        groups = self._group_rows(literals) + drawn.group_rows()
        lead = theme.lead
        name = self._names[lead.root] if lead is not None else self._choices.name or theme.bundle.name
        return Outcome(
            name, outputs, tuple(rows_out), tuple(sorted(groups, key=lambda g: -g.places)), dict(fresh),
            sum(text.count("{") for text in rules.values()), tuple(short),
            (*self._notes, *self._placing.notes), tuple(self._charts),
            self._pictures, tuple(inverse), dict(self._names), {e: self._drawn.fills(e) for e in theme.sheets},
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
            self._notes.append(tr("{error} It stays as it is.").format(error=error))
            return
        if new != old:
            changed[path] = self._pictures[path] = new

    def _with_words(self, text: str) -> str:
        for old, new in self._words.items():
            text = re.sub(rf"(?<![\w-]){re.escape(old)}(?![\w-])", lambda _m, new=new: new, text)  # type: ignore[misc]
        return text

    # The account

    def _group_rows(self, literals: Mapping[str, Sequence[Rgba]]) -> list[RecolouredGroup]:
        rows: list[RecolouredGroup] = []
        for family, chart in zip(self._theme.families, self._charts, strict=True):
            owners = [p for p in family.paths for _ in self._theme.texts[p].spans]
            targets = shown_targets(family.groups, chart, self._scheme.colours, self._choices.decided.by_group)
            for g in family.groups:
                target = targets[g.key]
                files = len({owners[i] for i in g.spans})
                role = self._choices.decided.by_group.get(g.key) or g.role
                rows.append(
                    RecolouredGroup(g.key, g.anchor, target, "" if role == KEEP else role, g.reason, g.places, files)
                )
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
        elif (target := chosen_colour(choice, colours)) is not None:
            out[g.key] = target
        elif g.sure:
            out[g.key] = colours[g.role]
        else:
            out[g.key] = fresh[g.anchor]
    return out
