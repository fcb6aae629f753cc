"""Fonts that come in an archive are installed for the person with their licence, and what they ship beside is left."""

from __future__ import annotations

import shutil
import subprocess
import zipfile
from pathlib import Path

import pytest

from mellow_finch.theme.bundle.opened import open_bundle
from mellow_finch.theme.bundle.read import read_theme
from mellow_finch.theme.result.account import Choices
from mellow_finch.theme.result.recolour import recolour_theme

OWN = Path(__file__).resolve().parents[2] / "src/mellow_finch/ui/kit/fonts"
FONT = next(OWN.glob("*-Regular.ttf"))


@pytest.fixture
def archive(tmp_path):
    path = tmp_path / "marsh-hand.zip"
    with zipfile.ZipFile(path, "w") as out:
        out.write(FONT, f"Marsh/ttf/{FONT.name}")
        out.writestr("Marsh/ttf/OFL.txt", "Marsh font licence, version 1\nfree to pass on")
        out.writestr("Marsh/ttf/specimen.html", "<p>reeds</p>")
        out.writestr("Marsh/ttf/no-font.ttf", "only called one")
    return path


def test_fonts_go_along_with_their_licence_and_are_found_by_programs(archive, look, tmp_path):
    outcome = recolour_theme(read_theme(open_bundle(archive)), look.scheme(), Choices())
    names = {path.rpartition("/")[2]: out.data for path, out in outcome.outputs.items()}
    assert set(names) == {FONT.name, "OFL.txt", "no-font.ttf"} and names[FONT.name] == FONT.read_bytes()
    assert all(path.startswith(".local/share/fonts/") for path in outcome.outputs)
    (note,) = [n for n in outcome.notes if n.startswith("Fonts installed for you")]
    assert FONT.name in note and "“Marsh font licence, version 1”" in note
    if shutil.which("fc-scan"):
        for path, out in outcome.outputs.items():
            (tmp_path / path).parent.mkdir(parents=True, exist_ok=True)
            (tmp_path / path).write_bytes(out.data)
        folder = tmp_path / ".local/share/fonts"
        said = subprocess.run(["fc-scan", "-f", "%{family}\n", str(folder)], capture_output=True, text=True).stdout
        assert said.count("\n") == 1


def test_an_archive_that_only_calls_its_files_fonts_is_none(tmp_path):
    from mellow_finch.errors import ParseError

    path = tmp_path / "marsh.zip"
    with zipfile.ZipFile(path, "w") as out:
        out.writestr("Marsh/no-font.ttf", "only called one")
    with pytest.raises(ParseError):
        read_theme(open_bundle(path))
