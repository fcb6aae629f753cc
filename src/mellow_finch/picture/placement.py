"""How a picture lies on the screen, and the places of the screen that parts of the desktop cover."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

from ..language import tr

Mode = Literal["fill", "fit", "stretch", "tile", "centre"]
Box = tuple[float, float, float, float]  # x, y, width, height


@dataclass(frozen=True, slots=True)
class ModeRow:
    """One way of laying a picture, with its title and what it does."""

    id: Mode
    title: str
    tip: str


MODES: tuple[ModeRow, ...] = (
    ModeRow("fill", tr("Fill"), tr("Covers the screen; the rest is cropped")),
    ModeRow("fit", tr("Fit"), tr("Shows the whole image, with bars where it does not reach")),
    ModeRow("stretch", tr("Stretch"), tr("Stretches the image to the screen's shape")),
    ModeRow("tile", tr("Tile"), tr("Repeats the image at its own size")),
    ModeRow("centre", tr("Centre"), tr("Shows the image at its own size in the centre")),
)
ShowingKind = Literal["one", "monitors", "slideshow"]
SHOWINGS: tuple[tuple[ShowingKind, str], ...] = (
    ("one", tr("The first image")),
    ("monitors", tr("One image per monitor")),
    ("slideshow", tr("Slideshow")),
)
MINUTES = (1, 1440)  # between two images of a slideshow


@dataclass(frozen=True, slots=True)
class Showing:
    """What the desktop shows of several images; minutes: between two of a slideshow."""

    kind: ShowingKind = "one"
    minutes: int = 30


SCREENS: tuple[tuple[int, int], ...] = (
    (1280, 800),
    (1366, 768),
    (1600, 1000),
    (1920, 1080),
    (1920, 1200),
    (2560, 1440),
    (3440, 1440),
    (3840, 2160),
)

# Where parts of the desktop lie, as shares of the screen. Windows, menus and terminals may lie anywhere.
PLACES: dict[str, Box] = {
    "everywhere": (0.0, 0.0, 1.0, 1.0),
    "panel": (0.0, 0.0, 1.0, 0.034),
    "shell menu": (0.80, 0.034, 0.20, 0.34),
    "widget": (0.81, 0.38, 0.19, 0.35),
    "notice": (0.77, 0.76, 0.23, 0.15),
    "dock": (0.34, 0.88, 0.32, 0.12),
}


@dataclass(frozen=True, slots=True)
class Placement:
    """A screen's size in pixels, and how pictures are laid on it."""

    mode: Mode = "fill"
    width: int = 1920
    height: int = 1200

    @property
    def words(self) -> str:
        """Return the placement in words."""
        title = next(row.title for row in MODES if row.id == self.mode)
        return tr("{title} on {width} × {height}").format(title=title, width=self.width, height=self.height)


def boxes(width: int, height: int, placement: Placement) -> list[Box]:
    """Return where a picture of a size lies, in screen pixels; several boxes when it is tiled.

    Boxes may jut out of the screen. Tiles start at the upper left corner, as window managers lay them.
    """
    w, h = float(max(1, width)), float(max(1, height))
    screen_w, screen_h = float(placement.width), float(placement.height)
    if placement.mode == "stretch":
        return [(0.0, 0.0, screen_w, screen_h)]
    if placement.mode == "tile":
        across, down = min(200, -(-placement.width // max(1, width))), min(200, -(-placement.height // max(1, height)))
        return [(i * w, j * h, w, h) for j in range(down) for i in range(across)]
    scale = {
        "fill": max(screen_w / w, screen_h / h),
        "fit": min(screen_w / w, screen_h / h),
        "centre": 1.0,
    }[placement.mode]
    w, h = w * scale, h * scale
    return [((screen_w - w) / 2, (screen_h - h) / 2, w, h)]


def size_word(width: int, height: int, placement: Placement) -> str:
    """Return a sentence when a picture is too small for its screen, empty when it is large enough."""
    if placement.mode in ("tile", "centre") or (width >= placement.width and height >= placement.height):
        return ""
    scale = boxes(width, height, placement)[0][2] / max(1, width)
    if scale <= 1:
        return ""
    return tr(
        "The image is smaller than the screen ({width} × {height} on {screen_width} × {screen_height}): it is "
        "enlarged {scale:.1f} times and looks blurred."
    ).format(width=width, height=height, screen_width=placement.width, screen_height=placement.height, scale=scale)
