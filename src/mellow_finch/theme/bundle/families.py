"""The texts of a theme separated by lightness, with what their sheets paint where it matters most."""

from __future__ import annotations

import re
from collections import Counter
from collections.abc import Iterable, Mapping, Sequence
from dataclasses import replace

from ...colour.gamut import rgba_to_oklch
from ...colour.rgb import Rgba
from ...components.catalogue import COMPONENT_BY_ID
from ...components.judge import Behind, surfaces_under
from ...components.model import painted
from ...language import tr
from ...picture.backdrop import PLAIN
from ...recolour.colour_map import is_vivid
from ...recolour.groups import Group, group_spans, is_light
from ...syntax.sheet import Sheet
from ...syntax.spans import ColourSpan
from .imports import Joined
from .kinds import owner_of
from .model import Family, Theme, ThemeText

_URL = re.compile(r"url\(\s*+[\"']?([^\"'()]++)[\"']?\s*+\)")

_KEY_PLACES: tuple[tuple[str, str, str], ...] = (
    ("window.background", "window", "window_text"),
    ("window.background > textview.view > text", "view", "view_text"),
    ("window.background > treeview.view", "view", "view_text"),
    ("window.background > button.text-button.suggested-action", "accent", "accent_text"),
    ("window.background > progressbar.horizontal > trough > progress", "accent", ""),
    ("window.background > switch:checked", "accent", ""),
    ("window.background > treeview.view:selected:focus", "selection", "selection_text"),
    ("window.background > headerbar.titlebar", "header", "header_text"),
    ("window.background > menu > menuitem", "menu", "menu_text"),
    ("window.background > button.text-button", "control", "control_text"),
)

_SHELL_PARTS = ("panel", "menu", "menu item", "dialog", "notification", "search field")
_SHELL_PLACES: Mapping[str, tuple[tuple[str, str, str], ...]] = {
    id_: tuple(
        (p.at, p.fill_role, p.text_role) for p in COMPONENT_BY_ID[id_].parts if not p.state and p.id in _SHELL_PARTS
    )
    for id_ in ("shell", "shell-cinnamon")
}

# Where roles ask for different things of one colour, the earlier is heard.
_ORDER = (
    *("window", "window_text", "view", "view_text", "accent", "menu", "menu_text", "header", "header_text", "panel"),
    *("panel_text", "control", "control_text", "notice", "notice_text"),
)


def newest(entry: str) -> tuple[bool, int, str]:
    """Return by what sheets are ordered so that those which today's toolkit takes come first."""
    found = re.search(r"gtk-3\.(\d+)/", entry)
    return found is None, -int(found.group(1)) if found else 0, entry


def is_superseded(entry: str, entries: Iterable[str]) -> bool:
    """Tell whether today's toolkit takes another sheet of the theme instead: there is one for a later version."""
    number = _number(entry)
    root = entry.partition("gtk-3.")[0]
    return number is not None and any(
        (other := _number(e)) is not None and number < other <= _TODAY
        for e in entries
        if e.startswith(f"{root}gtk-3.") and e.rpartition("/")[2] == entry.rpartition("/")[2]
    )


_TODAY = 24  # the last minor version of the toolkit's third generation


def _number(entry: str) -> int | None:
    found = re.search(r"gtk-3\.(\d+)/", entry)
    return int(found.group(1)) if found else None


def _key_colours(sheet: Joined, texts: Mapping[str, ThemeText]) -> list[tuple[Rgba, str]]:
    """Return (colour, role) of what a sheet paints in the places that matter most, the first of a role leading."""
    literals = [texts[p.path].spans[p.index].colour for p in sheet.pieces]
    rows = _SHELL_PLACES.get(sheet.component, _KEY_PLACES)
    compiled = Sheet(sheet.skeleton)
    compiled.know([at for at, _, _ in rows])
    behind = Behind(PLAIN)
    out: list[tuple[Rgba, str]] = []
    whole = {c.opaque for c in literals}
    for (_, fill_role, text_role), value in zip(
        rows, compiled.paint(literals, [r[0] for r in rows]).values(), strict=True
    ):
        paint = painted(value)
        layers = [layer for layer in paint.layers if layer and layer[0].a > 0]
        if layers and fill_role:
            drawn = surfaces_under(layers, behind)
            if drawn and drawn[0] in whole:
                out.append((drawn[0], fill_role))
        if paint.text is not None and text_role and paint.text.opaque in whole:
            out.append((paint.text.opaque, text_role))
    return out


DRAWN_STYLE = "drawn-style-keys"  # the format of the keys of a style drawn from SVG


def with_families(theme: Theme) -> Theme:
    """Return a theme with its texts parted into families, and each picture given to one."""
    drawings = set(theme.drawings)
    texts = {p: t for p, t in theme.texts.items() if p not in drawings}
    keys = _all_key_colours(theme)
    light: dict[str, bool] = {}
    for entry, sheet in theme.sheets.items():
        told = _tone_told(keys[entry])
        if told is not None:
            for path in {entry, *(p.path for p in sheet.pieces)}:
                light.setdefault(path, told)
    pending: list[str] = []
    for path, text in texts.items():
        if path in light:
            continue
        groups = group_spans(text.spans, text.sure)
        if len({g.use for g in groups if g.use in ("surface", "text")}) == 2 or any(g.sure for g in groups):
            light[path] = is_light(groups, text.spans)
        else:
            pending.append(path)
    counts: Counter[bool] = Counter()
    for path, value in light.items():
        counts[value] += len(texts[path].spans)
    main = counts.most_common(1)[0][0] if counts else False
    for path in pending:
        light[path] = main
    tones = sorted({*light.values()}, key=lambda v: -counts[v]) or [False]
    families = [_family(theme, value, [p for p in texts if light[p] == value], keys) for value in tones]
    index = {path: i for i, f in enumerate(families) for path in f.paths}
    return replace(theme, families=tuple(families), family_of=index | _pictures_of(theme, families, index))


def _all_key_colours(theme: Theme) -> dict[str, list[tuple[Rgba, str]]]:
    """Return the key colours of every sheet; one that today's toolkit passes over has those of the one it takes."""
    out: dict[str, list[tuple[Rgba, str]]] = {}
    for entry in sorted(theme.sheets, key=newest):  # what is taken comes before what is passed over
        sheet = theme.sheets[entry]
        root, name = entry.partition("gtk-3.")[0], entry.rpartition("/")[2]
        taken = (e for e in out if e.startswith(f"{root}gtk-3.") and e.rpartition("/")[2] == name)
        newer = next(taken, "") if is_superseded(entry, theme.sheets) else ""
        if newer:
            own = {theme.texts[p.path].spans[p.index].colour.opaque for p in sheet.pieces}
            out[entry] = [row for row in out[newer] if row[0] in own]
        else:
            out[entry] = _key_colours(sheet, theme.texts)
    return out


def _tone_told(keys: Sequence[tuple[Rgba, str]]) -> bool | None:
    """Tell whether a sheet is light by what it paints windows (or panels and menus) and their text with."""
    first: dict[str, Rgba] = {}
    for colour, role in keys:
        first.setdefault(role, colour)
    for surface in ("window", "view", "menu", "panel"):
        if surface in first and f"{surface}_text" in first:
            return rgba_to_oklch(first[surface])[0] > rgba_to_oklch(first[f"{surface}_text"])[0]
    return rgba_to_oklch(first["window"])[0] > 0.5 if "window" in first else None


def _family(theme: Theme, light: bool, paths: Sequence[str], keys: Mapping[str, Sequence[tuple[Rgba, str]]]) -> Family:
    spans: list[ColourSpan] = []
    sure: list[str] = []
    starts: dict[str, int] = {}
    for path in paths:
        starts[path] = len(spans)
        text = theme.texts[path]
        spans += text.spans
        sure += text.sure or [""] * len(text.spans)
    name = "light" if light else "dark"
    own = [k.removeprefix(f"{name}/") for k in theme.splits if k.startswith(f"{name}/")]
    groups = [replace(g, key=f"{name}/{g.key}") for g in group_spans(spans, sure, own)]
    leading: dict[Rgba, str] = {}
    entries = sorted((p for p in paths if p in keys), key=newest)
    rows = [row for entry in entries for row in keys[entry]]
    drawn = [theme.texts[p] for p in paths if theme.texts[p].format.id == DRAWN_STYLE]  # its drawings go by its keys
    for text in drawn:
        rows += [(span.colour.opaque, role) for span, role in zip(text.spans, text.sure, strict=False) if role]
    votes = Counter(colour for colour, role in rows if role in ("accent", "selection") and is_vivid(colour))
    vivid = "selection" if drawn else "accent"  # words of a drawn style lie on it
    told = [(_ORDER.index("accent"), colour, vivid) for colour, _ in votes.most_common(1)]
    told += [(_ORDER.index(role), colour, role) for colour, role in rows if role in _ORDER and not is_vivid(colour)]
    for _, colour, role in sorted(told, key=lambda row: row[0]):
        leading.setdefault(colour, role)
    known = {g.anchor: leading[g.anchor] for g in groups if g.anchor in leading and not g.sure}
    groups = [
        replace(g, role=known[g.anchor], reason=tr("painted by the stylesheet"))
        if g.anchor in known and _suits(g, known[g.anchor])
        else g
        for g in groups
    ]
    return Family(light, tuple(paths), starts, tuple(spans), tuple(groups), tuple(leading.items()))


def _suits(group: Group, role: str) -> bool:
    text = role.endswith("_text")
    return (group.use == "text") == text if group.use in ("text", "surface") else group.use == "colour" and not text


def _pictures_of(theme: Theme, families: Sequence[Family], index: Mapping[str, int]) -> dict[str, int]:
    """Return the family of each picture: of the sheets that name it, else of the texts beside it or of its name.

    A desktop's or a decoration's drawings lie in a folder with the texts that say its tone.
    """
    named: dict[str, set[int]] = {}
    if len(families) > 1:
        for path, i in index.items():
            text = theme.texts[path]
            if text.format.syntax == "css":
                for url in _URL.findall(text.text):
                    named.setdefault(url.rpartition("/")[2], set()).add(i)
    beside: dict[str, set[int]] = {}
    if len(families) > 1:
        for path, i in index.items():
            owner = owner_of(path, theme.found)
            beside.setdefault(owner.root if owner is not None else "", set()).add(i)
    out: dict[str, int] = {}
    dark = next((i for i, f in enumerate(families) if not f.light), 0)
    for path in (*theme.pictures, *theme.drawings):
        name = path.rpartition("/")[2]
        owner = owner_of(path, theme.found) if len(families) > 1 else None
        ways = (named.get(name, set()), beside.get(owner.root, set()) if owner is not None and owner.root else set())
        said = next((way for way in ways if len(way) == 1), None)
        if said is not None:
            out[path] = next(iter(said))
        else:
            out[path] = dark if "dark" in name.lower() and len(families) > 1 else 0
    return out
