"""The pictures of a theme, old beside new at their true size, on the surfaces that they will lie on."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from functools import partial
from typing import NamedTuple

import numpy as np
from PyQt6.QtCore import QRectF, Qt
from PyQt6.QtGui import QFont, QImage, QPainter, QPaintEvent, QPen
from PyQt6.QtWidgets import QFrame, QScrollArea, QSizePolicy, QVBoxLayout, QWidget

from ...colour.rgb import Rgba
from ...errors import FinchError
from ...intake.archives import gunzipped
from ...intake.budget import Budget
from ...intake.pictures import opened
from ...intake.worker import ask
from ...language import plural, tr
from ...recolour.pointers import MAGIC, read_pointer
from ...theme.bundle.model import Theme
from ...theme.result.account import Outcome
from ..kit.parts import label
from ..kit.style import FAMILY, Style, qcolor

_DRAWER, _DRAWER_S = "mellow_finch.ui.dress.draw_drawing", 3.0
_MOST = 96  # pixels a side up to which a picture is shown whole
_WANTED = 32  # the size of a pointer or of a drawing without one
_MOST_ROWS = 400
_ROW = 78


class PicturePair(NamedTuple):
    """A picture before and after; its bytes are read when it comes in sight."""

    name: str
    old: Callable[[], bytes]
    new: Callable[[], bytes]


class PreviewGround(NamedTuple):
    """Something that pictures lie on."""

    title: str
    old: Rgba
    new: Rgba


def pictures_of(theme: Theme, outcome: Outcome) -> list[PicturePair]:
    """Return the pictures of a theme that were redrawn, pixmaps among them."""
    rows = [
        PicturePair(path, partial(theme.data, path), partial(outcome.pictures.__getitem__, path))
        for path in outcome.pictures
    ]
    for path, text in theme.texts.items():
        if text.format.id == "pixmap" and outcome.fresh.get(path, text.text) != text.text:
            rows.append(
                PicturePair(
                    path, partial(str.encode, text.text, "utf-8"), partial(str.encode, outcome.fresh[path], "utf-8")
                )
            )
    return rows[:_MOST_ROWS]


def image_of_bytes(data: bytes, name: str) -> QImage:
    """Return a picture of any kind that themes have, at its true size; a null image when it cannot be read."""
    try:
        return _image_of(gunzipped(data, Budget(name)) if data[:2] == b"\x1f\x8b" else data, name)
    except FinchError:
        return QImage()


def _image_of(data: bytes, name: str) -> QImage:
    if data[:4] == MAGIC:
        return _pointer_image(data)
    low = name.lower()
    if low.endswith((".svg", ".svgz")):
        head, pixels = ask(_DRAWER, {"side": _MOST}, data, seconds=_DRAWER_S)
        return _argb(bytes(pixels), *head.get("size", (0, 0)))
    if low.endswith(".xpm"):
        return QImage.fromData(data, "XPM")
    picture = opened(data, name).convert("RGBA")
    return QImage(picture.tobytes(), *picture.size, QImage.Format.Format_RGBA8888).copy()


def _argb(pixels: bytes, wide: int, high: int) -> QImage:
    return QImage(pixels, wide, high, 4 * wide, QImage.Format.Format_ARGB32_Premultiplied).copy()


def _pointer_image(data: bytes) -> QImage:
    images = read_pointer(data).images
    if not images:
        return QImage()
    best = min(images, key=lambda i: abs(i.nominal - _WANTED))
    high, wide = best.pixels.shape
    pixels = np.ascontiguousarray(best.pixels.astype("<u4"))
    return _argb(pixels.tobytes(), wide, high)


class _Sheet(QWidget):
    """The rows; each picture is decoded when it is first painted."""

    def __init__(self, style: Style) -> None:
        super().__init__()
        self._style = style
        self._rows: Sequence[PicturePair] = ()
        self._surfaces: Sequence[PreviewGround] = ()
        self._images: dict[tuple[int, bool], QImage] = {}
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)

    def show_rows(self, rows: Sequence[PicturePair], surfaces: Sequence[PreviewGround]) -> None:
        """Show pictures on surfaces."""
        self._rows, self._surfaces = rows, surfaces
        self._images.clear()
        self.setFixedHeight(max(1, len(rows)) * _ROW + 34)
        self.update()

    def _image(self, row: int, new: bool) -> QImage:
        key = (row, new)
        if key not in self._images:
            picture = self._rows[row]
            try:
                self._images[key] = image_of_bytes((picture.new if new else picture.old)(), picture.name)
            except (FinchError, KeyError):
                self._images[key] = QImage()
        return self._images[key]

    def paintEvent(self, event: QPaintEvent | None) -> None:
        """Paint the rows in sight: name, then for every surface old beside new."""
        if event is None:
            return
        p = QPainter(self)
        p.setRenderHints(QPainter.RenderHint.Antialiasing | QPainter.RenderHint.SmoothPixmapTransform)
        s = self._style
        name_wide = 190
        wide = (self.width() - name_wide - 20) / max(1, len(self._surfaces))
        plain, bold = QFont(FAMILY), QFont(FAMILY)
        plain.setPointSizeF(10)
        bold.setPointSizeF(10)
        bold.setBold(True)
        p.setFont(bold)
        p.setPen(s.c("text"))
        centre = Qt.AlignmentFlag.AlignCenter
        for i, surface in enumerate(self._surfaces):
            p.drawText(
                QRectF(name_wide + 10 + i * wide, 4, wide, 24), centre, tr("On: {title}").format(title=surface.title)
            )
        p.setFont(plain)
        first = max(0, (event.rect().top() - 34) // _ROW)
        last = min(len(self._rows), (event.rect().bottom() - 34) // _ROW + 1)
        for row in range(first, last):
            top = 34 + row * _ROW
            name = self._rows[row].name.rpartition("/")[2]
            p.setPen(s.c("text"))
            p.drawText(
                QRectF(14, top, name_wide - 20, _ROW - 6),
                Qt.AlignmentFlag.AlignVCenter | Qt.TextFlag.TextWrapAnywhere,
                name,
            )
            for i, surface in enumerate(self._surfaces):
                x = name_wide + 10 + i * wide
                for j, (ground, new) in enumerate(((surface.old, False), (surface.new, True))):
                    box = QRectF(x + j * (wide - 10) / 2, top, (wide - 10) / 2, _ROW - 6)
                    self._tile(p, box, ground, self._image(row, new))

    def _tile(self, p: QPainter, box: QRectF, ground: Rgba, image: QImage) -> None:
        p.setPen(QPen(self._style.c("line"), 1))
        p.setBrush(qcolor(ground))
        p.drawRect(box)
        if image.isNull():
            return
        w, h = min(image.width(), box.width() - 4), min(image.height(), box.height() - 4)
        scale = min(w / image.width(), h / image.height())
        size = (image.width() * scale, image.height() * scale)
        centre = box.center()
        p.drawImage(QRectF(round(centre.x() - size[0] / 2), round(centre.y() - size[1] / 2), *size), image)


class PicturesView(QScrollArea):
    """Scrolls over the pictures."""

    def __init__(self, style: Style) -> None:
        super().__init__()
        self.setFrameShape(QFrame.Shape.NoFrame)
        self.setWidgetResizable(True)
        self.setAccessibleName(tr("Images, before and after"))
        inside = QWidget()
        column = QVBoxLayout(inside)
        column.setContentsMargins(0, 8, 0, 8)
        self.words = label("", "quiet")
        self.words.setContentsMargins(14, 0, 14, 4)
        column.addWidget(self.words)
        self.sheet = _Sheet(style)
        column.addWidget(self.sheet)
        column.addStretch(1)
        self.setWidget(inside)

    def show_pictures(self, rows: Sequence[PicturePair], surfaces: Sequence[PreviewGround]) -> None:
        """Show pictures on surfaces."""
        self.words.setText(
            plural(
                "{count} image is redrawn: before on the left, after on the right, at its actual size.",
                "{count} images are redrawn: before on the left, after on the right, at their actual size.",
                len(rows),
            )
            if rows
            else tr("No image changes here.")
        )
        self.sheet.setVisible(bool(rows))
        self.sheet.show_rows(rows, surfaces)
