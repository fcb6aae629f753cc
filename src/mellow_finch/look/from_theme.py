"""A theme that exists already as a start: its colours and the roles they play, read as the proof reads files."""

from __future__ import annotations

from collections import Counter
from collections.abc import Collection, Mapping
from dataclasses import replace
from fnmatch import fnmatchcase
from pathlib import Path, PurePosixPath
from typing import NamedTuple

from ..colour.blend import over
from ..colour.gamut import rgba_to_oklch
from ..colour.rgb import Rgba
from ..components.catalogue import COMPONENTS
from ..components.files import Files, text_of
from ..components.model import Paint, Paints, Part
from ..components.write.terminal import RESOURCE_NAMES
from ..disk.facts import first_bytes, must_read
from ..errors import ParseError, file_errors
from ..intake.archives import archive_kind
from ..language import tr
from ..palette.recipe import Tone
from ..palette.roles import ROLE_IDS
from ..recolour.names import LIBRARY_NAMES, PUBLIC_NAMES
from ..syntax.cascade import named_colours
from ..theme.bundle.families import newest
from ..theme.bundle.model import Theme
from ..theme.bundle.read import open_theme
from ..theme.result.account import Outcome
from ..theme.sheets.shown import shown_paints
from .from_colours import look_of_roles, on_the_same_desk, recipe_of, swatches_of_colours, tone_of
from .interchange.catalogue import is_palette_name, read_palette
from .model import Look, Origin

_MOST_BYTES = 16_000_000
_NAME = "theme"
# Where the parts of a theme's folder lie in a home, so that the components' own readers find them.
_SHEETS: tuple[tuple[str, str], ...] = (
    ("gtk-4.0/gtk.css", "gtk-4.0/gtk.css"),
    ("gtk-3.0/gtk.css", "gtk-3.0/gtk.css"),
    ("gtk-3.20/gtk.css", "gtk-3.0/gtk.css"),
    ("gnome-shell/gnome-shell.css", "gnome-shell/gnome-shell.css"),
    ("cinnamon/cinnamon.css", "cinnamon/cinnamon.css"),
)
_SETTINGS = "[Settings]\ngtk-theme-name=theme\n"


class _ThemeFiles:
    """A theme's files as if they lay in a home that wears it."""

    def __init__(self, files: Mapping[str, bytes]) -> None:
        self._files = dict(files)

    def __call__(self, path: str) -> bytes | None:
        return self._files.get(path)

    def find(self, pattern: str) -> list[str]:
        return sorted(p for p in self._files if PurePosixPath(p).match(pattern) and fnmatchcase(p, pattern))

    def place(self, folder: str) -> str:
        return f"~/{folder}"

    def fresh(self, _path: str) -> bool:
        return False


def holds_theme(folder: Path) -> bool:
    """Tell whether a folder has the parts of a theme, or a colour scheme, in it."""
    return any((folder / inner).is_file() for inner, _ in _SHEETS) or any(folder.glob("*.colors"))


def theme_files(path: Path) -> Files:
    """Return the parts of a theme's folder, or one style sheet, laid out as a home that wears it.

    Raises FileAccessError for what cannot be read, ParseError for what is no theme.
    """
    found: dict[str, bytes] = {}

    def take(source: Path, place: str) -> None:
        found[place] = must_read(source, _MOST_BYTES)

    with file_errors(path, "open"):
        folder = path.is_dir()
        path.stat()
    if folder:
        for inner, place in _SHEETS:
            if (path / inner).is_file() and f".local/share/themes/{_NAME}/{place}" not in found:
                take(path / inner, f".local/share/themes/{_NAME}/{place}")
        for scheme in sorted(path.glob("*.colors"))[:1]:
            take(scheme, ".config/kdeglobals")
    elif path.suffix == ".css":
        data = must_read(path, _MOST_BYTES)
        shell = b"#panel" in data or b".popup-menu" in data or b"StEntry" in data
        take(path, f".local/share/themes/{_NAME}/" + ("gnome-shell/gnome-shell.css" if shell else "gtk-3.0/gtk.css"))
    if not found:
        raise ParseError(
            tr("“{name}” contains no readable theme.").format(name=path.name),
            hint=tr("A theme's folder contains a gtk-3.0, gtk-4.0, gnome-shell or cinnamon folder."),
        )
    for version in ("3.0", "4.0"):
        found[f".config/gtk-{version}/settings.ini"] = _SETTINGS.encode()
    return _ThemeFiles(found)


class TakenColour(NamedTuple):
    """A colour that a theme has for a role, and what says so: a component's part, or a colour that its sheet names.

    component: its id; part: the part's key; name: of the colour, where no part says it.
    """

    colour: Rgba
    component: str = ""
    part: str = ""
    name: str = ""


Taken = Mapping[str, tuple[TakenColour, ...]]  # by role; the first is what was taken, the others what else was found


_SURFACES = frozenset({"window", "view", "header", "sidebar", "card", "menu", "panel", "tooltip", "notice"})
_FILM = 0.6  # opacity below which a fill lets more through than it shows
# What says most of a home's colours counts for most; every other component fills gaps.
_WEIGHTS = {"gtk-4": 12, "gtk-3": 10, "kde": 8, "terminal": 6, "shell": 4, "widget": 2}


def taken_in(files: Files) -> dict[str, tuple[TakenColour, ...]]:
    """Return the roles that the files of a home or theme say, each with the colour it mostly has first.

    What parts draw at rest counts for most; the toolkit's named colours fill gaps.
    """
    out = _most_said({c.id: c.read(files) for c in COMPONENTS})
    for pattern in (".local/share/themes/*/gtk-4.0/gtk.css", ".local/share/themes/*/gtk-3.0/gtk.css"):
        for path in files.find(pattern)[:1]:
            out = _named(text_of(files, path)) | out
    return out


def firsts(taken: Taken) -> dict[str, Rgba]:
    """Return the colour that was taken for each role."""
    return {role: rows[0].colour for role, rows in taken.items()}


def roles_of_theme(theme: Theme, dark: bool, outcome: Outcome | None = None) -> dict[str, Rgba]:
    """Return the roles that the sheets of a theme say, each with the colour it mostly has; see taken_of_theme."""
    return firsts(taken_of_theme(theme, dark, outcome))


def taken_of_theme(theme: Theme, dark: bool, outcome: Outcome | None = None) -> dict[str, tuple[TakenColour, ...]]:
    """Return the roles that the sheets of a theme say, imports and resource bundles followed.

    dark: whether its sheets for dark desktops are meant where it has both; outcome: what it was made, None as it came.
    """
    fills = outcome.fills if outcome is not None else None
    out = _most_said(shown_paints(theme, outcome.fresh if outcome is not None else None, dark, fills))
    for path in sorted(theme.sheets, key=newest):
        if theme.sheets[path].component.startswith("gtk") and ("-dark" in path.rpartition("/")[2]) == dark:
            out = _named(theme.texts[path].text) | out
    return out


def _most_said(paints_of: Mapping[str, Paints]) -> dict[str, tuple[TakenColour, ...]]:
    """Return the colours that parts have for a role, what most have first; the plainest part of each counts for most.

    Only of the accent there is no plainest: themes give the main button a colour of its own, and everything else that
    is on or chosen theirs.
    """
    votes: dict[str, Counter[Rgba]] = {}
    said_by: dict[tuple[str, Rgba], tuple[int, str, str]] = {}  # what counts for most of those that say it
    for component in COMPONENTS:
        weight = _WEIGHTS.get(component.id, 1)
        paints = paints_of.get(component.id, {})
        seen = {"accent", "accent_text"}
        for part in component.parts:
            said = _said(part, paints[part.key]) if part.key in paints else {}
            for role, colour in said.items():
                share = weight * (6 if role not in seen else 2 if not part.state else 1)
                votes.setdefault(role, Counter())[colour] += share
                known = said_by.get((role, colour))
                if known is None or share > known[0]:
                    said_by[role, colour] = (share, component.id, part.key)
            seen |= {part.text_role, part.fill_role, *said}

    def ranked(role: str) -> tuple[TakenColour, ...]:
        rows = votes[role]
        order = sorted(rows, key=lambda c: (rows[c], c), reverse=True)
        return tuple(TakenColour(colour, *said_by[role, colour][1:]) for colour in order)

    return {role: ranked(role) for role in votes if role in ROLE_IDS}


def _said(part: Part, paint: Paint) -> dict[str, Rgba]:
    """Return the colours that a part has for roles, as they are drawn."""
    below = next((layer[0] for layer in reversed(paint.below) if layer and layer[0].a >= 1), None)

    def drawn(colour: Rgba | None, under: Rgba | None) -> Rgba | None:
        if colour is None or colour.a >= 1 or (under is None and colour.a > 0.4):
            return colour.opaque if colour is not None else None
        return over(colour, under) if under is not None and colour.a > 0 else None

    # A film over what lies below is no surface of its own.
    is_film = paint.fill is not None and below is not None and 0 < paint.fill.a < _FILM
    fill = None if is_film and part.fill_role in _SURFACES else drawn(paint.fill, below)
    text = drawn(paint.text, fill or below)
    edge = paint.edge if paint.edge is not None and part.edge_need and paint.edge.a > 0.5 and not part.state else None
    rows = {
        part.fill_role: fill,
        part.text_role if part.need else "": text,
        "outline": edge.opaque if edge is not None else None,
    }
    return {role: colour for role, colour in rows.items() if role and colour is not None}


def _named(sheet: str) -> dict[str, tuple[TakenColour, ...]]:
    out: dict[str, tuple[TakenColour, ...]] = {}
    names = {**PUBLIC_NAMES, **LIBRARY_NAMES}
    for name, colour in named_colours(sheet).items():
        role = names.get(name, "").removesuffix("_drawn")
        if role in ROLE_IDS and colour.a >= 1:
            out.setdefault(role, (TakenColour(colour, name=name),))
    return out


def look_of_files(name: str, files: Files, tone: Tone = "dark", base: Look | None = None) -> Look:
    """Return a look that is what some files say: the roles read from them exactly, the rest derived around them.

    Pairs that fail in the files fail in the look, for the proof to show. Raises ParseError when the files
    say too little.
    """
    return _look_of(name, firsts(taken_in(files)), tone, base)


def look_of_brought(look: Look, theme: Theme, outcome: Outcome) -> Look:
    """Return a look whose colours are those of a theme that keeps its own, all else as it was; what is locked too.

    Colours move as far as their pairs need where the look is kept readable. Raises ParseError when the theme says too
    little.
    """
    roles = roles_of_theme(theme, look.tone == "dark", outcome)
    roles |= {role: look.colours[role] for role in look.locks}
    fresh = _look_of(theme.bundle.name, roles, look.tone, None, not look.mend_as_you_go, look.locks)
    return with_colours_of(look, fresh)


def with_colours_of(look: Look, other: Look) -> Look:
    """Return a look with the colours of another one, and what these come from."""
    return replace(look, tone=other.tone, recipe=other.recipe, palettes=other.palettes, origin=other.origin)


def _look_of(
    name: str, roles: Mapping[str, Rgba], tone: Tone, base: Look | None, exact: bool = True, held: Collection[str] = ()
) -> Look:
    if len(roles) < 3:
        raise ParseError(
            tr("“{name}” defines too few colours to start from.").format(name=name),
            hint=tr("Start from an image instead."),
        )
    own = tone_of(roles, tone)
    coloured = [c for r, c in roles.items() if rgba_to_oklch(c)[1] > 0.05 and not r.startswith(("error", "warning"))]
    recipe = recipe_of(swatches_of_colours(coloured or list(roles.values())), roles)
    look = look_of_roles(name, roles, recipe, own, exact=exact, held=held)
    return on_the_same_desk(replace(look, origin=Origin("theme", name)), base)


def _is_archive(path: Path) -> bool:
    return not is_palette_name(path) and bool(archive_kind(first_bytes(path, 512)))


def look_of_theme(path: Path, tone: Tone = "dark", base: Look | None = None) -> Look:
    """Return a look that starts from a theme's folder or archive, its style sheet, a colour scheme or a resource file.

    Raises FileAccessError or ParseError, in words.
    """
    return start_of_theme(path, tone, base)[0]


def start_of_theme(path: Path, tone: Tone = "dark", base: Look | None = None) -> tuple[Look, Taken]:
    """Return a look that starts from a theme, and what it took for each role; nothing of that for a palette's file.

    Raises FileAccessError or ParseError, in words.
    """
    path = Path(path)
    if any(path.glob("gtk-3.*/gtk.css")) if path.is_dir() else _is_archive(path):
        theme = open_theme(path)
        if theme.sheets:
            taken = taken_of_theme(theme, tone == "dark")
            return _look_of(theme.bundle.name, firsts(taken), tone, base), taken
    if path.is_file() and path.suffix != ".css":
        found = read_palette(path)
        roles = found.roles
        if len(roles) < 3:
            raise ParseError(tr("“{name}” defines too few colours to start from.").format(name=path.name))
        recipe = recipe_of(swatches_of_colours(found.colours), roles)
        look = look_of_roles(found.name, roles, recipe, tone_of(roles, tone), exact=True)
        return on_the_same_desk(replace(look, origin=Origin("theme", found.name)), base), {}
    name = path.stem if path.is_file() and path.stem not in ("gtk", "gnome-shell", "cinnamon") else path.name
    shown = name if path.is_dir() or name != path.name else path.parent.parent.name
    taken = taken_in(theme_files(path))
    return _look_of(shown, firsts(taken), tone, base), taken


assert {role for _, role in RESOURCE_NAMES} <= set(ROLE_IDS)
