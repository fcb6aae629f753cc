"""A theme read once: what it holds, its texts with every literal, its sheets joined, its colours grouped."""

from __future__ import annotations

import posixpath
import re
from collections import Counter
from collections.abc import Collection, Mapping, Sequence
from dataclasses import dataclass, field, replace
from pathlib import Path

from ..colour.gamut import rgba_to_oklch
from ..colour.rgb import Rgba
from ..components.gtk import GTK4_PARTS, painted
from ..components.judge import Behind, surfaces_under
from ..components.model import Part
from ..components.shell import PARTS as SHELL_PARTS
from ..errors import ParseError
from ..picture.backdrop import PLAIN
from ..progress import Progress, Silent
from ..recolour.colour_map import is_vivid
from ..recolour.groups import Group, group_spans, is_light
from ..recolour.images import KINDS as PICTURES
from ..recolour.pointers import MAGIC
from ..syntax.cascade import Sheet
from ..syntax.catalogue import Format, format_of
from ..syntax.spans import ColourSpan
from .bundle import Bundle, gunzipped, open_bundle, text_of_bytes
from .gresource import read_resources
from .kinds import Found, owner_of, recognise
from .sheet import Joined, joined
from .toolkit import toolkit_parts

INSIDE = "!"  # between a resource bundle's path and that of a file in it
_MOST_TEXT = 16_000_000
_MOST_JUDGED = 1_500_000  # characters of a sheet with its imports that are judged and mended
_ENTRY = re.compile(r"(?:^|/)(gtk-[34]\.\d+/gtk(?:-dark)?|gnome-shell/gnome-shell|cinnamon/cinnamon)\.css$")
_URL = re.compile(r"url\(\s*[\"']?([^\"')]+)[\"']?\s*\)")


@dataclass(frozen=True, slots=True)
class Text:
    """A text of a known format: its literals and the role that the format gives each, empty where it gives none."""

    path: str
    format: Format
    text: str
    spans: tuple[ColourSpan, ...]
    sure: tuple[str, ...]
    packed: bool = False  # whether it lies gzipped on disk


@dataclass(frozen=True, slots=True)
class Family:
    """Texts of one lightness, whose colours are carried by one map.

    starts: the number of each text's first literal among spans; leading: (colour, role) that are known from what the
    sheets paint.
    """

    light: bool
    paths: tuple[str, ...]
    starts: Mapping[str, int]
    spans: tuple[ColourSpan, ...]
    groups: tuple[Group, ...]
    leading: tuple[tuple[Rgba, str], ...] = ()

    @property
    def id(self) -> str:
        """Return what the keys of its groups begin with."""
        return "light" if self.light else "dark"


@dataclass(frozen=True, eq=False)
class Theme:
    """A theme that has been read.

    texts: by path, drawings among them; families: the one with the most literals first; pictures and pointers: paths;
    drawings: paths of SVG texts that are pictures; sheets: what is judged, by entry; left: files that are no colours'.
    """

    bundle: Bundle
    found: tuple[Found, ...]
    texts: Mapping[str, Text]
    families: tuple[Family, ...]
    pictures: tuple[str, ...]
    pointers: tuple[str, ...]
    drawings: tuple[str, ...]
    sheets: Mapping[str, Joined]
    resources: Mapping[str, Mapping[str, bytes]]
    family_of: Mapping[str, int]
    splits: frozenset[str] = frozenset()
    problems: tuple[str, ...] = field(default=())

    @property
    def lead(self) -> Found | None:
        """Return the thing in it that gives the whole its name: a theme before icons, those before anything else."""
        return min(
            self.found, key=lambda f: (f.kind.single, "themes/" not in f.kind.place, not f.kind.derived), default=None
        )

    def data(self, path: str) -> bytes:
        """Return a file's bytes, of one inside a resource bundle too."""
        outer, _, inner = path.partition(INSIDE)
        return self.resources[outer][inner] if inner else self.bundle.data(path)


def parts_for(entry: str) -> tuple[Part, ...]:
    """Return the places by which a sheet is judged."""
    if "gtk-4" in entry:
        return GTK4_PARTS
    return toolkit_parts() if "gtk-3" in entry else SHELL_PARTS


def open_theme(path: Path, progress: Progress | None = None) -> Theme:
    """Read a theme from a folder, an archive or a file.

    Raises FileAccessError or UnsafeArchiveError, and ParseError when nothing in it has colours that can be changed.
    """
    return read_theme(open_bundle(path), progress=progress)


def read_theme(bundle: Bundle, splits: Collection[str] = (), progress: Progress | None = None) -> Theme:
    """Read a theme; see open_theme. splits: keys of groups that are taken apart."""
    progress = progress or Silent()
    heads: dict[str, bytes] = {}

    def peek(path: str) -> bytes:
        if path not in heads:
            heads[path] = bundle.data(path)
        return heads[path]

    found = recognise(bundle, peek)
    texts: dict[str, Text] = {}
    pictures: list[str] = []
    pointers: list[str] = []
    resources: dict[str, dict[str, bytes]] = {}
    problems: list[str] = []
    names = [p for p, e in bundle.entries.items() if not e.link]
    for done, path in enumerate(names):
        if done % 50 == 0:
            progress.report(done, len(names), "Reading the theme")
        low = path.lower()
        owner = owner_of(path, found)
        if owner is not None and owner.kind.code and low.endswith(".js"):
            continue
        if low.endswith(PICTURES):
            pictures.append(path)
        elif low.endswith(".gresource"):
            resources[path] = read_resources(peek(path))
            for inner, data in resources[path].items():
                if inner.lower().endswith(PICTURES):
                    pictures.append(f"{path}{INSIDE}{inner}")
                else:
                    _take_text(texts, f"{path}{INSIDE}{inner}", data, problems)
        elif _worth_reading(low):
            data = peek(path)
            if data[:4] == MAGIC:
                pointers.append(path)
            else:
                _take_text(texts, path, data, problems)
        heads.pop(path, None)
    if not (texts or pointers or (pictures and found)):
        raise ParseError(
            f"Nothing in “{bundle.name}” can be recoloured.",
            hint="Style sheets, theme and terminal files, widgets, drawings, pictures and pointers can.",
        )
    drawings = tuple(p for p, t in texts.items() if t.format.id == "svg")
    sheets = _joined_sheets(texts, resources)
    for path in [p for p, sheet in sheets.items() if len(sheet.skeleton) > _MOST_JUDGED]:
        del sheets[path]
        problems.append(
            f"“{path}” is too large to be judged: its colours change, and what cannot be read is not mended."
        )
    theme = Theme(
        bundle, found, texts, (), tuple(pictures), tuple(pointers), drawings, sheets, resources, {}, frozenset(splits),
        tuple(problems),
    )  # fmt: skip
    return _with_families(theme)


# Endings of files that hold no colours of ours: programs, texts for people, fonts, photographs, sounds.
_DULL = (
    *(".js", ".py", ".md", ".txt", ".html", ".so", ".cache", ".mo", ".po", ".pdf", ".qml"),
    *(".ttf", ".otf", ".woff", ".woff2", ".ttc", ".jpg", ".jpeg", ".mp3", ".ogg", ".wav"),
)


def _worth_reading(low: str) -> bool:
    return not low.endswith(_DULL)


def _take_text(texts: dict[str, Text], path: str, data: bytes, problems: list[str]) -> None:
    packed = path.lower().endswith(".svgz") and data[:2] == b"\x1f\x8b"
    if packed:
        data = gunzipped(data)
    text = text_of_bytes(data)
    if text is None:
        return
    name = path.rpartition(INSIDE)[2]
    form = format_of(name[:-1] if packed else name, text[:4096])
    if form is None:
        return
    if len(data) > _MOST_TEXT:
        problems.append(f"“{name}” is larger than 16 MB and stays as it is.")
        return
    spans = tuple(form.scan(text))
    if spans or form.syntax == "css":
        texts[path] = Text(path, form, text, spans, tuple(form.role_of(s) for s in spans) if form.roles else (), packed)


def _joined_sheets(texts: Mapping[str, Text], resources: Mapping[str, Mapping[str, bytes]]) -> dict[str, Joined]:
    addresses = {
        f"resource://{inner}": f"{outer}{INSIDE}{inner}" for outer, files in resources.items() for inner in files
    }

    # The first bundle beside the sheet is meant where several hold the same address.
    def alias_for(entry: str) -> dict[str, str]:
        folder = posixpath.dirname(entry)
        own = {
            f"resource://{inner}": f"{outer}{INSIDE}{inner}"
            for outer, files in resources.items()
            if posixpath.dirname(outer) == folder
            for inner in files
        }
        return addresses | own

    plain = {p: t.text for p, t in texts.items() if t.format.syntax == "css"}
    spans = {p: texts[p].spans for p in plain}
    out: dict[str, Joined] = {}
    for path in plain:
        single = len(texts) == 1 and INSIDE not in path
        if _ENTRY.search(path) or single:
            table = alias_for(path)
            out[path] = joined(path, plain, spans, lambda name, table=table: table.get(name, name))  # type: ignore[misc]
    return out


# Which colours a sheet paints where, for the map to begin from


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
_SHELL_PLACES: tuple[tuple[str, str, str], ...] = tuple(
    (p.at, p.fill_role, p.text_role)
    for p in SHELL_PARTS
    if not p.state and p.id in ("panel", "menu", "menu item", "dialog", "notification", "search field")
)


# Where roles ask for different things of one colour, the earlier is heard.
_ORDER = (
    *("window", "window_text", "view", "view_text", "accent", "menu", "menu_text", "header", "header_text", "panel"),
    *("panel_text", "control", "control_text", "notice", "notice_text"),
)


def newest(entry: str) -> tuple[bool, int, str]:
    """Return by what sheets are ordered so that those which today's toolkit takes come first."""
    found = re.search(r"gtk-3\.(\d+)/", entry)
    return found is None, -int(found.group(1)) if found else 0, entry


def _key_colours(entry: str, sheet: Joined, texts: Mapping[str, Text]) -> list[tuple[Rgba, str]]:
    """Return (colour, role) of what a sheet paints in the places that matter most, the first of a role leading."""
    literals = [texts[p.path].spans[p.index].colour for p in sheet.pieces]
    rows = _SHELL_PLACES if parts_for(entry) is SHELL_PARTS else _KEY_PLACES
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


# Families


def _with_families(theme: Theme) -> Theme:
    drawings = set(theme.drawings)
    texts = {p: t for p, t in theme.texts.items() if p not in drawings}
    keys = {entry: _key_colours(entry, sheet, theme.texts) for entry, sheet in theme.sheets.items()}
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
    votes = Counter(colour for colour, role in rows if role in ("accent", "selection") and is_vivid(colour))
    told = [(_ORDER.index("accent"), colour, "accent") for colour, _ in votes.most_common(1)]
    told += [(_ORDER.index(role), colour, role) for colour, role in rows if role in _ORDER and not is_vivid(colour)]
    for _, colour, role in sorted(told, key=lambda row: row[0]):
        leading.setdefault(colour, role)
    known = {g.anchor: leading[g.anchor] for g in groups if g.anchor in leading and not g.sure}
    groups = [
        replace(g, role=known[g.anchor], reason="it is what the sheet paints there")
        if g.anchor in known and _suits(g, known[g.anchor])
        else g
        for g in groups
    ]
    return Family(light, tuple(paths), starts, tuple(spans), tuple(groups), tuple(leading.items()))


def _suits(group: Group, role: str) -> bool:
    text = role.endswith("_text")
    return (group.use == "text") == text if group.use in ("text", "surface") else group.use == "colour" and not text


def _pictures_of(theme: Theme, families: Sequence[Family], index: Mapping[str, int]) -> dict[str, int]:
    """Return the family of each picture: of the sheets that name it, else of its name, else the first."""
    named: dict[str, set[int]] = {}
    if len(families) > 1:
        for path, i in index.items():
            text = theme.texts[path]
            if text.format.syntax == "css":
                for url in _URL.findall(text.text):
                    named.setdefault(url.rpartition("/")[2], set()).add(i)
    out: dict[str, int] = {}
    dark = next((i for i, f in enumerate(families) if not f.light), 0)
    for path in (*theme.pictures, *theme.drawings):
        name = path.rpartition("/")[2]
        said = named.get(name, set())
        if len(said) == 1:
            out[path] = next(iter(said))
        else:
            out[path] = dark if "dark" in name and len(families) > 1 else 0
    return out
