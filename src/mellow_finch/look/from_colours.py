"""From a list of colours, with or without known roles, to a look."""

from __future__ import annotations

from collections.abc import Collection, Mapping, Sequence
from dataclasses import replace
from types import MappingProxyType

import numpy as np

from ..colour.gamut import rgba_to_oklch
from ..colour.rgb import Rgba, from_unit
from ..colour.spaces import lab_to_srgb, srgb_to_lab
from ..components.decisions import NOTHING
from ..errors import ImpossibleLocksError
from ..palette.derive import derive
from ..palette.pairs import RolePair, failing, pairs_for
from ..palette.readings import readings_of
from ..palette.recipe import MOST_TINT, TONES, Recipe, Tone, opposite
from ..palette.roles import FOLLOWS
from ..palette.solve import solve
from ..palette.temper import Temper
from ..palette.wanted import wanted_palette
from ..picture.quantize import quantize, squared_distances
from ..picture.spread import spread_of_swatches
from ..picture.swatches import Swatch
from .edits import seen_through
from .interchange.model import ColourList
from .model import Look, Origin

_MOST_SWATCHES = 16
_A_TERMINAL = 8  # of the sixteen that a file says at least
_STRAY = 18.0  # Lab distance from which a rare vivid colour of a long list keeps a swatch of its own


def swatches_of_colours(colours: Sequence[Rgba]) -> tuple[Swatch, ...]:
    """Return a list's colours as swatches with shares; a long list is brought to sixteen, vivid strays kept."""
    opaque = [c.opaque for c in colours if c.a > 0]
    distinct = list(dict.fromkeys(opaque))
    if len(distinct) <= _MOST_SWATCHES:
        shares = {c: opaque.count(c) / len(opaque) for c in distinct} if opaque else {}
        return tuple(Swatch(c, s, (0.5, 0.5)) for c, s in sorted(shares.items(), key=lambda row: (-row[1], row[0])))
    lab = srgb_to_lab(np.array([c.unit for c in distinct]))
    centres, _ = quantize(lab, np.ones(len(distinct)), _MOST_SWATCHES - 3)
    stray = squared_distances(lab, centres).min(axis=1) ** 0.5 * (np.hypot(lab[:, 1], lab[:, 2]) > 30)
    extra = [i for i in np.argsort(-stray)[:3] if stray[i] > _STRAY]
    labels = squared_distances(lab, centres).argmin(axis=1)
    labels[extra] = -1  # each has a swatch of its own
    rows = [Swatch(distinct[i], 1 / len(distinct), (0.5, 0.5), True) for i in extra]
    for k in range(len(centres)):
        members = np.flatnonzero(labels == k)
        if members.size:
            mean = np.clip(lab_to_srgb(lab[members].mean(axis=0)), 0, 1)
            r, g, b = mean.tolist()
            rows.append(Swatch(from_unit(r, g, b), members.size / len(distinct), (0.5, 0.5)))
    return tuple(sorted(rows, key=lambda s: (-s.share, s.colour)))


def recipe_of(swatches: Sequence[Swatch], roles: Mapping[str, Rgba]) -> Recipe:
    """Return what a look is derived from: known roles say it, else the likeliest reading of the swatches does."""
    recipe = readings_of(spread_of_swatches(swatches))[0].recipe
    ground = roles.get("window") or roles.get("terminal")
    if ground is not None:
        _, chroma, hue = rgba_to_oklch(ground)
        recipe = Recipe(recipe.accent, hue, min(MOST_TINT, chroma / 0.8))
    accent = roles.get("accent") or roles.get("selection")
    return Recipe(accent.opaque, recipe.hue_deg, recipe.tint) if accent is not None else recipe


def tone_of(roles: Mapping[str, Rgba], otherwise: Tone) -> Tone:
    """Return the tone that the known surfaces are in."""
    ground = next((roles[r] for r in ("window", "view", "terminal", "panel") if r in roles), None)
    if ground is None:
        return otherwise
    return "dark" if rgba_to_oklch(ground)[0] < 0.6 else "light"


def look_of_roles(
    name: str,
    roles: Mapping[str, Rgba],
    recipe: Recipe,
    tone: Tone,
    exact: bool = False,
    temper: Temper | None = None,
    held: Collection[str] = (),
) -> Look:
    """Return a look whose tone has the roles that are known, everything else derived around them.

    exact: whether the known roles stay as they are, pairs among them that fail included; else they move as far
    as their pairs need, but for those that are held. The other tone is derived from the recipe. Raises
    ImpossibleLocksError when what is held leaves no way.
    """
    temper = temper or Temper()
    pairs = pairs_for(temper.text_need)
    known = {role: colour.opaque for role, colour in roles.items()}
    along = {r: known[leader] for r, leader in FOLLOWS.items() if leader in known and r not in known}
    known |= along
    wanted = {**wanted_palette(recipe, tone, temper), **known}
    if exact:
        short = {j.pair for j in failing(wanted, pairs) if j.pair.text in known and j.pair.surface in known}
        kept = tuple(p for p in pairs if p not in short)
        own = _around(wanted, known, kept)
    else:
        own = solve(wanted, held=held, pairs=pairs)
    other = opposite(tone)
    palettes = {tone: own, other: derive(recipe, other, temper=temper)}
    both = MappingProxyType({t: MappingProxyType(dict(palettes[t])) for t in TONES})
    return Look(name, tone, recipe, both, temper=temper)


def _around(wanted: dict[str, Rgba], known: Mapping[str, Rgba], pairs: tuple[RolePair, ...]) -> dict[str, Rgba]:
    """Return the palette with known roles held; those that leave others no way are let go of, one by one."""
    held = set(known)
    while True:
        try:
            return solve(wanted, held=held, pairs=pairs)
        except ImpossibleLocksError as error:
            loose = [r for r in error.roles if r in held] or sorted(held)
            held.discard(loose[-1])


def look_of_list(colours: ColourList, tone: Tone = "dark", base: Look | None = None, as_given: bool = False) -> Look:
    """Return a look of a palette file's colours, every pair passing.

    tone: the one to take when no known surface says which; base: the look whose picture, placement and translucent
    surfaces are kept; as_given: whether known roles stay as the file says them, also where they cannot be read.
    """
    roles = colours.roles
    recipe = recipe_of(swatches_of_colours(colours.colours), roles)
    look = look_of_roles(colours.name or "Palette", roles, recipe, tone_of(roles, tone), as_given)
    return on_the_same_desk(replace(look, origin=Origin("palette", colours.name)), base)


def moved_of_terminal(colours: ColourList, look: Look) -> tuple[int, int]:
    """Return how many of the terminal's colours that a file says are others in a look made of it, and how many it says.

    Those of a file that says fewer than eight are not counted: it is not about a terminal.
    """
    given = {r: c.opaque for r, c in colours.roles.items() if r.startswith("ansi_")}
    if len(given) < _A_TERMINAL:
        return 0, 0
    return sum(look.colours[r] != c for r, c in given.items()), len(given)


def on_the_same_desk(look: Look, base: Look | None, picture: bool = True) -> Look:
    """Return a look with what belongs to the desk and not to the colours taken from another one.

    picture: whether the picture behind the desktop is taken too. A theme that kept its own colours takes the look's,
    which do not come from it any more.
    """
    if base is None:
        return look
    if not picture:
        base = replace(
            base, source=look.source, pictures=look.pictures, backdrop=look.backdrop, placement=look.placement
        )
    return seen_through(
        replace(
            look,
            source=base.source,
            pictures=base.pictures,
            backdrop=base.backdrop,
            placement=base.placement,
            left_out=base.left_out,
            added=base.added,
            mend_as_you_go=base.mend_as_you_go,
            brought=base.brought,
            words=base.words,
            companions=base.companions,
            decisions={
                owner: own
                for owner, kept in base.decisions.items()
                if (own := replace(kept, as_is=False, swaps={})) != NOTHING
            },
            opacity=base.opacity,
            blur=base.blur,
            linked=base.linked,
            variants=base.variants,
        )
    )
