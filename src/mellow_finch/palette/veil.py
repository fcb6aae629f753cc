"""Translucent surfaces: the colours that are readable over the picture, and the least opacity that leaves any.

A translucent surface is judged as it is drawn: composited over the extremes of what lies behind it. Surfaces keep
their colour here; texts move, by the smallest change, until they read on all of it. Where no text will do, the surface
becomes less translucent.
"""

from __future__ import annotations

from collections.abc import Collection, Mapping
from dataclasses import dataclass

from ..colour.blend import over
from ..colour.contrast import ratio
from ..colour.rgb import Rgba
from ..language import tr
from ..picture.backdrop import Backdrop
from .fit import fit
from .pairs import PAIRS, RolePair

_STEPS = 100  # opacities are whole percents, which every reader can spell


@dataclass(frozen=True, slots=True)
class SurfaceKind:
    """A kind of surface that can be made translucent: the roles it fills, and where on the screen it may lie.

    over: roles of surfaces that it may lie on too, beside the picture; like: the kind whose roles it fills, and whose
    opacity it has until one is asked for itself.
    """

    id: str
    title: str
    roles: tuple[str, ...]
    place: str
    tip: str
    over: tuple[str, ...] = ()
    like: str = ""


KINDS: tuple[SurfaceKind, ...] = (
    SurfaceKind("windows", tr("Windows"), ("window",), "everywhere", tr("The body of windows of GTK programs")),
    SurfaceKind(
        "menus",
        tr("Menus"),
        ("menu",),
        "everywhere",
        tr("Menus and popovers of GTK programs and of the shell"),
        ("window",),
    ),
    SurfaceKind("panel", tr("Panel"), ("panel",), "panel", tr("The shell's panel, where its stylesheet fills it")),
    SurfaceKind("dock", tr("Dock"), (), "dock", tr("Docks, and the shell's bar of programs"), like="panel"),
    SurfaceKind("terminal", tr("Terminal"), ("terminal",), "everywhere", tr("Terminals that support translucency")),
    SurfaceKind("launchers", tr("Launchers"), (), "everywhere", tr("Windows that start programs"), like="menus"),
    SurfaceKind("notices", tr("Notifications"), ("notice",), "everywhere", tr("Notifications and on-screen displays")),
    SurfaceKind("widgets", tr("Widgets"), (), "widget", tr("Widgets on the wallpaper"), like="panel"),
)
KIND_BY_ID: dict[str, SurfaceKind] = {k.id: k for k in KINDS}
KIND_OF_ROLE: dict[str, SurfaceKind] = {role: k for k in KINDS for role in k.roles}


def whole_percent(alpha: float) -> float:
    """Return an opacity of 0..1 as the nearest whole percent."""
    return round(min(1.0, max(0.0, alpha)) * _STEPS) / _STEPS


def opacity_of(kind: SurfaceKind | None, opacity: Mapping[str, float]) -> float:
    """Return how opaque a kind of surface is, 0..1: as asked for it, or else for the kind that it is like."""
    if kind is None:
        return 1.0
    own = opacity.get(kind.id)
    return own if own is not None else opacity.get(kind.like, 1.0)


def is_asked(kind: SurfaceKind | None, opacity: Mapping[str, float]) -> bool:
    """Tell whether an opacity was asked of a kind of surface, or of the one that it is like."""
    return kind is not None and (kind.id in opacity or kind.like in opacity)


def as_drawn(
    colours: Mapping[str, Rgba], role: str, opacity: Mapping[str, float], kind: SurfaceKind | None = None
) -> Rgba:
    """Return a surface's colour as it is to be written: with the opacity of its kind, absent for opaque.

    kind: stands for the one that the role has of itself.
    """
    alpha = opacity_of(kind or KIND_OF_ROLE.get(role), opacity)
    return colours[role] if alpha >= 1 else colours[role]._replace(a=alpha)


def faces(
    colours: Mapping[str, Rgba],
    role: str,
    opacity: Mapping[str, float],
    backdrop: Backdrop,
    blur: bool,
    kind: SurfaceKind | None = None,
    place: str = "",
) -> tuple[Rgba, ...]:
    """Return every opaque colour that a surface can show: its own, and composited over what lies behind it.

    The own colour counts for translucent surfaces too: it is what shows where no compositor runs. kind and place, when
    given, stand for those that the role has of itself.
    """
    kind = kind or KIND_OF_ROLE.get(role)
    alpha = opacity_of(kind, opacity)
    own = colours[role]
    if kind is None or alpha >= 1:
        return (own,)
    top = own._replace(a=alpha)
    behind = (*backdrop.at(place or kind.place, blur), *(colours[r] for r in kind.over))
    return tuple(dict.fromkeys((own, *(over(top, c) for c in behind))))


def veiled(
    colours: Mapping[str, Rgba],
    opacity: Mapping[str, float],
    backdrop: Backdrop,
    blur: bool = False,
    held: Collection[str] = (),
    pairs: tuple[RolePair, ...] = PAIRS,
) -> tuple[dict[str, Rgba], dict[str, float]]:
    """Return the colours with texts moved so that they read over the picture, and the opacities that allow it.

    opacity: what is asked by kind, 0..1; what comes back is never less translucent than it must be. colours: a
    palette in which every pair passes; held: roles that do not move. Pure and deterministic.
    """
    asked = {k: whole_percent(v) for k, v in opacity.items() if k in KIND_BY_ID}
    drawn = {k: v for k, v in asked.items() if v < 1 and not KIND_BY_ID[k].like}
    now = dict(colours)
    while drawn:
        found, stuck = _moved(colours, drawn, backdrop, blur, held, pairs)
        if not stuck:
            now = found
            break
        for kind in stuck:
            drawn[kind] = whole_percent(drawn[kind] + 1 / _STEPS)
            if drawn[kind] >= 1:
                del drawn[kind]
    for name, alpha in asked.items():  # these have no roles of their own: each component's texts give way there
        if KIND_BY_ID[name].like:
            least = alpha if alpha >= 1 else least_opacity(colours, name, {}, backdrop, blur, held, pairs)
            drawn[name] = max(alpha, least)
    return now, drawn


def _moved(
    colours: Mapping[str, Rgba],
    opacity: Mapping[str, float],
    backdrop: Backdrop,
    blur: bool,
    held: Collection[str],
    pairs: tuple[RolePair, ...],
    kinds: Mapping[str, SurfaceKind] = KIND_OF_ROLE,
) -> tuple[dict[str, Rgba], set[str]]:
    """Return the colours with texts moved, and the kinds that stand in the way of one that cannot be.

    kinds: the kind of surface by role.
    """
    now = dict(colours)
    rows: dict[str, list[RolePair]] = {}
    for pair in pairs:
        rows.setdefault(pair.text, []).append(pair)
    surfaces = {p.surface for p in pairs}
    see_through = {role for role, kind in kinds.items() if kind.id in opacity}
    touched = {text for text, own in rows.items() if any(p.surface in see_through for p in own)}
    for text in sorted(rows, key=lambda t: t not in surfaces):
        own = rows[text]
        if text not in touched and all(now[p.surface] == colours[p.surface] for p in own):
            continue
        needs = [
            (face, p.need.level)
            for p in own
            for face in faces(now, p.surface, opacity, backdrop, blur, kinds.get(p.surface))
        ]
        if text in held:
            if all(ratio(now[text], face) >= need for face, need in needs):
                continue
            found = None
        else:
            needs += [(now[p.text], p.need.level) for p in pairs if p.surface == text and p.text in held]
            found = fit(now[text], needs)
        if found is None:
            stuck = {kinds[p.surface].id for p in own if p.surface in kinds}
            return now, (stuck & set(opacity)) or set(opacity)
        now[text] = found
    return now, set()


def least_opacity(
    colours: Mapping[str, Rgba],
    kind: str,
    others: Mapping[str, float],
    backdrop: Backdrop,
    blur: bool = False,
    held: Collection[str] = (),
    pairs: tuple[RolePair, ...] = PAIRS,
) -> float:
    """Return the smallest opacity of a kind, 0..1, at which texts can still be moved to where they read.

    others: the opacities of the other kinds, which stay. 1 when nothing less will do.
    """
    low, high = 0, _STEPS
    own = KIND_BY_ID[kind]
    kinds = dict.fromkeys(KIND_BY_ID[own.like].roles, own) if own.like else KIND_OF_ROLE
    while low < high:
        middle = (low + high) // 2
        opacity = {**others, kind: middle / _STEPS}
        stuck = _moved(colours, opacity, backdrop, blur, held, pairs, kinds)[1]
        if stuck:
            low = middle + 1
        else:
            high = middle
    return low / _STEPS
