"""A whole theme carried to a look: texts, drawings, pictures and pointers, mended, under a new name, laid out."""

from __future__ import annotations

from collections.abc import Callable, Collection, Sequence
from dataclasses import replace

from ...colour.rgb import Rgba
from ...components.judge import Behind
from ...components.model import Scheme
from ...language import tr
from ...progress import Progress, Silent
from ...recolour.colour_map import Anchor, ColourMap
from ...recolour.groups import KEEP, map_for
from ...recolour.rewrite import carried_spans, respelled
from ..bundle.families import is_superseded
from ..bundle.model import Family, Theme
from ..pictures.drawings import Drawings
from ..sheets.keyed import mend_keyed
from ..sheets.processes import Order, SheetJob, mend_orders, together
from .account import Choices, MeasuredFailure, Outcome, RemainingFailure
from .outputs import Layout
from .own_colours import kept_chart, kept_decisions, kept_literals, swapped_colours

_KEYED = ("keyed", "xresources")  # files whose pairs are told by their keys


def charts_of(theme: Theme, scheme: Scheme, choices: Choices) -> tuple[ColourMap, ...]:
    """Return the map of each family of a theme."""
    if choices.decided.as_is:
        wanted = swapped_colours(theme, choices.decided)
        return tuple(kept_chart(family, wanted) for family in theme.families)
    return tuple(_chart(family, scheme, choices) for family in theme.families)


def _chart(family: Family, scheme: Scheme, choices: Choices) -> ColourMap:
    chosen = {g.anchor for g in family.groups if choices.decided.by_group.get(g.key)}
    lead = [
        Anchor(colour, scheme.colours[role], 1e6 - i)
        for i, (colour, role) in enumerate(family.leading)
        if colour not in chosen
    ]
    return map_for(family.groups, family.spans, scheme.colours, choices.decided.by_group, lead, light=family.light)


def new_literals(theme: Theme, scheme: Scheme, choices: Choices, charts: Sequence[ColourMap]) -> dict[str, list[Rgba]]:
    """Return the new colour of every literal of every text, before anything is mended."""
    if choices.decided.as_is:
        return kept_literals(theme, swapped_colours(theme, choices.decided))
    out: dict[str, list[Rgba]] = {}
    for family, chart in zip(theme.families, charts, strict=True):
        fresh = carried_spans(family.spans, family.groups, chart, scheme.colours, choices.decided.by_group)
        for path in family.paths:
            start = family.starts[path]
            out[path] = fresh[start : start + len(theme.texts[path].spans)]
    return out


def recolour_theme(
    theme: Theme,
    scheme: Scheme,
    choices: Choices | None = None,
    progress: Progress | None = None,
    told: Sequence[Sequence[MeasuredFailure]] = (),
) -> Outcome:
    """Return a theme in a look's colours. Writes nothing; the same input gives the same bytes.

    Only literals change, unless a pair cannot be made readable by any of them: then a rule is added at the end of the
    sheet, and counted. told: what the real toolkit painted short with what came before, asked once or more often.
    """
    choices, progress = choices or Choices(), progress or Silent()
    as_is = choices.decided.as_is
    charts = charts_of(theme, scheme, choices)
    literals = new_literals(theme, scheme, choices, charts)
    if as_is:
        choices = replace(choices, decided=kept_decisions(theme, choices.decided))
    rules: dict[str, str] = {}
    short: list[RemainingFailure] = []
    inverse: tuple[str, ...] = ()
    drawn = Drawings(theme, scheme, charts, choices, told)
    if scheme.mend:
        progress.report(0, max(1, len(theme.sheets)), tr("Fixing the contrast"))
        # What stays as it is because the whole theme does may still be moved where it cannot be read.
        kept = set() if as_is else _literals_where(theme, choices, lambda choice: choice == KEEP)
        rules, short, inverse = _mended(theme, scheme, drawn, literals, choices, kept, progress, told)
        for path, text in theme.texts.items():
            if text.format.syntax in _KEYED:
                own = {i for p, i in kept if p == path}
                rows = [row for again in told for row in again if row.component == text.format.id]
                short += mend_keyed(path, text, literals[path], own, rows, scheme.text_need)
    fresh = {
        path: respelled(theme.texts[path].text, theme.texts[path].spans, colours) + rules.get(path, "")
        for path, colours in literals.items()
    }
    return Layout(theme, scheme, choices, charts, drawn, progress).outcome(fresh, literals, rules, short, inverse)


def _literals_where(theme: Theme, choices: Choices, wanted: Callable[[str], bool]) -> set[tuple[str, int]]:
    """Return the literals of groups for which a person's choice is as wanted; an empty one where they made none."""
    found: set[tuple[str, int]] = set()
    for family in theme.families:
        spans = {i for g in family.groups if wanted(choices.decided.by_group.get(g.key, "")) for i in g.spans}
        if spans:
            for path in family.paths:
                start = family.starts[path]
                found |= {(path, i) for i in range(len(theme.texts[path].spans)) if start + i in spans}
    return found


def _mended(
    theme: Theme,
    scheme: Scheme,
    drawn: Drawings,
    literals: dict[str, list[Rgba]],
    choices: Choices,
    kept: Collection[tuple[str, int]],
    progress: Progress,
    told: Sequence[Sequence[MeasuredFailure]],
) -> tuple[dict[str, str], list[RemainingFailure], tuple[str, ...]]:
    """Mend every sheet in place; return the rules by entry, what still fails, and which parts are inverse."""
    decided = set() if choices.decided.as_is else _literals_where(theme, choices, bool)
    sheets = []
    for entry, sheet in theme.sheets.items():
        if is_superseded(entry, theme.sheets):
            continue
        pieces = tuple((p.path, p.index) for p in sheet.pieces)
        was = [theme.texts[path].spans[i].colour for path, i in pieces]
        frozen, chosen = (frozenset(i for i, p in enumerate(pieces) if p in rows) for rows in (kept, decided))
        fills, faces = drawn.fills(entry), drawn.faces(entry)
        sheets.append(SheetJob(entry, sheet.component, sheet.skeleton, pieces, fills, faces, was, frozen, chosen))
    behind, colours = Behind.of(scheme), {} if choices.decided.as_is else dict(scheme.colours)
    orders = []
    for group in together(sheets):
        own = {(path, i): literals[path][i] for sheet in group for path, i in sheet.pieces}
        orders.append(Order(group, own, colours, behind, dict(choices.decided.parts), told))
    rules: dict[str, str] = {}
    short: list[RemainingFailure] = []
    inverse: dict[str, None] = {}
    for fresh, own_rules, own_short, own_inverse in mend_orders(orders, progress):
        for (path, i), colour in fresh.items():
            literals[path][i] = colour
        rules |= own_rules
        short += own_short
        inverse |= dict.fromkeys(own_inverse)
    return rules, short, tuple(inverse)
