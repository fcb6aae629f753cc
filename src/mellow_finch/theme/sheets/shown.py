"""What a theme's sheets draw, read back from their text, for the stage and for what lies beside it."""

from __future__ import annotations

import re
from collections.abc import Mapping, Sequence

from ...colour.rgb import Rgba
from ...components.catalogue import COMPONENT_BY_ID
from ...components.model import Paint, Paints, painted
from ...syntax.sheet import Sheet
from ..bundle.families import newest
from ..bundle.imports import joined
from ..bundle.model import Theme, built_by_toolkit
from ..result.account import Outcome

Fills = Mapping[str, Mapping[str, tuple[Rgba, ...]]]


def shown_paints(
    theme: Theme, fresh: Mapping[str, str] | None, dark: bool, fills: Fills | None = None
) -> dict[str, Paints]:
    """Return what a theme's sheets draw, by component.

    fresh: the new texts by path, None for the theme as it came; dark: whether the sheets for dark desktops are shown
    where a theme has both; fills: by entry and name, what pictures fill a box with.
    """
    out: dict[str, Paints] = {}
    for component, entries in _by_component(theme).items():
        entry = _wanted(theme, entries, dark)
        texts = {p: (fresh or {}).get(p, t.text) for p, t in theme.texts.items() if t.format.syntax == "css"}
        spans = {p: tuple(theme.texts[p].format.scan(text)) for p, text in texts.items() if _used(theme, entry, p)}
        sheet = joined(entry, {p: texts[p] for p in spans}, spans, theme.sheets[entry].alias)
        compiled = Sheet(sheet.skeleton, (fills or {}).get(entry, {}))
        parts = COMPONENT_BY_ID[component].parts
        built = {p.key: p.at for p in built_by_toolkit(component)}
        places = list(dict.fromkeys([*(p.at for p in parts), *(built[p.key] for p in parts if p.key in built)]))
        compiled.know(places)
        colours = [spans[p.path][p.index].colour for p in sheet.pieces]
        found = {at: painted(value) for at, value in compiled.paint(colours, places).items()}
        out[component] = {p.key: _as_built(p.at, built.get(p.key, p.at), found) for p in parts}
    return out


_WORDS = re.compile(r"> label[^ >]*$")


def _as_built(at: str, built: str, found: Mapping[str, Paint]) -> Paint:
    """Return what a part of ours shows where the toolkit builds it otherwise, its words in a label of their own."""
    ours, theirs = found[at], found[built]
    if _WORDS.search(built):
        own = theirs.below[-1] if theirs.below else ()
        return Paint(own[0] if own else None, theirs.text, ours.edge, theirs.below[:-1], own)
    same = re.split(r"[.:]", at.rpartition(" ")[2])[0] == re.split(r"[.:]", built.rpartition(" ")[2])[0]
    return theirs if same else ours


def shown_now(theme: Theme, outcome: Outcome, dark: bool) -> dict[str, Paints]:
    """Return what a recoloured theme's sheets draw, by component."""
    return shown_paints(theme, outcome.fresh, dark, outcome.fills)


def _by_component(theme: Theme) -> dict[str, list[str]]:
    rows: dict[str, list[str]] = {}
    for entry in sorted(theme.sheets, key=newest):
        rows.setdefault(theme.sheets[entry].component, []).append(entry)
    return rows


def _wanted(theme: Theme, entries: Sequence[str], dark: bool) -> str:
    """Return the sheet that a desktop takes: of several themes by what they are called, then of one's own two."""
    tone = "dark" if dark else "light"
    alike = [f.root for f in theme.found if f.is_called(tone, theme.bundle)]
    entries = [e for e in entries if e.startswith(tuple(alike))] or entries
    folder = entries[0].rpartition("/")[0]
    beside = [e for e in entries if e.rpartition("/")[0] == folder]
    named = [e for e in beside if ("-dark" in e.rpartition("/")[2]) == dark]
    return (named or beside)[0]


def _used(theme: Theme, entry: str, path: str) -> bool:
    return path == entry or path in theme.sheets[entry].files
