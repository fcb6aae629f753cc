"""Styles drawn from SVG: their files are called like their folder, their keys read as they are meant, and go together."""

from __future__ import annotations

import io
import os
import re
import shutil
import subprocess

import pytest
from PIL import Image

from mellow_finch.colour.blend import over
from mellow_finch.colour.contrast import ratio
from mellow_finch.colour.difference import colour_difference
from mellow_finch.colour.rgb import Rgba, parse_hex
from mellow_finch.look.edits import with_tone
from mellow_finch.proof.toolkit.ask import (
    QT,
    MeasuredPlace,
    ask_before,
    drawn_style_in,
    mend_by_painting,
    reason_not,
    told_of,
)
from mellow_finch.theme.bundle.read import open_theme
from mellow_finch.theme.result.account import Choices, MeasuredFailure
from mellow_finch.theme.result.recolour import recolour_theme

KEYS = """[%General]
author=The warden
composite=true

[GeneralColors]
window.color=#383c4a
base.color=#404552
button.color=#414654
highlight.color=#5294e2
text.color=#ffffffc8
window.text.color=#ffffff30
button.text.color=#ffffffc8
highlight.text.color=white

[PanelButtonCommand]
text.normal.color=#f0f0f0
interior.element=button
"""
DRAWING = """<svg xmlns="http://www.w3.org/2000/svg" width="40" height="20">
<rect id="button-normal" width="20" height="20" fill="#414654"/><rect id="check" x="20" width="20" height="20" fill="#5294e2"/>
</svg>"""


@pytest.fixture
def style(tmp_path):
    folder = tmp_path / "Mudflat"
    folder.mkdir()
    (folder / "Mudflat.kvconfig").write_text(KEYS)
    (folder / "Mudflat.svg").write_text(DRAWING)
    return open_theme(folder)


def keys_of(made):
    (path,) = [p for p in made.outputs if p.endswith(".kvconfig")]
    rows = (line.split("=") for line in made.outputs[path].data.decode().splitlines() if "color=" in line)
    return path, {key: parse_hex(value) for key, value in rows if value.startswith("#")}


@pytest.mark.parametrize("tone", ["dark", "light"])
def test_it_is_found_by_its_new_name_and_reads(style, look, tone):
    scheme = with_tone(look, tone).scheme()
    made = recolour_theme(style, scheme)
    path, keys = keys_of(made)
    assert (
        path == f".config/Kvantum/{made.name}/{made.name}.kvconfig"
        and path.replace(".kvconfig", ".svg") in made.outputs
    )
    assert keys["window.color"] == scheme.colours["window"] and keys["highlight.color"] == scheme.colours["selection"]
    for text, ground in (("text.color", "base.color"), ("window.text.color", "window.color")):
        drawn = over(keys[text], keys[ground])
        assert ratio(drawn, keys[ground]) >= 4.4, (text, keys)
    assert keys["text.color"].a == pytest.approx(0xC8 / 255, abs=0.01)  # the last two digits are how much is seen of it
    drawing = made.outputs[path.replace(".kvconfig", ".svg")].data.decode()
    assert colour_difference(parse_hex(drawing.partition('fill="')[2][:7]), scheme.colours["control"]) < 3


def test_the_real_style_engine_takes_it(style, look, tmp_path):
    python = "/usr/bin/python3"
    if shutil.which("kvantummanager") is None or subprocess.run([python, "-c", "import PyQt5"]).returncode:
        pytest.skip("NO KVANTUM")
    made = recolour_theme(style, look.scheme())
    for path, entry in made.outputs.items():
        (tmp_path / "home" / path).parent.mkdir(parents=True, exist_ok=True)
        (tmp_path / "home" / path).write_bytes(entry.data)
    (tmp_path / "home/.config/Kvantum/kvantum.kvconfig").write_text(f"[General]\ntheme={made.name}\n")
    asks = (
        "from PyQt5.QtWidgets import QApplication; a = QApplication([]); p = a.palette(); "
        "print(a.style().objectName(), p.window().color().name(), p.windowText().color().name())"
    )
    home = str(tmp_path / "home")
    env = {
        "PATH": os.environ["PATH"],
        "HOME": home,
        "XDG_CONFIG_HOME": f"{home}/.config",
        "QT_QPA_PLATFORM": "offscreen",
    }
    env |= {"QT_STYLE_OVERRIDE": "kvantum", "LC_ALL": "C.UTF-8"}
    told = subprocess.run([python, "-c", asks], env=env, capture_output=True, text=True, timeout=60).stdout.split()
    _, keys = keys_of(made)
    assert told == ["kvantum", keys["window.color"].hex, keys["window.text.color"].opaque.hex]


def test_controls_that_are_pictures_may_be_all_see_through(tmp_path, look):
    root = tmp_path / "Saltpan"
    (root / "gtk-3.0/assets").mkdir(parents=True)
    (root / "gtk-3.0/gtk.css").write_text(
        "window { background-color: #ffffff; color: #111111; }\ncheck { -gtk-icon-source: url('assets/check-off.png'); }\n"
    )
    image = Image.new("RGBA", (16, 16), (90, 90, 90, 60))
    out = io.BytesIO()
    image.save(out, "PNG")
    (root / "gtk-3.0/assets/check-off.png").write_bytes(out.getvalue())
    made = recolour_theme(open_theme(root), look.scheme())
    (path,) = [p for p in made.outputs if p.endswith("check-off.png")]
    fresh = Image.open(io.BytesIO(made.outputs[path].data)).convert("RGBA")
    assert fresh.getpixel((8, 8))[3] == 60 and Rgba(*fresh.getpixel((8, 8))[:3])


@pytest.mark.long
def test_qt_is_asked_what_it_paints_and_mending_goes_on_from_that(style, look):
    if reason_not(QT):
        pytest.skip("NO KVANTUM")
    before = ask_before(style)
    assert before.version.startswith("Qt 5") and len(before.places) > 20 and before.pictures[0].startswith(b"\x89PNG")
    outcome = recolour_theme(style, look.scheme())
    settled = mend_by_painting(style, look.scheme(), Choices(), outcome)
    assert "Qt 5" in settled.verdict.summary and not [p for p in settled.verdict.short if p.what == "text"]


def test_a_drawn_style_beside_another_theme_is_asked_by_its_own_name(tmp_path, look):
    (tmp_path / "all/Mudflat").mkdir(parents=True)
    (tmp_path / "all/Mudflat/Mudflat.kvconfig").write_text(KEYS)
    (tmp_path / "all/Mudflat/Mudflat.svg").write_text(DRAWING)
    (tmp_path / "all/Avocet/gtk-3.0").mkdir(parents=True)
    (tmp_path / "all/Avocet/gtk-3.0/gtk.css").write_text("window { background-color: #ffffff; color: #111111; }\n")
    made = recolour_theme(open_theme(tmp_path / "all"), look.scheme())
    assert made.name == f"Avocet-{look.folder}" and drawn_style_in(made.outputs) == f"Mudflat-{look.folder}"


def test_what_qt_painted_short_is_mended_by_its_key(style, look):
    place = MeasuredPlace("button", "rest", "text", 1.3, "#777777", "#808080", "", QT)
    (row,) = told_of(place)
    assert row.part == "PanelButtonCommand/text.normal.color" and row.component == "drawn-style-keys"
    plain = recolour_theme(style, look.scheme())
    told = recolour_theme(style, look.scheme(), told=[[row]])
    _, before = keys_of(plain)
    _, after = keys_of(told)
    assert (
        ratio(after["text.normal.color"], Rgba(128, 128, 128)) >= 4.5
        and after["window.color"] == before["window.color"]
    )
    assert place.words.startswith("Qt: ")
    pale = Rgba(236, 230, 222)
    faint = MeasuredFailure(row.part, "text", row.text, pale, 1.3, 2.5, row.component, 0.4)
    _, after = keys_of(recolour_theme(style, look.scheme(), told=[[faint]]))
    assert ratio(over(after["text.normal.color"]._replace(a=0.4), pale), pale) >= 2.5


TICKS = """<svg xmlns="http://www.w3.org/2000/svg" width="60" height="20">
<g id="checkbox-checked-normal"><rect width="20" height="20" fill="#5294e2"/><path d="M2 2h9" stroke="#111217"/></g>
<g id="checkbox-checked-disabled"><rect width="20" height="20" fill="#5294e2"/><path d="M2 2h9" stroke="#111217"/></g>
<g id="radio-checked-normal"><rect width="20" height="20" fill="#414654"/><g><rect width="9" height="9" fill="#4d5366"/></g></g>
</svg>"""


@pytest.mark.parametrize("large", [False, True])
def test_ticks_that_qt_painted_short_are_drawn_anew(tmp_path, look, large):
    folder = tmp_path / "Mudflat"
    folder.mkdir()
    (folder / "Mudflat.kvconfig").write_text(KEYS)
    (folder / "Mudflat.svg").write_text(TICKS)
    style = open_theme(folder)
    plain = recolour_theme(style, look.scheme())
    drawing = next(p for p in plain.outputs if p.endswith(".svg"))
    box, tick, *others = re.findall(r"#[0-9a-f]{6}", plain.outputs[drawing].data.decode())
    pair = (box, tick) if large else (tick, box)  # a large tick is taken for what lies under it
    (row,) = told_of(MeasuredPlace("check", "checked", "mark", 1.2, *pair, "", QT))
    made = recolour_theme(style, look.scheme(), told=[[row]])
    after = re.findall(r"#[0-9a-f]{6}", made.outputs[drawing].data.decode())
    assert ratio(parse_hex(after[1]), parse_hex(box)) >= 3 and others == after[2:] and after[0] == box
    (row,) = told_of(
        MeasuredPlace("radio", "checked", "mark", 1.2, "#ff0000", "#ff4000", "", QT)
    )  # what no literal has
    assert recolour_theme(style, look.scheme(), told=[[row]]).outputs == plain.outputs
