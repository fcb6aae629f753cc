"""A Plasma theme as people download them, made up: decorations for dark and light, schemes for Qt, Konsole, editors."""

from __future__ import annotations

from pathlib import Path

from mellow_finch.colour.rgb import Rgba

_STATES = ("active", "inactive", "hover", "pressed")


def make_plasma_theme(folder: Path) -> Path:
    """Write the theme into a folder, and return that."""
    rows: dict[str, str] = {}
    for name, bar, idle, ink, quiet in (
        ("Wrack", "#272727", "#1e1e1e", "223,223,223", "139,139,139"),
        ("Wrack-Light", "#f0f0f0", "#ebebeb", "103,103,103", "150,150,150"),
    ):
        place = f"aurorae/themes/{name}"
        sign = Rgba(*map(int, ink.split(","))).hex
        rows[f"{place}/{name}rc"] = (
            f"[General]\nActiveTextColor={ink}\nInactiveTextColor={quiet}\nTitleAlignment=Center\n\n"
            "[Layout]\nButtonHeight=18\nButtonWidth=18\nTitleHeight=20\nTitleEdgeTop=4\nTitleEdgeBottom=4\nBorderLeft=3\n"
            "BorderRight=3\nBorderBottom=3\nPaddingTop=0\nPaddingBottom=0\nPaddingLeft=0\nPaddingRight=0\n"
        )
        rows[f"{place}/metadata.desktop"] = f"[Desktop Entry]\nName={name}\nX-KDE-PluginInfo-Name={name}\n"
        rows[f"{place}/decoration.svg"] = (
            '<svg xmlns="http://www.w3.org/2000/svg" width="80" height="40"><defs><linearGradient id="veil">'
            '<stop style="stop-color:#000000;stop-opacity:0.3"/></linearGradient></defs>'
            + _frame("decoration", bar, 0) + _frame("decoration-inactive", idle, 40)
            + '<rect id="mask-center" style="fill:#ff00ff" x="70" y="0" width="4" height="4"/></svg>'
        )  # fmt: skip
        for button in ("close", "minimize", "maximize"):
            rows[f"{place}/{button}.svg"] = (
                '<svg xmlns="http://www.w3.org/2000/svg" width="72" height="18">'
                + "".join(
                    f'<g id="{state}-center">'
                    + (f'<circle style="fill:#c0392b" cx="{18 * i + 9}" cy="9" r="9"/>' if state == "hover" else "")
                    + f'<rect style="fill:{sign}" x="{18 * i + 5}" y="5" width="8" height="8"/></g>'
                    for i, state in enumerate(_STATES)
                )
                + "</svg>"
            )
    groups = ("Window", "View", "Button", "Selection", "Tooltip", "Complementary")
    for name, ground, ink in (("WrackDark", "24,24,26", "226,226,226"), ("WrackLight", "240,240,240", "40,40,44")):
        rows[f"color-schemes/{name}.colors"] = f"[General]\nColorScheme={name}\nName={name}\n" + "".join(
            f"\n[Colors:{group}]\nBackgroundNormal={'61,174,233' if group == 'Selection' else ground}\n"
            f"BackgroundAlternate={ground}\nForegroundNormal={ink}\nForegroundInactive=150,150,150\n"
            for group in groups
        )
    rows["konsole/WrackDark.colorscheme"] = (
        "[General]\nDescription=WrackDark\n\n[Background]\nColor=24,24,26\n\n[Foreground]\nColor=226,226,226\n"
    ) + "".join(f"\n[Color{i}]\nColor={20 + 25 * i},{220 - 20 * i},{90 + 10 * i}\n" for i in range(8))
    rows["gtksourceview-4/styles/wrack.xml"] = (
        '<?xml version="1.0"?>\n<style-scheme id="wrack" _name="Wrack" version="1.0">\n'
        '  <style name="text" foreground="#e2e2e2" background="#18181a"/>\n'
        '  <style name="def:comment" foreground="#8a8a8a"/>\n</style-scheme>\n'
    )
    for path, text in rows.items():
        (folder / path).parent.mkdir(parents=True, exist_ok=True)
        (folder / path).write_text(text)
    return folder


def _frame(name: str, colour: str, x: int) -> str:
    sides = ("topleft", "top", "topright", "left", "center", "right", "bottomleft", "bottom", "bottomright")
    return "".join(
        f'<rect id="{name}-{side}" style="fill:{colour};stroke:none" x="{x + 8 * (i % 3)}" y="{8 * (i // 3)}"'
        ' width="8" height="8"/>'
        for i, side in enumerate(sides)
    )
