"""The stage's pen: draws with what the components' files say, and remembers what lies where."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from contextlib import contextmanager
from dataclasses import dataclass

from PyQt6.QtCore import QPointF, QRectF, QSizeF, Qt
from PyQt6.QtGui import (
    QColor,
    QFont,
    QFontDatabase,
    QFontMetricsF,
    QImage,
    QLinearGradient,
    QPainter,
    QPainterPath,
    QPen,
    QPixmap,
    QStaticText,
    QTransform,
)

from ...colour.rgb import Rgba
from ...components.catalogue import COMPONENT_BY_ID
from ...components.model import Paint, Paints
from ..kit.per_thread import kept_per_thread
from ..kit.style import FAMILY, MONO, qcolor

_NONE = Paint()
WIDTH, HEIGHT = 1600, 1000
_SMALLEST, _LARGEST = 0.8, 1.1  # sizes of words by the usual one; the wider ones by the width of common words
_LARGE_WIDE, _LARGE_HIGH = 150, 60  # from which on a box has a border as wide as was asked for
_MIDDLE_PAD = 8  # pixels, between what is tight and what is roomy
_FONT_OF_DESKTOP = ("Toolkits", "Shell", "Window decorations", "Office and images", "Chat and mail", "Browser")
_SMALL, _ROUND = 4, 8  # corners of controls begin at the one, those of windows and menus at the other
_SURFACE = 0.3  # opacity from which a fill counts as a surface, not as a tint on one
# What programs show that have no file to say otherwise: the plain greys of toolkits.
_PLAIN_ICON = Rgba(140, 140, 146)
_PLAIN_FILL, _PLAIN_TEXT, _PLAIN_EDGE = Rgba(236, 236, 238), Rgba(60, 60, 64), Rgba(196, 196, 200)

LEFT, CENTER, RIGHT = 0.0, 0.5, 1.0  # which share of the free width words leave on their left


@dataclass(frozen=True, slots=True)
class Area:
    """Something that can be pointed at: where it lies, and which part of which component it shows."""

    rect: QRectF
    component: str
    part: str
    what: str = "fill"  # "fill" or "text"


@kept_per_thread(96)
def _shadow(w: float, h: float, radius: float, depth: int, scale: float, ratio: float) -> QPixmap:
    """Return a shadow in device pixels, drawn once for each size and scale so that repainting is a plain copy."""
    pixmap = QPixmap(max(1, round((w + 2 * depth) * scale)), max(1, round((h + 2 * depth) * scale)))
    pixmap.fill(QColor(0, 0, 0, 0))
    painter = QPainter(pixmap)
    painter.scale(scale, scale)
    painter.setRenderHint(QPainter.RenderHint.Antialiasing)
    painter.setPen(Qt.PenStyle.NoPen)
    painter.setBrush(QColor(0, 0, 0, 11))
    for i in range(depth, 0, -2):
        painter.drawRoundedRect(QRectF(depth - i, depth - i, w + 2 * i, h + 2 * i), radius + i, radius + i)
    painter.end()
    pixmap.setDevicePixelRatio(ratio)
    return pixmap


@kept_per_thread(64)
def _font(size: float, bold: bool, family: str) -> QFont:
    font = QFont(family)
    font.setPixelSize(max(1, round(size)))
    font.setBold(bold)
    font.setHintingPreference(QFont.HintingPreference.PreferNoHinting)
    return font


@kept_per_thread(64)
def _is_here(family: str) -> bool:
    return family in QFontDatabase.families()


@kept_per_thread(64)
def _width(family: str) -> float:
    """Return how wide common words are in a family."""
    return max(1.0, QFontMetricsF(_font(20, False, family)).horizontalAdvance("Every ring is looked up"))


@kept_per_thread(1024)
def _laid(words: str, size: float, bold: bool, family: str) -> tuple[QStaticText, float, float, float]:
    """Return words laid out once, so that repainting them is quick, with their width, height and baseline."""
    text = QStaticText(words)
    text.setTextFormat(Qt.TextFormat.PlainText)
    text.setPerformanceHint(QStaticText.PerformanceHint.AggressiveCaching)
    font = _font(size, bold, family)
    text.prepare(QTransform(), font)
    return text, text.size().width(), text.size().height(), QFontMetricsF(font).ascent()


class Brush:
    """Draws parts of components. All measures are in the stage's own units."""

    def __init__(
        self,
        painter: QPainter,
        paints: Mapping[str, Paints],
        noting: bool = True,
        behind: QPixmap | None = None,
        flat: bool = False,
        draws: bool = True,
    ) -> None:
        """Draw with paints; behind: the blurred picture that shows through fills, in stage units; flat: all opaque.

        draws: whether what takes long is drawn at all; without it the areas are found out only.
        """
        self.painter = painter
        self._paints = paints
        self._behind, self._flat, self._draws = behind, flat, draws
        self.areas: list[Area] = []
        self.noting = noting
        self._component = ""
        self._own: Paints = {}  # what the component that is drawn with says
        self.used: set[str] = set()  # the components that were drawn with
        self._shift = QPointF()
        self._asked: Mapping[tuple[str, str], str] = {}  # by component, "" for all, and word for shape and fonts
        self.radius: int | None = None  # of large corners, where one was asked for
        self.edge_width = 1.0  # of what is large
        self._pad: int | None = None  # the room that words were given
        self._family, self._mono = FAMILY, MONO
        self._scale = self._mono_scale = 1.0  # of words, by the size of the font that was asked for
        self.emblems: Mapping[str, bytes] = {}  # PNG files that components show, by component
        self.left = False  # whether title bars have their buttons on the left
        self.border = "kde"  # the component whose borders windows have that draw none themselves

    @contextmanager
    def shifted(self, right: float, down: float) -> Iterator[None]:
        """Draw what follows somewhere else."""
        before = self._shift
        self._shift = QPointF(before.x() + right, before.y() + down)
        self.painter.translate(right, down)
        yield
        self.painter.translate(-right, -down)
        self._shift = before

    def emblem(self, x: float, y: float, side: float) -> None:
        """Draw the picture that the component shows by the look's wish, if there is one, within a square."""
        image = QImage.fromData(self.emblems.get(self._component, b""), "PNG")
        if image.isNull():
            return
        size = QSizeF(image.size()).scaled(side, side, Qt.AspectRatioMode.KeepAspectRatio)
        self.painter.drawImage(QRectF(QPointF(x + side - size.width(), y), size), image)

    def has(self, part: str) -> bool:
        """Tell whether the component's files say anything of a part."""
        return part in self._own

    def first(self, *parts: str) -> str:
        """Return the first of some parts that the component's files say anything of, the last when none is."""
        return next((p for p in parts if self.has(p)), parts[-1])

    @property
    def owner(self) -> str:
        """Return the component that is drawn with."""
        return self._component

    @property
    def plain_icon(self) -> QColor:
        """Return what icons are drawn in whose colours no file says: a grey that shows on most things."""
        return qcolor(_PLAIN_ICON)

    def of(self, component: str) -> Brush:
        """Draw from here on with what one component says."""
        if component != self._component:
            self._component = component
            self._shape()
        self._own = self._paints.get(component, {})
        self.used.add(component)
        return self

    @property
    def says(self) -> bool:
        """Tell whether the component that is drawn with says anything."""
        return bool(self._own)

    def ask(self, words: Mapping[tuple[str, str], str]) -> None:
        """Draw from here on in the shape and the fonts that were asked for."""
        self._asked = words
        self._shape()

    def asked(self, word: str, component: str = "") -> str:
        """Return what was asked for of a component, of the one that is drawn with when none is named."""
        return self._asked.get((component or self._component, word), self._asked.get(("", word), ""))

    def _shape(self) -> None:
        """Take up the shape and the fonts of the component that is drawn with."""
        if not self._asked:
            return
        known = COMPONENT_BY_ID.get(self._component)
        has = known.shape if known is not None else ()
        radius = self.asked("radius") if "radius" in has else ""
        self.radius = int(radius) if radius else None
        edge = self.asked("edge") if "edge" in has else ""
        self.edge_width = float(edge) if edge else 1.0
        pad = self.asked("pad") if "density" in has else ""
        self._pad = int(pad) if pad else None
        of_desktop = known is not None and known.kind in _FONT_OF_DESKTOP
        font, fixed = "font" if "font" in has or of_desktop else "", "fixed_font" if "fixed_font" in has else ""
        self._family, self._scale = self._font_asked(font, FAMILY, 10)
        self._mono, self._mono_scale = self._font_asked(fixed, MONO, 11)

    def room(self, usual: float, least: float, most: float) -> float:
        """Return how much room something has: as usual, or less or more of it where a density was asked for."""
        return usual if self._pad is None else least if self._pad < _MIDDLE_PAD else most

    def rim(self, rect: QRectF, colour: QColor, radius: float, width: float = 1.0) -> None:
        """Draw the border of something large, as wide and as round as was asked for."""
        width = width if self.edge_width == 1 else self.edge_width
        if width:
            radius, half = self._round(radius, rect.width(), rect.height()), width / 2
            self.painter.setPen(QPen(colour, width))
            self.painter.setBrush(Qt.BrushStyle.NoBrush)
            self.painter.drawRoundedRect(rect.adjusted(half, half, -half, -half), radius, radius)

    def _font_asked(self, word: str, usual: str, points: int) -> tuple[str, float]:
        """Return the family of a font and how much larger than usual it is, as far as the stage has room for it."""
        family, asked = self.asked(f"{word}_family"), self.asked(f"{word}_points")
        if not word or not family or not _is_here(family):
            return usual, 1.0
        return family, min(_LARGEST * _width(usual) / _width(family), max(_SMALLEST, int(asked) / points))

    def paint(self, part: str) -> Paint:
        """Return what the component says of a part."""
        return self._own.get(part, _NONE)

    def fill_of(self, part: str) -> QColor:
        """Return a part's fill; transparent when its file is there and says nothing, plain grey without a file."""
        fill = self.paint(part).fill
        if fill is not None:
            return qcolor(fill.opaque if self._flat and fill.a >= _SURFACE else fill)
        return QColor(0, 0, 0, 0) if self._own else qcolor(_PLAIN_FILL)

    def text_of(self, part: str) -> QColor:
        """Return a part's text colour."""
        text = self.paint(part).text
        return qcolor(text if text is not None else _PLAIN_TEXT)

    def edge_of(self, part: str) -> QColor | None:
        """Return a part's edge, None when it has none."""
        paint = self.paint(part)
        if paint.edge is not None:
            return qcolor(paint.edge) if paint.edge.a > 0 else None
        return None if self._own else qcolor(_PLAIN_EDGE)

    def box(
        self, x: float, y: float, w: float, h: float, part: str, radius: float = 0, edge: bool = True, mark: bool = True
    ) -> QRectF:
        """Draw a part's fill and edge, and remember it."""
        rect = QRectF(x, y, w, h)
        if mark:
            self.note(rect, part)
        if not self._draws:
            return rect
        radius = self._round(radius, w, h)
        p = self.painter
        line = self.edge_of(part) if edge else None
        fill = self.fill_of(part)
        own = self.paint(part).own
        if self._behind is not None and 0 < fill.alpha() < 255:
            path = QPainterPath()
            path.addRoundedRect(rect, radius, radius)
            self._blurred(path)
        thick = self.edge_width if w >= _LARGE_WIDE and h >= _LARGE_HIGH else 1.0
        line = line if thick else None
        p.setPen(QPen(line, thick) if line is not None else Qt.PenStyle.NoPen)
        p.setBrush(self._sheen(rect, own) if len(own) > 2 else fill)
        half = thick / 2
        shape = rect.adjusted(half, half, -half, -half) if line is not None else rect
        if radius:
            p.drawRoundedRect(shape, radius, radius)
        else:
            p.drawRect(shape)
        return rect

    @staticmethod
    def _sheen(rect: QRectF, shades: tuple[Rgba, ...]) -> QLinearGradient:
        """Return what draws shades from the top of a box to its bottom."""
        out = QLinearGradient(rect.topLeft(), rect.bottomLeft())
        for i, shade in enumerate(shades):
            out.setColorAt(i / (len(shades) - 1), qcolor(shade))
        return out

    def _round(self, radius: float, w: float, h: float) -> float:
        """Return how round a corner is: as asked for where windows and menus have round ones, half of it inside."""
        if self.radius is None or not _SMALL <= radius < min(w, h) / 2:
            return radius
        return float(self.radius if radius >= _ROUND else min(self.radius, max(3, self.radius // 2)))

    def top(self, x: float, y: float, w: float, h: float, part: str, radius: float) -> QRectF:
        """Draw a fill with its upper corners round, as header bars have them."""
        radius = self._round(radius, w, h)
        path = QPainterPath()
        path.moveTo(x, y + h)
        path.lineTo(x, y + radius)
        path.quadTo(x, y, x + radius, y)
        path.lineTo(x + w - radius, y)
        path.quadTo(x + w, y, x + w, y + radius)
        path.lineTo(x + w, y + h)
        path.closeSubpath()
        self.painter.setPen(Qt.PenStyle.NoPen)
        self.painter.setBrush(self.fill_of(part))
        self.painter.drawPath(path)
        rect = QRectF(x, y, w, h)
        self.note(rect, part)
        return rect

    def _blurred(self, shape: QPainterPath) -> None:
        """Draw what the compositor's blur leaves of the picture under a shape."""
        p = self.painter
        p.save()
        p.setClipPath(shape, Qt.ClipOperation.IntersectClip)
        if self._behind is not None:
            p.drawPixmap(
                QRectF(-self._shift.x(), -self._shift.y(), WIDTH, HEIGHT), self._behind, QRectF(self._behind.rect())
            )
        p.restore()

    def note(self, rect: QRectF, part: str, what: str = "fill") -> None:
        """Remember that an area shows a part."""
        known = COMPONENT_BY_ID.get(self._component)
        if self.noting and known is not None and part in known.by_key:
            self.areas.append(Area(rect.translated(self._shift), self._component, part, what))

    def font(self, size: float, bold: bool = False, mono: bool = False) -> QFont:
        """Return a font of the stage; sizes are in stage units."""
        return _font(size * (self._mono_scale if mono else self._scale), bold, self._mono if mono else self._family)

    def text(
        self,
        x: float,
        y: float,
        w: float,
        h: float,
        words: str,
        part: str,
        size: float = 13,
        bold: bool = False,
        align: float = LEFT,
        mono: bool = False,
        colour: QColor | None = None,
        underline: bool = False,
    ) -> None:
        """Write in a part's text colour, and remember it."""
        family = self._mono if mono else self._family
        size *= self._mono_scale if mono else self._scale
        laid, wide, high, ascent = _laid(words, size, bold, family)
        at = QPointF(x + (w - wide) * align, y + (h - high) / 2)
        if self.noting:
            self.note(QRectF(at.x(), at.y(), wide, high), part, "text")
        if not self._draws:
            return
        ink = colour or self.text_of(part)
        self.painter.setFont(_font(size, bold, family))
        self.painter.setPen(ink)
        self.painter.drawStaticText(at, laid)
        if underline:  # drawn here: the text's own line is laid for another scale than the one it is drawn at
            low = at.y() + ascent + size * 0.14
            self.painter.setPen(QPen(ink, max(1.0, size / 14)))
            self.painter.drawLine(QPointF(at.x(), low), QPointF(at.x() + wide, low))

    def line(self, x1: float, y1: float, x2: float, y2: float, colour: QColor, width: float = 1) -> None:
        """Draw a line."""
        self.painter.setPen(QPen(colour, width, Qt.PenStyle.SolidLine, Qt.PenCapStyle.RoundCap))
        self.painter.drawLine(QPointF(x1, y1), QPointF(x2, y2))

    def dot(self, x: float, y: float, radius: float, colour: QColor, edge: QColor | None = None) -> None:
        """Draw a disc."""
        self.painter.setPen(QPen(edge, 1) if edge is not None else Qt.PenStyle.NoPen)
        self.painter.setBrush(colour)
        self.painter.drawEllipse(QPointF(x, y), radius, radius)

    def tick(self, x: float, y: float, size: float, colour: QColor) -> None:
        """Draw a check mark."""
        pen = QPen(colour, size / 6, Qt.PenStyle.SolidLine, Qt.PenCapStyle.RoundCap, Qt.PenJoinStyle.RoundJoin)
        self.painter.setPen(pen)
        self.painter.setBrush(Qt.BrushStyle.NoBrush)
        path = QPainterPath(QPointF(x + size * 0.2, y + size * 0.52))
        path.lineTo(x + size * 0.42, y + size * 0.74)
        path.lineTo(x + size * 0.8, y + size * 0.28)
        self.painter.drawPath(path)

    def shadow(self, x: float, y: float, w: float, h: float, radius: float, depth: int = 10) -> None:
        """Draw a soft shadow under something that floats."""
        if not self._draws:
            return
        p = self.painter
        to_device = p.worldTransform()
        device = p.device()
        ratio = device.devicePixelRatioF() if device is not None else 1.0
        at = to_device.map(QPointF(x - depth, y - depth + 4))
        p.setWorldTransform(QTransform())
        p.drawPixmap(
            QPointF(round(at.x()), round(at.y())),
            _shadow(w, h, radius, depth, round(to_device.m11() * ratio, 3), ratio),
        )
        p.setWorldTransform(to_device)
