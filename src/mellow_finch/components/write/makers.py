"""Makers of files that no template can say: drawn tiles, pixmaps, masks and archives."""

from __future__ import annotations

import gzip
import io
import tarfile
from collections.abc import Callable, Iterator, Mapping
from typing import Any

import numpy as np
from PIL import Image

from ...colour.blend import mixed_in_srgb
from ...colour.rgb import Rgba
from .aurorae import decoration
from .drawings import desktop_drawings
from .preview import theme_preview
from .rule import Job
from .style_drawing import style_drawing
from .template import opacity_byte

Made = Iterator[tuple[str, bytes]]


# The panel strip


_SHEEN = 0.45  # the share of the height that each sheen takes


def strip_column(job: Job) -> list[Rgba]:
    """Return the colours of a panel strip from top to bottom: a sheen that comes from both edges, one shade a row.

    From the light shade at the top to the panel's colour, and from there to the deep shade at the bottom.
    """
    height = round(job.numbers["height"])
    top, middle, bottom = (job.colours[name] for name in ("strip_light", "panel", "strip_deep"))
    alpha = job.worn.drawn("panel").a
    rows: list[Rgba] = []
    for y in range(height):
        at = y / max(1, height - 1)
        upper, lower = min(1.0, at / _SHEEN), max(0.0, (at - 1 + _SHEEN) / _SHEEN)
        shade = mixed_in_srgb(top, middle, upper) if at < 0.5 else mixed_in_srgb(middle, bottom, lower)
        rows.append(shade._replace(a=alpha))
    return rows


def make_strip(job: Job, options: Mapping[str, Any]) -> Made:
    """Yield the tile of a panel as a PNG, at a scale of 1 or 2."""
    scale = int(options["scale"])
    column = np.array([(c.r, c.g, c.b, opacity_byte(c)) for c in strip_column(job)], dtype=np.uint8)
    pixels = np.repeat(np.repeat(column[:, None, :], int(options["width"]) * scale, axis=1), scale, axis=0)
    out = io.BytesIO()
    Image.fromarray(pixels, "RGBA").save(out, "PNG")
    yield "", out.getvalue()


# Window borders: pixmaps and masks

_GLYPHS = {
    "close": ("#......#", "##....##", ".##..##.", "..####..", "..####..", ".##..##.", "##....##", "#......#"),
    "max": ("########", "########", "#......#", "#......#", "#......#", "#......#", "#......#", "########"),
    "max_toggled": ("..######", "..#....#", "######.#", "#....#.#", "#....#.#", "#....###", "#....#..", "######.."),
    "iconify": ("........", "........", "........", "........", "........", "........", "########", "########"),
    "shade": ("########", "########", "........", "........", "........", "........", "........", "........"),
    "desk": ("...##...", "...##...", "...##...", "########", "########", "...##...", "...##...", "...##..."),
    "bullet": (".#......", ".##.....", ".###....", ".####...", ".####...", ".###....", ".##.....", ".#......"),
    "menu": ("........", "########", "........", "########", "........", "########", "........", "........"),
}


def make_masks(_job: Job, _options: Mapping[str, Any]) -> Made:
    """Yield the one-bit masks of the window buttons."""
    for name, rows in _GLYPHS.items():
        if name == "menu":
            continue
        bits = [sum(1 << x for x, c in enumerate(row) if c == "#") for row in rows]
        body = ", ".join(f"0x{b:02x}" for b in bits)
        text = f"#define {name}_width 8\n#define {name}_height 8\nstatic unsigned char {name}_bits[] = {{ {body} }};\n"
        yield f"{name}.xbm", text.encode("ascii")


_TITLE_HIGH, _BUTTON_WIDE = 26, 22
_BUTTON_GLYPHS = {
    "close": "close",
    "maximize": "max",
    "hide": "iconify",
    "shade": "shade",
    "stick": "desk",
    "menu": "menu",
}


def make_frames(job: Job, _options: Mapping[str, Any]) -> Made:
    """Yield the pixmaps of a window's frame and buttons, focused and idle."""
    for state, role in (("active", "border"), ("inactive", "border_idle")):
        fill, text, edge = job.colours[role], job.colours[f"{role}_text"], job.colours["divider"]
        symbols = {"-": ("edge", edge), ".": (f"{state}_color_1", fill), "#": (f"{state}_text_color", text)}
        title = ["-" * 4, *["." * 4] * (_TITLE_HIGH - 1)]
        for part in (*(f"title-{i}" for i in range(1, 6)), "top-left", "top-right"):
            rows = title if part.startswith("title") else [_corner(r, part) for r in title]
            yield f"{part}-{state}.xpm", _pixmap(rows, symbols)
        side = ["-"] * 4
        yield f"left-{state}.xpm", _pixmap(side, symbols)
        yield f"right-{state}.xpm", _pixmap(side, symbols)
        for part in ("bottom", "bottom-left", "bottom-right"):
            yield f"{part}-{state}.xpm", _pixmap(["-" * 4], symbols)
        for button, glyph in _BUTTON_GLYPHS.items():
            yield f"{button}-{state}.xpm", _pixmap(_button(glyph), symbols)
            if state == "active":
                yield f"{button}-prelight.xpm", _pixmap(_button(glyph), _over(job, "control_hover"))
                yield f"{button}-pressed.xpm", _pixmap(_button(glyph), _over(job, "control_pressed"))


def _over(job: Job, role: str) -> dict[str, tuple[str, Rgba]]:
    return {
        "-": ("edge", job.colours["divider"]),
        ".": (role, job.colours[role]),
        "#": ("control_text", job.colours["control_text"]),
    }


def _corner(row: str, part: str) -> str:
    return "-" + row[1:] if part == "top-left" else row[:-1] + "-"


def _button(glyph: str) -> list[str]:
    left, top = (_BUTTON_WIDE - 8) // 2, (_TITLE_HIGH - 8) // 2
    rows = ["-" * _BUTTON_WIDE, *["." * _BUTTON_WIDE] * (_TITLE_HIGH - 1)]
    for y, line in enumerate(_GLYPHS[glyph], top):
        rows[y] = rows[y][:left] + line + rows[y][left + 8 :]
    return rows


def _pixmap(rows: list[str], symbols: Mapping[str, tuple[str, Rgba]]) -> bytes:
    used = [s for s in symbols if any(s in row for row in rows)]
    lines = [f"{len(rows[0])} {len(rows)} {len(used)} 1"]
    lines += [f"{s} c {symbols[s][1].opaque.hex} s {symbols[s][0]}" for s in used]
    body = ",\n".join(f'"{line}"' for line in (*lines, *rows))
    return f"/* XPM */\nstatic char * frame[] = {{\n{body}}};\n".encode("ascii")


# Archives and drawings


def make_archive(job: Job, options: Mapping[str, Any]) -> Made:
    """Yield a packed tar of a folder that earlier steps made, the same bytes for the same files."""
    folder = job.place(str(options["folder"]))
    out = io.BytesIO()
    with gzip.GzipFile(fileobj=out, mode="wb", mtime=0) as packed, tarfile.open(fileobj=packed, mode="w") as archive:
        for path in sorted(job.made):
            if path.startswith(folder + "/"):
                info = tarfile.TarInfo(path[len(folder.rpartition("/")[0]) + 1 :] if options.get("top") else path)
                info.size = len(job.made[path])
                archive.addfile(info, io.BytesIO(job.made[path]))
    yield "", out.getvalue()


def make_copy(job: Job, options: Mapping[str, Any]) -> Made:
    """Yield a file that an earlier rule made once more, for another place.

    old, new: a text of it and what stands there instead, {tone} for the look's, for a reader that wants it otherwise.
    """
    made = job.made[job.place(str(options["from"]))]
    if old := str(options.get("old", "")):
        made = made.replace(old.encode(), str(options["new"]).format(tone=job.words["tone"]).encode())
    yield "", made


def make_style_drawing(job: Job, _options: Mapping[str, Any]) -> Made:
    """Yield the drawing that a style of Qt is made of."""
    yield "", style_drawing(job.colours).encode("utf-8")


def make_desktop_drawings(job: Job, _options: Mapping[str, Any]) -> Made:
    """Yield the drawings of a desktop theme: backgrounds of panels, dialogs and tooltips."""
    for name, text in desktop_drawings(job.worn).items():
        yield name, text.encode("utf-8")


def make_decoration(job: Job, _options: Mapping[str, Any]) -> Made:
    """Yield the drawings of a decoration that KWin takes as SVG."""
    for name, text in decoration(job.colours, round(float(job.words.get("radius", "8")))).items():
        yield name, text.encode("utf-8")


def make_preview(job: Job, options: Mapping[str, Any]) -> Made:
    """Yield a small picture of the look for a list of themes, as a PNG; width: of it in pixels."""
    yield "", theme_preview(job.colours, int(options.get("width", 600)))


def make_plain(job: Job, options: Mapping[str, Any]) -> Made:
    """Yield a square of one colour as a PNG; role: whose; size: of its sides in pixels."""
    size = int(options.get("size", 8))
    out = io.BytesIO()
    Image.new("RGB", (size, size), job.colours[str(options["role"])][:3]).save(out, "PNG")
    yield "", out.getvalue()


MAKERS: dict[str, Callable[[Job, Mapping[str, Any]], Made]] = {
    "strip": make_strip,
    "masks": make_masks,
    "frames": make_frames,
    "archive": make_archive,
    "copy": make_copy,
    "plain": make_plain,
    "decoration": make_decoration,
    "preview": make_preview,
    "style-drawing": make_style_drawing,
    "desktop-drawings": make_desktop_drawings,
}
