"""Picture files of every kind, upright and in sRGB; bad ones refused in words."""

from __future__ import annotations

import io
import struct
import zlib
from pathlib import Path

import numpy as np
import pytest
from PIL import Image, ImageCms, features

from mellow_finch.errors import FileAccessError, PictureError
from mellow_finch.intake.decoder import MAX_PIXELS
from mellow_finch.picture.load import load_picture

KINDS = ["png", "jpg", "webp", "tiff", "bmp", "gif", *(["avif"] if features.check("avif") else [])]


def flat(mode: str = "RGB", colour: object = (190, 60, 40), size: tuple[int, int] = (64, 40)) -> Image.Image:
    return Image.new(mode, size, colour)


@pytest.mark.parametrize("kind", KINDS)
def test_every_format_gives_its_colour(tmp_path, kind):
    path = tmp_path / f"marsh.{kind}"
    flat().save(path)
    picture = load_picture(path)
    assert (picture.width, picture.height) == (64, 40)
    assert np.abs(picture.pixels.reshape(-1, 3).mean(0) - (190, 60, 40)).max() < 6


@pytest.mark.parametrize(
    "mode, colour, expected",
    [
        ("L", 90, (90, 90, 90)), ("1", 1, (255, 255, 255)), ("P", 0, None), ("CMYK", (0, 0, 0, 255), (0, 0, 0)),
        ("LA", (90, 255), (90, 90, 90)), ("RGBA", (10, 200, 30, 255), (10, 200, 30)),
    ],
)  # fmt: skip
def test_every_mode(tmp_path, mode, colour, expected):
    path = tmp_path / "picture.tiff"
    (flat().quantize(4) if mode == "P" else flat(mode, colour)).save(path)
    pixel = load_picture(path).pixels[5, 5]
    assert np.abs(pixel.astype(int) - (expected or (190, 60, 40))).max() <= 26


def test_sixteen_bits_keep_their_range(tmp_path):
    path = tmp_path / "deep.png"
    Image.fromarray(np.full((20, 30), 0x8000, dtype=np.uint16)).save(path)
    assert abs(int(load_picture(path).pixels[3, 3, 0]) - 128) <= 1


def test_first_frame_of_a_gif(tmp_path):
    path = tmp_path / "moving.gif"
    flat(colour=(255, 0, 0)).save(path, save_all=True, append_images=[flat(colour=(0, 0, 255))])
    assert load_picture(path).pixels[0, 0, 0] > 200


@pytest.mark.parametrize("orientation, corner", [(1, (0, 0)), (3, (-1, -1)), (6, (0, -1)), (8, (-1, 0))])
def test_orientation_is_put_right(tmp_path, orientation, corner):
    image = flat(colour=(0, 0, 0), size=(80, 40))
    image.paste((255, 255, 255), (0, 0, 20, 20))
    exif = Image.Exif()
    exif[0x0112] = orientation
    path = tmp_path / "turned.png"
    image.save(path, exif=exif)
    picture = load_picture(path)
    upright = orientation in (1, 3)
    assert (picture.width, picture.height) == ((80, 40) if upright else (40, 80))
    assert picture.pixels[corner].mean() > 200


def test_embedded_profile_is_followed(tmp_path):
    profile = ImageCms.ImageCmsProfile(ImageCms.createProfile("LAB"))
    path = tmp_path / "profile.tiff"
    flat("LAB", (150, 180, 128)).save(path, icc_profile=profile.tobytes())
    plain = tmp_path / "plain.tiff"
    flat().save(plain, icc_profile=b"not a profile")
    assert load_picture(plain).pixels[0, 0, 0] == 190  # a broken profile is passed over
    pixel = load_picture(path).pixels[0, 0].astype(int)
    assert pixel[0] > pixel[1] + 20  # the reddish Lab colour came out reddish


def test_translucent_places_weigh_less(tmp_path):
    image = flat("RGBA", (255, 0, 0, 0))
    image.paste((0, 0, 255, 255), (0, 0, 32, 40))
    path = tmp_path / "half.png"
    image.save(path)
    picture = load_picture(path)
    assert picture.weights is not None
    assert picture.weights[0, 0] == 1 and picture.weights[0, 60] == 0
    assert tuple(picture.pixels[0, 60]) == (0, 0, 0)


def png_header(width: int, height: int) -> bytes:
    def chunk(kind: bytes, data: bytes) -> bytes:
        return struct.pack(">I", len(data)) + kind + data + struct.pack(">I", zlib.crc32(kind + data))

    header = struct.pack(">IIBBBBB", width, height, 8, 2, 0, 0, 0)
    return b"\x89PNG\r\n\x1a\n" + chunk(b"IHDR", header) + chunk(b"IDAT", b"") + chunk(b"IEND", b"")


def test_absurd_size_is_refused_before_decoding(tmp_path):
    path = tmp_path / "huge.png"
    path.write_bytes(png_header(100_000, 100_000))
    assert MAX_PIXELS == 200_000_000
    with pytest.raises(PictureError, match=r"“huge.png” declares 10,000 megapixels; at most 200 are opened"):
        load_picture(path)


@pytest.mark.some(3)
@pytest.mark.parametrize("kind", ["png", "jpg", "webp", "bmp", "gif"])
def test_truncated_files_are_refused_in_words(tmp_path, kind):
    whole = io.BytesIO()
    Image.effect_noise((200, 200), 90).convert("RGB").save(whole, {"jpg": "jpeg"}.get(kind, kind))
    path = tmp_path / f"cut.{kind}"
    path.write_bytes(whole.getvalue()[: len(whole.getvalue()) // 2])
    with pytest.raises(PictureError, match=r"“cut\.\w+” is (damaged or truncated|not a readable image)"):
        load_picture(path)


@pytest.mark.parametrize("data, words", [(b"", "is empty"), (b"# a text\n" * 40, "is not a readable image")])
def test_what_is_no_picture(tmp_path, data, words):
    path = tmp_path / "note.png"
    path.write_bytes(data)
    with pytest.raises(PictureError, match=words):
        load_picture(path)


def test_missing_file_and_folder(tmp_path):
    with pytest.raises(FileAccessError, match="there is no such file"):
        load_picture(tmp_path / "none.png")
    with pytest.raises(PictureError, match="is a folder"):
        load_picture(tmp_path)


@pytest.mark.parametrize("seed", range(12))
def test_random_bytes_never_raise_anything_else(tmp_path, seed):
    rng = np.random.default_rng(seed)
    whole = io.BytesIO()
    flat().save(whole, ["png", "jpeg", "webp", "tiff", "gif", "bmp"][seed % 6])
    data = bytearray(whole.getvalue())
    for _ in range(8):
        data[int(rng.integers(len(data)))] = int(rng.integers(256))
    path = Path(tmp_path / "odd.png")
    path.write_bytes(bytes(data))
    try:
        assert load_picture(path).pixels.ndim == 3
    except PictureError as error:
        assert str(error).endswith(".")
