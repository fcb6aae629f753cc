"""Pictures that resource bundles hold as bare pixels: those of the real tool, damaged ones, and through a theme."""

from __future__ import annotations

import io
import shutil
import struct
import subprocess

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from PIL import Image

from mellow_finch.errors import PictureError
from mellow_finch.intake.budget import Budget
from mellow_finch.intake.pixdata import is_pixdata, png_of
from mellow_finch.theme.bundle.gresource import read_resources, write_resources
from mellow_finch.theme.bundle.read import open_theme
from mellow_finch.theme.result.recolour import recolour_theme

TOOL = shutil.which("gdk-pixbuf-pixdata")


def written(image, runs, pad=0):
    """The form as GdkPixbuf's header file describes it, written anew and simply."""
    channels = len(image.getbands())
    rows = np.asarray(image)
    if runs:
        pixels = [bytes(p) for p in rows.reshape(-1, channels).tolist()]
        body, at = b"", 0
        while at < len(pixels):
            same = next((n for n in range(1, min(127, len(pixels) - at)) if pixels[at + n] != pixels[at]), 1)
            body += bytes([same | 0x80]) + pixels[at] if same > 1 else bytes([1]) + pixels[at]
            at += same
    else:
        body = b"".join(row.tobytes() + b"\0" * pad for row in rows)
    kind = {3: 1, 4: 2}[channels] | 1 << 16 | (2 if runs else 1) << 24
    head = (24 + len(body), kind, image.width * channels + pad, image.width, image.height)
    return struct.pack(">4sIIIII", b"GdkP", *head) + body


@given(
    st.integers(1, 9),
    st.integers(1, 9),
    st.sampled_from(["RGB", "RGBA"]),
    st.booleans(),
    st.integers(0, 3),
    st.binary(min_size=12, max_size=24),
)
def test_every_pixel_is_read(wide, high, mode, runs, pad, some):
    size = wide * high * len(mode)
    image = Image.frombytes(mode, (wide, high), (bytes([some[0]]) * (size // 2) + some * size)[:size])
    found = Image.open(io.BytesIO(png_of(written(image, runs, pad), "x.png")))
    assert (found.mode, found.size, found.tobytes()) == (mode, image.size, image.tobytes())


@given(st.binary(max_size=60), st.integers(0, 90))
def test_damaged_ones_are_told(noise, cut):
    whole = written(Image.new("RGBA", (6, 6), (9, 9, 9, 200)), True)
    for data in (b"GdkP" + noise, whole[: min(cut, len(whole) - 1)], whole[:16] + noise):
        try:
            png_of(data, "x.png")
        except PictureError as error:
            assert "x.png" in str(error)


@pytest.mark.skipif(TOOL is None, reason="NO PIXDATA")
@pytest.mark.parametrize("mode", ["RGB", "RGBA"])
def test_what_the_real_tool_writes_is_read(tmp_path, mode):
    image = Image.new(mode, (16, 12), (47, 111, 224, 200)[: len(mode)])
    image.putpixel((3, 4), (250, 240, 10, 90)[: len(mode)])
    image.save(tmp_path / "a.png")
    subprocess.run([TOOL, str(tmp_path / "a.png"), str(tmp_path / "a.pixdata")], check=True, timeout=30)
    data = (tmp_path / "a.pixdata").read_bytes()
    assert is_pixdata(data)
    assert Image.open(io.BytesIO(png_of(data, "a"))).tobytes() == image.tobytes()


def test_they_are_recoloured_in_a_theme(tmp_path, look):
    image = Image.new("RGBA", (16, 16), (47, 111, 224, 255))
    sheet = (
        b"window { background-color: #ffffff; color: #111111; }\nbutton { background-color: #2f6fe0; color: white; }\n"
    )
    files = {"/org/tern/gtk.css": sheet, "/org/tern/a.png": written(image, True), "/org/tern/b.png": b"GdkP torn"}
    (tmp_path / "Tern/gtk-3.0").mkdir(parents=True)
    (tmp_path / "Tern/gtk-3.0/gtk.css").write_text('@import url("resource:///org/tern/gtk.css");\n')
    (tmp_path / "Tern/gtk-3.0/gtk.gresource").write_bytes(write_resources(files))
    made = recolour_theme(open_theme(tmp_path / "Tern"), look.scheme())
    (bundle,) = [e.data for p, e in made.outputs.items() if p.endswith(".gresource")]
    found = read_resources(bundle, Budget("x"))
    fresh = Image.open(io.BytesIO(found["/org/tern/a.png"])).convert("RGBA")
    assert fresh.size == (16, 16) and fresh.getpixel((8, 8))[:3] != (47, 111, 224)
    assert found["/org/tern/b.png"] == b"GdkP torn" and any("b.png" in note for note in made.notes)
