"""Laying picture and desktop into the stage's units, however it is looked at."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field

from PyQt6.QtCore import QRectF, QSize, Qt
from PyQt6.QtGui import QColor, QImage, QPainter, QPixmap

from ...components.model import Paints
from ...picture.placement import Placement, boxes
from ..kit.painting import painting
from .brush import Area, Brush
from .scene import AS_USUAL, HEIGHT, WIDTH, Shape, draw_scene

PaintsOf = Mapping[str, Paints]


@dataclass(frozen=True, slots=True)
class ViewOptions:
    """How the desktop is looked at: the picture's placement, blur behind translucent surfaces, no compositor (flat).

    true_size: the picture's size in its file, of which the image shown may be a reduced copy; shown: the component
    that is in view, which takes the place of its kind; shape: the desktop's.
    """

    placement: Placement = field(default_factory=Placement)
    blur: bool = False
    flat: bool = False
    true_size: tuple[int, int] = (0, 0)
    shown: str = ""
    shape: Shape = AS_USUAL


PLAINLY = ViewOptions()
_BLUR_SHRINKS = 24  # the compositor's blur, as the picture reduced so many times and drawn large again


def lay_picture(painter: QPainter, picture: QImage, seen: ViewOptions) -> None:
    """Draw a picture in stage units as it lies on the screen; what it does not cover stays black."""
    across = seen.placement.width
    placement = Placement(seen.placement.mode, across, round(across * HEIGHT / WIDTH))
    width, height = seen.true_size if seen.true_size[0] else (picture.width(), picture.height())
    scale = WIDTH / across
    painter.save()
    painter.setClipRect(QRectF(0, 0, WIDTH, HEIGHT), Qt.ClipOperation.IntersectClip)
    painter.fillRect(QRectF(0, 0, WIDTH, HEIGHT), QColor(0, 0, 0))
    for x, y, w, h in boxes(width, height, placement):
        painter.drawImage(QRectF(x * scale, y * scale, w * scale, h * scale), picture, QRectF(picture.rect()))
    painter.restore()


def laid(picture: QImage, size: QSize, seen: ViewOptions) -> QPixmap:
    """Return a picture as it lies on the screen, at a size in device pixels."""
    image = QImage(size, QImage.Format.Format_RGB32)
    with painting(image) as painter:
        painter.setRenderHint(QPainter.RenderHint.SmoothPixmapTransform)
        painter.scale(size.width() / WIDTH, size.height() / HEIGHT)
        lay_picture(painter, picture, seen)
    return QPixmap.fromImage(image)


def blurred(screen: QPixmap) -> QPixmap:
    """Return what a compositor's blur leaves of the screen."""
    small = screen.scaled(
        max(1, screen.width() // _BLUR_SHRINKS),
        max(1, screen.height() // _BLUR_SHRINKS),
        Qt.AspectRatioMode.IgnoreAspectRatio,
        Qt.TransformationMode.SmoothTransformation,
    )
    return small.scaled(screen.size(), Qt.AspectRatioMode.IgnoreAspectRatio, Qt.TransformationMode.SmoothTransformation)


def draw_stage(
    painter: QPainter,
    picture: QImage | QPixmap | None,
    paints: PaintsOf,
    plain: QColor,
    noting: bool = True,
    seen: ViewOptions = PLAINLY,
    behind: QPixmap | None = None,
) -> list[Area]:
    """Draw picture and desktop in stage units with what the files say; return what can be pointed at, when noting.

    picture: an image, which is laid as seen says, or a pixmap that is the whole screen already; behind: the blurred
    screen.
    """
    draw_ground(painter, picture, plain, seen)
    brush = Brush(painter, paints, noting, behind, seen.flat)
    draw_scene(brush, seen.shown, seen.shape)
    return brush.areas


def draw_ground(
    painter: QPainter, picture: QImage | QPixmap | None, plain: QColor, seen: ViewOptions = PLAINLY
) -> None:
    """Draw what lies under the desktop: the picture, or a plain colour without one."""
    target = QRectF(0, 0, WIDTH, HEIGHT)
    painter.fillRect(target, plain)
    if isinstance(picture, QImage) and not picture.isNull():
        lay_picture(painter, picture, seen)
    elif isinstance(picture, QPixmap) and not picture.isNull():
        painter.drawPixmap(target, picture, QRectF(picture.rect()))


def areas_of(paints: PaintsOf, seen: ViewOptions = PLAINLY) -> list[Area]:
    """Return what can be pointed at on the stage, lowest first; where it lies does not depend on its colours."""
    nowhere = QImage(1, 1, QImage.Format.Format_RGB32)
    with painting(nowhere) as painter:
        brush = Brush(painter, paints, draws=False)
        draw_scene(brush, seen.shown, seen.shape)
    return brush.areas


def small_desktop(
    size: QSize, picture: QImage | None, paints: PaintsOf, plain: QColor, seen: ViewOptions = PLAINLY
) -> QImage:
    """Return the whole desktop as a small image."""
    image = QImage(size, QImage.Format.Format_RGB32)
    with painting(image) as painter:
        painter.setRenderHints(QPainter.RenderHint.Antialiasing | QPainter.RenderHint.SmoothPixmapTransform)
        painter.scale(size.width() / WIDTH, size.height() / HEIGHT)
        draw_stage(painter, picture, paints, plain, False, seen)
    return image
