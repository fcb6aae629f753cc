"""Pictures that go with a look: fit, what several have in common, ranking a folder, and toning one."""

from __future__ import annotations

import io
import os
import shutil
from pathlib import Path

import numpy as np
import pytest
from PIL import Image

from mellow_finch.colour.rgb import Rgba
from mellow_finch.colour.spaces import srgb_to_oklab
from mellow_finch.errors import Cancelled, FileAccessError, PictureError
from mellow_finch.look.gather import gathering_of, look_of_pictures
from mellow_finch.picture.fit import QUIET, fit, in_common
from mellow_finch.picture.gather import common_swatches
from mellow_finch.picture.load import load_image, load_picture
from mellow_finch.picture.rank import PictureCache, look_at, pictures_in, rank
from mellow_finch.picture.swatches import Swatch, swatches_of
from mellow_finch.picture.toning import toned_colours, toned_file, toned_image, toned_name
from mellow_finch.progress import Silent


class Counting:
    """Progress that remembers, and stops where it is told to."""

    def __init__(self, stop_at: int = 10**9) -> None:
        self.told: list[tuple[int, int]] = []
        self._stop = stop_at

    def report(self, done: int, total: int, note: str) -> None:
        if len(self.told) >= self._stop:
            raise Cancelled("Stopped.")
        self.told.append((done, total))


@pytest.fixture(scope="module")
def swatches(pictures):
    return [swatches_of(load_picture(p)) for p in pictures]


@pytest.mark.parametrize("tone", ["dark", "light"])
def test_a_look_fits_its_own_picture_best(pictures, swatches, tone):
    for i, path in enumerate(pictures):
        colours = look_of_pictures([path], tone).colours
        scores = [fit(row, colours) for row in swatches]
        assert scores[i] == max(scores) and min(scores) >= 0 and max(scores) <= 100
    assert fit((), colours) == 0.0


def test_in_common_is_symmetric_whole_for_equals_and_nothing_for_opposites(swatches):
    red, blue = ((Swatch(c, 1.0, (0, 0)),) for c in (Rgba(200, 40, 40), Rgba(40, 60, 200)))
    assert in_common([red, red]) == pytest.approx(1) and in_common([red, blue]) == 0
    assert in_common([swatches[0]]) == 1.0
    assert in_common(swatches[:2]) == pytest.approx(in_common(swatches[1::-1]))
    half = (Swatch(Rgba(200, 40, 40), 0.5, (0, 0)), Swatch(Rgba(40, 60, 200), 0.5, (0, 0)))
    assert in_common([red, half]) == pytest.approx(0.5)


def test_weights_and_leaving_out(swatches):
    both = common_swatches(swatches[:2], (1.0, 1.0), 24)
    first = common_swatches(swatches[:2], (1.0, 0.0), 24)
    lean = common_swatches(swatches[:2], (4.0, 1.0), 24)
    for found in (both, first, lean):
        assert sum(s.share for s in found) == pytest.approx(1)
    assert {s.colour for s in first} == {s.colour for s in swatches[0]}
    assert common_swatches(swatches[:2], (0.0, 0.0)) == ()


def test_a_set_with_little_in_common_is_offered_a_quiet_reading(pictures):
    loaded = [load_picture(p) for p in pictures]
    apart = gathering_of([loaded[1], loaded[3]])
    assert apart.shared < QUIET and "little in common" in apart.word
    readings = apart.readings()
    assert readings[0].id == "quiet" and "in common" in readings[0].note
    assert readings[0].recipe.tint < 0.007 and readings[0].recipe.accent != readings[1].recipe.accent
    near = gathering_of([loaded[3], loaded[4]])
    assert near.shared > QUIET and near.word == "" and near.readings()[0].id == "settled"
    alone = apart.weighted((1.0, 0.0))
    assert alone.used == (0,) and alone.shared == 1.0 and alone.word == ""
    assert apart.weighted((0.0, 0.0)).used == (0, 1)
    look = apart.look(readings[0].recipe, "dark")
    assert [m.weight for m in look.pictures] == [1.0, 1.0] and not look.failing() and look.name.endswith("1 more")
    assert len(apart.fits(look.colours)) == 2


def test_ranking_tells_as_it_goes_and_keeps_what_it_saw(pictures, tmp_path):
    folder = tmp_path / "pictures"
    (folder / "inner" / ".hidden").mkdir(parents=True)
    for path in pictures[:3]:
        shutil.copy(path, folder)
    shutil.copy(pictures[3], folder / "inner")
    shutil.copy(pictures[4], folder / "inner" / ".hidden")
    (folder / "torn.png").write_bytes(b"\x89PNG\r\n\x1a\nxxxx")
    (folder / "notes.txt").write_text("no picture")
    paths = pictures_in(folder)
    assert [p.name for p in paths] == [
        "dusk-murmuration.jpg",
        "frost-on-sedge.jpg",
        "mudflat-in-rain.jpg",
        "reedbed-at-dawn.jpg",
        "torn.png",
    ]
    colours = look_of_pictures([pictures[1]], "dark").colours
    kept, told, progress = PictureCache(tmp_path / "kept"), [], Counting()
    rows = rank(paths, colours, progress, kept, told.append)
    assert len(told) == len(rows) == 5 and progress.told[-1] == (5, 5)
    assert rows[0].path.name == "dusk-murmuration.jpg" and [r.fit for r in rows] == sorted(
        (r.fit for r in rows), reverse=True
    )
    assert rows[-1].seen is None and "torn.png" in rows[-1].problem
    again = look_at(rows[0].path, kept)
    assert again == rows[0].seen and again.thumbnail[:2] == b"\xff\xd8"
    assert len(list((tmp_path / "kept").iterdir())) == 4
    shutil.copy(pictures[4], rows[0].path)  # another picture under the same name is not taken for the old one
    assert look_at(rows[0].path, kept).swatches != rows[0].seen.swatches
    kept.prune(2)
    assert len(list((tmp_path / "kept").iterdir())) == 2


def test_ranking_can_be_stopped_and_survives_a_spoilt_store(pictures, tmp_path):
    colours = look_of_pictures(pictures[:1], "dark").colours
    with pytest.raises(Cancelled):
        rank(list(pictures), colours, Counting(2))
    kept = PictureCache(tmp_path / "kept")
    look_at(pictures[0], kept)
    for row in (tmp_path / "kept").iterdir():
        row.write_bytes(b"{}\nspoilt")
    assert look_at(pictures[0], kept).width == 1920
    (tmp_path / "file").write_text("x")
    assert look_at(pictures[0], PictureCache(tmp_path / "file" / "no")).width == 1920
    with pytest.raises(FileAccessError, match="no such file"):
        pictures_in(tmp_path / "nowhere")


def test_toning_keeps_the_order_of_light_and_goes_all_the_way_by_strength(pictures):
    colours = look_of_pictures([pictures[1]], "dark").colours
    ramp = np.linspace(0, 1, 60)[:, None].repeat(3, 1)
    assert (np.diff(srgb_to_oklab(toned_colours(ramp, colours, 1.0))[:, 0]) > 0).all()
    random = np.random.default_rng(3).random((400, 3))
    assert np.abs(toned_colours(random, colours, 0.0) - random).max() < 1e-6
    scores = []
    for strength in (0.0, 0.35, 0.7, 1.0):
        image = toned_image(Image.fromarray(load_picture(pictures[3]).pixels), colours, strength)
        pixels = np.asarray(image)
        picture = load_picture(pictures[3])
        made = type(picture)(picture.path, image.width, image.height, pixels)
        scores.append(fit(swatches_of(made), colours))
    assert scores[0] < scores[1] < scores[2] and scores[-1] > scores[0] + 8


def test_toning_writes_a_new_file_and_never_the_original(pictures, tmp_path):
    colours = look_of_pictures([pictures[0]], "light").colours
    source = tmp_path / "mine.png"
    image = Image.new("RGBA", (40, 30), (200, 40, 90, 128))
    image.putpixel((0, 0), (10, 20, 30, 255))
    image.save(source)
    before = source.read_bytes()
    (tmp_path / "fresh.png").write_bytes(toned_file(source, tmp_path / "fresh.png", colours, 0.8, Silent()))
    fresh = Image.open(tmp_path / "fresh.png")
    assert fresh.size == (40, 30) and fresh.mode == "RGBA" and fresh.getpixel((5, 5))[3] == 128
    assert fresh.getpixel((5, 5))[:3] != (200, 40, 90) and source.read_bytes() == before
    same = toned_file(source, tmp_path / "same.png", colours, 0.0, Silent())
    (tmp_path / "same.png").write_bytes(same)
    assert list(Image.open(tmp_path / "same.png").get_flattened_data()) == list(image.get_flattened_data())
    (tmp_path / "link.png").symlink_to(source)
    for target in (source, tmp_path / "link.png"):
        with pytest.raises(PictureError, match="would overwrite the original"):
            toned_file(source, target, colours, 0.5, Silent())
    with pytest.raises(PictureError, match="no image file extension"):
        toned_file(source, tmp_path / "x.txt", colours, 0.5, Silent())
    assert toned_name(Path("a/b.tiff"), "Marsh") == "b in Marsh.png" and toned_name(Path("b.JPG"), "M") == "b in M.jpg"


def test_whole_pictures_are_read_upright(tmp_path):
    image = Image.new("RGB", (40, 20), (200, 0, 0))
    exif = Image.Exif()
    exif[0x0112] = 6
    image.save(tmp_path / "turned.jpg", exif=exif)
    assert load_image(tmp_path / "turned.jpg").size == (20, 40)
    with pytest.raises(PictureError):
        load_image(tmp_path)


def vivid_patch(seed: int) -> tuple[np.ndarray, np.ndarray]:
    """Return a busy picture of many hues with a vivid patch of 0.2 % in it, and the patch's colour."""
    rng = np.random.default_rng(100 + seed)
    y, x = np.mgrid[0:360, 0:640]
    base = rng.uniform(50, 180, 3)
    pixels = base + rng.uniform(15, 60, 3) * np.sin(x / rng.uniform(30, 90) + rng.uniform(0, 6))[..., None]
    pixels = (
        pixels + rng.uniform(10, 40, 3) * np.cos(y / rng.uniform(20, 70))[..., None] + rng.normal(0, 9, (360, 640, 3))
    )
    pixels = np.clip(pixels, 0, 200)
    vivid = np.array([(255, 20, 30), (20, 255, 60), (255, 235, 0), (0, 80, 255), (255, 0, 220)][seed % 5])
    side = round((0.002 * 360 * 640) ** 0.5)
    top, left = int(rng.integers(0, 360 - side)), int(rng.integers(0, 640 - side))
    pixels[top : top + side, left : left + side] = vivid
    return pixels, vivid


@pytest.mark.long
@pytest.mark.some(6)
@pytest.mark.parametrize("seed", range(10))
@pytest.mark.parametrize("suffix", ["png", "jpg"])
def test_small_vivid_patches_are_found_in_busy_pictures(seed, suffix, tmp_path):
    from mellow_finch.colour.difference import colour_difference

    pixels, vivid = vivid_patch(seed)
    path = tmp_path / f"busy.{suffix}"
    Image.fromarray(pixels.astype(np.uint8)).save(path, **({"quality": 92} if suffix == "jpg" else {}))
    found = swatches_of(load_picture(path), 8)
    assert min(colour_difference(s.colour, Rgba(*vivid.tolist())) for s in found) < 8


@pytest.mark.long
def test_pictures_that_are_damaged_end_nothing_but_themselves(pictures, looks, tmp_path):
    for i, form in enumerate(("AVIF", "WEBP", "TIFF", "JPEG", "PNG", "GIF", "BMP")):
        stream = io.BytesIO()
        Image.new("RGB", (64, 48), (20, 90, 60)).save(stream, form)
        data = bytearray(stream.getvalue())
        data[len(data) // 2 :] = bytes(len(data) - len(data) // 2)
        (tmp_path / f"{i}.{form.lower()}").write_bytes(data[: len(data) - 9])
    os.mkfifo(tmp_path / "pipe.png")
    (tmp_path / "loop.png").symlink_to("loop.png")
    (tmp_path / "whole.jpg").write_bytes(pictures[0].read_bytes())
    rows = rank(pictures_in(tmp_path), looks[0].colours, Silent())
    assert rows[0].path.name == "whole.jpg" and rows[0].seen is not None
    assert all(row.seen is not None or row.problem.endswith(".") for row in rows) and len(rows) == 8
