"""Pictures through the map: size, mode and metadata stay; pointers bit for bit; signs can be read."""

from __future__ import annotations

import ctypes
import ctypes.util
import io
import struct
import xml.etree.ElementTree as ET

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from PIL import Image
from PIL.PngImagePlugin import PngInfo

from mellow_finch.colour.contrast import ratio
from mellow_finch.colour.rgb import Rgba, parse_hex
from mellow_finch.components.decisions import Decisions
from mellow_finch.demo.turnstone import turnstone_archive, turnstone_files
from mellow_finch.errors import PictureError
from mellow_finch.recolour.colour_map import Anchor, map_of
from mellow_finch.recolour.groups import KEEP
from mellow_finch.recolour.images import recoloured_image
from mellow_finch.recolour.pointers import premultiplied, read_pointer, recoloured_pointer, straight, write_pointer
from mellow_finch.syntax.xpm import scan_xpm
from mellow_finch.theme.bundle.read import open_theme
from mellow_finch.theme.pictures.drawings import LEAD
from mellow_finch.theme.result.account import Choices
from mellow_finch.theme.result.recolour import recolour_theme

CHART = map_of(
    [Anchor(parse_hex("#2f6fe0"), parse_hex("#9e7451")), Anchor(parse_hex("#ffffff"), parse_hex("#201a15"))], True
)
SAME = map_of([Anchor(parse_hex("#2f6fe0"), parse_hex("#2f6fe0"))])
POINTER = turnstone_files()["icons/Turnstone/cursors/progress"]


def picture(mode):
    image = Image.new("RGBA", (12, 9), (47, 111, 224, 255))
    image.putpixel((3, 3), (255, 255, 255, 40))
    image.putpixel((4, 3), (20, 20, 20, 255))
    return image.convert(mode) if mode != "P" else image.convert("RGB").quantize(8)


def saved(image, **info):
    out = io.BytesIO()
    image.save(out, "PNG", **info)
    return out.getvalue()


@pytest.mark.parametrize("mode", ["RGB", "RGBA", "L", "LA", "P"])
def test_size_mode_and_metadata_stay(mode):
    texts = PngInfo()
    texts.add_text("Author", "the warden")
    data = saved(picture(mode), dpi=(96, 96), pnginfo=texts)
    fresh = Image.open(io.BytesIO(recoloured_image(data, "x.png", CHART)))
    fresh.load()
    assert (fresh.mode, fresh.size, fresh.format) == (mode, (12, 9), "PNG")
    assert fresh.text["Author"] == "the warden" and round(fresh.info["dpi"][0]) == 96
    assert recoloured_image(data, "x.png", CHART) != data


@pytest.mark.parametrize("mode", ["RGB", "RGBA", "L", "LA", "P"])
def test_null_recolour_gives_the_very_bytes(mode):
    data = saved(picture(mode))
    assert recoloured_image(data, "x.png", SAME) == data


def test_pixels_go_through_the_map_and_alpha_stays():
    old = np.asarray(picture("RGBA"))
    new = np.asarray(Image.open(io.BytesIO(recoloured_image(saved(picture("RGBA")), "x.png", CHART))))
    assert np.array_equal(old[..., 3], new[..., 3])
    assert tuple(new[0, 0, :3]) == parse_hex("#9e7451")[:3] and tuple(new[3, 3, :3]) == parse_hex("#201a15")[:3]


def test_photographs_stay_and_other_files_are_told():
    noise = np.random.default_rng(0).integers(0, 255, (500, 500, 3), dtype=np.uint8)
    data = saved(Image.fromarray(noise))
    assert recoloured_image(data, "x.png", CHART) == data
    for bad in (b"", b"no picture", data[:200]):
        with pytest.raises(PictureError, match=r"“x.png”"):
            recoloured_image(bad, "x.png", CHART)


def test_pointers_round_trip_and_keep_sizes_frames_and_hot_spots():
    assert write_pointer(read_pointer(POINTER)) == POINTER
    assert recoloured_pointer(POINTER, "progress", SAME) == POINTER
    old, new = read_pointer(POINTER), read_pointer(recoloured_pointer(POINTER, "progress", CHART))
    assert len(old.chunks) == len(new.chunks) == 7
    for a, b in zip(old.images, new.images, strict=True):
        assert (a.nominal, a.hot, a.delay, a.pixels.shape) == (b.nominal, b.hot, b.delay, b.pixels.shape)
        assert np.array_equal(a.pixels >> 24, b.pixels >> 24)
        alpha = b.pixels >> 24
        assert all((b.pixels >> shift & 255 <= alpha).all() for shift in (16, 8, 0))
    assert not all(np.array_equal(a.pixels, b.pixels) for a, b in zip(old.images, new.images, strict=True))


@given(st.lists(st.tuples(*[st.integers(0, 255)] * 4), min_size=1, max_size=40))
def test_straight_colours_of_solid_pixels_are_exact(rows):
    flat = np.array(rows, dtype=np.uint8)
    colours, alpha = straight(premultiplied(flat[:, :3], flat[:, 3], (len(rows), 1)))
    assert np.array_equal(alpha, flat[:, 3])
    solid = flat[:, 3] == 255
    assert np.array_equal(colours[solid], flat[solid, :3])


@given(st.binary(max_size=200), st.integers(0, 400))
def test_torn_pointers_are_told(noise, cut):
    for data in (noise, b"Xcur" + noise, POINTER[:cut], POINTER[: cut + 200] + noise):
        try:
            read_pointer(data)
        except PictureError as error:
            assert str(error).endswith(".")


@pytest.mark.consumer
def test_the_real_library_loads_our_pointers(tmp_path):
    name = ctypes.util.find_library("Xcursor")
    if name is None:
        pytest.skip("NO XCURSOR: install libxcursor1 to check pointers with the real library")
    library = ctypes.CDLL(name)
    library.XcursorFilenameLoadAllImages.restype = ctypes.c_void_p
    path = tmp_path / "progress"
    path.write_bytes(recoloured_pointer(POINTER, "progress", CHART))
    found = library.XcursorFilenameLoadImages(str(path).encode(), 24)
    library.XcursorFilenameLoadImages.restype = ctypes.c_void_p
    found = library.XcursorFilenameLoadImages(str(path).encode(), 24)
    assert found and struct.unpack("i", ctypes.string_at(found, 4))[0] == 3


def test_pixmaps_are_found_by_their_palette():
    text = turnstone_files()["themes/Turnstone/xfwm4/title-1-active.xpm"].decode()
    assert [(s.colour.hex, s.key) for s in scan_xpm(text)] == [
        ("#fbfcfe", "active_hilight_1"), ("#dfe5ef", "active_color_1"), ("#2f6fe0", "colour"),
    ]  # fmt: skip


@pytest.fixture(scope="module")
def outcome(tmp_path_factory, looks):
    path = tmp_path_factory.mktemp("t") / "Turnstone.tar.gz"
    path.write_bytes(turnstone_archive())
    theme = open_theme(path)
    return theme, recolour_theme(theme, looks[0].scheme())


def test_icons_inherit_and_only_what_changed_is_there(outcome, look):
    theme, result = outcome
    folder = f".local/share/icons/Turnstone-{look.folder}"
    icons = {p.removeprefix(folder + "/") for p in result.outputs if p.startswith(folder)}
    assert {"index.theme", "48/places/folder.svg", "24/status/link-up.svg"} <= icons
    index = result.outputs[f"{folder}/index.theme"].data.decode()
    assert "Inherits=Turnstone,hicolor" in index and f"Name=Turnstone-{look.folder}" in index
    assert result.outputs[f"{folder}/48/places/inode-directory.svg"].link == "folder.svg"
    assert any("must stay installed" in note for note in result.notes)
    unchanged = [p for p in theme.drawings if p not in result.pictures]
    assert all(p.removeprefix("icons/Turnstone/") not in icons for p in unchanged)


def test_signs_can_be_read_on_panel_menu_and_view(outcome, look):
    _, result = outcome
    for name in ("link-up", "link-down"):
        drawing = ET.fromstring(result.pictures[f"icons/Turnstone/24/status/{name}.svg"])
        colour = parse_hex(drawing[0].get("fill"))
        assert all(ratio(colour, look.colours[s]) >= 3 for s in ("panel", "menu", "view"))


def test_the_icons_lead_becomes_the_accent_and_geometry_stays(outcome, look):
    _, result = outcome
    old = ET.fromstring(turnstone_files()["icons/Turnstone/48/places/folder.svg"])
    new = ET.fromstring(result.pictures["icons/Turnstone/48/places/folder.svg"])
    assert new[1].get("fill") == look.colours["accent"].hex
    assert [e.get("d") for e in new.iter()] == [e.get("d") for e in old.iter()]


def test_the_icons_lead_is_mapped_and_kept_by_hand(outcome, looks):
    theme, _ = outcome
    path = "icons/Turnstone/48/places/folder.svg"
    moved = recolour_theme(theme, looks[0].scheme(), Choices(Decisions.spelled({LEAD: "success"})))
    assert looks[0].colours["success"].hex.encode() in moved.pictures[path]
    kept = recolour_theme(theme, looks[0].scheme(), Choices(Decisions.spelled({LEAD: KEEP})))
    assert path not in kept.pictures and next(g for g in kept.groups if g.key == LEAD).role == ""


def test_pointers_go_where_they_are_looked_for(outcome, look):
    _, result = outcome
    folder = f".icons/Turnstone-{look.folder}/cursors"
    assert result.outputs[f"{folder}/arrow"].link == "left_ptr"
    assert read_pointer(result.outputs[f"{folder}/left_ptr"].data).images


@pytest.mark.parametrize("grey", [20, 90, 235])
def test_pixel_icons_stand_out_on_panel_menu_and_view(grey, looks, tmp_path):
    """A sign of one grey is read wherever it may lie; a picture of many colours has one that is."""
    root = tmp_path / "Turnstone"
    (root / "24x24/apps").mkdir(parents=True)
    (root / "index.theme").write_text("[Icon Theme]\nName=T\nDirectories=24x24/apps\n[24x24/apps]\nSize=24\n")
    sign = Image.new("RGBA", (24, 24), (0, 0, 0, 0))
    sign.paste((grey, grey, grey, 255), (4, 4, 20, 20))
    many = Image.new("RGBA", (24, 24), (60, 60, 70, 255))
    many.paste((30, 60, 90, 255), (4, 4, 20, 20))
    for name, image in (("sign", sign), ("many", many)):
        (root / f"24x24/apps/{name}.png").write_bytes(saved(image))
    theme = open_theme(root)
    for look in looks:
        outcome = recolour_theme(theme, look.scheme())
        for name in ("sign", "many"):
            path = next((p for p in outcome.pictures if p.endswith(f"{name}.png")), "")
            data = outcome.pictures[path] if path else (root / f"24x24/apps/{name}.png").read_bytes()
            pixels = np.array(Image.open(io.BytesIO(data)).convert("RGBA")).reshape(-1, 4)
            colours = {Rgba(*p[:3]) for p in pixels.tolist() if p[3] == 255}
            for role in ("panel", "menu", "view"):
                assert max(ratio(c, look.colours[role]) for c in colours) >= 3, (name, role, colours)


def test_pictures_of_a_sheet_are_those_of_its_look_whatever_look_came_before(looks, tmp_path):
    folder = tmp_path / "Tern" / "gtk-3.0"
    folder.mkdir(parents=True)
    names = ("check-checked.png", "check.png", "frame.png")
    for name, mode in zip(names, ("RGBA", "P", "L"), strict=True):
        (folder / name).write_bytes(saved(picture(mode)))
    rules = "".join(f".n{i} {{ background-image: url('{name}'); }}\n" for i, name in enumerate(names))
    (folder / "gtk.css").write_text(
        "window { background-color: #fff; color: #222; }\nbutton { color: #2f6fe0; }\n" + rules
    )
    worn = open_theme(tmp_path / "Tern")
    dark, light = (recolour_theme(open_theme(tmp_path / "Tern"), look.scheme()) for look in looks[:2])
    assert dark.pictures != light.pictures
    for look, wanted in ((looks[0], dark), (looks[1], light), (looks[1], light), (looks[0], dark)):
        found = recolour_theme(worn, look.scheme())
        assert found.pictures == wanted.pictures and found.fresh == wanted.fresh


@given(st.lists(st.tuples(*[st.integers(0, 255)] * 3), min_size=1, max_size=30), st.data())
def test_pixels_worked_out_for_many_pictures_are_those_of_one(rows, data):
    pixels = np.array(rows, dtype=np.uint8)
    chart, alone = (map_of(CHART.anchors, True) for _ in range(2))
    chart.learn(pixels)
    some = pixels[sorted(data.draw(st.sets(st.integers(0, len(rows) - 1), min_size=1)))]
    assert np.abs(chart.carry_pixels(some).astype(int) - alone.carry_pixels(some)).max() <= 1
    other = np.array([[1, 2, 3], rows[0]], dtype=np.uint8)
    assert np.array_equal(chart.carry_pixels(other)[0], alone.carry_pixels(other)[0])
