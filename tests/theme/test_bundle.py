"""Opening folders and archives: every kind is told by its bytes, nothing leads out, nothing is too large."""

from __future__ import annotations

import io
import os
import random
import stat
import subprocess
import tarfile
import zipfile

import py7zr
import pytest

from mellow_finch.demo.turnstone import turnstone_archive, turnstone_files
from mellow_finch.errors import FileAccessError, FinchError, UnsafeArchiveError
from mellow_finch.intake import budget
from mellow_finch.intake.archives import zstandard
from mellow_finch.intake.budget import Budget
from mellow_finch.theme.bundle.gresource import read_resources, write_resources
from mellow_finch.theme.bundle.kinds import counted
from mellow_finch.theme.bundle.opened import open_bundle
from mellow_finch.theme.bundle.read import open_theme

FILES = turnstone_files()


def tar_of(files, mode, path):
    with tarfile.open(path, mode) as archive:
        for name, data in files.items():
            info = tarfile.TarInfo(name)
            info.size = len(data)
            archive.addfile(info, io.BytesIO(data))


def packed(kind, path):
    if kind == "zip":
        with zipfile.ZipFile(path, "w") as archive:
            for name, data in FILES.items():
                archive.writestr(name, data)
    elif kind == "7z":
        with py7zr.SevenZipFile(path, "w") as archive:
            for name, data in FILES.items():
                archive.writestr(data, name)
    elif kind == "zst":
        tar_of(FILES, "w", path.with_suffix(".plain"))
        path.write_bytes(zstandard().compress(path.with_suffix(".plain").read_bytes()))
    else:
        tar_of(FILES, f"w:{kind}", path)


@pytest.mark.parametrize("kind", ["", "gz", "bz2", "xz", "zst", "zip", "7z"])
def test_every_kind_of_archive_is_told_by_its_bytes(kind, tmp_path):
    path = tmp_path / "shared.obt"
    packed(kind, path)
    found = open_bundle(path)
    assert {p: found.data(p) for p in found.entries} == FILES and found.name == "shared"


def test_a_folder_gives_the_same(tmp_path):
    for name, data in FILES.items():
        (tmp_path / "Turnstone" / name).parent.mkdir(parents=True, exist_ok=True)
        (tmp_path / "Turnstone" / name).write_bytes(data)
    (tmp_path / "Turnstone/.git").mkdir()
    (tmp_path / "Turnstone/.git/config").write_text("x")
    found = open_bundle(tmp_path / "Turnstone")
    assert {p: found.data(p) for p in found.entries} == FILES


def test_what_it_holds_is_told_by_its_contents(tmp_path):
    (tmp_path / "x.tar.gz").write_bytes(turnstone_archive())
    kinds = dict(counted(open_theme(tmp_path / "x.tar.gz").found))
    assert set(kinds) == {"GTK 3 theme", "Window decorations", "Icon theme", "Cursor theme", "Desktop widget"}


def evil(info):
    out = io.BytesIO()
    with tarfile.open(fileobj=out, mode="w") as archive:
        for row in info:
            archive.addfile(row, io.BytesIO(b"x" * row.size))
    return out.getvalue()


def row(name, kind=tarfile.REGTYPE, link="", size=0):
    info = tarfile.TarInfo(name)
    info.type, info.linkname, info.size = kind, link, size
    return info


@pytest.mark.parametrize(
    "rows, says",
    [
        ([row("../gtk.css")], "leads out"),
        ([row("/etc/gtk.css")], "leads out"),
        ([row("a/../../gtk.css")], "leads out"),
        ([row("C:\\x.css")], "leads out"),
        ([row("a", tarfile.SYMTYPE, "/etc/passwd")], "out of its folder"),
        ([row("a/b", tarfile.SYMTYPE, "../../x")], "out of its folder"),
        ([row("d/y", tarfile.SYMTYPE, ".."), row("d/z", tarfile.SYMTYPE, "y/../..")], "out of its folder"),
        ([row("d", tarfile.SYMTYPE, "e"), row("d/gtk.css")], "behind one of its own links"),
        ([row("tty", tarfile.CHRTYPE)], "neither a file nor a folder"),
        ([row("pipe", tarfile.FIFOTYPE)], "neither a file nor a folder"),
    ],
)
def test_nothing_leads_out(rows, says, tmp_path):
    path = tmp_path / "evil.tar"
    path.write_bytes(evil(rows))
    with pytest.raises(UnsafeArchiveError, match=says):
        open_bundle(path)
    assert sorted(p.name for p in tmp_path.iterdir()) == ["evil.tar"]


def test_a_zip_with_a_link_out_is_refused(tmp_path):
    with zipfile.ZipFile(tmp_path / "x.zip", "w") as archive:
        info = zipfile.ZipInfo("link")
        info.external_attr = (stat.S_IFLNK | 0o777) << 16
        archive.writestr(info, "../../secret")
    with pytest.raises(UnsafeArchiveError, match="out of its folder"):
        open_bundle(tmp_path / "x.zip")


def test_bounds(tmp_path, monkeypatch):
    path = tmp_path / "bomb.tar.gz"
    with tarfile.open(path, "w:gz") as archive:
        archive.addfile(row("gtk.css", size=39_000_000), io.BytesIO(bytes(39_000_000)))
    with pytest.raises(UnsafeArchiveError, match="400 times its size; refused"):
        open_bundle(path)
    monkeypatch.setattr(budget, "MOST_FILES", 3)
    (tmp_path / "many.tar").write_bytes(evil([row(f"{i}.css") for i in range(5)]))
    with pytest.raises(UnsafeArchiveError, match="more than 3 files"):
        open_bundle(tmp_path / "many.tar")


@pytest.mark.long
@pytest.mark.parametrize("kind", ["gz", "xz", "zst", "zip", "7z"])
def test_torn_archives_are_told_in_words(kind, tmp_path):
    path = tmp_path / "torn"
    packed(kind, path)
    whole, rng = path.read_bytes(), random.Random(kind)
    for _ in range(12):
        data = bytearray(whole[: rng.randrange(8, len(whole))])
        for _ in range(rng.randrange(6)):
            data[rng.randrange(6, len(data))] = rng.randrange(256)
        path.write_bytes(data)
        try:
            found = open_bundle(path)
            for name in found.entries:
                found.data(name)
        except FinchError as error:
            assert str(error).endswith(".")
        except KeyError:
            pass


def test_what_is_not_there_is_told(tmp_path):
    with pytest.raises(FileAccessError, match="no such file"):
        open_bundle(tmp_path / "none.zip")


def test_resource_bundles_are_read_and_written(tmp_path):
    files = {f"/org/reedholm/{n}": d for n, d in FILES.items()}
    data = write_resources(files)
    assert read_resources(data, Budget("x")) == files and write_resources(read_resources(data, Budget("x"))) == data
    for cut in range(24, len(data), 997):
        try:
            read_resources(data[:cut], Budget("x"))
        except UnsafeArchiveError as error:
            assert "damaged" in str(error) or "read" in str(error)


@pytest.mark.consumer
def test_the_real_reader_reads_our_resource_bundles(tmp_path):
    files = {f"/org/reedholm/{n}": d for n, d in FILES.items()}
    (tmp_path / "x.gresource").write_bytes(write_resources(files))
    script = (
        "import sys; from gi.repository import Gio\n"
        "r = Gio.Resource.load(sys.argv[1])\n"
        "for p in sys.stdin.read().split('\\n'):\n"
        "    print(r.lookup_data(p, 0).get_size())\n"
    )
    done = subprocess.run(
        ["/usr/bin/python3", "-c", script, str(tmp_path / "x.gresource")],
        input="\n".join(files), capture_output=True, text=True, timeout=60,
    )  # fmt: skip
    if "No module named" in done.stderr:
        pytest.skip("NO GLIB INTROSPECTION: install python3-gi to check resource bundles with the real reader")
    assert [int(n) for n in done.stdout.split()] == [len(d) for d in files.values()], done.stderr


def test_links_in_a_circle_and_what_cannot_be_read_are_left_where_they_are(tmp_path):
    root = tmp_path / "Turnstone"
    (root / "gtk-3.0").mkdir(parents=True)
    (root / "gtk-3.0/gtk.css").write_text("window { color: #102030; }")
    (root / "a").symlink_to("b")
    (root / "b").symlink_to("a")
    (root / "up").symlink_to(".")
    os.mkfifo(root / "pipe.css")
    found = open_bundle(root)
    assert "gtk-3.0/gtk.css" in found.entries and "pipe.css" not in found.entries and set(found.left_out) == {"a", "b"}
    open_theme(root)


def test_a_folder_that_is_no_theme_is_refused_before_long(tmp_path, monkeypatch):
    monkeypatch.setattr(budget, "MOST_FILES", 200)
    for i in range(300):
        (tmp_path / f"{i}.css").touch()
    with pytest.raises(UnsafeArchiveError, match="more than 200 files"):
        open_bundle(tmp_path)
    monkeypatch.setattr(budget, "MOST_SECONDS", -1)
    monkeypatch.setattr(budget, "MOST_FILES", 1000)
    with pytest.raises(UnsafeArchiveError, match="too long"):
        open_bundle(tmp_path)


@pytest.mark.parametrize(
    ("lies", "named"),
    [
        ("home/.themes/Tern/gtk-3.0", "Tern"),
        ("down/Tern/gtk-3.0", "Tern"),
        ("home/.config/gtk-3.0", "gtk-3.0"),
        ("down/loose/gtk-3.0", "gtk-3.0"),
    ],
)
def test_a_part_brought_alone_is_called_like_the_theme_that_it_lies_in(tmp_path, lies, named):
    (tmp_path / lies).mkdir(parents=True)
    (tmp_path / lies / "gtk.css").write_text("window { color: #222222; }")
    for beside in ("down/Tern/metacity-1", "home/.config/gtk-4.0"):
        (tmp_path / beside).mkdir(parents=True)
    bundle = open_bundle(tmp_path / lies)
    assert (bundle.name, bundle.part, list(bundle.entries)) == (named, "gtk-3.0", ["gtk-3.0/gtk.css"])
