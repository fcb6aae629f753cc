"""Swap: one colour of a theme replaced everywhere by another, and nothing else. No look, no mending, no new name."""

from __future__ import annotations

import gzip
from collections.abc import Iterable, Mapping, Sequence
from typing import NamedTuple

from ...colour.gamut import oklch_to_rgba, rgba_to_oklch
from ...colour.rgb import Rgba
from ...components.files import as_bytes
from ...errors import ParseError
from ...language import parted, plural, tr
from ...recolour.rewrite import respelled
from ...syntax.spans import ColourSpan
from ..bundle.gresource import write_resources
from ..bundle.model import INSIDE, Theme
from .account import OutEntry, RecolouredFile
from .targets import Placing


class SwapRow(NamedTuple):
    """One colour that was replaced: by what, how often, and in how many files; shade: whether it followed another."""

    source: Rgba
    target: Rgba
    places: int
    files: int
    shade: bool = False

    def as_json(self) -> dict[str, object]:
        """Return the row with the documented keys."""
        rows = {"from": self.source.hex, "to": self.target.hex, "places": self.places, "files": self.files}
        return {**rows, "shade": self.shade}


class Swapped(NamedTuple):
    """What a swap gives: every file of the theme by path from the home, and the account of it."""

    outputs: Mapping[str, OutEntry]
    files: tuple[RecolouredFile, ...]
    rows: tuple[SwapRow, ...]
    fresh: Mapping[str, str]
    notes: tuple[str, ...]


def shades_of(theme: Theme, colour: Rgba) -> tuple[Rgba, ...]:
    """Return the other shades of the groups that a colour belongs to, the commonest first."""
    groups = (g for f in theme.families for g in f.groups if colour.opaque in g.shades)
    return tuple(s for s in dict.fromkeys(s for g in groups for s in g.shades) if s != colour.opaque)


def followed(shade: Rgba, old: Rgba, new: Rgba) -> Rgba:
    """Return a shade after the step that leads from one colour to another in OKLCH; what is grey stays grey."""
    (l0, c0, h0), (l1, c1, h1), (l2, c2, h2) = (rgba_to_oklch(c) for c in (old, new, shade))
    turned = h2 + (h1 - h0 if c0 > _GREY and c1 > _GREY else 0.0)
    chroma = max(0.0, c2 + c1 - c0) if c2 > _GREY else c2
    return oklch_to_rgba(min(1.0, max(0.0, l2 + l1 - l0)), chroma, turned)._replace(a=shade.a)


_GREY = 0.02  # OKLCH chroma


def wanted_colours(
    theme: Theme, pairs: Mapping[Rgba, Rgba], with_shades: bool = False, left: Iterable[Rgba] = ()
) -> dict[Rgba, tuple[Rgba, bool]]:
    """Return every colour to be replaced, with the new one and whether it only follows; left: shades that stay."""
    out = {old.opaque: (new, False) for old, new in pairs.items()}
    if with_shades:
        kept = {c.opaque for c in left}
        for old, new in pairs.items():
            for shade in shades_of(theme, old):
                if shade not in kept:
                    out.setdefault(shade, (followed(shade, old, new), True))
    return out


def swapped(theme: Theme, pairs: Mapping[Rgba, Rgba], with_shades: bool = False, left: Iterable[Rgba] = ()) -> Swapped:
    """Return a theme with colours replaced wherever they stand as literals; a literal keeps its own opacity.

    Every other byte stays, spelling included, and every file keeps its name. Raises ParseError when none of the
    colours stands anywhere in the theme.
    """
    wanted = wanted_colours(theme, pairs, with_shades, left)
    hits: dict[Rgba, list[str]] = {colour: [] for colour in wanted}
    fresh: dict[str, str] = {}
    files: list[RecolouredFile] = []
    for path, text in theme.texts.items():
        colours = [s.colour for s in text.spans]
        own = [c.opaque in wanted and c.a > 0 for c in colours]
        new = [
            wanted[c.opaque][0]._replace(a=c.a * wanted[c.opaque][0].a) if hit else c
            for c, hit in zip(colours, own, strict=True)
        ]
        for c, hit in zip(colours, own, strict=True):
            if hit:
                hits[c.opaque].append(path)
        if any(own):
            fresh[path] = respelled(text.text, *_only(text.spans, new, own))
        if colours:
            files.append(RecolouredFile(path, len(colours), sum(own)))
    missing = [old for old in pairs if not hits[old.opaque]]
    if missing:
        names = parted(c.hex for c in missing)
        raise ParseError(
            tr("“{name}” does not contain {names}.").format(name=theme.bundle.name, names=names),
            hint=tr("“mellow-finch recolour” lists its colours."),
        )
    changed = _packed(theme, fresh)
    placing = Placing(theme, {f.root: f.name(theme.bundle) for f in theme.found})
    outputs = placing.laid(changed)
    notes = [*theme.problems, *placing.notes]
    if theme.pictures:
        notes.append(
            plural(
                "{count} image stays as it is: a swap changes only colour values.",
                "{count} images stay as they are: a swap changes only colour values.",
                len(theme.pictures),
            )
        )
    rows = tuple(
        SwapRow(old, new, len(hits[old]), len(set(hits[old])), shade)
        for old, (new, shade) in wanted.items()
        if hits[old]
    )
    placed = (f._replace(path=placing.place(f.path.partition(INSIDE)[0])) for f in files)
    return Swapped(outputs, tuple(placed), rows, fresh, tuple(notes))


def _only(
    spans: Sequence[ColourSpan], colours: Sequence[Rgba], chosen: Sequence[bool]
) -> tuple[list[ColourSpan], list[Rgba]]:
    """Return the spans and colours that are chosen: what is not keeps its spelling to the byte."""
    rows = [(s, c) for s, c, hit in zip(spans, colours, chosen, strict=True) if hit]
    return [s for s, _ in rows], [c for _, c in rows]


def _packed(theme: Theme, fresh: Mapping[str, str]) -> dict[str, bytes]:
    """Return the new bytes of files, packed drawings and bundles of resources packed again."""
    changed: dict[str, bytes] = {}
    for path, text in fresh.items():
        data = as_bytes(text)
        changed[path] = gzip.compress(data, mtime=0) if theme.texts[path].packed else data
    for outer, rows in theme.resources.items():
        inner = {i: changed.get(f"{outer}{INSIDE}{i}", data) for i, data in rows.items()}
        if inner != rows:
            changed[outer] = write_resources(inner)
    return changed
