"""Shape and fonts beyond colours: nothing of them until asked, then wherever a component has them, and read as meant."""

from __future__ import annotations

import ast
import json
import re
import shutil
import subprocess
import tomllib
from dataclasses import replace

import pytest
from tools.rigs.homes import whole_home

from mellow_finch.components.catalogue import COMPONENT_BY_ID, COMPONENTS
from mellow_finch.components.files import FolderFiles, NoFiles, layered
from mellow_finch.components.options import options_of
from mellow_finch.look.companions import fits
from mellow_finch.look.decision_edits import with_companion
from mellow_finch.look.dressed import dress, every_component
from mellow_finch.look.file import look_from_json, look_to_json

ASKED = {
    "radius": "13",
    "edge": "5",
    "gaps": "24",
    "density": "roomy",
    "font": "Marsh Hand 13",
    "fixed_font": "Marsh Mono 14",
}
# What each component says of what was asked for.
SAYS = {
    "rofi": ["padding: 12px 18px", "border-radius: 13px", "border: 5px", 'font: "Marsh Hand 13"'],
    "dunst": [
        "padding = 12",
        "horizontal_padding = 18",
        "corner_radius = 13",
        "frame_width = 5",
        "font = Marsh Hand 13",
    ],
    "mako": ["padding=12,18", "border-radius=13", "border-size=5", "font=Marsh Hand 13"],
    "fuzzel": ["vertical-pad=12", "radius=13", "width=5", "font=Marsh Hand:size=13"],
    "tofi": ["padding-top = 12", "corner-radius = 13", "border-width = 5"],
    "i3": ["default_border pixel 5", "gaps inner 24", "font pango:Marsh Hand 13"],
    "sway": ["default_border pixel 5", "gaps inner 24"],
    "hyprland": ["rounding = 13", "border_size = 5", "gaps_in = 24"],
    "bspwm": ["border_width 5", "window_gap 24"],
    "herbstluftwm": ["theme.border_width 5", "window_gap 24"],
    "awesome": ["theme.useless_gap = 24", 'theme.font = "Marsh Hand 13"'],
    "openbox": ["border.width: 5"],
    "fluxbox": ["window.borderWidth: 5"],
    "icewm": ["BorderSizeX=5"],
    "plank": ["TopRoundness=13"],
    "gtk-3": ["menuitem, modelbutton, row, tab { padding: 12px 18px; }", "border-radius: 13px"],
    "gtk-4": ["headerbar { padding: 12px;", "border-radius: 13px"],
    "kitty": ["window_padding_width 12", "font_family Marsh Mono", "font_size 14"],
    "foot": ["pad=18x12", "font=Marsh Mono:size=14"],
    "alacritty": ["x = 18", 'family = "Marsh Mono"'],
    "xfce-terminal": ["FontName=Marsh Mono 14", "FontUseSystem=FALSE"],
    "konsole": ["Font=Marsh Mono,14,"],
    "ghostty": ["window-padding-x = 18", "font-family = Marsh Mono"],
    "code-editor": ['"editor.fontFamily": "Marsh Mono"'],
    "geany": ["editor_font=Marsh Mono 14"],
    "emacs": ['"Marsh Mono-14"'],
    "zathura": ['set font "Marsh Hand 13"'],
}


@pytest.fixture(scope="module")
def whole(tmp_path_factory):
    return whole_home(tmp_path_factory.mktemp("shaped"))


def asked_of(look):
    for id_, value in ASKED.items():
        look = with_companion(look, id_, value)
    return look


@pytest.mark.parametrize("id_", SAYS)
def test_what_is_asked_for_is_written_and_nothing_before(id_, look, whole):
    files = {
        o.path: o.data.decode(errors="replace") for o in COMPONENT_BY_ID[id_].write(asked_of(look).scheme(), whole)
    }
    text = "\n".join(files.values())
    assert all(words in text for words in SAYS[id_]), [w for w in SAYS[id_] if w not in text]
    plain = "\n".join(o.data.decode(errors="replace") for o in COMPONENT_BY_ID[id_].write(look.scheme(), whole))
    assert not [words for words in SAYS[id_] if words in plain] and "‹" not in text + plain


@pytest.mark.long
def test_colours_are_read_back_the_same(look, whole):
    """What is asked for beside the colours moves no colour."""
    for files in (NoFiles(), whole):
        plain = dress(look, files, every_component(look)).paints
        shaped = dress(asked_of(look), files, every_component(look)).paints
        assert {c.id: dict(plain[c.id]) for c in COMPONENTS} == {c.id: dict(shaped[c.id]) for c in COMPONENTS}


def test_files_are_still_what_their_readers_take(look, whole, tmp_path):
    dressed = dress(asked_of(look), whole, every_component(look))
    for output in dressed.outputs:
        text = output.data.decode("utf-8", "replace")
        if output.path.endswith(".toml"):
            tomllib.loads(text)
        elif output.path.endswith(".json") and "//" not in text:
            json.loads(re.sub(r",(\s*[}\]])", r"\1", text))
    for program, words, path in (
        ("i3", ("-C", "-c"), ".config/i3/config"),
        ("fish", ("--no-execute",), ".config/fish/config.fish"),
    ):
        if shutil.which(program):
            place = tmp_path / program
            place.write_bytes(layered(whole, list(dressed.outputs))(path))
            done = subprocess.run([program, *words, str(place)], capture_output=True, text=True)
            assert done.returncode == 0 and "ERROR" not in done.stderr, done.stderr


def test_one_component_may_be_otherwise(look, whole):
    look = with_companion(with_companion(look, "radius", "8"), "radius", "2", "rofi")
    look = with_companion(look, "font", "Marsh Hand 9", "dunst")

    def text(id_):
        return "\n".join(o.data.decode() for o in COMPONENT_BY_ID[id_].write(look.scheme(), whole))

    assert "border-radius: 2px" in text("rofi") and "corner_radius = 8" in text("dunst")
    assert "font = Marsh Hand 9" in text("dunst") and "Marsh Hand" not in text("rofi")
    back = look_from_json(look_to_json(look))
    assert back.companions == look.companions and back.decisions == look.decisions
    for component, id_ in (("rofi", "buttons"), ("..", "radius"), ("rofi/radius", "x"), ("rofi", "")):
        assert not fits(id_, "2", component), id_


def test_a_component_says_what_it_has_beyond_colours():
    assert COMPONENT_BY_ID["rofi"].shape == ("radius", "edge", "density", "font")
    assert COMPONENT_BY_ID["foot"].shape == ("density", "fixed_font") and COMPONENT_BY_ID["git"].shape == ()
    for id_, says in SAYS.items():
        assert COMPONENT_BY_ID[id_].shape, (id_, says)


def test_words_for_files(look):
    assert options_of({}) == {} == look.scheme().options_for("rofi")
    words = options_of(ASKED)
    assert (words["fixed_font_family"], words["fixed_font_points"], words["radius"]) == ("Marsh Mono", "14", "13")
    assert replace(look, companions={"radius": "0"}).scheme().options_for("rofi") == {"radius": "0"}


def test_a_look_taken_off_gives_the_shape_back(look, tmp_path, monkeypatch):
    """What was asked for stands in regions and keys of ours: with another look it goes."""
    home = whole_home(tmp_path).root
    files = FolderFiles(home)
    once = layered(files, list(dress(asked_of(look), files, every_component(look)).outputs))
    again = dress(look, once, every_component(look))
    for id_ in ("i3", "sway", "bspwm", "herbstluftwm", "awesome", "zathura", "emacs"):
        text = "\n".join(o.data.decode(errors="replace") for o in again.files[id_])
        assert not [words for words in SAYS.get(id_, []) if words in text], id_


def test_a_name_of_a_font_ends_no_word_of_a_configuration(look, whole):
    """Apostrophes may stand in names of fonts, and looks come from others."""
    odd = with_companion(with_companion(look, "font", "O'Reed + x.y 11"), "fixed_font", "O'Sedge 12")
    scheme = odd.scheme()
    assert scheme.options_for("")["font"] == "O'Reed + x.y 11"

    def text(id_, ending):
        return next(o.data.decode() for o in COMPONENT_BY_ID[id_].write(scheme, whole) if o.path.endswith(ending))

    said = {n.value for n in ast.walk(ast.parse(text("qutebrowser", ".py"))) if isinstance(n, ast.Constant)}
    assert "O'Reed + x.y" in said
    assert tomllib.loads(text("alacritty", ".toml"))["font"]["normal"]["family"] == "O'Sedge"
    assert json.loads(text("zed", "settings.json"))["buffer_font_family"] == "O'Sedge"
