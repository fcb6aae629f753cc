"""Schemes that ship with the program, named after the marsh of Reedholm and what lives there."""

from __future__ import annotations

from dataclasses import dataclass, field, replace

from ..colour.gamut import rgba_to_oklch
from ..colour.rgb import Rgba, parse_hex
from ..language import tr
from ..palette.recipe import MOST_TINT, Recipe, Tone
from ..palette.temper import Temper
from ..picture.swatches import Swatch
from .from_colours import on_the_same_desk
from .model import Look, Origin, derived_look


@dataclass(frozen=True, slots=True)
class ReadyScheme:
    """One scheme: its tone, the ground that tints its surfaces, its accent, and the other colours it is known by."""

    id: str
    title: str
    note: str
    tone: Tone
    ground: Rgba
    accent: Rgba
    others: tuple[Rgba, ...]
    temper: Temper = field(default_factory=Temper)

    @property
    def colours(self) -> tuple[Rgba, ...]:
        """Return its colours, the ground first."""
        return (self.ground, self.accent, *self.others)

    @property
    def swatches(self) -> tuple[Swatch, ...]:
        """Return its colours with the share that each has of a desktop."""
        shares = (0.5, 0.14, *([0.36 / len(self.others)] * len(self.others)))
        return tuple(Swatch(c, s, (0.5, 0.5)) for c, s in zip(self.colours, shares, strict=True))

    @property
    def recipe(self) -> Recipe:
        """Return what a look of it is derived from."""
        _, chroma, hue = rgba_to_oklch(self.ground)
        return Recipe(self.accent, hue, min(MOST_TINT, chroma))

    def look(self, base: Look | None = None) -> Look:
        """Return a look of it; base: the look whose picture and desk are kept."""
        fresh = derived_look(self.title, self.recipe, self.tone, temper=self.temper)
        return on_the_same_desk(replace(fresh, origin=Origin("scheme", self.title)), base)


def _row(id_: str, title: str, note: str, tone: Tone, colours: str, **temper: float) -> ReadyScheme:
    ground, accent, *others = (parse_hex(c) for c in colours.split())
    return ReadyScheme(id_, title, note, tone, ground, accent, tuple(others), Temper(**temper))


READY: tuple[ReadyScheme, ...] = (
    _row("redshank", "Redshank", tr("Red legs over wet peat"), "dark", "#2a2220 #d8533f #a48a76 #6d6258 #e6d7c6"),
    _row("godwit", "Godwit", tr("Russet breast, late summer"), "dark", "#2c231b #d0763a #b89a78 #7b5f47 #ecdcc8"),
    _row("marigold", "Marsh marigold", tr("The first yellow of the year"), "light", "#f4f0df #b48a00 #6f7d3a #d9c25c #4b4a35"),
    _row("samphire", "Samphire", tr("Green at the tide line"), "dark", "#1d2419 #86ad3f #c2b280 #5d7350 #dfe5cf"),
    _row("reedbed", "Reedbed", tr("Young reed, clear water"), "light", "#edf3ea #2f8a55 #7aa38a #b5a877 #2f4236"),
    _row("shoveler", "Shoveler", tr("Bottle green with a white breast"), "dark", "#17231f #22a283 #c98a4b #56706a #e4ebe6"),
    _row("kingfisher", "Kingfisher", tr("A flash along the sluice"), "dark", "#152127 #18a3c9 #e08a3c #4e7180 #dce8ec"),
    _row("heron", "Heron", tr("Slate blue, standing still"), "light", "#e9eef3 #3a6ea8 #8597a8 #c0ccd6 #2b3742"),
    _row("nightjar", "Night tide", tr("Deep blue an hour after dusk"), "dark", "#171c2e #6f8cf0 #9aa5c4 #3f4b73 #dfe4f5", strength=1.1),
    _row("sea-lavender", "Sea lavender", tr("Violet over the saltings"), "light", "#f1eef6 #7a58b5 #a393bf #c9bfd9 #3a3248"),
    _row("orchid", "Marsh orchid", tr("Magenta in the wet meadow"), "dark", "#241a26 #c65bc0 #9e87a6 #5f4a66 #ecdff0", strength=1.15),
    _row("tern", "Roseate tern", tr("A blush on white"), "light", "#f6eeef #b8486c #b59aa0 #d9c4c8 #43333a"),
    _row("bittern", "Bittern", tr("Dry reed, hardly a colour"), "dark", "#24211d #9c8a6b #7d7364 #5a5348 #ddd6ca", strength=0.8),
    _row("hoarfrost", "Hoarfrost", tr("Cold, pale and quiet"), "light", "#eef2f4 #5f7f8c #93a5ad #c5d0d5 #36424a", warmth=-0.35),
    _row("mudflat", "Mudflat", tr("Plain grey, all colour in the accent"), "dark", "#222222 #8fa0a3 #7d7d7d #565656 #e2e2e2"),
    _row("ember", "Driftwood fire", tr("Warm to the last corner"), "dark", "#2b1d16 #f08a35 #b0603a #6a4634 #f3e0cd", warmth=0.6, colourfulness=1.5),
    _row("avocet", "Avocet", tr("Black and white, the strongest contrast"), "dark", "#161616 #e3e3e3 #9a9a9a #5e5e5e #ffffff", text_need=7.0, depth=0.8),
    _row("lapwing", "Lapwing", tr("Ink on paper, the strongest contrast"), "light", "#fafafa #1f5e4a #4a4a4a #8a8a8a #101010", text_need=7.0, depth=0.6),
)  # fmt: skip
READY_BY_ID: dict[str, ReadyScheme] = {scheme.id: scheme for scheme in READY}


def ready_scheme(word: str) -> ReadyScheme | None:
    """Return the scheme of an id or a title, None when there is none."""
    low = word.strip().lower()
    return READY_BY_ID.get(low) or next((s for s in READY if s.title.lower() == low), None)
