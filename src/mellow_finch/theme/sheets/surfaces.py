"""The surfaces that matter most, in the look's own colours: the literal behind each moves there, else a rule says it.

A colour that a theme uses for two of them goes to the one that comes first here; the other gets a rule at the sheet's
end. What a theme means by itself stays, unless a person says otherwise: a bar that is dark in a light theme.
"""

from __future__ import annotations

import re
from collections.abc import Iterable, Mapping, Sequence
from functools import lru_cache
from typing import TYPE_CHECKING, NamedTuple

import numpy as np

from ...colour.blend import mixed_in_oklab
from ...colour.difference import colour_difference
from ...colour.gamut import oklab_to_rgba, oklch_to_rgbas, rgba_to_oklab, rgba_to_oklch
from ...colour.requirement import TEXT
from ...colour.rgb import Rgba
from ...components.judge import surfaces_under
from ...recolour.groups import KEEP

if TYPE_CHECKING:
    from .mender import Mender


class SurfacePlace(NamedTuple):
    """One surface: where it is, the selector that says it, its roles, the meant one first.

    name: what it is called where a theme may mean it otherwise than its windows, and a person may choose.
    """

    at: str
    selector: str
    roles: tuple[str, ...]
    name: str = ""


_W = "window.background"
_OLDER = (
    SurfacePlace(_W, ".background", ("window",)),
    SurfacePlace(f"{_W} > textview.view > text", "textview text", ("view",)),
    SurfacePlace(f"{_W} > treeview.view", "treeview.view", ("view",)),
    SurfacePlace(f"{_W} > iconview.view", "iconview.view", ("view",)),
    SurfacePlace(f"{_W} > list", "list", ("view", "window", "card")),
    SurfacePlace(f"{_W} > entry", "entry", ("view",)),
    SurfacePlace(f"{_W} > headerbar.titlebar", "headerbar", ("header",), "header"),
    SurfacePlace("window.background.csd > headerbar.titlebar", "headerbar, headerbar:backdrop", ("header",), "header"),
    SurfacePlace(f"{_W} > menubar", "menubar", ("header", "window", "menu", "panel"), "header"),
    SurfacePlace(f"{_W} > .sidebar", ".sidebar", ("sidebar", "window", "view"), "sidebar"),
    SurfacePlace(f"{_W} > menu", "menu", ("menu",)),
    SurfacePlace("window.background.popup > menu", ".popup > menu", ("menu",)),
    SurfacePlace(f"{_W} > popover.background", "popover.background", ("menu",)),
    SurfacePlace("tooltip.background", "tooltip.background", ("tooltip",)),
    SurfacePlace(f"{_W} > button.text-button", "button", ("control",)),
    SurfacePlace(f"{_W} > button.text-button.suggested-action", "button.suggested-action", ("accent",)),
    SurfacePlace(f"{_W} > button.text-button.destructive-action", "button.destructive-action", ("error",)),
    SurfacePlace(f"{_W} > list > row.activatable:selected", "row:selected", ("selection", "accent")),
    SurfacePlace(f"{_W} > treeview.view:selected:focus", "treeview.view:selected:focus", ("selection", "accent")),
    SurfacePlace(f"{_W} > textview.view > text > selection:focus", "selection:focus", ("selection", "accent")),
)
_ONLY_OLDER = ("menu", "popover", "treeview", "iconview")
_NEWER = (
    *(p for p in _OLDER if not any(word in p.at for word in _ONLY_OLDER)),
    SurfacePlace(f"{_W} > popover.background > contents", "popover.background > contents", ("menu",)),
    SurfacePlace(f"{_W} > listview.view", "listview.view", ("view",)),
    SurfacePlace(
        f"{_W} > listview.view > row.activatable:selected", "listview > row:selected", ("selection", "accent")
    ),
)
_POPUP = "stage > StWidget.popup-menu > StBoxLayout.popup-menu-content"
_SHELL = (
    SurfacePlace(_POPUP, ".popup-menu-content", ("menu",)),
    SurfacePlace("stage > StWidget#panel", "#panel", ("panel",), "panel"),
)
_CINNAMON = (
    SurfacePlace(f"{_POPUP}.menu", ".popup-menu-content", ("menu",)),
    SurfacePlace("stage > StBoxLayout#panel.panel-bottom", "#panel", ("panel",), "panel"),
)
# What a selector gets where the plain one is outweighed: as strong as an id, and at rest only where states are told.
_STRONGER = (":not(#finch)", ":not(#finch):not(:hover):not(:active):not(:checked):not(:disabled):not(:backdrop)")
_FILLS = ("accent", "error", "selection")
_OVER_ANYTHING = ("menu", "tooltip")  # windows of their own
_ITS_OWN = re.compile(r"\bmenu\b|popover|tooltip|popup-menu")  # and what lies in them
# Surfaces that are drawn whether a theme speaks of them or not.
_OWN = ("accent", "error", "menu", "tooltip", "selection")
_NEAR = 2.5  # CIEDE2000 up to which a surface counts as the role's colour
_INVERSE = 0.3  # OKLab lightness by which an inverse part differs from the theme's windows
_TRIES = 4


def places_for(component: str) -> tuple[SurfacePlace, ...]:
    """Return the surfaces of a component's sheet that are to have roles of the look, what windows are like first."""
    return {"gtk-3": _OLDER, "gtk-4": _NEWER, "shell": _SHELL, "shell-cinnamon": _CINNAMON}.get(component, ())


# The parts that a theme may mean otherwise than its windows, by the role that they have.
OWN_CONTRAST = ("header", "sidebar", "panel")


def settle_surfaces(
    mender: Mender,
    places: Sequence[SurfacePlace],
    colours: Mapping[str, Rgba],
    chosen: frozenset[int] = frozenset(),
    said: Mapping[str, str] | None = None,
) -> tuple[str, ...]:
    """Bring surfaces to their roles' colours, by literals first, then by rules; what is right is firm from then on.

    chosen: literals that a person gave a colour or keeps; a surface that comes from one of them is left to that.
    said: what a person chose for parts, by their name: a role, or "keep". Returns the names of the parts
    that the theme means otherwise than its windows, and than the look has them; without a choice those stay so.
    """
    inverse: list[str] = []
    if not places or _drawn(mender, places[0].at) is None:  # a sheet that paints no windows is no whole theme
        return ()
    window = _own_lightness(mender, places[0].at)
    claimed: dict[int, str] = {}
    left: list[tuple[SurfacePlace, Rgba]] = []
    for place in places:
        choice = (said or {}).get(place.name, "") if place.name else ""
        is_inverse = bool(place.name) and _is_inverse(mender, place, window, colours[place.roles[0]])
        if is_inverse:
            inverse.append(place.name)
        if choice in colours:
            place = place._replace(roles=(choice,))
        if choice == KEEP or (is_inverse and not choice) or _own_literals(mender, place.at) & (mender.frozen | chosen):
            continue
        if place.roles[0] in _OVER_ANYTHING:
            _make_solid(mender, place.at)
        drawn = _drawn(mender, place.at)
        target = colours[place.roles[0]]
        if drawn is None:
            # What lies under it is not what it is for, or is drawn by the window where the bar is.
            if place.roles[0] in _OWN or any(style.get("strip") for style in mender.sheet.way(place.at)):
                left.append((place, target))
            continue
        if any(colour_difference(drawn, colours[role]) <= _NEAR for role in place.roles):
            for number in _own_literals(mender, place.at):
                claimed.setdefault(number, place.roles[0])
            continue
        numbers = _own_literals(mender, place.at)
        free = {n for n in numbers if claimed.get(n, place.roles[0]) == place.roles[0]}
        if place.roles[0] in _FILLS:  # what is a word's colour elsewhere stays that
            free -= mender.inks
        if (
            numbers
            and free == numbers
            and (_tinted(mender, place.at, numbers, target) or _moved(mender, place.at, numbers, target))
        ):
            claimed |= dict.fromkeys(numbers, place.roles[0])
            _flatten(mender, place, numbers, target, colours)
            _take_states_along(mender, place, frozenset(claimed), drawn, target)
            _take_words_along(mender, place, colours, chosen)
        else:
            left.append((place, target))
    for stronger in (False, True):
        for place, target in left:
            drawn = _drawn(mender, place.at)
            if drawn is None or all(colour_difference(drawn, colours[role]) > _NEAR for role in place.roles):
                text = colours.get(f"{place.roles[0]}_text") if place.roles[0] in _OWN else None
                mender.add_surface(place.at, _selector(place, stronger), target, text)
        mender.learn_more()
    for place, _ in left:
        _take_words_along(mender, place, colours, chosen)
    mender.firm |= frozenset(claimed)
    _turn_back(mender, window, colours, frozenset(claimed) | chosen)
    return tuple(inverse)


def _make_solid(mender: Mender, at: str) -> None:
    """Let a window of its own let nothing through: what lies under it may be anything, and its words are to be read."""
    for n in _own_literals(mender, at) - mender.frozen:
        colour = mender.literals[n]
        if _VEIL <= colour.a < 1 and all(_ITS_OWN.search(other) for other in mender.users_of(n)):
            mender.put(n, colour.opaque)


def _turn_back(mender: Mender, window: float | None, colours: Mapping[str, Rgba], settled: frozenset[int]) -> None:
    """Let what was as dark as the look is, in a light theme that turned dark, not turn light with the rest; or light.

    These are displays over others, buttons and menus of dark bars: greys of a tooltip's tint, apart as they came.
    """
    now = rgba_to_oklch(colours["window"])[0]
    if not mender.was or window is None or (window > 0.5) == (now > 0.5):
        return
    turned: dict[int, list[str]] = {}
    others: set[int] = set()
    for part in mender.parts:
        numbers = next((f for f in reversed(mender.roots_at(part.at).fills) if f), frozenset())
        own, faces = _own_lightness(mender, part.at), surfaces_under(mender.paint_at(part.at).layers, mender.behind)
        lightness, chroma, _ = rgba_to_oklch(_mean(faces)) if faces else (now, 0.0, 0.0)
        was_so = own is not None and abs(own - window) > _INVERSE and (own > 0.5) == (now > 0.5)
        if was_so and abs(lightness - now) > _INVERSE and chroma < _GREY:
            for n in numbers:
                turned.setdefault(n, []).append(part.at)
        elif not was_so:
            others |= numbers
    free = turned.keys() - others - settled - mender.frozen - mender.inks
    if not free:
        return
    lights = {n: rgba_to_oklch(mender.was[n].opaque)[0] for n in sorted(free)}
    middle, (lightness, chroma, hue) = sum(lights.values()) / len(lights), rgba_to_oklch(colours["tooltip"])
    for n, own in lights.items():
        light = (lightness if now <= 0.5 else now) + min(_MOST_APART, max(-_MOST_APART, own - middle))
        light = min(1.0, max(0.0, light))
        mender.put(n, oklch_to_rgbas(np.array([[light, chroma, hue]]))[0]._replace(a=mender.literals[n].a))
    _write_anew(mender, [at for n in free for at in turned[n]], colours["window_text"], settled)


def _selector(place: SurfacePlace, stronger: bool) -> str:
    more = _STRONGER["button" in place.selector] if stronger else ""
    return ", ".join(selector + more for selector in place.selector.split(", "))


def _drawn(mender: Mender, at: str) -> Rgba | None:
    """Return the colour in the middle of what lies at a place, None where the place itself draws nothing solid."""
    paint = mender.paint_at(at)
    own = paint.layers[-1] if paint.layers else ()
    if not own or max(c.a for c in own) < _VEIL:
        return None
    faces = surfaces_under(paint.layers, mender.behind)
    return _mean(faces) if faces else None


_MOST_APART = 0.1  # OKLab lightness up to which such parts stay apart
_GREY = 0.05  # OKLCh chroma below which a surface is a grey
_VEIL = 0.5  # opacity below which a place is not told from what lies under it


def _mean(colours: Sequence[Rgba]) -> Rgba:
    rows = [rgba_to_oklab(c.opaque) for c in colours]
    return oklab_to_rgba(*(sum(row[i] for row in rows) / len(rows) for i in range(3)))


def _own_literals(mender: Mender, at: str) -> frozenset[int]:
    fills = mender.roots_at(at).fills
    return fills[-1] if fills else frozenset()


def _own_lightness(mender: Mender, at: str) -> float | None:
    """Return how light a place was in the theme as it came."""
    paint = mender.paint_at(at, mender.was) if mender.was else None
    faces = surfaces_under(paint.layers, mender.behind) if paint is not None and any(paint.layers) else ()
    return rgba_to_oklch(_mean(faces))[0] if faces else None


def _is_inverse(mender: Mender, place: SurfacePlace, window: float | None, target: Rgba) -> bool:
    """Tell whether a part is meant otherwise than the windows, and than the look has it: dark bars suit a dark look."""
    own = _own_lightness(mender, place.at)
    if own is None or window is None or abs(own - window) <= _INVERSE:
        return False
    return (own > 0.5) != (window > 0.5) and (own > 0.5) != (rgba_to_oklch(target)[0] > 0.5)


def _moved(mender: Mender, at: str, numbers: frozenset[int], target: Rgba) -> bool:
    """Move literals together until what they draw is the target; put them back and say no where that does not come."""
    old = {n: mender.literals[n] for n in numbers}
    for _ in range(_TRIES):
        drawn = _drawn(mender, at)
        if drawn is None:
            break
        if colour_difference(drawn, target) <= 1.0:
            return True
        step = [b - a for a, b in zip(rgba_to_oklab(drawn), rgba_to_oklab(target), strict=True)]
        for n in numbers:
            mender.put(n, _shifted(mender.literals[n], step))
    drawn = _drawn(mender, at)
    if drawn is not None and colour_difference(drawn, target) <= _NEAR:
        return True
    for n, colour in old.items():
        mender.put(n, colour)
    return False


_TEXT_MORE = 1.03  # what words on a gradient get above their need


def _tinted(mender: Mender, at: str, numbers: frozenset[int], target: Rgba) -> bool:
    """Give the one literal of a translucent surface over the picture the target's colour, seen through as before."""
    *below, own = mender.paint_at(at).layers
    if len(numbers) > 1 or own[0].a == 1 or any(below):
        return False
    for n in numbers:
        mender.put(n, target._replace(a=mender.literals[n].a))
    return True


def _flatten(
    mender: Mender, place: SurfacePlace, numbers: frozenset[int], target: Rgba, colours: Mapping[str, Rgba]
) -> None:
    """Bring the stops of a gradient so near to its middle that the role's own text can be read on all of them."""
    text = colours.get(f"{place.roles[0]}_text")
    need = TEXT.raised(mender.behind.text_need).times(_TEXT_MORE)
    for _ in range(_TRIES):
        faces = surfaces_under(mender.paint_at(place.at).layers, mender.behind)
        if text is None or len(numbers) < 2 or all(need.holds(text, face) for face in faces):
            return
        for n in numbers:
            mender.put(n, mixed_in_oklab(mender.literals[n], target, 0.5)._replace(a=mender.literals[n].a))


def _take_states_along(mender: Mender, place: SurfacePlace, claimed: frozenset[int], old: Rgba, new: Rgba) -> None:
    """Move the surfaces of a place's states by the step that it took itself, where nothing else is drawn with them."""
    step = [b - a for a, b in zip(rgba_to_oklab(old), rgba_to_oklab(new), strict=True)]
    depth, plain = place.at.count(">"), _at_rest(place.at)
    states = [p for p in mender.parts if _at_rest(p.at).startswith(plain) and ":" in p.at.split(">")[depth]]
    own = frozenset().union(*(mender.roots_at(p.at).fills[depth] for p in states)) - claimed - mender.frozen
    for n in own - mender.inks:
        if all(_at_rest(at).startswith(plain) for at in mender.users_of(n)):
            mender.put(n, _shifted(mender.literals[n], step))


@lru_cache(maxsize=4096)
def _at_rest(at: str) -> str:
    """Return a place without its states, in a window whoever draws that one's title bar."""
    return _STATE_OR_BORDER.sub("", at)


_STATE_OR_BORDER = re.compile(r":[\w-]+|(?<=window\.background)\.(?:solid-)?csd")


def _take_words_along(mender: Mender, place: SurfacePlace, colours: Mapping[str, Rgba], chosen: frozenset[int]) -> None:
    """Give words of a bar that cannot be read on it now the ink of its role, where nothing else is written with them.

    Words that were light on a dark bar and have turned dark with the theme's other words would else become only as
    light as they must.
    """
    if place.name:
        mark = place.selector.partition(",")[0]
        ink = colours.get(f"{place.roles[0]}_text", colours["window_text"])
        _write_anew(mender, [p.at for p in mender.parts if mark in p.at], ink, chosen)


def _write_anew(mender: Mender, places: Iterable[str], ink: Rgba, settled: frozenset[int]) -> None:
    """Give words at some places that cannot be read an ink, where nothing else is written with their colour.

    settled: literals that are left to what they are, as those that a person gave a colour.
    """
    inside = frozenset(places)
    numbers = [i for i, part in enumerate(mender.parts) if part.at in inside]
    short = [pair.part for pair in mender.pairs(numbers) if pair.what == "text" and not pair.passes]
    for n in frozenset().union(*(mender.roots_at(part.at).text for part in short)) - mender.frozen - settled:
        if inside.issuperset(mender.users_of(n)):
            mender.put(n, ink._replace(a=mender.literals[n].a))


def _shifted(colour: Rgba, step: Sequence[float]) -> Rgba:
    lightness, a, b = (v + s for v, s in zip(rgba_to_oklab(colour.opaque), step, strict=True))
    return oklab_to_rgba(min(1.0, max(0.0, lightness)), a, b)._replace(a=colour.a)
