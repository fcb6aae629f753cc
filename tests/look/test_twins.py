"""The other tone of a look's themes lies beside, for a desktop that changes between the two by itself."""

from __future__ import annotations

import configparser

import pytest

from mellow_finch.components.files import FolderFiles, OutFile, layered
from mellow_finch.look.dressed import dress
from mellow_finch.look.edits import with_tone
from mellow_finch.look.theme_edits import with_brought, with_worn
from mellow_finch.look.worn_themes import NO_THEMES, worn_themes
from mellow_finch.palette.recipe import TONES, opposite
from tests.theme.decoration_home import make_plasma_theme

PLASMA = frozenset({"kde", "aurorae", "desktop-theme", "look-and-feel"})
_WHOLE = ".local/share/plasma/look-and-feel"
_KNOWS_BOTH = OutFile("/usr/share/config.kcfg/lookandfeelsettings.kcfg", b'key="DefaultDarkLookAndFeel"\n')
_DRAWN = OutFile(".config/kdeglobals", b"[KDE]\nwidgetStyle=kvantum\n")


def files_of(look, home, folder="", only=PLASMA, there=(), themes=NO_THEMES):
    files = layered(FolderFiles(home), there)
    return {o.path: o.data for o in dress(look, files, only, folder=folder, themes=themes).outputs}


def ini(data):
    """Return a file of settings by section and key, as a reader of the standard library has it."""
    read = configparser.RawConfigParser(strict=False)
    read.optionxform = str
    read.read_string(data.decode())
    return read


@pytest.mark.parametrize("tone", TONES)
def test_what_lies_beside_is_what_the_other_tone_writes(tone, looks, tmp_path):
    look, other = with_tone(looks[0], tone), opposite(tone)
    folder = f"{look.folder}_{other}"
    beside = {path: data for path, data in files_of(look, tmp_path).items() if folder in path}
    alone = {path: data for path, data in files_of(with_tone(look, other), tmp_path, folder).items() if folder in path}
    assert set(beside) == {path for path in alone if f"{folder}_{tone}" not in path}
    drawn = [path for path in beside if path.endswith((".svg", "/colors", "rc", "preview.png", "splash.png"))]
    assert len(drawn) > 15 and all(beside[path] == alone[path] for path in drawn)
    scheme = ini(beside[f".local/share/color-schemes/{folder}.colors"])
    assert scheme["Colors:Window"] == ini(alone[f".local/share/color-schemes/{folder}.colors"])["Colors:Window"]
    assert scheme["General"]["Name"] == f"{look.name}, {other}"  # what its list shows


def test_the_desktop_knows_both_where_it_changes_by_itself(looks, tmp_path):
    look = with_tone(looks[0], "light")
    dark = f"{look.folder}_dark"
    made = files_of(look, tmp_path, there=(_KNOWS_BOTH, _DRAWN))
    told = ini(made[".config/kdeglobals"])["KDE"]
    assert told["DefaultLightLookAndFeel"] == told["LookAndFeelPackage"] == look.folder
    assert told["DefaultDarkLookAndFeel"] == dark
    for folder, style in ((look.folder, "kvantum"), (dark, "Breeze")):  # the drawn style has one tone at a time
        chosen = ini(made[f"{_WHOLE}/{folder}/contents/defaults"])
        assert chosen["kdeglobals][KDE"]["widgetStyle"] == style
        assert chosen["plasmarc][Theme"]["name"] == chosen["kdeglobals][General"]["ColorScheme"] == folder


def test_there_is_no_other_tone_of_what_is_not_included_or_of_a_theme_that_is_worn(looks, tmp_path):
    assert not [path for path in files_of(looks[0], tmp_path, only=frozenset({"kde"})) if "_light" in path]
    few = files_of(looks[0], tmp_path, only=frozenset({"kde", "look-and-feel"}), there=(_KNOWS_BOTH,))
    assert {path.split("/")[2] for path in few if "_light" in path} == {"color-schemes", "plasma"}
    theme = str(make_plasma_theme(tmp_path / "theme"))
    worn = with_worn(with_brought(looks[0], theme), theme, frozenset({"aurorae"}))
    made = files_of(worn, tmp_path, there=(_KNOWS_BOTH,), themes=worn_themes(worn))
    assert not [path for path in made if "_light" in path] and b"DefaultDark" not in made[".config/kdeglobals"]
