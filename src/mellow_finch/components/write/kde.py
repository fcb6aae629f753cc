"""The colour scheme file that KDE's programs and Qt read, and its active copy in kdeglobals."""

from __future__ import annotations

from collections.abc import Mapping

from ...colour.requirement import MARK
from ...colour.rgb import Rgba
from ...language import tr
from ...palette.fit import fit
from ...syntax.ini import drop_keys, ini_colours, set_sections
from ..files import Files, OutFile, as_bytes, text_of
from ..model import Component, Paint, Part, ReloadMethod, Scheme
from ..rehearsal import Rehearsal

GLOBALS = ".config/kdeglobals"
# Group, background, alternate background, text, and the mark that shows focus in it.
GROUPS: tuple[tuple[str, str, str, str, str], ...] = (
    ("Colors:Window", "window", "card", "window_text", "focus"),
    ("Colors:View", "view", "window", "view_text", "focus"),
    ("Colors:Button", "control", "control_hover", "control_text", "focus"),
    ("Colors:Selection", "selection", "selection", "selection_text", "selection_text"),
    ("Colors:Tooltip", "tooltip", "tooltip", "tooltip_text", "focus"),
    ("Colors:Complementary", "panel", "panel", "panel_text", "focus"),
    ("Colors:Header", "header", "header", "header_text", "focus"),
    ("Colors:Header][Inactive", "header_idle", "header_idle", "header_idle_text", "focus"),
)
# Foreground keys and the role each starts from; made readable on both backgrounds of the group.
FOREGROUNDS: tuple[tuple[str, str], ...] = (
    ("ForegroundActive", "link"),
    ("ForegroundLink", "link"),
    ("ForegroundVisited", "link_visited"),
    ("ForegroundNegative", "error_ink"),
    ("ForegroundNeutral", "warning_ink"),
    ("ForegroundPositive", "success_ink"),
)
_EFFECTS = {
    "ColorEffects:Disabled": {
        "Color": "{divider}",
        "ColorAmount": "0",
        "ColorEffect": "0",
        "ContrastAmount": "0.35",
        "ContrastEffect": "1",
        "IntensityAmount": "0",
        "IntensityEffect": "0",
    },
    "ColorEffects:Inactive": {
        "ChangeSelectionColor": "false",
        "Color": "{divider}",
        "ColorAmount": "0",
        "ColorEffect": "0",
        "ContrastAmount": "0",
        "ContrastEffect": "0",
        "Enable": "false",
        "IntensityAmount": "0",
        "IntensityEffect": "0",
    },
}


def _triple(colour: Rgba) -> str:
    return f"{colour.r},{colour.g},{colour.b}"


def _group(colours: Mapping[str, Rgba], row: tuple[str, str, str, str, str], text_need: float) -> dict[str, str]:
    _, fill, alternate, text, mark = row
    surfaces = [colours[fill], colours[alternate]]
    plain = fit(colours[text], [(s, text_need) for s in surfaces])
    if plain is None:  # the alternate rows are ours to choose: without them every text has a solution
        surfaces, plain = [colours[fill]] * 2, colours[text]

    def on_both(role: str, need: float = text_need) -> str:
        return _triple(fit(colours[role], [(s, need) for s in surfaces]) or plain)

    quiet = Rgba(*(round(t * 0.72 + s * 0.28) for t, s in zip(plain[:3], surfaces[0][:3], strict=True)))
    return {
        "BackgroundNormal": _triple(surfaces[0]),
        "BackgroundAlternate": _triple(surfaces[1]),
        "ForegroundNormal": _triple(plain),
        "ForegroundInactive": _triple(fit(quiet, [(s, text_need) for s in surfaces]) or plain),
        **{key: on_both(role) for key, role in FOREGROUNDS},
        "DecorationFocus": on_both(mark, 3.0),
        "DecorationHover": on_both(mark, 3.0),
    }


def scheme_sections(scheme: Scheme) -> dict[str, dict[str, str]]:
    """Return {section: {key: value}} of the whole colour scheme: every key of every group."""
    colours = scheme.colours
    sections = {
        name: {key: value.format(divider=_triple(colours["divider"])) for key, value in keys.items()}
        for name, keys in _EFFECTS.items()
    }
    sections |= {row[0]: _group(colours, row, scheme.text_need) for row in GROUPS}
    sections["General"] = {"ColorScheme": scheme.folder, "Name": scheme.plain_name, "shadeSortColumn": "true"}
    sections["KDE"] = {"contrast": "4"}
    sections["WM"] = {
        "activeBackground": _triple(colours["border"]),
        "activeForeground": _triple(colours["border_text"]),
        "activeBlend": _triple(colours["border"]),
        "inactiveBackground": _triple(colours["border_idle"]),
        "inactiveForeground": _triple(colours["border_idle_text"]),
        "inactiveBlend": _triple(colours["border_idle"]),
    }
    return sections


def scheme_text(scheme: Scheme) -> str:
    """Return the whole colour scheme as a file of its own."""
    return _as_text(scheme_sections(scheme))


def _as_text(sections: Mapping[str, Mapping[str, str]]) -> str:
    rows = [
        line for name, keys in sections.items() for line in (f"[{name}]", *(f"{k}={v}" for k, v in keys.items()), "")
    ]
    return "\n".join(rows)


def write_kde(scheme: Scheme, get: Files) -> tuple[OutFile, ...]:
    """Return the scheme file and kdeglobals with the scheme's groups merged in, all else in it kept."""
    sections = scheme_sections(scheme)
    active = drop_keys(text_of(get, GLOBALS), "General", ("AccentColor", "LastUsedCustomAccentColor"))
    active = set_sections(active, sections)
    return (
        OutFile(f".local/share/color-schemes/{scheme.folder}.colors", as_bytes(_as_text(sections))),
        OutFile(GLOBALS, as_bytes(active)),
    )


def read_kde(get: Files) -> dict[str, Paint]:
    """Return what the active copy says."""
    values = ini_colours(text_of(get, GLOBALS))
    if not values:
        return {}
    return {part.key: Paint(values.get(part.fill), values.get(part.text), values.get(part.edge)) for part in PARTS}


def _parts() -> tuple[Part, ...]:
    rows: list[Part] = []
    for group, fill, alternate, text, mark in GROUPS:
        name = group.removeprefix("Colors:").replace("][", ", ").lower()
        keys = (("ForegroundNormal", text), ("ForegroundInactive", text), *FOREGROUNDS)
        for key, role in keys:
            state = "" if key == "ForegroundNormal" else key.removeprefix("Foreground").lower()
            rows.append(
                Part(
                    id=name,
                    state=state,
                    text=f"{group}/{key}",
                    fill=f"{group}/BackgroundNormal",
                    text_role=role,
                    fill_role=fill,
                )
            )
            rows.append(
                Part(
                    id=f"{name} alternate",
                    state=state,
                    text=f"{group}/{key}",
                    fill=f"{group}/BackgroundAlternate",
                    text_role=role,
                    fill_role=alternate,
                )
            )
        rows.append(
            Part(
                id=f"{name} focus",
                text=f"{group}/DecorationFocus",
                fill=f"{group}/BackgroundNormal",
                text_role=mark,
                fill_role=fill,
                need=MARK,
            )
        )
    for state, prefix, role in (("", "active", "border"), ("idle", "inactive", "border_idle")):
        rows.append(
            Part(
                id="window border",
                state=state,
                text=f"WM/{prefix}Foreground",
                fill=f"WM/{prefix}Background",
                text_role=f"{role}_text",
                fill_role=role,
            )
        )
    return tuple(rows)


def _emitted(*words: str) -> ReloadMethod:
    return ReloadMethod("emit", "plasmashell", words)


PARTS = _parts()
KDE = Component(
    everywhere=True,
    scene="kde",
    id="kde",
    title=tr("Qt and KDE"),
    kind="Toolkits",
    reads=tr("KDE programs, and Qt programs that use its platform theme; KDE's window decorations"),
    covers=("Kate", "KDevelop", "Krita"),
    effect="reload",
    restart=tr("KDE programs follow at once on request; other Qt programs after a restart."),
    tried="Plasma 5.27.5: windows, borders and panel painted, programs that ran and new ones",
    follow=(
        _emitted("/KGlobalSettings", "org.kde.KGlobalSettings", "notifyChange", "ii", "0", "0"),
        # Only the keys that window decorations wait for are named: others let a daemon rewrite GTK's files.
        _emitted("/kdeglobals", "org.kde.kconfig.notify", "ConfigChanged", "a{saay}", "WM/activeBackground"),
        _emitted("/KDEPlatformTheme", "org.kde.KDEPlatformTheme", "refreshFonts", ""),
        *(_emitted("/KIconLoader", "org.kde.KIconLoader", "iconChanged", "i", str(group)) for group in range(6)),
    ),
    parts=PARTS,
    write=write_kde,
    read=read_kde,
    places=(GLOBALS,),
    rehearsals=(Rehearsal("kwin_x11", "kwin_x11", windows=True, shows=("header/fill",), around=("#000000",)),),
)
