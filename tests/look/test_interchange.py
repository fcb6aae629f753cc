"""Palette files: every format there and back, torn and foreign ones, and what is said of them."""

from __future__ import annotations

import contextlib
import json
import os
import struct
import subprocess
import sys

import numpy as np
import pytest
from coloraide import Color
from hypothesis import given, settings
from hypothesis import strategies as st

from mellow_finch.colour.rgb import Rgba
from mellow_finch.errors import FileAccessError, ParseError
from mellow_finch.look.interchange import models
from mellow_finch.look.interchange.catalogue import (
    INTERCHANGE_BY_ID,
    INTERCHANGES,
    export_bytes,
    format_for,
    format_of,
    read_palette,
)
from mellow_finch.look.interchange.model import ColourList, PaletteEntry, list_of
from mellow_finch.palette.roles import ROLE_IDS
from mellow_finch.recolour.names import PUBLIC_NAMES

CHANNEL = st.integers(0, 255)
OPAQUE = st.tuples(CHANNEL, CHANNEL, CHANNEL).map(lambda t: Rgba(*t))
TRANSLUCENT = st.tuples(CHANNEL, CHANNEL, CHANNEL, CHANNEL).map(lambda t: Rgba(*t[:3], t[3] / 255))
NAMES = st.text(max_size=20)
FEW = settings(max_examples=settings().max_examples // 2)  # of each of so many forms
EACH = pytest.mark.parametrize("form", INTERCHANGES, ids=lambda f: f.id)


@pytest.mark.long
@EACH
@FEW
@given(data=st.data())
def test_colours_survive_to_the_last_bit(form, data):
    colour = st.one_of(OPAQUE, TRANSLUCENT) if form.alpha else OPAQUE
    rows = data.draw(st.lists(st.tuples(colour, NAMES), min_size=1, max_size=12))
    given_list = ColourList("Marsh", tuple(PaletteEntry(c, n) for c, n in rows))
    back = form.read(form.write(given_list))
    assert [c[:3] for c in back.colours] == [c[:3] for c, _ in rows]
    assert [round(c.a * 255) for c in back.colours] == [round(c.a * 255) for c, _ in rows]
    assert not back.problems


@EACH
def test_a_look_survives_with_its_roles(form, look):
    back = form.read(form.write(list_of(look)))
    assert set(back.colours) == set(look.colours.values())
    if form.id not in ("pal",):  # has no room for names
        known = back.roles
        assert len(known) >= 10 and all(look.colours[role] == colour for role, colour in known.items())
    exported = form.read(form.of_look(look))
    assert not exported.problems and len(exported.entries) >= 18


@pytest.mark.parametrize("form", ["gpl", "ase", "aco", "soc", "css", "tokens"])
def test_formats_with_names_keep_every_role(form, look):
    back = INTERCHANGE_BY_ID[form].read(INTERCHANGE_BY_ID[form].of_look(look))
    assert back.roles == dict(look.colours)


@EACH
@FEW
@given(st.binary(max_size=300))
def test_any_bytes_give_a_list_or_our_own_error(form, data):
    for blob in (data, form.write(ColourList("x", (PaletteEntry(Rgba(1, 2, 3), "One"),) * 3))[: len(data)] + data):
        try:
            form.read(blob)
        except ParseError as error:
            assert str(error).endswith(".") or str(error).endswith(": .")


@pytest.mark.long
@EACH
@FEW
@given(st.data())
def test_torn_and_changed_files_never_raise_anything_else(form, data):
    whole = bytearray(
        form.write(ColourList("Marsh", tuple(PaletteEntry(Rgba(i, 2 * i, 255 - i), f"n{i}") for i in range(9))))
    )
    for _ in range(data.draw(st.integers(0, 6))):
        whole[data.draw(st.integers(0, len(whole) - 1))] = data.draw(st.integers(0, 255))
    with contextlib.suppress(ParseError):
        found = form.read(bytes(whole[: data.draw(st.integers(0, len(whole)))]))
        assert all(0 <= channel <= 255 for colour in found.colours for channel in colour[:3])


@EACH
def test_a_format_is_known_by_its_content(form, look):
    data = form.of_look(look)
    assert format_of("nameless", data) is form
    assert format_of(f"x{form.suffixes[0]}", data) is form


def test_what_is_readable_is_taken_and_the_rest_listed_with_its_line(tmp_path):
    path = tmp_path / "torn.gpl"
    path.write_text("GIMP Palette\nName: Torn\n# note\n 10  20  30\tReed\n 10 20\n300 1 1\tbad\n  1   2   3\n")
    found = read_palette(path)
    assert found.name == "Torn" and found.colours == (Rgba(10, 20, 30), Rgba(1, 2, 3))
    assert [p.line for p in found.problems] == [5, 6] and "300 1 1" in found.problems[1].message
    assert found.entries[1].name == ""


@pytest.mark.parametrize(
    "form, text, colours, lines",
    [
        ("pal", "JASC-PAL\r\n0100\r\n3\r\n1 2 3\r\nred\r\n4 5 600\r\n7 8 9\r\n", ["#010203", "#070809"], [5, 6, 3]),
        ("css", ":root { --a: #123; --b: var(--a); --c: var(--none);\n --size: 4px; --d: #12;\n --e: oklch(1 0 0) }", ["#112233", "#112233", "#ffffff"], [2, 1]),
        ("gtk", "@define-color base #102030;\n@define-color lift shade(@base, 1.0);\n@define-color lost @nowhere;\n", ["#102030", "#102030"], [3]),
        ("xresources", "! note\n*color1: #aa0000\nXTerm*background: [85]#101418\n*color2: greenish\nnonsense\n*font: fixed\n*cursorColor: rgb:ff/80/0\n", ["#aa0000", "#101418", "#ff8000"], [4, 5]),
        ("colors", "[General]\nName=Peat\n[Colors:Window]\nBackgroundNormal=16,20,24\nForegroundNormal=red\nForegroundLink=1,2,3,128\n", ["#101418", "#01020380"], [5]),
        ("osc", "\x1b]4;1;#aa0000\x07\x1b]11;rgb:10/14/18\x1b\\\x1b]4;2;nope\x1b\\\x1b]7;x\x07", ["#aa0000", "#101418"], [3]),
        ("soc", '<ooo:color-table xmlns:ooo="a" xmlns:d="b">\n<d:color d:name="A" d:color="#0a0b0c"/>\n<d:color d:name="B" d:color="blue"/>\n<d:color d:name=', ["#0a0b0c"], [2, 4]),
    ],
)  # fmt: skip
def test_each_reader_takes_what_it_can(form, text, colours, lines):
    found = INTERCHANGE_BY_ID[form].read(text.encode())
    assert [c.hex for c in found.colours] == colours
    assert [p.line for p in found.problems] == lines
    assert all(p.message.endswith(".") for p in found.problems)


def test_design_tokens_of_both_forms_with_aliases():
    tree = {
        "brand": {
            "$type": "color",
            "accent": {"$value": "#c0ffee"},
            "old": {"$value": {"colorSpace": "srgb", "components": [1, 0.5, 0], "alpha": 0.5}},
            "again": {"$value": "{brand.accent}"},
            "loop": {"$value": "{brand.loop}"},
            "wide": {"$value": {"colorSpace": "display-p3", "components": [1, 0, 0], "hex": "#ff0000"}},
        },
        "size": {"$type": "dimension", "one": {"$value": "4px"}},
        "loose": {"$value": "#102030"},
    }
    found = INTERCHANGE_BY_ID["tokens"].read(json.dumps(tree, indent=1).encode())
    assert [c.hex for c in found.colours] == ["#c0ffee", "#ff800080", "#c0ffee", "#ff0000", "#102030"]
    assert found.roles["accent"] == Rgba(0xC0, 0xFF, 0xEE)
    assert len(found.problems) == 1 and "brand.loop" in found.problems[0].message and found.problems[0].line > 5


def ase_block(model: bytes, *values: float) -> bytes:
    body = struct.pack(">H", 2) + "A\0".encode("utf-16-be") + model + struct.pack(f">{len(values)}fH", *values, 0)
    return struct.pack(">HI", 1, len(body)) + body


def test_other_colour_models_agree_with_the_oracle():
    blocks = [ase_block(b"RGB ", 1, 0.5, 0), ase_block(b"Gray", 0.25), ase_block(b"CMYK", 0, 0.5, 1, 0.2), ase_block(b"LAB ", 0.6, 30, -40), ase_block(b"HSLX", 1, 1, 1)]  # fmt: skip
    data = struct.pack(">4sHHI", b"ASEF", 1, 0, len(blocks)) + b"".join(blocks)
    found = INTERCHANGE_BY_ID["ase"].read(data)
    expected = Color("lab", [60, 30, -40]).convert("srgb").clip().to_string(hex=True)
    assert [c.hex for c in found.colours] == ["#ff8000", "#404040", "#cc6600", expected]
    assert [p.line for p in found.problems] == [5]
    for lightness, a, b in np.random.default_rng(3).uniform((10, -60, -60), (95, 60, 60), (60, 3)).tolist():
        oracle = Color("lab", [lightness, a, b]).convert("srgb").clip()
        ours = models.lab(lightness, a, b)
        assert np.abs(np.array(ours[:3]) - np.array(oracle.coords()) * 255).max() <= 0.51
    rows = [(1, 0, 65535, 65535, 0), (2, 65535, 65535, 65535, 0), (7, 6000, 3000, 61536, 0), (8, 2500, 0, 0, 0), (9, 0, 0, 0, 0)]  # fmt: skip
    aco = struct.pack(">HH", 1, len(rows)) + b"".join(struct.pack(">5H", *row) for row in rows)
    found = INTERCHANGE_BY_ID["aco"].read(aco)
    assert [c.hex for c in found.colours] == ["#ff0000", "#000000", expected, "#404040"] and len(found.problems) == 1


def test_a_riff_palette_is_read_too():
    data = (
        b"RIFF"
        + struct.pack("<I", 24)
        + b"PAL data"
        + struct.pack("<IHH", 12, 0x300, 2)
        + bytes([1, 2, 3, 0, 4, 5, 6, 0])
    )
    assert INTERCHANGE_BY_ID["pal"].read(data).colours == (Rgba(1, 2, 3), Rgba(4, 5, 6))


@pytest.mark.parametrize(
    "name, content, words",
    [
        ("none.gpl", None, "there is no such file"),
        ("empty.gpl", b"", "is empty"),
        ("odd.xyz", b"hello", "not in a known palette format"),
        ("bare.gpl", b"GIMP Palette\n#\n", "No colour could be read"),
        ("head.gpl", b"Palette\n1 2 3\n", "line 1"),
        ("bomb.soc", b'<!DOCTYPE x [<!ENTITY a "b">]><color-table>&a;</color-table>', "entities"),
        ("torn.tokens.json", b'{"a": ', "line 1"),
        ("deep.json", b'{"a":' * 90_000, "nested too deeply"),
    ],
)
def test_what_cannot_be_read_is_said_with_its_file(tmp_path, name, content, words):
    path = tmp_path / name
    if content is not None:
        path.write_bytes(content)
    with pytest.raises((ParseError, FileAccessError), match=words) as caught:
        read_palette(path)
    assert name in str(caught.value)


def test_exports_choose_their_format_by_name_or_word(look, tmp_path):
    assert format_for(tmp_path / "a.gpl").id == "gpl" and format_for(tmp_path / "a.css").id == "css"
    assert format_for(tmp_path / "a.css", "gtk").id == "gtk"
    with pytest.raises(ParseError, match="does not tell"):
        format_for(tmp_path / "a.doc")
    with pytest.raises(ParseError, match="no palette format"):
        format_for(tmp_path / "a.doc", "xyz")
    text = export_bytes(look, tmp_path / "x.css", "gtk").decode()
    assert set(PUBLIC_NAMES) - {n for n, r in PUBLIC_NAMES.items() if r == "dim"} <= set(text.split())


def test_every_role_has_a_name_of_its_own_in_lists(look):
    rows = list_of(look)
    assert [e.role for e in rows.entries] == list(ROLE_IDS) and len({e.name for e in rows.entries}) == len(ROLE_IDS)


def test_the_readers_are_not_on_the_way_to_the_first_paint():
    code = (
        "import sys; import mellow_finch.ui.window.window; print('defusedxml' in sys.modules, 'jeepney' in sys.modules)"
    )
    environment = {**os.environ, "PYTHONPATH": os.pathsep.join(sys.path)}
    done = subprocess.run([sys.executable, "-c", code], capture_output=True, text=True, check=True, env=environment)
    assert done.stdout.split() == ["False", "False"]
