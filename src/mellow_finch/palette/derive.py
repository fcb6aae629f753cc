"""From the colours of a picture to a whole palette, dark and light, in which every pair passes."""

from __future__ import annotations

from collections.abc import Collection, Mapping, Sequence
from dataclasses import dataclass
from typing import Literal

from ..colour.contrast import ratio
from ..colour.gamut import oklch_to_rgba, rgba_to_oklch
from ..colour.rgb import Rgba
from ..picture.swatches import Swatch
from .solve import solve

Tone = Literal["dark", "light"]
TONES: tuple[Tone, Tone] = ("dark", "light")

GREY_CHROMA = 0.012  # below this a picture counts as grey and gives grey surfaces
MOST_TINT = 0.04


@dataclass(frozen=True, slots=True)
class Recipe:
    """What a palette is derived from.

    accent: the colour that the accent starts from; hue_deg: the surfaces' hue; tint: the surfaces' OKLCH chroma
    at its strongest, 0..0.04.
    """

    accent: Rgba
    hue_deg: float
    tint: float

    @property
    def accent_oklch(self) -> tuple[float, float, float]:
        """Return L, C, h of the accent."""
        return rgba_to_oklch(self.accent)


# Lightness of each surface, and how much of the tint it takes. Dark windows lie near 0.24, light ones near 0.96.
_SURFACES: Mapping[Tone, Mapping[str, tuple[float, float]]] = {
    "dark": {
        "window": (0.240, 0.8),
        "view": (0.205, 0.7),
        "sidebar": (0.222, 0.8),
        "card": (0.280, 0.8),
        "header": (0.272, 0.9),
        "header_idle": (0.250, 0.7),
        "menu": (0.290, 0.9),
        "panel": (0.178, 1.0),
        "control": (0.325, 0.9),
        "control_hover": (0.365, 1.0),
        "control_pressed": (0.275, 0.9),
        "tooltip": (0.335, 0.9),
        "notice": (0.300, 0.9),
        "terminal": (0.188, 0.8),
        "divider": (0.350, 0.9),
        "shadow": (0.08, 0.5),
        "outline": (0.600, 0.8),
    },
    "light": {
        "window": (0.955, 0.35),
        "view": (0.988, 0.15),
        "sidebar": (0.932, 0.45),
        "card": (0.978, 0.2),
        "header": (0.915, 0.6),
        "header_idle": (0.940, 0.4),
        "menu": (0.982, 0.2),
        "panel": (0.895, 0.8),
        "control": (0.905, 0.5),
        "control_hover": (0.870, 0.6),
        "control_pressed": (0.830, 0.7),
        "tooltip": (0.300, 0.9),
        "notice": (0.972, 0.3),
        "terminal": (0.975, 0.3),
        "divider": (0.850, 0.6),
        "shadow": (0.30, 0.5),
        "outline": (0.580, 0.8),
    },
}
# Lightness of texts and the chroma they carry of the surfaces' hue, as a share of the tint.
_TEXTS: Mapping[Tone, Mapping[str, float]] = {
    "dark": {
        "window_text": 0.920,
        "view_text": 0.925,
        "sidebar_text": 0.890,
        "card_text": 0.925,
        "header_text": 0.935,
        "header_idle_text": 0.760,
        "menu_text": 0.920,
        "panel_text": 0.915,
        "control_text": 0.935,
        "disabled_text": 0.660,
        "tooltip_text": 0.940,
        "notice_text": 0.930,
        "terminal_text": 0.900,
        "widget_text": 0.940,
        "ansi_0": 0.330,
        "ansi_7": 0.850,
        "ansi_8": 0.590,
        "ansi_15": 0.970,
    },
    "light": {
        "window_text": 0.255,
        "view_text": 0.240,
        "sidebar_text": 0.285,
        "card_text": 0.240,
        "header_text": 0.240,
        "header_idle_text": 0.470,
        "menu_text": 0.250,
        "panel_text": 0.240,
        "control_text": 0.240,
        "disabled_text": 0.525,
        "tooltip_text": 0.950,
        "notice_text": 0.250,
        "terminal_text": 0.270,
        "widget_text": 0.240,
        "ansi_0": 0.240,
        "ansi_7": 0.480,
        "ansi_8": 0.600,
        "ansi_15": 0.330,
    },
}
# OKLCH hues that keep the terminal colours' names, and status colours' meaning.
ANSI_HUES = {1: 24.0, 2: 145.0, 3: 92.0, 4: 258.0, 5: 325.0, 6: 200.0}
_STATUS = {"success": 150.0, "warning": 78.0, "error": 25.0}


def surface_tint(swatches: Sequence[Swatch]) -> tuple[float, float]:
    """Return the hue (degrees) and chroma of a picture's large areas; a grey picture gives chroma 0."""
    total = sum(s.share for s in swatches) or 1.0
    mean = sum(s.share * s.oklch[1] for s in swatches) / total
    if mean < GREY_CHROMA or not swatches:
        return 0.0, 0.0
    lead = max(swatches, key=lambda s: s.share * min(s.oklch[1], 0.12))
    return lead.oklch[2], min(MOST_TINT, 0.25 * mean + 0.006)


def accent_candidates(swatches: Sequence[Swatch], least: int = 3) -> tuple[Rgba, ...]:
    """Return at least three colours to take as accent, the most telling first.

    Telling is much chroma, enough area or one clear small area, and a hue apart from the surfaces. Pictures with
    hardly any colour lend their faint hues, strengthened; greys get quiet hues of our own.
    """
    hue, tint = surface_tint(swatches)

    def telling(s: Swatch) -> float:
        lightness, chroma, own_hue = s.oklch
        apart = abs((own_hue - hue + 180) % 360 - 180) / 180 if tint else 0.5
        area = min(1.0, float((s.share / 0.06) ** 0.4))
        usable = 1 - abs(lightness - 0.62)
        return min(chroma, 0.22) / 0.22 * (0.55 + 0.45 * area) * (0.75 + 0.25 * apart) * usable

    found: list[Rgba] = []

    def take(colour: Rgba) -> None:
        own = rgba_to_oklch(colour)
        for other in found:
            theirs = rgba_to_oklch(other)
            if abs((own[2] - theirs[2] + 180) % 360 - 180) < 28 and abs(own[1] - theirs[1]) < 0.1:
                return
        found.append(colour)

    for swatch in sorted((s for s in swatches if s.oklch[1] >= 0.04), key=telling, reverse=True):
        take(swatch.colour)
    for swatch in sorted((s for s in swatches if 0.008 <= s.oklch[1] < 0.04), key=telling, reverse=True):
        if len(found) < least:
            take(oklch_to_rgba(0.66, 0.085, swatch.oklch[2]))
    start = rgba_to_oklch(found[0])[2] if found else 235.0
    for turn in (0.0, 150.0, 210.0, 60.0, 300.0):
        if len(found) < least:
            take(oklch_to_rgba(0.66, 0.075, start + turn))
    return tuple(found)


def wanted_palette(recipe: Recipe, tone: Tone) -> dict[str, Rgba]:
    """Return every role as it would be with no thought of contrast: where solving starts from."""
    hue, tint = recipe.hue_deg, min(recipe.tint, MOST_TINT)
    accent_l, accent_c, accent_h = recipe.accent_oklch
    vivid = min(accent_c, 0.16)
    dark = tone == "dark"
    out = {name: oklch_to_rgba(level, tint * part, hue) for name, (level, part) in _SURFACES[tone].items()}
    out |= {name: oklch_to_rgba(level, tint * 0.35, hue) for name, level in _TEXTS[tone].items()}
    out["accent"] = recipe.accent.opaque

    def accented(lightness: float, share: float) -> Rgba:
        return oklch_to_rgba(lightness, vivid * share, accent_h)

    out["selection"] = accented(0.420 if dark else 0.830, 0.75 if dark else 0.55)
    out["selection_text"] = oklch_to_rgba(0.965 if dark else 0.220, tint * 0.3, hue)
    out["selection_idle"] = accented(0.360 if dark else 0.870, 0.25)
    out["selection_idle_text"] = oklch_to_rgba(0.930 if dark else 0.260, tint * 0.3, hue)
    out["menu_hover"] = accented(0.400 if dark else 0.880, 0.6 if dark else 0.4)
    out["menu_hover_text"] = out["selection_text"]
    out["panel_active"] = accented(0.330 if dark else 0.820, 0.5)
    out["panel_active_text"] = oklch_to_rgba(0.960 if dark else 0.220, tint * 0.3, hue)
    out["terminal_selection"], out["terminal_selection_text"] = out["selection"], out["selection_text"]
    out["focus"] = accented(0.760 if dark else 0.520, 1.0)
    out["link"] = accented(0.790 if dark else 0.480, 0.85)
    out["link_visited"] = oklch_to_rgba(0.770 if dark else 0.460, max(vivid * 0.7, 0.05), accent_h + 55)
    out["cursor"] = accented(0.780 if dark else 0.480, 0.9)
    out["cursor_text"] = out["terminal"]
    out["widget_accent"] = accented(0.800 if dark else 0.430, 0.9)
    out["accent_text"] = _opposite(out["accent"], hue, tint)
    lean = 0.65 * 0.135 + 0.35 * min(max(accent_c, 0.06), 0.18)
    for name, own_hue in _STATUS.items():
        fill = {"success": 0.56, "warning": 0.79, "error": 0.56}[name] + 0.12 * (accent_l - 0.62)
        out[name] = oklch_to_rgba(fill, lean, own_hue)
        out[f"{name}_text"] = _opposite(out[name], hue, tint)
        out[f"{name}_ink"] = oklch_to_rgba(0.790 if dark else 0.480, lean * 0.9, own_hue)
    strength = max(0.095, min(0.15, lean))
    for i, own_hue in ANSI_HUES.items():
        light = {1: 0.70, 2: 0.76, 3: 0.82, 4: 0.70, 5: 0.73, 6: 0.79} if dark else dict.fromkeys(range(1, 7), 0.50)
        raised = 0.07 if dark else -0.06
        out[f"ansi_{i}"] = oklch_to_rgba(light[i], strength, own_hue)
        out[f"ansi_{i + 8}"] = oklch_to_rgba(light[i] + raised, strength * 1.05, own_hue)
    return out


def _opposite(fill: Rgba, hue: float, tint: float) -> Rgba:
    """Return a near-white or near-black of the surfaces' hue, whichever reads better on the fill."""
    light, dark = oklch_to_rgba(0.985, tint * 0.2, hue), oklch_to_rgba(0.180, tint * 0.5, hue)
    return light if ratio(light, fill) >= ratio(dark, fill) else dark


def derive(
    recipe: Recipe, tone: Tone, held: Mapping[str, Rgba] | None = None, text_need: float = 0.0
) -> dict[str, Rgba]:
    """Return a palette of every role in which every pair passes.

    held: roles with the colours that they must have. Raises ImpossibleLocksError when those leave no solution.
    """
    colours = wanted_palette(recipe, tone)
    fixed: Collection[str] = ()
    if held:
        colours |= held
        fixed = tuple(held)
    return solve(colours, fixed, text_need=text_need)
