"""Pictures that widgets show: another in their place, or the same in a colour of the look."""

from __future__ import annotations

import io
from pathlib import Path

import numpy as np
import pytest
from PIL import Image

from mellow_finch.colour.contrast import ratio
from mellow_finch.colour.rgb import Rgba
from mellow_finch.components.catalogue import COMPONENT_BY_ID
from mellow_finch.components.decisions import Emblem, Owner
from mellow_finch.components.files import FolderFiles, NoFiles
from mellow_finch.components.write.emblems import emblems_in, emblems_of, fits, tinted
from mellow_finch.look.decision_edits import with_emblem
from mellow_finch.look.file import look_from_json, look_to_json
from mellow_finch.palette.roles import ROLE_IDS
from mellow_finch.shelf.parcel import receive, send, take_in
from mellow_finch.shelf.shelf import Shelf

TEXT = "conky.config = { default_color = 'ffffff' }\nconky.text = [[\n${image ~/.config/conky/logo.png -p 4,8 -s 64x64}\n]]\n"


def drawn(size, pixel):
    """Return a PNG whose pixels a function of x and y gives."""
    image = Image.new("RGBA", size)
    image.putdata([pixel(x, y) for y in range(size[1]) for x in range(size[0])])
    out = io.BytesIO()
    image.save(out, "PNG")
    return out.getvalue()


@pytest.fixture
def shown(home):
    folder = home / ".config/conky"
    (folder / "conky.conf").write_text(TEXT)
    (folder / "logo.png").write_bytes(drawn((8, 4), lambda x, _: (200, 200, 200, 0 if x < 2 else 255)))
    (folder / "other.png").write_bytes(drawn((16, 16), lambda x, y: (x * 16, y * 16, 80, 255)))
    return home


def written(look, home):
    return {f.path: f.data for f in COMPONENT_BY_ID["widget"].write(look.scheme(), FolderFiles(home))}


def image_of(files):
    (path,) = [p for p in files if p.endswith(".png")]
    return path, Image.open(io.BytesIO(files[path]))


def test_nothing_is_made_until_it_is_asked_for(look, shown):
    plain = written(look, shown)
    assert (
        not [p for p in plain if p.endswith(".png")]
        and b"~/.config/conky/logo.png -p" in plain[".config/conky/conky.conf"]
    )
    files = [
        f for f in COMPONENT_BY_ID["widget"].write(look.scheme(), FolderFiles(shown)) if f.path.endswith("conky.conf")
    ]
    assert [s.path for s in emblems_of(files, FolderFiles(shown))] == [".config/conky/logo.png"]


def test_a_sign_of_one_ink_takes_the_colour_and_keeps_its_transparency(look, shown):
    files = written(with_emblem(look, "widget", "logo.png", Emblem(role="accent")), shown)
    path, image = image_of(files)
    text = files[".config/conky/conky.conf"].decode()
    assert f"${{image ~/{path} -p 4,8 -s 64x64}}" in text and look.folder in path
    pixels = np.array(image)
    assert pixels[0, 0, 3] == 0 and len({tuple(p) for p in pixels[:, 2:].reshape(-1, 4).tolist()}) == 1
    colour = Rgba(*pixels[0, 4, :3].tolist())
    assert all(ratio(colour, face) >= 3 for face in look.scheme().faces("panel"))


def test_another_picture_is_as_large_as_the_one_it_replaces(look, shown):
    other = str(shown / ".config/conky/other.png")
    _, image = image_of(written(with_emblem(look, "widget", "logo.png", Emblem(other)), shown))
    assert image.size == (8, 4)
    pixels = np.array(image)
    assert (pixels[:, :2, 3] == 0).all() and (pixels[:, 2:6, 3] == 255).all()


def test_two_pictures_of_one_name_both_show(look, shown):
    tide = shown / ".config/conky/tide"
    tide.mkdir()
    (tide / "logo.png").write_bytes(drawn((5, 5), lambda x, y: (90, 90, 90, 255)))
    conf = shown / ".config/conky/conky.conf"
    conf.write_text(
        conf.read_text().replace("conky.text = [[", "conky.text = [[\n${image ~/.config/conky/tide/logo.png}")
    )
    files = written(with_emblem(look, "widget", "logo.png", Emblem(role="accent")), shown)
    made = {path: Image.open(io.BytesIO(files[path])).size for path in files if path.endswith(".png")}
    assert sorted(made.values()) == [(5, 5), (8, 4)]
    assert all(f"${{image ~/{path}".encode() in files[".config/conky/conky.conf"] for path in made)


def test_what_cannot_be_read_stays_as_it_is(look, shown):
    (shown / "broken.png").write_bytes(b"\x89PNG no")
    for emblem in (Emblem(str(shown / "none.png")), Emblem(str(shown / "broken.png")), Emblem(role="heron")):
        files = written(with_emblem(look, "widget", "logo.png", emblem), shown)
        told = [p for p in files if p.endswith(".png")]
        assert not told or emblem.role, emblem
        assert emblem.role or b"~/.config/conky/logo.png" in files[".config/conky/conky.conf"]


def test_a_picture_of_many_colours_keeps_its_lights_in_one_hue():
    image = Image.open(io.BytesIO(drawn((16, 1), lambda x, _: (x * 16, 255 - x * 16, 128, 255))))
    fresh = np.array(tinted(image, Rgba(40, 90, 200))).reshape(-1, 4)
    assert fresh[:, 2].argmax() == np.array(image).reshape(-1, 4)[:, :3].sum(axis=1).argmax() or fresh[:, 2].max() > 150
    assert all(b >= g >= r for r, g, b, _ in fresh.tolist())


@pytest.mark.parametrize(
    ("text", "path"),
    [
        ("${image $HOME/a/b.png}", "a/b.png"),
        ('a { background-image: url("logo.png"); }', ".config/x/logo.png"),
        ("a { background: url( 'file.svg' ); }", ""),
        ("${image /etc/a.png} ${image ~/../a.png}", ""),
    ],
)
def test_how_pictures_are_named(text, path):
    assert [s.path for s in emblems_in(text, ".config/x/style.css", NoFiles())] == ([path] if path else [])


def test_it_is_kept_with_the_look_and_travels(look, shown, tmp_path):
    other = str(shown / ".config/conky/other.png")
    wanted = with_emblem(look, "widget", "logo.png", Emblem(other, "accent"))
    assert look_from_json(look_to_json(wanted)).decisions == wanted.decisions
    send(wanted, tmp_path / "p.zip")
    kept = take_in(receive(tmp_path / "p.zip"), Shelf(tmp_path / "shelf"))
    back = Shelf(tmp_path / "shelf").load(kept.id).look.decided(Owner.component("widget")).emblems["logo.png"]
    assert back.role == "accent" and back.file.startswith(str(tmp_path / "shelf"))
    assert Path(back.file).read_bytes() == Path(other).read_bytes()
    assert with_emblem(wanted, "widget", "logo.png", Emblem()).decisions == {}
    roles = frozenset(ROLE_IDS)
    assert not fits("", "accent", roles) and not fits("a/b", "", roles) and not fits("a", "x", roles)
