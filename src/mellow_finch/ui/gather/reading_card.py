"""Pictures and readings to choose from, as small images with a title."""

from __future__ import annotations

from PyQt6.QtCore import QRectF, QSize, Qt
from PyQt6.QtGui import QFont, QImage, QPainter, QPaintEvent, QPen, QPixmap
from PyQt6.QtWidgets import QAbstractButton, QSizePolicy, QWidget

from ...language import tone_word, tr, with_note
from ...look.ready import ReadyScheme
from ..kit.parts import placed
from ..kit.style import FAMILY, Style, qcolor


class ReadingCard(QAbstractButton):
    """A reading as a small desktop, its title under it."""

    def __init__(self, style: Style, title: str, note: str, image: QImage, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self._style, self._title, self._image = style, title, image
        self._scaled = QPixmap()  # the image at the size at which it was painted last
        self.setCheckable(True)
        self.setToolTip(note)
        self.setAccessibleName(tr("Suggestion: {title}. {note}").format(title=title, note=note))
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)

    def sizeHint(self) -> QSize:
        """Return a card's size."""
        return QSize(150, 122)

    def paintEvent(self, event: QPaintEvent | None) -> None:
        """Paint the card."""
        p = QPainter(self)
        p.setRenderHints(QPainter.RenderHint.Antialiasing | QPainter.RenderHint.SmoothPixmapTransform)
        s = self._style
        room = self.height() - (30 if self._title else 6)
        w = min(self.width() - 4.0, room * 1.6)
        box = QRectF((self.width() - w) / 2, 3, w, w / 1.6)
        ratio = self.devicePixelRatioF()
        size = (box.size() * ratio).toSize()
        if self._scaled.size() != size and not self._image.isNull():
            aspect, smooth = Qt.AspectRatioMode.IgnoreAspectRatio, Qt.TransformationMode.SmoothTransformation
            self._scaled = QPixmap.fromImage(self._image.scaled(size, aspect, smooth))
        p.drawPixmap(box, self._scaled, QRectF(self._scaled.rect()))
        strong = self.isChecked() or self.hasFocus()
        p.setPen(QPen(s.c("accent" if strong else "edge"), 3 if strong else 1))
        p.setBrush(Qt.BrushStyle.NoBrush)
        p.drawRoundedRect(box, 3, 3)
        if not self._title:
            return
        font = QFont(FAMILY)
        font.setPointSizeF(10)
        font.setBold(self.isChecked())
        p.setFont(font)
        p.setPen(s.c("text"))
        words = f"✓ {self._title}" if self.isChecked() else self._title
        short = p.fontMetrics().elidedText(words, Qt.TextElideMode.ElideRight, self.width())
        p.drawText(QRectF(0, box.bottom() + 2, self.width(), 22), Qt.AlignmentFlag.AlignCenter, short)


class SchemeCard(QAbstractButton):
    """A scheme as a strip of its colours, its title and what it is like."""

    def __init__(self, style: Style, scheme: ReadyScheme, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self._style, self._scheme = style, scheme
        self.setCheckable(True)
        self.setToolTip(with_note(scheme.note, tone_word(scheme.tone)))
        self.setAccessibleName(
            tr("Scheme: {title}. {note}, {tone}").format(
                title=scheme.title, note=scheme.note, tone=tone_word(scheme.tone)
            )
        )
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)

    def sizeHint(self) -> QSize:
        """Return a card's size."""
        return QSize(150, 62)

    def paintEvent(self, event: QPaintEvent | None) -> None:
        """Paint the card."""
        p = QPainter(self)
        p.setRenderHint(QPainter.RenderHint.Antialiasing)
        s = self._style
        box = QRectF(2, 3, self.width() - 4.0, 32)
        x = box.x()
        for swatch in self._scheme.swatches:
            w = box.width() * (0.34 if swatch.share >= 0.5 else 0.26 if swatch.share > 0.13 else 0.4 / 3)
            p.fillRect(QRectF(x, box.y(), min(w, box.right() - x) + 0.5, box.height()), qcolor(swatch.colour))
            x += w
        strong = self.isChecked() or self.hasFocus()
        p.setPen(QPen(s.c("accent" if strong else "edge"), 3 if strong else 1))
        p.setBrush(Qt.BrushStyle.NoBrush)
        p.drawRoundedRect(box, 3, 3)
        font = QFont(FAMILY)
        font.setPointSizeF(10)
        font.setBold(self.isChecked())
        p.setFont(font)
        p.setPen(s.c("text"))
        words = f"✓ {self._scheme.title}" if self.isChecked() else self._scheme.title
        align = Qt.AlignmentFlag.AlignLeft | Qt.AlignmentFlag.AlignVCenter
        p.drawText(placed(QRectF(4, box.bottom() + 2, self.width() - 50, 22), QRectF(self.rect())), align, words)
        font.setBold(False)
        p.setFont(font)
        p.setPen(s.c("quiet"))
        right = Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter
        p.drawText(
            placed(QRectF(self.width() - 50, box.bottom() + 2, 46, 22), QRectF(self.rect())),
            right,
            tone_word(self._scheme.tone),
        )
