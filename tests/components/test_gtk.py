"""What the toolkit's platform library is told: every variable that it has, each readable where it draws it."""

from __future__ import annotations

import re
from dataclasses import replace
from pathlib import Path

import pytest
from coloraide import Color

from mellow_finch.components.files import FolderFiles, NoFiles
from mellow_finch.components.write.gtk import knows_variables, write_gtk4
from mellow_finch.look.edits import with_temper
from mellow_finch.look.ready import READY
from mellow_finch.recolour.names import LIBRARY_LEFT, LIBRARY_NAMES, LIBRARY_VARIABLES
from mellow_finch.session.accents import ACCENTS, nearest_accent

VARIABLES = Path(__file__).parent.parent / "data" / "library-variables.txt"


def test_every_variable_of_the_library_is_written_or_left_for_a_reason():
    known = {line for line in VARIABLES.read_text().splitlines() if not line.startswith("#")}
    named = {name.replace("_", "-") for name in LIBRARY_NAMES}
    assert known == (named | {*LIBRARY_VARIABLES, *LIBRARY_LEFT, "dim-opacity"}) - (named - known)
    assert named - known <= {"overview-bg-color", "active-toggle-bg-color"} and all(LIBRARY_LEFT.values())


def variables_of(scheme) -> dict[str, str]:
    sheet = next(f.data.decode() for f in write_gtk4(scheme, NoFiles()) if f.path.endswith(".config/gtk-4.0/gtk.css"))
    return dict(re.findall(r"--([\w-]+): ([^;]+);", sheet[sheet.index(":root") :]))


def over(text: Color, ground: Color, share: float) -> Color:
    return Color("srgb", [t * share + g * (1 - share) for t, g in zip(text.coords(), ground.coords(), strict=True)])


@pytest.mark.parametrize("need", [4.5, 7.0])
@pytest.mark.parametrize("ready", [READY[0], READY[2], READY[-2]], ids=lambda r: r.id)
def test_what_the_library_draws_of_them_can_be_read(ready, need):
    look = with_temper(base := ready.look(), replace(base.temper, text_need=need))
    scheme, told = look.scheme(), variables_of(look.scheme())
    dim = float(told["dim-opacity"].removesuffix("%")) / 100
    for surface in ("window", "view", "card"):
        ground = Color(scheme.colours[surface].hex)
        for name in ("accent-color", "success-color", "warning-color", "error-color", "destructive-color"):
            assert Color(told[name]).contrast(ground, method="wcag21") >= need - 0.02, (name, surface)
        ink = Color(told["destructive-color"])
        for share in (0.15, 0.2):  # of itself, under a button that deletes: at rest, and under the pointer
            assert ink.contrast(over(ink, ground, share), method="wcag21") >= need - 0.06, surface
        text = Color(scheme.colours[f"{surface}_text"].hex)
        for field in (ground, over(text, ground, 0.1)):
            assert over(text, field, dim).contrast(field, method="wcag21") >= need - 0.06, surface


@pytest.mark.parametrize(
    ("files", "told"),
    [((), True), (("libgtk-4.so.1.800.3",), False), (("libgtk-4.so.1.800.3", "libgtk-4.so.1.1800.6"), True)],
)
def test_an_older_toolkit_is_not_told_of_variables(tmp_path, files, told):
    class Machine(FolderFiles):
        def find(self, pattern):
            return list(files) if pattern == "/usr/lib/libgtk-4.so.1.*" else []

    assert knows_variables(Machine(tmp_path)) is told


def test_the_nearest_accent_is_told_by_hue():
    for name, colour in ACCENTS.items():
        assert nearest_accent(colour) == name
    hues = {n: Color(c.hex).convert("oklch")["hue"] for n, c in ACCENTS.items() if n != "slate"}
    for ready in READY:
        accent = Color(ready.look().colours["accent"].hex).convert("oklch")
        told = nearest_accent(ready.look().colours["accent"])
        apart = {n: abs((h - accent["hue"] + 180) % 360 - 180) for n, h in hues.items()}
        assert told == ("slate" if accent["chroma"] < 0.04 else min(apart, key=apart.get)), ready.id
