"""What the real toolkit painted with a theme: before and after behind a curtain, and the places that fail."""

from __future__ import annotations

from itertools import zip_longest

from PyQt6.QtCore import QPoint, QRect, QSize, Qt
from PyQt6.QtGui import QImage, QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QPen
from PyQt6.QtWidgets import (
    QDialog,
    QHBoxLayout,
    QListWidget,
    QListWidgetItem,
    QPushButton,
    QScrollArea,
    QVBoxLayout,
    QWidget,
)

from ...language import tr
from ...proof.toolkit.ask import Verdict
from ..kit.parts import label
from ..kit.style import Style

_STEP = 0.05
_MOST_ROWS = 200


class GalleryCurtain(QWidget):
    """Two pictures of the gallery, the one as it was on the left of a curtain that follows mouse and arrow keys."""

    def __init__(self, before: QImage, after: QImage, style: Style, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self._before, self._after, self._style = before, after, style
        self.at = 0.5
        self.setFixedSize(after.size().boundedTo(QSize(720, 8000)))
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setAccessibleName(tr("The gallery of widgets in split view: before on the left, after on the right"))
        self.setCursor(Qt.CursorShape.SplitHCursor)

    def draw_to(self, at: float) -> None:
        """Draw the curtain to a share of the width, 0..1 from the left."""
        self.at = min(1.0, max(0.0, at))
        self.update()

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        """Take the curtain in hand."""
        self.mouseMoveEvent(event)

    def mouseMoveEvent(self, event: QMouseEvent | None) -> None:
        """Let the curtain follow the hand."""
        if event is not None:
            self.draw_to(event.position().x() / max(1, self.width()))

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        """Move the curtain by the arrow keys."""
        step = {Qt.Key.Key_Left: -_STEP, Qt.Key.Key_Right: _STEP}.get(Qt.Key(event.key()), 0.0) if event else 0.0
        if step:
            self.draw_to(self.at + step)
        else:
            super().keyPressEvent(event)

    def paintEvent(self, event: QPaintEvent | None) -> None:
        """Draw both sides and the curtain."""
        painter = QPainter(self)
        edge = round(self.at * self.width())
        painter.drawImage(QPoint(0, 0), self._after)
        left = QRect(0, 0, edge, self.height())
        painter.fillRect(left, self._style.c("sunken"))
        painter.drawImage(QPoint(0, 0), self._before, left)
        painter.setPen(QPen(self._style.c("accent"), 2))
        painter.drawLine(edge, 0, edge, self.height())


def _one_below_the_other(before: tuple[bytes, ...], after: tuple[bytes, ...]) -> tuple[QImage, QImage]:
    """Return the galleries of the generations one below the other, those of both states at the same places."""
    pairs = [
        (QImage.fromData(a, "PNG"), QImage.fromData(b, "PNG")) for a, b in zip_longest(before, after, fillvalue=b"")
    ]
    high = [max(a.height(), b.height()) for a, b in pairs]
    wide = max((max(a.width(), b.width()) for a, b in pairs), default=0)
    out = []
    for side in (0, 1):
        image = QImage(wide, sum(high), QImage.Format.Format_ARGB32_Premultiplied)
        image.fill(Qt.GlobalColor.transparent)
        if not image.isNull():
            painter = QPainter(image)
            for i, pair in enumerate(pairs):
                painter.drawImage(QPoint(0, sum(high[:i])), pair[side])
            painter.end()
        out.append(image)
    return out[0], out[1]


class ToolkitDialog(QDialog):
    """Shows two verdicts side by side."""

    def __init__(self, name: str, before: Verdict, after: Verdict, style: Style, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.setWindowTitle(tr("{name} in the real toolkit").format(name=name))
        self.resize(1120, 720)
        row = QHBoxLayout(self)
        row.setContentsMargins(16, 14, 16, 14)
        row.setSpacing(14)
        area = QScrollArea()
        area.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        images = _one_below_the_other(before.pictures, after.pictures)
        self.curtain = GalleryCurtain(*images, style)
        area.setWidget(self.curtain)
        area.setVisible(not images[1].isNull())
        row.addWidget(area, 1)
        side = QVBoxLayout()
        side.setSpacing(8)
        side.addWidget(label(tr("Before"), "quiet"))
        side.addWidget(label(before.summary))
        side.addWidget(label(tr("After"), "quiet"))
        self.verdict = label(after.summary, "bad" if after.short else "good")
        side.addWidget(self.verdict)
        self.list = QListWidget()
        self.list.setAccessibleName(tr("Places as drawn, worst first"))
        self.list.setFixedWidth(330)
        self.list.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        for place in after.places[:_MOST_ROWS]:
            mark = "" if place.passes else "  " + tr("insufficient")
            words = tr("{ratio:.2f} of {need:g}  {words}{mark}").format(
                ratio=place.ratio, need=place.need.level, words=place.words, mark=mark
            )
            item = QListWidgetItem(words, self.list)
            item.setToolTip(words)
        side.addWidget(self.list, 1)
        done = QPushButton(tr("Done"))
        done.clicked.connect(self.accept)
        side.addWidget(done)
        row.addLayout(side)
