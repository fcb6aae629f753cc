"""Themes that a look wears: read, in its colours or in their own, ready to take the place of our own files."""

from __future__ import annotations

from collections.abc import Collection, Mapping
from dataclasses import dataclass, field
from pathlib import Path

from ..components.decisions import Owner
from ..components.files import Files, NoFiles, OutFile
from ..components.model import Paints
from ..errors import ParseError
from ..language import tr
from ..palette.recipe import Tone
from ..progress import Progress, Silent
from ..theme.bundle.kinds import recognise
from ..theme.bundle.model import Theme
from ..theme.bundle.opened import open_bundle
from ..theme.bundle.read import read_theme
from ..theme.result.account import Outcome
from ..theme.result.recolour import recolour_theme
from ..theme.result.uses import NAMED, USES, chosen_for, other_roots, settled, uses_of, worn_decoration, worn_files
from ..theme.sheets.shown import shown_now
from .decision_edits import with_decisions
from .model import Look
from .theme_edits import with_brought, with_use

_ICONS = ("/usr/share/icons", "/usr/local/share/icons", ".local/share/icons", ".icons")


@dataclass(frozen=True, eq=False)
class WornTheme:
    """A theme as a look wears it. paints: what its sheets draw, by component."""

    theme: Theme
    outcome: Outcome
    paints: Mapping[str, Paints] = field(default_factory=dict)


WornThemes = Mapping[str, WornTheme]  # by path
NO_THEMES: WornThemes = {}


def worn_by(look: Look) -> dict[str, str]:
    """Return the path of the theme that a look wears for each use."""
    return {use: path for path in look.brought for use in sorted(look.decided(Owner.theme(path)).worn)}


def worn_theme(look: Look, path: str, progress: Progress | None = None, theme: Theme | None = None) -> WornTheme:
    """Return a theme as a look wears it; theme: as it was read before.

    Raises FileAccessError, UnsafeArchiveError or ParseError when it cannot be read.
    """
    progress = progress or Silent()
    if theme is None:
        own = look.decided(Owner.theme(path))
        theme = read_theme(open_bundle(Path(path), progress), own.splits, progress, own.left)
    outcome = recolour_theme(theme, look.scheme(), look.choices(path), progress)
    return WornTheme(theme, outcome, shown_now(theme, outcome, look.tone == "dark"))


def worn_themes(look: Look, progress: Progress | None = None) -> dict[str, WornTheme]:
    """Return every theme that a look wears, read from disk. Raises what worn_theme raises."""
    return {path: worn_theme(look, path, progress) for path in dict.fromkeys(worn_by(look).values())}


def using_theme(look: Look, path: Path, here: Collection[str]) -> Look:
    """Return a look that wears a theme for all that it serves for and that is there, in the look's colours.

    here: the components that a home has. Raises what open_bundle raises, and ParseError when it serves for nothing.
    """
    bundle = open_bundle(path)
    uses = [use.id for use in uses_of(recognise(bundle, bundle.data)) if use.fits(here)]
    if not uses:
        raise ParseError(
            tr("“{name}” has nothing that this desktop uses.").format(name=path.name),
            hint=tr("“mellow-finch recolour” recolours it into a folder."),
        )
    name = str(path.absolute())
    fresh = with_use(with_brought(look, name), name, uses, here)
    return with_decisions(fresh, Owner.theme(name), left=other_roots(bundle, look.tone))


@dataclass(frozen=True, eq=False)
class Wardrobe:
    """What the themes that a look wears give on a home, under the look's folder."""

    uses: Mapping[str, str]
    themes: WornThemes
    tone: Tone
    folder: str
    home: Files
    _made: dict[str, tuple[OutFile, ...]] = field(default_factory=dict)

    @classmethod
    def of(cls, look: Look, themes: WornThemes, folder: str, home: Files) -> Wardrobe:
        """Return what of a look's themes is known."""
        uses = {use: path for use, path in worn_by(look).items() if path in themes} if themes else {}
        return cls(uses, themes, look.tone, folder, home)

    def files(self, use: str) -> tuple[OutFile, ...]:
        """Return the files that a theme gives for a use, none where none is worn for it."""
        worn = self.themes.get(self.uses.get(use, ""))
        if worn is not None and use not in self._made:
            made = worn_files(worn.theme, worn.outcome, use, self.tone, self.folder, self._is_here)
            self._made[use] = made
        return self._made.get(use, ())

    def _is_here(self, name: str) -> bool:
        return any(self.home.find(f"{folder}/{name}/index.theme") for folder in _ICONS)

    def dressed(self, id_: str, written: tuple[OutFile, ...]) -> tuple[OutFile, ...]:
        """Return the files of a component with a theme's in the place of its own theme."""
        given = self.files(id_) if id_ in self.uses else ()
        if not given:
            return written
        rows = [use for use in USES if use.id == id_]
        own = [f for f in written if not any(use.gives_way(f.path, self.folder) for use in rows)]
        taken = {f.path for f in given}
        return (*settled(id_, [f for f in own if f.path not in taken], given), *given)

    def paints(self, id_: str) -> Paints | None:
        """Return what a theme's sheets draw for a component, None where its files say it."""
        worn = self.themes.get(self.uses.get(id_, ""))
        if worn is not None and id_ == "aurorae":
            return worn_decoration(self.files(id_)) or None
        if worn is None or chosen_for(worn.theme, id_, self.tone) is None:
            return None
        return worn.paints.get(id_)

    def told(self, id_: str, paints: Paints) -> Paints:
        """Return what a component's files say without what cannot be told of a theme that it wears.

        What is only drawn there is not known by name: a text on it is not judged, rather than judged on the wallpaper.
        A translucent fill lies on the windows, or on the lists in them.
        """
        if id_ not in self.uses:
            return paints
        known = {key: paint for key, paint in paints.items() if paint.text is None or any(paint.layers)}
        window, view = (known[key].fill if key in known else None for key in ("window", "view"))
        out = dict(known)
        for key, paint in known.items():
            ground = view if key.startswith(("selection", "view")) else window
            if paint.fill is not None and paint.fill.a < 1 and not paint.below and ground is not None:
                out[key] = paint._replace(below=((ground,),))
        return out

    @property
    def named(self) -> dict[str, str]:
        """Return the icon and cursor themes that are chosen by name, by companion."""
        return {use: self.folder for use in sorted(NAMED & set(self.uses)) if self.files(use)}

    def beside(self) -> tuple[OutFile, ...]:
        """Return the files of icon and cursor themes, which belong to no component."""
        return tuple(f for use in sorted(NAMED & set(self.uses)) for f in self.files(use))


NOTHING_WORN = Wardrobe({}, NO_THEMES, "dark", "", NoFiles())
