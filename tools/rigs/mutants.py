"""Every reader of what comes from outside, good inputs for each, and ways to spoil them; watched while they read.

`tools/mutate.py` runs any number of them; the suite a slice.
"""

from __future__ import annotations

import io
import lzma
import os
import random
import sys
import tarfile
import time
import zipfile
import zlib
from collections.abc import Callable, Iterator, Mapping
from contextlib import contextmanager
from dataclasses import dataclass, field
from functools import partial
from pathlib import Path

import numpy as np
from PIL import Image

from mellow_finch.components.catalogue import COMPONENTS
from mellow_finch.components.files import FolderFiles, Layered
from mellow_finch.demo.turnstone import turnstone_files
from mellow_finch.errors import FinchError
from mellow_finch.intake.archives import zstandard
from mellow_finch.intake.budget import Budget
from mellow_finch.look.carry import read_look
from mellow_finch.look.file import look_to_json
from mellow_finch.look.interchange.catalogue import INTERCHANGES, read_palette
from mellow_finch.look.model import Look
from mellow_finch.picture.load import load_image, load_picture
from mellow_finch.recolour.colour_map import ColourMap
from mellow_finch.recolour.images import recoloured_image
from mellow_finch.recolour.pointers import read_pointer
from mellow_finch.theme.bundle.gresource import read_resources, write_resources
from mellow_finch.theme.bundle.opened import open_bundle
from mellow_finch.theme.bundle.read import open_theme
from mellow_finch.theme.result.account import Choices
from mellow_finch.theme.result.recolour import recolour_theme

MOST_S, MOST_BYTES = 6.0, 300_000_000  # what hangs takes far longer, whatever else the machine does

_TOKENS = (
    b"NaN", b"Infinity", b"1e400", b"-1", b"9" * 4400, b"\\ud800", b"\xed\xa0\x80", b"\0", b"{" * 3000, b"[" * 3000, b"(" * 3000,
    b"<a>" * 2000, b"/*", b"*/", b'"', b"'", b"\\", b"${x}", b"@import url(x);", b"url(file:///etc/passwd)", b"../" * 9, b"#",
    b"rgba(", b"hsl(0 0 0 / ", b"\r", b"\n", b";", b"]]>", b"<!ENTITY a SYSTEM 'file:///etc/passwd'>", b"&a;", b"$(touch x)",
    b"\x1b[2J", b"\xe2\x80\xae", b"linear-gradient(" * 800, b"0x", b"1" * 40, b"1e-9999", b"--1", b"#ggg", b"@include x\n",
)  # fmt: skip


@dataclass
class Reader:
    """One way in: read(path) reads a file; seeds: good files by name."""

    name: str
    read: Callable[[Path], object]
    seeds: Mapping[str, bytes] = field(repr=False)


def spoilt(rng: random.Random, data: bytes) -> bytes:
    """Return bytes with something wrong about them."""
    out = bytearray(data)
    for _ in range(rng.choice((1, 1, 1, 2, 3, 6))):
        at = rng.randrange(len(out) + 1)
        what = rng.randrange(9)
        if what == 0 and out:
            out[at % len(out)] ^= 1 << rng.randrange(8)
        elif what == 1 and out:
            out[at % len(out)] = rng.choice((0, 1, 127, 128, 255, rng.randrange(256)))
        elif what == 2:
            del out[at : at + rng.choice((1, 4, 40, 4000))]
        elif what == 3:
            del out[at:]
        elif what == 4 and out:
            start = rng.randrange(len(out))
            out[at:at] = out[start : start + rng.choice((4, 64, 1000))] * rng.choice((1, 3, 50))
        elif what == 5:
            out[at:at] = rng.choice(_TOKENS)
        elif what == 6:
            out[at : at + 4] = rng.choice(
                (b"\xff\xff\xff\xff", b"\xff\xff\xff\x7f", b"\0\0\0\0", b"\x00\x00\x00\x80", b"\xff\xff")
            )
        elif what == 7:
            out[at : at + 8] = rng.randbytes(8)
        else:
            start = rng.randrange(len(out) + 1)
            piece = out[start : start + 200]
            out[at : at + len(piece)] = piece
    return bytes(out)


# Seeds


def _pictures() -> dict[str, bytes]:
    rng = np.random.default_rng(1)
    rgb = Image.fromarray(rng.integers(0, 255, (24, 32, 3), np.uint8))
    out: dict[str, bytes] = {}

    def put(name: str, image: Image.Image, form: str, **more: object) -> None:
        stream = io.BytesIO()
        image.save(stream, form, **more)
        out[name] = stream.getvalue()

    exif = Image.Exif()
    exif[0x0112] = 6
    for form, ending in (
        ("PNG", "png"),
        ("JPEG", "jpg"),
        ("WEBP", "webp"),
        ("TIFF", "tif"),
        ("BMP", "bmp"),
        ("GIF", "gif"),
        ("AVIF", "avif"),
    ):
        put(f"plain.{ending}", rgb, form)
    put("turned.jpg", rgb, "JPEG", exif=exif, progressive=True)
    put("packed.tif", rgb, "TIFF", compression="tiff_lzw", exif=exif)
    put("deflated.tif", rgb.convert("P"), "TIFF", compression="tiff_adobe_deflate")
    put("grey.png", Image.fromarray(rng.integers(0, 65535, (24, 32), np.uint16)), "PNG")
    put("frames.gif", rgb.convert("P"), "GIF", save_all=True, append_images=[rgb.rotate(90).convert("P")] * 3)
    put("frames.webp", rgb, "WEBP", save_all=True, append_images=[rgb.rotate(180)])
    put("frames.tif", rgb, "TIFF", save_all=True, append_images=[rgb])
    put("clear.png", rgb.convert("RGBA"), "PNG")
    put("palette.png", rgb.convert("P"), "PNG", transparency=3)
    return out


def _archives() -> dict[str, bytes]:
    import py7zr

    files = {
        "Turnstone/gtk-3.0/gtk.css": b"window { background-color: #262a2e; color: #aabbcc; }\n",
        "Turnstone/index.theme": b"[x]\na=1\n",
    }
    files |= {f"Turnstone/{'a/' * i}{i}.svg": b"<svg fill='#102030'/>" for i in range(4)}
    plain = io.BytesIO()
    with tarfile.open(fileobj=plain, mode="w", format=tarfile.PAX_FORMAT) as tar:
        for name, data in files.items():
            info = tarfile.TarInfo(name)
            info.size = len(data)
            info.pax_headers = {"comment": "reeds"}
            tar.addfile(info, io.BytesIO(data))
        link = tarfile.TarInfo("Turnstone/link")
        link.type, link.linkname = tarfile.SYMTYPE, "gtk-3.0/gtk.css"
        tar.addfile(link)
    zipped = io.BytesIO()
    with zipfile.ZipFile(zipped, "w") as archive:
        for i, (name, data) in enumerate(files.items()):
            archive.writestr(
                name, data, (zipfile.ZIP_DEFLATED, zipfile.ZIP_STORED, zipfile.ZIP_LZMA, zipfile.ZIP_BZIP2)[i % 4]
            )
    seven = io.BytesIO()
    with py7zr.SevenZipFile(seven, "w") as archive7:
        for name, data in files.items():
            archive7.writestr(data, name)
    raw = plain.getvalue()
    return {
        "x.tar": raw,
        "x.tar.gz": _gzip(raw),
        "x.tar.xz": lzma.compress(raw),
        "x.tar.zst": zstandard().compress(raw),
        "x.zip": zipped.getvalue(),
        "x.7z": seven.getvalue(),
    }  # fmt: skip


def _gzip(data: bytes) -> bytes:
    packer = zlib.compressobj(wbits=31)
    return packer.compress(data) + packer.flush()


def _theme_files() -> dict[str, bytes]:
    rows = {
        name.rpartition("/")[2]: data
        for name, data in turnstone_files().items()
        if len(data) < (60_000 if data[:4] == b"Xcur" else 6_000)
    }
    rows["gtk.gresource"] = write_resources(
        {"/org/x/gtk.css": b"window { color: #102030; background-color: #ddeeff; }"}
    )
    rows["plan.svgz"] = _gzip(b"<svg xmlns='http://www.w3.org/2000/svg'><path fill='#102030' d='M0 0'/></svg>")
    return rows


def readers(folder: Path, look: Look) -> list[Reader]:
    """Return every reader with its seeds; folder: a place for a home."""
    from tools.rigs.homes import whole_home

    files = whole_home(folder)
    chart = ColourMap(())
    scheme = look.scheme()
    pictures = _pictures()
    theme_files = _theme_files()

    def theme(path: Path) -> None:
        recolour_theme(open_theme(path), scheme, Choices())

    def bundle(path: Path) -> None:
        found = open_bundle(path)
        for name in found.entries:
            try:
                found.data(name)
            except KeyError:
                continue  # a link within that leads nowhere

    def of_bytes(read: Callable[[bytes], object], path: Path) -> None:
        read(path.read_bytes())

    rows = [
        Reader("picture", load_picture, pictures),
        Reader("whole picture", load_image, pictures),
        Reader("picture of a theme", partial(of_bytes, lambda data: recoloured_image(data, "x.png", chart)), pictures),
        Reader("archive", bundle, _archives()),
        Reader("theme file", theme, theme_files),
        Reader("pointer", partial(of_bytes, read_pointer), {k: v for k, v in theme_files.items() if v[:4] == b"Xcur"}),
        Reader(
            "resources",
            partial(of_bytes, lambda data: read_resources(data, Budget("x"))),
            {"x.gresource": theme_files["gtk.gresource"]},
        ),
        Reader("palette", read_palette, {f"x{f.suffixes[0]}": f.of_look(look) for f in INTERCHANGES}),
        Reader("look", read_look, {"x.finchlook": look_to_json(look).encode()}),
    ]
    for component in COMPONENTS:
        own = _files_of(component, files)
        if own:
            rows.append(Reader(f"home, {component.id}", partial(_read_home, component, files, own), own))
    return rows


def _files_of(component, files: FolderFiles) -> dict[str, bytes]:
    """Return the files of a home that a component reads, by their path with dashes for slashes."""
    seen: dict[str, bytes] = {}

    class Noting:
        def __call__(self, path: str) -> bytes | None:
            data = files(path)
            if data is not None:
                seen[path.replace("/", "|")] = data
            return data

        def find(self, pattern: str) -> list[str]:
            return files.find(pattern)

        def place(self, folder: str) -> str:
            return files.place(folder)

        def fresh(self, path: str) -> bool:
            return False

    component.read(Noting())
    return {k: v for k, v in seen.items() if len(v) < 40_000}


def _read_home(component, files: FolderFiles, own: Mapping[str, bytes], path: Path) -> None:
    place = path.name.replace("|", "/")
    data = path.read_bytes()
    component.read(Layered(files, {place: data}))


# Watching


class Watch:
    """Notes what a reader opens, writes or starts that it must not, while it is on."""

    def __init__(self, allowed: Path) -> None:
        self.on = False
        self.seen: list[str] = []
        roots = {str(Path(p).resolve()) for p in (*sys.path, sys.prefix, sys.base_prefix) if p}
        self._reads = (*roots, "/dev/null", "/proc/self", "/usr/share/zoneinfo", os.fspath(allowed))
        self._allowed = os.fspath(allowed)
        sys.addaudithook(self._hook)

    def _hook(self, event: str, args: tuple) -> None:
        if not self.on:
            return
        if event == "open" and not isinstance(args[0], int):
            path, flags = os.path.realpath(os.fsdecode(args[0])), args[2] or 0
            if flags & (os.O_WRONLY | os.O_RDWR) and path != "/dev/null":
                self.seen.append(f"writes {path}")
            elif not path.startswith(self._reads):
                self.seen.append(f"reads {path}")
        elif event == "subprocess.Popen":
            if not any("mellow_finch.intake." in str(word) for word in args[1]):
                self.seen.append(f"starts {args[1]}")
        elif event in (
            "os.system",
            "os.exec",
            "os.posix_spawn",
            "os.fork",
            "socket.connect",
            "socket.getaddrinfo",
            "os.remove",
            "os.rename",
        ):
            self.seen.append(f"{event} {args[0]}")

    @contextmanager
    def watching(self) -> Iterator[None]:
        """Watch what happens inside the block."""
        self.on = True
        try:
            yield
        finally:
            self.on = False


def _memory(name: str) -> int:
    """Return a figure of this process's memory, in bytes."""
    row = next(line for line in Path("/proc/self/status").read_text().splitlines() if line.startswith(name))
    return int(row.split()[1]) * 1024


def _peak_from_now() -> int:
    """Let the peak of this process's memory be counted anew, and return what it has now."""
    Path("/proc/self/clear_refs").write_text("5")
    return _memory("VmRSS")


def tried(reader: Reader, seed: int, folder: Path, watch: Watch) -> list[str]:
    """Spoil one input and let the reader have it; return what was wrong, nothing when all held."""
    rng = random.Random(f"{reader.name} {seed}")
    name = rng.choice(sorted(reader.seeds))
    path = folder / name
    path.write_bytes(spoilt(rng, reader.seeds[name]))
    wrong: list[str] = []
    watch.seen.clear()
    before = _peak_from_now()
    started = time.process_time()
    with watch.watching():
        try:
            reader.read(path)
        except FinchError as error:
            if len(error.line().splitlines()) != 1 or not str(error).endswith((".", "?")):
                wrong.append(f"no sentence: {error!r}")
        except Exception as error:
            wrong.append(f"{type(error).__name__}: {error}"[:200])
    taken = time.process_time() - started
    grown = _memory("VmHWM") - before
    if taken > MOST_S:
        wrong.append(f"{taken:.1f} s")
    if grown > MOST_BYTES:
        wrong.append(f"{grown / 1e6:.0f} MB")
    path.unlink()
    return [f"{reader.name}, {name}, {seed}: {w}" for w in (*wrong, *watch.seen)]
