"""Translucent surfaces on the desktop that runs: opaque where nothing composites, and in the words of its settings."""

from __future__ import annotations

from dataclasses import replace

from ..colour.rgb import Rgba
from ..components.write.template import css_colour
from ..look.edits import with_blur
from ..look.model import Look
from ..palette.veil import KIND_BY_ID, KINDS, as_drawn, opacity_of
from ..session.base import DesktopSession

COMPOSITOR = "compositor"  # the companion that starts one


def starts_compositor(look: Look) -> bool:
    """Tell whether a look starts a compositor where none runs."""
    return look.companions.get(COMPOSITOR) == "on"


def nothing_composites(look: Look, session: DesktopSession) -> bool:
    """Tell whether translucent surfaces would lie on black here: no compositor runs, and the look starts none."""
    return bool(look.opacity) and not starts_compositor(look) and session.compositor() is False


def nothing_blurs(look: Look, session: DesktopSession) -> bool:
    """Tell whether translucent surfaces that a look counts on to be blurred would not be."""
    asked = look.blur and bool(look.opacity) and not nothing_composites(look, session)
    return asked and session.blurs(starts_compositor(look)) is False


def as_drawn_here(look: Look, session: DesktopSession) -> Look:
    """Return the look as it is to be written here: opaque where nothing composites, sharp where nothing blurs."""
    if nothing_composites(look, session):
        return replace(look, drawn={})
    return with_blur(look, False) if nothing_blurs(look, session) else look


def surface_words(look: Look) -> dict[str, str]:
    """Return what settings of desktops say of a look's surfaces, by word; empty where nothing was asked.

    KIND_shine: whether an opacity was asked of it; KIND_alpha: 0..1; KIND_percent, KIND_lacking: of 100; KIND_rgba,
    KIND_hex: the colour behind it, as stylesheets spell it; shine, soft: whether anything is translucent, and whether
    the desktop is to blur what is behind.
    """
    opacity = look.drawn_opacity()
    words: dict[str, str] = {"accent_hex": look.colours["accent"].hex}
    for kind in KINDS:
        roles = kind.roles or KIND_BY_ID[kind.like].roles
        colour: Rgba = as_drawn(look.colours, roles[0], opacity, kind)
        words |= {
            f"{kind.id}_shine": "yes" if opacity_of(kind, opacity) < 1 else "",
            f"{kind.id}_alpha": f"{colour.a:.2f}",
            f"{kind.id}_percent": str(round(colour.a * 100)),
            f"{kind.id}_lacking": str(100 - round(colour.a * 100)),
            f"{kind.id}_rgba": css_colour(colour),
            f"{kind.id}_hex": colour.hex,
        }
    shine = any(alpha < 1 for alpha in opacity.values())
    return {**words, "shine": "yes" if shine else "", "soft": "yes" if shine and look.blur else ""}
