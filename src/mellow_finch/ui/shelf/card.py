"""Cards: one picture that shows a look, to post or to print, and a sheet of several. Drawn from what files say."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from pathlib import Path
from typing import Literal, NamedTuple

from PyQt6.QtCore import QBuffer, QByteArray, QPoint, QRect, QRectF, QSize, Qt
from PyQt6.QtGui import QColor, QFont, QImage, QPaintDevice, QPainter, QPen
from PyQt6.QtSvg import QSvgGenerator

from ...colour.contrast import ratio
from ...colour.rgb import Rgba
from ...components.model import Paints
from ...language import day, decimal, isolated, parted, plural, some, tr
from ...look.model import Look
from ...palette.fit import fit
from ...palette.roles import role_title
from ...proof.rehearsal.last import last_rehearsal
from ..kit.painting import painting
from ..kit.style import FAMILY, qcolor
from ..stage.lay import ViewOptions, draw_stage
from ..stage.scene import AS_USUAL, HEIGHT, WIDTH, shaped
from ..stage.scene import Shape as Desk

Shape = Literal["wide", "tall"]
SIZES: Mapping[Shape, QSize] = {"wide": QSize(1600, 1000), "tall": QSize(1080, 1920)}
SHEET = QSize(1600, 1000)
ROLES = (
    *("window", "view", "header", "panel", "menu", "card", "control", "selection"),
    *("accent", "link", "success", "warning", "error", "terminal"),
)
_WIDGET = "Mellow Finch"
_MOST_TRIED = 4  # programs that are named


class CardSubject(NamedTuple):
    """A look with what its files say, its picture, and how it lies on the screen."""

    look: Look
    paints: Mapping[str, Paints]
    picture: QImage | None
    seen: ViewOptions


def seen_of(look: Look, shape: Desk = AS_USUAL) -> ViewOptions:
    """Return how a look's desktop is looked at, whatever else is open; shape: of the desktop that runs."""
    return ViewOptions(look.placement, look.blur, shape=shaped(shape, look))


def card(subject: CardSubject, shape: Shape = "wide") -> QImage:
    """Return the card of a look."""
    image = QImage(SIZES[shape], QImage.Format.Format_RGB32)
    draw_card(image, subject, shape)
    return image


def card_svg(subject: CardSubject, shape: Shape = "wide") -> bytes:
    """Return the card of a look as SVG: words and colours as shapes, the picture inside."""
    data = QByteArray()
    buffer = QBuffer(data)
    drawing = QSvgGenerator()
    drawing.setOutputDevice(buffer)
    drawing.setSize(SIZES[shape])
    drawing.setViewBox(QRect(QPoint(0, 0), SIZES[shape]))
    drawing.setTitle(subject.look.name)
    draw_card(drawing, subject, shape)
    return bytes(data.data())


def draw_card(device: QPaintDevice, subject: CardSubject, shape: Shape) -> None:
    """Draw the card of a look on anything that can be painted on, in the card's own units."""
    size = SIZES[shape]
    with painting(device) as painter:
        painter.setRenderHints(QPainter.RenderHint.Antialiasing | QPainter.RenderHint.SmoothPixmapTransform)
        look = subject.look
        colours = look.colours
        painter.fillRect(QRectF(0, 0, size.width(), size.height()), qcolor(colours["window"]))
        (_wide if shape == "wide" else _tall)(painter, subject, size)


def _wide(painter: QPainter, subject: CardSubject, size: QSize) -> None:
    wide = 1176.0
    high = wide * HEIGHT / WIDTH
    _desktop(painter, subject, QRectF(0, 0, wide, high))
    _words(painter, subject.look, QRectF(wide + 44, 56, size.width() - wide - 88, 300), 44)
    _ansi(painter, subject.look, QRectF(wide + 44, 420, size.width() - wide - 88, 96))
    _sources(painter, subject, QRectF(wide + 44, 548, size.width() - wide - 88, high - 560))
    _swatches(painter, subject.look, QRectF(44, high + 32, size.width() - 88, size.height() - high - 72), 7)


def _tall(painter: QPainter, subject: CardSubject, size: QSize) -> None:
    high = size.width() * HEIGHT / WIDTH
    _words(painter, subject.look, QRectF(64, 72, size.width() - 128, 230), 64)
    _desktop(painter, subject, QRectF(0, 320, size.width(), high))
    _ansi(painter, subject.look, QRectF(64, 320 + high + 48, size.width() - 128, 110))
    _swatches(painter, subject.look, QRectF(64, 320 + high + 200, size.width() - 128, 560), 4)
    _sources(painter, subject, QRectF(64, size.height() - 130, size.width() - 128, 90))


def _desktop(painter: QPainter, subject: CardSubject, frame: QRectF) -> None:
    painter.save()
    painter.setClipRect(frame)
    painter.translate(frame.topLeft())
    painter.scale(frame.width() / WIDTH, frame.height() / HEIGHT)
    plain = qcolor(subject.look.colours["window"])
    draw_stage(painter, subject.picture, subject.paints, plain, False, subject.seen)
    painter.restore()


def _font(points: float, bold: bool = False) -> QFont:
    font = QFont(FAMILY)
    font.setPixelSize(round(points))
    font.setBold(bold)
    return font


def _words(painter: QPainter, look: Look, frame: QRectF, size: float) -> None:
    """Write the look's name, in as many lines as it needs, and what it is."""
    painter.setPen(qcolor(look.colours["window_text"]))
    painter.setFont(_font(size, True))
    flags = int(Qt.AlignmentFlag.AlignLeft | Qt.AlignmentFlag.AlignTop | Qt.TextFlag.TextWordWrap)
    took = painter.boundingRect(frame, flags, look.name)
    painter.drawText(frame, flags, look.name)
    painter.fillRect(QRectF(frame.x(), took.bottom() + 14, 96, 6), qcolor(look.colours["accent"]))
    painter.setFont(_font(size * 0.46))
    painter.setPen(qcolor(look.colours["window_text"]))
    texts = [p for p in look.pairs if p.need.kind == "text"]
    least = min(ratio(look.colours[p.text], look.colours[p.surface]) for p in texts)
    words = (
        tr("Dark, every text at least {least} to 1")
        if look.tone == "dark"
        else tr("Light, every text at least {least} to 1")
    ).format(least=decimal(least, 1))
    painter.drawText(frame.adjusted(0, took.height() + 40, 0, 80), flags, words)


def _ansi(painter: QPainter, look: Look, frame: QRectF) -> None:
    """Draw the sixteen terminal colours on the terminal's own ground."""
    painter.setPen(Qt.PenStyle.NoPen)
    painter.setBrush(qcolor(look.colours["terminal"]))
    painter.drawRoundedRect(frame, 10, 10)
    wide, high = (frame.width() - 24) / 8, (frame.height() - 24) / 2
    for i in range(16):
        cell = QRectF(frame.x() + 12 + i % 8 * wide, frame.y() + 12 + i // 8 * high, wide - 6, high - 6)
        painter.setBrush(qcolor(look.colours[f"ansi_{i}"]))
        painter.drawRoundedRect(cell, 5, 5)


def _sources(painter: QPainter, subject: CardSubject, frame: QRectF) -> None:
    """Write what the look is made of, and with what."""
    look = subject.look
    names = [Path(m.path).name for m in look.pictures] or ([Path(look.source).name] if look.source else [])
    made = some(names, 4)
    painter.setFont(_font(19))
    painter.setPen(qcolor(look.colours["window_text"]))
    flags = int(Qt.AlignmentFlag.AlignLeft | Qt.AlignmentFlag.AlignBottom | Qt.TextFlag.TextWordWrap)
    painter.drawText(
        frame,
        flags,
        tr("From {words}\nMade with {widget}").format(
            words=made or (look.origin.title if look.origin else tr("a scheme")), widget=_WIDGET
        )
        + _tried(look),
    )


def _tried(look: Look) -> str:
    """Return a line about the real programs that this half of the look was tried with, empty where it was not."""
    tried = last_rehearsal(look)
    if tried is None:
        return ""
    good = [" ".join(filter(None, (row.program, row.version))) for row in tried.programs if row.state == "as_look"]
    words = plural(
        "{count} program tried on {date}: {good} as the look, {bad} with unreadable text.",
        "{count} programs tried on {date}: {good} as the look, {bad} with unreadable text.",
        len(tried.programs),
        date=day(tried.when),
        good=len(good),
        bad=tried.count("unreadable"),
    )
    return "\n".join(("", words, parted(good[:_MOST_TRIED])))


def _swatches(painter: QPainter, look: Look, frame: QRectF, across: int) -> None:
    """Draw the leading roles with their names and values, the words on the colours themselves."""
    down = -(-len(ROLES) // across)
    gap = 12.0
    wide = (frame.width() - gap * (across - 1)) / across
    high = (frame.height() - gap * (down - 1)) / down
    edge = QPen(qcolor(look.colours["divider"]), 1)
    for i, role in enumerate(ROLES):
        colour = look.colours[role]
        cell = QRectF(frame.x() + i % across * (wide + gap), frame.y() + i // across * (high + gap), wide, high)
        painter.setPen(edge)
        painter.setBrush(qcolor(colour))
        painter.drawRoundedRect(cell, 8, 8)
        painter.setPen(_ink(colour))
        painter.setFont(_font(21, True))
        inner = cell.adjusted(14, 10, -10, -10)
        title = painter.fontMetrics().elidedText(role_title(role), Qt.TextElideMode.ElideRight, int(inner.width()))
        painter.drawText(inner, int(Qt.AlignmentFlag.AlignTop), title)
        painter.setFont(_font(18))
        painter.drawText(inner, int(Qt.AlignmentFlag.AlignBottom), isolated(colour.hex))


def _ink(colour: Rgba) -> QColor:
    return qcolor(fit(Rgba(128, 128, 128), [(colour, 7.0)]) or fit(colour, [(colour, 4.5)]) or colour)


def sheet(subjects: Sequence[CardSubject], title: str = "") -> QImage:
    """Return one picture of several looks: their desktops with names and leading colours."""
    across = 2 if len(subjects) <= 4 else 3 if len(subjects) <= 9 else 4
    down = -(-len(subjects) // across)
    gap, head = 28.0, 84.0 if title else 28.0
    wide = (SHEET.width() - gap * (across + 1)) / across
    high = wide * HEIGHT / WIDTH + 64
    image = QImage(QSize(SHEET.width(), round(head + down * (high + gap))), QImage.Format.Format_RGB32)
    image.fill(QColor(28, 29, 30))
    with painting(image) as painter:
        painter.setRenderHints(QPainter.RenderHint.Antialiasing | QPainter.RenderHint.SmoothPixmapTransform)
        painter.setPen(QColor(240, 240, 240))
        if title:
            painter.setFont(_font(34, True))
            painter.drawText(QRectF(gap, 20, SHEET.width() - 2 * gap, 50), int(Qt.AlignmentFlag.AlignVCenter), title)
        for i, subject in enumerate(subjects):
            left, top = gap + i % across * (wide + gap), head + i // across * (high + gap)
            _desktop(painter, subject, QRectF(left, top, wide, high - 64))
            painter.setFont(_font(22, True))
            painter.setPen(QColor(240, 240, 240))
            line = QRectF(left, top + high - 56, wide * 0.6, 40)
            name = painter.fontMetrics().elidedText(subject.look.name, Qt.TextElideMode.ElideRight, int(line.width()))
            painter.drawText(line, int(Qt.AlignmentFlag.AlignVCenter), name)
            for n, role in enumerate(("window", "panel", "accent", "selection", "terminal")):
                painter.setPen(QPen(QColor(90, 90, 90), 1))
                painter.setBrush(qcolor(subject.look.colours[role]))
                painter.drawEllipse(QRectF(left + wide - (5 - n) * 36, top + high - 50, 28, 28))
    return image
