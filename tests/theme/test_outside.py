"""What comes from outside is data: nothing in it runs, nothing leads out of it, bad input is told in one sentence."""

from __future__ import annotations

import io
import json
import os
import struct
import tarfile
import time
import zipfile
from dataclasses import replace
from pathlib import Path

import pytest
from click.testing import CliRunner
from PIL import Image

from mellow_finch.cli import app
from mellow_finch.components.catalogue import COMPONENTS
from mellow_finch.components.files import NoFiles
from mellow_finch.components.model import plain_name
from mellow_finch.errors import FileAccessError, FinchError, ParseError, PictureError, UnsafeArchiveError
from mellow_finch.intake.budget import Budget
from mellow_finch.look.carry import load_look
from mellow_finch.look.dressed import dress, every_component
from mellow_finch.look.file import look_from_json, look_to_json
from mellow_finch.look.interchange.catalogue import INTERCHANGES, export_bytes, read_palette
from mellow_finch.picture.load import load_image, load_picture
from mellow_finch.recolour.images import opened
from mellow_finch.recolour.pointers import read_pointer
from mellow_finch.syntax.cascade import paint
from mellow_finch.syntax.catalogue import format_of, formats
from mellow_finch.theme.bundle.foreign import ThisComputer, foreign_words
from mellow_finch.theme.bundle.gresource import read_resources, write_resources
from mellow_finch.theme.bundle.kinds import leads_out, root_of_output
from mellow_finch.theme.bundle.opened import open_bundle
from mellow_finch.theme.bundle.read import read_theme
from mellow_finch.theme.result.account import Choices, OutEntry
from mellow_finch.theme.result.recolour import recolour_theme
from mellow_finch.wear.themes import lay_down

POSTSCRIPT = b"%!PS-Adobe-3.0 EPSF-3.0\n%%BoundingBox: 0 0 10 10\n(PLACE) (w) file (ran) writestring\nshowpage\n"
SHEET = b"window { background-color: #ff2fa0; color: #202020; }\n"


# Pictures


@pytest.mark.parametrize("ending", [".png", ".gif", ".bmp", ".webp"])
def test_a_picture_in_a_theme_that_is_a_program_is_not_run(tmp_path, look, ending):
    theme = tmp_path / "Marsh"
    (theme / "gtk-3.0/assets").mkdir(parents=True)
    (theme / "gtk-3.0/gtk.css").write_bytes(SHEET)
    ran = tmp_path / "ran"
    (theme / f"gtk-3.0/assets/x{ending}").write_bytes(POSTSCRIPT.replace(b"PLACE", str(ran).encode()))
    outcome = recolour_theme(read_theme(open_bundle(theme)), look.scheme(), Choices())
    assert not ran.exists() and any("is not a readable image" in note for note in outcome.notes)
    with pytest.raises(PictureError):
        opened(POSTSCRIPT, "x.png")


@pytest.mark.parametrize(("inner", "told"), [("contents/splash/Splash.qml", 1), ("contents/defaults", 0)])
def test_programs_of_a_whole_theme_are_left_out_and_it_is_said(tmp_path, look, inner, told):
    theme = tmp_path / "Marshlight"
    for path, text in {
        f"look-and-feel/Marshlight/{inner}": 'Rectangle { color: "#31ff07" }',
        "color-schemes/Marshlight.colors": "[Colors:Window]\nBackgroundNormal=49,255,7\n[General]\nName=Marshlight\n",
    }.items():
        (theme / path).parent.mkdir(parents=True)
        (theme / path).write_text(text)
    outcome = recolour_theme(read_theme(open_bundle(theme)), look.scheme(), Choices())
    assert sum("nothing that is imported is run" in note for note in outcome.notes) == told
    assert not [path for path in outcome.outputs if path.endswith(".qml")]


@pytest.mark.parametrize("form", ["TIFF", "PPM", "TGA", "PCX", "ICO", "JPEG2000", "EPS", "PDF", "SGI", "XBM", "DDS"])
def test_only_formats_that_are_meant_are_opened_inside_themes(form):
    stream = io.BytesIO()
    try:
        Image.new("1" if form == "XBM" else "RGB", (4, 4)).save(stream, form)
    except (OSError, KeyError):
        pytest.skip("it cannot be made here")
    with pytest.raises(PictureError, match="is not a readable image"):
        opened(stream.getvalue(), "x.png")


def test_pointers_cannot_hold_more_than_their_bytes():
    rows = 4000
    comment = struct.pack("<IIIII", 20, 0xFFFE0001, 1, 1, 60_000) + b"x" * 60_000
    table = b"".join(struct.pack("<III", 0xFFFE0001, 1, 16 + 12 * rows) for _ in range(rows))
    data = struct.pack("<4sIII", b"Xcur", 16, 0x10000, rows) + table + comment
    with pytest.raises(PictureError, match="is truncated"):
        read_pointer(data)
    image = struct.pack("<IIIIIIIII", 36, 0xFFFD0002, 24, 1, 200, 200, 0, 0, 0) + b"\0" * 160_000
    table = b"".join(struct.pack("<III", 0xFFFD0002, 24, 16 + 12 * 300) for _ in range(300))
    with pytest.raises(PictureError, match="more images than its size allows"):
        read_pointer(struct.pack("<4sIII", b"Xcur", 16, 0x10000, 300) + table + image)


@pytest.mark.parametrize("form, ending", [("PNG", ".png"), ("JPEG", ".jpg"), ("TIFF", ".tif"), ("WEBP", ".webp")])
@pytest.mark.parametrize("orientation", [1, 2, 3, 4, 5, 6, 7, 8])
@pytest.mark.parametrize("mode", ["RGB", "I;16"])
def test_pictures_are_turned_once_whatever_their_format(tmp_path, form, ending, orientation, mode):
    """A picture that is light at its first corner when upright; the same for every format and depth."""
    if mode == "I;16" and form in ("JPEG", "WEBP"):
        pytest.skip("the format has no such depth")
    upright = Image.new("RGB", (40, 24), (10, 10, 10))
    upright.paste((250, 250, 250), (0, 0, 16, 10))
    back = {1: None, 2: 0, 3: 3, 4: 1, 5: 5, 6: 2, 7: 6, 8: 4}[
        orientation
    ]  # what turns it so that the tag turns it back
    stored = upright if back is None else upright.transpose(Image.Transpose(back))
    if mode == "I;16":
        grey = stored.convert("L")
        stored = Image.frombytes("I;16", grey.size, b"".join(bytes([v, v]) for v in grey.tobytes()))
    exif = Image.Exif()
    exif[0x0112] = orientation
    path = tmp_path / f"x{ending}"
    stored.save(path, form, exif=exif, **({"quality": 95} if form == "JPEG" else {}))
    for pixels, size in (
        (load_picture(path).pixels, None),
        (None, load_image(path)),
    ):
        image = Image.fromarray(pixels) if pixels is not None else size
        assert image.size == (40, 24)
        assert image.convert("L").getpixel((4, 3)) > 200 and image.convert("L").getpixel((36, 20)) < 60
    picture = load_picture(path)
    assert (picture.width, picture.height) == (40, 24)


# Links and places


def outcome_of(folder: Path, look):
    return recolour_theme(read_theme(open_bundle(folder)), look.scheme(), Choices())


def test_files_of_the_person_are_not_copied_into_a_theme(tmp_path, look):
    secret = tmp_path / "secret"
    secret.write_text("the key")
    theme = tmp_path / "Marsh"
    (theme / "gtk-3.0").mkdir(parents=True)
    (theme / "gtk-3.0/gtk.css").write_bytes(SHEET)
    (theme / "gtk-3.0/notes.txt").symlink_to(secret)
    (theme / "gtk-3.0/up.txt").symlink_to("../../secret")
    (theme / "gtk-3.0/round").symlink_to("round")
    (theme / "gtk-3.0/same.css").symlink_to("gtk.css")
    os.mkfifo(theme / "gtk-3.0/pipe.css")
    bundle = open_bundle(theme)
    assert set(bundle.left_out) == {"gtk-3.0/notes.txt", "gtk-3.0/up.txt", "gtk-3.0/round"}
    outcome = outcome_of(theme, look)
    assert b"the key" not in b"".join(out.data for out in outcome.outputs.values())
    assert sum("so it is left out" in note for note in outcome.notes) == 3
    assert any(out.link == "gtk.css" for out in outcome.outputs.values())


def archive_of(tmp_path: Path, *rows: tuple[str, bytes | str]) -> Path:
    path = tmp_path / "x.tar"
    with tarfile.open(path, "w") as out:
        for name, content in rows:
            info = tarfile.TarInfo(name)
            if isinstance(content, str):
                info.type, info.linkname = tarfile.SYMTYPE, content
                out.addfile(info)
            else:
                info.size = len(content)
                out.addfile(info, io.BytesIO(content))
    return path


def test_two_runs_cannot_write_where_a_link_of_the_first_leads(tmp_path, look):
    """The first lays a link, the second would write through it: neither lays one that leads out, nor follows any."""
    into = tmp_path / "into"
    first = archive_of(tmp_path, ("Marsh/gtk-3.0/gtk.css", SHEET), ("Marsh/gtk-3.0/assets", "../../../../.."))
    with pytest.raises(UnsafeArchiveError):
        open_bundle(first)
    first = archive_of(tmp_path, ("Marsh/gtk-3.0/gtk.css", SHEET), ("Marsh/gtk-3.0/assets", "../.."), ("x/y", b""))
    result = recolour_theme(read_theme(open_bundle(first)), look.scheme(), Choices(name="Ebb"))
    lay_down(result.outputs, into)
    assert any("leads out of its theme" in note for note in result.notes)
    assert not any(p.is_symlink() for p in into.rglob("*"))
    (into / ".local/share/themes/Ebb/gtk-3.0/assets").symlink_to(into)
    second = archive_of(tmp_path, ("Marsh/gtk-3.0/gtk.css", SHEET), ("Marsh/gtk-3.0/assets/.bashrc", b"echo ran"))
    result = recolour_theme(read_theme(open_bundle(second)), look.scheme(), Choices(name="Ebb"))
    with pytest.raises(FileAccessError, match="a link or a file blocks the way"):
        lay_down(result.outputs, into)
    assert not (into / ".bashrc").exists() and not list(into.rglob(".finch-*"))


@pytest.mark.parametrize(
    "path, link, out",
    [
        (".local/share/themes/X/a", "b", False), (".local/share/themes/X/g/a", "../b", False),
        (".local/share/themes/X/a", "..", True), (".local/share/themes/X/a", "../Y/b", True),
        (".local/share/themes/X/a", "/etc/passwd", True), (".local/share/themes/X/a", "../../../..", True),
        (".local/share/themes/X/a", "g/../../../../b", True), (".local/share/themes/X/a", "./b/../../X/c", True),
        (".icons/X/c/a", "b", False), (".icons/X/c/a", "../../../.ssh/id", True), ("conky.conf", "x", True), ("a/b", "c", False),
    ],
)  # fmt: skip
def test_links_are_judged_as_they_will_be_written(path, link, out):
    assert leads_out(path, link, {root_of_output(path)}) is out


@pytest.mark.parametrize("path", ["../x", "/etc/x", "a/../../x", "a//b", "./a", "a/.", "", "a\0b", ".."])
def test_no_path_leads_out_of_the_folder(tmp_path, path):
    with pytest.raises(FileAccessError):
        lay_down({path: OutEntry(b"x")}, tmp_path / "into")
    assert list(tmp_path.rglob("*")) in ([], [tmp_path / "into"])


def test_a_link_in_place_of_a_file_gives_way_and_what_it_led_to_stays(tmp_path):
    outside = tmp_path / "outside"
    outside.write_bytes(b"mine")
    into = tmp_path / "into"
    into.mkdir()
    (into / "x").symlink_to(outside)
    lay_down({"x": OutEntry(b"new")}, into)
    assert outside.read_bytes() == b"mine" and (into / "x").read_bytes() == b"new" and not (into / "x").is_symlink()


def test_a_home_is_not_written_into_without_asking(tmp_path, look, home):
    kept = tmp_path / "x.finchlook"
    kept.write_text(look_to_json(look))
    (home / ".bashrc").write_text("mine")
    theme = home / ".local/share/themes/Saltpan"
    for words in (["recolour", theme, kept, "--into", home], ["dress", kept, "--into", Path.home()]):
        done = CliRunner().invoke(app, [str(w) for w in words])
        assert done.exit_code == 2 and "there is nobody to ask here" in done.output, done.output
    assert (
        CliRunner().invoke(app, ["dress", str(kept), "--into", str(Path.home()), "--yes", "--only", "kde"]).exit_code
        == 0
    )


# Archives


def zipped(tmp_path: Path, *rows: tuple[str, bytes]) -> Path:
    path = tmp_path / "x.zip"
    with zipfile.ZipFile(path, "w", zipfile.ZIP_DEFLATED) as out:
        for name, data in rows:
            out.writestr(name, data)
    return path


@pytest.mark.long
def test_a_header_that_says_it_is_large_is_not_read(tmp_path):
    path = tmp_path / "x.tar.gz"
    with tarfile.open(path, "w:gz", format=tarfile.PAX_FORMAT) as out:
        info = tarfile.TarInfo("a")
        info.pax_headers = {"comment": "x" * 300_000_000}
        out.addfile(info)
    started = time.monotonic()
    with pytest.raises(UnsafeArchiveError):
        open_bundle(path)
    assert path.stat().st_size < 1_000_000 and time.monotonic() - started < 30


@pytest.mark.parametrize(
    "name, says",
    [
        ("a" * 2000, "too long or too deep"),
        ("a/" * 60 + "b", "too long or too deep"),
        ("a\0b", "leads out"),
        ("..\\x", "leads out"),
    ],
)
def test_names_in_archives_are_bounded(tmp_path, name, says):
    path = archive_of(tmp_path, (name.replace("\0", "\\0") if "\0" in name else name, b"x"))
    if "\0" in name:
        pytest.skip("such a name cannot be written into an archive here")
    with pytest.raises(UnsafeArchiveError, match=says):
        open_bundle(path)


def test_what_is_passed_over_counts_too(tmp_path, monkeypatch):
    monkeypatch.setattr("mellow_finch.intake.budget.MOST_FILES", 50)
    path = zipped(tmp_path, *((f".git/{i}", b"") for i in range(60)))
    with pytest.raises(UnsafeArchiveError, match="more than"):
        open_bundle(path)


@pytest.mark.long
@pytest.mark.parametrize("kind", ["zip", "tar", "tar.gz", "7z"])
def test_damaged_archives_are_our_own_error(tmp_path, kind):
    import random

    rng = random.Random(4)
    if kind == "zip":
        whole = zipped(tmp_path, ("a/gtk-3.0/gtk.css", SHEET * 50), ("a/b", b"x" * 500)).read_bytes()
    elif kind == "7z":
        import py7zr

        with py7zr.SevenZipFile(tmp_path / "whole.7z", "w") as out:
            out.writestr(SHEET * 50, "a/gtk-3.0/gtk.css")
        whole = (tmp_path / "whole.7z").read_bytes()
    else:
        plain = archive_of(tmp_path, ("a/gtk-3.0/gtk.css", SHEET * 50), ("a/b", b"x" * 500)).read_bytes()
        whole = plain
        if kind == "tar.gz":
            import gzip

            whole = gzip.compress(plain)
    path = tmp_path / f"damaged.{kind}"
    for _ in range(12 if kind == "7z" else 150):
        data = bytearray(whole)
        for _ in range(rng.randrange(1, 8)):
            data[rng.randrange(len(data))] = rng.randrange(256)
        path.write_bytes(bytes(data[: rng.randrange(len(data) // 2, len(data) + 1)]))
        try:
            bundle = open_bundle(path)
            for entry in bundle.entries.values():
                entry.load()
        except FinchError as error:
            assert str(error).count("\n") == 0


def test_a_resource_bundle_with_a_key_that_is_no_path_is_damaged():
    whole = write_resources({"/org/x/gtk.css": SHEET})
    read_resources(whole, Budget("x"))
    with pytest.raises(UnsafeArchiveError, match="damaged"):
        read_resources(whole.replace(b"/", b"x"), Budget("x"))


def test_two_files_that_go_to_one_place_are_both_kept(tmp_path, look):
    sheet = b"* { background-color: #ff2fa0; }\nwindow { text-color: #202020; }\n"
    path = archive_of(tmp_path, ("rofi/a/x.rasi", sheet), ("rofi/b/x.rasi", sheet + b"/* other */\n"))
    outcome = recolour_theme(read_theme(open_bundle(path)), look.scheme(), Choices())
    assert len([p for p in outcome.outputs if p.endswith(".rasi")]) == 2


@pytest.mark.parametrize("reader", [open_bundle, load_look, read_palette, load_picture, load_image])
def test_pipes_and_devices_are_told_and_never_waited_for(tmp_path, reader):
    pipe = tmp_path / "x.png"
    os.mkfifo(pipe)
    for path in (pipe, Path("/dev/zero"), tmp_path / "nothing", tmp_path):
        if path == tmp_path and reader is open_bundle:
            continue
        with pytest.raises(FinchError):
            reader(path)


# Looks


def changed(look, **values):
    return json.dumps({**json.loads(look_to_json(look)), **values})


@pytest.mark.parametrize(
    "values, says",
    [
        ({"linked": "false"}, "linked is neither true nor false"), ({"left_out": "gtk-3"}, "left_out is not a list"),
        ({"decisions": [{"component": "a", "knobs": {"b": "1"}}]}, r"decisions\[0\].knobs.b is not a number"), ({"name": 3}, "name is not text"), ({"name": None}, "name is missing"),
        ({"name": "x" * 500}, "longer than 400"), ({"opacity": {"windows": True}}, "opacity.windows is not a number"),
        ({"opacity": []}, "opacity is not a table"), ({"pins": [1]}, r"pins\[0\] is not text"), ({"pins": ["#12"]}, r"pins\[0\]"),
        ({"brought": ["x"] * 200}, "more than 100"), ({"locks": {"accent": 1}}, "locks is not a list"),
        ({"pictures": [{"path": "x"}]}, r"pictures\[0\].weight is missing"), ({"pictures": [3]}, r"pictures\[0\] is not a table"),
        ({"placement": {"width": "wide"}}, "placement.width is not a number"), ({"words": {"eth0": 3}}, "words.eth0 is not text"),
        ({"recipe": {"accent": "#102030", "hue_deg": "x", "tint": 0}}, "recipe.hue_deg is not a number"),
        ({"temper": {"warmth": []}}, "temper.warmth is not a number"), ({"tones": []}, "tones is not a table"),
        ({"variants": [3]}, r"variants\[0\] is not a table"), ({"version": True}, "version"), ({"blur": 1}, "blur is neither"),
        ({"backdrop": {"darkest": "#000000"}}, "backdrop.lightest is missing"), ({"later": [[[]]] * 20_000}, "too many"),
    ],
)  # fmt: skip
def test_a_look_is_decoded_strictly_and_the_key_is_named(look, values, says):
    with pytest.raises(ParseError, match=says) as caught:
        look_from_json(changed(look, **values))
    assert "\n" not in caught.value.line()


@pytest.mark.parametrize(
    "spelling", ["NaN", "Infinity", "-Infinity", "1e400", "9" * 4400, "-" + "9" * 30, "1" + "0" * 5000 + ".5"]
)
def test_numbers_that_are_none_are_refused(look, spelling):
    text = look_to_json(look).replace('"tint":', f'"tint": {spelling}, "old":', 1)
    with pytest.raises(ParseError):
        look_from_json(text)


@pytest.mark.parametrize("key", ["name", "source"])
def test_characters_that_are_none_are_refused(look, key):
    with pytest.raises(ParseError, match=f"{key} contains an invalid character"):
        look_from_json(changed(look, **{key: "\ud800"}))


# Names and words

HOSTILE = (
    "*/ @import url('/etc/passwd'); /*", "x\n[Desktop Entry]\nExec=touch /tmp/ran", "a]\n[General]", '"; os.execute("x") --',
    "-->\n<!ENTITY x SYSTEM 'file:///etc/passwd'>", "$(touch x)`touch y`${exec z}", "\x1b]0;x\x07", "x' colorscheme | !touch z",
    "}\n* { color: red }", "\u202ered\u2028x", "\r\nuser_pref('x', 1);", "<b>&amp;", "a\0b", "x" * 5000,
)  # fmt: skip


@pytest.mark.long
@pytest.mark.some(7)
@pytest.mark.parametrize("name", HOSTILE)
def test_a_hostile_name_never_breaks_out_of_a_file(look, name):
    """Whatever a look is called, its files hold the same lines as those of a look with a plain name, but for the name."""
    hostile = replace(look, name=name)
    spoken, folder = plain_name(name, hostile.folder), hostile.folder
    assert not set(spoken) & set("\n\r\0\x1b*/\"'<>[]{}$`;|&\\")
    ours = dress(hostile, NoFiles(), every_component(look))
    plain = dress(replace(look, name="Marsh"), NoFiles(), every_component(look))
    for component in COMPONENTS:
        for mine, theirs in zip(ours.files[component.id], plain.files[component.id], strict=True):
            assert mine.path == theirs.path.replace("Marsh", folder).replace("marsh", folder.lower()), component.id
            if b"\0" not in theirs.data[:200] and not mine.path.endswith((".png", ".obt")):
                assert mine.data.count(b"\n") == theirs.data.count(b"\n"), mine.path
                assert name.encode("utf-8", "surrogatepass") not in mine.data or name == spoken
    for form in INTERCHANGES:
        if form.write is not None:
            data = export_bytes(hostile, Path("x"), form.id)
            assert b"\0" in data or name.encode() not in data or name == spoken
            assert (
                data.count(b"\n") == export_bytes(replace(look, name="Marsh"), Path("x"), form.id).count(b"\n")
                or b"\0" in data
            )


def test_words_of_a_look_are_replaced_by_words_of_their_kind_alone(home, look):
    theme = read_theme(open_bundle(home / ".config/conky/conky.conf"))
    word = next(w.text for w in foreign_words(theme, ThisComputer()) if w.kind == "interface")
    for evil in ("${exec touch /tmp/ran}", "a b", "eth0\n", "", "$x", "a;b", "x" * 60):
        outcome = recolour_theme(theme, look.scheme(), Choices(words={word: evil}))
        assert any("does not fit (Network interface)" in note for note in outcome.notes)
        assert word.encode() in b"".join(out.data for out in outcome.outputs.values())
    outcome = recolour_theme(theme, look.scheme(), Choices(words={word: "eth7", "alignment": "x", "own_window": "y"}))
    text = b"".join(out.data for out in outcome.outputs.values())
    assert b"eth7" in text and b"alignment" in text and b"own_window" in text


# Text formats


@pytest.mark.long
@pytest.mark.some(2)
@pytest.mark.parametrize(
    "text",
    [
        "a{" * 15_000, "[" * 15_000, "(" * 15_000, "{" * 15_000, "<a>" * 6_000, '{"a":' * 8_000, "/*" * 15_000, "[[" * 8_000,
        "a{background:" + "linear-gradient(" * 2000 + ")" * 2000 + "}", "\n".join(f"$a{i} = $a{i + 1}" for i in range(3000)), "#" * 40_000, "a { color: " + "9" * 40_000,
    ],
    ids=range(12),
)  # fmt: skip
def test_deep_and_odd_texts_are_read_in_a_moment(text):
    started = time.monotonic()
    for form in formats():
        form.scan(text)
    paint(text, ["window > button"])
    assert time.monotonic() - started < 60  # a bound against quadratic readers, not a measure


@pytest.mark.some(3)
@pytest.mark.parametrize(
    "run",
    [
        " ",
        "a",
        "\n",
        "=",
        "0",
        "[a=",
        "ame=",
        '"\\',
        '<a "',
        'a="',
        "url(",
        "a: ",
        "$a ",
        "/",
        "*",
        "a.",
        "a = a ",
        "{a",
        "-",
    ],
)
def test_long_runs_of_anything_are_read_in_a_moment(run):
    """No pattern goes over the same characters again and again: so much of it would take minutes."""
    text = run * (12_000 // len(run)) + "\x01"
    started = time.monotonic()
    for form in formats():
        form.scan(text)
        format_of(f"x.{form.id}", text[:4096])
    assert time.monotonic() - started < 60  # a bound against quadratic readers, not a measure


@pytest.mark.long
@pytest.mark.some(3)
@pytest.mark.parametrize(
    "deep",
    [
        ":not(" * 4000 + "a" + ")" * 4000 + " { color: red; }", "a {" * 40_000, "[" * 40_000, "@media all {" * 5000 + "a { color: red; }",
        "window { background-image: " + "linear-gradient(" * 3000 + "red" + ")" * 3000 + "; }",
        "@define-color deep " + "mix(" * 3000 + "red, blue, 0.5" + ")" * 3000 + ";",
    ],
    ids=range(6),
)  # fmt: skip
def test_a_sheet_that_is_nested_deeply_is_told_and_the_rest_is_read(tmp_path, look, deep):
    sheet = tmp_path / "T" / "gtk-3.0" / "gtk.css"
    sheet.parent.mkdir(parents=True)
    sheet.write_text(f"window {{ color: #202020; background-color: #fafafa; }}\n{deep}\n")
    theme = read_theme(open_bundle(tmp_path / "T"))
    assert any("gtk.css” is nested too deeply from line 2 on" in problem for problem in theme.problems)
    fresh = recolour_theme(theme, look.scheme(), Choices()).fresh["gtk-3.0/gtk.css"]
    assert "#202020" not in fresh and "#fafafa" not in fresh
