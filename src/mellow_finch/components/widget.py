"""A desktop widget's Lua table that exists already, recoloured in place."""

from __future__ import annotations

from ..colour.rgb import Rgba
from ..syntax.literals import read_literal
from ..syntax.lua import lua_settings, read_spelling, scan_lua
from ..syntax.spans import Rescanner
from .model import Component, Files, OutFile, Paint, Part, Scheme, as_bytes, text_of
from .rewriting import recoloured

PLACES = (".config/conky/conky.conf", ".config/conky/*.conf", ".config/conky/*/*.conf", ".conkyrc")
_INLINE = 24  # colours inside the widget's text that are followed
_TABLE = 6  # colours of drawing tables that are followed
PARTS: tuple[Part, ...] = (
    Part(
        id="widget",
        text="default_color",
        fill="own_window_colour",
        text_role="widget_text",
        fill_role="panel",
        on_picture=True,
        place="widget",
    ),
    *(
        Part(
            id=f"widget colour {i}",
            text=f"color{i}",
            fill="own_window_colour",
            text_role="widget_accent",
            fill_role="panel",
            on_picture=True,
            place="widget",
        )
        for i in range(10)
    ),
    *(
        Part(
            id=f"widget text colour {i}",
            fill="own_window_colour",
            text_role="widget_accent",
            fill_role="panel",
            on_picture=True,
            place="widget",
        )
        for i in range(1, _INLINE + 1)
    ),
)


_scan = Rescanner(scan_lua, read_literal)


def read_lua(text: str) -> dict[str, Paint]:
    """Return what a widget's table says: every text colour over the widget's backing."""
    settings = lua_settings(text)
    spans = _scan(text)
    fill = _backing(settings)
    layers = ((fill,),) if fill is not None and fill.a > 0 else ()
    out: dict[str, Paint] = {}
    for part in PARTS:
        if part.text:
            colour = read_spelling(settings.get(part.text, ""))
            if colour is not None:
                out[part.key] = Paint(fill, colour, None, (), layers[0] if layers else ())
    inline = [
        s for s in spans if s.key in ("color", "shadecolor", "outlinecolor") or "graph" in s.key or "gradient" in s.key
    ]
    for i, span in enumerate((s for s in inline if s.key == "color" or "graph" in s.key), 1):
        if i <= _INLINE:
            out[f"widget text colour {i}"] = Paint(fill, span.colour, None, (), layers[0] if layers else ())
    return out


def _backing(settings: dict[str, str]) -> Rgba | None:
    """Return the colour that the widget's window is filled with, translucency included."""
    if settings.get("own_window") != "true":
        return None
    colour = read_spelling(settings.get("own_window_colour", "000000")) or Rgba(0, 0, 0)
    if settings.get("own_window_transparent") == "true":
        return colour._replace(a=0.0)
    if settings.get("own_window_argb_visual") == "true":
        value = settings.get("own_window_argb_value", "255")
        return colour._replace(a=min(255, int(value)) / 255 if value.isdigit() else 1.0)
    return colour


def place_of(get: Files) -> str:
    """Return the path of the first widget configuration in this home, empty when it has none."""
    for pattern in PLACES:
        for path in get.find(pattern):
            if "conky.config" in text_of(get, path):
                return path
    return ""


def write_widget(scheme: Scheme, get: Files) -> tuple[OutFile, ...]:
    """Return the configuration recoloured, nothing when there is none."""
    path = place_of(get)
    if not path:
        return ()
    return (
        OutFile(
            path, as_bytes(recoloured(text_of(get, path), scan_lua, read_lua, PARTS, scheme, "widget", alpha=False))
        ),
    )


def read_widget(get: Files) -> dict[str, Paint]:
    """Return what the configuration in place says."""
    path = place_of(get)
    return read_lua(text_of(get, path)) if path else {}


WIDGET = Component(
    id="widget",
    title="Desktop widget",
    kind="Widgets",
    reads="Conky, which draws the widget on the picture",
    effect="at once",
    restart="The widget picks a saved file up by itself within a second or two.",
    parts=PARTS,
    write=write_widget,
    read=read_widget,
    rewrites=True,
    needs_file="a widget configuration",
)
