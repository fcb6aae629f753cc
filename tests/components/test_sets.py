"""Bars and window managers of a person's own: what their colours tell apart is told apart in every look, readably."""

from __future__ import annotations

import re
from dataclasses import replace
from itertools import combinations

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from mellow_finch.colour.contrast import ratio
from mellow_finch.colour.difference import colour_difference
from mellow_finch.colour.gamut import oklch_to_rgba, rgba_to_oklch
from mellow_finch.colour.rgb import Rgba, parse_hex
from mellow_finch.components.catalogue import COMPONENT_BY_ID
from mellow_finch.components.files import FolderFiles
from mellow_finch.look.dressed import dress
from mellow_finch.look.edits import with_temper, with_tone
from mellow_finch.proof.proof import prove

TONES = ("dark", "light")
MODULES = ("clock", "cpu", "memory", "network", "pulseaudio", "tray", "disk")
I3 = """\
set $mod Mod4
set $bg      {bg}
set $raised  {raised}
set $fg      {fg}
set $muted   {muted}
set $accent  #7aa2f7
set $red     #f7768e
client.focused   $accent $raised $fg $accent $accent
client.unfocused $bg $bg $muted $bg $bg
client.urgent    $red $red $bg $red $red
bar {{
  colors {{
    background $bg
    statusline $fg
    separator $muted
    focused_workspace  $accent $accent $bg
    inactive_workspace $bg $bg $muted
    urgent_workspace   $red $red $bg
  }}
}}
"""


def turned(a, b):
    return abs((a - b + 180) % 360 - 180)


def hue(colour):
    return rgba_to_oklch(colour)[2]


class OneFile:
    """A home that has one file."""

    def __new__(cls, folder, path, text):
        (folder / path).parent.mkdir(parents=True, exist_ok=True)
        (folder / path).write_text(text)
        return FolderFiles(folder)


def recoloured(look, tone, id_, home, path):
    written = COMPONENT_BY_ID[id_].write(with_tone(look, tone).scheme(), home)
    return next(f.data.decode() for f in written if f.path == path)


@st.composite
def bars(draw):
    """Return the sheet of a bar: its ground, its words, and modules in hues far enough apart to tell."""
    count = draw(st.integers(2, 6))
    start = draw(st.floats(0, 360))
    free = 360 - 42 * count
    shares = draw(st.lists(st.floats(0, 1), min_size=count, max_size=count))
    gaps = [42 + free * s / (sum(shares) or 1) * 0.9 for s in shares]
    hues = [(start + sum(gaps[:i])) % 360 for i in range(count)]
    dark = draw(st.booleans())
    ground = oklch_to_rgba(0.2 if dark else 0.95, 0.015, draw(st.floats(0, 360)))
    words = oklch_to_rgba(0.9 if dark else 0.25, 0.02, 260.0)
    inks = [oklch_to_rgba(0.76 if dark else 0.45, draw(st.floats(0.11, 0.15)), h) for h in hues]
    rules = [f"window#waybar {{ background: {ground.hex}; color: {words.hex}; }}"]
    rules += [f"#{name} {{ color: {ink.hex}; }}" for name, ink in zip(MODULES, inks, strict=False)]
    rules.append(f"tooltip {{ background: {ground.hex}; }}\ntooltip label {{ color: {words.hex}; }}")
    return "\n".join(rules), inks


@pytest.mark.parametrize("tone", TONES)
@given(bar=bars())
@settings(max_examples=25, deadline=None)
def test_modules_of_a_bar_stay_as_many_hues_as_they_were(look, tmp_path_factory, tone, bar):
    sheet, inks = bar
    path = ".config/waybar/style.css"
    home = OneFile(tmp_path_factory.mktemp("bar"), path, sheet)
    text = recoloured(look, tone, "waybar", home, path)
    fresh = [parse_hex(re.search(rf"#{name} {{ color: (#\w+)", text)[1]) for name in MODULES[: len(inks)]]
    for a, b in combinations(fresh, 2):
        assert colour_difference(a, b) >= 10, (sheet, text)
    kept = sum(turned(hue(old), hue(new)) <= 40 for old, new in zip(inks, fresh, strict=True))
    assert kept >= len(inks) - 1, "all but the leading one, which is the accent now"
    ground = parse_hex(re.search(r"window#waybar { background: (#\w+)", text)[1])
    assert min(ratio(new, ground) for new in fresh) >= 4.49, text
    tooltip = parse_hex(re.search(r"tooltip { background: (#\w+)", text)[1])
    assert tooltip == ground, "what was one ground is one"


@pytest.mark.parametrize("tone", TONES)
def test_variables_take_the_role_of_all_their_places(look, tmp_path, tone):
    dark = {"bg": "#1a1b26", "raised": "#24283b", "fg": "#c0caf5", "muted": "#565f89"}
    path = ".config/i3/config"
    text = recoloured(look, tone, "i3", OneFile(tmp_path, path, I3.format(**dark)), path)
    said = {name: parse_hex(value) for name, value in re.findall(r"set \$(\w+)\s+(#\w+)", text)}
    colours = with_tone(look, tone).colours
    assert said["bg"] == colours["panel"] and turned(hue(said["accent"]), hue(colours["accent"])) < 12
    assert turned(hue(said["red"]), hue(parse_hex("#f7768e"))) < 40
    lights = {name: rgba_to_oklch(colour)[0] for name, colour in said.items()}
    assert (lights["bg"] < lights["fg"]) == (tone == "dark")
    for text_, ground in (("fg", "bg"), ("muted", "bg"), ("bg", "accent"), ("bg", "red"), ("fg", "raised")):
        assert ratio(said[text_], said[ground]) >= 4.49, (text_, ground)


def test_a_light_configuration_turns_round_as_a_whole(look, tmp_path):
    light = {"bg": "#e1e2e7", "raised": "#d0d5e3", "fg": "#3760bf", "muted": "#848cb5"}
    path = ".config/i3/config"
    text = recoloured(look, "dark", "i3", OneFile(tmp_path, path, I3.format(**light)), path)
    said = {name: parse_hex(value) for name, value in re.findall(r"set \$(\w+)\s+(#\w+)", text)}
    assert rgba_to_oklch(said["bg"])[0] < 0.4 and ratio(said["fg"], said["bg"]) >= 4.49


def test_words_of_a_rule_are_read_on_what_the_rule_fills(look, tmp_path):
    """No part names a person's own module: its own ground counts all the same."""
    sheet = (
        "window#waybar { background: #1a1b26; color: #c0caf5; }\n"
        "#custom-tide { background: #f7768e; color: #1a1b26; }\n"
        "#custom-nets { background: #9ece6a; color: #fafafa; }\n"
    )
    path = ".config/waybar/style.css"
    home = OneFile(tmp_path, path, sheet)
    for tone in TONES:
        text = recoloured(look, tone, "waybar", home, path)
        for name in ("tide", "nets"):
            fill, ink = re.search(rf"#custom-{name} {{ background: (#\w+); color: (#\w+)", text).groups()
            assert ratio(parse_hex(ink), parse_hex(fill)) >= 4.49, (tone, name)
            assert isinstance(parse_hex(fill), Rgba) and rgba_to_oklch(parse_hex(fill))[1] > 0.05


NIGHT = {
    ".config/rofi/config.rasi": 'configuration { modi: "drun"; }\n@theme "night"\n',
    ".config/rofi/themes/shared.rasi": "* { bg: #1a1b26; bg2: #24283b; fg: #c0caf5; muted: #565f89; accent: #7aa2f7; }\n",
    ".config/rofi/themes/night.rasi": (
        '@import "shared.rasi"\n* { background-color: transparent; text-color: @fg; }\n'
        "window { width: 800px; location: north; background-color: @bg; border-color: @accent; }\n"
        "inputbar { background-color: @bg2; text-color: @fg; padding: 12px; }\nentry { placeholder-color: @muted; }\n"
        "listview { columns: 2; lines: 6; }\nelement normal.normal { text-color: @fg; }\n"
        "element selected.normal { background-color: @accent; text-color: @bg; }\n"
    ),
}


@pytest.mark.parametrize("tone", TONES)
def test_a_launchers_own_theme_keeps_its_shapes(look, tmp_path, tone):
    for path, text in NIGHT.items():
        home = OneFile(tmp_path, path, text)
    dressed = dress(with_tone(look, tone), home, frozenset({"rofi"}))
    files = {f.path: f.data.decode() for f in dressed.files["rofi"]}
    assert set(files) == set(NIGHT) and files[".config/rofi/config.rasi"] == NIGHT[".config/rofi/config.rasi"]
    bare = {path: re.sub(r"#\w{6}", "#", text) for path, text in files.items()}
    assert bare == {path: re.sub(r"#\w{6}", "#", text) for path, text in NIGHT.items()}
    assert files[".config/rofi/themes/shared.rasi"] != NIGHT[".config/rofi/themes/shared.rasi"]
    assert dressed.paints["rofi"]["launcher"].fill == dressed.look.colours["menu"] and prove(dressed)
    assert all(found.passes for found in prove(dressed))


def test_a_launcher_without_a_theme_of_its_own_gets_ours(look, tmp_path):
    home = OneFile(tmp_path, ".config/rofi/config.rasi", '@theme "/usr/share/rofi/themes/Adapta.rasi"\n')
    dressed = dress(look, home, frozenset({"rofi"}))
    assert any(f.path.startswith(".config/rofi/themes/") for f in dressed.files["rofi"])


SURFACES = (
    ("shell", "panel"), ("shell", "menu"), ("shell", "notification"), ("waybar", "bar"), ("polybar", "bar"),
    ("i3", "bar"), ("openbox", "border"), ("gtk-3", "panel"), ("gtk-3", "header bar"), ("gtk-3", "menu"),
    ("kde", "window border"), ("rofi", "launcher"),
)  # fmt: skip


@pytest.mark.parametrize("share", [0.0, 0.8, *(pytest.param(s, marks=pytest.mark.long) for s in (0.2, 0.4, 0.6, 1.0))])
def test_however_much_accent_a_surface_has_it_shows_there(look, share, home):
    """Sheets, bars and borders of the home's own hold their surfaces at the role's colour, and their words readable."""
    for tone in TONES:
        asked = replace(look.temper, panel=share, menu=share, header=share, border=share)
        fresh = with_temper(with_tone(look, tone), asked)
        dressed = dress(fresh, FolderFiles(home), frozenset(id_ for id_, _ in SURFACES))
        for id_, key in SURFACES:
            fill, role = dressed.paints[id_][key].fill, COMPONENT_BY_ID[id_].by_key[key].fill_role
            assert colour_difference(fill.opaque, fresh.colours[role]) <= 8, (tone, id_, key, fill.hex)
        assert all(found.passes for found in prove(dressed)), (tone, share)
