"""Every role as it would be with no thought of contrast: where solving starts from."""

from __future__ import annotations

import math
from collections.abc import Mapping
from functools import lru_cache
from types import MappingProxyType

import numpy as np

from ..colour.blend import mixed_in_oklab
from ..colour.contrast import luminance, ratio
from ..colour.gamut import oklch_to_rgba, oklch_to_rgbas, rgba_to_oklch
from ..colour.requirement import TEXT
from ..colour.rgb import Rgba
from ..palette.roles import ROLE_IDS
from .ansi import ANSI_HUES, ansi_set
from .recipe import MOST_TINT, Recipe, Tone
from .roles import FOLLOWS
from .temper import ACCENTED, Temper

Lch = tuple[float, float, float]
_MOST_COLOUR = 0.085  # OKLCH chroma of surfaces that take the most colour
_WARM_DEG = 68.0  # the hue that reads as warm; cold is opposite
_WARMTH = 0.022  # OKLab offset of the warmest and the coldest surfaces
_DEPTH = {"dark": 0.09, "light": 0.035}  # OKLab lightness by which the deepest surfaces lie farther from the text
_NEUTRAL = Temper()

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
        "ansi_0": 0.150,
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

STATUS_HUES = {"success": 155.0, "warning": 78.0, "error": 25.0}
# Lightness tells them apart too, for eyes to which red and green are one.
_STATUS_FILLS = {"success": 0.650, "warning": 0.810, "error": 0.510}
_STATUS_INKS = {
    "dark": {"success": 0.762, "warning": 0.940, "error": 0.645},
    "light": {"success": 0.425, "warning": 0.548, "error": 0.300},
}
_ACTIVE = {"panel": ("panel_active",), "header": (), "border": (), "menu": ("menu_hover",)}
_IDLE_SHARE = 0.35  # how much of the accent a bar without focus takes of what it takes with focus


class _Mixer:
    """Works out single roles of one recipe, tone and temper."""

    def __init__(self, recipe: Recipe, tone: Tone, temper: Temper) -> None:
        self.dark = tone == "dark"
        self.tone, self.temper = tone, temper
        accent_l, accent_c, self.accent_h = recipe.accent_oklch
        tint = min(recipe.tint, MOST_TINT)
        most = max(0.0, temper.colourfulness - 1)
        self.tint = tint * min(1.0, temper.colourfulness) + most * max(0.0, _MOST_COLOUR - tint)
        self.hue = recipe.hue_deg if recipe.tint > 0 else self.accent_h
        self.accent_l, self.accent_c = accent_l, accent_c * temper.strength
        self.vivid = min(self.accent_c, 0.16)

    def neutral(self, lightness: float, part: float) -> Lch:
        """Return a tinted grey: part is how much of the tint it takes."""
        chroma, hue = self.tint * part, self.hue
        if not self.temper.warmth:
            return lightness, chroma, hue
        angle, warm = math.radians(hue), math.radians(_WARM_DEG)
        push = self.temper.warmth * _WARMTH * part
        a = chroma * math.cos(angle) + push * math.cos(warm)
        b = chroma * math.sin(angle) + push * math.sin(warm)
        return lightness, math.hypot(a, b), math.degrees(math.atan2(b, a)) % 360

    def surface(self, name: str) -> Lch:
        """Return a surface, its level tempered."""
        level, part = _SURFACES[self.tone][name]
        middle = _SURFACES[self.tone]["window"][0]
        if name not in _FIXED_LEVELS:
            level = middle + (level - middle) * self.temper.spread
            level += self.temper.depth * (-_DEPTH["dark"] if self.dark else _DEPTH["light"])
        return self.neutral(min(0.997, max(0.02, level)), part)

    def accented(self, lightness: float, share: float) -> Lch:
        """Return a colour of the accent's family."""
        return lightness, self.vivid * share, self.accent_h

    def opposite(self, fill: Rgba) -> Rgba:
        """Return a near-white or near-black of the surfaces' hue, whichever reads better on the fill."""
        light = oklch_to_rgba(0.985, self.tint * 0.2, self.hue)
        dark = oklch_to_rgba(0.180, self.tint * 0.5, self.hue)
        return light if ratio(light, fill) >= ratio(dark, fill) else dark


_FIXED_LEVELS = ("shadow", "outline", "divider", "tooltip")  # levels that neither spread nor depth moves


def wanted_palette(recipe: Recipe, tone: Tone, temper: Temper = _NEUTRAL) -> Mapping[str, Rgba]:
    """Return every role as it would be with no thought of contrast. Pure; the same arguments give the same palette."""
    return _wanted(recipe, tone, temper)


@lru_cache(maxsize=64)
def _wanted(recipe: Recipe, tone: Tone, temper: Temper) -> Mapping[str, Rgba]:
    m = _Mixer(recipe, tone, temper)
    dark = m.dark
    rows: dict[str, Lch] = {name: m.surface(name) for name in _SURFACES[tone]}
    rows |= {name: m.neutral(level, 0.35) for name, level in _TEXTS[tone].items()}
    rows["selection"] = m.accented(0.420 if dark else 0.830, 0.75 if dark else 0.55)
    rows["selection_text"] = m.neutral(0.965 if dark else 0.220, 0.3)
    rows["selection_idle"] = m.accented(0.360 if dark else 0.870, 0.25)
    rows["selection_idle_text"] = m.neutral(0.930 if dark else 0.260, 0.3)
    rows["menu_hover"] = m.accented(0.400 if dark else 0.880, 0.6 if dark else 0.4)
    rows["menu_hover_text"] = rows["selection_text"]
    rows["panel_active"] = m.accented(0.330 if dark else 0.820, 0.5)
    rows["panel_active_text"] = m.neutral(0.960 if dark else 0.220, 0.3)
    rows["terminal_selection"], rows["terminal_selection_text"] = rows["selection"], rows["selection_text"]
    rows["focus"] = m.accented(0.760 if dark else 0.520, 1.0)
    rows["link"] = m.accented(0.790 if dark else 0.480, 0.85)
    visited = max(m.vivid * 0.7, 0.05 * min(1.0, temper.strength))
    rows["link_visited"] = (0.770 if dark else 0.460, visited, m.accent_h + 55)
    rows["cursor"] = m.accented(0.780 if dark else 0.480, 0.9)
    rows["widget_accent"] = m.accented(0.800 if dark else 0.430, 0.9)
    lean = 0.65 * 0.135 + 0.35 * min(max(m.accent_c, 0.06), 0.18)
    for name, own_hue in STATUS_HUES.items():
        rows[name] = (_STATUS_FILLS[name] + 0.12 * (m.accent_l - 0.62), lean, own_hue)
        rows[f"{name}_ink"] = (_STATUS_INKS[tone][name], lean * 0.9, own_hue)
    strength = max(0.095, min(0.15, lean))
    light = {1: 0.70, 2: 0.76, 3: 0.82, 4: 0.70, 5: 0.73, 6: 0.79} if dark else dict.fromkeys(range(1, 7), 0.50)
    for i, own_hue in ANSI_HUES.items():
        rows[f"ansi_{i}"] = (light[i], strength, own_hue)
        rows[f"ansi_{i + 8}"] = (light[i] + (0.07 if dark else -0.06), strength * 1.05, own_hue)
    out = dict(zip(rows, oklch_to_rgbas(np.array(list(rows.values()))), strict=True))
    out["accent"] = recipe.accent.opaque
    if temper.strength != 1:
        out["accent"] = oklch_to_rgba(m.accent_l, m.accent_c, m.accent_h)
    for name in ("accent", *STATUS_HUES):
        out[f"{name}_text"] = m.opposite(out[name])
    out |= {follower: out[leader] for follower, leader in FOLLOWS.items()}
    for name, share in temper.accented.items():
        if share > 0:
            _take_accent(out, name, share, m)
    out["cursor_text"] = out["terminal"]
    out |= ansi_set(out, out["terminal"], temper.text_need)
    if dark and luminance(out["ansi_0"]) > luminance(out["terminal"]):
        out["ansi_0"] = out["terminal"]  # programs write black on the colours: then it reads where the ground would
    if lacking := [role for role in ROLE_IDS if role not in out]:
        raise NotImplementedError(f"palette/wanted.py does not say what {', '.join(lacking)} is to be")
    return MappingProxyType(out)


def _take_accent(out: dict[str, Rgba], name: str, share: float, m: _Mixer) -> None:
    """Let a surface take its share of the accent; its text and its picked-out form go along."""
    rows = [(name, share)]
    if f"{name}_idle" in out:
        rows.append((f"{name}_idle", share * _IDLE_SHARE))
    for surface, part in rows:
        out[surface] = mixed_in_oklab(out[surface], out["accent"], part)
        text = f"{surface}_text"
        if not TEXT.raised(m.temper.text_need).holds(out[text], out[surface]):
            out[text] = m.opposite(out[surface])
    for active in _ACTIVE[name]:
        # The picked-out form lies beside the surface, on the far side of its text, so that both can be read.
        lightness, chroma, hue = rgba_to_oklch(out[name])
        away = 0.09 if luminance(out[f"{name}_text"]) < luminance(out[name]) else -0.09
        if not 0.1 < lightness + away < 0.95:
            away = -away
        out[active] = mixed_in_oklab(out[active], oklch_to_rgba(lightness + away, chroma, hue), min(1.0, share * 2))
        out[f"{active}_text"] = m.opposite(out[active])


assert set(ACCENTED) == set(_ACTIVE)
