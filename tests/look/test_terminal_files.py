"""Settings files of terminals, schemes and palettes as people have them: every one gives the same twenty colours."""

from __future__ import annotations

import json
import plistlib
import shutil
import subprocess
import xml.etree.ElementTree as ET

import pytest

from mellow_finch.colour.rgb import parse_hex
from mellow_finch.components.catalogue import COMPONENT_BY_ID
from mellow_finch.components.files import FolderFiles
from mellow_finch.errors import ParseError
from mellow_finch.look.from_colours import look_of_list, moved_of_terminal
from mellow_finch.look.interchange.catalogue import INTERCHANGE_BY_ID, format_of, holds_palette, read_palette
from mellow_finch.look.interchange.keys import role_of_key
from mellow_finch.look.interchange.tables import colour_of

SIXTEEN = (
    "#1b2226", "#c2574e", "#6f9a58", "#c9a24b", "#4d7fa6", "#a06a96", "#4f9a94", "#c8cfcb",
    "#4a565c", "#e0776c", "#8fbd74", "#e2c06c", "#6fa1c8", "#c08cb6", "#72bdb6", "#eef2ef",
)  # fmt: skip
GROUND, TEXT, CURSOR, CHOSEN = "#11171a", "#d3dad6", "#e2a04b", "#2d4652"
NAMES = ("black", "red", "green", "yellow", "blue", "magenta", "cyan", "white")
BARE = [c[1:] for c in SIXTEEN]


def rgb(hex_: str, between: str = ",") -> str:
    return between.join(str(v) for v in parse_hex(hex_)[:3])


def rows(form: str) -> str:
    return "\n".join(form.format(i=i, c=c, bare=c[1:], rgb=rgb(c)) for i, c in enumerate(SIXTEEN))


def plist() -> bytes:
    def channels(colour: str) -> dict[str, object]:
        r, g, b = (v / 255 for v in parse_hex(colour)[:3])
        return {
            "Alpha Component": 1.0,
            "Blue Component": b,
            "Color Space": "sRGB",
            "Green Component": g,
            "Red Component": r,
        }

    tree = {f"Ansi {i} Color": channels(c) for i, c in enumerate(SIXTEEN)}
    tree |= {"Background Color": channels(GROUND), "Foreground Color": channels(TEXT), "Cursor Color": channels(CURSOR)}
    return plistlib.dumps(tree | {"Selection Color": channels(CHOSEN)})


def nested(quote: str) -> str:
    def table(start: int) -> str:
        return "\n".join(f"    {n}: {quote}{SIXTEEN[start + i]}{quote}" for i, n in enumerate(NAMES))

    return (
        f"# my colours\ncolors:\n  primary:\n    background: {quote}{GROUND}{quote}   # the ground\n    foreground: {quote}{TEXT}{quote}\n"
        f"  cursor:\n    text: {quote}{GROUND}{quote}\n    cursor: {quote}{CURSOR}{quote}\n"
        f"  normal:\n{table(0)}\n  bright:\n{table(8)}\n"
    )


FILES: dict[str, str | bytes] = {
    "kitty.conf": f"# vim:ft=kitty\nfont_size 11.0\nbackground {GROUND}\nforeground  {TEXT}\ncursor {CURSOR}\nselection_background {CHOSEN}\n{rows('color{i}  {c}')}\nmap ctrl+c copy\n",
    "alacritty.toml": f'[window]\nopacity = 0.9\n[colors.primary]\nbackground = "{GROUND}"\nforeground = "{TEXT}"\n[colors.normal]\n' + "\n".join(f'{n} = "0x{BARE[i]}"' for i, n in enumerate(NAMES)) + "\n[colors.bright]\n" + "\n".join(f'{n} = "{SIXTEEN[8 + i]}"' for i, n in enumerate(NAMES)) + "\n",
    "alacritty.yml": nested("'"),
    "plain.yaml": nested(""),
    "foot.ini": f"[main]\nfont=Marsh:size=10\n[colors-dark]\nalpha=0.95\nbackground={GROUND[1:]}\nforeground={TEXT[1:]}\ncursor={GROUND[1:]} {CURSOR[1:]}\n" + "\n".join(f"regular{i}={BARE[i]}\nbright{i}={BARE[8 + i]}  # bright" for i in range(8)) + "\n",
    "wezterm.lua": "local wezterm = require 'wezterm'\nreturn {\n  font_size = 11,\n  colors = {\n" + f"    foreground = '{TEXT}',\n    background = '{GROUND}',\n    cursor_bg = '{CURSOR}',\n    selection_bg = '{CHOSEN}',\n    ansi = {{\n" + "".join(f"      '{c}',\n" for c in SIXTEEN[:8]) + "    },\n    brights = { " + ", ".join(f"'{c}'" for c in SIXTEEN[8:]) + " },\n  },\n}\n",
    "wezterm.toml": f'[colors]\nbackground = "{GROUND}"\nforeground = "{TEXT}"\nansi = {json.dumps(SIXTEEN[:8])}\nbrights = {json.dumps(SIXTEEN[8:])}\n',
    "config.ghostty": f"background = {GROUND[1:]}\nforeground = {TEXT}\ncursor-color = {CURSOR}\nselection-background = {CHOSEN}\n{rows('palette = {i}={c}')}\n",
    "Marsh.colorscheme": f"[Background]\nColor={rgb(GROUND)}\n[BackgroundFaint]\nColor=1,2,3\n" + "\n".join(f"[Color{i % 8}{'Intense' if i > 7 else ''}]\nColor={rgb(c)}\n[Color{i % 8}Faint]\nColor=9,9,9" for i, c in enumerate(SIXTEEN)) + f"\n[Foreground]\nBold=false\nColor={rgb(TEXT)}\n[General]\nDescription=Marsh\n",
    "marsh.palette": f"[Palette]\nName=Marsh\nBackground={GROUND}\nForeground={TEXT}\nCursor={CURSOR}\n{rows('Color{i}={c}')}\n",
    "dump.dconf": f"[/]\nbackground-color='rgb({rgb(GROUND)})'\nforeground-color='rgb({rgb(TEXT)})'\npalette=[" + ", ".join(f"'rgb({rgb(c)})'" for c in SIXTEEN) + "]\nuse-theme-colors=false\n",
    "terminalrc": f"[Configuration]\nColorBackground={GROUND}\nColorForeground={TEXT}\nColorPalette={';'.join(SIXTEEN)}\n",
    "numbered.yml": 'name: "Marsh"\n' + "\n".join(f'color_{i + 1:02}: "{c}"' for i, c in enumerate(SIXTEEN)) + f'\nbackground: "{GROUND}"\nforeground: "{TEXT}"\n',
    "marsh.itermcolors": plist(),
    "scheme.json": json.dumps({"name": "Marsh", "background": GROUND, "foreground": TEXT, "cursorColor": CURSOR, "selectionBackground": CHOSEN, **{n if n != "magenta" else "purple": SIXTEEN[i] for i, n in enumerate(NAMES)}, **{f"bright{(n if n != 'magenta' else 'purple').title()}": SIXTEEN[8 + i] for i, n in enumerate(NAMES)}}),
    "marsh-color-theme.json": '{\n  // of the marsh\n  "name": "Marsh",\n  "colors": {\n    "terminal.background": "' + GROUND + '", /* ground */\n    "terminal.foreground": "' + TEXT + '",\n' + ",\n".join(f'    "terminal.ansi{"Bright" if i > 7 else ""}{NAMES[i % 8].title()}": "{c}"' for i, c in enumerate(SIXTEEN)) + ",\n  },\n}\n",
    "Xresources.txt": f"! marsh\n#define ground {GROUND}\n*background: {GROUND}\n*.foreground: {TEXT}\n{rows('URxvt*color{i}: {c}')}\n",
    "mintty": f"BackgroundColour={rgb(GROUND)}\nForegroundColour={rgb(TEXT)}\n" + "\n".join(f"{'Bold' if i > 7 else ''}{NAMES[i % 8].title()}={rgb(c)}" for i, c in enumerate(SIXTEEN)) + "\n",
}  # fmt: skip


@pytest.mark.parametrize("name", FILES)
def test_a_file_as_people_have_it_gives_its_sixteen(name, tmp_path):
    path = tmp_path / name
    text = FILES[name]
    path.write_bytes(text if isinstance(text, bytes) else text.encode())
    assert holds_palette(path)
    roles = read_palette(path).roles
    assert [roles.get(f"ansi_{i}") for i in range(16)] == [parse_hex(c) for c in SIXTEEN]
    grounds = (roles.get("terminal") or roles.get("window"), roles.get("terminal_text") or roles.get("window_text"))
    assert grounds == (parse_hex(GROUND), parse_hex(TEXT))
    if isinstance(text, str) and CURSOR[1:] in text:
        assert roles["cursor"] == parse_hex(CURSOR)
    if isinstance(text, str) and CHOSEN[1:] in text:
        assert roles["terminal_selection"] == parse_hex(CHOSEN)


def test_a_plain_list_of_sixteen_in_a_terminals_order_is_known_and_another_is_not(tmp_path):
    path = tmp_path / "colours"
    path.write_text("\n".join(SIXTEEN) + "\n")
    assert holds_palette(path)
    assert [read_palette(path).roles[f"ansi_{i}"].hex for i in range(16)] == list(SIXTEEN)
    path.write_text("\n".join(sorted(SIXTEEN)) + "\n")
    assert read_palette(path).roles == {} and len(read_palette(path).entries) == 16


@pytest.mark.parametrize("text", ["set nu\nset ts=4\n", "[Desktop Entry]\nName=x\n", "color: red\n", "{}", "a = 1\n", "<openbox_config/>"])  # fmt: skip
def test_a_file_about_something_else_is_no_palette(text, tmp_path):
    path = tmp_path / "other"
    path.write_text(text)
    assert not holds_palette(path)


@pytest.mark.parametrize(
    ("path", "role"),
    [
        (("color0",), "ansi_0"), (("color15",), "ansi_15"), (("color16",), ""), (("colors", "bright", "magenta"), "ansi_13"),
        (("brightblack",), "ansi_8"), (("Color3Intense", "Color"), "ansi_11"), (("Color3Faint", "Color"), ""),
        (("terminal.ansiBrightCyan",), "ansi_14"), (("cursor_text_color",), "cursor_text"), (("cursorColor",), "cursor"),
        (("font_size",), ""), (("editor.background",), "view"), (("x-window-text",), "window_text"), (("base0A",), ""),
    ],
)  # fmt: skip
def test_keys_in_their_spellings(path, role):
    assert role_of_key(path) == role


@pytest.mark.parametrize(
    ("value", "hex_"),
    [("'#123'", "#112233"), ("0xAABBCC", "#aabbcc"), ("1,2,3", "#010203"), ("rgb(1, 2, 3)", "#010203"), ("aabbcc", "#aabbcc"),
     ("300,1,1", None), ("12345", None), ("blue", None), ("#12", None)],
)  # fmt: skip
def test_values_in_their_spellings(value, hex_):
    found = colour_of(value)
    assert (found.hex if found else None) == hex_


def test_given_colours_are_kept_or_made_readable(tmp_path):
    path = tmp_path / "kitty.conf"
    path.write_text(str(FILES["kitty.conf"]))
    found = read_palette(path)
    readable, kept = look_of_list(found), look_of_list(found, as_given=True)
    moved, given = moved_of_terminal(found, readable)
    assert given == 16 and 0 < moved < 16 and not readable.failing()
    assert moved_of_terminal(found, kept) == (0, 16)
    assert kept.colours["terminal"] == parse_hex(GROUND) and kept.failing()
    assert readable.colours["ansi_11"] == parse_hex(SIXTEEN[11])  # what can be read stays


# What is exported is asked of what reads it: the components' own readers, and the programs


@pytest.mark.parametrize(
    ("form", "component", "place"),
    [
        ("kitty", "kitty", ".config/kitty/kitty.conf"),
        ("foot", "foot", ".config/foot/foot.ini"),
        ("alacritty", "alacritty", ".config/alacritty/alacritty.toml"),
        ("ghostty", "ghostty", ".config/ghostty/themes/Marsh"),
    ],
)
def test_an_export_is_read_by_the_terminals_component_as_the_look(form, component, place, look, tmp_path):
    path = tmp_path / place
    path.parent.mkdir(parents=True)
    path.write_bytes(INTERCHANGE_BY_ID[form].of_look(look))
    if form == "ghostty":
        (tmp_path / ".config/ghostty/config").write_text("theme = Marsh\n")
    paints = COMPONENT_BY_ID[component].read(FolderFiles(tmp_path))
    assert {i: paints[f"colour {i}"].text for i in range(16)} == {i: look.colours[f"ansi_{i}"] for i in range(16)}
    assert paints["terminal"].fill.opaque == look.colours["terminal"]
    assert paints["terminal"].text == look.colours["terminal_text"]


@pytest.mark.consumer
@pytest.mark.skipif(shutil.which("foot") is None, reason="foot is not installed")
def test_foot_takes_the_export(look, tmp_path):
    path = tmp_path / "foot.ini"
    path.write_bytes(INTERCHANGE_BY_ID["foot"].of_look(look))
    done = subprocess.run(["foot", "--check-config", f"--config={path}"], capture_output=True, text=True)
    assert done.returncode == 0, done.stderr


def test_exports_of_painters_are_what_their_readers_ask_for(look):
    import zipfile
    from io import BytesIO

    with zipfile.ZipFile(BytesIO(INTERCHANGE_BY_ID["kpl"].of_look(look))) as archive:
        assert archive.namelist()[0] == "mimetype" and archive.read("mimetype") == b"krita/x-colorset"
        assert len(ET.fromstring(archive.read("colorset.xml")).findall("ColorSetEntry")) == len(look.colours)
    assert len(ET.fromstring(INTERCHANGE_BY_ID["scribus"].of_look(look)).findall("COLOR")) == len(look.colours)
    told = plistlib.loads(INTERCHANGE_BY_ID["plist"].of_look(look))
    assert round(told["Ansi 1 Color"]["Red Component"] * 255) == look.colours["ansi_1"].r
    scheme = json.loads(INTERCHANGE_BY_ID["scheme"].of_look(look))
    assert (
        scheme["brightPurple"] == look.colours["ansi_13"].hex and scheme["background"] == look.colours["terminal"].hex
    )


def test_a_drawing_gives_its_colours_once_in_order():
    drawing = b'<svg xmlns="http://www.w3.org/2000/svg"><style>.a{fill:#112233}</style><path fill="#abc" stroke="rgb(1,2,3)"/><g fill="none" style="stop-color:teal"/><path fill="#112233"/></svg>'
    found = INTERCHANGE_BY_ID["svg"].read(drawing)
    assert [c.hex for c in found.colours] == ["#112233", "#aabbcc", "#010203", "#008080"]


@pytest.mark.parametrize("form", ["plist", "scribus", "kpl", "svg"])
def test_entities_are_refused(form):
    bomb = b'<?xml version="1.0"?><!DOCTYPE svg [<!ENTITY a "x"><!ENTITY b "&a;&a;">]><svg><COLOR NAME="&b;" RGB="#112233"/></svg>'
    with pytest.raises(ParseError):
        INTERCHANGE_BY_ID[form].read(bomb)


def test_a_long_line_takes_no_time():
    form = format_of("x.conf", b"color0 #112233\ncolor1 #445566\n" + b"a-. " * 200_000)
    assert form.id == "kitty" and len(form.read(b"color0 #112233\n" + b"a-. " * 200_000).entries) == 1


def test_foot_gets_the_section_that_it_knows_here(look, monkeypatch):
    from mellow_finch.look.interchange import tables

    for told, section in (
        (b"# [colors-dark]\n", b"[colors-dark]"),
        (b"# [colors]\n", b"[colors]"),
        (None, b"[colors]"),
    ):
        monkeypatch.setattr(tables, "read_plain", lambda path, told=told: told)
        data = INTERCHANGE_BY_ID["foot"].of_look(look)
        assert data.startswith(section + b"\n")
        read = INTERCHANGE_BY_ID["foot"].read(data)
        assert {e.role: e.colour for e in read.entries if e.role}["ansi_3"] == look.colours["ansi_3"]
