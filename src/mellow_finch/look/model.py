"""The Look: everything one result is made of, as one immutable value. Its edits are in `edits`."""

from __future__ import annotations

import hashlib
import re
import unicodedata
from collections.abc import Mapping
from dataclasses import dataclass, field
from functools import cached_property
from types import MappingProxyType
from typing import Any, Literal, NamedTuple

from ..colour.rgb import Rgba
from ..components.decisions import Decisions, Owner, decided
from ..components.model import Scheme
from ..language import tr
from ..palette.derive import derive
from ..palette.pairs import JudgedPair, RolePair, failing, pairs_for
from ..palette.recipe import TONES, Recipe, Tone
from ..palette.temper import Temper
from ..picture.backdrop import PLAIN, Backdrop
from ..picture.placement import Placement, Showing
from ..theme.result.account import Choices

Palette = Mapping[str, Rgba]


_MOST_LETTERS = 40  # of a folder's name; paths below it stay far under what file systems take


def folder_of(name: str) -> str:
    """Return a name as it may stand in a path: at most 47 letters, digits and dashes.

    A name that is more than such letters and single spaces gets a digest of itself, so that no two names share one.
    """
    plain = "".join(c for c in unicodedata.normalize("NFKD", name) if not unicodedata.combining(c))
    short = re.sub(r"[^A-Za-z0-9]+", "-", plain).strip("-")[:_MOST_LETTERS].rstrip("-")
    if short and name == short.replace("-", " "):
        return short
    sum_ = hashlib.sha256(name.encode("utf-8", "surrogatepass")).hexdigest()[:6]
    return f"{short or 'Look'}-{sum_}"


@dataclass(frozen=True, slots=True)
class Member:
    """One picture of a set: its path as it was given, and its weight, 0 when it is left out."""

    path: str
    weight: float = 1.0


OriginKind = Literal["scheme", "palette", "theme"]


class Origin(NamedTuple):
    """What the colours come from when that is not a picture. name: as people read it, empty where it has none."""

    kind: OriginKind
    name: str

    @property
    def title(self) -> str:
        """Return it in words."""
        if self.kind == "scheme":
            return tr("Scheme {name}").format(name=self.name)
        if self.kind == "theme":
            return tr("Theme {name}").format(name=self.name)
        return tr("Palette {name}").format(name=self.name) if self.name else tr("Palette")


@dataclass(frozen=True)
class Look:
    """One result. How each attribute is written and read is a row of file.ATTRIBUTES.

    source: the path of the picture behind the desktop, empty when there is none; pictures: the members when there
    are several; showing: what the desktop shows of them; origin: what the colours come from when that is not the
    picture; backdrop: the picture's extremes on the screen; palettes: every role of both tones; locks: roles that
    never move; left_out: components not dressed; added: components dressed though the home has them not;
    mend_as_you_go: whether other roles and rewritten files follow so that everything stays readable;
    temper: the whole-look controls; linked: whether a change of colour
    in one half follows in the other; opacity: what is asked by kind of surface, 0..1; drawn: by tone, the opacity that
    can be read; blur: whether the desktop blurs what is behind; brought: paths of themes, files and archives that are
    recoloured too; words: what is written instead of words of another computer; companions: what goes with the colours,
    by the ids of look.companions; decisions: what a person decided of single components and of such themes; variants:
    states that were kept; unknown: keys of a newer file, kept.
    """

    name: str
    tone: Tone
    recipe: Recipe
    palettes: Mapping[Tone, Palette] = field(repr=False)
    source: str = ""
    backdrop: Backdrop = field(default=PLAIN, repr=False)
    pins: tuple[Rgba, ...] = ()
    locks: frozenset[str] = frozenset()
    left_out: frozenset[str] = frozenset()
    added: frozenset[str] = frozenset()
    mend_as_you_go: bool = True
    temper: Temper = field(default_factory=Temper)
    linked: bool = True
    opacity: Mapping[str, float] = field(default_factory=dict)
    drawn: Mapping[Tone, Mapping[str, float]] = field(default_factory=dict)
    blur: bool = False
    pictures: tuple[Member, ...] = ()
    placement: Placement = field(default_factory=Placement)
    showing: Showing = field(default_factory=Showing)
    origin: Origin | None = None
    brought: tuple[str, ...] = ()
    words: Mapping[str, str] = field(default_factory=dict)
    companions: Mapping[str, str] = field(default_factory=dict)
    decisions: Mapping[Owner, Decisions] = field(default_factory=dict)
    variants: tuple[Look, ...] = field(default=(), repr=False)
    unknown: Mapping[str, Any] = field(default_factory=dict)

    @property
    def shown_pictures(self) -> tuple[str, ...]:
        """Return the paths of the pictures that the desktop may show, the one behind everything first."""
        if self.showing.kind == "one" or not self.pictures:
            return (self.source,) if self.source else ()
        return tuple(dict.fromkeys([self.source, *(m.path for m in self.pictures if m.weight > 0)]))

    @property
    def colours(self) -> Palette:
        """Return the palette of the tone in force."""
        return self.palettes[self.tone]

    @property
    def pairs(self) -> tuple[RolePair, ...]:
        """Return the pairs with the needs that this look asks for."""
        return pairs_for(self.temper.text_need)

    @property
    def folder(self) -> str:
        """Return the name as it may stand in a path: letters, digits, dashes; no two names have the same."""
        return folder_of(self.name)

    def drawn_opacity(self, tone: Tone | None = None) -> dict[str, float]:
        """Return the opacity by kind as it is written: of every kind that was asked for, 1 where nothing less reads."""
        drawn = self.drawn.get(tone or self.tone, {})
        return {kind: drawn.get(kind, 1.0) for kind in self.opacity}

    def scheme(self) -> Scheme:
        """Return what components need to know."""
        return Scheme(
            self.name,
            self.folder,
            self.tone,
            self.colours,
            self.backdrop,
            self.mend_as_you_go,
            self.temper.text_need,
            self.drawn_opacity(),
            self.blur,
            self.companions,
            {owner: own for owner, own in self.decisions.items() if owner.kind == "component"},
        )

    def decided(self, owner: Owner) -> Decisions:
        """Return what a person decided of a component or of a theme that was imported."""
        return decided(self.decisions, owner)

    @property
    def font_families(self) -> tuple[str, ...]:
        """Return the families of the fonts that are asked for, of all components and of single ones, each once."""
        rows = [self.companions, *(own.companions for own in self.decisions.values())]
        fonts = (font for own in rows for id_, font in sorted(own.items()) if id_.endswith("font"))
        return tuple(dict.fromkeys(family for font in fonts if (family := font.rpartition(" ")[0])))

    def choices(self, path: str) -> Choices:
        """Return what a person decided of a theme that was imported."""
        return Choices(self.decided(Owner.theme(path)), self.words)

    def failing(self, tone: Tone | None = None) -> tuple[JudgedPair, ...]:
        """Return the pairs of roles that fail in a tone, the one in force when none is named, worst first."""
        tone = tone or self.tone
        if tone not in self._failing:
            self._failing[tone] = failing(self.palettes[tone], self.pairs)
        return self._failing[tone]

    @cached_property
    def _failing(self) -> dict[Tone, tuple[JudgedPair, ...]]:
        return {}


def derived_look(
    name: str,
    recipe: Recipe,
    tone: Tone,
    source: str = "",
    backdrop: Backdrop = PLAIN,
    pins: tuple[Rgba, ...] = (),
    temper: Temper | None = None,
) -> Look:
    """Return a look derived afresh, both tones, every pair passing."""
    temper = temper or Temper()
    palettes = {t: MappingProxyType(derive(recipe, t, temper=temper)) for t in TONES}
    return Look(name, tone, recipe, MappingProxyType(palettes), source, backdrop, pins, temper=temper)
