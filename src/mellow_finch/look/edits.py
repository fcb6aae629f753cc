"""The pure edits that change a look. Each gives a new look in which every pair passes that passed before.

Locks never move. What follows an edit is worked out in one place, `_finished`: the smallest change that keeps every
pair readable, then the terminal's colours distinguished, then texts over translucent surfaces.
"""

from __future__ import annotations

import math
from collections.abc import Callable, Collection, Mapping, Sequence
from contextlib import suppress
from dataclasses import replace
from functools import cache, lru_cache
from types import MappingProxyType

import numpy as np

from ..colour.contrast import luminance, ratio
from ..colour.gamut import oklch_to_rgba, oklch_to_srgb, rgba_to_oklch
from ..colour.rgb import Rgba, from_unit
from ..colour.spaces import oklab_to_oklch, oklch_to_oklab
from ..components.decisions import NOTHING, Decisions, Owner
from ..errors import ImpossibleLocksError
from ..language import tr
from ..palette.ansi import APART, ROWS, ansi_set, nearest_pair
from ..palette.derive import derive
from ..palette.pairs import JudgedPair, RolePair, failing
from ..palette.readings import PaletteReading
from ..palette.recipe import TONES, Recipe, Tone, opposite
from ..palette.roles import FOLLOWS, ROLE_BY_ID
from ..palette.solve import solve
from ..palette.temper import CONTROLS, Temper
from ..palette.veil import faces, veiled, whole_percent
from ..palette.wanted import wanted_palette
from ..picture.backdrop import Backdrop
from ..picture.placement import Placement, Showing
from ..progress import give_way
from .halves import Halves
from .model import Look, Palette

_HUES = tuple(f"ansi_{i}" for row in ROWS for i in row)
_SAME_LEVEL = frozenset({"accent", "success", "warning", "error"})  # as light in one half as in the other
_COLOURED = 0.012  # OKLCH chroma from which a colour has a hue to carry over
_AHEAD = 20  # places along a control that are worked out before a hand moves it
_ROUNDING = 4e-3  # OKLab distance that rounding to 8 bits may make


_Half = tuple[Mapping[str, Rgba], Mapping[str, float]]  # a tone's colours, and the opacities at which they can be read


def _with_half(look: Look, tone: Tone, half: _Half) -> Look:
    """Return the look with one half another."""
    other = opposite(tone)
    palettes = {tone: MappingProxyType(dict(half[0])), other: look.palettes[other]}
    drawn = {t: dict(kinds) for t, kinds in ((tone, half[1]), (other, look.drawn.get(other, {}))) if kinds}
    return replace(look, palettes=Halves(palettes), drawn=MappingProxyType(drawn))


def _with_other_half(look: Look, make: Callable[[], _Half]) -> Look:
    """Return the look with the half that is not in force made when it is first looked at.

    It stays as it is where what does not move leaves no way.
    """
    lead, other = look.tone, opposite(look.tone)
    own: _Half = (look.palettes[other], look.drawn.get(other, {}))

    @cache
    def made() -> _Half:
        try:
            return make()
        except ImpossibleLocksError:
            return own

    palettes = Halves({lead: look.colours}, {other: lambda: MappingProxyType(dict(made()[0]))})
    drawn: Mapping[Tone, Mapping[str, float]] = MappingProxyType({})
    if look.opacity:
        drawn = Halves({lead: look.drawn.get(lead, {})}, {other: lambda: dict(made()[1])})
    return replace(look, palettes=palettes, drawn=drawn)


def _finished(
    look: Look, tone: Tone, colours: dict[str, Rgba], held: Collection[str], pairs: tuple[RolePair, ...], settle: bool
) -> tuple[dict[str, Rgba], dict[str, float]]:
    """Return a tone's colours with everything else following, and the opacities at which they can be read.

    held: roles that must not move this time. Raises ImpossibleLocksError when what does not move leaves no way.
    """
    if not look.mend_as_you_go:
        return colours, dict(look.opacity)
    colours = solve(colours, look.locks, held, pairs, settle=settle)
    still = {*look.locks, *held}
    own = look.palettes[tone]
    if any(colours[r] != own[r] for r in _HUES) and nearest_pair(colours)[0] < APART and not set(_HUES) <= still:
        apart = colours | ansi_set(colours, colours["terminal"], look.temper.text_need, still)
        if not failing(apart, pairs):
            colours = apart
    return _veiled(look, colours, still, pairs)


def _veiled(
    look: Look, colours: Mapping[str, Rgba], held: Collection[str], pairs: tuple[RolePair, ...]
) -> tuple[dict[str, Rgba], dict[str, float]]:
    """Return the colours with texts fitted to translucent surfaces, and the opacities at which they can be read.

    Where the terminal's colours had to move for that, they are chosen afresh as a set for what shows through.
    """
    fresh, drawn = veiled(colours, look.opacity, look.backdrop, look.blur, held, pairs)
    if set(_HUES) <= set(held) or all(fresh[r] == colours[r] for r in _HUES):
        return fresh, drawn
    grounds = faces(fresh, "terminal", drawn, look.backdrop, look.blur)
    rises = luminance(fresh["ansi_7"]) > luminance(fresh["terminal"])
    worst = (max if rises else min)(grounds, key=luminance)
    apart = fresh | ansi_set(fresh, worst, look.temper.text_need, held)
    needs = {p.text: p.need.level for p in pairs if p.surface == "terminal"}
    if all(ratio(apart[r], ground) >= needs.get(r, 0.0) for r in _HUES for ground in grounds):
        fresh = apart
    return fresh, drawn


def _pairs_kept(look: Look, tone: Tone, roles: Collection[str] = ()) -> tuple[RolePair, ...]:
    """Return the pairs that an edit of some roles must leave readable: all but those that fell short before."""
    short = {j.pair for j in look.failing(tone) if j.pair.text not in roles and j.pair.surface not in roles}
    return tuple(p for p in look.pairs if p not in short) if short else look.pairs


def _half_of(look: Look, tone: Tone, colours: dict[str, Rgba], held: Collection[str] = ()) -> _Half:
    return _finished(look, tone, colours, held, _pairs_kept(look, tone, held), False)


def _in_tone(look: Look, tone: Tone, colours: dict[str, Rgba], held: Collection[str] = ()) -> Look:
    return _with_half(look, tone, _half_of(look, tone, colours, held))


# One role


def with_role(look: Look, role: str, colour: Rgba) -> Look:
    """Return the look with one role of the tone in force changed, and of the other one too where they are linked.

    When mending as you go, all other roles follow by the smallest change that keeps every pair passing.
    Raises ImpossibleLocksError when locks stand in the way, and KeyError for an unknown role.
    """
    old = look.colours[role]
    changed = _with_followers(look, look.tone, {role: colour.opaque})
    fresh = _in_tone(look, look.tone, {**look.colours, **changed}, tuple(changed))
    if not look.linked:
        return fresh
    other = opposite(look.tone)
    theirs = carried_over(old, colour.opaque, look.palettes[other][role], role in _SAME_LEVEL)
    if theirs == look.palettes[other][role] or role in look.locks:
        return fresh
    colours = {**look.palettes[other], **_with_followers(look, other, {role: theirs})}
    return _with_other_half(fresh, lambda: _half_of(fresh, other, colours))


def with_role_by_hand(look: Look, role: str, colour: Rgba) -> Look:
    """Return the look with a role changed by a person: see with_role. A locked one does not move.

    Raises ImpossibleLocksError for it, in words.
    """
    if role in look.locks:
        title = ROLE_BY_ID[role].title
        raise ImpossibleLocksError(
            tr("“{title}” is locked.").format(title=title), (role,), tr("Unlock it to change its colour.")
        )
    return with_role(look, role, colour)


def with_swapped(look: Look, first: str, second: str) -> Look:
    """Return the look with two roles of the tone in force in each other's colours; see with_role for what follows.

    Raises ImpossibleLocksError where one of them is locked.
    """
    own = look.colours
    half = with_role_by_hand(with_role_by_hand(look, first, own[second]), second, own[first])
    return _in_tone(half, half.tone, {**half.colours, first: own[second], second: own[first]}, (first, second))


def with_role_reset(look: Look, role: str) -> Look:
    """Return the look with one role as it was derived; the other half too where they are linked.

    Raises ImpossibleLocksError where it is locked.
    """
    fresh = with_role_by_hand(look, role, _as_derived(look.recipe, look.tone, look.temper)[role])
    other = opposite(look.tone)
    if not look.linked:
        return fresh
    back = {**fresh.palettes[other], role: _as_derived(look.recipe, other, look.temper)[role]}
    return _with_other_half(fresh, lambda: _half_of(fresh, other, back, (role,)))


def is_as_derived(look: Look, role: str) -> bool:
    """Tell whether a role of the tone in force is as it was derived."""
    return look.colours[role] == _as_derived(look.recipe, look.tone, look.temper)[role]


def _with_followers(look: Look, tone: Tone, changed: dict[str, Rgba]) -> dict[str, Rgba]:
    """Return the changes with those of roles that have had the same colour and go along with another role."""
    own = look.palettes[tone]
    along = {
        role: changed[leader]
        for role, leader in FOLLOWS.items()
        if leader in changed and own[role] == own[leader] and role not in look.locks
    }
    return {**along, **changed}


def carried_over(old: Rgba, new: Rgba, other: Rgba, level: bool) -> Rgba:
    """Return what becomes of a colour of the other half when its twin goes from old to new.

    Hue and chroma go along as far as they changed; lightness only for colours that lie as high in both halves (level).
    """
    l0, c0, h0 = rgba_to_oklch(old)
    l1, c1, h1 = rgba_to_oklch(new)
    lightness, chroma, hue = rgba_to_oklch(other)
    turn = h1 - h0 if min(c0, c1) >= _COLOURED else h1 - hue if c1 >= _COLOURED else 0.0
    rise = l1 - l0 if level else 0.0
    bent = math.dist(*((c * math.cos(math.radians(h)), c * math.sin(math.radians(h))) for c, h in ((c0, h0), (c1, h1))))
    if bent < _ROUNDING and abs(rise) < _ROUNDING:
        return other
    return oklch_to_rgba(min(1.0, max(0.0, lightness + rise)), max(0.0, chroma + c1 - c0), hue + turn)


def with_accent(look: Look, accent: Rgba) -> Look:
    """Return the look led by another accent: selections, links, focus marks and all else that takes it go along.

    Raises ImpossibleLocksError when locks stand in the way.
    """
    accent = accent.opaque
    recipe = Recipe(accent, look.recipe.hue_deg, look.recipe.tint)
    lead, other = look.tone, opposite(look.tone)
    fresh = replace(look, recipe=recipe)
    fresh = _in_tone(fresh, lead, {**_led(look, recipe, lead), "accent": accent}, ("accent",))
    if not look.linked or "accent" in look.locks:
        return fresh
    return _with_other_half(fresh, lambda: _half_of(fresh, other, {**_led(look, recipe, other), "accent": accent}))


def _led(look: Look, recipe: Recipe, tone: Tone) -> dict[str, Rgba]:
    return _moved_along(look, tone, wanted_palette(recipe, tone, look.temper))


def with_lock(look: Look, role: str, locked: bool) -> Look:
    """Return the look with a role locked or freed."""
    return replace(look, locks=look.locks | {role} if locked else look.locks - {role})


# The whole look


@lru_cache(maxsize=32)
def _as_derived(recipe: Recipe, tone: Tone, temper: Temper) -> Palette:
    try:
        return MappingProxyType(derive(recipe, tone, temper=temper))
    except ImpossibleLocksError:  # cannot be without locks, but a look must never be lost over a comparison
        return wanted_palette(recipe, tone, temper)


def _moved_along(look: Look, tone: Tone, wanted: Palette) -> dict[str, Rgba]:
    """Return a palette gone along with what derivation wants anew; locks stay.

    What is still as it was derived becomes what is wanted now; what was changed by hand keeps its distance in OKLab
    from what derivation wanted.
    """
    own = look.palettes[tone]
    derived = _as_derived(look.recipe, tone, look.temper)
    before = wanted_palette(look.recipe, tone, look.temper)
    out = dict(own)
    apart: list[str] = []
    for role, colour in own.items():
        if role in look.locks:
            continue
        if colour in (derived[role], before[role]):
            out[role] = wanted[role]
        elif before[role] != wanted[role]:
            apart.append(role)
    if apart:
        lab = [
            oklch_to_oklab(np.array([rgba_to_oklch(colours[r]) for r in apart])) for colours in (own, before, wanted)
        ]
        srgb = oklch_to_srgb(oklab_to_oklch(lab[0] + lab[2] - lab[1]))
        out |= {r: from_unit(*row) for r, row in zip(apart, srgb.tolist(), strict=True)}
    return out


def with_temper(look: Look, temper: Temper) -> Look:
    """Return the look tempered anew, in both halves. Locks hold, and every pair passes.

    Raises ImpossibleLocksError when locks leave no way in the half in force, or for another need of texts in either;
    for all else the other half stays as it is where they leave none.
    """
    fresh, other = replace(look, temper=temper), opposite(look.tone)

    def half(tone: Tone) -> _Half:
        colours = _moved_along(look, tone, wanted_palette(look.recipe, tone, temper))
        return _finished(fresh, tone, colours, (), _pairs_kept_at(look, tone, temper), True)

    lead = _with_half(fresh, look.tone, half(look.tone))
    if temper.text_need != look.temper.text_need:
        return _with_half(lead, other, half(other))
    return _with_other_half(lead, lambda: half(other))


def temper_ahead(look: Look) -> None:
    """Work out what each whole-look control comes to along its way, so that a hand that moves it waits for nothing.

    What a palette is solved from is kept by what it depends on: the terminal's hues above all, which take longest.
    Raises Cancelled where the work is stopped.
    """
    for control in CONTROLS:
        for step in range(_AHEAD + 1):
            give_way()
            value = control.low + (control.high - control.low) * step / _AHEAD
            with suppress(ImpossibleLocksError):
                with_temper(look, replace(look.temper, **{control.id: value}))


def _pairs_kept_at(look: Look, tone: Tone, temper: Temper) -> tuple[RolePair, ...]:
    kept = {(p.text, p.surface) for p in _pairs_kept(look, tone)}
    return tuple(p for p in replace(look, temper=temper).pairs if (p.text, p.surface) in kept)


def read_anew(look: Look, reading: PaletteReading) -> Look:
    """Return the look derived from another reading, its locked roles held, its temper kept.

    Raises ImpossibleLocksError when the locks leave no readable palette.
    """
    fresh = replace(
        look, recipe=reading.recipe, decisions=_without_mends(look), origin=None if look.source else look.origin
    )
    for tone in TONES:
        held = {r: look.palettes[tone][r] for r in look.locks}
        colours = {**wanted_palette(reading.recipe, tone, look.temper), **held}
        solved = solve(colours, look.locks, text_need=look.temper.text_need)
        fresh = _with_half(fresh, tone, (solved, {}))
    return seen_through(fresh)


def seen_through(look: Look) -> Look:
    """Return the look with texts fitted once more to what shines through its surfaces."""
    for tone in TONES:
        if look.mend_as_you_go:
            colours, drawn = _veiled(look, look.palettes[tone], look.locks, _pairs_kept(look, tone))
        else:
            colours, drawn = dict(look.palettes[tone]), dict(look.opacity)
        look = _with_half(look, tone, (colours, drawn))
    return look


def with_opacity(look: Look, kind: str, alpha: float | None) -> Look:
    """Return the look with a kind of surface translucent: alpha 0..1, None to leave it as it is without asking.

    When mending as you go, a surface is never drawn with less opacity than texts on it can be moved to read on.
    """
    opacity = {k: v for k, v in look.opacity.items() if k != kind}
    if alpha is not None:
        opacity[kind] = whole_percent(alpha)
    return seen_through(replace(look, opacity=MappingProxyType(opacity)))


def with_blur(look: Look, blur: bool) -> Look:
    """Return the look for a desktop that blurs what is behind, or does not."""
    return seen_through(replace(look, blur=blur))


def with_placement(look: Look, placement: Placement, backdrop: Backdrop) -> Look:
    """Return the look with its picture laid otherwise on the screen; backdrop: the extremes that this gives."""
    return seen_through(replace(look, placement=placement, backdrop=backdrop))


def with_showing(look: Look, showing: Showing) -> Look:
    """Return the look with something else of its pictures shown on the desktop."""
    return replace(look, showing=showing)


def with_tone(look: Look, tone: Tone) -> Look:
    """Return the look in its other half."""
    return replace(look, tone=tone)


def with_ansi_set(look: Look) -> Look:
    """Return the look with the terminal's colours of the tone in force solved afresh as a set; locks hold."""
    fresh = ansi_set(look.colours, look.colours["terminal"], look.temper.text_need, look.locks)
    colours, drawn = _finished(look, look.tone, {**look.colours, **fresh}, (), _pairs_kept(look, look.tone), False)
    return _with_half(look, look.tone, (colours, drawn))


# Mending


def with_mended_roles(
    look: Look, role_pairs: tuple[JudgedPair, ...] | None = None, further: Sequence[RolePair] = ()
) -> Look:
    """Return the look with failing pairs of roles mended by the smallest change: all, or only those given.

    further: pairs that are to be read too, though no file says them. Raises ImpossibleLocksError, naming the locks,
    when they leave no way.
    """
    pairs = look.pairs
    if role_pairs is not None:
        # What passes now must go on passing; what has insufficient contrast elsewhere is left alone.
        short = {j.pair for j in look.failing()} - {j.pair for j in role_pairs}
        pairs = tuple(p for p in pairs if p not in short)
    pairs = (*pairs, *further)
    solved = solve(look.colours, look.locks, pairs=pairs)
    colours, drawn = _veiled(look, solved, look.locks, pairs)
    return _with_half(look, look.tone, (colours, drawn))


def _without_mends(look: Look) -> Mapping[Owner, Decisions]:
    rest = {owner: replace(own, mends=frozenset()) for owner, own in look.decisions.items()}
    return {owner: own for owner, own in rest.items() if own != NOTHING}


# Variants


def with_variant(look: Look, state: Look, name: str) -> Look:
    """Return the look with a state kept as a variant; one of the same name is replaced."""
    kept = replace(state, name=name, variants=())
    return replace(look, variants=(*(v for v in look.variants if v.name != name), kept))


def without_variant(look: Look, name: str) -> Look:
    """Return the look without a variant."""
    return replace(look, variants=tuple(v for v in look.variants if v.name != name))


def as_variant(look: Look, name: str) -> Look:
    """Return a variant as the look in force: the look keeps its own name and all of its variants.

    Raises KeyError when there is none of that name.
    """
    found = next((v for v in look.variants if v.name == name), None)
    if found is None:
        raise KeyError(name)
    return replace(found, name=look.name, variants=look.variants)
