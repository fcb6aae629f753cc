"""Gather, to match: which pictures go with the look, and the picture toned toward it."""

from __future__ import annotations

from collections.abc import Sequence
from pathlib import Path

from PyQt6.QtCore import QModelIndex, QRectF, QSize, Qt, pyqtSignal
from PyQt6.QtGui import QFont, QImage, QPainter, QPen
from PyQt6.QtWidgets import (
    QHBoxLayout,
    QListWidget,
    QListWidgetItem,
    QProgressBar,
    QPushButton,
    QStyledItemDelegate,
    QStyleOptionViewItem,
    QWidget,
)

from ...language import decimal, tr
from ...picture.rank import Ranked
from ..kit.parts import label, placed, plain_column, row_box
from ..kit.plain_slider import PlainSlider
from ..kit.style import FAMILY, Style

_THUMBNAIL = QSize(80, 50)
_RANKED, _IMAGE = Qt.ItemDataRole.UserRole, int(Qt.ItemDataRole.UserRole) + 1


class RankedDelegate(QStyledItemDelegate):
    """Draws a ranked picture: thumbnail, name, and its fit as a bar with the figure."""

    def __init__(self, style: Style, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self._style = style

    def sizeHint(self, option: QStyleOptionViewItem, index: QModelIndex) -> QSize:
        """Return a row's size."""
        return QSize(260, 60)

    def paint(self, painter: QPainter | None, option: QStyleOptionViewItem, index: QModelIndex) -> None:
        """Paint a row."""
        row: Ranked | None = index.data(_RANKED)
        if painter is None or row is None:
            return
        s = self._style
        painter.save()
        painter.setRenderHints(QPainter.RenderHint.Antialiasing | QPainter.RenderHint.SmoothPixmapTransform)
        box = row_box(painter, option, s)
        image = index.data(_IMAGE)
        at = QRectF(box.x() + 6, box.y() + 4, _THUMBNAIL.width(), _THUMBNAIL.height())
        frame = placed(at, box)
        if isinstance(image, QImage):
            painter.drawImage(frame, image)
        painter.setPen(QPen(s.c("edge"), 1))
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.drawRect(frame)
        left = at.right() + 10
        room = box.right() - left - 8
        font = QFont(FAMILY)
        font.setPointSizeF(10.5)
        painter.setFont(font)
        painter.setPen(s.c("text"))
        name = painter.fontMetrics().elidedText(row.path.name, Qt.TextElideMode.ElideMiddle, int(room))
        align = Qt.AlignmentFlag.AlignLeft | Qt.AlignmentFlag.AlignVCenter
        painter.drawText(placed(QRectF(left, box.y() + 6, room, 22), box), align, name)
        if row.seen is None:
            painter.setPen(s.c("bad"))
            words = painter.fontMetrics().elidedText(tr("unreadable"), Qt.TextElideMode.ElideRight, int(room))
            painter.drawText(placed(QRectF(left, box.y() + 30, room, 20), box), align, words)
        else:
            bar = QRectF(left, box.y() + 37, room - 34, 8)
            painter.setBrush(s.c("sunken"))
            painter.setPen(QPen(s.c("edge"), 1))
            painter.drawRoundedRect(placed(bar, box), 4, 4)
            painter.setPen(Qt.PenStyle.NoPen)
            painter.setBrush(s.c("accent"))
            filled = QRectF(bar.x(), bar.y(), max(8.0, bar.width() * row.fit / 100), 8)
            painter.drawRoundedRect(placed(filled, box), 4, 4)
            painter.setPen(s.c("text"))
            right = Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter
            figure = placed(QRectF(bar.right() + 2, box.y() + 30, 32, 22), box)
            painter.drawText(figure, right, decimal(row.fit, 0))
        painter.restore()


class MatchPage(QWidget):
    """Says what the person wants; the window does it."""

    folder_asked = pyqtSignal()
    stop_asked = pyqtSignal()
    picture_asked = pyqtSignal(str)
    strength_moved = pyqtSignal(float)
    save_asked = pyqtSignal()

    def __init__(self, style: Style, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        column = plain_column(self, 8)
        column.addWidget(label(tr("Which of my images match this look?"), "section"))
        self.folder_button = QPushButton(tr("Choose a folder…"))
        self.folder_button.setToolTip(tr("Sort the images of a folder and its subfolders by how well they match"))
        self.folder_button.clicked.connect(self.folder_asked)
        column.addWidget(self.folder_button)
        row = QHBoxLayout()
        self.progress = QProgressBar()
        self.progress.setAccessibleName(tr("Images compared"))
        self.progress.setFormat("%v of %m")
        self.stop = QPushButton(tr("Stop"))
        self.stop.setToolTip(tr("Stop; everything stays as it is"))
        self.stop.clicked.connect(self.stop_asked)
        row.addWidget(self.progress, 1)
        row.addWidget(self.stop)
        column.addLayout(row)
        self.list = QListWidget()
        self.list.setAccessibleName(tr("Images, best match first"))
        self.list.setItemDelegate(RankedDelegate(style, self.list))
        self.list.setVerticalScrollMode(QListWidget.ScrollMode.ScrollPerPixel)
        self.list.setUniformItemSizes(True)
        self.list.setMinimumHeight(250)
        self.list.itemActivated.connect(self._open)
        column.addWidget(self.list, 1)
        self.note = label(tr("Double-click or Enter makes an image the wallpaper."), "quiet")
        column.addWidget(self.note)
        column.addWidget(label(tr("This image, tinted toward the look"), "section"))
        self.strength = PlainSlider(
            style, tr("Vividness"), 0.0, 1.0, tr("How far the image's hues move toward the look's")
        )
        self.strength.moved.connect(self._strength_moved)
        self.strength.show_value(0.0)
        column.addWidget(self.strength)
        self.save_button = QPushButton(tr("Save as a new image…"))
        self.save_button.setToolTip(tr("The original is never overwritten"))
        self.save_button.clicked.connect(self.save_asked)
        column.addWidget(self.save_button)
        self.show_progress(0, 0)
        self.list.hide()
        self.note.hide()
        self.save_button.setEnabled(False)

    def _strength_moved(self, value: float) -> None:
        self.save_button.setEnabled(value > 0)
        self.strength_moved.emit(value)

    def show_progress(self, done: int, total: int) -> None:
        """Show how many pictures were looked at; nothing when none are to be."""
        self.progress.setVisible(total > 0)
        self.stop.setVisible(total > 0)
        self.progress.setRange(0, max(1, total))
        self.progress.setValue(done)
        if total and done == 0:
            self.list.clear()

    def _item(self, row: Ranked) -> QListWidgetItem:
        item = QListWidgetItem()
        item.setData(_RANKED, row)
        if row.seen is not None:
            image = QImage.fromData(row.seen.thumbnail, "JPEG").scaled(
                _THUMBNAIL * 2,
                Qt.AspectRatioMode.KeepAspectRatioByExpanding,
                Qt.TransformationMode.SmoothTransformation,
            )
            item.setData(_IMAGE, image.copy(0, 0, _THUMBNAIL.width() * 2, _THUMBNAIL.height() * 2))
        words = row.problem or tr("{name}: match {fit:.0f} of 100").format(name=row.path.name, fit=row.fit)
        item.setToolTip(words)
        item.setData(Qt.ItemDataRole.AccessibleTextRole, words)
        return item

    def add(self, row: Ranked) -> None:
        """Show a picture among those known so far, at its rank."""
        self.list.show()
        self.note.show()
        at = self.list.count()
        while at > 0:
            before: Ranked = self.list.item(at - 1).data(_RANKED)  # type: ignore[union-attr]
            if row.seen is None or (before.seen is not None and before.fit >= row.fit):
                break
            at -= 1
        self.list.insertItem(at, self._item(row))

    def show_ranked(self, rows: Sequence[Ranked]) -> None:
        """Show the whole ranking, best first."""
        shown = [self.list.item(i).data(_RANKED) for i in range(self.list.count())]  # type: ignore[union-attr]
        if shown != list(rows):
            self.list.clear()
            for row in rows:
                self.list.addItem(self._item(row))
        self.list.setVisible(bool(rows))
        self.note.setVisible(bool(rows))
        if rows:
            self.list.setCurrentRow(0)

    def _open(self, item: QListWidgetItem) -> None:
        row: Ranked = item.data(_RANKED)
        if row.seen is not None:
            self.picture_asked.emit(str(Path(row.path)))
