"""From picture files to a look: one picture, or several that are shown in turn."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from pathlib import Path

from ..colour.rgb import Rgba
from ..language import plural, tr
from ..palette.readings import PaletteReading, readings_of
from ..palette.recipe import Recipe, Tone
from ..palette.temper import Temper
from ..picture.backdrop import backdrop_of, joined
from ..picture.fit import QUIET, fit, in_common
from ..picture.gather import common_swatches
from ..picture.load import LoadedPicture, load_picture
from ..picture.placement import Placement
from ..picture.spread import Spread, blended, spread_of_picture
from ..picture.swatches import Swatch, swatches_of
from .model import Look, Member, derived_look

PER_MEMBER = 24


def name_of(path: Path) -> str:
    """Return a name for people from a file's name: "reedbed-at-dawn.jpg" gives "Reedbed at dawn"."""
    words = path.stem.replace("-", " ").replace("_", " ").split()
    text = " ".join(words)
    return text[:1].upper() + text[1:] if text else tr("Look")


@dataclass(frozen=True, eq=False)
class Gathering:
    """Several pictures with their weights, and what comes of them together.

    swatches: of each picture, in the order given; common: those of all with any weight; shared: which share of their
    areas those have in common, 0..1; spreads: the colours of each over the plane of hue and chroma.
    """

    pictures: tuple[LoadedPicture, ...]
    weights: tuple[float, ...]
    swatches: tuple[tuple[Swatch, ...], ...]
    common: tuple[Swatch, ...]
    shared: float
    spreads: tuple[Spread, ...]

    @property
    def used(self) -> tuple[int, ...]:
        """Return which pictures have any weight."""
        return tuple(i for i, weight in enumerate(self.weights) if weight > 0)

    @property
    def word(self) -> str:
        """Return a sentence when the pictures have little in common, else nothing."""
        if len(self.used) < 2 or self.shared >= QUIET:
            return ""
        return tr(
            "These images have little in common ({shared:.0%} of their area), so a quiet look with "
            "near-grey surfaces is offered first: a stronger colour would clash with one of them."
        ).format(shared=self.shared)

    def readings(self, pins: Sequence[Rgba] = ()) -> tuple[PaletteReading, ...]:
        """Return the starting points."""
        return readings_of(blended(zip(self.spreads, self.weights, strict=True)), pins, self.shared)

    def weighted(self, weights: Sequence[float]) -> Gathering:
        """Return the same pictures with other weights. When all are 0, none is left out."""
        weights = tuple(weights) if any(w > 0 for w in weights) else (1.0,) * len(self.pictures)
        used = [row for row, w in zip(self.swatches, weights, strict=True) if w > 0]
        common = common_swatches(self.swatches, weights) if len(used) > 1 else used[0][:8]
        return replace(self, weights=weights, common=common, shared=in_common(used))

    def fits(self, colours: Mapping[str, Rgba]) -> tuple[float, ...]:
        """Return how well each picture goes with a palette, 0..100."""
        return tuple(fit(row, colours) for row in self.swatches)

    def look(
        self,
        recipe: Recipe,
        tone: Tone,
        pins: tuple[Rgba, ...] = (),
        placement: Placement | None = None,
        temper: Temper | None = None,
    ) -> Look:
        """Return a fresh look; the first picture with any weight lies behind the desktop."""
        placement = placement or Placement()
        used = self.used
        lead = self.pictures[used[0]]
        drop = joined([backdrop_of(self.pictures[i], placement) for i in used])
        name = (
            name_of(lead.path)
            if len(used) == 1
            else plural("{name} and {count} more", "{name} and {count} more", len(used) - 1, name=name_of(lead.path))
        )
        look = derived_look(name, recipe, tone, str(lead.path), drop, pins, temper)
        members = tuple(Member(str(p.path), w) for p, w in zip(self.pictures, self.weights, strict=True))
        return replace(look, placement=placement, pictures=members if len(members) > 1 else ())


def gathering_of(pictures: Sequence[LoadedPicture], weights: Sequence[float] | None = None) -> Gathering:
    """Return what comes of pictures that are loaded already, each with the same weight when none are given."""
    each = 8 if len(pictures) == 1 else PER_MEMBER
    rows = tuple(swatches_of(p, each) for p in pictures)
    spreads = tuple(spread_of_picture(p) for p in pictures)
    plain = Gathering(tuple(pictures), (1.0,) * len(pictures), rows, (), 1.0, spreads)
    return plain.weighted(weights if weights is not None else plain.weights)


def look_of_pictures(
    paths: Sequence[Path],
    tone: Tone,
    accent: Rgba | None = None,
    weights: Sequence[float] | None = None,
    placement: Placement | None = None,
) -> Look:
    """Return the likeliest look of one or several pictures. Raises what reading them raises."""
    found = gathering_of([load_picture(Path(p)) for p in paths], weights)
    pins = (accent,) if accent else ()
    return found.look(found.readings(pins)[0].recipe, tone, pins, placement)
