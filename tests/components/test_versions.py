"""Readers whose files changed between versions: each is written as the one that is there reads it, and read back alike."""

from __future__ import annotations

import json
import re
from pathlib import Path

import pytest
import tinycss2

from mellow_finch.components.catalogue import COMPONENT_BY_ID
from mellow_finch.components.files import FolderFiles, NewHome, NoFiles, OutFile, layered
from mellow_finch.components.write.template import filled
from mellow_finch.look.dressed import dress
from mellow_finch.look.ready import READY


def home_with(tmp_path, path: str, text: str) -> FolderFiles:
    target = tmp_path / path
    target.parent.mkdir(parents=True)
    target.write_text(text)
    return FolderFiles(tmp_path)


@pytest.mark.parametrize(
    ("section", "cursor"), [("[colors]", "[cursor]\ncolor="), ("[colors-dark]", "[colors-dark]\ncursor=")]
)
def test_a_terminal_gets_the_section_that_its_own_file_has(tmp_path, section, cursor):
    files = home_with(tmp_path, ".config/foot/foot.ini", f"{section}\nbackground=31ff07\n")
    foot, scheme = COMPONENT_BY_ID["foot"], READY[0].look().scheme()
    made = foot.write(scheme, files)
    text = next(o.data.decode() for o in made if o.path.endswith("mellow-finch.ini"))
    assert f"{section}\n" in text and cursor in text
    assert text.count("[colors") == 1 and ("[cursor]" in text) == (section == "[colors]")
    read = foot.read(layered(files, made))
    assert read["terminal"].fill == scheme.colours["terminal"]
    assert read["cursor"].fill == scheme.colours["cursor"]


def test_a_lua_configuration_is_told_too_and_the_older_file_stays_dressed(tmp_path):
    files = home_with(tmp_path, ".config/hypr/hyprland.lua", "hl.config({ general = { gaps_in = 5 } })\n")
    look = READY[0].look()
    done = dress(look, files, ["hyprland", "hyprland-lua"])
    paths = [o.path for o in done.outputs]
    assert ".config/hypr/hyprland.lua" in paths and ".config/hypr/mellow-finch.conf" in paths
    colours = COMPONENT_BY_ID["hyprland-lua"].colours(look.scheme(), files)
    assert done.paints["hyprland-lua"]["border frame"].fill == colours["border"]


def test_notifications_are_judged_with_the_sheet_that_lies_over_them(tmp_path):
    path = ".local/share/themes/Mine/xfce-notify-4.0/gtk.css"
    own = home_with(tmp_path, path, "#XfceNotifyWindow { background-color: #000000; color: #ffffff; }\n")
    assert COMPONENT_BY_ID["xfce-notify"].read(own)["notice"].fill.hex == "#000000"
    (tmp_path / ".config/gtk-3.0").mkdir(parents=True)
    (tmp_path / ".config/gtk-3.0/gtk.css").write_text("window#XfceNotifyWindow { background-color: #fefefe; }\n")
    assert COMPONENT_BY_ID["xfce-notify"].read(own)["notice"].fill.hex == "#fefefe"


def test_lines_of_a_template_can_wait_for_a_word_or_for_its_absence():
    text = "a\n‹?new›b\n‹?!new›c\n"
    assert filled(text, "hex", None, {}) == "a\nc\n"
    assert filled(text, "hex", None, {"new": "1"}) == "a\nb\n"


CLASSES = json.loads((Path(__file__).parent.parent / "data" / "shell-classes.json").read_text())


@pytest.mark.parametrize(("component", "family"), [("shell", "gnome"), ("shell-cinnamon", "cinnamon")])
def test_every_class_of_a_sheet_of_ours_is_one_of_a_shells_own(component, family):
    """The names that the shells' own sheets and programs have, read out of 43, 48 and 51, of 5.6, 6.4 and 6.6."""
    scheme = READY[0].look().scheme()
    sheet = next(
        f.data.decode() for f in COMPONENT_BY_ID[component].write(scheme, NoFiles()) if f.path.endswith(".css")
    )
    versions = {version: frozenset(names.split()) for version, names in CLASSES[family].items()}
    dead = set()
    for rule in tinycss2.parse_stylesheet(sheet, skip_comments=True, skip_whitespace=True):
        assert rule.type == "qualified-rule", rule.serialize()
        for selector in tinycss2.serialize(rule.prelude).split(","):
            named = {*re.findall(r"\.([A-Za-z][\w-]*)", selector), *re.findall(r"#[A-Za-z][\w-]*", selector)}
            dead |= set() if any(named <= names for names in versions.values()) else {selector.strip()}
    assert dead == set()
    newest = versions[max(versions, key=lambda v: float(v.rpartition(".")[0] if v.count(".") > 1 else v))]
    for part in COMPONENT_BY_ID[component].parts:  # each is drawn in the newest too, by one of its names
        last = part.at.rpartition(" > ")[2].partition(":")[0]
        names = {*re.findall(r"\.([A-Za-z][\w-]*)", last), *re.findall(r"#[A-Za-z][\w-]*", last)}
        assert not names or names & newest, part.key


@pytest.mark.parametrize("two", [True, False])
def test_a_login_theme_names_the_greeter_that_is_there(two):
    there = [OutFile("/usr/bin/sddm-greeter-qt6", b"\x7fELF")] if two else []
    made = COMPONENT_BY_ID["login-sddm"].write(READY[0].look().scheme(), layered(NoFiles(), there))
    about = next(o.data.decode() for o in made if o.path.endswith("metadata.desktop"))
    assert ("QtVersion=6" in about.splitlines()) == two


def test_a_folder_for_everybody_is_made_for_the_computer_that_it_is_made_on():
    new = NewHome()
    assert new("/etc/os-release") == Path("/etc/os-release").read_bytes() and new(".config/kdeglobals") is None
    assert new.find("/etc/os-rel*") == ["/etc/os-release"] and new.find("*") == []
