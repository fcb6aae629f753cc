"""Plasma themes that are imported: their decorations are in the look's colours, and the look wears each part of them."""

from __future__ import annotations

import configparser
import re
from dataclasses import replace

import pytest

from mellow_finch.colour.contrast import ratio
from mellow_finch.colour.rgb import Rgba, parse_hex
from mellow_finch.look.dressed import dress
from mellow_finch.look.theme_edits import with_brought, with_use, with_worn
from mellow_finch.look.worn_themes import using_theme, worn_by, worn_themes
from mellow_finch.proof.proof import prove
from mellow_finch.syntax.catalogue import format_of
from mellow_finch.theme.bundle.read import open_theme
from mellow_finch.theme.pictures.decorations import title_bars
from mellow_finch.theme.result.recolour import recolour_theme

from .decoration_home import make_plasma_theme

USES = frozenset({"aurorae", "kde", "konsole", "gtksourceview"})
BARS = r'id="{}-(?:top|center|left)" style="fill:(#\w+)'


@pytest.fixture(scope="module")
def folder(tmp_path_factory):
    return make_plasma_theme(tmp_path_factory.mktemp("plasma"))


def triple(text: str) -> Rgba:
    return Rgba(*map(int, text.split(",")))


@pytest.mark.parametrize("tone", ("dark", "light"))
@pytest.mark.parametrize("name", ("Wrack", "Wrack-Light"))
def test_a_decoration_turns_to_the_look_whatever_it_was(folder, looks, tone, name):
    """Its bars and titles are the look's to the colour, its signs stand out, and shadows and masks stay as they were."""
    look = replace(looks[0], tone=tone)
    made = recolour_theme(open_theme(folder / "aurorae/themes" / name), look.scheme())
    files = {p.rpartition("/")[2]: e.data.decode() for p, e in made.outputs.items() if e.data}
    bars, drawn = files[f"{made.name}rc"], files["decoration.svg"]  # KWin looks for it under the folder's name
    for state, role in (("decoration", "border"), ("decoration-inactive", "border_idle")):
        assert set(re.findall(BARS.format(state), drawn)) == {look.colours[role].hex}
    for key, role in (("Active", "border_text"), ("Inactive", "border_idle_text")):
        assert triple(re.search(rf"^{key}TextColor=(.*)$", bars, re.M)[1]) == look.colours[role]
    assert "stop-color:#000000" in drawn and "fill:#ff00ff" in drawn
    for state, role in (("active", "border"), ("inactive", "border_idle"), ("pressed", "border")):
        sign = parse_hex(re.search(rf'id="{state}-center"><rect style="fill:(#\w+)', files["close.svg"])[1])
        assert ratio(sign, look.colours[role]) >= 3
    disc, sign = re.search(
        r'id="hover-center"><circle style="fill:(#\w+)".*?<rect style="fill:(#\w+)', files["close.svg"]
    ).groups()
    assert ratio(parse_hex(disc), parse_hex(sign)) >= 3


@pytest.mark.parametrize("tone", ("dark", "light"))
def test_every_part_is_worn_under_the_looks_name(folder, looks, files, tone):
    look = replace(looks[0], tone=tone)
    fresh = with_worn(with_brought(look, str(folder)), str(folder), USES)
    dressed = dress(fresh, files, USES, themes=worn_themes(fresh))
    now = {o.path: o.data.decode() for o in dressed.outputs}
    mine, own = look.folder, f".local/share/aurorae/themes/{look.folder}"
    assert {f"{own}/{mine}rc", f"{own}/decoration.svg", f"{own}/close.svg"} <= set(now)
    assert (
        f"__aurorae__svg__{mine}" in now[".config/kwinrc"]
        and f"Name={look.scheme().plain_name}" in now[f"{own}/metadata.desktop"]
    )
    assert not any("Wrack" in path for path in now)
    # KWin's own parser of settings is a plain INI: so are the scheme and its copy, which agree in every colour.
    scheme, copy = (configparser.RawConfigParser(strict=False) for _ in range(2))
    scheme.optionxform = copy.optionxform = str
    scheme.read_string(now[f".local/share/color-schemes/{mine}.colors"])
    copy.read_string(now[".config/kdeglobals"])
    assert scheme["General"]["ColorScheme"] == copy["General"]["ColorScheme"] == mine
    colours = [(s, k) for s in scheme.sections() if s.startswith("Colors:") for k in scheme[s]]
    assert len(colours) == 24 and all(copy[s][k] == scheme[s][k] for s, k in colours)
    window = triple(scheme["Colors:Window"]["BackgroundNormal"])
    assert (window.r < 128) == (tone == "dark")
    terminal = now[f".local/share/konsole/{mine}.colorscheme"]
    assert f"Description={mine}" in terminal and "Color0Intense" not in terminal
    for generation in (4, 5):
        editor = now[f".local/share/gtksourceview-{generation}/styles/{mine}.xml"]
        assert f'id="{mine.lower()}" _name="{mine}"' in editor and editor.count("<style ") == 2
    shown = dressed.paints["aurorae"]
    assert (shown["border"].fill, shown["border"].text) == (look.colours["border"], look.colours["border_text"])
    assert all(f.passes for f in prove(dressed) if f.component in ("aurorae", "kde"))


def test_what_a_home_has_not_set_up_comes_along_while_it_is_used(folder, looks, files):
    look, path = with_brought(looks[0], str(folder)), str(folder)
    used = with_use(look, path, USES, {"kde"})
    assert used.added == look.added | {"aurorae", "konsole", "gtksourceview"}
    themes = worn_themes(used)
    present = frozenset({"kde"})
    assert set(dress(used, files, present=present, themes=themes).files) >= USES
    less = with_use(used, path, {"kde", "konsole"}, {"kde"})
    assert less.added == look.added | {"konsole"} and with_use(less, path, (), {"kde"}).added == look.added
    assert "aurorae" not in dress(less, files, present=present, themes=themes).files
    on_plasma = using_theme(looks[0], folder, {"kde", "desktop-theme"})
    assert "aurorae" in on_plasma.added and worn_by(on_plasma).keys() == {"aurorae", "kde"}


def test_bars_are_told_by_what_fills_them_most():
    form = format_of("decoration.svg", "<svg")

    def bars(body: str) -> tuple[str | None, ...]:
        text = f"<svg>{body}</svg>"
        return tuple(c.hex if c is not None else None for c in title_bars(text, form.scan(text)))

    parts = [f'<rect id="decoration-{name}" style="fill:{colour}"/>' for name, colour in (
        ("top", "#202224"), ("left", "#202224"), ("center", "#aa0000"), ("inactive-top", "#303234"),
        ("maximized-inactive-center", "#303234"), ("maximized-inactive-top", "#303234"), ("inactive-left", "#303234"),
    )]  # fmt: skip
    assert bars("".join(parts)) == ("#202224", "#303234")
    assert bars("".join(parts[:3])) == ("#202224", "#202224")
    stops = "".join(f'<stop style="stop-color:{c}"/>' for c in ("#000000", "#000000", "#e8e6e3", "#e8e6e3", "#d0cdc8"))
    filled = '<rect id="decoration-top" style="fill:url(#a)"/>'
    assert bars(f'<defs><linearGradient id="a">{stops}</linearGradient></defs>{filled}') == ("#e8e6e3", "#e8e6e3")
    assert bars(filled) == (None, None)
