"""An archive as people share them, made up: a theme with sheets, drawn controls, borders, icons, cursors and a widget.

It has the usual faults: a shrill accent, a menu that can hardly be read, words of the machine that it came from.
"""

from __future__ import annotations

import gzip
import io
import tarfile

import numpy as np
from PIL import Image, ImageDraw

from ..recolour.pointers import Pointer, PointerComment, PointerImage, premultiplied, write_pointer

NAME = "Turnstone"
_BLUE, _DEEP, _PALE = "#2f6fe0", "#1d4fae", "#dfe9fb"
_SHEET = """/* Turnstone, for the laptop in the hide */
@import url("colours.css");
window, .background { background-color: @theme_bg_color; color: @theme_fg_color; }
.view, textview text, treeview.view, list { background-color: @theme_base_color; color: @theme_text_color; }
row:selected, .view:selected, selection { background-color: @theme_selected_bg_color; color: #ffffff; }
row:hover { background-color: #eef3fc; }
headerbar, .titlebar { background-image: linear-gradient(to bottom, #fbfcfe, #dfe5ef); color: #27303f; }
headerbar:backdrop { background-image: none; background-color: #f2f4f8; color: #9aa3b2; }
button { background-color: #ffffff; color: #27303f; border: 1px solid #c6cedb; }
button:hover { background-color: #eef3fc; }
button:active, button:checked { background-color: #cfdef8; color: #1d4fae; }
button:disabled { background-color: #f2f4f8; color: #b9c1cd; }
button.suggested-action { background-color: #2f6fe0; color: #ffffff; }
button.suggested-action:hover { background-color: #4a84ea; }
button.destructive-action { background-color: #d64545; color: #ffffff; }
entry { background-color: #ffffff; color: #27303f; border: 1px solid #d4dae4; }
entry:focus { border-color: #2f6fe0; }
menu, .context-menu, popover.background { background-color: #ffffff; color: #a9b2c1; }
menu menuitem { color: #a9b2c1; }
menu menuitem:hover { background-color: #2f6fe0; color: #8fb4f5; }
tooltip.background { background-color: rgba(29, 39, 56, 0.9); color: #eef3fc; }
check { -gtk-icon-source: url("assets/check.png"); border: none; }
check:checked { -gtk-icon-source: url("assets/check-checked.png"); }
radio { -gtk-icon-source: url("assets/radio.png"); border: none; }
radio:checked { -gtk-icon-source: url("assets/radio-checked.png"); }
switch { background-color: #c6cedb; color: transparent; }
switch:checked { background-color: #2f6fe0; }
switch slider { background-color: #ffffff; border: 1px solid #9aa3b2; }
progressbar trough, scale trough { background-color: #d4dae4; border: 1px solid #c6cedb; }
progressbar progress, scale highlight { background-color: #2f6fe0; }
infobar.warning { background-color: #f5c451; color: #ffffff; }
infobar.error { background-color: #d64545; color: #ffffff; }
.dim-label { opacity: 0.45; }
link, label link { color: #2f6fe0; }
separator { background-color: alpha(#27303f, 0.15); }
"""
_COLOURS = """@define-color theme_bg_color #f2f4f8;
@define-color theme_fg_color #27303f;
@define-color theme_base_color #ffffff;
@define-color theme_text_color #27303f;
@define-color theme_selected_bg_color #2f6fe0;
@define-color theme_selected_fg_color #ffffff;
@define-color borders #c6cedb;
"""
_INDEX = f"""[Desktop Entry]
Type=X-GNOME-Metatheme
Name={NAME}
Comment=Made in the hide, for whoever likes it
Encoding=UTF-8

[X-GNOME-Metatheme]
GtkTheme={NAME}
IconTheme={NAME}
CursorTheme={NAME}
"""
_ICON_INDEX = f"""[Icon Theme]
Name={NAME}
Comment=Birds and boxes
Inherits=hicolor
Directories=48/places,48/apps,24/status

[48/places]
Size=48
Type=Scalable
MinSize=16
MaxSize=256

[48/apps]
Size=48
Type=Scalable
MinSize=16
MaxSize=256

[24/status]
Size=24
Type=Fixed
"""
_BORDERS = """# Turnstone for openbox
window.active.title.bg: flat solid
window.active.title.bg.color: #dfe5ef
window.active.label.bg: parentrelative
window.active.label.text.color: #27303f
window.inactive.title.bg: flat solid
window.inactive.title.bg.color: #f2f4f8
window.inactive.label.text.color: #9aa3b2
menu.items.bg: flat solid
menu.items.bg.color: #ffffff
menu.items.text.color: rgb:a9/b2/c1
menu.items.active.bg: flat solid
menu.items.active.bg.color: #2f6fe0
menu.items.active.text.color: #ffffff
"""
_WIDGET = """-- Turnstone's clock; shows the hide's own link, and the tide at Reedholm
conky.config = {
    alignment = 'bottom_left',
    own_window = true,
    own_window_colour = 'f2f4f8',
    own_window_argb_visual = true,
    own_window_argb_value = 220,
    default_color = '27303f',
    color1 = '2f6fe0',
    font = 'Sedge Sans:size=12',
    xinerama_head = 1,
}
-- on the hide's monitor: output = 'HDMI-A-2'
conky.text = [[
${color1}${time %H:%M}${color}
Link wlp59s0: ${downspeed wlp59s0}
${image /home/maren/Pictures/tern.png -p 0,40}
]]
"""
_PIXMAP = """/* XPM */
static char *title[] = {
"8 4 4 1",
"  c None",
". c #FBFCFE s active_hilight_1",
"+ c #DFE5EF s active_color_1",
"@ c #2F6FE0",
"........",
"++++++++",
"++++++++",
"@@@@@@@@"};
"""


def _svg(body: str, size: int = 48) -> str:
    return (
        f'<svg xmlns="http://www.w3.org/2000/svg" width="{size}" height="{size}" viewBox="0 0 {size} {size}">\n'
        f"{body}\n</svg>\n"
    )


def _folder(mark: str = "") -> str:
    return _svg(
        '  <path d="M4 12 a3 3 0 0 1 3-3 h12 l4 5 h18 a3 3 0 0 1 3 3 v20 a3 3 0 0 1-3 3 H7 a3 3 0 0 1-3-3z" '
        f'fill="{_DEEP}"/>\n'
        f'  <rect x="4" y="18" width="40" height="22" rx="3" fill="{_BLUE}"/>\n'
        f'  <rect x="4" y="18" width="40" height="2" style="fill:#7fa6ef"/>\n{mark}'
    )


def _icons() -> dict[str, str]:
    status = '  <path d="M3 17 L12 5 L21 17 Z" fill="{0}"/>\n  <circle cx="12" cy="14" r="2" fill="{0}"/>'
    return {
        "48/places/folder.svg": _folder(),
        "48/places/folder-pictures.svg": _folder('  <circle cx="24" cy="30" r="6" fill="#ffffff"/>\n'),
        "48/places/folder-nets.svg": _folder(
            f'  <path d="M14 24 L34 36 M34 24 L14 36" stroke="{_PALE}" stroke-width="3"/>\n'
        ),
        "48/places/nest-box.svg": _svg(
            '  <path d="M8 22 L24 8 L40 22 V42 H8 Z" fill="#8a6b46"/>\n'
            '  <circle cx="24" cy="27" r="6" fill="#2b2118"/>\n'
            f'  <path d="M6 23 L24 7 L42 23" fill="none" stroke="{_BLUE}" stroke-width="3"/>'
        ),
        "48/apps/ringing-log.svg": _svg(
            '  <rect x="9" y="5" width="30" height="38" rx="3" fill="#ffffff"/>\n'
            f'  <path d="M15 14 H33 M15 22 H33 M15 30 H26" stroke="{_BLUE}" stroke-width="3"/>\n'
            '  <circle cx="34" cy="36" r="6" fill="#d64545"/>'
        ),
        "48/apps/tide-clock.svg": _svg(
            f'  <circle cx="24" cy="24" r="19" fill="{_PALE}" stroke="{_BLUE}" stroke-width="4"/>\n'
            '  <path d="M24 24 V12 M24 24 L33 29" stroke="#27303f" stroke-width="3"/>'
        ),
        "24/status/link-up.svg": _svg(status.format("#27303f"), 24),
        "24/status/link-down.svg": _svg(status.format("#3a4456"), 24),
        "24/status/warning-tide.svg": _svg('  <path d="M12 3 L22 21 H2 Z" fill="#f5a623"/>', 24),
    }


def _png(draw_on: object, size: int = 16) -> bytes:
    image = Image.new("RGBA", (size * 4, size * 4), (0, 0, 0, 0))
    draw_on(ImageDraw.Draw(image), size * 4)  # type: ignore[operator]
    out = io.BytesIO()
    image.resize((size, size), Image.Resampling.LANCZOS).save(out, "PNG")
    return out.getvalue()


def _controls() -> dict[str, bytes]:
    def check(checked: bool, around: bool) -> bytes:
        def paint(pen: ImageDraw.ImageDraw, n: int) -> None:
            fill, edge = ("#2f6fe0", "#1d4fae") if checked else ("#ffffff", "#dfe4ec")
            shape = pen.ellipse if around else pen.rectangle
            shape((4, 4, n - 5, n - 5), fill=fill, outline=edge, width=5)
            if checked and around:
                pen.ellipse((n * 3 // 8, n * 3 // 8, n * 5 // 8, n * 5 // 8), fill="#ffffff")
            elif checked:
                pen.line((14, 34, 27, 46, 50, 18), fill="#ffffff", width=8)

        return _png(paint)

    return {
        "check.png": check(False, False),
        "check-checked.png": check(True, False),
        "radio.png": check(False, True),
        "radio-checked.png": check(True, True),
    }


def _pointer(points: list[tuple[float, float]], hot: tuple[float, float], frames: int = 1) -> bytes:
    """Return a pointer of a shape given in units of its size, in two sizes."""
    chunks: list[PointerImage | PointerComment] = [PointerComment(2, b"Made up for Reedholm. Anyone may use it.")]
    for size in (24, 32):
        for frame in range(frames):
            image = Image.new("RGBA", (size * 4, size * 4), (0, 0, 0, 0))
            pen = ImageDraw.Draw(image)
            shape = [(x * size * 4, y * size * 4) for x, y in points]
            pen.polygon(shape, fill="#2b3342")
            pen.line([*shape, shape[0]], fill="#ffffff", width=size // 4, joint="curve")
            if frames > 1:
                r = size * (0.4 + 0.15 * frame)
                pen.ellipse((size * 2.6 - r, size * 2.6 - r, size * 2.6 + r, size * 2.6 + r), fill="#2f6fe0")
            small = np.asarray(image.resize((size, size), Image.Resampling.LANCZOS))
            flat = small.reshape(-1, 4)
            pixels = premultiplied(flat[:, :3], flat[:, 3], (size, size))
            at = (round(hot[0] * size), round(hot[1] * size))
            chunks.append(PointerImage(size, at, 120 if frames > 1 else 0, pixels))
    return write_pointer(Pointer(tuple(chunks)))


def _pointers() -> dict[str, bytes]:
    arrow = [(0.1, 0.05), (0.1, 0.8), (0.3, 0.62), (0.44, 0.92), (0.56, 0.86), (0.42, 0.58), (0.68, 0.56)]
    beam = [(0.4, 0.1), (0.6, 0.1), (0.6, 0.9), (0.4, 0.9)]
    return {
        "left_ptr": _pointer(arrow, (0.1, 0.05)),
        "xterm": _pointer(beam, (0.5, 0.5)),
        "progress": _pointer(arrow, (0.1, 0.05), 3),
    }


def turnstone_files() -> dict[str, bytes]:
    """Return every file of the archive by its path; the same bytes each time."""
    files: dict[str, bytes] = {
        "themes/Turnstone/index.theme": _INDEX.encode(),
        "themes/Turnstone/LICENCE": b"Made up for Reedholm. Anyone may use it.\n",
        "themes/Turnstone/gtk-3.0/gtk.css": _SHEET.encode(),
        "themes/Turnstone/gtk-3.0/colours.css": _COLOURS.encode(),
        "themes/Turnstone/openbox-3/themerc": _BORDERS.encode(),
        "themes/Turnstone/xfwm4/title-1-active.xpm": _PIXMAP.encode(),
        "themes/Turnstone/xfwm4/themerc": b"active_text_color=#27303f\ninactive_text_color=#9aa3b2\n",
        "icons/Turnstone/index.theme": _ICON_INDEX.encode(),
        "widgets/turnstone.conf": _WIDGET.encode(),
    }
    files |= {f"themes/Turnstone/gtk-3.0/assets/{name}": data for name, data in _controls().items()}
    files |= {f"icons/Turnstone/{name}": text.encode() for name, text in _icons().items()}
    files |= {f"icons/Turnstone/cursors/{name}": data for name, data in _pointers().items()}
    return files


_LINKS = {"icons/Turnstone/cursors/arrow": "left_ptr", "icons/Turnstone/48/places/inode-directory.svg": "folder.svg"}


def turnstone_archive() -> bytes:
    """Return the whole as a tar.gz; the same bytes each time."""
    out = io.BytesIO()
    with gzip.GzipFile(fileobj=out, mode="wb", mtime=0) as packed, tarfile.open(fileobj=packed, mode="w") as archive:
        for path, data in sorted(turnstone_files().items()):
            info = tarfile.TarInfo(path)
            info.size, info.mode = len(data), 0o644
            archive.addfile(info, io.BytesIO(data))
        for path, target in sorted(_LINKS.items()):
            info = tarfile.TarInfo(path)
            info.type, info.linkname = tarfile.SYMTYPE, target
            archive.addfile(info)
    return out.getvalue()
