"""The two current generations of the GTK toolkit: whole themes of our own, and the named colours of its library."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from functools import cache, lru_cache
from importlib.resources import files

import numpy as np

from ...colour.contrast import luminance, ratio
from ...colour.gamut import oklch_to_rgba, oklch_to_rgbas, rgba_to_oklch
from ...colour.requirement import DISABLED
from ...colour.rgb import Rgba
from ...language import tr
from ...palette.fit import fit
from ...recolour.names import LIBRARY_NAMES, LIBRARY_VARIABLES, PUBLIC_NAMES
from ...syntax.cascade import paint_all
from ...syntax.ini import read_ini, set_keys
from ...syntax.region import put_region
from ..files import Files, OutFile, as_bytes, text_of
from ..model import Component, ComponentSetting, Paint, Paints, Part, Scheme, painted
from ..rehearsal import Rehearsal
from .gtk_parts import GTK3_PARTS, GTK4_PARTS
from .template import css_colour
from .user_sheet import UserSheet


@cache
def _data(name: str) -> str:
    return files("mellow_finch.components").joinpath("data", name).read_text(encoding="utf-8")


def _between(text: Rgba, surface: Rgba, part: float) -> Rgba:
    r, g, b = (round(t + (s - t) * part) for t, s in zip(text[:3], surface[:3], strict=True))
    return Rgba(r, g, b)


def _dim(scheme: Scheme, text: str, *surfaces: str) -> Rgba:
    """Return a quieter form of a text that is still readable on all the surfaces as they are drawn."""
    colours = scheme.colours
    quiet = _between(colours[text], colours[surfaces[0]], 0.28)
    rows = [(face, scheme.text_need) for s in surfaces for face in scheme.faces(s)]
    return fit(quiet, rows) or colours[text]


def _away(fill: Rgba, text: Rgba, by: float) -> Rgba:
    """Return a fill moved away from the text on it, so that the text stays as readable as it was."""
    lightness, chroma, hue = rgba_to_oklch(fill)
    lighter = luminance(fill) > luminance(text)
    moved = lightness + by if lighter else lightness - by
    return oklch_to_rgba(min(1.0, max(0.0, moved)), chroma, hue)


def theme_colours(scheme: Scheme) -> dict[str, Rgba]:
    """Return every named colour that our rules use: all roles, and shades worked out from them."""
    colours = scheme.colours
    out = {f"mf_{name}": colour for name, colour in colours.items() if not name.startswith("ansi_")}
    out |= {f"mf_{role}_drawn": scheme.drawn(role) for role in ("window", "menu", "panel")}
    out["mf_dim"] = _dim(scheme, "window_text", "window", "view", "card", "sidebar")
    out["mf_header_dim"] = _dim(scheme, "header_text", "header")
    out["mf_menu_dim"] = _dim(scheme, "menu_text", "menu")
    on_menu = [(face, DISABLED.level) for face in scheme.faces("menu")]
    out["mf_menu_disabled"] = fit(colours["disabled_text"], on_menu) or colours["menu_text"]
    for name in ("accent", "error"):
        out[f"mf_{name}_hover"] = _away(colours[name], colours[f"{name}_text"], 0.04)
        out[f"mf_{name}_pressed"] = _away(colours[name], colours[f"{name}_text"], 0.08)
    return out


_LIBRARY_DIM = 55  # percent
# Where GTK 4 lies, with its minor number times a hundred in its name; variables are known from 4.16 on.
_LIBRARY_FILES = tuple(
    f"{folder}/libgtk-4.so.1.*"
    for folder in (
        "/usr/lib",
        "/usr/lib64",
        "/usr/lib/*-linux-*",
        "/usr/local/lib",
        "/usr/local/lib/*-linux-*",
        "/run/current-system/sw/lib",
        "/var/lib/flatpak/runtime/org.gnome.Platform/*/*/active/files/lib/*-linux-*",
        ".local/share/flatpak/runtime/org.gnome.Platform/*/*/active/files/lib/*-linux-*",
    )
)
_VARIABLES_SINCE = 1600


def knows_variables(get: Files) -> bool:
    """Tell whether a GTK 4 that knows custom properties is there, or none at all: an older one warns of each."""
    found = [path.rpartition(".so.1.")[2].partition(".")[0] for p in _LIBRARY_FILES for path in get.find(p)]
    numbers = [int(number) for number in found if number.isdecimal()]
    return not numbers or max(numbers) >= _VARIABLES_SINCE


# The library's own colours keep their hue names: programs use them freely.
_SPECTRUM_HUES = {
    "blue": 255.0,
    "green": 150.0,
    "yellow": 92.0,
    "orange": 60.0,
    "red": 25.0,
    "purple": 310.0,
    "brown": 65.0,
}


def _definitions(named: Mapping[str, Rgba], names: Mapping[str, str]) -> str:
    rows = [f"@define-color {name} {css_colour(colour)};" for name, colour in named.items()]
    rows += [f"@define-color {name} {css_colour(named['mf_' + role])};" for name, role in names.items()]
    return "\n".join(rows) + "\n"


def _spectrum(scheme: Scheme) -> str:
    chroma = min(0.13, max(0.07, rgba_to_oklch(scheme.colours["accent"])[1]))
    _, tint, hue = rgba_to_oklch(scheme.colours["window"])
    return _spectrum_of(round(chroma, 3), round(tint, 3), round(hue, 1))


@lru_cache(maxsize=32)
def _spectrum_of(chroma: float, tint: float, hue: float) -> str:
    named: dict[str, tuple[float, float, float]] = {}
    for step in range(1, 6):
        for name, own_hue in _SPECTRUM_HUES.items():
            named[f"{name}_{step}"] = (0.86 - 0.1 * step, chroma * (0.55 if name == "brown" else 1.0), own_hue)
        named[f"light_{step}"] = (min(1.0, 1.03 - 0.04 * step), tint * 0.3, hue)
        named[f"dark_{step}"] = (0.54 - 0.08 * step, tint, hue)
    colours = oklch_to_rgbas(np.array(list(named.values())))
    rows = (f"@define-color {name} {colour.hex};" for name, colour in zip(named, colours, strict=True))
    return "\n".join(rows) + "\n"


# How much of its own colour the library lays under a button that deletes: at rest, under the pointer.
_TINTS = (0.15, 0.20)
_FIELD = 0.10  # and how much of the text's under a field
_STEPS_TO_REST = 40
_SURFACES = (("window", "view", "card", "menu", "sidebar", "header"), ("window", "view", "card"))


def _ink(scheme: Scheme, role: str, tinted: bool) -> Rgba:
    """Return the colour of a role as text on the library's surfaces; tinted: also on a share of itself over each.

    A share of the ink moves with it, so it is fitted until it rests.
    """
    found = scheme.colours[role]
    for surfaces in _SURFACES:
        faces = [face for name in surfaces for face in scheme.faces(name)]
        ink: Rgba | None = found
        for _ in range(_STEPS_TO_REST):
            tints = [_between(face, ink, by) for face in faces for by in _TINTS] if tinted and ink else []
            before, ink = ink, fit(ink, [(face, scheme.text_need) for face in (*faces, *tints)]) if ink else None
            if ink is None or ink == before:
                break
        if ink is not None:
            return ink
    return found


def _dim_opacity(scheme: Scheme) -> int:
    """Return how opaque, in percent, quiet text has to be for being read wherever the library draws it."""
    pairs = (("window", "window_text"), ("view", "view_text"), ("card", "card_text"), ("menu", "menu_text"),
             ("sidebar", "sidebar_text"), ("header", "header_text"))  # fmt: skip
    rows = [(face, scheme.colours[text]) for surface, text in pairs for face in scheme.faces(surface)]
    rows += [(_between(face, text, _FIELD), text) for face, text in rows]
    for percent in range(_LIBRARY_DIM, 100, 5):
        if all(ratio(_between(face, text, percent / 100), face) >= scheme.text_need for face, text in rows):
            return percent
    return 100


def _variables(scheme: Scheme) -> str:
    """Return the rule that sets what the library works out by itself since 1.6."""
    named = {}
    for name, role in LIBRARY_VARIABLES.items():
        inked = role.endswith("_ink") or role == "link"
        named[name] = _ink(scheme, role, name == "destructive-color") if inked else scheme.colours[role]
    rows = "".join(f"  --{name}: {css_colour(colour)};\n" for name, colour in named.items())
    return f":root {{\n{rows}  --dim-opacity: {_dim_opacity(scheme)}%;\n}}\n"


def _banner(scheme: Scheme) -> str:
    return f"/* {scheme.plain_name}, {scheme.tone}: written by Mellow Finch. */\n"


def _settings(scheme: Scheme, get: Files, version: str) -> OutFile:
    path = f".config/gtk-{version}/settings.ini"
    keys = {"gtk-theme-name": scheme.folder}
    if version == "3.0":  # programs of GTK 4's platform library warn of it, and our theme is the same in both
        keys["gtk-application-prefer-dark-theme"] = "1" if scheme.tone == "dark" else "0"
    return OutFile(path, as_bytes(set_keys(text_of(get, path), "Settings", keys)))


def _theme_files(scheme: Scheme, version: str) -> tuple[OutFile, ...]:
    folder = f".local/share/themes/{scheme.folder}"
    sheet = as_bytes(_sheet(scheme, f"gtk-{version[0]}"))
    index = (
        f"[Desktop Entry]\nType=X-GNOME-Metatheme\nName={scheme.plain_name}\nEncoding=UTF-8\n\n"
        f"[X-GNOME-Metatheme]\nGtkTheme={scheme.folder}\n"
    )
    beside = (("IconTheme", "icons"), ("CursorTheme", "pointers"), ("CursorSize", "pointer_size"))
    index += "".join(f"{key}={scheme.companions[id_]}\n" for key, id_ in beside if scheme.companions.get(id_))
    return (
        OutFile(f"{folder}/index.theme", as_bytes(index)),
        OutFile(f"{folder}/gtk-{version}/gtk.css", sheet),
        OutFile(f"{folder}/gtk-{version}/gtk-dark.css", sheet),
        *(
            OutFile(f"{folder}/gtk-{version}/assets/{name}", as_bytes(_data(name)))
            for name in ("tick-symbolic.svg", "dash-symbolic.svg")
        ),
    )


def _sheet(scheme: Scheme, owner: str) -> str:
    named = _definitions(theme_colours(scheme), PUBLIC_NAMES)
    return _banner(scheme) + named + _data("gtk_rules.css") + _shape(scheme, owner)


def _shape(scheme: Scheme, owner: str) -> str:
    """Return rules for density and rounded corners, where asked for: of windows, and at most half as round inside."""
    options = scheme.options_for(owner)
    asked, pad, wide = options.get("radius"), options.get("pad"), options.get("pad_wide")
    out = ""
    if pad is not None:
        out += f"button, entry {{ padding-top: {pad}px; padding-bottom: {pad}px; }}\n"
        out += f"menuitem, modelbutton, row, tab {{ padding: {pad}px {wide}px; }}\n"
        out += f"headerbar {{ padding: {pad}px; min-height: 0; }}\n"
    if asked is None:
        return out
    outer, inner = int(asked), min(int(asked), max(3, int(asked) // 2))
    return out + (
        f"decoration, window.csd {{ border-radius: {outer}px; }}\n"
        f"window.csd .titlebar, window.csd headerbar {{ border-radius: {outer}px {outer}px 0 0; }}\n"
        f"menu, .menu, popover.background, tooltip {{ border-radius: {inner}px; }}\n"
        f"button, entry, spinbutton {{ border-radius: {inner}px; }}\n"
    )


def write_gtk3(scheme: Scheme, get: Files) -> tuple[OutFile, ...]:
    """Return a complete theme, the setting that chooses it, and the person's own style sheet recoloured."""
    user = _USER_3.recoloured(scheme, get, _sheet(scheme, "gtk-3"), again=True)
    return (
        *_theme_files(scheme, "3.0"),
        _settings(scheme, get, "3.0"),
        *(OutFile(path, as_bytes(text)) for path, text in user.items()),
    )


def write_gtk4(scheme: Scheme, get: Files) -> tuple[OutFile, ...]:
    """Return the user style sheet, recoloured and with the library's names in a region of ours, a theme for programs
    without it, and the setting; names that are defined later count."""
    named = theme_colours(scheme)
    names = _definitions(named, {**LIBRARY_NAMES, **PUBLIC_NAMES})
    region = _banner(scheme) + names + _spectrum(scheme) + _shape(scheme, "gtk-4")
    region += _variables(scheme) if knows_variables(get) else ""
    user = _USER_4.recoloured(scheme, get, _sheet(scheme, "gtk-4"), region)
    own = user.pop(_USER_4.path, text_of(get, _USER_4.path))
    return (
        OutFile(_USER_4.path, as_bytes(put_region(own, region, ("/*", "*/")))),
        *_theme_files(scheme, "4.0"),
        _settings(scheme, get, "4.0"),
        *(OutFile(path, as_bytes(text)) for path, text in user.items()),
    )


def _sheets_in_place(get: Files, version: str) -> list[str]:
    name = read_ini(text_of(get, f".config/gtk-{version}/settings.ini")).get("Settings/gtk-theme-name", "")
    dark = read_ini(text_of(get, f".config/gtk-{version}/settings.ini")).get(
        "Settings/gtk-application-prefer-dark-theme", "0"
    ) in ("1", "true")
    theme = ""
    for folder in (".local/share/themes", ".themes"):
        base = f"{folder}/{name}/gtk-{version}"
        theme = theme or (text_of(get, f"{base}/gtk-dark.css") if dark else "") or text_of(get, f"{base}/gtk.css")
    user = (_USER_3 if version == "3.0" else _USER_4).whole(get).text
    if not theme and user and version == "4.0":
        theme = _library_sheet()
    return [sheet for sheet in (theme, user) if sheet]


# How the platform library paints where no theme does: its defaults, light, by the names of our rules.
_LIBRARY_DEFAULTS = {
    "window": "#fafafa",
    "window_text": "#333333",
    "view": "#ffffff",
    "view_text": "#333333",
    "header": "#ebebeb",
    "header_text": "#333333",
    "header_idle": "#fafafa",
    "sidebar": "#ebebeb",
    "sidebar_text": "#333333",
    "card": "#ffffff",
    "card_text": "#333333",
    "menu": "#ffffff",
    "menu_text": "#333333",
    "accent": "#3584e4",
    "accent_text": "#ffffff",
    "link": "#1c71d8",
    "error": "#e01b24",
    "error_text": "#ffffff",
    "warning": "#e5a50a",
    "warning_text": "#333333",
    "success": "#2ec27e",
    "success_text": "#ffffff",
    "error_ink": "#c01c28",
    "warning_ink": "#ae7b03",
    "success_ink": "#1b8553",
}
_LIBRARY_ALIASES = {
    "window_drawn": "@window_bg_color",
    "menu_drawn": "@popover_bg_color",
    "control": "alpha(@window_fg_color, 0.1)",
    "control_hover": "alpha(@window_fg_color, 0.15)",
    "control_pressed": "alpha(@window_fg_color, 0.3)",
    "control_text": "@window_fg_color",
    "disabled_text": "alpha(@window_fg_color, 0.5)",
    "dim": "alpha(@window_fg_color, 0.55)",
    "header_dim": "alpha(@headerbar_fg_color, 0.55)",
    "header_idle_text": "alpha(@headerbar_fg_color, 0.5)",
    "menu_dim": "alpha(@popover_fg_color, 0.55)",
    "menu_disabled": "alpha(@popover_fg_color, 0.5)",
    "menu_hover": "alpha(@popover_fg_color, 0.1)",
    "menu_hover_text": "@popover_fg_color",
    "selection": "alpha(@window_fg_color, 0.1)",
    "selection_text": "@window_fg_color",
    "selection_idle": "alpha(@window_fg_color, 0.07)",
    "selection_idle_text": "@window_fg_color",
    "outline": "alpha(@window_fg_color, 0.15)",
    "divider": "alpha(@window_fg_color, 0.15)",
    "focus": "alpha(@accent_color, 0.5)",
    "link_visited": "alpha(@accent_color, 0.8)",
    "shadow": "#000000",
    "tooltip": "#333333",
    "tooltip_text": "#ffffff",
    "notice": "#333333",
    "notice_text": "#ffffff",
    "accent_hover": "@accent_bg_color",
    "accent_pressed": "@accent_bg_color",
    "error_hover": "@error_bg_color",
    "error_pressed": "@error_bg_color",
}


@cache
def _library_sheet() -> str:
    rows = [
        f"@define-color {name} {_LIBRARY_DEFAULTS[role.removesuffix('_drawn')]};"
        for name, role in LIBRARY_NAMES.items()
        if role.removesuffix("_drawn") in _LIBRARY_DEFAULTS
    ]
    first = {role.removesuffix("_drawn"): name for name, role in reversed(list(LIBRARY_NAMES.items()))}
    rows += [f"@define-color mf_{role} @{first[role]};" for role in _LIBRARY_DEFAULTS]
    rows += [f"@define-color mf_{role} {value};" for role, value in _LIBRARY_ALIASES.items()]
    return "\n".join(rows) + "\n" + _data("gtk_rules.css")


def _read(version: str, parts: tuple[Part, ...]) -> Callable[[Files], Paints]:
    places = [p.at for p in parts]

    def read(get: Files) -> dict[str, Paint]:
        sheets = _sheets_in_place(get, version)
        if not sheets:
            return {}
        found = paint_all(sheets, places)
        return {p.key: painted(found[p.at]) for p in parts}

    return read


_USER_3 = UserSheet("gtk-3", ".config/gtk-3.0/gtk.css", GTK3_PARTS, _data("gtk_rules.css"))
_USER_4 = UserSheet("gtk-4", ".config/gtk-4.0/gtk.css", GTK4_PARTS, _data("gtk_rules.css"))

# Light or dark first: desktops rewrite other settings when it changes.
_INTERFACE = "org.gnome.desktop.interface"
_SETTINGS = (
    ComponentSetting(_INTERFACE, "color-scheme", "prefer-{tone}", "Light or dark"),
    ComponentSetting(_INTERFACE, "gtk-theme", "{folder}", "Theme of programs"),
)
_ACCENT = ComponentSetting(_INTERFACE, "accent-color", "{accent}", "Accent colour")

_NO_PATH = "xfconf-query -c thunar -p /last-location-bar -n -t string -s void"  # a home's path is nobody's business
GTK3 = Component(
    settings=_SETTINGS,
    tried="GTK 3.24.38: parsed, 134 places measured as painted, over a home's own sheet too",
    everywhere=True,
    scene="gtk-3",
    id="gtk-3",
    covers=(tr("the MATE panel"), tr("the Budgie panel")),
    title=tr("GTK 3 programs"),
    kind="Toolkits",
    reads=tr("Every program built on GTK 3, through a theme folder of its own"),
    effect="at once",
    restart=tr("Running programs follow when the desktop changes the theme's name; others after a restart."),
    parts=GTK3_PARTS,
    shape=("radius", "density"),
    write=write_gtk3,
    read=_read("3.0", GTK3_PARTS),
    places=(".config/gtk-3.0/gtk.css", ".config/gtk-3.0/settings.ini"),
    rehearsals=(
        Rehearsal("mousepad", "mousepad --disable-server --preferences", shows=("window",)),
        Rehearsal("thunar", "thunar .", first=(_NO_PATH,), shows=("window", "view"), icons=True),
        Rehearsal("xfce4-panel", "xfce4-panel --disable-wm-check", shows=("panel",), icons=True),
    ),
)
GTK4 = Component(
    settings=(*_SETTINGS, _ACCENT),
    tried="GTK 4.8.3: parsed without an error; 4.18.6 and 4.24.1 with their library: asked for the colours",
    everywhere=True,
    scene="gtk-4",
    id="gtk-4",
    title=tr("GTK 4 programs"),
    kind="Toolkits",
    reads=tr("Programs built on GTK 4, with its platform library or without"),
    effect="restart",
    restart=tr("GTK 4 programs read these colours at start: restart them."),
    parts=GTK4_PARTS,
    shape=("radius", "density"),
    write=write_gtk4,
    read=_read("4.0", GTK4_PARTS),
    places=(".config/gtk-4.0/gtk.css", ".config/gtk-4.0/settings.ini"),
)
