"""A small picture of a look for the lists in which desktops show their themes: a panel, a window, its controls."""

from __future__ import annotations

import io
from collections.abc import Mapping
from functools import lru_cache

from PIL import Image, ImageDraw

from ...colour.blend import mixed_in_srgb
from ...colour.rgb import Rgba

_WIDE, _HIGH = 600, 375
_PACKED = 2  # of 9: drawings with few colours are small in any case
_TWICE = 2  # drawn so many times as large, then reduced, so that edges are smooth


_SHOWN = (
    *("panel", "panel_text", "panel_active", "window", "window_text", "divider", "header", "header_text", "view"),
    *("view_text", "outline", "selection", "selection_text", "control", "control_text", "accent", "accent_text"),
    *("menu", "menu_text", "menu_hover", "menu_hover_text", *(f"ansi_{i}" for i in range(1, 7))),
)


def theme_preview(colours: Mapping[str, Rgba], width: int = _WIDE) -> bytes:
    """Return the picture as a PNG. colours: every role; width: in pixels, the height follows at 8 to 5."""
    image = _drawn(tuple((role, colours[role]) for role in _SHOWN))
    if width != _WIDE:
        image = image.resize((width, round(width * _HIGH / _WIDE)), Image.Resampling.BICUBIC)
    out = io.BytesIO()
    image.save(out, "PNG", compress_level=_PACKED)
    return out.getvalue()


@lru_cache(maxsize=2)  # several desktops show the same one in other sizes
def _drawn(rows: tuple[tuple[str, Rgba], ...]) -> Image.Image:
    colours = dict(rows)
    image = _ground(colours).resize((_WIDE * _TWICE, _HIGH * _TWICE), Image.Resampling.NEAREST)
    draw = ImageDraw.Draw(image)

    def box(x: float, y: float, w: float, h: float, role: str, radius: float = 0, edge: str = "") -> None:
        shape = tuple(v * _TWICE for v in (x, y, x + w, y + h))
        outline = colours[edge][:3] if edge else None
        draw.rounded_rectangle(shape, radius * _TWICE, colours[role][:3], outline, _TWICE if edge else 0)

    def lines(x: float, y: float, widths: tuple[float, ...], role: str, step: float = 16) -> None:
        for i, w in enumerate(widths):
            box(x, y + i * step, w, 5, role, 2.5)

    box(0, 0, _WIDE, 26, "panel")
    lines(14, 11, (46,), "panel_text")
    lines(270, 11, (60,), "panel_text")
    box(540, 5, 46, 16, "panel_active", 4)
    box(60, 62, 330, 250, "window", 8, "divider")
    box(60, 62, 330, 34, "header", 8)
    box(60, 84, 330, 12, "header")
    lines(180, 76, (90,), "header_text")
    lines(84, 120, (110, 150, 90), "window_text")
    box(84, 176, 282, 82, "view", 4, "outline")
    lines(98, 190, (140, 170), "view_text", 20)
    box(86, 226, 278, 24, "selection", 3)
    lines(98, 235, (120,), "selection_text")
    box(196, 270, 78, 28, "control", 5, "outline")
    lines(214, 281, (42,), "control_text")
    box(286, 270, 80, 28, "accent", 5)
    lines(305, 281, (42,), "accent_text")
    box(360, 140, 150, 130, "menu", 7, "divider")
    lines(378, 158, (90, 70), "menu_text", 22)
    box(366, 194, 138, 24, "menu_hover", 4)
    lines(378, 203, (84,), "menu_hover_text")
    lines(378, 232, (60, 96), "menu_text", 20)
    for i in range(1, 7):
        box(418 + (i - 1) * 26, 296, 18, 18, f"ansi_{i}", 9)
    return image.reduce(_TWICE)


def _ground(colours: Mapping[str, Rgba]) -> Image.Image:
    """Return a strip, one pixel wide, of what lies behind: from the accent to the panel, neither of them whole."""
    top = mixed_in_srgb(colours["accent"], colours["window"], 0.55)
    low = mixed_in_srgb(colours["panel"], colours["selection"], 0.5)
    strip = Image.new("RGB", (1, _HIGH))
    strip.putdata([mixed_in_srgb(top, low, y / _HIGH)[:3] for y in range(_HIGH)])
    return strip
